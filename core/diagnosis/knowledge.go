package diagnosis

import (
	"slices"

	"hevrin/core/catalogue"
)

// knowledge is what the known findings settle: faults found, and faults looked for, seen or not.
type knowledge struct{ found, looked uint64 }

func (m *model) knowledge(b *belief) knowledge {
	k := knowledge{found: m.given, looked: m.given}
	for i, f := range m.faults {
		bit := uint64(1) << i
		for _, look := range f.Sure {
			was, known := m.known[look.Finding]
			q := was.q
			switch {
			case !known:
			case q >= shownQ && b.marginal[i] >= m.question.found():
				k.found |= bit
				k.looked |= bit
			case q >= shownQ && !m.anyRival(look), q <= 1-shownQ:
				k.looked |= bit // seen but not proved, or not there: looking again earns nothing
			}
		}
	}
	return k
}

// exhausted are the faults that no look can show any more: each of their sure looks was made as often as it is worth,
// at least twice, and showed nothing. What is left of them is for the proof.
func (m *model) exhausted(b *belief) (mask uint64) {
	if m.question.Weighed {
		return 0
	}
	for i, f := range m.faults {
		spent := func(s catalogue.SureLook) bool {
			check, _ := m.catalogue.Check(s.Check)
			_, here := m.catalogue.StationOf(check, m.question.Family, m.stations)
			was, known := m.known[s.Finding]
			return !here || known && was.q < shownQ && (was.looks >= MostLooks ||
				was.looks > 1 && (1-missedAgain)*b.marginal[i] < worthLookingAgain)
		}
		if !slices.ContainsFunc(f.Sure, func(s catalogue.SureLook) bool { return !spent(s) }) {
			mask |= 1 << i
		}
	}
	return mask
}

// again are the faults that a check did not show when it was made, or that another showed nothing of, and that a second
// look may show; none while the check has something to show for the first time.
func (m *model) again(check catalogue.Check) uint64 {
	if m.missed[check.ID] == 0 || m.question.Weighed || !slices.Contains(m.question.Done, check.ID) &&
		slices.ContainsFunc(check.Settles, func(f string) bool { return m.worthSettling(f, check.Point) }) {
		return 0
	}
	return m.missed[check.ID]
}

// missedBy are, by check, the faults of which it, or another, did not show what it shows, and that may be looked for
// again.
func (m *model) missedBy() map[string]uint64 {
	out := map[string]uint64{}
	for i, f := range m.faults {
		for _, look := range f.Sure {
			if was, known := m.known[look.Finding]; known && was.q < shownQ && was.looks < MostLooks {
				out[look.Check] |= 1 << i
			}
		}
	}
	return out
}

// leastExplained is the chance below which a finding that is present counts as not explained.
const leastExplained = 0.15

// unexplained lists the findings known to be present that the faults found, or while none is found the likeliest set,
// would seldom show.
func (m *model) unexplained(b *belief, found uint64) []string {
	out := []string{}
	mask := found
	if mask == 0 {
		mask = m.hypotheses[b.likeliest(1)[0]].mask
	}
	for _, c := range m.evidence {
		if c.q >= shownQ && c.table.presentWith(mask) < leastExplained {
			out = append(out, c.id)
		}
	}
	return out
}

// presentWith is P(present | all faults of the mask).
func (t *table) presentWith(mask uint64) float64 {
	none, spare := t.leakFree, 1.0
	for i := range t.causes[:len(t.causes)-1] {
		if mask&(1<<i) != 0 {
			none *= t.causes[i]
			spare *= t.spare[i]
		}
	}
	return (1 - none) * spare
}
