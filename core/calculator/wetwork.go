package calculator

import (
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/wetwork"
)

// product is a bought descaler of unknown strength: its own instructions rule.
const product = "product"

type descaleIn struct {
	Acid          string   `json:"acid"`
	Place         string   `json:"place"`
	StockPercent  float64  `json:"stock_percent_mass"`
	TargetPercent float64  `json:"target_percent_mass"`
	PartsWater    float64  `json:"parts_water"`
	VolumeL       float64  `json:"volume_l"`
	ScaleG        *float64 `json:"scale_g"`
	PumpLMin      *float64 `json:"pump_l_min"`
	Minutes       *float64 `json:"minutes"`
}

type descaleOut struct {
	StockL       *float64 `json:"stock_l"`
	StockKg      *float64 `json:"stock_kg"`
	WaterL       float64  `json:"water_l"`
	CapacityG    *float64 `json:"capacity_g_caco3"`
	SharePercent *float64 `json:"scale_share_percent"`
	Enough       *bool    `json:"enough"`
	CO2L         *float64 `json:"co2_l"`
	Turnovers    *float64 `json:"turnovers"`
}

var solutions = []string{"hydrochloric", "phosphoric", "citric", "sulfamic", "formic", "acetic"}

var descale = define(Calculator{
	Name: "descale", Asks: "How much acid, how much water?", Group: "Flush, descale, coolant",
	About: "To fill the loop or the bath with acid of the strength you want, and what it can dissolve before it is spent.",
	Fields: []Field{
		choice("acid", "Acid", append(acidNames(), product)),
		choice("place", "Where", []string{"in-place", "bench"}).standard("in-place"),
		num("stock_percent_mass", "Strength as bought, by mass", "percent", 0.1, 100).onlyIf("acid",
			solutions...).help("100 for crystals or powder"),
		num("target_percent_mass", "Strength wanted, by mass", "percent", 0.1, 100).onlyIf("acid", solutions...),
		num("parts_water", "Parts of water to one of product", "1", 0, 200).onlyIf("acid", product).help("As printed on it"),
		num("volume_l", "Volume to circulate", "L", 0.05, 5000).help("Tubes, hoses and tank"),
		num("scale_g", "Scale to dissolve", "g", 0,
			100000).optional().help("How much scale is in there? is a calculator of its own"),
		num("pump_l_min", "Pump", "L/min", 0.1, 2000).optional().help("At the height it must lift"),
		num("minutes", "For", "min", 0.1, 10000).optional(),
	},
	Results: []Result{
		{Name: "stock_l", Label: "Acid as bought", Kind: Number, Unit: "L", Main: true},
		{Name: "stock_kg", Label: "Its weight", Kind: Number, Unit: "kg", Main: true},
		{Name: "water_l", Label: "Water first", Kind: Number, Unit: "L", Main: true},
		{Name: "capacity_g_caco3", Label: "Dissolves, of scale", Kind: Number, Unit: "g"},
		{Name: "scale_share_percent", Label: "Of the scale in there", Kind: Number, Unit: "percent"},
		{Name: "enough", Label: "Enough", Kind: YesNo},
		{Name: "co2_l", Label: "Gas set free", Kind: Number, Unit: "L"},
		{Name: "turnovers", Label: "Times round the loop", Kind: Number, Unit: "1"},
	},
	Notes: []string{"Percent are by mass at 20 °C. Capacity is in grams of calcium carbonate; the gas is carbon " +
		"dioxide of the scale told, or of the whole capacity.",
		"Spent when the pH passes about 4 or the fizz stops (common practice): then more acid, or stop. A bought mix goes " +
			"by its own instructions."},
	Sources: []string{"Densities: Perry's Chemical Engineers' Handbook, section 2 (memory)",
		"Molar masses: IUPAC; CaCO₃ 100.087 g/mol"},
	Example: `{"acid": "phosphoric", "stock_percent_mass": 75, "target_percent_mass": 10, "volume_l": 18,
		"scale_g": 700, "pump_l_min": 30, "minutes": 60}`,
}, planDescale)

func acidNames() []string {
	list := make([]string, len(wetwork.Acids))
	for i, a := range wetwork.Acids {
		list[i] = string(a)
	}
	return list
}

// acidCautions stand beside every bath: the eyes, the gas, the metals, the waste, and whose word counts.
var acidCautions = []string{"acid-bath", "hydrogen", "carbon-dioxide", "waste", "limits"}

