// Package teardown keeps account of what was isolated, taken off, found on the bench and put back, and says what stands
// in the way of a start. It is folded from acts, so that two people's taps add up.
package teardown

import (
	"fmt"
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// The things that an act does.
const (
	Isolate  = "isolate"       // shut, off, drained, unplugged: Item names what
	Lift     = "lift"          // open, on, filled, plugged in again
	Begin    = "task"          // takes a task's items in
	Add      = "item"          // an item that no task had
	Off      = "off"           // Count more came off; below 0: a slip is put right
	On       = "on"            // Count more went back, State new or reused
	Noted    = "how"           // how it sat, or was put back
	Excuse   = "excuse"        // it stays off, and why
	Tighten  = "tighten"       // a pass round the fasteners is done
	SetWheel = "wheel"         // the impeller as it came out
	Found    = "piece"         // a piece of rubber turned up
	Looked   = "looked"        // a place was searched
	GiveUp   = "pieces-closed" // the hunt ends, and why
	SetBody  = "body"          // the pump's body measured
	SetLeaks = "leaks"         // where the pump is wet
	SetElbow = "elbow"         // the elbow measured
	Use      = "used"          // a part was used
	Heed     = "caution"       // a caution was read and acted on
	Choose   = "method"        // a school chosen for this job
	Tick     = "tick"          // a condition of the start that only a person sees
	Untick   = "untick"
	Override = "override"  // a condition is passed over, and why
	Start    = "start"     // the engine was started
	Counted  = "ring"      // how many fasteners there really are, and how they stand
	Ran      = "ran"       // it ran just now, and nothing was opened since
	Renewed  = "renewed"   // a new one was put in place of a part, outside a task
	Close    = "close"     // a joint of a flush or a descaling is closed up again
	Lies     = "where"     // where the craft lies
	Heat     = "heat"      // how hot the engine is, as it was felt
	OilIs    = "oil"       // how its oil is
	Holds    = "holds"     // whether the seacock, shut, holds
	Refitted = "refit"     // how an item went back, beside whether it is new
	Wait     = "wait"      // the job is paused, for what: Item, and Words
	GoOn     = "go-on"     // it goes on
	PutRight = "put-right" // a fault that was found is put right: Item, and in Words how
	HowFar   = "extent"    // how far a fault that was found has gone: Item, and Share of what is seen
)

// Impeller is the item that is one, in every task.
const Impeller = "impeller"

// What an engine can be like to the hand, where a craft can lie, how oil can be.
var (
	Heats = []string{"cold", "warm", "hot"}
	Where = []string{"afloat", "alongside", "under-way", "ashore"}
	Oils  = []string{"sound", "low", "milky", "risen", "changed"}
	Shuts = []string{Dry, LetsThrough}                                   // how a seacock is that was shut
	Waits = []string{"part", "haul-out", "owner", "specialist", "other"} // what a job waits for
)

// What comes at the first joint that is opened behind a seacock that was shut, once the pipe has run empty.
const (
	Dry         = "dry"
	LetsThrough = "passes"
)

// Kinds of items.
const (
	Part      = "part"
	Seal      = "seal"
	Hose      = "hose"
	Fasteners = "fasteners"
)

// States of what goes back.
const (
	New    = "new"
	Reused = "reused"
)

// Isolations and their words, in the order of doing.
var Isolations = []struct{ ID, Label, Shut, Open string }{
	{"seacock", "Seacock", "SEACOCK SHUT", "open"},
	{"leg-hose", "Drive-leg hose", "LEG HOSE OFF", "back on"},
	{"battery", "Battery", "BATTERY OFF", "on again"},
	{"coolant", "Coolant", "COOLANT DRAINED", "filled and bled"},
	{"sensor", "Safety sensor", "SENSOR UNPLUGGED", "plugged in again"},
	{"anodes", "Anodes", "ANODES OUT", "back in"},
}

// Act is one thing done. Which fields count depends on Do.
type Act struct {
	Do string `json:"do"`
	// id of an item, an isolation, a station, a caution, a question, a condition
	Item   string          `json:"item,omitempty"`
	Task   *catalogue.Task `json:"task,omitempty"`
	Adds   *catalogue.Item `json:"adds,omitempty"`
	Count  int             `json:"count,omitempty"`
	State  string          `json:"state,omitempty"`
	Words  string          `json:"words,omitempty"`
	Pass   int             `json:"pass,omitempty"`
	Litres float64         `json:"litres,omitempty"`
	Clamps int             `json:"clamps,omitempty"`
	Reach  bool            `json:"reach,omitempty"` // clamp heads face where a driver reaches
	Chafe  bool            `json:"chafe,omitempty"` // protected from chafe
	Wheel  *Wheel          `json:"wheel,omitempty"`
	Piece  *Piece          `json:"piece,omitempty"`
	Body   *Body           `json:"body,omitempty"`
	Leaks  []string        `json:"leaks,omitempty"`
	Elbow  *Elbow          `json:"elbow,omitempty"`
	Used   *Used           `json:"used,omitempty"`
	Refit  *Refit          `json:"refit,omitempty"`
	Share  float64         `json:"share,omitempty"` // 0 to 1
	// Against is what stood in the way when it was overridden: a later change asks again.
	Against string `json:"against,omitempty"`
}

// Used is a part that was used.
type Used struct {
	Label      string  `json:"label"`
	Quantity   float64 `json:"quantity"`
	PartNumber string  `json:"part_number,omitempty"`
	State      string  `json:"state"`
	Price      float64 `json:"price,omitempty"` // each, in the yard's money
	Minutes    float64 `json:"minutes,omitempty"`
	Stock      string  `json:"stock,omitempty"` // the part on the yard's inventory that it was taken of
	// For is the item that it went in for; empty where nobody said.
	For string `json:"for,omitempty"`
	// Holds are the lines of a kit: what it has in it.
	Holds []string `json:"holds,omitempty"`
}

// rule is what an act must carry.
type rule struct {
	item, words bool
	check       func(a Act, wrong *validation.Errors)
}

func needs(missing bool, wrong *validation.Errors, field string, allowed units.Sentence, say string) {
	if missing {
		wrong.Add(field, "nothing", allowed, "%s", say)
	}
}

func between(wrong *validation.Errors, field string, v, least, most float64, unit string) {
	if !(v >= least && v <= most) {
		wrong.Add(field, v, units.Range(least, most, unit), "look at the figure and its unit again")
	}
}

var rules = map[string]rule{
	Isolate: {item: true, check: isolation}, Lift: {item: true, check: isolation},
	Begin: {check: func(a Act, w *validation.Errors) {
		if a.Task == nil {
			needs(true, w, "task", "a task with its items", "say which task")
			return
		}
		checkItems(a.Task.Items, "task.items", w)
	}},
	Add: {check: func(a Act, w *validation.Errors) {
		if a.Adds == nil {
			needs(true, w, "adds", "an item", "say what it is")
			return
		}
		checkItems([]catalogue.Item{*a.Adds}, "adds", w)
	}},
	Off: {item: true, check: counted}, On: {item: true, check: func(a Act, w *validation.Errors) {
		if a.Count != 0 || a.Clamps == 0 { // 0: it is back, and its clamps are counted now
			counted(a, w)
		}
		state("state", a.State, w)
		between(w, "clamps", float64(a.Clamps), 0, 8, "clamps")
	}},
	Noted: {item: true, words: true}, Excuse: {item: true, words: true},
	Tighten: {item: true, check: func(a Act, w *validation.Errors) {
		between(w, "pass", float64(a.Pass), 1, 6,
			"passes")
	}},
	SetWheel: {check: func(a Act, w *validation.Errors) {
		if needs(a.Wheel == nil, w, "wheel", "the blades", "tap the blades"); a.Wheel != nil {
			a.Wheel.check(w)
		}
	}},
	Found: {item: true, check: func(a Act, w *validation.Errors) {
		if needs(a.Piece == nil, w, "piece", "its size", "say how much of a blade it is"); a.Piece != nil {
			between(w, "piece.share", a.Piece.Share, 0.01, 1, "of a blade")
		}
	}},
	Looked: {item: true}, GiveUp: {words: true},
	SetBody: {check: func(a Act, w *validation.Errors) {
		if needs(a.Body == nil, w, "body", "what was measured", "give what was measured"); a.Body != nil {
			a.Body.check(w)
		}
	}},
	SetLeaks: {check: func(a Act, w *validation.Errors) {
		for i, l := range a.Leaks {
			if _, ok := leakMeans[l]; !ok {
				w.Add(fmt.Sprintf("leaks[%d]", i), l, units.Sentence(strings.Join(LeakPlaces(), ", ")),
					"there is no such place on a pump")
			}
		}
	}},
	SetElbow: {check: func(a Act, w *validation.Errors) {
		if needs(a.Elbow == nil, w, "elbow", "what was measured", "give what was measured"); a.Elbow != nil {
			a.Elbow.check(w)
		}
	}},
	Use: {check: func(a Act, w *validation.Errors) {
		u := a.Used
		if needs(u == nil || strings.TrimSpace(u.Label) == "", w, "used", "a part", "say which part"); u != nil {
			between(w, "used.quantity", u.Quantity, 0.01, 1000, "")
			between(w, "used.price", u.Price, 0, 1e6, "")
			between(w, "used.minutes", u.Minutes, 0, 1440, "minutes")
			state("used.state", u.State, w)
		}
	}},
	Heed: {item: true}, Choose: {item: true, check: func(a Act, w *validation.Errors) {
		needs(a.State == "", w, "state", "one of its schools", "choose one")
	}},
	Counted: {item: true, check: func(a Act, w *validation.Errors) {
		between(w, "count", float64(a.Count), 1, 200, "")
		if a.State != "" {
			one(w, "state", a.State, Shapes, "say how they stand")
		}
	}},
	Ran: {}, Renewed: {item: true}, Close: {item: true},
	Lies:  {check: func(a Act, w *validation.Errors) { one(w, "item", a.Item, Where, "say where it lies") }},
	Heat:  {check: func(a Act, w *validation.Errors) { one(w, "item", a.Item, Heats, "say how it feels") }},
	OilIs: {check: oil},
	Holds: {check: func(a Act, w *validation.Errors) { one(w, "item", a.Item, Shuts, "say whether water still comes") }},
	Refitted: {item: true, check: func(a Act, w *validation.Errors) {
		if needs(a.Refit == nil, w, "refit", "how it went back", "say how it went back"); a.Refit != nil {
			a.Refit.check(w)
		}
	}},
	Wait: {words: true, check: func(a Act, w *validation.Errors) {
		one(w, "item", a.Item, Waits, "say what the job waits for")
	}},
	GoOn: {}, PutRight: {item: true},
	HowFar: {item: true, check: func(a Act, w *validation.Errors) { between(w, "share", a.Share, 0, 1, "") }},
	Tick:   {item: true}, Untick: {item: true}, Override: {item: true, words: true}, Start: {},
}

func counted(a Act, w *validation.Errors) {
	if a.Count == 0 || a.Count < -50 || a.Count > 200 {
		w.Add("count", a.Count, "-50 to 200, not 0", "say how many")
	}
}

func state(field, s string, w *validation.Errors) {
	if s != New && s != Reused {
		w.Add(field, s, "new, reused", "say whether it is new")
	}
}

func one(w *validation.Errors, field, given string, of []string, say string) {
	if !slices.Contains(of, given) {
		w.Add(field, given, units.Sentence(strings.Join(of, ", ")), "%s", say)
	}
}

// oil that was milky is changed for a cause, which is said.
func oil(a Act, w *validation.Errors) {
	one(w, "item", a.Item, Oils, "say how the oil is")
	needs(a.Item == "changed" && strings.TrimSpace(a.Words) == "", w, "words", "a few words",
		"say what the cause was, and who cleared the cylinders")
}

func isolation(a Act, w *validation.Errors) {
	if !slices.ContainsFunc(Isolations, func(i struct{ ID, Label, Shut, Open string }) bool { return i.ID == a.Item }) {
		w.Add("item", a.Item, "seacock, leg-hose, battery, coolant, sensor, anodes", "there is no such isolation")
	}
	between(w, "litres", a.Litres, 0, 2000, "L")
}

var kinds = []string{Part, Seal, Hose, Fasteners}

func checkItems(list []catalogue.Item, at string, w *validation.Errors) {
	seen := map[string]bool{}
	for i, x := range list {
		field := fmt.Sprintf("%s[%d]", at, i)
		needs(strings.TrimSpace(x.ID) == "" || strings.TrimSpace(x.Label) == "", w, field+".label", "a name",
			"give it a name")
		if seen[x.ID] {
			w.Add(field+".id", x.ID, "each once", "%q is there twice", x.ID)
		}
		seen[x.ID] = true
		if !slices.Contains(kinds, x.Kind) {
			w.Add(field+".kind", x.Kind, units.Sentence(strings.Join(kinds, ", ")), "say what it is")
		}
		between(w, field+".count", float64(x.Count), 1, 200, "")
		if x.Kind == Fasteners && x.Count > 2 && x.Count <= MostFasteners && x.Shape != "" && !slices.Contains(Shapes,
			x.Shape) {
			w.Add(field+".shape", x.Shape, units.Sentence(strings.Join(Shapes, ", ")), "say how they stand")
		}
	}
}

// Check says what does not fit in an act in itself.
func (a Act) Check() error {
	var wrong validation.Errors
	r, ok := rules[a.Do]
	if !ok {
		wrong.Add("do", a.Do, "an act", "there is no such act")
		return wrong
	}
	needs(r.item && strings.TrimSpace(a.Item) == "", &wrong, "item", "an id", "say what it is about")
	needs(r.words && strings.TrimSpace(a.Words) == "", &wrong, "words", "a few words",
		"say why, or how: it stands in the record")
	if r.check != nil {
		r.check(a, &wrong)
	}
	return wrong.Err()
}
