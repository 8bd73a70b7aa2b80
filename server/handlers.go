package server

import (
	"context"
	"time"

	"hevrin/api"
	"hevrin/app/along"
	"hevrin/app/presence"
	"hevrin/app/tries"
	"hevrin/core/people"
	"hevrin/handlers"
	"hevrin/training"
)

// operations answer the contract's operations: those of the work itself, and those that only a server has, a part of
// them a subject.
type operations struct {
	*handlers.Handlers
	*liveHandlers
	*sheetHandlers
	*exchangeHandlers
	*changeHandlers
	*recordHandlers
	*listHandlers
	*hindsightHandlers
	*pushHandlers
	*linkHandlers // and of people
	*presenceHandlers
	*calendarHandlers
	*labelHandlers
	*alongHandlers
	*training.Answers
}

func newOperations(c Config, g *guard) *operations {
	a := c.App
	here := presence.New(time.Now)
	team := &peopleHandlers{g, c.SetUp}
	var kept tries.Store = c.Tries
	if kept == nil {
		kept = tries.InMemory()
	}
	work := handlers.New(handlers.Config{Work: a.Work, Supplier: c.Supplier, Version: c.Version,
		PassedOver: func(ctx context.Context, job, kind string) { g.audit(ctx, people.PassedOver, job, kind) }})
	return &operations{
		work,
		&liveHandlers{a.Engines, a.Recordings, a.Jobs, work},
		&sheetHandlers{a.Work, a, c.Version},
		&exchangeHandlers{a.Bundles, c.Place, c.Version},
		&changeHandlers{&a.Changes, here},
		&recordHandlers{c.Place, c.Version, a.Catalogue.Version, g != nil},
		&listHandlers{a.Lists},
		&hindsightHandlers{a.Hindsight},
		&pushHandlers{team},
		&linkHandlers{team, a.Jobs, a, a.Schedule, a.States},
		&presenceHandlers{here},
		&calendarHandlers{team, a.Schedule, a.Stock},
		&labelHandlers{team, a.Overview, a.Stock},
		&alongHandlers{along.New(a.Log)},
		&training.Answers{Room: training.New(a.Catalogue, kept, time.Now)},
	}
}

var _ api.StrictServerInterface = (*operations)(nil)
