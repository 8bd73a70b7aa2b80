package app_test

import (
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/core/bench"
	"hevrin/core/input"
	"hevrin/core/record"
	"hevrin/core/shelf"
	"hevrin/core/strip"
	"hevrin/core/trade"
)

func (s *shop) onShelf(acts ...shelf.Act) *app.ShelfPage {
	s.t.Helper()
	var p *app.ShelfPage
	for _, a := range acts {
		var err error
		p, err = s.NoteOnShelf(s.ctx, stamp(), a)
		require.NoError(s.t, err)
	}
	return p
}

func taking(part string, n float64) record.Body {
	return record.Body{Strip: &strip.Act{Do: strip.Use, Used: &strip.Used{Label: "Impeller", Quantity: n, State: strip.New, Stock: part}}}
}

func TestAPartFromOrderToUseAndOrderedAgain(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(record.Dates{ImpellerFitted: "2025-04-20"})
	part := uuid.NewString()
	p := s.onShelf(shelf.Act{Do: shelf.Keep, Part: part, Is: &shelf.Part{Label: "Impeller", Minimum: 1, Upkeep: "impeller", Fits: []shelf.Fit{{Engine: engine, How: shelf.Tried}}}})
	require.Len(t, p.ToOrder, 1)
	assert.InDelta(t, 2, p.ToOrder[0].Quantity, 1e-9, "its minimum, and one that is overdue")
	assert.Len(t, p.ToOrder[0].Reasons, 2)
	assert.Contains(t, p.Engines[engine], "Skiff, main")
	p = s.onShelf(shelf.Act{Do: shelf.Order, Part: part, Order: "o", Quantity: 2, DueDays: 3})
	assert.Empty(t, p.ToOrder)
	p = s.onShelf(shelf.Act{Do: shelf.Receive, Part: part, Order: "o", Quantity: 2})
	assert.InDelta(t, 2, p.Lines[0].Have, 1e-9)
	job := s.job(engine)
	used := uuid.NewString()
	_, err := s.NoteInJob(s.ctx, job, record.Stripped, app.Stamp{EntryID: used, By: "T"}, taking(part, 2))
	require.NoError(t, err)
	p, err = s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, p.Lines[0].Have)
	require.Len(t, p.ToOrder, 1, "to be ordered again")
	_, err = s.NoteInJob(s.ctx, job, record.Stripped, stamp(), taking(part, 1))
	var clash *record.Conflict
	require.ErrorAs(t, err, &clash)
	assert.Contains(t, clash.Say, "somebody took the last one")
	_, err = s.Undo(s.ctx, used, stamp())
	require.NoError(t, err)
	p, err = s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.InDelta(t, 2, p.Lines[0].Have, 1e-9, "taken back, it lies there again")
	_, err = s.NoteOnShelf(s.ctx, stamp(), shelf.Act{Do: shelf.Keep, Part: uuid.NewString(), Is: &shelf.Part{Label: "x", Fits: []shelf.Fit{{Engine: "nobody", How: shelf.Tried}}}})
	var wrong input.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "shelf.is.fits[0].engine", wrong[0].Field)
}

// Of many who take the last one at once, one has it and the others are told; the count never goes below nothing.
func TestTheLastOneIsTakenOnce(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(record.Dates{})
	part := uuid.NewString()
	s.onShelf(shelf.Act{Do: shelf.Keep, Part: part, Is: &shelf.Part{Label: "Impeller"}}, shelf.Act{Do: shelf.Count, Part: part, Quantity: 1})
	const people = 8
	jobs := make([]string, people)
	for i := range jobs {
		jobs[i] = s.job(engine)
	}
	var all sync.WaitGroup
	errs := make([]error, people)
	for i := range people {
		all.Go(func() { _, errs[i] = s.NoteInJob(s.ctx, jobs[i], record.Stripped, stamp(), taking(part, 1)) })
	}
	all.Wait()
	had := 0
	for _, err := range errs {
		if err == nil {
			had++
			continue
		}
		var clash *record.Conflict
		require.ErrorAs(t, err, &clash)
	}
	assert.Equal(t, 1, had)
	p, err := s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, p.Lines[0].Have)
}

