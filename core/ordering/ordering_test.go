package ordering_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"hevrin/core/ordering"
)

func TestOrder(t *testing.T) {
	for _, x := range []float64{0.3, 1, 4 / 3.0, 97, 1e-30, 5e12} {
		assert.Zero(t, ordering.Compare(x, math.Nextafter(x, 0)), "%g and the number before it", x)
		assert.False(t, ordering.Above(math.Nextafter(x, 1e300), x))
		assert.Positive(t, ordering.Compare(x*(1+1e-9), x))
		assert.Negative(t, ordering.Compare(x, x*(1+1e-9)))
		assert.True(t, ordering.Above(x*(1+1e-9), x))
		assert.False(t, ordering.Above(x, x*(1+1e-9)))
		assert.Positive(t, ordering.Compare(x, -x))
	}
	assert.Zero(t, ordering.Compare(0, 0))
	assert.Positive(t, ordering.Compare(1e-300, 0), "however little")
	assert.Negative(t, ordering.Compare(-1, 0))
	assert.Positive(t, ordering.Compare(math.Inf(1), 1e300))
}

// What is further apart than it takes for equal is in the order of the numbers.
func TestOrderIsThatOfTheNumbers(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := rapid.Float64Range(-1e6, 1e6).Draw(t, "x")
		y := rapid.Float64Range(-1e6, 1e6).Draw(t, "y")
		if math.Abs(x-y) > 5e-10*math.Abs(x) {
			assert.Equal(t, x > y, ordering.Compare(x, y) > 0)
			assert.Equal(t, x > y, ordering.Above(x, y))
		}
		assert.Equal(t, ordering.Compare(x, y), -ordering.Compare(y, x))
	})
}

func TestWhatIsLeftOfADifference(t *testing.T) {
	assert.Zero(t, ordering.Difference(4e-11))
	assert.InDelta(t, 1e-10, ordering.Difference(6e-11), 1e-19)
	assert.InDelta(t, -0.1234567891, ordering.Difference(-0.12345678912), 1e-15)
}

func TestSixDigits(t *testing.T) {
	for x, want := range map[float64]float64{8.693135724310787: 8.69314, 8.693135708675497: 8.69314, -123456.7: -123457,
		1234567: 1234570, 0.000123456789: 0.000123457, 0: 0, 1: 1} {
		assert.InEpsilon(t, 1+want, 1+ordering.Digits(x, 6), 1e-12, "%v", x)
	}
	assert.InDelta(t, 0.203, ordering.Digits(0.202718, 3), 1e-12)
	assert.InDelta(t, 0.203, ordering.Digits(0.202704, 3), 1e-12)
	assert.True(t, math.IsInf(ordering.Digits(math.Inf(1), 6), 1))
	assert.True(t, math.IsNaN(ordering.Digits(math.NaN(), 6)))
}
