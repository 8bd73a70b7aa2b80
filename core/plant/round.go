package plant

import (
	"math"

	"hevrin/core/units"
)

// Instrument is what something was read with.
type Instrument string

// The instruments.
const (
	Contact Instrument = "contact" // probe pressed on, or in the water
	Surface Instrument = "surface" // infrared
	Dash    Instrument = "gauge"
	Bucket  Instrument = "bucket"
)

// UsualError is the error that a reading is taken to have when nobody says: ±1 K by contact, ±2 K by a surface
// thermometer and on the dash, 5 % of a flow; common practice.
func UsualError(station string, with Instrument, value float64) float64 {
	const contact, surface, flowShare, leastFlow = 1.0, 2.0, 0.05, 0.2
	switch {
	case station == "flow":
		return max(flowShare*math.Abs(value), leastFlow)
	case station == "gauge" || with == Surface || with == Dash:
		return surface
	}
	return contact
}

// Should is what a healthy engine reads at a station, with one standard deviation of healthy engines about it.
type Should struct {
	Reading
	SpreadK float64
}

// Shoulds lists what should be read at every station at an operation.
func (p Plant) Shoulds(op Operation) ([]Should, error) {
	s, err := p.Steady(op, Well())
	if err != nil {
		return nil, err
	}
	round := Round{Operation: op}
	for _, r := range s.Readings {
		round.Reads = append(round.Reads, Read{Station: r.Station, Side: r.Side})
	}
	healthy, err := p.inHealth([]Round{round})
	if err != nil {
		return nil, err
	}
	spread := p.spreads(healthy)
	list := make([]Should, len(s.Readings))
	for i, r := range s.Readings {
		list[i] = Should{r, spread[i]}
	}
	return list, nil
}

// Doubt is a reading that may be a slip, and the question to ask. It is kept if the person insists.
type Doubt struct {
	Round, Read int
	Say         units.Sentence
}

// farOff is how far from health a temperature may lie, in K, before the slip of a unit is asked about.
const farOff = 45.0

// Doubts asks about readings that look like slips: raw water hotter than the coolant, colder than the sea, or a number
// that would fit in °F.
func (p Plant) Doubts(rounds []Round) ([]Doubt, error) {
	var list []Doubt
	for i, r := range rounds {
		s, err := p.Steady(r.Operation, Well())
		if err != nil {
			return nil, err
		}
		hottest, known := 0.0, false
		for _, x := range r.Reads {
			if p.Family == Closed && (x.Station == "thermostat" || x.Station == "block") {
				hottest, known = max(hottest, x.Value), true
			}
		}
		for k, x := range r.Reads {
			if say := s.doubt(x, r.Operation.SeaC, hottest, known); say != "" {
				list = append(list, Doubt{i, k, say})
			}
		}
	}
	return list, nil
}

// mixed are the stations after the exhaust has met the water: hotter than the coolant may be true there.
var mixed = map[string]bool{"elbow": true, "exhaust-hose": true, "silencer": true, "outlet": true}

func (s State) doubt(x Read, sea, hottest float64, known bool) units.Sentence {
	if x.Station == "flow" {
		if x.Value > 2*s.RawLMin {
			return units.Say("%.0f is twice what this pump moves: is it L/min?", units.Of(x.Value, "L/min"))
		}
		return ""
	}
	should, err := s.value(x)
	if err != nil {
		return ""
	}
	celsius := (x.Value - 32) / 1.8
	switch {
	case x.Side == "raw" && known && !mixed[x.Station] && x.Value > hottest:
		return units.Say("raw water of %.0f, hotter than the coolant's %.0f: are the two swapped?", units.Of(x.Value, "degC"),
			units.Of(hottest, "degC"))
	case x.Value-should > farOff && math.Abs(celsius-should) < 20:
		return units.Say("%.0f is far over what is read there: was it °F? That would be %.0f", x.Value,
			units.Of(celsius, "degC"))
	case x.Side == "raw" && x.Value < sea-3:
		return units.Say("%.0f is colder than the sea's %.0f: read it again?", units.Of(x.Value, "degC"),
			units.Of(sea, "degC"))
	case x.Side == "coolant" && x.Station != "gauge" && x.Value < sea:
		return units.Say("coolant of %.0f, colder than the sea: is it the raw side?", units.Of(x.Value, "degC"))
	}
	return ""
}
