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
