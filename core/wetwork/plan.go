package wetwork

import (
	"slices"

	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Where descaling is done.
const (
	InPlace     = "in-place"
	OnWorkbench = "bench"
)

// DescalePlan is a descaling to be planned.
type DescalePlan struct {
	Place         string              `json:"place"`
	Product       Product             `json:"product"`
	TargetPercent float64             `json:"target_percent_mass,omitempty"`
	Loop          []string            `json:"loop"`      // stations that the acid goes through, in the order of the water
	Materials     map[string][]string `json:"materials"` // by station
	AnodesOut     bool                `json:"anodes_out"`
	LoopL         float64             `json:"loop_l"` // of the stations
	HosesL        float64             `json:"hoses_l"`
	TankL         float64             `json:"tank_l"`      // the tank's size
	BathL         float64             `json:"bath_l"`      // all of the bath
	ScaleLowG     float64             `json:"scale_low_g"` // 0: not known
	ScaleHighG    float64             `json:"scale_high_g"`
	PumpLMin      float64             `json:"pump_l_min,omitempty"`
	PumpAmps      float64             `json:"pump_amps,omitempty"`
	Minutes       float64             `json:"minutes"`
	// debris that acid will not remove and that is suspected
	Mechanical []string `json:"mechanical,omitempty"`
}

// Descaling is a plan worked out.
type Descaling struct {
	Bath         *BathResult // nil for a mix of unknown strength
	StockL       float64     // or kg of crystals, see Bath
	WaterL       float64
	ShareLow     *float64 // percent of the scale that the bath can take, for the high and the low computation
	ShareHigh    *float64
	Enough       *bool // for the high computation
	Turnovers    *float64
	FuseAmps     *float64
	Steps        []Step
	Cautions     []string // ids
	Warnings     []units.Sentence
	MostCelsius  float64
	RinseMinutes float64
}

// The strongest bath in percent by mass, in place and on the bench; common practice. Hydrochloric acid stays on the
// bench.
var strongest = map[Acid][2]float64{Phosphoric: {15, 25}, Citric: {10, 20}, Sulfamic: {10, 15}, Formic: {10, 15},
	Acetic: {15, 25}, Hydrochloric: {0, 10}}

// fuses are the usual sizes, in A; a pump's is the next over a quarter more than it draws.
var fuses = []float64{1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40}

// What a bath may come to, room left in the tank for foam, and how long it is rinsed; common practice.
const (
	mostMildC   = 50.0
	mostHClC    = 35.0
	foamRoom    = 1.15
	rinseTimes  = 1.0 / 3
	leastRinse  = 10.0
	spareFuse   = 1.25
	wantedTurns = 10.0
)

// Plan works a descaling out, or refuses it with the reason and the way round.
func (p DescalePlan) Plan() (Descaling, error) {
	if err := p.check(); err != nil {
		return Descaling{}, err
	}
	d := Descaling{Cautions: []string{"acid-bath", "hydrogen", "carbon-dioxide", "waste", "limits"},
		MostCelsius: mostMildC, RinseMinutes: max(leastRinse, rinseTimes*p.Minutes)}
	if p.Place == InPlace {
		d.Cautions = append([]string{"flooding"}, d.Cautions...)
	}
	if p.Product.Acid == Hydrochloric {
		d.MostCelsius = mostHClC
		d.Warnings = append(d.Warnings, "minutes, not hours: stay with it and look all the time")
	}
	if p.Product.Caustic {
		d.Cautions = []string{"caustic-bath", "waste", "limits"}
	}
	p.bath(&d)
	if p.PumpLMin > 0 {
		n := Turnovers(p.PumpLMin, p.Minutes, p.BathL)
		d.Turnovers = &n
		if n < wantedTurns {
			d.Warnings = append(d.Warnings, units.Say("the bath goes round %.1f times only: pump more, or longer", n))
		}
	}
	if p.PumpAmps > 0 {
		if i := slices.IndexFunc(fuses, func(a float64) bool { return a >= spareFuse*p.PumpAmps }); i >= 0 {
			d.FuseAmps = &fuses[i]
		}
	}
	d.Steps = p.steps(d)
	return d, nil
}

func (p DescalePlan) bath(d *Descaling) {
	if p.Product.Acid == "" {
		d.StockL = p.BathL / (1 + p.Product.PartsWater)
		d.WaterL = p.BathL - d.StockL
		d.Warnings = append(d.Warnings,
			"what a bought mix dissolves is not known here: its own instructions rule, for strength and for minutes")
		return
	}
	b := Bath{Acid: p.Product.Acid, StockPercent: p.Product.StockPercent, TargetPercent: p.TargetPercent,
		VolumeL: p.BathL, ScaleG: p.ScaleHighG}
	r := b.Mix()
	d.Bath, d.WaterL = &r, r.WaterL
	if r.StockL != nil {
		d.StockL = *r.StockL
	}
	if p.ScaleHighG > 0 {
		share := func(g float64) *float64 {
			v := 100.0
			if g > 0 {
				v = min(100, 100*r.CapacityG/g)
			}
			return &v
		}
		d.ShareLow, d.ShareHigh, d.Enough = share(p.ScaleHighG), share(p.ScaleLowG), &r.Enough
		if !r.Enough {
			d.Warnings = append(d.Warnings,
				units.Say("spent after %.0f g, and there may be up to %.0f g: a second bath, a larger one or a stronger one",
					r.CapacityG, p.ScaleHighG))
		}
	}
	const muchGasL = 100
	if r.CarbonDioxideL > muchGasL {
		d.Warnings = append(d.Warnings,
			units.Say("about %.0f of carbon dioxide come off: it lies in the bilge and takes the air",
				units.Of(r.CarbonDioxideL, "L")))
	}
}

// check refuses what must not be done.
func (p DescalePlan) check() error {
	var wrong validation.Errors
	if p.Place != InPlace && p.Place != OnWorkbench {
		wrong.Add("place", p.Place, "in-place, bench", "say where it is done")
	}
	if len(p.Loop) == 0 {
		wrong.Add("loop", "nothing", "1 station or more", "say what the acid goes through")
	}
	for _, s := range p.Loop {
		if s == "silencer" {
			wrong.Add("loop", "silencer", "no silencer in the loop",
				"acid stands in its baffles and nobody rinses it out: scrape and rinse a silencer, leave it out of the loop")
		}
		if len(p.Materials[s]) == 0 {
			wrong.Add("materials", s+" of nothing known", "what each station in the loop is made of",
				"what {%s} is made of is not said: acid must not meet aluminium, zinc or chrome by guess", s)
		}
		for _, m := range p.Materials[s] {
			if why, bad := p.eaten()[m]; bad {
				wrong.Add("materials", units.Say("%s of %s", s, m), units.Sentence("no "+m+" in the loop"),
					"%s: take {%s} out of the loop, hose round it, or clean it by hand", why, s)
			} else if p.Product.Acid == Hydrochloric && slices.Contains(ferrous, m) {
				wrong.Add("materials", units.Say("%s of %s", s, m), "bare copper alloys for hydrochloric acid",
					"hydrochloric acid eats iron, steel and stainless: take {%s} out, or a mild acid", s)
			} else if slices.Contains(p.Product.NotOn, m) {
				wrong.Add("materials", units.Say("%s of %s", s, m), "what the product allows",
					"the product is not for %s: take {%s} out of the loop, or another product", m, s)
			} else if m == "zinc" && !p.AnodesOut {
				wrong.Add("anodes_out", "anodes in", "anodes out",
					"zinc in acid sets hydrogen free, and the anode is gone: take the anodes out first")
			}
		}
	}
	p.checkBath(&wrong)
	within := func(field string, v, least, most float64, unit, say string) {
		if !(v >= least && v <= most) {
			wrong.Add(field, v, units.Range(least, most, unit), "%s", say)
		}
	}
	within("minutes", p.Minutes, 1, 1440, "min", "say how long")
	within("bath_l", p.BathL, 0.2, 2000, "L", "say how much bath there is in all")
	if p.ScaleLowG < 0 || p.ScaleHighG < p.ScaleLowG || p.ScaleHighG > 1e5 {
		wrong.Add("scale_high_g", p.ScaleHighG, "from the low computation to 100,000 g", "the scale is a range, low to high")
	}
	if p.Place == InPlace {
		if p.BathL < p.LoopL+p.HosesL {
			wrong.Add("bath_l", p.BathL, units.Say("%.1f or more", units.Of(p.LoopL+p.HosesL, "L")),
				"loop and hoses hold %.1f: with less the pump draws air. Mix more", units.Of(p.LoopL+p.HosesL, "L"))
		}
		if need := foamRoom * p.BathL; p.TankL < need {
			wrong.Add("tank_l", p.TankL, units.Say("%.0f or more", units.Of(need, "L")),
				"when the pump stops the loop runs back, and it foams: %.0f of bath overflow a tank of %.0f. A larger tank, "+
					"or less bath", units.Of(p.BathL, "L"), units.Of(p.TankL, "L"))
		}
	}
	return wrong.Err()
}

func (p DescalePlan) checkBath(wrong *validation.Errors) {
	x := p.Product
	if x.Caustic && p.Place == InPlace {
		wrong.Add("product.caustic", "in place", "on the bench",
			"a caustic cleaner is for a part that is off and wholly of iron, steel or copper alloy: take it off and dip it")
	}
	if x.Acid == "" {
		x.checkParts(wrong)
		return
	}
	f, known := acids[x.Acid]
	if !known {
		wrong.Add("product.acid", x.Acid, "phosphoric, citric, sulfamic, formic, acetic, hydrochloric",
			"there is no such acid here")
		return
	}
	if !(x.StockPercent > 0 && x.StockPercent <= f.MostPercent) {
		wrong.Add("product.stock_percent_mass", x.StockPercent, units.Say("above 0, to %g %%", f.MostPercent),
			"give the strength as bought, from the label")
	}
	most := strongest[x.Acid][boolIndex(p.Place == OnWorkbench)]
	if x.MostPercent > 0 {
		most = min(most, x.MostPercent)
	}
	switch {
	case most == 0:
		wrong.Add("product.acid", x.Acid, "a mild acid in place",
			"hydrochloric acid is for bare copper alloys on the bench: in place take a mild acid, or take the stack out")
	case !(p.TargetPercent > 0 && p.TargetPercent <= min(most, x.StockPercent, f.MostBath)):
		wrong.Add("target_percent_mass", p.TargetPercent, units.Say("above 0, to %g %%", min(most, x.StockPercent,
			f.MostBath)), "stronger than %g %% is more than the metal or the product allows, or than what you have: weaker, "+
			"and longer", min(most, x.StockPercent, f.MostBath))
	}
}

// eaten are the materials that the product eats, and why.
func (p DescalePlan) eaten() map[string]string {
	if p.Product.Caustic {
		return noCaustic
	}
	return noAcid
}

func boolIndex(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (p DescalePlan) steps(d Descaling) []Step {
	var list []Step
	add := func(station string, say units.Sentence, minutes float64) {
		list = append(list, Step{station, say, minutes})
	}
	if p.Product.Caustic {
		return p.causticSteps(d)
	}
	if len(p.Mechanical) > 0 {
		add("", "acid does not touch rubber, weed, sand, shell lumps or paint: back-flush and rod first", 0)
	}
	first, last := p.Loop[0], p.Loop[len(p.Loop)-1]
	if p.Place == InPlace {
		add("", "seacock shut, anodes out, plugs in their holes", 0)
		add(first, "feed hose to its inlet, the lowest raw point", 0)
		add(last, "return hose from its outlet, before the elbow, back into the tank above the level", 0)
		if d.FuseAmps != nil {
			add("", units.Say("pump on a switch with a %g A fuse, cable clear of the wet", *d.FuseAmps), 0)
		}
		add("", "water alone first: every joint tight?", 5)
	} else {
		add("", "anodes out, stack on wood in a plastic vessel", 0)
	}
	add("", units.Say("water first, then the acid into it: %.1f of water", units.Of(d.WaterL, "L")), 0)
	add("", "circulate or soak; read pH, fizz, colour and temperature every ten minutes", p.Minutes)
	add("", "rinse with fresh water until the strip reads as the tap", d.RinseMinutes)
	add("", "neutralise what came out before it goes anywhere, with soda, slowly", 0)
	add("", "anodes in, new seals, then flow, rise and approach as before", 0)
	return list
}

// causticSteps are those of a part in a caustic cleaner.
func (p DescalePlan) causticSteps(d Descaling) []Step {
	water := units.Sentence("as it comes out of the can")
	if !p.Product.Ready {
		water = units.Say("cold water first, %.1f of it, then the cleaner into it, slowly: it heats up",
			units.Of(d.WaterL, "L"))
	}
	return []Step{{"", "scrape off what comes off dry; gaskets and rubber off the part", 0},
		{"", water, 0},
		{"", "the part wholly under, lid on, no acid anywhere near", p.Minutes},
		{"", "out with tongs, rinse with much water until it is no more slippery", d.RinseMinutes},
		{"", "spent cleaner into its own can, never together with spent acid", 0}}
}

// Fizz, as it is seen.
const (
	Strong = "strong"
	Weak   = "weak"
	None   = "none"
)

// BathReading is a look at a working bath. PH and TempC nil: not read.
type BathReading struct {
	PH     *float64 `json:"ph,omitempty"`
	Fizz   string   `json:"fizz,omitempty"`
	TempC  *float64 `json:"temp_c,omitempty"`
	Colour string   `json:"colour,omitempty"` // clear, brown, green, blue
}

// SpentPH is that above which a bath is spent; common practice.
const SpentPH = 4.0

// Check says what does not fit in a reading.
func (r BathReading) Check() error {
	var wrong validation.Errors
	if r.PH != nil && !(*r.PH >= 0 && *r.PH <= 14) {
		wrong.Add("ph", *r.PH, "0 to 14", "read the strip again")
	}
	if r.TempC != nil && !(*r.TempC >= -10 && *r.TempC <= 110) {
		wrong.Add("temp_c", *r.TempC, units.Range(-10, 110, "degC"), "read it again")
	}
	if r.Fizz != "" && !slices.Contains([]string{Strong, Weak, None}, r.Fizz) {
		wrong.Add("fizz", r.Fizz, "strong, weak, none", "say how it fizzes")
	}
	if r.PH == nil && r.TempC == nil && r.Fizz == "" && r.Colour == "" {
		wrong.Add("fizz", "nothing", "one reading or more", "say what you see")
	}
	return wrong.Err()
}

// Advise says what a reading means for a bath that may come to mostC.
func (r BathReading) Advise(mostC float64) []units.Sentence {
	var list []units.Sentence
	if r.TempC != nil && *r.TempC > mostC {
		list = append(list, units.Say("too warm: over %.0f it eats metal and fumes. Stop the pump, add water",
			units.Of(mostC, "degC")))
	}
	spent := r.PH != nil && *r.PH >= SpentPH
	switch {
	case spent && r.Fizz == None:
		list = append(list, "spent, and nothing fizzes: stop and rinse, or add acid if the tubes are not clean")
	case spent:
		list = append(list, "spent: add acid, or stop")
	case r.Fizz == None:
		list = append(list, "still sour and no fizz: no scale is left that acid reaches. Stop and rinse")
	}
	if (r.Colour == "green" || r.Colour == "blue") && r.Fizz != Strong {
		list = append(list, "green or blue is copper: it is eating the tubes now. Stop")
	}
	if len(list) == 0 {
		list = append(list, "working: look again in ten minutes")
	}
	return list
}

// CoolantPlan is a coolant change to be planned; volumes in L.
type CoolantPlan struct {
	BlockL        float64      `json:"block_l"`
	ExchangerL    float64      `json:"exchanger_l"`
	HeaderL       float64      `json:"header_l"`
	HeaterL       float64      `json:"heater_l"`
	Glycol        fluid.Glycol `json:"glycol"`
	TargetPercent float64      `json:"target_percent_volume"`
	Concentrate   float64      `json:"concentrate_percent_volume"`
	VesselL       float64      `json:"vessel_l"`
	Type          string       `json:"type"` // of inhibitor, see Inhibitors
}

// Inhibitors are the kinds of coolant with the years until the next change; common practice, the maker's word rules.
var Inhibitors = map[string]struct {
	Label string
	Years int
}{"conventional": {"conventional (silicate)", 2}, "hybrid": {"hybrid", 3}, "long-life": {"long life (organic)", 5}}

// CoolantChange is a plan worked out.
type CoolantChange struct {
	VolumeL float64
	Fill    FillResult
	Steps   []Step
	Years   int
}

// vesselRoom is how much larger than what comes out the vessel must be.
const vesselRoom = 1.1

// Plan works a coolant change out, or refuses it.
func (p CoolantPlan) Plan() (CoolantChange, error) {
	var wrong validation.Errors
	c := CoolantChange{VolumeL: p.BlockL + p.ExchangerL + p.HeaderL + p.HeaterL}
	if !(c.VolumeL >= 0.5 && c.VolumeL <= 2000) || min(p.BlockL, p.ExchangerL, p.HeaderL, p.HeaterL) < 0 {
		wrong.Add("block_l", c.VolumeL, units.Range(0.5, 2000, "L")+" in all",
			"give what block, exchanger, header and heater branch hold")
	}
	if !(p.TargetPercent >= 0 && p.TargetPercent <= fluid.MaxGlycolPercent) {
		wrong.Add("target_percent_volume", p.TargetPercent, units.Say("0 to %g %%", fluid.MaxGlycolPercent),
			"stronger than %g %% freezes earlier again and cools worse: take less", fluid.MaxGlycolPercent)
	}
	if !(p.Concentrate >= p.TargetPercent && p.Concentrate > 0 && p.Concentrate <= 100) {
		wrong.Add("concentrate_percent_volume", p.Concentrate, units.Say("%.0f to 100 %%", p.TargetPercent),
			"the concentrate is weaker than what is wanted: read the can again")
	}
	if !slices.Contains(fluid.Glycols, p.Glycol) {
		wrong.Add("glycol", p.Glycol, "ethylene, propylene", "say which glycol")
	}
	kind, ok := Inhibitors[p.Type]
	if !ok {
		wrong.Add("type", p.Type, "conventional, hybrid, long-life", "say which kind of coolant")
	}
	if need := vesselRoom * c.VolumeL; p.VesselL < need {
		wrong.Add("vessel_l", p.VesselL, units.Say("%.0f or more", units.Of(need, "L")),
			"%.1f come out: the vessel runs over. A larger one, or empty it half way with the drain shut",
			units.Of(c.VolumeL, "L"))
	}
	if err := wrong.Err(); err != nil {
		return c, err
	}
	c.Years = kind.Years
	c.Fill = Fill{VolumeL: c.VolumeL, Glycol: p.Glycol, TargetPercent: p.TargetPercent,
		ConcentratePercent: p.Concentrate}.Work()
	c.Steps = []Step{{"header", "cold: cap off, it lets air in", 0},
		{"block", "drain the block into the marked vessel, lower than the drain", 0},
		{"exchanger", "drain the exchanger too", 0},
		{"", "rinse, run it cool, drain again; write down the litres out", 0},
		{"", units.Say("mix in a clean vessel: %.1f of concentrate and %.1f of soft water",
			units.Of(c.Fill.ConcentrateL, "L"),
			units.Of(c.Fill.WaterL, "L")), 0},
		{"header", "fill slowly, heater valve open, bleed at the highest point", 0},
		{"", "run an hour, watch the level, top up", bleedMinutes}, {"header", "cold the next day: the level once more", 0}}
	return c, nil
}

// bleedMinutes is how long the level is watched after a fill; common practice.
const bleedMinutes = 60.0

// Balance says what litres out against litres in mean, for a system of so many litres.
func Balance(outL, inL, systemL float64) units.Sentence {
	const slack = 0.03 // of the system
	switch d := outL - inL; {
	case d > slack*systemL:
		return units.Say("%.1f less went in than came out: air is trapped. Heater open, bleed again, watch the level",
			units.Of(d, "L"))
	case d < -slack*systemL:
		return units.Say("%.1f more went in than came out: it was low before, or it leaks elsewhere", units.Of(-d, "L"))
	}
	return "litres in and litres out agree"
}
