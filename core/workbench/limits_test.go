package workbench_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// Rated 82 ± 2, fully open by 93, 8 mm at least; every limit with what lies just beside it.
func TestAPotAtItsLimits(t *testing.T) {
	for name, c := range map[string]struct {
		is       workbench.Verdict
		readings []workbench.PotReading
		says     string
	}{
		"opens at 84": {workbench.Good, []workbench.PotReading{up(60, 0), up(84, 0.5), up(93, 9)},
			"it opens at 84.0 °C against its rating of 82 °C and lifts 9.0 mm"},
		"opens over 84": {workbench.Late, []workbench.PotReading{up(60, 0), up(84.5, 0.5), up(93, 9)},
			"it opens at 84.5 °C, 2.5 °C over its rating (allowed 2.0 °C)"},
		"opens at 80": {workbench.Good, []workbench.PotReading{up(60, 0), up(80, 0.5), up(93, 9)},
			"it opens at 80.0 °C against its rating of 82 °C and lifts 9.0 mm"},
		"opens under 80": {workbench.Early, []workbench.PotReading{up(60, 0), up(79.5, 0.5), up(93, 9)},
			"it opens at 79.5 °C, 2.5 °C under its rating (allowed 2.0 °C)"},
		"lifts 8 mm": {workbench.Good, []workbench.PotReading{up(60, 0), up(82, 0.5), up(93, 8)}, "and lifts 8.0 mm"},
		"lifts too little, hot enough": {workbench.Short, []workbench.PotReading{up(60, 0), up(82, 0.5), up(93, 7.9)},
			"it lifts 7.9 mm at 93.0 °C, and should lift 8.0 mm by 93 °C"},
		"lifts too little, not hot": {workbench.Unfinished, []workbench.PotReading{up(60, 0), up(82, 0.5), up(92.9, 7.9)},
			"heat on to 93 °C before judging the lift"},
		"not open at 84": {workbench.Unfinished, []workbench.PotReading{up(60, 0), up(84, 0.4)},
			"the water reached 84.0 °C only: heat on to 93 °C"},
		"not open over 84": {workbench.Late, []workbench.PotReading{up(60, 0), up(84.1, 0.4)}, "it should open by 84.0 °C"},
		"not open at 93": {workbench.StuckShut, []workbench.PotReading{up(60, 0), up(93, 0.4)},
			"it never lifted 0.5 mm, though the water reached 93.0 °C"},
		"open at first, under 80": {workbench.StuckOpen, []workbench.PotReading{up(79.9, 0.5), up(93, 9)},
			"it stood 0.5 mm open at 79.9 °C, the coldest reading, well under its rating of 82 °C"},
		"open at first, at 80": {workbench.Unfinished, []workbench.PotReading{up(80, 0.5), up(93, 9)},
			"it was open at the first reading, 80.0 °C: start colder, below 80 °C"},
	} {
		r := pot(c.readings...).Judge()
		assert.Equal(t, c.is, r.Verdict, "%s: %v", name, r.Reasons)
		assert.Contains(t, units.Join(r.Reasons, "; ").String(), c.says, name)
	}
	// 95 % of 10 mm is 9.5: reached at exactly 95 °C, and a little later
	full := func(at float64) workbench.Verdict {
		return pot(up(60, 0), up(82, 0.5), up(at, 9.5), up(100, 10)).Judge().Verdict
	}
	assert.Equal(t, workbench.Good, full(95))
	assert.Equal(t, workbench.Late, full(95.5))
	shut := func(at float64) int {
		return len(pot(up(60, 0), up(82, 0.5), up(93, 9), down(at, 0.5), down(at-1, 0)).Judge().Reasons)
	}
	assert.Equal(t, 1, shut(74), "eight degrees are usual")
	assert.Equal(t, 2, shut(73.5), "more are not")
	r := pot(up(60, 0), up(81, 0.4), up(82, 0.5)).Judge()
	assert.NotNil(t, r.FullOpenC, "open from half a millimetre on")
}

