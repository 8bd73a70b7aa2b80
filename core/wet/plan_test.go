package wet_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/fluid"
	"hevrin/core/input"
	"hevrin/core/wet"
)

var raw = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses", "elbow", "silencer", "outlet"}

func fields(t *testing.T, err error) map[string]string {
	t.Helper()
	m := map[string]string{}
	if err == nil {
		return m
	}
	var wrong input.Errors
	require.ErrorAs(t, err, &wrong)
	for _, w := range wrong {
		m[w.Field] = w.Say
	}
	return m
}

func said(steps []wet.Step) string {
	var list []string
	for _, s := range steps {
		list = append(list, s.Station+": "+s.Say)
	}
	return strings.Join(list, "\n")
}

func TestAFlushGoesBackFirst(t *testing.T) {
	plan := wet.FlushPlan{Station: "gear-cooler", Debris: wet.Rubber, Source: wet.Hose, ExhaustOff: true, SeacockShut: true}
	steps, err := plan.Plan(raw)
	require.NoError(t, err)
	all := said(steps)
	assert.Less(t, strings.Index(all, "back-flush first"), strings.Index(all, "then forward"))
	assert.Contains(t, all, "from {raw-pump}")
	assert.Contains(t, all, "every piece goes into the piece ledger")
	assert.Contains(t, all, "silencer: drain it")
	plan.Debris, plan.ThermostatOpen = wet.Sand, true
	steps, err = plan.Plan(raw)
	require.NoError(t, err)
	assert.Contains(t, said(steps), "exchanger: sand sinks")
	assert.Contains(t, said(steps), "thermostat: it was open")
	first, err := wet.FlushPlan{Station: "intake", Debris: wet.Weed, Source: wet.Hose, ExhaustOff: true}.Plan(raw)
	require.NoError(t, err)
	assert.Contains(t, said(first), "from the sea")
}

// Hose water through a stopped engine with the exhaust connected is never planned, whatever else is said.
func TestNoFlushFloodsACylinder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := wet.FlushPlan{Station: rapid.SampledFrom(raw).Draw(t, "station"), Debris: rapid.SampledFrom(wet.Debris).Draw(t, "debris"), Source: rapid.SampledFrom([]string{wet.Hose, wet.Engine}).Draw(t, "source"),
			ExhaustOff: rapid.Bool().Draw(t, "exhaust off"), SeacockShut: rapid.Bool().Draw(t, "shut"), ByThePump: rapid.Bool().Draw(t, "by the pump"), SilencerDrained: rapid.Bool().Draw(t, "drained")}
		_, err := p.Plan(raw)
		floods := p.Source == wet.Hose && !p.ExhaustOff && !p.SilencerDrained
		runsOut := p.Source == wet.Hose && p.ByThePump && !p.SeacockShut
		require.Equal(t, floods || runsOut, err != nil)
	})
	got := fields(t, func() error {
		_, err := wet.FlushPlan{Station: "mast", Debris: "gold", Source: "rain"}.Plan(raw)
		return err
	}())
	assert.Len(t, got, 3)
	say := fields(t, func() error {
		_, err := wet.FlushPlan{Station: "exchanger", Debris: wet.Sand, Source: wet.Hose}.Plan(raw)
		return err
	}())["exhaust_off"]
	assert.Contains(t, say, "take the exhaust hose off at the elbow", "the way round")
}

func good() wet.DescalePlan {
	return wet.DescalePlan{Place: wet.InPlace, Product: wet.Product{Acid: wet.Phosphoric, StockPercent: 75}, TargetPercent: 10, Loop: []string{"gear-cooler", "exchanger", "raw-hoses"},
		Materials: map[string][]string{"gear-cooler": {"copper-alloy"}, "exchanger": {"copper-alloy", "zinc"}, "raw-hoses": {"rubber"}}, AnodesOut: true, LoopL: 4, HosesL: 3, TankL: 25, BathL: 18, ScaleLowG: 300, ScaleHighG: 700, PumpLMin: 30, PumpAmps: 5.2, Minutes: 60}
}

