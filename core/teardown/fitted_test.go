package teardown_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/teardown"
)

// A task's steps apply to this engine.
func TestATaskIsFittedToItsEngine(t *testing.T) {
	closed := teardown.Engine{Closed: true, Petrol: true, Circuit: []string{"seacock"}}
	pump := *catalogueTask(t, "circ-pump-belt")
	assert.Equal(t, pump, teardown.Fitted(pump, closed), "as it stands")
	raw := teardown.Fitted(pump, teardown.Engine{Circuit: []string{"seacock"}})
	assert.Equal(t, []string{"seacock", "battery"}, raw.Isolate)
	assert.Equal(t, []string{"flooding", "shorts", "lifting", "turning-parts"}, raw.Cautions)
	assert.Contains(t, raw.Steps[0], "Drain the block into a vessel")
	all := strings.Join(slices.Concat(raw.After, raw.While, raw.Parts, raw.Bring), "; ")
	assert.NotContains(t, all, "oolant")
	assert.NotContains(t, all, "Level")
	assert.Contains(t, all, "Weep hole dry.")
	assert.Contains(t, all, "Marked vessel for what runs out")
	assert.Contains(t, elbowsVessel(t, true), "Marked vessel for the coolant of a jacketed manifold")
	assert.NotContains(t, elbowsVessel(t, false), "Marked vessel for the coolant of a jacketed manifold")
	assert.Contains(t, pump.Isolate, "coolant", "the yard's own list stays as it is")
	leg := teardown.Fitted(pump, teardown.Engine{})
	assert.Equal(t, []string{"leg-hose", "battery"}, leg.Isolate)
	assert.Equal(t, []string{"leg-hose"}, teardown.Fitted(*catalogueTask(t, "impeller-change"),
		teardown.Engine{Closed: true}).Isolate)
	elbow := *catalogueTask(t, "elbow-riser")
	assert.Contains(t, teardown.Fitted(elbow, closed).Cautions, "petrol-vapour")
	assert.NotContains(t, teardown.Fitted(elbow, teardown.Engine{Closed: true}).Cautions, "petrol-vapour",
		"no petrol on a diesel")
}

func elbowsVessel(t *testing.T, closed bool) []string {
	return teardown.Fitted(*catalogueTask(t, "elbow-riser"), teardown.Engine{Closed: closed}).Bring
}
