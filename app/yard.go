package app

import (
	"context"

	"hevrin/store"
)

// CraftCard is a craft with its engines.
type CraftCard struct {
	Craft   store.Craft
	Engines []EngineCard
}

// Yard lists all craft with their engines and their open jobs.
func (a *App) Yard(ctx context.Context) ([]CraftCard, error) {
	r := a.store.Read(ctx)
	craft, err := r.AllCraft()
	if err != nil {
		return nil, err
	}
	engines, err := r.Engines()
	if err != nil {
		return nil, err
	}
	open, err := r.OpenJobs()
	if err != nil {
		return nil, err
	}
	byCraft := map[string][]EngineCard{}
	for _, e := range cardsOf(engines, open) {
		byCraft[e.Engine.CraftID] = append(byCraft[e.Engine.CraftID], e)
	}
	out := make([]CraftCard, len(craft))
	for i, c := range craft {
		out[i] = CraftCard{c, byCraft[c.ID]}
	}
	return out, nil
}
