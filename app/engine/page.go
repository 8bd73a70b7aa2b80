package engine

import (
	"context"
	"time"

	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

// EngineCard is an engine with its jobs, the newest first.
type EngineCard struct {
	Engine record.Engine
	Jobs   []record.Job
}

// EnginePage is an engine with its craft, its jobs, its log, and the figures that the model takes for its cooling; none
// where the model cannot take it.
type EnginePage struct {
	Craft record.Craft
	EngineCard
	Log   []record.LogLine
	Facts []plant.Fact
}

// SaveEngine adds an engine or changes it. Where others saved since what the stamp has seen, a *eventlog.Crossed.
func (a *Engines) SaveEngine(ctx context.Context, id string, s record.Stamp,
	facts eventlog.EngineFacts) (*EnginePage, error) {
	if err := eventlog.CheckEngine(a.Catalogue, facts); err != nil {
		return nil, err
	}
	if _, err := plant.New(readings.PlantFacts(facts)); err != nil && facts.Cooling != (eventlog.Cooling{}) {
		return nil, err
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: id}, eventlog.Saved, eventlog.Body{Engine: &facts})
	err := a.Save(ctx, e, func(tx record.Reader, so []eventlog.Entry) error {
		if err := eventlog.CheckSeen(so, s.Seen); err != nil {
			return err
		}
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
func (a *Engines) Engine(ctx context.Context, id string) (*EnginePage, error) {
	r := a.Store.Read(ctx)
	engine, ok, err := r.Engine(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", id)
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
	page := &EnginePage{Craft: craft, EngineCard: EngineCard{engine, jobs}, Log: record.LogLines(entries)}
	if p, _, err := readings.FittedPlant(engine, nil); err == nil {
		page.Facts = p.Facts(readings.PlantFacts(record.FactsOf(engine)))
	}
	return page, err
}

// Project rewrites an engine's line from its entries.
func (a *Engines) Project(tx record.Tx, id string, entries []eventlog.Entry) error {
	f, ok := eventlog.Engine(entries)
	if !ok {
		row, had, err := tx.Engine(id)
		if err != nil || !had {
			return err
		}
		row.Removed = true
		return tx.SaveEngine(row)
	}
	row := record.Engine{ID: id, CraftID: f.CraftID, Name: f.Name, Family: f.Family, Fuel: f.Fuel,
		RatedKW: f.RatedKW, RatedRPM: f.RatedRPM, ThermostatC: f.ThermostatC, RawPump: f.RawPump,
		SharesSeacock: f.SharesSeacock, Archived: f.Archived, Circuit: f.Circuit,
		Dates: f.Dates, Cooling: f.Cooling, Baseline: eventlog.EngineBaseline(entries), Feed: eventlog.EngineFeed(entries)}
	last, _ := eventlog.LastSaved(entries)
	row.Saved = last.ID
	stand, err := a.states.Fresh(tx, id)
	if err != nil {
		return err
	}
	// a pump of another type that a job fitted since the facts were last saved
	if plate, at := stand.Pump(); plate != "" && !at.Before(savedAt(entries)) {
		row.RawPump = plate
	}
	if err := tx.SaveEngine(row); err != nil {
		return err
	}
	return a.maintenance.SaveMaintenance(tx, row)
}

// ProjectAfterJob rewrites what an entry of a job changes of its engine: its pump, what is due.
func (a *Engines) ProjectAfterJob(tx record.Tx, id string) error {
	entries, err := tx.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: id})
	if err != nil {
		return err
	}
	return a.Project(tx, id, entries)
}

// savedAt is when an engine's facts were last given.
func savedAt(entries []eventlog.Entry) (at time.Time) {
	for _, e := range eventlog.Standing(entries) {
		if e.Body.Engine != nil {
			at = e.Happened()
		}
	}
	return at
}

// engineCards reads the engines' jobs in one query.
func engineCards(r record.Reader, engines []record.Engine) ([]EngineCard, error) {
	ids := make([]string, len(engines))
	for i, e := range engines {
		ids[i] = e.ID
	}
	jobs, err := r.Jobs(ids...)
	return CardsOf(engines, jobs), err
}

// CardsOf puts jobs to their engines.
func CardsOf(engines []record.Engine, jobs []record.Job) []EngineCard {
	byEngine := map[string][]record.Job{}
	for _, j := range jobs {
		byEngine[j.EngineID] = append(byEngine[j.EngineID], j)
	}
	cards := make([]EngineCard, len(engines))
	for i, e := range engines {
		cards[i] = EngineCard{e, byEngine[e.ID]}
	}
	return cards
}
