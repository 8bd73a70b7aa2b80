package wetwork

import (
	"fmt"
	"slices"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// What may lie in a circuit.
const (
	Rubber = "rubber"
	Weed   = "weed"
	Sand   = "sand"
	Shell  = "shell"
	Sludge = "sludge"
)

// Debris lists what may lie in a circuit.
var Debris = []string{Rubber, Weed, Sand, Shell, Sludge}

// Where the flushing water comes from.
const (
	Hose   = "hose"   // from ashore, under pressure
	Engine = "engine" // its own pump, running
)

// FlushPlan is a flush to be planned: what lies where, on a circuit of raw-water stations in the order of the water.
type FlushPlan struct {
	Station         string `json:"station"` // where it lies
	Debris          string `json:"debris"`
	Source          string `json:"source"`
	ExhaustOff      bool   `json:"exhaust_off"`      // the exhaust hose is off at the elbow
	SeacockShut     bool   `json:"seacock_shut"`     // or the leg's hose off
	ByThePump       bool   `json:"by_the_pump"`      // a flush connection beside the pump
	ThermostatOpen  bool   `json:"thermostat_open"`  // when it came in: then it went further
	SilencerDrained bool   `json:"silencer_drained"` // and stays open while it runs
	// BothOff: both hoses of the station are off, so that no water goes on to the exhaust.
	BothOff bool `json:"both_off,omitempty"`
	// ImpellerOut: it stands in the way of a flush back through its pump.
	ImpellerOut bool `json:"impeller_out,omitempty"`
	// Also lists further places that are flushed in the same way, each with a timer of its own.
	Also []string `json:"also,omitempty"`
}

// Places lists where it is flushed, the first one first.
func (p FlushPlan) Places() []string { return append([]string{p.Station}, p.Also...) }

// Step is one step of a plan, at a station or, without one, anywhere.
type Step struct {
	Station string         `json:"station,omitempty"`
	Say     units.Sentence `json:"say"`
	Minutes float64        `json:"minutes,omitempty"`
}

// Minutes of each direction; common practice.
const (
	flushMinutes = 10.0
	riserMinutes = 15.0
)

// sinks are the low places where sand lies.
var sinks = []string{"circ-pump", "block", "exchanger"}

// Plan says what to open, which way first, how long, and where it comes out. It refuses what floods a cylinder or the
// boat.
func (p FlushPlan) Plan(raw []string) ([]Step, error) {
	if err := p.check(raw); err != nil {
		return nil, err
	}
	steps := []Step{{"", "flow before, by bucket and watch, with everything still closed", 0}}
	for _, station := range p.Places() {
		steps = append(steps, p.stepsAt(station, raw)...)
	}
	if p.Debris == Sand {
		for _, s := range sinks {
			if slices.Contains(raw, s) && !slices.Contains(p.Places(), s) {
				steps = append(steps, Step{s, "sand sinks: its low point too, until it runs clear", minutesAt(s)})
			}
		}
		if p.ThermostatOpen {
			steps = append(steps, Step{"thermostat", "it was open when the sand came in: it went further, so look behind it", 0})
		}
	}
	if p.Source == Hose && !p.BothOff {
		steps = append(steps, Step{"silencer", "drain it before the first start, hose water may lie in it", 0})
	}
	return append(steps, Step{"", "closed up again: flow after, by bucket and watch, at the same speed", 0}), nil
}

// minutesAt is how long each direction takes at a station.
func minutesAt(station string) float64 {
	if station == "elbow" || station == "block" {
		return riserMinutes
	}
	return flushMinutes
}

// stepsAt are the steps at one of the places.
func (p FlushPlan) stepsAt(station string, raw []string) []Step {
	at := slices.Index(raw, station)
	before, after := "", ""
	if at > 0 {
		before = raw[at-1]
	}
	if at+1 < len(raw) {
		after = raw[at+1]
	}
	minutes := minutesAt(station)
	out := "into a sieve over a bucket: look at what comes"
	if p.Debris == Rubber {
		out = "into a sieve: every piece goes into the piece ledger"
	}
	steps := []Step{{station, units.Say("open the joint on its inlet side, from %s, and hang it %s", named(before), out),
		0}}
	if p.Source == Hose {
		steps = append(steps, Step{station, units.Say(
			"open the joint on its outlet side, towards %s, and put the hose there", named(after)), 0},
			Step{station, "back-flush first: the way it came in is the way out", minutes},
			Step{station, "then forward, hose on the inlet side", minutes})
	} else {
		steps = append(steps, Step{station,
			"run it at idle with the seacock open, the outlet side into a bucket: this way pushes rubber on, so look first",
			minutes})
	}
	return append(steps, Step{station, "again, until two looks in a row show nothing", 0})
}

func named(station string) string {
	if station == "" {
		return "the sea"
	}
	return "{" + station + "}"
}

func (p FlushPlan) check(raw []string) error {
	var wrong validation.Errors
	if !slices.Contains(raw, p.Station) {
		wrong.Add("station", p.Station, "a station of this engine's raw water", "say where it lies")
	}
	for i, s := range p.Also {
		if !slices.Contains(raw, s) || slices.Contains(p.Places()[:i+1], s) {
			wrong.Add(fmt.Sprintf("also[%d]", i), s, "another station of this engine's raw water, each once",
				"say where else it is flushed")
		}
	}
	if !slices.Contains(Debris, p.Debris) {
		wrong.Add("debris", p.Debris, "rubber, weed, sand, shell, sludge", "say what it is")
	}
	if p.Source != Hose && p.Source != Engine {
		wrong.Add("source", p.Source, "hose, engine", "say where the water comes from")
	}
	if p.Source == Hose && !p.ExhaustOff && !p.SilencerDrained && !(p.BothOff && !slices.Contains(p.Places(), "elbow")) {
		wrong.Add("exhaust_off", "the exhaust connected",
			"the exhaust hose off at the elbow, both hoses of the station off, or the silencer's drain open",
			"hose water through a stopped engine fills the silencer and floods the cylinders: take the exhaust hose off at "+
				"the elbow, both hoses off what is flushed, let its own pump do it, or open the silencer's drain and leave it open")
	}
	if p.Source == Hose && slices.Contains(p.Places(), "raw-pump") && !p.ImpellerOut {
		wrong.Add("impeller_out", "in", "out",
			"the impeller holds the water back, and hose pressure tears it: take it out first")
	}
	if p.Source == Hose && p.ByThePump && !p.SeacockShut {
		wrong.Add("seacock_shut", "open", "shut",
			"with a flush connection beside the pump the hose water runs out through the hull: shut the seacock first")
	}
	return wrong.Err()
}