// A part that fits a pump is found for every engine that has it, by whatever writing of its plate, and is wanted for what is due on
// each; an engine whose pump is changed is found by the new one from then on.
func TestAPartIsFoundByThePump(t *testing.T) {
	s := newShop(t)
	f, _ := s.Catalogue.Family(trade.Closed)
	craft, _ := s.engine(record.Dates{})
	facts := record.EngineFacts{CraftID: craft, Name: "wing", Family: trade.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, RawPump: "LM-P65 k", Circuit: f.Circuit,
		Dates: record.Dates{ImpellerFitted: "2020-04-20"}}
	wing := uuid.NewString()
	page, err := s.KeepEngine(s.ctx, wing, stamp(), facts)
	require.NoError(t, err)
	assert.Equal(t, "LM-P65 k", page.Engine.RawPump)
	part := uuid.NewString()
	p := s.onShelf(shelf.Act{Do: shelf.Keep, Part: part, Is: &shelf.Part{Label: "Impeller", Upkeep: "impeller", Fits: []shelf.Fit{{Pump: "lm p65/K", How: shelf.Measured}, {Pump: "unseen", How: shelf.Listed}}}},
		shelf.Act{Do: shelf.Keep, Part: uuid.NewString(), Is: &shelf.Part{Label: "Coolant", Unit: "L"}})
	assert.Equal(t, map[string][]string{"lm p65/K": {"Skiff, wing"}}, p.Pumps)
	assert.Empty(t, p.Engines)
	require.Len(t, p.ToOrder, 1)
	assert.Contains(t, p.ToOrder[0].Reasons[0], "Skiff, wing: due")
	hers, err := s.ShelfFor(s.ctx, wing)
	require.NoError(t, err)
	require.Len(t, hers.Lines, 1)
	assert.Equal(t, part, hers.Lines[0].ID)
	require.Len(t, hers.ToOrder, 1)

	// what a job takes was tried on its engine; taken back, it was not
	s.onShelf(shelf.Act{Do: shelf.Count, Part: part, Quantity: 2})
	used := app.Stamp{EntryID: uuid.NewString(), By: "T"}
	_, err = s.NoteInJob(s.ctx, s.job(wing), record.Stripped, used, taking(part, 1))
	require.NoError(t, err)
	p, err = s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.Contains(t, p.Lines[0].Fits, shelf.Fit{Engine: wing, How: shelf.Tried})
	assert.Equal(t, "Skiff, wing", p.Engines[wing])
	_, err = s.Undo(s.ctx, used.EntryID, stamp())
	require.NoError(t, err)
	p, err = s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.Len(t, p.Lines[0].Fits, 2)

	facts.RawPump = "LM-P95"
	page, err = s.KeepEngine(s.ctx, wing, stamp(), facts)
	require.NoError(t, err)
	changed := page.Log[len(page.Log)-1].Changed
	require.Len(t, changed, 1, "the log says which pump it was")
	assert.Equal(t, app.Change{Field: "raw_pump", From: "LM-P65 k", To: "LM-P95"}, changed[0])
	hers, err = s.ShelfFor(s.ctx, wing)
	require.NoError(t, err)
	assert.Empty(t, hers.Lines)
	assert.Empty(t, hers.ToOrder)
	s.Restart()
	p, err = s.Shelf(s.ctx)
	require.NoError(t, err)
	assert.Empty(t, p.Pumps)
	_, err = s.ShelfFor(s.ctx, uuid.NewString())
	assert.ErrorIs(t, err, app.ErrNotFound)
}

// Two programs on one record, as a command beside the server, see each other's acts; an act that is refused or taken back leaves
// nothing in mind.
func TestTheShelfInMindIsTheShelfOnRecord(t *testing.T) {
	s := newShop(t)
	part := uuid.NewString()
	s.onShelf(shelf.Act{Do: shelf.Keep, Part: part, Is: &shelf.Part{Label: "Anode"}}, shelf.Act{Do: shelf.Count, Part: part, Quantity: 4})
	beside := app.New(s.Catalogue, s.kept, func() time.Time { return s.now })
	t.Cleanup(beside.Close)
	have := func(a *app.App) float64 {
		p, err := a.Shelf(s.ctx)
		require.NoError(t, err)
		return p.Lines[0].Have
	}
	assert.InDelta(t, 4, have(beside), 1e-9)
	s.now = s.now.Add(time.Hour)
	count := app.Stamp{EntryID: uuid.NewString(), By: "B"}
	_, err := beside.NoteOnShelf(s.ctx, count, shelf.Act{Do: shelf.Count, Part: part, Quantity: 9})
	require.NoError(t, err)
	assert.InDelta(t, 9, have(s.App), 1e-9)
	_, err = s.NoteOnShelf(s.ctx, stamp(), shelf.Act{Do: shelf.WrongOne, Part: part, Quantity: 10, Words: "too long"})
	require.Error(t, err)
	assert.InDelta(t, 9, have(s.App), 1e-9)
	again, err := s.NoteOnShelf(s.ctx, count, shelf.Act{Do: shelf.Count, Part: part, Quantity: 9})
	require.NoError(t, err, "the same act sent twice is kept once")
	assert.InDelta(t, 9, again.Lines[0].Have, 1e-9)
	_, err = s.Undo(s.ctx, count.EntryID, stamp())
	require.NoError(t, err)
	assert.InDelta(t, 4, have(s.App), 1e-9)
	assert.InDelta(t, 4, have(beside), 1e-9)
}

// Old impellers that no boat has are refused before anything is compared.
func TestAnImpellerIsMeasuredAgainRatherThanCompared(t *testing.T) {
	s := newShop(t)
	s.onShelf(shelf.Act{Do: shelf.Keep, Part: uuid.NewString(), Is: &shelf.Part{Label: "Impeller 65", Impeller: &bench.Impeller{OutsideDiameter: 65, Width: 50.8, Bore: 16, Drive: "key", Blades: 10, Insert: "brass", CoverSeal: "o-ring"}}},
		shelf.Act{Do: shelf.Keep, Part: uuid.NewString(), Is: &shelf.Part{Label: "Impeller 95", Impeller: &bench.Impeller{OutsideDiameter: 95, Width: 63, Bore: 22, Drive: "spline", Blades: 12, Insert: "brass", CoverSeal: "o-ring"}}})
	old := bench.Impeller{OutsideDiameter: 65.1, Width: 50.7, Bore: 16, Drive: "key", Blades: 10, Insert: "brass", CoverSeal: "o-ring"}
	list, err := s.Fitting(s.ctx, old, bench.UsualTolerances, nil)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, bench.Fits, list[0].Fit)
	assert.Contains(t, list[0].Name, "Impeller 65 (0 on the shelf)")
	assert.Equal(t, bench.NoFit, list[1].Fit)
	old.OutsideDiameter = 6.51
	_, err = s.Fitting(s.ctx, old, bench.UsualTolerances, nil)
	var wrong input.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "outside_diameter_mm", wrong[0].Field)
}
