package diagnosis

import (
	"cmp"
	"math"
	"math/bits"
	"slices"

	"hevrin/core/ordering"
)

// belief is a distribution over the model's hypotheses.
type belief struct {
	m        *model
	p        []float64 // sums to 1
	marginal []float64 // by fault
	clues    []clue
	weights  [][]float64 // by clue, on each hypothesis; nil for one that has factors
	order    []int       // see likeliest
	held     *[]float64  // what weights and p lie in
}

// tiny is the weight of the likeliest hypothesis below which all are scaled up again.
const tiny = 1e-60

// infer weighs every clue. What multiplies odds goes in one pass; the likelihoods of the others are kept, by clue.
func (m *model) infer() *belief {
	clues := slices.Concat(m.evidence, m.history)
	size := len(m.base)
	weighed := 1
	factors := ones(len(m.free))
	for _, c := range clues {
		if c.factors == nil {
			weighed++
		}
		for i, f := range c.factors {
			factors[i] *= f
		}
	}
	held := hold(size * weighed)
	w := (*held)[:size:size]
	copy(w, m.base)
	m.multiply(w, factors)
	b := &belief{m: m, p: w, clues: clues, weights: make([][]float64, len(clues)), held: held}
	raise(w)
	next := size
	for n, c := range clues {
		if c.factors != nil {
			continue
		}
		of := (*held)[next : next+size : next+size]
		next += size
		b.weights[n] = of
		m.weigh(c.table, c.q, of)
		for i, x := range of {
			w[i] *= x
		}
		raise(w)
	}
	sum := 0.0
	for _, x := range w {
		sum += x
	}
	for i := range w {
		w[i] /= sum
	}
	b.marginal = m.marginals(w)
	return b
}

// raise keeps weights clear of underflow, however many findings there are.
func raise(w []float64) {
	largest := 0.0
	for _, x := range w {
		if x > largest { // max takes twenty times as long in WebAssembly
			largest = x
		}
	}
	if largest < tiny {
		for i := range w {
			w[i] /= largest
		}
	}
}

// ones are n factors that change nothing.
func ones(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
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
	held := m.priorWeights()
	defer leave(held)
	return m.marginals(*held)
}

// priorWeights are the weights of the hypotheses with the history alone; they are to be given back.
func (m *model) priorWeights() *[]float64 {
	held := hold(len(m.base))
	copy(*held, m.base)
	factors := ones(len(m.free))
	for _, c := range m.history {
		for i, f := range c.factors {
			factors[i] *= f
		}
	}
	m.multiply(*held, factors)
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
				out[i] = append(out[i], Move{Kind: c.kind, ID: c.id, Point: c.point, LogOdds: d})
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
	if c.kind == "finding" && m.known[c.id].q == 1 && m.shownBy(c.id)&m.given != 0 {
		q := m.question
		q.Findings = slices.DeleteFunc(slices.Clone(q.Findings), func(e Evidence) bool { return e.Finding == c.id })
		return m.asked(q)
	}
	held := hold(len(b.p))
	defer leave(held)
	w := *held
	if c.factors == nil {
		of := b.weights[n]
		for i, x := range b.p {
			w[i] = x / of[i]
		}
		return m.marginals(w)
	}
	copy(w, b.p)
	undone := make([]float64, len(c.factors))
	for i, f := range c.factors {
		undone[i] = 1 / f
	}
	m.multiply(w, undone)
	return m.marginals(w)
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

// mostProbable selects the indices of the n largest values, none below 0, in falling order, equal ones by index.
func mostProbable(p []float64, n int) []int {
	const exponents = 1 << 11
	var by [exponents]int
	exponent := func(x float64) uint64 { return math.Float64bits(x) >> 52 }
	for _, x := range p {
		by[exponent(x)]++
	}
	least, enough := uint64(exponents-1), by[exponents-1]
	for ; least > 0 && enough < n; least-- {
		enough += by[least-1]
	}
	least = max(least, 1) - 1 // those that count as equal to the last may lie on both sides of a power of two
	kept := make([]int, 0, enough+by[least])
	for i, x := range p {
		if exponent(x) >= least {
			kept = append(kept, i)
		}
	}
	slices.SortFunc(kept, func(x, y int) int { return cmp.Or(ordering.Compare(p[y], p[x]), cmp.Compare(x, y)) })
	return kept[:min(n, len(kept))]
}

// within is the probability that no fault outside the mask is there.
func (b *belief) within(mask uint64) float64 { return b.m.within(b.p, mask) }

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
