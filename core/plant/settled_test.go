package plant_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/plant"
	"hevrin/core/units"
)

// A healthy engine that is read while it warms up never leans to a thermostat that stands open: 500 drawn engines, each
// a little other than its kind, from any cold, at any speed, read at any minute before its plateau.
func TestAWarmUpReadingIsNoOpenThermostat(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	unsettled := 0
	for range 500 {
		types := plant.Types()
		k := types[r.IntN(len(types))]
		facts := plant.EngineFacts{Family: k.Family, Fuel: k.Fuel, Aspiration: k.Aspiration, RatedKW: k.RatedKW,
			RatedRPM: k.RatedRPM, ThermostatC: k.ThermostatC, Circuit: k.Circuit}
		believed, err := plant.New(facts)
		require.NoError(t, err)
		facts.BlockKJK = believed.BlockKJK * math.Exp(0.15*r.NormFloat64())
		facts.RawLMin = believed.Rated.RawLMin * math.Exp(0.06*r.NormFloat64())
		real, err := plant.New(facts)
		require.NoError(t, err)
		op := plant.Operation{RPM: (0.18 + 0.2*r.Float64()) * k.RatedRPM, Load: 1, SeaC: 4 + 22*r.Float64(), Salinity: 35,
			SpaceC: 25, OutOfGear: r.IntN(2) == 0}
		ran := 2 + 40*r.Float64()
		moments, err := real.FollowBy(op.SeaC, []plant.Phase{{UntilS: 60 * ran, Operation: op, Health: plant.Well()}}, 60, 20)
		require.NoError(t, err)
		last := moments[len(moments)-1]
		round := plant.Round{Operation: op, Reads: []plant.Read{{Station: "thermostat", Side: map[bool]string{true: "coolant"}[k.Family == plant.Closed],
			Value: last.BlockC + r.NormFloat64(), Error: 1}, {Station: "gauge", Value: last.BlockC + 2*r.NormFloat64(), Error: 2}}}
		if r.IntN(2) == 0 {
			round.RanMin = ran
		}
		rep, err := believed.Judge([]plant.Round{round})
		require.NoError(t, err)
		unsettled += len(rep.Unsettled)
		for _, f := range rep.Findings {
			if f.ID == "plateau-below-rating" {
				assert.Less(t, f.Ratio, plant.SaysLeaning, "%s, %.0f °C after %.0f min", k.ID, last.BlockC, ran)
			}
		}
		if len(rep.Patterns) > 0 && rep.Patterns[0].Ratio >= plant.SaysLeaning {
			assert.NotEqual(t, "thermostat-open", rep.Patterns[0].ID, "%s, %.0f °C after %.0f min", k.ID, last.BlockC, ran)
		}
	}
	assert.Greater(t, unsettled, 250, "most of them were warming up still")
}

// The handbook's own example: some 50 °C after a quarter of an hour at idle is usual. What reads as cold after long
// enough, or under load, tells; so does what reads as it should, however short it ran.
func TestWhetherTheEngineCanHaveBeenWarm(t *testing.T) {
	p := usual(t, 1)
	idle := plant.Operation{RPM: 800, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 25, OutOfGear: true}
	cruise := at(p, 0.8, 15)
	round := func(op plant.Operation, c, ran float64) plant.Round {
		return plant.Round{Operation: op, RanMin: ran, Reads: []plant.Read{{Station: "thermostat", Side: "coolant", Value: c, Error: 1}}}
	}
	for what, tc := range map[string]struct {
		round plant.Round
		not   bool
		says  string
	}{
		"a quarter of an hour at idle": {round(idle, 50, 15), true, "50 °C after 15 min at 800 rev/min is usual"},
		"nobody said how long":         {round(idle, 50, 0), true, "how long has it run?"},
		"an hour and a half":           {round(idle, 50, 90), false, ""},
		"at its rating":                {round(idle, 80, 5), false, ""},
		"three under it":               {round(idle, 78.9, 5), true, "more, or raise the speed"},
		"under load, nobody said":      {round(cruise, 60, 0), false, ""},
		"under load, just begun":       {round(cruise, 60, 2), true, "after 2 min at 2400 rev/min is usual"},
		"hot":                          {round(idle, 99, 0), false, ""},
	} {
		u, not, err := p.Unsettled(tc.round)
		require.NoError(t, err)
		assert.Equal(t, tc.not, not, what)
		if not {
			assert.Contains(t, u.Say.In(units.Metric), tc.says, what)
		}
	}
	rep, err := p.Judge([]plant.Round{round(idle, 50, 15)})
	require.NoError(t, err)
	assert.Empty(t, rep.Findings)
	assert.Empty(t, rep.Figures)
	require.Len(t, rep.Unsettled, 1)
	assert.Equal(t, rep.Unsettled[0].Say, rep.Words[0])
	both, err := p.Judge([]plant.Round{round(idle, 50, 15), round(cruise, 60, 0)})
	require.NoError(t, err)
	assert.NotEmpty(t, both.Findings, "the one that is settled is judged")
	_, err = p.Judge([]plant.Round{round(idle, 50, -1)})
	assert.ErrorContains(t, err, "how many minutes")
}

// What was read before the plateau makes no baseline.
func TestAWarmingEngineIsNoStandard(t *testing.T) {
	p := usual(t, 1)
	idle := plant.Operation{RPM: 800, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 25, OutOfGear: true}
	round := plant.Round{Operation: idle, RanMin: 15, Reads: []plant.Read{{Station: "thermostat", Side: "coolant", Value: 50, Error: 1}}}
	assert.ErrorContains(t, p.CheckHealthy([]plant.Round{round}), "is usual")
	assert.ErrorContains(t, p.CheckWarm([]plant.Round{round}), "is usual")
	assert.Error(t, p.CheckWarm(nil))
	round.RanMin, round.Reads[0].Value = 120, 82
	assert.NoError(t, p.CheckHealthy([]plant.Round{round}))
	round.Reads[0].Value = 99
	assert.Error(t, p.CheckHealthy([]plant.Round{round}))
	assert.NoError(t, p.CheckWarm([]plant.Round{round}), "ill, and warm")
}
