package rootfind_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/rootfind"
)

func TestZeroFindsWhatItShould(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		want := rapid.Float64Range(-90, 90).Draw(t, "root")
		slope := rapid.SampledFrom([]float64{-3, -1e-3, 1e-3, 2, 1e4}).Draw(t, "slope")
		cubed := rapid.Bool().Draw(t, "cubed")
		calls := 0
		got, err := rootfind.Zero(func(x float64) float64 {
			calls++
			if d := x - want; cubed {
				return slope * d * d * d
			} else {
				return slope * d
			}
		}, -100, 100, 1e-9)
		require.NoError(t, err)
		require.InDelta(t, want, got, 1e-8)
		require.Less(t, calls, 120)
	})
}

func TestZeroWantsTwoSigns(t *testing.T) {
	for _, f := range []func(float64) float64{func(x float64) float64 { return x*x + 1 },
		func(float64) float64 { return math.NaN() }} {
		_, err := rootfind.Zero(f, -1, 1, 1e-9)
		assert.ErrorIs(t, err, rootfind.ErrNotBracketed)
	}
	end, err := rootfind.Zero(func(x float64) float64 { return x }, 0, 1, 1e-9)
	require.NoError(t, err)
	assert.Zero(t, end)
}
