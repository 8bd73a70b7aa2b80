package enginestate_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// offered says of a stopped and of a running check what its state means: "now" where nothing comes before it but what
// is not known, "after n" minutes of what is known to stand in the way, "not" where it is not offered.
func offered(t require.TestingT, s *enginestate.State, e eventlog.EngineFacts, id string) string {
	k, ok := book(t).Check(id)
	require.True(t, ok, id)
	b := s.Before(e, k)
	switch {
	case b.Barred != "":
		return "not"
	case b.Minutes() > 0:
		return fmt.Sprintf("after %.0f", b.Minutes())
	}
	return "now"
}

// Each state: may it start, may it be cranked, is a bucket at the outlet (running) and a look at the impeller (stopped)
// offered, and what the strip says. Every row but the first four starts from an engine that ran just now, all looked
// at.
func TestStatesAndWhatTheyMean(t *testing.T) {
	closed, leg := closedEngine(t), legEngine(t)
	ran := append(acts(teardown.Act{Do: teardown.Ran}), ticked("strainer-lid", "pump-primed", "coolant-filled",
		"silencer-drained", "people-clear", "outlet-watched")...)
	with := func(list ...eventlog.Entry) []eventlog.Entry { return append(slices.Clip(ran), list...) }
	done := func(list ...teardown.Act) []eventlog.Entry { return with(acts(list...)...) }
	found := func(id, state string) eventlog.Entry {
		return entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: id, State: state}}})
	}
	impeller := task(t, "impeller-change")
	elbow := teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 20, NewBoreMM: 50}}
	reused := func(item, words string) teardown.Act {
		a := back(item, 1)
		a.Words = words
		return a
	}
	hose := back("raw-pump-off/suction-hose-end", 1)
	hose.Clamps, hose.Reach = 2, true
	loose := back("raw-pump-off/suction-hose-end", 1)
	descale := wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Descale,
		Descale: &wetwork.DescalePlan{Place: wetwork.InPlace}})
	begin, end := wet(wetwork.Act{Do: wetwork.Begin}), wet(wetwork.Act{Do: wetwork.End})
	rinsed := wet(wetwork.Act{Do: wetwork.Stage, What: "rinsed"})
	flush := wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Flushing, Flush: &wetwork.FlushPlan{Station: "elbow"}})
	coolant := wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.CoolantJob, Coolant: &wetwork.CoolantPlan{}})
	drained := wet(wetwork.Act{Do: wetwork.Drained, Litres: 9})
	override := func(id, against string) teardown.Act {
		return teardown.Act{Do: teardown.Override, Item: id, Words: "towed", Against: against}
	}
	const sound, present, absent = "sound", eventlog.Present, eventlog.Absent
	for _, c := range []struct {
		name         string
		engine       eventlog.EngineFacts
		list         []eventlog.Entry
		start, crank bool
		run, look    string
		strip        string
	}{
		{"nothing known", closed, nil, false, true, "now", "now", ""},
		{"nothing known, on a leg", leg, nil, false, true, "now", "now", ""},
		{"ran just now, not looked at", closed, acts(teardown.Act{Do: teardown.Ran}), false, true, "now", "after 1", ""},
		{"the seacock said open", closed, acts(lift("seacock")), false, true, "now", "after 1", ""},
		{"ran, all looked at", closed, ran, true, true, "now", "after 1", ""},
		{"the seacock shut", closed, done(isolate("seacock")), false, true, "after 1", "now", "SEACOCK SHUT"},
		{"shut and open again", closed, done(isolate("seacock"), lift("seacock")), false, true, "now", "after 1", ""},
		{"the leg's hose off", leg, done(isolate("leg-hose")), false, true, "after 1", "now", "LEG HOSE OFF"},
		{"the battery off", closed, done(isolate("battery")), false, true, "not", "after 1", "BATTERY OFF"},
		{"the coolant drained", closed, done(isolate("coolant")), false, true, "not", "after 1", "COOLANT DRAINED"},
		{"filled again", closed, done(isolate("coolant"), lift("coolant")), false, true, "now", "after 1", ""},
		{"a sensor unplugged", closed, done(isolate("sensor")), false, true, "not", "after 1", "SENSOR UNPLUGGED"},
		{"anodes out", closed, done(isolate("anodes")), false, true, "not", "after 1", "ANODES OUT"},
		{"a look at the impeller", closed, with(made("impeller-look", "blades-missing", absent)), false, true, "after 12",
			"now", "SEACOCK: OPEN OR SHUT?; PUMP COVER OFF"},
		{"closed up after it", closed, with(made("impeller-look", "blades-missing", absent), closes("pump-cover-off")), false,
			true, "now", "now", "SEACOCK: OPEN OR SHUT?"},
		{"and the seacock opened", closed, with(append([]eventlog.Entry{made("impeller-look", "blades-missing", absent),
			closes("pump-cover-off"), act(lift("seacock"))}, ran[1:]...)...), true, true, "now", "after 1", ""},
		{"blades seen missing", closed, with(made("impeller-look", "blades-missing", present)), false, true, "not", "now",
			"SEACOCK: OPEN OR SHUT?; IMPELLER CONDEMNED; RUBBER AT LARGE; PUMP COVER OFF"},
		{"blades seen cracked", closed, with(found("blades-cracked-or-set", present)), false, true, "not", "after 1",
			"IMPELLER CONDEMNED"},
		{"a look into the strainer", closed, with(made("strainer-look", "debris-in-strainer", absent)), false, true, "now",
			"now", "SEACOCK: OPEN OR SHUT?; STRAINER LID OFF"},
		{"a look at the level", closed, with(made("coolant-level", "level-low-cold", absent)), false, true, "now", "after 1",
			"COOLANT CAP OFF"},
		{"the level low", closed, with(found("level-low-cold", present)), false, true, "not", "after 1", "COOLANT LOW"},
		{"the level low, filled", closed, with(found("level-low-cold", present), act(lift("coolant"))), true, true, "now",
			"after 1", ""},
		{"a gauge teed in", closed, with(made("suction-vacuum", "high-suction-vacuum", absent)), true, true, "now", "after 1",
			"GAUGE TEED IN"},
		{"a diver under the hull", closed, with(made("intake-look", "intake-covered", absent)), false, false, "after 20",
			"after 1", "UNDER THE HULL"},
		{"injectors out", closed, with(made("compression-test", "compression-low-neighbours", absent)), false, true,
			"after 60",
			"after 1", "INJECTORS OUT"},
		{"the exchanger's caps off", closed, with(made("exchanger-look", "tubes-dark", absent)), false, true, "after 20",
			"now",
			"SEACOCK: OPEN OR SHUT?; EXCHANGER END CAPS OFF"},
		{"the hose off the elbow", closed, with(made("elbow-look", "elbow-narrowed", absent)), false, true, "after 12", "now",
			"SEACOCK: OPEN OR SHUT?; HOSE OFF THE ELBOW"},
		{"the thermostat out", closed, with(made("thermostat-pot-test", "thermostat-no-open", absent)), false, true,
			"after 15",
			"after 1", "THERMOSTAT OUT"},
		{"a check skipped", closed, with(entry("job", eventlog.Checked, eventlog.Body{Check: "impeller-look",
			Outcome: eventlog.Skipped})), true, true, "now", "after 1", ""},
		{"a check that ran", closed, with(made("outlet-flow", "raw-flow-low", absent)), true, true, "now", "after 1", ""},
		{"a task begun", closed, done(impeller), true, true, "now", "after 1", ""},
		{"the key off", closed, done(impeller, off(change+"key", 1)), false, true, "not", "after 1", "1 PART OFF"},
		{"the cover off", closed, done(impeller, off(change+"cover", 1)), false, true, "not", "after 1",
			"PUMP COVER OFF; 1 PART OFF"},
		{"the cover off and on", closed, done(impeller, off(change+"cover", 1), back(change+"cover", 1)), false, true, "now",
			"after 1", ""},
		{"the seal off", closed, done(impeller, off(change+"cover-seal", 1)), false, true, "not", "after 1",
			"PUMP COVER OFF; 1 PART OFF"},
		{"two seals on", closed, done(impeller, off(change+"cover-seal", 1), on(change+"cover-seal", 2)), false, true, "not",
			"after 1", ""},
		{"the old seal back", closed, done(impeller, off(change+"cover-seal", 1), back(change+"cover-seal", 1)), false, true,
			"not", "after 1", ""},
		{"the old seal back, and why", closed, done(impeller, off(change+"cover-seal", 1), reused(change+"cover-seal",
			"none on the shelf")), false, true, "now", "after 1", ""},
		{"screws not tightened", closed, done(impeller, off(change+"cover-screws", 6), back(change+"cover-screws", 6)), false,
			true, "not", "after 1", ""},
		{"screws tightened", closed, done(impeller, off(change+"cover-screws", 6), back(change+"cover-screws", 6),
			teardown.Act{Do: teardown.Tighten, Item: change + "cover-screws", Pass: 3}), false, true, "now", "after 1", ""},
		{"a part excused", closed, done(impeller, off(change+"key", 1),
			teardown.Act{Do: teardown.Excuse, Item: change + "key",
				Words: "splined"}), false, true, "now", "after 1", ""},
		{"a hose off", closed, done(task(t, "raw-pump-off"), off("raw-pump-off/suction-hose-end", 1)), false, true, "not",
			"after 1", "SUCTION HOSE OFF; 1 PART OFF"},
		{"a hose on, not clamped", closed, done(task(t, "raw-pump-off"), off("raw-pump-off/suction-hose-end", 1), loose),
			false,
			true, "not", "after 1", ""},
		{"a hose on and clamped", closed, done(task(t, "raw-pump-off"), off("raw-pump-off/suction-hose-end", 1), hose), false,
			true, "now", "after 1", ""},
		{"something else off", closed, done(teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "x", Kind: teardown.Part,
			Label: "Bracket", Count: 1}}), false, true, "not", "after 1", "1 PART OFF"},
		{"oil pipes off", closed, done(task(t, "oil-cooler-strip"), off("oil-cooler-strip/oil-pipes", 2)), false, true, "not",
			"after 1", "2 PARTS OFF"},
		{"oil pipes on, level not looked at", closed, with(append(acts(task(t, "oil-cooler-strip"),
			off("oil-cooler-strip/oil-pipes", 2), back("oil-cooler-strip/oil-pipes", 2)), ran[1:]...)...), false, true, "now",
			"after 1", ""},
		{"the elbow condemned", closed, done(elbow), false, true, "not", "after 1", "ELBOW CONDEMNED"},
		{"a new elbow", closed, done(elbow, teardown.Act{Do: teardown.Renewed, Item: "elbow"}), true, true, "now", "after 1",
			""},
		{"the old elbow back, and why", closed, done(task(t, "elbow-riser"), off("elbow-riser/elbow", 1), elbow,
			reused("elbow-riser/elbow", "to get home")), false, true, "now", "after 1", ""},
		{"the exhaust hose burnt", closed, with(found("hose-burnt-or-soft", present)), false, true, "not", "after 1",
			"EXHAUST HOSE CONDEMNED"},
		{"a wheel short of a blade", closed, done(wheel("gone", sound, sound, sound)), false, true, "not", "after 1",
			"IMPELLER CONDEMNED; RUBBER AT LARGE"},
		{"a wheel with a crack", closed, done(wheel("cracked", sound, sound, sound)), false, true, "not", "after 1",
			"IMPELLER CONDEMNED"},
		{"a whole wheel", closed, done(wheel(sound, sound, sound, sound)), true, true, "now", "after 1", ""},
		{"its pieces found, a new one in", closed, done(wheel("gone", sound, sound, sound), teardown.Act{Do: teardown.Found,
			Item: "raw-pump", Piece: &teardown.Piece{Share: 1}}, teardown.Act{Do: teardown.Renewed, Item: "impeller"}), true,
			true, "now", "after 1", ""},
		{"its pieces written off", closed, done(wheel("gone", sound, sound, sound), teardown.Act{Do: teardown.GiveUp,
			Words: "flushed twice, nothing"}, teardown.Act{Do: teardown.Renewed, Item: "impeller"}), true, true, "now",
			"after 1", ""},
		{"a descaling planned", closed, with(descale), true, true, "now", "after 1", ""},
		{"acid in", closed, with(descale, begin), false, true, "not", "now", "ACID IN THE CIRCUIT; SEACOCK: OPEN OR SHUT?"},
		{"acid ended, not rinsed", closed, with(descale, begin, end), false, true, "not", "now",
			"ACID IN THE CIRCUIT; SEACOCK: OPEN OR SHUT?"},
		{"acid rinsed", closed, with(descale, begin, end, rinsed), false, true, "now", "now", "SEACOCK: OPEN OR SHUT?"},
		{"a flush begun", closed, with(flush, begin), false, true, "not", "now",
			"SEACOCK: OPEN OR SHUT?; JOINTS OPEN FOR A FLUSH"},
		{"a flush closed up", closed, with(flush, begin, end, act(teardown.Act{Do: teardown.Close, Item: "flush:w"})), false,
			true, "now", "now", "SEACOCK: OPEN OR SHUT?"},
		{"a coolant change, drained", closed, with(coolant, drained), false, true, "not", "after 1", "COOLANT DRAINED"},
		{"a coolant change, ended", closed, with(coolant, drained, end), false, true, "now", "after 1", ""},
		{"oil seen milky", closed, with(found("milky-oil", present)), false, false, "not", "after 1",
			"OIL MILKY: DO NOT CRANK"},
		{"oil milky, not risen", closed, with(found("milky-oil", present), act(teardown.Act{Do: teardown.OilIs,
			Item: "milky"})), false, true, "not", "after 1", "OIL MILKY"},
		{"oil risen", closed, done(teardown.Act{Do: teardown.OilIs, Item: "risen"}), false, false, "not", "after 1",
			"OIL MILKY: DO NOT CRANK"},
		{"oil changed, and why", closed, with(found("milky-oil", present), act(teardown.Act{Do: teardown.OilIs,
			Item: "changed", Words: "cooler"})), true, true, "now", "after 1", ""},
		{"oil seen clean", closed, with(found("milky-oil", absent)), true, true, "now", "after 1", ""},
		{"a bad anti-siphon, not drained", closed, append(acts(teardown.Act{Do: teardown.Ran}),
			made("antisiphon-look", "vent-valve-bad", present), closes("antisiphon-open")), false, false, "now", "after 1", ""},
		{"ashore, no water said", closed, done(teardown.Act{Do: teardown.Lies, Item: "ashore"}), false, true, "now",
			"after 1",
			""},
		{"ashore, water on", closed, append(acts(teardown.Act{Do: teardown.Lies, Item: "ashore"}),
			append(ticked("shore-water"),
				ran...)...), true, true, "now", "after 1", ""},
		{"a leg ashore", leg, done(teardown.Act{Do: teardown.Lies, Item: "ashore"}), false, true, "now", "now", ""},
		{"started", closed, done(teardown.Act{Do: teardown.Start}), false, true, "now", "after 1", ""},
		{"the battery passed over", closed, done(isolate("battery"), teardown.Act{Do: teardown.Tick, Item: "strainer-lid"},
			override("battery", "battery off")), false, true, "now", "after 1", "BATTERY OFF"},
		{"cold", closed, done(teardown.Act{Do: teardown.Heat, Item: "cold"}), true, true, "now", "after 1", ""},
	} {
		s := fold(t, c.list...)
		assert.Equal(t, c.start, s.MayStart(c.engine), "%s: start: %v", c.name, unmet(s.Conditions(c.engine)))
		assert.Equal(t, c.crank, s.MayCrank(c.engine), "%s: crank", c.name)
		assert.Equal(t, c.run, offered(t, s, c.engine, "outlet-flow"), "%s: bucket at the outlet", c.name)
		assert.Equal(t, c.look, offered(t, s, c.engine, "impeller-look"), "%s: impeller", c.name)
		var strip []string
		for _, f := range s.Flags(c.engine) {
			strip = append(strip, f.Label)
		}
		assert.Equal(t, c.strip, strings.Join(strip, "; "), "%s: strip", c.name)
	}
}

