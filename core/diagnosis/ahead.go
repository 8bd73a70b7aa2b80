package diagnosis

import (
	"cmp"
	"math"
	"math/bits"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/ordering"
)

// nearMass and nearLimit bound the likeliest hypotheses that gains and looks ahead are computed on.
const (
	nearMass  = 0.98
	nearLimit = 300
)

// mostInformative is how many of a check's findings a look ahead tells apart: a round of readings settles a dozen, and
// computation on its four most telling ones errs on the side of promising too little.
const mostInformative = 4

// nearby is a belief cut down to its likeliest hypotheses.
type nearby struct {
	m *model
	h []hypothesis
	p []float64 // sums to 1
	// entropies holds, by finding, that of its being present with each hypothesis, in bits
	entropies map[*table][]float64
	rows      [][]float64 // see split
}

// entropy gives a finding's entropies, computed once.
func (n *nearby) entropy(t *table) []float64 {
	if e, ok := n.entropies[t]; ok {
		return e
	}
	e := make([]float64, len(n.h))
	before, was := -1.0, 0.0 // most hypotheses have nothing that bears on it: one logarithm does for all of them
	for i, h := range n.h {
		if present := t.present(h); present != before {
			before, was = present, -plogp(present)-plogp(1-present)
		}
		e[i] = was
	}
	n.entropies[t] = e
	return e
}

func (b *belief) nearest() *nearby {
	n := &nearby{m: b.m, entropies: map[*table][]float64{}}
	sum := 0.0
	for _, i := range b.likeliest(nearLimit) {
		if sum >= nearMass {
			break
		}
		n.h = append(n.h, b.m.hypotheses[i])
		n.p = append(n.p, b.p[i])
		sum += b.p[i]
	}
	for i := range n.p {
		n.p[i] /= sum
	}
	return n
}

// gain is the expected information, in bits, that settling the findings gives about the hypotheses: the mutual
// information between the two.
func (n *nearby) gain(telling []*table) float64 {
	joint := make([]float64, 1<<len(telling))
	within := 0.0
	n.outcomes(telling, func(_ int, p float64, chances []float64) {
		for o, c := range chances {
			joint[o] += p * c
		}
	}, func(p, entropy float64) { within += p * entropy })
	total := 0.0
	for _, p := range joint {
		total -= plogp(p)
	}
	return max(0, ordering.Difference(total-within))
}

// outcomes walks the hypotheses with the chance of every combination of the findings; bit i of an outcome says that
// finding i is present.
func (n *nearby) outcomes(tables []*table, each func(i int, p float64, chances []float64), entropy func(p, h float64)) {
	chances := make([]float64, 1<<len(tables))
	of := make([][]float64, len(tables))
	for j, t := range tables {
		if entropy != nil {
			of[j] = n.entropy(t)
		}
	}
	for i, h := range n.h {
		chances[0] = 1
		sum := 0.0
		for j, t := range tables {
			present := t.present(h)
			if entropy != nil {
				sum += of[j][i]
			}
			for o := range 1 << j {
				chances[o|1<<j] = chances[o] * present
				chances[o] *= 1 - present
			}
		}
		each(i, n.p[i], chances)
		if entropy != nil {
			entropy(n.p[i], sum)
		}
	}
}

func plogp(p float64) float64 {
	if p <= 0 {
		return 0
	}
	return p * math.Log(p) / math.Ln2
}

// mostInformative keeps the findings that alone tell most.
func (n *nearby) mostInformative(open []*table) []*table {
	if len(open) <= mostInformative {
		return open
	}
	alone := map[*table]float64{}
	for _, t := range open {
		alone[t] = n.gain([]*table{t})
	}
	out := slices.Clone(open)
	slices.SortStableFunc(out, func(x, y *table) int { return ordering.Compare(alone[y], alone[x]) })
	return out[:mostInformative]
}

// lookAhead finds what the checks that confirm nothing are worth: the expected minutes of the best sequence of sure
// looks now, less the check's own minutes and those of the best sequence after each of its outcomes. Of those that
// save minutes the best leads, unless it is better still to make the best sure look before it; a quick look that saves
// nearly as much goes before it.
func (m *model) lookAhead(n *nearby, k knowledge, candidates []*candidate) {
	plan := newPlanner(m, k, candidates)
	first := bestSureLook(candidates)
	if first == nil {
		return
	}
	now := plan.expected(n.p, n.h)
	then := plan.after(first)
	var leader *candidate
	for _, c := range candidates {
		if c.sure() {
			continue
		}
		outcomes := n.split(c.informative)
		atOnce := c.total()
		for _, w := range outcomes {
			atOnce += plan.expected(w, n.h)
		}
		c.atOnce = atOnce
		c.next.SavesMinutes = max(0, ordering.Difference(now-atOnce))
		if c.next.SavesMinutes < worthAsking ||
			leader != nil && !ordering.Above(c.next.SavesMinutes, leader.next.SavesMinutes) {
			continue
		}
		later := first.total()
		for _, w := range outcomes {
			left := n.leaveOpen(w, then.looked)
			later += left*c.total() + then.expected(w, n.h)
		}
		if !ordering.Above(atOnce, later) {
			leader = c
		}
	}
	if leader != nil {
		beforeTools(leader, candidates).leads = true
	}
}

// quickLook is how long a look over the side or along the hoses takes at most, min, and nearlyAsMuch how much of what
// the best check saves it must save to come before it: the first looks come before tools (common practice).
const (
	quickLook    = 2.0
	nearlyAsMuch = 0.85
)

