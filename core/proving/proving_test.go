package proving_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
)

// warmUp is a run as engines make it: a straight rise, the thermostat opening softly at a temperature, and a plateau
// above it; with noise, every so many seconds.
type warmUp struct {
	opens, plateau, rate float64 // °C, °C, K/min
	minutes, every       float64
	noise                float64
	drift                float64 // K/min after the knee
	seed                 uint64
}

func (w warmUp) samples() []proving.Sample {
	r := rand.New(rand.NewPCG(w.seed, 1))
	var list []proving.Sample
	knee := (w.opens - 20) / w.rate * 60
	for s := 0.0; s <= w.minutes*60; s += w.every {
		c := 20 + w.rate*s/60
		if s > knee {
			settle := (w.plateau - w.opens) / w.rate * 60
			c = w.plateau - (w.plateau-w.opens)*math.Exp(-(s-knee)/settle) + w.drift*(s-knee)/60
		}
		list = append(list, proving.Sample{Seconds: s, CoolantC: c + w.noise*r.NormFloat64()})
	}
	return list
}

func usual() warmUp {
	return warmUp{opens: 81, plateau: 84.5, rate: 7, minutes: 25, every: 2, noise: 0.5, seed: 1}
}

func judge(w warmUp, change func(*proving.Run)) proving.Result {
	r := proving.Run{RatingC: 82, Samples: w.samples(), Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3,
		BelowC: 4, AboveC: 8}
	if change != nil {
		change(&r)
	}
	return r.Judge()
}

func TestAHealthyRunIsSteadyWhateverTheNoise(t *testing.T) {
	for seed := range uint64(40) {
		for _, every := range []float64{1, 5, 15, 30} {
			w := usual()
			w.seed, w.every = seed, every
			r := judge(w, nil)
			require.Equal(t, proving.Steady, r.Verdict, "seed %d every %v s: %v", seed, every, r.Reasons)
			assert.InDelta(t, 84.5, *r.PlateauC, 0.5)
			if every <= 15 {
				require.NotNil(t, r.OpenedC, "seed %d every %v s", seed, every)
				assert.InDelta(t, 82.5, *r.OpenedC, 2.5, "seed %d every %v s", seed, every)
				assert.InDelta(t, 7, *r.WarmUpCMin, 0.5)
			}
		}
	}
}

// Typed with a watch and a thermometer, a line a minute: twelve lines with a knee are judged, however fast it warms up,
// and no line of the rise counts as odd; before the plateau has stood, it says how far it is.
func TestTypedLinesAreJudged(t *testing.T) {
	for seed := range uint64(20) {
		for _, c := range []struct {
			rate, minutes float64
			is            proving.Verdict
		}{{13, 11, proving.Steady}, {10, 14, proving.Steady}, {7, 17, proving.Steady}, {10, 11, proving.TooShort}} {
			w := usual()
			w.rate, w.minutes, w.every, w.noise, w.seed = c.rate, c.minutes, 60, 0.3, seed
			r := judge(w, nil)
			require.Equal(t, c.is, r.Verdict, "%v: %v", w, r.Reasons)
			require.NotNil(t, r.OpenedC, "%v", w)
			assert.InDelta(t, 82.5, *r.OpenedC, 2.5)
			assert.Empty(t, r.Odd, "%v", w)
		}
	}
	w := usual()
	w.rate, w.minutes, w.every, w.noise = 10, 14, 60, 0.3
	r := judge(w, func(r *proving.Run) { r.Samples[11].CoolantC = 48 })
	assert.Equal(t, []int{11}, r.Odd, "a slip of the pen is still seen")
}