// The same bath as the sum's: 18 L of 10 % phosphoric acid take 493 g... worked by the same function; the range of scale gives
// a range of shares.
func TestADescalingIsPlanned(t *testing.T) {
	p := good()
	d, err := p.Plan()
	require.NoError(t, err)
	want := wet.Bath{Acid: wet.Phosphoric, StockPercent: 75, TargetPercent: 10, VolumeL: 18, ScaleG: 700}.Mix()
	assert.Equal(t, want, *d.Bath)
	assert.InDelta(t, 100, *d.Turnovers, 1e-9)
	assert.Equal(t, 7.5, *d.FuseAmps, "a quarter over 5.2 A, the next size")
	assert.LessOrEqual(t, *d.ShareLow, *d.ShareHigh)
	all := said(d.Steps)
	assert.Contains(t, all, "gear-cooler: feed hose to its inlet")
	assert.Contains(t, all, "raw-hoses: return hose from its outlet")
	assert.Less(t, strings.Index(all, "water alone first"), strings.Index(all, "then the acid into it"))
	assert.Contains(t, d.Cautions, "flooding")
	p.Mechanical = []string{wet.Rubber}
	d, err = p.Plan()
	require.NoError(t, err)
	assert.Contains(t, d.Steps[0].Say, "acid does not touch rubber")
	p.Product, p.TargetPercent = wet.Product{PartsWater: 4, Minutes: 30}, 0
	d, err = p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 18.0/5, d.StockL, 1e-9)
	assert.Contains(t, strings.Join(d.Warnings, " "), "its own instructions rule")
	bench := good()
	bench.Place, bench.Product, bench.TargetPercent, bench.TankL = wet.OnBench, wet.Product{Acid: wet.Hydrochloric, StockPercent: 30}, 6, 0
	d, err = bench.Plan()
	require.NoError(t, err)
	assert.Equal(t, 35.0, d.MostCelsius)
}

// What must not be done is refused, with the reason and the way round.
func TestWhatTheDescalerRefuses(t *testing.T) {
	for field, c := range map[string]struct {
		change func(*wet.DescalePlan)
		say    string
	}{
		"materials":                  {func(p *wet.DescalePlan) { p.Materials["gear-cooler"] = []string{"aluminium"} }, "take {gear-cooler} out of the loop"},
		"anodes_out":                 {func(p *wet.DescalePlan) { p.AnodesOut = false }, "take the anodes out first"},
		"target_percent_mass":        {func(p *wet.DescalePlan) { p.TargetPercent = 20 }, "weaker, and longer"},
		"product.acid":               {func(p *wet.DescalePlan) { p.Product.Acid, p.Product.StockPercent = wet.Hydrochloric, 30 }, "in place take a mild acid"},
		"tank_l":                     {func(p *wet.DescalePlan) { p.TankL = 18 }, "overflow"},
		"bath_l":                     {func(p *wet.DescalePlan) { p.BathL, p.TankL = 5, 40 }, "draws air"},
		"product.stock_percent_mass": {func(p *wet.DescalePlan) { p.Product.StockPercent = 99 }, "from the label"},
		"minutes":                    {func(p *wet.DescalePlan) { p.Minutes = 0 }, "how long"},
		"loop":                       {func(p *wet.DescalePlan) { p.Loop = nil }, "what the acid goes through"},
		"place":                      {func(p *wet.DescalePlan) { p.Place = "kitchen" }, "where it is done"},
		"scale_high_g":               {func(p *wet.DescalePlan) { p.ScaleHighG = 100 }, "a range"},
		"product.parts_water":        {func(p *wet.DescalePlan) { p.Product = wet.Product{PartsWater: -1} }, "as printed"},
	} {
		p := good()
		c.change(&p)
		_, err := p.Plan()
		assert.Contains(t, fields(t, err)[field], c.say, field)
	}
	p := good()
	delete(p.Materials, "gear-cooler")
	_, guessed := p.Plan()
	assert.Contains(t, fields(t, guessed)["materials"], "by guess", "a material that nobody named is not taken for a safe one")
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
	for say, r := range map[string]wet.BathReading{
		"working":       {PH: v(1.5), Fizz: wet.Strong, TempC: v(30)},
		"spent: add":    {PH: v(4.2), Fizz: wet.Weak},
		"spent, and":    {PH: v(4.5), Fizz: wet.None},
		"no scale":      {PH: v(2), Fizz: wet.None},
		"too warm":      {TempC: v(55), Fizz: wet.Strong},
		"copper":        {Colour: "green", Fizz: wet.Weak},
		"look again in": {Colour: "brown", Fizz: wet.Strong},
	} {
		require.NoError(t, r.Check())
		assert.Contains(t, strings.Join(r.Advise(50), "; "), say)
	}
	assert.Len(t, fields(t, wet.BathReading{PH: v(20), TempC: v(900), Fizz: "mad"}.Check()), 3)
	assert.Error(t, wet.BathReading{}.Check())
}

