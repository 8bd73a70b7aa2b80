package main

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/core/calculator"
)

// hevrin runs the program's commands within the test.
func hevrin(in string, args ...string) (string, error) {
	cmd := root()
	var out bytes.Buffer
	cmd.SetIn(strings.NewReader(in))
	cmd.SetOut(&out)
	cmd.SetArgs(args)
	err := cmd.Execute()
	return out.String(), err
}

func TestCalcAnswersAsTheRouteDoes(t *testing.T) {
	out, err := hevrin(`{"flow_l_min": "12 gpm", "inlet_c": "64.4F", "outlet_c": 29.5}`, "calc", "heat-carried")
	require.NoError(t, err)
	var a api.CalculatorAnswer
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	assert.InDelta(t, 35.7, a.Result["heat_kw"], 0.1)
	assert.NotEmpty(t, a.Working)
	imperial, err := hevrin(`{"flow_l_min": "12 gpm", "inlet_c": 18, "outlet_c": 29.5}`, "calc", "heat-carried",
		"--units", "imperial")
	require.NoError(t, err)
	assert.Contains(t, imperial, "54.55")
}

func TestCalcListsAndShowsExamplesThatWork(t *testing.T) {
	list, err := hevrin("", "calc")
	require.NoError(t, err)
	for _, s := range calculator.All() {
		assert.Contains(t, list, s.Name)
		example, err := hevrin("", "calc", s.Name, "--example")
		require.NoError(t, err)
		words, err := hevrin(example, "calc", s.Name, "--text")
		require.NoError(t, err, s.Name)
		assert.Contains(t, words, s.Asks)
	}
	acid, err := hevrin(`{"acid": "phosphoric", "stock_percent_mass": 75, "target_percent_mass": 10, "volume_l": 18}`,
		"calc", "descale", "--text")
	require.NoError(t, err)
	assert.Contains(t, acid, "Acid into water")
}

func TestCalcSaysWhatToDo(t *testing.T) {
	for _, c := range []struct {
		in, says string
		args     []string
	}{
		{`{"flow_l_min": -1}`, "flow_l_min: Flow: -1 is out of range", []string{"calc", "heat-carried"}},
		{`{"flow_l_min": -1}`, "inlet_c: Before is still missing", []string{"calc", "heat-carried"}},
		{`flow 12`, "--example shows one", []string{"calc", "heat-carried"}},
		{``, "there is no sum \"horoscope\"", []string{"calc", "horoscope"}},
		{``, "choose metric, us or imperial", []string{"calc", "--units", "cubits"}},
	} {
		_, err := hevrin(c.in, c.args...)
		assert.ErrorContains(t, err, c.says)
	}
}
