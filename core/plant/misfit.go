package plant

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
)

// sight is what rounds would show of a healthy plant, and how that moves with each of its figures.
type sight struct {
	slopes *mat.Dense // readings × figures
	values []float64  // of the readings
}

// inHealth is the sight of a healthy plant at the operations of the rounds.
func (p Plant) inHealth(rounds []Round) (sight, error) {
	list := p.figures()
	j, values, err := p.jacobian("health", rounds, make([]float64, len(list)), list)
	return sight{j, values}, err
}

// spreads is one standard deviation of healthy engines about each reading.
func (p Plant) spreads(healthy sight) []float64 {
	out, about := make([]float64, len(healthy.values)), p.covariance()
	for i := range out {
		row := healthy.slopes.RowView(i)
		out[i] = math.Sqrt(max(0, mat.Inner(row, about, row)))
	}
	return out
}

// misfit weighs how far readings lie from what should be read: by their own errors, and by the spread of healthy
// engines, which moves many readings together.
type misfit struct {
	noise  []float64
	spread *mat.Dense // readings × figures: one standard deviation of each independent part of the spread, over the noise
	inner  mat.Cholesky
}

// misfit takes the covariance of the readings as N + U Uᵀ, with N their own errors and U Uᵀ the spread's, so that
// its inverse needs no more than a matrix of the figures' size: M. A. Woodbury 1950, Inverting modified matrices
// (memory).
func (p Plant) misfit(healthy sight, noise []float64) (misfit, error) {
	var eigen mat.EigenSym
	if !eigen.Factorize(p.covariance(), true) {
		return misfit{}, fmt.Errorf("the spread between engines does not hold together")
	}
	var parts mat.Dense
	eigen.VectorsTo(&parts)
	for k, v := range eigen.Values(nil) {
		for i := range len(eigen.Values(nil)) {
			parts.Set(i, k, parts.At(i, k)*math.Sqrt(max(0, v)))
		}
	}
	m := misfit{noise: noise, spread: new(mat.Dense)}
	m.spread.Mul(healthy.slopes, &parts)
	m.spread.Apply(func(i, _ int, v float64) float64 { return v / noise[i] }, m.spread)
	_, n := m.spread.Dims()
	inner := mat.NewSymDense(n, nil)
	inner.SymOuterK(1, m.spread.T())
	for k := range n {
		inner.SetSym(k, k, 1+inner.At(k, k))
	}
	if !m.inner.Factorize(inner) {
		return m, fmt.Errorf("the errors of the readings do not hold together")
	}
	return m, nil
}

// of is the square of the distance of what is off, in standard deviations.
func (m misfit) of(off []float64) float64 {
	n := len(off)
	z, sum := mat.NewVecDense(n, nil), 0.0
	for i, d := range off {
		z.SetVec(i, d/m.noise[i])
		sum += square(z.AtVec(i))
	}
	var along, solved mat.VecDense
	along.MulVec(m.spread.T(), z)
	if err := m.inner.SolveVecTo(&solved, &along); err != nil {
		return math.Inf(1)
	}
	return max(0, sum-mat.Dot(&along, &solved))
}

// apart is a less b, each for each.
func apart(a, b []float64) []float64 {
	d := make([]float64, len(a))
	for i := range d {
		d[i] = a[i] - b[i]
	}
	return d
}
