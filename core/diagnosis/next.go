package diagnosis

import (
	"cmp"
	"fmt"
	"math"
	"math/bits"
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/ordering"
)

// candidate is a check that could come next, with what it could show here.
type candidate struct {
	check       catalogue.Check
	station     string
	order       int    // place in flow order of the first thing that it looks for
	place       string // that thing's station
	side        string // of that station
	confirms    uint64 // faults not yet looked for that it confirms
	again       uint64 // faults that it did not show when it was made; 0 for a check that was not
	open        []*table
	informative []*table // the most telling of open
	access      int      // see accessPlace
	atOnce      float64  // expected minutes when made at once, for a check that confirms nothing
	leads       bool     // the fewest expected minutes, all that may follow weighed in
	next        NextCheck
	clears      float64 // once something is found: how fast it brings down the chance of any other fault
}

// nextChecks ranks every check that the circuit allows, is not done, and has something left to settle.
func (m *model) nextChecks(b *belief, k knowledge, strategy string) ([]NextCheck, []Outlook) {
	candidates := m.candidates(b, k)
	near := b.nearest()
	defer near.release()
	for _, c := range candidates {
		c.informative = near.mostInformative(c.open)
		c.next.GainBits = near.gain(c.informative)
	}
	m.lookAhead(near, k, candidates)
	if k.found != 0 && !m.question.Weighed {
		m.clearing(near, k.found|m.exhausted(b), candidates)
	}
	m.first(b, k, candidates)
	outlooks := m.outlooks(b, near, k, candidates)
	r := m.order(b, k, candidates, strategy)
	for _, c := range candidates {
		if c.next.Reason = r.reason(c); c.again != 0 {
			c.next.Reason = fmt.Sprintf("Look again, with more light, more time or the part out: %s that it was missed "+
				"it so far.", percent(c.next.ConfirmChance/(1-missedAgain)))
		}
	}
	out := make([]NextCheck, len(candidates))
	for i, c := range candidates {
		out[i] = c.next
	}
	return out, outlooks
}

// worthLookingAgain is the chance from which a second look is offered.
const worthLookingAgain = 0.02

func (m *model) candidates(b *belief, k knowledge) []*candidate {
	var out []*candidate
	m.whys = make([]string, len(m.catalogue.Checks))
	for n, check := range m.catalogue.Checks {
		again := m.again(check)
		if m.whys[n] = m.whyNot(n, again, k); m.whys[n] != "" {
			continue
		}
		station := m.madeAt[n]
		c := &candidate{check: check, station: station, access: m.accessPlace(check.Access)}
		for _, f := range check.Settles {
			if m.worthSettling(f, check.Point) && !(check.Asks && m.otherOption(f)) {
				c.open = append(c.open, m.tableAt(f, check.Point))
			}
		}
		for _, f := range check.Confirms {
			if i, ok := m.number[f]; ok {
				c.confirms |= 1 << i
			}
		}
		c.confirms &^= k.looked
		if c.again = again; c.again != 0 {
			c.confirms, c.open = 0, nil
		}
		m.locate(c)
		c.next = NextCheck{Check: check.ID, Station: station,
			Minutes:       m.question.Yard.minutes(check.ID, check.Minutes),
			AccessMinutes: m.accessMinutes(check.Access), StateMinutes: m.question.Ahead[check.ID],
			ConfirmChance: b.any(c.confirms)}
		if c.again != 0 {
			c.next.Again, c.next.ConfirmChance = true, (1-missedAgain)*b.any(c.again&^k.found)
			if c.next.ConfirmChance < worthLookingAgain {
				continue
			}
		}
		out = append(out, c)
	}
	return out
}

// worthSettling says whether a finding is still to be settled and would tell something: a light grade only tells that
// the heavy one, which its check settles too, is not there.
func (m *model) worthSettling(finding, point string) bool {
	_, light := m.catalogue.LightGrade(finding)
	return !m.knows(finding, point) && !light && m.tableAt(finding, point).bears()
}

// otherOption says whether another option of a finding's question is known to be so: there is nothing left to ask.
func (m *model) otherOption(finding string) bool {
	id, _ := m.catalogue.GroupOf(finding)
	g, _ := m.catalogue.Group(id)
	return slices.ContainsFunc(g.Findings, func(f string) bool { return f != finding && m.known[f].q > 0.5 })
}

