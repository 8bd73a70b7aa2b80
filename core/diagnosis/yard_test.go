package diagnosis_test

import (
	"math"
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

// Of a fault found, a look comes before closing up as far as what it spares is more than what it takes: the chance of
// finding something there, times a proof made again and the place opened again.
func TestWhatIsWorthALookBeforeItIsClosedUp(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		a, err := e.Diagnose(q)
		require.NoError(rt, err)
		comeback := q.Yard.Comeback
		if comeback == 0 {
			comeback = 45
		}
		for _, n := range a.NextChecks {
			k, _ := c.Check(n.Check)
			again := 0.0
			if access, ok := c.AccessTo(k.Access); ok {
				again = access.Minutes
			}
			want := max(0, n.ConfirmChance*(comeback+again)-n.Minutes-n.AccessMinutes-n.StateMinutes)
			if len(a.Found) == 0 {
				want = 0
			}
			require.InDelta(rt, want, n.FirstSaves, 1e-9, n.Check)
		}
	})
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
	assert.Positive(t, worth(0))
	assert.Equal(t, worth(0), worth(45))
	assert.Greater(t, worth(300), worth(45), "the dearer a comeback, the more is looked at first")
	assert.Less(t, worth(1), worth(45))
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
