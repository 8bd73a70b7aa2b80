package diagnosis

import (
	"cmp"
	"math"
	"math/bits"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/ordering"
)

// hypothesis is the faults that are given and up to three more: indices of those into model.faults, the unused ones
// pointing at the neutral element behind the last fault. The mask holds them all.
type hypothesis struct {
	a, b, c uint8
	mask    uint64
}

// model is a question made ready for arithmetic. Faults are numbered as in faults; every table has one more element,
// the neutral one.
type model struct {
	catalogue  *catalogue.Catalogue
	spaces     *spaces // nil: nothing is kept
	question   Question
	stations   []string // the circuit; all the family's stations when the question names none
	faults     []catalogue.Fault
	number     map[string]int
	given      uint64 // what a sure look showed to be there
	hypotheses []hypothesis
	base       []float64 // prior weight of each hypothesis without history
	evidence   []clue
	history    []clue
	known      map[string]float64 // q of the findings given
	looks      map[string]int     // how often those were looked for that are absent
	tables     map[string]*table
	whys       []string // by check: why it is not offered; see candidates
}

// table holds, by fault, what is left when the fault does not cause, or does not block, one finding.
type table struct {
	leakFree      float64 // 1 − leak
	shows         uint64  // faults, for certain
	causes, spare []float64
	// givenFree is 1 − leak with the causes among the faults given, givenSpare what the blockers among them leave.
	givenFree, givenSpare float64
	unblocked             bool // nothing of the circuit blocks it
}

// clue is one finding or history item with its weight on a hypothesis.
type clue struct {
	kind, id string
	weigh    func(of []hypothesis, into []float64)
}

func newModel(c *catalogue.Catalogue, q Question) *model { return (*spaces)(nil).model(c, q) }

// model makes a question ready, its hypotheses from those kept of its circuit.
func (s *spaces) model(c *catalogue.Catalogue, q Question) *model {
	m := &model{catalogue: c, question: q, spaces: s, stations: q.Stations, faults: q.faults(c),
		number: map[string]int{}, known: map[string]float64{}, looks: map[string]int{}, tables: map[string]*table{}}
	if m.stations == nil {
		for _, s := range c.Stations {
			if len(s.Sides[q.Family]) > 0 {
				m.stations = append(m.stations, s.ID)
			}
		}
	}
	for i, f := range m.faults {
		m.number[f.ID] = i
	}
	for _, e := range q.Findings {
		if e.Q == 1 && !q.Weighed {
			m.given |= m.shownBy(e.Finding)
		}
	}
	m.hypotheses, m.base = s.of(m)
	for _, e := range q.Findings {
		if _, grouped := c.GroupOf(e.Finding); grouped && e.Q == 0 {
			continue // of a group only the present option is evidence
		}
		m.known[e.Finding] = e.Q
		m.looks[e.Finding] = max(1, e.Looks)
		t := m.table(e.Finding)
		if e.Looks > 1 && e.Q == 0 {
			t = t.lookedAgain(m.given, e.Looks)
		}
		m.evidence = append(m.evidence, clue{"finding", e.Finding, t.weigher(e.Q)})
	}
	for _, id := range q.History {
		m.history = append(m.history, clue{"history", id, m.multiplier(id)})
	}
	if own := m.ownRates(); own != nil {
		m.history = append(m.history, clue{OwnRates, OwnRates, own})
	}
	return m
}

// faults are those that the engine of a question can have: those of its circuit, less those of another drive.
func (q Question) faults(c *catalogue.Catalogue) []catalogue.Fault {
	return slices.DeleteFunc(c.FaultsOn(q.Family, q.Stations), func(f catalogue.Fault) bool {
		return q.PumpDrive != "" && f.Drive != "" && f.Drive != q.PumpDrive
	})
}

// shownBy are the faults of which a finding, present, is a sure look that no rival on this circuit can bring about.
func (m *model) shownBy(finding string) (shown uint64) {
	for i, f := range m.faults {
		for _, look := range f.Sure {
			if look.Finding == finding && !m.anyRival(look) {
				shown |= 1 << i
			}
		}
	}
	return shown
}

