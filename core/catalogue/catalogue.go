// Package catalogue holds the knowledge of the trade as data: stations, faults, findings, checks, access, history and
// pairs, each number with its reason. The data files lie in data/; Load reads and expands them, and Prove shows that
// they hold together. Nothing here reasons: see core/diagnose.
//
// Numbers are common practice unless the reason beside one names a source. Probabilities and strengths run from 0 to
// 1, odds multipliers and pair factors are positive, minutes are those of a practised hand on an accessible engine.
package catalogue

import (
	"encoding/json"
	"slices"
)

// Family ids: how the block is cooled.
const (
	Closed = "closed" // raw water through an exchanger, coolant in the block
	Direct = "direct" // raw water through the block itself
)

// AllStations stands in Check.Stations for a check made all over the engine, and in Check.Reads for every place of a
// round.
const AllStations = "all"

// Flow stands in Check.Reads for the raw water by bucket and watch, L/min.
const Flow = "flow"

// Engine states that a check needs.
const (
	Running = "running"
	Stopped = "stopped" // stopped and, where a need says so, cold
	Any     = "any"
)

// Sources of a finding.
const (
	Complaint = "complaint" // said or seen before anything is opened
	FromCheck = "check"     // settled by a check
	Reading   = "reading"   // computed from readings, or read off an instrument in a check
)

// Catalogue is everything that the trade knows, in the order of the data files.
type Catalogue struct {
	Version string
	// SetFactor multiplies a set's prior weight once for every fault beyond the first.
	SetFactor   float64
	Stations    []Station
	Families    []Family
	Faults      []Fault
	Pairs       []Pair
	History     []HistoryItem
	Findings    []Finding
	Points      []Point // each shows more than those before it
	Groups      []Group
	Grades      []Grade
	Checks      []Check
	Access      []Access
	Joints      []Joint
	Needs       []Need
	Cautions    []Caution
	Tasks       []Task
	Methods     []Method
	Maintenance []MaintenanceItem
	Trends      []Trend
	FollowUps   []FollowUp
	Seasons     []SeasonList
	JobKinds    []JobKind
	Troubles    []Trouble
	Waters      []Water
	// Synonyms are names for the same thing, the one that is used here first.
	Synonyms [][]string

	index index
}

// Station is a place on the water's way.
type Station struct {
	ID, Label, What string
	// Sides tells, by family, which water runs there: raw, coolant, instrument or load. None: not in that family.
	Sides map[string][]string
}

// Family is a way of cooling, with the circuit that a new engine starts from. Closed and Direct are always there;
// another one is like one of them.
type Family struct {
	ID, Label, What string
	ThermostatC     float64 // usual rating in °C, common practice
	Circuit         []string
	Like            string   // whose faults, checks, tasks and maintenance it has too; empty: Closed and Direct themselves
	Names           []string // what else it is called in lists that are taken in
}

// Fault is a cause that a job can end with.
type Fault struct {
	ID, Label string
	Stations  []string // kept while any of them is on the circuit
	Families  []string
	Prior     float64 // share of jobs that have it
	Drive     string  // of Drives: an engine whose raw-water pump is driven otherwise cannot have it; empty: any can
	Why       string  // why that common
	Remedy    string
	Sure      []SureLook
}

// Drives are the ways in which a raw-water pump is driven (common practice).
var Drives = []string{"belt", "gear", "crank", "cam"}

// SureLook is a check's finding that shows the fault for what it is.
type SureLook struct {
	Check, Finding string
	// Rivals are faults that the same finding cannot tell from this one.
	Rivals []Rival
}

// Rival is a fault that a sure look cannot tell apart, and the check that can.
type Rival struct{ Fault, SettledBy string }

// Pair says that one fault brings another: every set that holds A and B has its prior weight multiplied by Factor.
type Pair struct {
	A, B   string
	Factor float64
	Why    string
}

// HistoryItem is something known of the engine before anybody looks.
type HistoryItem struct {
	ID, Label   string
	Multipliers []Multiplier
}

// Multiplier multiplies the odds of one fault.
type Multiplier struct {
	Fault  string
	Factor float64
	Why    string
}

// Finding is a yes/no fact: present, absent or unknown.
type Finding struct {
	ID, Label string
	Topic     string // where a complaint is asked: heat, water, panel, fluids, pump, under-way
	Source    string // complaint, check or reading
	Leak      float64
	LeakWhy   string
	Causes    []Link
	Blocks    []Link
	// At are the causes as readings at an operating point show them, by its id: of what the model tells otherwise at each.
	At map[string][]Link
}

