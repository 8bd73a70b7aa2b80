package practice

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/validation"
)

// World is an engine while it is worked on: what is still wrong, what was seen, what it took, and what nearly happened.
// It is made of its engine and of what was done, in that order, and of nothing else.
type World struct {
	*Engine
	Log     []Step
	Minutes float64
	Parts   float64 // what the parts cost, in the yard's money

	entries []eventlog.Entry
	state   *enginestate.State
	left    []string        // faults that are still on
	open    map[string]bool // accesses and joints that were opened
	shut    bool            // the seacock, or the hose of a drive leg
	battery bool            // off
	hotAt   float64         // minute at which it last ran
	looks   map[string]int
	own     map[string]float64 // minutes of looks, where they are not the catalogue's

	ready    map[string]bool // spares that fit and lie ready, by id
	measured map[string]bool // old parts that were measured
	wrong    map[string]int  // how often another was ordered
	vain     map[string]bool // entries that put right nothing, for want of the part
	seen     map[string]bool // what was seen, and how it was
	told     map[string]bool // dangers that stand, each told once
	over     bool
	reads    int // rounds of readings that were taken
	proofs   int // runs that were made
	signed   bool
}

// What a step of the log is.
const (
	Looked    = "look"
	Repaired  = "repair"
	Proof     = "proof"
	Readings  = "readings"
	Waited    = "wait"
	Hinted    = "hint"
	Measured  = "measure"
	Ordered   = "order"
	Endangers = "danger"
	Ended     = "end"
)

// Step is one thing that was done, with the minute at which it was over.
type Step struct {
	Do      string
	Check   string   // of a look
	Fault   string   // of a repair
	Minutes float64  // that it took
	At      float64  // minute from the start
	Seen    []Seen   // of a look or a proof
	Needed  bool     // of a repair: the fault was there, and is gone; of an order: the part fits
	Danger  *Danger  // of a danger
	Words   string   // of a hint; the part that was measured or ordered
	Left    []string // faults still on after it; for afterwards alone
}

// Seen is a finding as it was seen.
type Seen struct {
	Finding string
	Present bool
	Share   float64 // how far gone what causes it is; 0: nothing says
}

// What things take, common practice.
const (
	repairMinutes = 15.0 // to put a cause right, beside the task that it belongs to
	proofMinutes  = 25.0
	Hourly        = 80.0 // an hour of work, in the yard's money
	longestWait   = 24 * 60.0
	dryLimit      = 30.0 // s
)

// Enter is the moment at which the learner comes aboard: afloat, the seacock open, the engine just stopped, hot.
func Enter(e *Engine) *World {
	return &World{Engine: e, state: enginestate.New(e.c), left: e.ids(), open: map[string]bool{}, looks: map[string]int{},
		seen: map[string]bool{}, told: map[string]bool{}, ready: map[string]bool{}, measured: map[string]bool{},
		wrong: map[string]int{}, vain: map[string]bool{}}
}

// TakeOwn lets looks take other minutes than the catalogue's, by check.
func (w *World) TakeOwn(minutes map[string]float64) { w.own = minutes }

// Facts are those of the engine.
func (w *World) Facts() eventlog.EngineFacts { return w.Kind.Facts }

// Left lists the faults that are still on. It is for afterwards alone.
func (w *World) Left() []string { return slices.Clone(w.left) }

// Cured says whether nothing is wrong any more.
func (w *World) Cured() bool { return len(w.left) == 0 }

// Over says whether nothing more can be done: it was ended, or a danger ended it.
func (w *World) Over() bool { return w.over }

// Signed says whether a proving run was signed as cured.
func (w *World) Signed() bool { return w.signed }

// Cost is what the job costs until now: time and parts, in the yard's money.
func (w *World) Cost() float64 { return w.Minutes/60*Hourly + w.Parts }

// Cold is for how many more minutes the engine is too hot to open.
func (w *World) Cold() float64 { return max(0, w.hotAt+w.cooling()-w.Minutes) }

// cooling is how long it takes from running hot to a touch.
func (w *World) cooling() float64 {
	f := w.Facts()
	block := plant.TypeFor(f.Family, plant.Fuel(f.Fuel), plant.Natural, f.RatedKW).BlockKJK
	return math.Ceil(plant.StandingMinutes(block, plant.HotC, plant.TouchC, plant.StandingSpaceC))
}

// step puts something done into the log, with its minutes.
func (w *World) step(s Step) Step {
	w.Minutes += s.Minutes
	s.At, s.Left = w.Minutes, w.Left()
	w.Log = append(w.Log, s)
	return s
}

func refuse(field, given, say string, args ...any) error {
	var wrong validation.Errors
	wrong.Add(field, given, "what can be done now", say, args...)
	return wrong
}

