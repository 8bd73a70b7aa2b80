package enginestate_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// Each condemned part is flagged once, whatever else is condemned and for however many reasons it is.
func TestEachCondemnedPartIsFlaggedOnce(t *testing.T) {
	flags := func(list ...eventlog.Entry) (labels []string) {
		for _, f := range fold(t, list...).Flags(closedEngine(t)) {
			labels = append(labels, f.Label)
		}
		return labels
	}
	elbow := act(teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 20, NewBoreMM: 50}})
	holed := made("elbow-look", "elbow-thin-or-holed", eventlog.Present)
	hose := entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "hose-burnt-or-soft",
		State: eventlog.Present}}})
	assert.Equal(t, 1, count(flags(elbow), "CONDEMNED"))
	assert.Equal(t, 1, count(flags(elbow, holed), "CONDEMNED"), "narrow and holed")
	assert.Equal(t, 2, count(flags(elbow, hose), "CONDEMNED"))
	assert.Equal(t, 2, count(flags(elbow, hose, holed), "CONDEMNED"))
}

// count is how many of these say that.
func count(list []string, say string) (n int) {
	for _, s := range list {
		if strings.Contains(s, say) {
			n++
		}
	}
	return n
}

func TestCondemnedStaysOut(t *testing.T) {
	e := closedEngine(t)
	bad := teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 20, NewBoreMM: 50}}
	s := fold(t, act(bad))
	assert.Equal(t, "20 mm of 50 mm is left: half or less", why(s.Conditions(e), "condemned:elbow"))
	stand := fold(t, append(acts(task(t, "elbow-riser"), off("elbow-riser/elbow", 1)), act(bad))...).Stand(e, "job")
	assert.NotEmpty(t, stand.Unfit("elbow-riser/elbow"))
	assert.Empty(t, stand.Unfit("elbow-riser/elbow-nuts"))
	reused := back("elbow-riser/elbow", 1)
	reused.Words = "to get home, at idle only"
	kept := fold(t, append(acts(task(t, "elbow-riser"), off("elbow-riser/elbow", 1)), act(bad), act(reused))...)
	assert.Empty(t, why(kept.Conditions(e), "condemned:elbow"), "with a written reason")
	assert.Equal(t, "to get home, at idle only", kept.Unfit()[0].Reason)
	again := fold(t, append(acts(task(t, "elbow-riser"), off("elbow-riser/elbow", 1)), act(bad), act(reused),
		act(off("elbow-riser/elbow", 1)))...)
	assert.NotEmpty(t, why(again.Conditions(e), "condemned:elbow"), "off again, its reason is spent")
	for name, list := range map[string][]eventlog.Entry{
		"a new one":        acts(task(t, "elbow-riser"), off("elbow-riser/elbow", 1), bad, on("elbow-riser/elbow", 1)),
		"renewed, no task": acts(bad, teardown.Act{Do: teardown.Renewed, Item: "elbow"}),
		"measured good": acts(bad, teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 49,
			NewBoreMM: 50}}),
		"seen sound again": {made("elbow-look", "elbow-thin-or-holed", eventlog.Present),
			made("elbow-look", "elbow-thin-or-holed", eventlog.Absent)},
		"never seen unsound": {made("elbow-look", "elbow-thin-or-holed", eventlog.Absent)},
	} {
		assert.Empty(t, why(fold(t, list...).Conditions(e), "condemned:elbow"), name)
	}
	for _, finding := range []string{"hose-burnt-or-soft", "elbow-thin-or-holed", "blades-cracked-or-set"} {
		s := fold(t, entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: finding,
			State: eventlog.Present}}}))
		assert.Len(t, s.Unfit(), 1, finding)
		assert.False(t, s.MayStart(e))
	}
}

func wheel(states ...string) teardown.Act {
	w := &teardown.Wheel{}
	for _, s := range states {
		b := teardown.Blade{State: s}
		if s == teardown.Torn {
			b.Share = 0.4
		}
		w.Blades = append(w.Blades, b)
	}
	return teardown.Act{Do: teardown.SetWheel, Wheel: w}
}

