package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/eventlog"
)

// Who was not sure of a danger has not ruled it out: it bars the start until it is looked at again.
func TestADangerThatNobodyWasSureOfBarsTheStart(t *testing.T) {
	e := closedEngine(t)
	const id = "condemned:elbow"
	hole := func(states ...string) (list []eventlog.Entry) {
		for _, s := range states {
			list = append(list, made("elbow-look", "elbow-thin-or-holed", s))
		}
		return list
	}
	const yes, no, unsure = eventlog.Present, eventlog.Absent, eventlog.Unsure
	for want, states := range map[string][]string{
		"seen thin or holed, nobody was sure: look again": {unsure},
		"seen thin or holed":                              {unsure, yes},
	} {
		assert.Equal(t, want, why(fold(t, hole(states...)...).Conditions(e), id), states)
	}
	assert.Equal(t, "seen thin or holed", why(fold(t, hole(yes, unsure)...).Conditions(e), id), "doubt takes nothing back")
	for _, c := range fold(t, hole(unsure, no)...).Conditions(e) {
		assert.NotEqual(t, id, c.ID, "looked at again, and sound")
	}
	assert.False(t, fold(t, made("impeller-look", "milky-oil", unsure)).MayCrank(e), "milky or not: not cranked on a guess")
	assert.Contains(t, flags(fold(t, made("impeller-look", "blades-missing", unsure)), e), "IMPELLER CONDEMNED")
}
