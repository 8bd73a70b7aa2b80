package simulator_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/workbench"
	"hevrin/simulator"
)

// The price list holds together: numbers once, what superseded a part is there and is not superseded itself, its
// maintenance is the catalogue's, its impellers have words that the fit knows.
func TestThePriceListHoldsTogether(t *testing.T) {
	s, err := simulator.NewSupplier()
	require.NoError(t, err)
	c, err := catalogue.Load()
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, i := range s.Offers("") {
		assert.False(t, seen[i.Number], i.Number)
		seen[i.Number] = true
		assert.NotEmpty(t, i.Label, i.Number)
		assert.Positive(t, i.Price, i.Number)
		assert.Positive(t, i.LeadDays, i.Number)
		assert.GreaterOrEqual(t, i.MadeDays, i.LeadDays, i.Number)
		if i.Maintenance != "" {
			_, ok := c.MaintenanceItem(i.Maintenance)
			assert.True(t, ok, "%s: %s", i.Number, i.Maintenance)
		}
		if i.Replaced != "" {
			by, ok := s.Item(i.Replaced)
			require.True(t, ok, i.Number)
			assert.Empty(t, by.Replaced, "one step leads to what can be ordered")
		}
		if x := i.Impeller; x != nil {
			assert.Contains(t, workbench.Drives, x.Drive)
			assert.Contains(t, workbench.Inserts, x.Insert)
			assert.Contains(t, workbench.CoverSeals, x.CoverSeal)
		}
	}
}

func TestTheSupplierPromisesOrSaysWhyNot(t *testing.T) {
	s, err := simulator.NewSupplier()
	require.NoError(t, err)
	p, err := s.Ask(" lm-2052 ", 2)
	require.NoError(t, err)
	assert.Equal(t, 3, p.Days)
	assert.Equal(t, "in stock, 3 days", p.Say)
	p, err = s.Ask("LM-2052", 100)
	require.NoError(t, err)
	assert.Equal(t, 21, p.Days)
	assert.Contains(t, p.Say, "14 in stock, all of them in 21 days")
	_, err = s.Ask("LM-2051", 1)
	assert.ErrorContains(t, err, "superseded: order LM-2052")
	_, err = s.Ask("LM-9", 1)
	assert.ErrorContains(t, err, "has no")
	assert.Len(t, s.Offers("impeller spline"), 2)
	assert.Empty(t, s.Offers("anchor"))
}
