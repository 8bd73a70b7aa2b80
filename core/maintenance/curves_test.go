package maintenance_test

import (
	"fmt"
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
)

// curve is points of 0.5 + 1.5 (1 − exp(−h/tau)), h from the first on, one every 100 h, each off by turns.
func curve(from, tau, off float64) (list []maintenance.Point) {
	for i := range 9 {
		h := 100 * float64(i)
		list = append(list, maintenance.Point{Hours: from + h, Value: 0.5 - 1.5*math.Expm1(-h/tau) + off*math.Pow(-1,
			float64(i)), Error: 0.004})
	}
	return list
}

// A curve is seen where its tau lies within a twentieth and ten times of the hours that the points cover, whatever hours
// they begin at: a step and a line are none.
func TestACurveIsSoughtWithinItsRange(t *testing.T) {
	for share, seen := range map[float64]bool{0.04: false, 0.05: false, 0.058: true, 0.3: true, 2: true, 8.6: true,
		10: false, 20: false} {
		for _, from := range []float64{0, 1234} {
			g, ok := maintenance.FitAsymptotic(curve(from, share*800, 0))
			require.Equal(t, seen, ok, "%g of the hours, from %g h", share, from)
			if seen {
				assert.InEpsilon(t, share*800, g.Tau, 2e-3)
				assert.Equal(t, 6, g.Freedom)
				assert.Equal(t, share < 5, g.Significant, "%g: what is nearly a line may rise to anything", share)
			}
		}
	}
	falls := curve(0, 300, 0)
	for i := range falls {
		falls[i].Value = -falls[i].Value
	}
	_, ok := maintenance.FitAsymptotic(falls)
	assert.False(t, ok, "what falls does not grow")
	four := []maintenance.Point{{0, 0.5, 0.01}, {200, 1.09, 0.01}, {500, 1.57, 0.01}, {1000, 1.88, 0.01}}
	g, ok := maintenance.FitAsymptotic(four)
	require.True(t, ok, "four points hold a curve")
	assert.Equal(t, 1, g.Freedom)
	_, ok = maintenance.FitAsymptotic(four[:3])
	assert.False(t, ok, "three do not")
}

// Where the points scatter by more than they say, both shapes are judged by the scatter that the curve leaves.
func TestACurveMustBeClearlyBetterThanTheScatter(t *testing.T) {
	left, taken := 0, 0
	for off := 0.01; off < 0.4; off *= 1.1 {
		list := curve(100, 600, off)
		line, err := maintenance.FitLinear(list)
		require.NoError(t, err)
		g, ok := maintenance.FitAsymptotic(list)
		if !ok {
			continue
		}
		if g.Scale > 1 {
			require.InEpsilon(t, math.Sqrt(g.ChiSquare/6), g.Scale, 1e-12)
		}
		square := g.Scale * g.Scale
		gain := aicc(line.ChiSquare/square, 9, 2) - aicc(g.ChiSquare/square, 9, 3)
		got, err := maintenance.Fit(list)
		require.NoError(t, err)
		assert.Equal(t, gain > 4, got.Shape == maintenance.Asymptotic, "off by %g: a gain of %g", off, gain)
		if bare := aicc(line.ChiSquare, 9, 2) - aicc(g.ChiSquare, 9, 3); bare > 4 && gain < 4 {
			left++
		} else if gain > 4 {
			taken++
		}
	}
	assert.Positive(t, left, "by the errors that were given some would be curves")
	assert.Positive(t, taken)
}

// Three points with one degree of freedom: the slope, 0.15 ± 0.029, would be growth by a normal error (1.645), and is
// none by Student's (6.31).
func TestGrowthOutOfScatterIsJudgedByStudents(t *testing.T) {
	g, err := maintenance.FitLinear([]maintenance.Point{{0, 1, 0.1}, {10, 2, 0.1}, {20, 4, 0.1}})
	require.NoError(t, err)
	assert.False(t, g.Significant)
	g, err = maintenance.FitLinear([]maintenance.Point{{0, 1, 0.1}, {10, 2.5, 0.1}, {20, 4, 0.1}})
	require.NoError(t, err)
	assert.True(t, g.Significant, "they scatter by no more than they say")
}