func TestRangesOfAnImpeller(t *testing.T) {
	check := func(change func(i *workbench.Impeller)) []string {
		i := workbench.Impeller{Name: "x", OutsideDiameter: 57, Width: 31.8, Bore: 12, Blades: 8}
		change(&i)
		var wrong validation.Errors
		i.Check(&wrong, "")
		var list []string
		for _, w := range wrong {
			list = append(list, w.Field)
		}
		return list
	}
	size := func(set func(i *workbench.Impeller, v float64), least, most float64, field string) {
		for v, ok := range map[float64]bool{0: true, least: true, most: true, math.Nextafter(least, 0): false,
			math.Nextafter(most, 1e6): false, -1: false} {
			list := check(func(i *workbench.Impeller) { i.Bore = 0; set(i, v) })
			assert.Equal(t, !ok, assert.ObjectsAreEqual([]string{field}, list), "%s %v: %v", field, v, list)
		}
	}
	size(func(i *workbench.Impeller, v float64) { i.OutsideDiameter = v }, workbench.LeastDiameter, workbench.MostDiameter,
		"outside_diameter_mm")
	size(func(i *workbench.Impeller, v float64) { i.Width = v }, workbench.LeastWidth, workbench.MostWidth, "width_mm")
	size(func(i *workbench.Impeller, v float64) { i.OutsideDiameter, i.Bore = 0, v }, workbench.LeastBore,
		workbench.MostBore, "bore_mm")
	for blades, ok := range map[int]bool{workbench.LeastBlades: true, workbench.MostBlades: true,
		workbench.LeastBlades - 1: false, workbench.MostBlades + 1: false, 0: true} {
		assert.Equal(t, ok, check(func(i *workbench.Impeller) { i.Blades = blades }) == nil, "%d", blades)
	}
	assert.Equal(t, []string{"bore_mm"}, check(func(i *workbench.Impeller) { i.Bore, i.OutsideDiameter = 40, 40 }))
	assert.Empty(t, check(func(i *workbench.Impeller) { i.Bore, i.OutsideDiameter = 39.9, 40 }))
	assert.Empty(t, check(func(i *workbench.Impeller) { i.Bore, i.OutsideDiameter = 12, 0 }))
	assert.Equal(t, []string{"drive"}, check(func(i *workbench.Impeller) { i.Drive = "glue" }))
	assert.Empty(t, check(func(i *workbench.Impeller) { i.Drive = workbench.Drives[0] }))
}

// Within a tolerance it fits, up to twice of it may, beyond it does not; with the words of larger and smaller.
func TestAFitAtItsLimits(t *testing.T) {
	old := workbench.Impeller{OutsideDiameter: 64, Width: 32, Bore: 12, Blades: 8, Drive: workbench.Drives[0],
		Insert: workbench.Inserts[0], CoverSeal: workbench.CoverSeals[0]}
	within := workbench.Tolerances{OutsideDiameter: 0.5, Width: 0.5, Bore: 0.125}
	for off, want := range map[float64]workbench.Fit{0.5: workbench.Fits, -0.5: workbench.Fits, 0.5625: workbench.MayFit,
		1: workbench.MayFit, -1: workbench.MayFit, 1.0625: workbench.NoFit, -1.0625: workbench.NoFit} {
		c := old
		c.OutsideDiameter += off
		f := within.Compare(old, c)
		assert.Equal(t, want, f.Fit, "%g", off)
		if want != workbench.Fits {
			assert.Contains(t, f.Reasons[0].String(), map[bool]string{true: "larger", false: "smaller"}[off > 0])
		}
	}
}

func TestAnOptionAtItsLimits(t *testing.T) {
	o := workbench.Option{Name: "a", PartsCost: 100, RunningHours: 400}
	assert.InDelta(t, 80_000, o.MostHorizon(), 0)
	// level with itself: nothing to fall or to rise
	for _, turn := range workbench.Turns(o, o) {
		assert.NotEqual(t, "running_hours", turn.Figure, "no hours to fall")
		if turn.Figure == "parts_cost" {
			assert.InDelta(t, 100, turn.To, 1e-9)
		}
	}
	// the other costs twice as much an hour: half the hours, or twice the price, are level
	dear := workbench.Option{Name: "b", PartsCost: 200, RunningHours: 400}
	turns := map[string]float64{}
	for _, turn := range workbench.Turns(o, dear) {
		turns[turn.Figure] = turn.To
	}
	assert.InDelta(t, 200, turns["running_hours"], 1e-9)
	assert.InDelta(t, 200, turns["parts_cost"], 1e-9)
	// (200 − 100)/(0 + 200 · 0.9): 56 in a hundred
	assert.InDelta(t, 100*100/180.0, turns["early_failure_percent"], 1e-9)
	never := workbench.Option{Name: "c", PartsCost: 2000, RunningHours: 400}
	for _, turn := range workbench.Turns(o, never) {
		assert.NotEqual(t, "early_failure_percent", turn.Figure, "over a hundred per cent is no chance")
	}
	even := workbench.Option{Name: "d", PartsCost: 1000, RunningHours: 400}
	// (1000 − 100)/(1000 · 0.9) = 1: all of them
	list := workbench.Turns(o, even)
	require.Equal(t, "early_failure_percent", list[len(list)-1].Figure)
	assert.InDelta(t, 100, list[len(list)-1].To, 1e-9)
	// a hair cheaper is level; what is cheaper stands first
	same := workbench.Option{Name: "s", PartsCost: 100 * (1 - 1e-13), RunningHours: 400}
	cheap := workbench.Option{Name: "t", PartsCost: 99, RunningHours: 400}
	names := func(options ...workbench.Option) (list []string) {
		for _, r := range workbench.Rank(options, 400) {
			list = append(list, r.Name)
		}
		return list
	}
	assert.Equal(t, []string{"a", "s"}, names(o, same))
	assert.Equal(t, []string{"t", "a"}, names(o, cheap))
	assert.Equal(t, []string{"t", "a"}, names(cheap, o))
	_, err := workbench.SurfaceTemperature(-273.15, 1, 1, -273.15)
	assert.ErrorIs(t, err, workbench.ErrColderThanNothing)
}
