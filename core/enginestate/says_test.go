package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

// A running check says when to stop: 5 °C under the alarm, which is taken to sound 15 °C over the thermostat's rating,
// and after twice its minutes (common practice); with no water seen, after thirty seconds.
func TestWhenToStop(t *testing.T) {
	closed := closedEngine(t)
	flow, _ := book(t).Check("outlet-flow")
	assert.Equal(t, "Stop at 92 °C on the gauge, at steam or a smell, and after 8 minutes at most. Somebody watches the "+
		"gauge and the outlet.", fold(t).Before(closed, flow).Watch.In(units.Metric))
	closed.ThermostatC = 71
	assert.Contains(t, fold(t).Before(closed, flow).Watch.In(units.Metric), "Stop at 81 °C")
	closed.Cooling.AlarmC = 91 // its own goes before what is usual
	assert.Contains(t, fold(t).Before(closed, flow).Watch.In(units.Metric), "Stop at 86 °C")
	v8 := closed
	v8.Fuel, v8.RatedKW, v8.ThermostatC, v8.Cooling.AlarmC = "petrol", 150, 71, 0
	assert.Contains(t, fold(t).Before(v8, flow).Watch.In(units.Metric), "Stop at 90 °C", "a petrol V8's sounds at 95 °C")
	dry := fold(t, made("look-over-side", "no-water-at-outlet", eventlog.Present))
	assert.Contains(t, dry.Before(closed, flow).Watch.In(units.Metric), "30 seconds at idle")
}

// Where no water came the engine gets thirty seconds (handbook 9.1: "not longer than 30 s at idle"; common practice): what
// needs a longer run is not offered until water was seen, whoever saw it.
func TestWithoutWaterOnlyWhatIsBrief(t *testing.T) {
	closed := closedEngine(t)
	none := made("look-over-side", "no-water-at-outlet", eventlog.Present)
	barred := func(list ...eventlog.Entry) (ids []string) {
		s := fold(t, list...)
		for _, k := range book(t).Checks {
			if b := s.Before(closed, k); b.Barred != "" {
				ids = append(ids, k.ID)
			} else if s.Before(closed, k).Watch != "" && len(list) == 1 {
				require.True(t, k.Brief > 0 && k.Brief <= 30, k.ID)
				require.Contains(t, b.Cautions, "dry-running", k.ID)
			}
		}
		return ids
	}
	long := []string{"feel-hoses", "outlet-flow", "bleed-test", "weep-look", "combustion-gas-test", "top-speed-test",
		"gauge-compare", "exhaust-compare", "twin-round", "temperatures-idle", "temperatures-load"}
	assert.ElementsMatch(t, long, barred(none))
	assert.ElementsMatch(t, long, barred(made("look-over-side", "no-water-at-outlet", eventlog.Unsure)))
	prime := func(water bool) eventlog.Entry {
		return entry("job", eventlog.Proved, eventlog.Body{Proving: &proving.Act{Do: proving.Prime, Water: water}})
	}
	flow := func(v float64) eventlog.Entry {
		return entry("job", eventlog.RoundTaken, eventlog.Body{Round: &eventlog.Round{
			Readings: []eventlog.Read{{Station: "flow", Value: v}}}})
	}
	for what, came := range map[string]eventlog.Entry{
		"seen to be good": made("look-over-side", "good-water-at-outlet", eventlog.Present),
		"seen to be weak": made("look-over-side", "weak-water-at-outlet", eventlog.Present),
		"not none":        made("look-over-side", "no-water-at-outlet", eventlog.Absent),
		"primed":          prime(true),
		"measured":        flow(12),
	} {
		assert.Empty(t, barred(none, came), what)
		assert.ElementsMatch(t, long, barred(came, none), "%s, and then none", what)
	}
	for what, not := range map[string]eventlog.Entry{
		"nobody is sure that it is good": made("look-over-side", "good-water-at-outlet", eventlog.Unsure),
		"none at the start of the run":   prime(false),
		"nothing in the bucket":          flow(0),
	} {
		assert.ElementsMatch(t, long, barred(none, not), what)
	}
	assert.ElementsMatch(t, long, barred(prime(false), made("coolant-level", "level-low-cold", eventlog.Absent)))
}

// Coolant and oil are as they were last said to be; what nobody said is unknown, and drained counts before low.
func TestFluids(t *testing.T) {
	low := entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "level-low-cold",
		State: eventlog.Present}}})
	oil := act(teardown.Act{Do: teardown.OilIs, Item: "risen"})
	for name, c := range map[string]struct {
		list         []eventlog.Entry
		coolant, oil string
	}{
		"nothing said":    {nil, "unknown", "unknown"},
		"low":             {[]eventlog.Entry{low}, "low", "unknown"},
		"drained":         {acts(isolate("coolant")), "drained", "unknown"},
		"low and drained": {[]eventlog.Entry{low, act(isolate("coolant"))}, "drained", "unknown"},
		"another shut":    {acts(isolate("seacock")), "unknown", "unknown"},
		"low, that shut":  {[]eventlog.Entry{low, act(isolate("seacock"))}, "low", "unknown"},
		"low, that open":  {[]eventlog.Entry{low, act(lift("seacock"))}, "low", "unknown"},
		"oil risen":       {[]eventlog.Entry{oil}, "unknown", "risen"},
	} {
		is := map[string]string{}
		for _, f := range fold(t, c.list...).Fluids() {
			is[f.ID] = f.State
		}
		assert.Equal(t, map[string]string{"coolant": c.coolant, "oil": c.oil}, is, name)
	}
}

