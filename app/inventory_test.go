package app_test

import (
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	stock "hevrin/app/inventory"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/teardown"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

func (s *shop) onShelf(acts ...inventory.Act) *stock.InventoryPage {
	s.t.Helper()
	var p *stock.InventoryPage
	for _, a := range acts {
		var err error
		p, err = s.NoteInInventory(s.ctx, stamp(), a)
		require.NoError(s.t, err)
	}
	return p
}

func taking(part string, n float64) eventlog.Body {
	return eventlog.Body{Teardown: &teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "Impeller", Quantity: n,
		State: teardown.New, Stock: part}}}
}

func TestAPartFromOrderToUseAndOrderedAgain(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{ImpellerFitted: "2025-04-20"})
	part := uuid.NewString()
	p := s.onShelf(inventory.Act{Do: inventory.SavePart, Part: part, Is: &inventory.Part{Label: "Impeller", Minimum: 1,
		Maintenance: "impeller", Fits: []inventory.Fit{{Engine: engine, How: inventory.Tried}}}})
	require.Len(t, p.ToOrder, 1)
	assert.InDelta(t, 2, p.ToOrder[0].Quantity, 1e-9, "its minimum, and one that is overdue")
	assert.Len(t, p.ToOrder[0].Reasons, 2)
	assert.Contains(t, p.Engines[engine], "Skiff, main")
	p = s.onShelf(inventory.Act{Do: inventory.Order, Part: part, Order: "o", Quantity: 2, DueDays: 3})
	assert.Empty(t, p.ToOrder)
	p = s.onShelf(inventory.Act{Do: inventory.Receive, Part: part, Order: "o", Quantity: 2})
	assert.InDelta(t, 2, p.Lines[0].Have, 1e-9)
	job := s.job(engine)
	used := uuid.NewString()
	_, err := s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, record.Stamp{EntryID: used, By: "T"}, taking(part, 2))
	require.NoError(t, err)
	p, err = s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, p.Lines[0].Have)
	require.Len(t, p.ToOrder, 1, "to be ordered again")
	_, err = s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, stamp(), taking(part, 1))
	var clash *eventlog.Conflict
	require.ErrorAs(t, err, &clash)
	assert.Contains(t, clash.Say, "somebody took the last one")
	_, err = s.Undo(s.ctx, used, stamp())
	require.NoError(t, err)
	p, err = s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.InDelta(t, 2, p.Lines[0].Have, 1e-9, "taken back, it lies there again")
	_, err = s.NoteInInventory(s.ctx, stamp(), inventory.Act{Do: inventory.SavePart, Part: uuid.NewString(),
		Is: &inventory.Part{Label: "x", Fits: []inventory.Fit{{Engine: "nobody", How: inventory.Tried}}}})
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "shelf.is.fits[0].engine", wrong[0].Field)
}

// Of many who take the last one at once, one has it and the others are told; the count never goes below nothing.
func TestTheLastOneIsTakenOnce(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	part := uuid.NewString()
	s.onShelf(inventory.Act{Do: inventory.SavePart, Part: part, Is: &inventory.Part{Label: "Impeller"}},
		inventory.Act{Do: inventory.Count, Part: part, Quantity: 1})
	const people = 8
	jobs := make([]string, people)
	for i := range jobs {
		jobs[i] = s.job(engine)
	}
	var all sync.WaitGroup
	errs := make([]error, people)
	for i := range people {
		all.Go(func() { _, errs[i] = s.NoteInJob(s.ctx, jobs[i], eventlog.TeardownNoted, stamp(), taking(part, 1)) })
	}
	all.Wait()
	had := 0
	for _, err := range errs {
		if err == nil {
			had++
			continue
		}
		var clash *eventlog.Conflict
		require.ErrorAs(t, err, &clash)
	}
	assert.Equal(t, 1, had)
	p, err := s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, p.Lines[0].Have)
}

