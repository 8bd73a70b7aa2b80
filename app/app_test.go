package app_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	appjob "hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/validation"
	"hevrin/store"
)

// shop is an app on an empty record, with a clock that the test turns.
type shop struct {
	*app.App
	t   *testing.T
	ctx context.Context
	now time.Time

	kept *store.Store
}

// Restart is the program started again on the same record.
func (s *shop) Restart() {
	s.App = app.New(s.Catalogue, s.kept, func() time.Time { return s.now })
	s.t.Cleanup(s.Close)
}

func newShop(t *testing.T) *shop {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	kept, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, kept.Close()) })
	s := &shop{t: t, kept: kept, ctx: context.Background(), now: time.Date(2026, time.May, 4, 9, 0, 0, 0, time.UTC)}
	s.App = app.New(c, kept, func() time.Time { return s.now })
	return s
}

func stamp() record.Stamp { return record.Stamp{EntryID: uuid.NewString(), By: "T"} }

func (s *shop) engine(dates eventlog.Dates) (craft, engine string) {
	s.t.Helper()
	craft, engine = uuid.NewString(), uuid.NewString()
	_, err := s.SaveCraft(s.ctx, craft, stamp(), eventlog.CraftFacts{Name: "Skiff"})
	require.NoError(s.t, err)
	f, _ := s.Catalogue.Family(catalogue.Closed)
	_, err = s.SaveEngine(s.ctx, engine, stamp(), eventlog.EngineFacts{CraftID: craft, Name: "main",
		Family: catalogue.Closed, Fuel: "petrol",
		RatedKW: 150, RatedRPM: 4600, ThermostatC: 71, Circuit: f.Circuit, Dates: dates})
	require.NoError(s.t, err)
	return craft, engine
}

// Of two who change a craft or an engine that both opened, the second is told of the first, by whom; once the second has
// seen that, it saves. Whoever did not look, as an older device, is not asked.
func TestTheSecondOfTwoIsToldOfTheFirst(t *testing.T) {
	s := newShop(t)
	craft, engine := s.engine(eventlog.Dates{})
	page, err := s.Craft(s.ctx, craft)
	require.NoError(t, err)
	require.NotEmpty(t, page.Craft.Saved)
	save := func(name, seen string) error {
		st := stamp()
		st.By, st.Seen = name, seen
		_, err := s.SaveCraft(s.ctx, craft, st, eventlog.CraftFacts{Name: name})
		return err
	}
	require.NoError(t, save("First", page.Craft.Saved))
	var crossed *eventlog.Crossed
	require.ErrorAs(t, save("Second", page.Craft.Saved), &crossed)
	assert.Equal(t, "First", crossed.By)
	page, err = s.Craft(s.ctx, craft)
	require.NoError(t, err)
	assert.Equal(t, "First", page.Craft.Name)
	require.NoError(t, save("Second", page.Craft.Saved))
	require.NoError(t, save("Older device", ""))

	of, err := s.Engine(s.ctx, engine)
	require.NoError(t, err)
	facts, seen := record.FactsOf(of.Engine), of.Engine.Saved
	for i, again := range []bool{true, false} {
		st := stamp()
		st.Seen, facts.Name = seen, fmt.Sprint("name", i)
		after, err := s.SaveEngine(s.ctx, engine, st, facts)
		if again {
			require.NoError(t, err)
			// sent twice, saved once: a device that did not hear the answer is not told of itself
			_, err = s.SaveEngine(s.ctx, engine, st, facts)
			require.NoError(t, err)
			require.NotEqual(t, seen, after.Engine.Saved)
			_, err = s.Undo(s.ctx, st.EntryID, stamp())
			require.NoError(t, err)
			back, err := s.Engine(s.ctx, engine)
			require.NoError(t, err)
			assert.Equal(t, seen, back.Engine.Saved, "what was taken back was not saved last")
			_, err = s.SaveEngine(s.ctx, engine, stamp(), facts)
			require.NoError(t, err)
			continue
		}
		require.ErrorAs(t, err, &crossed)
	}
}

func (s *shop) job(engine string) string {
	s.t.Helper()
	id := uuid.NewString()
	_, err := s.OpenJob(s.ctx, id, stamp(), appjob.Start{Engine: engine, Words: "hot"})
	require.NoError(s.t, err)
	return id
}

func (s *shop) note(job string, kind eventlog.Kind, b eventlog.Body) *appjob.Page {
	s.t.Helper()
	p, err := s.NoteInJob(s.ctx, job, kind, stamp(), b)
	require.NoError(s.t, err)
	return p
}

func says(state string, ids ...string) eventlog.Body {
	var b eventlog.Body
	for _, id := range ids {
		b.Stated = append(b.Stated, eventlog.Stated{ID: id, State: state})
	}
	return b
}

func close(faults ...string) eventlog.Body {
	yes := true
	return eventlog.Body{Faults: faults, Explains: &yes, Words: "done"}
}

