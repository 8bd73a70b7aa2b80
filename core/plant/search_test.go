package plant

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
)

// fitOf is a search on one round of an engine, read off by so much from health, with so much error.
func fitOf(t *testing.T, off, noise []float64) fit {
	t.Helper()
	p := turbo(t)
	rounds := []Round{{Operation: Operation{RPM: 2800, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, Reads: []Read{
		{Station: "thermostat", Side: "coolant"}, {Station: "exchanger", Side: "raw"}, {Station: "flow"}, {Station: "gauge"},
		{Station: "outlet", Side: "raw"}}}}
	healthy, err := p.inHealth(rounds)
	require.NoError(t, err)
	list := p.figures()
	f := fit{p: p, rounds: rounds, healthy: healthy, noise: noise, list: list, prior: make([]float64, len(list))}
	for i, v := range healthy.values {
		f.y = append(f.y, v+off[i])
	}
	for i, g := range list {
		f.prior[i] = wide * g.spread
	}
	return f
}

// The cost in health, by hand: what each reading is off by its error, squared; besides, each figure by its own.
func TestTheCostOfFigures(t *testing.T) {
	f := fitOf(t, []float64{2, -3, 4, 0, 1}, []float64{1, 2, 8, 2, 0.5})
	now, err := f.cost(make([]float64, len(f.list)))
	require.NoError(t, err)
	assert.InDelta(t, 4+2.25+0.25+0+4, now, 1e-9)
	theta := make([]float64, len(f.list))
	theta[5] = 3 // the gauge reads 3 high: the reading is 3 low of that, by an error of 2
	now, err = f.cost(theta)
	require.NoError(t, err)
	assert.InDelta(t, 4+2.25+0.25+square(-3.0/2)+4+square(3.0/9), now, 1e-9)
}

// The slopes are those of the model, and the gradient and the information those of the cost, by differences.
func TestTheGradientIsThatOfTheCost(t *testing.T) {
	f := fitOf(t, []float64{2, -3, 4, 0.5, 1}, []float64{1, 2, 8, 2, 0.5})
	theta := []float64{0.05, -0.04, 0.03, 0.6, 0.02, -0.4}
	slopes, values, err := f.p.jacobian("", f.rounds, theta, f.list)
	require.NoError(t, err)
	h, g := f.normal(theta, sight{slopes, values})
	for k := range theta {
		const step = 1e-3
		at := func(d float64) float64 {
			moved := append([]float64{}, theta...)
			moved[k] += d
			c, err := f.cost(moved)
			require.NoError(t, err)
			return c
		}
		slope := (at(step) - at(-step)) / (2 * step)
		assert.InDelta(t, -slope/2, g.AtVec(k), 0.02*math.Max(1, math.Abs(g.AtVec(k))), f.list[k].id)
		for l := range theta {
			sum := 0.0
			for i, s := range f.noise {
				sum += slopes.At(i, k) * slopes.At(i, l) / (s * s)
			}
			if k == l {
				sum += 1 / (f.prior[k] * f.prior[k])
			}
			assert.InEpsilon(t, sum+1e-30, h.At(k, l)+1e-30, 1e-9)
		}
	}
}

// A figure at a bound that it would pass stays there, and the others move without it.
func TestAFigureStaysWithinItsBounds(t *testing.T) {
	f := fitOf(t, []float64{0, 0, 0, 0, 0}, []float64{1, 1, 1, 1, 1})
	n := len(f.list)
	for _, tc := range []struct {
		at, pull float64
		held     bool
	}{{leastLog, -1, true}, {leastLog, 1, false}, {leastLog, 0, false}, {mostLog, 1, true}, {mostLog, -1, false},
		{mostLog, 0, false}, {leastLog + 0.1, -1, false}, {mostLog - 0.1, 1, false}} {
		theta, g := make([]float64, n), mat.NewVecDense(n, nil)
		theta[0] = tc.at
		g.SetVec(0, tc.pull)
		assert.Equal(t, tc.held, f.held(theta, g)[0], "%+v", tc)
	}
	theta, g := make([]float64, n), mat.NewVecDense(n, nil)
	theta[3], theta[5] = mostLog+1, leastLog-1 // degrees have no bounds
	g.SetVec(3, 1)
	g.SetVec(5, -1)
	held := f.held(theta, g)
	assert.False(t, held[3] || held[5])
}

// Figures that are well read come back, with the error that the readings leave; one that nothing tells keeps its own.
func TestTheErrorsOfFigures(t *testing.T) {
	f := fitOf(t, []float64{0, 0, 0, 4, 0}, []float64{0.1, 0.1, 0.1, 0.1, 0.1})
	figures, err := f.p.mostProbable(f.rounds, f.healthy, f.y, f.noise)
	require.NoError(t, err)
	gauge := figures[5]
	require.Equal(t, "gauge", gauge.ID)
	assert.InDelta(t, 4, gauge.Value, 0.01)
	assert.InDelta(t, 0.14, gauge.Own, 0.02, "the thermostat's and its own reading, each by 0.1")
	assert.InDelta(t, math.Hypot(gauge.Own, 1.5), gauge.Error, 0.01)
	assert.True(t, gauge.Known)
	assert.InDelta(t, 9, gauge.Prior, 1e-12)
	f.rounds[0].Reads, f.y, f.noise = f.rounds[0].Reads[:1], f.y[:1], f.noise[:1]
	f.healthy, err = f.p.inHealth(f.rounds)
	require.NoError(t, err)
	figures, err = f.p.mostProbable(f.rounds, f.healthy, f.y, f.noise)
	require.NoError(t, err)
	assert.False(t, figures[5].Known, "nothing was read of the gauge")
	assert.InDelta(t, 9, figures[5].Own, 0.01)
	raw := figures[0]
	assert.InDelta(t, 1, raw.Healthy, 0)
	assert.InDelta(t, math.Hypot(raw.Own/raw.Value, 0.10)*raw.Value, raw.Error, 0.01)
}

// The figures alone are those of the whole judgement, and refuse what it refuses.
func TestTheFiguresAloneAreThoseOfTheJudgement(t *testing.T) {
	f := fitOf(t, []float64{2, -3, 4, 0.5, 1}, []float64{1, 2, 8, 2, 0.5})
	for i := range f.rounds[0].Reads {
		f.rounds[0].Reads[i].Value, f.rounds[0].Reads[i].Error = f.y[i], f.noise[i]
	}
	f.rounds[0].RanMin = 1000
	figures, err := f.p.HealthFigures(f.rounds)
	require.NoError(t, err)
	whole, err := f.p.Judge(f.rounds)
	require.NoError(t, err)
	assert.Equal(t, whole.Figures, figures)
	_, err = f.p.HealthFigures(nil)
	assert.ErrorContains(t, err, "at least one round")
}

// In a sea as warm as is told the block stands at its alarm, in a space that warmed with the sea; so it does at the speed,
// and with the load, that are told.
func TestTheWarmestSeaIsWhereItsAlarmSounds(t *testing.T) {
	p := turbo(t)
	h := Well()
	h.UA = 0.5
	op := Operation{RPM: 3400, Load: 0.8, SeaC: 2, Salinity: 35, SpaceC: 35}
	l, err := p.Limits(op, h, p.AlarmC)
	require.NoError(t, err)
	require.NotNil(t, l.SeaC)
	require.Greater(t, *l.SeaC-2, 5.0)
	op.SpaceC += *l.SeaC - 2
	op.SeaC = *l.SeaC
	s, err := p.Steady(op, h)
	require.NoError(t, err)
	assert.InDelta(t, p.AlarmC, s.BlockC, 0.01)

	op = Operation{RPM: 2600, Load: 0.8, SeaC: 16, Salinity: 35, SpaceC: 35}
	l, err = p.Limits(op, h, p.AlarmC)
	require.NoError(t, err)
	require.NotNil(t, l.RPM)
	faster, heavier := op, op
	faster.RPM, heavier.Load = *l.RPM, 0.8*(1+l.Spare)
	for _, at := range []Operation{faster, heavier} {
		s, err := p.Steady(at, h)
		require.NoError(t, err)
		assert.InDelta(t, p.AlarmC, s.BlockC, 0.05, "%+v", at)
	}
}