// Blades missing in any check opens the ledger by itself, until the wheel was tapped and the pieces found or written
// off; a whole wheel after it is asked about.
func TestBladesMissingBarTheStart(t *testing.T) {
	e := closedEngine(t)
	seen := made("impeller-look", "blades-missing", eventlog.Present)
	of := func(list ...teardown.Act) string {
		return why(fold(t, append([]eventlog.Entry{seen}, acts(list...)...)...).Conditions(e), "pieces")
	}
	short, whole := wheel("gone", "sound", "sound", "sound"), wheel("sound", "sound", "sound", "sound")
	assert.Contains(t, of(), "how much is not known: tap the wheel")
	assert.Contains(t, of(whole), "which is so?")
	assert.Contains(t, of(short), "1.00 of a blade unaccounted for")
	found := teardown.Act{Do: teardown.Found, Item: "exchanger", Piece: &teardown.Piece{Share: 1}}
	assert.Empty(t, of(short, found))
	assert.Empty(t, of(whole, teardown.Act{Do: teardown.GiveUp, Words: "another impeller's"}))
	assert.Contains(t, of(short, whole), "which is so?", "tapped anew")
	assert.Empty(t, of(task(t, "impeller-change"), off(change+"impeller", 1), on(change+"impeller", 1), short, found,
		whole),
		"a new one was fitted: it is whole")
	slip := made("impeller-look", "blades-missing", eventlog.Absent)
	assert.Empty(t, why(fold(t, seen, act(whole), slip).Conditions(e), "pieces"), "it was a slip")
	next := act(wheel("torn", "sound", "sound", "sound"))
	next.Subject.ID = "next"
	carried := fold(t, seen, act(short), next)
	assert.Contains(t, why(carried.Conditions(e), "pieces"), "1.40", "what is at large goes on with the next wheel")
}

func TestAcidFlushesAndFluids(t *testing.T) {
	e := closedEngine(t)
	plan := wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Descale, Descale: &wetwork.DescalePlan{Place: wetwork.InPlace}}
	begin, rinsed := wetwork.Act{Do: wetwork.Begin}, wetwork.Act{Do: wetwork.Stage, What: "rinsed"}
	acid := func(list ...wetwork.Act) string {
		var out []eventlog.Entry
		for _, a := range list {
			out = append(out, wet(a))
		}
		return why(fold(t, out...).Conditions(e), "acid:w")
	}
	assert.Empty(t, acid(plan), "a plan is no acid")
	assert.Equal(t, "acid is in, by Kit Venn", acid(plan, begin))
	assert.NotEmpty(t, acid(plan, begin, wetwork.Act{Do: wetwork.End}), "ended, not rinsed")
	assert.Empty(t, acid(plan, begin, rinsed))
	bench := plan
	bench.Descale = &wetwork.DescalePlan{Place: wetwork.OnWorkbench}
	assert.Empty(t, acid(bench, begin), "on the bench it is not in the engine")

	flush := wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Flushing, Flush: &wetwork.FlushPlan{Station: "exchanger"}})
	joints := []eventlog.Entry{flush, wet(begin), wet(wetwork.Act{Do: wetwork.End})}
	assert.Equal(t, "open at the heat exchanger, by Kit Venn", why(fold(t, joints...).Conditions(e), "flush:w"))
	assert.True(t, fold(t, joints...).Stand(e, "job").Joint("flush:w"))
	done := append(joints, act(teardown.Act{Do: teardown.Close, Item: "flush:w"}))
	assert.Empty(t, why(fold(t, done...).Conditions(e), "flush:w"))

	coolant := wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.CoolantJob, Coolant: &wetwork.CoolantPlan{}}
	drained := []eventlog.Entry{wet(coolant), wet(wetwork.Act{Do: wetwork.Drained, Litres: 12})}
	assert.Equal(t, "coolant drained", why(fold(t, drained...).Conditions(e), "coolant"))
	filled := append(drained, wet(wetwork.Act{Do: wetwork.Filled, Litres: 12}), wet(wetwork.Act{Do: wetwork.End}))
	assert.Empty(t, why(fold(t, filled...).Conditions(e), "coolant"))
	assert.Equal(t, "not looked at yet", why(fold(t, filled...).Conditions(e), "coolant-filled"))
	low := fold(t, made("coolant-level", "level-low-cold", eventlog.Present))
	assert.Equal(t, "seen low, by Kit Venn", why(low.Conditions(e), "coolant-low"))
	assert.Empty(t, why(fold(t, made("coolant-level", "level-low-cold", eventlog.Present), act(lift("coolant"))).
		Conditions(e), "coolant-low"))
}

