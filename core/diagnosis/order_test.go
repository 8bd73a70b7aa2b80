package diagnosis

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// asked is a question made ready, what is believed of it, and what it settles.
func asked(t *testing.T, q Question) (*model, *belief, knowledge) {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	m := newModel(c, q)
	b := m.infer()
	return m, b, m.knowledge(b)
}

// of is a candidate that may confirm some faults, by their places, with what its order hangs on.
func of(id string, confirms uint64, next NextCheck) *candidate {
	next.Check = id
	return &candidate{check: catalogue.Check{ID: id}, confirms: confirms, next: next}
}

func ids(list []*candidate) (out []string) {
	for _, c := range list {
		out = append(out, c.check.ID)
	}
	return out
}

// Quickest, worked by hand: rates are chances by all the minutes that a look takes, its own, its access's and its
// state's. The best sure look leads (0.5/10), the greatest saver stands behind it, the other sure looks by rate
// (0.3/10, 0.35/14), then what saves less; a tie goes to more information by the minute, then by name.
func TestQuickestGoesByChancePerMinute(t *testing.T) {
	m, b, k := asked(t, Question{Family: catalogue.Closed})
	list := []*candidate{
		of("z-tie", 0, NextCheck{Minutes: 2, GainBits: 0.1}),
		of("b-tie", 0, NextCheck{Minutes: 4, GainBits: 0.4}),
		of("a-tie", 0, NextCheck{Minutes: 5, GainBits: 0.5}),
		of("under a minute", 0, NextCheck{Minutes: 2, SavesMinutes: 0.9, GainBits: 0.01}),
		of("saves less", 0, NextCheck{Minutes: 2, SavesMinutes: 2.9}),
		of("saves most", 0, NextCheck{Minutes: 2, SavesMinutes: 3}),
		of("third, its state costs", 4, NextCheck{Minutes: 7, AccessMinutes: 3, StateMinutes: 4, ConfirmChance: 0.35}),
		of("second", 2, NextCheck{Minutes: 10, ConfirmChance: 0.3}),
		of("first", 1, NextCheck{Minutes: 2, AccessMinutes: 5, StateMinutes: 3, ConfirmChance: 0.5}),
	}
	r := m.order(b, k, list, Quickest)
	want := []string{"first", "saves most", "second", "third, its state costs", "saves less", "under a minute", "a-tie",
		"b-tie", "z-tie"}
	assert.Equal(t, want, ids(list))
	assert.Equal(t, "Proves nothing by itself, but separates the suspects: saves about 3\u00a0minutes on the way to the cause.",
		r.reason(list[1]))
	assert.Equal(t, "Narrows the suspects (0.50 bit for 5\u00a0minutes); proves none by itself.", r.reason(list[6]))

	slices.Reverse(list)
	list[0].leads = true // z-tie: what may follow it is weighed in
	m.order(b, k, list, Quickest)
	assert.Equal(t, append([]string{"z-tie"}, want[:8]...), ids(list))

	list[3].clears, list[4].clears = 0.02, 0.01 // once something is found, what tells soonest of anything else
	list[4].next.GainBits = 0.25
	first, second := list[3].check.ID, list[4].check.ID
	r = m.order(b, k, list, Quickest)
	assert.Equal(t, []string{first, second, "z-tie"}, ids(list[:3]))
	told := of("tells", 0, NextCheck{Minutes: 3, GainBits: 0.25})
	told.clears = 0.01
	assert.Equal(t, "Proves nothing by itself, but tells soonest whether anything else is wrong (0.25 bit for 3\u00a0minutes).",
		r.reason(told))
	told.confirms, told.next.ConfirmChance = 1, 0.4
	assert.Contains(t, r.reason(told), "40\u00a0% chance of finding it here: ")
}

// A saver of just a minute stands behind the best sure look, one of less does not.
func TestAMinuteIsWorthAsking(t *testing.T) {
	m, b, k := asked(t, Question{Family: catalogue.Closed})
	for saves, behind := range map[float64]string{1: "saver", 0.99: "second"} {
		list := []*candidate{of("saver", 0, NextCheck{Minutes: 2, SavesMinutes: saves}),
			of("second", 2, NextCheck{Minutes: 10, ConfirmChance: 0.3}), of("first", 1, NextCheck{Minutes: 10, ConfirmChance: 0.5})}
		m.order(b, k, list, Quickest)
		assert.Equal(t, []string{"first", behind}, ids(list)[:2], "%g", saves)
	}
}

