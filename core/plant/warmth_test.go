package plant

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/units"
)

// What tells whether the block was warm: the coldest of thermostat, block and gauge. The raw side of a closed engine's is
// other water; a direct engine has one water.
func TestTheColdestReadingOfTheBlock(t *testing.T) {
	closed, err := New(known())
	require.NoError(t, err)
	direct, err := New(EngineFacts{Family: Direct, Fuel: Diesel, RatedKW: 12, RatedRPM: 2600, ThermostatC: 60,
		Circuit: []string{"intake", "raw-pump", "block", "thermostat", "elbow", "outlet"}})
	require.NoError(t, err)
	for name, tc := range map[string]struct {
		p     Plant
		reads []Read
		want  float64
		cold  bool
	}{
		"nothing":                  {closed, nil, math.Inf(1), false},
		"the gauge":                {closed, []Read{{Station: "gauge", Value: 60}}, 60, true},
		"the thermostat":           {closed, []Read{{Station: "thermostat", Side: "coolant", Value: 61}}, 61, true},
		"the block":                {closed, []Read{{Station: "block", Side: "coolant", Value: 62}}, 62, true},
		"the coldest":              {closed, []Read{{Station: "gauge", Value: 60}, {Station: "block", Value: 55}}, 55, true},
		"another place":            {closed, []Read{{Station: "outlet", Side: "raw", Value: 30}}, math.Inf(1), false},
		"raw, of a closed engine":  {closed, []Read{{Station: "block", Side: "raw", Value: 30}}, math.Inf(1), false},
		"raw, of a direct engine":  {direct, []Read{{Station: "block", Side: "raw", Value: 30}}, 30, true},
		"a thermostat beside it":   {direct, []Read{{Station: "thermostat", Side: "raw", Value: 40}}, 40, true},
		"three under the rating":   {closed, []Read{{Station: "gauge", Value: 79}}, 79, false},
		"a hair more under it":     {closed, []Read{{Station: "gauge", Value: 78.99}}, 78.99, true},
		"under a direct one's own": {direct, []Read{{Station: "gauge", Value: 56.9}}, 56.9, true},
		"at a direct one's own":    {direct, []Read{{Station: "gauge", Value: 57}}, 57, false},
	} {
		read, cold := tc.p.coldest(Round{Reads: tc.reads})
		assert.Equal(t, tc.want, read, name)
		assert.Equal(t, tc.cold, cold, name)
	}
}

// How much longer it has to run: two fifths more than the model's own warming, less what it ran; a minute at least. In gear
// from two fifths of rated speed on nobody is asked how long.
func TestHowMuchLongerUntilItIsWarm(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	round := func(op Operation, ran float64) Round {
		return Round{Operation: op, RanMin: ran, Reads: []Read{{Station: "gauge", Value: 50}}}
	}
	idle := Operation{RPM: 1000, Load: 1, SeaC: 15, SpaceC: 25, OutOfGear: true}
	warm, err := p.minutesToWarm(idle)
	require.NoError(t, err)
	require.Greater(t, warm, 10.0)
	for _, tc := range []struct {
		ran, more float64
		not       bool
	}{{5, 1.4*warm - 5, true}, {warm, 0.4 * warm, true}, {1.4*warm - 0.5, 1, true}, {1.4*warm + 0.01, 0, false}} {
		u, not, err := p.Unsettled(round(idle, tc.ran))
		require.NoError(t, err)
		require.Equal(t, tc.not, not, tc)
		if not {
			assert.InDelta(t, tc.more, u.MoreMin, 1e-9, tc)
		}
	}
	unsaid, not, err := p.Unsettled(round(idle, 0))
	require.NoError(t, err)
	require.True(t, not)
	assert.True(t, math.IsNaN(unsaid.MoreMin))
	assert.Contains(t, unsaid.Say.In(units.Metric), "until that is said, it is no plateau")
	for rpm, asked := range map[float64]bool{1199: true, 1200: false, 1201: false} {
		in := idle
		in.RPM, in.OutOfGear = rpm, false
		_, not, err := p.Unsettled(round(in, 0))
		require.NoError(t, err)
		assert.Equal(t, asked, not, "%g rev/min in gear", rpm)
		in.OutOfGear = true
		_, not, err = p.Unsettled(round(in, 0))
		require.NoError(t, err)
		assert.True(t, not, "%g rev/min out of gear", rpm)
	}
}

