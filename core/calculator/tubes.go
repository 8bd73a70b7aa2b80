package calculator

import (
	"math"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/wetwork"
)

type stackIn struct {
	Tubes             int         `json:"tubes"`
	Passes            int         `json:"passes"`
	InnerDiameter     float64     `json:"inner_diameter_mm"`
	OuterDiameter     float64     `json:"outer_diameter_mm"`
	Length            float64     `json:"length_mm"`
	WallConductivity  float64     `json:"wall_conductivity_w_m_k"`
	Roughness         float64     `json:"roughness_mm"`
	Blocked           int         `json:"blocked_tubes"`
	ScaleThickness    float64     `json:"scale_thickness_mm"`
	ScaleConductivity float64     `json:"scale_conductivity_w_m_k"`
	ShellCoefficient  float64     `json:"shell_coefficient_w_m2_k"`
	Fluid             fluid.Fluid `json:"fluid"`
	FlowLMin          float64     `json:"flow_l_min"`
	MeanC             float64     `json:"mean_c"`
}

type stackOut struct {
	Velocity          float64 `json:"velocity_m_s"`
	Reynolds          float64 `json:"reynolds"`
	FrictionFactor    float64 `json:"friction_factor"`
	PressureDrop      float64 `json:"pressure_drop_kpa"`
	InsideCoefficient float64 `json:"inside_coefficient_w_m2_k"`
	UA                float64 `json:"ua_w_k"`
	UAClean           float64 `json:"ua_clean_w_k"`
	Cleanliness       float64 `json:"cleanliness_percent"`
	FoulingResistance float64 `json:"fouling_resistance_m2_k_w"`
	CleanDrop         float64 `json:"pressure_drop_clean_kpa"`
}

var tubeFields = []Field{
	whole("tubes", "Tubes, over all passes", 1, 5000),
	num("inner_diameter_mm", "Tube bore", "mm", 1, 100),
	num("outer_diameter_mm", "Tube outside", "mm", 1, 110),
	num("length_mm", "Length of one tube", "mm", 20, 10000),
}

var tubeStack = define(Calculator{
	Name: "tube-stack", Asks: "What do scale and blocked tubes cost?", Group: "Water and heat",
	About: "From the tubes themselves: how fast the water goes, what it takes to push it, and how much of the " +
		"exchanger is left.",
	Fields: append(append([]Field{}, tubeFields...),
		whole("passes", "Passes", 1, 12).standard(2.0),
		whole("blocked_tubes", "Blocked tubes", 0, 4999).standard(0.0),
		num("scale_thickness_mm", "Scale", "mm", 0, 20).standard(0.0),
		fluidField("Water in the tubes", inTubes, fluid.Sea),
		num("flow_l_min", "Flow", "L/min", 0.1, 20000),
		num("mean_c", "Mean temperature in the tubes", "degC", -50, 120).standard(25.0),
		num("shell_coefficient_w_m2_k", "Shell side coefficient", "W/(m2 K)", 50,
			50000).standard(3000.0).more().help("Coolant across tubes: 2000 to 5000, common practice"),
		num("wall_conductivity_w_m_k", "Wall conductivity", "W/(m K)", 5, 450).standard(50.0).more().
			suggest(Suggest{"Copper-nickel 90/10", 50}, Suggest{"Copper-nickel 70/30", 29}, Suggest{"Brass", 110},
				Suggest{"Copper", 390}, Suggest{"Titanium", 21}),
		num("roughness_mm", "Roughness", "mm", 0, 2).standard(0.0015).more().suggest(Suggest{"Drawn tube", 0.0015},
			Suggest{"Light scale", 0.05}),
		num("scale_conductivity_w_m_k", "Scale conductivity", "W/(m K)", 0.2, 5).standard(wetwork.ScaleConductivity).more(),
	),
	Results: []Result{
		{Name: "cleanliness_percent", Label: "Left of the clean exchanger", Kind: Number, Unit: "percent", Main: true},
		{Name: "ua_w_k", Label: "Conductance UA", Kind: Number, Unit: "W/K", Main: true},
		{Name: "ua_clean_w_k", Label: "Clean", Kind: Number, Unit: "W/K"},
		{Name: "pressure_drop_kpa", Label: "Drop in the tubes", Kind: Number, Unit: "kPa", Main: true},
		{Name: "pressure_drop_clean_kpa", Label: "Drop when clean", Kind: Number, Unit: "kPa"},
		{Name: "velocity_m_s", Label: "Speed in the tubes", Kind: Number, Unit: "m/s"},
		{Name: "reynolds", Label: "Reynolds number", Kind: Number, Unit: "1"},
		{Name: "friction_factor", Label: "Friction factor (Darcy)", Kind: Number, Unit: "1"},
		{Name: "inside_coefficient_w_m2_k", Label: "Inside coefficient", Kind: Number, Unit: "W/(m2 K)"},
		{Name: "fouling_resistance_m2_k_w", Label: "Fouling resistance", Kind: Number, Unit: "m2 K/W"},
	},
	Notes: []string{"Length is one tube's; tubes counts over all passes, so tubes/passes run side by side. Blocked " +
		"tubes are spread evenly and the rest share the flow.",
		"UA is U times the outside of the tubes still open. The drop is friction in the tubes alone: caps and hoses come " +
			"on top.",
		"Between Reynolds 2300 and 4000 friction and heat transfer go in a straight line from laminar to turbulent."},
	Sources: []string{"C. F. Colebrook, Journal of the Institution of Civil Engineers 11 (1939) 133-156",
		"V. Gnielinski, International Chemical Engineering 16 (1976) 359-368",
		"Typical fouling of sea water: Incropera and DeWitt, table 11.1: 0.0001 m²K/W below 50 °C, 0.0002 above (memory)"},
	Example: `{"tubes": 52, "passes": 2, "inner_diameter_mm": 6, "outer_diameter_mm": 8, "length_mm": 300,
		"flow_l_min": 60, "blocked_tubes": 9, "scale_thickness_mm": 0.3}`,
}, rateStack)

