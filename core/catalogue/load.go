package catalogue

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// The shapes of the data files. See the head of each file for what its fields mean.
type dataFiles struct {
	scale struct {
		Version   string      `yaml:"version"`
		SetFactor scaleStep   `yaml:"set_factor"`
		Rates     []scaleStep `yaml:"rates"`
		Bands     []scaleStep `yaml:"bands"`
	}
	stations struct {
		Stations []stationRow `yaml:"stations"`
		Families []familyRow  `yaml:"families"`
	}
	families []familyRow // each of a file of its own
	faults   struct {
		Faults []faultRow `yaml:"faults"`
	}
	pairs struct {
		Pairs []pairRow `yaml:"pairs"`
	}
	history struct {
		History []historyRow `yaml:"history"`
	}
	findings struct {
		Groups   []groupRow   `yaml:"groups"`
		Grades   []Grade      `yaml:"grades"`
		Findings []findingRow `yaml:"findings"`
	}
	checks struct {
		Access []accessRow `yaml:"access"`
		Joints []Joint     `yaml:"joints"`
		Checks []checkRow  `yaml:"checks"`
	}
	cautions struct {
		Needs    []needRow    `yaml:"needs"`
		Cautions []cautionRow `yaml:"cautions"`
	}
	tasks struct {
		Tasks []Task `yaml:"tasks"`
	}
	methods struct {
		Methods []Method `yaml:"methods"`
	}
	maintenance struct {
		Upkeep []MaintenanceItem `yaml:"upkeep"`
		Trends []Trend           `yaml:"trends"`
		Left   []FollowUp        `yaml:"follow_ups"`
		Lists  []SeasonList      `yaml:"lists"`
	}
	jobs struct {
		Kinds    []JobKind `yaml:"kinds"`
		Troubles []Trouble `yaml:"troubles"`
		Waters   []Water   `yaml:"waters"`
	}
	readings struct {
		Points   []Point      `yaml:"points"`
		Modelled []string     `yaml:"modelled"`
		Findings []readingRow `yaml:"findings"`
	}
	synonyms struct {
		Synonyms [][]string `yaml:"synonyms"`
	}
}

type scaleStep struct {
	ID    string  `yaml:"id"`
	Value float64 `yaml:"value"`
	Why   string  `yaml:"why"`
}

type stationRow struct {
	ID     string   `yaml:"id"`
	Label  string   `yaml:"label"`
	What   string   `yaml:"what"`
	Closed []string `yaml:"closed"`
	Direct []string `yaml:"direct"`
}

type familyRow struct {
	ID          string   `yaml:"id"`
	Label       string   `yaml:"label"`
	What        string   `yaml:"what"`
	ThermostatC float64  `yaml:"thermostat_c"`
	Circuit     []string `yaml:"circuit"`
	Names       []string `yaml:"names"`
	// Of a family in a file of its own: like another one, but for the sides of the stations that it names. One without
	// sides is not on it.
	Like  string              `yaml:"like"`
	Sides map[string][]string `yaml:"sides"`
}

// family is the row without the sides, which are the stations'.
func (f familyRow) family() Family {
	return Family{f.ID, f.Label, f.What, f.ThermostatC, f.Circuit, f.Like, f.Names}
}

type faultRow struct {
	ID       string   `yaml:"id"`
	Label    string   `yaml:"label"`
	Stations []string `yaml:"stations"`
	Families []string `yaml:"families"`
	Rate     string   `yaml:"rate"`
	Drive    string   `yaml:"drive"`
	Why      string   `yaml:"why"`
	Remedy   string   `yaml:"remedy"`
	Sure     []struct {
		Check   string `yaml:"check"`
		Finding string `yaml:"finding"`
		Rivals  []struct {
			Fault  string `yaml:"fault"`
			ToldBy string `yaml:"told_by"`
		} `yaml:"rivals"`
	} `yaml:"sure"`
}

type pairRow struct {
	A      []string `yaml:"a"`
	B      []string `yaml:"b"`
	Factor float64  `yaml:"factor"`
	Why    string   `yaml:"why"`
}

type historyRow struct {
	ID          string `yaml:"id"`
	Label       string `yaml:"label"`
	Multipliers []struct {
		Faults []string `yaml:"faults"`
		Factor float64  `yaml:"factor"`
		Why    string   `yaml:"why"`
	} `yaml:"multipliers"`
}

type groupRow struct {
	ID       string   `yaml:"id"`
	Label    string   `yaml:"label"`
	Findings []string `yaml:"findings"`
}

type linkRow struct {
	Faults   []string `yaml:"faults"`
	Strength string   `yaml:"strength"` // a band of scale.yaml, or a number
	Why      string   `yaml:"why"`
}

type findingRow struct {
	ID      string    `yaml:"id"`
	Label   string    `yaml:"label"`
	Topic   string    `yaml:"topic"`
	Source  string    `yaml:"source"`
	Leak    float64   `yaml:"leak"`
	LeakWhy string    `yaml:"leak_why"`
	Causes  []linkRow `yaml:"causes"`
	Blocks  []linkRow `yaml:"blocks"`
}

