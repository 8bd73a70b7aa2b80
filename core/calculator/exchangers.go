package calculator

import (
	"errors"
	"math"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
)

type sideIn struct {
	Fluid    fluid.Fluid `json:"fluid"`
	FlowLMin *float64    `json:"flow_l_min"`
	InletC   float64     `json:"inlet_c"`
	OutletC  *float64    `json:"outlet_c"`
}

type ratingIn struct {
	Arrangement exchanger.Arrangement `json:"arrangement"`
	Hot         sideIn                `json:"hot"`
	Cold        sideIn                `json:"cold"`
	UA          *float64              `json:"ua_w_k"`
}

type ratingOut struct {
	Effectiveness    float64  `json:"effectiveness"`
	NTU              float64  `json:"ntu"`
	CapacityRatio    float64  `json:"capacity_ratio"`
	LMTD             float64  `json:"lmtd_k"`
	CorrectionFactor float64  `json:"correction_factor"`
	HeatKW           float64  `json:"heat_kw"`
	HotHeatKW        *float64 `json:"hot_heat_kw"`
	ColdHeatKW       *float64 `json:"cold_heat_kw"`
	HotOutletC       float64  `json:"hot_outlet_c"`
	ColdOutletC      float64  `json:"cold_outlet_c"`
	HotFlow          float64  `json:"hot_flow_l_min"`
	ColdFlow         float64  `json:"cold_flow_l_min"`
	UA               float64  `json:"ua_w_k"`
	Imbalance        *float64 `json:"imbalance_percent"`
}

func sideFields(usual fluid.Kind) []Field {
	return []Field{
		fluidField("What flows", fluid.Kinds, usual),
		num("flow_l_min", "Flow", "L/min", 0.01,
			20000).optional().help("May stay empty on one side when all four temperatures are known"),
		num("inlet_c", "In", "degC", -50, 300),
		num("outlet_c", "Out", "degC", -50, 300).optional(),
	}
}

var exchangerRating = define(Calculator{
	Name: "exchanger-rating", Asks: "How good is the heat exchanger?", Group: "Water and heat",
	About: "From flows and temperatures round it: how well it passes heat. Or from its conductance: what comes out.",
	Fields: []Field{
		choice("arrangement", "How the streams pass", exchanger.Arrangements).standard(string(exchanger.Counterflow)),
		group("hot", "Hot side", sideFields(fluid.Coolant)...),
		group("cold", "Cold side", sideFields(fluid.Sea)...),
		num("ua_w_k", "Conductance UA", "W/K", 0.1,
			1e6).optional().help("Only to find the outlets; leave it empty to find it from them"),
	},
	Results: []Result{
		{Name: "ua_w_k", Label: "Conductance UA", Kind: Number, Unit: "W/K", Main: true},
		{Name: "effectiveness", Label: "Effectiveness", Kind: Number, Unit: "1", Main: true},
		{Name: "heat_kw", Label: "Heat passed", Kind: Number, Unit: "kW", Main: true},
		{Name: "hot_outlet_c", Label: "Hot side out", Kind: Number, Unit: "degC"},
		{Name: "cold_outlet_c", Label: "Cold side out", Kind: Number, Unit: "degC"},
		{Name: "imbalance_percent", Label: "The sides disagree by", Kind: Number, Unit: "percent"},
		{Name: "hot_heat_kw", Label: "Heat by the hot side", Kind: Number, Unit: "kW"},
		{Name: "cold_heat_kw", Label: "Heat by the cold side", Kind: Number, Unit: "kW"},
		{Name: "hot_flow_l_min", Label: "Hot side flow", Kind: Number, Unit: "L/min"},
		{Name: "cold_flow_l_min", Label: "Cold side flow", Kind: Number, Unit: "L/min"},
		{Name: "ntu", Label: "Transfer units", Kind: Number, Unit: "1"},
		{Name: "capacity_ratio", Label: "Capacity ratio", Kind: Number, Unit: "1"},
		{Name: "lmtd_k", Label: "Mean difference", Kind: Number, Unit: "K"},
		{Name: "correction_factor", Label: "Correction factor", Kind: Number, Unit: "1"},
	},
	Notes: []string{
		"Volume flows are taken as measured at each side's inlet; properties are at the mean of in and out. UA is over " +
			"the outside of the tubes, whatever area is left open.",
		"When both sides are measured and disagree, each side's heat is weighed by the inverse square of its error: 0.5 K " +
			"a reading and 5 % of the flow. The outlets shown are those that agree with the heat.",
		"For shell and tube and for crossflow, the mean difference is that of counterflow, and the correction factor " +
			"makes up for the arrangement.",
	},
	Sources: []string{"W. M. Kays, A. L. London, Compact Heat Exchangers, 3rd ed. 1984, chapter 2",
		"F. P. Incropera, D. P. DeWitt, Fundamentals of Heat and Mass Transfer, chapter 11"},
	Example: `{"arrangement": "counterflow", "hot": {"fluid": {"kind": "coolant"}, "flow_l_min": 100,
		"inlet_c": 84, "outlet_c": 76}, "cold": {"fluid": {"kind": "sea"}, "flow_l_min": 70, "inlet_c": 18, "outlet_c": 29}}`,
}, rateExchanger)

