package diagnosis

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Yard is what a yard goes by in place of the catalogue, because it chose so. Its zero value is the catalogue's own.
type Yard struct {
	// Rates are base rates by fault: how likely it is there before anything is known, above 0 and under 1. Those that are
	// left out are the catalogue's.
	Rates map[string]float64
	// Minutes are by check, without its access, and by access: above 0. Those that are left out are the catalogue's.
	Minutes map[string]float64
	// Comeback is what it costs, in minutes beside opening up again, when a fault that was left shows only in the proof or
	// after it. 0: ComebackMinutes.
	Comeback float64
}

// ComebackMinutes is a proof made again, 25 minutes with its readings, and half an hour at the least until what ran hot
// may be opened and is drained as far as a look needs; common practice. MostMinutes is the longest that a
// check, an access or a comeback may take.
const (
	ComebackMinutes = 60.0
	MostMinutes     = 600.0
)

// comeback is what a fault costs that shows only in the proof.
func (y Yard) comeback() float64 {
	if y.Comeback == 0 {
		return ComebackMinutes
	}
	return y.Comeback
}

// minutes are the yard's own of a check or an access, or else the catalogue's.
func (y Yard) minutes(id string, catalogues float64) float64 {
	if own, ok := y.Minutes[id]; ok {
		return own
	}
	return catalogues
}

// ownRates is what the yard's base rates do to the odds of each fault; nil where it goes by the catalogue's.
func (m *model) ownRates() []float64 {
	if len(m.question.Yard.Rates) == 0 {
		return nil
	}
	factor := ones(len(m.faults))
	for i, f := range m.faults {
		if own, ok := m.question.Yard.Rates[f.ID]; ok {
			factor[i] = own / (1 - own) * (1 - f.Prior) / f.Prior
		}
	}
	return m.byPlace(factor)
}

// first weighs, once something is found, each look against leaving it to the proof. What it shows now need not be
// opened for again; and where it shows the last of what is left, nobody comes back.
func (m *model) first(b *belief, k knowledge, candidates []*candidate) {
	if k.found == 0 || m.question.Weighed {
		return
	}
	nothingLeft := b.within(k.found)
	for _, c := range candidates {
		if !c.sure() {
			continue
		}
		last := b.within(k.found|c.confirms|c.again) - nothingLeft
		if c.again != 0 {
			last *= 1 - missedAgain
		}
		again := 0.0
		if a, ok := m.catalogue.AccessTo(c.check.Access); ok {
			again = m.question.Yard.minutes(a.ID, a.Minutes)
		}
		c.next.FirstSaves = max(0, last*m.question.Yard.comeback()+c.next.ConfirmChance*again-c.total())
	}
}

// Check says what of a yard's figures does not fit a catalogue (validation.Errors).
func (y Yard) Check(c *catalogue.Catalogue) error {
	var wrong validation.Errors
	for _, id := range slices.Sorted(maps.Keys(y.Rates)) {
		at, rate := fmt.Sprintf("yard.rates.%s", id), y.Rates[id]
		if _, ok := c.Fault(id); !ok {
			wrong.Add(at, id, "an id of the catalogue", "there is no fault %q", id)
		}
		if math.IsNaN(rate) || rate <= 0 || rate >= 1 {
			wrong.Add(at, rate, "above 0 and under 1", "a base rate is a chance")
		}
	}
	for _, id := range slices.Sorted(maps.Keys(y.Minutes)) {
		at, min := fmt.Sprintf("yard.minutes.%s", id), y.Minutes[id]
		_, check := c.Check(id)
		_, access := c.AccessTo(id)
		if !check && !access {
			wrong.Add(at, id, "an id of the catalogue", "there is no check or access %q", id)
		}
		if math.IsNaN(min) || min <= 0 || min > MostMinutes {
			wrong.Add(at, min, units.Say("above 0, at most %g min", MostMinutes), "say how long it takes")
		}
	}
	if math.IsNaN(y.Comeback) || y.Comeback < 0 || y.Comeback > MostMinutes {
		wrong.Add("yard.comeback_minutes", y.Comeback, units.Say("0 to %g min", MostMinutes),
			"say what it costs to come back for a fault")
	}
	return wrong.Err()
}
