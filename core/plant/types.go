package plant

import (
	"fmt"
	"slices"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
	"hevrin/core/input"
)

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
	{"small-diesel", "Small diesel, closed-cooled", Closed, Diesel, Natural, 15, 3000, 3, 0.0096, 0.08, 8, 25, 28, 280, 82, 65, 0},
	{"diesel", "Diesel, closed-cooled", Closed, Diesel, Natural, 60, 3000, 3, 0.025, 0.20, 12, 40, 100, 950, 82, 175, 0},
	{"turbo-diesel", "Turbocharged diesel, closed-cooled", Closed, Diesel, Turbo, 220, 3400, 2.5, 0.075, 0.5, 15, 70, 300, 2900, 82, 420, 0},
	{"petrol-v8", "Petrol V8, closed-cooled", Closed, Petrol, Natural, 150, 4600, 2.5, 0.036, 0.5, 12, 45, 240, 2700, 71, 240, 0},
	{"old-diesel", "Old diesel, raw-water-cooled", Direct, Diesel, Natural, 12, 2600, 3, 0.0072, 0.07, 6, 20, 0, 0, 60, 85, 0.42},
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

// Known is what a person knows of an engine; 0 and empty mean that they do not. Everything else comes from its type,
// scaled by power.
type Known struct {
	Family      string
	Fuel        Fuel
	Aspiration  Aspiration
	RatedKW     float64
	RatedRPM    float64
	Exponent    float64
	ThermostatC float64
	Circuit     []string
	RawLMin     float64 // at rated speed, by the maker or a bucket
	CoolantLMin float64
	UA          float64
	BlockKJK    float64
	Glycol      float64 // percent by volume
}

// stations of the raw side that take pressure, with their share of the suction's or delivery's drop.
var stationShares = []struct {
	station string
	before  bool
	share   float64
}{
	{"intake", true, 0.25}, {"seacock", true, 0.2}, {"strainer", true, 0.35}, {"suction-hose", true, 0.2},
	{"raw-filter", false, 0.1}, {"gear-cooler", false, 0.12}, {"oil-cooler", false, 0.12}, {"charge-cooler", false, 0.15},
	{"exchanger", false, 0.3}, {"thermostat", false, 0.1}, {"block", false, 0.25}, {"raw-hoses", false, 0.08}, {"anti-siphon", false, 0.03},
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

// New makes the plant of an engine from what is known of it.
func New(k Known) (Plant, error) {
	var wrong input.Errors
	if k.Family != Closed && k.Family != Direct {
		wrong.Add("family", k.Family, "closed, direct", "say whether she is closed-cooled or raw-water-cooled")
	}
	if k.RatedKW < 1 || k.RatedKW > 5000 {
		wrong.Add("rated_kw", k.RatedKW, "1 to 5000 kW", "the rated power is needed")
	}
	if k.RatedRPM < 300 || k.RatedRPM > 8000 {
		wrong.Add("rated_rpm", k.RatedRPM, "300 to 8000 rev/min", "the rated speed is needed")
	}
	if len(k.Circuit) == 0 {
		wrong.Add("circuit", "nothing", "station ids in the order of the water", "the circuit is needed")
	}
	if err := wrong.Err(); err != nil {
		return Plant{}, err
	}
	if k.Fuel == "" {
		k.Fuel = Diesel
	}
	if k.Aspiration == "" {
		k.Aspiration = Natural
		if k.Fuel == Diesel && slices.Contains(k.Circuit, "charge-cooler") {
			k.Aspiration = Turbo
		}
	}
	t := TypeFor(k.Family, k.Fuel, k.Aspiration, k.RatedKW)
	size := k.RatedKW / t.RatedKW
	or := func(known, usual float64) float64 {
		if known > 0 {
			return known
		}
		return usual
	}
	p := Plant{Family: k.Family, Circuit: k.Circuit, LiftKPa: liftKPa, HeadKPa: headKPa,
		Engine: Engine{Fuel: k.Fuel, RatedKW: k.RatedKW, RatedRPM: k.RatedRPM, PropellerExponent: or(k.Exponent, t.Exponent),
			HeatDefaults: DefaultsFor(k.Fuel, k.Aspiration, k.RatedKW), ExhaustJKgK: fluid.ExhaustSpecificHeat, AirC: 25},
		ThermostatC: or(k.ThermostatC, t.ThermostatC), FullOpenK: fullOpenK, ThermostatLow: leakShut, MostShare: mostShare,
		CoolantLMin: or(k.CoolantLMin, t.CoolantLMin*size), UA: or(k.UA, t.UA*size), TubeShare: tubePart, Arrangement: exchanger.ShellAndTube1,
		Coolant: fluid.Mix(fluid.Ethylene, or(k.Glycol, 45)), BlockKJK: or(k.BlockKJK, t.BlockKJK*size), ShedWK: shedPerKW * k.RatedKW,
		BoilsC: capBoilsC, GearLoss: gearLossPart}
	if k.Family == Direct {
		p.MostShare, p.BoilsC = t.BlockShareMax, openBoilsC
	}
	p.Run = restrictions(k.Circuit, t)
	rise := t.SuctionKPa + t.DeliveryKPa + liftKPa + headKPa
	slip := t.SlipLMinKPa * rise * size / pow(rise, 0.5) // told per kPa; goes as the root
	perRev := t.LitresPerRev * size * t.RatedRPM / k.RatedRPM
	p.Pump = hydraulics.Pump{LitresPerRev: perRev, State: 1, Slip: slip, MaxVacuumKPa: pullsKPa}
	if k.RawLMin > 0 {
		f := k.RawLMin / p.designFlow()
		p.Pump.LitresPerRev *= f
		p.Pump.Slip *= f
	}
	p, err := p.rated()
	if err != nil {
		return p, fmt.Errorf("the plant cannot be made: %w", err)
	}
	return p, nil
}

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