// Look makes a check: what it shows, the minutes it takes, and what happens where something was left out before it.
func (w *World) Look(check string) (Step, error) {
	k, ok := w.c.Check(check)
	if ok {
		_, ok = w.c.StationOf(k, w.Facts().Family, w.Facts().Circuit)
	}
	switch {
	case !ok || check == sisterLook:
		return Step{}, refuse("check", check, "this engine has no such look")
	case w.over:
		return Step{}, refuse("check", check, "this practice is over: begin another")
	}
	minutes, ok := w.own[check]
	if !ok {
		minutes = k.Minutes
	}
	if a, ok := w.c.AccessTo(k.Access); ok && !w.open[k.Access] {
		minutes += a.Minutes
	}
	if w.before(k); w.over {
		return w.Log[len(w.Log)-1], nil
	}
	for _, id := range []string{k.Access, k.Opens} {
		if id != "" {
			w.open[id] = true
		}
	}
	w.looks[check]++
	s := w.step(Step{Do: Looked, Check: check, Minutes: minutes, Seen: w.settled(k)})
	if k.Engine == catalogue.Running {
		w.hotAt = w.Minutes
	}
	return s, nil
}

// settled is what a check shows: of a question its option, of wear the heavier grade alone.
func (w *World) settled(k catalogue.Check) []Seen {
	var list []Seen
	for _, id := range k.Settles {
		there := w.showsAt(id, k.Point, w.left) || w.again(k.ID, id)
		g, light := w.c.LightGrade(id)
		if !there && light && slices.ContainsFunc(g.Heavy, func(h string) bool { return w.shows(h, w.left) }) {
			continue
		}
		w.seen[id] = there
		list = append(list, Seen{id, there, w.share(id, there)})
	}
	return list
}

// again is a look that was made before: of what is there and did not show, half shows.
func (w *World) again(check, finding string) bool {
	_, grouped := w.c.GroupOf(finding)
	f, ok := w.c.Finding(finding)
	if _, light := w.c.LightGrade(finding); !ok || light || grouped || chance(f, w.left, 0) == 0 {
		return false
	}
	for n := 2; n <= w.looks[check]; n++ {
		if w.source(fmt.Sprint("again ", finding, n)).Float64() < 0.5 {
			return true
		}
	}
	return false
}

// share is how far gone what is seen is: that of the fault on it whose sure look it is.
func (w *World) share(finding string, there bool) float64 {
	if !there {
		return 0
	}
	for _, h := range w.Hidden {
		f, _ := w.c.Fault(h.Fault)
		if slices.Contains(w.left, h.Fault) && slices.ContainsFunc(f.Sure,
			func(s catalogue.SureLook) bool { return s.Finding == finding }) {
			return h.Share
		}
	}
	return 0
}

// Wait lets minutes pass, as for a hot engine to cool.
func (w *World) Wait(minutes float64) (Step, error) {
	if !(minutes >= 1 && minutes <= longestWait) {
		return Step{}, refuse("minutes", fmt.Sprint(minutes), "wait from one minute to a day")
	}
	if w.over {
		return Step{}, refuse("minutes", fmt.Sprint(minutes), "this practice is over: begin another")
	}
	return w.step(Step{Do: Waited, Minutes: minutes}), nil
}

// Hint notes that one was taken, with what it cost.
func (w *World) Hint(words string, minutes float64) Step {
	return w.step(Step{Do: Hinted, Words: words, Minutes: minutes})
}

// Note takes in what the learner notes in the job: valves, parts off and on, repairs, a start, the proof.
func (w *World) Note(e eventlog.Entry) []Danger {
	n := len(w.Log)
	if e.Kind == eventlog.Undo {
		w.entries = append(w.entries, e)
		w.state = enginestate.Fold(w.c, w.entries)
		if !w.over {
			w.undo(e.Body.Undoes)
		}
		return nil
	}
	if !w.over {
		w.hands(e)
	}
	w.entries = append(w.entries, e)
	w.state.Take(e)
	return w.dangersFrom(n)
}

// Tried takes in what the learner wanted to do and the program refused: what a bath may not meet is told all the same.
func (w *World) Tried(e eventlog.Entry) []Danger {
	n := len(w.Log)
	if e.Body.Wetwork != nil && !w.over {
		w.acid(*e.Body.Wetwork)
	}
	return w.dangersFrom(n)
}

func (w *World) dangersFrom(n int) []Danger {
	var list []Danger
	for _, s := range w.Log[n:] {
		if s.Danger != nil {
			list = append(list, *s.Danger)
		}
	}
	return list
}

