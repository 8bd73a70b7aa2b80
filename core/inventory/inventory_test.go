package inventory_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/inventory"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

var monday = time.Date(2026, time.May, 4, 8, 0, 0, 0, time.UTC)

// done numbers acts an hour apart.
func done(acts ...inventory.Act) (list []inventory.Done) {
	for i, a := range acts {
		list = append(list, inventory.Done{Act: a, By: "T", At: monday.Add(time.Duration(i) * time.Hour)})
	}
	return list
}

func impeller(minimum float64) inventory.Act {
	return inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{Label: "Impeller", Number: "A-1",
		Minimum: minimum, Price: 30, Maintenance: "impeller", Fits: []inventory.Fit{{Engine: "e", How: inventory.Tried}}}}
}

func TestFromOrderToReceiptToUse(t *testing.T) {
	acts := done(impeller(2), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 1},
		inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 3, Number: "A-2", Price: 33, DueDays: 4},
		inventory.Act{Do: inventory.Receive, Part: "p", Order: "o", Quantity: 2})
	list := inventory.Fold(acts, []inventory.Used{{Part: "p", Quantity: 1, At: monday.Add(9 * time.Hour)},
		{Part: "p", Quantity: 5, At: monday.Add(-time.Hour)}})
	require.Len(t, list, 1)
	l := list[0]
	assert.InDelta(t, 2, l.Have, 1e-9, "one counted, two received, one used; what was used before the count is in it")
	assert.InDelta(t, 1, l.Coming(), 1e-9)
	assert.InDelta(t, 33, l.Price, 1e-9, "what it cost the last time")
	assert.Equal(t, monday.Add(2*time.Hour).AddDate(0, 0, 4), l.Orders[0].Due)
	assert.Empty(t, inventory.ToOrder(list, nil))
	need := inventory.ToOrder(list, []inventory.Wanted{{"impeller", inventory.Engine{ID: "e"}, "due on the launch"},
		{"impeller", inventory.Engine{ID: "e"}, "due on the launch again"}, {"impeller", inventory.Engine{ID: "other"},
			"does not fit"},
		{"anode", inventory.Engine{ID: "e"}, "another part's"}})
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9)
	assert.Equal(t, []string{"due on the launch", "due on the launch again"}, need[0].Reasons)
}

func TestUnderItsMinimumItIsOrdered(t *testing.T) {
	list := inventory.Fold(done(impeller(2), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 1}), nil)
	need := inventory.ToOrder(list, nil)
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9)
	assert.Equal(t, "1 here, the least is 2", need[0].Reasons[0])
	list = inventory.Fold(done(impeller(2), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 1},
		inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 4}, inventory.Act{Do: inventory.Cancel,
			Part: "p", Order: "o"}), nil)
	assert.Len(t, inventory.ToOrder(list, nil), 1, "a cancelled order does not come")
}

func TestWhatWasWrongIsShownTheNextTime(t *testing.T) {
	list := inventory.Fold(done(impeller(0), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 2},
		inventory.Act{Do: inventory.WrongOne, Part: "p", Quantity: 1, Number: "A-9", Words: "spline, not key"}), nil)
	assert.InDelta(t, 1, list[0].Have, 1e-9)
	require.Len(t, list[0].Wrong, 1)
	assert.Equal(t, "spline, not key", list[0].Wrong[0].Words)
}

