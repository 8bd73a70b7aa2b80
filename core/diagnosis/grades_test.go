package diagnosis

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// A light grade of wear hardly moves the suspects, whichever it is and however it stands; none of it is evidence.
func TestALightGradeHardlyMovesTheSuspects(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	e := New(c)
	chances := func(findings ...Evidence) map[string]float64 {
		a, err := e.Diagnose(Question{Family: catalogue.Closed, Brief: true,
			Findings: append([]Evidence{{Finding: "hot-under-load", Q: 1}}, findings...)})
		require.NoError(t, err)
		out := map[string]float64{}
		for _, s := range a.Suspects {
			out[s.Fault] = s.Probability
		}
		return out
	}
	odds := func(p float64) float64 { return p / (1 - p) }
	before := chances()
	require.GreaterOrEqual(t, len(c.Grades), 9)
	for _, g := range c.Grades {
		for q, most := range map[float64]float64{1: 1.8, 0: 1.4} { // at most: leak 0.25 and a weak cause, (0.25 + 0.75·0.2)/0.25
			for fault, p := range chances(Evidence{Finding: g.Light, Q: q}) {
				times := odds(p) / odds(before[fault])
				assert.InDelta(t, 1, times, most-1, "%s %v: %s", g.ID, q, fault)
			}
		}
		for _, h := range g.Heavy { // the look that shows no heavy one tells much
			f, _ := c.Finding(h)
			for _, l := range f.Causes {
				if p, here := before[l.Fault]; here && l.Strength >= 0.9 {
					assert.Less(t, odds(chances(Evidence{Finding: h})[l.Fault]), 0.2*odds(p), h)
				}
			}
		}
	}
}

// A look whose heavy grade is known has nothing left to settle: its light one alone is not worth the minutes.
func TestALightGradeAloneIsNoReasonToLook(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	a, err := New(c).Diagnose(Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: "hot-under-load", Q: 1},
		{Finding: "level-low-cold", Q: 1}}})
	require.NoError(t, err)
	for _, n := range a.NextChecks {
		assert.NotEqual(t, "coolant-level", n.Check)
	}
	assert.Contains(t, a.RuledOut, RuledOut{"coolant-level", "What it would show is known already."})
}
