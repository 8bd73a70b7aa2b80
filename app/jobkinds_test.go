package app_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	appjob "hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/validation"
)

// What a job is opened for stands in it: its kind's symptoms, its water's, and what was seen beside, each once.
func TestAJobTakesWhatItsKindSaysAsSo(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	id := uuid.NewString()
	p, err := s.OpenJob(s.ctx, id, stamp(), appjob.Start{Engine: engine, Seen: []string{"grounded", "bilge-water-salt"},
		Opening: eventlog.Opening{Kind: "leak", Leak: &eventlog.Leak{Water: "salt", PerDay: 3}}})
	require.NoError(t, err)
	assert.Equal(t, "leak", p.Card.Kind)
	assert.Equal(t, []string{"bilge-water-salt"}, p.Card.Complaint)
	require.Len(t, p.Job.Findings, 1)
	require.NotEmpty(t, p.Job.History)
	assert.Equal(t, "grounded", p.Job.History[0].ID)
	assert.InDelta(t, 3, p.Job.Opening.Leak.PerDay, 0)

	p, err = s.NoteInJob(s.ctx, id, eventlog.Found, stamp(), says(eventlog.Unknown, "bilge-water-salt"))
	require.NoError(t, err)
	assert.Empty(t, p.Card.Complaint, "what was taken as so can be changed")

	p, err = s.Job(s.ctx, s.job(engine))
	require.NoError(t, err)
	assert.Equal(t, catalogue.RunsHot, p.Card.Kind, "nobody said another")
}

func TestOpeningsThatDoNotFit(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	for field, start := range map[string]appjob.Start{
		"kind":            {Opening: eventlog.Opening{Kind: "party"}},
		"plan":            {Opening: eventlog.Opening{Kind: "leak", Plan: []string{"impeller"}}},
		"plan[0]":         {Opening: eventlog.Opening{Kind: "service", Plan: []string{"sails"}}},
		"plan[1]":         {Opening: eventlog.Opening{Kind: "service", Plan: []string{"impeller", "impeller"}}},
		"leak.water":      {Opening: eventlog.Opening{Kind: "leak", Leak: &eventlog.Leak{Water: "beer"}}},
		"leak.litres_day": {Opening: eventlog.Opening{Kind: "leak", Leak: &eventlog.Leak{PerDay: 5001}}},
		"stated[0]":       {Seen: []string{"tubes-crusted"}}, // takes a look
	} {
		start.Engine = engine
		_, err := s.OpenJob(s.ctx, uuid.NewString(), stamp(), start)
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
	}
}

// A service's plan is done when its items are: by a task's new part, a check, or put down by hand on the engine.
func TestAPlanIsDoneItemByItem(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	id := uuid.NewString()
	p, err := s.OpenJob(s.ctx, id, stamp(), appjob.Start{Engine: engine, Opening: eventlog.Opening{Kind: "service",
		Plan: []string{"impeller", "strainer", "seacock"}}})
	require.NoError(t, err)
	require.Len(t, p.Plan, 3)
	assert.Equal(t, "impeller-change", p.Plan[0].Task)
	assert.Equal(t, "strainer-look", p.Plan[1].Check)
	for _, i := range p.Plan {
		assert.Nil(t, i.DoneAt, i.Item)
	}
	minutes := 5.0
	p, err = s.NoteInJob(s.ctx, id, eventlog.Checked, stamp(), eventlog.Body{Check: "strainer-look",
		Outcome: eventlog.Done, Minutes: &minutes, Stated: []eventlog.Stated{{ID: "debris-in-strainer", State: eventlog.Absent}}})
	require.NoError(t, err)
	assert.NotNil(t, p.Plan[1].DoneAt)
	assert.Nil(t, p.Plan[0].DoneAt)
	_, err = s.NoteMaintenance(s.ctx, engine, stamp(), nil, &eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone,
		Item: "seacock", Day: eventlog.Day(s.now.Format(time.DateOnly))})
	require.NoError(t, err)
	p, err = s.Job(s.ctx, id)
	require.NoError(t, err)
	assert.NotNil(t, p.Plan[2].DoneAt, "put down by hand")

	explains := true
	p, err = s.NoteInJob(s.ctx, id, eventlog.Closed, stamp(), eventlog.Body{Explains: &explains, Despite: "Lid off overnight"})
	require.NoError(t, err, "a service ends without a cause, and without words")
	assert.NotNil(t, p.Job.Closing)
	_, err = s.NoteInJob(s.ctx, s.job(engine), eventlog.Closed, stamp(), eventlog.Body{Explains: &explains})
	require.ErrorContains(t, err, "no cause is named")
}

