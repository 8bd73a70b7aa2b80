package server

import (
	"time"

	"hevrin/api"
	"hevrin/app/presence"
	"hevrin/app/record"
)

// handlers answer the contract's operations, a part of them a subject.
type handlers struct {
	*catalogueHandlers
	*plantHandlers
	*calculatorHandlers
	*yardHandlers
	*engineHandlers
	*liveHandlers
	*maintenanceHandlers
	*inventoryHandlers
	*jobHandlers
	*recordingHandlers
	*exchangeHandlers
	*changeHandlers
	*stateHandlers
	*recordHandlers
	*listHandlers
	*pushHandlers
	*linkHandlers // and of people
	*presenceHandlers
	*calendarHandlers
	*labelHandlers
}

func newHandlers(c Config, g *guard) *handlers {
	a := c.App
	known := newLines()
	here := presence.New(time.Now)
	team := &peopleHandlers{g, c.SetUp}
	return &handlers{
		&catalogueHandlers{a.Catalogue, a.Diagnosis, c.Version},
		&plantHandlers{},
		&calculatorHandlers{a.Catalogue},
		&yardHandlers{a.Overview, a.Engines, a.Finder},
		&engineHandlers{a.Engines, a.Jobs},
		&liveHandlers{a.Engines, a.Recordings, a.Jobs, known},
		&maintenanceHandlers{a.Schedule},
		&inventoryHandlers{a.Stock, a.Overview, c.Supplier},
		&jobHandlers{a.Jobs, known, g},
		&recordingHandlers{a.Recordings},
		&exchangeHandlers{a.Bundles, a, a.Recordings, c.Place, c.Version},
		&changeHandlers{&a.Changes, here},
		&stateHandlers{a.States, c.Version},
		&recordHandlers{c.Place, c.Version, a.Catalogue.Version, g != nil},
		&listHandlers{a.Lists},
		&pushHandlers{team},
		&linkHandlers{team, a.Jobs, a, a.Schedule, a.States},
		&presenceHandlers{here},
		&calendarHandlers{team, a.Schedule, a.Stock},
		&labelHandlers{team, a.Overview, a.Stock},
	}
}

var _ api.StrictServerInterface = (*handlers)(nil)

func stamp(id, by string, tapped *time.Time) record.Stamp {
	return record.Stamp{EntryID: id, By: by, TappedAt: tapped}
}

// seenBy is a stamp of somebody who changes what was saved by an entry.
func seenBy(s record.Stamp, entry *string) record.Stamp {
	s.Seen = value(entry)
	return s
}

// value is what a pointer points to, or the zero value.
func value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// each maps a list; the contract's lists are never null.
func each[A, B any](list []A, to func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = to(x)
	}
	return out
}
