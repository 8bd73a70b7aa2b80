package yard

import (
	"context"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// MethodsPage is what the yard goes by, with its log.
type MethodsPage struct {
	eventlog.YardMethods
	Log []record.LogLine
}

// Methods gives the yard's tasks and schools.
func (a *Overview) Methods(ctx context.Context) (*MethodsPage, error) {
	return a.MethodsIn(a.Store.Read(ctx))
}

// MethodsIn gives the yard's tasks and methods as a reader sees them.
func (a *Overview) MethodsIn(r record.Reader) (*MethodsPage, error) {
	entries, err := a.EntriesSoon(r, eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.YardID})
	if err != nil {
		return nil, err
	}
	return &MethodsPage{eventlog.FoldYard(a.Catalogue, entries), record.LogLines(entries)}, nil
}

// NoteMethod adds an entry to tasks and methods: a task of its own, or the school that it follows. Where others changed
// the same since what the stamp has seen of the log, a *eventlog.Crossed.
func (a *Overview) NoteMethod(ctx context.Context, kind eventlog.Kind, s record.Stamp,
	body eventlog.Body) (*MethodsPage, error) {
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.YardID}, kind, body)
	if err := eventlog.CheckYardEntry(a.Catalogue, e); err != nil {
		return nil, err
	}
	err := a.Save(ctx, e, func(_ record.Reader, so []eventlog.Entry) error {
		if s.Seen == "" {
			return nil
		}
		return eventlog.CheckYardSeen(a.Catalogue, so, body, s.Seen)
	})
	if err != nil {
		return nil, err
	}
	return a.Methods(ctx)
}
