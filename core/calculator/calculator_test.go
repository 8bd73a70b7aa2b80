package calculator_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/calculator"
	"hevrin/core/units"
)

// asked are the names of the handbook's chapter 4, which the contract promises.
var asked = []string{"sea-water", "heat-carried", "exchanger-rating", "tube-stack", "bucket-flow", "engine-heat",
	"exhaust-mix", "surface-thermometer",
	"thermostat-pot", "descale", "coolant-mix", "run-check", "repair-choice", "impeller-fit"}

// results are the names that the handbook gives to what each calculator tells.
var results = map[string]string{
	"heat-carried": "heat_kw",
	"exchanger-rating": "effectiveness ntu capacity_ratio lmtd_k correction_factor heat_kw hot_outlet_c " +
		"cold_outlet_c ua_w_k imbalance_percent",
	"tube-stack": "velocity_m_s reynolds friction_factor pressure_drop_kpa inside_coefficient_w_m2_k ua_w_k " +
		"ua_clean_w_k cleanliness_percent",
	"bucket-flow":         "flow_l_min uncertainty_l_min",
	"engine-heat":         "power_kw fuel_l_h coolant_heat_kw exhaust_gas_kg_h exhaust_gas_c",
	"exhaust-mix":         "mixed_c evaporated_l_min dry sensible_only_c water_for_limit_l_min",
	"surface-thermometer": "surface_c",
	"thermostat-pot":      "opens_c full_open_c shuts_c hysteresis_c largest_lift_mm verdict reasons",
	"descale":             "stock_l water_l capacity_g_caco3 scale_share_percent enough co2_l turnovers",
	"coolant-mix": "concentrate_l water_l drain_l add_concentrate_l final_percent_volume freeze_c " +
		"waste_container_l",
	"run-check": "opened_at_s opened_c plateau_c plateau_from_s slope_c_min overshoot_c verdict reasons",
}

func work(t require.TestingT, name, given string) (calculator.Answer, map[string]any) {
	s, ok := calculator.Find(name)
	require.True(t, ok, name)
	a, err := s.ComputeJSON([]byte(given), units.Metric)
	require.NoError(t, err, "%s %s", name, given)
	return a, asMap(t, a.Result)
}

func asMap(t require.TestingT, v any) map[string]any {
	b, err := json.Marshal(v)
	require.NoError(t, err)
	var m map[string]any
	require.NoError(t, json.Unmarshal(b, &m))
	return m
}

func TestEverySumOfTheHandbookIsThere(t *testing.T) {
	for _, name := range asked {
		s, ok := calculator.Find(name)
		require.True(t, ok, name)
		told := map[string]bool{}
		for _, r := range s.Results {
			told[r.Name] = true
		}
		for _, r := range strings.Fields(results[name]) {
			assert.True(t, told[r], "%s does not tell %s", name, r)
		}
	}
	_, ok := calculator.Find("horoscope")
	assert.False(t, ok)
}

// Each sum's own example is answered, tells every result that it lists and nothing else, and shows its working.
func TestTheExamplesAreAnswered(t *testing.T) {
	for _, s := range calculator.All() {
		a, got := work(t, s.Name, s.Example)
		listed := map[string]bool{}
		main := 0
		for _, r := range s.Results {
			assert.Contains(t, got, r.Name, s.Name)
			listed[r.Name] = true
			if r.Main {
				main++
			}
			if r.Kind == calculator.Number {
				_, err := units.Find(r.Unit)
				assert.NoError(t, err, "%s %s", s.Name, r.Name)
			}
		}
		for name := range got {
			assert.True(t, listed[name], "%s tells %s without listing it", s.Name, name)
		}
		assert.Positive(t, main, "%s has no main result", s.Name)
		assert.NotEmpty(t, a.Working, s.Name)
		assert.NotEmpty(t, s.Sources, s.Name)
		for _, w := range a.Working {
			assert.NotContains(t, w.Text(), "%!", s.Name)
		}
		checkPicture(t, s.Name, a.Picture)
	}
}

func checkPicture(t *testing.T, name string, p *calculator.Picture) {
	if p == nil {
		return
	}
	assert.NotEmpty(t, p.Title, name)
	for _, l := range p.Lines {
		assert.Equal(t, len(l.X), len(l.Y), name)
		assert.NotEmpty(t, l.X, "%s: %s is empty", name, l.Label)
	}
	assert.True(t, len(p.Lines) > 0 || len(p.Bars) > 0, name)
}

