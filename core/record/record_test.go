package record_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/input"
	"hevrin/core/record"
	"hevrin/core/trade"
)

var start = time.Date(2026, time.May, 4, 9, 0, 0, 0, time.UTC)

func catalogue(t testing.TB) *trade.Catalogue {
	t.Helper()
	c, err := trade.Load()
	require.NoError(t, err)
	return c
}

func engine(c *trade.Catalogue) record.EngineFacts {
	f, _ := c.Family(trade.Closed)
	return record.EngineFacts{CraftID: "craft", Name: "main", Family: trade.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit}
}

// log makes entries with ids e0, e1, … a minute apart; the first opens the job.
type log []record.Entry

func opened() log {
	return log{{ID: "e0", Subject: record.Subject{Kind: record.OfJob, ID: "job"}, Kind: record.Opened, By: "A", At: start, Body: record.Body{EngineID: "engine"}}}
}

func (l log) and(kind record.Kind, b record.Body) log {
	n := len(l)
	return append(l[:n:n], record.Entry{ID: "e" + string(rune('0'+n)), Subject: l[0].Subject, Kind: kind, By: "A", At: start.Add(time.Duration(n) * time.Minute), Body: b})
}

func (l log) undoing(id string) log { return l.and(record.Undo, record.Body{Undoes: id}) }

func says(state string, ids ...string) record.Body {
	var b record.Body
	for _, id := range ids {
		b.Stated = append(b.Stated, record.Stated{ID: id, State: state})
	}
	return b
}

func ids(list []record.Known) []string {
	out := []string{}
	for _, k := range list {
		out = append(out, k.ID)
	}
	return out
}

func fold(t testing.TB, l log) *record.Job {
	t.Helper()
	j, ok := record.FoldJob(catalogue(t), l)
	require.True(t, ok)
	return j
}

func TestOfAGroupTheLastOneSaidStands(t *testing.T) {
	l := opened().and(record.Found, says(record.Present, "hot-at-idle")).and(record.Found, says(record.Present, "hot-under-load", "milky-oil"))
	assert.Equal(t, []string{"hot-under-load", "milky-oil"}, ids(fold(t, l).Findings))
	l = l.and(record.Found, says(record.Unknown, "hot-under-load"))
	assert.Equal(t, []string{"milky-oil"}, ids(fold(t, l).Findings))
}

func TestUndoBringsBackWhatStoodBeforeAndCanItselfBeUndone(t *testing.T) {
	l := opened().and(record.Found, says(record.Present, "hot-at-idle")).and(record.Found, says(record.Present, "hot-under-load"))
	before := fold(t, l[:2])
	undone := l.undoing("e2")
	assert.Equal(t, before, fold(t, undone), "to the letter")
	redone := undone.undoing("e3")
	assert.Equal(t, fold(t, l), fold(t, redone))
	assert.Equal(t, map[string]bool{"e3": true}, record.Undone(redone))
}

// Undoing everything after some point, latest first, restores the job of that point exactly, whatever was noted.
func TestUndoRestoresExactly(t *testing.T) {
	c := catalogue(t)
	rapid.Check(t, func(rt *rapid.T) {
		l := opened()
		steps := rapid.IntRange(1, 5).Draw(rt, "steps")
		for range steps {
			f := rapid.SampledFrom(c.Findings).Draw(rt, "finding")
			switch rapid.IntRange(0, 3).Draw(rt, "kind") {
			case 0:
				l = l.and(record.Found, says(record.Absent, f.ID))
			case 1:
				l = l.and(record.Told, says(record.Present, rapid.SampledFrom(c.History).Draw(rt, "history").ID))
			case 2:
				k := rapid.SampledFrom(c.Checks).Draw(rt, "check")
				l = l.and(record.Checked, record.Body{Check: k.ID, Outcome: record.Done, Stated: says(record.Present, k.Settles[0]).Stated})
			default:
				l = l.and(record.Found, says(record.Present, f.ID))
			}
		}
		keep := rapid.IntRange(1, len(l)).Draw(rt, "keep")
		want, _ := record.FoldJob(c, l[:keep])
		back := l
		for i := len(l) - 1; i >= keep; i-- {
			back = back.undoing(l[i].ID)
		}
		got, ok := record.FoldJob(c, back)
		require.True(rt, ok)
		require.Equal(rt, want, got)
	})
}

