package proving_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
)

// stood is a run read every so many seconds, from its time and its temperatures.
func stood(at, every float64, temperatures ...float64) (list []proving.Sample) {
	for i, c := range temperatures {
		list = append(list, proving.Sample{Seconds: at + every*float64(i), CoolantC: c})
	}
	return list
}

// flat is n times the same.
func flat(n int, c float64) (list []float64) {
	for range n {
		list = append(list, c)
	}
	return list
}

func judged(list []proving.Sample, change func(*proving.Run)) proving.Result {
	r := proving.Run{RatingC: 82, Samples: list, Load: proving.Cruise, PlateauMinutes: 8, SlopeCMin: 0.25, BelowC: 4,
		AboveC: 8}
	if change != nil {
		change(&r)
	}
	return r.Judge()
}

// A plateau exactly at its limits is within them; the least beyond is not.
func TestAPlateauExactlyAtItsLimits(t *testing.T) {
	idle := func(r *proving.Run) { r.Load = proving.Idle }
	for _, c := range []struct {
		c       float64
		change  func(*proving.Run)
		verdict proving.Verdict
		says    int
	}{
		{90, nil, proving.Steady, 1}, {90.01, nil, proving.AboveRating, 1},
		{78, nil, proving.Steady, 1}, {77.99, nil, proving.BelowRating, 1},
		// at idle an engine may stand under its thermostat: said, where it is under by more
		{78, idle, proving.Steady, 1}, {77.99, idle, proving.Steady, 2}, {90.01, idle, proving.AboveRating, 1},
	} {
		r := judged(stood(0, 30, flat(31, c.c)...), c.change)
		assert.Equal(t, c.verdict, r.Verdict, "%v", c.c)
		require.Len(t, r.Reasons, c.says, "%v: %v", c.c, r.Reasons)
		if c.says == 2 {
			assert.Contains(t, r.Reasons[1], "prove it under load")
		}
	}
	assert.Contains(t, judged(stood(700, 30, flat(31, 82)...), nil).Reasons[0], "for 15.0 minutes")
}

// Five samples, none more than two minutes after the one before, are a plateau of eight minutes; ten are a run.
func TestTheFewestSamplesOfAPlateau(t *testing.T) {
	r := judged(stood(0, 120, flat(10, 82)...), nil)
	assert.Equal(t, proving.Steady, r.Verdict, "%v", r.Reasons)
	assert.Equal(t, []float64{0, 1080}, []float64{*r.PlateauFromS, *r.PlateauToS})
	r = judged(stood(0, 120, flat(9, 82)...), nil)
	assert.Equal(t, proving.TooShort, r.Verdict)
	assert.Contains(t, fmt.Sprint(r.Reasons), "9 samples")
	r = judged(stood(0, 121, flat(10, 82)...), func(r *proving.Run) { r.PlateauMinutes = 9 })
	assert.Equal(t, proving.TooShort, r.Verdict, "a gap of 121 s")
	r = judged(stood(0, 120, flat(10, 82)...), func(r *proving.Run) { r.PlateauMinutes = 7 })
	assert.Equal(t, proving.TooShort, r.Verdict, "four samples")
	// an engine that never ran
	stopped := stood(0, 30, flat(31, 82)...)
	for i := range stopped {
		stopped[i].RPM = new(0.0)
	}
	assert.Contains(t, fmt.Sprint(judged(stopped, nil).Reasons), "0 samples of the running engine")
}

// The plateau goes back over what stood within one degree of it, and no further.
func TestHowFarBackAPlateauGoes(t *testing.T) {
	from := func(before float64) float64 {
		r := judged(stood(0, 60, append(flat(10, before), flat(31, 82)...)...), nil)
		require.Equal(t, proving.Steady, r.Verdict, "%v", r.Reasons)
		return *r.PlateauFromS
	}
	assert.Equal(t, 0.0, from(81))
	assert.Equal(t, 540.0, from(80.99), "where the line through three samples comes within one degree")
	assert.Equal(t, 0.0, from(83))
	assert.Equal(t, 540.0, from(83.01))
}

