package workbench_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/workbench"
)

func pot(readings ...workbench.PotReading) workbench.Pot {
	return workbench.Pot{RatingC: 82, OpenToleranceC: 2, FullOpenAboveC: 11, MinLiftMM: 8, Readings: readings}
}

func up(t, lift float64) workbench.PotReading {
	return workbench.PotReading{TemperatureC: t, LiftMM: lift, Rising: true}
}
func down(t, lift float64) workbench.PotReading {
	return workbench.PotReading{TemperatureC: t, LiftMM: lift}
}

// Worked by hand: 0.2 mm at 80 and 1.8 at 84 pass 0.5 at 80.75; 95 % of 9 mm is 8.55, between 6.5 at 90 and 9 at 94:
// 93.28; on the way down 4 at 86 and 0.2 at 78 pass 0.5 at 78.63.
func TestPotByHand(t *testing.T) {
	r := pot(up(60, 0), up(80, 0.2), up(84, 1.8), up(90, 6.5), up(94, 9), down(86, 4), down(78, 0.2)).Judge()
	assert.InDelta(t, 80.75, *r.OpensC, 1e-9)
	assert.InDelta(t, 93.28, *r.FullOpenC, 1e-9)
	assert.InDelta(t, 78.632, *r.ShutsC, 1e-3)
	assert.InDelta(t, 2.118, *r.HysteresisC, 1e-3)
	assert.Equal(t, 9.0, r.LargestLiftMM)
	assert.Equal(t, workbench.Good, r.Verdict)
}

func TestPotVerdicts(t *testing.T) {
	for _, c := range []struct {
		is       workbench.Verdict
		readings []workbench.PotReading
	}{
		{workbench.Late, []workbench.PotReading{up(60, 0), up(85, 0.2), up(88, 2), up(93, 8.5)}},
		{workbench.Late, []workbench.PotReading{up(60, 0), up(88, 0.1)}},
		{workbench.Late, []workbench.PotReading{up(60, 0), up(81, 0.2), up(83, 1), up(93, 4), up(98, 8.2)}},
		{workbench.Early, []workbench.PotReading{up(60, 0), up(72, 0.2), up(76, 2), up(93, 8.5)}},
		{workbench.Short, []workbench.PotReading{up(60, 0), up(81, 0.2), up(83, 1), up(93, 5)}},
		{workbench.StuckShut, []workbench.PotReading{up(60, 0), up(82, 0), up(95, 0.2)}},
		{workbench.StuckOpen, []workbench.PotReading{up(40, 3), up(82, 4), up(95, 9)}},
		{workbench.Unfinished, []workbench.PotReading{up(60, 0), up(81, 0.1)}},
		{workbench.Unfinished, []workbench.PotReading{up(60, 0), up(81, 0.2), up(83, 1), up(88, 5)}},
		{workbench.Unfinished, []workbench.PotReading{up(81, 1), up(95, 9)}},
	} {
		r := pot(c.readings...).Judge()
		assert.Equal(t, c.is, r.Verdict, "%v: %v", c.readings, r.Reasons)
		assert.NotEmpty(t, r.Reasons)
	}
	slow := pot(up(60, 0), up(81, 0.2), up(83, 1), up(93, 9), down(70, 2), down(66, 0)).Judge()
	assert.Equal(t, workbench.Good, slow.Verdict)
	assert.Contains(t, slow.Reasons[1], "sticky")
}

// Worked by hand: set 0.95 on tape of 0.95 reads true. A reading of 42 °C set to 0.95 on brass of 0.6 in 35 °C: 0.95
// · 315.15⁴ + 0.05 · 308.15⁴ − 0.4 · 308.15⁴ = 0.6 T⁴: T = 319.03 K = 45.88 °C.
func TestSurfaceByHand(t *testing.T) {
	c, err := workbench.SurfaceTemperature(60, 0.95, 0.95, 20)
	require.NoError(t, err)
	assert.InDelta(t, 60, c, 1e-9)
	c, err = workbench.SurfaceTemperature(42, 0.95, 0.6, 35)
	require.NoError(t, err)
	assert.InDelta(t, 45.88, c, 0.01)
	_, err = workbench.SurfaceTemperature(-40, 0.95, 0.1, 60)
	assert.ErrorIs(t, err, workbench.ErrColderThanNothing)
}

func TestSurfaceThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		truth := rapid.Float64Range(20, 200).Draw(t, "truth")
		room := rapid.Float64Range(0, 60).Draw(t, "room")
		set, e := rapid.Float64Range(0.5, 1).Draw(t, "set"), rapid.Float64Range(0.05, 1).Draw(t, "ε")
		p := func(c float64) float64 { return math.Pow(c+273.15, 4) }
		reads := math.Pow((e*p(truth)+(1-e)*p(room)-(1-set)*p(room))/set, 0.25) - 273.15 // what the thermometer would show
		got, err := workbench.SurfaceTemperature(reads, set, e, room)
		require.NoError(t, err)
		require.InDelta(t, truth, got, 1e-6)
	})
}

