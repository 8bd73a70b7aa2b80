package shelf_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/input"
	"hevrin/core/shelf"
)

var monday = time.Date(2026, time.May, 4, 8, 0, 0, 0, time.UTC)

// done numbers acts an hour apart.
func done(acts ...shelf.Act) (list []shelf.Done) {
	for i, a := range acts {
		list = append(list, shelf.Done{Act: a, By: "T", At: monday.Add(time.Duration(i) * time.Hour)})
	}
	return list
}

func impeller(minimum float64) shelf.Act {
	return shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "Impeller", Number: "A-1", Minimum: minimum, Price: 30, Upkeep: "impeller", Fits: []shelf.Fit{{Engine: "e", How: shelf.Tried}}}}
}

func TestFromOrderToReceiptToUse(t *testing.T) {
	acts := done(impeller(2), shelf.Act{Do: shelf.Count, Part: "p", Quantity: 1}, shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: 3, Number: "A-2", Price: 33, DueDays: 4},
		shelf.Act{Do: shelf.Receive, Part: "p", Order: "o", Quantity: 2})
	list := shelf.Shelf(acts, []shelf.Used{{Part: "p", Job: "j", Quantity: 1, At: monday.Add(9 * time.Hour)}, {Part: "p", Job: "old", Quantity: 5, At: monday.Add(-time.Hour)}})
	require.Len(t, list, 1)
	l := list[0]
	assert.InDelta(t, 2, l.Have, 1e-9, "one counted, two received, one used; what was used before the count is in it")
	assert.InDelta(t, 1, l.Coming(), 1e-9)
	assert.InDelta(t, 33, l.Price, 1e-9, "what it cost the last time")
	assert.Equal(t, monday.Add(2*time.Hour).AddDate(0, 0, 4), l.Orders[0].Due)
	assert.Empty(t, shelf.ToOrder(list, nil))
	need := shelf.ToOrder(list, []shelf.Wanted{{"impeller", "e", "due on the launch"}, {"impeller", "e", "due on the launch again"}, {"impeller", "other", "does not fit"}})
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9)
	assert.Equal(t, []string{"due on the launch", "due on the launch again"}, need[0].Reasons)
}

func TestUnderItsMinimumItIsOrdered(t *testing.T) {
	list := shelf.Shelf(done(impeller(2), shelf.Act{Do: shelf.Count, Part: "p", Quantity: 1}), nil)
	need := shelf.ToOrder(list, nil)
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9)
	assert.Equal(t, "1 here, the least is 2", need[0].Reasons[0])
	list = shelf.Shelf(done(impeller(2), shelf.Act{Do: shelf.Count, Part: "p", Quantity: 1}, shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: 4}, shelf.Act{Do: shelf.Cancel, Part: "p", Order: "o"}), nil)
	assert.Len(t, shelf.ToOrder(list, nil), 1, "a cancelled order does not come")
}

func TestWhatWasWrongIsShownTheNextTime(t *testing.T) {
	list := shelf.Shelf(done(impeller(0), shelf.Act{Do: shelf.Count, Part: "p", Quantity: 2}, shelf.Act{Do: shelf.WrongOne, Part: "p", Quantity: 1, Number: "A-9", Words: "spline, not key"}), nil)
	assert.InDelta(t, 1, list[0].Have, 1e-9)
	require.Len(t, list[0].Wrong, 1)
	assert.Equal(t, "spline, not key", list[0].Wrong[0].Words)
}

func TestActsThatDoNotFit(t *testing.T) {
	for name, c := range map[string]struct {
		act   shelf.Act
		field string
	}{
		"no part":           {shelf.Act{Do: shelf.Count}, "part"},
		"no such act":       {shelf.Act{Do: "steal", Part: "p"}, "do"},
		"nothing kept":      {shelf.Act{Do: shelf.Keep, Part: "p"}, "is"},
		"no name":           {shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{}}, "is.label"},
		"below nothing":     {shelf.Act{Do: shelf.Count, Part: "p", Quantity: -1}, "quantity"},
		"no order":          {shelf.Act{Do: shelf.Receive, Part: "p", Quantity: 1}, "order"},
		"wrong, but no why": {shelf.Act{Do: shelf.WrongOne, Part: "p"}, "words"},
		"fits twice":        {shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "x", Fits: []shelf.Fit{{"e", shelf.Tried}, {"e", shelf.Listed}}}}, "is.fits[1]"},
	} {
		var wrong input.Errors
		require.ErrorAs(t, c.act.Check(), &wrong, name)
		assert.Equal(t, c.field, wrong[0].Field, name)
	}
	list := shelf.Shelf(done(impeller(0), shelf.Act{Do: shelf.Count, Part: "p", Quantity: 1}, shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: 2}), nil)
	assert.Contains(t, shelf.Refuse(list, shelf.Act{Do: shelf.Receive, Part: "p", Order: "o", Quantity: 3}), "2 are still to come")
	assert.Contains(t, shelf.Refuse(list, shelf.Act{Do: shelf.Receive, Part: "p", Order: "x", Quantity: 1}), "not open any more")
	assert.Contains(t, shelf.Refuse(list, shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: 1}), "already")
	assert.Contains(t, shelf.Refuse(list, shelf.Act{Do: shelf.Count, Part: "q"}), "not on the shelf")
	assert.Contains(t, shelf.Refuse(list, shelf.Act{Do: shelf.WrongOne, Part: "p", Quantity: 2}), "1 lie on the shelf")
	assert.Empty(t, shelf.Refuse(list, shelf.Act{Do: shelf.Receive, Part: "p", Order: "o", Quantity: 2}))
}

// Whatever is ordered, received and cancelled in any order: what is here and what was used add up to what was counted and received.
func TestNothingIsLostOrMade(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		counted := float64(rapid.IntRange(0, 5).Draw(t, "counted"))
		acts := []shelf.Act{impeller(0), {Do: shelf.Count, Part: "p", Quantity: counted}}
		received := 0.0
		for i := range rapid.IntRange(0, 6).Draw(t, "orders") {
			id := string(rune('a' + i))
			n := float64(rapid.IntRange(1, 4).Draw(t, "n"))
			acts = append(acts, shelf.Act{Do: shelf.Order, Part: "p", Order: id, Quantity: n})
			if rapid.Bool().Draw(t, "comes") {
				got := float64(rapid.IntRange(1, int(n)).Draw(t, "got"))
				received += got
				acts = append(acts, shelf.Act{Do: shelf.Receive, Part: "p", Order: id, Quantity: got})
			}
		}
		used := float64(rapid.IntRange(0, 3).Draw(t, "used"))
		l := shelf.Shelf(done(acts...), []shelf.Used{{Part: "p", Quantity: used, At: monday.AddDate(0, 1, 0)}})[0]
		if l.Have+used != counted+received {
			t.Fatalf("%g here and %g used of %g counted and %g received", l.Have, used, counted, received)
		}
	})
}
