package teardown_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/teardown"
)

// Every number of fasteners there is, both shapes: each once a pass, no neighbours in succession from 5 up, an even
// number by opposite pairs.
func TestTheCrossOrder(t *testing.T) {
	for n := teardown.LeastFasteners; n <= teardown.MostFasteners; n++ {
		for _, shape := range teardown.Shapes {
			order, err := teardown.Order(n, shape)
			require.NoError(t, err)
			sorted := slices.Sorted(slices.Values(order))
			for i := range n {
				require.Equal(t, i+1, sorted[i], "%d, %s: each once", n, shape)
			}
			for i := 1; i < n && n >= 5; i++ {
				require.False(t, teardown.Neighbours(order[i-1], order[i], n), "%d, %s: %v", n, shape, order)
			}
			for i := 0; i+1 < n && n%2 == 0; i += 2 {
				d := (order[i] - order[i+1] + n) % n
				require.Equal(t, n/2, d, "%d, %s: opposite pairs: %v", n, shape, order)
			}
			if n >= 7 {
				assert.False(t, teardown.Neighbours(order[n-1], order[0], n), "%d, %s: nor from pass to pass", n, shape)
			}
		}
	}
	four, _ := teardown.Order(4, teardown.Ring)
	assert.Equal(t, []int{1, 3, 2, 4}, four)
	five, _ := teardown.Order(5, teardown.Ring)
	assert.Equal(t, []int{1, 3, 5, 2, 4}, five)
	for _, n := range []int{0, 2, 25} {
		_, err := teardown.Order(n, teardown.Ring)
		assert.Error(t, err)
	}
}

// The drawing: nobody stands on another, all within the frame, and what the order calls opposite lies opposite.
func TestWhereFastenersStand(t *testing.T) {
	for n := teardown.LeastFasteners; n <= teardown.MostFasteners; n++ {
		for _, shape := range teardown.Shapes {
			places := teardown.Places(n, shape)
			for i, p := range places {
				require.LessOrEqual(t, math.Max(math.Abs(p.X), math.Abs(p.Y)), 1+1e-9)
				for _, q := range places[:i] {
					require.Greater(t, math.Hypot(p.X-q.X, p.Y-q.Y), 0.1, "%d, %s", n, shape)
				}
				if n%2 == 0 {
					q := places[(i+n/2)%n]
					require.InDelta(t, 0, math.Hypot(p.X+q.X, p.Y+q.Y), 1e-9, "%d, %s: opposite", n, shape)
				}
			}
		}
	}
}

// A rectangle is drawn down from the middle outward: an end pair comes last.
func TestARectangleWorksOutward(t *testing.T) {
	order, err := teardown.Order(10, teardown.Rectangle)
	require.NoError(t, err)
	places := teardown.Places(10, teardown.Rectangle)
	off := func(i int) float64 { p := places[order[i]-1]; return math.Hypot(p.X, p.Y) }
	assert.Less(t, off(0), off(9))
}

// Six on a rectangle of 3 by 2: three along each long side, the middle ones opposite, and its corners at the corners.
func TestARectangleOfSix(t *testing.T) {
	want := []teardown.Place{{X: -1, Y: -2.0 / 3}, {X: 0, Y: -2.0 / 3}, {X: 1, Y: -2.0 / 3}, {X: 1, Y: 2.0 / 3},
		{X: 0, Y: 2.0 / 3}, {X: -1, Y: 2.0 / 3}}
	got := teardown.Places(6, teardown.Rectangle)
	for i, p := range want {
		assert.InDelta(t, 0, math.Hypot(got[i].X-p.X, got[i].Y-p.Y), 1e-9, "place %d: %v", i+1, got[i])
	}
	four := teardown.Places(4, teardown.Rectangle)
	assert.NotEqual(t, teardown.Places(4, teardown.Ring), four, "four stand at the corners")
	assert.Equal(t, teardown.Places(3, teardown.Ring), teardown.Places(3, teardown.Rectangle), "three make no rectangle")
}

