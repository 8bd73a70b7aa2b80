package practice_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/practice"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// hotheaded opens, starts and pours without a thought.
func hotheaded(t *testing.T, c *catalogue.Catalogue, e *practice.Engine, r *rand.Rand) map[string]bool {
	t.Helper()
	w := practice.Enter(e)
	no := false
	acts := []func(){
		func() { _, _ = w.Look(c.Checks[r.IntN(len(c.Checks))].ID) },
		func() { w.Note(act(teardown.Act{Do: teardown.Isolate, Item: "seacock"})) },
		func() { w.Note(act(teardown.Act{Do: teardown.Lift, Item: "seacock"})) },
		func() { w.Note(act(teardown.Act{Do: teardown.Start})) },
		func() { w.Note(act(teardown.Act{Do: teardown.OilIs, Item: "risen"})) },
		func() {
			w.Note(act(teardown.Act{Do: teardown.Begin, Task: &c.Tasks[0]}))
			w.Note(act(teardown.Act{Do: teardown.Off, Item: c.Tasks[0].ID + "/cover-seal", Count: 1}))
		},
		func() {
			w.Note(act(teardown.Act{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Gone}, {State: teardown.Sound}, {State: teardown.Sound}}}}))
		},
		func() {
			for _, id := range w.Open() {
				w.Note(eventlog.Entry{Kind: eventlog.Access, Body: eventlog.Body{Access: id, Open: &no}})
			}
		},
		func() {
			a := wetwork.Act{Do: "plan", Work: "w", Descale: &wetwork.DescalePlan{Product: wetwork.Product{Acid: "citric"},
				Materials: map[string][]string{"gear-cooler": {"aluminium"}}}}
			w.Tried(eventlog.Entry{Kind: eventlog.WetworkNoted, Body: eventlog.Body{Wetwork: &a}})
		},
		func() {
			w.Note(eventlog.Entry{Kind: eventlog.WetworkNoted, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "j"},
				Body: eventlog.Body{Wetwork: &wetwork.Act{Do: wetwork.PlanIt, Work: "w", Kind: wetwork.Descale,
					Descale: &wetwork.DescalePlan{Place: wetwork.InPlace, Product: wetwork.Product{Acid: wetwork.Citric}}}}})
			w.Note(eventlog.Entry{Kind: eventlog.WetworkNoted, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "j"},
				Body: eventlog.Body{Wetwork: &wetwork.Act{Do: wetwork.Begin, Work: "w"}}})
		},
		func() { w.End() },
	}
	for range 40 {
		acts[r.IntN(len(acts))]()
	}
	out := map[string]bool{}
	for _, s := range w.Log {
		if s.Danger != nil {
			out[s.Danger.ID] = true
		}
	}
	return out
}

// Somebody who does whatever comes to mind is caught by every danger at least once; and each danger has its caution.
func TestHotheadIsCaughtByEveryDanger(t *testing.T) {
	c := load(t)
	caught := map[string]bool{}
	r := rand.New(rand.NewPCG(1, 2))
	for seed := range uint32(400) {
		k := practice.Kinds[int(seed)%len(practice.Kinds)]
		e, err := practice.Draw(c, practice.Case{Kind: k.ID, Level: practice.TwoFaults, Seed: seed})
		require.NoError(t, err)
		for id := range hotheaded(t, c, e, r) {
			caught[id] = true
		}
	}
	for _, d := range practice.Dangers {
		assert.True(t, caught[d.ID], "nobody was caught by %s", d.ID)
		if d.Caution != "" {
			_, ok := c.Caution(d.Caution)
			assert.True(t, ok, d.Caution)
		}
		assert.NotEmpty(t, d.Happened)
		assert.NotEmpty(t, d.Instead)
	}
}

// Thirty seconds without water are allowed, one more is not.
func TestDryByTheSecond(t *testing.T) {
	c := load(t)
	for _, x := range []struct {
		seconds float64
		dry     bool
	}{{30, false}, {31, true}} {
		e, err := practice.Draw(c, practice.Case{Lesson: 6})
		require.NoError(t, err)
		w := practice.Enter(e)
		got := w.Note(eventlog.Entry{Kind: eventlog.Proved, Body: eventlog.Body{
			Proving: &proving.Act{Do: proving.Prime, Seconds: x.seconds}}})
		assert.Equal(t, x.dry, len(got) == 1, x.seconds)
	}
}