func planDescale(in descaleIn, t *Reporter) (descaleOut, error) {
	t.caution(acidCautions...)
	if in.Acid == product {
		return planProduct(in, t), nil
	}
	b := wetwork.Bath{Acid: wetwork.Acid(in.Acid), StockPercent: in.StockPercent, TargetPercent: in.TargetPercent,
		VolumeL: in.VolumeL,
		ScaleG:  orElse(in.ScaleG, 0)}
	f := wetwork.Facts(b.Acid)
	if err := checkBath(in, f); err != nil {
		return descaleOut{}, err
	}
	r := b.Mix()
	out := descaleOut{StockL: r.StockL, StockKg: &r.StockKg, WaterL: r.WaterL, CapacityG: &r.CapacityG,
		CO2L: &r.CarbonDioxideL}
	explainBath(in, f, r, t)
	if in.ScaleG != nil {
		out.SharePercent, out.Enough = &r.SharePercent, &r.Enough
		t.warnIf(!r.Enough, "the bath is spent after %.0f g of %.0f g of scale: a second bath, a larger one or a stronger "+
			"one", r.CapacityG, *in.ScaleG)
	}
	out.Turnovers = turnovers(in, t)
	return out, nil
}

func planProduct(in descaleIn, t *Reporter) descaleOut {
	litres := in.VolumeL / (1 + in.PartsWater)
	out := descaleOut{StockL: &litres, WaterL: in.VolumeL - litres}
	t.step("Product", "V / (1 + parts of water)", Term{"product", litres, "L"}, Term{"V", in.VolumeL, "L"})
	t.step("Water", "the rest", Term{"water", out.WaterL, "L"})
	t.warn("what a bought mix dissolves is not known here: its own instructions rule, for strength and for minutes")
	out.Turnovers = turnovers(in, t)
	return out
}

func turnovers(in descaleIn, t *Reporter) *float64 {
	if in.PumpLMin == nil || in.Minutes == nil {
		return nil
	}
	n := wetwork.Turnovers(*in.PumpLMin, *in.Minutes, in.VolumeL)
	t.step("Times round", "pump · minutes / volume", Term{"n", n, "1"}, Term{"pump", *in.PumpLMin, "L/min"})
	t.warnIf(n < 10, "the bath goes round %.1f times only: pump more, or longer", n)
	return &n
}

func checkBath(in descaleIn, f wetwork.AcidFacts) error {
	var wrong validation.Errors
	if in.StockPercent > f.MostPercent {
		wrong.Add("stock_percent_mass", in.StockPercent, units.Say("up to %g %%", f.MostPercent),
			"%s acid is not sold stronger than %g %%: read the label again", in.Acid, f.MostPercent)
	}
	if f.Powder && in.StockPercent > f.MostBath && in.StockPercent < 100 {
		wrong.Add("stock_percent_mass", in.StockPercent, units.Say("up to %g %%, or 100 %% for crystals", f.MostBath),
			"%s acid of %g %% does not stay dissolved: give 100 %% for crystals", in.Acid, in.StockPercent)
	}
	switch most := min(in.StockPercent, f.MostBath); {
	case in.TargetPercent > f.MostBath:
		wrong.Add("target_percent_mass", in.TargetPercent, units.Say("up to %g %%", most),
			"%s acid does not stay dissolved over %g %%", in.Acid, f.MostBath)
	case in.TargetPercent > in.StockPercent:
		wrong.Add("target_percent_mass", in.TargetPercent, units.Say("up to %g %%", most),
			"what you have is weaker than what you want: %g %% does not make %g %%", in.StockPercent, in.TargetPercent)
	}
	return wrong.Err()
}

