package proving_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
)

// A gauge off by up to 4 K is not off, by more it is, whichever way; the top speed is short below 97 % of the rated.
func TestWhatAnActTellsAtItsLimits(t *testing.T) {
	const so, not = 0.95, 0.05
	told := func(a proving.Act, finding string) float64 {
		for _, f := range a.Findings(3000, 82) {
			if f.Finding == finding {
				return f.Q
			}
		}
		require.Fail(t, "not told", finding)
		return 0
	}
	for off, want := range map[float64]float64{0: not, 4: not, -4: not, 4.1: so, -4.1: so} {
		read := proving.Act{GaugeC: of(82 + off), ProbeC: of(82)}
		for _, do := range []string{proving.Gauge, proving.Needle} {
			read.Do = do
			assert.InDelta(t, want, told(read, "gauge-off"), 1e-12, "%s, off by %g K", do, off)
		}
	}
	for rpm, want := range map[float64]float64{2910: not, 2909: so, 1: so} {
		assert.InDelta(t, want, told(proving.Act{Do: proving.Loaded, TopRPM: rpm}, "top-speed-short"), 1e-12, "%g", rpm)
	}
	assert.Empty(t, proving.Act{Do: proving.Loaded}.Findings(3000, 82), "a speed that was not read tells nothing")
	for verdict, want := range map[proving.Verdict][2]float64{proving.Steady: {not, not}, proving.AboveRating: {so, not},
		proving.BelowRating: {not, so}} {
		a := proving.Act{Do: proving.WarmUp, Warmed: &proving.Warmed{Verdict: verdict}}
		assert.InDelta(t, want[0], told(a, "plateau-above-rating"), 1e-12, "%s", verdict)
		assert.InDelta(t, want[1], told(a, "plateau-below-rating"), 1e-12, "%s", verdict)
	}
}

// speeds is a recording, a point a second: the coolant stands at 84 °C, the speed is that of each second.
func speeds(n int, rpm func(s float64) float64) []proving.Track {
	speed := sampledTrack(n, 1, rpm)
	speed.Place = proving.Place{Station: "rpm"}
	return []proving.Track{speed, sampledTrack(n, 1, func(float64) float64 { return 84 })}
}

// A run is judged by its last stretch of 390 s and more in one band of speed, which a moment of less than 20 s in
// another does not cut.
func TestTheStretchByWhichARunIsJudged(t *testing.T) {
	load := func(cruise, moment float64) proving.Load {
		return proving.Analyse(speeds(int(60+cruise)+100, func(s float64) float64 {
			switch {
			case s < 60:
				return 900
			case s >= 260 && s < 260+moment:
				return 900
			case s <= 60+cruise:
				return 2400
			}
			return 3000
		}), engine).Load
	}
	for _, c := range []struct {
		cruise, moment float64
		want           proving.Load
	}{{390, 0, proving.Cruise}, {389, 0, proving.Full}, {390, 19, proving.Cruise}, {390, 20, proving.Full},
		{389, 19, proving.Full}, {640, 20, proving.Cruise}} {
		assert.Equal(t, c.want, load(c.cruise, c.moment), "cruising %g s, a moment of %g s", c.cruise, c.moment)
	}
	for rpm, want := range map[float64]proving.Load{1799: proving.Idle, 1800: proving.Cruise, 2849: proving.Cruise,
		2850: proving.Full} {
		a := proving.Analyse(speeds(900, func(float64) float64 { return rpm }), engine)
		assert.Equal(t, want, a.Load, "%g rev/min", rpm)
	}
}

