package proving_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
	"hevrin/core/units"
)

// criterion is one criterion of a stage; it has to be there.
func criterion(t *testing.T, stages []proving.Stage, stage, id string) proving.Criterion {
	t.Helper()
	for _, s := range stages {
		if s.ID != stage {
			continue
		}
		for _, c := range s.Criteria {
			if c.ID == id {
				return c
			}
		}
	}
	require.Fail(t, "no criterion", "%s %s", stage, id)
	return proving.Criterion{}
}

func is(passed bool) proving.Standing {
	return map[bool]proving.Standing{true: proving.Passed, false: proving.Failed}[passed]
}

// Water in 30 s, ten minutes at cruising speed, 97 % of the rated speed, a gauge within 4 K, a knee within 8 K: each
// passes at its limit and fails just beyond.
func TestStagesAtTheirLimits(t *testing.T) {
	at := func(stage, id string, act proving.Act) proving.Criterion {
		return criterion(t, runOf(t, append(whole(), act)...).Stages(facts), stage, id)
	}
	for seconds, ok := range map[float64]bool{proving.PrimeWithinS: true, proving.PrimeWithinS + 0.1: false} {
		c := at(proving.PrimeStage, "water", proving.Act{Do: proving.Prime, Water: true, Seconds: seconds})
		assert.Equal(t, is(ok), c.Standing, "%g s", seconds)
	}
	for minutes, ok := range map[float64]bool{proving.CruiseMinutes: true, proving.CruiseMinutes - 0.1: false} {
		c := at(proving.LoadStage, "cruise", proving.Act{Do: proving.Loaded, Minutes: minutes, TopRPM: 2980})
		assert.Equal(t, is(ok), c.Standing, "%g min", minutes)
	}
	for rpm, standing := range map[float64]proving.Standing{2910: proving.Passed, 2909: proving.Failed, 1: proving.Failed,
		0: proving.Waiting} {
		c := at(proving.LoadStage, "top", proving.Act{Do: proving.Loaded, Minutes: 15, TopRPM: rpm})
		assert.Equal(t, standing, c.Standing, "%g rev/min", rpm)
	}
	for off, ok := range map[float64]bool{4: true, -4: true, 4.1: false, -4.1: false} {
		c := at(proving.WarmUpStage, "gauge", proving.Act{Do: proving.Gauge, GaugeC: of(83 + off), ProbeC: of(83)})
		assert.InDelta(t, 4, proving.GaugeOffC, 0)
		assert.Equal(t, is(ok), c.Standing, "%g K", off)
	}
	for off, ok := range map[float64]bool{8: true, -8: true, 8.1: false, -8.1: false} {
		act := warmed(proving.Steady)
		act.Warmed.OpenedC = of(82 + off)
		assert.Equal(t, is(ok), at(proving.WarmUpStage, "opened", act).Standing, "%g K", off)
	}
	unknown := warmed(proving.Steady)
	unknown.Warmed.OpenedC = nil
	for _, s := range runOf(t, append(whole(), unknown)...).Stages(facts) {
		for _, c := range s.Criteria {
			assert.NotEqual(t, "opened", c.ID, "what was not seen is not judged")
		}
	}
	// the probe of a recording stands in for a thermometer
	for off, ok := range map[float64]bool{4: true, -4: true, 4.1: false, -4.1: false} {
		act := warmed(proving.Steady)
		act.Warmed.GaugeOffC = &off
		run := runOf(t, begin(), act)
		c := criterion(t, run.Stages(facts), proving.WarmUpStage, "gauge")
		assert.Equal(t, is(ok), c.Standing, "%g K", off)
	}
}

// A round counts at idle up to its share of the rated speed, under load from its own, with three temperatures.
func TestRoundsOfARunAtTheirLimits(t *testing.T) {
	at := func(stage, id string, round proving.RoundRead) proving.Standing {
		f := facts
		f.Rounds = []proving.RoundRead{round}
		return criterion(t, runOf(t, whole()...).Stages(f), stage, id).Standing
	}
	idle, cruise := proving.IdleOfRated*facts.RatedRPM, proving.CruiseOfRated*facts.RatedRPM
	for _, c := range []struct {
		stage, id string
		round     proving.RoundRead
		want      proving.Standing
	}{
		{proving.IdleStage, "idle", proving.RoundRead{RPM: idle, Stations: 3}, proving.Passed},
		{proving.IdleStage, "idle", proving.RoundRead{RPM: idle, Stations: 2}, proving.Failed},
		{proving.IdleStage, "idle", proving.RoundRead{RPM: idle + 1, Stations: 3}, proving.Waiting},
		{proving.LoadStage, "load-round", proving.RoundRead{RPM: cruise, Stations: 3}, proving.Passed},
		{proving.LoadStage, "load-round", proving.RoundRead{RPM: cruise, Stations: 2}, proving.Failed},
		{proving.LoadStage, "load-round", proving.RoundRead{RPM: cruise - 1, Stations: 3}, proving.Waiting},
		{proving.LoadStage, "load-round", proving.RoundRead{RPM: cruise, Stations: 3, OutOfGear: true}, proving.Waiting},
	} {
		assert.Equal(t, c.want, at(c.stage, c.id, c.round), "%+v", c.round)
	}
}

