package plant

import (
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"pgregory.net/rapid"
)

// The distance by the small matrix is that by the whole covariance of the readings, factorised by the library: with the
// spread between engines, and with what a baseline leaves of it.
func TestTheDistanceIsThatOfTheWholeCovariance(t *testing.T) {
	y := Types()[1]
	loose, err := New(EngineFacts{Family: y.Family, Fuel: y.Fuel, Aspiration: y.Aspiration, RatedKW: y.RatedKW,
		RatedRPM: y.RatedRPM, Circuit: []string{"intake", "raw-pump", "exchanger", "elbow", "outlet", "circ-pump", "block",
			"thermostat", "gauge"}})
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		p := loose
		if rapid.Bool().Draw(t, "fitted") {
			p = p.AsFitted()
		}
		var rounds []Round
		var off, noise []float64
		for range rapid.IntRange(1, 4).Draw(t, "rounds") {
			r := Round{Operation: Operation{RPM: rapid.Float64Range(0.3, 1).Draw(t, "r") * y.RatedRPM, Load: 1, SeaC: 15,
				Salinity: 35, SpaceC: 30}}
			for _, s := range []string{"thermostat", "exchanger", "outlet", "flow", "gauge"} {
				r.Reads = append(r.Reads, Read{Station: s, Error: rapid.Float64Range(0.2, 3).Draw(t, "error")})
				noise = append(noise, r.Reads[len(r.Reads)-1].Error)
				off = append(off, rapid.Float64Range(-20, 20).Draw(t, "off"))
			}
			rounds = append(rounds, r)
		}
		healthy, err := p.inHealth(rounds)
		require.NoError(t, err)
		m, err := p.misfit(healthy, noise)
		require.NoError(t, err)

		n := len(off)
		var moved, whole mat.Dense
		moved.Mul(healthy.slopes, p.covariance())
		whole.Mul(&moved, healthy.slopes.T())
		c := mat.NewSymDense(n, nil)
		for a := range n {
			for b := a; b < n; b++ {
				c.SetSym(a, b, whole.At(a, b))
			}
			c.SetSym(a, a, c.At(a, a)+noise[a]*noise[a])
		}
		var chol mat.Cholesky
		require.True(t, chol.Factorize(c))
		v := mat.NewVecDense(n, off)
		var x mat.VecDense
		require.NoError(t, chol.SolveVecTo(&x, v))
		want := mat.Dot(v, &x)
		require.InDelta(t, want, m.of(off), 1e-6*(1+want))
		require.Zero(t, m.of(make([]float64, n)))
	})
}
