package app

import (
	"context"

	"hevrin/core/eventlog"
	"hevrin/store"
)

// Undo takes an entry of any log back, and says which log it was of.
func (a *App) Undo(ctx context.Context, target string, s Stamp) (eventlog.Subject, error) {
	old, ok, err := a.store.Read(ctx).Entry(target)
	if err != nil {
		return eventlog.Subject{}, err
	}
	if !ok {
		return eventlog.Subject{}, notFound("entry", target)
	}
	e := a.entry(s, old.Subject, eventlog.Undo, eventlog.Body{Undoes: target})
	err = a.write(ctx, e, func(tx *store.Tx, entries []eventlog.Entry) error {
		leaning, err := leaningOn(tx, old.Subject)
		if err != nil {
			return err
		}
		return eventlog.CheckUndo(entries, target, leaning)
	})
	if err == nil && old.Subject.Kind == eventlog.OfJob {
		a.follow(ctx, old.Subject.ID)
	}
	return old.Subject, err
}

// leaningOn counts what would be left without its subject.
func leaningOn(tx *store.Tx, s eventlog.Subject) (int, error) {
	switch s.Kind {
	case eventlog.OfCraft:
		engines, err := tx.Engines(s.ID)
		return len(engines), err
	case eventlog.OfEngine:
		jobs, err := tx.Jobs(s.ID)
		return len(jobs), err
	}
	return 0, nil
}
