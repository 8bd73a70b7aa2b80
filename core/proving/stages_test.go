package proving_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/proving"
	"hevrin/core/units"
)

var morning = time.Date(2026, time.May, 18, 9, 0, 0, 0, time.UTC)

// acted is an account into which acts were taken, one a minute.
func acted(t *testing.T, acts ...proving.Act) *proving.Account {
	t.Helper()
	a := &proving.Account{}
	for i, act := range acts {
		if act.Run == "" {
			act.Run = "r"
		}
		require.NoError(t, act.Check(), "%d", i)
		require.Empty(t, a.Refuse(act), "%d", i)
		a.Take(proving.Done{Act: act, By: "Kit Venn", At: morning.Add(time.Duration(i) * time.Minute), Order: i + 1})
	}
	return a
}

func of(v float64) *float64 { return &v }

var facts = proving.Facts{RatedRPM: 3000, ThermostatC: 82, Joints: []proving.Joint{{"cover", "Cover gasket",
	"raw-pump"}, {"hose-a", "Hose A", "raw-hoses"}}, Judged: true, Against: "its own healthy rounds",
	Rounds: []proving.RoundRead{{RPM: 900, Stations: 5, Flow: true}, {RPM: 2400, Stations: 5, Flow: true}}}

func begin() proving.Act { return proving.Act{Do: proving.Begin, Where: proving.Afloat} }

func dry(stage string) []proving.Act {
	return []proving.Act{{Do: proving.Look, Stage: stage, Joint: "cover", Station: "raw-pump", State: proving.Dry},
		{Do: proving.Look, Stage: stage, Joint: "hose-a", Station: "raw-hoses", State: proving.Dry},
		{Do: proving.Smell, Stage: stage, OK: true}}
}

func warmed(v proving.Verdict) proving.Act {
	return proving.Act{Do: proving.WarmUp, Warmed: &proving.Warmed{Recording: "x", Load: proving.Cruise, Verdict: v,
		OpenedC: of(81), PlateauC: of(84), Reasons: []units.Sentence{"it stood at 84.0 °C"}}}
}

// whole is every act of a run that passes.
func whole() []proving.Act {
	list := []proving.Act{begin(), {Do: proving.Prime, Water: true, Seconds: 9, Bubbles: "seen"}}
	list = append(list, dry(proving.ColdLeaks)...)
	list = append(list, warmed(proving.Steady), proving.Act{Do: proving.Gauge, GaugeC: of(85), ProbeC: of(83)},
		proving.Act{Do: proving.Loaded, Minutes: 15, TopRPM: 2980})
	list = append(list, dry(proving.HotLeaks)...)
	return append(list, proving.Act{Do: proving.Bilge, OK: true}, proving.Act{Do: proving.Codes})
}

func runOf(t *testing.T, acts ...proving.Act) *proving.ProvingRun {
	t.Helper()
	a := acted(t, acts...)
	a.Start("Kit Venn", morning)
	return a.Current()
}

func standings(stages []proving.Stage) map[string]proving.Standing {
	m := map[string]proving.Standing{}
	for _, s := range stages {
		m[s.ID] = s.Standing
	}
	return m
}

func TestAWholeRunIsACure(t *testing.T) {
	stages := runOf(t, whole()...).Stages(facts)
	for _, s := range stages {
		assert.Equal(t, proving.Passed, s.Standing, "%s: %v", s.ID, s.Criteria)
	}
	assert.Equal(t, proving.Cured, outcome(stages))
}

func TestEveryStageCanFailAndSaysWhatToDo(t *testing.T) {
	for name, c := range map[string]struct {
		act   proving.Act
		stage string
	}{
		"no water":   {proving.Act{Do: proving.Prime, Seconds: 30}, proving.PrimeStage},
		"late water": {proving.Act{Do: proving.Prime, Water: true, Seconds: 41}, proving.PrimeStage},
		"no bubbles": {proving.Act{Do: proving.Prime, Water: true, Seconds: 9, Bubbles: "not-seen"},
			proving.PrimeStage},
		"a drip, cold": {proving.Act{Do: proving.Look, Stage: proving.ColdLeaks, Joint: "cover", State: proving.Drips},
			proving.ColdLeaks},
		"damp, hot": {proving.Act{Do: proving.Look, Stage: proving.HotLeaks, Joint: "hose-a", State: proving.Damp},
			proving.HotLeaks},
		"a smell":           {proving.Act{Do: proving.Smell, Stage: proving.HotLeaks}, proving.HotLeaks},
		"a wet bilge":       {proving.Act{Do: proving.Bilge}, proving.HotLeaks},
		"over its rating":   {warmed(proving.AboveRating), proving.WarmUpStage},
		"under its rating":  {warmed(proving.BelowRating), proving.WarmUpStage},
		"a gauge that lies": {proving.Act{Do: proving.Gauge, GaugeC: of(95), ProbeC: of(83)}, proving.WarmUpStage},
		"too short":         {proving.Act{Do: proving.Loaded, Minutes: 4, TopRPM: 3000}, proving.LoadStage},
		"short of speed":    {proving.Act{Do: proving.Loaded, Minutes: 15, TopRPM: 2700}, proving.LoadStage},
	} {
		t.Run(name, func(t *testing.T) {
			stages := runOf(t, append(whole(), c.act)...).Stages(facts)
			got := standings(stages)
			assert.Equal(t, proving.Failed, got[c.stage])
			assert.Equal(t, proving.Failed, got[proving.VerdictStage])
			assert.Equal(t, proving.NotCured, outcome(stages))
			for _, s := range stages {
				if s.ID == c.stage {
					assert.NotEmpty(t, s.Do)
				}
			}
		})
	}
}

