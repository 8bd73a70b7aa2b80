package wetwork_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/wetwork"
)

var raw = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger",
	"raw-hoses", "elbow", "silencer", "outlet"}

func fields(t *testing.T, err error) map[string]string {
	t.Helper()
	m := map[string]string{}
	if err == nil {
		return m
	}
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	for _, w := range wrong {
		m[w.Field] = w.Say.String()
	}
	return m
}

func said(steps []wetwork.Step) string {
	var list []string
	for _, s := range steps {
		list = append(list, s.Station+": "+s.Say.String())
	}
	return strings.Join(list, "\n")
}

func TestAFlushGoesBackFirst(t *testing.T) {
	plan := wetwork.FlushPlan{Station: "gear-cooler", Debris: wetwork.Rubber, Source: wetwork.Hose, ExhaustOff: true,
		SeacockShut: true}
	steps, err := plan.Plan(raw)
	require.NoError(t, err)
	all := said(steps)
	assert.Less(t, strings.Index(all, "back-flush first"), strings.Index(all, "then forward"))
	assert.Contains(t, all, "from {raw-pump}")
	assert.Contains(t, all, "every piece goes into the piece ledger")
	assert.Contains(t, all, "silencer: drain it")
	plan.Debris, plan.ThermostatOpen = wetwork.Sand, true
	steps, err = plan.Plan(raw)
	require.NoError(t, err)
	assert.Contains(t, said(steps), "exchanger: sand sinks")
	assert.Contains(t, said(steps), "thermostat: it was open")
	first, err := wetwork.FlushPlan{Station: "intake", Debris: wetwork.Weed, Source: wetwork.Hose,
		ExhaustOff: true}.Plan(raw)
	require.NoError(t, err)
	assert.Contains(t, said(first), "from the sea")
}

// Hose water through a stopped engine with the exhaust connected is never planned, whatever else is said.
func TestNoFlushFloodsACylinder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := wetwork.FlushPlan{Station: rapid.SampledFrom(raw).Draw(t, "station"),
			Debris: rapid.SampledFrom(wetwork.Debris).Draw(t, "debris"), Source: rapid.SampledFrom([]string{wetwork.Hose,
				wetwork.Engine}).Draw(t, "source"),
			ExhaustOff: rapid.Bool().Draw(t, "exhaust off"), SeacockShut: rapid.Bool().Draw(t, "shut"),
			ByThePump: rapid.Bool().Draw(t, "by the pump"), SilencerDrained: rapid.Bool().Draw(t, "drained"),
			BothOff: rapid.Bool().Draw(t, "both off"), ImpellerOut: rapid.Bool().Draw(t, "impeller out")}
		_, err := p.Plan(raw)
		floods := p.Source == wetwork.Hose && !p.ExhaustOff && !p.SilencerDrained && (!p.BothOff || p.Station == "elbow")
		tears := p.Source == wetwork.Hose && p.Station == "raw-pump" && !p.ImpellerOut
		runsOut := p.Source == wetwork.Hose && p.ByThePump && !p.SeacockShut
		require.Equal(t, floods || runsOut || tears, err != nil)
	})
	got := fields(t, func() error {
		_, err := wetwork.FlushPlan{Station: "mast", Debris: "gold", Source: "rain"}.Plan(raw)
		return err
	}())
	assert.Len(t, got, 3)
	say := fields(t, func() error {
		_, err := wetwork.FlushPlan{Station: "exchanger", Debris: wetwork.Sand, Source: wetwork.Hose}.Plan(raw)
		return err
	}())["exhaust_off"]
	assert.Contains(t, say, "take the exhaust hose off at the elbow", "the way round")
}

func good() wetwork.DescalePlan {
	return wetwork.DescalePlan{Place: wetwork.InPlace, Product: wetwork.Product{Acid: wetwork.Phosphoric,
		StockPercent: 75}, TargetPercent: 10, Loop: []string{"gear-cooler", "exchanger", "raw-hoses"},
		Materials: map[string][]string{"gear-cooler": {"copper-alloy"}, "exchanger": {"copper-alloy", "zinc"},
			"raw-hoses": {"rubber"}}, AnodesOut: true, LoopL: 4, HosesL: 3, TankL: 25, BathL: 18, ScaleLowG: 300,
		ScaleHighG: 700, PumpLMin: 30, PumpAmps: 5.2, Minutes: 60}
}

