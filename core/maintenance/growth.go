// Package maintenance tells what is due on an engine and when: by date, by hours, by condition, and by the trend of
// what was measured, with the span in which a limit will be met. It reads no clock: the day that counts as today is
// given.
package maintenance

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Point is something measured at so many engine hours. Error is one standard deviation.
type Point struct{ Hours, Value, Error float64 }

// Shape is how something grows over the hours.
type Shape string

// The shapes: in proportion to the hours, or towards a level that it does not pass (D. Q. Kern and R. E. Seaton,
// British Chemical Engineering 4 (1959) 258-262).
const (
	Linear     Shape = "linear"
	Asymptotic Shape = "asymptotic"
)

// Growth is a curve fitted to points by weighted least squares: Start + Rate·h, or Start + Rise·(1 −
// exp(−h/Tau)), h being the hours since the first point.
type Growth struct {
	Shape       Shape
	From        float64 // hours of the first point
	Start       float64
	Rate        float64 // per hour; linear
	Rise, Tau   float64 // asymptotic; Tau in hours
	Covariance  [][]float64
	ChiSquare   float64
	Freedom     int
	Scale       float64 // by which the points' errors are taken larger than they were given
	Significant bool    // that it grows at all, at 95 %
}

// LeastPoints is how many points a line needs; the third is what tells a trend from a change. LeastAsymptotic is how
// many a curve needs that levels off.
const (
	LeastPoints     = 3
	LeastAsymptotic = 6
	smallestError   = 1e-9
)

// TooLittle says why nothing was fitted.
type TooLittle struct{ Say string }

// Error says it in words.
func (e *TooLittle) Error() string { return e.Say }

// Fit fits growth to points, as a curve that levels off where that explains them clearly better than a line: while they
// do not tell, the line is the safe side, for it meets a limit earlier. What the points do not carry is refused with a
// TooLittle.
func Fit(points []Point) (Growth, error) {
	list := slices.Clone(points)
	slices.SortStableFunc(list, func(a, b Point) int { return cmp.Compare(a.Hours, b.Hours) })
	line, err := FitLinear(list)
	if err != nil {
		return Growth{}, err
	}
	if len(list) < LeastAsymptotic {
		return line, nil
	}
	curve, ok := FitAsymptotic(list)
	if ok { // both by the scatter that the better of them leaves
		scale := curve.Scale
		if corrected(curve.ChiSquare/(scale*scale), len(list), 3) < corrected(line.ChiSquare/(scale*scale), len(list),
			2)-clearlyBetter {
			return curve, nil
		}
	}
	return line, nil
}

// clearlyBetter is by how much the corrected information criterion must fall for the more complicated curve (K. P.
// Burnham and D. R. Anderson, Sociological Methods & Research 33 (2004) 261-304: under 2 there is little to choose; 4
// and over clearly).
const clearlyBetter = 4.0

// corrected is Akaike's criterion for n points of known error and k parameters, corrected for few points: there are at
// least LeastAsymptotic.
func corrected(chi float64, n, k int) float64 {
	return chi + 2*float64(k) + 2*float64(k*(k+1))/float64(n-k-1)
}

func noNumber(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) }

func checked(list []Point) error {
	for _, p := range list {
		if slices.ContainsFunc([]float64{p.Hours, p.Value, p.Error}, noNumber) || p.Error < 0 {
			return fmt.Errorf("a point at %g h of %g ± %g is none", p.Hours, p.Value, p.Error)
		}
	}
	if n := len(list); n < LeastPoints {
		return &TooLittle{fmt.Sprintf("%d of %d readings that a trend needs", n, LeastPoints)}
	}
	if list[len(list)-1].Hours-list[0].Hours <= 0 {
		return &TooLittle{"all readings are of the same engine hours: a trend needs hours between them"}
	}
	return nil
}

// FitLinear fits a line to points sorted by hours.
func FitLinear(list []Point) (Growth, error) {
	if err := checked(list); err != nil {
		return Growth{}, err
	}
	g := Growth{Shape: Linear, From: list[0].Hours}
	coefficients, covariance, chi := least(list, 2, func(p Point) terms { return terms{1, p.Hours - g.From} })
	if coefficients == nil {
		return Growth{}, &TooLittle{"the readings lie too close together in hours for a trend"}
	}
	g.Start, g.Rate, g.Covariance, g.ChiSquare, g.Freedom = coefficients[0], coefficients[1], covariance, chi, len(list)-2
	g.scale()
	g.Significant = g.Rate > g.quantile(0.95)*math.Sqrt(g.Covariance[1][1])
	return g, nil
}