// What the warm-up's recording showed is said of its figures; without figures, as it was recorded.
func TestWhatAWarmUpShowedIsSaidOfItsFigures(t *testing.T) {
	for _, c := range []struct {
		is   proving.Warmed
		want string
	}{
		{proving.Warmed{Verdict: proving.Steady, PlateauC: of(84)}, "it stood at 183.2 °F"},
		{proving.Warmed{Verdict: proving.AboveRating, PlateauC: of(92)},
			"it stands at 197.6 °F, 18.0 °F over the thermostat's 180 °F"},
		{proving.Warmed{Verdict: proving.BelowRating, PlateauC: of(72)},
			"it stands at 161.6 °F, 18.0 °F under the thermostat's 180 °F"},
		{proving.Warmed{Verdict: proving.StillRising, Slope: of(0.5)}, "the coolant still rises by 0.90 °F/min"},
		{proving.Warmed{Verdict: proving.Unsteady, Slope: of(-0.5)},
			"the coolant moves by -0.90 °F/min and scatters: no plateau"},
		{proving.Warmed{Verdict: proving.TooShort, Reasons: []units.Sentence{"one", "the run is short"}}, "the run is short"},
		{proving.Warmed{Verdict: proving.Steady, Reasons: []units.Sentence{"it stood"}}, "it stood"},
		{proving.Warmed{Verdict: proving.AboveRating}, "not told"},
	} {
		c.is.Recording, c.is.Load = "x", proving.Cruise
		run := runOf(t, begin(), proving.Act{Do: proving.WarmUp, Warmed: &c.is})
		assert.Equal(t, c.want, criterion(t, run.Stages(facts), proving.WarmUpStage, "steady").Say.In(units.US))
	}
}

func TestWordsOfStages(t *testing.T) {
	wet := proving.Act{Do: proving.Look, Stage: proving.ColdLeaks, Joint: "hose-a", State: proving.Damp,
		Words: "at the top"}
	c := criterion(t, runOf(t, begin(), wet).Stages(facts), proving.ColdLeaks, "joint:hose-a")
	assert.Equal(t, "Hose A", c.Label)
	assert.Equal(t, "damp: look again, at the top", c.Say.String())
	wet.Words = ""
	c = criterion(t, runOf(t, begin(), wet).Stages(facts), proving.ColdLeaks, "joint:hose-a")
	assert.Equal(t, "damp: look again", c.Say.String())
	gauge := func(off float64) string {
		act := proving.Act{Do: proving.Gauge, GaugeC: of(83 + off), ProbeC: of(83)}
		return criterion(t, runOf(t, begin(), act).Stages(facts), proving.WarmUpStage, "gauge").Say.String()
	}
	assert.Equal(t, "+0 °C against the thermometer", gauge(-0.4))
	assert.Equal(t, "-2 °C against the thermometer", gauge(-1.6))
	code := func(words string) string {
		run := runOf(t, append(whole(), proving.Act{Do: proving.Codes, Words: words})...)
		return criterion(t, run.Stages(facts), proving.VerdictStage, "codes").Say.String()
	}
	assert.Equal(t, "none", code(""))
	assert.Equal(t, "alarm 12", code("alarm 12"))
	leaning := facts
	readings := func() string {
		return criterion(t, runOf(t, whole()...).Stages(leaning), proving.VerdictStage, "readings").Say.String()
	}
	assert.Equal(t, "nothing, against its own healthy rounds", readings())
	leaning.Leaning = []string{"scale", "a worn pump", "a slow thermostat"}
	assert.Equal(t, "nothing found against its own healthy rounds; leaning to: scale, a worn pump and a slow thermostat",
		readings())
	all := func(f proving.Facts, acts ...proving.Act) string {
		return criterion(t, runOf(t, acts...).Stages(f), proving.VerdictStage, "stages").Say.String()
	}
	assert.Equal(t, "all of them", all(facts, whole()...))
	noRound := facts
	noRound.Rounds = facts.Rounds[1:]
	acts := append(whole(), proving.Act{Do: proving.Excuse, Stage: proving.IdleStage, Words: "no berth for it"})
	assert.Equal(t, "all but Idle round, with a reason", all(noRound, acts...))
	for _, s := range runOf(t, whole()...).Stages(facts) { // a diesel
		assert.NotContains(t, s.Cautions, "petrol-vapour")
		if s.ID == proving.ReadyStage {
			assert.Contains(t, s.Cautions, "turning-parts")
		}
	}
	petrol := facts
	petrol.Petrol = true
	assert.Contains(t, runOf(t, whole()...).Stages(petrol)[0].Cautions, "petrol-vapour")
	again := runOf(t, append(whole(), proving.Act{Do: proving.Prime, Seconds: 30})...).Stages(facts)
	assert.Contains(t, again[1].Do[0], "Engine off", "what failed says what is next")
	passed := runOf(t, whole()...).Stages(facts)
	assert.Contains(t, passed[1].Do[0], "1000 rev/min")
}