// The same bath as the sum's: 18 L of 10 % phosphoric acid take 493 g... worked by the same function; the range of
// scale gives a range of shares.
func TestADescalingIsPlanned(t *testing.T) {
	p := good()
	d, err := p.Plan()
	require.NoError(t, err)
	want := wetwork.Bath{Acid: wetwork.Phosphoric, StockPercent: 75, TargetPercent: 10, VolumeL: 18, ScaleG: 700}.Mix()
	assert.Equal(t, want, *d.Bath)
	assert.InDelta(t, 100, *d.Turnovers, 1e-9)
	assert.Equal(t, 7.5, *d.FuseAmps, "a quarter over 5.2 A, the next size")
	assert.LessOrEqual(t, *d.ShareLow, *d.ShareHigh)
	all := said(d.Steps)
	assert.Contains(t, all, "gear-cooler: feed hose to its inlet")
	assert.Contains(t, all, "raw-hoses: return hose from its outlet")
	assert.Less(t, strings.Index(all, "water alone first"), strings.Index(all, "then the acid into it"))
	assert.Contains(t, d.Cautions, "flooding")
	p.Mechanical = []string{wetwork.Rubber}
	d, err = p.Plan()
	require.NoError(t, err)
	assert.Contains(t, d.Steps[0].Say, "acid does not touch rubber")
	p.Product, p.TargetPercent = wetwork.Product{PartsWater: 4, Minutes: 30}, 0
	d, err = p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 18.0/5, d.StockL, 1e-9)
	assert.Contains(t, units.Join(d.Warnings, " ").String(), "its own instructions rule")
	bench := good()
	bench.Place, bench.Product, bench.TargetPercent, bench.TankL = wetwork.OnWorkbench,
		wetwork.Product{Acid: wetwork.Hydrochloric, StockPercent: 30}, 6, 0
	d, err = bench.Plan()
	require.NoError(t, err)
	assert.Equal(t, 35.0, d.MostCelsius)
}

// What must not be done is refused, with the reason and the way round.
func TestWhatTheDescalerRefuses(t *testing.T) {
	for field, c := range map[string]struct {
		change func(*wetwork.DescalePlan)
		say    string
	}{
		"materials": {func(p *wetwork.DescalePlan) { p.Materials["gear-cooler"] = []string{"aluminium"} },
			"take {gear-cooler} out of the loop"},
		"anodes_out":          {func(p *wetwork.DescalePlan) { p.AnodesOut = false }, "take the anodes out first"},
		"target_percent_mass": {func(p *wetwork.DescalePlan) { p.TargetPercent = 20 }, "weaker, and longer"},
		"product.acid": {func(p *wetwork.DescalePlan) {
			p.Product.Acid,
				p.Product.StockPercent = wetwork.Hydrochloric, 30
		}, "in place take a mild acid"},
		"tank_l":                     {func(p *wetwork.DescalePlan) { p.TankL = 18 }, "overflow"},
		"bath_l":                     {func(p *wetwork.DescalePlan) { p.BathL, p.TankL = 5, 40 }, "draws air"},
		"product.stock_percent_mass": {func(p *wetwork.DescalePlan) { p.Product.StockPercent = 99 }, "from the label"},
		"minutes":                    {func(p *wetwork.DescalePlan) { p.Minutes = 0 }, "how long"},
		"loop":                       {func(p *wetwork.DescalePlan) { p.Loop = nil }, "what the acid goes through"},
		"place":                      {func(p *wetwork.DescalePlan) { p.Place = "kitchen" }, "where it is done"},
		"scale_high_g":               {func(p *wetwork.DescalePlan) { p.ScaleHighG = 100 }, "a range"},
		"product.parts_water": {func(p *wetwork.DescalePlan) { p.Product = wetwork.Product{PartsWater: -1} },
			"as printed"},
	} {
		p := good()
		c.change(&p)
		_, err := p.Plan()
		assert.Contains(t, fields(t, err)[field], c.say, field)
	}
	p := good()
	delete(p.Materials, "gear-cooler")
	_, guessed := p.Plan()
	assert.Contains(t, fields(t, guessed)["materials"], "by guess",
		"a material that nobody named is not taken for a safe one")
	p = good()
	p.Product.MostPercent = 5 // the product's own limit counts before the metal's
	_, err := p.Plan()
	assert.Contains(t, fields(t, err), "target_percent_mass")
	p.Product.MostPercent, p.Product.NotOn = 0, []string{"copper-alloy"}
	_, err = p.Plan()
	assert.Contains(t, fields(t, err)["materials"], "another product")
}