// Now is the mean of the last ten seconds or four points, the slope now that of the last minute or six points.
func TestNowOfReadingsThatComeSeldom(t *testing.T) {
	for _, every := range []float64{1, 5, 30, 60} {
		coolant := sampledTrack(40, every, func(s float64) float64 { return 50 + s*s/(40*every*40*every)*30 })
		a := proving.Analyse([]proving.Track{coolant}, engine)
		last := coolant.Seconds[coolant.Len()-1]
		mean, ok := coolant.LevelOver(last, max(10, 4*every))
		require.True(t, ok)
		slope, ok := coolant.LevelOver(last, max(60, 6*every))
		require.True(t, ok)
		require.NotNil(t, a.NowC, "every %g s", every)
		assert.InDelta(t, mean.Mean, *a.NowC, 1e-12, "every %g s", every)
		assert.InDelta(t, slope.Slope, *a.SlopeNow, 1e-12, "every %g s", every)
		if slope.Slope > 0.3 {
			require.NotNil(t, a.ToRatingMin)
			assert.InDelta(t, (82-mean.Mean)/slope.Slope, *a.ToRatingMin, 1e-9)
		} else {
			assert.Nil(t, a.ToRatingMin)
		}
	}
	for c, over := range map[float64]bool{97.9: false, 98: true, 98.1: true} {
		a := proving.Analyse([]proving.Track{sampledTrack(40, 1, func(float64) float64 { return c })}, engine)
		assert.Equal(t, over, a.OverAlarm, "%g °C with an alarm at 98", c)
	}
	none := engine
	none.AlarmC = 0
	assert.False(t, proving.Analyse([]proving.Track{sampledTrack(40, 1, func(float64) float64 { return 120 })},
		none).OverAlarm, "no alarm is known")
}

// Ten samples are judged, nine are too few, whether they came so or were left of more.
func TestTheFewestSamples(t *testing.T) {
	for n, short := range map[int]bool{proving.LeastSamples - 1: true, proving.LeastSamples: false} {
		track := sampledTrack(n, 60, func(s float64) float64 { return 60 + s/60 })
		a := proving.Analyse([]proving.Track{track}, engine)
		assert.Equal(t, short, a.Verdict == proving.TooShort, "%d samples", n)
		var list []proving.Sample
		for i := range n {
			list = append(list, proving.Sample{Seconds: 60 * float64(i), CoolantC: 60 + float64(i)})
		}
		got := proving.Run{RatingC: 82, Samples: list, Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3,
			BelowC: proving.UsualBelow, AboveC: 8}.Judge()
		assert.Equal(t, short, got.Verdict == proving.TooShort, "%d samples", n)
		if short {
			assert.Contains(t, fmt.Sprint(got.Reasons), "9 samples of the running engine are left, and 10 are needed")
		}
	}
}

// A sample that lies more than 3 K off its neighbours is odd, the first and the last as well; read thirty seconds apart
// and more, one that lies between the one before and the one after is the rise itself.
func TestOddSamplesAtTheirLimits(t *testing.T) {
	odd := func(every float64, values ...float64) []int {
		var list []proving.Sample
		for i, c := range values {
			list = append(list, proving.Sample{Seconds: every * float64(i), CoolantC: c})
		}
		return proving.Run{RatingC: 82, Samples: list, Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3,
			BelowC: proving.UsualBelow, AboveC: 8}.Judge().Odd
	}
	flat := func(n int, end ...float64) []float64 {
		list := make([]float64, n, n+len(end))
		for i := range list {
			list[i] = 84
		}
		return append(list, end...)
	}
	for _, at := range []int{0, 1, 10, 19} {
		for off, is := range map[float64]bool{3: false, -3: false, 3.1: true, -3.1: true} {
			list := flat(20)
			list[at] += off
			for _, every := range []float64{1, 60} {
				want := []int(nil)
				if is {
					want = []int{at}
				}
				assert.Equal(t, want, odd(every, list...), "sample %d off by %g K, every %g s", at, off, every)
			}
		}
	}
	assert.Equal(t, []int{21}, odd(30, flat(20, 88, 92)...), "the rise itself, then a last one that nothing follows")
	assert.Equal(t, []int{20, 21}, odd(29.9, flat(20, 88, 92)...))
	assert.Equal(t, []int{21}, odd(30, flat(20, 92, 92)...), "as the one after")
	assert.Equal(t, []int{20, 21}, odd(30, flat(20, 96, 92)...), "above the one after")
}