// locate puts a candidate where the first fault lies that it looks for, which need not be where it is made: an open
// hose at the seacock looks for a blocked intake.
func (m *model) locate(c *candidate) {
	c.place, c.order = c.station, slices.Index(m.stations, c.station)
	for rest := c.confirms; rest != 0; rest &= rest - 1 {
		if at := m.firstAt[bits.TrailingZeros64(rest)]; at < c.order {
			c.place, c.order = m.stations[at], at
		}
	}
	c.side = m.side(c.place)
}

// accessMinutes is what opening an access still costs.
func (m *model) accessMinutes(id string) float64 {
	if id == "" || slices.Contains(m.question.OpenAccess, id) {
		return 0
	}
	a, _ := m.catalogue.AccessTo(id)
	return m.question.Yard.minutes(id, a.Minutes)
}

// side tells which water a station belongs to; raw before coolant where it has both.
func (m *model) side(station string) string {
	s, _ := m.catalogue.Station(station)
	if sides := s.Sides[m.question.Family]; len(sides) > 0 {
		return sides[0]
	}
	return ""
}

func (c *candidate) total() float64 {
	return c.next.Minutes + c.next.AccessMinutes + c.next.StateMinutes
}

// sure says whether it can show a fault for certain.
func (c *candidate) sure() bool { return c.confirms|c.again != 0 }

// rate is the chance of confirming a fault per minute.
func (c *candidate) rate() float64 { return c.next.ConfirmChance / c.total() }

// ranking orders candidates and says why the first stands where it stands.
type ranking struct {
	less   func(x, y *candidate) int
	reason func(c *candidate) string
}

// order sorts candidates as a strategy has them.
func (m *model) order(b *belief, k knowledge, candidates []*candidate, strategy string) ranking {
	rankings := map[string]func() ranking{
		Quickest:      func() ranking { return m.quickest(b, candidates) },
		AlongTheWater: func() ranking { return m.alongTheWater(b, k) },
		Likeliest:     func() ranking { return m.likeliestFirst(b) },
	}
	r := rankings[strategy]()
	tie := func(x, y *candidate) int {
		return cmp.Or(ordering.Compare(y.next.GainBits/y.total(), x.next.GainBits/x.total()),
			cmp.Compare(x.check.ID, y.check.ID))
	}
	slices.SortFunc(candidates, func(x, y *candidate) int { return cmp.Or(r.less(x, y), tie(x, y)) })
	return r
}

// worthAsking is how many minutes a check that confirms nothing must save to come before sure looks.
const worthAsking = 1.0

// quickest: what leads when all that may follow is weighed in; then by chance of confirming per minute, the check
// that confirms nothing but saves most, a minute or more, behind the best sure look. The others that confirm nothing
// come last: what they would save is mostly the same minutes.
func (m *model) quickest(b *belief, candidates []*candidate) ranking {
	best, saves := 0.0, worthAsking
	for _, c := range candidates {
		best, saves = max(best, c.rate()), max(saves, c.next.SavesMinutes)
	}
	tier := func(c *candidate) int {
		switch {
		case c.leads:
			return 0
		case c.sure() && c.rate() == best:
			return 1
		case c.next.SavesMinutes >= saves:
			return 2
		}
		return 3
	}
	return ranking{
		less: func(x, y *candidate) int {
			return cmp.Or(ordering.Compare(y.clears, x.clears), cmp.Compare(tier(x), tier(y)),
				ordering.Compare(y.rate(), x.rate()), ordering.Compare(y.next.SavesMinutes, x.next.SavesMinutes))
		},
		reason: func(c *candidate) string {
			if c.clears > 0 && c.next.ConfirmChance == 0 {
				return fmt.Sprintf("Proves nothing by itself, but tells soonest whether anything else is wrong (%.2f bit for %s).",
					c.next.GainBits, minutes(c.total()))
			}
			if c.next.SavesMinutes > 0 {
				return fmt.Sprintf("Proves nothing by itself, but separates the suspects: saves about %s on the way to the cause.",
					minutes(c.next.SavesMinutes))
			}
			if c.next.ConfirmChance == 0 {
				return m.onlyNarrows(c)
			}
			return fmt.Sprintf("%s chance of finding it here: %s.%s", percent(c.next.ConfirmChance), m.suspectsOf(b, c),
				m.opened(c))
		},
	}
}

