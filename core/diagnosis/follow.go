package diagnosis

import (
	"math"
	"math/bits"
	"slices"

	"hevrin/core/ordering"
)

// Consequence is a fault that a found one brings with it, to be hunted before the engine runs again.
type Consequence struct {
	Fault       string
	Because     string // the fault found
	Why         string
	Probability float64
}

// consequences follows the pairs from what was found to what was not yet looked for, the most probable first.
func (m *model) consequences(b *belief, k knowledge) []Consequence {
	var out []Consequence
	for _, p := range m.catalogue.Pairs {
		for _, way := range [2][2]string{{p.A, p.B}, {p.B, p.A}} {
			found, okFound := m.number[way[0]]
			other, okOther := m.number[way[1]]
			if okFound && okOther && k.found&(1<<found) != 0 && k.looked&(1<<other) == 0 && p.Factor > 1 {
				out = append(out, Consequence{Fault: way[1], Because: way[0], Why: p.Why, Probability: b.marginal[other]})
			}
		}
	}
	slices.SortStableFunc(out, func(x, y Consequence) int { return ordering.Compare(y.Probability, x.Probability) })
	return out
}

// Conflict is two findings that do not go together: both at once are much rarer than each alone would make them.
type Conflict struct {
	A, B  string
	Times float64 // how many times rarer
}

// conflictFrom is how many times rarer a pair must be. Two findings of two unrelated faults are about three times
// rarer together, since jobs with two faults are.
const conflictFrom = 5

// conflicts weighs every two findings that are present against each other, before anything else is known.
func (m *model) conflicts(b *belief) []Conflict {
	var shown []int
	for j, c := range m.evidence {
		if c.q >= shownQ {
			shown = append(shown, j)
		}
	}
	if len(shown) < 2 {
		return nil
	}
	held := m.priorWeights()
	defer leave(held)
	prior, sum := *held, 0.0
	for _, w := range prior {
		sum += w
	}
	alone := make([]float64, len(m.evidence))
	for _, j := range shown {
		alone[j] = dot(prior, b.weights[j]) / sum
	}
	var out []Conflict
	for x, j := range shown {
		for _, l := range shown[x+1:] {
			both := 0.0
			second := b.weights[l]
			for i, w := range b.weights[j] {
				both += prior[i] * w * second[i]
			}
			both /= sum
			if times := alone[j] * alone[l] / both; times >= conflictFrom {
				out = append(out, Conflict{m.evidence[j].id, m.evidence[l].id, times})
			}
		}
	}
	slices.SortStableFunc(out, func(x, y Conflict) int { return ordering.Compare(y.Times, x.Times) })
	return out
}

// dot is the sum of the products of two slices of one length.
func dot(x, y []float64) float64 {
	sum := 0.0
	y = y[:len(x)]
	for i, a := range x {
		sum += a * y[i]
	}
	return sum
}

// Outlook is what a strategy is expected to cost from here.
type Outlook struct {
	Strategy string
	Minutes  float64 // expected until every fault has been looked for, along its present order, on the likeliest sets
}

// outlooks walks each strategy's present order of sure looks; quickest may do better by a check that leads.
func (m *model) outlooks(b *belief, n *nearby, k knowledge, candidates []*candidate) []Outlook {
	var out []Outlook
	for _, s := range Strategies {
		order := slices.Clone(candidates)
		m.order(b, k, order, s)
		minutes := newPlanner(m, k, candidates).along(n, order)
		for _, c := range candidates {
			if s == Quickest && c.leads {
				minutes = math.Min(minutes, c.atOnce)
			}
		}
		out = append(out, Outlook{s, minutes})
	}
	return out
}

// along is the expected minutes until every fault of the hypothesis has been looked for, in the given order.
func (p *planner) along(n *nearby, order []*candidate) float64 {
	var reached [maxFaults]float64
	done, opened, elapsed := p.looked, p.opened, 0.0
	for _, c := range order {
		if c.confirms&^done == 0 {
			continue
		}
		elapsed += c.next.Minutes + c.next.StateMinutes
		if opened&(1<<c.access) == 0 {
			elapsed += c.next.AccessMinutes
		}
		opened |= 1 << c.access
		for rest := c.confirms &^ done; rest != 0; rest &= rest - 1 {
			reached[bits.TrailingZeros64(rest)] = elapsed
		}
		done |= c.confirms
	}
	return lastReached(n.p, n.h, &reached)
}

// RuledOut is a check that is not offered, and why.
type RuledOut struct{ Check, Reason string }

// ruledOut says of every check of the catalogue that is not among those offered why not.
func (m *model) ruledOut(offered []NextCheck) []RuledOut {
	var out []RuledOut
	for i, check := range m.catalogue.Checks {
		reason := m.whys[i]
		if reason == "" && !slices.ContainsFunc(offered, func(n NextCheck) bool { return n.Check == check.ID }) {
			reason = "Looked at; a second look is not worth its minutes now."
		}
		if reason != "" {
			out = append(out, RuledOut{check.ID, reason})
		}
	}
	return out
}

// whyNot is empty for a check that is offered; again are the faults that a second look at it may show.
func (m *model) whyNot(number int, again uint64, k knowledge) string {
	check := m.catalogue.Checks[number]
	if m.madeAt[number] == "" {
		return "This engine has no place for it."
	}
	if why := m.question.Barred[check.ID]; why != "" {
		return why
	}
	switch {
	case again != 0:
		return ""
	case check.Asks && (k.found == 0 || m.question.Weighed):
		return "Asked with the complaint; what was not is asked once something is found."
	}
	if slices.Contains(m.question.Done, check.ID) {
		return "Done, or passed over."
	}
	open, bearing := false, false
	for _, f := range check.Settles {
		_, light := m.catalogue.LightGrade(f)
		if !m.knows(f, check.Point) && !light && !(check.Asks && m.otherOption(f)) {
			open = true
			bearing = bearing || m.tableAt(f, check.Point).bears()
		}
	}
	switch {
	case !open:
		return "What it would show is known already."
	case !bearing:
		return "Nothing that it shows can be wrong on this engine."
	}
	return ""
}