func TestActsThatDoNotFit(t *testing.T) {
	for name, c := range map[string]struct {
		act   inventory.Act
		field string
	}{
		"no part":           {inventory.Act{Do: inventory.Count}, "part"},
		"no such act":       {inventory.Act{Do: "steal", Part: "p"}, "do"},
		"nothing kept":      {inventory.Act{Do: inventory.SavePart, Part: "p"}, "is"},
		"no name":           {inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{}}, "is.label"},
		"below nothing":     {inventory.Act{Do: inventory.Count, Part: "p", Quantity: -1}, "quantity"},
		"no order":          {inventory.Act{Do: inventory.Receive, Part: "p", Quantity: 1}, "order"},
		"wrong, but no why": {inventory.Act{Do: inventory.WrongOne, Part: "p"}, "words"},
		"fits twice": {inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{Label: "x",
			Fits: []inventory.Fit{{Engine: "e", How: inventory.Tried}, {Engine: "e", How: inventory.Listed}}}}, "is.fits[1]"},
	} {
		var wrong validation.Errors
		require.ErrorAs(t, c.act.Check(), &wrong, name)
		assert.Equal(t, c.field, wrong[0].Field, name)
	}
	list := inventory.Fold(done(impeller(0), inventory.Act{Do: inventory.Count, Part: "p", Quantity: 1},
		inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 2}), nil)
	assert.Contains(t, inventory.Refuse(list, inventory.Act{Do: inventory.Receive, Part: "p", Order: "o", Quantity: 3}),
		"2 are still to come")
	assert.Contains(t, inventory.Refuse(list, inventory.Act{Do: inventory.Receive, Part: "p", Order: "x", Quantity: 1}),
		"not open any more")
	assert.Contains(t, inventory.Refuse(list, inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 1}),
		"already")
	assert.Contains(t, inventory.Refuse(list, inventory.Act{Do: inventory.Count, Part: "q"}), "not in stock")
	assert.Contains(t, inventory.Refuse(list, inventory.Act{Do: inventory.WrongOne, Part: "p", Quantity: 2}),
		"1 lie in stock")
	assert.Empty(t, inventory.Refuse(list, inventory.Act{Do: inventory.Receive, Part: "p", Order: "o", Quantity: 2}))
}

// Whatever is ordered, received and cancelled in any order: what is here and what was used add up to what was counted
// and received.
func TestNothingIsLostOrMade(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		counted := float64(rapid.IntRange(0, 5).Draw(t, "counted"))
		acts := []inventory.Act{impeller(0), {Do: inventory.Count, Part: "p", Quantity: counted}}
		received := 0.0
		for i := range rapid.IntRange(0, 6).Draw(t, "orders") {
			id := string(rune('a' + i))
			n := float64(rapid.IntRange(1, 4).Draw(t, "n"))
			acts = append(acts, inventory.Act{Do: inventory.Order, Part: "p", Order: id, Quantity: n})
			if rapid.Bool().Draw(t, "comes") {
				got := float64(rapid.IntRange(1, int(n)).Draw(t, "got"))
				received += got
				acts = append(acts, inventory.Act{Do: inventory.Receive, Part: "p", Order: id, Quantity: got})
			}
		}
		used := float64(rapid.IntRange(0, 3).Draw(t, "used"))
		l := inventory.Fold(done(acts...), []inventory.Used{{Part: "p", Quantity: used, At: monday.AddDate(0, 1, 0)}})[0]
		if l.Have+used != counted+received {
			t.Fatalf("%g here and %g used of %g counted and %g received", l.Have, used, counted, received)
		}
	})
}

