package practice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/practice"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

var hotSigns = []string{"hot-under-load", "hot-at-idle", "hot-everywhere", "plateau-above-rating"}

func hotIn(list []practice.Seen) bool {
	return slices.ContainsFunc(list, func(s practice.Seen) bool { return slices.Contains(hotSigns, s.Finding) })
}

// What is told, what the run shows and what the thermometers read are one engine: where heat is seen it is read, and
// where none is seen none is read. The needle of a gauge that lies is not asked.
func TestHeatIsOneTruth(t *testing.T) {
	c := load(t)
	hot, read := 0, 0
	for _, kind := range practice.Kinds {
		for seed := range uint32(60) {
			e, err := practice.Draw(c, practice.Case{Kind: kind.ID, Level: practice.TwoFaults, Seed: seed})
			require.NoError(t, err)
			w, r := practice.Enter(e), practice.Enter(e)
			run, err := w.Prove()
			require.NoError(t, err)
			if run.WaterAfterS == 0 || e.Has("gauge-wrong") {
				continue
			}
			rating := w.Facts().ThermostatC
			full := 0.0
			for i, s := range run.Tracks[2].Seconds {
				if s >= 15*60 && s <= 20*60 {
					full = max(full, run.Tracks[2].Values[i])
				}
			}
			idle := run.Tracks[2].Values[run.Tracks[2].Len()-1]
			shown := run.TakenBackS > 0 || run.ProbeC-rating > proving.UsualAbove[proving.Cruise] ||
				full-rating > proving.UsualAbove[proving.Full] || idle-rating > proving.UsualAbove[proving.Idle]
			assert.Equal(t, hotIn(run.Seen), shown, "%s: %v", e.Case.Code(), e.Hidden)
			if slices.ContainsFunc(run.Seen, func(s practice.Seen) bool { return s.Finding == "hot-everywhere" }) {
				assert.Greater(t, run.ProbeC-rating, proving.UsualAbove[proving.Cruise], e.Case.Code())
			}
			round, err := r.Read()
			require.NoError(t, err)
			if !shown {
				assert.False(t, round.OutOfGear, e.Case.Code())
				continue
			}
			hot++
			warmest := 0.0
			for _, x := range round.Readings {
				if x.Side == "coolant" || x.Station == "block" || x.Station == "thermostat" {
					warmest = max(warmest, x.Value)
				}
			}
			if round.OutOfGear || round.RPM < w.Facts().RatedRPM || warmest-rating > proving.UsualAbove[proving.Cruise] {
				read++
			}
		}
	}
	require.Greater(t, hot, 60)
	assert.GreaterOrEqual(t, float64(read), 0.97*float64(hot), "%d of %d", read, hot)
}

// A run from cold bends at the thermostat and settles near its rating; one too hot is taken back to idle and cools.
func TestRunIsFollowedAsAGatewayTellsIt(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 5})
	require.NoError(t, err)
	w := practice.Enter(e)
	f := w.Facts()
	_, err = w.Wait(24 * 60)
	require.NoError(t, err)
	sick, err := w.Prove()
	require.NoError(t, err)
	require.Len(t, sick.Tracks, 4)
	speed, needle, coolant, flow := sick.Tracks[0], sick.Tracks[1], sick.Tracks[2], sick.Tracks[3]
	assert.Equal(t, "rpm", speed.Station)
	assert.InDelta(t, e.Kind.SeaC+12, needle.Values[0], 8, "it stood a day")
	require.Positive(t, sick.TakenBackS)
	after := func(t proving.Track) []float64 { return t.Window(sick.TakenBackS+10, 25*60).Values }
	assert.InDelta(t, f.RatedRPM/3, slices.Max(after(speed)), 1)
	assert.Less(t, coolant.Values[coolant.Len()-1], slices.Max(coolant.Values)-10)
	assert.Less(t, sick.TopShare, 1.0)

	w.Note(act(teardown.Act{Do: teardown.PutRight, Item: e.Hidden[0].Fault}))
	hot, err := w.Prove()
	require.NoError(t, err)
	assert.Greater(t, hot.Tracks[1].Values[0], f.ThermostatC-5, "it ran a moment ago")
	assert.Greater(t, slices.Max(hot.Tracks[3].Values), slices.Max(flow.Values), "at full speed more is pumped")
	again, err := w.Prove()
	require.NoError(t, err)
	assert.NotEqual(t, hot.Tracks[1].Values, again.Tracks[1].Values, "noise is thrown afresh")
}

// No water within the limit: stopped at once, in little time, and nothing is read.
func TestRunWithoutWaterIsStopped(t *testing.T) {
	e, err := practice.Draw(load(t), practice.Case{Lesson: 6})
	require.NoError(t, err)
	w := practice.Enter(e)
	r, err := w.Prove()
	require.NoError(t, err)
	assert.Zero(t, r.WaterAfterS)
	assert.Empty(t, r.Tracks)
	assert.Less(t, w.Minutes, 5.0)
}

// A needle that lies shows its error in the run and in the round, and the same one.
func TestLyingGaugeLiesAlike(t *testing.T) {
	e, err := practice.Draw(load(t), practice.Case{Lesson: 4})
	require.NoError(t, err)
	w := practice.Enter(e)
	run, err := w.Prove()
	require.NoError(t, err)
	lie := run.GaugeC - run.ProbeC
	assert.Greater(t, lie, 5.0)
	assert.InDelta(t, w.Facts().ThermostatC+3, run.ProbeC, 2)
	sum := 0.0
	const rounds = 30
	for range rounds {
		round, err := w.Read()
		require.NoError(t, err)
		sum += at(round, "gauge", "coolant") - at(round, "thermostat", "coolant")
	}
	assert.InDelta(t, lie, sum/rounds, 2)
}
