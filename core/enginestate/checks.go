package enginestate

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"sync"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/teardown"
	"hevrin/core/units"
)

// Step is one thing that comes before a check. Known: it is known to stand in the way, and its minutes are added to
// those of the check; else it must be known first, and they are only told.
type Step struct {
	ID, Label string
	Minutes   float64
	Known     bool
	// Settle and Item are the touch that says it is so, as those of a condition.
	Settle, Item string
}

// Before is what an engine's state means for a check: what must be known or done first, or why it is not offered.
type Before struct {
	Steps  []Step
	Barred string
	// Watch is when to stop a check with the engine running, and who looks; empty for one that stands.
	Watch units.Sentence
	// Cautions are the ids of the check's cautions that apply on the engine.
	Cautions []string
}

const (
	stopUnder     = 5.0  // K under its alarm an engine is stopped; common practice
	longestRunDry = 30.0 // s, at idle, with no water at the outlet
	longestTimes  = 2.0  // a check with the engine running takes at most so many times its minutes
)

// tooLongDry bars what needs a longer run than an engine without raw water is given.
const tooLongDry = "No water came at the outlet: until it does, the engine runs thirty seconds at idle at most, and " +
	"this takes longer. Find where the water stops first."

// watch is when to stop a check with the engine running: common practice.
func (p *prior) watch(k catalogue.Check) units.Sentence {
	if p.s.dry {
		return units.Say("No water came: %.0f seconds at idle, and only for this. Somebody watches the outlet, a hand on "+
			"the stop.", longestRunDry)
	}
	return units.Say("%s, and after %.0f minutes at most. Somebody watches the gauge and the outlet.", p.stop(),
		longestTimes*k.Minutes)
}

// alarmC is where the alarm of an engine sounds, by its own figure or by what is usual for its kind.
func alarmC(e eventlog.EngineFacts) float64 {
	if e.Cooling.AlarmC > 0 {
		return e.Cooling.AlarmC
	}
	return kind(e).UsualAlarmC(e.ThermostatC)
}

// Minutes is what the steps that are known to stand in the way cost together.
func (b Before) Minutes() float64 {
	sum := 0.0
	for _, s := range b.Steps {
		if s.Known {
			sum += s.Minutes
		}
	}
	return sum
}

// handMinutes is what a turn of a valve or a switch takes; common practice.
const handMinutes = 1.0

// cooling is how many minutes an engine that was stopped hot takes to be cool enough to open, in a plan: by the clock
// only the day is planned, never a cap opened. It goes by the block of the engine itself, or of its kind.
func cooling(e eventlog.EngineFacts) float64 {
	block := e.Cooling.BlockKJK
	if block <= 0 {
		block = kind(e).BlockKJK
	}
	return plant.StandingMinutes(block, plant.HotC, plant.TouchC, plant.StandingSpaceC)
}

// kind is what is usual for an engine of which little is known.
func kind(e eventlog.EngineFacts) plant.Type {
	return plant.TypeFor(e.Family, plant.Fuel(e.Fuel), plant.Aspiration(e.Cooling.Aspiration), cmp.Or(e.RatedKW, usualKW))
}

// usualKW is taken where nothing is known of an engine's power.
const usualKW = 60.0

// coolStep is as finely as the cooling is told, in minutes: nobody plans by less.
const coolStep = 10.0

// coolMinutes is what is left of the cooling, at least the feel of a hand.
func (s *State) coolMinutes(e eventlog.EngineFacts) float64 {
	left := cooling(e)
	if s.Heat.Value == "hot" && !s.now.IsZero() {
		left -= s.now.Sub(s.Heat.Since.saved).Minutes()
	}
	return max(handMinutes, coolStep*math.Ceil(left/coolStep))
}

// Before says what comes before a check on an engine with these facts.
func (s *State) Before(e eventlog.EngineFacts, k catalogue.Check) Before { return s.prior(e).of(k) }

func (s *State) prior(e eventlog.EngineFacts) *prior {
	return &prior{s: s, e: e, raw: s.Raw(e).State,
		conditions: sync.OnceValue(func() []teardown.Condition { return s.Conditions(e) }),
		stop: sync.OnceValue(func() units.Sentence {
			return units.Say("Stop at %.0f on the gauge, at steam or a smell", units.Of(alarmC(e)-stopUnder, "degC"))
		}),
		coolMinutes: sync.OnceValue(func() float64 { return s.coolMinutes(e) })}
}

// prior is a state of an engine, with what of it all checks share.
type prior struct {
	s           *State
	e           eventlog.EngineFacts
	raw         Water
	conditions  func() []teardown.Condition
	stop        func() units.Sentence // at what an engine that runs is stopped
	coolMinutes func() float64
}

func (p *prior) of(k catalogue.Check) Before {
	s, e := p.s, p.e
	a, _ := s.catalogue.AccessTo(k.Access)
	if k.Engine == catalogue.Running {
		b := p.beforeRun(k)
		b.Cautions = cautions(e, s.dry, a, k)
		return b
	}
	b := Before{Cautions: cautions(e, false, a, k)}
	for _, need := range append(slices.Clone(k.Needs), a.Needs...) {
		if shuts(e)(need) {
			need = shutSeacock // a raw-cooled block empties itself through what is opened
			if s.passes() {
				b.Barred = doesNotHold
			}
		}
		step, ok := p.need(need)
		if ok && !slices.ContainsFunc(b.Steps, func(x Step) bool { return x.ID == step.ID }) {
			b.Steps = append(b.Steps, step)
		}
	}
	return b
}

