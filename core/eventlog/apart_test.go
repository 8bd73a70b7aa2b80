package eventlog_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/eventlog"
)

// seen is an answer by somebody, seen and saved so many minutes after the start.
func (l log) seen(by string, at, saved int, b eventlog.Body) log {
	out := l.and(eventlog.Found, b)
	e := &out[len(out)-1]
	tapped := start.Add(time.Duration(at) * time.Minute)
	e.By, e.TappedAt, e.At = by, &tapped, start.Add(time.Duration(saved)*time.Minute)
	return out
}

// What was seen last stands, whichever arrives last; where two people differ it is told who said what and when, and
// the next answer settles it.
func TestWhatWasSeenLastStands(t *testing.T) {
	c := loadCatalogue(t)
	fold := func(l log) *eventlog.Job {
		j, ok := eventlog.FoldJob(c, l)
		require.True(t, ok)
		return j
	}
	const finding = "drip-at-weep-hole"
	q := func(j *eventlog.Job) float64 {
		for _, k := range j.Findings {
			if k.ID == finding {
				return k.Q
			}
		}
		return -1
	}
	present, absent := says(eventlog.Present, finding), says(eventlog.Absent, finding)
	// Kit saw it dry at 10 without a link; Tamsin saw it drip at 20 and it was saved at once; Kit's came at 40
	apart := opened().seen("Tamsin", 20, 20, present).seen("Kit", 10, 40, absent)
	j := fold(apart)
	assert.InDelta(t, 1, q(j), 0, "the newer answer is not flipped by the one that arrives last")
	require.Len(t, j.Apart, 1)
	assert.Equal(t, "Tamsin", j.Apart[0].Stands.From.By)
	assert.Equal(t, "Kit", j.Apart[0].Other.From.By)
	assert.Equal(t, start.Add(10*time.Minute), j.Apart[0].Other.From.At)
	assert.InDelta(t, 0, j.Apart[0].Other.Q, 0)

	settled := fold(apart.seen("Kit", 45, 45, absent))
	assert.InDelta(t, 0, q(settled), 0)
	assert.Empty(t, settled.Apart, "one touch settles it")
	assert.Empty(t, fold(apart.undoing("e2")).Apart, "taken back, it is as if it had not been said")

	// Kit saw it last, and did not know what Tamsin said: his stands, and both are shown
	j = fold(opened().seen("Tamsin", 10, 10, present).seen("Kit", 20, 40, absent))
	assert.InDelta(t, 0, q(j), 0)
	require.Len(t, j.Apart, 1)
	assert.Equal(t, "Kit", j.Apart[0].Stands.From.By)

	for name, l := range map[string]log{
		"the same answer":            opened().seen("Tamsin", 20, 20, present).seen("Kit", 10, 40, present),
		"the same person":            opened().seen("Kit", 20, 20, present).seen("Kit", 10, 40, absent),
		"one after the other, known": opened().seen("Tamsin", 10, 10, present).seen("Kit", 20, 20, absent),
		"what takes an answer away":  opened().seen("Tamsin", 20, 20, present).seen("Kit", 10, 40, says("unknown", finding)),
	} {
		assert.Empty(t, fold(l).Apart, name)
	}
	assert.InDelta(t, 1, q(fold(opened().seen("Tamsin", 20, 20, present).seen("Kit", 10, 40, says("unknown", finding)))), 0)
}

// A clock that was set back an hour changes nothing for who answers with a link: the newest answer is the last one.
func TestAClockSetBackFlipsNothing(t *testing.T) {
	c := loadCatalogue(t)
	for _, by := range []string{"Tamsin", "Kit"} {
		j, _ := eventlog.FoldJob(c, opened().seen("Tamsin", 90, 90, says(eventlog.Present, "drip-at-weep-hole")).
			seen(by, 31, 31, says(eventlog.Absent, "drip-at-weep-hole")).
			seen(by, 32, 32, says(eventlog.Present, "good-water-at-outlet")))
		require.Len(t, j.Findings, 2, by)
		assert.InDelta(t, 0, j.Findings[0].Q, 0, by)
		assert.Empty(t, j.Apart, by)
	}
}

// Of a question with options the one that was seen last stands too.
func TestOptionsSeenLastStand(t *testing.T) {
	c := loadCatalogue(t)
	j, ok := eventlog.FoldJob(c, opened().seen("Tamsin", 20, 20, says(eventlog.Present, "good-water-at-outlet")).
		seen("Kit", 10, 40, says(eventlog.Present, "no-water-at-outlet")))
	require.True(t, ok)
	assert.Equal(t, []string{"good-water-at-outlet"}, ids(j.Findings))
	require.Len(t, j.Apart, 1)
	assert.Equal(t, "no-water-at-outlet", j.Apart[0].Other.ID)
	j, _ = eventlog.FoldJob(c, opened().seen("Tamsin", 20, 20, says(eventlog.Present, "good-water-at-outlet")).
		seen("Kit", 10, 40, says(eventlog.Present, "no-water-at-outlet")).
		seen("Tamsin", 50, 50, says(eventlog.Present, "weak-water-at-outlet")))
	assert.Empty(t, j.Apart)
	assert.Equal(t, []string{"weak-water-at-outlet"}, ids(j.Findings))
}

// In whatever order answers arrive, the one that was seen last stands.
func TestTheOrderOfArrivalDecidesNothing(t *testing.T) {
	c := loadCatalogue(t)
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "answers")
		order := rapid.Permutation([]int{0, 1, 2, 3, 4, 5}[:n]).Draw(t, "order")
		states := rapid.SliceOfN(rapid.SampledFrom([]string{eventlog.Present, eventlog.Absent}), n, n).Draw(t, "states")
		l := opened()
		for i, seen := range order {
			l = l.seen(rapid.SampledFrom([]string{"Kit", "Tamsin"}).Draw(t, "by"), 1+seen, 100+i,
				says(states[seen], "drip-at-weep-hole"))
		}
		j, _ := eventlog.FoldJob(c, l)
		want := map[string]float64{eventlog.Present: 1}[states[n-1]]
		if len(j.Findings) != 1 || j.Findings[0].Q != want {
			t.Fatalf("%v, want %v", j.Findings, want)
		}
	})
}
