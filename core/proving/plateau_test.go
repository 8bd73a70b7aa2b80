package proving_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
)

// ran is a run read every so many seconds, from 100 s on, judged with an 82 °C thermostat at cruising speed.
func ran(lasts, every float64, at func(s float64) float64, change ...func(*proving.Sample)) proving.Result {
	var list []proving.Sample
	for s := 0.0; s <= lasts; s += every {
		x := proving.Sample{Seconds: 100 + s, CoolantC: at(s)}
		for _, c := range change {
			c(&x)
		}
		list = append(list, x)
	}
	return proving.Run{RatingC: 82, Samples: list, Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3,
		BelowC: proving.UsualBelow, AboveC: 8}.Judge()
}

func stands(float64) float64 { return 84 }

// Five minutes, five readings, no gap over two minutes, under 0.3 K/min, within 2 K of its line: what is just short of
// one of them is no plateau, and proves nothing.
func TestAPlateauAtItsLimits(t *testing.T) {
	assert.Equal(t, proving.Steady, ran(300, 10, stands).Verdict)
	r := ran(290, 10, stands)
	assert.Equal(t, proving.TooShort, r.Verdict)
	assert.Contains(t, fmt.Sprint(r.Reasons), "the run is 4.8 minutes long, and a plateau takes 5")

	for slope, want := range map[float64]proving.Verdict{0.29: proving.Steady, 0.31: proving.StillRising,
		-0.29: proving.Steady, -0.31: proving.Unsteady} {
		r := ran(900, 10, func(s float64) float64 { return 84 + slope*(s-450)/60 })
		assert.Equal(t, want, r.Verdict, "%g K/min", slope)
		assert.InDelta(t, slope, *r.SlopeCMin, 1e-6)
	}

	for every, want := range map[float64]proving.Verdict{75: proving.Steady, 76: proving.TooShort} {
		assert.Equal(t, want, ran(12*every, every, stands).Verdict, "five readings, or four, in five minutes")
	}
	for gap, want := range map[float64]proving.Verdict{120: proving.Steady, 121: proving.TooShort} {
		r := ran(600, 10, stands, func(x *proving.Sample) {
			if x.Seconds > 600 {
				x.Seconds += gap - 10
			}
		})
		assert.Equal(t, want, r.Verdict, "a gap of %g s", gap)
	}
	for swing, want := range map[float64]proving.Verdict{2.65: proving.Steady, 2.75: proving.Unsteady} {
		// read 31 times, a cosine of three periods scatters round its line by 0.742 of its swing
		r := ran(300, 10, func(s float64) float64 { return 84 + swing*math.Cos(2*math.Pi*s/100) })
		assert.Equal(t, want, r.Verdict, "a swing of %g K", swing)
		assert.Empty(t, r.Odd)
	}
}

// What rises by less than its own error is not said to rise, and is no plateau either.
func TestARiseWithinItsError(t *testing.T) {
	for slope, want := range map[float64]proving.Verdict{0.05: proving.Steady, 0.15: proving.Unsteady,
		0.27: proving.StillRising} {
		r := ran(300, 10, func(s float64) float64 { // scatters by 1.7 K, which is 0.2 K/min over five minutes
			return 84 + slope*s/60 + 2.3*math.Cos(2*math.Pi*s/100)
		})
		assert.Equal(t, want, r.Verdict, "%g K/min", slope)
		assert.InDelta(t, 0.205, *r.SlopeErrorC, 0.005)
	}
}

// The end of a run after which the engine stood still, below 200 rev/min, is left out; where no speed was read, nothing.
func TestWhatCameAfterTheEngineStopped(t *testing.T) {
	soaks := func(s float64) float64 {
		if s > 600 {
			return 84 + (s-600)/20
		}
		return 84
	}
	turning := func(rpm float64) func(*proving.Sample) {
		return func(x *proving.Sample) {
			speed := 2400.0
			if x.Seconds > 700 {
				speed = rpm
			}
			x.RPM = &speed
		}
	}
	r := ran(800, 10, soaks, turning(199))
	assert.Equal(t, proving.Steady, r.Verdict)
	assert.InDelta(t, 700, *r.PlateauToS, 1e-9)
	assert.NotEqual(t, proving.Steady, ran(800, 10, soaks, turning(200)).Verdict)
	assert.NotEqual(t, proving.Steady, ran(800, 10, soaks).Verdict)
}

// Opened only a moment ago it has not shown yet where it stands: in words, how long ago, and how long it takes.
func TestOpenedTooShortAgo(t *testing.T) {
	warms := func(s float64) float64 { return min(20+s/15, 82) } // 4 K/min, there after 930 s
	r := ran(930+200, 5, warms)
	require.NotNil(t, r.OpenedAtS)
	assert.InDelta(t, 100+930, *r.OpenedAtS, 15)
	assert.InDelta(t, 82, *r.OpenedC, 1)
	assert.InDelta(t, 4, *r.WarmUpCMin, 1e-6)
	assert.Equal(t, proving.TooShort, r.Verdict)
	assert.Contains(t, fmt.Sprint(r.Reasons), fmt.Sprintf("opened %.1f minutes before the end: run on until it has stood "+
		"5 minutes", (100+930+200-*r.OpenedAtS)/60))
	assert.Equal(t, proving.Steady, ran(930+330, 5, warms).Verdict)
	for rise, seen := range map[float64]bool{9.9: false, 10.2: true} { // a warm-up of ten kelvin shows a knee
		r := ran(900, 5, func(s float64) float64 { return min(82-rise+s/15, 82) })
		assert.Equal(t, seen, r.WarmUpCMin != nil, "%g K", rise)
	}
}