// Milky oil bars the start, and the starter too until somebody said that the level has not risen; only a change with
// its cause in words lets it run again.
func TestMilkyOil(t *testing.T) {
	e := closedEngine(t)
	milky := entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "milky-oil",
		State: eventlog.Present}}})
	oil := func(is, words string) eventlog.Entry {
		return act(teardown.Act{Do: teardown.OilIs, Item: is, Words: words})
	}
	for _, c := range []struct {
		list         []eventlog.Entry
		start, crank bool
	}{
		{[]eventlog.Entry{milky}, false, false},
		{[]eventlog.Entry{milky, oil("milky", "")}, false, true},
		{[]eventlog.Entry{milky, oil("risen", "")}, false, false},
		{[]eventlog.Entry{milky, oil("changed", "cooler leaked; cylinders cleared")}, true, true},
		{[]eventlog.Entry{oil("low", "")}, false, true},
		{[]eventlog.Entry{oil("low", ""), oil("sound", "")}, true, true},
	} {
		s := fold(t, c.list...)
		assert.Equal(t, c.start, why(s.Conditions(e), "oil") == "")
		assert.Equal(t, c.crank, s.MayCrank(e))
	}
	require.Error(t, teardown.Act{Do: teardown.OilIs, Item: "changed"}.Check(), "not without its cause")
	vent := fold(t, made("antisiphon-look", "vent-valve-bad", eventlog.Present))
	assert.False(t, vent.MayCrank(e), "water may stand in the silencer")
	hull := fold(t, made("intake-look", "intake-covered", eventlog.Absent))
	assert.False(t, hull.MayCrank(e), "a diver is under it")
}

// Each thing that is left undone stands in the way, by its own words, and keeps the job open; a written reason passes
// over it, until it changes.
func TestWhatStandsInTheWay(t *testing.T) {
	e := closedEngine(t)
	hose := teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "h", Kind: teardown.Hose, Label: "Hose", Count: 1,
		Below: true}}
	clamped := func(clamps int) teardown.Act {
		a := back("own/h", 1)
		a.Clamps = clamps
		return a
	}
	begun := task(t, "impeller-change")
	seal := change + "cover-seal"
	for _, c := range []struct {
		id, say string
		acts    []teardown.Act
	}{
		{"seacock", "seacock shut, by Kit Venn", []teardown.Act{isolate("seacock")}},
		{"off:job:" + change + "key", "still off", []teardown.Act{begun, off(change+"key", 1)}},
		{"off:job:" + change + "cover-screws", "still off", []teardown.Act{begun, off(change+"cover-screws", 6),
			back(change+"cover-screws", 4)}},
		{"count:job:" + change + "cover", "1 more on than came off: count again", []teardown.Act{begun, off(change+"cover",
			1),
			back(change+"cover", 1), back(change+"cover", 1)}},
		{"seals-matched", "Cover gasket or O-ring (pump cover): 1 off, 0 on", []teardown.Act{begun, off(seal, 1)}},
		{"seals-matched", "Cover gasket or O-ring (pump cover): 2 on, only 1 came off: is an old one still in there?",
			[]teardown.Act{begun, off(seal, 1), on(seal, 2)}},
		{"seals-matched", "Cover gasket or O-ring (pump cover): the old one went back without a reason",
			[]teardown.Act{begun, off(seal, 1), back(seal, 1)}},
		{"tightened", "Cover screws: 1 of 3 passes", []teardown.Act{begun, off(change+"cover-screws", 6),
			back(change+"cover-screws", 6), {Do: teardown.Tighten, Item: change + "cover-screws", Pass: 1}}},
		{"pieces", "1.00 missing, 0.00 found: 1.00 of a blade unaccounted for", []teardown.Act{wheel("gone", "sound",
			"sound", "sound", "sound", "sound")}},
		{"battery", "battery off", []teardown.Act{isolate("battery")}},
		{"sensor", "sensor unplugged", []teardown.Act{isolate("sensor")}},
		{"anodes", "anodes out", []teardown.Act{isolate("anodes")}},
		{"clamps:job:own/h", "1 of 2 clamps", []teardown.Act{hose, clamped(1)}},
		{"clamps:job:own/h", "clamp heads where no driver reaches", []teardown.Act{hose, clamped(2)}},
		{"condemned:elbow", "pitted through or cracked: it lets gas out, and carbon monoxide kills",
			[]teardown.Act{{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 50, NewBoreMM: 50, Pitted: true}}}},
	} {
		s := fold(t, acts(c.acts...)...)
		require.Equal(t, c.say, why(s.Conditions(e), c.id), c.id)
		require.Contains(t, strings.Join(teardown.Standing(s.Conditions(e)), "\n"), c.say, "it keeps the job open")
		over := func(against string) *enginestate.State {
			return fold(t, append(acts(c.acts...), act(teardown.Act{Do: teardown.Override, Item: c.id,
				Words: "towed home as it is", Against: against}))...)
		}
		require.Empty(t, why(over(c.say).Conditions(e), c.id))
		require.Equal(t, c.say, why(over("an older state").Conditions(e), c.id), "a reason for another state does not count")
	}
}