func rateExchanger(in ratingIn, t *Reporter) (ratingOut, error) {
	var wrong validation.Errors
	in.check(&wrong)
	if err := wrong.Err(); err != nil {
		return ratingOut{}, err
	}
	r := rater{in: in}
	rating, err := r.solve()
	if err != nil {
		return ratingOut{}, err
	}
	out := ratingOut{Effectiveness: rating.Effectiveness, NTU: rating.NTU, CapacityRatio: rating.CapacityRatio,
		LMTD:             rating.LMTD,
		CorrectionFactor: rating.Correction, HeatKW: rating.HeatW / 1000, HotOutletC: rating.HotOutC,
		ColdOutletC: rating.ColdOutC, UA: rating.UA,
		HotHeatKW: r.hotKW, ColdHeatKW: r.coldKW, Imbalance: r.imbalance,
		HotFlow: flowOf(in.Hot, r.hot.C, rating.HotOutC), ColdFlow: flowOf(in.Cold, r.cold.C, rating.ColdOutC)}
	r.explain(out, t)
	t.draw = func() *Picture { return r.draw(rating) }
	return out, nil
}

// flowOf is the volume flow in L/min, at the inlet, of a capacity rate.
func flowOf(s sideIn, c, outlet float64) float64 {
	heat := s.Fluid.At((s.InletC + outlet) / 2).SpecificHeat
	return c / heat / s.Fluid.At(s.InletC).DensityKgM3 * 60000
}

// check refuses what cannot be, with the reason.
func (in ratingIn) check(wrong *validation.Errors) {
	hot, cold := in.Hot, in.Cold
	hot.Fluid.Check(wrong, "hot.inlet_c", hot.InletC)
	cold.Fluid.Check(wrong, "cold.inlet_c", cold.InletC)
	if hot.InletC <= cold.InletC {
		wrong.Add("hot.inlet_c", hot.InletC, units.Say("above %.1f", units.Of(cold.InletC, "degC")),
			"the hot side comes in at %.1f, not hotter than the cold side at %.1f: heat does not flow uphill. Are the "+
				"two swapped?", units.Of(hot.InletC, "degC"), units.Of(cold.InletC, "degC"))
	}
	between := func(field string, v *float64, from, to float64, say string) {
		if v != nil && (*v < from || *v > to) {
			wrong.Add(field, *v, units.Say("%.1f", units.Between(from, to, "degC")), say,
				units.Of(*v, "degC"))
		}
	}
	between("hot.outlet_c", hot.OutletC, cold.InletC, hot.InletC,
		"the hot side cannot leave at %.1f: it cools, and never below what cools it. Read again")
	between("cold.outlet_c", cold.OutletC, cold.InletC, hot.InletC,
		"the cold side cannot leave at %.1f: it warms, and never above what warms it. Read again")
	if in.Arrangement == exchanger.Parallel && hot.OutletC != nil && cold.OutletC != nil && *hot.OutletC < *cold.OutletC {
		wrong.Add("cold.outlet_c", *cold.OutletC, units.Say("up to %.1f", units.Of(*hot.OutletC, "degC")),
			"in parallel flow the cold side cannot leave hotter than the hot side: is it counterflow?")
	}
	in.checkEnough(wrong)
}

