package practice

import (
	"fmt"
	"hash/fnv"
	"math/rand/v2"
	"slices"

	"hevrin/core/catalogue"
)

// Hidden is a fault that was put on, and how far it has gone: its severity in the model, from 0 to 1, and the share of
// what its plant.Extent says; 0 where nobody can say how much of it there is.
type Hidden struct {
	Fault    string
	Share    float64
	Severity float64
}

// Engine is what was drawn of a case: it never changes. What is done to it is in World.
type Engine struct {
	Case    Case
	Kind    Kind
	Hidden  []Hidden
	History []string // what is known of the engine before anybody looks
	Told    []string // what the owner tells, as findings
	Words   string   // what the owner says
	// Mistaken is a finding that the owner says and that is not so; empty: all that is told is.
	Mistaken string
	Theory   string // the fault that the owner blames; it is none of those that are there

	c       *catalogue.Catalogue
	rolls   map[string]float64 // one roll a finding, from 0 to 1
	present []string           // findings that a lesson is about: always there while its fault is
}

const (
	mostTries     = 400
	mostTold      = 4
	historyUsual  = 0.06 // share of engines of which one item of history is known and tells nothing
	historyMost   = 0.9
	historyPerRun = 2
	lightSeen     = 3 // signs of wear that are forced into a case of WornBeside
)

// leftBehind are the faults that somebody's work leaves, and what that work was.
var leftBehind = []struct{ fault, history string }{
	{"seacock-restricted", "impeller-just-fitted"},
	{"pump-not-primed", "impeller-just-fitted"},
	{"pump-cover-leak", "impeller-just-fitted"},
	{"impeller-drive-failed", "impeller-just-fitted"},
	{"debris-at-cooler", "lost-blades-before"},
	{"tubes-blocked", "lost-blades-before"},
	{"coolant-airbound", "coolant-just-changed"},
	{"coolant-low", "coolant-just-changed"},
	{"strainer-air-leak", "strainer-just-cleaned"},
	{"thermostat-shut", "thermostat-just-renewed"},
	{"overloaded", "propeller-changed"},
}

// Draw makes the engine of a case. A draw of which nobody would call a mechanic, or whose faults no look could show for
// what they are, is drawn again from the same case.
func Draw(c *catalogue.Catalogue, k Case) (*Engine, error) {
	if err := k.Check(); err != nil {
		return nil, err
	}
	if k.Lesson > 0 {
		e := lesson(c, k)
		return e, e.far()
	}
	kind, _ := KindOf(k.Kind)
	for try := range mostTries {
		e := &Engine{Case: k, Kind: kind, c: c}
		r := e.source(fmt.Sprint("faults ", try))
		e.roll(try)
		e.faults(r)
		if e.Case.Level == WornBeside {
			e.wear(r)
		}
		if e.tell(r); len(e.Told) > 0 && e.canBeShown() {
			return e, e.far()
		}
	}
	return nil, fmt.Errorf("nothing to practise on was drawn in %d tries: case %s", mostTries, k.Code())
}

// source is a source of chance of its own for each purpose, so that one more question to it changes no other answer.
func (e *Engine) source(purpose string) *rand.Rand {
	h := fnv.New64a()
	_, _ = fmt.Fprint(h, e.Case.Code(), purpose) // a hash takes everything
	return rand.New(rand.NewPCG(h.Sum64(), uint64(e.Case.Seed)))
}

// roll throws once for each finding. It shows while its chance is above: where a fault goes, what it alone had shown
// goes.
func (e *Engine) roll(try int) {
	e.rolls = map[string]float64{}
	for _, f := range e.c.Findings {
		e.rolls[f.ID] = e.source(fmt.Sprint("finding ", f.ID, try)).Float64()
	}
}

// faults draws what is there, by how common it is, and what is known of the engine.
func (e *Engine) faults(r *rand.Rand) {
	all := e.c.FaultsOn(e.Kind.Facts.Family, e.Kind.Facts.Circuit)
	usual := func(f catalogue.Fault) float64 { return f.Prior }
	switch e.Case.Level {
	case LastMechanic:
		var list []int
		for i, l := range leftBehind {
			if slices.ContainsFunc(all, func(f catalogue.Fault) bool { return f.ID == l.fault }) {
				list = append(list, i)
			}
		}
		l := leftBehind[list[r.IntN(len(list))]]
		e.put(l.fault)
		e.History = append(e.History, l.history)
	case LyingGauge:
		e.put(e.pick(r, all, func(f catalogue.Fault) float64 { return off(f, "gauge-wrong") * f.Prior }))
		e.put("gauge-wrong")
	default:
		e.put(e.pick(r, all, usual))
	}
	if e.Case.Level == TwoFaults {
		first := e.Hidden[0].Fault
		e.put(e.pick(r, all, func(f catalogue.Fault) float64 { return off(f, first) * f.Prior * e.pair(first, f.ID) }))
	}
	e.history(r)
}

func off(f catalogue.Fault, id string) float64 {
	if f.ID == id {
		return 0
	}
	return 1
}

func (e *Engine) pair(a, b string) float64 {
	for _, p := range e.c.Pairs {
		if p.A == a && p.B == b || p.A == b && p.B == a {
			return p.Factor
		}
	}
	return 1
}