// enumerate lists every hypothesis with its prior weight without history, but for the part of the faults given, which
// all share.
func (m *model) enumerate() {
	n := len(m.faults)
	odds := make([]float64, n)
	pair := make([]float64, (n+1)*(n+1))
	for i := range pair {
		pair[i] = 1
	}
	for i, f := range m.faults {
		odds[i] = f.Prior / (1 - f.Prior)
	}
	isGiven := func(i int) bool { return m.given&(1<<i) != 0 }
	for _, p := range m.catalogue.Pairs {
		a, okA := m.number[p.A]
		b, okB := m.number[p.B]
		if okA && okB {
			pair[a*(n+1)+b] *= p.Factor
			pair[b*(n+1)+a] *= p.Factor
		}
	}
	of := func(a, b int) float64 { return pair[a*(n+1)+b] }
	for i := range n { // the pairs that each other fault makes with what is given
		for g := range n {
			if isGiven(g) && !isGiven(i) {
				odds[i] *= of(i, g)
			}
		}
	}
	size := 1 + n + n*(n-1)/2 + n*(n-1)*(n-2)/6
	m.hypotheses = make([]hypothesis, 0, size)
	m.base = make([]float64, 0, size)
	add := func(w float64, a, b, c int) {
		h := hypothesis{uint8(a), uint8(b), uint8(c), m.given}
		for _, x := range [3]int{a, b, c} {
			if x < n {
				h.mask |= 1 << x
			}
		}
		m.hypotheses = append(m.hypotheses, h)
		m.base = append(m.base, w)
	}
	s, first := m.catalogue.SetFactor, 1.0
	if m.given != 0 { // then each fault is one more
		first = s
		add(1, n, n, n)
	}
	for a := range n {
		if isGiven(a) {
			continue
		}
		one := odds[a] * first
		add(one, a, n, n)
		for b := a + 1; b < n; b++ {
			if isGiven(b) {
				continue
			}
			two := one * odds[b] * of(a, b) * s
			add(two, a, b, n)
			for c := b + 1; c < n; c++ {
				if !isGiven(c) {
					add(two*odds[c]*of(a, c)*of(b, c)*s, a, b, c)
				}
			}
		}
	}
}

func (m *model) table(finding string) *table {
	if t, ok := m.tables[finding]; ok {
		return t
	}
	f, _ := m.catalogue.Finding(finding)
	t := &table{leakFree: 1 - f.Leak, causes: m.remainders(f.Causes), spare: m.remainders(f.Blocks)}
	t.givenFree, t.givenSpare = t.leakFree, 1
	t.shows = m.shownBy(finding)
	t.unblocked = !slices.ContainsFunc(t.spare, func(x float64) bool { return x != 1 })
	for i := range m.faults {
		if m.given&(1<<i) != 0 {
			t.givenFree *= t.causes[i]
			t.givenSpare *= t.spare[i]
		}
	}
	m.tables[finding] = t
	return t
}

