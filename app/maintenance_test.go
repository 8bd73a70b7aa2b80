package app_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/validation"
)

func (s *shop) meter(engine string, day eventlog.Day, hours float64) (*schedule.ServicePage, error) {
	return s.NoteMaintenance(s.ctx, engine, stamp(), &eventlog.Meter{Day: day, Hours: hours}, nil)
}

func (s *shop) say(engine string, act eventlog.MaintenanceAct) (*schedule.ServicePage, error) {
	return s.NoteMaintenance(s.ctx, engine, stamp(), nil, &act)
}

func item(t *testing.T, p *schedule.ServicePage, id string) maintenance.Due {
	t.Helper()
	for _, d := range p.Due {
		if d.ID == id {
			return d
		}
	}
	require.Fail(t, "not kept up", id)
	return maintenance.Due{}
}

func TestAnEnginesUpkeepFromHerJobsAndHerLog(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{ImpellerFitted: "2025-03-01"})
	_, err := s.meter(engine, "2025-05-04", 100)
	require.NoError(t, err)
	p, err := s.meter(engine, "2026-05-03", 340)
	require.NoError(t, err)
	assert.InDelta(t, 240, p.Hours.PerYear, 3)
	assert.Equal(t, maintenance.Overdue, item(t, p, "impeller").State)
	assert.Equal(t, maintenance.Unknown, item(t, p, "belts").State)

	// a job does it: an impeller back new, a check made
	job := s.job(engine)
	task, ok := s.Catalogue.Task("impeller-change")
	require.True(t, ok)
	s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.Begin, Item: task.ID}})
	s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.Isolate, Item: "seacock"}})
	s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.Off,
		Item: "impeller-change/impeller", Count: 1}})
	on := uuid.NewString()
	_, err = s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, record.Stamp{EntryID: on, By: "T"},
		eventlog.Body{Teardown: &teardown.Act{Do: teardown.On, Item: "impeller-change/impeller", Count: 1,
			State: teardown.New}})
	require.NoError(t, err)
	b := says(eventlog.Absent, "pump-belt-slack", "circ-belt-slack")
	b.Check, b.Outcome = "belt-look", eventlog.Done
	s.note(job, eventlog.Checked, b)
	p, err = s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.Equal(t, maintenance.Later, item(t, p, "impeller").State)
	assert.Equal(t, job, item(t, p, "impeller").Last.Job)
	assert.NotEqual(t, maintenance.Unknown, item(t, p, "belts").State)
	var kinds []string
	for _, l := range p.History {
		kinds = append(kinds, l.Kind)
	}
	assert.Contains(t, kinds, schedule.ServiceOpened)
	assert.Contains(t, kinds, schedule.ServiceDone)

	// taken back, it is not done any more
	_, err = s.Undo(s.ctx, on, stamp())
	require.NoError(t, err)
	p, err = s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.Equal(t, maintenance.Overdue, item(t, p, "impeller").State)
}

func TestUpkeepIsPutOffDoneAndTickedBySeason(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{ImpellerFitted: "2025-03-01"})
	p, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenancePostponed, Item: "impeller",
		Until: "2026-07-01", Words: "at the haul-out"})
	require.NoError(t, err)
	assert.Equal(t, maintenance.Later, item(t, p, "impeller").State)
	p, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "impeller", Months: 24,
		Words: "the maker's"})
	require.NoError(t, err)
	assert.Contains(t, item(t, p, "impeller").Reasons[0].Say, "2 years since 1 March 2025, the maker's")
	p, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "cap", Day: "2026-05-01"})
	require.NoError(t, err)
	assert.Equal(t, maintenance.Later, item(t, p, "cap").State)
	p, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.SeasonTick, List: "spring", Year: 2026,
		Step: "impeller-in"})
	require.NoError(t, err)
	require.NotNil(t, item(t, p, "impeller").Last)
	assert.Equal(t, "Spring start", item(t, p, "impeller").Last.Says, "a ticked step does its maintenance")
	ticked := func(p *schedule.ServicePage) (n int) {
		for _, season := range p.Seasons {
			for _, x := range season.Steps {
				if x.Done != nil {
					n++
				}
			}
		}
		return n
	}
	assert.Equal(t, 1, ticked(p))
	p, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.SeasonUntick, List: "spring", Year: 2026,
		Step: "impeller-in"})
	require.NoError(t, err)
	assert.Zero(t, ticked(p))
	assert.NotEqual(t, "Spring start", item(t, p, "impeller").Last.Says)
}

