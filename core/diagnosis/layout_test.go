package diagnosis

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// drawn is the space of the closed family with what is given, and a weight for each of its hypotheses.
func drawn(t *testing.T, given ...string) (*space, []float64, *rand.Rand) {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	var q Question
	q.Family = catalogue.Closed
	for _, finding := range given {
		q.Findings = append(q.Findings, Evidence{Finding: finding, Q: 1})
	}
	s := newModel(c, q).space
	r := rand.New(rand.NewPCG(4, uint64(len(given))))
	w := make([]float64, len(s.hypotheses))
	for i := range w {
		w[i] = r.Float64()
	}
	return s, w, r
}

// Each pass over the layout against the same by the hypotheses' masks, one by one.
func TestThePassesAreOfEachHypothesis(t *testing.T) {
	for _, given := range [][]string{nil, {"blades-missing"}, {"blades-missing", "tubes-crusted"}} {
		s, w, r := drawn(t, given...)
		require.Equal(t, len(given) > 0, s.given != 0)
		n := len(s.free)
		assert.Len(t, w, s.head()+n+n*(n-1)/2+n*(n-1)*(n-2)/6, "every set of at most three")
		for range 50 {
			of := r.Perm(n)[:3]
			slices.Sort(of)
			at := s.pairAt(of[0], of[1]) + of[2] - of[1]
			assert.Equal(t, s.given|1<<s.free[of[0]]|1<<s.free[of[1]]|1<<s.free[of[2]], s.hypotheses[at].mask)
			assert.Equal(t, s.given|1<<s.free[of[0]], s.hypotheses[s.aloneAt(of[0])].mask)
		}

		factors := make([]float64, n)
		for i := range factors {
			factors[i] = 0.5 + r.Float64()
		}
		times := slices.Clone(w)
		s.multiply(times, factors)
		by, sum := make([]float64, len(s.faults)), 0.0
		for i, h := range s.hypotheses {
			want := w[i]
			for place, fault := range s.free {
				if h.mask&(1<<fault) != 0 {
					want *= factors[place]
				}
			}
			require.InEpsilon(t, want, times[i], 1e-12)
			sum += want
			for fault := range by {
				if h.mask&(1<<fault) != 0 {
					by[fault] += want
				}
			}
		}
		for fault, x := range s.marginals(times) {
			assert.InEpsilon(t, by[fault]/sum, x, 1e-9)
		}

		for _, hold := range []int{0, 1, 5, fewEnough, fewEnough + 1, n} { // looked up, or looked through
			mask, want := s.given, 0.0
			for _, place := range r.Perm(n)[:hold] {
				mask |= 1 << s.free[place]
			}
			for i, h := range s.hypotheses {
				if h.mask&^mask == 0 {
					want += w[i]
				}
			}
			assert.InDelta(t, want, s.within(w, mask), 1e-9*want, "%d places", hold)
			if s.given != 0 {
				assert.Zero(t, s.within(w, 0), "what is given is there")
			}
		}
	}
}

// The likelihood of a finding with each hypothesis, however likely, as the formula of the package has it.
func TestALikelihoodIsOfEachHypothesis(t *testing.T) {
	for _, given := range [][]string{nil, {"blades-missing"}} {
		s, w, _ := drawn(t, given...)
		for _, finding := range []string{"hot-under-load", "weak-water-at-outlet", "tubes-crusted"} {
			table := s.table(finding)
			for _, q := range []float64{0, 1e-12, 0.3, 1} {
				s.weigh(table, q, w)
				for i, h := range s.hypotheses {
					p := table.present(h)
					require.InDelta(t, q*p+(1-q)*(1-p), w[i], 1e-14)
				}
			}
		}
	}
}

// Those that count as equal keep their places on both sides of a power of two too.
func TestEqualOnesAboutAPowerOfTwo(t *testing.T) {
	below := math.Nextafter(0.5, 0)
	assert.Equal(t, []int{0, 1}, mostProbable([]float64{below, 0.5, 0.1}, 2))
	assert.Equal(t, []int{0}, mostProbable([]float64{below, 0.5, 0.1}, 1))
	assert.Equal(t, []int{2, 0}, mostProbable([]float64{0.25, 0, 0.3, 0}, 2))
	assert.Equal(t, []int{1, 0, 2}, mostProbable([]float64{0, 1e-300, 0}, 3), "nothing is no reason to be left out")
}

// However many findings there are, weights stay clear of underflow; what is not so small stays as it is.
func TestWeightsAreKeptClearOfUnderflow(t *testing.T) {
	w := []float64{2e-61, 1e-61, 0}
	raise(w)
	assert.InDeltaSlice(t, []float64{1, 0.5, 0}, w, 1e-12)
	w = []float64{2e-60, 1e-60}
	raise(w)
	assert.Equal(t, []float64{2e-60, 1e-60}, w)
}