// alongTheWater: sides by how much the evidence points to them, then station by station downstream; what is cleared
// or confirms nothing comes last.
func (m *model) alongTheWater(b *belief, k knowledge) ranking {
	weight := map[string]float64{}
	for i, f := range m.faults {
		if k.looked&(1<<i) == 0 {
			weight[m.sideOfFault(f)] += b.marginal[i]
		}
	}
	idle := func(c *candidate) int { return boolToInt(c.confirms == 0) }
	return ranking{
		less: func(x, y *candidate) int {
			return cmp.Or(cmp.Compare(idle(x), idle(y)), ordering.Compare(weight[y.side], weight[x.side]),
				cmp.Compare(x.side, y.side), cmp.Compare(x.order, y.order), ordering.Compare(x.total(), y.total()))
		},
		reason: func(c *candidate) string {
			if c.confirms == 0 {
				return m.onlyNarrows(c)
			}
			s, _ := m.catalogue.Station(c.place)
			return fmt.Sprintf("Not yet cleared on the %s side, in the order of the water: %s.", sideWords[c.side],
				lower(s.Label))
		},
	}
}

var sideWords = map[string]string{"raw": "raw-water", "coolant": "coolant", "instrument": "instruments'",
	"load": "load"}

// likeliestFirst: the sure look at the most probable fault not yet looked for.
func (m *model) likeliestFirst(b *belief) ranking {
	best := func(c *candidate) float64 {
		top := 0.0
		for i := range m.faults {
			if c.confirms&(1<<i) != 0 {
				top = max(top, b.marginal[i])
			}
			if c.again&(1<<i) != 0 {
				top = max(top, (1-missedAgain)*b.marginal[i])
			}
		}
		return top
	}
	return ranking{
		less: func(x, y *candidate) int {
			return cmp.Or(ordering.Compare(best(y), best(x)), ordering.Compare(x.total(), y.total()))
		},
		reason: func(c *candidate) string {
			if c.confirms == 0 {
				return m.onlyNarrows(c)
			}
			return fmt.Sprintf("The sure look at: %s.", m.suspectsOf(b, c))
		},
	}
}

func (m *model) sideOfFault(f catalogue.Fault) string {
	if at := m.firstAt[m.number[f.ID]]; at >= 0 {
		return m.side(m.stations[at])
	}
	return ""
}

func (m *model) onlyNarrows(c *candidate) string {
	return fmt.Sprintf("Narrows the suspects (%.2f bit for %s); proves none by itself.", c.next.GainBits,
		minutes(c.total()))
}

func (m *model) opened(c *candidate) string {
	a, needs := m.catalogue.AccessTo(c.check.Access)
	switch {
	case !needs:
		return ""
	case c.next.AccessMinutes == 0:
		return " " + a.Label + " already: while you are there."
	default:
		return " " + a.Label + " takes " + minutes(c.next.AccessMinutes) + " of it."
	}
}

// suspectsOf lists the two most probable faults that the check could show.
func (m *model) suspectsOf(b *belief, c *candidate) string {
	var held []int
	for i := range m.faults {
		if c.confirms&(1<<i) != 0 {
			held = append(held, i)
		}
	}
	slices.SortStableFunc(held, func(x, y int) int { return ordering.Compare(b.marginal[y], b.marginal[x]) })
	var words []string
	for _, i := range held[:min(2, len(held))] {
		words = append(words, lower(m.faults[i].Label)+" "+percent(b.marginal[i]))
	}
	return strings.Join(words, ", ")
}

func percent(p float64) string {
	switch {
	case p < 0.01:
		return "under 1\u00a0%"
	case p > 0.99:
		return "over 99\u00a0%"
	}
	return fmt.Sprintf("%.0f\u00a0%%", 100*p)
}

func minutes(x float64) string {
	if n := math.Round(x); n >= 2 {
		return fmt.Sprintf("%.0f\u00a0minutes", n)
	}
	return "1\u00a0minute"
}

func lower(label string) string { return strings.ToLower(label[:1]) + label[1:] }

func boolToInt(b bool) int {
	if b {
		return 1
	}
	return 0
}
