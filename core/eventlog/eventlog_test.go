package eventlog_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/validation"
)

var start = time.Date(2026, time.May, 4, 9, 0, 0, 0, time.UTC)

func loadCatalogue(t testing.TB) *catalogue.Catalogue {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

func engine(c *catalogue.Catalogue) eventlog.EngineFacts {
	f, _ := c.Family(catalogue.Closed)
	return eventlog.EngineFacts{CraftID: "craft", Name: "main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit}
}

// log makes entries with ids e0, e1, … a minute apart; the first opens the job.
type log []eventlog.Entry

func opened() log {
	return log{{ID: "e0", Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "job"}, Kind: eventlog.Opened, By: "A",
		At: start, Body: eventlog.Body{EngineID: "engine"}}}
}

func (l log) and(kind eventlog.Kind, b eventlog.Body) log {
	n := len(l)
	return append(l[:n:n], eventlog.Entry{ID: "e" + string(rune('0'+n)), Subject: l[0].Subject, Kind: kind, By: "A",
		At: start.Add(time.Duration(n) * time.Minute), Body: b})
}

func (l log) undoing(id string) log { return l.and(eventlog.Undo, eventlog.Body{Undoes: id}) }

func says(state string, ids ...string) eventlog.Body {
	var b eventlog.Body
	for _, id := range ids {
		b.Stated = append(b.Stated, eventlog.Stated{ID: id, State: state})
	}
	return b
}

func ids(list []eventlog.Statement) []string {
	out := []string{}
	for _, k := range list {
		out = append(out, k.ID)
	}
	return out
}

func fold(t testing.TB, l log) *eventlog.Job {
	t.Helper()
	j, ok := eventlog.FoldJob(loadCatalogue(t), l)
	require.True(t, ok)
	return j
}

func TestOfAGroupTheLastOneSaidStands(t *testing.T) {
	l := opened().and(eventlog.Found, says(eventlog.Present, "hot-at-idle")).and(eventlog.Found, says(eventlog.Present,
		"hot-under-load", "milky-oil"))
	assert.Equal(t, []string{"hot-under-load", "milky-oil"}, ids(fold(t, l).Findings))
	l = l.and(eventlog.Found, says(eventlog.Unknown, "hot-under-load"))
	assert.Equal(t, []string{"milky-oil"}, ids(fold(t, l).Findings))
}

func TestUndoBringsBackWhatStoodBeforeAndCanItselfBeUndone(t *testing.T) {
	l := opened().and(eventlog.Found, says(eventlog.Present, "hot-at-idle")).and(eventlog.Found, says(eventlog.Present,
		"hot-under-load"))
	before := fold(t, l[:2])
	undone := l.undoing("e2")
	assert.Equal(t, before, fold(t, undone), "to the letter")
	redone := undone.undoing("e3")
	assert.Equal(t, fold(t, l), fold(t, redone))
	assert.Equal(t, map[string]bool{"e3": true}, eventlog.Undone(redone))
}

// Undoing everything after some point, latest first, restores the job of that point exactly, whatever was noted.
func TestUndoRestoresExactly(t *testing.T) {
	c := loadCatalogue(t)
	rapid.Check(t, func(rt *rapid.T) {
		l := opened()
		steps := rapid.IntRange(1, 5).Draw(rt, "steps")
		for range steps {
			f := rapid.SampledFrom(c.Findings).Draw(rt, "finding")
			switch rapid.IntRange(0, 3).Draw(rt, "kind") {
			case 0:
				l = l.and(eventlog.Found, says(eventlog.Absent, f.ID))
			case 1:
				l = l.and(eventlog.HistoryStated, says(eventlog.Present, rapid.SampledFrom(c.History).Draw(rt, "history").ID))
			case 2:
				k := rapid.SampledFrom(c.Checks).Draw(rt, "check")
				l = l.and(eventlog.Checked, eventlog.Body{Check: k.ID, Outcome: eventlog.Done, Stated: says(eventlog.Present,
					k.Settles[0]).Stated})
			default:
				l = l.and(eventlog.Found, says(eventlog.Present, f.ID))
			}
		}
		keep := rapid.IntRange(1, len(l)).Draw(rt, "keep")
		want, _ := eventlog.FoldJob(c, l[:keep])
		back := l
		for i := len(l) - 1; i >= keep; i-- {
			back = back.undoing(l[i].ID)
		}
		got, ok := eventlog.FoldJob(c, back)
		require.True(rt, ok)
		require.Equal(rt, want, got)
	})
}

func TestAMadeCheckCountsItsMinutes(t *testing.T) {
	took := 19.0
	l := opened().and(eventlog.Checked, eventlog.Body{Check: "impeller-look", Outcome: eventlog.Done, Minutes: &took,
		Stated: says(eventlog.Present, "blades-missing").Stated}).
		and(eventlog.Checked, eventlog.Body{Check: "elbow-look", Outcome: eventlog.Skipped})
	j := fold(t, l)
	assert.InDelta(t, 19, j.Minutes(), 0)
	assert.Equal(t, "impeller-look", j.Findings[0].Check)
	q := j.Question(engine(loadCatalogue(t)), []string{"pump-cover-off"})
	assert.Equal(t, []string{"pump-cover-off"}, q.OpenAccess)
	assert.Equal(t, []string{"impeller-look", "elbow-look"}, q.Done, "what cannot be got at is not offered again")
}

func TestATapThatWaitedKeepsItsOwnTime(t *testing.T) {
	early := start.Add(-time.Hour)
	l := opened()
	l[0].TappedAt = &early
	assert.Equal(t, early, fold(t, l).OpenedAt)
	late := start.Add(time.Hour) // a device's clock that runs ahead
	l[0].TappedAt = &late
	assert.Equal(t, start, fold(t, l).OpenedAt)
}

func TestWhatMayBeUndone(t *testing.T) {
	l := opened().and(eventlog.Noted, eventlog.Body{Words: "x"})
	assert.NoError(t, eventlog.CheckUndo(l, "e1", 0))
	assert.ErrorContains(t, eventlog.CheckUndo(l, "e0", 0), "1 more entries")
	assert.ErrorContains(t, eventlog.CheckUndo(l, "other", 0), "no such entry")
	l = l.undoing("e1")
	assert.ErrorContains(t, eventlog.CheckUndo(l, "e1", 0), "already")
	assert.NoError(t, eventlog.CheckUndo(l, "e0", 0))
	assert.NoError(t, eventlog.CheckUndo(l, "e2", 0), "an undo can be taken back")

	craft := []eventlog.Entry{{ID: "k", Subject: eventlog.Subject{Kind: eventlog.OfCraft}, Kind: eventlog.Saved,
		Body: eventlog.Body{Craft: &eventlog.CraftFacts{Name: "n"}}}}
	assert.ErrorContains(t, eventlog.CheckUndo(craft, "k", 2), "still belong to it")
}

func TestCraftAndEngineAreTheirLastStandingFacts(t *testing.T) {
	entry := func(id, name string) eventlog.Entry {
		return eventlog.Entry{ID: id, Kind: eventlog.Saved, Body: eventlog.Body{Craft: &eventlog.CraftFacts{Name: name}}}
	}
	list := []eventlog.Entry{entry("a", "one"), entry("b", "two")}
	facts, ok := eventlog.Craft(list)
	assert.True(t, ok)
	assert.Equal(t, "two", facts.Name)
	list = append(list, eventlog.Entry{ID: "c", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "b"}})
	facts, _ = eventlog.Craft(list)
	assert.Equal(t, "one", facts.Name)
	list = append(list, eventlog.Entry{ID: "d", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "a"}})
	_, ok = eventlog.Craft(list)
	assert.False(t, ok)
}

