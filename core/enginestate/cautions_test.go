package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
)

// Petrol vapour stands at every check that runs a petrol engine, and at none of a diesel.
func TestPetrolVapourStandsAtEveryRunOfAPetrolEngine(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	runs := 0
	for _, fuel := range []string{"petrol", "diesel"} {
		e := closedEngine(t)
		e.Fuel = fuel
		for _, k := range c.Checks {
			list := enginestate.New(c).Before(e, k).Cautions
			if fuel == "diesel" {
				assert.NotContains(t, list, "petrol-vapour", k.ID)
			} else if k.Engine == catalogue.Running {
				runs++
				assert.Contains(t, list, "petrol-vapour", k.ID)
			}
		}
	}
	assert.Greater(t, runs, 10)
}