// A leak run by hand: signed it is tight, in the job's line too, and a look on the day after is due until it is made.
func TestALeakRunIsTightInTheListsAndAsksForTheDayAfter(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	id := s.job(engine)
	act := func(a proving.Act) *appjob.Page {
		a.Run = "run-1"
		p, err := s.NoteInJob(s.ctx, id, eventlog.Proved, stamp(), eventlog.Body{Proving: &a})
		require.NoError(t, err, a.Do)
		return p
	}
	p := act(proving.Act{Do: proving.Begin, Where: proving.Afloat, How: proving.LeakRun})
	for _, c := range p.State.Conditions(record.FactsOf(p.Engine)) {
		if !c.Passed() {
			_, err := s.NoteInJob(s.ctx, id, eventlog.TeardownNoted, stamp(), eventlog.Body{Teardown: &teardown.Act{
				Do: c.Settle, Item: c.Item, State: c.State, Count: c.Count}})
			require.NoError(t, err, c.ID)
		}
	}
	p, err := s.NoteInJob(s.ctx, id, eventlog.TeardownNoted, stamp(), eventlog.Body{Teardown: &teardown.Act{
		Do: teardown.Start}})
	require.NoError(t, err)
	act(proving.Act{Do: proving.Prime, Water: true, Seconds: 10})
	for _, stage := range []string{proving.ColdLeaks, proving.HotLeaks} {
		for _, j := range p.Proving.Runs[0].Joints {
			act(proving.Act{Do: proving.Look, Stage: stage, Joint: j.ID, Station: j.Station, State: proving.Dry})
		}
		act(proving.Act{Do: proving.Smell, Stage: stage, OK: true})
	}
	act(proving.Act{Do: proving.Bilge, OK: true})
	act(proving.Act{Do: proving.Loaded, Minutes: 10})
	p = act(proving.Act{Do: proving.Sign})
	assert.Equal(t, proving.Tight, p.Proving.Runs[0].Outcome)
	assert.Equal(t, proving.Tight, p.Card.Verdict)
	assert.True(t, leakCheckDue(t, s, engine), "a look on the day after")
	act(proving.Act{Do: proving.NextDay, OK: true})
	assert.False(t, leakCheckDue(t, s, engine))
	p, err = s.NoteInJob(s.ctx, id, eventlog.Found, stamp(), says(eventlog.Present, "drip-at-weep-hole"))
	require.NoError(t, err)
	assert.Equal(t, proving.Tight, p.Card.Verdict, "a sign is no find")
	minutes := 5.0
	p, err = s.NoteInJob(s.ctx, id, eventlog.Checked, stamp(), eventlog.Body{Check: "leak-round", Outcome: eventlog.Done,
		Minutes: &minutes, Stated: []eventlog.Stated{{ID: "leak-in-delivery", State: eventlog.Present}}})
	require.NoError(t, err)
	require.NotEmpty(t, p.Answer.Found)
	assert.Empty(t, p.Card.Verdict, "what was found since is not tight")
	p = act(proving.Act{Do: proving.NextDay})
	assert.Equal(t, proving.NotCured, p.Card.Verdict, "it dripped")
}

func leakCheckDue(t *testing.T, s *shop, engine string) bool {
	t.Helper()
	p, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	for _, d := range p.Due {
		if d.Label == "Next-day leak check" {
			return true
		}
	}
	return false
}
