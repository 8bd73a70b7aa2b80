// Package app joins the use cases of the program, a package a subject, into one whole.
package app

import (
	"context"
	"time"

	"hevrin/app/engine"
	"hevrin/app/enginestate"
	"hevrin/app/exchange"
	"hevrin/app/hindsight"
	"hevrin/app/inventory"
	"hevrin/app/job"
	"hevrin/app/maintenance"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/search"
	"hevrin/app/work"
	"hevrin/app/yard"
	"hevrin/app/yardlist"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// Store keeps the record, and what is read from it over again.
type Store interface {
	record.Store
	record.HindsightStore
}

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
	Hindsight *hindsight.Hindsight
	Work      *work.Work // what goes on without the rest
}

// New joins a catalogue and a store. now gives the time. Who makes it closes it.
func New(c *catalogue.Catalogue, s Store, now func() time.Time) *App {
	w := work.New(c, s, now)
	back := hindsight.New(w.Log, w.Jobs, w.Overview, s)
	changed := w.Log.Changed
	w.Log.Changed = func(ctx context.Context, e eventlog.Entry) {
		changed(ctx, e)
		back.Changed(ctx, e)
	}
	return &App{w.Log, w.Models, w.Schedule, w.Stock, w.Engines, w.Overview, w.Recordings, w.Jobs, w.States,
		exchange.New(w.Log, w.Jobs, w.Recordings), w.Finder, yardlist.New(w.Log), back, w}
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
