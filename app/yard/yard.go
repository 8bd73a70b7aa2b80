package yard

import (
	"context"

	"hevrin/app/engine"
	"hevrin/app/record"
)

// CraftCard is a craft with its engines.
type CraftCard struct {
	Craft   record.Craft
	Engines []engine.EngineCard
}

// Yard lists all craft with their engines and their open jobs.
func (a *Overview) Yard(ctx context.Context) ([]CraftCard, error) {
	r := a.Store.Read(ctx)
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
	byCraft := map[string][]engine.EngineCard{}
	for _, e := range engine.CardsOf(engines, open) {
		byCraft[e.Engine.CraftID] = append(byCraft[e.Engine.CraftID], e)
	}
	out := make([]CraftCard, len(craft))
	for i, c := range craft {
		out[i] = CraftCard{c, byCraft[c.ID]}
	}
	return out, nil
}
