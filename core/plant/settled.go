package plant

import (
	"math"

	"hevrin/core/units"
)

// Unsettled is a round of which the engine cannot be taken to have been warm, and what to do.
type Unsettled struct {
	Round   int     // its place
	MoreMin float64 // to its thermostat, by the model; NaN where it does not get there so, or nobody said how long it ran
	Say     units.Sentence
}

// A reading this far under the thermostat's rating may be of an engine that warms up still, in K; an engine may take
// this much longer than the model says; at less than this share of rated speed in gear, or out of it, warming takes
// longer than anybody waits by habit. Common practice.
const (
	belowRatingK  = 3.0
	slowerThan    = 1.4
	idlesBelow    = 0.4
	longestWarmUp = 3 * 3600.0
)

// Unsettled says of a round that reads cold whether the engine can have been warm: by how long it had run, and its own
// transient from cold. Not ok where it was warm, or should have been.
func (p Plant) Unsettled(r Round) (u Unsettled, ok bool, err error) {
	read, cold := p.coldest(r)
	if !cold {
		return u, false, nil
	}
	op := r.Operation
	u.MoreMin = math.NaN()
	if r.RanMin == 0 && !op.OutOfGear && op.RPM >= idlesBelow*p.Engine.RatedRPM {
		return u, false, nil // it held a speed at which it warms while one gets there
	}
	warm, err := p.minutesToWarm(op)
	if err != nil {
		return u, false, err
	}
	so := units.Say("at %.0f rev/min", op.RPM)
	is := units.Of(read, "degC")
	switch {
	case r.RanMin == 0 && math.IsNaN(warm):
		u.Say = units.Say("%.0f %s: how long has it run? From cold this engine does not get to its thermostat so: raise the "+
			"speed, or put it in gear", is, so)
	case r.RanMin == 0:
		u.Say = units.Say("%.0f %s: how long has it run? From cold this engine takes about %.0f min to its thermostat so; "+
			"until that is said, it is no plateau", is, so, warm)
	case math.IsNaN(warm):
		u.Say = units.Say("%.0f after %.0f min %s is usual: it does not get to its thermostat so. Raise the speed, "+
			"or put it in gear", is, r.RanMin, so)
	case r.RanMin < slowerThan*warm:
		u.MoreMin = max(1, slowerThan*warm-r.RanMin)
		u.Say = units.Say("%.0f after %.0f min %s is usual: %.0f min more, or raise the speed", is, r.RanMin, so, u.MoreMin)
	default:
		return u, false, nil
	}
	return u, true, nil
}

// coldest is the coldest reading of the block's water, where it lies under the thermostat's rating.
func (p Plant) coldest(r Round) (float64, bool) {
	read := math.Inf(1)
	for _, x := range r.Reads {
		atBlock := x.Station == "thermostat" || x.Station == "block"
		if x.Station == "gauge" || atBlock && (x.Side != "raw" || p.Family == Direct) {
			read = min(read, x.Value)
		}
	}
	return read, read < p.ThermostatC-belowRatingK
}

// minutesToWarm is how long a healthy engine takes from the cold of the sea to its thermostat; NaN where it does not
// get there.
func (p Plant) minutesToWarm(op Operation) (float64, error) {
	const step, every, stretch = 20.0, 60.0, 600.0
	t := op.SeaC
	for begun := 0.0; begun < longestWarmUp; begun += stretch {
		list, err := p.FollowBy(t, []Phase{{UntilS: stretch, Operation: op, Health: Well()}}, every, step)
		if err != nil {
			return 0, err
		}
		for _, m := range list {
			if t = m.BlockC; t >= p.ThermostatC-belowRatingK {
				return (begun + m.Seconds) / 60, nil
			}
		}
	}
	return math.NaN(), nil
}

// settled parts rounds into those that can be judged and what is to be said of the others.
func (p Plant) settled(rounds []Round) (list []Round, not []Unsettled, err error) {
	for i, r := range rounds {
		u, is, err := p.Unsettled(r)
		if err != nil {
			return nil, nil, err
		}
		if is {
			u.Round = i
			not = append(not, u)
			continue
		}
		list = append(list, r)
	}
	return list, not, nil
}
