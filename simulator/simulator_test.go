package simulator_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/nmea"
	"hevrin/core/plant"
	"hevrin/simulator"
)

func aRig(t *testing.T, change func(*simulator.Script)) *simulator.Simulator {
	t.Helper()
	known, err := simulator.Type("diesel")
	require.NoError(t, err)
	s := simulator.Script{Engine: known, SeaC: 15, SpaceC: 30, StartC: 20, Seed: 3}
	if change != nil {
		change(&s)
	}
	r, err := simulator.New(s)
	require.NoError(t, err)
	return r
}

// At rest the simulator reads what the model says, and its sentences say so.
func TestTheRigIsTheModel(t *testing.T) {
	r := aRig(t, func(s *simulator.Script) { s.Phases = []simulator.Phase{{RPM: 2400}} })
	require.NoError(t, r.Advance(3600))
	known, _ := simulator.Type("diesel")
	p, err := plant.New(known)
	require.NoError(t, err)
	want, err := p.Steady(plant.Operation{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}, plant.Well())
	require.NoError(t, err)
	assert.InDelta(t, want.BlockC, r.Now().State.BlockC, 0.05)
	told := map[string]float64{}
	for range 50 {
		for _, line := range r.Sentences() {
			s, err := nmea.Parse(line)
			require.NoError(t, err, line)
			assert.LessOrEqual(t, len(line), 80, "the standard allows 82 with the line's end")
			list, _ := s.Readings()
			for _, x := range list {
				told[x.Channel] += x.Value / 50
			}
		}
	}
	assert.Len(t, told, 13)
	assert.InDelta(t, want.BlockC, told["II XDR C COOLANT"], 0.2)
	assert.InDelta(t, want.RawLMin, told["II XDR R RAWFLOW"], 0.5)
	assert.InDelta(t, want.PressureKPa, told["II XDR P RAWPRESS"], 0.5)
	for channel := range simulator.Places {
		assert.Contains(t, told, channel)
	}
}

func TestHeldUntilGoThenByHand(t *testing.T) {
	r := aRig(t, func(s *simulator.Script) {
		s.Hold, s.Phases = true, []simulator.Phase{{Seconds: 60, RPM: 1000}, {RPM: 2000}}
	})
	require.NoError(t, r.Advance(100))
	assert.Zero(t, r.Now().RPM)
	r.Go()
	require.NoError(t, r.Advance(30))
	assert.InDelta(t, 1000, r.Now().RPM, 1)
	require.NoError(t, r.Advance(3600))
	assert.InDelta(t, 2000, r.Now().RPM, 1)
	require.NoError(t, r.Throttle(0, false))
	was := r.Now().State.BlockC
	require.NoError(t, r.Advance(600))
	assert.Less(t, r.Now().State.BlockC, was, "it cools down")
	assert.Greater(t, r.Now().State.BlockC, 30.0)
	require.Error(t, r.Throttle(9000, false))
}

func TestFaultsShow(t *testing.T) {
	warm := func(faults map[string]float64) plant.State {
		r := aRig(t, func(s *simulator.Script) { s.Phases, s.Faults = []simulator.Phase{{RPM: 3000}}, faults })
		require.NoError(t, r.Advance(3600))
		return r.Now().State
	}
	assert.Less(t, warm(map[string]float64{"impeller-vanes-missing": 0.7}).RawLMin, 0.7*warm(nil).RawLMin)
	_, err := simulator.New(simulator.Script{Engine: mustType(t), Faults: map[string]float64{"block-silted": 1}})
	require.Error(t, err, "only a raw-cooled engine can have it")
	_, err = simulator.New(simulator.Script{Engine: mustType(t), Phases: []simulator.Phase{{RPM: 99999}}})
	require.Error(t, err)
}

func mustType(t *testing.T) plant.EngineFacts {
	t.Helper()
	k, err := simulator.Type("diesel")
	require.NoError(t, err)
	return k
}

// What the simulated instruments show can be computed back to the model: bright metal reads low.
func TestInstruments(t *testing.T) {
	r := aRig(t, func(s *simulator.Script) { s.Phases = []simulator.Phase{{RPM: 2400}} })
	_, ok := r.Bucket(10)
	assert.False(t, ok, "no water while it stands")
	require.NoError(t, r.Advance(3600))
	n := r.Now()
	assert.InDelta(t, n.State.BlockC, r.Surface("thermostat", "coolant", 0.95), 2)
	assert.Less(t, r.Surface("thermostat", "coolant", 0.1), n.State.BlockC-30)
	s, ok := r.Bucket(10)
	assert.True(t, ok)
	assert.InDelta(t, 600/n.State.RawLMin, s, 2)
}

func TestConsole(t *testing.T) {
	r := aRig(t, nil)
	var out strings.Builder
	r.Console(strings.NewReader("rpm 1200\nrpm x\nrpm\nfault strainer-clogged=0.5\nfault nothing-known\nnow\nbucket "+
		"5\ngo\nwhat\n\n"), &out)
	for _, say := range []string{"running", `"x" is no speed`, "say the speed", "so be it", "nothing-known", "no water",
		"going", "fault tubes-scaled"} {
		assert.Contains(t, out.String(), say)
	}
	_, err := simulator.Faults("0.5")
	require.Error(t, err)
	_, err = simulator.Faults("tubes-scaled=7")
	require.Error(t, err)
	list, err := simulator.Faults("tubes-scaled=0.6, strainer-clogged")
	require.NoError(t, err)
	assert.Equal(t, map[string]float64{"tubes-scaled": 0.6, "strainer-clogged": 1}, list)
}