func TestAdviceOnAWorkingBath(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	for say, r := range map[string]wetwork.BathReading{
		"working":       {PH: v(1.5), Fizz: wetwork.Strong, TempC: v(30)},
		"spent: add":    {PH: v(4.2), Fizz: wetwork.Weak},
		"spent, and":    {PH: v(4.5), Fizz: wetwork.None},
		"no scale":      {PH: v(2), Fizz: wetwork.None},
		"too warm":      {TempC: v(55), Fizz: wetwork.Strong},
		"copper":        {Colour: "green", Fizz: wetwork.Weak},
		"look again in": {Colour: "brown", Fizz: wetwork.Strong},
	} {
		require.NoError(t, r.Check())
		assert.Contains(t, units.Join(r.Advise(50), "; ").String(), say)
	}
	assert.Len(t, fields(t, wetwork.BathReading{PH: v(20), TempC: v(900), Fizz: "mad"}.Check()), 3)
	assert.Error(t, wetwork.BathReading{}.Check())
}

func TestACoolantChangeIsPlanned(t *testing.T) {
	p := wetwork.CoolantPlan{BlockL: 9, ExchangerL: 3, HeaderL: 1, HeaterL: 2, Glycol: fluid.Ethylene, TargetPercent: 45,
		Concentrate: 100, VesselL: 20, Type: "long-life"}
	c, err := p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 15, c.VolumeL, 1e-9)
	assert.InDelta(t, 6.75, c.Fill.ConcentrateL, 1e-9) // 15 · 0.45
	assert.Equal(t, 5, c.Years)
	assert.Contains(t, said(c.Steps), "6.8 L of concentrate and 8.2 L of soft water")
	for field, change := range map[string]func(*wetwork.CoolantPlan){
		"target_percent_volume":      func(p *wetwork.CoolantPlan) { p.TargetPercent = 65 },
		"concentrate_percent_volume": func(p *wetwork.CoolantPlan) { p.Concentrate = 40 },
		"vessel_l":                   func(p *wetwork.CoolantPlan) { p.VesselL = 15 },
		"type":                       func(p *wetwork.CoolantPlan) { p.Type = "pink" },
		"glycol":                     func(p *wetwork.CoolantPlan) { p.Glycol = "sugar" },
		"block_l":                    func(p *wetwork.CoolantPlan) { p.BlockL = -9 },
	} {
		q := p
		change(&q)
		_, err := q.Plan()
		assert.Contains(t, fields(t, err), field)
	}
	assert.Contains(t, wetwork.Balance(15, 15.2, 15), "agree")
	assert.Contains(t, wetwork.Balance(15, 13, 15).String(), "2.0 L less went in than came out: air is trapped")
	assert.Contains(t, wetwork.Balance(13, 15, 15), "leaks elsewhere")
}

var noon = time.Date(2026, 5, 4, 12, 0, 0, 0, time.UTC)

func after(minutes float64) time.Time { return noon.Add(time.Duration(minutes * float64(time.Minute))) }

// The timer goes by the times at which the program saved the taps: stopping and going on adds up, whatever a device's
// clock says.
func TestTheTimer(t *testing.T) {
	a := &wetwork.Account{}
	plan := good()
	do := func(at float64, what string) {
		act := wetwork.Act{Do: what, Work: "w"}
		if what == wetwork.PlanIt {
			act.Kind, act.Descale = wetwork.Descale, &plan
		}
		require.NoError(t, act.Check(raw))
		a.Take(wetwork.Done{Act: act, By: "Kit", At: after(at)})
	}
	do(0, wetwork.PlanIt)
	assert.Zero(t, a.Works[0].Elapsed(after(30)), "not begun")
	do(30, wetwork.Begin)
	do(31, wetwork.Begin) // a second tap changes nothing
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(50)))
	assert.Equal(t, 40*time.Minute, a.Works[0].Left(after(50)))
	do(50, wetwork.Stop)
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(500)), "it stands")
	do(100, wetwork.Begin)
	assert.Equal(t, 25*time.Minute, a.Works[0].Elapsed(after(105)))
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(90)), "a clock that runs backwards takes nothing away")
	do(150, wetwork.End)
	assert.Equal(t, 70*time.Minute, a.Works[0].Elapsed(after(9999)))
	assert.Negative(t, a.Works[0].Left(after(9999)))
	assert.Equal(t, []string{"rinsed", "neutralised", "refitted"}, a.Works[0].Missing())
}