func (in ratingIn) checkEnough(wrong *validation.Errors) {
	outlets, flows := 0, 0
	for _, s := range []sideIn{in.Hot, in.Cold} {
		if s.OutletC != nil {
			outlets++
		}
		if s.FlowLMin != nil {
			flows++
		}
	}
	switch {
	case in.UA != nil && outlets > 0:
		wrong.Add("ua_w_k", *in.UA, "nothing, or no outlets",
			"give either the outlets, to find UA, or UA, to find the outlets")
	case in.UA == nil && outlets == 0:
		wrong.Add("hot.outlet_c", nothing, "a temperature", "one side's outlet is still missing (or UA, to find both)")
	case flows == 0:
		wrong.Add("cold.flow_l_min", nothing, units.Range(0.01, 20000, "L/min"), "the flow of one side is still missing")
	case flows == 1 && in.UA != nil:
		missing(wrong, in, "with UA given both flows are needed")
	case flows == 1 && outlets < 2:
		missing(wrong, in, "with one flow only, both outlets are needed; or give this flow")
	}
}

func missing(wrong *validation.Errors, in ratingIn, why string) {
	side := "hot"
	if in.Hot.FlowLMin != nil {
		side = "cold"
	}
	wrong.Add(side+".flow_l_min", nothing, units.Range(0.01, 20000, "L/min"),
		"the flow of the %s side is still missing: %s", side,
		why)
}

// rater works an exchanger out; properties depend on the outlets, so it goes round until they stand.
type rater struct {
	in            ratingIn
	hot, cold     exchanger.Stream
	hotKW, coldKW *float64
	imbalance     *float64
}

func (r *rater) solve() (exchanger.Rating, error) {
	hotOut, coldOut := orElse(r.in.Hot.OutletC, r.in.Hot.InletC), orElse(r.in.Cold.OutletC, r.in.Cold.InletC)
	var rating exchanger.Rating
	for range 30 {
		r.hot, r.cold = stream(r.in.Hot, hotOut), stream(r.in.Cold, coldOut)
		var err error
		if rating, err = r.once(); err != nil {
			return rating, err
		}
		moved := math.Abs(rating.HotOutC-hotOut) + math.Abs(rating.ColdOutC-coldOut)
		hotOut, coldOut = rating.HotOutC, rating.ColdOutC
		if moved < 1e-10 {
			break
		}
	}
	return rating, nil
}

func orElse(v *float64, other float64) float64 {
	if v != nil {
		return *v
	}
	return other
}

func stream(s sideIn, outlet float64) exchanger.Stream {
	x := exchanger.Stream{InC: s.InletC, OutC: orElse(s.OutletC, outlet)}
	if s.FlowLMin != nil {
		x.C = s.Fluid.MassFlow(*s.FlowLMin, s.InletC) * s.Fluid.At((s.InletC+outlet)/2).SpecificHeat
	}
	return x
}

func (r *rater) once() (exchanger.Rating, error) {
	a := r.in.Arrangement
	if r.in.UA != nil {
		return exchanger.FromUA(a, r.hot, r.cold, *r.in.UA), nil
	}
	heat, err := r.heat()
	if err != nil {
		return exchanger.Rating{}, err
	}
	rating, err := exchanger.FromHeat(a, r.hot, r.cold, heat)
	if errors.Is(err, exchanger.ErrTooEffective) {
		var wrong validation.Errors
		wrong.Add("arrangement", string(a), "an arrangement that can",
			"%s cannot pass %.2f between these streams: no surface is large enough (%.0f %% of all that could pass, at "+
				"most %.0f %%). Check flows and temperatures",
			label(string(a)), units.Of(heat/1000, "kW"), 100*heat/(min(r.hot.C, r.cold.C)*(r.hot.InC-r.cold.InC)),
			100*exchanger.MostEffectiveness(a, min(r.hot.C, r.cold.C)/max(r.hot.C, r.cold.C)))
		return rating, wrong
	}
	return rating, err
}

