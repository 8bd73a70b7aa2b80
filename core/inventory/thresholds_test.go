package inventory_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/inventory"
)

// Where a fit is known in several ways the surest counts, in whichever order they were put down.
func TestTheSurestFitCounts(t *testing.T) {
	a := func(how string) inventory.Fit { return inventory.Fit{Engine: "a", How: how} }
	p := func(how string) inventory.Fit { return inventory.Fit{Pump: "P 1", How: how} }
	for want, lists := range map[string][][]inventory.Fit{
		inventory.Tried: {{a(inventory.Tried), a(inventory.Listed)}, {a(inventory.Listed), a(inventory.Tried)},
			{p(inventory.Tried), a(inventory.Listed)}, {a(inventory.Measured), p(inventory.Tried)}},
		inventory.Measured: {{a(inventory.Listed), a(inventory.Measured)}, {p(inventory.Measured), p(inventory.Listed)},
			{p(inventory.Listed), a(inventory.Measured)}},
		inventory.Listed: {{a(inventory.Listed)}, {p(inventory.Listed)}, {a("hearsay"), p(inventory.Listed)}},
	} {
		for _, fits := range lists {
			how, ok := inventory.Part{Fits: fits}.FitOn(inventory.Engine{ID: "a", Pump: "p1"})
			assert.True(t, ok)
			assert.Equal(t, want, how, "%v", fits)
		}
	}
}
