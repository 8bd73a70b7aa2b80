package proving_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
)

// aProvingRun: stopped a minute, idling to 10 min, cruise to 40, full to 50, idle to 55; 82 °C thermostat. at gives
// the coolant.
func aProvingRun(at func(s float64) float64, gauge float64) []proving.Track {
	r := rand.New(rand.NewPCG(1, 2))
	coolant := sampledTrack(3300, 1, func(s float64) float64 { return at(s) + 0.3*r.NormFloat64() })
	dash := sampledTrack(3300, 1, func(s float64) float64 { return at(s) + gauge + 0.3*r.NormFloat64() })
	dash.Place = proving.Place{Station: "gauge"}
	rpm := sampledTrack(3300, 1, func(s float64) float64 {
		switch {
		case s < 60:
			return 0
		case s < 600 || s >= 3000:
			return 900
		case s < 2400:
			return 2400
		}
		return 3000
	})
	rpm.Place = proving.Place{Station: "rpm"}
	return []proving.Track{dash, rpm, coolant}
}

// warming rises by 4 K a minute from the start at 60 s, to what it stands at under each speed.
func warming(cruise, full, idle float64) func(float64) float64 {
	return func(s float64) float64 {
		c := min(20+max(0, s-60)/15, cruise)
		if s > 2460 {
			c = full
		}
		if s > 3030 {
			c = idle
		}
		return c
	}
}

var engine = proving.Engine{RatingC: 82, RatedRPM: 3000, AlarmC: 98}

func TestAHealthyRunIsJudgedByItsLoadNotByTheIdlingAfterwards(t *testing.T) {
	a := proving.Analyse(aProvingRun(warming(84, 88, 60), 2), engine)
	assert.Equal(t, proving.Steady, a.Verdict, "%v", a.Reasons)
	assert.Equal(t, proving.Full, a.Load)
	assert.InDelta(t, 88, *a.PlateauC, 0.3)
	assert.InDelta(t, 2, *a.GaugeOffC, 0.1)
	assert.InDelta(t, 40, *a.CruiseMinutes, 0.1)
	assert.InDelta(t, 3000, *a.TopRPM, 1e-9)
	assert.InDelta(t, 60, *a.NowC, 0.5)
	assert.False(t, a.OverAlarm)
	a = proving.Analyse(aProvingRun(warming(93, 99, 60), 0), engine)
	assert.Equal(t, proving.AboveRating, a.Verdict)
	w := a.Warmed("rec")
	assert.Equal(t, proving.AboveRating, w.Verdict)
	assert.InDelta(t, *a.PlateauC, *w.PlateauC, 0)
}

func TestWhatShowsWhileSheWarms(t *testing.T) {
	tracks := aProvingRun(warming(84, 88, 60), 0)
	for i := range tracks {
		tracks[i] = tracks[i].Window(0, 500)
	}
	a := proving.Analyse(tracks, engine)
	assert.InDelta(t, 4, *a.SlopeNow, 0.4, "three errors of a minute at 0.3 K noise")
	assert.InDelta(t, 20+440.0/15, *a.NowC, 0.6)
	assert.InDelta(t, (82-*a.NowC)/4, *a.ToRatingMin, 1)
	assert.Nil(t, a.SteadyAfterS)
	assert.Equal(t, proving.StillRising, a.Verdict)
	assert.Equal(t, proving.Idle, a.Load)
}

func TestTimeToSteadyCountsFromTheStart(t *testing.T) {
	tracks := aProvingRun(warming(84, 84, 84), 0)
	a := proving.Analyse(tracks, engine)
	require.NotNil(t, a.SteadyAfterS)
	assert.InDelta(t, 64*15, *a.SteadyAfterS, 45, "64 K at 4 K/min")
	assert.InDelta(t, 83, *a.OpenedC, 2)
}

func TestOverTheAlarm(t *testing.T) {
	tracks := aProvingRun(func(float64) float64 { return 101 }, 0)
	assert.True(t, proving.Analyse(tracks, engine).OverAlarm)
}

func TestWithoutCoolantOrSpeed(t *testing.T) {
	tracks := aProvingRun(warming(84, 84, 84), 0)
	a := proving.Analyse(tracks[1:2], engine)
	assert.Equal(t, proving.TooShort, a.Verdict)
	assert.NotNil(t, a.TopRPM)
	a = proving.Analyse(tracks[2:], engine)
	assert.Equal(t, proving.Cruise, a.Load)
	assert.Nil(t, a.TopRPM)
	a = proving.Analyse(tracks[:1], engine)
	assert.Equal(t, "gauge", a.Place.Station, "the gauge serves where nothing else tells")
	assert.Nil(t, a.GaugeOffC)
	assert.Equal(t, proving.TooShort, proving.Analyse(nil, engine).Verdict)
}

func BenchmarkAnalyseHour(b *testing.B) {
	tracks := aProvingRun(warming(84, 88, 60), 2)
	for b.Loop() {
		proving.Analyse(tracks, engine)
	}
}
