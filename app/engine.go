package app

import (
	"context"

	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
	"hevrin/store"
)

// EngineCard is an engine with its jobs, the newest first.
type EngineCard struct {
	Engine store.Engine
	Jobs   []store.Job
}

// EnginePage is an engine with its craft, its jobs, its log, and the figures that the model takes for her cooling; none where
// the model cannot take her.
type EnginePage struct {
	Craft store.Craft
	EngineCard
	Log   []LogLine
	Facts []plant.Fact
}

// SaveEngine adds an engine or changes it.
func (a *App) SaveEngine(ctx context.Context, id string, s Stamp, facts eventlog.EngineFacts) (*EnginePage, error) {
	if err := eventlog.CheckEngine(a.Catalogue, facts); err != nil {
		return nil, err
	}
	if _, err := plant.New(PlantFacts(facts)); err != nil && facts.Cooling != (eventlog.Cooling{}) {
		return nil, err
	}
	e := a.entry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: id}, eventlog.Saved, eventlog.Body{Engine: &facts})
	err := a.write(ctx, e, func(tx *store.Tx, _ []eventlog.Entry) error {
		if _, ok, err := tx.Craft(facts.CraftID); err != nil || ok {
			return err
		}
		var wrong validation.Errors
		wrong.Add("craft_id", facts.CraftID, "a craft on record", "add the craft first")
		return wrong
	})
	if err != nil {
		return nil, err
	}
	return a.Engine(ctx, id)
}

// Engine gives an engine's page.
func (a *App) Engine(ctx context.Context, id string) (*EnginePage, error) {
	r := a.store.Read(ctx)
	engine, ok, err := r.Engine(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, notFound("engine", id)
	}
	craft, _, err := r.Craft(engine.CraftID)
	if err != nil {
		return nil, err
	}
	jobs, err := r.Jobs(id)
	if err != nil {
		return nil, err
	}
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: id})
	page := &EnginePage{Craft: craft, EngineCard: EngineCard{engine, jobs}, Log: logLines(entries)}
	if p, _, err := fittedPlant(engine, nil); err == nil {
		page.Facts = p.Facts(PlantFacts(FactsOf(engine)))
	}
	return page, err
}

func projectEngine(a *App, tx *store.Tx, id string, entries []eventlog.Entry) error {
	f, ok := eventlog.Engine(entries)
	if !ok {
		row, had, err := tx.Engine(id)
		if err != nil || !had {
			return err
		}
		row.Removed = true
		return tx.SaveEngine(row)
	}
	row := store.Engine{ID: id, CraftID: f.CraftID, Name: f.Name, Family: f.Family, Fuel: f.Fuel,
		RatedKW: f.RatedKW, RatedRPM: f.RatedRPM, ThermostatC: f.ThermostatC, RawPump: f.RawPump, Circuit: f.Circuit, Dates: f.Dates, Cooling: f.Cooling, Baseline: eventlog.EngineBaseline(entries), Feed: eventlog.EngineFeed(entries)}
	if err := tx.SaveEngine(row); err != nil {
		return err
	}
	return a.saveMaintenance(tx, row)
}

func FactsOf(e store.Engine) eventlog.EngineFacts {
	return eventlog.EngineFacts{CraftID: e.CraftID, Name: e.Name, Family: e.Family, Fuel: e.Fuel,
		RatedKW: e.RatedKW, RatedRPM: e.RatedRPM, ThermostatC: e.ThermostatC, RawPump: e.RawPump, Circuit: e.Circuit, Dates: e.Dates, Cooling: e.Cooling}
}

// engineCards reads the engines' jobs in one query.
func engineCards(r *store.Reader, engines []store.Engine) ([]EngineCard, error) {
	ids := make([]string, len(engines))
	for i, e := range engines {
		ids[i] = e.ID
	}
	jobs, err := r.Jobs(ids...)
	return cardsOf(engines, jobs), err
}

// cardsOf puts jobs to their engines.
func cardsOf(engines []store.Engine, jobs []store.Job) []EngineCard {
	byEngine := map[string][]store.Job{}
	for _, j := range jobs {
		byEngine[j.EngineID] = append(byEngine[j.EngineID], j)
	}
	cards := make([]EngineCard, len(engines))
	for i, e := range engines {
		cards[i] = EngineCard{e, byEngine[e.ID]}
	}
	return cards
}