func explainBath(in descaleIn, f wetwork.AcidFacts, r wetwork.BathResult, t *Reporter) {
	t.step("The bath weighs", "V ρ(target)", Term{"m", r.BathKg, "kg"}, Term{"V", in.VolumeL, "L"},
		Term{"ρ", 1000 * f.Density(in.TargetPercent), "kg/m3"})
	if r.StockL != nil {
		t.step("Acid as bought", "m · target / stock", Term{"stock", r.StockKg, "kg"}, Term{"ρ_stock",
			1000 * f.Density(in.StockPercent), "kg/m3"}, Term{"V_stock", *r.StockL, "L"})
	} else {
		t.step("Crystals", "m · target / stock", Term{"stock", r.StockKg, "kg"})
		t.warn("crystals are weighed, not measured: %.2f, stirred into the water", units.Of(r.StockKg, "kg"))
	}
	t.step("Water", "what is left of the mass", Term{"water", r.WaterL, "L"})
	t.step("Dissolves", f.Equation, Term{"CaCO₃", r.CapacityG / 1000, "kg"}, Term{"pure acid", r.PureAcidG / 1000, "kg"},
		Term{"M", f.MolarMass, "g/mol"})
	t.step("Carbon dioxide", "one mole each, 24.06 L/mol at 20 °C", Term{"CO₂", r.CarbonDioxideL, "L"})
	strong := in.Acid == string(wetwork.Hydrochloric)
	t.warnIf(strong && in.Place == "in-place",
		"hydrochloric acid is for bare copper alloys on the bench only: in place take a mild acid")
	t.warnIf(strong && in.TargetPercent > 10, "hydrochloric acid over 10 %% eats the tubes as well: weaker, and longer")
	t.warnIf(in.Place == "in-place" && !strong && in.TargetPercent > 15,
		"over 15 %% in place is more than mild acids need (common practice)")
	t.warnIf(r.CarbonDioxideL > 100,
		"about %.0f of carbon dioxide come off: it lies in the bilge and takes the air. Hatches open, blower on",
		units.Of(r.CarbonDioxideL, "L"))
}

type coolantIn struct {
	VolumeL       float64      `json:"system_volume_l"`
	Glycol        fluid.Glycol `json:"glycol"`
	Present       *float64     `json:"present_percent_volume"`
	TargetPercent *float64     `json:"target_percent_volume"`
	TargetFreeze  *float64     `json:"target_freeze_c"`
	Concentrate   float64      `json:"concentrate_percent_volume"`
}

type coolantOut struct {
	ConcentrateL    *float64 `json:"concentrate_l"`
	WaterL          *float64 `json:"water_l"`
	DrainL          *float64 `json:"drain_l"`
	AddConcentrateL *float64 `json:"add_concentrate_l"`
	AddWaterL       *float64 `json:"add_water_l"`
	FinalPercent    float64  `json:"final_percent_volume"`
	FreezeC         float64  `json:"freeze_c"`
	WasteContainerL float64  `json:"waste_container_l"`
}

var coolantMix = define(Calculator{
	Name: "coolant-mix", Asks: "How much concentrate?", Group: "Flush, descale, coolant",
	About: "To fill an empty system, or to bring a filled one to strength.",
	Fields: []Field{
		num("system_volume_l", "System holds", "L", 0.2, 5000).help("Block, exchanger, header and heater branch"),
		choice("glycol", "Glycol", fluid.Glycols).standard(string(fluid.Ethylene)),
		num("present_percent_volume", "In it now, by volume", "percent", 0,
			100).optional().help("From the refractometer; empty for an empty system"),
		num("target_percent_volume", "Wanted, by volume", "percent", 0, fluid.MaxGlycolPercent).optional(),
		num("target_freeze_c", "Or the frost it must stand", "degC", -60, 0).optional(),
		num("concentrate_percent_volume", "Concentrate, by volume", "percent", 1,
			100).standard(100.0).more().help("100 when neat; as printed when mixed ready"),
	},
	Results: []Result{
		{Name: "concentrate_l", Label: "Concentrate", Kind: Number, Unit: "L", Main: true},
		{Name: "water_l", Label: "Water", Kind: Number, Unit: "L", Main: true},
		{Name: "drain_l", Label: "Drain", Kind: Number, Unit: "L", Main: true},
		{Name: "add_concentrate_l", Label: "Fill up with concentrate", Kind: Number, Unit: "L", Main: true},
		{Name: "add_water_l", Label: "Fill up with water", Kind: Number, Unit: "L", Main: true},
		{Name: "final_percent_volume", Label: "Strength then", Kind: Number, Unit: "percent"},
		{Name: "freeze_c", Label: "Begins to freeze at", Kind: Number, Unit: "degC", Main: true},
		{Name: "waste_container_l", Label: "Container for what is drained", Kind: Number, Unit: "L"},
	},
	Notes: []string{"Volumes are taken as additive; mixing shrinks them by under 1 %. Stronger than 60 % is refused: " +
		"it freezes earlier again and carries less heat.",
		"Mix before it goes in, in a clean vessel, with water of low hardness. The container holds what is drained and a " +
			"fifth."},
	Sources:  []string{"Freezing points: ASHRAE Handbook of Fundamentals, secondary coolants (memory)"},
	Cautions: []string{"glycol", "scald", "waste"},
	Example:  `{"system_volume_l": 14, "glycol": "ethylene", "present_percent_volume": 28, "target_percent_volume": 45}`,
}, mixCoolant)

