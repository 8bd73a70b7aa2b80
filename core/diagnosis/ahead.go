package diagnosis

import (
	"math"
	"slices"

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
	m    *model
	h    []hypothesis
	p    []float64 // sums to 1
	told map[*table]told
	rows [][]float64 // see split
	held *[]float64  // what told and rows lie in
	free []float64   // what of it is left
}

// told is what a finding tells of the likeliest hypotheses.
type told struct {
	present []float64 // the chance of its being present with each
	within  float64   // the entropy that its being present has once the hypothesis is known, in bits
	alone   float64   // the information that settling it alone gives, in bits
}

func (b *belief) nearest() *nearby {
	near := b.likeliest(nearLimit)
	sum := 0.0
	for n, i := range near {
		if sum >= nearMass {
			near = near[:n]
			break
		}
		sum += b.p[i]
	}
	h, p := make([]hypothesis, len(near)), make([]float64, len(near))
	for n, i := range near {
		h[n], p[n] = b.m.hypotheses[i], b.p[i]/sum
	}
	return nearbyOf(b.m, h, p)
}

// nearbyOf is a belief in a few hypotheses.
func nearbyOf(m *model, h []hypothesis, p []float64) *nearby {
	held := hold(len(h) * (len(m.catalogue.Findings) + 1<<mostInformative))
	return &nearby{m: m, h: h, p: p, told: map[*table]told{}, held: held, free: *held}
}

// Of hypotheses that hold the same of what bears on a finding, the last of each slot are remembered, slots by
// multiplicative hashing (D. E. Knuth, The Art of Computer Programming, volume 3, section 6.4).
const (
	seenBits   = 6
	seenSpread = 0x9e3779b97f4a7c15
)

// room gives n numbers of what is held, or else new ones.
func (n *nearby) room(size int) []float64 {
	if len(n.free) < size {
		return make([]float64, size)
	}
	out := n.free[:size:size]
	n.free = n.free[size:]
	return out
}

// release gives back what it lies in: it must not be asked any more.
func (n *nearby) release() { leave(n.held) }

// tells gives what a finding tells, worked out once.
func (n *nearby) tells(t *table) told {
	if x, ok := n.told[t]; ok {
		return x
	}
	x := told{present: n.room(len(n.h))}
	shown := 0.0
	var seen [1 << seenBits]struct {
		known            bool
		bearing          uint64
		present, entropy float64
	}
	for i := range n.h {
		bearing := n.h[i].mask & t.bearing
		of := &seen[bearing*seenSpread>>(64-seenBits)]
		if !of.known || of.bearing != bearing {
			of.known, of.bearing, of.present = true, bearing, t.present(n.h[i])
			of.entropy = entropyOf(of.present)
		}
		x.present[i] = of.present
		x.within += n.p[i] * of.entropy
		shown += n.p[i] * of.present
	}
	x.alone = max(0, ordering.Difference(entropyOf(shown)-x.within))
	n.told[t] = x
	return x
}

// entropyOf is that of what is so with a chance of p, in bits.
func entropyOf(p float64) float64 { return -plogp(p) - plogp(1-p) }

// gain is the expected information, in bits, that settling the findings, at most mostInformative of them, gives about
// the hypotheses: the mutual information between the two.
func (n *nearby) gain(telling []*table) float64 {
	if len(telling) == 1 {
		return n.tells(telling[0]).alone
	}
	var joint [1 << mostInformative]float64
	n.outcomes(telling, func(_ int, p float64, chances []float64) {
		for o, c := range chances {
			joint[o] += p * c
		}
	})
	total := 0.0
	for _, p := range joint[:1<<len(telling)] {
		total -= plogp(p)
	}
	for _, t := range telling { // settled by the hypothesis, one tells nothing of another
		total -= n.tells(t).within
	}
	return max(0, ordering.Difference(total))
}

// outcomes walks the hypotheses with the chance of every combination of the findings; bit i of an outcome says that
// finding i is present.
func (n *nearby) outcomes(tables []*table, each func(i int, p float64, chances []float64)) {
	var rows [mostInformative][]float64
	for j, t := range tables {
		rows[j] = n.tells(t).present
	}
	var all [1 << mostInformative]float64
	chances := all[:1<<len(tables)]
	for i, p := range n.p {
		chances[0] = 1
		for j := range tables {
			present := rows[j][i]
			for o := range 1 << j {
				chances[o|1<<j] = chances[o] * present
				chances[o] *= 1 - present
			}
		}
		each(i, p, chances)
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
	out := slices.Clone(open)
	slices.SortStableFunc(out, func(x, y *table) int { return ordering.Compare(n.tells(y).alone, n.tells(x).alone) })
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
		n.rows = append(n.rows, n.room(len(n.h)))
	}
	out := n.rows[:1<<len(telling)]
	n.outcomes(telling, func(i int, p float64, chances []float64) {
		for o, chance := range chances {
			out[o][i] = p * chance
		}
	})
	return out
}
