package diagnosis

import (
	"fmt"
	"math/bits"
	"slices"
	"strings"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/core/catalogue"
)

// circuit is what hangs on an engine's circuit alone; it is never changed. Faults are numbered as in faults.
type circuit struct {
	key      string
	stations []string // in the order of the water; all the family's stations when the question names none
	faults   []catalogue.Fault
	number   map[string]int
	firstAt  []int    // by fault: the first station that can have it, by its place in stations; −1 for none
	madeAt   []string // by check: see catalogue.StationOf; empty where it has no place
}

// space is every hypothesis of a circuit, given what a sure look showed to be there, with its prior weight, and what
// each finding says of them; it is never changed.
type space struct {
	*circuit
	given      uint64 // what a sure look showed to be there
	hypotheses []hypothesis
	base       []float64 // prior weight of each hypothesis without history
	free       []int     // the faults that are not given: their places in the layout; see places
	pairs      []int32   // see pairAt
	tables     map[reading]*table
}

// spaces keeps the circuits, and the hypotheses with what is given on them, that were asked for last: they hang on
// nothing else of a question. It may be used from many goroutines; nil keeps nothing.
type spaces struct {
	circuits *lru.Cache[string, *circuit]
	kept     *lru.Cache[string, *space]
}

func newSpaces() *spaces {
	circuits, err := lru.New[string, *circuit](mostSpaces)
	if err != nil {
		panic(err) // the size is above 0
	}
	kept, err := lru.New[string, *space](mostSpaces)
	if err != nil {
		panic(err)
	}
	return &spaces{circuits, kept}
}

// kept gives what is kept under a key, or makes it.
func kept[V any](in *lru.Cache[string, V], key string, made func() V) V {
	if in == nil {
		return made()
	}
	if x, ok := in.Get(key); ok {
		return x
	}
	x := made()
	in.Add(key, x)
	return x
}

// circuit gives the circuit that a question asks of.
func (s *spaces) circuit(c *catalogue.Catalogue, q Question) *circuit {
	stations := "every"
	if q.Stations != nil {
		stations = strings.Join(q.Stations, " ")
	}
	key := fmt.Sprintf("%s|%s|%s", q.Family, stations, q.PumpDrive)
	if s == nil {
		s = &spaces{}
	}
	return kept(s.circuits, key, func() *circuit { return newCircuit(c, q, key) })
}

func newCircuit(c *catalogue.Catalogue, q Question, key string) *circuit {
	x := &circuit{key: key, stations: q.Stations, number: map[string]int{}}
	if x.stations == nil {
		for _, s := range c.Stations {
			if len(s.Sides[q.Family]) > 0 {
				x.stations = append(x.stations, s.ID)
			}
		}
	}
	x.faults = slices.DeleteFunc(c.FaultsOn(q.Family, q.Stations), func(f catalogue.Fault) bool {
		return q.PumpDrive != "" && f.Drive != "" && f.Drive != q.PumpDrive
	})
	for i, f := range x.faults {
		x.number[f.ID] = i
		x.firstAt = append(x.firstAt, slices.IndexFunc(x.stations, func(s string) bool {
			return slices.Contains(f.Stations, s)
		}))
	}
	for _, check := range c.Checks {
		at, _ := c.StationOf(check, q.Family, x.stations)
		x.madeAt = append(x.madeAt, at)
	}
	return x
}

// of gives the hypotheses of a circuit with what is given on it.
func (s *spaces) of(c *catalogue.Catalogue, x *circuit, given uint64) *space {
	if s == nil {
		s = &spaces{}
	}
	return kept(s.kept, fmt.Sprintf("%s|%x", x.key, given), func() *space { return newSpace(c, x, given) })
}

func newSpace(c *catalogue.Catalogue, x *circuit, given uint64) *space {
	s := &space{circuit: x, given: given}
	s.enumerate(c)
	s.fill(c)
	return s
}

// shownBy are the faults of which a finding, present, is a sure look that no rival on this circuit can bring about.
func (x *circuit) shownBy(finding string) (shown uint64) {
	for i, f := range x.faults {
		for _, look := range f.Sure {
			if look.Finding == finding && !x.anyRival(look) {
				shown |= 1 << i
			}
		}
	}
	return shown
}

// anyRival tells whether this circuit can have a fault that the look cannot tell from the one looked for.
func (x *circuit) anyRival(look catalogue.SureLook) bool {
	for _, r := range look.Rivals {
		if _, here := x.number[r.Fault]; here {
			return true
		}
	}
	return false
}

// asked is what would be believed of the faults by another question on the same circuit.
func (m *model) asked(q Question) []float64 {
	b := m.spaces.model(m.catalogue, q).infer()
	defer b.release()
	return b.marginal
}

// buffers are large slices that are used again, by the bits of their size.
var buffers [bits.UintSize]sync.Pool

// hold gives a slice of a length above 0; what lies in it is left from before. It is to be given back by leave.
func hold(n int) *[]float64 {
	size := bits.Len(uint(n - 1))
	if b, ok := buffers[size].Get().(*[]float64); ok {
		*b = (*b)[:n]
		return b
	}
	fresh := make([]float64, n, 1<<size)
	return &fresh
}

// leave gives a slice back: it must not be used any more.
func leave(b *[]float64) { buffers[bits.Len(uint(cap(*b)-1))].Put(b) }

// release gives back what a belief lies in: it must not be asked any more.
func (b *belief) release() {
	if b.held != nil {
		leave(b.held)
		b.held, b.p, b.weights = nil, nil, nil
	}
}
