package shelf_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/bench"
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
	list := shelf.Shelf(acts, []shelf.Used{{Part: "p", Quantity: 1, At: monday.Add(9 * time.Hour)}, {Part: "p", Quantity: 5, At: monday.Add(-time.Hour)}})
	require.Len(t, list, 1)
	l := list[0]
	assert.InDelta(t, 2, l.Have, 1e-9, "one counted, two received, one used; what was used before the count is in it")
	assert.InDelta(t, 1, l.Coming(), 1e-9)
	assert.InDelta(t, 33, l.Price, 1e-9, "what it cost the last time")
	assert.Equal(t, monday.Add(2*time.Hour).AddDate(0, 0, 4), l.Orders[0].Due)
	assert.Empty(t, shelf.ToOrder(list, nil))
	need := shelf.ToOrder(list, []shelf.Wanted{{"impeller", shelf.Engine{ID: "e"}, "due on the launch"}, {"impeller", shelf.Engine{ID: "e"}, "due on the launch again"}, {"impeller", shelf.Engine{ID: "other"}, "does not fit"},
		{"anode", shelf.Engine{ID: "e"}, "another part's"}})
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
		"fits twice":        {shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "x", Fits: []shelf.Fit{{Engine: "e", How: shelf.Tried}, {Engine: "e", How: shelf.Listed}}}}, "is.fits[1]"},
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

// A part fits every engine that has the pump, however its plate is written down.
func TestAPartFitsByThePump(t *testing.T) {
	p := shelf.Part{Label: "Impeller", Upkeep: "impeller", Fits: []shelf.Fit{{Pump: "LM-P65 k", How: shelf.Measured}, {Engine: "tried", How: shelf.Tried}, {Engine: "both", How: shelf.Listed}}}
	for name, c := range map[string]struct {
		engine shelf.Engine
		how    string
		fits   bool
	}{
		"the plate as written":          {shelf.Engine{ID: "a", Pump: "LM-P65 k"}, shelf.Measured, true},
		"without its strokes, in caps":  {shelf.Engine{ID: "a", Pump: "lmp65K"}, shelf.Measured, true},
		"with other blanks":             {shelf.Engine{ID: "a", Pump: "LM P 65/K"}, shelf.Measured, true},
		"another pump":                  {shelf.Engine{ID: "a", Pump: "LM-P65"}, "", false},
		"pump not known":                {shelf.Engine{ID: "a"}, "", false},
		"a plate of strokes alone":      {shelf.Engine{ID: "a", Pump: "--"}, "", false},
		"herself":                       {shelf.Engine{ID: "tried"}, shelf.Tried, true},
		"herself, with another pump":    {shelf.Engine{ID: "tried", Pump: "other"}, shelf.Tried, true},
		"both ways: the surer is said":  {shelf.Engine{ID: "both", Pump: "LM-P65 K"}, shelf.Measured, true},
		"no id and no pump fit nothing": {shelf.Engine{}, "", false},
	} {
		how, fits := p.FitOn(c.engine)
		assert.Equal(t, c.fits, fits, name)
		assert.Equal(t, c.how, how, name)
	}
	unsaid := shelf.Part{Label: "Seal", Fits: []shelf.Fit{{Engine: "a", How: shelf.Tried}}}
	_, fits := unsaid.FitOn(shelf.Engine{ID: "b"})
	assert.False(t, fits, "a pump that nobody knows is not the same as no pump said")
}

// What a job took was tried on its engine: from then on it is known to fit her, until somebody says otherwise.
func TestWhatAJobTookWasTriedOnItsEngine(t *testing.T) {
	keep := shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "Impeller", Fits: []shelf.Fit{{Engine: "a", How: shelf.Listed}, {Pump: "LM-P65", How: shelf.Listed}}}}
	wrong := shelf.Act{Do: shelf.WrongOne, Part: "p", Words: "too wide"}
	took := func(engine string, hours int) shelf.Used {
		return shelf.Used{Part: "p", Engine: engine, Quantity: 1, At: monday.Add(time.Duration(hours)*time.Hour + time.Minute)}
	}
	said := keep.Is.Fits
	for name, c := range map[string]struct {
		acts []shelf.Done
		used []shelf.Used
		want []shelf.Fit
	}{
		"listed becomes tried":              {done(keep), []shelf.Used{took("a", 0)}, []shelf.Fit{{Engine: "a", How: shelf.Tried}, said[1]}},
		"an engine that nobody thought of":  {done(keep), []shelf.Used{took("b", 0), took("b", 3)}, []shelf.Fit{said[0], said[1], {Engine: "b", How: shelf.Tried}}},
		"said afresh since":                 {done(keep, wrong, keep), []shelf.Used{took("b", 0)}, said},
		"it was the wrong one":              {done(keep, wrong), []shelf.Used{took("b", 0)}, said},
		"tried again after the wrong one":   {done(keep, wrong), []shelf.Used{took("a", 0), took("b", 1)}, []shelf.Fit{said[0], said[1], {Engine: "b", How: shelf.Tried}}},
		"of an older record, engine unsaid": {done(keep), []shelf.Used{took("", 0)}, said},
	} {
		list := shelf.Shelf(c.acts, c.used)
		require.Len(t, list, 1, name)
		assert.Equal(t, c.want, list[0].Fits, name)
	}
	assert.Equal(t, shelf.Listed, said[0].How, "the act itself is not changed")
	coolant := shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "Coolant", Unit: "L"}}
	assert.Empty(t, shelf.Shelf(done(coolant), []shelf.Used{took("a", 0)})[0].Fits, "what goes into any engine is not for certain ones")
}

