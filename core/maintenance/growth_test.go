package maintenance_test

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/maintenance"
	"hevrin/reference"
)

func pointsOf(set string) []maintenance.Point {
	var list []maintenance.Point
	for _, r := range reference.Rows("growth-points") {
		if r["set"] == set {
			list = append(list, maintenance.Point{Hours: r.Number("hours"), Value: r.Number("value"), Error: r.Number("error")})
		}
	}
	return list
}

// Against scipy.optimize.curve_fit on committed data (reference/make.py).
func TestFitsAreThoseOfAnOutsideLibrary(t *testing.T) {
	for _, r := range reference.Rows("growth-fits") {
		t.Run(r["set"], func(t *testing.T) {
			list := pointsOf(r["set"])
			g, err := maintenance.FitLinear(list)
			grows := g.Rate
			if r["shape"] == "asymptotic" {
				var ok bool
				g, ok = maintenance.FitAsymptotic(list)
				require.True(t, ok)
				grows = g.Rise
				assert.InEpsilon(t, r.Number("tau"), g.Tau, 1e-4)
				assert.InEpsilon(t, r.Number("tau_error"), math.Sqrt(g.Covariance[2][2])/g.Scale, 2e-3)
			}
			require.NoError(t, err)
			assert.InDelta(t, r.Number("start"), g.Start, 1e-6)
			assert.InEpsilon(t, r.Number("grows"), grows, 1e-5)
			assert.InEpsilon(t, r.Number("start_error"), math.Sqrt(g.Covariance[0][0])/g.Scale, 2e-3)
			assert.InEpsilon(t, r.Number("grows_error"), math.Sqrt(g.Covariance[1][1])/g.Scale, 2e-3)
			assert.InEpsilon(t, r.Number("chi_square"), g.ChiSquare, 1e-6)
			v, e := g.At(2000)
			assert.InEpsilon(t, r.Number("at_2000"), v, 1e-5)
			assert.InEpsilon(t, r.Number("at_2000_error"), e/g.Scale, 2e-3)
			chosen, err := maintenance.Fit(list)
			require.NoError(t, err)
			assert.Equal(t, r["shape"], string(chosen.Shape), "the shape that it was drawn from")
		})
	}
}

// By hand: three points of equal error on 1, 2, 4 at 0, 10, 20 h. Mean of h 10, of v 7/3; Sxx 200, Sxy 30: slope 0.15,
// start 7/3 − 1.5 = 0.8333; slope error 0.1/√200, residuals 1/6, −1/3, 1/6: chi-square (1/36+4/36+1/36)/0.01 =
// 16.67.
func TestALineByHand(t *testing.T) {
	g, err := maintenance.FitLinear([]maintenance.Point{{0, 1, 0.1}, {10, 2, 0.1}, {20, 4, 0.1}})
	require.NoError(t, err)
	assert.InDelta(t, 0.15, g.Rate, 1e-12)
	assert.InDelta(t, 5.0/6, g.Start, 1e-12)
	assert.InDelta(t, 100.0/6, g.ChiSquare, 1e-9)
	assert.InDelta(t, math.Sqrt(100.0/6), g.Scale, 1e-9, "they scatter by more than they say: one degree of freedom")
	assert.InDelta(t, 0.1/math.Sqrt(200)*g.Scale, math.Sqrt(g.Covariance[1][1]), 1e-12)
}

func TestTooLittleIsSaid(t *testing.T) {
	var little *maintenance.TooLittle
	_, err := maintenance.Fit([]maintenance.Point{{0, 1, 0.1}, {10, 2, 0.1}})
	require.ErrorAs(t, err, &little)
	assert.Contains(t, little.Say, "2 of 3")
	_, err = maintenance.Fit([]maintenance.Point{{5, 1, 0.1}, {5, 2, 0.1}, {5, 3, 0.1}})
	require.ErrorAs(t, err, &little)
	_, err = maintenance.Fit([]maintenance.Point{{0, math.NaN(), 0.1}, {1, 1, 1}, {2, 1, 1}})
	assert.Error(t, err)
	assert.False(t, errors.As(err, &little))
}

