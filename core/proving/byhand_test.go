package proving_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
	"hevrin/core/units"
)

// byHand is a run with a watch and a thermometer in which nothing is wrong.
func byHand(how string, needle proving.Act) []proving.Act {
	start := begin()
	start.How = how
	acts := []proving.Act{start, {Do: proving.Prime, Water: true, Seconds: 12}}
	for _, stage := range []string{proving.ColdLeaks, proving.HotLeaks} {
		for _, j := range facts.Joints {
			acts = append(acts, proving.Act{Do: proving.Look, Stage: stage, Joint: j.ID, Station: j.Station,
				State: proving.Dry})
		}
		acts = append(acts, proving.Act{Do: proving.Smell, Stage: stage, OK: true})
	}
	acts = append(acts, proving.Act{Do: proving.Bilge, OK: true},
		proving.Act{Do: proving.Loaded, Minutes: 12, TopRPM: 3000})
	if how == proving.LeakRun {
		return acts
	}
	return append(acts, needle, proving.Act{Do: proving.Codes})
}

func held(gauge float64, probe *float64) proving.Act {
	return proving.Act{Do: proving.Needle, Minutes: 14, GaugeC: &gauge, ProbeC: probe}
}

var noRounds = proving.Facts{RatedRPM: facts.RatedRPM, ThermostatC: 82, Joints: facts.Joints}

// A thermostat of 82 °C: the needle may stand from 78 to 90 at work, and the thermometer goes before the needle.
func TestARunByHandIsJudgedByTheThermometer(t *testing.T) {
	for name, c := range map[string]struct {
		needle proving.Act
		want   string
		fault  bool // of the gauge alone
	}{
		"as it should be":            {held(84, of(83)), proving.Cured, false},
		"at the upper edge":          {held(90, of(90)), proving.Cured, false},
		"over it":                    {held(91, of(90.5)), proving.NotCured, false},
		"at the lower edge":          {held(78, of(78)), proving.Cured, false},
		"under it":                   {held(78, of(77.5)), proving.NotCured, false},
		"the gauge reads high":       {held(98, of(84)), proving.NotCured, true},
		"the gauge hides it":         {held(84, of(98)), proving.NotCured, false},
		"the gauge is off by four":   {held(88, of(84)), proving.Cured, false},
		"nobody read a thermometer":  {held(84, nil), proving.Unfinished, false},
		"needle alone, and too high": {held(95, nil), proving.NotCured, false},
	} {
		t.Run(name, func(t *testing.T) {
			r := runOf(t, byHand(proving.ByHand, c.needle)...)
			stages := r.Stages(noRounds)
			assert.Equal(t, c.want, r.Outcome(stages))
			for _, s := range stages {
				if s.ID == proving.WarmUpStage && c.want == proving.NotCured {
					assert.Equal(t, c.fault, s.Do[0] == "The engine is not too hot: the gauge is wrong. Look at sender, earth and "+
						"wiring.", "%v", s.Do)
				}
			}
		})
	}
}

// What a gauge reads too much is taken off the needle, whenever the two were compared.
func TestAGaugeComparedLaterCorrectsTheNeedle(t *testing.T) {
	r := runOf(t, append(byHand(proving.ByHand, held(95, nil)),
		proving.Act{Do: proving.Gauge, GaugeC: of(92), ProbeC: of(80)})...)
	warm := r.Stages(noRounds)[3]
	require.Equal(t, proving.WarmUpStage, warm.ID)
	assert.Equal(t, proving.Passed, warm.Criteria[0].Standing)
	assert.Contains(t, warm.Criteria[0].Say.In(units.Metric), "83")
	assert.Equal(t, proving.Failed, warm.Criteria[1].Standing, "and the gauge is at fault")
}

func TestALeakRunIsTightAndNoMore(t *testing.T) {
	r := runOf(t, byHand(proving.LeakRun, proving.Act{})...)
	stages := r.Stages(noRounds)
	assert.Equal(t, proving.Tight, r.Outcome(stages))
	for minutes, want := range map[float64]string{9: proving.NotCured, 10: proving.Tight} {
		r := runOf(t, append(byHand(proving.LeakRun, proving.Act{}), proving.Act{Do: proving.Loaded, Minutes: minutes})...)
		assert.Equal(t, want, r.Outcome(r.Stages(noRounds)), "%g minutes", minutes)
	}
	wet := runOf(t, append(byHand(proving.LeakRun, proving.Act{}), proving.Act{Do: proving.Bilge})...)
	assert.Equal(t, proving.NotCured, wet.Outcome(wet.Stages(noRounds)))
}

func TestNeedlesThatDoNotFit(t *testing.T) {
	for name, a := range map[string]proving.Act{
		"no needle":  {Do: proving.Needle, Run: "r", Minutes: 10},
		"no minutes": {Do: proving.Needle, Run: "r", GaugeC: of(80)},
		"molten":     {Do: proving.Needle, Run: "r", Minutes: 10, GaugeC: of(800)},
		"a probe so": {Do: proving.Needle, Run: "r", Minutes: 10, GaugeC: of(80), ProbeC: of(-3)},
		"by magic":   {Do: proving.Begin, Run: "r", Where: proving.Afloat, How: "magic"},
	} {
		assert.Error(t, a.Check(), name)
	}
	assert.NoError(t, proving.Act{Do: proving.Needle, Run: "r", Minutes: 1, GaugeC: of(80)}.Check())
}

func TestWhatANeedleTellsTheDiagnosis(t *testing.T) {
	told := func(gauge float64, probe *float64) map[string]float64 {
		out := map[string]float64{}
		for _, f := range held(gauge, probe).Findings(3000, 82) {
			out[f.Finding] = f.Q
		}
		return out
	}
	assert.Equal(t, map[string]float64{"plateau-above-rating": 0.95, "plateau-below-rating": 1 - 0.95}, told(95, nil))
	assert.InDeltaMapValues(t, map[string]float64{"plateau-above-rating": 0.05, "plateau-below-rating": 0.05,
		"gauge-off": 0.95}, told(95, of(83)), 1e-12, "the gauge's fault, and not too hot")
	assert.InDelta(t, 0.95, told(70, nil)["plateau-below-rating"], 1e-12)
}

// A drip on the day after takes the cure back: nobody is told that it is cured while it leaks.
func TestADripOnTheDayAfterIsNoCure(t *testing.T) {
	for ok, want := range map[bool]string{true: proving.Cured, false: proving.NotCured} {
		a := acted(t, byHand(proving.ByHand, held(84, of(83)))...)
		assert.Empty(t, a.Verdict(), "not signed yet")
		a.Take(proving.Done{Act: proving.Act{Do: proving.Sign, Run: "r", Outcome: proving.Cured}, Order: 90})
		assert.Equal(t, proving.Cured, a.Verdict())
		a.Take(proving.Done{Act: proving.Act{Do: proving.NextDay, Run: "r", OK: ok}, Order: 91})
		assert.Equal(t, want, a.Verdict())
	}
}