// beforeTools gives the quick look with nothing to open that saves nearly as much as the leader and most of its kind;
// the leader where there is none.
func beforeTools(leader *candidate, candidates []*candidate) *candidate {
	best, saves := leader, nearlyAsMuch*leader.next.SavesMinutes
	if leader.total() <= quickLook {
		return leader
	}
	for _, c := range candidates {
		if !c.sure() && c.total() <= quickLook && !ordering.Above(saves, c.next.SavesMinutes) {
			best, saves = c, c.next.SavesMinutes
		}
	}
	return best
}

func bestSureLook(candidates []*candidate) *candidate {
	var best *candidate
	for _, c := range candidates {
		if c.confirms != 0 && (best == nil || ordering.Above(c.rate(), best.rate())) {
			best = c
		}
	}
	return best
}

// leaveOpen takes the hypotheses out of w that have nothing outside the faults looked for, and gives what is left.
func (n *nearby) leaveOpen(w []float64, looked uint64) float64 {
	left := 0.0
	for i, h := range n.h {
		if h.mask&^looked == 0 {
			w[i] = 0
		}
		left += w[i]
	}
	return left
}

// split gives, for every outcome of the findings, the weight of each hypothesis with it; it stands until split is
// called again.
func (n *nearby) split(telling []*table) [][]float64 {
	for len(n.rows) < 1<<len(telling) {
		n.rows = append(n.rows, make([]float64, len(n.h)))
	}
	out := n.rows[:1<<len(telling)]
	n.outcomes(telling, func(i int, p float64, chances []float64) {
		for o, chance := range chances {
			out[o][i] = p * chance
		}
	}, nil)
	return out
}

// planner computes the expected minutes of the greedy sequence of sure looks.
type planner struct {
	faults int
	looked uint64
	looks  []look
	opened uint64 // accesses that stand open, by their place in the catalogue
}

type look struct {
	check    string
	confirms uint64
	own      float64
	access   int // its place in the catalogue plus one; 0: nothing to open
	opening  float64
	from, to int // the looks behind the same access
}

func newPlanner(m *model, k knowledge, candidates []*candidate) *planner {
	p := &planner{faults: len(m.faults), looked: k.looked, opened: 1}
	for _, c := range candidates {
		if c.confirms != 0 {
			p.looks = append(p.looks, look{check: c.check.ID, confirms: c.confirms,
				own: c.next.Minutes + c.next.StateMinutes, access: c.access, opening: c.next.AccessMinutes})
		}
		if c.next.AccessMinutes == 0 {
			p.opened |= 1 << c.access
		}
	}
	return p.gathered()
}

// gathered puts the looks behind one access side by side.
func (p *planner) gathered() *planner {
	slices.SortStableFunc(p.looks, func(x, y look) int { return cmp.Compare(x.access, y.access) })
	for i := range p.looks {
		l := &p.looks[i]
		l.from = slices.IndexFunc(p.looks, func(x look) bool { return x.access == l.access })
		for l.to = l.from; l.to < len(p.looks) && p.looks[l.to].access == l.access; {
			l.to++
		}
	}
	return p
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
	mass := make([]float64, p.faults)
	for i, x := range h {
		share := w[i] / float64(bits.OnesCount64(x.mask))
		for rest := x.mask; rest != 0; rest &= rest - 1 {
			mass[bits.TrailingZeros64(rest)] += share
		}
	}
	reached := make([]float64, p.faults)
	done, opened, elapsed := p.looked, p.opened, 0.0
	used := make([]bool, len(p.looks))
	chance := make([]float64, len(p.looks))
	for {
		for i, l := range p.looks {
			chance[i] = 0
			for rest := l.confirms &^ done; rest != 0 && !used[i]; rest &= rest - 1 {
				chance[i] += mass[bits.TrailingZeros64(rest)]
			}
		}
		best := p.bestLook(chance, opened)
		if best < 0 {
			break
		}
		l := p.looks[best]
		elapsed += l.own
		if opened&(1<<l.access) == 0 {
			elapsed += l.opening
		}
		used[best] = true
		opened |= 1 << l.access
		for rest := l.confirms &^ done; rest != 0; rest &= rest - 1 {
			reached[bits.TrailingZeros64(rest)] = elapsed
		}
		done |= l.confirms
	}
	return lastReached(w, h, reached)
}

// lastReached is Σ w · (when the last of the hypothesis's faults was reached).
func lastReached(w []float64, h []hypothesis, reached []float64) float64 {
	sum := 0.0
	for i, x := range h {
		last := 0.0
		for rest := x.mask; rest != 0; rest &= rest - 1 {
			if at := reached[bits.TrailingZeros64(rest)]; at > last { // max takes twenty times as long in WebAssembly
				last = at
			}
		}
		sum += w[i] * last
	}
	return sum
}

// bestLook is the look with the greatest chance per minute, an access that is still shut being shared by what lies
// behind it; −1 when no look has a chance left.
func (p *planner) bestLook(chance []float64, opened uint64) int {
	best, bestRate := -1, 0.0
	for i := range p.looks {
		l := &p.looks[i]
		if chance[i] == 0 {
			continue
		}
		gained, cost := chance[i], l.own
		if opened&(1<<l.access) == 0 {
			cost += l.opening
			own := chance[i] / l.own
			for j := l.from; j < l.to; j++ { // those that are the better for being there
				other := &p.looks[j]
				if j != i && !ordering.Above(gained/cost, chance[j]/other.own) && !ordering.Above(chance[j]/other.own, own) {
					gained += chance[j]
					cost += other.own
				}
			}
		}
		if rate := gained / cost; ordering.Above(rate, bestRate) {
			best, bestRate = i, rate
		}
	}
	return best
}
