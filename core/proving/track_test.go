package proving_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"
	"pgregory.net/rapid"

	"hevrin/core/proving"
)

// sampled is a track of a function, every so many seconds.
func sampledTrack(n int, every float64, f func(s float64) float64) proving.Track {
	t := proving.Track{Place: proving.Place{Station: "thermostat", Side: "coolant"}}
	for i := range n {
		s := float64(i) * every
		t.Seconds, t.Values = append(t.Seconds, s), append(t.Values, f(s))
	}
	return t
}

func TestThinKeepsEverySpikeAndEveryGap(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 3000).Draw(t, "points")
		track := sampledTrack(n, 0.2, func(float64) float64 { return 80 })
		spike := 0
		if n > 0 {
			spike = rapid.IntRange(0, n-1).Draw(t, "spike")
			track.Values[spike] = 120
		}
		thin := track.Thin(400)
		if thin.Len() > 400 {
			t.Fatalf("%d points are left", thin.Len())
		}
		if n > 0 {
			if most, _ := thin.Most(); most != 120 {
				t.Fatal("the spike is gone")
			}
			if thin.Seconds[0] != track.Seconds[0] || thin.Seconds[thin.Len()-1] != track.Seconds[n-1] {
				t.Fatal("an end is gone")
			}
		}
		for i := 1; i < thin.Len(); i++ {
			if thin.Seconds[i] <= thin.Seconds[i-1] {
				t.Fatal("out of order")
			}
		}
	})
}

// Against the least squares of an outside library.
func TestLevelAgainstGonum(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	track := sampledTrack(300, 1, func(s float64) float64 { return 82 + s/600 + 0.3*r.NormFloat64() })
	l, ok := track.LevelOver(299, 60)
	require.True(t, ok)
	w := track.Window(239, 299)
	a, b := stat.LinearRegression(w.Seconds, w.Values, nil, false)
	assert.InDelta(t, stat.Mean(w.Values, nil), l.Mean, 1e-9)
	assert.InDelta(t, 60*b, l.Slope, 1e-9)
	rest := make([]float64, w.Len())
	for i, s := range w.Seconds {
		rest[i] = w.Values[i] - a - b*s
	}
	sum := 0.0
	for _, x := range rest {
		sum += x * x
	}
	assert.InDelta(t, math.Sqrt(sum/float64(w.Len()-2)/float64(w.Len())), l.Error, 1e-9)
	_, ok = track.LevelOver(900, 60)
	assert.False(t, ok, "an old level is none")
	_, ok = track.Window(0, 1).LevelOver(1, 60)
	assert.False(t, ok, "two points are none")
}

func TestGapsAndMinutes(t *testing.T) {
	rpm := sampledTrack(600, 1, func(s float64) float64 {
		if s < 300 {
			return 1000
		}
		return 2400
	})
	assert.InDelta(t, 299.0/60, rpm.Minutes(2000), 1e-9)
	assert.Empty(t, rpm.Breaks())
	for i := 400; i < 600; i++ {
		rpm.Seconds[i] += 100
	}
	assert.Len(t, rpm.Breaks(), 1)
	assert.InDelta(t, 298.0/60, rpm.Minutes(2000), 1e-9, "silences do not count")
}

func TestCoolantRunTakesTheSpeedReadLast(t *testing.T) {
	coolant := sampledTrack(5, 10, func(s float64) float64 { return 20 + s })
	rpm := proving.Track{Place: proving.Place{Station: "rpm"}, Seconds: []float64{5, 10, 15, 20}, Values: []float64{1, 2,
		3, 4}}
	run := proving.CoolantRun(coolant, rpm)
	require.Len(t, run, 5)
	assert.Nil(t, run[0].RPM, "none was read yet")
	assert.InDelta(t, 2, *run[1].RPM, 0)
	assert.InDelta(t, 4, *run[2].RPM, 0)
	assert.InDelta(t, 4, *run[3].RPM, 0)
	assert.InDelta(t, 4, *run[4].RPM, 0, "within four usual times")
}
