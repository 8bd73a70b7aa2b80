package coaching_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/coaching"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/practice"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

func coach(t *testing.T) (*catalogue.Catalogue, *coaching.Coach) {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c, coaching.New(c)
}

func enter(t *testing.T, c *catalogue.Catalogue, k practice.Case) *practice.World {
	t.Helper()
	e, err := practice.Draw(c, k)
	require.NoError(t, err)
	return practice.Enter(e)
}

// jobs is how many are played here a level; the bench plays 500 (docs/practice.md has its figures).
const jobs = 24

// Somebody who follows the program's advice is proved cured, and walks into no danger.
func TestFollowingTheAdviceCures(t *testing.T) {
	c, k := coach(t)
	for _, l := range practice.Levels {
		cured := 0
		for i := range uint32(jobs) {
			kind := practice.Kinds[int(i)%len(practice.Kinds)]
			e, err := practice.Draw(c, practice.Case{Kind: kind.ID, Level: l.ID, Seed: 7000 + i})
			require.NoError(t, err)
			p, err := k.Play(e, coaching.Policy{})
			require.NoError(t, err)
			assert.Empty(t, p.Dangers, e.Case.Code())
			assert.GreaterOrEqual(t, p.Minutes, p.Looking)
			if p.Cured {
				cured++
			}
		}
		assert.GreaterOrEqual(t, cured, jobs-1, l.ID)
	}
}

func TestEveryLessonIsCuredByTheAdvice(t *testing.T) {
	c, k := coach(t)
	for i, l := range practice.Lessons {
		e, err := practice.Draw(c, practice.Case{Lesson: i + 1})
		require.NoError(t, err)
		p, err := k.Play(e, coaching.Policy{})
		require.NoError(t, err)
		assert.True(t, p.Cured, l.ID)
		assert.Empty(t, p.Dangers, l.ID)
		assert.GreaterOrEqual(t, p.Looking, k.Knowing(e), "%s: nobody beats who knew", l.ID)
	}
}

// A yard's own order is kept to as far as its looks are offered.
func TestOwnOrderIsKept(t *testing.T) {
	c, k := coach(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 1})
	require.NoError(t, err)
	order := []string{"belt-look", "feel-hoses", "strainer-look"}
	p, err := k.Play(e, coaching.Policy{Order: order})
	require.NoError(t, err)
	var looked []string
	for _, s := range p.Steps {
		if s.Do == practice.Looked {
			looked = append(looked, s.Check)
		}
	}
	require.GreaterOrEqual(t, len(looked), 3)
	assert.Equal(t, order, looked[:3])
}

// Three hints, each telling more and costing more; a look begins them anew.
func TestHintsTellMoreAndMore(t *testing.T) {
	c, k := coach(t)
	w := enter(t, c, practice.Case{Lesson: 1})
	var list []coaching.Hint
	for range 4 {
		h, err := k.Hint(w)
		require.NoError(t, err)
		list = append(list, h)
		w.Hint(h.Words, h.Minutes)
	}
	assert.Equal(t, []float64{3, 5, 8, 8}, []float64{list[0].Minutes, list[1].Minutes, list[2].Minutes, list[3].Minutes})
	assert.NotEqual(t, list[0].Words, list[1].Words)
	assert.Greater(t, len(list[2].Words), len(list[1].Words))
	assert.InDelta(t, 24, w.Minutes, 1e-9)
	_, err := w.Look("look-over-side")
	require.NoError(t, err)
	h, err := k.Hint(w)
	require.NoError(t, err)
	assert.InDelta(t, 3, h.Minutes, 1e-9)
}

func act(do, item string) eventlog.Entry {
	return eventlog.Entry{Kind: eventlog.TeardownNoted, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "j"},
		Body: eventlog.Body{Teardown: &teardown.Act{Do: do, Item: item}}}
}

func sign(outcome string) eventlog.Entry {
	return eventlog.Entry{Kind: eventlog.Proved, Body: eventlog.Body{
		Proving: &proving.Act{Do: proving.Sign, Outcome: outcome}}}
}

func labels(list []coaching.Better) string {
	var out []string
	for _, b := range list {
		out = append(out, b.Label)
	}
	return strings.Join(out, "; ")
}