func unmet(list []teardown.Condition) (out []string) {
	for _, c := range list {
		if !c.Passed() {
			out = append(out, c.ID+": "+c.Why)
		}
	}
	return out
}

// drawn is an entry from some room of some job, with what it sets a part of the state to.
func drawn(t *rapid.T) eventlog.Entry {
	job := rapid.SampledFrom([]string{"one", "two"}).Draw(t, "job")
	items := []string{change + "cover", change + "cover-seal", change + "key", change + "impeller",
		change + "cover-screws"}
	pick := func(of ...eventlog.Entry) eventlog.Entry { return rapid.SampledFrom(of).Draw(t, "entry") }
	impeller, err := book(t).Task("impeller-change")
	require.True(t, err)
	yes := rapid.Bool().Draw(t, "open")
	e := pick(
		act(isolate(rapid.SampledFrom([]string{"seacock", "battery", "coolant", "sensor", "anodes"}).Draw(t, "isolation"))),
		act(lift(rapid.SampledFrom([]string{"seacock", "battery", "coolant", "sensor", "anodes"}).Draw(t, "lift"))),
		act(teardown.Act{Do: teardown.Begin, Task: &impeller}),
		act(off(rapid.SampledFrom(items).Draw(t, "off"), rapid.IntRange(1, 3).Draw(t, "n"))),
		act(on(rapid.SampledFrom(items).Draw(t, "on"), rapid.IntRange(1, 3).Draw(t, "n"))),
		act(back(rapid.SampledFrom(items).Draw(t, "back"), 1)),
		act(teardown.Act{Do: teardown.Tighten, Item: change + "cover-screws", Pass: 3}),
		act(wheel(rapid.SampledFrom([]string{"gone", "sound", "cracked"}).Draw(t, "blade"), "sound", "sound", "sound")),
		act(teardown.Act{Do: teardown.Found, Item: "raw-pump", Piece: &teardown.Piece{Share: 1}}),
		act(teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: rapid.SampledFrom([]float64{20, 49}).
			Draw(t, "bore"), NewBoreMM: 50}}),
		act(teardown.Act{Do: teardown.Renewed, Item: rapid.SampledFrom([]string{"elbow", "impeller"}).Draw(t, "new")}),
		act(teardown.Act{Do: teardown.Holds, Item: rapid.SampledFrom(teardown.Shuts).Draw(t, "behind")}),
		act(teardown.Act{Do: teardown.OilIs, Item: rapid.SampledFrom([]string{"sound", "milky", "risen"}).Draw(t, "oil")}),
		act(teardown.Act{Do: teardown.Tick, Item: rapid.SampledFrom(looks).Draw(t, "tick")}),
		act(teardown.Act{Do: teardown.Ran}), act(teardown.Act{Do: teardown.Start}),
		made("impeller-look", "blades-missing", rapid.SampledFrom([]string{eventlog.Present, eventlog.Absent}).Draw(t,
			"seen")),
		made("strainer-look", "debris-in-strainer", eventlog.Absent),
		made("elbow-look", "elbow-thin-or-holed", rapid.SampledFrom([]string{eventlog.Present, eventlog.Absent}).Draw(t,
			"thin")),
		entry("job", eventlog.Access, eventlog.Body{Access: rapid.SampledFrom([]string{"pump-cover-off", "end-caps-off",
			"strainer-open"}).Draw(t, "access"), Open: &yes}),
		wet(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Descale, Descale: &wetwork.DescalePlan{Place: wetwork.InPlace}}),
		wet(wetwork.Act{Do: wetwork.Begin}), wet(wetwork.Act{Do: wetwork.Stage, What: "rinsed"}),
		wet(wetwork.Act{Do: wetwork.End}),
	)
	e.Subject.ID = job
	return e
}