func TestWhatIsNotDoneIsWaitedFor(t *testing.T) {
	all := whole()
	for i := range all[1:] {
		acts := append(append([]proving.Act{}, all[:i+1]...), all[i+2:]...)
		stages := runOf(t, acts...).Stages(facts)
		if all[i+1].Do == proving.Gauge || all[i+1].Do == proving.WarmUp {
			continue // seen below
		}
		assert.Equal(t, proving.Unfinished, outcome(stages), "without act %d", i+1)
	}
	for _, v := range []proving.Verdict{proving.TooShort, proving.StillRising, proving.Unsteady} {
		assert.Equal(t, proving.Unfinished, outcome(runOf(t, append(whole(), warmed(v))...).Stages(facts)), v)
	}
	a := acted(t, whole()...)
	assert.Equal(t, proving.Waiting, standings(a.Current().Stages(facts))[proving.ReadyStage], "not started")
	poor := facts
	poor.Rounds = facts.Rounds[:1]
	assert.Equal(t, proving.Unfinished, outcome(runOf(t, whole()...).Stages(poor)), "no round under load")
}

func TestReadingsAreHeardInTheVerdict(t *testing.T) {
	ill := facts
	ill.Found = []string{"raw flow low"}
	stages := runOf(t, whole()...).Stages(ill)
	assert.Equal(t, proving.NotCured, outcome(stages))
	assert.Contains(t, stages[len(stages)-1].Criteria[1].Say, "raw flow low")
}

func TestAStageThatCannotBeDoneHereIsExcusedInWords(t *testing.T) {
	acts := whole()[:len(whole())-1]
	acts = append(acts, proving.Act{Do: proving.Again, Stage: proving.LoadStage}, proving.Act{Do: proving.Excuse,
		Stage: proving.LoadStage, Words: "On a hose in the yard"}, proving.Act{Do: proving.Codes,
		Words: "low coolant, for the dealer to clear"})
	acts[0].Where = proving.HoseAtInlet
	stages := runOf(t, acts...).Stages(facts)
	assert.Equal(t, proving.Cured, outcome(stages))
	last := stages[len(stages)-1]
	assert.Contains(t, last.Criteria[0].Say, "all but Load")
	assert.Contains(t, last.Do[len(last.Do)-1], "the flow is the hose's")
	require.Error(t, proving.Act{Do: proving.Excuse, Run: "r", Stage: proving.LoadStage}.Check(), "not without words")
	require.Error(t, proving.Act{Do: proving.Excuse, Run: "r", Stage: proving.ReadyStage, Words: "x"}.Check(),
		"never the start")
}

func TestARunIsBegunOnceAndEndedOnce(t *testing.T) {
	a := acted(t, whole()...)
	assert.NotEmpty(t, a.Refuse(begin()))
	assert.NotEmpty(t, a.Refuse(proving.Act{Do: proving.Begin, Run: "other"}), "one is open")
	assert.NotEmpty(t, a.Refuse(proving.Act{Do: proving.Prime, Run: "unknown"}))
	a.Take(proving.Done{Act: proving.Act{Do: proving.Sign, Run: "r", Outcome: proving.Cured}, Order: 99})
	assert.Nil(t, a.Current())
	assert.NotEmpty(t, a.Refuse(proving.Act{Do: proving.Prime, Run: "r"}))
	assert.Empty(t, a.Refuse(proving.Act{Do: proving.NextDay, Run: "r"}), "the drip look of the day after")
	assert.Empty(t, a.Refuse(proving.Act{Do: proving.Begin, Run: "other"}))
}

func TestDoneAgainForgetsWhatWas(t *testing.T) {
	for _, stage := range []string{proving.PrimeStage, proving.ColdLeaks, proving.WarmUpStage, proving.LoadStage,
		proving.HotLeaks} {
		stages := runOf(t, append(whole(), proving.Act{Do: proving.Again, Stage: stage})...).Stages(facts)
		assert.Equal(t, proving.Waiting, standings(stages)[stage])
	}
}

