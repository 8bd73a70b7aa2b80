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
	known     map[string]knownOf // by finding
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
	kind, id, point string
	factors         []float64
	table           *table
	q               float64
}

func newModel(c *catalogue.Catalogue, q Question) *model { return (*spaces)(nil).model(c, q) }

// model makes a question ready, with what is kept of its circuit.
func (s *spaces) model(c *catalogue.Catalogue, q Question) *model {
	m := &model{catalogue: c, question: q, spaces: s, known: map[string]knownOf{}}
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
		hardness := m.hardness(e.Point)
		if k, ok := m.known[e.Finding]; ok && k.hardness > hardness {
			continue
		}
		m.known[e.Finding] = knownOf{e.Q, max(1, e.Looks), hardness}
		m.evidence = slices.DeleteFunc(m.evidence, func(c clue) bool { return c.id == e.Finding })
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
	t := m.tableAt(e.Finding, e.Point)
	if e.Looks > 1 && e.Q == 0 {
		t = t.lookedAgain(m.given, e.Looks)
	}
	if e.Q != 0 || !t.unblocked {
		return clue{kind: "finding", id: e.Finding, point: e.Point, table: t, q: e.Q}
	}
	return clue{kind: "finding", id: e.Finding, point: e.Point, factors: m.byPlace(t.causes)}
}

// fill makes the tables of every finding.
func (s *space) fill(c *catalogue.Catalogue) {
	s.tables = make(map[reading]*table, len(c.Findings))
	for _, f := range c.Findings {
		s.tables[reading{f.ID, ""}] = s.tableOf(f, f.Causes)
		for point, causes := range f.At {
			s.tables[reading{f.ID, point}] = s.tableOf(f, causes)
		}
	}
}

func (s *space) tableOf(f catalogue.Finding, causes []catalogue.Link) *table {
	t := &table{leakFree: 1 - f.Leak, causes: s.remainders(causes), spare: s.remainders(f.Blocks)}
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
	return t
}

// reading is a finding at an operating point; empty: at any.
type reading struct{ finding, point string }

func (s *space) table(finding string) *table { return s.tables[reading{finding, ""}] }

// tableAt is that of a finding at an operating point: that of any where it tells the same at each.
func (s *space) tableAt(finding, point string) *table {
	if t, ok := s.tables[reading{finding, point}]; ok {
		return t
	}
	return s.table(finding)
}

// knownOf is what is known of a finding: its q, how often it was looked for where it is absent, and how hard the engine
// worked.
type knownOf struct {
	q        float64
	looks    int
	hardness int
}

// hardness counts operating points from the easiest, 0; what is not said to be of one stands for all.
func (m *model) hardness(point string) int {
	at := slices.IndexFunc(m.catalogue.Points, func(p catalogue.Point) bool { return p.ID == point })
	if at < 0 {
		return len(m.catalogue.Points)
	}
	return at
}

// knows tells whether a finding is known as a reading at a point would tell it, or better.
func (m *model) knows(finding, point string) bool {
	k, ok := m.known[finding]
	return ok && k.hardness >= m.hardness(point)
}

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
