package app

import (
	"context"

	"hevrin/core/record"
	"hevrin/store"
)

// Undo takes an entry of any log back, and says which log it was of.
func (a *App) Undo(ctx context.Context, target string, s Stamp) (record.Subject, error) {
	old, ok, err := a.store.Read(ctx).Entry(target)
	if err != nil {
		return record.Subject{}, err
	}
	if !ok {
		return record.Subject{}, notFound("entry", target)
	}
	e := a.entry(s, old.Subject, record.Undo, record.Body{Undoes: target})
	err = a.write(ctx, e, func(tx *store.Tx, entries []record.Entry) error {
		leaning, err := leaningOn(tx, old.Subject)
		if err != nil {
			return err
		}
		return record.CheckUndo(entries, target, leaning)
	})
	if err == nil && old.Subject.Kind == record.OfJob {
		a.follow(ctx, old.Subject.ID)
	}
	return old.Subject, err
}

// leaningOn counts what would be left without its subject.
func leaningOn(tx *store.Tx, s record.Subject) (int, error) {
	switch s.Kind {
	case record.OfCraft:
		engines, err := tx.Engines(s.ID)
		return len(engines), err
	case record.OfEngine:
		jobs, err := tx.Jobs(s.ID)
		return len(jobs), err
	}
	return 0, nil
}
