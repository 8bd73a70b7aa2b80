package wetwork_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

// inRange shows that a field takes least to most, both with them, and nothing beside; strict leaves the least out, and
// a most that is infinite is none.
func inRange(t *testing.T, field string, least, most float64, strict bool, check func(v float64) error) {
	t.Helper()
	for v, ok := range map[float64]bool{least: !strict, math.Nextafter(least, math.Inf(1)): true, most: true,
		math.Nextafter(least, math.Inf(-1)): false, math.Nextafter(most, math.Inf(1)): false} {
		if math.IsInf(v, 1) {
			continue
		}
		_, refused := fields(t, check(v))[field]
		assert.Equal(t, !ok, refused, "%s of %v", field, v)
	}
}

func TestRangesOfAProduct(t *testing.T) {
	mix := wetwork.Product{ID: "mix", PartsWater: 4}
	acid := wetwork.Product{ID: "acid", Acid: wetwork.Phosphoric, StockPercent: 75}
	require.NoError(t, mix.Check())
	require.NoError(t, acid.Check())
	inRange(t, "product.parts_water", 0, 200, true, func(v float64) error {
		mix.PartsWater = v
		return mix.Check()
	})
	inRange(t, "product.stock_percent_mass", 0, 85, true, func(v float64) error {
		acid.StockPercent = v
		return acid.Check()
	})
	assert.Contains(t, fields(t, wetwork.Product{PartsWater: 4}.Check()), "product.id")
	assert.Contains(t, fields(t, wetwork.Product{ID: "x", Acid: "vinegar"}.Check()), "product.acid")
}

func TestRangesOfADescaling(t *testing.T) {
	with := func(change func(p *wetwork.DescalePlan, v float64)) func(v float64) error {
		return func(v float64) error {
			p := good()
			change(&p, v)
			_, err := p.Plan()
			return err
		}
	}
	inRange(t, "minutes", 1, 1440, false, with(func(p *wetwork.DescalePlan, v float64) { p.Minutes = v }))
	inRange(t, "bath_l", 0.2, 2000, false, with(func(p *wetwork.DescalePlan, v float64) {
		p.Place, p.BathL = wetwork.OnWorkbench, v
	}))
	inRange(t, "bath_l", 7, 2000, false, with(func(p *wetwork.DescalePlan, v float64) {
		p.BathL, p.LoopL, p.HosesL, p.TankL = v, 4, 3, 2*v
	}))
	inRange(t, "scale_high_g", 0, 1e5, false, with(func(p *wetwork.DescalePlan, v float64) {
		p.ScaleLowG, p.ScaleHighG = 0, v
	}))
	inRange(t, "scale_high_g", 300, 1e5, false, with(func(p *wetwork.DescalePlan, v float64) {
		p.ScaleLowG, p.ScaleHighG = 300, v
	}))
	assert.NotEmpty(t, with(func(p *wetwork.DescalePlan, v float64) { p.ScaleLowG = -1 })(0))
	inRange(t, "tank_l", 1.15*20, math.Inf(1), false, with(func(p *wetwork.DescalePlan, v float64) {
		p.BathL, p.TankL = 20, v
	}))
	// in place phosphoric acid comes to 15 %, on the bench to 25, and never over what was bought
	for place, most := range map[string]float64{wetwork.InPlace: 15, wetwork.OnWorkbench: 25} {
		inRange(t, "target_percent_mass", 0, most, true, with(func(p *wetwork.DescalePlan, v float64) {
			p.Place, p.TargetPercent = place, v
		}))
	}
	inRange(t, "target_percent_mass", 0, 8, true, with(func(p *wetwork.DescalePlan, v float64) {
		p.Product.MostPercent, p.TargetPercent = 8, v
	}))
	inRange(t, "product.stock_percent_mass", 0, 85, true, with(func(p *wetwork.DescalePlan, v float64) {
		p.Product.StockPercent, p.TargetPercent = v, min(10, math.Max(v, 0))
	}))
	inRange(t, "product.parts_water", 0, 200, true, with(func(p *wetwork.DescalePlan, v float64) {
		p.Product = wetwork.Product{ID: "mix", PartsWater: v}
	}))
	p := good()
	p.BathL, p.LoopL, p.HosesL = 6, 4, 3
	_, err := p.Plan()
	assert.Equal(t, "loop and hoses hold 7.0 L: with less the pump draws air. Mix more", fields(t, err)["bath_l"])
	zinc := good()
	zinc.Materials, zinc.AnodesOut = map[string][]string{zinc.Loop[0]: {"zinc"}}, true
	for _, s := range zinc.Loop {
		zinc.Materials[s] = []string{"copper-alloy", "zinc"}
	}
	_, err = zinc.Plan()
	require.NoError(t, err)
	zinc.AnodesOut = false
	_, err = zinc.Plan()
	assert.Contains(t, fields(t, err), "anodes_out")
}

