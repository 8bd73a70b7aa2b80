package diagnosis

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// hand makes hypotheses of single faults 0, 1, 2 … with the given weights.
func hand(w ...float64) ([]float64, []hypothesis) {
	var h []hypothesis
	for i := range w {
		h = append(h, hypothesis{mask: 1 << i})
	}
	return w, h
}

// Worked by hand: looks of 2 and 10 minutes at faults of 0.2 and 0.8. By chance per minute the first comes first
// (0.1 against 0.08): 0.2·2 + 0.8·12 = 10.0 minutes.
func TestExpectedMinutesOfTwoLooks(t *testing.T) {
	w, h := hand(0.2, 0.8)
	p := plannerOf(2, 0, 1, []look{{confirms: 1, own: 2}, {confirms: 2, own: 10}})
	assert.InDelta(t, 10.0, p.expected(w, h), 1e-12)
}

// Worked by hand: one access of 20 minutes before two looks of 1 minute at faults of 0.4 each, and an open look of
// 10 minutes at a fault of 0.2. Alone each shut look is 0.4/21 = 0.019, under 0.2/10 = 0.02; together they are
// 0.8/22 = 0.036 and go first: 0.4·21 + 0.4·22 + 0.2·32 = 23.6 minutes.
func TestLooksBehindOneAccessAreWeighedTogether(t *testing.T) {
	w, h := hand(0.4, 0.4, 0.2)
	p := plannerOf(3, 0, 1, []look{{confirms: 1, own: 1, access: 1, opening: 20}, {confirms: 2, own: 1,
		access: 1, opening: 20}, {confirms: 4, own: 10}})
	assert.InDelta(t, 23.6, p.expected(w, h), 1e-12)
	p.opened |= 1 << 1 // open already: 0.4·1 + 0.4·2 + 0.2·12
	assert.InDelta(t, 3.6, p.expected(w, h), 1e-12)
}

// Of a set the last fault counts; what was looked for costs nothing more.
func TestTheLastFaultOfASetCounts(t *testing.T) {
	p := plannerOf(2, 0, 1, []look{{confirms: 1, own: 3}, {confirms: 2, own: 4}})
	both := []hypothesis{{mask: 3}}
	assert.InDelta(t, 7, p.expected([]float64{1}, both), 1e-12)
	p.looked = 1
	assert.InDelta(t, 4, p.expected([]float64{1}, both), 1e-12)
}

func TestTheMostProbableAreSelectedInOrder(t *testing.T) {
	p := make([]float64, 1000)
	for i := range p {
		p[i] = float64((i*7919)%1000) / 1000
	}
	top := mostProbable(p, 5)
	require.Len(t, top, 5)
	for i, want := range []float64{0.999, 0.998, 0.997, 0.996, 0.995} {
		assert.InDelta(t, want, p[top[i]], 0)
	}
	assert.Equal(t, []int{0, 1}, mostProbable([]float64{0.5, 0.5}, 5), "equal ones by their place")
}

// The gain of one finding against the mutual information written out: H(outcome) − Σ p·H(outcome | h).
func TestGainIsTheMutualInformation(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	m := newModel(c, Question{Family: catalogue.Closed, Stations: []string{"strainer", "raw-pump", "elbow"}})
	b := m.infer()
	n := nearbyOf(m, m.hypotheses, b.p)
	finding := m.table("weak-water-at-outlet")
	entropy := func(p float64) float64 { return -p*math.Log2(p) - (1-p)*math.Log2(1-p) }
	mean, within := 0.0, 0.0
	for i, h := range m.hypotheses {
		x := finding.present(h)
		mean += b.p[i] * x
		within += b.p[i] * entropy(x)
	}
	assert.InDelta(t, entropy(mean)-within, n.gain([]*table{finding}), 1e-9)
	assert.InDelta(t, 0, n.gain(nil), 1e-12)
	other := m.table("delivery-pressure-high")
	assert.GreaterOrEqual(t, n.gain([]*table{finding, other})+1e-12, n.gain([]*table{finding}),
		"more findings never tell less")
}