// petrolVapour is the caution of every start of a petrol engine, and of no other.
const petrolVapour = "petrol-vapour"

// dryRunning is the caution of every start of an engine to which no water came.
const dryRunning = "dry-running"

// cautions are those of an access and a check that apply: a raw-cooled block holds no glycol and has no pressure cap,
// and lets the sea in where others let coolant out; a petrol engine is not run without a thought of its vapour.
func cautions(e eventlog.EngineFacts, dry bool, a catalogue.Access, k catalogue.Check) []string {
	list := slices.Concat(a.Cautions, k.Cautions)
	if e.Fuel != "petrol" {
		list = slices.DeleteFunc(list, func(id string) bool { return id == petrolVapour })
	} else if k.Engine == catalogue.Running {
		list = append([]string{petrolVapour}, list...)
	}
	if dry {
		list = append(list, dryRunning)
	}
	if !e.HasCoolant() {
		if slices.ContainsFunc(slices.Concat(a.Needs, k.Needs), shuts(e)) {
			list = append([]string{"flooding"}, list...)
		}
		list = slices.DeleteFunc(list, func(id string) bool {
			return id == "glycol" || id == "scald" && !slices.Contains(k.Cautions, id)
		})
	}
	var once []string
	for _, id := range list {
		if !slices.Contains(once, id) {
			once = append(once, id)
		}
	}
	return once
}

// beforeRun is what comes before a check with the engine running: what is open is closed up and what is shut is opened;
// a part that is off, acid, milky oil, rubber at large bar it.
func (p *prior) beforeRun(k catalogue.Check) Before {
	s, b := p.s, Before{Watch: p.watch(k)}
	if s.dry && (k.Brief == 0 || k.Brief > longestRunDry) {
		b.Barred = tooLongDry
	}
	for _, c := range p.conditions() {
		id, isOpen := strings.CutPrefix(c.ID, "open:")
		switch {
		case c.Passed() || c.Settle == teardown.Tick: // the start list asks for the looks
		case isOpen && id == k.Access:
		case isOpen:
			o, _ := s.catalogue.Opening(id)
			b.Steps = append(b.Steps, Step{c.ID, "Close up: " + lower(o.Label), o.Minutes, true, c.Settle, c.Item})
		case c.Item == "seacock" || c.Item == "leg-hose":
			b.Steps = append(b.Steps, Step{c.ID, c.Label, handMinutes, p.raw == Shut, c.Settle, c.Item})
		case b.Barred == "":
			b.Barred = "Not while this stands in the way of a run. " + c.Label + ": " + c.Why + "."
		}
	}
	return b
}

// need is a state that a stopped check needs, where it is not so or not known; not ok where it is.
func (p *prior) need(id string) (Step, bool) {
	s, step, raw := p.s, Step{ID: id}, p.raw
	for _, n := range s.catalogue.Needs {
		if n.ID == id {
			step.Label = n.Label
		}
	}
	switch id {
	case shutSeacock:
		step.Minutes, step.Known, step.Settle, step.Item = handMinutes, raw == Open, teardown.Isolate, "seacock"
		if !slices.Contains(p.e.Circuit, "seacock") {
			step.Label, step.Item = "Ashore, or the leg's hose lifted and plugged", "leg-hose"
			return step, raw != Shut && !s.dryLand()
		}
		return step, raw != Shut
	case "engine-cold":
		step.Minutes, step.Known, step.Settle, step.Item = p.coolMinutes(), s.Heat.Value == "hot", teardown.Heat, "cold"
		return step, s.Heat.Value != "cold"
	case "coolant-drained":
		step.Known, step.Settle, step.Item = true, teardown.Isolate, "coolant"
		return step, !s.Hands.Shut("coolant")
	case "battery-off":
		step.Minutes, step.Settle, step.Item = handMinutes, teardown.Isolate, "battery"
		return step, !s.Hands.Shut("battery")
	}
	return Step{}, false
}

// Ahead is what the state means for all checks: those that it bars, with the reason, and the minutes that it costs
// before the others, beside their access.
type Ahead struct {
	Barred  map[string]string
	Minutes map[string]float64

	prior  *prior
	before map[string]Before // of the checks that can be made on the engine
}

// Ahead says what the state means for all checks on an engine with these facts.
func (s *State) Ahead(e eventlog.EngineFacts) *Ahead {
	a := &Ahead{map[string]string{}, map[string]float64{}, s.prior(e), map[string]Before{}}
	for _, k := range s.catalogue.Checks {
		if _, here := s.catalogue.StationOf(k, e.Family, e.Circuit); !here {
			continue
		}
		b := a.prior.of(k)
		a.before[k.ID] = b
		switch {
		case b.Barred != "":
			a.Barred[k.ID] = b.Barred
		case b.Minutes() > 0:
			a.Minutes[k.ID] = b.Minutes()
		}
	}
	return a
}

// Before says what comes before a check; not known where the catalogue has no such check.
func (a *Ahead) Before(check string) (b Before, known bool) {
	if b, known = a.before[check]; known {
		return b, true
	}
	k, known := a.prior.s.Check(check)
	if !known {
		return Before{}, false
	}
	return a.prior.of(k), true
}

// Check is a check of the catalogue.
func (s *State) Check(id string) (catalogue.Check, bool) { return s.catalogue.Check(id) }