// readingRow is the strengths of a computed finding's causes, by operating point and fault.
type readingRow struct {
	ID string                        `yaml:"id"`
	At map[string]map[string]float64 `yaml:"at"`
}

type accessRow struct {
	ID       string   `yaml:"id"`
	Label    string   `yaml:"label"`
	Minutes  float64  `yaml:"minutes"`
	Runs     bool     `yaml:"runs"`
	Needs    []string `yaml:"needs"`
	Cautions []string `yaml:"cautions"`
	Why      string   `yaml:"why"`
}

type checkRow struct {
	ID       string    `yaml:"id"`
	Label    string    `yaml:"label"`
	Stations []string  `yaml:"stations"`
	Families []string  `yaml:"families"`
	Minutes  float64   `yaml:"minutes"`
	Access   string    `yaml:"access"`
	Opens    string    `yaml:"opens"`
	Engine   string    `yaml:"engine"`
	Brief    float64   `yaml:"run_seconds"`
	Removed  bool      `yaml:"of_removed_part"`
	Asks     bool      `yaml:"asks"`
	Point    string    `yaml:"point"`
	TestKPa  []float64 `yaml:"test_kpa"`
	Needs    []string  `yaml:"needs"`
	Cautions []string  `yaml:"cautions"`
	Settles  []string  `yaml:"settles"`
	Reads    []string  `yaml:"reads"`
	How      []string  `yaml:"how"`
}

type needRow struct {
	ID    string `yaml:"id"`
	Label string `yaml:"label"`
}

type cautionRow struct {
	ID    string `yaml:"id"`
	Label string `yaml:"label"`
	Text  string `yaml:"text"`
	Act   bool   `yaml:"act"`
}

// expand turns the files' short forms (letters, bands, lists that share a reason) into the catalogue's long form.
func (d *dataFiles) expand() (*Catalogue, error) {
	c := &Catalogue{Version: d.scale.Version, SetFactor: d.scale.SetFactor.Value}
	for _, s := range d.stations.Stations {
		c.Stations = append(c.Stations, Station{ID: s.ID, Label: s.Label, What: s.What,
			Sides: map[string][]string{Closed: s.Closed, Direct: s.Direct}})
	}
	for _, f := range d.stations.Families {
		c.Families = append(c.Families, f.family())
	}
	for _, g := range d.findings.Groups {
		c.Groups = append(c.Groups, Group(g))
	}
	for _, n := range d.cautions.Needs {
		c.Needs = append(c.Needs, Need(n))
	}
	for _, k := range d.cautions.Cautions {
		c.Cautions = append(c.Cautions, Caution(k))
	}
	c.Tasks, c.Methods = d.tasks.Tasks, d.methods.Methods
	c.Joints, c.Grades = d.checks.Joints, d.findings.Grades
	c.Maintenance, c.Trends, c.Seasons = d.maintenance.Upkeep, d.maintenance.Trends, d.maintenance.Lists
	c.FollowUps = d.maintenance.Left
	c.JobKinds, c.Troubles, c.Waters = d.jobs.Kinds, d.jobs.Troubles, d.jobs.Waters
	c.Synonyms = d.synonyms.Synonyms
	for _, a := range d.checks.Access {
		c.Access = append(c.Access, Access(a))
	}
	confirms := map[string][]string{}
	if err := d.expandFaults(c, confirms); err != nil {
		return nil, err
	}
	for _, k := range d.checks.Checks {
		c.Checks = append(c.Checks, Check{ID: k.ID, Label: k.Label, Stations: k.Stations, Families: k.Families,
			Minutes: k.Minutes, Access: k.Access, Opens: k.Opens, Engine: k.Engine, Brief: k.Brief, Removed: k.Removed,
			Asks: k.Asks, Point: k.Point, TestKPa: k.TestKPa, Needs: k.Needs, Cautions: k.Cautions, Settles: k.Settles,
			Reads: k.Reads, Confirms: confirms[k.ID], How: k.How})
	}
	d.expandPairs(c)
	d.expandHistory(c)
	for _, f := range d.families {
		if err := f.expand(c); err != nil {
			return nil, err
		}
	}
	if err := d.expandFindings(c); err != nil {
		return nil, err
	}
	return c, d.expandReadings(c)
}

// expand puts a family of its own file into a catalogue that has the one it is like.
func (f familyRow) expand(c *Catalogue) error {
	for id := range f.Sides {
		if !slices.ContainsFunc(c.Stations, func(s Station) bool { return s.ID == id }) {
			return fmt.Errorf("families: family %s: sides: station %q is not one of the catalogue", f.ID, id)
		}
	}
	c.Families = append(c.Families, f.family())
	for _, s := range c.Stations {
		s.Sides[f.ID] = s.Sides[f.Like]
		if own, told := f.Sides[s.ID]; told {
			s.Sides[f.ID] = own
		}
	}
	join := func(families *[]string) {
		if slices.Contains(*families, f.Like) {
			*families = append(slices.Clone(*families), f.ID)
		}
	}
	for i := range c.Faults {
		join(&c.Faults[i].Families)
	}
	for i := range c.Checks {
		join(&c.Checks[i].Families)
	}
	for i := range c.Tasks {
		join(&c.Tasks[i].Families)
	}
	for i := range c.Maintenance {
		join(&c.Maintenance[i].Families)
	}
	for i := range c.Seasons {
		for k := range c.Seasons[i].Steps {
			join(&c.Seasons[i].Steps[k].Families)
		}
	}
	return nil
}

