// Package rootfind finds where a function that rises or falls all the way crosses zero.
package rootfind

import (
	"errors"
	"math"
)

// ErrNotBracketed says that the function has the same sign at both ends.
var ErrNotBracketed = errors.New("the answer does not lie between the two ends")

// Zero finds x between low and high where f is zero, by bisection with the secant where it helps (the ITP method:
// I. F. D. Oliveira and R. H. C. Takahashi, ACM Transactions on Mathematical Software 47 (2020), article 5), to within
// the tolerance in x. f must have different signs at the two ends.
func Zero(f func(float64) float64, low, high, tolerance float64) (float64, error) {
	a, b := low, high
	fa, fb := f(a), f(b)
	switch {
	case fa == 0:
		return a, nil
	case fb == 0:
		return b, nil
	case math.IsNaN(fa) || math.IsNaN(fb) || (fa > 0) == (fb > 0):
		return 0, ErrNotBracketed
	}
	sign := 1.0
	if fa > 0 {
		sign = -1
	}
	const k1Times, n0 = 0.2, 1
	k1 := k1Times / (b - a)
	most := math.Ceil(math.Log2((b-a)/(2*tolerance))) + n0
	for j := 0.0; b-a > 2*tolerance && j <= most+60; j++ {
		half := (a + b) / 2
		r := tolerance*math.Exp2(most-j) - (b-a)/2
		delta := k1 * (b - a) * (b - a)
		secant := (fb*a - fa*b) / (fb - fa)
		towards := math.Copysign(1, half-secant)
		x := half
		if delta <= math.Abs(half-secant) {
			x = secant + towards*delta
		}
		if math.Abs(x-half) > r {
			x = half - towards*r
		}
		switch fx := f(x); {
		case fx*sign > 0:
			b, fb = x, fx
		case fx*sign < 0:
			a, fa = x, fx
		default:
			return x, nil
		}
	}
	return (a + b) / 2, nil
}