func (e *Engine) pick(r *rand.Rand, list []catalogue.Fault, weight func(catalogue.Fault) float64) string {
	sum := 0.0
	for _, f := range list {
		sum += weight(f)
	}
	x := r.Float64() * sum
	for _, f := range list {
		if x -= weight(f); x < 0 {
			return f.ID
		}
	}
	return list[len(list)-1].ID
}

// put puts a fault on; how far it has gone is drawn once it is known what shows.
func (e *Engine) put(fault string) { e.Hidden = append(e.Hidden, Hidden{Fault: fault}) }

// history draws what is known of the engine: what brought the fault is the more often known.
func (e *Engine) history(r *rand.Rand) {
	for _, h := range e.c.History {
		factor := 1.0
		for _, m := range h.Multipliers {
			if e.Has(m.Fault) {
				factor = max(factor, m.Factor)
			}
		}
		if r.Float64() < min(historyMost, historyUsual*factor) && len(e.History) < historyPerRun &&
			!slices.Contains(e.History, h.ID) {
			e.History = append(e.History, h.ID)
		}
	}
}

// Has says whether a fault was put on.
func (e *Engine) Has(fault string) bool {
	return slices.ContainsFunc(e.Hidden, func(h Hidden) bool { return h.Fault == fault })
}

// wear lets signs of wear show that belong to no fault that is there.
func (e *Engine) wear(r *rand.Rand) {
	order := r.Perm(len(e.c.Grades))
	for _, i := range order[:min(lightSeen, len(order))] {
		e.rolls[e.c.Grades[i].Light] = 0
	}
}

// chance is that of a finding with these faults: a noisy OR of its causes with what keeps it from showing.
func chance(f catalogue.Finding, faults []string, leak float64) float64 {
	none, spared := 1-leak, 1.0
	for _, l := range f.Causes {
		if slices.Contains(faults, l.Fault) {
			none *= 1 - l.Strength
		}
	}
	for _, l := range f.Blocks {
		if slices.Contains(faults, l.Fault) {
			spared *= 1 - l.Strength
		}
	}
	return (1 - none) * spared
}

// ids lists the faults that were put on.
func (e *Engine) ids() []string {
	var list []string
	for _, h := range e.Hidden {
		list = append(list, h.Fault)
	}
	return list
}

// shows says whether a finding is there with these faults still on: of a question one alone, of wear the heavier.
func (e *Engine) shows(id string, faults []string) bool {
	if !e.bare(id, faults) {
		return false
	}
	if g, light := e.c.LightGrade(id); light && slices.ContainsFunc(g.Heavy,
		func(h string) bool { return e.bare(h, faults) }) {
		return false
	}
	group, grouped := e.c.GroupOf(id)
	if !grouped {
		return true
	}
	g, _ := e.c.Group(group)
	return e.oneOf(g, faults) == id
}

// showsAt says whether a check at an operating point shows a finding: a reading as it is told there.
func (e *Engine) showsAt(id, point string, faults []string) bool {
	f, _ := e.c.Finding(id)
	causes, told := f.At[point]
	if !told {
		return e.shows(id, faults)
	}
	f.Causes = causes
	return e.rolls[id] < chance(f, faults, f.Leak)
}

// bare is a finding by itself.
func (e *Engine) bare(id string, faults []string) bool {
	f, ok := e.c.Finding(id)
	if !ok {
		return false
	}
	if slices.Contains(e.present, id) && slices.ContainsFunc(f.Causes,
		func(l catalogue.Link) bool { return slices.Contains(faults, l.Fault) }) {
		return true
	}
	return e.rolls[id] < chance(f, faults, f.Leak)
}

// oneOf is the option of a question that is so: of several that would show, always the same one.
func (e *Engine) oneOf(g catalogue.Group, faults []string) string {
	return e.chosen(g, func(id string) bool { return e.bare(id, faults) })
}

// chosen is the option of a question that is so, of those that would show.
func (e *Engine) chosen(g catalogue.Group, bare func(id string) bool) string {
	best, at := "", 0.0
	for _, id := range g.Findings {
		if !bare(id) {
			continue
		}
		x := e.source("option " + id).Float64()
		if slices.Contains(e.present, id) {
			x = 2
		}
		if best == "" || x > at {
			best, at = id, x
		}
	}
	return best
}

// canBeShown: every fault would be shown by one of its sure looks on this circuit.
func (e *Engine) canBeShown() bool {
	return !slices.ContainsFunc(e.Hidden, func(h Hidden) bool {
		f, _ := e.c.Fault(h.Fault)
		return !slices.ContainsFunc(f.Sure, func(s catalogue.SureLook) bool { return e.Sees(s) })
	})
}

// Sees says whether a sure look can be had on this circuit and would show.
func (e *Engine) Sees(s catalogue.SureLook) bool {
	k, _ := e.c.Check(s.Check)
	_, here := e.c.StationOf(k, e.Kind.Facts.Family, e.Kind.Facts.Circuit)
	return here && k.ID != sisterLook && e.shows(s.Finding, e.ids())
}

// sisterLook is the one check that needs another engine: here there is none.
const sisterLook = "sister-look"