// Worked by hand: 48 + 40/60 · 60 = 88 once; lasts 300 (1 − 0.12 · 0.9) = 267.6 h; (88 + 0.12 · 250)/267.6 =
// 0.44096.
func TestChoiceByHand(t *testing.T) {
	o := workbench.Option{Name: "impeller", PartsCost: 48, Minutes: 40, HourlyRate: 60, RunningHours: 300,
		EarlyPercent: 12, FailureCost: 250}
	assert.InDelta(t, 88, o.Cost(), 1e-9)
	assert.InDelta(t, 267.6, o.ExpectedHours(), 1e-9)
	assert.InDelta(t, 0.440957, o.PerHour(), 1e-6)
	sure := workbench.Option{PartsCost: 100, RunningHours: 300}
	assert.InDelta(t, 400, sure.OverHorizon(1000), 1e-9, "four times in 1000 h, never early")
	assert.InDelta(t, 100, sure.OverHorizon(300), 1e-9)
	// one tenth of the horizon's life, p 0.5: done once, and again with the chance of having failed: C + 0.5 (C + …)
	// over two tenths: 100 + 0.5 · 100 = 150.
	half := workbench.Option{PartsCost: 100, RunningHours: 300, EarlyPercent: 50}
	assert.InDelta(t, 150, half.OverHorizon(60), 1e-9)
}

// The renewal theorem: over a long time the cost per hour comes to PerHour (S. M. Ross, Introduction to Probability
// Models, chapter 7).
func TestTheLongRunIsThePriceOfAnHour(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		o := workbench.Option{PartsCost: rapid.Float64Range(1, 500).Draw(t, "parts"), RunningHours: rapid.Float64Range(50,
			2000).Draw(t, "hours"),
			EarlyPercent: rapid.Float64Range(0, 60).Draw(t, "early"), FailureCost: rapid.Float64Range(0, 500).Draw(t, "failure")}
		long := 150 * o.RunningHours
		require.InEpsilon(t, o.PerHour(), o.OverHorizon(long)/long, 0.02)
	})
}

func TestTurnsBringTheOtherLevel(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) workbench.Option {
			return workbench.Option{Name: name, PartsCost: rapid.Float64Range(1, 500).Draw(t, "parts"),
				Minutes: rapid.Float64Range(0, 300).Draw(t, "min"), HourlyRate: 50,
				RunningHours: rapid.Float64Range(50, 2000).Draw(t, "h"), EarlyPercent: rapid.Float64Range(0, 60).Draw(t, "p"),
				FailureCost: rapid.Float64Range(0, 500).Draw(t, "F")}
		}
		list := workbench.Rank([]workbench.Option{draw("a"), draw("b")}, 500)
		best, other := list[0].Option, list[1].Option
		require.LessOrEqual(t, best.PerHour(), other.PerHour()+1e-12)
		for _, x := range workbench.Turns(best, other) {
			changed := best
			switch x.Figure {
			case "running_hours":
				changed.RunningHours = x.To
			case "parts_cost":
				changed.PartsCost = x.To
			case "early_failure_percent":
				changed.EarlyPercent = x.To
			}
			require.InEpsilon(t, other.PerHour(), changed.PerHour(), 1e-6, x.Figure)
		}
	})
	assert.Empty(t, workbench.Turns(workbench.Option{RunningHours: 10}, workbench.Option{RunningHours: 20}),
		"nothing costs anything")
}

func TestFit(t *testing.T) {
	within := workbench.Tolerances{OutsideDiameter: 0.5, Width: 0.4, Bore: 0.1}
	old := workbench.Impeller{OutsideDiameter: 57, Width: 31.8, Bore: 12, Drive: "key", Blades: 8, Insert: "bronze",
		CoverSeal: "o-ring"}
	like := func(change func(*workbench.Impeller)) workbench.Impeller {
		c := old
		change(&c)
		return c
	}
	for name, c := range map[string]struct {
		candidate workbench.Impeller
		is        workbench.Fit
		says      string
	}{
		"the same":             {old, workbench.Fits, ""},
		"within the tolerance": {like(func(c *workbench.Impeller) { c.OutsideDiameter = 57.5 }), workbench.Fits, ""},
		"a slip of the hand":   {like(func(c *workbench.Impeller) { c.Width = 32.4 }), workbench.MayFit, "measure again"},
		"too wide": {like(func(c *workbench.Impeller) { c.Width = 50.8 }), workbench.NoFit,
			"the width is 19.00 mm larger"},
		"bore too small": {like(func(c *workbench.Impeller) { c.Bore = 10 }), workbench.NoFit, "2.00 mm smaller"},
		"another drive": {like(func(c *workbench.Impeller) { c.Drive = "spline" }), workbench.NoFit,
			"spline instead of key"},
		"fewer blades": {like(func(c *workbench.Impeller) { c.Blades = 6 }), workbench.MayFit,
			"6 blades instead of 8"},
		"not measured":     {like(func(c *workbench.Impeller) { c.Bore = 0 }), workbench.MayFit, "not known on both"},
		"another insert":   {like(func(c *workbench.Impeller) { c.Insert = "plastic" }), workbench.MayFit, "ask whether"},
		"no for one is no": {like(func(c *workbench.Impeller) { c.Drive, c.Insert = "pin", "" }), workbench.NoFit, "pin"},
	} {
		f := within.Compare(old, c.candidate)
		assert.Equal(t, c.is, f.Fit, name)
		if c.says != "" {
			require.NotEmpty(t, f.Reasons, name)
			assert.Contains(t, f.Reasons[0].String(), c.says, name)
		}
	}
}
