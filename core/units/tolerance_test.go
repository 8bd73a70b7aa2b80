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

	for _, c := range []struct {
		text, in    string
		value, plus float64
	}{
		{"60 ± 2 °C", "degF", 140, 3.6},
		{"140 ± 3.6", "degF", 140, 3.6},
		{"25.4 ± 2.54 mm", "in", 1, 0.1},
		{"1 ± 0.1 in", "mm", 25.4, 2.54},
		{"1 in ± 2.54 mm", "in", 1, 0.1},
	} {
		got, err := units.Read(c.text, units.Must(c.in), units.US)
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.value, got.Value, 1e-9, c.text)
		assert.InDelta(t, c.plus, got.Error, 1e-9, c.text)
	}
}

// From a thousand on no decimals are shown; below, those of the unit.
func TestAThousandAndMoreIsShownWhole(t *testing.T) {
	assert.Equal(t, "999.9 °C", units.Must("degC").Show(999.9))
	assert.Equal(t, "1000 °C", units.Must("degC").Show(1000))
	assert.Equal(t, "-1000 °C", units.Must("degC").Show(-1000))
	assert.Equal(t, "10.0 °C", units.Must("degC").Show(10))
}

// A refusal says which units will do, and how a quantity is written.
func TestARefusalSaysWhatWillDo(t *testing.T) {
	for _, c := range []struct{ text, in, says string }{
		{"12 wigs", "degC", "use °C, °F"},
		{"12 wigs", "1", "use a bare number"},
		{"warm", "degC", `"71" or "160 F"`},
		{"warm", "L/min", `"45" or "12 gpm"`},
		{"warm", "1", `"12.5"`},
	} {
		_, err := units.Read(c.text, units.Must(c.in), units.Metric)
		assert.ErrorContains(t, err, c.says, c.text)
	}
}
