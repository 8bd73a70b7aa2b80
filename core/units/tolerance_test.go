package units_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/units"
)

// A tolerance is a difference: 9 °F of it are 5 °C, wherever the temperature itself lies.
func TestAToleranceIsADifference(t *testing.T) {
	for text, want := range map[string]units.Measured{
		"180 ± 9 °F":  {Value: 82.2222, Error: 5},
		"32 ± 1.8 °F": {Value: 0, Error: 1},
		"82 ± 2":      {Value: 82, Error: 2},
		"300 ± 2 K":   {Value: 26.85, Error: 2},
	} {
		got, err := units.Read(text, units.Must("degC"), units.Metric)
		require.NoError(t, err, text)
		assert.InDelta(t, want.Value, got.Value, 1e-3, text)
		assert.InDelta(t, want.Error, got.Error, 1e-9, text)
	}
	assert.Equal(t, "82 ± 2 °C", units.Rewrite("82 ± 2 °C", units.Metric))
	assert.Equal(t, "180 ± 4 °F", units.Rewrite("82 ± 2 °C", units.US))
}