func TestWhatADescalingComesTo(t *testing.T) {
	p := good()
	p.Minutes = 20
	p.Product = wetwork.Product{ID: "mix", PartsWater: 4}
	p.BathL, p.PumpLMin, p.PumpAmps = 15, 0, 0
	d, err := p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 3, d.StockL, 1e-9)
	assert.InDelta(t, 12, d.WaterL, 1e-9)
	assert.InDelta(t, 10, d.RinseMinutes, 0, "ten minutes at least")
	assert.Nil(t, d.Turnovers)
	assert.Nil(t, d.FuseAmps)
	p = good()
	p.Minutes, p.Mechanical = 90, []string{wetwork.Weed}
	d, err = p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 30, d.RinseMinutes, 1e-9, "a third of the bath")
	assert.Contains(t, d.Steps[0].Say, "acid does not touch")
	p.Mechanical = nil
	d, err = p.Plan()
	require.NoError(t, err)
	assert.NotContains(t, d.Steps[0].Say, "acid does not touch")
	assert.Greater(t, d.StockL, 0.0)
	// the share of the scale that the bath takes, for the high and the low computation
	capacity := d.Bath.CapacityG
	p.ScaleLowG, p.ScaleHighG = 0, 2*capacity
	d, err = p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 50, *d.ShareLow, 1e-9)
	assert.InDelta(t, 100, *d.ShareHigh, 1e-9, "no scale at all is all of it")
	assert.False(t, *d.Enough)
	p.ScaleLowG, p.ScaleHighG = capacity/2, capacity
	d, err = p.Plan()
	require.NoError(t, err)
	assert.InDelta(t, 100, *d.ShareLow, 1e-9)
	assert.InDelta(t, 100, *d.ShareHigh, 1e-9)
	assert.True(t, *d.Enough, "just enough is enough")
	p.ScaleLowG, p.ScaleHighG = 0, 0
	d, err = p.Plan()
	require.NoError(t, err)
	assert.Nil(t, d.Enough)
	// half a mole of gas for each mole of scale: over 100 L is told
	for litres, told := range map[float64]bool{99: false, 101: true} {
		p := good()
		p.BathL, p.TankL = 1500, 2000
		p.ScaleHighG = litres / 24.06 * 100.09
		d, err := p.Plan()
		require.NoError(t, err)
		assert.InDelta(t, litres, d.Bath.CarbonDioxideL, 0.3)
		assert.Equal(t, told, strings.Contains(string(units.Join(d.Warnings, " ")), "of carbon dioxide"), "%g L", litres)
	}
}

func TestABathTakesItsShareOfTheScale(t *testing.T) {
	b := wetwork.Bath{Acid: wetwork.Citric, StockPercent: 50, TargetPercent: 10, VolumeL: 10}
	capacity := b.Mix().CapacityG
	for share, want := range map[float64]struct {
		percent float64
		enough  bool
	}{0.5: {100, true}, 1: {100, true}, 4: {25, false}} {
		b.ScaleG = share * capacity
		r := b.Mix()
		assert.InDelta(t, want.percent, r.SharePercent, 1e-9)
		assert.Equal(t, want.enough, r.Enough)
	}
	b.ScaleG = 0
	assert.InDelta(t, 100, b.Mix().SharePercent, 0)
}

func TestWhatABathReadingMeansAtItsLimits(t *testing.T) {
	v := func(x float64) *float64 { return &x }
	inRange(t, "ph", 0, 14, false, func(x float64) error { return wetwork.BathReading{PH: &x}.Check() })
	inRange(t, "temp_c", -10, 110, false, func(x float64) error { return wetwork.BathReading{TempC: &x}.Check() })
	working := []units.Sentence{"working: look again in ten minutes"}
	spent := []units.Sentence{"spent: add acid, or stop"}
	for _, c := range []struct {
		read wetwork.BathReading
		want []units.Sentence
	}{
		{wetwork.BathReading{TempC: v(50)}, working},
		{wetwork.BathReading{PH: v(3.99)}, working},
		{wetwork.BathReading{PH: v(wetwork.SpentPH)}, spent},
		{wetwork.BathReading{Colour: "green", Fizz: wetwork.Strong}, working},
		{wetwork.BathReading{Colour: "brown", Fizz: wetwork.Weak}, working},
		{wetwork.BathReading{Colour: "blue", Fizz: wetwork.Weak},
			[]units.Sentence{"green or blue is copper: it is eating the tubes now. Stop"}},
	} {
		assert.Equal(t, c.want, c.read.Advise(50))
	}
	assert.Len(t, wetwork.BathReading{TempC: v(50.1)}.Advise(50), 1)
	assert.Contains(t, wetwork.BathReading{TempC: v(50.1)}.Advise(50)[0].In(units.US), "over 122 °F")
}