func rateStack(in stackIn, t *Reporter) (stackOut, error) {
	var wrong validation.Errors
	in.Fluid.Check(&wrong, "mean_c", in.MeanC)
	checkTube(&wrong, in.InnerDiameter, in.OuterDiameter)
	if in.Passes > in.Tubes {
		wrong.Add("passes", in.Passes, units.Say("1 to %d", in.Tubes), "there are more passes than tubes")
	}
	if in.Blocked > in.Tubes-in.Passes {
		wrong.Add("blocked_tubes", in.Blocked, units.Say("0 to %d", max(0, in.Tubes-in.Passes)),
			"with %d of %d tubes blocked a pass has none left: no water goes through", in.Blocked, in.Tubes)
	}
	if most := 0.45 * in.InnerDiameter; in.ScaleThickness > most {
		wrong.Add("scale_thickness_mm", in.ScaleThickness, units.Say("%.2f", units.Between(0, most, "mm")),
			"scale of %.2f closes a bore of %.2f: count such tubes as blocked", units.Of(in.ScaleThickness, "mm"),
			units.Of(in.InnerDiameter, "mm"))
	}
	if err := wrong.Err(); err != nil {
		return stackOut{}, err
	}
	s := exchanger.Stack{Tubes: in.Tubes, Passes: in.Passes, Blocked: in.Blocked, InnerDiameter: in.InnerDiameter,
		OuterDiameter: in.OuterDiameter, Length: in.Length,
		WallConductivity: in.WallConductivity, Roughness: in.Roughness, ScaleThickness: in.ScaleThickness,
		ScaleConductivity: in.ScaleConductivity,
		ShellCoefficient:  in.ShellCoefficient, Fluid: in.Fluid, FlowLMin: in.FlowLMin, MeanC: in.MeanC}
	r, clean := s.Rate(), s.Clean().Rate()
	out := stackOut{Velocity: r.Velocity, Reynolds: r.Reynolds, FrictionFactor: r.Friction, PressureDrop: r.DropKPa,
		InsideCoefficient: r.InsideCoefficient,
		UA:                r.UA, UAClean: clean.UA, Cleanliness: 100 * r.UA / clean.UA, FoulingResistance: r.ResistanceScale,
		CleanDrop: clean.DropKPa}
	explainStack(in, r, out, t)
	t.draw = func() *Picture { return scalePicture(s, in, out) }
	return out, nil
}