// The first pair of a rectangle is its innermost, and each pair lies opposite.
func TestTheInnermostPairComesFirst(t *testing.T) {
	for _, n := range []int{6, 10, 14} {
		order, err := teardown.Order(n, teardown.Rectangle)
		require.NoError(t, err)
		places := teardown.Places(n, teardown.Rectangle)
		off := func(i int) float64 { p := places[order[i]-1]; return math.Hypot(p.X, p.Y) }
		for i := 0; i < n; i += 2 {
			assert.InDelta(t, off(i), off(i+1), 1e-9, "a pair lies opposite")
		}
		least := math.Inf(1)
		for _, p := range places {
			least = min(least, math.Hypot(p.X, p.Y))
		}
		assert.InDelta(t, least, off(0), 1e-9, "the first pair is the innermost")
	}
}

func TestNeighbours(t *testing.T) {
	assert.True(t, teardown.Neighbours(1, 2, 8))
	assert.True(t, teardown.Neighbours(2, 1, 8))
	assert.True(t, teardown.Neighbours(8, 1, 8))
	assert.True(t, teardown.Neighbours(1, 8, 8))
	assert.False(t, teardown.Neighbours(1, 3, 8))
	assert.False(t, teardown.Neighbours(3, 3, 8))
	assert.False(t, teardown.Neighbours(1, 7, 8))
	assert.False(t, teardown.Neighbours(7, 1, 8))
}

// Patterns as they are drawn and walked: a ring by halves and quarters of the turn, a rectangle from the pair nearest its
// middle outward (common practice; the numbers are those that a person sees).
func TestPatternsAsTheyAreWalked(t *testing.T) {
	for _, c := range []struct {
		n     int
		shape string
		order []int
	}{
		{6, teardown.Ring, []int{1, 4, 2, 5, 3, 6}},
		{8, teardown.Ring, []int{1, 5, 3, 7, 2, 6, 8, 4}},
		{9, teardown.Rectangle, []int{1, 5, 9, 4, 8, 3, 7, 2, 6}},
		{10, teardown.Ring, []int{1, 6, 3, 8, 2, 7, 9, 4, 10, 5}},
		{16, teardown.Ring, []int{1, 9, 5, 13, 3, 11, 7, 15, 2, 10, 4, 12, 6, 14, 16, 8}},
		{6, teardown.Rectangle, []int{2, 5, 1, 4, 6, 3}},
		{8, teardown.Rectangle, []int{2, 6, 4, 8, 5, 1, 3, 7}},
		{14, teardown.Rectangle, []int{3, 10, 2, 9, 4, 11, 6, 13, 7, 14, 8, 1, 5, 12}},
	} {
		order, err := teardown.Order(c.n, c.shape)
		require.NoError(t, err)
		assert.Equal(t, c.order, order, "%d, %s", c.n, c.shape)
	}
	near := func(want, is []teardown.Place) {
		require.Len(t, is, len(want))
		for i := range want {
			assert.InDelta(t, 0, math.Hypot(want[i].X-is[i].X, want[i].Y-is[i].Y), 1e-3, "place %d of %d", i+1, len(want))
		}
	}
	// from the top, clockwise, as on a clock
	near([]teardown.Place{{X: 0, Y: -1}, {X: 0.866, Y: -0.5}, {X: 0.866, Y: 0.5}, {X: 0, Y: 1}, {X: -0.866, Y: 0.5},
		{X: -0.866, Y: -0.5}}, teardown.Places(6, teardown.Ring))
	// from the upper left corner; what does not divide evenly stands on the long sides
	near([]teardown.Place{{X: -1, Y: -2. / 3}, {X: -1. / 3, Y: -2. / 3}, {X: 1. / 3, Y: -2. / 3}, {X: 1, Y: -2. / 3},
		{X: 1, Y: 0}, {X: 1, Y: 2. / 3}, {X: 1. / 3, Y: 2. / 3}, {X: -1. / 3, Y: 2. / 3}, {X: -1, Y: 2. / 3},
		{X: -1, Y: 0}}, teardown.Places(10, teardown.Rectangle))
	near([]teardown.Place{{X: -1, Y: -2. / 3}, {X: 0, Y: -2. / 3}, {X: 1, Y: -2. / 3}, {X: 1, Y: 2. / 3},
		{X: 0, Y: 2. / 3}}, teardown.Places(5, teardown.Rectangle))
	near([]teardown.Place{{X: 0, Y: -1}, {X: 0.866, Y: 0.5}, {X: -0.866, Y: 0.5}}, teardown.Places(3, teardown.Rectangle))
}
