package app

import (
	"context"

	"hevrin/core/record"
	"hevrin/store"
)

// CraftPage is a craft with its engines and its log.
type CraftPage struct {
	Craft   store.Craft
	Engines []EngineCard
	Log     []LogLine
}

// KeepCraft adds a craft or changes it.
func (a *App) KeepCraft(ctx context.Context, id string, s Stamp, facts record.CraftFacts) (*CraftPage, error) {
	if err := record.CheckCraft(facts); err != nil {
		return nil, err
	}
	e := a.entry(s, record.Subject{Kind: record.OfCraft, ID: id}, record.Kept, record.Body{Craft: &facts})
	if err := a.write(ctx, e, func(*store.Tx, []record.Entry) error { return nil }); err != nil {
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
	entries, err := r.Entries(record.Subject{Kind: record.OfCraft, ID: id})
	return &CraftPage{craft, cards, logLines(entries)}, err
}

func projectCraft(_ *App, tx *store.Tx, id string, entries []record.Entry) error {
	facts, ok := record.Craft(entries)
	row := store.Craft{ID: id, Removed: !ok, Name: facts.Name, Owner: facts.Owner, Berth: facts.Berth, Note: facts.Note}
	return tx.SaveCraft(row)
}