func TestTheLogOfWetWork(t *testing.T) {
	a := &wetwork.Account{}
	coolant := wetwork.CoolantPlan{BlockL: 9, Glycol: fluid.Ethylene, TargetPercent: 45, Concentrate: 100, VesselL: 20,
		Type: "hybrid"}
	for i, act := range []wetwork.Act{{Do: wetwork.PlanIt, Work: "c", Kind: wetwork.CoolantJob, Coolant: &coolant},
		{Do: wetwork.Drained, Work: "c", Litres: 8.5}, {Do: wetwork.Filled, Work: "c", Litres: 7}, {Do: wetwork.Topped,
			Work: "c", Litres: 1.4},
		{Do: wetwork.Strength, Work: "c", Percent: 44}, {Do: wetwork.Waste, Work: "c", What: "coolant", Litres: 8.5,
			Words: "marked drum, harbour store"}, {Do: wetwork.End, Work: "c", Words: "level steady", Hours: 1312}} {
		require.NoError(t, act.Check(raw))
		a.Take(wetwork.Done{Act: act, At: after(float64(i))})
	}
	w := a.Works[0]
	assert.InDelta(t, 8.5, w.OutL, 1e-9)
	assert.InDelta(t, 8.4, w.InL, 1e-9)
	assert.NotNil(t, w.Ended)
	assert.Equal(t, 1312.0, w.Hours)
	assert.Nil(t, w.Missing())
	a.Take(wetwork.Done{Act: wetwork.Act{Do: wetwork.Begin, Work: "nobody's"}})
	assert.Len(t, a.Works, 1)
	for do, refused := range map[string]bool{wetwork.Begin: true, wetwork.Filled: true, wetwork.End: true,
		wetwork.PlanIt: true, wetwork.Waste: false, wetwork.Strength: false, wetwork.Stage: false} {
		assert.Equal(t, refused, a.Refuse(wetwork.Act{Do: do, Work: "c"}) != "", "%s after the end", do)
	}
	assert.NotEmpty(t, a.Refuse(wetwork.Act{Do: wetwork.Begin, Work: "nobody's"}))
	assert.Empty(t, a.Refuse(wetwork.Act{Do: wetwork.PlanIt, Work: "another"}))
	for share, what := range map[float64]string{0: wetwork.Rubber, 3: wetwork.Rubber, 0.5: wetwork.Sand} {
		assert.Contains(t, fields(t, wetwork.Act{Do: wetwork.CameOut, Work: "w", What: what, Share: share}.Check(raw)),
			"share")
	}
	assert.NoError(t, wetwork.Act{Do: wetwork.CameOut, Work: "w", What: wetwork.Rubber, Share: 0.5,
		Station: "gear-cooler"}.Check(raw))
	for field, act := range map[string]wetwork.Act{
		"work": {Do: wetwork.Begin}, "do": {Do: "pray", Work: "w"}, "kind": {Do: wetwork.PlanIt, Work: "w"},
		"what": {Do: wetwork.CameOut, Work: "w", What: "gold"}, "litres": {Do: wetwork.Drained, Work: "w", Litres: -1},
		"percent": {Do: wetwork.Strength, Work: "w", Percent: 140}, "words": {Do: wetwork.Waste, Work: "w", Litres: 5},
		"bath": {Do: wetwork.ReadBath, Work: "w"},
		"flush.exhaust_off": {Do: wetwork.PlanIt, Work: "w", Kind: wetwork.Flushing,
			Flush: &wetwork.FlushPlan{Station: "elbow", Debris: wetwork.Sand, Source: wetwork.Hose}},
	} {
		assert.Contains(t, fields(t, act.Check(raw)), field)
	}
	far := good()
	far.Loop = append(far.Loop, "charge-cooler")
	assert.Contains(t, fields(t, wetwork.Act{Do: wetwork.PlanIt, Work: "w", Kind: wetwork.Descale,
		Descale: &far}.Check(raw)), "descale.loop[3]")
}

// By hand: 58 ± 6 to 94 ± 5 is 36 ± 7.8, a gain; 80 ± 8 to 88 ± 7 is 8 ± 10.6, none.
func TestAGainWithinTheErrorIsNone(t *testing.T) {
	g := wetwork.Compare("UA", 0.58, 0.06, 0.94, 0.05)
	assert.True(t, g.Better)
	assert.InDelta(t, 0.0781, g.ChangeError, 1e-4)
	none := wetwork.Compare("UA", 0.80, 0.08, 0.88, 0.07)
	assert.False(t, none.Better || none.Worse)
	assert.True(t, wetwork.Compare("UA", 0.9, 0.02, 0.7, 0.02).Worse)
}