// A part is told of once it was in hand; a handful of screws counts once.
func TestPartsInHand(t *testing.T) {
	impeller := act(task(t, "impeller-change"))
	parts := func(list ...teardown.Act) (ids []string) {
		for _, i := range fold(t, append([]eventlog.Entry{impeller}, acts(list...)...)...).Parts() {
			ids = append(ids, i.ID)
		}
		return ids
	}
	assert.Empty(t, parts())
	assert.Equal(t, []string{"key"}, parts(off(change+"key", 1)))
	assert.Equal(t, []string{"key"}, parts(off(change+"key", 1), on(change+"key", 1)), "it is back")
	says := func(list ...teardown.Act) (words []string) {
		for _, o := range fold(t, append([]eventlog.Entry{impeller}, acts(list...)...)...).Flags(closedEngine(t)) {
			words = append(words, o.Label)
		}
		return words
	}
	assert.Contains(t, says(off(change+"cover-screws", 6)), "1 PART OFF", "screws, as one")
	assert.Contains(t, says(off(change+"cover-screws", 6), off(change+"key", 1)), "2 PARTS OFF")
}

// What the state costs is told of the checks that it costs something, and of no other.
func TestWhatTheStateCosts(t *testing.T) {
	closed := closedEngine(t)
	s := fold(t, acts(isolate("seacock"))...)
	ahead := s.Ahead(closed)
	barred, minutes := ahead.Barred, ahead.Minutes
	assert.Empty(t, barred["outlet-flow"])
	assert.InDelta(t, 1, minutes["outlet-flow"], 1e-9, "the seacock is to be opened")
	for id, m := range minutes {
		assert.Positive(t, m, id)
		assert.Empty(t, barred[id], id)
	}
	_, there := minutes["impeller-look"]
	assert.False(t, there, "the seacock is shut already")
	look, _ := book(t).Check("impeller-look")
	for _, step := range fold(t).Before(closed, look).Steps {
		assert.NotEmpty(t, step.Label, step.ID)
		for _, n := range book(t).Needs {
			if n.ID == step.ID {
				assert.Equal(t, n.Label, step.Label)
			}
		}
	}
}

// An engine is hot after a run: one that warmed it or lasted; a word about a run warms nothing.
func TestAProofHeats(t *testing.T) {
	heat := func(a proving.Act) string {
		a.Run = "run"
		return fold(t, entry("job", eventlog.Proved, eventlog.Body{Proving: &a})).Heat.Value
	}
	assert.Equal(t, "hot", heat(proving.Act{Do: proving.Loaded, Minutes: 1}))
	assert.Equal(t, "hot", heat(proving.Act{Do: proving.WarmUp, Warmed: &proving.Warmed{}}))
	assert.NotEqual(t, "hot", heat(proving.Act{Do: proving.Begin, Where: proving.Afloat}))
}

// Rubber that a flush brings out goes into the account of pieces; nothing else does.
func TestWhatComesOutOfAFlush(t *testing.T) {
	plan := wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Flushing, Flush: &wetwork.FlushPlan{Station: "elbow"}})
	pieces := func(what string) int {
		s := fold(t, plan, wet(wetwork.Act{Do: wetwork.Begin}), wet(wetwork.Act{Do: wetwork.CameOut, What: what,
			Share: 0.3, Station: "exchanger"}))
		return len(s.Hands.Ledger.Pieces)
	}
	require.Equal(t, 1, pieces(wetwork.Rubber))
	assert.Zero(t, pieces("scale"))
	assert.Empty(t, fold(t, plan, wet(wetwork.Act{Do: wetwork.Begin})).Hands.Ledger.Pieces)
}

// Milky oil bars the starter, and says whether its level is known to have risen.
func TestWhyTheStarterIsBarred(t *testing.T) {
	milky := entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "milky-oil",
		State: eventlog.Present}}})
	crank := func(list ...eventlog.Entry) string { return why(fold(t, list...).Crank(closedEngine(t)), "oil") }
	assert.Equal(t, "milky, and nobody said whether its level has risen", crank(milky))
	assert.Equal(t, "milky and risen: water may stand in a cylinder",
		crank(milky, act(teardown.Act{Do: teardown.OilIs, Item: "risen"})))
	assert.Empty(t, crank())
}

// The look on the day after is of the run that was signed.
func TestTheDayAfterIsOfItsRun(t *testing.T) {
	prove := func(do, run string) eventlog.Entry {
		return entry("job", eventlog.Proved, eventlog.Body{Proving: &proving.Act{Do: do, Run: run, OK: true}})
	}
	asks := func(list ...eventlog.Entry) bool {
		for _, f := range fold(t, list...).FollowUps() {
			if f.Kind == "next-day" {
				return true
			}
		}
		return false
	}
	assert.True(t, asks(prove(proving.Sign, "a")))
	assert.False(t, asks(prove(proving.Sign, "a"), prove(proving.NextDay, "a")))
	assert.True(t, asks(prove(proving.Sign, "a"), prove(proving.NextDay, "b")))
}