// A part fits every engine that has the pump, however its plate is written down.
func TestAPartFitsByThePump(t *testing.T) {
	p := inventory.Part{Label: "Impeller", Maintenance: "impeller", Fits: []inventory.Fit{{Pump: "LM-P65 k",
		How: inventory.Measured}, {Engine: "tried", How: inventory.Tried}, {Engine: "both", How: inventory.Listed}}}
	for name, c := range map[string]struct {
		engine inventory.Engine
		how    string
		fits   bool
	}{
		"the plate as written":          {inventory.Engine{ID: "a", Pump: "LM-P65 k"}, inventory.Measured, true},
		"without its strokes, in caps":  {inventory.Engine{ID: "a", Pump: "lmp65K"}, inventory.Measured, true},
		"with other blanks":             {inventory.Engine{ID: "a", Pump: "LM P 65/K"}, inventory.Measured, true},
		"another pump":                  {inventory.Engine{ID: "a", Pump: "LM-P65"}, "", false},
		"pump not known":                {inventory.Engine{ID: "a"}, "", false},
		"a plate of strokes alone":      {inventory.Engine{ID: "a", Pump: "--"}, "", false},
		"itself":                        {inventory.Engine{ID: "tried"}, inventory.Tried, true},
		"itself, with another pump":     {inventory.Engine{ID: "tried", Pump: "other"}, inventory.Tried, true},
		"both ways: the surer is said":  {inventory.Engine{ID: "both", Pump: "LM-P65 K"}, inventory.Measured, true},
		"no id and no pump fit nothing": {inventory.Engine{}, "", false},
	} {
		how, fits := p.FitOn(c.engine)
		assert.Equal(t, c.fits, fits, name)
		assert.Equal(t, c.how, how, name)
	}
	unsaid := inventory.Part{Label: "Seal", Fits: []inventory.Fit{{Engine: "a", How: inventory.Tried}}}
	_, fits := unsaid.FitOn(inventory.Engine{ID: "b"})
	assert.False(t, fits, "a pump that nobody knows is not the same as no pump said")
}

// What a job took was tried on its engine: from then on it is known to fit it, until somebody says otherwise.
func TestWhatAJobTookWasTriedOnItsEngine(t *testing.T) {
	keep := inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{Label: "Impeller",
		Fits: []inventory.Fit{{Engine: "a", How: inventory.Listed}, {Pump: "LM-P65", How: inventory.Listed}}}}
	wrong := inventory.Act{Do: inventory.WrongOne, Part: "p", Words: "too wide"}
	took := func(engine string, hours int) inventory.Used {
		return inventory.Used{Part: "p", Engine: engine, Quantity: 1, At: monday.Add(time.Duration(hours)*time.Hour +
			time.Minute)}
	}
	said := keep.Is.Fits
	for name, c := range map[string]struct {
		acts []inventory.Done
		used []inventory.Used
		want []inventory.Fit
	}{
		"listed becomes tried": {done(keep), []inventory.Used{took("a", 0)}, []inventory.Fit{{Engine: "a",
			How: inventory.Tried}, said[1]}},
		"an engine that nobody thought of": {done(keep), []inventory.Used{took("b", 0), took("b", 3)},
			[]inventory.Fit{said[0], said[1], {Engine: "b", How: inventory.Tried}}},
		"said afresh since":    {done(keep, wrong, keep), []inventory.Used{took("b", 0)}, said},
		"it was the wrong one": {done(keep, wrong), []inventory.Used{took("b", 0)}, said},
		"tried again after the wrong one": {done(keep, wrong), []inventory.Used{took("a", 0), took("b", 1)},
			[]inventory.Fit{said[0], said[1], {Engine: "b", How: inventory.Tried}}},
		"of an older record, engine unsaid": {done(keep), []inventory.Used{took("", 0)}, said},
	} {
		list := inventory.Fold(c.acts, c.used)
		require.Len(t, list, 1, name)
		assert.Equal(t, c.want, list[0].Fits, name)
	}
	assert.Equal(t, inventory.Listed, said[0].How, "the act itself is not changed")
	coolant := inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{Label: "Coolant", Unit: "L"}}
	assert.Empty(t, inventory.Fold(done(coolant), []inventory.Used{took("a", 0)})[0].Fits,
		"what goes into any engine is not for certain ones")
}

