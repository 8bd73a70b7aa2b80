package app_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	schedule "hevrin/app/maintenance"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

func (s *shop) hands(job string, acts ...teardown.Act) {
	for _, a := range acts {
		s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &a})
	}
}

func dueIDs(p *schedule.ServicePage) (list []string) {
	for _, d := range p.Due {
		list = append(list, d.ID)
	}
	return list
}

// Sealant in place of a gasket is due on the engine's page and in the yard's list, until it is put down as done; taking
// either back restores the other.
func TestSealantBecomesADueItemOfTheEngine(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	s.hands(job, teardown.Act{Do: teardown.Begin, Item: "impeller-change"}, teardown.Act{Do: teardown.Isolate, Item: "seacock"},
		teardown.Act{Do: teardown.Off, Item: "impeller-change/cover-seal", Count: 1})
	refit := uuid.NewString()
	put := stamp()
	put.EntryID = refit
	_, err := s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, put, eventlog.Body{Teardown: &teardown.Act{
		Do: teardown.Refitted, Item: "impeller-change/cover-seal", Refit: &teardown.Refit{Sealant: "grey, thin"}}})
	require.NoError(t, err)
	id := "follow-up:sealant:" + refit
	inYard := func() bool {
		list, err := s.DueInYard(s.ctx, 365*24*time.Hour)
		require.NoError(t, err)
		for _, e := range list {
			for _, d := range e.Due {
				if d.ID == id {
					return true
				}
			}
		}
		return false
	}
	p, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.Contains(t, dueIDs(p), id)
	assert.True(t, inYard())

	_, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: id, Months: 3})
	require.Error(t, err, "it is done once: it has no interval")
	_, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "follow-up:sealant:no", Day: "2026-05-04"})
	require.Error(t, err, "nobody left that")
	p, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: id, Day: "2026-05-04"})
	require.NoError(t, err)
	assert.NotContains(t, dueIDs(p), id)
	assert.False(t, inYard())
	_, err = s.Undo(s.ctx, s.lastOf(engine), stamp())
	require.NoError(t, err)
	assert.True(t, inYard(), "done by mistake")
	_, err = s.Undo(s.ctx, refit, stamp())
	require.NoError(t, err)
	assert.False(t, inYard(), "the sealant itself was a slip")
}

// lastOf is the last entry of an engine's own log.
func (s *shop) lastOf(engine string) string {
	entries, err := s.Store.Read(s.ctx).Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: engine})
	require.NoError(s.t, err)
	return entries[len(entries)-1].ID
}

// A pump of another type changes the engine's facts and what parts fit it; taken back, the old one is in again; facts
// saved by hand since then stand.
func TestAPumpOfAnotherTypeChangesTheEngine(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	pump := func() string {
		p, err := s.Engine(s.ctx, engine)
		require.NoError(t, err)
		return p.EngineCard.Engine.RawPump
	}
	was := pump()
	s.hands(job, teardown.Act{Do: teardown.Begin, Item: "raw-pump-off"}, teardown.Act{Do: teardown.Isolate, Item: "seacock"},
		teardown.Act{Do: teardown.Off, Item: "raw-pump-off/pump", Count: 1},
		teardown.Act{Do: teardown.On, Item: "raw-pump-off/pump", Count: 1, State: teardown.New})
	put := stamp()
	_, err := s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, put, eventlog.Body{Teardown: &teardown.Act{
		Do: teardown.Refitted, Item: "raw-pump-off/pump", Refit: &teardown.Refit{Plate: "TW 31", Ports: true}}})
	require.NoError(t, err)
	assert.Equal(t, "TW 31", pump())
	p, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	require.NotNil(t, item(t, p, "impeller").Last, "a new pump has a new impeller")
	require.NotNil(t, item(t, p, "pump-seals").Last, "and new seals")

	_, err = s.Undo(s.ctx, put.EntryID, stamp())
	require.NoError(t, err)
	assert.Equal(t, was, pump())
}

func TestAJobThatWaitsSaysWhatForInTheLists(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	s.hands(job, teardown.Act{Do: teardown.Wait, Item: "part", Words: "full kit, on order"})
	page, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Equal(t, "a part: full kit, on order", page.Card.Waiting)
	s.hands(job, teardown.Act{Do: teardown.GoOn})
	page, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Empty(t, page.Card.Waiting)
	_, err = s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, stamp(), eventlog.Body{Teardown: &teardown.Act{Do: teardown.GoOn}})
	assert.Error(t, err, "it goes on already")
}

// The coolant that was put in sets the plan, the report and the due list alike.
func TestTheCoolantsKindSetsItsNextChangeEverywhere(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	plan := wetwork.CoolantPlan{BlockL: 8, ExchangerL: 2, HeaderL: 1, HeaterL: 0, Glycol: "ethylene", TargetPercent: 45,
		Concentrate: 100, VesselL: 15, Type: "long-life"}
	for _, a := range []wetwork.Act{{Do: wetwork.PlanIt, Kind: wetwork.CoolantJob, Coolant: &plan}, {Do: wetwork.Begin},
		{Do: wetwork.End}} {
		a.Work = "w"
		s.note(job, eventlog.WetworkNoted, eventlog.Body{Wetwork: &a})
	}
	page, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Equal(t, 5, page.Wetwork.Works[0].Change.Years)
	assert.Equal(t, s.now.AddDate(5, 0, 0).Format("2006-01-02"), page.Card.Works[0].Due)
	p, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.Equal(t, s.now.AddDate(5, 0, 0).Format("2006-01-02"), item(t, p, "coolant").When.Format("2006-01-02"))
}

// Light wear that a look shows beside the cause stands on the job's page and on the due list, until it is put right: by
// its own line, or by the part renewed.
func TestLightWearStandsInTheJobAndOnTheDueList(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	page := s.note(job, eventlog.Checked, eventlog.Body{Check: "elbow-look", Outcome: eventlog.Done,
		Stated: []eventlog.Stated{{ID: "elbow-narrowed-some", State: eventlog.Present}}})
	require.Len(t, page.AlsoSeen, 1)
	seen := page.AlsoSeen[0]
	assert.True(t, seen.Here && seen.Open && !seen.PutRight, "the hose is off")
	record, err := s.ServiceRecord(s.ctx, engine)
	require.NoError(t, err)
	assert.Contains(t, dueIDs(record), seen.FollowUp)

	other, err := s.Job(s.ctx, s.job(engine))
	require.NoError(t, err)
	require.Len(t, other.AlsoSeen, 1, "the engine's, not the job's")
	assert.False(t, other.AlsoSeen[0].Here)

	_, err = s.say(engine, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: seen.FollowUp, Day: "2026-05-04"})
	require.NoError(t, err)
	page, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	require.Len(t, page.AlsoSeen, 1)
	assert.True(t, page.AlsoSeen[0].PutRight, "and it stands where it was seen")
	other, err = s.Job(s.ctx, other.Job.ID)
	require.NoError(t, err)
	assert.Empty(t, other.AlsoSeen)
}