var today = time.Date(2026, time.May, 1, 0, 0, 0, 0, time.UTC)

// used is a life of so many hours a year, read every month, up to today.
func used(years int, perMonth func(m time.Month) float64) maintenance.RunningHours {
	var reads []maintenance.MeterRead
	h := 0.0
	for at := today.AddDate(-years, 0, 0); !at.After(today); at = at.AddDate(0, 1, 0) {
		reads = append(reads, maintenance.MeterRead{Day: at, Hours: h})
		h += perMonth(at.Month())
	}
	return maintenance.RunningHoursOf(reads)
}

// By hand: 0.10, 0.15, 0.20 at 0, 100, 200 h, limit 0.25: 300 h. At 50 h a month it is at 1200 h today after two years;
// scale counted from 1000 h stands at 0.20 today and meets the limit 100 h later: two months.
func TestADateByHand(t *testing.T) {
	life := used(2, func(time.Month) float64 { return 50 })
	f, err := maintenance.Predict([]maintenance.Point{{1000, 0.10, 0.001}, {1100, 0.15, 0.001}, {1200, 0.20, 0.001}},
		0.25, life, today)
	require.NoError(t, err)
	require.Empty(t, f.Say)
	assert.InDelta(t, 1300, f.Hours, 3)
	assert.WithinDuration(t, today.AddDate(0, 2, 0), f.Likely, 3*24*time.Hour)
	assert.True(t, f.Early.Before(f.Likely) && f.Late.After(f.Likely))
	assert.False(t, f.Met)

	f, err = maintenance.Predict([]maintenance.Point{{1000, 0.20, 0.001}, {1100, 0.25, 0.001}, {1200, 0.30, 0.001}}, 0.25,
		life, today)
	require.NoError(t, err)
	assert.True(t, f.Met, "met already")
	assert.WithinDuration(t, today.AddDate(0, -2, 0), f.Likely, 4*24*time.Hour)
}

func TestNoGrowthGivesNoDate(t *testing.T) {
	life := used(2, func(time.Month) float64 { return 50 })
	f, err := maintenance.Predict([]maintenance.Point{{200, 0.10, 0.03}, {600, 0.08, 0.03}, {900, 0.12, 0.03},
		{1200, 0.09, 0.03}}, 0.25, life, today)
	require.NoError(t, err)
	assert.Contains(t, f.Say, "no growth")
	assert.True(t, f.Likely.IsZero())
	f, err = maintenance.Predict(levelling(0.15), 0.25, life, today)
	require.NoError(t, err)
	assert.Contains(t, f.Say, "levels off at 0.15")
	_, err = maintenance.Predict(levelling(0.3), 0.25, maintenance.RunningHours{}, today)
	assert.ErrorContains(t, err, "not known")
}

func levelling(at float64) (list []maintenance.Point) {
	for h := 0.0; h <= 1200; h += 100 {
		list = append(list, maintenance.Point{Hours: h, Value: at * (1 - math.Exp(-h/200)), Error: 0.003})
	}
	return list
}

// The span of a date is honest: of 200 engines whose true date is known, 85 to 95 % lie within the 90 % that is stated.
// Growth in proportion, and growth that plainly levels off; use that differs from day to day and by season.
func TestTheSpanOfADateIsHonest(t *testing.T) {
	for name, truth := range map[string]func(h, rate float64) float64{
		"in proportion": func(h, rate float64) float64 { return 0.02 + rate*h },
		"levelling off": func(h, rate float64) float64 { return 0.02 + rate*4000*(1-math.Exp(-h/700)) },
	} {
		t.Run(name, func(t *testing.T) {
			lots := rand.New(rand.NewPCG(11, 3))
			within, told := 0, 0
			for range 200 {
				if in, ok := oneEngine(lots, truth); ok {
					told++
					within += in
				}
			}
			share := float64(within) / float64(told)
			t.Logf("%d told, %.1f %% within", told, 100*share)
			assert.GreaterOrEqual(t, told, 180, "dates are told at all")
			assert.GreaterOrEqual(t, share, 0.85)
			assert.LessOrEqual(t, share, 0.95)
		})
	}
}

