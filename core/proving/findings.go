package proving

import "math"

// FindingLikelihood is what an act says of a finding of the catalogue, as its normalised likelihood.
type FindingLikelihood struct {
	Finding string
	Q       float64
}

// sure is what a run may say of a finding: a slip is never out of the question.
const sure = 0.95

// wetAt are the findings that a wet joint is, by its station.
var wetAt = map[string]string{"raw-pump": "wet-at-cover", "raw-hoses": "leak-in-delivery",
	"coolant-hoses": "wet-at-coolant-joint", "thermostat": "wet-at-coolant-joint", "header": "wet-at-coolant-joint",
	"circ-pump": "wet-at-weep-coolant"}

// shortOfRated is how far under rated speed the top speed may stay.
const shortOfRated = 0.97

// Findings are what an act tells the diagnosis, on an engine of a rated speed in rev/min and a thermostat's rating in
// °C.
func (a Act) Findings(ratedRPM, ratingC float64) []FindingLikelihood {
	is := func(finding string, so bool) FindingLikelihood {
		return FindingLikelihood{finding, map[bool]float64{true: sure, false: 1 - sure}[so]}
	}
	switch a.Do {
	case Prime:
		return []FindingLikelihood{is("no-prime", !a.Water)}
	case Look:
		if f, ok := wetAt[a.Station]; ok {
			return []FindingLikelihood{is(f, a.State != Dry)}
		}
	case Gauge:
		return []FindingLikelihood{is("gauge-off", math.Abs(*a.GaugeC-*a.ProbeC) > GaugeOffC)}
	case Needle:
		verdict := heldVerdict(a.held(), ratingC)
		list := []FindingLikelihood{is("plateau-above-rating", verdict == AboveRating), is("plateau-below-rating",
			verdict == BelowRating)}
		if a.ProbeC != nil {
			list = append(list, is("gauge-off", math.Abs(*a.GaugeC-*a.ProbeC) > GaugeOffC))
		}
		return list
	case Loaded:
		if a.TopRPM > 0 && !a.Held {
			return []FindingLikelihood{is("top-speed-short", a.TopRPM < shortOfRated*ratedRPM)}
		}
	case WarmUp:
		switch a.Warmed.Verdict {
		case Steady, AboveRating, BelowRating:
			return []FindingLikelihood{is("plateau-above-rating", a.Warmed.Verdict == AboveRating), is("plateau-below-rating",
				a.Warmed.Verdict == BelowRating)}
		}
	}
	return nil
}

// held is where the coolant stood, °C: what the thermometer says goes before the needle.
func (a Act) held() float64 {
	if a.ProbeC != nil {
		return *a.ProbeC
	}
	return *a.GaugeC
}

// heldVerdict says how a coolant that stood at cruising speed compares with the thermostat's rating, both in °C.
func heldVerdict(heldC, ratingC float64) Verdict {
	switch {
	case heldC-ratingC > UsualAbove[Cruise]:
		return AboveRating
	case ratingC-heldC > UsualBelow:
		return BelowRating
	}
	return Steady
}