func TestActsThatDoNotFit(t *testing.T) {
	for name, a := range map[string]proving.Act{
		"no run":           {Do: proving.Begin, Where: proving.Afloat},
		"nowhere":          {Do: proving.Begin, Run: "r", Where: "in the car"},
		"no such act":      {Do: "dance", Run: "r"},
		"before its begin": {Do: proving.Prime, Run: "r", Seconds: -1},
		"no joint":         {Do: proving.Look, Run: "r", Stage: proving.ColdLeaks, State: proving.Dry},
		"no stage":         {Do: proving.Look, Run: "r", Joint: "x", State: proving.Dry},
		"wet how":          {Do: proving.Look, Run: "r", Stage: proving.ColdLeaks, Joint: "x", State: "moist"},
		"half a gauge":     {Do: proving.Gauge, Run: "r", GaugeC: of(80)},
		"molten":           {Do: proving.Gauge, Run: "r", GaugeC: of(800), ProbeC: of(80)},
		"two days":         {Do: proving.Loaded, Run: "r", Minutes: 2000},
		"no recording":     {Do: proving.WarmUp, Run: "r"},
		"dropped mutely":   {Do: proving.Drop, Run: "r", Words: " "},
	} {
		t.Run(name, func(t *testing.T) { assert.Error(t, a.Check()) })
	}
}

func TestWhatARunTellsTheDiagnosis(t *testing.T) {
	told := func(a proving.Act) string { return fmt.Sprint(a.Findings(3000, 82)) }
	assert.Equal(t, "[{no-prime 0.95}]", told(proving.Act{Do: proving.Prime}))
	assert.Contains(t, told(proving.Act{Do: proving.Prime, Water: true}), "no-prime 0.05")
	assert.Equal(t, "[{leak-in-delivery 0.95}]", told(proving.Act{Do: proving.Look, Station: "raw-hoses",
		State: proving.Drips}))
	assert.Equal(t, "[]", told(proving.Act{Do: proving.Look, Station: "elbow", State: proving.Drips}))
	assert.Equal(t, "[{gauge-off 0.95}]", told(proving.Act{Do: proving.Gauge, GaugeC: of(95), ProbeC: of(83)}))
	assert.Equal(t, "[{top-speed-short 0.95}]", told(proving.Act{Do: proving.Loaded, TopRPM: 2500}))
	assert.Equal(t, "[]", told(proving.Act{Do: proving.Loaded, TopRPM: 2500, Held: true}), "nobody asked for more")
	assert.Contains(t, told(warmed(proving.AboveRating)), "plateau-above-rating 0.95")
	assert.Equal(t, "[]", told(warmed(proving.TooShort)))
}

// Whatever is done in whatever order: an outcome is told, and nothing failed is ever called a cure.
func TestNoFailureIsEverACure(t *testing.T) {
	acts := append(whole(), proving.Act{Do: proving.Prime, Seconds: 30}, warmed(proving.AboveRating),
		proving.Act{Do: proving.Bilge}, proving.Act{Do: proving.Again, Stage: proving.HotLeaks},
		proving.Act{Do: proving.Excuse, Stage: proving.PrimeStage, Words: "seen before"}, proving.Act{Do: proving.Look,
			Stage: proving.HotLeaks, Joint: "cover", State: proving.Drips})
	rapid.Check(t, func(rt *rapid.T) {
		a := &proving.Account{}
		first := acts[0]
		first.Run = "r"
		a.Take(proving.Done{Act: first, Order: 1})
		if rapid.Bool().Draw(rt, "started") {
			a.Start("x", morning)
		}
		for i := range rapid.IntRange(0, 25).Draw(rt, "acts") {
			act := rapid.SampledFrom(acts[1:]).Draw(rt, "act")
			act.Run = "r"
			a.Take(proving.Done{Act: act, Order: i + 2})
		}
		stages := a.Current().Stages(facts)
		out := outcome(stages)
		for _, s := range stages[:len(stages)-1] {
			if out == proving.Cured && s.Standing != proving.Passed && s.Standing != proving.Excused {
				rt.Fatalf("cured with %s %s", s.ID, s.Standing)
			}
			if s.Standing == proving.Failed && out != proving.NotCured {
				rt.Fatalf("%s failed, and it is %s", s.ID, out)
			}
		}
	})
}

// Readings of an engine that was warming up prove nothing: the verdict waits for a round taken warm.
func TestReadingsBeforeItWasWarmProveNothing(t *testing.T) {
	r := runOf(t, whole()...)
	f := facts
	f.Judged, f.Warming = false, "50 °C is usual"
	last := r.Stages(f)
	verdict := last[len(last)-1]
	assert.Equal(t, proving.Waiting, verdict.Standing)
	assert.Contains(t, verdict.Criteria[1].Say.In(units.Metric), "taken before it was warm")
	f.Judged = true // another round was
	last = r.Stages(f)
	assert.Equal(t, proving.Passed, last[len(last)-1].Criteria[1].Standing)
}

// outcome is what a run by readings comes to.
func outcome(stages []proving.Stage) string { return (&proving.ProvingRun{}).Outcome(stages) }