func mixCoolant(in coolantIn, t *Reporter) (coolantOut, error) {
	target, err := coolantTarget(in)
	if err != nil {
		return coolantOut{}, err
	}
	f := wetwork.Fill{VolumeL: in.VolumeL, Glycol: in.Glycol, PresentPercent: in.Present, TargetPercent: target,
		ConcentratePercent: in.Concentrate}
	r := f.Work()
	out := coolantOut{FinalPercent: r.FinalPercent, FreezeC: r.FreezeC, WasteContainerL: r.WasteContainerL}
	t.step("Strength wanted", "by volume", Term{"t", target, "percent"})
	switch {
	case in.Present == nil:
		out.ConcentrateL, out.WaterL = &r.ConcentrateL, &r.WaterL
		t.step("Concentrate", "V t / c", Term{"concentrate", r.ConcentrateL, "L"}, Term{"V", in.VolumeL, "L"},
			Term{"c", in.Concentrate, "percent"})
		t.step("Water", "the rest", Term{"water", r.WaterL, "L"})
	case *in.Present <= target:
		out.DrainL, out.AddConcentrateL = &r.DrainL, &r.AddConcentrateL
		t.step("Drain", "V (t − p) / (c − p)", Term{"drain", r.DrainL, "L"}, Term{"V", in.VolumeL, "L"},
			Term{"p", *in.Present, "percent"}, Term{"c", in.Concentrate, "percent"})
		t.report("Fill up with as much concentrate")
	default:
		out.DrainL, out.AddWaterL = &r.DrainL, &r.AddWaterL
		t.step("Drain", "V (p − t) / p", Term{"drain", r.DrainL, "L"}, Term{"V", in.VolumeL, "L"}, Term{"p", *in.Present,
			"percent"})
		t.report("Fill up with as much water: it is too strong")
	}
	t.step("Begins to freeze", "line through the table", Term{"t_f", r.FreezeC, "degC"})
	t.warnIf(target < 30,
		"under 30 %% most inhibitors are too thin to keep rust away (common practice): ask the maker's table")
	t.warnIf(in.Present != nil && *in.Present > fluid.MaxGlycolPercent,
		"what is in it is stronger than 60 %%: it cools worse than it should")
	t.draw = func() *Picture { return freezePicture(in, target, r.FreezeC) }
	return out, nil
}

func coolantTarget(in coolantIn) (float64, error) {
	var wrong validation.Errors
	target := 0.0
	switch {
	case in.TargetPercent != nil && in.TargetFreeze != nil:
		wrong.Add("target_freeze_c", *in.TargetFreeze, "nothing", "give either the strength or the frost that it must stand")
	case in.TargetPercent != nil:
		target = *in.TargetPercent
	case in.TargetFreeze != nil:
		var err error
		if target, err = fluid.PercentForFreezing(in.Glycol, *in.TargetFreeze); err != nil {
			wrong.Add("target_freeze_c", *in.TargetFreeze, units.Say("%.1f",
				units.Between(fluid.FreezingC(in.Glycol, fluid.MaxGlycolPercent), 0, "degC")), "%s", err)
		}
	default:
		wrong.Add("target_percent_volume", nothing, units.Say("0 to %g %%", fluid.MaxGlycolPercent),
			"the strength wanted is still missing (or the frost that it must stand)")
	}
	switch {
	case in.Concentrate < target:
		wrong.Add("concentrate_percent_volume", in.Concentrate, units.Say("%.1f to 100 %%", target),
			"the concentrate is weaker than what is wanted: %g %% does not make %.1f %%", in.Concentrate, target)
	case in.Present != nil && *in.Present < target && in.Concentrate <= *in.Present:
		wrong.Add("concentrate_percent_volume", in.Concentrate, "stronger than what is in it",
			"the concentrate is no stronger than what is in the system")
	}
	return target, wrong.Err()
}

func freezePicture(in coolantIn, target, freeze float64) *Picture {
	p := &Picture{Title: "Freezing point against strength", X: Axis{"Glycol by volume", "percent"},
		Y: Axis{"Begins to freeze", "degC"},
		Lines: []Line{sampled(label(string(in.Glycol)), ColdSide, 0, fluid.MaxGlycolPercent, 60,
			func(percent float64) (float64, bool) { return fluid.FreezingC(in.Glycol, percent), true })},
		Marks: []Mark{{"Then", target, freeze}}}
	if in.Present != nil && *in.Present <= fluid.MaxGlycolPercent {
		p.Marks = append(p.Marks, Mark{"Now", *in.Present, fluid.FreezingC(in.Glycol, *in.Present)})
	}
	return p
}