func TestReviewOfACleanHunt(t *testing.T) {
	c, k := coach(t)
	w := enter(t, c, practice.Case{Lesson: 1})
	_, err := w.Look("look-over-side")
	require.NoError(t, err)
	w.Note(act(teardown.Isolate, "seacock"))
	_, err = w.Look("strainer-look")
	require.NoError(t, err)
	w.Note(act(teardown.PutRight, "strainer-clogged"))
	no := false
	w.Note(eventlog.Entry{Kind: eventlog.Access, Body: eventlog.Body{Access: "strainer-open", Open: &no}})
	w.Note(act(teardown.Lift, "seacock"))
	_, err = w.Prove()
	require.NoError(t, err)
	w.Note(sign(proving.Cured))
	w.End()
	r, err := k.Review(w)
	require.NoError(t, err)
	assert.True(t, r.Cured && r.Signed && r.FirstMet)
	assert.Empty(t, r.MissedLooks)
	assert.Empty(t, r.Dangers)
	assert.Empty(t, r.Better, labels(r.Better))
	assert.InDelta(t, 5, r.Looking, 1e-9, "one minute and four")
	assert.InDelta(t, 4, r.Knowing, 1e-9)
	assert.Empty(t, r.Comeback)
	i := slices.IndexFunc(r.Turns, func(t coaching.Turn) bool { return t.Step.Do == practice.Looked })
	require.GreaterOrEqual(t, i, 0)
	assert.NotEmpty(t, r.Turns[i].Best)
	assert.Len(t, r.Turns[i].Suspects, 3)
}

func TestReviewTellsWhatCouldBeBetter(t *testing.T) {
	c, k := coach(t)
	w := enter(t, c, practice.Case{Lesson: 1})
	_, err := w.Look("impeller-look") // with the seacock open, before any look
	require.NoError(t, err)
	w.Note(act(teardown.PutRight, "impeller-tired")) // on a hunch
	w.Note(sign(proving.Cured))
	w.End()
	r, err := k.Review(w)
	require.NoError(t, err)
	assert.False(t, r.Cured)
	assert.False(t, r.FirstMet)
	assert.Equal(t, []string{"strainer-look"}, r.MissedLooks)
	assert.NotEmpty(t, r.Comeback, "it comes back the day after")
	require.Len(t, r.Better, 3)
	assert.Contains(t, labels(r.Better), "Opened with the seacock open")
	assert.Contains(t, labels(r.Better), "Signed as cured, and it was not")
	assert.Equal(t, []string{"strainer-clogged"}, r.Left)
}

// What was seen twice counts as two looks, and of a question only the option that is so.
func TestReviewAsksTheDiagnosisWhatWasKnown(t *testing.T) {
	c, k := coach(t)
	w := enter(t, c, practice.Case{Lesson: 1})
	for range 2 {
		_, err := w.Look("belt-look")
		require.NoError(t, err)
	}
	w.End()
	r, err := k.Review(w)
	require.NoError(t, err)
	d := diagnosis.New(c)
	q := diagnosis.Question{Family: "closed", Stations: w.Facts().Circuit, History: w.History, Brief: true,
		Findings: []diagnosis.Evidence{{Finding: "hot-under-load", Q: 1}}, Barred: map[string]string{"sister-look": "one"}}
	a, err := d.Diagnose(q)
	require.NoError(t, err)
	assert.Equal(t, a.NextChecks[0].Check, r.Turns[0].Best)
	assert.Equal(t, a.Suspects[0].Fault, r.Turns[0].Suspects[0].Fault)
	assert.Contains(t, labels(r.Better), "No proof")
}

// What was read at idle is weighed as read there.
func TestReviewWeighsAReadingByItsPoint(t *testing.T) {
	c, k := coach(t)
	w := enter(t, c, practice.Case{Lesson: 1})
	step, err := w.Look("temperatures-idle")
	require.NoError(t, err)
	_, err = w.Look("belt-look")
	require.NoError(t, err)
	w.End()
	r, err := k.Review(w)
	require.NoError(t, err)
	q := diagnosis.Question{Family: "closed", Stations: w.Facts().Circuit, History: w.History, Brief: true,
		Findings: []diagnosis.Evidence{{Finding: "hot-under-load", Q: 1}}, Barred: map[string]string{"sister-look": "one"}}
	for _, f := range step.Seen {
		e := diagnosis.Evidence{Finding: f.Finding, Point: c.PointOf("temperatures-idle", f.Finding)}
		if f.Present {
			e.Q = 1
		}
		q.Findings = append(q.Findings, e)
	}
	a, err := diagnosis.New(c).Diagnose(q)
	require.NoError(t, err)
	require.Greater(t, len(r.Turns), 1)
	assert.Equal(t, a.Suspects[0].Fault, r.Turns[1].Suspects[0].Fault)
	assert.InDelta(t, a.Suspects[0].Probability, r.Turns[1].Suspects[0].Probability, 1e-9)
}

