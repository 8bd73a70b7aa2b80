package plant

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A plant with a memo judges as one without, and a further round asks only for its own states.
func TestAMemoChangesNothingButTheTime(t *testing.T) {
	p, err := New(EngineFacts{Family: Direct, Fuel: "diesel", RatedKW: 12, RatedRPM: 3000, ThermostatC: 65,
		Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "thermostat", "block", "raw-hoses",
			"elbow", "exhaust-hose", "silencer", "outlet", "gauge", "load"}})
	require.NoError(t, err)
	ill := Well()
	ill.Raw = 0.7
	var rounds []Round
	for _, rpm := range []float64{1500, 2200, 2800} {
		op := Operation{RPM: rpm, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
		s, err := p.Steady(op, ill)
		require.NoError(t, err)
		elbow, err := s.value(Read{Station: "elbow"})
		require.NoError(t, err)
		rounds = append(rounds, Round{op, []Read{{"flow", "", s.RawLMin, 0.5}, {"elbow", "", elbow, 2}}, 0})
	}
	memo := NewMemo(4096)
	kept := p.WithMemo(memo, "this one")
	for n := 1; n <= len(rounds); n++ {
		want, err := p.Judge(rounds[:n])
		require.NoError(t, err)
		got, err := kept.Judge(rounds[:n])
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	each := memo.states.Len() / len(rounds)
	_, err = kept.Judge(rounds)
	require.NoError(t, err)
	assert.Equal(t, each*len(rounds), memo.states.Len(), "nothing is worked out twice")
	other := p
	other.Engine.RatedKW = 20
	differs, err := other.WithMemo(memo, "another").Judge(rounds)
	require.NoError(t, err)
	is, err := other.Judge(rounds)
	require.NoError(t, err)
	assert.Equal(t, is, differs, "another plant has states of its own")
	assert.Panics(t, func() { NewMemo(0) })
}