func TestEntriesThatDoNotFitAreRefusedWithTheField(t *testing.T) {
	c := loadCatalogue(t)
	number := func(x float64) *float64 { return &x }
	yes := true
	for name, tc := range map[string]struct {
		kind  eventlog.Kind
		body  eventlog.Body
		field string
	}{
		"no such kind":     {"dance", eventlog.Body{}, "kind"},
		"nothing stated":   {eventlog.Found, eventlog.Body{}, "stated"},
		"a field too many": {eventlog.Noted, eventlog.Body{Words: "x", Check: "belt-look"}, "check"},
		"unknown finding":  {eventlog.Found, says(eventlog.Present, "purple"), "stated[0].id"},
		"unknown state":    {eventlog.Found, says("maybe", "milky-oil"), "stated[0].state"},
		"twice":            {eventlog.Found, says(eventlog.Present, "milky-oil", "milky-oil"), "stated[1].id"},
		"two of a group":   {eventlog.Found, says(eventlog.Present, "hot-at-idle", "runs-cool"), "stated[1].id"},
		"q out of range": {eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "gauge-off",
			State: eventlog.Present, Q: number(1.5)}}}, "stated[0].q"},
		"q for one of a group": {eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{{ID: "runs-cool",
			State: eventlog.Present, Q: number(0.5)}}}, "stated[0].q"},
		"unknown history": {eventlog.HistoryStated, says(eventlog.Present, "milky-oil"), "stated[0].id"},
		"unknown check":   {eventlog.Checked, eventlog.Body{Check: "prayer", Outcome: eventlog.Done}, "check"},
		"a check not on board": {eventlog.Checked, eventlog.Body{Check: "raw-filter-look", Outcome: eventlog.Done,
			Stated: says(eventlog.Present, "debris-in-filter").Stated}, "check"},
		"not what it settles": {eventlog.Checked, eventlog.Body{Check: "belt-look", Outcome: eventlog.Done,
			Stated: says(eventlog.Present, "milky-oil").Stated}, "stated[0].id"},
		"done without a finding": {eventlog.Checked, eventlog.Body{Check: "belt-look", Outcome: eventlog.Done}, "stated"},
		"read off, told by no figure": {eventlog.Checked, eventlog.Body{Check: "belt-look", Outcome: eventlog.Done,
			Round: &eventlog.Round{RPM: 2000}}, "round"},
		"skipped with a reading": {eventlog.Checked, eventlog.Body{Check: "outlet-flow", Outcome: eventlog.Skipped,
			Round: &eventlog.Round{RPM: 2000}}, "stated"},
		"skipped with a finding": {eventlog.Checked, eventlog.Body{Check: "belt-look", Outcome: eventlog.Skipped,
			Stated: says(eventlog.Present, "pump-belt-slack").Stated}, "stated"},
		"minutes below nothing": {eventlog.Checked, eventlog.Body{Check: "belt-look", Outcome: eventlog.Skipped,
			Minutes: number(-1)}, "minutes"},
		"unknown access":   {eventlog.Access, eventlog.Body{Access: "hatch", Open: &yes}, "access"},
		"unknown strategy": {eventlog.Strategy, eventlog.Body{Strategy: "dice"}, "strategy"},
		"a cause it cannot have": {eventlog.Closed, eventlog.Body{Faults: []string{"block-silted"}, Explains: &yes},
			"faults[0]"},
		"the same cause twice": {eventlog.Closed, eventlog.Body{Faults: []string{"gauge-wrong", "gauge-wrong"},
			Explains: &yes}, "faults[1]"},
		"one of one": {eventlog.Closed, eventlog.Body{Faults: []string{"gauge-wrong"}, Explains: &yes, OneOf: &yes},
			"one_of_these"},
		"no cause and no word": {eventlog.Closed, eventlog.Body{Explains: &yes}, "words"},
	} {
		t.Run(name, func(t *testing.T) {
			l := opened().and(tc.kind, tc.body)
			err := eventlog.CheckJobEntry(c, engine(c), fold(t, l[:1]), nil, l[1])
			var wrong validation.Errors
			require.ErrorAs(t, err, &wrong)
			assert.Equal(t, tc.field, wrong[0].Field)
			assert.NotEmpty(t, wrong[0].Allowed)
		})
	}
}