// The same policy on both sides comes to the same; a worse order takes longer, and is cured all the same.
func TestBenchComparesOrders(t *testing.T) {
	_, k := coach(t)
	run := func(p coaching.Policy) (own, program coaching.Tally) {
		n := 0
		require.NoError(t, k.Run(t.Context(), coaching.Bench{Policy: p, Kind: "sail", Level: practice.OneFault, Jobs: 12,
			Seed: 99}, func(a, b coaching.Tally) {
			n++
			own, program = a, b
			assert.Equal(t, n, own.Jobs)
		}))
		assert.Equal(t, 12, n)
		return own, program
	}
	own, program := run(coaching.Policy{})
	assert.Equal(t, program, own)
	assert.Equal(t, 12, own.Cured)
	assert.GreaterOrEqual(t, own.Slowest, own.Looking)
	worse, _ := run(coaching.Policy{Order: []string{"compression-test", "thermostat-pot-test", "exchanger-look"}})
	assert.Greater(t, worse.Looking, own.Looking)
	assert.Greater(t, worse.Opened, own.Opened)
	assert.Greater(t, worse.Cost, own.Cost)
}

// A yard's own minutes count on both sides: dearer looks take longer, and the program goes by them in what it advises.
func TestBenchGoesByAYardsOwnMinutes(t *testing.T) {
	c, k := coach(t)
	run := func(minutes map[string]float64) (own, program coaching.Tally) {
		require.NoError(t, k.Run(t.Context(), coaching.Bench{Policy: coaching.Policy{Minutes: minutes,
			Order: []string{"strainer-look"}}, Kind: "sail", Level: practice.OneFault, Jobs: 12, Seed: 99},
			func(a, b coaching.Tally) { own, program = a, b }))
		return own, program
	}
	usual, program := run(nil)
	dear, dearer := run(map[string]float64{"strainer-look": 60})
	look, ok := c.Check("strainer-look")
	require.True(t, ok)
	assert.InDelta(t, 60-look.Minutes, dear.Looking-usual.Looking, 25, "every hunt begins with it")
	assert.Greater(t, dear.Looking-usual.Looking, 2*max(0, dearer.Looking-program.Looking),
		"the program looks elsewhere first")
}

// Somebody who orders by guess is told so afterwards, with what it cost.
func TestReviewTellsOfPartsThatDidNotFit(t *testing.T) {
	c, k := coach(t)
	e, err := practice.Draw(c, practice.Case{Kind: "sail", Level: practice.OneFault, Seed: 3})
	require.NoError(t, err)
	w := practice.Enter(e)
	wrong := 0
	for _, stock := range w.Stocks() {
		if s, err := w.Order(stock.ID, 0); err == nil && !s.Needed {
			wrong++
		}
	}
	require.Positive(t, wrong)
	w.End()
	r, err := k.Review(w)
	require.NoError(t, err)
	at := slices.IndexFunc(r.Better, func(b coaching.Better) bool { return b.Label == "Ordered without measuring" })
	require.NotEqual(t, -1, at, labels(r.Better))
	assert.InDelta(t, 25*float64(wrong), r.Better[at].Minutes, 1e-9)
}

func TestBenchThatIsRefused(t *testing.T) {
	_, k := coach(t)
	well := coaching.Bench{Kind: "sail", Level: practice.OneFault, Jobs: 10}
	require.NoError(t, k.Check(well))
	for name, spoil := range map[string]func(b *coaching.Bench){
		"jobs":  func(b *coaching.Bench) { b.Jobs = coaching.MostJobs + 1 },
		"order": func(b *coaching.Bench) { b.Order = []string{"no-such"} },
		"twice": func(b *coaching.Bench) { b.Order = []string{"belt-look", "belt-look"} },
		"kind":  func(b *coaching.Bench) { b.Kind = "steam" },
		"level": func(b *coaching.Bench) { b.Level = "easy" },
		"minutes": func(b *coaching.Bench) {
			b.Minutes = map[string]float64{"belt-look": 0}
		},
		"no such look": func(b *coaching.Bench) {
			b.Minutes = map[string]float64{"no-such": 5}
		},
	} {
		b := well
		spoil(&b)
		assert.ErrorContains(t, k.Check(b), name)
	}
	stopped, stop := context.WithCancel(t.Context())
	stop()
	assert.ErrorIs(t, k.Run(stopped, well, func(coaching.Tally, coaching.Tally) {}), context.Canceled)
}