// What was taken where no link was, before somebody counted, is in the count however late it is sent; and a count that
// waited leaves what was taken after it.
func TestACountHoldsWhatWasTakenBeforeItHoweverLateItIsSent(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	part, job := uuid.NewString(), s.job(engine)
	s.onShelf(inventory.Act{Do: inventory.SavePart, Part: part, Is: &inventory.Part{Label: "Impeller"}},
		inventory.Act{Do: inventory.Count, Part: part, Quantity: 4})
	nine := s.now
	tapped := func(after time.Duration) record.Stamp {
		at := nine.Add(after)
		return record.Stamp{EntryID: uuid.NewString(), By: "T", TappedAt: &at}
	}
	have := func() float64 {
		p, err := s.Inventory(s.ctx)
		require.NoError(t, err)
		return p.Lines[0].Have
	}
	s.now = nine.Add(2 * time.Hour)
	s.onShelf(inventory.Act{Do: inventory.Count, Part: part, Quantity: 3}) // one was taken an hour ago
	s.now = nine.Add(3 * time.Hour)
	_, err := s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, tapped(time.Hour), taking(part, 1))
	require.NoError(t, err)
	assert.InDelta(t, 3, have(), 1e-9)
	_, err = s.NoteInJob(s.ctx, job, eventlog.TeardownNoted, tapped(150*time.Minute), taking(part, 1))
	require.NoError(t, err)
	assert.InDelta(t, 2, have(), 1e-9, "taken after it was counted")
	_, err = s.NoteInInventory(s.ctx, tapped(140*time.Minute), inventory.Act{Do: inventory.Count, Part: part, Quantity: 8})
	require.NoError(t, err)
	assert.InDelta(t, 7, have(), 1e-9, "counted before that")
}

// A part that fits a pump is found for every engine that has it, by whatever writing of its plate, and is wanted for
// what is due on each; an engine whose pump is changed is found by the new one from then on.
func TestAPartIsFoundByThePump(t *testing.T) {
	s := newShop(t)
	f, _ := s.Catalogue.Family(catalogue.Closed)
	craft, _ := s.engine(eventlog.Dates{})
	facts := eventlog.EngineFacts{CraftID: craft, Name: "wing", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, RawPump: "LM-P65 k", Circuit: f.Circuit,
		Dates: eventlog.Dates{ImpellerFitted: "2020-04-20"}}
	wing := uuid.NewString()
	page, err := s.SaveEngine(s.ctx, wing, stamp(), facts)
	require.NoError(t, err)
	assert.Equal(t, "LM-P65 k", page.Engine.RawPump)
	part := uuid.NewString()
	p := s.onShelf(inventory.Act{Do: inventory.SavePart, Part: part, Is: &inventory.Part{Label: "Impeller",
		Maintenance: "impeller", Fits: []inventory.Fit{{Pump: "lm p65/K", How: inventory.Measured}, {Pump: "unseen",
			How: inventory.Listed}}}},
		inventory.Act{Do: inventory.SavePart, Part: uuid.NewString(), Is: &inventory.Part{Label: "Coolant", Unit: "L"}})
	assert.Equal(t, map[string][]string{"lm p65/K": {"Skiff, wing"}}, p.Pumps)
	assert.Empty(t, p.Engines)
	require.Len(t, p.ToOrder, 1)
	assert.Contains(t, p.ToOrder[0].Reasons[0], "Skiff, wing: due")
	fitting, err := s.InventoryFor(s.ctx, wing)
	require.NoError(t, err)
	require.Len(t, fitting.Lines, 1)
	assert.Equal(t, part, fitting.Lines[0].ID)
	require.Len(t, fitting.ToOrder, 1)

	// what a job takes was tried on its engine; taken back, it was not
	s.onShelf(inventory.Act{Do: inventory.Count, Part: part, Quantity: 2})
	used := record.Stamp{EntryID: uuid.NewString(), By: "T"}
	_, err = s.NoteInJob(s.ctx, s.job(wing), eventlog.TeardownNoted, used, taking(part, 1))
	require.NoError(t, err)
	p, err = s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.Contains(t, p.Lines[0].Fits, inventory.Fit{Engine: wing, How: inventory.Tried})
	assert.Equal(t, "Skiff, wing", p.Engines[wing])
	_, err = s.Undo(s.ctx, used.EntryID, stamp())
	require.NoError(t, err)
	p, err = s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.Len(t, p.Lines[0].Fits, 2)

	facts.RawPump = "LM-P95"
	page, err = s.SaveEngine(s.ctx, wing, stamp(), facts)
	require.NoError(t, err)
	changed := page.Log[len(page.Log)-1].Changed
	require.Len(t, changed, 1, "the log says which pump it was")
	assert.Equal(t, record.FieldChange{Field: "raw_pump", From: "LM-P65 k", To: "LM-P95"}, changed[0])
	fitting, err = s.InventoryFor(s.ctx, wing)
	require.NoError(t, err)
	assert.Empty(t, fitting.Lines)
	assert.Empty(t, fitting.ToOrder)
	s.Restart()
	p, err = s.Inventory(s.ctx)
	require.NoError(t, err)
	assert.Empty(t, p.Pumps)
	_, err = s.InventoryFor(s.ctx, uuid.NewString())
	assert.ErrorIs(t, err, record.ErrNotFound)
}