// The published and hand-worked values of the trade's handbook, through the whole sum.
func TestHandbookValues(t *testing.T) {
	for _, c := range []struct {
		name, given, result string
		is, within          float64
	}{
		{"sea-water", `{"temperature_c": 25, "salinity_g_kg": 35}`, "density_kg_m3", 1023.343, 1.02},
		// UNESCO 44 (1983) (memory), 0.1 %
		{"descale", `{"acid": "hydrochloric", "place": "bench", "stock_percent_mass": 20, "target_percent_mass": 20, "volume_l": 1}`, "capacity_g_caco3", 301, 1},
		{"coolant-mix", `{"system_volume_l": 10, "target_percent_volume": 50}`, "freeze_c", -36.8, 1e-6}, // ASHRAE (memory)
		{"coolant-mix", `{"system_volume_l": 10, "target_freeze_c": -23.5}`, "final_percent_volume", 40, 1e-3},
		{"bucket-flow", `{"volume_l": 10, "volume_error_l": 0.2, "seconds": [12, 13, 14]}`, "uncertainty_l_min", 2.248,
			0.001},
		{"surface-thermometer", `{"reading_c": 42, "surface_emissivity": 0.6, "surroundings_c": 35}`, "surface_c", 45.88,
			0.01},
		{"engine-heat", `{"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "rpm": 2400}`, "coolant_heat_kw", 23.553,
			0.001},
		{"thermostat-pot", `{"rating_c": 82, "readings": {"temperature_c": [60, 80, 84, 95], "lift_mm": [0, 0.2, 1.8, 9]}}`,
			"opens_c", 80.75, 1e-9},
		// 30 L/min fresh water from 20 to 30 °C: 0.4991 kg/s · 4180 J/(kg K) · 10 K = 20.86 kW.
		{"heat-carried", `{"fluid": {"kind": "fresh"}, "flow_l_min": 30, "inlet_c": 20, "outlet_c": 30}`, "heat_kw", 20.86,
			0.05},
		// Incropera's oil cooler, example 11.1 (memory): 0.1 kg/s of oil is 6.9 L/min of 870 kg/m³; water 0.2 kg/s is 12.05
		// L/min.
		{"exchanger-rating", `{"hot": {"fluid": {"kind": "other", "density_kg_m3": 870, "specific_heat_j_kg_k": 2131}, "flow_l_min": 6.89655, "inlet_c": 100, "outlet_c": 60}, "cold": {"fluid": {"kind": "fresh"}, "flow_l_min": 12.0523, "inlet_c": 30}}`, "cold_outlet_c", 40.2, 0.1},
		{"exchanger-rating", `{"hot": {"fluid": {"kind": "other", "density_kg_m3": 870, "specific_heat_j_kg_k": 2131}, "flow_l_min": 6.89655, "inlet_c": 100, "outlet_c": 60}, "cold": {"fluid": {"kind": "fresh"}, "flow_l_min": 12.0523, "inlet_c": 30}}`, "lmtd_k", 43.2, 0.1},
	} {
		_, got := work(t, c.name, c.given)
		assert.InDelta(t, c.is, got[c.result], c.within, "%s %s", c.name, c.result)
	}
}

func TestRatingThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.SampledFrom([]string{"counterflow", "parallel", "shell-and-tube-1", "crossflow-unmixed"}).Draw(t,
			"arrangement")
		hotIn, coldIn := rapid.Float64Range(60, 95).Draw(t, "hot"), rapid.Float64Range(0, 32).Draw(t, "cold")
		hotFlow, coldFlow := rapid.Float64Range(20, 300).Draw(t, "hot flow"), rapid.Float64Range(20, 300).Draw(t, "cold flow")
		ua := rapid.Float64Range(50, 3000).Draw(t, "ua")
		side := `{"arrangement": %q, "hot": {"flow_l_min": %v, "inlet_c": %v%s}, "cold": {"flow_l_min": %v, "inlet_c": %v%s}%s}`
		_, there := work(t, "exchanger-rating", fmt.Sprintf(side, a, hotFlow, hotIn, "", coldFlow, coldIn, "",
			fmt.Sprintf(`, "ua_w_k": %v`, ua)))
		out := func(name string) string { return fmt.Sprintf(`, "outlet_c": %v`, there[name]) }
		_, back := work(t, "exchanger-rating", fmt.Sprintf(side, a, hotFlow, hotIn, out("hot_outlet_c"), coldFlow, coldIn,
			out("cold_outlet_c"), ""))
		require.InEpsilon(t, ua, back["ua_w_k"], 1e-4)
		require.InDelta(t, 0, back["imbalance_percent"], 1e-5)
		// and with the hot side's flow not known, it is found
		_, found := work(t, "exchanger-rating", strings.Replace(fmt.Sprintf(side, a, "null", hotIn, out("hot_outlet_c"),
			coldFlow, coldIn, out("cold_outlet_c"), ""), "%!v(string=null)", "null", 1))
		require.InEpsilon(t, hotFlow, found["hot_flow_l_min"], 1e-5)
	})
}