// simple keeps, beside the fold, one plain fact at a time from the entries alone: is it known that this stands in the
// way?
func simple(list []eventlog.Entry) map[string]bool {
	is := map[string]bool{"seacock not known": true}
	for _, e := range list {
		a := e.Body.Teardown
		switch {
		case a != nil && a.Do == teardown.Isolate:
			is[a.Item] = true
			if a.Item == "seacock" {
				is["seacock not known"] = false
			}
		case a != nil && a.Do == teardown.Lift:
			is[a.Item] = false
			if a.Item == "seacock" {
				is["seacock not known"] = false
			}
		case a != nil && a.Do == teardown.Ran:
			is["seacock not known"] = false
		case a != nil && a.Do == teardown.OilIs:
			is["oil"] = a.Item == "milky" || a.Item == "risen"
		case a != nil && a.Do == teardown.SetElbow:
			is["elbow"] = a.Elbow.BoreMM < 25
		case a != nil && a.Do == teardown.Renewed && a.Item == "elbow":
			is["elbow"], is["thin"] = false, false
		case e.Body.Check == "elbow-look":
			is["thin"] = e.Body.Stated[0].State == eventlog.Present
		case e.Kind == eventlog.Access && e.Body.Access == "strainer-open":
			is["strainer"] = *e.Body.Open
		case e.Body.Check == "strainer-look":
			is["strainer"] = true
		case e.Kind == eventlog.Access && e.Body.Access == "end-caps-off":
			is["caps"] = *e.Body.Open
		}
	}
	return is
}