// Likeliest goes by the most probable fault that a look is at, half of that for a second look, then by minutes.
func TestLikeliestGoesByTheMostProbableFault(t *testing.T) {
	m, b, k := asked(t, Question{Family: catalogue.Closed})
	b.marginal = slices.Clone(b.marginal)
	copy(b.marginal, []float64{0.3, 0.5, 0.2, 0.52, 0.1})
	again := of("half of 0.5", 0, NextCheck{Minutes: 1, ConfirmChance: 0.25})
	again.again = 2
	half := of("half of 0.52", 0, NextCheck{Minutes: 1, ConfirmChance: 0.26})
	half.again = 8
	list := []*candidate{
		of("nothing", 0, NextCheck{Minutes: 1, GainBits: 1}),
		of("0.1", 16, NextCheck{Minutes: 1, ConfirmChance: 0.1}),
		again, half,
		of("0.3 and 0.1", 1|16, NextCheck{Minutes: 9, ConfirmChance: 0.4}),
		of("0.3, longer", 1, NextCheck{Minutes: 9, AccessMinutes: 1, ConfirmChance: 0.3}),
		of("0.5", 2, NextCheck{Minutes: 60, ConfirmChance: 0.5}),
	}
	r := m.order(b, k, list, Likeliest)
	assert.Equal(t, []string{"0.5", "0.3 and 0.1", "0.3, longer", "half of 0.52", "half of 0.5", "0.1", "nothing"}, ids(list))
	assert.Equal(t, fmt.Sprintf("The sure look at: %s 30\u00a0%%, %s 10\u00a0%%.", lower(m.faults[0].Label),
		lower(m.faults[4].Label)), r.reason(list[1]))
	assert.Contains(t, r.reason(list[6]), "Narrows the suspects")
}

// Along the water: the likelier side first, then station after station; what confirms nothing comes last. A look stands
// where the first fault lies that it looks for.
func TestAlongTheWaterGoesDownstream(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	for _, seen := range [][]string{{"no-water-at-outlet"}, {"hot-under-load", "good-water-at-outlet"}, {"runs-cool"}, nil} {
		q := Question{Family: catalogue.Closed, Strategy: AlongTheWater}
		for _, f := range seen {
			q.Findings = append(q.Findings, Evidence{Finding: f, Q: 1})
		}
		m, b, k := asked(t, q)
		require.Zero(t, k.looked)
		sides := map[string]float64{}
		for i, f := range m.faults {
			s, _ := c.Station(firstOf(m.stations, f.Stations))
			sides[s.Sides[catalogue.Closed][0]] += b.marginal[i]
		}
		checks, _ := m.nextChecks(b, k, AlongTheWater)
		var at []string
		last := -1
		for _, n := range checks {
			check, _ := c.Check(n.Check)
			place := n.Station
			idle := true
			for _, f := range check.Confirms {
				if i, here := m.number[f]; here {
					idle = false
					place = firstOf(m.stations, append([]string{place}, m.faults[i].Stations...))
				}
			}
			if idle {
				last = len(m.stations)
				assert.Contains(t, n.Reason, "Narrows the suspects")
				continue
			}
			require.Less(t, last, len(m.stations), "%s confirms something: before what does not", n.Check)
			station, _ := c.Station(place)
			side := station.Sides[catalogue.Closed][0]
			if len(at) == 0 || at[len(at)-1] != side {
				assert.NotContains(t, at, side, "one side after the other")
				at, last = append(at, side), -1
			}
			order := slices.Index(m.stations, place)
			assert.GreaterOrEqual(t, order, last, "%s at the %s", n.Check, place)
			last = order
			assert.Contains(t, n.Reason, strings.ToLower(station.Label[:1])+station.Label[1:]+".")
			assert.Contains(t, n.Reason, sideWords[side])
		}
		assert.True(t, slices.IsSortedFunc(at, func(x, y string) int {
			return boolToInt(sides[x] < sides[y]) - boolToInt(sides[x] > sides[y])
		}), "%v by %v", at, sides)
	}
}

// firstOf is the first of the stations, in the order of the water, that is among some.
func firstOf(stations, some []string) string {
	for _, s := range stations {
		if slices.Contains(some, s) {
			return s
		}
	}
	return ""
}

