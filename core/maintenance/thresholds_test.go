package maintenance_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/maintenance"
)

// Akaike's criterion, corrected for few points, of n points of known error and k parameters: K. P. Burnham and D. R.
// Anderson, Sociological Methods & Research 33 (2004) 261-304, equation for AICc.
func aicc(chi float64, n, k float64) float64 { return chi + 2*k + 2*k*(k+1)/(n-k-1) }

// A curve is taken only where its criterion is lower by more than four, on both sides of that margin.
func TestACurveMustBeClearlyBetter(t *testing.T) {
	taken, left := 0, 0
	for bend := 0.02; bend < 1; bend *= 1.12 {
		var points []maintenance.Point
		for i := range 9 {
			h := 100 * float64(i)
			points = append(points, maintenance.Point{Hours: h, Value: 0.1 - 0.1*math.Expm1(-h*bend/400)/bend, Error: 0.004})
		}
		line, err := maintenance.FitLinear(points)
		require.NoError(t, err)
		curve, ok := maintenance.FitAsymptotic(points)
		if !ok {
			continue
		}
		gain := aicc(line.ChiSquare, 9, 2) - aicc(curve.ChiSquare, 9, 3) // the curve fits: its scale is 1
		got, err := maintenance.Fit(points)
		require.NoError(t, err)
		assert.Equal(t, gain > 4, got.Shape == maintenance.Asymptotic, "bend %g: a gain of %g", bend, gain)
		switch {
		case gain > 4:
			taken++
		case gain > 0:
			left++
		}
	}
	assert.Positive(t, taken)
	assert.Positive(t, left, "some lie between no gain and a clear one")
}

// The error ahead of the last reading is that of a use that wanders, and of a usual use that is known only so well: a d
// + b d².
func TestTheErrorAheadGrowsWithBothItsTerms(t *testing.T) {
	var reads []maintenance.MeterRead
	for i, h := range []float64{0, 40, 110, 150, 230, 260, 340} {
		reads = append(reads, maintenance.MeterRead{Day: on(2024, 1, 1).AddDate(0, 2*i, 0), Hours: h})
	}
	l := maintenance.RunningHoursOf(reads)
	last, _, ok := l.Last()
	require.True(t, ok)
	variance := func(days int) float64 {
		_, e, ok := l.At(last.AddDate(0, 0, days))
		require.True(t, ok)
		return e * e
	}
	v30, v60, v240 := variance(30), variance(60), variance(240)
	b := (v60 - 2*v30) / (2 * 30 * 30)
	a := (v30 - b*30*30) / 30
	assert.Positive(t, b, "the usual itself is not known exactly")
	assert.Positive(t, a)
	assert.InEpsilon(t, a*240+b*240*240, v240, 1e-9)
}