func TestWhatIsDueOnEnginesWithThePumpIsWanted(t *testing.T) {
	keep := inventory.Act{Do: inventory.SavePart, Part: "p", Is: &inventory.Part{Label: "Impeller",
		Maintenance: "impeller", Fits: []inventory.Fit{{Pump: "LM-P65", How: inventory.Tried},
			{Engine: "a", How: inventory.Tried}}}}
	list := inventory.Fold(done(keep, inventory.Act{Do: inventory.Count, Part: "p", Quantity: 1}), nil)
	due := func(id, pump string) inventory.Wanted {
		return inventory.Wanted{Maintenance: "impeller", Engine: inventory.Engine{ID: id, Pump: pump}, Say: "due on " + id}
	}
	need := inventory.ToOrder(list, []inventory.Wanted{due("a", "LM P65"), due("b", "lm-p65"), due("c", "LM-P95"),
		due("d", "")})
	require.Len(t, need, 1)
	assert.InDelta(t, 1, need[0].Quantity, 1e-9, "two engines want one each, one lies here; who fits twice wants one")
	assert.Equal(t, []string{"due on a", "due on b"}, need[0].Reasons)
	assert.Empty(t, inventory.ToOrder(list, []inventory.Wanted{due("b", "lm-p65")}), "the one here will do")
}

