package diagnosis

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// alone is a fault of the closed family with one sure look that has no rivals, in no group, and its place.
func alone(t *testing.T, m *model) (int, catalogue.SureLook) {
	t.Helper()
	for i, f := range m.faults {
		if len(f.Sure) == 1 && !m.anyRival(f.Sure[0]) {
			if _, grouped := m.catalogue.GroupOf(f.Sure[0].Finding); !grouped {
				return i, f.Sure[0]
			}
		}
	}
	t.Fatal("there is none")
	return 0, catalogue.SureLook{}
}

// What a likelihood settles: a fault was looked for from 20 to 1 on, either way, and not below; found besides where it is
// probable enough.
func TestWhatALikelihoodSettles(t *testing.T) {
	m, _, _ := asked(t, Question{Family: catalogue.Closed})
	i, look := alone(t, m)
	for _, tc := range []struct {
		q, p          float64
		found, looked bool
	}{
		{1, 0.98, true, true}, {shownQ, 0.98, true, true}, {shownQ, 0.9799, false, true}, {shownQ - 1e-9, 0.999, false, false},
		{0.5, 0.999, false, false}, {1 - shownQ + 1e-9, 0.5, false, false}, {1 - shownQ, 0.5, false, true}, {0, 0.5, false, true},
	} {
		m, b, _ := asked(t, Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: look.Finding, Q: tc.q}}})
		m.given = 0 // as if a rival were about
		b.marginal[i] = tc.p
		k := m.knowledge(b)
		assert.Equal(t, tc.found, k.found&(1<<i) != 0, "found: %+v", tc)
		assert.Equal(t, tc.looked, k.looked&(1<<i) != 0, "looked for: %+v", tc)
	}
}

// What no look can show any more: looked for as often as it is worth, or more than once and now too improbable that half
// of it would be worth a look (0.02). What may be looked for again is what was not seen, fewer times than that.
func TestWhenAFaultIsExhausted(t *testing.T) {
	m, _, _ := asked(t, Question{Family: catalogue.Closed})
	i, look := alone(t, m)
	for _, tc := range []struct {
		q           float64
		looks       int
		p           float64
		spent, open bool
	}{
		{0, 1, 0.001, false, true}, {0, 2, 0.0399, true, true}, {0, 2, 0.0401, false, true}, {0, 2, 0.04, false, true},
		{0, MostLooks - 1, 0.5, false, true}, {0, MostLooks, 0.5, true, false}, {shownQ, MostLooks, 0.5, false, false},
		{shownQ, 2, 0.5, false, false}, {shownQ - 1e-9, 2, 0.001, true, true},
	} {
		m, b, _ := asked(t, Question{Family: catalogue.Closed,
			Findings: []Evidence{{Finding: look.Finding, Q: tc.q, Looks: tc.looks}}})
		b.marginal[i] = tc.p
		assert.Equal(t, tc.spent, m.exhausted(b)&(1<<i) != 0, "exhausted: %+v", tc)
		assert.Equal(t, tc.open, m.missed[look.Check]&(1<<i) != 0, "worth another look: %+v", tc)
	}
}

// While nothing is found the likeliest set explains; once something is, that does.
func TestWhatExplainsAFinding(t *testing.T) {
	m, b, _ := asked(t, Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: "no-water-at-outlet", Q: 1}}})
	assert.Empty(t, m.unexplained(b, 0))
	assert.Equal(t, []string{"no-water-at-outlet"}, m.unexplained(b, 1<<m.number["gauge-wrong"]))
	assert.Empty(t, m.unexplained(b, 1<<m.number["impeller-drive-failed"]))
}

// The chance of any fault of a mask is the sum over the sets that hold one.
func TestTheChanceOfAnyOfSome(t *testing.T) {
	_, b, _ := asked(t, Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: "hot-at-idle", Q: 1}}})
	for _, mask := range []uint64{0, 1, 2, 3, 7, 6, 1 << 20, 1<<20 | 1, math.MaxUint32} {
		sum := 0.0
		for i, h := range b.m.hypotheses {
			if h.mask&mask != 0 {
				sum += b.p[i]
			}
		}
		require.InDelta(t, sum, b.any(mask), 1e-9, "%b", mask)
	}
}