// Point is an operating point that readings are taken at; each shows more than those before it.
type Point struct {
	ID, Label string
	Speed     float64 // as a share of rated
}

// Link is the strength with which one fault alone makes a finding show, or keeps it from showing.
type Link struct {
	Fault    string
	Strength float64
	Why      string
}

// Group is a question of which only one option can be present; only the present one is evidence.
type Group struct {
	ID, Label string
	Findings  []string
}

// Grade is a look at something that wears: light, heavy, or none of it. Only a heavy one is a sure look; the light
// one is as common in service as its leak says, and is put right while it is open. They exclude each other: light
// seen, the heavy ones are absent; a heavy one seen, the light one is unknown.
type Grade struct {
	ID    string   `json:"id" yaml:"id"`
	Label string   `json:"label" yaml:"label"`
	Light string   `json:"light" yaml:"light"`
	Heavy []string `json:"heavy" yaml:"heavy"`
	Do    string   `json:"do" yaml:"do"`               // what puts the light one right
	Item  string   `json:"item,omitempty" yaml:"item"` // the maintenance that does; empty: none
}

// Check is something to do that settles findings.
type Check struct {
	ID, Label string
	Stations  []string // where it belongs; of several, the first that the circuit has; or AllStations
	Families  []string // empty: both
	Minutes   float64  // without the access
	Access    string   // empty: nothing to open
	Opens     string   // the joint that it opens by itself; empty: none
	Engine    string   // running, stopped or any
	Brief     float64  // how many seconds with the engine running are enough, at idle; 0: as long as its minutes
	Removed   bool     // it looks at a part that comes out, which tells as long as it is kept
	Point     string   // the operating point that its readings are taken at; empty: any
	Asks      bool     // it asks what was not asked with the complaint
	// TestKPa is the usual test pressure over the outside, from and to, in kPa, where the maker names none (memory).
	// Empty: it puts nothing under pressure, or only the maker knows.
	TestKPa  []float64
	Needs    []string
	Cautions []string
	Settles  []string
	Reads    []string // the stations whose readings tell it, Flow or AllStations; empty: no figure does
	Confirms []string // the faults that name it as a sure look
	How      []string
}

// Access is what must be open before a check; once open, it serves every check behind it.
type Access struct {
	ID, Label string
	Minutes   float64
	Runs      bool // the engine may run with it open
	Needs     []string
	Cautions  []string
	Why       string
}

// Joint is what a check opens by itself, as a strainer's lid: its minutes are among those of the check.
type Joint struct {
	ID    string `yaml:"id"`
	Label string `yaml:"label"`
}

// Opening is an access or a joint: what it is called when it is open, and whether it must be closed up before a run.
type Opening struct {
	ID, Label string
	Bars      bool
	Minutes   float64
}

// Need is a state that must be made before an access or a check.
type Need struct{ ID, Label string }

// Caution says what can happen at a step, and what to do. Act: it calls for something to be done, which is ticked.
type Caution struct {
	ID, Label, Text string
	Act             bool
}

type index struct {
	stations, families, faults, findings, checks, access, history, needs, cautions, groups map[string]int
	groupOf                                                                                map[string]string
	lightOf, heavyOf                                                                       map[string]int // grades
}

// Parse reads a catalogue from JSON, as encoding/json writes one. It does not prove it: that was done when it was
// written.
func Parse(raw []byte) (*Catalogue, error) {
	var c Catalogue
	if err := json.Unmarshal(raw, &c); err != nil {
		return nil, err
	}
	c.buildIndex()
	return &c, nil
}

func (c *Catalogue) buildIndex() {
	c.index = index{
		stations: positions(c.Stations, func(s Station) string { return s.ID }),
		families: positions(c.Families, func(f Family) string { return f.ID }),
		faults:   positions(c.Faults, func(f Fault) string { return f.ID }),
		findings: positions(c.Findings, func(f Finding) string { return f.ID }),
		checks:   positions(c.Checks, func(k Check) string { return k.ID }),
		access:   positions(c.Access, func(a Access) string { return a.ID }),
		history:  positions(c.History, func(h HistoryItem) string { return h.ID }),
		needs:    positions(c.Needs, func(n Need) string { return n.ID }),
		cautions: positions(c.Cautions, func(k Caution) string { return k.ID }),
		groups:   positions(c.Groups, func(g Group) string { return g.ID }),
		groupOf:  map[string]string{},
	}
	for _, g := range c.Groups {
		for _, f := range g.Findings {
			c.index.groupOf[f] = g.ID
		}
	}
	c.index.lightOf, c.index.heavyOf = map[string]int{}, map[string]int{}
	for i, g := range c.Grades {
		c.index.lightOf[g.Light] = i
		for _, f := range g.Heavy {
			c.index.heavyOf[f] = i
		}
	}
}

