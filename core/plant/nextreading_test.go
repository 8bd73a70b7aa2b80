package plant

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
)

// readAt is a round at a speed that reads what health gives there, warmer by so many K.
func readAt(t *testing.T, p Plant, rpm, warmer float64, stations ...string) Round {
	t.Helper()
	op := Operation{RPM: rpm, SeaC: 20, Load: 1}
	s, err := p.Steady(op, Well())
	require.NoError(t, err)
	round := Round{Operation: op, RanMin: 60}
	for _, r := range s.Readings {
		if slices.Contains(stations, r.Station) {
			round.Reads = append(round.Reads, Read{r.Station, r.Side, r.TempC + warmer, UsualError(r.Station, Contact, r.TempC)})
		}
	}
	return round
}

// A reading is asked for once at a speed: at that of the last round, idling and at rated speed, where these lie apart.
func TestTheNextReadingIsAskedForOnceAtASpeed(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	for _, tc := range []struct {
		rpm    float64
		speeds []float64
	}{
		{3000, []float64{900, 3000}}, {900, []float64{900, 3000}}, {2900, []float64{900, 2900}},
		{1100, []float64{1100, 3000}}, {2000, []float64{900, 2000, 3000}}, {2700, []float64{900, 2700, 3000}},
		{1200, []float64{900, 1200, 3000}},
	} {
		round := readAt(t, p, tc.rpm, 10, "outlet", "gauge")
		rep, err := p.Judge([]Round{round})
		require.NoError(t, err)
		asked := map[NextReading]bool{}
		for _, n := range rep.Next {
			n.Bits, n.Between = 0, [2]string{}
			assert.False(t, asked[n], "%g rev/min: %v twice", tc.rpm, n)
			asked[n] = true
			assert.Contains(t, tc.speeds, n.RPM)
		}
		if tc.rpm == 2000 { // each of the three tells something there
			var speeds []float64
			for n := range asked {
				speeds = append(speeds, n.RPM)
			}
			assert.ElementsMatch(t, tc.speeds, speeds)
		}
	}
}

// A reading parts most the two patterns whose values lie furthest apart for their weight; how much it tells is the
// patterns' spread over its own, in bits.
func TestWhatAReadingParts(t *testing.T) {
	list := []weighed{{pattern: Healthy, weight: 1}, {pattern: "heat-high", weight: 1}, {pattern: "gauge-off", weight: 1}}
	values := []float64{0, 1, 10}
	bits, between := information(list, func(i int) float64 { return values[i] }, 4)
	assert.Equal(t, [2]string{"gauge-off", Healthy}, sorted(between))
	mean := (0 + 1 + 10) / 3.0
	spread := (0+1+100)/3.0 - mean*mean
	assert.InEpsilon(t, math.Log2(1+spread/4)/2, bits, 1e-9)
}

func sorted(pair [2]string) [2]string {
	slices.Sort(pair[:])
	return pair
}

// The model answers to a tenth over rated speed, for an engine that turns.
func TestTheSpeedsThatTheModelAnswersFor(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	for rpm, answered := range map[float64]bool{-1: false, 0: false, 1: true, 1.1 * 3000: true, 3300.1: false} {
		assert.Equal(t, answered, p.Check(Operation{RPM: rpm, Load: 1, SeaC: 20}) == nil, "%g rev/min", rpm)
	}
}

// Speeds are the same where less than a tenth of the rated speed lies between them.
func TestSpeedsThatAreTheSame(t *testing.T) {
	for _, tc := range []struct {
		a, b float64
		same bool
	}{{2000, 2000, true}, {2000, 2299, true}, {2299, 2000, true}, {2000, 2300, false}, {2300, 2000, false}, {900, 2000, false}} {
		assert.Equal(t, tc.same, near(tc.a, tc.b, 3000), "%g and %g", tc.a, tc.b)
	}
}

// What was read is not asked for at that speed again: that place on that side, or without a side all of it; the gauge is
// one place. At another speed it is.
func TestWhatWasReadIsNotAskedForAgain(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	op := Operation{RPM: 2000, SeaC: 20, Load: 1}
	at := func(rounds ...Round) []string {
		var list []string
		for _, r := range p.unread(rounds, op) {
			list = append(list, r.Station+" "+r.Side)
		}
		return list
	}
	read := func(rpm float64, reads ...Read) Round {
		return Round{Operation: Operation{RPM: rpm, SeaC: 20, Load: 1}, Reads: reads}
	}
	all := at()
	s, err := p.Steady(op, Well())
	require.NoError(t, err)
	want := []string{"flow "}
	for _, r := range s.Readings {
		if slices.Contains([]string{"exchanger", "raw-hoses", "outlet", "coolant-hoses", "thermostat", "gauge"}, r.Station) {
			want = append(want, r.Station+" "+r.Side)
		}
	}
	assert.Equal(t, want, all)
	without := func(gone ...string) []string {
		return slices.DeleteFunc(slices.Clone(all), func(x string) bool { return slices.Contains(gone, x) })
	}
	assert.Equal(t, without("flow "), at(read(2000, Read{Station: "flow"})))
	assert.Equal(t, all, at(read(2400, Read{Station: "flow"})), "at another speed")
	assert.Equal(t, without("flow "), at(read(2400), read(2100, Read{Station: "flow"})))
	var sides []string
	for _, x := range all {
		if strings.HasPrefix(x, "exchanger ") {
			sides = append(sides, x)
		}
	}
	require.Greater(t, len(sides), 1)
	side := strings.TrimPrefix(sides[0], "exchanger ")
	require.NotEmpty(t, side)
	assert.Equal(t, without(sides[0]), at(read(2000, Read{Station: "exchanger", Side: side})))
	assert.Equal(t, without(sides...), at(read(2000, Read{Station: "exchanger"})))
	assert.Equal(t, without("gauge "), at(read(2000, Read{Station: "gauge", Side: "coolant"})))
	assert.Equal(t, all, at(read(2000, Read{Station: "seacock"})))
	direct, err := New(EngineFacts{Family: Direct, Fuel: Diesel, RatedKW: 60, RatedRPM: 3000, ThermostatC: 60,
		Circuit: []string{"intake", "raw-pump", "block", "thermostat", "elbow", "outlet"}})
	require.NoError(t, err)
	p = direct
	assert.Contains(t, at(), "block raw")
}

// What a healthy engine's figures leave open after readings is what Bayes leaves of what was open before: the inverse of
// the sum of both informations.
func TestWhatReadingsLeaveOpen(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	healthy, err := p.inHealth([]Round{readAt(t, p, 2000, 0, "outlet", "gauge", "thermostat")})
	require.NoError(t, err)
	n, _ := healthy.slopes.Dims()
	noise := make([]float64, n)
	var information mat.Dense
	require.NoError(t, information.Inverse(p.covariance()))
	for i := range noise {
		noise[i] = 0.5 + float64(i)
		var outer mat.Dense
		outer.Outer(1/(noise[i]*noise[i]), healthy.slopes.RowView(i), healthy.slopes.RowView(i))
		information.Add(&information, &outer)
	}
	var want mat.Dense
	require.NoError(t, want.Inverse(&information))
	got, err := p.leftOpen(healthy, noise)
	require.NoError(t, err)
	assert.True(t, mat.EqualApprox(&want, got, 1e-9))
	assert.False(t, mat.EqualApprox(p.covariance(), got, 1e-4), "readings leave less open")
}
