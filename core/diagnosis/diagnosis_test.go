package diagnosis_test

import (
	"encoding/json"
	"math"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

func engine(t testing.TB) (*catalogue.Catalogue, *diagnosis.Diagnoser) {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c, diagnosis.New(c)
}

func ask(t testing.TB, q diagnosis.Question) *diagnosis.Answer {
	t.Helper()
	_, e := engine(t)
	a, err := e.Diagnose(q)
	require.NoError(t, err)
	return a
}

func present(ids ...string) []diagnosis.Evidence { return evidence(1, ids...) }
func absent(ids ...string) []diagnosis.Evidence  { return evidence(0, ids...) }

func evidence(q float64, ids ...string) []diagnosis.Evidence {
	var out []diagnosis.Evidence
	for _, id := range ids {
		out = append(out, diagnosis.Evidence{Finding: id, Q: q})
	}
	return out
}

func probability(a *diagnosis.Answer, fault string) float64 {
	for _, s := range a.Suspects {
		if s.Fault == fault {
			return s.Probability
		}
	}
	return 0
}

// drawQuestion makes a random but valid question: family, circuit or none, history, findings with states and q.
func drawQuestion(rt *rapid.T, c *catalogue.Catalogue) diagnosis.Question {
	q := diagnosis.Question{Family: rapid.SampledFrom([]string{catalogue.Closed, catalogue.Direct}).Draw(rt, "family"),
		Strategy: rapid.SampledFrom(diagnosis.Strategies).Draw(rt, "strategy"), Yard: drawYard(rt, c)}
	if rapid.IntRange(0, 7).Draw(rt, "whole family") != 0 { // mostly an own circuit: the oracle is slow
		q.Stations = []string{"intake", "raw-pump"}
		for _, s := range c.Stations {
			if s.ID != "intake" && s.ID != "raw-pump" && rapid.Bool().Draw(rt, s.ID) {
				q.Stations = append(q.Stations, s.ID)
			}
		}
	}
	for _, h := range c.History {
		if rapid.IntRange(0, 3).Draw(rt, h.ID) == 0 {
			q.History = append(q.History, h.ID)
		}
	}
	taken := map[string]bool{}
	for range rapid.IntRange(0, 12).Draw(rt, "findings") {
		f := rapid.SampledFrom(c.Findings).Draw(rt, "finding")
		group, grouped := c.GroupOf(f.ID)
		if taken[f.ID] || grouped && taken[group] {
			continue
		}
		taken[f.ID], taken[group] = true, grouped
		value := rapid.SampledFrom([]float64{1, 1, 0, 0, 0.95, 0.3}).Draw(rt, "q")
		e := diagnosis.Evidence{Finding: f.ID, Q: value, Looks: rapid.IntRange(0, diagnosis.MostLooks).Draw(rt, "looks")}
		for _, point := range c.PointsOf(f.ID) {
			if rapid.Bool().Draw(rt, point) {
				e.Point = point
				q.Findings = append(q.Findings, e)
			}
		}
		if e.Point == "" {
			q.Findings = append(q.Findings, e)
		}
	}
	return q
}

func TestEveryProbabilityEqualsBruteForce(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		a, err := e.Diagnose(q)
		require.NoError(rt, err)
		o := oracle{c, q}
		sets := o.posterior(true)
		posterior, prior := marginalsOf(sets), marginalsOf(o.posterior(false))
		require.Len(rt, a.Suspects, len(o.allowed()))
		for _, s := range a.Suspects {
			require.InDelta(rt, posterior[s.Fault], s.Probability, 1e-9, s.Fault)
			require.InDelta(rt, prior[s.Fault], s.Prior, 1e-9, s.Fault)
		}
		other := 0.0
		for _, s := range sets {
			if slices.ContainsFunc(s.faults, func(f string) bool { return !slices.Contains(a.Found, f) }) {
				other += s.weight
			}
		}
		require.InDelta(rt, other, a.OtherFault, 1e-9)
		again := slices.ContainsFunc(q.Findings, func(e diagnosis.Evidence) bool { return e.Looks > 1 })
		if done := len(a.Found) > 0 && other < 0.2; done || !again { // see TestWhatNoLookCanShowIsLeftToTheProof
			require.Equal(rt, done, a.Done)
		}
		slices.SortFunc(sets, func(x, y weighed) int { return int(math.Copysign(1, y.weight-x.weight)) })
		for i, s := range a.Sets {
			require.InDelta(rt, sets[i].weight, s.Probability, 1e-9)
		}
	})
}

