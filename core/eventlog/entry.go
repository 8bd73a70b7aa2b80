// Package eventlog keeps what happened as entries that are never changed: a craft, an engine or a job is what its
// standing entries make of it. Taking something back is an entry too, and can itself be taken back.
package eventlog

import (
	"fmt"
	"slices"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/inventory"
	"hevrin/core/people"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// SubjectKind says what a log is about.
type SubjectKind string

// The kinds of subject.
const (
	OfCraft  SubjectKind = "craft"
	OfEngine SubjectKind = "engine"
	OfJob    SubjectKind = "job"
	OfYard   SubjectKind = "yard"
)

// YardID is the one yard's id. InventoryID is that of its inventory, ListsID of the lists that were brought in,
// PeopleID of its people, AuditID of the audit log and SealsID of the hashes of photos and recordings, whose logs are
// the yard's too.
const (
	YardID      = "yard"
	InventoryID = "shelf"
	ListsID     = "lists"
	PeopleID    = "people"
	AuditID     = "audit"
	SealsID     = "seals"
)

// Subject is what a log is about.
type Subject struct {
	Kind SubjectKind
	ID   string
}

// Kind says what an entry notes.
type Kind string

// The kinds of entry. Kept is for craft and engines, Standard for engines, Opened to Reopened for jobs, Undo for every
// log.
const (
	Saved            Kind = "kept"
	Opened           Kind = "opened"
	Found            Kind = "finding"
	HistoryStated    Kind = "history"
	Checked          Kind = "check"
	Access           Kind = "access"
	Strategy         Kind = "strategy"
	Noted            Kind = "note"
	Calculated       Kind = "sum"
	RoundTaken       Kind = "round"
	Closed           Kind = "closed"
	Reopened         Kind = "reopened"
	Undo             Kind = "undo"
	BaselineSet      Kind = "baseline" // of an engine
	TeardownNoted    Kind = "strip"
	Pictured         Kind = "photo"
	WetworkNoted     Kind = "wet"
	Proved           Kind = "proving"
	Recorded         Kind = "recording"
	FeedSaved        Kind = "feed"    // of an engine
	Metered          Kind = "hours"   // of an engine
	MaintenanceNoted Kind = "upkeep"  // of an engine
	TaskSaved        Kind = "task"    // of the yard
	Chosen           Kind = "method"  // of the yard
	Stocked          Kind = "product" // of the yard
	FiguresSet       Kind = "figures" // of the yard
	InventoryNoted   Kind = "shelf"   // of the inventory
	ListTaken        Kind = "list"    // of the yard's lists
	PersonSaved      Kind = "person"  // of the yard's people
	Audited          Kind = "audit"   // of the audit log
)

// Sealed is the kind of the store's own entries, which bind photos and recordings to the record's hashes; nothing is
// folded from them.
const Sealed Kind = "sealed"

// Kinds lists the kinds of entry that people note.
var Kinds = []Kind{Saved, Opened, Found, HistoryStated, Checked, Access, Strategy, Noted, Calculated, RoundTaken,
	Closed, Reopened, Undo, BaselineSet, TeardownNoted, Pictured, WetworkNoted, Proved, Recorded, FeedSaved, Metered,
	MaintenanceNoted, TaskSaved, Chosen, Stocked, FiguresSet, InventoryNoted, ListTaken, PersonSaved,
	Audited}

// Entry is one thing noted, by whom and when.
type Entry struct {
	ID       string
	Subject  Subject
	Kind     Kind
	By       string
	At       time.Time  // when it was saved, UTC
	TappedAt *time.Time // when it was tapped, by the device's clock, where it said so
	Body     Body
}

// Body is what an entry says; which fields count depends on its kind.
type Body struct {
	Undoes      string            `json:"undoes,omitempty"`
	Craft       *CraftFacts       `json:"craft,omitempty"`
	Engine      *EngineFacts      `json:"engine,omitempty"`
	EngineID    string            `json:"engine_id,omitempty"`
	Opening     *Opening          `json:"opening,omitempty"`
	Stated      []Stated          `json:"stated,omitempty"`
	Check       string            `json:"check,omitempty"`
	Outcome     string            `json:"outcome,omitempty"`
	Minutes     *float64          `json:"minutes,omitempty"`
	Access      string            `json:"access,omitempty"`
	Open        *bool             `json:"open,omitempty"`
	Strategy    string            `json:"strategy,omitempty"`
	Faults      []string          `json:"faults,omitempty"`
	Explains    *bool             `json:"explains_everything,omitempty"`
	Calculation *Calculation      `json:"sum,omitempty"`
	Round       *Round            `json:"round,omitempty"`
	Baseline    *Baseline         `json:"baseline,omitempty"`
	Teardown    *teardown.Act     `json:"strip,omitempty"`
	Photo       *Photo            `json:"photo,omitempty"`
	Wetwork     *wetwork.Act      `json:"wet,omitempty"`
	Proving     *proving.Act      `json:"proving,omitempty"`
	Recording   *Recording        `json:"recording,omitempty"`
	Feed        *Feed             `json:"feed,omitempty"`
	Meter       *Meter            `json:"meter,omitempty"`
	Maintenance *MaintenanceAct   `json:"upkeep,omitempty"`
	Inventory   *inventory.Act    `json:"shelf,omitempty"`
	Product     *ProductOf        `json:"product,omitempty"`
	Task        *TaskOf           `json:"task,omitempty"`
	Method      *Method           `json:"method,omitempty"`
	Figures     *Figures          `json:"figures,omitempty"`
	List        *List             `json:"list,omitempty"`
	Person      *people.Person    `json:"person,omitempty"`
	Audit       *people.AuditLine `json:"audit,omitempty"`
	Despite     string            `json:"despite,omitempty"`
	OneOf       *bool             `json:"one_of_these,omitempty"` // of a closing: it was one of its faults
	WatchHours  *float64          `json:"watch_hours,omitempty"`  // of a closing: it comes and goes, so long on watch
	Words       string            `json:"words,omitempty"`
}

// List is a list of the yard's own that was brought in: the name of its file, what it held, and how many entries it
// added, of which so many are new craft, engines, parts, past jobs, and lines of maintenance that was done.
type List struct {
	Name        string `json:"name"`
	Kind        string `json:"kind"`
	Entries     int    `json:"entries"`
	Craft       int    `json:"craft,omitempty"`
	Engines     int    `json:"engines,omitempty"`
	Parts       int    `json:"parts,omitempty"`
	Jobs        int    `json:"jobs,omitempty"`
	Maintenance int    `json:"maintenance,omitempty"`
}

// Opening is what a job was opened for.
type Opening struct {
	Kind string `json:"kind,omitempty"` // of the catalogue; empty: runs hot
	// Plan is the maintenance that it is to do, of a kind that begins with a plan.
	Plan []string `json:"plan,omitempty"`
	Leak *Leak    `json:"leak,omitempty"`
}

// Leak is what leaks: which water, where, and how much of it, litres a day; 0: nobody measured it.
type Leak struct {
	Water  string  `json:"water,omitempty"`
	Where  string  `json:"where,omitempty"`
	PerDay float64 `json:"litres_day,omitempty"`
}

// Calculation is a sum that was worked out, as it was given, with its main figures as they came out then.
type Calculation struct {
	Name    string         `json:"name"`
	Asks    string         `json:"asks"`
	Given   map[string]any `json:"given"`
	Units   string         `json:"units"` // whose gallon an unnamed one was
	Figures []Figure       `json:"figures"`
}

// Round is what was read at one steady operation, in °C and L/min.
type Round struct {
	RPM      float64 `json:"rpm"`
	Load     float64 `json:"load"`
	SeaC     float64 `json:"sea_c"`
	Salinity float64 `json:"salinity_g_kg"`
	SpaceC   float64 `json:"space_c"`
	Readings []Read  `json:"readings"`
	// OutOfGear: it drives nothing but itself.
	OutOfGear bool `json:"out_of_gear,omitempty"`
	// RanMin is how long it had run so since it was cold, in minutes; 0: nobody said.
	RanMin float64 `json:"ran_min,omitempty"`
}

// Photo is a picture that was kept. The picture itself lies beside the record; Hash, of what was given, tells it from
// others.
type Photo struct {
	Item   string `json:"item,omitempty"`
	Hash   string `json:"hash"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
	Data   []byte `json:"-"` // as it was given; only on its way in
	JPEG   []byte `json:"-"` // as it is kept
}

// What an entry does with a recording.
const (
	RecordingBegun = "begin"
	RecordingEnded = "end"
	RecordingWhole = "whole" // a file that was taken in
)

// Sources of a recording.
const (
	FromFeed = "feed"
	FromFile = "file"
)

// Recording is what was read over time: by a feed, or from a logger's file. What was read lies beside the record.
type Recording struct {
	ID      string          `json:"id"`
	Do      string          `json:"do"`
	Source  string          `json:"source,omitempty"`
	Name    string          `json:"name,omitempty"` // of the file, or the feed's address
	Places  []proving.Place `json:"places,omitempty"`
	Rows    int             `json:"rows,omitempty"`
	Seconds float64         `json:"seconds,omitempty"`
	Hours   float64         `json:"hours,omitempty"` // on the meter, at the end
	Hash    string          `json:"hash,omitempty"`  // of the file
	Left    []LeftOut       `json:"left_out,omitempty"`
	Tracks  []proving.Track `json:"-"` // only on its way in
}

// LeftOut is what was left out of a file, and why; Line is the first.
type LeftOut struct {
	Why   string `json:"why"`
	Count int    `json:"count"`
	Line  int    `json:"line"`
}

// Feed is the gateway that tells an engine's readings, and what each of its channels is mounted on.
type Feed struct {
	Address  string        `json:"address"`
	Channels []FeedChannel `json:"channels"`
}

// FeedChannel is one channel of a gateway. Offset is added to what it tells; Error is one standard deviation; both in
// the place's unit.
type FeedChannel struct {
	Channel string `json:"channel"`
	proving.Place
	Offset float64 `json:"offset,omitempty"`
	Error  float64 `json:"error,omitempty"`
}

// TaskOf is a task of the yard's own; Gone takes it off the list, or gives the catalogue's back.
type TaskOf struct {
	Task catalogue.Task `json:"task"`
	Gone bool           `json:"gone,omitempty"`
}

// ProductOf is a descaler that the yard has; Gone takes it off the list.
type ProductOf struct {
	Product wetwork.Product `json:"product"`
	Gone    bool            `json:"gone,omitempty"`
}

// Method is the school that the yard follows in a question.
type Method struct {
	Question string `json:"question"`
	School   string `json:"school"`
}

// Figures are what the yard goes by in place of the catalogue from here on, of one kind. Nothing of it: the catalogue's
// again.
type Figures struct {
	What string `json:"what"` // FiguresRates, FiguresMinutes or FiguresComeback
	// Values are by fault, or by check and access; of FiguresComeback there is none. See diagnosis.Yard.
	Values   map[string]float64 `json:"values,omitempty"`
	Comeback float64            `json:"comeback_minutes,omitempty"` // of FiguresComeback, min
}

// What figures can be of.
const (
	FiguresRates    = "rates"
	FiguresMinutes  = "minutes"
	FiguresComeback = "comeback"
)

// Baseline is a healthy engine's rounds, by which it is judged ever after, and the job in which they were taken.
type Baseline struct {
	JobID  string  `json:"job_id"`
	Rounds []Round `json:"rounds"`
}

// StoredBaseline is a baseline with who made it one, and why.
type StoredBaseline struct {
	Baseline
	Words string
	From  Source
}

// Read is one reading of a round; Error is one standard deviation. Value is what is taken; AsRead, where a surface
// thermometer was pointed at a surface that sends less than it is set for, is what it showed.
type Read struct {
	Station    string  `json:"station"`
	Side       string  `json:"side,omitempty"`
	Value      float64 `json:"value"`
	Error      float64 `json:"error"`
	Instrument string  `json:"instrument,omitempty"`
	Surface    string  `json:"surface,omitempty"`
	AsRead     float64 `json:"as_read,omitempty"`
}

// Figure is one main result: a value in its unit with its error, or words.
type Figure struct {
	Label string   `json:"label"`
	Value *float64 `json:"value,omitempty"`
	Error float64  `json:"error,omitempty"`
	Unit  string   `json:"unit,omitempty"`
	Words string   `json:"words,omitempty"`
}

// Stated is a finding or a history item with its state. Q, for a computed finding, takes the place of the state.
type Stated struct {
	ID    string   `json:"id"`
	State string   `json:"state"`
	Q     *float64 `json:"q,omitempty"`
}

// States of a finding.
const (
	Present = "present"
	Absent  = "absent"
	Unknown = "unknown"
	Unsure  = "unsure" // looked for, and neither yes nor no: a likelihood, no fact
)

// Outcomes of a check.
const (
	Done         = "done"
	Inconclusive = "inconclusive"
	Skipped      = "skipped"
)

// Conflict says that an entry does not fit what stands already, and what to do.
type Conflict struct{ Say string }

// Error says it in words.
func (c *Conflict) Error() string { return c.Say }

func conflict(say string, args ...any) error { return &Conflict{fmt.Sprintf(say, args...)} }

// Undone lists the ids of the entries that a standing undo takes back. Entries come in the order in which they were
// kept; an undo that is itself taken back takes nothing back.
func Undone(entries []Entry) map[string]bool {
	undone := map[string]bool{}
	for i := len(entries) - 1; i >= 0; i-- {
		if e := &entries[i]; e.Kind == Undo && !undone[e.ID] {
			undone[e.Body.Undoes] = true
		}
	}
	return undone
}

// Standing lists the entries that count: neither taken back nor undoes themselves.
func Standing(entries []Entry) []Entry {
	undone := Undone(entries)
	var out []Entry
	for _, e := range entries {
		if e.Kind != Undo && !undone[e.ID] {
			out = append(out, e)
		}
	}
	return out
}

// CheckUndo says whether the entry may be taken back: it must be of this log and not taken back yet, and the entry
// that began a log only while nothing else stands in it and nothing leans on its subject.
func CheckUndo(entries []Entry, id string, leaning int) error {
	undone := Undone(entries)
	for _, e := range entries {
		if e.ID != id {
			continue
		}
		if undone[id] {
			return conflict("this was taken back already: nothing is left to undo")
		}
		standing := Standing(entries)
		if e.Kind == Undo || len(standing) == 0 || standing[0].ID != id {
			return nil
		}
		if len(standing) > 1 && e.Subject.Kind == OfJob {
			return conflict("the job has %d more entries: take those back first, or close the job", len(standing)-1)
		}
		if len(standing) == 1 && leaning > 0 {
			return conflict("%d on record still belong to it: take those back first", leaning)
		}
		return nil
	}
	return conflict("there is no such entry in this log")
}

// Craft is what the standing entries make of a craft; not ok when none stands.
func Craft(entries []Entry) (facts CraftFacts, ok bool) {
	for _, e := range Standing(entries) {
		if e.Body.Craft != nil {
			facts, ok = *e.Body.Craft, true
		}
	}
	return facts, ok
}

// Engine is what the standing entries make of an engine; not ok when none stands.
func Engine(entries []Entry) (facts EngineFacts, ok bool) {
	for _, e := range Standing(entries) {
		if e.Body.Engine != nil {
			facts, ok = *e.Body.Engine, true
		}
	}
	return facts, ok
}

// EngineFeed is the newest standing feed of an engine; nil when there is none.
func EngineFeed(entries []Entry) *Feed {
	var kept *Feed
	for _, e := range Standing(entries) {
		if e.Body.Feed != nil {
			kept = e.Body.Feed
		}
	}
	return kept
}

// EngineBaseline is the newest standing baseline of an engine; nil when there is none.
func EngineBaseline(entries []Entry) *StoredBaseline {
	var kept *StoredBaseline
	for _, e := range Standing(entries) {
		if e.Body.Baseline != nil {
			kept = &StoredBaseline{*e.Body.Baseline, e.Body.Words, e.Source()}
		}
	}
	return kept
}

// Saw is what an entry states, and what follows from it: whoever saw a light grade of wear saw no heavy one, of those
// that the check would show.
func (e Entry) Saw(c *catalogue.Catalogue) []Stated {
	list := slices.Clone(e.Body.Stated)
	check, made := c.Check(e.Body.Check)
	for _, s := range e.Body.Stated {
		g, light := c.LightGrade(s.ID)
		if !light || s.State != Present || s.Q != nil {
			continue
		}
		for _, h := range g.Heavy {
			said := slices.ContainsFunc(list, func(x Stated) bool { return x.ID == h })
			if !said && (!made || slices.Contains(check.Settles, h)) {
				list = append(list, Stated{ID: h, State: Absent})
			}
		}
	}
	return list
}
