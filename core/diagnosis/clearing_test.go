package diagnosis

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// Once something is found, the check leads that brings down the chance of any other fault the most for a minute, by the
// expected fall of its logarithm down to where the job is done: worked out here by asking anew for each outcome. Checks
// that settle one or two findings are compared, on a short circuit whose every hypothesis is weighed.
func TestOnceFoundTheCheckLeadsThatClearsSoonest(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	e := New(c)
	q := Question{Family: catalogue.Closed, Brief: true, Stations: []string{"seacock", "strainer", "raw-pump", "exchanger",
		"elbow"}, Findings: []Evidence{{Finding: "weak-water-at-outlet", Q: 1}, {Finding: "hot-under-load", Q: 1},
		{Finding: "debris-in-strainer", Q: 1}}}
	a, err := e.Diagnose(q)
	require.NoError(t, err)
	require.Equal(t, []string{"strainer-clogged"}, a.Found)
	require.GreaterOrEqual(t, a.OtherFault, restProbability)

	m := newModel(c, q)
	b := m.infer()
	present := func(finding string) float64 {
		p := 0.0
		for i, h := range m.hypotheses {
			p += b.p[i] * m.table(finding).present(h)
		}
		return p
	}
	floor := func(p float64) float64 { return math.Log(max(p, restProbability)) }
	fall := func(n NextCheck) (float64, bool) {
		check, _ := c.Check(n.Check)
		open := slices.DeleteFunc(slices.Clone(check.Settles), func(f string) bool { return !m.worthSettling(f, check.Point) })
		if len(open) != 1 || n.Again {
			return 0, false
		}
		expected := 0.0
		for _, is := range []float64{0, 1} {
			then := q
			then.Findings = append(slices.Clone(q.Findings), Evidence{Finding: open[0], Q: is})
			after, err := e.Diagnose(then)
			require.NoError(t, err)
			left := after.OtherFault
			expected += (is*present(open[0]) + (1-is)*(1-present(open[0]))) * floor(left)
		}
		return (floor(a.OtherFault) - expected) / (n.Minutes + n.AccessMinutes), true
	}
	last, compared := math.Inf(1), 0
	for _, n := range a.NextChecks {
		now, ok := fall(n)
		if !ok || now < 1e-3 {
			continue
		}
		compared++
		assert.LessOrEqual(t, now, last*1.15+1e-3, n.Check) // the likeliest hypotheses stand for all
		last = now
	}
	assert.GreaterOrEqual(t, compared, 4)
}

// What was looked for as often as it is worth and not seen can be shown by no look any more: it does not keep a hunt
// open, the proof decides.
func TestWhatNoLookCanShowIsLeftToTheProof(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	ask := func(looks int) *Answer {
		a, err := New(c).Diagnose(Question{Family: catalogue.Closed, Stations: []string{"raw-pump", "gauge"},
			Findings: []Evidence{{Finding: "no-water-at-outlet", Q: 1}, {Finding: "steam-at-outlet", Q: 1}, {Finding: "gauge-off", Q: 1},
				{Finding: "blades-missing", Looks: looks}, {Finding: "hub-or-key-slipping", Looks: 4},
				{Finding: "primes-once-filled", Looks: 4}, {Finding: "pump-belt-slack", Looks: 4},
				{Finding: "blades-cracked-or-set", Looks: 4}, {Finding: "bearing-rough", Looks: 4},
				{Finding: "pump-body-scored", Looks: 4}, {Finding: "sand-found", Looks: 4}}})
		require.NoError(t, err)
		return a
	}
	open, spent := ask(1), ask(MostLooks)
	assert.GreaterOrEqual(t, open.OtherFault, restProbability)
	assert.False(t, open.Done, "a look may still show missing blades")
	assert.GreaterOrEqual(t, spent.OtherFault, restProbability)
	assert.True(t, spent.Done)
	assert.Equal(t, PutRight, spent.Advice)
}