// Every move of a suspect equals its log odds with the item less its log odds with the item left out.
func TestTheExplanationEqualsLeavingOut(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		if len(q.Findings) == 0 {
			return
		}
		a, err := e.Diagnose(q)
		require.NoError(rt, err)
		out := rapid.IntRange(0, len(q.Findings)-1).Draw(rt, "left out")
		less := q
		less.Findings = slices.DeleteFunc(slices.Clone(q.Findings), func(e diagnosis.Evidence) bool {
			return e.Finding == q.Findings[out].Finding // at every point
		})
		b, err := e.Diagnose(less)
		require.NoError(rt, err)
		logit := func(p float64) float64 { return math.Log(p / (1 - p)) }
		for _, s := range a.Suspects {
			without := probability(b, s.Fault)
			if s.Probability > 1-1e-9 || without > 1-1e-9 || s.Probability < 1e-9 || without < 1e-9 {
				continue
			}
			moved := 0.0
			for _, m := range s.MovedBy {
				if m.Kind == "finding" && m.ID == q.Findings[out].Finding {
					moved = m.LogOdds
				}
			}
			require.InDelta(rt, logit(s.Probability)-logit(without), moved, 0.0101, s.Fault)
		}
	})
}

func TestOrderOfFindingsDoesNotMatter(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		a, err := e.Diagnose(q)
		require.NoError(rt, err)
		q.Findings = slices.Clone(q.Findings)
		slices.Reverse(q.Findings)
		b, err := e.Diagnose(q)
		require.NoError(rt, err)
		for _, s := range a.Suspects {
			require.InDelta(rt, s.Probability, probability(b, s.Fault), 1e-12)
		}
	})
}

func TestASolelyCausedFindingNeverLowersItsFault(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		f := rapid.SampledFrom(c.Findings).Draw(rt, "sole")
		if len(f.Causes) != 1 || len(f.Blocks) > 0 || slices.ContainsFunc(q.Findings,
			func(x diagnosis.Evidence) bool { return x.Finding == f.ID }) {
			return
		}
		before, err := e.Diagnose(q)
		require.NoError(rt, err)
		q.Findings = append(slices.Clone(q.Findings), diagnosis.Evidence{Finding: f.ID, Q: 1})
		after, err := e.Diagnose(q)
		require.NoError(rt, err)
		require.GreaterOrEqual(rt, probability(after, f.Causes[0].Fault)+1e-12, probability(before, f.Causes[0].Fault))
	})
}

func TestNextChecksFollowTheCircuitAndWhatIsDone(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, Stations: []string{"intake", "raw-pump", "exchanger", "elbow",
		"outlet", "load", "gauge"},
		Findings: present("weak-water-at-outlet"), OpenAccess: []string{"pump-cover-off"}, Done: []string{"prime-test"}}
	a := ask(t, q)
	for _, n := range a.NextChecks {
		assert.NotContains(t, []string{"strainer-look", "seacock-look", "coolant-level", "prime-test"}, n.Check)
		if n.Check == "impeller-look" {
			assert.Zero(t, n.AccessMinutes, "the cover is off")
			assert.Contains(t, n.Reason, "while you are there")
		}
		if n.Check == "elbow-look" {
			assert.InDelta(t, 12, n.AccessMinutes, 0)
		}
		assert.GreaterOrEqual(t, n.GainBits, 0.0)
		assert.NotEmpty(t, n.Reason)
	}
}

