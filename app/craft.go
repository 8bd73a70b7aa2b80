package app

import (
	"context"

	"hevrin/core/eventlog"
	"hevrin/store"
)

// CraftPage is a craft with its engines and its log.
type CraftPage struct {
	Craft   store.Craft
	Engines []EngineCard
	Log     []LogLine
}

// SaveCraft adds a craft or changes it.
func (a *App) SaveCraft(ctx context.Context, id string, s Stamp, facts eventlog.CraftFacts) (*CraftPage, error) {
	if err := eventlog.CheckCraft(facts); err != nil {
		return nil, err
	}
	e := a.entry(s, eventlog.Subject{Kind: eventlog.OfCraft, ID: id}, eventlog.Saved, eventlog.Body{Craft: &facts})
	if err := a.write(ctx, e, func(*store.Tx, []eventlog.Entry) error { return nil }); err != nil {
		return nil, err
	}
	return a.Craft(ctx, id)
}

// Craft gives a craft's page.
func (a *App) Craft(ctx context.Context, id string) (*CraftPage, error) {
	r := a.store.Read(ctx)
	craft, ok, err := r.Craft(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, notFound("craft", id)
	}
	engines, err := r.Engines(id)
	if err != nil {
		return nil, err
	}
	cards, err := engineCards(r, engines)
	if err != nil {
		return nil, err
	}
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfCraft, ID: id})
	return &CraftPage{craft, cards, logLines(entries)}, err
}

func projectCraft(_ *App, tx *store.Tx, id string, entries []eventlog.Entry) error {
	facts, ok := eventlog.Craft(entries)
	row := store.Craft{ID: id, Removed: !ok, Name: facts.Name, Owner: facts.Owner, Berth: facts.Berth, Note: facts.Note}
	return tx.SaveCraft(row)
}
