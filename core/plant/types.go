package plant

import "slices"

// Type is a kind of engine with what is usual for it. All figures but power and speed are starting values found by
// trial on whole-engine models, without a source: a healthy round of the very engine is worth more.
type Type struct {
	ID, Label     string
	Family        string
	Fuel          Fuel
	Aspiration    Aspiration
	RatedKW       float64
	RatedRPM      float64
	Exponent      float64
	LitresPerRev  float64
	SlipLMinKPa   float64 // L/min per kPa at the rated rise
	SuctionKPa    float64 // drops at the rated flow
	DeliveryKPa   float64
	CoolantLMin   float64
	UA            float64
	ThermostatC   float64
	BlockKJK      float64
	BlockShareMax float64
}

// types are invented engines of the usual kinds.
var types = []Type{
	{"small-diesel", "Small diesel, closed-cooled", Closed, Diesel, Natural, 15, 3000, 3, 0.0096, 0.08, 8, 25, 28, 280,
		82, 65, 0},
	{"diesel", "Diesel, closed-cooled", Closed, Diesel, Natural, 60, 3000, 3, 0.025, 0.20, 12, 40, 100, 950, 82, 175, 0},
	{"turbo-diesel", "Turbocharged diesel, closed-cooled", Closed, Diesel, Turbo, 220, 3400, 2.5, 0.075, 0.5, 15, 70, 300,
		2900, 82, 420, 0},
	{"petrol-v8", "Petrol V8, closed-cooled", Closed, Petrol, Natural, 150, 4600, 2.5, 0.036, 0.5, 12, 45, 240, 2700, 71,
		240, 0},
	{"old-diesel", "Old diesel, raw-water-cooled", Direct, Diesel, Natural, 12, 2600, 3, 0.0072, 0.07, 6, 20, 0, 0, 60,
		85, 0.42},
}

// Types lists the kinds of engine.
func Types() []Type { return slices.Clone(types) }

// TypeFor is the kind nearest to what is known of an engine.
func TypeFor(family string, f Fuel, a Aspiration, kW float64) Type {
	switch {
	case family == Direct:
		return types[4]
	case f == Petrol:
		return types[3]
	case a == Turbo:
		return types[2]
	case kW < 30:
		return types[0]
	}
	return types[1]
}

// stations of the raw side that take pressure, with their share of the suction's or delivery's drop.
var stationShares = []struct {
	station string
	before  bool
	share   float64
}{
	{"intake", true, 0.25}, {"seacock", true, 0.2}, {"strainer", true, 0.35}, {"suction-hose", true, 0.2},
	{"raw-filter", false, 0.1}, {"gear-cooler", false, 0.12}, {"oil-cooler", false, 0.12}, {"charge-cooler", false, 0.15},
	{"exchanger", false, 0.3}, {"thermostat", false, 0.1}, {"block", false, 0.25}, {"raw-hoses", false, 0.08},
	{"anti-siphon", false, 0.03},
	{"elbow", false, 0.25}, {"exhaust-hose", false, 0.03}, {"silencer", false, 0.07},
}

// What is the same for every engine: common practice, and found by trial.
const (
	fullOpenK    = 11.0
	leakShut     = 0.015
	mostShare    = 0.95
	pullsKPa     = 48.0
	gearLossPart = 0.03
	tubePart     = 0.4
	liftKPa      = 1.0
	headKPa      = 3.0
	shedPerKW    = 0.125 // W/K for each kW of rated power
	capBoilsC    = 115.0
	openBoilsC   = 100.0
)

// restrictions shares the drops of a type out over the stations that the circuit has.
func restrictions(circuit []string, t Type) []Restriction {
	total := map[bool]float64{}
	for _, s := range stationShares {
		if slices.Contains(circuit, s.station) && counts(s.station, t.Family) {
			total[s.before] += s.share
		}
	}
	kPa := map[bool]float64{true: t.SuctionKPa, false: t.DeliveryKPa}
	var list []Restriction
	for _, station := range circuit {
		for _, s := range stationShares {
			if s.station == station && counts(station, t.Family) {
				list = append(list, Restriction{station, kPa[s.before] * s.share / total[s.before], s.before})
			}
		}
	}
	return list
}

// counts says whether raw water goes through a station of this family.
func counts(station, family string) bool {
	return family == Direct || station != "thermostat" && station != "block"
}
