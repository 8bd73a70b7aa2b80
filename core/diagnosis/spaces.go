package diagnosis

import (
	"fmt"
	"strings"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
)

// spaces keeps the hypotheses of circuits, with what is given on them, that were asked for last: they hang on nothing
// else of a question. It may be used from many goroutines; nil keeps nothing.
type spaces struct{ kept *lru.Cache[string, space] }

// space is every hypothesis of a circuit with its prior weight; it is never changed.
type space struct {
	hypotheses []hypothesis
	base       []float64
}

// mostSpaces is how many are kept; each takes less than half a megabyte.
const mostSpaces = 64

func newSpaces() *spaces {
	kept, err := lru.New[string, space](mostSpaces)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &spaces{kept}
}

// of gives the hypotheses of a model's circuit and faults given.
func (s *spaces) of(m *model) ([]hypothesis, []float64) {
	if s == nil {
		m.enumerate()
		return m.hypotheses, m.base
	}
	stations := "every"
	if m.question.Stations != nil {
		stations = strings.Join(m.question.Stations, " ")
	}
	key := fmt.Sprintf("%s|%s|%s|%x", m.question.Family, stations, m.question.PumpDrive, m.given)
	if x, ok := s.kept.Get(key); ok {
		return x.hypotheses, x.base
	}
	m.enumerate()
	s.kept.Add(key, space{m.hypotheses, m.base})
	return m.hypotheses, m.base
}

// asked is what would be believed of the faults by another question on the same circuit.
func (m *model) asked(q Question) []float64 {
	b := m.spaces.model(m.catalogue, q).infer()
	defer b.release()
	return b.marginal
}

// buffers are large slices that are used again.
var buffers = sync.Pool{New: func() any { return new([]float64) }}

// hold gives a slice of a length; what lies in it is left from before.
func hold(n int) *[]float64 {
	b, ok := buffers.Get().(*[]float64)
	if !ok || cap(*b) < n {
		fresh := make([]float64, n)
		return &fresh
	}
	*b = (*b)[:n]
	return b
}

// release gives back what a belief lies in: it must not be asked any more.
func (b *belief) release() {
	if b.held != nil {
		buffers.Put(b.held)
		b.held, b.p, b.weights = nil, nil, nil
	}
}