// Windows, gaps and levels of a track at their edges.
func TestTracksAtTheirEdges(t *testing.T) {
	track := sampledTrack(6, 10, func(s float64) float64 { return s })
	assert.Equal(t, []float64{10, 20, 30}, track.Window(10, 30).Seconds)
	assert.Equal(t, []float64{10, 20}, track.Window(5, 29).Seconds)
	assert.Empty(t, track.Window(31, 39).Seconds)
	assert.Empty(t, track.Window(30, 10).Seconds)
	assert.InDelta(t, 10, track.Usual(), 0)
	assert.Zero(t, proving.Track{}.Usual())
	assert.InDelta(t, 5, sampledTrack(2, 5, func(s float64) float64 { return s }).Usual(), 0)
	assert.Zero(t, sampledTrack(1, 5, func(s float64) float64 { return s }).Usual())
	track.Seconds = []float64{0, 10, 20, 60, 101, 111} // four times ten is no gap, more is
	assert.Equal(t, []float64{60}, track.Breaks())
	assert.Equal(t, "thermostat/coolant", track.String())
	assert.Equal(t, "sea", proving.Place{Station: "sea"}.String())
	// a level of three points, up to a gap after the last
	three := sampledTrack(3, 10, func(s float64) float64 { return 80 + s/10 })
	l, ok := three.LevelOver(60, 60)
	require.True(t, ok, "a gap of forty seconds is none")
	assert.InDelta(t, 81, l.Mean, 1e-9)
	assert.InDelta(t, 6, l.Slope, 1e-9)
	assert.InDelta(t, 20, l.Seconds, 0)
	_, ok = three.LevelOver(60.5, 61)
	assert.False(t, ok)
	_, ok = three.LevelOver(100, 100)
	require.False(t, ok, "eighty seconds are over half of what is asked")
	_, ok = three.LevelOver(100, 170)
	assert.True(t, ok)
	_, ok = sampledTrack(2, 10, func(s float64) float64 { return s }).LevelOver(10, 60)
	assert.False(t, ok, "two points are no level")
}

// What is thinned keeps of every stretch its lowest and its highest.
func TestThinKeepsTheLowestAndTheHighest(t *testing.T) {
	track := sampledTrack(40, 1, func(s float64) float64 { return float64(int(s*7) % 11) })
	thin := track.Thin(10) // four stretches of ten
	for s := range 4 {
		stretch, left := track.Window(float64(10*s), float64(10*s+9)), thin.Window(float64(10*s), float64(10*s+9))
		low, high := stretch.Values[0], stretch.Values[0]
		for _, v := range stretch.Values {
			low, high = min(low, v), max(high, v)
		}
		assert.Contains(t, left.Values, low, "stretch %d", s)
		assert.Contains(t, left.Values, high, "stretch %d", s)
		assert.LessOrEqual(t, left.Len(), 4)
	}
	assert.Equal(t, track, track.Thin(40), "as many as there may be")
	assert.Less(t, track.Thin(39).Len(), 40)
	assert.Equal(t, track, track.Thin(3), "too few to draw")
	assert.Less(t, track.Thin(4).Len(), 6)
}