// What does not move at all does not rise: where no slope is allowed there is no plateau, and no rise.
func TestNoSlopeIsNoRise(t *testing.T) {
	r := judged(stood(0, 30, flat(31, 82)...), func(r *proving.Run) { r.SlopeCMin = 0 })
	assert.Equal(t, proving.Unsteady, r.Verdict)
}

// An engine that was slowed is judged by the plateau before, if that was long enough, by whatever clock.
func TestThePlateauBeforeAnEngineWasSlowed(t *testing.T) {
	var falls []float64
	for i := range 8 {
		falls = append(falls, 79-3*float64(i))
	}
	for _, at := range []float64{0, 5000} {
		r := judged(stood(at, 60, append(flat(9, 82), falls...)...), nil)
		assert.Equal(t, proving.Steady, r.Verdict, "%v", r.Reasons)
		assert.Equal(t, []float64{at, at + 480}, []float64{*r.PlateauFromS, *r.PlateauToS})
		r = judged(stood(at, 60, append(flat(8, 82), falls...)...), nil)
		assert.Equal(t, proving.Unsteady, r.Verdict, "it stood for seven minutes alone: %v", r.Reasons)
	}
}

// A sample three degrees off the rest, exactly, is not odd; one a little further is.
func TestExactlyThreeDegreesOff(t *testing.T) {
	for c, odd := range map[float64][]int{85: nil, 79: nil, 85.01: {12}, 78.99: {12}} {
		list := flat(31, 82)
		list[12] = c
		assert.Equal(t, odd, judged(stood(0, 10, list...), nil).Odd, "%v", c)
	}
}

// A warm-up shows its rate from a rise of ten degrees on, and its knee where it is sharp: from two thirds to one third of
// the rate within six degrees. The slope falls evenly from 6 K/min to none: over so many minutes that is three quarters
// of a degree a minute for each.
func TestHowSharpAKneeMustBe(t *testing.T) {
	rise := func(to float64) proving.Result {
		list := append(append(flat(3, 70), 70+(to-70)/4, 70+(to-70)/2, 70+3*(to-70)/4), flat(20, to)...)
		return judged(stood(0, 60, list...), nil)
	}
	assert.NotNil(t, rise(80).WarmUpCMin)
	assert.Nil(t, rise(79.99).WarmUpCMin)

	knee := func(minutes, rating float64) proving.Result {
		var list []float64
		for s := 0.0; s < 3600; s += 10 {
			m, c := s/60, 0.0
			switch {
			case m < 8:
				c = 20 + 6*m
			case m < 8+minutes:
				c = 68 + 6*(m-8) - 3*(m-8)*(m-8)/minutes
			default:
				c = 68 + 3*minutes
			}
			list = append(list, c)
		}
		return judged(stood(0, 10, list...), func(r *proving.Run) { r.RatingC = rating })
	}
	// from 4 to 2 K/min: a third of the minutes at 3 K/min
	require.NotNil(t, knee(5.8, 82).OpenedC, "5.8 K")
	assert.Nil(t, knee(6.2, 82).OpenedC, "6.2 K")
	r := knee(4, 82)
	require.NotNil(t, r.OpenedC)
	assert.InDelta(t, 6, *r.WarmUpCMin, 1e-6)
	assert.InDelta(t, 480+4*60*2./3, *r.OpenedAtS, 1, "where a third of the rate is left")
	assert.InDelta(t, 68+6*8./3-3*64./36, *r.OpenedC, 0.2)
	// not more than fifteen degrees below the rating
	assert.NotNil(t, knee(4, *r.OpenedC+14.9).OpenedC)
	assert.Nil(t, knee(4, *r.OpenedC+15.1).OpenedC)
}
