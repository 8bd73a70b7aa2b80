package app_test

import (
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/core/input"
	"hevrin/core/record"
	"hevrin/core/shelf"
	"hevrin/core/strip"
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