// A danger that stands is told once; undone and walked into again, it is told again. One that ends the job ends it.
func TestDangerIsToldOnceWhileItStands(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 1})
	require.NoError(t, err)
	w := practice.Enter(e)
	count := func() (n int) {
		for _, s := range w.Log {
			if s.Danger != nil && s.Danger.ID == "flooding" {
				n++
			}
		}
		return n
	}
	_, _ = w.Look("strainer-look")
	_, _ = w.Look("impeller-look")
	assert.Equal(t, 1, count())
	w.Note(act(teardown.Act{Do: teardown.Isolate, Item: "seacock"}))
	_, _ = w.Look("strainer-look")
	w.Note(act(teardown.Act{Do: teardown.Lift, Item: "seacock"}))
	_, _ = w.Look("strainer-look")
	assert.Equal(t, 2, count())
	w.End()
	assert.True(t, w.Over())
	last := w.Log[len(w.Log)-2]
	require.NotNil(t, last.Danger, "a joint is open and the seacock as well")
	assert.Equal(t, "sunk", last.Danger.ID)
}

// A hot engine is cold after its time, not a minute before.
func TestHotUntilItIsCold(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 11})
	require.NoError(t, err)
	for _, short := range []float64{1, 0} {
		w := practice.Enter(e)
		_, err = w.Wait(w.Cold() - short)
		require.NoError(t, err)
		s, err := w.Look("coolant-level")
		require.NoError(t, err)
		scalded := slices.ContainsFunc(w.Log, func(s practice.Step) bool { return s.Danger != nil && s.Danger.ID == "scald" })
		assert.Equal(t, short > 0, scalded)
		assert.NotEmpty(t, s.Seen)
	}
}

// What is taken back is taken back on the engine too: a seacock tapped shut by a slip, a repair that was none.
func TestUndoTakesItBackOnTheEngine(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 1})
	require.NoError(t, err)
	w := practice.Enter(e)
	job := eventlog.Subject{Kind: eventlog.OfJob, ID: "j"}
	note := func(id string, a teardown.Act) {
		entry := act(a)
		entry.ID = id
		w.Note(entry)
	}
	undo := func(id, of string) {
		w.Note(eventlog.Entry{ID: id, Kind: eventlog.Undo, Subject: job, Body: eventlog.Body{Undoes: of}})
	}
	note("a", teardown.Act{Do: teardown.Isolate, Item: "seacock"})
	undo("b", "a")
	_, err = w.Look("look-over-side")
	require.NoError(t, err)
	assert.Nil(t, w.Log[0].Danger, "it does not run dry")
	note("c", teardown.Act{Do: teardown.PutRight, Item: "strainer-clogged"})
	assert.True(t, w.Cured())
	undo("d", "c")
	assert.False(t, w.Cured())
	undo("e", "d")
	assert.True(t, w.Cured(), "and taken back once more")
	note("f", teardown.Act{Do: teardown.Isolate, Item: "seacock"})
	_, err = w.Look("strainer-look")
	require.NoError(t, err)
	no := false
	w.Note(eventlog.Entry{ID: "g", Kind: eventlog.Access, Subject: job, Body: eventlog.Body{Access: "strainer-open", Open: &no}})
	assert.Empty(t, w.Open())
	undo("h", "g")
	assert.Equal(t, []string{"strainer-open"}, w.Open())
}

// A gauge that is teed in keeps the sea out: nobody sinks who goes home with it.
func TestATeedInGaugeIsNotLeftOpen(t *testing.T) {
	e, err := practice.Draw(load(t), practice.Case{Kind: "sail", Level: practice.OneFault, Seed: 3})
	require.NoError(t, err)
	w := practice.Enter(e)
	_, err = w.Look("delivery-pressure")
	require.NoError(t, err)
	w.End()
	for _, s := range w.Log {
		if s.Danger != nil {
			assert.NotEqual(t, "sunk", s.Danger.ID)
		}
	}
}