// A second look finds half of what the first missed, and is offered from a chance of 2 % on; it says how likely it is
// that the first missed it.
func TestASecondLookFindsHalfOfWhatWasMissed(t *testing.T) {
	offered, not := 0, 0
	c, err := catalogue.Load()
	require.NoError(t, err)
	for _, beside := range []string{"weak-water-at-outlet", "hot-at-idle", "runs-cool"} {
		q := Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: beside, Q: 1}}}
		looked := map[string]bool{}
		for _, f := range c.Faults {
			for _, look := range f.Sure {
				if _, grouped := c.GroupOf(look.Finding); !grouped && !looked[look.Finding] {
					looked[look.Finding] = true
					q.Findings = append(q.Findings, Evidence{Finding: look.Finding})
				}
			}
		}
		for _, check := range c.Checks {
			q.Done = append(q.Done, check.ID)
		}
		m, b, k := asked(t, q)
		checks, _ := m.nextChecks(b, k, Quickest)
		for _, check := range c.Checks {
			missed := m.missed[check.ID]
			if missed == 0 {
				continue
			}
			of := 0.0
			for i, h := range m.hypotheses {
				if h.mask&missed != 0 {
					of += b.p[i]
				}
			}
			at := slices.IndexFunc(checks, func(n NextCheck) bool { return n.Check == check.ID })
			require.Equal(t, of/2 >= 0.02, at >= 0, "%s: %g", check.ID, of)
			if at < 0 {
				not++
				continue
			}
			offered++
			assert.True(t, checks[at].Again)
			assert.InDelta(t, of/2, checks[at].ConfirmChance, 1e-12, check.ID)
			assert.Contains(t, checks[at].Reason, percent(of)+" that it was missed")
		}
	}
	assert.Greater(t, offered, 3)
	assert.Positive(t, not)
}

// The words of a chance, and of minutes, at their edges.
func TestChancesAndMinutesInWords(t *testing.T) {
	for p, want := range map[float64]string{0: "under 1 %", 0.0099: "under 1 %", 0.01: "1 %", 0.126: "13 %", 0.99: "99 %",
		0.991: "over 99 %"} {
		assert.Equal(t, strings.ReplaceAll(want, " %", "\u00a0%"), percent(p), "%g", p)
	}
	for x, want := range map[float64]string{0: "1 minute", 1.4: "1 minute", 1.5: "2 minutes", 2: "2 minutes", 7.6: "8 minutes"} {
		assert.Equal(t, strings.ReplaceAll(want, " m", "\u00a0m"), minutes(x), "%g", x)
	}
}

// Of a question's options one that is more likely than not to be so leaves nothing to ask; one that tells nothing does.
func TestAQuestionIsAnsweredByAnOption(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	g := c.Groups[0]
	for q, answered := range map[float64]bool{0.5: false, 0.51: true, 1: true} {
		m, _, _ := asked(t, Question{Family: catalogue.Closed, Findings: []Evidence{{Finding: g.Findings[0], Q: q}}})
		assert.Equal(t, answered, m.otherOption(g.Findings[1]), "%g", q)
		assert.False(t, m.otherOption(g.Findings[0]), "another one")
	}
}

// What the water meets first has a side as any other.
func TestTheFirstStationHasASide(t *testing.T) {
	m, _, _ := asked(t, Question{Family: catalogue.Closed})
	for i, f := range m.faults {
		if m.firstAt[i] == 0 {
			assert.Equal(t, "raw", m.sideOfFault(f), f.ID)
		}
	}
}

// Of a look the planner knows its own minutes with those of its state, and apart what opening costs.
func TestThePlannerCountsWhatTheStateCosts(t *testing.T) {
	m, _, k := asked(t, Question{Family: catalogue.Closed})
	look := of("look", 1, NextCheck{Minutes: 5, StateMinutes: 3, AccessMinutes: 20})
	look.access = 2
	p := newPlanner(m, k, []*candidate{look, of("asks", 0, NextCheck{Minutes: 1})})
	require.Len(t, p.looks, 1)
	assert.InDelta(t, 8, p.looks[0].own, 0)
	assert.InDelta(t, 20, p.looks[0].opening, 0)
	w, h := hand(1)
	assert.InDelta(t, 28, p.expected(w, h), 1e-12)
}