func TestTheNextJobKnowsWhatTheLastOneFound(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{ImpellerFitted: "2025-01-10"})
	first := s.job(engine)
	s.note(first, eventlog.Closed, close("impeller-vanes-missing"))
	s.now = s.now.AddDate(0, 6, 0)
	p, err := s.Job(s.ctx, s.job(engine))
	require.NoError(t, err)
	why := map[string]string{}
	for _, h := range p.Job.History {
		why[h.ID] = h.Record
	}
	assert.Equal(t, map[string]string{"impeller-overdue": "impeller fitted 10 Jan 2025",
		"lost-blades-before": "vanes were missing on 4 May 2026"}, why)
	share := func(p *appjob.Page) float64 {
		for _, x := range p.Answer.Suspects {
			if x.Fault == "debris-at-cooler" {
				return x.Probability
			}
		}
		return 0
	}
	told := share(p)
	p = s.note(p.Card.ID, eventlog.HistoryStated, says(eventlog.Absent, "lost-blades-before"))
	assert.Less(t, share(p), told, "the job's own word stands against the record's")
}

func TestTheListsLineOfAJobFollowsItsEntries(t *testing.T) {
	s := newShop(t)
	craft, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	took := 5.0
	s.note(job, eventlog.Found, says(eventlog.Present, "weak-water-at-outlet", "fine-again-after-stopping"))
	s.note(job, eventlog.HistoryStated, says(eventlog.Present, "weed-about"))
	p := s.note(job, eventlog.Checked, eventlog.Body{Check: "strainer-look", Outcome: eventlog.Done, Minutes: &took,
		Stated: says(eventlog.Present, "debris-in-strainer").Stated})
	assert.Equal(t, []string{"weak-water-at-outlet", "fine-again-after-stopping"}, p.Card.Complaint)
	assert.Equal(t, []string{"strainer-clogged"}, p.Card.Faults, "found so far")
	assert.Equal(t, 1, p.Card.Checks)

	yard, err := s.Yard(s.ctx)
	require.NoError(t, err)
	require.Len(t, yard[0].Engines[0].Jobs, 1)
	shut := false
	s.note(job, eventlog.Access, eventlog.Body{Access: "strainer-open", Open: &shut})
	p = s.note(job, eventlog.Closed, close("strainer-clogged", "intake-blocked"))
	assert.NotNil(t, p.Card.ClosedAt)
	yard, err = s.Yard(s.ctx)
	require.NoError(t, err)
	assert.Empty(t, yard[0].Engines[0].Jobs, "the yard shows what is open")
	page, err := s.Craft(s.ctx, craft)
	require.NoError(t, err)
	assert.Equal(t, []string{"strainer-clogged", "intake-blocked"}, page.Engines[0].Jobs[0].Faults)
}

func TestAJobWhoseOpeningIsTakenBackIsGoneAndComesBack(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	p, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	back := stamp()
	subject, err := s.Undo(s.ctx, p.Log[0].ID, back)
	require.NoError(t, err)
	assert.Equal(t, eventlog.Subject{Kind: eventlog.OfJob, ID: job}, subject)
	_, err = s.Job(s.ctx, job)
	assert.ErrorIs(t, err, record.ErrNotFound)
	_, err = s.NoteInJob(s.ctx, job, eventlog.Noted, stamp(), eventlog.Body{Words: "x"})
	assert.ErrorIs(t, err, record.ErrNotFound)
	_, err = s.Undo(s.ctx, back.EntryID, stamp())
	require.NoError(t, err)
	_, err = s.Job(s.ctx, job)
	assert.NoError(t, err)
}

func TestWhatIsRefusedLeavesNoTrace(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	var wrong validation.Errors
	_, err := s.NoteInJob(s.ctx, job, eventlog.Found, stamp(), says(eventlog.Present, "nonsense"))
	assert.ErrorAs(t, err, &wrong)
	var clash *eventlog.Conflict
	_, err = s.NoteInJob(s.ctx, job, eventlog.Reopened, stamp(), eventlog.Body{})
	assert.ErrorAs(t, err, &clash)
	_, err = s.OpenJob(s.ctx, job, stamp(), appjob.Start{Engine: engine, Words: "again"})
	assert.ErrorAs(t, err, &clash, "a job is started once")
	_, err = s.SaveEngine(s.ctx, uuid.NewString(), stamp(), eventlog.EngineFacts{Name: "m", Family: catalogue.Direct,
		Fuel: "diesel", RatedKW: 12, RatedRPM: 2600,
		ThermostatC: 60, Circuit: []string{"intake", "raw-pump", "outlet"}, CraftID: uuid.NewString()})
	assert.ErrorAs(t, err, &wrong)
	_, err = s.Undo(s.ctx, uuid.NewString(), stamp())
	assert.ErrorIs(t, err, record.ErrNotFound)
	p, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Len(t, p.Log, 1)
}

func TestTheLogTellsWhatAnEntryChanged(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	page, err := s.Engine(s.ctx, engine)
	require.NoError(t, err)
	facts := eventlog.EngineFacts{CraftID: page.Craft.ID, Name: "main", Family: catalogue.Closed, Fuel: "petrol",
		RatedKW: 160, RatedRPM: 4600, ThermostatC: 71,
		Circuit: page.Engine.Circuit, Dates: eventlog.Dates{Descaled: "2026-04-01"}}
	page, err = s.SaveEngine(s.ctx, engine, stamp(), facts)
	require.NoError(t, err)
	assert.Equal(t, []record.FieldChange{{Field: "rated_kw", From: "150", To: "160"}, {Field: "descaled", From: "",
		To: "2026-04-01"}}, page.Log[1].Changed)
}