func TestPointsThatTellNoTrend(t *testing.T) {
	var little *maintenance.TooLittle
	same := []maintenance.Point{{5, 1, 0.1}, {5, 2, 0.1}, {5, 3, 0.1}}
	_, err := maintenance.FitLinear(same)
	require.ErrorAs(t, err, &little)
	assert.Contains(t, little.Say, "all readings are of the same engine hours")
	exact := []maintenance.Point{{0, 1, 0}, {10, 2, 0}, {20, 3, 0}}
	g, err := maintenance.FitLinear(exact)
	require.NoError(t, err, "an error of none may be given")
	assert.InDelta(t, 0.1, g.Rate, 1e-9)
	shuffled := curve(0, 300, 0.002)
	sorted, err := maintenance.Fit(slices.Clone(shuffled))
	require.NoError(t, err)
	slices.Reverse(shuffled)
	shuffled[2], shuffled[5] = shuffled[5], shuffled[2]
	other, err := maintenance.Fit(shuffled)
	require.NoError(t, err)
	assert.Equal(t, sorted, other, "whatever order they come in")
}

// What nobody put down as done is due by its trend all the same; the reason says the part of the month, and the hours
// left.
func TestATrendSaysWhenInTheMonth(t *testing.T) {
	c := loadCatalogue(t)
	seen := map[int]bool{}
	for step := range 90 {
		e := closedEngine(t, c)
		rate := 2.4e-4 + 1.5e-6*float64(step)
		for m := -13; m <= 0; m += 2 {
			e.Measures = append(e.Measures, maintenance.Measure{Kind: "ua", At: today.AddDate(0, m, 0),
				Value: 1 / (1 + rate*50*float64(m+14)), Error: 0.004})
		}
		d := of(t, maintenance.List(c, e, today), "descale")
		if d.Reasons[0].Kind != maintenance.ByTrend {
			continue
		}
		require.Len(t, d.Reasons, 2, "nobody put down when it was last done")
		assert.True(t, d.Reasons[1].When.IsZero())
		day := d.When.Day()
		part := "mid"
		if day <= 10 {
			part = "early"
		} else if day >= 21 {
			part = "late"
		}
		assert.Contains(t, d.Reasons[0].Say, part+d.When.Format(" January 2006"))
		life := maintenance.RunningHoursOf(e.Meter)
		then, _, _ := life.At(d.When)
		now, _, _ := life.At(today)
		if then > now {
			assert.Contains(t, d.Reasons[0].Say, fmt.Sprintf(", in about %.0f h", then-now))
		} else {
			assert.NotContains(t, d.Reasons[0].Say, "in about")
		}
		seen[day] = true
	}
	for _, day := range []int{10, 11, 20, 21} {
		assert.True(t, seen[day], "day %d", day)
	}
}

// A trend's curve in its own unit, with its error, is the fit of what the figure is turned into: 1/v − 1 with v's error
// over v², or 1 − v.
func TestATrendTurnsErrorsToo(t *testing.T) {
	c := loadCatalogue(t)
	for _, id := range []string{"ua", "raw-flow"} {
		trend, ok := trendOf(c, id)
		require.True(t, ok, id)
		e := closedEngine(t, c)
		life := maintenance.RunningHoursOf(e.Meter)
		var points []maintenance.Point
		for m := -9; m <= 0; m++ {
			v, off := 0.95-0.02*float64(m+9), 0.01+0.002*float64(m+9)
			at := today.AddDate(0, m, 0)
			e.Measures = append(e.Measures, maintenance.Measure{Kind: trend.Measure, At: at, Value: v, Error: off})
			h, _, _ := life.At(at)
			if trend.Fits == catalogue.FitsFouling {
				points = append(points, maintenance.Point{Hours: h, Value: 1/v - 1, Error: off / (v * v)})
			} else {
				points = append(points, maintenance.Point{Hours: h, Value: 1 - v, Error: off})
			}
		}
		g, err := maintenance.Fit(points)
		require.NoError(t, err)
		line := maintenance.TrendOf(trend, e, life, today)
		require.Len(t, line.Curve, 25)
		for _, p := range line.Curve {
			y, off := g.At(p[0])
			v := 1 - y
			if trend.Fits == catalogue.FitsFouling {
				v = 1 / (1 + y)
				off *= v * v
			}
			assert.InDelta(t, v, p[1], 1e-12, id)
			assert.InDelta(t, off, p[2], 1e-12, id)
		}
	}
	slim := closedEngine(t, c).Slim(c)
	assert.Empty(t, slim.Fitted, "what was never measured is not fitted")
}

