package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
)

func looked(check, finding, state string) eventlog.Body {
	return eventlog.Body{Check: check, Outcome: eventlog.Done, Stated: []eventlog.Stated{{ID: finding, State: state}}}
}

func evidence(t *testing.T, l log, finding string) diagnosis.Evidence {
	t.Helper()
	for _, e := range fold(t, l).Question(engine(loadCatalogue(t)), nil).Findings {
		if e.Finding == finding {
			return e
		}
	}
	return diagnosis.Evidence{Finding: finding, Q: -1}
}

// A check that showed nothing and is made again counts as two looks, no more; one that shows it is a fact.
func TestASecondLookIsCounted(t *testing.T) {
	l := opened()
	at := func(states ...string) diagnosis.Evidence {
		m := l
		for _, s := range states {
			require.NoError(t, refused(t, m, eventlog.Checked, looked("belt-look", "pump-belt-slack", s)), s)
			m = m.and(eventlog.Checked, looked("belt-look", "pump-belt-slack", s))
		}
		return evidence(t, m, "pump-belt-slack")
	}
	const no, yes, unsure = eventlog.Absent, eventlog.Present, eventlog.Unsure
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Looks: 1}, at(no))
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Looks: 2}, at(no, no))
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Looks: 3}, at(no, no, no))
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Q: 1}, at(no, yes))
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Looks: 1}, at(yes, no), "what was seen is looked at afresh")
	assert.Equal(t, diagnosis.Evidence{Finding: "pump-belt-slack", Looks: 2}, at(unsure, no), "not sure was a look too")
}

// Not sure is a likelihood, no fact: it weighs for what was looked for, and makes no "no" of it.
func TestNotSureIsALikelihood(t *testing.T) {
	l := opened().and(eventlog.Checked, looked("impeller-look", "blades-missing", eventlog.Unsure))
	assert.Equal(t, diagnosis.UnsureQ, evidence(t, l, "blades-missing").Q)
	assert.False(t, fold(t, l).Teardown.Ledger.Open(), "and opens no hunt for rubber")
	seen := opened().and(eventlog.Checked, looked("impeller-look", "blades-missing", eventlog.Present))
	seen = seen.and(eventlog.Checked, looked("impeller-look", "blades-missing", eventlog.Unsure))
	assert.True(t, fold(t, seen).Teardown.Ledger.Open(), "nor closes one")

	for what, b := range map[string]eventlog.Body{
		"a complaint": {Stated: []eventlog.Stated{{ID: "hot-under-load", State: eventlog.Unsure}}},
		"a finding":   {Stated: []eventlog.Stated{{ID: "pump-belt-slack", State: eventlog.Unsure}}},
	} {
		assert.Error(t, refused(t, opened(), eventlog.Found, b), what)
	}
	assert.Error(t, refused(t, opened(), eventlog.HistoryStated,
		eventlog.Body{Stated: []eventlog.Stated{{ID: "grounded", State: eventlog.Unsure}}}))
}

// A reading stands at its operating point: what is said at idle does not take back what is said under load. What is said
// without a point, as before there were any, stands for all, and gives way to what is read since.
func TestAReadingIsOfItsOperatingPoint(t *testing.T) {
	const high = "raw-rise-high"
	said := func(bodies ...eventlog.Body) (list []diagnosis.Evidence) {
		l := opened()
		for _, b := range bodies {
			kind := eventlog.Checked
			if b.Check == "" {
				kind = eventlog.Found
			}
			require.NoError(t, refused(t, l, kind, b))
			l = l.and(kind, b)
		}
		return fold(t, l).Question(engine(loadCatalogue(t)), nil).Findings
	}
	idle, load := looked("temperatures-idle", high, eventlog.Absent), looked("temperatures-load", high, eventlog.Present)
	atIdle := diagnosis.Evidence{Finding: high, Point: "idle", Looks: 1}
	atLoad := diagnosis.Evidence{Finding: high, Point: "load", Q: 1}
	assert.Equal(t, []diagnosis.Evidence{atIdle}, said(idle))
	assert.Equal(t, []diagnosis.Evidence{atIdle, atLoad}, said(idle, load))
	assert.Equal(t, []diagnosis.Evidence{atLoad, atIdle}, said(load, idle))
	nowhere := eventlog.Body{Stated: []eventlog.Stated{{ID: high, State: eventlog.Present}}}
	assert.Equal(t, []diagnosis.Evidence{{Finding: high, Q: 1}}, said(idle, load, nowhere))
	assert.Equal(t, []diagnosis.Evidence{atIdle}, said(nowhere, idle))
	taken := eventlog.Body{Stated: []eventlog.Stated{{ID: high, State: eventlog.Unknown}}}
	assert.Empty(t, said(idle, load, taken), "taken back everywhere")

	j := fold(t, opened().and(eventlog.Checked, idle))
	j.TakeComputed([]eventlog.ComputedFinding{{ID: high, Point: "load", Q: 0.9, Why: "computed"}, {ID: high, Point: "idle",
		Q: 0.8, Why: "computed"}}, 9)
	assert.Equal(t, []string{high, high}, ids(j.Findings), "what was said at idle stands, what was read under load is new")
	assert.Equal(t, "load", j.Findings[1].Point)
}
