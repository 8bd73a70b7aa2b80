// Package app joins the use cases of the program, a package a subject, into one whole.
package app

import (
	"context"
	"time"

	"hevrin/app/engine"
	"hevrin/app/enginestate"
	"hevrin/app/exchange"
	"hevrin/app/inventory"
	"hevrin/app/job"
	"hevrin/app/maintenance"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/search"
	"hevrin/app/yard"
	"hevrin/app/yardlist"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/live"
)

// App is the program without its interface. It may be used from many goroutines.
type App struct {
	*record.Log
	*readings.Models
	*maintenance.Schedule
	*inventory.Stock
	*engine.Engines
	*yard.Overview
	*recording.Recordings
	*job.Jobs
	States *enginestate.States
	*exchange.Bundles
	*search.Finder
	*yardlist.Lists
}

// New joins a catalogue and a store. now gives the time. Who makes it closes it.
func New(c *catalogue.Catalogue, s record.Store, now func() time.Time) *App {
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
	return &App{log, models, schedule, stock, engines, overview, recordings, jobs, states,
		exchange.New(log, jobs, recordings), search.New(log, stock), yardlist.New(log)}
}

// Resume brings an older record up to date and lets the recordings go on that were open when the program was stopped.
func (a *App) Resume(ctx context.Context) error {
	if err := a.Rebuild(ctx); err != nil {
		return err
	}
	if _, err := a.Inventory(ctx); err != nil { // and what is due: so that the first who asks has both at once
		return err
	}
	jobs, err := a.Store.Read(ctx).OpenJobs()
	if err != nil {
		return err
	}
	for _, j := range jobs {
		a.Follow(ctx, j.ID)
	}
	a.ComputeDueDaily(ctx)
	return nil
}

// Close writes what is still to be written and lets the gateways go.
func (a *App) Close() {
	a.StopDaily()
	a.CloseRecordings()
	a.Hub.Close()
}