func TestAMadeCheckOpensItsAccessAndCountsItsMinutes(t *testing.T) {
	took := 19.0
	l := opened().and(record.Checked, record.Body{Check: "impeller-look", Outcome: record.Done, Minutes: &took, Stated: says(record.Present, "blades-missing").Stated}).
		and(record.Checked, record.Body{Check: "elbow-look", Outcome: record.Skipped})
	j := fold(t, l)
	assert.Equal(t, []string{"pump-cover-off"}, j.OpenAccess, "a skipped check opens nothing")
	assert.InDelta(t, 19, j.Minutes(), 0)
	assert.Equal(t, "impeller-look", j.Findings[0].Check)
	q := j.Question(engine(catalogue(t)))
	assert.Equal(t, []string{"impeller-look", "elbow-look"}, q.Done, "what cannot be got at is not offered again")
	shut := false
	assert.Empty(t, fold(t, l.and(record.Access, record.Body{Access: "pump-cover-off", Open: &shut})).OpenAccess)
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
	l := opened().and(record.Noted, record.Body{Words: "x"})
	assert.NoError(t, record.CheckUndo(l, "e1", 0))
	assert.ErrorContains(t, record.CheckUndo(l, "e0", 0), "1 more entries")
	assert.ErrorContains(t, record.CheckUndo(l, "other", 0), "no such entry")
	l = l.undoing("e1")
	assert.ErrorContains(t, record.CheckUndo(l, "e1", 0), "already")
	assert.NoError(t, record.CheckUndo(l, "e0", 0))
	assert.NoError(t, record.CheckUndo(l, "e2", 0), "an undo can be taken back")

	craft := []record.Entry{{ID: "k", Subject: record.Subject{Kind: record.OfCraft}, Kind: record.Kept, Body: record.Body{Craft: &record.CraftFacts{Name: "n"}}}}
	assert.ErrorContains(t, record.CheckUndo(craft, "k", 2), "still belong to it")
}

func TestCraftAndEngineAreTheirLastStandingFacts(t *testing.T) {
	entry := func(id, name string) record.Entry {
		return record.Entry{ID: id, Kind: record.Kept, Body: record.Body{Craft: &record.CraftFacts{Name: name}}}
	}
	list := []record.Entry{entry("a", "one"), entry("b", "two")}
	facts, ok := record.Craft(list)
	assert.True(t, ok)
	assert.Equal(t, "two", facts.Name)
	list = append(list, record.Entry{ID: "c", Kind: record.Undo, Body: record.Body{Undoes: "b"}})
	facts, _ = record.Craft(list)
	assert.Equal(t, "one", facts.Name)
	list = append(list, record.Entry{ID: "d", Kind: record.Undo, Body: record.Body{Undoes: "a"}})
	_, ok = record.Craft(list)
	assert.False(t, ok)
}

func TestEntriesThatDoNotFitAreRefusedWithTheField(t *testing.T) {
	c := catalogue(t)
	number := func(x float64) *float64 { return &x }
	yes := true
	for name, tc := range map[string]struct {
		kind  record.Kind
		body  record.Body
		field string
	}{
		"no such kind":           {"dance", record.Body{}, "kind"},
		"nothing stated":         {record.Found, record.Body{}, "stated"},
		"a field too many":       {record.Noted, record.Body{Words: "x", Check: "belt-look"}, "check"},
		"unknown finding":        {record.Found, says(record.Present, "purple"), "stated[0].id"},
		"unknown state":          {record.Found, says("maybe", "milky-oil"), "stated[0].state"},
		"twice":                  {record.Found, says(record.Present, "milky-oil", "milky-oil"), "stated[1].id"},
		"two of a group":         {record.Found, says(record.Present, "hot-at-idle", "runs-cool"), "stated[1].id"},
		"q out of range":         {record.Found, record.Body{Stated: []record.Stated{{ID: "gauge-off", State: record.Present, Q: number(1.5)}}}, "stated[0].q"},
		"q for one of a group":   {record.Found, record.Body{Stated: []record.Stated{{ID: "runs-cool", State: record.Present, Q: number(0.5)}}}, "stated[0].q"},
		"unknown history":        {record.Told, says(record.Present, "milky-oil"), "stated[0].id"},
		"unknown check":          {record.Checked, record.Body{Check: "prayer", Outcome: record.Done}, "check"},
		"a check not on board":   {record.Checked, record.Body{Check: "raw-filter-look", Outcome: record.Done, Stated: says(record.Present, "debris-in-filter").Stated}, "check"},
		"not what it settles":    {record.Checked, record.Body{Check: "belt-look", Outcome: record.Done, Stated: says(record.Present, "milky-oil").Stated}, "stated[0].id"},
		"done without a finding": {record.Checked, record.Body{Check: "belt-look", Outcome: record.Done}, "stated"},
		"skipped with a finding": {record.Checked, record.Body{Check: "belt-look", Outcome: record.Skipped, Stated: says(record.Present, "pump-belt-slack").Stated}, "stated"},
		"minutes below nothing":  {record.Checked, record.Body{Check: "belt-look", Outcome: record.Skipped, Minutes: number(-1)}, "minutes"},
		"unknown access":         {record.Access, record.Body{Access: "hatch", Open: &yes}, "access"},
		"unknown strategy":       {record.Strategy, record.Body{Strategy: "dice"}, "strategy"},
		"a cause it cannot have": {record.Closed, record.Body{Faults: []string{"block-silted"}, Explains: &yes}, "faults[0]"},
		"the same cause twice":   {record.Closed, record.Body{Faults: []string{"gauge-wrong", "gauge-wrong"}, Explains: &yes}, "faults[1]"},
		"no cause and no word":   {record.Closed, record.Body{Explains: &yes}, "words"},
	} {
		t.Run(name, func(t *testing.T) {
			l := opened().and(tc.kind, tc.body)
			err := record.CheckJobEntry(c, engine(c), fold(t, l[:1]), l[1])
			var wrong input.Errors
			require.ErrorAs(t, err, &wrong)
			assert.Equal(t, tc.field, wrong[0].Field)
			assert.NotEmpty(t, wrong[0].Allowed)
		})
	}
}

