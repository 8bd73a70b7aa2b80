package diagnosis

import (
	"cmp"
	"math/bits"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/ordering"
)

// planner computes the expected minutes of the greedy sequence of sure looks. It keeps what it works with, for the next
// time: it is not for two at once.
type planner struct {
	faults int
	looked uint64
	looks  []look // those behind one access side by side
	opened uint64 // accesses that stand open, by their place in the catalogue
	at     *scratch
}

type look struct {
	check    string
	confirms uint64
	own      float64
	access   int // its place in the catalogue plus one; 0: nothing to open
	opening  float64
	from, to int // the looks behind the same access
}

// scratch is what one sequence is worked out in.
type scratch struct {
	mass, reached [maxFaults]float64 // by fault: its share of the weights; when it was reached
	chance, rate  []float64          // by look: the weight of what it would show; see rated
}

func newPlanner(m *model, k knowledge, candidates []*candidate) *planner {
	var looks []look
	opened := uint64(1)
	for _, c := range candidates {
		if c.confirms != 0 {
			looks = append(looks, look{check: c.check.ID, confirms: c.confirms,
				own: c.next.Minutes + c.next.StateMinutes, access: c.access, opening: c.next.AccessMinutes})
		}
		if c.next.AccessMinutes == 0 {
			opened |= 1 << c.access
		}
	}
	return plannerOf(len(m.faults), k.looked, opened, looks)
}

// plannerOf puts the looks behind one access side by side.
func plannerOf(faults int, looked, opened uint64, looks []look) *planner {
	slices.SortStableFunc(looks, func(x, y look) int { return cmp.Compare(x.access, y.access) })
	for i := range looks {
		l := &looks[i]
		l.from = slices.IndexFunc(looks, func(x look) bool { return x.access == l.access })
		for l.to = l.from; l.to < len(looks) && looks[l.to].access == l.access; {
			l.to++
		}
	}
	return &planner{faults: faults, looked: looked, looks: looks, opened: opened,
		at: &scratch{chance: make([]float64, len(looks)), rate: make([]float64, len(looks))}}
}

// accessPlace numbers the accesses from 1; 0 is for none.
func (m *model) accessPlace(id string) int {
	return 1 + slices.IndexFunc(m.catalogue.Access, func(a catalogue.Access) bool { return a.ID == id })
}

// after is the planner once a check has been made and its access stands open.
func (p *planner) after(c *candidate) *planner {
	q := *p
	q.looked |= c.confirms
	q.opened |= 1 << c.access
	return &q
}

// expected is Σ w · (minutes until every fault of the hypothesis has been looked for), for weights that need not sum
// to 1, along the sequence that at each step takes the greatest chance per minute; looks behind one access that is
// still shut are weighed together, since it is opened once for all.
func (p *planner) expected(w []float64, h []hypothesis) float64 {
	s := p.at
	clear(s.mass[:p.faults])
	clear(s.reached[:p.faults])
	for i, x := range w {
		if x == 0 {
			continue
		}
		mask := h[i].mask
		share := x / float64(bits.OnesCount64(mask))
		for rest := mask; rest != 0; rest &= rest - 1 {
			s.mass[bits.TrailingZeros64(rest)] += share
		}
	}
	done, opened, elapsed := p.looked, p.opened, 0.0
	changed := ^uint64(0) // faults whose looks must be weighed again
	for {
		p.weigh(changed, done, opened)
		best := p.best()
		if best < 0 {
			break
		}
		l := &p.looks[best]
		elapsed += l.own
		if opened&(1<<l.access) == 0 {
			elapsed += l.opening
			opened |= 1 << l.access
			for j := l.from; j < l.to; j++ { // each by itself from here on
				s.rate[j] = s.chance[j] / p.looks[j].own
			}
		}
		changed = l.confirms &^ done
		for rest := changed; rest != 0; rest &= rest - 1 {
			s.reached[bits.TrailingZeros64(rest)] = elapsed
		}
		done |= changed
	}
	return lastReached(w, h, &s.reached)
}

// weigh works out anew the chances and rates of the looks at what has changed.
func (p *planner) weigh(changed, done, opened uint64) {
	s := p.at
	for i := 0; i < len(p.looks); {
		l := &p.looks[i]
		shut := opened&(1<<l.access) == 0
		touched := false
		for ; i < l.to; i++ {
			x := &p.looks[i]
			if x.confirms&changed == 0 {
				continue
			}
			touched = true
			s.chance[i] = 0
			for rest := x.confirms &^ done; rest != 0; rest &= rest - 1 {
				s.chance[i] += s.mass[bits.TrailingZeros64(rest)]
			}
			s.rate[i] = s.chance[i] / x.own
		}
		if shut && touched {
			p.share(l.from, l.to)
		}
	}
}

// share gives the looks behind an access that is still shut, from one to another, the rates that they have with those
// that are the better for being there.
func (p *planner) share(from, to int) {
	chance, rate := p.at.chance, p.at.rate
	for i := from; i < to; i++ {
		l := &p.looks[i]
		if chance[i] == 0 {
			rate[i] = 0
			continue
		}
		gained, cost := chance[i], l.own+l.opening
		own := chance[i] / l.own
		for j := from; j < to; j++ {
			other := chance[j] / p.looks[j].own
			if j != i && !ordering.Above(gained/cost, other) && !ordering.Above(other, own) {
				gained += chance[j]
				cost += p.looks[j].own
			}
		}
		rate[i] = gained / cost
	}
}

// best is the look with the greatest rate; −1 when no look has a chance left.
func (p *planner) best() int {
	best, bestRate := -1, 0.0
	for i, rate := range p.at.rate {
		if ordering.Above(rate, bestRate) {
			best, bestRate = i, rate
		}
	}
	return best
}

// lastReached is Σ w · (when the last of the hypothesis's faults was reached).
func lastReached(w []float64, h []hypothesis, reached *[maxFaults]float64) float64 {
	sum := 0.0
	for i, x := range w {
		if x == 0 {
			continue
		}
		last := 0.0
		for rest := h[i].mask; rest != 0; rest &= rest - 1 {
			at := reached[bits.TrailingZeros64(rest)&(maxFaults-1)]
			if at > last { // max takes twenty times as long in WebAssembly
				last = at
			}
		}
		sum += x * last
	}
	return sum
}
