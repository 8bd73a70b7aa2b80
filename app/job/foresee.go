package job

import (
	"context"
	"errors"
	"slices"

	"hevrin/core/eventlog"
)

type foreseenKey struct{}

// Foreseen is for an entry that may come: what the diagnosis would say after it is worked out and kept in memory, so
// that whoever makes it does not wait for that. Nothing is saved: NoteInJob gives ErrForeseen.
func Foreseen(ctx context.Context) context.Context {
	return context.WithValue(ctx, foreseenKey{}, true)
}

// ErrForeseen says that an entry was foreseen and not saved.
var ErrForeseen = errors.New("foreseen, not saved")

func isForeseen(ctx context.Context) bool { return ctx.Value(foreseenKey{}) != nil }

// foresee works out what follows an entry that is not made.
func (a *Jobs) foresee(ctx context.Context, e eventlog.Entry) error {
	r := a.Store.Read(ctx)
	entries, _, err := a.Entries(r, e.Subject)
	if err != nil {
		return err
	}
	s, err := a.stateOf(r, e.Subject.ID, slices.Clip(entries)) // what is added here goes into no log
	if err != nil {
		return err
	}
	if err := a.check(r, s, e); err != nil {
		return err
	}
	if err := a.add(r, s, e); err != nil {
		return err
	}
	return ErrForeseen
}