func TestAClosedJobTakesNothingButANoteOrBeingReopened(t *testing.T) {
	c := catalogue(t)
	yes := true
	l := opened().and(record.Closed, record.Body{Faults: []string{"gauge-wrong"}, Explains: &yes})
	j := fold(t, l)
	try := func(kind record.Kind, b record.Body) error {
		m := l.and(kind, b)
		return record.CheckJobEntry(c, engine(c), j, m[len(m)-1])
	}
	assert.ErrorContains(t, try(record.Found, says(record.Present, "milky-oil")), "reopen")
	assert.NoError(t, try(record.Noted, record.Body{Words: "paid"}))
	assert.NoError(t, try(record.Reopened, record.Body{}))
	again := fold(t, l.and(record.Reopened, record.Body{}))
	assert.Nil(t, again.Closing)
}

func TestEngineFactsOutOfRangeAreRefused(t *testing.T) {
	c := catalogue(t)
	require.NoError(t, record.CheckEngine(c, engine(c)))
	for field, spoil := range map[string]func(*record.EngineFacts){
		"name":         func(f *record.EngineFacts) { f.Name = "  " },
		"family":       func(f *record.EngineFacts) { f.Family = "air" },
		"fuel":         func(f *record.EngineFacts) { f.Fuel = "coal" },
		"rated_kw":     func(f *record.EngineFacts) { f.RatedKW = 60000 },
		"rated_rpm":    func(f *record.EngineFacts) { f.RatedRPM = 30 },
		"thermostat_c": func(f *record.EngineFacts) { f.ThermostatC = 180 },
		"circuit[1]":   func(f *record.EngineFacts) { f.Circuit = []string{"intake", "intake", "raw-pump", "outlet"} },
	} {
		f := engine(c)
		spoil(&f)
		assert.ErrorContains(t, record.CheckEngine(c, f), field+":")
	}
	assert.ErrorContains(t, record.CheckCraft(record.CraftFacts{}), "name")
}

func TestWhatTheRecordTellsIsTakenAsHistory(t *testing.T) {
	c := catalogue(t)
	e := engine(c)
	e.Dates = record.Dates{ImpellerFitted: "2025-05-03", Descaled: "2025-05-03", ElbowFitted: "2020-01-01"}
	told := record.KnownFromRecord(e, []record.Past{{At: start.AddDate(-1, 0, 0), Faults: []string{"impeller-vanes-missing"}}}, start)
	assert.Equal(t, []record.FromRecord{{ID: "impeller-overdue", Why: "impeller fitted 3 May 2025"}, {ID: "elbow-old", Why: "elbow fitted 1 Jan 2020"},
		{ID: "lost-blades-before", Why: "vanes were missing on 4 May 2025"}}, told)

	l := opened().and(record.Told, says(record.Absent, "elbow-old"))
	j := fold(t, l)
	j.TakeFromRecord(told)
	assert.Equal(t, []string{"elbow-old", "impeller-overdue", "lost-blades-before"}, ids(j.History))
	assert.Equal(t, []string{"impeller-overdue", "lost-blades-before"}, j.Question(e).History, "what was said in the job stands")

	e.Dates = record.Dates{ImpellerFitted: "2026-05-01"}
	assert.Equal(t, "impeller-just-fitted", record.KnownFromRecord(e, nil, start)[0].ID)
	e.Dates = record.Dates{ImpellerFitted: "2025-05-05"} // a year less a day
	assert.Empty(t, record.KnownFromRecord(e, []record.Past{{At: start.AddDate(-4, 0, 0), Faults: []string{"impeller-vanes-missing"}}}, start))
	e.Dates = record.Dates{Descaled: "yesterday"}
	assert.ErrorContains(t, record.CheckEngine(c, e), "dates.descaled")
}