func TestACoolantChangeIsPlanned(t *testing.T) {
	p := wet.CoolantPlan{BlockL: 9, ExchangerL: 3, HeaderL: 1, HeaterL: 2, Glycol: fluid.Ethylene, TargetPercent: 45, Concentrate: 100, VesselL: 20, Type: "long-life"}
	c, err := p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 15, c.VolumeL, 1e-9)
	assert.InDelta(t, 6.75, c.Fill.ConcentrateL, 1e-9) // 15 · 0.45
	assert.Equal(t, 5, c.Years)
	assert.Contains(t, said(c.Steps), "6.8 L of concentrate and 8.2 L of soft water")
	for field, change := range map[string]func(*wet.CoolantPlan){
		"target_percent_volume":      func(p *wet.CoolantPlan) { p.TargetPercent = 65 },
		"concentrate_percent_volume": func(p *wet.CoolantPlan) { p.Concentrate = 40 },
		"vessel_l":                   func(p *wet.CoolantPlan) { p.VesselL = 15 },
		"type":                       func(p *wet.CoolantPlan) { p.Type = "pink" },
		"glycol":                     func(p *wet.CoolantPlan) { p.Glycol = "sugar" },
		"block_l":                    func(p *wet.CoolantPlan) { p.BlockL = -9 },
	} {
		q := p
		change(&q)
		_, err := q.Plan()
		assert.Contains(t, fields(t, err), field)
	}
	assert.Contains(t, wet.Balance(15, 15.2, 15), "agree")
	assert.Contains(t, wet.Balance(15, 13, 15), "2.0 L less went in than came out: air is trapped")
	assert.Contains(t, wet.Balance(13, 15, 15), "leaks elsewhere")
}

var noon = time.Date(2026, 5, 4, 12, 0, 0, 0, time.UTC)

func after(minutes float64) time.Time { return noon.Add(time.Duration(minutes * float64(time.Minute))) }

// The timer goes by the times at which the program saved the taps: stopping and going on adds up, whatever a device's clock says.
func TestTheTimer(t *testing.T) {
	a := &wet.Account{}
	plan := good()
	do := func(at float64, what string) {
		act := wet.Act{Do: what, Work: "w"}
		if what == wet.PlanIt {
			act.Kind, act.Descale = wet.Descale, &plan
		}
		require.NoError(t, act.Check(raw))
		a.Take(wet.Done{Act: act, By: "Kit", At: after(at)})
	}
	do(0, wet.PlanIt)
	assert.Zero(t, a.Works[0].Elapsed(after(30)), "not begun")
	do(30, wet.Begin)
	do(31, wet.Begin) // a second tap changes nothing
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(50)))
	assert.Equal(t, 40*time.Minute, a.Works[0].Left(after(50)))
	do(50, wet.Stop)
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(500)), "it stands")
	do(100, wet.Begin)
	assert.Equal(t, 25*time.Minute, a.Works[0].Elapsed(after(105)))
	assert.Equal(t, 20*time.Minute, a.Works[0].Elapsed(after(90)), "a clock that runs backwards takes nothing away")
	do(150, wet.End)
	assert.Equal(t, 70*time.Minute, a.Works[0].Elapsed(after(9999)))
	assert.Negative(t, a.Works[0].Left(after(9999)))
	assert.Equal(t, []string{"rinsed", "neutralised", "refitted"}, a.Works[0].Missing())
}

