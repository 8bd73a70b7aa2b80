package practice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/practice"
	"hevrin/core/teardown"
)

// drawnWith is the first practice of a kind of engine whose only fault is one of these.
func drawnWith(t *testing.T, kind string, faults ...string) *practice.Engine {
	t.Helper()
	c := load(t)
	for seed := range uint32(500) {
		e, err := practice.Draw(c, practice.Case{Kind: kind, Level: practice.OneFault, Seed: seed})
		require.NoError(t, err)
		if slices.Contains(faults, e.Hidden[0].Fault) {
			return e
		}
	}
	t.Fatal("none was drawn")
	return nil
}

// right is the place of the offer that is as the old part measures.
func right(t *testing.T, w *practice.World, part string) int {
	t.Helper()
	for _, x := range w.Stocks() {
		if x.ID == part {
			require.NotEmpty(t, x.Measured)
			return slices.IndexFunc(x.Offers, func(o practice.Offer) bool { return slices.Equal(o.Measures, x.Measured) })
		}
	}
	t.Fatal("there is no such part")
	return -1
}

// fitted orders what a fault's repair takes, measured before.
func fitted(t *testing.T, w *practice.World, fault string) {
	t.Helper()
	ready := func(x practice.Stock) bool { return x.Ready && slices.Contains(x.Faults, fault) }
	if s, ok := w.SpareFor(fault); ok && !slices.ContainsFunc(w.Stocks(), ready) {
		_, err := w.Measure(s.ID)
		require.NoError(t, err)
		_, err = w.Order(s.ID, right(t, w, s.ID))
		require.NoError(t, err)
	}
}

func TestRepairTakesThePartThatFits(t *testing.T) {
	e := drawnWith(t, "sail", "impeller-vanes-missing", "impeller-tired")
	w := practice.Enter(e)
	fault := e.Hidden[0].Fault
	put := act(teardown.Act{Do: teardown.PutRight, Item: fault})
	put.ID = "in-vain"
	w.Note(put)
	assert.False(t, w.Cured(), "there was no part to put in")
	assert.NotEmpty(t, w.Log[len(w.Log)-1].Words)
	assert.Zero(t, w.Parts)

	_, err := w.Measure("impeller")
	require.NoError(t, err)
	at := right(t, w, "impeller")
	require.NotEqual(t, -1, at)
	before := w.Minutes
	s, err := w.Order("impeller", (at+1)%3)
	require.NoError(t, err)
	assert.False(t, s.Needed)
	assert.Equal(t, before+25, w.Minutes)
	price := w.Stocks()[0].Price
	assert.InDelta(t, price/4, w.Parts, 1e-9, "its way back")
	w.Note(act(teardown.Act{Do: teardown.PutRight, Item: fault}))
	assert.False(t, w.Cured(), "it does not fit")

	_, err = w.Order("impeller", at)
	require.NoError(t, err)
	assert.InDelta(t, 1.25*price, w.Parts, 1e-9)
	_, err = w.Order("impeller", at)
	assert.ErrorContains(t, err, "ready", "one is enough")
	put = act(teardown.Act{Do: teardown.PutRight, Item: fault})
	put.ID = "done"
	w.Note(put)
	assert.True(t, w.Cured())
}

// What was taken back and put right in vain does not come to count by taking something else back.
func TestUndoKnowsWhatWasInVain(t *testing.T) {
	e := drawnWith(t, "sail", "impeller-vanes-missing", "impeller-tired")
	w := practice.Enter(e)
	put := act(teardown.Act{Do: teardown.PutRight, Item: e.Hidden[0].Fault})
	put.ID = "in-vain"
	w.Note(put)
	shut := act(teardown.Act{Do: teardown.Isolate, Item: "seacock"})
	shut.ID = "shut"
	w.Note(shut)
	w.Note(eventlog.Entry{ID: "back", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "shut"}})
	assert.False(t, w.Cured())
}

func TestPartsThatCannotBeOrdered(t *testing.T) {
	e := drawnWith(t, "raw", "strainer-clogged")
	w := practice.Enter(e)
	for _, x := range w.Stocks() {
		assert.NotEqual(t, "cap", x.ID, "there is no pressure cap on it")
	}
	_, err := w.Measure("cap")
	assert.Error(t, err)
	for _, bad := range []int{-1, 3} {
		_, err = w.Order("impeller", bad)
		assert.Error(t, err, bad)
	}
	lesson, err := practice.Draw(load(t), practice.Case{Lesson: 8})
	require.NoError(t, err)
	l := practice.Enter(lesson)
	assert.Empty(t, l.Stocks(), "in a lesson the parts lie ready")
	l.Note(act(teardown.Act{Do: teardown.PutRight, Item: "thermostat-lazy"}))
	assert.True(t, l.Cured())
	w.End()
	_, err = w.Measure("impeller")
	assert.Error(t, err)
}

// Each of the three that are offered is another size, and the same case always offers the same.
func TestOffersDiffer(t *testing.T) {
	c := load(t)
	every(func(k practice.Case) {
		e, err := practice.Draw(c, k)
		require.NoError(t, err)
		stocks := practice.Enter(e).Stocks()
		assert.Equal(t, stocks, practice.Enter(e).Stocks())
		for _, x := range stocks {
			for i := range x.Offers {
				for n := range i {
					assert.NotEqual(t, x.Offers[n].Measures, x.Offers[i].Measures, x.ID)
				}
			}
		}
	})
}