// terms are the values of a curve's basis at a point; those that it does not have are 0.
type terms [mostTerms]float64

// mostTerms is how many parameters a curve has at most.
const mostTerms = 3

// least solves weighted linear least squares with the errors as given, by the normal equations of a basis of at most
// three terms (the caller's hours begin near 0, so that they are well set).
func least(list []Point, k int, basis func(Point) terms) (coefficients []float64, covariance [][]float64, chi float64) {
	var normal [mostTerms][mostTerms]float64
	var right [mostTerms]float64
	for _, p := range list {
		w := 1 / max(p.Error, smallestError)
		b := basis(p)
		for i := range k {
			right[i] += b[i] * p.Value * w * w
			for j := range k {
				normal[i][j] += b[i] * b[j] * w * w
			}
		}
	}
	inverse, ok := inverted(normal, k)
	if !ok {
		return nil, nil, 0
	}
	coefficients = make([]float64, k)
	for i := range k {
		for j := range k {
			coefficients[i] += inverse[i][j] * right[j]
		}
		covariance = append(covariance, append([]float64(nil), inverse[i][:k]...))
	}
	for _, p := range list {
		off := p.Value
		for i, b := range basis(p) {
			if i < k {
				off -= coefficients[i] * b
			}
		}
		off /= max(p.Error, smallestError)
		chi += off * off
	}
	return coefficients, covariance, chi
}

// inverted is the inverse of the k by k corner of a symmetric matrix, by Cholesky's factors of it scaled to ones on the
// diagonal; not ok where it is not clearly positive.
func inverted(a [mostTerms][mostTerms]float64, k int) (out [mostTerms][mostTerms]float64, ok bool) {
	const clearly = 1e-12
	var scale [mostTerms]float64
	for i := range k {
		if !(a[i][i] > 0) {
			return out, false
		}
		scale[i] = 1 / math.Sqrt(a[i][i])
	}
	var l [mostTerms][mostTerms]float64
	for i := range k {
		for j := range i + 1 {
			sum := a[i][j] * scale[i] * scale[j]
			for m := range j {
				sum -= l[i][m] * l[j][m]
			}
			if i != j {
				l[i][j] = sum / l[j][j]
				continue
			}
			if !(sum > clearly) {
				return out, false
			}
			l[i][i] = math.Sqrt(sum)
		}
	}
	for c := range k { // column by column: L·Lᵀ·x = unit
		var y, x [mostTerms]float64
		for i := range k {
			if i == c {
				y[i] = 1
			}
			for m := range i {
				y[i] -= l[i][m] * y[m]
			}
			y[i] /= l[i][i]
		}
		for i := k - 1; i >= 0; i-- {
			x[i] = y[i]
			for m := i + 1; m < k; m++ {
				x[i] -= l[m][i] * x[m]
			}
			x[i] /= l[i][i]
		}
		for i := range k {
			out[i][c] = x[i] * scale[i] * scale[c]
		}
	}
	return out, true
}

// scale widens the errors where the points scatter by clearly more than they say (chi-square at 5 %).
func (g *Growth) scale() {
	g.Scale = 1
	if g.Freedom < 1 {
		return
	}
	if g.ChiSquare > (distuv.ChiSquared{K: float64(g.Freedom)}).Quantile(0.95) {
		g.Scale = math.Sqrt(g.ChiSquare / float64(g.Freedom))
		for i := range g.Covariance {
			for j := range g.Covariance[i] {
				g.Covariance[i][j] *= g.Scale * g.Scale
			}
		}
	}
}

// quantile is that of a normal error, or of Student's where the scatter itself was estimated.
func (g *Growth) quantile(p float64) float64 {
	if g.Scale == 1 || g.Freedom < 1 {
		return distuv.UnitNormal.Quantile(p)
	}
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(g.Freedom)}.Quantile(p)
}

