// Package work joins the use cases of a yard's work, those that go on anywhere: in the program, and on a phone without
// it.
package work

import (
	"context"
	"time"

	"hevrin/app/engine"
	"hevrin/app/enginestate"
	"hevrin/app/inventory"
	"hevrin/app/job"
	"hevrin/app/maintenance"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/search"
	"hevrin/app/yard"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/live"
)

// Work is the use cases by their subjects. They may be used from many goroutines.
type Work struct {
	Log        *record.Log
	Models     *readings.Models
	Schedule   *maintenance.Schedule
	Stock      *inventory.Stock
	Engines    *engine.Engines
	Overview   *yard.Overview
	Recordings *recording.Recordings
	Jobs       *job.Jobs
	States     *enginestate.States
	Finder     *search.Finder
}

// New joins a catalogue and a store. now gives the time.
func New(c *catalogue.Catalogue, s record.Store, now func() time.Time) *Work {
	log := record.NewLog(c, s, now)
	models := readings.New(log)
	states := enginestate.New(log)
	schedule := maintenance.New(log, models, states)
	stock := inventory.New(log, schedule)
	engines := engine.New(log, schedule, models, states, live.NewHub(now))
	overview := yard.New(log)
	recordings := recording.New(log, engines)
	jobs := job.New(log, engines, stock, schedule, models, recordings, overview, states)
	log.Projections = map[eventlog.SubjectKind]record.Projection{
		eventlog.OfCraft: engine.ProjectCraft, eventlog.OfEngine: engines.Project, eventlog.OfJob: jobs.Project,
	}
	log.Changed = func(ctx context.Context, e eventlog.Entry) {
		states.Changed(ctx, e)
		switch e.Kind {
		case eventlog.Recorded, eventlog.Closed, eventlog.Reopened, eventlog.Undo:
			if e.Subject.Kind == eventlog.OfJob {
				recordings.Follow(ctx, e.Subject.ID)
			}
		}
	}
	return &Work{log, models, schedule, stock, engines, overview, recordings, jobs, states, search.New(log, stock)}
}