func (m *model) remainders(links []catalogue.Link) []float64 {
	out := make([]float64, len(m.faults)+1)
	for i := range out {
		out[i] = 1
	}
	for _, l := range links {
		if i, ok := m.number[l.Fault]; ok {
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

func (t *table) likelihood(h hypothesis, q float64) float64 {
	p := t.present(h)
	return q*p + (1-q)*(1-p)
}

// weigher gives the likelihood of what was observed with each hypothesis.
func (t *table) weigher(q float64) func(of []hypothesis, into []float64) {
	if q == 0 && t.unblocked { // 1 − present, without the detour
		return func(of []hypothesis, into []float64) {
			for i := range of {
				h := &of[i]
				into[i] = t.givenFree * t.causes[h.a] * t.causes[h.b] * t.causes[h.c]
			}
		}
	}
	if t.unblocked { // q·p + (1−q)·(1−p) of p = 1 − absent
		return func(of []hypothesis, into []float64) {
			for i := range of {
				h := &of[i]
				absent := t.givenFree * t.causes[h.a] * t.causes[h.b] * t.causes[h.c]
				into[i] = q*(1-absent) + (1-q)*absent
			}
		}
	}
	return func(of []hypothesis, into []float64) {
		for i, h := range of {
			into[i] = t.likelihood(h, q)
		}
	}
}

// bears tells whether any fault of the circuit bears on the finding.
func (t *table) bears() bool {
	not1 := func(x float64) bool { return x != 1 }
	return slices.ContainsFunc(t.causes, not1) || slices.ContainsFunc(t.spare, not1)
}

func (m *model) multiplier(history string) func(of []hypothesis, into []float64) {
	factor := make([]float64, len(m.faults)+1)
	for i := range factor {
		factor[i] = 1
	}
	item, _ := m.catalogue.HistoryItem(history)
	for _, x := range item.Multipliers {
		if i, ok := m.number[x.Fault]; ok {
			factor[i] *= x.Factor
		}
	}
	return func(of []hypothesis, into []float64) {
		for i, h := range of {
			into[i] = factor[h.a] * factor[h.b] * factor[h.c]
		}
	}
}

// belief is a distribution over the model's hypotheses.
type belief struct {
	m        *model
	p        []float64 // sums to 1
	marginal []float64 // by fault
	clues    []clue
	weights  [][]float64 // by clue, on each hypothesis
	order    []int       // see likeliest
	held     *[]float64  // what weights and p lie in
}

// tiny is the weight of the likeliest hypothesis below which all are scaled up again.
const tiny = 1e-60

func (m *model) infer() *belief {
	clues := slices.Concat(m.evidence, m.history)
	size := len(m.base)
	held := hold(size * (len(clues) + 1))
	w := (*held)[:size:size]
	copy(w, m.base)
	weights := make([][]float64, len(clues))
	for n, c := range clues {
		of := (*held)[size*(n+1) : size*(n+2) : size*(n+2)]
		weights[n] = of
		c.weigh(m.hypotheses, of)
		largest := 0.0
		for i, x := range of {
			w[i] *= x
			largest = max(largest, w[i])
		}
		if largest < tiny { // keep clear of underflow however many findings there are
			for i := range w {
				w[i] /= largest
			}
		}
	}
	sum := 0.0
	for _, x := range w {
		sum += x
	}
	for i := range w {
		w[i] /= sum
	}
	return &belief{m: m, p: w, clues: clues, weights: weights, held: held, marginal: m.marginals(w, nil)}
}

// marginals sums the weights of the hypotheses that hold each fault, normalised by the sum over all; without, where it
// is given, is what each weight is divided by.
func (m *model) marginals(weights, without []float64) []float64 {
	out := make([]float64, len(m.faults)+1)
	sum := 0.0
	for i := range m.hypotheses {
		w := weights[i]
		if without != nil {
			w /= without[i]
		}
		h := &m.hypotheses[i]
		sum += w
		out[h.a] += w
		out[h.b] += w
		out[h.c] += w
	}
	out = out[:len(m.faults)]
	for i := range out {
		if out[i] /= sum; m.given&(1<<i) != 0 {
			out[i] = 1
		}
	}
	return out
}

// priorMarginals is what the history alone says, before any finding: what was seen since is not given there.
func (m *model) priorMarginals(b *belief) []float64 {
	if m.given != 0 {
		q := m.question
		q.Findings = nil
		return m.asked(q)
	}
	held := m.priorWeights(b)
	defer buffers.Put(held)
	return m.marginals(*held, nil)
}

// priorWeights are the weights of the hypotheses with the history alone; they are to be given back.
func (m *model) priorWeights(b *belief) *[]float64 {
	held := hold(len(m.base))
	copy(*held, m.base)
	for _, of := range b.weights[len(m.evidence):] {
		for i, x := range of {
			(*held)[i] *= x
		}
	}
	return held
}

// explain gives, by fault, what every clue did to its log odds: with it against without it. Clues that moved a
// suspect by less than a hundredth are left out.
func (m *model) explain(b *belief) [][]Move {
	out := make([][]Move, len(m.faults))
	for n, c := range b.clues {
		without := m.without(b, n)
		for i := range m.faults {
			if d := logOdds(b.marginal[i]) - logOdds(without[i]); math.Abs(d) >= 0.01 {
				out[i] = append(out[i], Move{Kind: c.kind, ID: c.id, LogOdds: d})
			}
		}
	}
	for _, moves := range out {
		slices.SortStableFunc(moves, func(x, y Move) int {
			return ordering.Compare(math.Abs(y.LogOdds), math.Abs(x.LogOdds))
		})
	}
	return out
}

// without is what would be believed without one clue; one that gives a fault is left out of the question itself.
func (m *model) without(b *belief, n int) []float64 {
	c := b.clues[n]
	if c.kind == "finding" && m.known[c.id] == 1 && m.shownBy(c.id)&m.given != 0 {
		q := m.question
		q.Findings = slices.DeleteFunc(slices.Clone(q.Findings), func(e Evidence) bool { return e.Finding == c.id })
		return m.asked(q)
	}
	return m.marginals(b.p, b.weights[n])
}

// logOdds keeps clear of the infinities at 0 and 1.
func logOdds(p float64) float64 {
	const edge = 1e-12
	p = min(max(p, edge), 1-edge)
	return math.Log(p / (1 - p))
}

// likeliest gives the indices of the n most probable hypotheses, the most probable first.
func (b *belief) likeliest(n int) []int {
	if b.order == nil {
		b.order = mostProbable(b.p, nearLimit)
	}
	return b.order[:min(n, len(b.order))]
}

// mostProbable selects the indices of the n largest values in falling order, equal ones by index.
func mostProbable(p []float64, n int) []int {
	falling := func(x, y int) int { return cmp.Or(ordering.Compare(p[y], p[x]), cmp.Compare(x, y)) }
	var kept []int
	floor := 0.0
	for i, x := range p {
		if len(kept) >= n && !ordering.Above(x, floor) {
			continue
		}
		kept = append(kept, i)
		if len(kept) == 2*n {
			slices.SortFunc(kept, falling)
			kept = kept[:n]
			floor = p[kept[n-1]]
		}
	}
	slices.SortFunc(kept, falling)
	return kept[:min(n, len(kept))]
}

// within is the probability that no fault outside the mask is there.
func (b *belief) within(mask uint64) float64 {
	sum := 0.0
	for i, h := range b.m.hypotheses {
		if h.mask&^mask == 0 {
			sum += b.p[i]
		}
	}
	return sum
}

// any is the probability that at least one fault of the mask is there.
func (b *belief) any(mask uint64) float64 {
	if mask == 0 {
		return 0
	}
	if mask&(mask-1) == 0 {
		return b.marginal[bits.TrailingZeros64(mask)]
	}
	sum := 0.0
	for i, h := range b.m.hypotheses {
		if h.mask&mask != 0 {
			sum += b.p[i]
		}
	}
	return sum
}