// An engine that does not get to its thermostat so is not waited for.
func TestAnEngineThatStaysColdSo(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	p.ThermostatC = 200 // nothing gets there
	op := Operation{RPM: 1000, Load: 1, SeaC: 15, SpaceC: 25, OutOfGear: true}
	for ran, says := range map[float64]string{0: "From cold this engine does not get to its thermostat so: raise the speed",
		20: "after 20 min at 1000 rev/min is usual: it does not get to its thermostat so"} {
		u, not, err := p.Unsettled(Round{Operation: op, RanMin: ran, Reads: []Read{{Station: "gauge", Value: 50}}})
		require.NoError(t, err)
		assert.True(t, not)
		assert.True(t, math.IsNaN(u.MoreMin))
		assert.Contains(t, u.Say.In(units.Metric), says)
	}
}

// What should be read is the steady state's, place by place, each with its spread; of an operation that cannot be nothing.
func TestWhatShouldBeRead(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	op := Operation{RPM: 2000, Load: 1, SeaC: 20}
	s, err := p.Steady(op, Well())
	require.NoError(t, err)
	list, err := p.Shoulds(op)
	require.NoError(t, err)
	require.Len(t, list, len(s.Readings))
	for i, r := range s.Readings {
		assert.Equal(t, r, list[i].Reading)
		assert.Equal(t, r.TempC != op.SeaC, list[i].SpreadK > 0, "%s: the sea is as it is", r.Station)
		assert.Less(t, list[i].SpreadK, 30.0, r.Station)
	}
	_, err = p.Shoulds(Operation{RPM: -1})
	assert.Error(t, err)
	_, err = p.Doubts([]Round{{Operation: Operation{RPM: -1}}})
	assert.Error(t, err)
}

// Raw water hotter than the hottest coolant of its round is doubted, by its place among the rounds; the gauge and what the
// exhaust has warmed are no measure.
func TestRawWaterIsDoubtedBesideItsOwnRound(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	op := Operation{RPM: 2000, Load: 1, SeaC: 20}
	raw := Read{Station: "exchanger", Side: "raw", Value: 62}
	thermostat := func(c float64) Read { return Read{Station: "thermostat", Side: "coolant", Value: c} }
	block := func(c float64) Read { return Read{Station: "block", Side: "coolant", Value: c} }
	for name, tc := range map[string]struct {
		reads   []Read
		doubted bool
	}{
		"alone":                        {[]Read{raw}, false},
		"hotter than the thermostat":   {[]Read{thermostat(61), raw}, true},
		"as hot as the thermostat":     {[]Read{thermostat(62), raw}, false},
		"hotter than the block":        {[]Read{block(61), raw}, true},
		"between the two":              {[]Read{block(61), thermostat(70), raw}, false},
		"between the two, turned":      {[]Read{thermostat(70), block(61), raw}, false},
		"beside a gauge":               {[]Read{{Station: "gauge", Value: 50}, raw}, false},
		"after the exhaust has met it": {[]Read{thermostat(61), {Station: "outlet", Side: "raw", Value: 62}}, false},
	} {
		healthy := Round{Operation: op, Reads: []Read{thermostat(84)}}
		list, err := p.Doubts([]Round{healthy, {Operation: op, Reads: tc.reads}})
		require.NoError(t, err)
		if !tc.doubted {
			assert.Empty(t, list, name)
			continue
		}
		require.Len(t, list, 1, name)
		assert.Equal(t, 1, list[0].Round)
		assert.Equal(t, len(tc.reads)-1, list[0].Read)
		assert.Contains(t, list[0].Say.In(units.Metric), "are the two swapped?")
	}
}

// Blocked tubes let little through as well, but show as an exchanger that passes little.
func TestBlockedTubesShowAsAWeakExchanger(t *testing.T) {
	for range 20 {
		assert.Equal(t, "exchanger-weak", Pattern("tubes-blocked"))
	}
	assert.Equal(t, "raw-flow-low", Pattern("intake-blocked"))
}