func TestAClosedJobTakesNothingButANoteOrBeingReopened(t *testing.T) {
	c := loadCatalogue(t)
	yes := true
	l := opened().and(eventlog.Closed, eventlog.Body{Faults: []string{"gauge-wrong"}, Explains: &yes})
	j := fold(t, l)
	try := func(kind eventlog.Kind, b eventlog.Body) error {
		m := l.and(kind, b)
		return eventlog.CheckJobEntry(c, engine(c), j, nil, m[len(m)-1])
	}
	assert.ErrorContains(t, try(eventlog.Found, says(eventlog.Present, "milky-oil")), "reopen")
	assert.NoError(t, try(eventlog.Noted, eventlog.Body{Words: "paid"}))
	assert.NoError(t, try(eventlog.Reopened, eventlog.Body{}))
	again := fold(t, l.and(eventlog.Reopened, eventlog.Body{}))
	assert.Nil(t, again.Closing)
}

func TestEngineFactsOutOfRangeAreRefused(t *testing.T) {
	c := loadCatalogue(t)
	require.NoError(t, eventlog.CheckEngine(c, engine(c)))
	for field, spoil := range map[string]func(*eventlog.EngineFacts){
		"name":               func(f *eventlog.EngineFacts) { f.Name = "  " },
		"family":             func(f *eventlog.EngineFacts) { f.Family = "air" },
		"cooling.pump_drive": func(f *eventlog.EngineFacts) { f.Cooling.PumpDrive = "sail" },
		"fuel":               func(f *eventlog.EngineFacts) { f.Fuel = "coal" },
		"rated_kw":           func(f *eventlog.EngineFacts) { f.RatedKW = 60000 },
		"rated_rpm":          func(f *eventlog.EngineFacts) { f.RatedRPM = 30 },
		"thermostat_c":       func(f *eventlog.EngineFacts) { f.ThermostatC = 180 },
		"circuit[1]":         func(f *eventlog.EngineFacts) { f.Circuit = []string{"intake", "intake", "raw-pump", "outlet"} },
	} {
		f := engine(c)
		spoil(&f)
		assert.ErrorContains(t, eventlog.CheckEngine(c, f), field+":")
	}
	assert.ErrorContains(t, eventlog.CheckCraft(eventlog.CraftFacts{}), "name")
}