func TestRangesOfACoolantChange(t *testing.T) {
	good := wetwork.CoolantPlan{BlockL: 8, ExchangerL: 3, HeaderL: 2, HeaterL: 2, Glycol: fluid.Ethylene,
		TargetPercent: 50, Concentrate: 100, VesselL: 20, Type: "hybrid"}
	with := func(change func(p *wetwork.CoolantPlan, v float64)) func(v float64) error {
		return func(v float64) error {
			p := good
			change(&p, v)
			_, err := p.Plan()
			return err
		}
	}
	inRange(t, "block_l", 0.5, 2000, false, with(func(p *wetwork.CoolantPlan, v float64) {
		p.BlockL, p.ExchangerL, p.HeaderL, p.HeaterL, p.VesselL = v, 0, 0, 0, 1e4
	}))
	inRange(t, "block_l", 0, math.Inf(1), false, with(func(p *wetwork.CoolantPlan, v float64) {
		p.HeaterL, p.VesselL = v, 1e4
	}))
	inRange(t, "target_percent_volume", 0, fluid.MaxGlycolPercent, false,
		with(func(p *wetwork.CoolantPlan, v float64) { p.TargetPercent = v }))
	inRange(t, "concentrate_percent_volume", 50, 100, false,
		with(func(p *wetwork.CoolantPlan, v float64) { p.Concentrate = v }))
	inRange(t, "concentrate_percent_volume", 0, 100, true,
		with(func(p *wetwork.CoolantPlan, v float64) { p.TargetPercent, p.Concentrate = 0, v }))
	inRange(t, "vessel_l", 1.1*15, math.Inf(1), false,
		with(func(p *wetwork.CoolantPlan, v float64) { p.VesselL = v }))
}

func TestLitresOutAndInAtTheirLimits(t *testing.T) {
	for _, c := range []struct {
		out, in float64
		want    string
	}{
		{0.75, 0, "litres in and litres out agree"}, // 3 % of 25
		{0, 0.75, "litres in and litres out agree"},
		{0.8, 0, "0.8 L less went in than came out: air is trapped. Heater open, bleed again, watch the level"},
		{0, 0.8, "0.8 L more went in than came out: it was low before, or it leaks elsewhere"},
	} {
		assert.Equal(t, c.want, wetwork.Balance(c.out, c.in, 25).String())
	}
	v := func(x float64) *float64 { return &x }
	fill := wetwork.Fill{VolumeL: 10, Glycol: fluid.Ethylene, TargetPercent: 40, ConcentratePercent: 100}
	for present, want := range map[float64]wetwork.FillResult{
		40: {}, 20: {DrainL: 2.5, AddConcentrateL: 2.5}, 50: {DrainL: 2, AddWaterL: 2},
	} {
		fill.PresentPercent = v(present)
		r := fill.Work()
		assert.InDelta(t, want.DrainL, r.DrainL, 1e-9)
		assert.InDelta(t, want.AddConcentrateL, r.AddConcentrateL, 1e-9)
		assert.InDelta(t, want.AddWaterL, r.AddWaterL, 1e-9)
		assert.InDelta(t, 1.2*want.DrainL, r.WasteContainerL, 1e-9)
	}
}

func TestRangesOfActs(t *testing.T) {
	check := func(a wetwork.Act) error {
		a.Work = "w"
		return a.Check(raw)
	}
	for _, do := range []string{wetwork.Drained, wetwork.Filled, wetwork.Topped, wetwork.Waste} {
		inRange(t, "litres", 0, 5000, false, func(v float64) error { return check(wetwork.Act{Do: do, Litres: v}) })
	}
	inRange(t, "percent", 0, 100, false,
		func(v float64) error { return check(wetwork.Act{Do: wetwork.Strength, Percent: v}) })
	inRange(t, "share", 0.01, 1, false, func(v float64) error {
		return check(wetwork.Act{Do: wetwork.CameOut, What: wetwork.Rubber, Station: "elbow", Share: v})
	})
	weed := wetwork.Act{Do: wetwork.CameOut, What: wetwork.Weed}
	assert.Empty(t, fields(t, check(weed)), "weed has no share, and came out anywhere")
	weed.Share = 0.5
	assert.Contains(t, fields(t, check(weed)), "share")
	assert.Contains(t, fields(t, check(wetwork.Act{Do: wetwork.CameOut, What: wetwork.Rubber, Station: "mast",
		Share: 0.5})), "station")
}

