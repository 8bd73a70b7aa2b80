// Package workbench is what a technician judges at the bench: a thermostat in the pot, whether an impeller fits, what a
// surface thermometer really saw, and which repair is the cheapest to run.
package workbench

import (
	"cmp"
	"fmt"
	"slices"
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
	Reasons                                []string
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
		r.Reasons = append(r.Reasons, fmt.Sprintf(words, args...))
	}
	switch {
	case r.OpensC == nil && r.LargestLiftMM >= OpenLift && coldest < p.RatingC-p.OpenToleranceC:
		say(StuckOpen, "it stood %.1f mm open at %.1f °C, the coldest reading, well under its rating of %.0f °C",
			up[0].LiftMM, coldest, p.RatingC)
	case r.OpensC == nil && r.LargestLiftMM >= OpenLift:
		say(Unfinished, "it was open at the first reading, %.1f °C: start colder, below %.0f °C", coldest,
			p.RatingC-p.OpenToleranceC)
	case r.OpensC == nil && hottest >= full:
		say(StuckShut, "it never lifted %.1f mm, though the water reached %.1f °C", OpenLift, hottest)
	case r.OpensC == nil && hottest > open:
		say(Late, "it is not open at %.1f °C; it should open by %.1f °C. Heat on to %.0f °C to see whether it opens at "+
			"all",
			hottest, open, full)
	case r.OpensC == nil:
		say(Unfinished, "the water reached %.1f °C only: heat on to %.0f °C", hottest, full)
	default:
		p.decideLift(r, hottest, say)
	}
	if r.HysteresisC != nil && *r.HysteresisC > 8 {
		r.Reasons = append(r.Reasons,
			fmt.Sprintf("it shuts %.1f K below where it opens, which is much: sticky, or the pot cooled faster than the wax",
				*r.HysteresisC))
	}
}

func (p Pot) decideLift(r *PotResult, hottest float64, say func(Verdict, string, ...any)) {
	opens, full := *r.OpensC, p.RatingC+p.FullOpenAboveC
	switch {
	case opens > p.RatingC+p.OpenToleranceC:
		say(Late, "it opens at %.1f °C, %.1f K over its rating (allowed %.1f)", opens, opens-p.RatingC, p.OpenToleranceC)
	case opens < p.RatingC-p.OpenToleranceC:
		say(Early, "it opens at %.1f °C, %.1f K under its rating (allowed %.1f)", opens, p.RatingC-opens, p.OpenToleranceC)
	}
	switch {
	case r.LargestLiftMM < p.MinLiftMM && hottest >= full:
		say(Short, "it lifts %.1f mm at %.1f °C, and should lift %.1f mm by %.0f °C", r.LargestLiftMM, hottest, p.MinLiftMM,
			full)
	case r.LargestLiftMM < p.MinLiftMM:
		say(Unfinished, "it lifts %.1f mm so far, at %.1f °C: heat on to %.0f °C before judging the lift", r.LargestLiftMM,
			hottest, full)
	case r.FullOpenC != nil && *r.FullOpenC > full+p.OpenToleranceC:
		say(Late, "it is fully open at %.1f °C only (should be by %.0f °C)", *r.FullOpenC, full)
	}
	say(Good, "it opens at %.1f °C against its rating of %.0f °C and lifts %.1f mm", opens, p.RatingC, r.LargestLiftMM)
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
