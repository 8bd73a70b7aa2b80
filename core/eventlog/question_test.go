package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

func hand(a teardown.Act) eventlog.Body { return eventlog.Body{Teardown: &a} }

func run(do, id string) eventlog.Body {
	return eventlog.Body{Proving: &proving.Act{Do: do, Run: id, Where: proving.Afloat, Words: "a slip"}}
}

// asked is what the diagnosis is asked of an engine whose impeller was seen short of blades, tubes clean and crusted
// ones beside, and then proved.
func asked(t *testing.T, l log, repaired ...string) map[string]float64 {
	t.Helper()
	c := loadCatalogue(t)
	j := fold(t, l)
	q := j.QuestionSince(c, engine(c), nil, j.ProvedFrom(), repaired)
	_, err := diagnosis.New(c).Diagnose(q)
	require.NoError(t, err)
	list := map[string]float64{}
	for _, e := range q.Findings {
		list[e.Finding] = e.Q
	}
	return list
}

func TestAfterTheRepairTheSuspectsGoByWhatWasReadSince(t *testing.T) {
	l := opened().and(eventlog.Found, says(eventlog.Present, "hot-under-load", "weak-water-at-outlet")).
		and(eventlog.Checked, saw("impeller-look", map[string]string{"blades-missing": eventlog.Present})).
		and(eventlog.Checked, saw("exchanger-look", map[string]string{"tubes-crusted": eventlog.Present,
			"fragments-at-exchanger": eventlog.Absent, "tubes-dark": eventlog.Present})).
		and(eventlog.Checked, saw("outlet-flow", map[string]string{"raw-flow-low": eventlog.Present})).
		and(eventlog.Proved, run(proving.Begin, "r")).
		and(eventlog.Found, says(eventlog.Present, "good-water-at-outlet"))
	is := asked(t, l, "impeller-vanes-missing")
	assert.Equal(t, map[string]float64{
		"good-water-at-outlet":   1, // since
		"blades-missing":         0, // the new one was looked at as it went in
		"fragments-at-exchanger": 0, // a look that showed nothing still counts
		"tubes-crusted":          1, // seen, and nobody put it right
	}, is, "the complaint and the readings of before are history")
	assert.Zero(t, asked(t, l, "impeller-vanes-missing", "tubes-scaled")["tubes-crusted"])

	c := loadCatalogue(t)
	j := fold(t, l)
	q := j.QuestionSince(c, engine(c), nil, j.ProvedFrom(), nil)
	assert.Empty(t, q.Done, "what was looked at before may be looked at again")
	until := j.QuestionUntil(engine(c), nil, j.ProvedFrom())
	assert.Len(t, until.Findings, 6) // of what the water does the last one said stands
	assert.Len(t, until.Done, 3)
}

func TestADroppedRunIsNoProof(t *testing.T) {
	l := opened().and(eventlog.Proved, run(proving.Begin, "r"))
	assert.Equal(t, 2, fold(t, l).ProvedFrom())
	l = l.and(eventlog.Proved, run(proving.Drop, "r"))
	assert.Zero(t, fold(t, l).ProvedFrom())
	l = l.and(eventlog.Proved, run(proving.Begin, "s")).and(eventlog.Proved, run(proving.Begin, "t"))
	assert.Positive(t, fold(t, l).ProvedFrom())
}

// What was found is put right when somebody says so after it was seen and before the run: no part that went in says it.
func TestWhatWasFoundIsPutRightWhenSomebodySaysSo(t *testing.T) {
	c := loadCatalogue(t)
	look := saw("impeller-look", map[string]string{"blades-missing": eventlog.Present})
	for what, tc := range map[string]struct {
		act teardown.Act
		is  bool
	}{
		"said":         {teardown.Act{Do: teardown.PutRight, Item: "impeller-vanes-missing"}, true},
		"another":      {teardown.Act{Do: teardown.PutRight, Item: "tubes-scaled"}, false},
		"a part used":  {teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "seal", Quantity: 1, State: teardown.New}}, false},
		"a new one in": {teardown.Act{Do: teardown.Renewed, Item: "impeller"}, false},
	} {
		repaired := func(l log, order int) []string {
			return fold(t, l).Repaired(c, []string{"impeller-vanes-missing"}, order)
		}
		after := opened().and(eventlog.Checked, look).and(eventlog.TeardownNoted, hand(tc.act))
		assert.Equal(t, tc.is, len(repaired(after, 4)) > 0, what)
		assert.Empty(t, repaired(after, 3), what+", once the run had begun")
		early := opened().and(eventlog.TeardownNoted, hand(tc.act)).and(eventlog.Checked, look)
		assert.Empty(t, repaired(early, 9), what+", before it was seen")
	}
	assert.Error(t, refused(t, opened(), eventlog.TeardownNoted, hand(teardown.Act{Do: teardown.PutRight, Item: "no-such"})))
	assert.NoError(t, refused(t, opened(), eventlog.TeardownNoted,
		hand(teardown.Act{Do: teardown.PutRight, Item: "tubes-scaled"})))
}

// What was read since a repair stands over what was said before it.
func TestReadingsSinceARepairStandOverWhatWasSaidBefore(t *testing.T) {
	l := opened().and(eventlog.Found, says(eventlog.Present, "raw-flow-low")).and(eventlog.Proved, run(proving.Begin, "r"))
	told := []eventlog.ComputedFinding{{ID: "raw-flow-low", Q: 0.1, Why: "computed"}}
	for order, q := range map[int]float64{3: 1, 4: 0.1} {
		j := fold(t, l)
		j.TakeComputed(told, order)
		require.Len(t, j.Findings, 1)
		assert.InDelta(t, q, j.Findings[0].Q, 1e-12, order)
	}
	said := fold(t, l.and(eventlog.Found, says(eventlog.Present, "raw-flow-low")))
	said.TakeComputed(told, 9)
	assert.Equal(t, 1.0, said.Findings[0].Q, "said since")
}

// What was said to be put right and is seen again is not.
func TestWhatIsSeenAgainIsNotPutRight(t *testing.T) {
	c := loadCatalogue(t)
	look := saw("impeller-look", map[string]string{"blades-missing": eventlog.Present})
	said := opened().and(eventlog.Checked, look).
		and(eventlog.TeardownNoted, hand(teardown.Act{Do: teardown.PutRight, Item: "impeller-vanes-missing"}))
	assert.Len(t, fold(t, said).PutRight(c), 1)
	again := said.and(eventlog.Checked, look)
	assert.Empty(t, fold(t, again).PutRight(c))
	assert.Empty(t, fold(t, again).Repaired(c, []string{"impeller-vanes-missing"}, 99))
}