// Whatever happens in whatever room of whatever job: "ready" is never said while anything is open, off, shut, drained,
// wrong or unknown; an undo restores what was; one touch each settles what can be settled by a touch, and nothing else
// changes what stands.
func TestReadyIsNeverSaidWhenItIsNot(t *testing.T) {
	e := closedEngine(t)
	rapid.Check(t, func(t *rapid.T) {
		var list []eventlog.Entry
		for range rapid.IntRange(0, 25).Draw(t, "entries") {
			list = append(list, drawn(t))
		}
		s := fold(t, list...)
		checkState(t, s, e, simple(list))

		// settled as far as one touch goes
		rest := ready(t, e, list)
		settled := fold(t, rest...)
		checkState(t, settled, e, simple(rest))

		// one more entry and its undo leave the state as it was
		more := append(slices.Clip(list), drawn(t))
		undone := numbered(append(more, entry("job", eventlog.Undo, eventlog.Body{Undoes: numbered(more)[len(more)-1].ID})))
		undone[len(undone)-1].Subject.ID = more[len(more)-1].Subject.ID
		back := enginestate.Fold(book(t), undone)
		require.Equal(t, unmet(s.Conditions(e)), unmet(back.Conditions(e)))
		require.Equal(t, s.Flags(e), back.Flags(e))
		require.Equal(t, s.OpenAccess(), back.OpenAccess())
	})
}

