package diagnosis

import (
	"math"
	"slices"

	"hevrin/core/catalogue"
)

// model is a question made ready for arithmetic.
type model struct {
	*space
	catalogue *catalogue.Catalogue
	spaces    *spaces // nil: nothing is kept
	question  Question
	evidence  []clue
	history   []clue
	known     map[string]float64 // q of the findings given
	looks     map[string]int     // how often those were looked for that are absent
	missed    map[string]uint64  // by check: the faults that were looked for and not seen; see again
	whys      []string           // by check: why it is not offered; see candidates
}

// table holds, by fault, what is left when the fault does not cause, or does not block, one finding.
type table struct {
	leakFree      float64 // 1 − leak
	shows         uint64  // faults, for certain
	bearing       uint64  // faults that cause or block it
	causes, spare []float64
	// givenFree is 1 − leak with the causes among the faults given, givenSpare what the blockers among them leave.
	givenFree, givenSpare float64
	unblocked             bool // nothing of the circuit blocks it
}

// clue is one finding or history item. What only multiplies the odds of each fault has factors, by place; any other has
// the table and the likelihood of a finding, and weighs each hypothesis.
type clue struct {
	kind, id string
	factors  []float64
	table    *table
	q        float64
}

func newModel(c *catalogue.Catalogue, q Question) *model { return (*spaces)(nil).model(c, q) }

// model makes a question ready, with what is kept of its circuit.
func (s *spaces) model(c *catalogue.Catalogue, q Question) *model {
	m := &model{catalogue: c, question: q, spaces: s, known: map[string]float64{}, looks: map[string]int{}}
	circuit := s.circuit(c, q)
	given := uint64(0)
	for _, e := range q.Findings {
		if e.Q == 1 && !q.Weighed {
			given |= circuit.shownBy(e.Finding)
		}
	}
	m.space = s.of(c, circuit, given)
	for _, e := range q.Findings {
		if _, grouped := c.GroupOf(e.Finding); grouped && e.Q == 0 {
			continue // of a group only the present option is evidence
		}
		m.known[e.Finding] = e.Q
		m.looks[e.Finding] = max(1, e.Looks)
		m.evidence = append(m.evidence, m.seen(e))
	}
	for _, id := range q.History {
		m.history = append(m.history, clue{kind: "history", id: id, factors: m.multiplier(id)})
	}
	if own := m.ownRates(); own != nil {
		m.history = append(m.history, clue{kind: OwnRates, id: OwnRates, factors: own})
	}
	m.missed = m.missedBy()
	return m
}

// seen is a finding as a clue: one that nothing blocks, absent, multiplies the odds of its causes.
func (m *model) seen(e Evidence) clue {
	t := m.table(e.Finding)
	if e.Looks > 1 && e.Q == 0 {
		t = t.lookedAgain(m.given, e.Looks)
	}
	if e.Q != 0 || !t.unblocked {
		return clue{kind: "finding", id: e.Finding, table: t, q: e.Q}
	}
	return clue{kind: "finding", id: e.Finding, factors: m.byPlace(t.causes)}
}

// fill makes the tables of every finding.
func (s *space) fill(c *catalogue.Catalogue) {
	s.tables = make(map[string]*table, len(c.Findings))
	for _, f := range c.Findings {
		t := &table{leakFree: 1 - f.Leak, causes: s.remainders(f.Causes), spare: s.remainders(f.Blocks)}
		t.givenFree, t.givenSpare = t.leakFree, 1
		t.shows = s.shownBy(f.ID)
		t.unblocked = !slices.ContainsFunc(t.spare, func(x float64) bool { return x != 1 })
		for i := range s.faults {
			if t.causes[i] != 1 || t.spare[i] != 1 {
				t.bearing |= 1 << i
			}
			if s.given&(1<<i) != 0 {
				t.givenFree *= t.causes[i]
				t.givenSpare *= t.spare[i]
			}
		}
		s.tables[f.ID] = t
	}
}

func (s *space) table(finding string) *table { return s.tables[finding] }

func (s *space) remainders(links []catalogue.Link) []float64 {
	out := ones(len(s.faults) + 1)
	for _, l := range links {
		if i, ok := s.number[l.Fault]; ok {
			out[i] = 1 - l.Strength
		}
	}
	return out
}

// missedAgain is the share of what the looks so far missed that one more, made with more care, misses too; common
// practice.
const missedAgain = 0.5

// lookedAgain is the table of a finding that was looked for more than once: what shows in any look.
func (t *table) lookedAgain(given uint64, looks int) *table {
	left := math.Pow(missedAgain, float64(looks-1))
	out := *t
	out.causes = slices.Clone(t.causes)
	for i, missed := range t.causes {
		if missed != 1 {
			out.causes[i] = missed * left
		}
	}
	out.givenFree = out.leakFree
	for i := range t.causes {
		if given&(1<<i) != 0 {
			out.givenFree *= out.causes[i]
		}
	}
	return &out
}

// present is P(present | h).
func (t *table) present(h hypothesis) float64 {
	return (1 - t.givenFree*t.causes[h.a]*t.causes[h.b]*t.causes[h.c]) * t.givenSpare * t.spare[h.a] * t.spare[h.b] *
		t.spare[h.c]
}

// bears tells whether any fault of the circuit bears on the finding.
func (t *table) bears() bool { return t.bearing != 0 }

// multiplier is what a history item does to the odds of each fault.
func (m *model) multiplier(history string) []float64 {
	factor := ones(len(m.faults))
	item, _ := m.catalogue.HistoryItem(history)
	for _, x := range item.Multipliers {
		if i, ok := m.number[x.Fault]; ok {
			factor[i] *= x.Factor
		}
	}
	return m.byPlace(factor)
}