func TestVerdicts(t *testing.T) {
	for name, c := range map[string]struct {
		is     proving.Verdict
		run    func(*warmUp)
		change func(*proving.Run)
	}{
		"too cold": {proving.BelowRating, func(w *warmUp) { w.opens, w.plateau = 65, 70 }, nil},
		"too cold, but idling": {proving.Steady, func(w *warmUp) { w.opens, w.plateau = 65, 70 },
			func(r *proving.Run) { r.Load = proving.Idle }},
		"too hot": {proving.AboveRating, func(w *warmUp) { w.plateau = 93 }, nil},
		"hot at full power": {proving.Steady, func(w *warmUp) { w.plateau = 93 }, func(r *proving.Run) {
			r.Load,
				r.AboveC = proving.Full, 13
		}},
		"creeping up":             {proving.StillRising, func(w *warmUp) { w.drift = 0.7 }, nil},
		"a few minutes only":      {proving.TooShort, func(w *warmUp) { w.minutes = 4 }, nil},
		"just opened":             {proving.TooShort, func(w *warmUp) { w.minutes = 11 }, nil},
		"never got there":         {proving.StillRising, func(w *warmUp) { w.minutes = 8 }, nil},
		"hunting":                 {proving.Unsteady, nil, func(r *proving.Run) { wave(r.Samples, 5, 90) }},
		"slowed at the end":       {proving.Steady, nil, func(r *proving.Run) { fall(r.Samples, 1200, 3) }},
		"the logger lost a spell": {proving.TooShort, nil, func(r *proving.Run) { r.Samples = cut(r.Samples, 1300, 1460) }},
		"a spell lost in warm-up": {proving.Steady, nil, func(r *proving.Run) { r.Samples = cut(r.Samples, 100, 200) }},
		"odd samples": {proving.Steady, nil, func(r *proving.Run) {
			r.Samples[100].CoolantC,
				r.Samples[600].CoolantC = 999, -40
		}},
		"stopped after the run": {proving.Steady, nil, func(r *proving.Run) { r.Samples = stopped(r.Samples) }},
	} {
		w := usual()
		if c.run != nil {
			c.run(&w)
		}
		r := judge(w, c.change)
		assert.Equal(t, c.is, r.Verdict, "%s: %v", name, r.Reasons)
		assert.NotEmpty(t, r.Reasons, name)
	}
}

func wave(list []proving.Sample, kelvin, seconds float64) {
	for i := range list {
		list[i].CoolantC += kelvin * math.Sin(2*math.Pi*list[i].Seconds/seconds)
	}
}

func fall(list []proving.Sample, from, rate float64) {
	for i := range list {
		list[i].CoolantC -= max(0, list[i].Seconds-from) / 60 * rate
	}
}

func cut(list []proving.Sample, from, to float64) (out []proving.Sample) {
	for _, s := range list {
		if s.Seconds < from || s.Seconds > to {
			out = append(out, s)
		}
	}
	return out
}

func stopped(list []proving.Sample) (out []proving.Sample) {
	on, off := 2400.0, 0.0
	for _, s := range list {
		s.RPM = &on
		out = append(out, s)
	}
	last := list[len(list)-1]
	for i := range 100 {
		out = append(out, proving.Sample{Seconds: last.Seconds + float64(2*i+2), CoolantC: last.CoolantC - float64(i)/5,
			RPM: &off})
	}
	return out
}

func TestOddSamplesAreTold(t *testing.T) {
	r := judge(usual(), func(r *proving.Run) { r.Samples[100].CoolantC, r.Samples[600].CoolantC = 999, -40 })
	assert.Equal(t, []int{100, 600}, r.Odd)
	assert.Contains(t, r.Reasons[0], "2 odd samples left out")
	assert.Empty(t, judge(usual(), nil).Odd, "noise is not odd")
}

func TestAnOvershootIsSeen(t *testing.T) {
	r := judge(usual(), func(r *proving.Run) {
		for i, s := range r.Samples {
			r.Samples[i].CoolantC += 6 * math.Exp(-math.Pow((s.Seconds-600)/60, 2))
		}
	})
	assert.Equal(t, proving.Steady, r.Verdict)
	assert.InDelta(t, 5, *r.OvershootC, 1.5)
}

// Worked by hand: at 2 K/min straight on, the slope is 2 and there is no knee.
func TestAStraightRiseHasNoKnee(t *testing.T) {
	var list []proving.Sample
	for s := 0.0; s <= 1200; s += 10 {
		list = append(list, proving.Sample{Seconds: s, CoolantC: 20 + s/30})
	}
	r := proving.Run{RatingC: 82, Samples: list, Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3, BelowC: 4,
		AboveC: 8}.Judge()
	assert.Nil(t, r.OpenedC)
	assert.Equal(t, proving.StillRising, r.Verdict)
	assert.InDelta(t, 2, *r.SlopeCMin, 1e-9)
	assert.InDelta(t, 2, *r.WarmUpCMin, 1e-9)
}

func BenchmarkJudge10000(b *testing.B) {
	w := usual()
	w.minutes, w.every = 10000.0/60, 1
	r := proving.Run{RatingC: 82, Samples: w.samples(), Load: proving.Cruise, PlateauMinutes: 5, SlopeCMin: 0.3,
		BelowC: 4, AboveC: 8}
	for b.Loop() {
		r.Judge()
	}
}