func TestUpkeepThatDoesNotFitIsRefused(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	_, err := s.meter(engine, "2026-05-01", 500)
	require.NoError(t, err)
	for name, c := range map[string]struct {
		do    func() error
		field string
	}{
		"backwards":  {func() error { _, err := s.meter(engine, "2026-05-03", 499); return err }, "meter.hours"},
		"tomorrow's": {func() error { _, err := s.meter(engine, "2026-06-03", 600); return err }, "meter.day"},
		"no day":     {func() error { _, err := s.meter(engine, "soon", 600); return err }, "meter.day"},
		"no such item": {func() error {
			_, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "sails", Day: "2026-05-01"})
			return err
		}, "upkeep.item"},
		"not of this one": {func() error {
			_, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "block-flush",
				Day: "2026-05-01"})
			return err
		}, "upkeep.item"},
		"off without why": {func() error {
			_, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenancePostponed, Item: "cap", Until: "2026-09-01"})
			return err
		}, "upkeep.words"},
		"off to the past": {func() error {
			_, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenancePostponed, Item: "cap", Until: "2026-01-01",
				Words: "x"})
			return err
		}, "upkeep.until"},
		"no such step": {func() error {
			_, err := s.say(engine, eventlog.MaintenanceAct{Do: eventlog.SeasonTick, List: "spring", Year: 2026, Step: "x"})
			return err
		}, "upkeep.step"},
		"no such verb": {func() error { _, err := s.say(engine, eventlog.MaintenanceAct{Do: "forget"}); return err },
			"upkeep.do"},
	} {
		var wrong validation.Errors
		require.ErrorAs(t, c.do(), &wrong, name)
		assert.Equal(t, c.field, wrong[0].Field, name)
	}
	_, err = s.meter(uuid.NewString(), "2026-05-01", 1)
	assert.ErrorIs(t, err, record.ErrNotFound)
}

// The yard's list, the most pressing engine first; a record of an older version is put together when the program
// starts.
func TestTheYardsListAndAnOlderRecord(t *testing.T) {
	s := newShop(t)
	_, late := s.engine(eventlog.Dates{ImpellerFitted: "2024-03-01"})
	_, soon := s.engine(eventlog.Dates{ImpellerFitted: "2025-05-20"})
	_, _ = s.engine(eventlog.Dates{})
	list, err := s.DueInYard(s.ctx, 365*24*time.Hour)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, late, list[0].Engine.ID)
	assert.Equal(t, soon, list[1].Engine.ID)
	list, err = s.DueInYard(s.ctx, 0)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	require.NoError(t, s.kept.ForgetMaintenance(context.Background()))
	list, err = s.DueInYard(s.ctx, 0)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.Rebuild(s.ctx))
	list, err = s.DueInYard(s.ctx, 0)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

// Nothing is due on an engine that lies in the archive, until it comes out again; its record stays.
func TestNothingIsDueOnAnArchivedEngine(t *testing.T) {
	s := newShop(t)
	_, id := s.engine(eventlog.Dates{ImpellerFitted: "2024-03-01"})
	page, err := s.Engine(s.ctx, id)
	require.NoError(t, err)
	for _, archived := range []bool{true, false} {
		facts := record.FactsOf(page.Engine)
		facts.Archived = archived
		page, err = s.SaveEngine(s.ctx, id, stamp(), facts)
		require.NoError(t, err)
		assert.Equal(t, archived, page.Engine.Archived)
		list, err := s.DueInYard(s.ctx, 0)
		require.NoError(t, err)
		assert.Equal(t, archived, len(list) == 0)
	}
	assert.Contains(t, page.Log[len(page.Log)-1].Changed, record.FieldChange{Field: "archived", From: "yes"})
}

// What a gateway or a logger says of the hour meter is a reading of it, once the recording is over.
func TestHoursAreReadOffARecording(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	raw := "Time (s);rpm (rev/min);hours (h)\n"
	for i := range 40 {
		raw += fmt.Sprintf("%d;1500;%.3f\n", 10*i, 812.2+float64(i)/360)
	}
	m := datalog.Mapping{Columns: []datalog.Mapped{{Column: 1, Place: proving.Place{Station: "rpm"}},
		{Column: 2, Place: proving.Place{Station: "hours"}}}}
	_, err := s.ImportDatalog(s.ctx, job, stamp(), uuid.NewString(), "run.csv", []byte(raw), m)
	require.NoError(t, err)
	p, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.True(t, p.Hours.Confirmed)
	assert.InDelta(t, 812.3, p.Hours.Now, 0.01)
	_, err = s.meter(engine, "2026-05-04", 900)
	require.NoError(t, err, "a person's own reading goes before it")
}
