package engine

import (
	"context"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// CraftPage is a craft with its engines and its log.
type CraftPage struct {
	Craft   record.Craft
	Engines []EngineCard
	Log     []record.LogLine
}

// SaveCraft adds a craft or changes it; seen is the entry by which the facts that were changed had been saved.
func (a *Engines) SaveCraft(ctx context.Context, id string, s record.Stamp,
	facts eventlog.CraftFacts) (*CraftPage, error) {
	if err := eventlog.CheckCraft(facts); err != nil {
		return nil, err
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfCraft, ID: id}, eventlog.Saved, eventlog.Body{Craft: &facts})
	err := a.Save(ctx, e, func(_ record.Reader, so []eventlog.Entry) error { return eventlog.CheckSeen(so, s.Seen) })
	if err != nil {
		return nil, err
	}
	return a.Craft(ctx, id)
}

// Craft gives a craft's page.
func (a *Engines) Craft(ctx context.Context, id string) (*CraftPage, error) {
	r := a.Store.Read(ctx)
	craft, ok, err := r.Craft(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("craft", id)
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
	return &CraftPage{craft, cards, record.LogLines(entries)}, err
}

// ProjectCraft rewrites a craft's line from its entries.
func ProjectCraft(tx record.Tx, id string, entries []eventlog.Entry) error {
	facts, ok := eventlog.Craft(entries)
	row := record.Craft{ID: id, Removed: !ok, Name: facts.Name, Owner: facts.Owner, Berth: facts.Berth, Note: facts.Note,
		Archived: facts.Archived}
	last, _ := eventlog.LastSaved(entries)
	row.Saved = last.ID
	return tx.SaveCraft(row)
}