func TestStrategiesOrderAsTheySay(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, Findings: present("weak-water-at-outlet", "hot-under-load")}
	q.Strategy = diagnosis.AlongTheWater
	a := ask(t, q)
	assert.Contains(t, a.NextChecks[0].Reason, "intake", "the sea comes first")
	q.Findings = append(q.Findings, absent("intake-covered", "poor-flow-hose-off", "seacock-not-full-open",
		"seacock-bore-narrowed")...)
	a = ask(t, q)
	assert.Equal(t, "strainer", a.NextChecks[0].Station, "then the next place downstream that is not cleared")

	q.Strategy = diagnosis.Likeliest
	a = ask(t, q)
	assert.Equal(t, "strainer-look", a.NextChecks[0].Check)
	assert.Equal(t, "strainer-clogged", a.Suspects[0].Fault)
}

// D. Heckerman, J. Breese, K. Rommelse, Decision-theoretic troubleshooting, CACM 38(3), 1995: for sure looks at one
// fault at a time the best order is by probability over minutes.
func TestQuickestReducesToProbabilityOverMinutes(t *testing.T) {
	_, e := engine(t)
	for _, stations := range [][]string{{"header", "exhaust-sensor"}, {"strainer", "raw-filter", "anti-siphon"},
		{"raw-hoses", "intake", "elbow"}} {
		a, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Stations: stations})
		require.NoError(t, err)
		last := math.Inf(1)
		for _, n := range a.NextChecks {
			if n.ConfirmChance == 0 {
				continue
			}
			rate := n.ConfirmChance / (n.Minutes + n.AccessMinutes)
			assert.LessOrEqual(t, rate, last)
			last = rate
		}
	}
}

func TestFoundNeedsItsSureLookAndDoneNeedsTheRestToBeImprobable(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, History: []string{"weed-about"},
		Findings: present("hot-under-load", "weak-water-at-outlet", "fine-again-after-stopping")}
	assert.Empty(t, ask(t, q).Found, "probable is not found")
	q.Findings = append(q.Findings, present("debris-in-strainer")...)
	a := ask(t, q)
	assert.Equal(t, []string{"strainer-clogged"}, a.Found)

	q.Findings = append(q.Findings, present("blades-missing")...)
	a = ask(t, q)
	assert.ElementsMatch(t, []string{"strainer-clogged", "impeller-vanes-missing"}, a.Found)
	assert.False(t, a.Done, "torn blades open the hunt for their pieces")
	assert.Greater(t, probability(a, "debris-at-cooler"),
		1.5*probability(ask(t, diagnosis.Question{Family: catalogue.Closed}), "debris-at-cooler"))
}

func TestUnexplainedFindingsAreNamed(t *testing.T) {
	a := ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: present("debris-in-strainer",
		"weak-water-at-outlet", "fine-again-after-stopping", "milky-oil"), History: []string{"weed-about"}})
	assert.Equal(t, []string{"strainer-clogged"}, a.Found)
	assert.Equal(t, []string{"milky-oil"}, a.Unexplained)
}

func TestOfAGroupOnlyThePresentOptionCounts(t *testing.T) {
	plain := ask(t, diagnosis.Question{Family: catalogue.Closed})
	with := ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: absent("hot-at-idle", "no-water-at-outlet")})
	for _, s := range plain.Suspects {
		assert.InDelta(t, s.Probability, probability(with, s.Fault), 1e-12)
	}
}

func TestFindingsThatDoNotGoTogetherAreNamed(t *testing.T) {
	a := ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: present("high-suction-vacuum",
		"delivery-pressure-high", "alarm-sounded")})
	require.Len(t, a.Conflicts, 1)
	assert.Equal(t, "high-suction-vacuum", a.Conflicts[0].A)
	assert.Equal(t, "delivery-pressure-high", a.Conflicts[0].B)
	// Two unrelated faults at once are rare, not a contradiction.
	a = ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: present("debris-in-strainer", "thermostat-no-open",
		"milky-oil", "belt-squeal-or-dust")})
	assert.Empty(t, a.Conflicts)
}