func scalePicture(s exchanger.Stack, in stackIn, out stackOut) *Picture {
	most := min(max(1, 2*in.ScaleThickness), 0.45*in.InnerDiameter)
	return &Picture{Title: "What scale takes", X: Axis{"Scale in the tubes", "mm"}, Y: Axis{"Left of the clean exchanger",
		"percent"},
		Lines: []Line{sampled("With these tubes open", Plain, 0, most, 40, func(mm float64) (float64, bool) {
			x := s
			x.ScaleThickness = mm
			return 100 * x.Rate().UA / out.UAClean, true
		})},
		Limits: []Limit{{Label: "Worth descaling under 80 %", Role: Warn, Across: "y", At: 80}},
		Marks:  []Mark{{Label: "Now", X: in.ScaleThickness, Y: out.Cleanliness}}}
}

func checkTube(wrong *validation.Errors, inner, outer float64) {
	if inner >= outer {
		wrong.Add("inner_diameter_mm", inner, units.Say("below %.2f", units.Of(outer, "mm")),
			"the bore is as wide as the outside: measure the wall again")
	}
}

func explainStack(in stackIn, r exchanger.StackRating, out stackOut, t *Reporter) {
	t.step("Tubes side by side", "(tubes − blocked) / passes",
		Term{"n", float64(in.Tubes-in.Blocked) / float64(in.Passes), "1"})
	t.step("Speed", "v = V̇ / (n π d²/4)", Term{"v", r.Velocity, "m/s"}, Term{"V̇", in.FlowLMin, "L/min"},
		Term{"d", in.InnerDiameter - 2*in.ScaleThickness, "mm"})
	t.step("Reynolds number", "Re = ρ v d / μ", Term{"Re", math.Round(r.Reynolds), "1"})
	t.step("Friction", "f (Colebrook; 64/Re when laminar)", Term{"f", r.Friction, "1"})
	t.step("Pressure drop", "Δp = f (passes · L / d) ρ v² / 2", Term{"Δp", r.DropKPa, "kPa"})
	t.step("Inside coefficient", "h = Nu k / d (Gnielinski; Nu 3.66 when laminar)", Term{"h", r.InsideCoefficient,
		"W/(m2 K)"}, Term{"Nu", r.Nusselt, "1"})
	t.step("Resistances over the outside", "water + scale + wall + shell", Term{"1/U", 1 / r.U, "m2 K/W"}, Term{"R_water",
		r.ResistanceInside, "m2 K/W"},
		Term{"R_scale", r.ResistanceScale, "m2 K/W"}, Term{"R_wall", r.ResistanceWall, "m2 K/W"}, Term{"R_shell",
			r.ResistanceShell, "m2 K/W"})
	t.step("Conductance", "UA = U · open area", Term{"UA", r.UA, "W/K"}, Term{"A", r.OutsideArea, "m²"})
	t.step("Against the clean stack at the same flow", "UA / UA_clean", Term{"left", out.Cleanliness, "percent"},
		Term{"UA_clean", out.UAClean, "W/K"})
	t.warnIf(in.Tubes%in.Passes != 0, "%d tubes do not share out over %d passes: count them again", in.Tubes, in.Passes)
	t.warnIf(r.Velocity > 3, "%.1f wears copper alloys at the tube ends (over about %g, common practice)",
		units.Of(r.Velocity, "m/s"), units.Of(3, "m/s"))
	t.warnIf(r.Velocity < 0.5, "%.2f is so slow that sand settles (under about %g, common practice)",
		units.Of(r.Velocity, "m/s"), units.Of(0.5, "m/s"))
	t.warnIf(r.Reynolds > 2300 && r.Reynolds < 4000,
		"the flow is neither smooth nor rough (Reynolds %.0f): figures are uncertain here", r.Reynolds)
	t.warnIf(out.Cleanliness < 80, "under 80 %% of clean: worth descaling or rodding")
}