func TestWhatTheRecordTellsIsTakenAsHistory(t *testing.T) {
	c := loadCatalogue(t)
	e := engine(c)
	e.Dates = eventlog.Dates{ImpellerFitted: "2025-05-03", Descaled: "2025-05-03", ElbowFitted: "2020-01-01"}
	told := eventlog.HistoryFromRecord(e, []eventlog.Past{{At: start.AddDate(-1, 0, 0),
		Faults: []string{"impeller-vanes-missing"}}}, start)
	assert.Equal(t, []eventlog.FromRecord{{ID: "impeller-overdue", Why: "impeller fitted 3 May 2025"}, {ID: "elbow-old",
		Why: "elbow fitted 1 Jan 2020"},
		{ID: "lost-blades-before", Why: "vanes were missing on 4 May 2025"}}, told)

	l := opened().and(eventlog.HistoryStated, says(eventlog.Absent, "elbow-old"))
	j := fold(t, l)
	j.TakeFromRecord(told)
	assert.Equal(t, []string{"elbow-old", "impeller-overdue", "lost-blades-before"}, ids(j.History))
	assert.Equal(t, []string{"impeller-overdue", "lost-blades-before"}, j.Question(e, nil).History,
		"what was said in the job stands")

	e.Dates = eventlog.Dates{ImpellerFitted: "2026-05-01"}
	assert.Equal(t, "impeller-just-fitted", eventlog.HistoryFromRecord(e, nil, start)[0].ID)
	e.Dates = eventlog.Dates{ImpellerFitted: "2025-05-05"} // a year less a day
	assert.Empty(t, eventlog.HistoryFromRecord(e, []eventlog.Past{{At: start.AddDate(-4, 0, 0),
		Faults: []string{"impeller-vanes-missing"}}}, start))
	e.Dates = eventlog.Dates{Descaled: "yesterday"}
	assert.ErrorContains(t, eventlog.CheckEngine(c, e), "dates.descaled")
}
