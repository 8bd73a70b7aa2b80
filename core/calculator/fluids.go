package calculator

import (
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
)

const sharqawy = "M. H. Sharqawy, J. H. Lienhard V, S. M. Zubair, Desalination and Water Treatment 16 (2010) 354-380"

// fluidField asks what flows; another liquid is offered where its viscosity does not matter.
func fluidField(label string, kinds []fluid.Kind, usual fluid.Kind) Field {
	f := group("fluid", label,
		choice("kind", "What flows", kinds).standard(string(usual)),
		num("salinity_g_kg", "Salinity", "g/kg", 0, fluid.MaxSalinityGKg).standard(fluid.OceanSalinity).onlyIf("kind", "sea").
			suggest(Suggest{"Ocean", 35}, Suggest{"Estuary", 15}, Suggest{"Inner sea", 7}),
		choice("glycol", "Glycol", fluid.Glycols).standard(string(fluid.Ethylene)).onlyIf("kind", "coolant"),
		num("glycol_percent_volume", "Glycol by volume", "percent", 0, fluid.MaxGlycolPercent).standard(50.0).onlyIf("kind",
			"coolant"))
	if kinds[len(kinds)-1] == fluid.Other {
		f.Fields = append(f.Fields,
			num("density_kg_m3", "Density", "kg/m3", 500, 2000).onlyIf("kind", "other").help("Engine oil is about 870"),
			num("specific_heat_j_kg_k", "Specific heat", "J/(kg K)", 500, 5000).onlyIf("kind",
				"other").help("Engine oil is about 2000"))
	}
	return f
}

// inTubes are the fluids whose viscosity is known.
var inTubes = []fluid.Kind{fluid.Sea, fluid.Fresh, fluid.Coolant}

type seaWaterIn struct {
	TemperatureC float64 `json:"temperature_c"`
	Salinity     float64 `json:"salinity_g_kg"`
	PressureKPa  float64 `json:"pressure_kpa"`
}

type seaWaterOut struct {
	Density      float64 `json:"density_kg_m3"`
	SpecificHeat float64 `json:"specific_heat_j_kg_k"`
	Viscosity    float64 `json:"viscosity_mpa_s"`
	Conductivity float64 `json:"conductivity_w_m_k"`
	Saturation   float64 `json:"saturation_pressure_kpa"`
	Freezing     float64 `json:"freezing_c"`
	Boiling      float64 `json:"boiling_c"`
}

var seaWater = define(Calculator{
	Name: "sea-water", Asks: "What is this water like?", Group: "Water and heat",
	About: "Density, specific heat and the rest, for salt and for fresh water.",
	Fields: []Field{
		num("temperature_c", "Temperature", "degC", -2, fluid.MaxSeaC),
		num("salinity_g_kg", "Salinity", "g/kg", 0,
			fluid.MaxSalinityGKg).standard(fluid.OceanSalinity).help("0 for fresh water").
			suggest(Suggest{"Ocean", 35}, Suggest{"Estuary", 15}, Suggest{"Fresh", 0}),
		num("pressure_kpa", "Pressure, absolute", "kPa", 50, 400).standard(fluid.AtmosphereKPa).more(),
	},
	Results: []Result{
		{Name: "density_kg_m3", Label: "Density", Kind: Number, Unit: "kg/m3", Main: true},
		{Name: "specific_heat_j_kg_k", Label: "Specific heat", Kind: Number, Unit: "J/(kg K)", Main: true},
		{Name: "viscosity_mpa_s", Label: "Viscosity", Kind: Number, Unit: "mPa s"},
		{Name: "conductivity_w_m_k", Label: "Thermal conductivity", Kind: Number, Unit: "W/(m K)"},
		{Name: "saturation_pressure_kpa", Label: "Vapour pressure", Kind: Number, Unit: "kPa"},
		{Name: "freezing_c", Label: "Freezes at", Kind: Number, Unit: "degC"},
		{Name: "boiling_c", Label: "Boils at this pressure", Kind: Number, Unit: "degC"},
	},
	Notes: []string{"Near atmospheric pressure. Density is within 0.1 % and specific heat within 0.5 % of TEOS-10 " +
		"from 0 to 40 °C."},
	Sources: []string{sharqawy, "IAPWS R7-97(2012), region 4 (vapour pressure)",
		"UNESCO Technical Papers in Marine Science 28 (1978), annex 6 (freezing)"},
	Example: `{"temperature_c": 25, "salinity_g_kg": 35}`,
}, func(in seaWaterIn, t *Reporter) (seaWaterOut, error) {
	water := fluid.SeaWater(in.Salinity)
	var wrong validation.Errors
	water.Check(&wrong, "temperature_c", in.TemperatureC)
	p := water.At(in.TemperatureC)
	out := seaWaterOut{p.DensityKgM3, p.SpecificHeat, 1000 * p.ViscosityPaS, p.ConductivityWM,
		fluid.SeaSaturationKPa(in.TemperatureC, in.Salinity),
		fluid.SeaFreezing(in.Salinity), seaBoiling(in.Salinity, in.PressureKPa)}
	at, salt := Term{"t", in.TemperatureC, "degC"}, Term{"S", in.Salinity, "g/kg"}
	t.step("Density", "ρ(t, S), equation 8", Term{"ρ", out.Density, "kg/m3"}, at, salt)
	t.step("Specific heat", "c(t, S), equation 9", Term{"c", out.SpecificHeat, "J/(kg K)"}, at, salt)
	t.step("Viscosity", "μ(t, S), equations 22 and 23", Term{"μ", out.Viscosity, "mPa s"}, at, salt)
	t.step("Thermal conductivity", "k(t, S), equation 13", Term{"k", out.Conductivity, "W/(m K)"}, at, salt)
	t.step("Vapour pressure", "p_s(t) / (1 + 0.57357 S/(1000 − S))", Term{"p", out.Saturation, "kPa"}, at, salt)
	t.warnIf(in.Salinity > 0 && in.Salinity < 0.5,
		"%.2g g/kg is as good as fresh: was it read in percent? Ocean water has about 35 g/kg", in.Salinity)
	return out, wrong.Err()
})