// checkState holds what the state says against facts that do not come from its conditions.
func checkState(t *rapid.T, s *enginestate.State, e eventlog.EngineFacts, is map[string]bool) {
	if !s.MayStart(e) {
		for _, c := range s.Conditions(e) {
			require.True(t, c.Passed() || c.Why != "", "%s stands in the way and does not say why", c.ID)
		}
		return
	}
	for what, stands := range is {
		require.False(t, stands, "ready, and yet: %s", what)
	}
	for _, i := range s.Hands.Items {
		require.Zero(t, i.StillOff(), i.Key)
		require.LessOrEqual(t, i.On(), i.Off, i.Key)
		require.False(t, i.Kind == teardown.Seal && i.Reused > 0 && i.Why == "", i.Key)
	}
	for _, o := range s.Openings() {
		require.False(t, o.Bars, o.ID)
	}
	require.Empty(t, s.Hands.Isolated)
	require.False(t, s.Hands.Ledger.Open())
	require.Equal(t, enginestate.Open, s.Raw(e).State)
	for _, c := range s.Unfit() {
		require.NotEmpty(t, c.Reason, c.Part)
	}
	for _, f := range s.Fluids() {
		require.NotEqual(t, "acid", f.ID)
	}
	for _, f := range s.Flags(e) {
		require.Equal(t, "GAUGE TEED IN", f.Label, "ready with a flag up")
	}
}