func TestWordsForFiguresKeepTheirUnit(t *testing.T) {
	assert.Equal(t, "under 1\u00a0%", percent(0.001))
	assert.Equal(t, "over 99\u00a0%", percent(0.9999))
	assert.Equal(t, "41\u00a0%", percent(0.412))
	assert.Equal(t, "1\u00a0minute", minutes(0.3))
	assert.Equal(t, "12\u00a0minutes", minutes(12))
}

// A look over the side costs a minute and comes before thermometers that would save a little more (common practice).
func TestFirstLooksComeBeforeTools(t *testing.T) {
	check := func(minutes, access, saves float64) *candidate {
		return &candidate{next: NextCheck{Minutes: minutes, AccessMinutes: access, SavesMinutes: saves}}
	}
	leader := check(6, 0, 20)
	nearly, little, opens, slow := check(1, 0, 17), check(1, 0, 16.9), check(1, 5, 19), check(2.5, 0, 19)
	sure := check(1, 0, 19)
	sure.confirms = 1
	assert.Same(t, nearly, beforeTools(leader, []*candidate{leader, nearly}))
	assert.Same(t, leader, beforeTools(leader, []*candidate{leader, little, opens, slow, sure}))
	quick := check(2, 0, 20)
	assert.Same(t, quick, beforeTools(quick, []*candidate{quick, check(1, 0, 19)}), "it is quick itself")

	// nothing is told of a hot engine yet
	c, err := catalogue.Load()
	require.NoError(t, err)
	a, err := New(c).Diagnose(Question{Family: "closed"})
	require.NoError(t, err)
	assert.Equal(t, "look-over-side", a.NextChecks[0].Check)
}

// A set of two faults lends each half of its weight: worked by hand, looks of a minute at 0.3, 0.3 and 0.4, so that the
// third comes first: 0.4·1 + 0.6·3 = 2.2 minutes.
func TestASetLendsEachFaultItsShare(t *testing.T) {
	p := plannerOf(3, 0, 1, []look{{confirms: 1, own: 1}, {confirms: 2, own: 1}, {confirms: 4, own: 1}})
	assert.InDelta(t, 2.2, p.expected([]float64{0.6, 0.4}, []hypothesis{{mask: 3}, {mask: 4}}), 1e-12)
}

// Once an access stands open each look behind it goes by its own chance per minute, worked by hand: the first look opens
// it, at 0.45/2 a minute; the second then has 0.3/10 and comes before 0.25/8.7, not before 0.25/5.
func TestBehindAnOpenAccessEachLookStandsByItself(t *testing.T) {
	for own, want := range map[float64]float64{8.7: 0.45*2 + 0.3*12 + 0.25*20.7, 5: 0.45*2 + 0.25*7 + 0.3*17} {
		w, h := hand(0.45, 0.3, 0.25)
		p := plannerOf(3, 0, 1, []look{{confirms: 1, own: 1, access: 1, opening: 1}, {confirms: 2, own: 10, access: 1,
			opening: 1}, {confirms: 4, own: own}})
		assert.InDelta(t, want, p.expected(w, h), 1e-12)
	}
}

// What a shut access is worth counts the looks behind it that are the better for being there, worked by hand: of 0.4 in 2
// minutes and 0.3 in 4, behind 10, the first has 0.7/16 a minute. So it comes before 0.3/8 and after 0.3/6.
func TestAShutAccessIsWorthAllThatIsBehindIt(t *testing.T) {
	for own, want := range map[float64]float64{8: 0.4*12 + 0.3*16 + 0.3*24, 6: 0.3*6 + 0.4*18 + 0.3*22} {
		w, h := hand(0.4, 0.3, 0.3)
		better, worse := look{confirms: 1, own: 2, access: 1, opening: 10}, look{confirms: 2, own: 4, access: 1, opening: 10}
		for _, behind := range [][]look{{better, worse}, {worse, better}} {
			p := plannerOf(3, 0, 1, append(behind, look{confirms: 4, own: own}))
			assert.InDelta(t, want, p.expected(w, h), 1e-12)
		}
	}
}