func TestWhatWasFoundOpensTheHuntForItsConsequences(t *testing.T) {
	q := diagnosis.Question{Family: catalogue.Closed, Findings: present("weak-water-at-outlet", "came-suddenly",
		"blades-missing")}
	a := ask(t, q)
	require.Equal(t, []string{"impeller-vanes-missing"}, a.Found)
	var hunted []string
	for _, c := range a.Consequences {
		hunted = append(hunted, c.Fault)
		assert.Equal(t, "impeller-vanes-missing", c.Because)
		assert.NotEmpty(t, c.Why)
	}
	assert.Subset(t, hunted, []string{"debris-at-cooler", "tubes-blocked", "strainer-clogged"})
	q.Findings = append(q.Findings, absent("fragments-at-cooler")...)
	for _, c := range ask(t, q).Consequences {
		assert.NotEqual(t, "debris-at-cooler", c.Fault, "looked for")
	}
}

func TestEveryCheckIsOfferedOrRuledOutWithAReason(t *testing.T) {
	c, e := engine(t)
	rapid.Check(t, func(rt *rapid.T) {
		q := drawQuestion(rt, c)
		q.Done = []string{"belt-look"}
		a, err := e.Diagnose(q)
		require.NoError(rt, err)
		seen := map[string]bool{}
		for _, n := range a.NextChecks {
			seen[n.Check] = true
		}
		for _, r := range a.RuledOut {
			require.False(rt, seen[r.Check], r.Check)
			require.NotEmpty(rt, r.Reason)
			seen[r.Check] = true
		}
		require.Len(rt, seen, len(c.Checks))
	})
}

func TestQuickestExpectsNoMoreMinutesThanTheOthers(t *testing.T) {
	a := ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: present("hot-under-load", "weak-water-at-outlet")})
	require.Len(t, a.Outlooks, 3)
	assert.Equal(t, diagnosis.Quickest, a.Outlooks[0].Strategy)
	for _, o := range a.Outlooks[1:] {
		assert.Greater(t, o.Minutes, a.Outlooks[0].Minutes, o.Strategy)
	}
}

// Every order of looks at single faults, walked out by hand: the best one is the one offered.
func TestQuickestBeatsEveryPermutation(t *testing.T) {
	c, e := engine(t)
	for _, stations := range [][]string{{"strainer", "raw-filter", "anti-siphon"}, {"raw-hoses", "intake", "silencer"},
		{"header", "exhaust-sensor", "raw-hoses"}} {
		a, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Stations: stations})
		require.NoError(t, err)
		alone := map[string]float64{} // by fault: its chance to be the only one
		for _, s := range a.Sets {
			if len(s.Faults) == 1 {
				alone[s.Faults[0]] = s.Probability
			}
		}
		var offered []string
		for _, n := range a.NextChecks {
			if n.ConfirmChance > 0 {
				offered = append(offered, n.Check)
			}
		}
		cost := func(order []string) float64 {
			sum, elapsed := 0.0, 0.0
			opened, looked := map[string]bool{}, map[string]bool{}
			for _, id := range order {
				k, _ := c.Check(id)
				elapsed += k.Minutes
				if access, ok := c.AccessTo(k.Access); ok && !opened[k.Access] {
					elapsed += access.Minutes
					opened[k.Access] = true
				}
				for _, f := range k.Confirms {
					if !looked[f] {
						sum += alone[f] * elapsed
					}
					looked[f] = true
				}
			}
			return sum
		}
		best := math.Inf(1)
		permute(offered, func(order []string) { best = min(best, cost(order)) })
		assert.InDelta(t, best, cost(offered), 0.02*best, "%v", offered)
	}
}

func permute(list []string, each func([]string)) {
	var walk func(int)
	work := slices.Clone(list)
	walk = func(n int) {
		if n == len(work) {
			each(work)
			return
		}
		for i := n; i < len(work); i++ {
			work[n], work[i] = work[i], work[n]
			walk(n + 1)
			work[n], work[i] = work[i], work[n]
		}
	}
	walk(0)
}

