// Package handlers answers the operations of the contract that need nothing but the use cases and the core, whoever
// asks: the program's server, or the phone's own program. They are thin; what happens is in app.
package handlers

import (
	"context"
	"time"

	"hevrin/api"
	"hevrin/app/record"
	"hevrin/app/work"
)

// Config is what the handlers are made of. Without a Supplier nothing can be ordered.
type Config struct {
	Work     *work.Work
	Supplier Supplier
	Version  string // as /health gives it
	// PassedOver is told who starts an engine although something stands against it; nil: nobody is.
	PassedOver func(ctx context.Context, job, kind string)
}

// Handlers answer the contract's operations, a part of them a subject.
type Handlers struct {
	*catalogueHandlers
	*plantHandlers
	*calculatorHandlers
	*yardHandlers
	*engineHandlers
	*maintenanceHandlers
	*inventoryHandlers
	*jobHandlers
	*recordingHandlers
	*stateHandlers
	*reportHandlers
}

// New makes handlers.
func New(c Config) *Handlers {
	w := c.Work
	return &Handlers{
		&catalogueHandlers{w.Log.Catalogue, w.Jobs.Diagnosis, c.Version},
		&plantHandlers{w.Log.Catalogue},
		&calculatorHandlers{w.Log.Catalogue},
		&yardHandlers{w.Overview, w.Engines, w.Finder},
		&engineHandlers{w.Engines, w.Jobs},
		&maintenanceHandlers{w.Schedule},
		&inventoryHandlers{w.Stock, w.Overview, c.Supplier},
		&jobHandlers{w.Jobs, newLines(), newAnswers(), c.PassedOver},
		&recordingHandlers{w.Recordings},
		&stateHandlers{w.States},
		&reportHandlers{w.Log.Catalogue, source{w.Jobs, w.Recordings}},
	}
}

// Stamp is what an entry carries, as the contract tells it; when it was tapped, by the clock of the program.
func Stamp(ctx context.Context, id, by string, tapped *time.Time) record.Stamp {
	s := record.Stamp{EntryID: id, By: by, TappedAt: tapped}
	if off, ok := ctx.Value(clockKey{}).(time.Duration); ok && tapped != nil {
		at := tapped.Add(off)
		s.TappedAt = &at
	}
	return s
}

// SentHeader is the header in which a device says when it sends a request, by its own clock: what it says of when
// something was tapped is then as much later or earlier as that clock is off.
const SentHeader = "Hevrin-Sent-At"

type clockKey struct{}

// leastOff is from when on a device's clock is taken to be off: less may be the way, which differs from request to
// request, and the order of a device's taps must not change by it.
const leastOff = 30 * time.Second

// SentAt notes when the device of a request says that it sent it, and when it came here.
func SentAt(ctx context.Context, sent, came time.Time) context.Context {
	if off := came.Sub(sent); off.Abs() >= leastOff {
		return context.WithValue(ctx, clockKey{}, off)
	}
	return ctx
}

// seenBy is a stamp of somebody who changes what was saved by an entry.
func seenBy(s record.Stamp, entry *string) record.Stamp {
	s.Seen = api.Value(entry)
	return s
}