// What was not asked with the complaint is asked once something is found: before, it is the intake's; after, it tells
// soonest whether anything else is wrong. It is the bench's rule of before that does not know of it.
func TestWhoeverRanItIsAskedOnceSomethingIsFound(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	ask := func(weighed bool, findings ...Evidence) *Answer {
		a, err := New(c).Diagnose(Question{Family: catalogue.Closed, Findings: findings, Weighed: weighed})
		require.NoError(t, err)
		return a
	}
	offered := func(a *Answer) (list []string) {
		for _, n := range a.NextChecks {
			if k, _ := c.Check(n.Check); k.Asks {
				list = append(list, n.Check)
			}
		}
		return list
	}
	hot, weak := Evidence{Finding: "hot-under-load", Q: 1}, Evidence{Finding: "weak-water-at-outlet", Q: 1}
	gone := Evidence{Finding: "blades-missing", Q: 1}

	open := ask(false, hot, weak)
	assert.Empty(t, offered(open))
	assert.Contains(t, open.RuledOut, RuledOut{"ask-panel", "Asked with the complaint; what was not is asked once something is found."})

	found := ask(false, hot, weak, gone)
	require.Equal(t, []string{"impeller-vanes-missing"}, found.Found)
	assert.Len(t, offered(found), 6, "each question once")
	first, _ := c.Check(found.NextChecks[0].Check)
	assert.True(t, first.Asks, "a minute's question comes before looks that need a spanner: %s", first.ID)
	assert.Zero(t, found.NextChecks[0].ConfirmChance)

	answered := []Evidence{hot, weak, gone}
	for _, id := range []string{"alarm-sounded", "gauge-jumps", "gauge-normal-at-alarm", "power-cut", "heater-lukewarm"} {
		answered = append(answered, Evidence{Finding: id})
	}
	assert.NotContains(t, offered(ask(false, answered...)), "ask-panel", "it is known already")
	assert.NotContains(t, offered(ask(false, hot, weak, gone, Evidence{Finding: "came-suddenly", Q: 1})), "ask-when-hot",
		"of a question one option is so")
	assert.Empty(t, offered(ask(true, hot, weak, gone)))
}

// How fast a check clears, worked by hand: the found fault alone at 0.5, with a second at 0.3, with a third at 0.2. A look
// that shows the second for certain leaves 0.2 of 0.7 where it does not, nothing where it does, counted down to 0.2; one
// more look shows half of that.
func TestHowFastACheckClears(t *testing.T) {
	m, _, _ := asked(t, Question{Family: catalogue.Closed})
	last := len(m.faults)
	sets := func(p ...float64) *nearby {
		return nearbyOf(m, []hypothesis{{0, uint8(last), uint8(last), 1}, {0, 1, uint8(last), 3}, {0, 2, uint8(last), 5}}, p)
	}
	n := sets(0.5, 0.3, 0.2)
	defer n.release()
	second := m.tableOf(catalogue.Finding{}, []catalogue.Link{{Fault: m.faults[1].ID, Strength: 1}})
	second.shows = 2
	look, again, shut := of("look", 2, NextCheck{Minutes: 4}), of("again", 0, NextCheck{Minutes: 2}), of("shut", 0,
		NextCheck{Minutes: 1})
	look.informative, again.again = []*table{second}, 2
	m.clearing(n, 1, []*candidate{look, again, shut})
	assert.InDelta(t, (math.Log(0.5)-0.3*math.Log(0.2)-0.7*math.Log(0.2/0.7))/4, look.clears, 1e-9)
	assert.InDelta(t, (math.Log(0.5)-0.15*math.Log(0.2)-0.85*math.Log(0.35/0.85))/2, again.clears, 1e-9)
	assert.Zero(t, shut.clears, "it settles nothing")

	few := sets(0.81, 0.1, 0.09) // the job is done already
	defer few.release()
	look.clears = 0
	m.clearing(few, 1, []*candidate{look})
	assert.Zero(t, look.clears)
}