// No more room is taken than the sets of a circuit need.
func TestTheSetsTakeNoMoreRoomThanTheyNeed(t *testing.T) {
	for _, given := range [][]string{nil, {"blades-missing"}} {
		s, _, _ := drawn(t, given...)
		assert.LessOrEqual(t, cap(s.hypotheses), len(s.hypotheses)+1)
		assert.LessOrEqual(t, cap(s.base), len(s.base)+1)
	}
}

// Looking ahead, worked by hand: faults of 0.3, 0.35 and 0.35, looks of a minutes, 20 and 20, and a check of q minutes that
// tells the third. Now: 0.3·a + 0.35·(a+20) + 0.35·(a+40) = a + 21. At once: q + 0.3·a + 0.35·(a+20) + 0.35·20 =
// q + 0.65·a + 14. After the first look: a + 0.7·q + 14. So the check leads while 0.3·q is at most 0.35·a, and it saves a
// minute or more, 7 + 0.35·a − q.
func TestACheckLeadsUnlessTheBestLookBeforeItIsBetter(t *testing.T) {
	for _, tc := range []struct {
		a, q  float64
		leads bool
	}{{2, 2, true}, {2, 2.3, true}, {2, 2.4, false}, {6, 7, true}, {6, 7.2, false}, {1, 1.1, true}, {1, 1.2, false}, {10, 9.5, true}, {10, 9.6, false}} {
		m, _, _ := asked(t, Question{Family: catalogue.Closed})
		last := len(m.faults)
		var h []hypothesis
		for i := range 3 {
			h = append(h, hypothesis{uint8(i), uint8(last), uint8(last), 1 << i})
		}
		n := nearbyOf(m, h, []float64{0.3, 0.35, 0.35})
		check := of("check", 0, NextCheck{Minutes: tc.q})
		check.informative = []*table{m.tableOf(catalogue.Finding{}, []catalogue.Link{{Fault: m.faults[2].ID, Strength: 1}})}
		chance := of("first", 1, NextCheck{Minutes: tc.a, ConfirmChance: 0.3})
		list := []*candidate{of("third", 4, NextCheck{Minutes: 20, ConfirmChance: 0.35}),
			of("second", 2, NextCheck{Minutes: 20, ConfirmChance: 0.35}), chance, check}
		slices.Reverse(list)
		m.lookAhead(n, knowledge{}, list)
		assert.InDelta(t, tc.q+0.65*tc.a+14, check.atOnce, 1e-9)
		assert.InDelta(t, tc.a+21-check.atOnce, check.next.SavesMinutes, 1e-9)
		assert.Equal(t, tc.leads, check.leads, "%g and %g", tc.a, tc.q)
		n.release()
	}
}

// What is advised, with a suspect at the edge of what is likely enough to be put right unseen.
func TestWhatIsAdvised(t *testing.T) {
	suspect := func(p float64) []Posterior { return []Posterior{{Probability: p}, {Probability: 0.1}} }
	for _, tc := range []struct {
		a    Answer
		want Advice
	}{
		{Answer{Found: []string{"x"}, NextChecks: []NextCheck{{}}, Suspects: suspect(1)}, PutRight},
		{Answer{NextChecks: []NextCheck{{}}, Suspects: suspect(0.9)}, LookOn},
		{Answer{Suspects: suspect(0.2)}, PutRightLikely},
		{Answer{Suspects: suspect(0.19)}, NothingToAdvise},
		{Answer{}, NothingToAdvise},
	} {
		assert.Equal(t, tc.want, tc.a.advise(), "%+v", tc.a)
	}
}

// An order's minutes, worked by hand: 5 and 1 of the state behind an access of 10, then 3 behind the same:
// 0.6·16 + 0.4·19 = 17.2; a check that confirms nothing, and one that looks for the same again, are passed over.
func TestTheMinutesOfAnOrder(t *testing.T) {
	m, _, k := asked(t, Question{Family: catalogue.Closed})
	first := of("first", 1, NextCheck{Minutes: 5, StateMinutes: 1, AccessMinutes: 10})
	second := of("second", 2, NextCheck{Minutes: 3, AccessMinutes: 10})
	first.access, second.access = 2, 2
	same := of("same", 1, NextCheck{Minutes: 50})
	order := []*candidate{of("asks", 0, NextCheck{Minutes: 7}), first, same, second}
	w, h := hand(0.6, 0.4)
	n := nearbyOf(m, h, w)
	defer n.release()
	assert.InDelta(t, 17.2, newPlanner(m, k, []*candidate{first, second}).along(n, order), 1e-12)
}