func (d *dataFiles) expandFaults(c *Catalogue, confirms map[string][]string) error {
	rates := scaleMap(d.scale.Rates)
	for _, f := range d.faults.Faults {
		prior, ok := rates[f.Rate]
		if !ok {
			return fmt.Errorf("faults.yaml: fault %s: rate %q is not one of %s", f.ID, f.Rate, ids(d.scale.Rates))
		}
		fault := Fault{ID: f.ID, Label: f.Label, Stations: f.Stations, Families: f.Families, Prior: prior, Drive: f.Drive,
			Why: f.Why, Remedy: f.Remedy}
		for _, s := range f.Sure {
			look := SureLook{Check: s.Check, Finding: s.Finding}
			for _, r := range s.Rivals {
				look.Rivals = append(look.Rivals, Rival{Fault: r.Fault, SettledBy: r.ToldBy})
			}
			fault.Sure = append(fault.Sure, look)
			confirms[s.Check] = append(confirms[s.Check], f.ID)
		}
		c.Faults = append(c.Faults, fault)
	}
	return nil
}

func (d *dataFiles) expandPairs(c *Catalogue) {
	for _, p := range d.pairs.Pairs {
		for _, a := range p.A {
			for _, b := range p.B {
				c.Pairs = append(c.Pairs, Pair{A: a, B: b, Factor: p.Factor, Why: p.Why})
			}
		}
	}
}

func (d *dataFiles) expandHistory(c *Catalogue) {
	for _, h := range d.history.History {
		item := HistoryItem{ID: h.ID, Label: h.Label}
		for _, m := range h.Multipliers {
			for _, f := range m.Faults {
				item.Multipliers = append(item.Multipliers, Multiplier{Fault: f, Factor: m.Factor, Why: m.Why})
			}
		}
		c.History = append(c.History, item)
	}
}

func (d *dataFiles) expandFindings(c *Catalogue) error {
	bands := scaleMap(d.scale.Bands)
	links := func(finding string, rows []linkRow) ([]Link, error) {
		var out []Link
		for _, r := range rows {
			strength, ok := bands[r.Strength]
			if !ok {
				var err error
				if strength, err = strconv.ParseFloat(r.Strength, 64); err != nil {
					return nil, fmt.Errorf("findings.yaml: finding %s: strength %q is neither a number nor one of %s",
						finding, r.Strength, ids(d.scale.Bands))
				}
			}
			for _, f := range r.Faults {
				out = append(out, Link{Fault: f, Strength: strength, Why: r.Why})
			}
		}
		return out, nil
	}
	for _, f := range d.findings.Findings {
		causes, err := links(f.ID, f.Causes)
		if err != nil {
			return err
		}
		blocks, err := links(f.ID, f.Blocks)
		if err != nil {
			return err
		}
		c.Findings = append(c.Findings, Finding{ID: f.ID, Label: f.Label, Topic: f.Topic, Source: f.Source,
			Leak: f.Leak, LeakWhy: f.LeakWhy, Causes: causes, Blocks: blocks})
	}
	return nil
}

// expandReadings gives the computed findings their causes by operating point. A fault that the engine model does not
// have keeps the strength that the finding has at any point.
func (d *dataFiles) expandReadings(c *Catalogue) error {
	c.Points = d.readings.Points
	for _, r := range d.readings.Findings {
		n := slices.IndexFunc(c.Findings, func(f Finding) bool { return f.ID == r.ID })
		if n < 0 {
			return fmt.Errorf("readings.yaml: finding %q is not one of the catalogue", r.ID)
		}
		f := &c.Findings[n]
		f.At = map[string][]Link{}
		for _, p := range c.Points {
			strengths := r.At[p.ID]
			for _, fault := range slices.Sorted(maps.Keys(strengths)) {
				f.At[p.ID] = append(f.At[p.ID], Link{Fault: fault, Strength: strengths[fault], Why: "the engine model, " + p.Label})
			}
			for _, l := range f.Causes {
				if !slices.Contains(d.readings.Modelled, l.Fault) {
					f.At[p.ID] = append(f.At[p.ID], l)
				}
			}
		}
	}
	return nil
}

func scaleMap(steps []scaleStep) map[string]float64 {
	m := make(map[string]float64, len(steps))
	for _, s := range steps {
		m[s.ID] = s.Value
	}
	return m
}

func ids(steps []scaleStep) string {
	var out []string
	for _, s := range steps {
		out = append(out, s.ID)
	}
	return strings.Join(out, ", ")
}