// heat joins what the measured sides say; a side without a flow gets the one that closes the balance.
func (r *rater) heat() (float64, error) {
	hotKnown, coldKnown := r.in.Hot.OutletC != nil && r.hot.C > 0, r.in.Cold.OutletC != nil && r.cold.C > 0
	hot, cold := exchanger.Measured(r.hot), exchanger.Measured(r.cold)
	kw := func(w float64) *float64 { w /= 1000; return &w }
	var heat float64
	switch {
	case hotKnown && coldKnown:
		var off float64
		heat, _, off = exchanger.Weighed(hot, cold)
		r.hotKW, r.coldKW, r.imbalance = kw(hot.HeatW), kw(cold.HeatW), &off
	case hotKnown:
		heat, r.hotKW = hot.HeatW, kw(hot.HeatW)
	default:
		heat, r.coldKW = cold.HeatW, kw(cold.HeatW)
	}
	if heat <= 0 {
		var wrong validation.Errors
		wrong.Add("hot.outlet_c", r.hot.OutC, units.Say("%.1f", units.Between(r.cold.InC, r.hot.InC, "degC")),
			"no heat passes at these temperatures: is water flowing on both sides?")
		return 0, wrong
	}
	for _, s := range []struct {
		stream *exchanger.Stream
		field  string
	}{{&r.hot, "hot.outlet_c"}, {&r.cold, "cold.outlet_c"}} {
		if s.stream.C > 0 {
			continue
		}
		change := math.Abs(s.stream.InC - s.stream.OutC)
		if change == 0 {
			var wrong validation.Errors
			wrong.Add(s.field, s.stream.OutC, "another temperature than the inlet's",
				"this side's flow cannot be found: its temperature does not change")
			return 0, wrong
		}
		s.stream.C = heat / change
	}
	return heat, nil
}

func (r *rater) explain(out ratingOut, t *Reporter) {
	t.step("Capacity of the hot stream", "C = ρ V̇ c", Term{"C_hot", r.hot.C, "W/K"}, Term{"V̇", out.HotFlow, "L/min"})
	t.step("Capacity of the cold stream", "C = ρ V̇ c", Term{"C_cold", r.cold.C, "W/K"}, Term{"V̇", out.ColdFlow,
		"L/min"})
	if r.imbalance != nil {
		t.step("Heat by the hot side", "C_hot (T_in − T_out)", Term{"Q_hot", *r.hotKW, "kW"})
		t.step("Heat by the cold side", "C_cold (t_out − t_in)", Term{"Q_cold", *r.coldKW, "kW"})
	}
	t.step("Heat passed", "Q", Term{"Q", out.HeatKW, "kW"})
	t.step("Effectiveness", "ε = Q / (C_min (T_in − t_in))", Term{"ε", out.Effectiveness, "1"},
		Term{"C_r", out.CapacityRatio, "1"})
	t.step("Transfer units", "NTU from ε and C_r for this arrangement", Term{"NTU", out.NTU, "1"})
	t.step("Conductance", "UA = NTU C_min", Term{"UA", out.UA, "W/K"})
	t.step("Mean difference", "LMTD of the two ends", Term{"ΔT", out.LMTD, "K"})
	if out.CorrectionFactor != 1 {
		t.step("Correction", "F = Q / (UA ΔT)", Term{"F", out.CorrectionFactor, "1"})
	}
	t.warnIf(r.imbalance != nil && math.Abs(*r.imbalance) > 10,
		"the two sides disagree by %.0f %%: a flow or a temperature is off, or the engine was not steady. Read both again "+
			"before trusting UA", math.Abs(orElse(r.imbalance, 0)))
	t.warnIf(out.NTU > 5, "so effective an exchanger hangs on fractions of a degree: UA is uncertain")
	t.warnIf(r.in.Cold.Fluid.Kind == fluid.Sea && out.ColdOutletC > 55,
		"raw water above %g lets salts fall out as scale", units.Of(55, "degC"))
}

func (r *rater) draw(rating exchanger.Rating) *Picture {
	a, ua := exchanger.Counterflow, rating.UA*rating.Correction
	if r.in.Arrangement == exchanger.Parallel {
		a = exchanger.Parallel
	}
	const n = 24
	hot, cold := exchanger.Profile(a, r.hot, r.cold, ua, n)
	x := make([]float64, n+1)
	for i := range x {
		x[i] = 100 * float64(i) / n
	}
	title := "Temperatures along the exchanger"
	if rating.Correction != 1 {
		title += ", drawn as counterflow with the same ends"
	}
	return &Picture{Title: title, X: Axis{"From where the hot side enters", "percent"}, Y: Axis{"Temperature", "degC"},
		Lines: []Line{{Label: "Hot side", Role: HotSide, X: x, Y: hot}, {Label: "Cold side", Role: ColdSide, X: x, Y: cold}}}
}
