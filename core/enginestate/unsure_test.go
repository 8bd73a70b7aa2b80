package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
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

// A look at the outlet is a start of seconds: it warms nothing. Oil over its mark, or water in the silencer, bars even
// the starter.
func TestTheCheapLooksTellTheState(t *testing.T) {
	e := closedEngine(t)
	cold := act(teardown.Act{Do: teardown.Heat, Item: "cold"})
	over := entry("job", eventlog.Checked, eventlog.Body{Check: "look-over-side", Outcome: eventlog.Done})
	assert.Equal(t, "cold", fold(t, cold, over).Heat.Value)
	feel := entry("job", eventlog.Checked, eventlog.Body{Check: "feel-hoses", Outcome: eventlog.Done})
	assert.Equal(t, "hot", fold(t, cold, feel).Heat.Value)
	assert.False(t, fold(t, made("oil-look", "oil-level-risen", eventlog.Present)).MayCrank(e))
	assert.False(t, fold(t, made("exhaust-low-point", "water-in-silencer", eventlog.Present)).MayCrank(e))
	assert.True(t, fold(t, made("oil-look", "oil-level-risen", eventlog.Absent)).MayCrank(e))
	risen := made("oil-look", "oil-level-risen", eventlog.Present)
	assert.False(t, fold(t, risen, made("oil-look", "milky-oil", eventlog.Absent)).MayCrank(e), "not milky is not at its mark")
	changed := act(teardown.Act{Do: teardown.OilIs, Item: "changed", Words: "cooler holed; cylinders cleared"})
	assert.True(t, fold(t, risen, changed).MayCrank(e))
}