// undo takes back what an entry did to the engine: valves, what was opened or closed up, a repair. Its minutes are
// gone.
func (w *World) undo(id string) {
	w.left, w.shut, w.battery = w.ids(), false, false
	for _, e := range eventlog.Standing(w.entries) {
		if a := e.Body.Teardown; a != nil {
			w.valve(*a)
			if a.Do == teardown.PutRight && !w.vain[e.ID] {
				w.left = slices.DeleteFunc(w.left, func(f string) bool { return f == a.Item })
			}
		}
	}
	undone := eventlog.Undone(w.entries)[id]
	for _, e := range w.entries {
		b := e.Body
		if e.ID != id || e.Kind != eventlog.Access || b.Open == nil {
			continue
		}
		if *b.Open == undone { // an opening taken back, or a closing that stands again
			delete(w.open, b.Access)
		} else {
			w.open[b.Access] = true
		}
	}
}

// valve is a valve or a switch that is turned.
func (w *World) valve(a teardown.Act) {
	done := a.Do == teardown.Isolate
	if !done && a.Do != teardown.Lift {
		return
	}
	switch a.Item {
	case "seacock", "leg-hose":
		w.shut = done
	case "battery":
		w.battery = done
	}
}

// hands is what an entry does to the engine.
func (w *World) hands(e eventlog.Entry) {
	b := e.Body
	switch {
	case e.Kind == eventlog.Access && b.Open != nil && *b.Open:
		if a, ok := w.c.AccessTo(b.Access); ok && !w.open[b.Access] {
			w.needs(a.Needs)
			w.step(Step{Do: Waited, Minutes: a.Minutes})
		}
		w.open[b.Access] = true
	case e.Kind == eventlog.Access:
		delete(w.open, b.Access)
	case e.Kind == eventlog.TeardownNoted && b.Teardown != nil:
		w.act(e, *b.Teardown)
	case e.Kind == eventlog.WetworkNoted && b.Wetwork != nil:
		w.acid(*b.Wetwork)
	case e.Kind == eventlog.Proved && b.Proving != nil:
		w.proved(*b.Proving)
	case e.Kind == eventlog.Closed:
		w.End()
	}
}

// act is one thing done by hand.
func (w *World) act(e eventlog.Entry, a teardown.Act) {
	switch a.Do {
	case teardown.Isolate, teardown.Lift:
		w.valve(a)
	case teardown.Begin:
		if a.Task != nil {
			w.step(Step{Do: Waited, Minutes: a.Task.Minutes})
		}
	case teardown.Off:
		w.off(e.Subject.ID, a.Item)
	case teardown.Use:
		if a.Used != nil {
			w.Parts += a.Used.Price * a.Used.Quantity
		}
	case teardown.PutRight:
		w.repair(e.ID, a.Item)
	case teardown.Start:
		w.start()
	}
}

// repair puts a fault right, where it is there; without the part that it takes, nothing is better for it.
func (w *World) repair(entry, fault string) {
	if s, ok := w.SpareFor(fault); ok && !w.ready[s.ID] {
		w.vain[entry] = true
		w.step(Step{Do: Repaired, Fault: fault, Words: "no " + s.Label + " to put in: it went back as it was",
			Minutes: repairMinutes})
		return
	}
	needed := slices.Contains(w.left, fault)
	w.left = slices.DeleteFunc(w.left, func(f string) bool { return f == fault })
	w.step(Step{Do: Repaired, Fault: fault, Needed: needed, Minutes: repairMinutes})
}

// proved takes in what the learner notes of a run.
func (w *World) proved(a proving.Act) {
	if a.Do == proving.Prime && !a.Water && a.Seconds > dryLimit {
		w.danger("dry", true)
	}
	if a.Do == proving.Sign {
		w.signed = a.Outcome == proving.Cured
	}
}

// DayAfter is what the owner sees of what was left, the next time out: of that which a fault would show, thrown afresh
// until something does; nothing where nothing is left, or where it never shows.
func (w *World) DayAfter() []Seen {
	for n := range mostTries {
		var list []Seen
		for _, f := range w.c.Findings {
			if says[f.ID] == nil || !slices.Contains(told, f.Topic) || f.ID == "good-water-at-outlet" {
				continue
			}
			one := slices.ContainsFunc(list, func(s Seen) bool { return w.sameQuestion(s.Finding, f.ID) })
			if p := chance(f, w.left, 0); !one && w.source(fmt.Sprint("day after ", f.ID, n)).Float64() < p {
				list = append(list, Seen{f.ID, true, 0})
			}
		}
		if len(list) > 0 || len(w.left) == 0 {
			return list
		}
	}
	return nil
}

// sameQuestion says whether two findings are options of one question.
func (w *World) sameQuestion(a, b string) bool {
	one, grouped := w.c.GroupOf(a)
	other, too := w.c.GroupOf(b)
	return grouped && too && one == other
}

// Open lists the accesses and joints that are open.
func (w *World) Open() []string {
	return slices.Sorted(maps.Keys(w.open))
}

// End ends the practice: what is left undone comes out the day after.
func (w *World) End() Step {
	if w.over {
		return w.Log[len(w.Log)-1]
	}
	w.leave()
	w.over = true
	return w.step(Step{Do: Ended})
}
