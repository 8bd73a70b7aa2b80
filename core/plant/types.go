package plant

import (
	"math"
	"slices"
)

// Type is a kind of engine with what is usual for it; see kinds.yaml for what its figures mean and where they come
// from.
type Type struct {
	ID            string     `yaml:"id"`
	Label         string     `yaml:"label"`
	Family        string     `yaml:"family"`
	Fuel          Fuel       `yaml:"fuel"`
	Aspiration    Aspiration `yaml:"aspiration"`
	RatedKW       float64    `yaml:"rated_kw"`
	RatedRPM      float64    `yaml:"rated_rpm"`
	Exponent      float64    `yaml:"exponent"`
	LitresPerRev  float64    `yaml:"litres_per_rev"`
	SlipLMinKPa   float64    `yaml:"slip"` // L/min per kPa at the rated rise
	SuctionKPa    float64    `yaml:"suction_kpa"`
	DeliveryKPa   float64    `yaml:"delivery_kpa"`
	CoolantLMin   float64    `yaml:"coolant_l_min"`
	UA            float64    `yaml:"ua"`
	ThermostatC   float64    `yaml:"thermostat_c"`
	AlarmC        float64    `yaml:"alarm_c"` // 0: as UsualAlarmC says
	BlockKJK      float64    `yaml:"block"`
	BlockShareMax float64    `yaml:"block_share"`
	Circuit       []string   `yaml:"circuit"`
}

// Types lists the kinds of engine, the usual ones first.
func Types() []Type { return slices.Clone(kinds()) }

// TypeFor is the kind nearest to what is known of an engine: of its family, then with its fuel, then breathing as it
// does, then nearest in power by ratio.
func TypeFor(family string, f Fuel, a Aspiration, kW float64) Type {
	off := func(t Type) float64 {
		d := math.Abs(math.Log(max(kW, 1) / t.RatedKW))
		for i, differs := range []bool{t.Family != family, t.Fuel != f, t.Aspiration != a} {
			if differs {
				d += math.Pow(100, float64(3-i))
			}
		}
		return d
	}
	return slices.MinFunc(kinds(), func(x, y Type) int {
		switch dx, dy := off(x), off(y); {
		case dx < dy:
			return -1
		case dx > dy:
			return 1
		}
		return 0
	})
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
