package wetwork_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/wetwork"
)

var water = []string{"intake", "raw-pump", "gear-cooler", "exchanger", "elbow"}

func several(also ...string) wetwork.FlushPlan {
	return wetwork.FlushPlan{Station: "gear-cooler", Debris: wetwork.Rubber, Source: wetwork.Hose, BothOff: true, Also: also}
}

func TestAFlushAtSeveralPlacesHasTheStepsOfEach(t *testing.T) {
	steps, err := several("exchanger").Plan(water)
	require.NoError(t, err)
	one, err := several().Plan(water)
	require.NoError(t, err)
	back := map[string]int{}
	for _, s := range steps {
		if s.Minutes > 0 {
			back[s.Station]++
		}
	}
	assert.Equal(t, map[string]int{"gear-cooler": 2, "exchanger": 2}, back, "each back first, then forward")
	assert.Len(t, steps, 2*len(one)-2, "flow before and after once for all")
}

func TestPlacesThatAFlushRefuses(t *testing.T) {
	for what, p := range map[string]wetwork.FlushPlan{"twice the same": several("gear-cooler"), "not of this engine": several("oil-cooler"),
		"the same again among the others": several("exchanger", "exchanger")} {
		_, err := p.Plan(water)
		assert.Error(t, err, what)
	}
	_, err := several("elbow").Plan(water)
	assert.Contains(t, fields(t, err), "exhaust_off", "both hoses off do not help at the elbow")
	_, err = several("raw-pump").Plan(water)
	assert.Contains(t, fields(t, err), "impeller_out", "the impeller holds the water back there too")
}

// Each place has a timer of its own; a start at one leaves the others as they were, the end stops all.
func TestEachPlaceOfAFlushHasItsOwnTimer(t *testing.T) {
	p := several("elbow")
	p.BothOff, p.ExhaustOff = false, true
	var a wetwork.Account
	at := func(minute int, act wetwork.Act) {
		act.Work = "w"
		require.Empty(t, a.Refuse(act))
		a.Take(wetwork.Done{Act: act, At: day.Add(time.Duration(minute) * time.Minute)})
	}
	at(0, wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Flushing, Flush: &p})
	at(0, wetwork.Act{Do: wetwork.Begin})
	at(2, wetwork.Act{Do: wetwork.Begin, Station: "elbow"})
	at(5, wetwork.Act{Do: wetwork.Stop, Station: "gear-cooler"})
	now := day.Add(9 * time.Minute)
	w := a.Works[0]
	assert.Equal(t, 5*time.Minute, w.Elapsed(now))
	assert.Equal(t, 5*time.Minute, w.Left(now), "10 minutes at a cooler")
	require.Len(t, w.Clocks, 1)
	assert.Equal(t, 7*time.Minute, w.Clocks[0].Elapsed(now))
	assert.Equal(t, 8*time.Minute, w.Clocks[0].Left(now), "15 at the elbow")
	assert.NotEmpty(t, a.Refuse(wetwork.Act{Do: wetwork.Begin, Work: "w", Station: "exchanger"}), "no such place")
	assert.NotEmpty(t, a.Refuse(wetwork.Act{Do: wetwork.Stop, Work: "w", Station: "exchanger"}))
	at(10, wetwork.Act{Do: wetwork.End})
	assert.Equal(t, 8*time.Minute, a.Works[0].Clocks[0].Elapsed(day.Add(time.Hour)))
}

var day = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func caustic() wetwork.DescalePlan {
	return wetwork.DescalePlan{Place: wetwork.OnWorkbench, Product: wetwork.Product{ID: "c", Caustic: true, PartsWater: 4},
		Loop: []string{"elbow"}, Materials: map[string][]string{"elbow": {"cast-iron"}}, BathL: 10, Minutes: 60}
}

func TestACausticCleanerHasItsOwnRefusals(t *testing.T) {
	d, err := caustic().Plan()
	require.NoError(t, err)
	assert.Equal(t, 8.0, d.WaterL)
	assert.Contains(t, d.Cautions, "caustic-bath")
	assert.NotContains(t, d.Cautions, "acid-bath")
	for material, ok := range map[string]bool{"aluminium": false, "zinc": false, "galvanised": false, "cast-iron": true,
		"stainless": true, "steel": true, "copper-alloy": true, "chrome": true} {
		p := caustic()
		p.Materials = map[string][]string{"elbow": {material}}
		p.AnodesOut = true
		_, err := p.Plan()
		assert.Equal(t, ok, err == nil, material)
	}
	p := caustic()
	p.Place, p.TankL = wetwork.InPlace, 100
	_, err = p.Plan()
	assert.Contains(t, fields(t, err), "product.caustic", "never in place")
	p = caustic()
	p.Product.Acid = wetwork.Citric
	assert.Error(t, p.Product.Check(), "never both")
}

func TestCausticNeverMeetsAcid(t *testing.T) {
	acid := caustic()
	acid.Product, acid.TargetPercent = wetwork.Product{ID: "a", Acid: wetwork.Citric, StockPercent: 100}, 5
	begin := func(first, second wetwork.DescalePlan, stages ...string) string {
		var a wetwork.Account
		a.Take(wetwork.Done{Act: wetwork.Act{Do: wetwork.PlanIt, Work: "1", Kind: wetwork.Descale, Descale: &first}})
		a.Take(wetwork.Done{Act: wetwork.Act{Do: wetwork.PlanIt, Work: "2", Kind: wetwork.Descale, Descale: &second}})
		before := a.Refuse(wetwork.Act{Do: wetwork.Begin, Work: "2"})
		assert.Empty(t, before, "the first is a plan yet")
		a.Take(wetwork.Done{Act: wetwork.Act{Do: wetwork.Begin, Work: "1"}})
		for _, s := range stages {
			a.Take(wetwork.Done{Act: wetwork.Act{Do: wetwork.Stage, Work: "1", What: s}})
		}
		plan := a.Refuse(wetwork.Act{Do: wetwork.PlanIt, Work: "3", Kind: wetwork.Descale, Descale: &second})
		say := a.Refuse(wetwork.Act{Do: wetwork.Begin, Work: "2"})
		assert.Equal(t, plan, say, "neither planned nor begun")
		return say
	}
	assert.Contains(t, begin(acid, caustic()), "caustic never meets acid")
	assert.Contains(t, begin(acid, caustic(), "rinsed"), "caustic never meets acid", "rinsed is not neutralised")
	assert.Empty(t, begin(acid, caustic(), "rinsed", "neutralised"))
	assert.Contains(t, begin(caustic(), acid), "acid never meets caustic")
	assert.Empty(t, begin(caustic(), acid, "rinsed"))
	assert.Empty(t, begin(acid, acid), "two baths of acid may follow each other")
	other := caustic()
	other.Loop, other.Materials = []string{"exchanger"}, map[string][]string{"exchanger": {"copper-alloy"}}
	assert.Empty(t, begin(acid, other), "another part")
}

func TestAReadyMixedProductIsSaidToBeOne(t *testing.T) {
	assert.NoError(t, wetwork.Product{ID: "r", Ready: true}.Check())
	assert.Error(t, wetwork.Product{ID: "r"}.Check(), "a blank is not ready-mixed")
	assert.Error(t, wetwork.Product{ID: "r", Ready: true, PartsWater: 4}.Check())
	p := caustic()
	p.Product = wetwork.Product{ID: "r", Ready: true}
	d, err := p.Plan()
	require.NoError(t, err)
	assert.Zero(t, d.WaterL)
	assert.Equal(t, 10.0, d.StockL)
}