// Hours far before and after all readings, at the turn of a century without a leap day, of an engine that never ran, and
// with two readings at once.
func TestHoursAtTheEdges(t *testing.T) {
	l := maintenance.RunningHoursOf(seasons())
	last, _, _ := l.Last()
	h65, _, _ := l.At(last.AddDate(65, 0, 0))
	h80, _, _ := l.At(last.AddDate(80, 0, 0))
	assert.InDelta(t, h65, h80, 0, "further than sixty years it is not counted")
	december, _, _ := l.At(on(2082, 12, 20))
	january, _, _ := l.At(on(2083, 1, 20)) // sixty years after the year of the first reading
	february, _, _ := l.At(on(2083, 2, 15))
	assert.Less(t, december, january)
	assert.InDelta(t, january, h65, 0)
	assert.InDelta(t, february, h65, 0)
	h55, _, _ := l.At(last.AddDate(55, 0, 0))
	assert.InEpsilon(t, 520+55*l.PerYear(), h55, 2e-3)
	early, _, ok := l.At(last.AddDate(-60, 0, 0))
	assert.True(t, ok)
	assert.Zero(t, early)
	for year, leap := range map[int]bool{2096: true, 2100: false, 2400: true, 2401: false} {
		reads := []maintenance.MeterRead{{Day: on(year-1, 1, 1), Hours: 0}, {Day: on(year-1, 7, 1), Hours: 120},
			{Day: on(year, 1, 1), Hours: 150}}
		u, l := usedByHand(reads), maintenance.RunningHoursOf(reads)
		h, _, _ := l.At(on(year, 4, 1))
		assert.InDelta(t, 150+u.expected(on(year, 1, 1), on(year, 4, 1)), h, 1e-6, "%d", year)
		assert.Equal(t, leap, on(year, 3, 1).Sub(on(year, 2, 1)) == 29*24*time.Hour)
	}
	idle := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2024, 1, 1), Hours: 10}, {Day: on(2024, 5, 1),
		Hours: 10}})
	h, _, _ := idle.At(on(2024, 3, 1))
	assert.InDelta(t, 10, h, 0)
	h, off, _ := idle.At(on(2025, 3, 1))
	assert.InDelta(t, 10, h, 0)
	assert.Zero(t, off)
	twice := append(seasons()[:2:2], seasons()[1:]...)
	both := maintenance.RunningHoursOf(twice)
	assert.Equal(t, l.ByMonth(), both.ByMonth(), "two readings at once tell no use")
	_, off, _ = both.At(last.AddDate(0, 3, 0))
	assert.Positive(t, off)
	assert.False(t, math.IsNaN(off))
	changed := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2024, 1, 1), Hours: 100}, {Day: on(2024, 3, 1),
		Hours: 0, NewMeter: true, Old: 150}, {Day: on(2024, 5, 1), Hours: 20}})
	_, h, _ = changed.Last()
	assert.InDelta(t, 170, h, 0, "a new meter may begin at none")
	assert.Equal(t, time.Month(5), func() time.Month { at, _, _ := changed.Last(); return at.Month() }())
}
