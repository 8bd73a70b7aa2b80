package plant

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
)

// What a healthy round leaves open of an engine is what the search leaves, and what lies between one day and another; but
// never more than lies between engines: a figure beyond that is drawn in, with all that goes along with it.
func TestWhatAFitLeavesOpen(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	round := readAt(t, p, 2400, 2, "gauge", "outlet")
	list := p.figures()
	prior := make([]float64, len(list))
	for i, f := range list {
		prior[i] = f.spread
	}
	y, noise := observed([]Round{round})
	healthy, err := p.inHealth([]Round{round})
	require.NoError(t, err)
	_, covariance, err := p.search(fit{p, []Round{round}, healthy, y, noise, list, prior})
	require.NoError(t, err)
	for _, left := range []float64{LeftByBaseline, LeftByTwin} {
		got, err := p.Calibrated([]Round{round}, left)
		require.NoError(t, err)
		var open mat.SymDense
		open.AddSym(covariance, spreadOf(list, left))
		scale := make([]float64, len(list))
		drawnIn := 0
		for i, f := range list {
			scale[i] = math.Min(1, f.spread/math.Sqrt(open.At(i, i)))
			if scale[i] < 1 {
				drawnIn++
			}
		}
		assert.Positive(t, drawnIn, "something was not read")
		assert.Less(t, drawnIn, len(list), "something was")
		for i := range list {
			for j := range list {
				assert.InDelta(t, open.At(i, j)*scale[i]*scale[j], got.about.At(i, j), 1e-12, "%d, %d", i, j)
			}
		}
	}
}

// The exchanger of this very engine, clean, is the usual one by as much as its own is of it.
func TestCleanConductanceIsItsOwn(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	assert.Equal(t, p.UA, p.CleanUA())
	p.own.UA = 1.25
	assert.InEpsilon(t, 1.25*p.UA, p.CleanUA(), 1e-12)
}

// Carried to another operation a temperature moves by as much as the model's does, a flow by the same ratio.
func TestCarriedByShiftAndByRatio(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	round := readAt(t, p, 2400, 3, "gauge", "outlet")
	was, err := p.Steady(round.Operation, Well())
	require.NoError(t, err)
	round.Reads = append(round.Reads, Read{Station: "flow", Value: 0.8 * was.RawLMin, Error: 1})
	to := Operation{RPM: 1500, SeaC: 8, Load: 1}
	is, err := p.Steady(to, Well())
	require.NoError(t, err)
	require.Less(t, is.RawLMin, 0.9*was.RawLMin)
	list, err := p.Carried(round, to)
	require.NoError(t, err)
	require.Len(t, list, len(round.Reads))
	for i, x := range round.Reads {
		want := 0.8 * is.RawLMin
		if x.Station != "flow" {
			a, err := was.value(x)
			require.NoError(t, err)
			b, err := is.value(x)
			require.NoError(t, err)
			want = x.Value + b - a
			assert.InDelta(t, b+3, want, 1e-9, "it was read 3 K warmer")
		}
		assert.InDelta(t, want, list[i].Value, 1e-9, x.Station)
		assert.Equal(t, x.Error, list[i].Error)
	}
	_, err = p.Carried(round, Operation{RPM: -1})
	assert.Error(t, err)
	_, err = p.Carried(Round{Operation: Operation{RPM: -1}}, to)
	assert.ErrorContains(t, err, "the round's operation")
}

// What narrows a place twice narrows it by both.
func TestTwoNarrowingsMultiply(t *testing.T) {
	e := narrowing("intake", "seacock")
	h := Well()
	h.Restrict = map[string]float64{}
	e.turn(&h, 4)
	assert.Equal(t, 4.0, h.Restrict["intake"])
	e.turn(&h, 3)
	assert.Equal(t, 12.0, h.Restrict["intake"])
	assert.Equal(t, 12.0, h.Restrict["seacock"])
	h.Restrict["intake"] = 0.5
	e.turn(&h, 3)
	assert.Equal(t, 3.0, h.Restrict["intake"], "nothing is wider than it is")
	assert.InEpsilon(t, 20, e.at(0.5), 1e-12, "halfway to 400 by even factors")
}

// Raw water goes through thermostat and block of a raw-water-cooled engine alone; the drops of suction and delivery are
// shared out whole over the places that the circuit has.
func TestDropsAreSharedOutOverTheRawSide(t *testing.T) {
	circuit := []string{"intake", "seacock", "raw-pump", "exchanger", "block", "thermostat", "elbow", "outlet"}
	for family, has := range map[string]bool{Closed: false, Direct: true} {
		sum := map[bool]float64{}
		places := map[string]bool{}
		for _, r := range restrictions(circuit, Type{Family: family, SuctionKPa: 12, DeliveryKPa: 30}) {
			sum[r.Before] += r.DropKPa
			places[r.Station] = true
		}
		assert.InDelta(t, 12, sum[true], 1e-9)
		assert.InDelta(t, 30, sum[false], 1e-9)
		assert.Equal(t, has, places["block"], family)
		assert.Equal(t, has, places["thermostat"], family)
		assert.True(t, places["intake"] && places["seacock"] && places["exchanger"] && places["elbow"])
		assert.False(t, places["raw-pump"] || places["outlet"])
	}
}
