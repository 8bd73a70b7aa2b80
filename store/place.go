package store

import (
	"context"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// Place is the record's place as its users see it: a store, and who keeps backups of it, if anybody does.
type Place struct {
	*Store
	Keeper *Keeper
	Mirror *Mirror // nil: there is none
	// Say is what went wrong when the program was started and the record was to go back to a backup; empty: nothing.
	Say string
}

var _ record.Place = Place{}

// Health tells how the place and its backups stand.
func (p Place) Health(ctx context.Context) record.Health {
	h := p.Store.Health(ctx)
	if p.Keeper != nil {
		h.Backup = p.Keeper.State()
	}
	if p.Mirror != nil {
		copied := p.Mirror.State()
		h.Mirror = &copied
	}
	h.Backup.AtStart = restoreAsked(h.Folder)
	if h.Backup.Say == "" {
		h.Backup.Say = p.Say
	}
	return h
}

// MakeBackup makes a backup now, beside those that are made by themselves.
func (p Place) MakeBackup(ctx context.Context) error {
	if p.Keeper == nil {
		return &eventlog.Conflict{Say: "no backups are made by this program: say hevrin backup"}
	}
	_, err := p.Keeper.Make(ctx)
	return err
}

// SendAway writes a verified copy to a new file, and gives the name under which it is sent.
func (p Place) SendAway(ctx context.Context, file string) (name string, err error) {
	if _, err := p.Backup(ctx, file); err != nil {
		return "", err
	}
	return NameWithSum(file, time.Now())
}
