package inventory_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/inventory"
)

// Where a fit is known in several ways the surest counts, in whichever order they were put down.
func TestTheSurestFitCounts(t *testing.T) {
	a := func(how string) inventory.Fit { return inventory.Fit{Engine: "a", How: how} }
	p := func(how string) inventory.Fit { return inventory.Fit{Pump: "P 1", How: how} }
	for want, lists := range map[string][][]inventory.Fit{
		inventory.Tried: {{a(inventory.Tried), a(inventory.Listed)}, {a(inventory.Listed), a(inventory.Tried)},
			{p(inventory.Tried), a(inventory.Listed)}, {a(inventory.Measured), p(inventory.Tried)}},
		inventory.Measured: {{a(inventory.Listed), a(inventory.Measured)}, {p(inventory.Measured), p(inventory.Listed)},
			{p(inventory.Listed), a(inventory.Measured)}},
		inventory.Listed: {{a(inventory.Listed)}, {p(inventory.Listed)}, {a("hearsay"), p(inventory.Listed)}},
	} {
		for _, fits := range lists {
			how, ok := inventory.Part{Fits: fits}.FitOn(inventory.Engine{ID: "a", Pump: "p1"})
			assert.True(t, ok)
			assert.Equal(t, want, how, "%v", fits)
		}
	}
}

// The ends of the ranges are in them.
func TestTheEndsOfTheRanges(t *testing.T) {
	part := func(minimum, price float64) *inventory.Part {
		return &inventory.Part{Label: "Impeller", Minimum: minimum, Price: price}
	}
	for _, a := range []inventory.Act{
		{Do: inventory.Count},
		{Do: inventory.Count, Quantity: 1e6},
		{Do: inventory.Order, Order: "o", Quantity: 1e-9},
		{Do: inventory.Receive, Order: "o", Quantity: 1e-9},
		{Do: inventory.Order, Order: "o", Quantity: 1, Price: 1e7},
		{Do: inventory.SavePart, Is: part(0, 0)},
		{Do: inventory.SavePart, Is: part(1e7, 1e7)},
	} {
		a.Part = "p"
		require.NoError(t, a.Check(), "%+v", a)
	}
	for _, a := range []inventory.Act{
		{Do: inventory.Count, Quantity: -0.1},
		{Do: inventory.Count, Quantity: 1.01e6},
		{Do: inventory.Order, Order: "o"},
		{Do: inventory.Receive, Order: "o"},
		{Do: inventory.Order, Order: "o", Quantity: 1, Price: -0.01},
		{Do: inventory.Order, Order: "o", Quantity: 1, Price: 1.01e7},
		{Do: inventory.SavePart, Is: part(-0.1, 0)},
		{Do: inventory.SavePart, Is: part(0, 1.01e7)},
	} {
		a.Part = "p"
		require.Error(t, a.Check(), "%+v", a)
	}
}

// What a part was ordered for becomes its price when it comes, and an order without a price leaves the old one.
func TestThePriceOfTheLastReceipt(t *testing.T) {
	bought := func(price float64) inventory.Line {
		return inventory.Fold(done(impeller(0),
			inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 1, Price: price},
			inventory.Act{Do: inventory.Receive, Part: "p", Order: "o", Quantity: 1}), nil)[0]
	}
	assert.InDelta(t, 33, bought(33).Price, 1e-9)
	assert.InDelta(t, 30, bought(0).Price, 1e-9)
}

// All that is left of an order can be received, and all that lies there can be the wrong one; not a part more.
func TestAllButNotMore(t *testing.T) {
	list := inventory.Fold(done(impeller(0), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 2},
		inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 3},
		inventory.Act{Do: inventory.Receive, Part: "p", Order: "o", Quantity: 1}), nil)
	for _, c := range []struct {
		do      string
		most    float64
		refused string
	}{
		{inventory.Receive, 2, "2 are still to come of that order, not 2.5: count the stock if more lie there"},
		{inventory.WrongOne, 3, "3 lie in stock, not 3.5"},
	} {
		a := inventory.Act{Do: c.do, Part: "p", Order: "o", Quantity: c.most, Words: "bore too wide"}
		assert.Empty(t, inventory.Refuse(list, a))
		a.Quantity += 0.5
		assert.Equal(t, c.refused, inventory.Refuse(list, a))
	}
	again := inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 1}
	assert.Equal(t, "that order is made already", inventory.Refuse(list, again))
	again.Order = "another"
	assert.Empty(t, inventory.Refuse(list, again))
	assert.NotEmpty(t, inventory.Refuse(list, inventory.Act{Do: inventory.Cancel, Part: "p", Order: "another"}))
}

// A part that a job took becomes tried on that job's engine alone: what was read in a list of another stays so.
func TestTriedOnOneEngineAlone(t *testing.T) {
	a := impeller(0)
	a.Is.Fits = []inventory.Fit{{Engine: "other", How: inventory.Listed}, {Engine: "e", How: inventory.Listed}}
	used := []inventory.Used{{Part: "p", Engine: "e", Quantity: 1, At: monday.Add(24 * time.Hour)}}
	l := inventory.Fold(done(a), used)[0]
	assert.Equal(t, []inventory.Fit{{Engine: "other", How: inventory.Listed}, {Engine: "e", How: inventory.Tried}}, l.Fits)
}

// At its minimum nothing is ordered; a little under it, what is missing.
func TestAtItsMinimumNothingIsOrdered(t *testing.T) {
	at := func(have float64) []inventory.Need {
		acts := done(impeller(2), inventory.Act{Do: inventory.Count, Part: "p", Quantity: have})
		return inventory.ToOrder(inventory.Fold(acts, nil), nil)
	}
	assert.Empty(t, at(2))
	need := at(1.5)
	require.Len(t, need, 1)
	assert.InDelta(t, 0.5, need[0].Quantity, 1e-9)
	assert.Equal(t, []string{"1.5 here, the least is 2"}, need[0].Reasons)
}
