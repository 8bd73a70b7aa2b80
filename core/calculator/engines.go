package calculator

import (
	"math"

	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

type engineHeatIn struct {
	Fuel          plant.Fuel       `json:"fuel"`
	Aspiration    plant.Aspiration `json:"aspiration"`
	RatedKW       float64          `json:"rated_kw"`
	RatedRPM      float64          `json:"rated_rpm"`
	RPM           float64          `json:"rpm"`
	Exponent      float64          `json:"propeller_exponent"`
	AirC          float64          `json:"air_c"`
	Efficiency    *float64         `json:"indicated_efficiency_percent"`
	Friction      *float64         `json:"friction_percent"`
	CoolantShare  *float64         `json:"coolant_share_percent"`
	OilShare      *float64         `json:"oil_share_percent"`
	ExhaustShare  *float64         `json:"exhaust_share_percent"`
	AirFuel       *float64         `json:"air_fuel_ratio"`
	GasHeatJPerKg float64          `json:"gas_specific_heat_j_kg_k"`
}

type engineHeatOut struct {
	PowerKW      float64 `json:"power_kw"`
	FuelLH       float64 `json:"fuel_l_h"`
	CoolantKW    float64 `json:"coolant_heat_kw"`
	OilKW        float64 `json:"oil_heat_kw"`
	ExhaustKW    float64 `json:"exhaust_heat_kw"`
	ChargeKW     float64 `json:"charge_cooler_heat_kw"`
	RestKW       float64 `json:"rest_heat_kw"`
	FuelKW       float64 `json:"fuel_kw"`
	GasKgH       float64 `json:"exhaust_gas_kg_h"`
	GasC         float64 `json:"exhaust_gas_c"`
	AirFuelRatio float64 `json:"air_fuel_ratio"`
}

var engineHeat = define(Calculator{
	Name: "engine-heat", Asks: "How much heat does the engine make?", Group: "Water and heat",
	About: "From power and speed: what the coolant must carry, what leaves with the exhaust, what it burns.",
	Fields: []Field{
		choice("fuel", "Fuel", plant.Fuels),
		choice("aspiration", "Aspiration", plant.Aspirations).standard(string(plant.Natural)),
		num("rated_kw", "Rated power", "kW", 1, 5000),
		num("rated_rpm", "Rated speed", "rpm", 300, 8000),
		num("rpm", "Speed now", "rpm", 100, 8800),
		num("propeller_exponent", "Propeller curve", "1", 1,
			4).standard(3.0).help("Power goes as speed to this").suggest(Suggest{"Displacement hull", 3},
			Suggest{"Planing hull", 2.5}),
		num("air_c", "Air that it breathes", "degC", -30, 80).standard(25.0).more(),
		num("indicated_efficiency_percent", "Indicated efficiency", "percent", 15,
			60).optional().more().help("By type: 45 % diesel, 36 % petrol"),
		num("friction_percent", "Friction at rated speed, of rated power", "percent", 1, 60).optional().more(),
		num("coolant_share_percent", "Share of waste heat to coolant", "percent", 0, 100).optional().more(),
		num("oil_share_percent", "Share to oil and gearbox", "percent", 0, 100).optional().more(),
		num("exhaust_share_percent", "Share to exhaust", "percent", 0, 100).optional().more(),
		num("air_fuel_ratio", "Air to fuel at rated power, by mass", "1", 8, 100).optional().more(),
		num("gas_specific_heat_j_kg_k", "Specific heat of the exhaust", "J/(kg K)", 900,
			1500).standard(fluid.ExhaustSpecificHeat).more(),
	},
	Results: []Result{
		{Name: "coolant_heat_kw", Label: "Heat to the coolant", Kind: Number, Unit: "kW", Main: true},
		{Name: "power_kw", Label: "Power at this speed", Kind: Number, Unit: "kW", Main: true},
		{Name: "fuel_l_h", Label: "Fuel", Kind: Number, Unit: "L/h", Main: true},
		{Name: "exhaust_gas_kg_h", Label: "Exhaust gas", Kind: Number, Unit: "kg/h"},
		{Name: "exhaust_gas_c", Label: "Exhaust gas before the elbow", Kind: Number, Unit: "degC"},
		{Name: "oil_heat_kw", Label: "Heat to oil and gearbox", Kind: Number, Unit: "kW"},
		{Name: "exhaust_heat_kw", Label: "Heat in the exhaust", Kind: Number, Unit: "kW"},
		{Name: "charge_cooler_heat_kw", Label: "Heat to the charge cooler", Kind: Number, Unit: "kW"},
		{Name: "rest_heat_kw", Label: "Heat to the engine space", Kind: Number, Unit: "kW"},
		{Name: "fuel_kw", Label: "Fuel power", Kind: Number, Unit: "kW"},
		{Name: "air_fuel_ratio", Label: "Air to fuel, by mass", Kind: Number, Unit: "1"},
	},
	Notes: []string{"Power, coolant, oil, exhaust, charge cooler and the rest add up to the fuel's power.",
		"The figures by type are starting values found by trial, without a source: a healthy run of this very engine is " +
			"worth more. Speeds over 1.1 of rated are refused."},
	Sources: []string{"Net calorific values: diesel 42.8, petrol 43.5 MJ/kg (memory)",
		"Propeller curve and Willans line: common practice"},
	Example: `{"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "rpm": 2400}`,
}, func(in engineHeatIn, t *Reporter) (engineHeatOut, error) {
	e, err := in.engine()
	if err != nil {
		return engineHeatOut{}, err
	}
	h := e.At(in.RPM)
	r := in.RPM / in.RatedRPM
	t.step("Speed over rated", "r = n / n_rated", Term{"r", r, "1"})
	t.step("Power on the propeller curve", "P = P_rated r^e", Term{"P", h.PowerKW, "kW"}, Term{"e", in.Exponent, "1"})
	t.step("Fuel power", "(P + friction · P_rated · r (0.75 + 0.25 r)) / efficiency", Term{"F", h.FuelKW, "kW"},
		Term{"friction", 100 * e.Friction, "percent"}, Term{"efficiency", 100 * e.IndicatedEfficiency, "percent"})
	t.step("Waste heat", "W = F − P", Term{"W", h.FuelKW - h.PowerKW, "kW"})
	t.step("To the coolant", "its share of W", Term{"Q", h.CoolantKW, "kW"},
		Term{"share", 100 * h.CoolantKW / (h.FuelKW - h.PowerKW), "percent"})
	t.step("Exhaust gas", "air and fuel by mass", Term{"ṁ", h.GasKgH, "kg/h"}, Term{"air : fuel", h.AirFuel, "1"})
	t.step("Its temperature", "t_air + Q_exhaust / (ṁ c)", Term{"T", h.GasC, "degC"}, Term{"Q_exhaust", h.ExhaustKW,
		"kW"})
	t.warnIf(r > 1, "it turns faster than rated: the curve is stretched")
	t.warnIf(h.GasC > 800, "an exhaust of %.0f is more than engines stand: check power and shares",
		units.Of(h.GasC, "degC"))
	t.draw = func() *Picture { return heatPicture(e, in) }
	return engineHeatOut{h.PowerKW, h.FuelLH, h.CoolantKW, h.OilKW, h.ExhaustKW, h.ChargeKW, h.OffKW, h.FuelKW, h.GasKgH,
		h.GasC, h.AirFuel}, nil
})

func (in engineHeatIn) engine() (plant.Engine, error) {
	var wrong validation.Errors
	if most := 1.1 * in.RatedRPM; in.RPM > most {
		wrong.Add("rpm", in.RPM, units.Say("100 to %.0f rev/min", most),
			"%.0f rev/min is more than 1.1 of the rated %.0f: the curve does not hold there", in.RPM, in.RatedRPM)
	}
	d := plant.DefaultsFor(in.Fuel, in.Aspiration, in.RatedKW)
	share := func(given *float64, place *float64) {
		if given != nil {
			*place = *given / 100
		}
	}
	share(in.Efficiency, &d.IndicatedEfficiency)
	share(in.Friction, &d.Friction)
	share(in.CoolantShare, &d.CoolantShare)
	share(in.OilShare, &d.OilShare)
	share(in.ExhaustShare, &d.ExhaustShare)
	d.AirFuel = orElse(in.AirFuel, d.AirFuel)
	if sum := d.CoolantShare + d.OilShare + d.ExhaustShare; sum > 1 {
		wrong.Add("coolant_share_percent", units.Say("%.0f %% in all", 100*sum), "shares that come to 100 % at most",
			"coolant, oil and exhaust together take %.0f %% of the waste heat: lower one", 100*sum)
	} else {
		d.RestShare = 1 - sum
	}
	return plant.Engine{Fuel: in.Fuel, RatedKW: in.RatedKW, RatedRPM: in.RatedRPM, PropellerExponent: in.Exponent,
		HeatDefaults: d,
		ExhaustJKgK:  in.GasHeatJPerKg, AirC: in.AirC}, wrong.Err()
}

func heatPicture(e plant.Engine, in engineHeatIn) *Picture {
	line := func(label string, role Role, of func(plant.Heat) float64) Line {
		return sampled(label, role, 0.25*in.RatedRPM, 1.1*in.RatedRPM, 34, func(rpm float64) (float64,
			bool) {
			return of(e.At(rpm)), true
		})
	}
	now := e.At(in.RPM)
	return &Picture{Title: "Heat and power against speed", X: Axis{"Speed", "rpm"}, Y: Axis{"Power", "kW"},
		Lines: []Line{line("Heat to the coolant", HotSide, func(h plant.Heat) float64 { return h.CoolantKW }),
			line("Shaft power", Plain, func(h plant.Heat) float64 { return h.PowerKW })},
		Marks: []Mark{{"Now", in.RPM, now.CoolantKW}}}
}

type exhaustMixIn struct {
	GasKgH       float64 `json:"gas_kg_h"`
	GasC         float64 `json:"gas_c"`
	WaterLMin    float64 `json:"water_l_min"`
	WaterC       float64 `json:"water_c"`
	Salinity     float64 `json:"salinity_g_kg"`
	PressureKPa  float64 `json:"pressure_kpa"`
	LimitC       float64 `json:"limit_c"`
	StopC        float64 `json:"stop_c"`
	SpecificHeat float64 `json:"gas_specific_heat_j_kg_k"`
}

type exhaustMixOut struct {
	MixedC         float64  `json:"mixed_c"`
	EvaporatedLMin float64  `json:"evaporated_l_min"`
	Dry            bool     `json:"dry"`
	SensibleOnlyC  float64  `json:"sensible_only_c"`
	WaterForLimit  *float64 `json:"water_for_limit_l_min"`
	WaterSensible  *float64 `json:"water_for_limit_sensible_l_min"`
}

// Limits of an exhaust hose, common practice.
const (
	hoseWarnC = 70.0
	hoseStopC = 93.0
)

var exhaustMix = define(Calculator{
	Name: "exhaust-mix", Asks: "How hot does the exhaust leave the elbow?", Group: "Water and heat",
	About: "Hot gas meets raw water: the temperature in the hose, and how much water keeps it safe.",
	Fields: []Field{
		num("gas_kg_h", "Exhaust gas", "kg/h", 0.1, 50000).help("From the engine's heat"),
		num("gas_c", "Gas before the elbow", "degC", 0, 900),
		num("water_l_min", "Raw water", "L/min", 0.001, 20000),
		num("water_c", "Raw water before the elbow", "degC", -2, 99),
		num("salinity_g_kg", "Salinity", "g/kg", 0, fluid.MaxSalinityGKg).standard(fluid.OceanSalinity).more(),
		num("pressure_kpa", "Pressure in the elbow, absolute", "kPa", 60, 300).standard(fluid.AtmosphereKPa).more(),
		num("limit_c", "Hose warning at", "degC", 30, 150).standard(hoseWarnC).more(),
		num("stop_c", "Hose stop at", "degC", 30, 200).standard(hoseStopC).more(),
		num("gas_specific_heat_j_kg_k", "Specific heat of the exhaust", "J/(kg K)", 900,
			1500).standard(fluid.ExhaustSpecificHeat).more(),
	},
	Results: []Result{
		{Name: "mixed_c", Label: "Exhaust after the elbow", Kind: Number, Unit: "degC", Main: true},
		{Name: "water_for_limit_l_min", Label: "Least water that keeps it at the warning", Kind: Number, Unit: "L/min"},
		{Name: "water_for_limit_sensible_l_min", Label: "Water that is sure to keep it at the warning", Kind: Number,
			Unit: "L/min", Main: true},
		{Name: "dry", Label: "Exhaust is dry", Kind: YesNo},
		{Name: "evaporated_l_min", Label: "Water turned to steam", Kind: Number, Unit: "L/min"},
		{Name: "sensible_only_c", Label: "If none evaporated", Kind: Number, Unit: "degC"},
	},
	Notes: []string{"Gas leaves saturated with vapour, in balance with the water: the least water is for a spray that " +
		"touches all the gas. Sure is the water that would do it without evaporating any; a real elbow lies between.",
		"Volume flow is taken as measured at the raw water's temperature. The limits of 70 and 93 °C are common " +
			"practice; the hose's maker rules."},
	Sources: []string{"Adiabatic saturation: energy balance with IAPWS-IF97 vapour pressure",
		"h_fg = 2501 − 2.361 T kJ/kg (memory; within 0.4 % of IAPWS-IF97 to 100 °C)"},
	Cautions: []string{"hot-exhaust"},
	Example:  `{"gas_kg_h": 280, "gas_c": 420, "water_l_min": 45, "water_c": 31}`,
}, func(in exhaustMixIn, t *Reporter) (exhaustMixOut, error) {
	var wrong validation.Errors
	fluid.SeaWater(in.Salinity).Check(&wrong, "water_c", in.WaterC)
	if in.GasC < in.WaterC {
		wrong.Add("gas_c", in.GasC, units.Say("%.1f", units.Between(in.WaterC, 900, "degC")),
			"the gas is colder than the water: are the two swapped?")
	}
	if in.StopC < in.LimitC {
		wrong.Add("stop_c", in.StopC, units.Say("%.0f", units.Between(in.LimitC, 200, "degC")),
			"the stop must lie above the warning")
	}
	if boils := seaBoiling(in.Salinity, in.PressureKPa); in.WaterC >= boils {
		wrong.Add("water_c", in.WaterC, units.Say("below %.1f", units.Of(boils, "degC")),
			"at this pressure the water boils before it reaches the gas")
	}
	if err := wrong.Err(); err != nil {
		return exhaustMixOut{}, err
	}
	x := in.exhaust()
	m := x.Mix()
	toLMin := 60000 / fluid.SeaWater(in.Salinity).At(in.WaterC).DensityKgM3
	out := exhaustMixOut{MixedC: m.MixedC, EvaporatedLMin: m.VapourKgS * toLMin, Dry: m.Dry, SensibleOnlyC: m.SensibleC}
	if need, ok := x.WaterFor(in.LimitC); ok {
		sure, _ := x.WaterForSensible(in.LimitC)
		out.WaterForLimit, out.WaterSensible = &need, &sure
	} else {
		t.warn("no amount of water at %.1f keeps the hose at %.0f", units.Of(in.WaterC, "degC"), units.Of(in.LimitC, "degC"))
	}
	explainMix(in, m, out, t)
	t.draw = func() *Picture { return mixPicture(in, out) }
	return out, nil
})

func (in exhaustMixIn) exhaust() plant.Exhaust {
	return plant.Exhaust{GasKgH: in.GasKgH, GasC: in.GasC, WaterLMin: in.WaterLMin, WaterC: in.WaterC,
		Salinity: in.Salinity, PressureKPa: in.PressureKPa, SpecificHeatG: in.SpecificHeat}
}

func explainMix(in exhaustMixIn, m plant.Mixed, out exhaustMixOut, t *Reporter) {
	t.step("The gas can give", "ṁ_g c_g (T_g − T_m)",
		Term{"Q", m.GasKgS * in.SpecificHeat * (in.GasC - m.MixedC) / 1000, "kW"},
		Term{"ṁ_g", in.GasKgH, "kg/h"}, Term{"T_g", in.GasC, "degC"})
	t.step("Water warms by", "ṁ_w c_w (T_m − T_w)",
		Term{"Q_w", m.WaterKgS * m.WaterHeat * (m.MixedC - in.WaterC) / 1000, "kW"},
		Term{"V̇_w", in.WaterLMin, "L/min"}, Term{"T_w", in.WaterC, "degC"})
	t.step("Water evaporates", "ṁ_v h_fg, ṁ_v = min(ṁ_w, ṁ_g 0.622 p_s/(p − p_s))",
		Term{"Q_v", m.VapourKgS * fluid.LatentHeat(m.MixedC) / 1000, "kW"}, Term{"steam", out.EvaporatedLMin, "L/min"})
	t.step("They balance at", "Q = Q_w + Q_v", Term{"T_m", m.MixedC, "degC"})
	switch {
	case m.Dry:
		t.warn("all the water turns to steam: the exhaust is dry and the hose burns. Stop the engine")
	case m.MixedC >= in.StopC:
		t.warn("%.0f is over the hose's stop of %.0f: stop the engine", units.Of(m.MixedC, "degC"),
			units.Of(in.StopC, "degC"))
	case m.MixedC >= in.LimitC:
		t.warn("%.0f is over the hose's warning of %.0f: it wants more water", units.Of(m.MixedC, "degC"),
			units.Of(in.LimitC, "degC"))
	}
	t.warnIf(m.MixedC < 35 && m.MixedC > in.WaterC,
		"so cool an exhaust is in order at light load; at full load ask whether the gas figure is right")
}

func mixPicture(in exhaustMixIn, out exhaustMixOut) *Picture {
	most := 2 * in.WaterLMin
	if out.WaterForLimit != nil {
		most = max(most, 1.5**out.WaterSensible)
	}
	ceiling := min(in.GasC, 200)
	line := sampled("After the elbow", HotSide, most/60, most, 118, func(flow float64) (float64, bool) {
		x := in.exhaust()
		x.WaterLMin = flow
		t := x.Mix().MixedC
		return t, t <= ceiling
	})
	return &Picture{Title: "Exhaust temperature against raw water", X: Axis{"Raw water", "L/min"},
		Y: Axis{"After the elbow", "degC"}, Lines: []Line{line},
		Limits: []Limit{{"Hose warning", Warn, "y", in.LimitC}, {"Hose stop", Stop, "y", in.StopC}},
		Marks:  []Mark{{"Now", in.WaterLMin, math.Min(out.MixedC, ceiling)}}}
}
