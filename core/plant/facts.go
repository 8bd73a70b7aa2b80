package plant

import (
	"fmt"
	"slices"
	"strings"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// EngineFacts is what a person knows of an engine; 0, nil and empty mean that they do not. Everything else comes from
// its type, scaled by power.
type EngineFacts struct {
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
	Rating      *MakersRating // in place of UA
	Tubes       *Tubes        // in place of UA
	BlockKJK    float64
	Glycol      float64 // percent by volume
	AlarmC      float64 // block temperature at which its own alarm sounds
}

// MakersRating is what a maker's sheet says that an exchanger passes: so much heat from so much coolant to so much raw
// water, clean.
type MakersRating struct {
	HeatKW      float64
	CoolantLMin float64
	CoolantInC  float64
	RawLMin     float64
	RawInC      float64
}

// Tubes is an exchanger's stack as it is counted and measured; lengths in mm. ShellWM2K, over the outside, may be 0:
// usual.
type Tubes struct {
	Tubes, Passes int
	InnerMM       float64
	OuterMM       float64
	LengthMM      float64
	ShellWM2K     float64
}

// What a stack is computed with when nobody says; the wall's figure for 90/10 copper-nickel from memory, the film's by
// trial: it gives the whole-engine model's usual share of resistance.
const (
	copperNickelWMK = 50.0
	drawnTubeMM     = 0.0015
	usualShellWM2K  = 3500.0
	stackMeanC      = 30.0
)

// limit is the range that a fact may lie in: wide enough for any boat, narrow enough for a slipped digit. Common
// practice.
type limit struct {
	field       string
	value       float64
	least, most float64
	unit        string
}

func (k EngineFacts) limits() []limit {
	list := []limit{{"cooling.propeller_exponent", k.Exponent, 1, 4, ""}, {"cooling.raw_l_min", k.RawLMin, 1, 20000,
		"L/min"}, {"cooling.coolant_l_min", k.CoolantLMin, 1, 40000, "L/min"},
		{"cooling.ua_w_k", k.UA, 10, 1e6, "W/K"}, {"cooling.block_kj_k", k.BlockKJK, 5, 1e5, "kJ/K"},
		{"cooling.glycol_percent_volume", k.Glycol, 1, 60, "% by volume"},
		{"cooling.alarm_c", k.AlarmC, k.ThermostatC + leastOverRating, boils(k.Family) - 1, "degC"}}
	if r := k.Rating; r != nil {
		at := "cooling.exchanger_rating."
		list = append(list, limit{at + "heat_kw", must(r.HeatKW), 0.5, 20000, "kW"}, limit{at + "coolant_l_min",
			must(r.CoolantLMin), 1, 40000, "L/min"},
			limit{at + "coolant_in_c", must(r.CoolantInC), 30, 120, "degC"}, limit{at + "raw_l_min", must(r.RawLMin), 1, 20000,
				"L/min"}, limit{at + "raw_in_c", must(r.RawInC), 1, 60, "degC"})
	}
	if s := k.Tubes; s != nil {
		at := "cooling.exchanger_tubes."
		list = append(list, limit{at + "tubes", must(float64(s.Tubes)), 1, 2000, ""}, limit{at + "passes",
			must(float64(s.Passes)), 1, 12, ""}, limit{at + "inner_diameter_mm", must(s.InnerMM), 2, 50, "mm"},
			limit{at + "outer_diameter_mm", must(s.OuterMM), max(2, s.InnerMM+0.1), 60, "mm"}, limit{at + "length_mm",
				must(s.LengthMM), 50, 5000, "mm"}, limit{at + "shell_coefficient_w_m2_k", s.ShellWM2K, 50, 20000, "W/(m² K)"})
	}
	return list
}

// must makes a figure that has to be given fail its range when it is not.
func must(v float64) float64 {
	if v == 0 {
		return -1
	}
	return v
}

// cooled is a family of another name as its circuit cools: Closed where it has a heat exchanger, else Direct.
func (k EngineFacts) cooled() EngineFacts {
	switch {
	case k.Family == "" || k.Family == Closed || k.Family == Direct:
	case slices.Contains(k.Circuit, "exchanger"):
		k.Family = Closed
	default:
		k.Family = Direct
	}
	return k
}

func (k EngineFacts) check() error {
	var wrong validation.Errors
	if k.Family == "" {
		wrong.Add("family", k.Family, "closed, direct, or another family of the catalogue",
			"say whether it is closed-cooled or raw-water-cooled")
	}
	if !(k.RatedKW >= 1 && k.RatedKW <= 5000) {
		wrong.Add("rated_kw", k.RatedKW, units.Range(1, 5000, "kW"), "the rated power is needed")
	}
	if !(k.RatedRPM >= 300 && k.RatedRPM <= 8000) {
		wrong.Add("rated_rpm", k.RatedRPM, "300 to 8000 rev/min", "the rated speed is needed")
	}
	if len(k.Circuit) == 0 {
		wrong.Add("circuit", "nothing", "station ids in the order of the water", "the circuit is needed")
	}
	for _, l := range k.limits() {
		if l.value != 0 && !(l.value >= l.least && l.value <= l.most) {
			wrong.Add(l.field, l.value, units.Range(l.least, l.most, l.unit),
				"look at the figure and its unit again, or leave it empty")
		}
	}
	ways := 0
	for _, given := range []bool{k.UA != 0, k.Rating != nil, k.Tubes != nil} {
		if given {
			ways++
		}
	}
	if ways > 1 {
		wrong.Add("cooling", "two or more", "one of ua_w_k, exchanger_rating, exchanger_tubes",
			"the exchanger is known in one way: keep the one you trust most")
	}
	if k.Family == Direct && ways+boolInt(k.CoolantLMin != 0)+boolInt(k.Glycol != 0) > 0 {
		wrong.Add("cooling", "an exchanger or coolant", "neither",
			"a raw-water-cooled engine has no coolant and no heat exchanger: leave them empty")
	}
	return wrong.Err()
}

func boolInt(b bool) int {
	if b {
		return 1
	}
	return 0
}

// guessed fills in what can be told from the rest.
func (k EngineFacts) guessed() EngineFacts {
	if k.Fuel == "" {
		k.Fuel = Diesel
	}
	if k.Aspiration == "" {
		k.Aspiration = Natural
		if k.Fuel == Diesel && slices.Contains(k.Circuit, "charge-cooler") {
			k.Aspiration = Turbo
		}
	}
	return k
}

func or(known, usual float64) float64 {
	if known > 0 {
		return known
	}
	return usual
}

const usualGlycol = 45.0

// boils is where the coolant of a family boils under its cap, in °C, or its raw water under none.
func boils(family string) float64 {
	if family == Direct {
		return openBoilsC
	}
	return capBoilsC
}

// New makes the plant of an engine from what is known of it.
func New(k EngineFacts) (Plant, error) {
	k = k.cooled()
	if err := k.check(); err != nil {
		return Plant{}, err
	}
	k = k.guessed()
	t := TypeFor(k.Family, k.Fuel, k.Aspiration, k.RatedKW)
	size := k.RatedKW / t.RatedKW
	p := Plant{Family: k.Family, Circuit: k.Circuit, LiftKPa: liftKPa, HeadKPa: headKPa, own: Well(),
		Engine: Engine{Fuel: k.Fuel, RatedKW: k.RatedKW, RatedRPM: k.RatedRPM, PropellerExponent: or(k.Exponent, t.Exponent),
			HeatDefaults: DefaultsFor(k.Fuel, k.Aspiration, k.RatedKW), ExhaustJKgK: fluid.ExhaustSpecificHeat, AirC: 25},
		ThermostatC: or(k.ThermostatC, t.ThermostatC), FullOpenK: fullOpenK, ThermostatLow: leakShut, MostShare: mostShare,
		CoolantLMin: or(k.CoolantLMin, t.CoolantLMin*size), UA: or(k.UA, t.UA*size), TubeShare: tubePart,
		Arrangement: exchanger.ShellAndTube1,
		Coolant:     fluid.Mix(fluid.Ethylene, or(k.Glycol, usualGlycol)), BlockKJK: or(k.BlockKJK, t.BlockKJK*size),
		ShedWK: shedPerKW * k.RatedKW,
		BoilsC: boils(k.Family), GearLoss: gearLossPart}
	p.AlarmC = or(k.AlarmC, t.UsualAlarmC(p.ThermostatC))
	if k.Family == Direct {
		p.MostShare = t.BlockShareMax
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
	return p.withExchanger(k)
}

// withExchanger takes the conductance from a maker's rating or a stack's measures.
func (p Plant) withExchanger(k EngineFacts) (Plant, error) {
	switch {
	case k.Rating != nil:
		r := k.Rating
		stream := func(f fluid.Fluid, lMin, inC float64) exchanger.Stream {
			x := f.At(inC)
			return exchanger.Stream{C: lMin / 60000 * x.DensityKgM3 * x.SpecificHeat, InC: inC}
		}
		rating, err := exchanger.FromHeat(p.Arrangement, stream(p.Coolant, r.CoolantLMin, r.CoolantInC),
			stream(fluid.SeaWater(fluid.OceanSalinity), r.RawLMin, r.RawInC), 1000*r.HeatKW)
		if err != nil {
			var wrong validation.Errors
			wrong.Add("cooling.exchanger_rating.heat_kw", r.HeatKW, "what these flows and temperatures can pass",
				"no exchanger passes %g between these: look at the flows and temperatures on the sheet again",
				units.Of(r.HeatKW, "kW"))
			return p, wrong
		}
		// from the sheet's flows to this engine's
		p.UA = rating.UA * (p.TubeShare*pow(r.RawLMin/p.Rated.RawLMin, -tubeExponent) +
			(1-p.TubeShare)*pow(r.CoolantLMin/p.Rated.ShellLMin, -shellExponent))
	case k.Tubes != nil:
		s := exchanger.Stack{Tubes: k.Tubes.Tubes, Passes: k.Tubes.Passes, InnerDiameter: k.Tubes.InnerMM,
			OuterDiameter: k.Tubes.OuterMM, Length: k.Tubes.LengthMM,
			WallConductivity: copperNickelWMK, Roughness: drawnTubeMM, ScaleConductivity: 1,
			ShellCoefficient: or(k.Tubes.ShellWM2K, usualShellWM2K),
			Fluid:            fluid.SeaWater(fluid.OceanSalinity), FlowLMin: p.Rated.RawLMin, MeanC: stackMeanC}.Rate()
		p.UA, p.TubeShare = s.UA, s.ResistanceInside*s.U
	}
	return p, nil
}

// Where a fact of a plant comes from.
const (
	Given     = "given"    // by a person
	Usual     = "usual"    // for its type, scaled by power
	FromModel = "reckoned" // from what was given
	Baseline  = "baseline" // from a healthy round
)

// Fact is a figure of the plant and where it comes from.
type Fact struct {
	ID, Label string
	Value     float64
	Unit      string // of core/quantity
	From      string
	Why       units.Sentence
}

// Facts lists the figures of a plant made of what is known, with the source of each.
func (p Plant) Facts(k EngineFacts) []Fact {
	k = k.cooled().guessed()
	t := TypeFor(k.Family, k.Fuel, k.Aspiration, k.RatedKW)
	plain := units.Sentence("usual for its type: " + strings.ToLower(t.Label[:1]) + t.Label[1:])
	scaled := units.Say("%s, scaled to %g", plain, units.Of(k.RatedKW, "kW"))
	alarmWhy := plain
	switch p.AlarmC {
	case t.AlarmC:
	case p.ThermostatC + overRating:
		alarmWhy = units.Say("%.0f over the thermostat's rating; common practice", units.Of(overRating, "K"))
	default:
		alarmWhy = units.Say("%.0f under boiling; common practice", units.Of(underBoiling, "K"))
	}
	fact := func(id, label string, value, given float64, unit string, usual units.Sentence) Fact {
		if given > 0 {
			return Fact{id, label, value, unit, Given, "as you gave it"}
		}
		return Fact{id, label, value, unit, Usual, usual}
	}
	list := []Fact{
		fact("propeller_exponent", "Power goes with speed to the power", p.Engine.PropellerExponent, k.Exponent, "1",
			plain+"; 3 for a displacement hull, 2.5 planing"),
		fact("raw_l_min", "Raw water at rated speed", p.Rated.RawLMin*p.own.Raw, k.RawLMin, "L/min", scaled),
		fact("block_kj_k", "Heat that the block holds", p.BlockKJK, k.BlockKJK, "kJ/K", scaled),
		fact("alarm_c", "Its alarm sounds at", p.AlarmC, k.AlarmC, "degC", alarmWhy),
	}
	if p.Family == Closed {
		ua := fact("ua_w_k", "Exchanger's conductance UA, clean", p.UA*p.own.UA, k.UA, "W/K",
			scaled+"; unknown, calibrate by a healthy round")
		if k.Rating != nil {
			ua.From, ua.Why = FromModel, "from the maker's rating, carried to this engine's flows"
		} else if k.Tubes != nil {
			ua.From, ua.Why = FromModel, units.Say("from the stack: %d tubes of %g, %g long, copper-nickel",
				k.Tubes.Tubes, units.Of(k.Tubes.OuterMM, "mm"), units.Of(k.Tubes.LengthMM, "mm"))
		}
		list = append(list, ua, fact("coolant_l_min", "Coolant pump at rated speed", p.CoolantLMin*p.own.CoolantFlow,
			k.CoolantLMin, "L/min", scaled),
			fact("glycol_percent_volume", "Glycol in the coolant", or(k.Glycol, usualGlycol), k.Glycol, "percent",
				"common practice"))
	}
	if p.about != nil {
		for i, f := range list {
			if slices.Contains([]string{"raw_l_min", "ua_w_k", "coolant_l_min"}, f.ID) {
				list[i].From = Baseline
				list[i].Why = units.Sentence("fitted to its own healthy round, beginning from what is " + f.From)
			}
		}
	}
	return list
}