type scaleMassIn struct {
	UA            float64 `json:"ua_w_k"`
	UAClean       float64 `json:"ua_clean_w_k"`
	Tubes         int     `json:"tubes"`
	InnerDiameter float64 `json:"inner_diameter_mm"`
	OuterDiameter float64 `json:"outer_diameter_mm"`
	Length        float64 `json:"length_mm"`
}

type scaleMassOut struct {
	FoulingResistance float64 `json:"fouling_resistance_m2_k_w"`
	Thickness         float64 `json:"scale_thickness_mm"`
	ScaleG            float64 `json:"scale_g"`
	ScaleLowG         float64 `json:"scale_low_g"`
	ScaleHighG        float64 `json:"scale_high_g"`
}

var scaleMass = define(Calculator{
	Name: "scale-mass", Asks: "How much scale is in there?", Group: "Flush, descale, coolant",
	About: "From how much of the exchanger is left: how thick the scale is and what it weighs. What to ask the acid for.",
	Fields: append([]Field{
		num("ua_w_k", "Conductance now", "W/K", 0.1, 1e6).help("From the exchanger's readings"),
		num("ua_clean_w_k", "Conductance when clean", "W/K", 0.1, 1e6),
	}, tubeFields...),
	Results: []Result{
		{Name: "scale_g", Label: "Scale", Kind: Number, Unit: "g", Main: true},
		{Name: "scale_low_g", Label: "At least", Kind: Number, Unit: "g"},
		{Name: "scale_high_g", Label: "At most", Kind: Number, Unit: "g"},
		{Name: "scale_thickness_mm", Label: "Thickness", Kind: Number, Unit: "mm"},
		{Name: "fouling_resistance_m2_k_w", Label: "Fouling resistance", Kind: Number, Unit: "m2 K/W"},
	},
	Notes: []string{"Takes all of the loss for scale, evenly thick: blocked tubes and weed lose heat too, and acid " +
		"does nothing for them.", "The range is that of scale's conductivity, 1.5 to 3 W/(m K) about 2.2 (memory)."},
	Sources: []string{"Layer of a tube: Incropera and DeWitt, chapter 3", "Density of carbonate scale 2.7 kg/L, calcite"},
	Example: `{"ua_w_k": 600, "ua_clean_w_k": 950, "tubes": 52, "inner_diameter_mm": 6, "outer_diameter_mm": 8,
		"length_mm": 300}`,
}, func(in scaleMassIn, t *Reporter) (scaleMassOut, error) {
	var wrong validation.Errors
	checkTube(&wrong, in.InnerDiameter, in.OuterDiameter)
	if in.UA > in.UAClean {
		wrong.Add("ua_w_k", in.UA, units.Say("0.1 to %g W/K", in.UAClean),
			"the exchanger does better than clean: read again, or the clean figure is another engine's")
	}
	if err := wrong.Err(); err != nil {
		return scaleMassOut{}, err
	}
	area := float64(in.Tubes) * math.Pi * in.OuterDiameter * in.Length * 1e-6
	rf := exchanger.FoulingResistance(in.UA/area, in.UAClean/area)
	layer := wetwork.Layer{Resistance: rf, Tubes: in.Tubes, InnerMM: in.InnerDiameter, OuterMM: in.OuterDiameter,
		LengthMM: in.Length}
	mm, g := layer.Scale(wetwork.ScaleConductivity)
	_, low := layer.Scale(wetwork.ScaleConductivityLow)
	_, high := layer.Scale(wetwork.ScaleConductivityHigh)
	t.step("Outside of the tubes", "A = tubes · π d L", Term{"A", area, "m²"})
	t.step("Fouling resistance", "R = A/UA − A/UA_clean", Term{"R", rf, "m2 K/W"})
	t.step("Thickness", "from R = d_o ln(d_i/d_s) / 2k", Term{"s", mm, "mm"}, Term{"k", wetwork.ScaleConductivity,
		"W/(m K)"})
	t.step("Mass", "tubes · π/4 (d_i² − d_s²) L · 2.7 kg/L", Term{"m", g / 1000, "kg"})
	t.warnIf(mm > 0.4*in.InnerDiameter,
		"so thick a layer would all but close the tubes: blocked tubes are the likelier reason")
	return scaleMassOut{rf, mm, g, low, high}, nil
})