// Two programs on one record, as a command beside the server, see each other's acts; an act that is refused or taken
// back leaves nothing in memory.
func TestTheShelfInMindIsTheShelfOnRecord(t *testing.T) {
	s := newShop(t)
	part := uuid.NewString()
	s.onShelf(inventory.Act{Do: inventory.SavePart, Part: part, Is: &inventory.Part{Label: "Anode"}},
		inventory.Act{Do: inventory.Count, Part: part, Quantity: 4})
	beside := app.New(s.Catalogue, s.kept, func() time.Time { return s.now })
	t.Cleanup(beside.Close)
	have := func(a *app.App) float64 {
		p, err := a.Inventory(s.ctx)
		require.NoError(t, err)
		return p.Lines[0].Have
	}
	assert.InDelta(t, 4, have(beside), 1e-9)
	s.now = s.now.Add(time.Hour)
	count := record.Stamp{EntryID: uuid.NewString(), By: "B"}
	_, err := beside.NoteInInventory(s.ctx, count, inventory.Act{Do: inventory.Count, Part: part, Quantity: 9})
	require.NoError(t, err)
	assert.InDelta(t, 9, have(s.App), 1e-9)
	_, err = s.NoteInInventory(s.ctx, stamp(), inventory.Act{Do: inventory.WrongOne, Part: part, Quantity: 10,
		Words: "too long"})
	require.Error(t, err)
	assert.InDelta(t, 9, have(s.App), 1e-9)
	again, err := s.NoteInInventory(s.ctx, count, inventory.Act{Do: inventory.Count, Part: part, Quantity: 9})
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
	s.onShelf(inventory.Act{Do: inventory.SavePart, Part: uuid.NewString(), Is: &inventory.Part{Label: "Impeller 65",
		Impeller: &workbench.Impeller{OutsideDiameter: 65, Width: 50.8, Bore: 16, Drive: "key", Blades: 10, Insert: "brass",
			CoverSeal: "o-ring"}}},
		inventory.Act{Do: inventory.SavePart, Part: uuid.NewString(), Is: &inventory.Part{Label: "Impeller 95",
			Impeller: &workbench.Impeller{OutsideDiameter: 95, Width: 63, Bore: 22, Drive: "spline", Blades: 12,
				Insert: "brass", CoverSeal: "o-ring"}}})
	old := workbench.Impeller{OutsideDiameter: 65.1, Width: 50.7, Bore: 16, Drive: "key", Blades: 10, Insert: "brass",
		CoverSeal: "o-ring"}
	list, err := s.Fitting(s.ctx, old, workbench.UsualTolerances, nil)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, workbench.Fits, list[0].Fit)
	assert.Contains(t, list[0].Name, "Impeller 65 (0 in stock)")
	assert.Equal(t, workbench.NoFit, list[1].Fit)
	old.OutsideDiameter = 6.51
	_, err = s.Fitting(s.ctx, old, workbench.UsualTolerances, nil)
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "outside_diameter_mm", wrong[0].Field)
}
