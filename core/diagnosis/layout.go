package diagnosis

import (
	"math/bits"

	"hevrin/core/catalogue"
)

// hypothesis is the faults that are given and up to three more: numbers of those, the unused ones pointing at the
// neutral element behind the last fault. The mask holds them all.
type hypothesis struct {
	a, b, c uint8
	mask    uint64
}

// Hypotheses lie in the order of three nested loops over the places a < b < c of the faults that are not given: first,
// where some are given, the one with nothing beside them; then, for each a, that of a alone and, for each b, that of
// both, followed by those of both and every c. The passes below walk them so: what a and b share is worked out once.

// head is how many lie before those with a place of their own.
func (s *space) head() int {
	if s.given != 0 {
		return 1
	}
	return 0
}

// pairAt is where the hypothesis of two places lies, a < b; that of a third, c, lies c − b further.
func (s *space) pairAt(a, b int) int { return int(s.pairs[a*len(s.free)+b]) }

// aloneAt is where the hypothesis of one place lies.
func (s *space) aloneAt(a int) int { return int(s.pairs[a*len(s.free)+a]) }

// enumerate lists every hypothesis with its prior weight without history, but for the part of the faults given, which
// all share.
func (s *space) enumerate(catalogue *catalogue.Catalogue) {
	n := len(s.faults)
	odds := make([]float64, n)
	pair := ones(n * n)
	for i, f := range s.faults {
		odds[i] = f.Prior / (1 - f.Prior)
		if s.given&(1<<i) == 0 {
			s.free = append(s.free, i)
		}
	}
	for _, p := range catalogue.Pairs {
		a, okA := s.number[p.A]
		b, okB := s.number[p.B]
		if okA && okB {
			pair[a*n+b] *= p.Factor
			pair[b*n+a] *= p.Factor
		}
	}
	of := func(a, b int) float64 { return pair[a*n+b] }
	for _, i := range s.free { // the pairs that each other fault makes with what is given
		for rest := s.given; rest != 0; rest &= rest - 1 {
			odds[i] *= of(i, bits.TrailingZeros64(rest))
		}
	}
	k := len(s.free)
	size := 1 + k + k*(k-1)/2 + k*(k-1)*(k-2)/6
	s.hypotheses = make([]hypothesis, 0, size)
	s.base = make([]float64, 0, size)
	s.pairs = make([]int32, k*k)
	add := func(w float64, a, b, c int) {
		h := hypothesis{uint8(a), uint8(b), uint8(c), s.given}
		for _, x := range [3]int{a, b, c} {
			if x < n {
				h.mask |= 1 << x
			}
		}
		s.hypotheses = append(s.hypotheses, h)
		s.base = append(s.base, w)
	}
	more, first := catalogue.SetFactor, 1.0
	if s.given != 0 { // then each fault is one more
		first = more
		add(1, n, n, n)
	}
	for i, a := range s.free {
		one := odds[a] * first
		s.pairs[i*k+i] = int32(len(s.base))
		add(one, a, n, n)
		for j, b := range s.free[i+1:] {
			two := one * odds[b] * of(a, b) * more
			s.pairs[i*k+i+1+j] = int32(len(s.base))
			add(two, a, b, n)
			for _, c := range s.free[i+2+j:] {
				add(two*odds[c]*of(a, c)*of(b, c)*more, a, b, c)
			}
		}
	}
}

// byPlace takes what stands by fault to the places of those that are not given.
func (s *space) byPlace(of []float64) []float64 {
	out := make([]float64, len(s.free))
	for i, fault := range s.free {
		out[i] = of[fault]
	}
	return out
}

// multiply multiplies the weight of each hypothesis by the factors, by place, of what it holds.
func (s *space) multiply(w, factors []float64) {
	i := s.head()
	for a, fa := range factors {
		w[i] *= fa
		i++
		for b := a + 1; b < len(factors); b++ {
			both := fa * factors[b]
			w[i] *= both
			i++
			last := factors[b+1:]
			row := w[i : i+len(last)]
			for c, fc := range last {
				row[c] *= both * fc
			}
			i += len(last)
		}
	}
}

// weigh gives the likelihood of what was observed of a finding, q·p + (1−q)·(1−p), with each hypothesis.
func (s *space) weigh(t *table, q float64, into []float64) {
	causes, spare := s.byPlace(t.causes), s.byPlace(t.spare)
	row := func(at int, none, left float64, causes, spare []float64) {
		out := into[at : at+len(causes)]
		spare = spare[:len(causes)]
		for c, x := range causes {
			none, left := none*x, left*spare[c]
			out[c] = q*(1-none)*left + (1-q)*(1-left+none*left) // the second is 1 − p, little as it may be
		}
	}
	one := []float64{1}
	if s.head() == 1 {
		row(0, t.givenFree, t.givenSpare, one, one)
	}
	for a := range causes {
		none, left := t.givenFree*causes[a], t.givenSpare*spare[a]
		row(s.aloneAt(a), none, left, one, one)
		for b := a + 1; b < len(causes); b++ {
			at, none, left := s.pairAt(a, b), none*causes[b], left*spare[b]
			row(at, none, left, one, one)
			row(at+1, none, left, causes[b+1:], spare[b+1:])
		}
	}
}

// marginals sums, by fault, the weights of the hypotheses that hold it, normalised by the sum over all.
func (s *space) marginals(w []float64) []float64 {
	by := make([]float64, len(s.free))
	i := s.head()
	sum := 0.0
	for _, x := range w[:i] {
		sum += x
	}
	for a := range by {
		ofA := w[i]
		i++
		for b := a + 1; b < len(by); b++ {
			both := w[i]
			i++
			last := by[b+1:]
			row := w[i : i+len(last)]
			for c, x := range row {
				both += x
				last[c] += x
			}
			i += len(last)
			by[b] += both
			ofA += both
		}
		by[a] += ofA
		sum += ofA
	}
	out := ones(len(s.faults)) // what is given is there
	for i, fault := range s.free {
		out[fault] = by[i] / sum
	}
	return out
}

// fewEnough is how many places a mask may hold for its subsets to be looked up one by one.
const fewEnough = 12

// within is the weight of the hypotheses that hold no fault outside the mask.
func (s *space) within(w []float64, mask uint64) float64 {
	var of []int
	for place, fault := range s.free {
		if mask&(1<<fault) != 0 {
			of = append(of, place)
		}
	}
	sum := 0.0
	if len(of) > fewEnough {
		for i, h := range s.hypotheses {
			if h.mask&^mask == 0 {
				sum += w[i]
			}
		}
		return sum
	}
	if s.given&^mask != 0 {
		return 0
	}
	for _, x := range w[:s.head()] {
		sum += x
	}
	for i, a := range of {
		sum += w[s.aloneAt(a)]
		for j, b := range of[i+1:] {
			at := s.pairAt(a, b)
			sum += w[at]
			for _, c := range of[i+j+2:] {
				sum += w[at+c-b]
			}
		}
	}
	return sum
}