// What is certain has odds that can be reckoned with.
func TestLogOddsAreFinite(t *testing.T) {
	assert.InDelta(t, 0, logOdds(0.5), 0)
	assert.InDelta(t, math.Log(4), logOdds(0.8), 1e-12)
	assert.InDelta(t, 27.631, logOdds(1), 1e-3)
	assert.InDelta(t, -27.631, logOdds(0), 1e-3)
}

// What a look saves before it is closed up, by hand: the chance that it shows the last of what is left, times coming back,
// less its own minutes; a second look shows half of that.
func TestWhatALookSavesBeforeClosingUp(t *testing.T) {
	m, b, k := asked(t, Question{Family: catalogue.Closed, Yard: Yard{Comeback: 50000},
		Findings: []Evidence{{Finding: "blades-missing", Q: 1}}})
	require.NotZero(t, k.found)
	other := uint64(1) << m.number["strainer-clogged"]
	last := b.within(k.found|other) - b.within(k.found)
	require.Positive(t, last)
	once, again, asks := of("once", other, NextCheck{Minutes: 2, StateMinutes: 1}), of("again", 0, NextCheck{Minutes: 3}),
		of("asks", 0, NextCheck{Minutes: 1})
	again.again = other
	m.first(b, k, []*candidate{once, again, asks})
	require.Greater(t, 50000*last/2, 3.0)
	assert.InDelta(t, 50000*last-3, once.next.FirstSaves, 1e-9)
	assert.InDelta(t, 50000*last/2-3, again.next.FirstSaves, 1e-9)
	assert.Zero(t, asks.next.FirstSaves)
	long := of("long", other, NextCheck{Minutes: 1e6})
	m.first(b, k, []*candidate{long})
	assert.Zero(t, long.next.FirstSaves)
}

// A quick look, of two minutes at most, that saves 0.85 of what the leader does goes before it; not before one that is as
// quick, not one that opens something, nor one that takes longer or saves less.
func TestAQuickLookComesBeforeTools(t *testing.T) {
	leader := of("leader", 0, NextCheck{Minutes: 3, SavesMinutes: 10})
	for name, tc := range map[string]struct {
		other NextCheck
		first string
	}{
		"quick":       {NextCheck{Minutes: 2, SavesMinutes: 8.5}, "other"},
		"too long":    {NextCheck{Minutes: 2.01, SavesMinutes: 9}, "leader"},
		"opens":       {NextCheck{Minutes: 1, AccessMinutes: 2, SavesMinutes: 9}, "leader"},
		"saves less":  {NextCheck{Minutes: 1, SavesMinutes: 8.49}, "leader"},
		"saves more?": {NextCheck{Minutes: 1, SavesMinutes: 9.9}, "other"},
	} {
		assert.Equal(t, tc.first, beforeTools(leader, []*candidate{leader, of("other", 0, tc.other)}).check.ID, name)
	}
	quick := of("quick leader", 0, NextCheck{Minutes: 2, SavesMinutes: 10})
	other := of("other", 0, NextCheck{Minutes: 1, SavesMinutes: 9.9})
	assert.Same(t, quick, beforeTools(quick, []*candidate{quick, other}))
	sure := of("sure", 1, NextCheck{Minutes: 1, SavesMinutes: 9.9})
	assert.Same(t, leader, beforeTools(leader, []*candidate{leader, sure}))
}

// A finding that its causes bring about and another fault hides: worked by hand, 0.9 of a leak-free half, a third hidden.
func TestTheChanceOfAFindingWithSome(t *testing.T) {
	m, _, _ := asked(t, Question{Family: catalogue.Closed})
	table := m.tableOf(catalogue.Finding{Leak: 0.5, Blocks: []catalogue.Link{{Fault: m.faults[3].ID, Strength: 1.0 / 3}}},
		[]catalogue.Link{{Fault: m.faults[2].ID, Strength: 0.8}})
	assert.InDelta(t, 0.5, table.presentWith(0), 1e-12)
	assert.InDelta(t, 0.9, table.presentWith(1<<2), 1e-12)
	assert.InDelta(t, 0.6, table.presentWith(1<<2|1<<3), 1e-12)
}