// seaBoiling is where the vapour pressure over salt water reaches the pressure.
func seaBoiling(salinity, kPa float64) float64 {
	return fluid.BoilingC(kPa * (1 + 0.57357*salinity/(1000-salinity)))
}

type heatCarriedIn struct {
	Fluid    fluid.Fluid `json:"fluid"`
	FlowLMin float64     `json:"flow_l_min"`
	InletC   float64     `json:"inlet_c"`
	OutletC  float64     `json:"outlet_c"`
}

type heatCarriedOut struct {
	HeatKW       float64 `json:"heat_kw"`
	RiseK        float64 `json:"rise_k"`
	MassFlow     float64 `json:"mass_flow_kg_h"`
	SpecificHeat float64 `json:"specific_heat_j_kg_k"`
}

var heatCarried = define(Calculator{
	Name: "heat-carried", Asks: "How much heat does the water carry off?", Group: "Water and heat",
	About: "From a flow and the temperatures before and after: raw water, coolant or oil.",
	Fields: []Field{
		fluidField("Which water", fluid.Kinds, fluid.Sea),
		num("flow_l_min", "Flow", "L/min", 0.01, 20000).help("From the bucket, measured at the inlet's temperature"),
		num("inlet_c", "Before", "degC", -50, 300),
		num("outlet_c", "After", "degC", -50, 300),
	},
	Results: []Result{
		{Name: "heat_kw", Label: "Heat carried off", Kind: Number, Unit: "kW", Main: true},
		{Name: "rise_k", Label: "Rise", Kind: Number, Unit: "K"},
		{Name: "mass_flow_kg_h", Label: "Mass flow", Kind: Number, Unit: "kg/h"},
		{Name: "specific_heat_j_kg_k", Label: "Specific heat", Kind: Number, Unit: "J/(kg K)"},
	},
	Notes: []string{"Below 0 the liquid gives up heat instead of taking it.",
		"Volume flow is taken as measured at the inlet's temperature; specific heat is at the mean of inlet and outlet."},
	Sources: []string{sharqawy, "Coolant: M. Conde, Thermophysical Properties of Brines, 2011 (memory)"},
	Example: `{"fluid": {"kind": "sea", "salinity_g_kg": 35}, "flow_l_min": "45 ± 2 L/min", "inlet_c": 18,
		"outlet_c": 29.5}`,
}, func(in heatCarriedIn, t *Reporter) (heatCarriedOut, error) {
	var wrong validation.Errors
	in.Fluid.Check(&wrong, "inlet_c", in.InletC)
	in.Fluid.Check(&wrong, "outlet_c", in.OutletC)
	mean := (in.InletC + in.OutletC) / 2
	inlet := in.Fluid.At(in.InletC)
	kgS := in.Fluid.MassFlow(in.FlowLMin, in.InletC)
	c := in.Fluid.At(mean).SpecificHeat
	out := heatCarriedOut{kgS * c * (in.OutletC - in.InletC) / 1000, in.OutletC - in.InletC, kgS * 3600, c}
	t.step("Mass flow", "ṁ = ρ V̇, at the inlet", Term{"ṁ", out.MassFlow, "kg/h"},
		Term{"ρ", inlet.DensityKgM3, "kg/m3"},
		Term{"V̇", in.FlowLMin, "L/min"})
	t.step("Specific heat", "at the mean temperature", Term{"c", c, "J/(kg K)"}, Term{"t", mean, "degC"})
	t.step("Heat", "Q = ṁ c ΔT", Term{"Q", out.HeatKW, "kW"}, Term{"ΔT", out.RiseK, "K"})
	t.warnIf(out.HeatKW < 0,
		"the liquid comes out colder than it goes in: it gives heat up. On the raw side the two readings are swapped")
	t.warnIf(in.Fluid.Kind == fluid.Sea && in.OutletC > 55,
		"raw water above %g lets salts fall out as scale: an engine in health stays under that", units.Of(55, "degC"))
	return out, wrong.Err()
})