func TestTheLogOfWetWork(t *testing.T) {
	a := &wet.Account{}
	coolant := wet.CoolantPlan{BlockL: 9, Glycol: fluid.Ethylene, TargetPercent: 45, Concentrate: 100, VesselL: 20, Type: "hybrid"}
	for i, act := range []wet.Act{{Do: wet.PlanIt, Work: "c", Kind: wet.CoolantJob, Coolant: &coolant}, {Do: wet.Drained, Work: "c", Litres: 8.5}, {Do: wet.Filled, Work: "c", Litres: 7}, {Do: wet.Topped, Work: "c", Litres: 1.4},
		{Do: wet.Strength, Work: "c", Percent: 44}, {Do: wet.Waste, Work: "c", What: "coolant", Litres: 8.5, Words: "marked drum, harbour store"}, {Do: wet.End, Work: "c", Words: "level steady", Hours: 1312}} {
		require.NoError(t, act.Check(raw))
		a.Take(wet.Done{Act: act, At: after(float64(i))})
	}
	w := a.Works[0]
	assert.InDelta(t, 8.5, w.OutL, 1e-9)
	assert.InDelta(t, 8.4, w.InL, 1e-9)
	assert.NotNil(t, w.Ended)
	assert.Equal(t, 1312.0, w.Hours)
	assert.Nil(t, w.Missing())
	a.Take(wet.Done{Act: wet.Act{Do: wet.Begin, Work: "nobody's"}})
	assert.Len(t, a.Works, 1)
	for do, refused := range map[string]bool{wet.Begin: true, wet.Filled: true, wet.End: true, wet.PlanIt: true, wet.Waste: false, wet.Strength: false, wet.Stage: false} {
		assert.Equal(t, refused, a.Refuse(wet.Act{Do: do, Work: "c"}) != "", "%s after the end", do)
	}
	assert.NotEmpty(t, a.Refuse(wet.Act{Do: wet.Begin, Work: "nobody's"}))
	assert.Empty(t, a.Refuse(wet.Act{Do: wet.PlanIt, Work: "another"}))
	for share, what := range map[float64]string{0: wet.Rubber, 3: wet.Rubber, 0.5: wet.Sand} {
		assert.Contains(t, fields(t, wet.Act{Do: wet.CameOut, Work: "w", What: what, Share: share}.Check(raw)), "share")
	}
	assert.NoError(t, wet.Act{Do: wet.CameOut, Work: "w", What: wet.Rubber, Share: 0.5, Station: "gear-cooler"}.Check(raw))
	for field, act := range map[string]wet.Act{
		"work": {Do: wet.Begin}, "do": {Do: "pray", Work: "w"}, "kind": {Do: wet.PlanIt, Work: "w"}, "what": {Do: wet.CameOut, Work: "w", What: "gold"}, "litres": {Do: wet.Drained, Work: "w", Litres: -1},
		"percent": {Do: wet.Strength, Work: "w", Percent: 140}, "words": {Do: wet.Waste, Work: "w", Litres: 5}, "bath": {Do: wet.ReadBath, Work: "w"},
		"flush.exhaust_off": {Do: wet.PlanIt, Work: "w", Kind: wet.Flushing, Flush: &wet.FlushPlan{Station: "elbow", Debris: wet.Sand, Source: wet.Hose}},
	} {
		assert.Contains(t, fields(t, act.Check(raw)), field)
	}
	far := good()
	far.Loop = append(far.Loop, "charge-cooler")
	assert.Contains(t, fields(t, wet.Act{Do: wet.PlanIt, Work: "w", Kind: wet.Descale, Descale: &far}.Check(raw)), "descale.loop[3]")
}

// By hand: 58 ± 6 to 94 ± 5 is 36 ± 7.8, a gain; 80 ± 8 to 88 ± 7 is 8 ± 10.6, none.
func TestAGainWithinTheErrorIsNone(t *testing.T) {
	g := wet.Compare("UA", 0.58, 0.06, 0.94, 0.05)
	assert.True(t, g.Better)
	assert.InDelta(t, 0.0781, g.ChangeError, 1e-4)
	none := wet.Compare("UA", 0.80, 0.08, 0.88, 0.07)
	assert.False(t, none.Better || none.Worse)
	assert.True(t, wet.Compare("UA", 0.9, 0.02, 0.7, 0.02).Worse)
}