func TestWhatIsDueOnEnginesWithThePumpIsWanted(t *testing.T) {
	keep := shelf.Act{Do: shelf.Keep, Part: "p", Is: &shelf.Part{Label: "Impeller", Upkeep: "impeller", Fits: []shelf.Fit{{Pump: "LM-P65", How: shelf.Tried}, {Engine: "a", How: shelf.Tried}}}}
	list := shelf.Shelf(done(keep, shelf.Act{Do: shelf.Count, Part: "p", Quantity: 1}), nil)
	due := func(id, pump string) shelf.Wanted {
		return shelf.Wanted{Upkeep: "impeller", Engine: shelf.Engine{ID: id, Pump: pump}, Say: "due on " + id}
	}
	need := shelf.ToOrder(list, []shelf.Wanted{due("a", "LM P65"), due("b", "lm-p65"), due("c", "LM-P95"), due("d", "")})
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9, "two engines want one each, one lies here; who fits twice wants one")
	assert.Equal(t, []string{"due on a", "due on b"}, need[0].Reasons)
	assert.Empty(t, shelf.ToOrder(list, []shelf.Wanted{due("b", "lm-p65")}), "the one here will do")
}

func TestAPartsFactsAreLookedAt(t *testing.T) {
	part := func(change func(p *shelf.Part)) shelf.Act {
		p := shelf.Part{Label: "Impeller", Minimum: 1, Price: 30, Fits: []shelf.Fit{{Engine: "e", How: shelf.Tried}, {Pump: "LM-P65", How: shelf.Listed}},
			Impeller: &bench.Impeller{OutsideDiameter: 65, Width: 50.8, Bore: 16, Drive: "key", Blades: 10, Insert: "brass", CoverSeal: "o-ring"}}
		change(&p)
		return shelf.Act{Do: shelf.Keep, Part: "p", Is: &p}
	}
	require.NoError(t, part(func(*shelf.Part) {}).Check())
	require.NoError(t, part(func(p *shelf.Part) { *p.Impeller = bench.Impeller{} }).Check(), "what is not known is left out")
	for field, change := range map[string]func(p *shelf.Part){
		"is.minimum": func(p *shelf.Part) { p.Minimum = -1 },
		"is.price":   func(p *shelf.Part) { p.Price = math.NaN() },
		"is.label":   func(p *shelf.Part) { p.Label = " \t" },
		"is.fits[0]": func(p *shelf.Part) { p.Fits[0].Engine = "" },
		"is.fits[1]": func(p *shelf.Part) { p.Fits[1].Engine = "e" },
		"is.fits[2]": func(p *shelf.Part) { p.Fits = append(p.Fits, shelf.Fit{Pump: "lm p65", How: shelf.Tried}) },
		"is.fits[3]": func(p *shelf.Part) {
			p.Fits = append(p.Fits, shelf.Fit{Engine: "f", How: shelf.Tried}, shelf.Fit{Engine: "g", How: "guessed"})
		},
		"is.impeller.outside_diameter_mm": func(p *shelf.Part) { p.Impeller.OutsideDiameter = 650 },
		"is.impeller.width_mm":            func(p *shelf.Part) { p.Impeller.Width = -5 },
		"is.impeller.bore_mm":             func(p *shelf.Part) { p.Impeller.Bore = 70 },
		"is.impeller.blades":              func(p *shelf.Part) { p.Impeller.Blades = 2 },
		"is.impeller.drive":               func(p *shelf.Part) { p.Impeller.Drive = "glue" },
		"is.impeller.insert":              func(p *shelf.Part) { p.Impeller.Insert = "wood" },
		"is.impeller.cover_seal":          func(p *shelf.Part) { p.Impeller.CoverSeal = "tape" },
	} {
		var wrong input.Errors
		require.ErrorAs(t, part(change).Check(), &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
		assert.NotEmpty(t, wrong[0].Allowed, field)
	}
}

// A part not kept any more is off the list, comes back when it is kept again, and its count is still known.
func TestPartsGoAndComeBack(t *testing.T) {
	gone := impeller(2)
	gone.Is = &shelf.Part{Label: "Impeller", Gone: true}
	acts := []shelf.Act{impeller(2), {Do: shelf.Count, Part: "p", Quantity: 4}, gone}
	assert.Empty(t, shelf.Shelf(done(acts...), nil))
	back := shelf.Shelf(done(append(acts, impeller(1))...), nil)
	require.Len(t, back, 1)
	assert.InDelta(t, 4, back[0].Have, 1e-9)
	assert.InDelta(t, 1, back[0].Minimum, 1e-9)
	assert.Empty(t, shelf.Shelf(done(shelf.Act{Do: shelf.Count, Part: "never kept", Quantity: 4}), []shelf.Used{{Part: "x", Quantity: 1}}), "without its facts it is not on the list")
}

// Of two who change a part's facts at once the second is told, and overwrites nothing; who never saw it may keep it.
func TestOfTwoWhoChangeAPartOneIsTold(t *testing.T) {
	kept := func(entries ...string) []shelf.Line {
		acts := done(make([]shelf.Act, len(entries))...)
		for i, e := range entries {
			acts[i].Act, acts[i].Entry = impeller(float64(i)), e
		}
		return shelf.Shelf(acts, nil)
	}
	change := func(seen string) shelf.Act {
		a := impeller(5)
		a.Seen = seen
		return a
	}
	assert.Empty(t, shelf.Refuse(kept("k1"), change("k1")))
	assert.Contains(t, shelf.Refuse(kept("k1", "k2"), change("k1")), "changed on another device")
	assert.Empty(t, shelf.Refuse(kept("k1", "k2"), change("k2")))
	assert.Empty(t, shelf.Refuse(kept("k1", "k2"), change("")), "as older programs did")
	assert.Contains(t, shelf.Refuse(nil, change("k1")), "not on the shelf any more", "taken off meanwhile")
	assert.Empty(t, shelf.Refuse(nil, change("")))
}

// What two people do on the shelf adds up whatever the order in which their acts are kept, counts apart.
func TestActsOfTwoPeopleAddUpInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		acts := []shelf.Act{{Do: shelf.Order, Part: "p", Order: "a", Quantity: 3, Price: 10}, {Do: shelf.Order, Part: "p", Order: "b", Quantity: 2, Price: 10}}
		var later []shelf.Act
		for _, a := range acts {
			later = append(later, shelf.Act{Do: shelf.Receive, Part: "p", Order: a.Order, Quantity: 1}, shelf.Act{Do: shelf.Receive, Part: "p", Order: a.Order, Quantity: 1})
		}
		later = append(later, shelf.Act{Do: shelf.WrongOne, Part: "p", Quantity: 1, Words: "too wide"})
		first := append([]shelf.Act{impeller(0), {Do: shelf.Count, Part: "p", Quantity: 1}}, acts...)
		mixed := shelf.Shelf(done(append(first, rapid.Permutation(later).Draw(t, "order")...)...), nil)
		require.Len(t, mixed, 1)
		require.InDelta(t, 1+4-1, mixed[0].Have, 1e-9)
		require.InDelta(t, 1, mixed[0].Coming(), 1e-9)
		require.Len(t, mixed[0].Orders, 1, "what has all come is not open any more")
		require.Equal(t, "a", mixed[0].Orders[0].ID)
	})
}

func TestWhatTheProgramAsksFor(t *testing.T) {
	for name, c := range map[string]struct {
		act shelf.Act
		say string
	}{
		"a word that is missing": {shelf.Act{Do: shelf.WrongOne, Part: "p", Words: "  "}, "say in a few words"},
		"an order of none":       {shelf.Act{Do: shelf.Order, Part: "p", Order: "o"}, "say how many"},
		"an endless order":       {shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: math.Inf(1)}, "say how many"},
		"no number":              {shelf.Act{Do: shelf.Count, Part: "p", Quantity: math.NaN()}, "say how many"},
		"a price below nothing":  {shelf.Act{Do: shelf.Order, Part: "p", Order: "o", Quantity: 1, Price: -3}, "look at the price"},
		"no such order":          {shelf.Act{Do: shelf.Cancel, Part: "p"}, "say which order"},
	} {
		assert.ErrorContains(t, c.act.Check(), c.say, name)
	}
}
