package diagnosis_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// drawYard makes what a yard may go by; mostly the catalogue.
func drawYard(rt *rapid.T, c *catalogue.Catalogue) (y diagnosis.Yard) {
	if rapid.IntRange(0, 2).Draw(rt, "own rates") > 0 {
		return y
	}
	y.Rates, y.Minutes = map[string]float64{}, map[string]float64{}
	for range rapid.IntRange(1, 8).Draw(rt, "rates") {
		y.Rates[rapid.SampledFrom(c.Faults).Draw(rt, "fault").ID] = rapid.Float64Range(0.001, 0.6).Draw(rt, "rate")
		y.Minutes[rapid.SampledFrom(c.Checks).Draw(rt, "check").ID] = rapid.Float64Range(0.5, 90).Draw(rt, "minutes")
	}
	y.Comeback = rapid.Float64Range(0, 300).Draw(rt, "comeback")
	return y
}

func next(a *diagnosis.Answer, check string) (diagnosis.NextCheck, bool) {
	for _, n := range a.NextChecks {
		if n.Check == check {
			return n, true
		}
	}
	return diagnosis.NextCheck{}, false
}

// A yard's own base rate stands in the place of the catalogue's, and is told as one move of what it moved.
func TestAYardsOwnBaseRates(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, Findings: present("weak-water-at-outlet")}
	before := ask(t, q)
	q.Yard.Rates = map[string]float64{"strainer-clogged": 0.4}
	after := ask(t, q)
	assert.Greater(t, probability(after, "strainer-clogged"), probability(before, "strainer-clogged"))
	for _, s := range after.Suspects {
		if s.Fault != "strainer-clogged" {
			continue
		}
		assert.Greater(t, s.Prior, 0.25)
		told := false
		for _, m := range s.MovedBy {
			told = told || m.Kind == diagnosis.OwnRates && m.LogOdds > 0
		}
		assert.True(t, told)
	}
	c, _ := engine(t)
	f, _ := c.Fault("strainer-clogged")
	q.Yard.Rates = map[string]float64{"strainer-clogged": f.Prior}
	same := ask(t, q)
	for _, s := range before.Suspects {
		assert.InDelta(t, s.Probability, probability(same, s.Fault), 1e-12, "the catalogue's own rate changes nothing")
	}
}

func TestAYardsOwnMinutes(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, Findings: present("weak-water-at-outlet"),
		Yard: diagnosis.Yard{Minutes: map[string]float64{"impeller-look": 33, "pump-cover-off": 21}}}
	n, ok := next(ask(t, q), "impeller-look")
	require.True(t, ok)
	assert.Equal(t, 33.0, n.Minutes)
	assert.Equal(t, 21.0, n.AccessMinutes)
	q.OpenAccess = []string{"pump-cover-off"}
	n, _ = next(ask(t, q), "impeller-look")
	assert.Zero(t, n.AccessMinutes, "it stands open")
}

// Of a fault found, a look comes before closing up as far as what it spares is more than what it takes: the chance that
// it shows the last of what is left, times a comeback, and the chance that it shows anything, times opening up again.
func TestWhatIsWorthALookBeforeItIsClosedUp(t *testing.T) {
	c, e := engine(t)
	weighed := 0
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		q.Yard.Comeback = rapid.SampledFrom([]float64{0, 300, 600}).Draw(rt, "comeback")
		q.Findings = append(q.Findings[:min(len(q.Findings), 4)], present("blades-missing")...)
		a, err := e.Diagnose(q)
		if err != nil || len(a.Found) == 0 { // drawn twice
			return
		}
		comeback := q.Yard.Comeback
		if comeback == 0 {
			comeback = diagnosis.ComebackMinutes
		}
		o := oracle{c, q}
		sets := o.posterior(true)
		within := func(faults ...string) (p float64) {
			for _, s := range sets {
				if !slices.ContainsFunc(s.faults, func(f string) bool { return !slices.Contains(faults, f) }) {
					p += s.weight
				}
			}
			return p
		}
		nothingLeft, marginal := within(a.Found...), marginalsOf(sets)
		for _, n := range a.NextChecks {
			k, _ := c.Check(n.Check)
			if n.ConfirmChance == 0 {
				require.Zero(rt, n.FirstSaves, n.Check)
			}
			if n.Again || len(k.Confirms) != 1 || n.ConfirmChance == 0 {
				continue
			}
			require.InDelta(rt, marginal[k.Confirms[0]], n.ConfirmChance, 1e-9)
			again := 0.0
			if access, ok := c.AccessTo(k.Access); ok {
				again = access.Minutes
			}
			last := within(append(slices.Clone(a.Found), k.Confirms[0])...) - nothingLeft
			want := max(0, last*comeback+n.ConfirmChance*again-n.Minutes-n.AccessMinutes-n.StateMinutes)
			require.InDelta(rt, want, n.FirstSaves, 1e-9*comeback, n.Check) // of a chance to 1e-9
			if want > 0 {
				weighed++
			}
		}
	})
	assert.Positive(t, weighed)
	assert.InDelta(t, 60, diagnosis.ComebackMinutes, 1e-12)
	// crumbs of an impeller: what lies in the exchanger is worth a look while all is open
	q := diagnosis.Question{Family: catalogue.Closed, Findings: present("blades-missing", "weak-water-at-outlet"),
		OpenAccess: []string{"pump-cover-off"}}
	worth := func(comeback float64) (n int) {
		q.Yard.Comeback = comeback
		for _, k := range ask(t, q).NextChecks {
			if k.FirstSaves > 0 {
				n++
			}
		}
		return n
	}
	assert.Zero(t, worth(45))
	assert.Equal(t, 1, worth(0), "the seacock's handle, a minute")
	assert.Equal(t, worth(60), worth(0))
	assert.Greater(t, worth(90), worth(60), "the dearer a comeback, the more is looked at first")
	assert.Greater(t, worth(300), worth(90))
}

func TestWhatAYardMayGoBy(t *testing.T) {
	_, e := engine(t)
	for field, y := range map[string]diagnosis.Yard{
		"yard.rates.unicorn":         {Rates: map[string]float64{"unicorn": 0.1}},
		"yard.rates.shaft-seal-leak": {Rates: map[string]float64{"shaft-seal-leak": 1}},
		"yard.minutes.unicorn":       {Minutes: map[string]float64{"unicorn": 1}},
		"yard.minutes.impeller-look": {Minutes: map[string]float64{"impeller-look": 0}},
		"yard.comeback_minutes":      {Comeback: 600.5},
	} {
		_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Yard: y})
		require.ErrorContains(t, err, field)
	}
	for _, y := range []diagnosis.Yard{{Rates: map[string]float64{"strainer-clogged": 0}}, {Comeback: -1},
		{Comeback: math.NaN()}, {Minutes: map[string]float64{"impeller-look": 601}},
		{Rates: map[string]float64{"strainer-clogged": math.NaN()}}} {
		_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Yard: y})
		require.Error(t, err)
	}
	_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Yard: diagnosis.Yard{Comeback: 600,
		Minutes: map[string]float64{"impeller-look": 600}}})
	require.NoError(t, err)
}