// Range of tau that is tried, as shares of the hours that the points cover, and how finely.
const (
	tauLeast, tauMost = 0.05, 10.0
	tauSteps          = 40
	goldenRounds      = 34
)

// FitAsymptotic fits a curve that levels off to points sorted by hours, by separable least squares (G. H. Golub and V.
// Pereyra, SIAM Journal on Numerical Analysis 10 (1973) 413-432): for a tau the rest is linear. Not ok where the points
// do not hold the curve.
func FitAsymptotic(list []Point) (Growth, bool) {
	if checked(list) != nil || len(list) < 4 {
		return Growth{}, false
	}
	g := Growth{Shape: Asymptotic, From: list[0].Hours, Freedom: len(list) - 3}
	covers := list[len(list)-1].Hours - g.From
	basis := func(tau float64) func(Point) terms {
		return func(p Point) terms { return terms{1, -math.Expm1(-(p.Hours - g.From) / tau)} }
	}
	chi := func(logTau float64) float64 {
		c, _, chi := least(list, 2, basis(math.Exp(logTau)))
		if c == nil {
			return math.Inf(1)
		}
		return chi
	}
	low, high := math.Log(tauLeast*covers), math.Log(tauMost*covers)
	best, at := math.Inf(1), low
	step := (high - low) / tauSteps
	for i := range tauSteps + 1 {
		if x := low + step*float64(i); chi(x) < best {
			best, at = chi(x), x
		}
	}
	if at <= low+step/2 || at >= high-step/2 { // a step, or a line: no curve to be seen
		return Growth{}, false
	}
	g.Tau = math.Exp(golden(chi, at-step, at+step))
	c, _, x2 := least(list, 2, basis(g.Tau))
	if c == nil || c[1] <= 0 {
		return Growth{}, false
	}
	g.Start, g.Rise, g.ChiSquare = c[0], c[1], x2
	_, covariance, _ := least(list, 3, func(p Point) terms { return g.gradient(p.Hours) })
	if covariance == nil {
		return Growth{}, false
	}
	g.Covariance = covariance
	g.scale()
	g.Significant = g.Rise > g.quantile(0.95)*math.Sqrt(g.Covariance[1][1])
	return g, true
}

// golden finds the least of a function between two places by golden sections.
func golden(f func(float64) float64, low, high float64) float64 {
	ratio := (math.Sqrt(5) - 1) / 2
	a, b := high-ratio*(high-low), low+ratio*(high-low)
	fa, fb := f(a), f(b)
	for range goldenRounds {
		if fa < fb {
			high, b, fb = b, a, fa
			a = high - ratio*(high-low)
			fa = f(a)
		} else {
			low, a, fa = a, b, fb
			b = low + ratio*(high-low)
			fb = f(b)
		}
	}
	return (low + high) / 2
}

// gradient is how the curve moves with its parameters at so many hours.
func (g Growth) gradient(hours float64) terms {
	h := hours - g.From
	if g.Shape == Linear {
		return terms{1, h}
	}
	e := math.Exp(-h / g.Tau)
	return terms{1, 1 - e, -g.Rise * e * h / (g.Tau * g.Tau)}
}

// At is the fitted value at so many engine hours and its error, one standard deviation.
func (g Growth) At(hours float64) (value, err float64) {
	h := hours - g.From
	if g.Shape == Linear {
		value = g.Start + g.Rate*h
	} else {
		value = g.Start - g.Rise*math.Expm1(-h/g.Tau)
	}
	d := g.gradient(hours)
	sum := 0.0
	for i := range g.Covariance {
		for j := range g.Covariance {
			sum += d[i] * d[j] * g.Covariance[i][j]
		}
	}
	return value, math.Sqrt(math.Max(0, sum))
}

// Slope is how fast it grows per hour at so many engine hours.
func (g Growth) Slope(hours float64) float64 {
	if g.Shape == Linear {
		return g.Rate
	}
	return g.Rise / g.Tau * math.Exp(-(hours-g.From)/g.Tau)
}

// LevelsOff is the level that an asymptotic growth comes to; not ok for a line.
func (g Growth) LevelsOff() (float64, bool) { return g.Start + g.Rise, g.Shape == Asymptotic }