func positions[T any](list []T, id func(T) string) map[string]int {
	m := make(map[string]int, len(list))
	for i, x := range list {
		m[id(x)] = i
	}
	return m
}

func at[T any](list []T, m map[string]int, id string) (T, bool) {
	i, ok := m[id]
	if !ok {
		var none T
		return none, false
	}
	return list[i], true
}

// Station finds a station by its id.
func (c *Catalogue) Station(id string) (Station, bool) { return at(c.Stations, c.index.stations, id) }

// Family finds a family by its id.
func (c *Catalogue) Family(id string) (Family, bool) { return at(c.Families, c.index.families, id) }

// FamilyIDs lists the families.
func (c *Catalogue) FamilyIDs() (list []string) {
	for _, f := range c.Families {
		list = append(list, f.ID)
	}
	return list
}

// Fault finds a fault by its id.
func (c *Catalogue) Fault(id string) (Fault, bool) { return at(c.Faults, c.index.faults, id) }

// Finding finds a finding by its id.
func (c *Catalogue) Finding(id string) (Finding, bool) { return at(c.Findings, c.index.findings, id) }

// PointsOf lists the operating points, the easiest first, at which a finding is told otherwise; none where it tells the
// same at each.
func (c *Catalogue) PointsOf(finding string) (list []string) {
	f, _ := c.Finding(finding)
	for _, p := range c.Points {
		if _, told := f.At[p.ID]; told {
			list = append(list, p.ID)
		}
	}
	return list
}

// PointOf is the operating point that a check's answer to a finding is of; empty where it tells the same at each.
func (c *Catalogue) PointOf(check, finding string) string {
	k, _ := c.Check(check)
	if slices.Contains(c.PointsOf(finding), k.Point) {
		return k.Point
	}
	return ""
}

// Check finds a check by its id.
func (c *Catalogue) Check(id string) (Check, bool) { return at(c.Checks, c.index.checks, id) }

// AccessTo finds an access by its id.
func (c *Catalogue) AccessTo(id string) (Access, bool) { return at(c.Access, c.index.access, id) }

// Opening finds an access or a joint by its id.
func (c *Catalogue) Opening(id string) (Opening, bool) {
	if a, ok := c.AccessTo(id); ok {
		return Opening{a.ID, a.Label, !a.Runs, a.Minutes}, true
	}
	for _, j := range c.Joints {
		if j.ID == id {
			return Opening{j.ID, j.Label, true, 0}, true
		}
	}
	return Opening{}, false
}

// HistoryItem finds a history item by its id.
func (c *Catalogue) HistoryItem(id string) (HistoryItem, bool) {
	return at(c.History, c.index.history, id)
}

// GroupOf gives the group that a finding belongs to, if any.
func (c *Catalogue) GroupOf(finding string) (string, bool) {
	g, ok := c.index.groupOf[finding]
	return g, ok
}

// Caution finds a caution by its id.
func (c *Catalogue) Caution(id string) (Caution, bool) {
	return at(c.Cautions, c.index.cautions, id)
}

// Group finds a group by its id.
func (c *Catalogue) Group(id string) (Group, bool) { return at(c.Groups, c.index.groups, id) }

// LightGrade finds the grade of which a finding is the light one.
func (c *Catalogue) LightGrade(finding string) (Grade, bool) {
	return at(c.Grades, c.index.lightOf, finding)
}

// HeavyGrade finds the grade of which a finding is a heavy one.
func (c *Catalogue) HeavyGrade(finding string) (Grade, bool) {
	return at(c.Grades, c.index.heavyOf, finding)
}

// IsSureLook says whether a finding is a sure look of any fault.
func (c *Catalogue) IsSureLook(finding string) bool {
	return slices.ContainsFunc(c.Faults, func(f Fault) bool {
		return slices.ContainsFunc(f.Sure, func(s SureLook) bool { return s.Finding == finding })
	})
}