// oneEngine draws an engine's use and growth, shows two and a half years of it, and sees whether the day on which the
// limit is really met lies in the span.
func oneEngine(lots *rand.Rand, truth func(h, rate float64) float64) (in int, told bool) {
	const limit, noise = 0.25, 0.012
	rate := 1.1e-4 * (0.8 + 0.4*lots.Float64())
	start := today.AddDate(-2, -6, 0)
	var reads []maintenance.MeterRead
	var points []maintenance.Point
	var met time.Time
	h := 0.0
	for d, at := 0, start; d < 12*365; d, at = d+1, at.AddDate(0, 0, 1) {
		season := 1 + 0.8*math.Cos(2*math.Pi*(float64(at.YearDay())-196)/365)
		h += math.Max(0, season*(1.5+1.2*lots.NormFloat64()))
		shown := !at.After(today)
		if shown && d%30 == 0 {
			reads = append(reads, maintenance.MeterRead{Day: at, Hours: h})
		}
		if shown && d%75 == 10 {
			points = append(points, maintenance.Point{Hours: h, Value: truth(h, rate) + noise*lots.NormFloat64(), Error: noise})
		}
		if met.IsZero() && truth(h, rate) >= limit {
			met = at
		}
	}
	f, err := maintenance.Predict(points, limit, maintenance.RunningHoursOf(reads), today)
	if err != nil || f.Early.IsZero() {
		return 0, false
	}
	if !met.Before(f.Early) && (f.Late.IsZero() || !met.After(f.Late)) {
		in = 1
	}
	return in, true
}

func BenchmarkForetell(b *testing.B) {
	life := used(10, func(time.Month) float64 { return 50 })
	list := levelling(0.3)
	for b.Loop() {
		_, _ = maintenance.Predict(list, 0.25, life, today)
	}
}

// Whatever is drawn: the span holds the likely day, a higher limit is not met earlier, and larger errors do not make
// the span narrower.
func TestSpansAreInOrder(t *testing.T) {
	life := used(3, func(time.Month) float64 { return 50 })
	rapid.Check(t, func(t *rapid.T) {
		slope := rapid.Float64Range(1e-5, 5e-4).Draw(t, "slope")
		n := rapid.IntRange(3, 14).Draw(t, "n")
		noise := rapid.Float64Range(0.001, 0.02).Draw(t, "noise")
		points := func(err float64) (list []maintenance.Point) {
			for i := range n {
				h := 1800 * float64(i) / float64(n)
				list = append(list, maintenance.Point{Hours: h, Value: 0.02 + slope*h + noise*math.Sin(float64(7*i)), Error: err})
			}
			return list
		}
		limit := rapid.Float64Range(0.1, 0.6).Draw(t, "limit")
		f, err := maintenance.Predict(points(noise), limit, life, today)
		if err != nil || f.Say != "" {
			return
		}
		if f.Early.After(f.Likely) || !f.Late.IsZero() && f.Late.Before(f.Likely) {
			t.Fatalf("%s is not within %s to %s", f.Likely, f.Early, f.Late)
		}
		higher, err := maintenance.Predict(points(noise), limit*1.2, life, today)
		if err == nil && !higher.Likely.IsZero() && higher.Likely.Before(f.Likely) {
			t.Fatalf("%g is met on %s, before %g on %s", limit*1.2, higher.Likely, limit, f.Likely)
		}
		wide, err := maintenance.Predict(points(4*noise), limit, life, today)
		if err == nil && wide.Say == "" && !wide.Early.IsZero() && wide.Early.After(f.Early.AddDate(0, 0, 1)) && !f.Met {
			t.Fatalf("with larger errors it begins on %s instead of %s", wide.Early, f.Early)
		}
	})
}