func TestHowLongAWorkRuns(t *testing.T) {
	long := good()
	long.Minutes = 45
	for want, w := range map[float64]wetwork.Work{45: {Descale: &long}, 10: {Flush: &wetwork.FlushPlan{}},
		60: {Coolant: &wetwork.CoolantPlan{}}} {
		assert.InDelta(t, want, w.Left(noon).Minutes(), 1e-9)
	}
	flush := wetwork.FlushPlan{Station: "elbow", Debris: wetwork.Weed, Source: wetwork.Hose, ExhaustOff: true,
		SeacockShut: true}
	minutes := func(station string) (sum float64) {
		flush.Station = station
		steps, err := flush.Plan(raw)
		require.NoError(t, err)
		for _, s := range steps {
			sum += s.Minutes
		}
		return sum
	}
	assert.InDelta(t, 2*15, minutes("elbow"), 1e-9, "a riser takes longer")
	assert.InDelta(t, 2*10, minutes("exchanger"), 1e-9)
}

func TestWhatAFlushRefuses(t *testing.T) {
	of := func(change func(p *wetwork.FlushPlan)) map[string]string {
		p := wetwork.FlushPlan{Station: "gear-cooler", Debris: wetwork.Weed, Source: wetwork.Hose, SeacockShut: true}
		change(&p)
		_, err := p.Plan(raw)
		return fields(t, err)
	}
	assert.Contains(t, of(func(*wetwork.FlushPlan) {}), "exhaust_off")
	assert.Empty(t, of(func(p *wetwork.FlushPlan) { p.BothOff = true }), "nothing goes on to the exhaust")
	assert.Contains(t, of(func(p *wetwork.FlushPlan) { p.BothOff, p.Station = true, "elbow" }), "exhaust_off")
	assert.Contains(t, of(func(p *wetwork.FlushPlan) { p.BothOff, p.Station = true, "raw-pump" }), "impeller_out")
	assert.Empty(t, of(func(p *wetwork.FlushPlan) { p.BothOff, p.Station, p.ImpellerOut = true, "raw-pump", true }))
}

// Hydrochloric acid meets bare copper alloys alone; a silencer is in no loop.
func TestWhatAcidNeverMeets(t *testing.T) {
	for material, ok := range map[string]bool{"copper-alloy": true, "steel": false, "cast-iron": false,
		"stainless": false} {
		p := good()
		p.Place, p.Product, p.TargetPercent = wetwork.OnWorkbench, wetwork.Product{Acid: wetwork.Hydrochloric,
			StockPercent: 30}, 5
		p.Loop, p.Materials = []string{"exchanger"}, map[string][]string{"exchanger": {material}}
		_, err := p.Plan()
		assert.Equal(t, ok, err == nil, material)
		p.Product = wetwork.Product{Acid: wetwork.Citric, StockPercent: 50}
		_, err = p.Plan()
		assert.NoError(t, err, "a mild acid on %s", material)
	}
	p := good()
	p.Loop, p.Materials["silencer"] = append(p.Loop, "silencer"), []string{"copper-alloy"}
	_, err := p.Plan()
	assert.Contains(t, fields(t, err)["loop"], "scrape and rinse a silencer")
}

func TestFirstAndLastOfAWork(t *testing.T) {
	assert.Zero(t, wetwork.Work{}.First())
	assert.Zero(t, wetwork.Work{}.Last())
	begun := wetwork.Done{Act: wetwork.Act{Do: wetwork.Begin}, Order: 3}
	ended := wetwork.Done{Act: wetwork.Act{Do: wetwork.End}, Order: 5}
	after := wetwork.Done{Act: wetwork.Act{Do: wetwork.Stage}, Order: 7}
	w := wetwork.Work{Log: []wetwork.Done{begun, ended, after}}
	assert.Equal(t, 3, w.First())
	assert.Equal(t, 5, w.Last())
	w.Log = w.Log[:1]
	assert.Zero(t, w.Last())
	var a wetwork.Account
	require.Empty(t, a.Refuse(wetwork.Act{Do: wetwork.PlanIt, Work: "w"}))
	stopped := wetwork.Work{Spent: time.Minute}
	assert.Equal(t, time.Minute, stopped.Elapsed(noon))
}

// A change is one when it is over 1.64 errors of the difference: nine times in ten a normal error lies within.
func TestAGainIsTold(t *testing.T) {
	for change, want := range map[float64][2]bool{0: {}, 1.64 * 5: {}, 1.65 * 5: {true, false}, -1.64 * 5: {},
		-1.65 * 5: {false, true}} {
		g := wetwork.Compare("flow", 0, 3, change, 4)
		assert.Equal(t, want, [2]bool{g.Better, g.Worse}, "%g", change)
	}
}