func TestBadQuestionsNameTheField(t *testing.T) {
	_, e := engine(t)
	ok := diagnosis.Question{Family: catalogue.Closed}
	for name, tc := range map[string]struct {
		change func(*diagnosis.Question)
		field  string
	}{
		"family":          {func(q *diagnosis.Question) { q.Family = "air" }, "family"},
		"strategy":        {func(q *diagnosis.Question) { q.Strategy = "random" }, "strategy"},
		"station":         {func(q *diagnosis.Question) { q.Stations = []string{"raw-pump", "keel"} }, "stations[1]"},
		"nothing to find": {func(q *diagnosis.Question) { q.Stations = []string{"outlet"} }, "stations"},
		"history":         {func(q *diagnosis.Question) { q.History = []string{"grounded", "grounded"} }, "history[1]"},
		"finding":         {func(q *diagnosis.Question) { q.Findings = present("rusty") }, "findings[0].id"},
		"twice": {func(q *diagnosis.Question) {
			q.Findings = append(present("milky-oil"),
				absent("milky-oil")...)
		}, "findings[1].id"},
		"two of a group": {func(q *diagnosis.Question) { q.Findings = present("hot-at-idle", "runs-cool") },
			"findings[1].id"},
		"q":              {func(q *diagnosis.Question) { q.Findings = evidence(1.2, "gauge-off") }, "findings[0].q"},
		"q not a number": {func(q *diagnosis.Question) { q.Findings = evidence(math.NaN(), "gauge-off") }, "findings[0].q"},
		"access":         {func(q *diagnosis.Question) { q.OpenAccess = []string{"hatch"} }, "open_access[0]"},
		"done":           {func(q *diagnosis.Question) { q.Done = []string{"prayer"} }, "done[0]"},
	} {
		t.Run(name, func(t *testing.T) {
			q := ok
			tc.change(&q)
			_, err := e.Diagnose(q)
			assert.ErrorContains(t, err, tc.field+":")
		})
	}
}

// The trade's worked cases (judgement, common practice).
func TestWorkedCases(t *testing.T) {
	raw, err := os.ReadFile("testdata/worked-cases.json")
	require.NoError(t, err)
	type place struct {
		Within int
		AnyOf  []string
		NoneOf []string
	}
	var file struct {
		Cases []struct {
			ID, Family string
			History    []string
			Findings   map[string]any
			Top        []place
			NotTop     []place
			Next       *place
		}
	}
	require.NoError(t, json.Unmarshal(raw, &file))
	require.NotEmpty(t, file.Cases)
	for _, tc := range file.Cases {
		t.Run(tc.ID, func(t *testing.T) {
			q := diagnosis.Question{Family: tc.Family, History: tc.History}
			for id, v := range tc.Findings {
				switch v := v.(type) {
				case bool:
					q.Findings = append(q.Findings, diagnosis.Evidence{Finding: id, Q: map[bool]float64{true: 1}[v]})
				case float64:
					q.Findings = append(q.Findings, diagnosis.Evidence{Finding: id, Q: v})
				}
			}
			a := ask(t, q)
			var suspects, next []string
			for _, s := range a.Suspects {
				suspects = append(suspects, s.Fault)
			}
			for _, n := range a.NextChecks {
				next = append(next, n.Check)
			}
			anyIn := func(list, of []string) bool {
				return slices.ContainsFunc(list, func(x string) bool { return slices.Contains(of, x) })
			}
			for _, p := range tc.Top {
				assert.True(t, anyIn(suspects[:p.Within], p.AnyOf), "%v not in %v", p.AnyOf, suspects[:p.Within])
			}
			for _, p := range tc.NotTop {
				assert.False(t, anyIn(suspects[:p.Within], p.NoneOf), "%v in %v", p.NoneOf, suspects[:p.Within])
			}
			if tc.Next != nil {
				assert.True(t, anyIn(next[:tc.Next.Within], tc.Next.AnyOf), "%v not in %v", tc.Next.AnyOf, next[:5])
			}
		})
	}
}
