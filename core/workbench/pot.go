// Package workbench is what a technician judges at the bench: a thermostat in the pot, whether an impeller fits, what a
// surface thermometer really saw, and which repair is the cheapest to run.
package workbench

import (
	"cmp"
	"slices"

	"hevrin/core/units"
)

// PotReading is a thermostat's lift at a water temperature, on the way up or down.
type PotReading struct {
	TemperatureC float64 `json:"temperature_c"`
	LiftMM       float64 `json:"lift_mm"`
	Rising       bool    `json:"rising"`
}

// Verdict is what the pot says of a thermostat.
type Verdict string

// The verdicts. Unfinished means that the pot was not hot, or not cold, enough to judge.
const (
	Good       Verdict = "good"
	Late       Verdict = "late"
	Early      Verdict = "early"
	Short      Verdict = "short"
	StuckShut  Verdict = "stuck-shut"
	StuckOpen  Verdict = "stuck-open"
	Unfinished Verdict = "unfinished"
)

// Pot is a pot test. Tolerances are common practice.
type Pot struct {
	RatingC        float64
	Readings       []PotReading // in the order in which they were taken
	OpenToleranceC float64      // either side of the rating
	FullOpenAboveC float64      // at which it must be fully open, above the rating
	MinLiftMM      float64      // of a fully open valve
}

// OpenLift is the lift in mm from which a thermostat counts as open.
const OpenLift = 0.5

// fullShare is the share of the largest lift that counts as fully open.
const fullShare = 0.95

// PotResult is what the pot says; what was not seen is nil.
type PotResult struct {
	OpensC, FullOpenC, ShutsC, HysteresisC *float64
	LargestLiftMM                          float64
	Verdict                                Verdict
	Reasons                                []units.Sentence
}

// Judge says what the readings make of the thermostat. It needs two readings on the way up.
func (p Pot) Judge() PotResult {
	var up, down []PotReading
	for _, r := range p.Readings {
		if r.Rising {
			up = append(up, r)
		} else {
			down = append(down, r)
		}
	}
	largest := slices.MaxFunc(p.Readings, func(a, b PotReading) int { return cmp.Compare(a.LiftMM, b.LiftMM) }).LiftMM
	r := PotResult{LargestLiftMM: largest, OpensC: crossing(up, OpenLift, true)}
	if largest >= OpenLift {
		r.FullOpenC = crossing(up, fullShare*largest, true)
		r.ShutsC = crossing(down, OpenLift, false)
	}
	if r.OpensC != nil && r.ShutsC != nil {
		d := *r.OpensC - *r.ShutsC
		r.HysteresisC = &d
	}
	p.decide(&r, up)
	return r
}

func (p Pot) decide(r *PotResult, up []PotReading) {
	coldest, hottest := up[0].TemperatureC, up[0].TemperatureC
	for _, u := range up {
		coldest, hottest = min(coldest, u.TemperatureC), max(hottest, u.TemperatureC)
	}
	open, full := p.RatingC+p.OpenToleranceC, p.RatingC+p.FullOpenAboveC
	say := func(v Verdict, words string, args ...any) {
		if r.Verdict == "" {
			r.Verdict = v
		}
		r.Reasons = append(r.Reasons, units.Say(words, args...))
	}
	switch {
	case r.OpensC == nil && r.LargestLiftMM >= OpenLift && coldest < p.RatingC-p.OpenToleranceC:
		say(StuckOpen, "it stood %.1f open at %.1f, the coldest reading, well under its rating of %.0f",
			units.Of(up[0].LiftMM, "mm"), units.Of(coldest, "degC"), units.Of(p.RatingC, "degC"))
	case r.OpensC == nil && r.LargestLiftMM >= OpenLift:
		say(Unfinished, "it was open at the first reading, %.1f: start colder, below %.0f", units.Of(coldest, "degC"),
			units.Of(p.RatingC-p.OpenToleranceC, "degC"))
	case r.OpensC == nil && hottest >= full:
		say(StuckShut, "it never lifted %.1f, though the water reached %.1f", units.Of(OpenLift, "mm"),
			units.Of(hottest, "degC"))
	case r.OpensC == nil && hottest > open:
		say(Late, "it is not open at %.1f; it should open by %.1f. Heat on to %.0f to see whether it opens at "+
			"all",
			units.Of(hottest, "degC"), units.Of(open, "degC"), units.Of(full, "degC"))
	case r.OpensC == nil:
		say(Unfinished, "the water reached %.1f only: heat on to %.0f", units.Of(hottest, "degC"), units.Of(full, "degC"))
	default:
		p.decideLift(r, hottest, say)
	}
	if r.HysteresisC != nil && *r.HysteresisC > 8 {
		r.Reasons = append(r.Reasons,
			units.Say("it shuts %.1f below where it opens, which is much: sticky, or the pot cooled faster than the wax",
				units.Of(*r.HysteresisC, "K")))
	}
}

func (p Pot) decideLift(r *PotResult, hottest float64, say func(Verdict, string, ...any)) {
	opens, full := *r.OpensC, p.RatingC+p.FullOpenAboveC
	switch {
	case opens > p.RatingC+p.OpenToleranceC:
		say(Late, "it opens at %.1f, %.1f over its rating (allowed %.1f)", units.Of(opens, "degC"),
			units.Of(opens-p.RatingC, "K"),
			units.Of(p.OpenToleranceC, "K"))
	case opens < p.RatingC-p.OpenToleranceC:
		say(Early, "it opens at %.1f, %.1f under its rating (allowed %.1f)", units.Of(opens, "degC"),
			units.Of(p.RatingC-opens, "K"),
			units.Of(p.OpenToleranceC, "K"))
	}
	switch {
	case r.LargestLiftMM < p.MinLiftMM && hottest >= full:
		say(Short, "it lifts %.1f at %.1f, and should lift %.1f by %.0f", units.Of(r.LargestLiftMM, "mm"),
			units.Of(hottest, "degC"), units.Of(p.MinLiftMM, "mm"),
			units.Of(full, "degC"))
	case r.LargestLiftMM < p.MinLiftMM:
		say(Unfinished, "it lifts %.1f so far, at %.1f: heat on to %.0f before judging the lift",
			units.Of(r.LargestLiftMM, "mm"),
			units.Of(hottest, "degC"), units.Of(full, "degC"))
	case r.FullOpenC != nil && *r.FullOpenC > full+p.OpenToleranceC:
		say(Late, "it is fully open at %.1f only (should be by %.0f)", units.Of(*r.FullOpenC, "degC"), units.Of(full, "degC"))
	}
	say(Good, "it opens at %.1f against its rating of %.0f and lifts %.1f", units.Of(opens, "degC"),
		units.Of(p.RatingC, "degC"), units.Of(r.LargestLiftMM, "mm"))
	if r.Verdict != Good {
		r.Reasons = r.Reasons[:len(r.Reasons)-1]
	}
}

// crossing is the temperature at which the lift passes a height, between the two readings around it; nil when it does
// not pass it.
func crossing(list []PotReading, lift float64, upward bool) *float64 {
	for i := 1; i < len(list); i++ {
		a, b := list[i-1], list[i]
		if !upward {
			a, b = b, a
		}
		if a.LiftMM < lift && b.LiftMM >= lift {
			t := a.TemperatureC + (b.TemperatureC-a.TemperatureC)*(lift-a.LiftMM)/(b.LiftMM-a.LiftMM)
			return &t
		}
	}
	return nil
}