func TestAPartsFactsAreLookedAt(t *testing.T) {
	part := func(change func(p *inventory.Part)) inventory.Act {
		p := inventory.Part{Label: "Impeller", Minimum: 1, Price: 30, Fits: []inventory.Fit{{Engine: "e",
			How: inventory.Tried}, {Pump: "LM-P65", How: inventory.Listed}},
			Impeller: &workbench.Impeller{OutsideDiameter: 65, Width: 50.8, Bore: 16, Drive: "key", Blades: 10, Insert: "brass",
				CoverSeal: "o-ring"}}
		change(&p)
		return inventory.Act{Do: inventory.SavePart, Part: "p", Is: &p}
	}
	require.NoError(t, part(func(*inventory.Part) {}).Check())
	require.NoError(t, part(func(p *inventory.Part) { *p.Impeller = workbench.Impeller{} }).Check(),
		"what is not known is left out")
	for field, change := range map[string]func(p *inventory.Part){
		"is.minimum": func(p *inventory.Part) { p.Minimum = -1 },
		"is.price":   func(p *inventory.Part) { p.Price = math.NaN() },
		"is.label":   func(p *inventory.Part) { p.Label = " \t" },
		"is.fits[0]": func(p *inventory.Part) { p.Fits[0].Engine = "" },
		"is.fits[1]": func(p *inventory.Part) { p.Fits[1].Engine = "e" },
		"is.fits[2]": func(p *inventory.Part) {
			p.Fits = append(p.Fits, inventory.Fit{Pump: "lm p65",
				How: inventory.Tried})
		},
		"is.fits[3]": func(p *inventory.Part) {
			p.Fits = append(p.Fits, inventory.Fit{Engine: "f", How: inventory.Tried}, inventory.Fit{Engine: "g", How: "guessed"})
		},
		"is.impeller.outside_diameter_mm": func(p *inventory.Part) { p.Impeller.OutsideDiameter = 650 },
		"is.impeller.width_mm":            func(p *inventory.Part) { p.Impeller.Width = -5 },
		"is.impeller.bore_mm":             func(p *inventory.Part) { p.Impeller.Bore = 70 },
		"is.impeller.blades":              func(p *inventory.Part) { p.Impeller.Blades = 2 },
		"is.impeller.drive":               func(p *inventory.Part) { p.Impeller.Drive = "glue" },
		"is.impeller.insert":              func(p *inventory.Part) { p.Impeller.Insert = "wood" },
		"is.impeller.cover_seal":          func(p *inventory.Part) { p.Impeller.CoverSeal = "tape" },
	} {
		var wrong validation.Errors
		require.ErrorAs(t, part(change).Check(), &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
		assert.NotEmpty(t, wrong[0].Allowed, field)
	}
}

// A part not kept any more is off the list, comes back when it is kept again, and its count is still known.
func TestPartsGoAndComeBack(t *testing.T) {
	gone := impeller(2)
	gone.Is = &inventory.Part{Label: "Impeller", Gone: true}
	acts := []inventory.Act{impeller(2), {Do: inventory.Count, Part: "p", Quantity: 4}, gone}
	assert.Empty(t, inventory.Fold(done(acts...), nil))
	back := inventory.Fold(done(append(acts, impeller(1))...), nil)
	require.Len(t, back, 1)
	assert.InDelta(t, 4, back[0].Have, 1e-9)
	assert.InDelta(t, 1, back[0].Minimum, 1e-9)
	assert.Empty(t, inventory.Fold(done(inventory.Act{Do: inventory.Count, Part: "never kept", Quantity: 4}),
		[]inventory.Used{{Part: "x", Quantity: 1}}), "without its facts it is not on the list")
}

// Of two who change a part's facts at once the second is told, and overwrites nothing; who never saw it may keep it.
func TestOfTwoWhoChangeAPartOneIsTold(t *testing.T) {
	kept := func(entries ...string) []inventory.Line {
		acts := done(make([]inventory.Act, len(entries))...)
		for i, e := range entries {
			acts[i].Act, acts[i].Entry = impeller(float64(i)), e
		}
		return inventory.Fold(acts, nil)
	}
	change := func(seen string) inventory.Act {
		a := impeller(5)
		a.Seen = seen
		return a
	}
	assert.Empty(t, inventory.Refuse(kept("k1"), change("k1")))
	assert.Contains(t, inventory.Refuse(kept("k1", "k2"), change("k1")), "changed on another device")
	assert.Empty(t, inventory.Refuse(kept("k1", "k2"), change("k2")))
	assert.Empty(t, inventory.Refuse(kept("k1", "k2"), change("")), "as older programs did")
	assert.Contains(t, inventory.Refuse(nil, change("k1")), "not in stock any more", "taken off meanwhile")
	assert.Empty(t, inventory.Refuse(nil, change("")))
}

// What two people do in stock adds up whatever the order in which their acts are kept, counts apart.
func TestActsOfTwoPeopleAddUpInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		acts := []inventory.Act{{Do: inventory.Order, Part: "p", Order: "a", Quantity: 3, Price: 10}, {Do: inventory.Order,
			Part: "p", Order: "b", Quantity: 2, Price: 10}}
		var later []inventory.Act
		for _, a := range acts {
			later = append(later, inventory.Act{Do: inventory.Receive, Part: "p", Order: a.Order, Quantity: 1},
				inventory.Act{Do: inventory.Receive, Part: "p", Order: a.Order, Quantity: 1})
		}
		later = append(later, inventory.Act{Do: inventory.WrongOne, Part: "p", Quantity: 1, Words: "too wide"})
		first := append([]inventory.Act{impeller(0), {Do: inventory.Count, Part: "p", Quantity: 1}}, acts...)
		mixed := inventory.Fold(done(append(first, rapid.Permutation(later).Draw(t, "order")...)...), nil)
		require.Len(t, mixed, 1)
		require.InDelta(t, 1+4-1, mixed[0].Have, 1e-9)
		require.InDelta(t, 1, mixed[0].Coming(), 1e-9)
		require.Len(t, mixed[0].Orders, 1, "what has all come is not open any more")
		require.Equal(t, "a", mixed[0].Orders[0].ID)
	})
}

func TestWhatTheProgramAsksFor(t *testing.T) {
	for name, c := range map[string]struct {
		act inventory.Act
		say string
	}{
		"a word that is missing": {inventory.Act{Do: inventory.WrongOne, Part: "p", Words: "  "}, "say in a few words"},
		"an order of none":       {inventory.Act{Do: inventory.Order, Part: "p", Order: "o"}, "say how many"},
		"an endless order": {inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: math.Inf(1)},
			"say how many"},
		"no number": {inventory.Act{Do: inventory.Count, Part: "p", Quantity: math.NaN()}, "say how many"},
		"a price below nothing": {inventory.Act{Do: inventory.Order, Part: "p", Order: "o", Quantity: 1, Price: -3},
			"look at the price"},
		"no such order": {inventory.Act{Do: inventory.Cancel, Part: "p"}, "say which order"},
	} {
		assert.ErrorContains(t, c.act.Check(), c.say, name)
	}
}
