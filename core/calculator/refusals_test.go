package calculator_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/calculator"
	"hevrin/core/units"
	"hevrin/core/validation"
)

func TestErrorsAreCarried(t *testing.T) {
	a, got := work(t, "heat-carried",
		`{"flow_l_min": "45 ± 2", "inlet_c": {"value": 18, "error": 0.5}, "outlet_c": 29.5}`)
	relative := math.Hypot(2.0/45, 0.5/11.5) // by hand: Q goes as flow and as difference
	assert.InEpsilon(t, got["heat_kw"].(float64)*relative, a.Uncertainty["heat_kw"], 0.01)
	assert.InDelta(t, 0.5, a.Uncertainty["rise_k"], 1e-9)
	assert.NotContains(t, a.Uncertainty, "dry")
	sure, _ := work(t, "heat-carried", `{"flow_l_min": 45, "inlet_c": 18, "outlet_c": 29.5}`)
	assert.Empty(t, sure.Uncertainty)
	wide, _ := work(t, "exchanger-rating",
		`{"hot": {"flow_l_min": 100, "inlet_c": "80 ± 70", "outlet_c": 76}, "cold": {"flow_l_min": 70, "inlet_c": 18}}`)
	assert.Contains(t, units.Join(wide.Warnings, " ").String(), "cannot be worked at its edges")
	end, _ := work(t, "coolant-mix",
		`{"system_volume_l": 10, "target_freeze_c": {"value": -1e-160, "error": 1}, "concentrate_percent_volume": 1}`)
	assert.Contains(t, units.Join(end.Warnings, " ").String(), "cannot be worked at its edges",
		"no slope from a difference of nothing")
	for _, u := range end.Uncertainty {
		assert.False(t, math.IsNaN(u) || math.IsInf(u, 0))
	}
}

func TestTypedUnitsAreUnderstood(t *testing.T) {
	metric, a := work(t, "heat-carried", `{"flow_l_min": "12 gpm", "inlet_c": "64.4F", "outlet_c": "85.1 °F"}`)
	assert.InDelta(t, 45.425, metric.Understood["flow_l_min"].Value, 0.001)
	assert.InDelta(t, 18, metric.Understood["inlet_c"].Value, 1e-9)
	assert.InDelta(t, 11.5, a["rise_k"], 1e-9)
	s, _ := calculator.Find("heat-carried")
	imperial, err := s.ComputeJSON([]byte(`{"flow_l_min": "12 gpm", "inlet_c": 18, "outlet_c": 29.5}`), units.Imperial)
	require.NoError(t, err)
	assert.InDelta(t, 54.553, imperial.Understood["flow_l_min"].Value, 0.001)
}

func TestSeriesComeInEveryShape(t *testing.T) {
	want, _ := work(t, "run-check", `{"rating_c": 82, "samples": [`+strings.Join(objects(), ",")+`]}`)
	csv := []string{"seconds,coolant_c"}
	reversed := []string{"note;Engine temp [F];Time"}
	times := []string{"timestamp\tcoolant (°C)"}
	var seconds, coolant []string
	for i := range 25 {
		c := shape(i)
		csv = append(csv, fmt.Sprintf("%d,%v", 60*i, c))
		reversed = append(reversed, fmt.Sprintf("x;%v;%d:00", c*9/5+32, i))
		times = append(times, fmt.Sprintf("2026-05-04 10:%02d:00\t%v", i, c))
		seconds, coolant = append(seconds, fmt.Sprint(60*i)), append(coolant, fmt.Sprint(c))
	}
	bare := strings.Join(csv[1:], "\n")
	for name, given := range map[string]string{"csv": strings.Join(csv, "\n"),
		"another order, other units": strings.Replace(strings.Join(reversed, "\r\n"), "Engine temp", "coolant", 1),
		"moments":                    strings.Join(times, "\n"), "no heading": bare} {
		text, err := json.Marshal(given)
		require.NoError(t, err)
		got, _ := work(t, "run-check", fmt.Sprintf(`{"rating_c": 82, "samples": %s}`, text))
		assert.InDelta(t, *number(t, want.Result, "plateau_c"), *number(t, got.Result, "plateau_c"), 1e-6, name)
	}
	columns, _ := work(t, "run-check", fmt.Sprintf(`{"rating_c": 82, "samples": {"seconds": [%s], "coolant_c": [%s]}}`,
		strings.Join(seconds, ","), strings.Join(coolant, ",")))
	assert.Equal(t, want.Result, columns.Result)
	list, _ := work(t, "bucket-flow", `{"volume_l": 10, "seconds": "12,5; 13; 0:14"}`)
	assert.InDelta(t, 600/(39.5/3), *number(t, list.Result, "flow_l_min"), 1e-9)
	spaced, _ := work(t, "bucket-flow", `{"volume_l": 10, "seconds": "12 13 14"}`)
	assert.InDelta(t, 600/13.0, *number(t, spaced.Result, "flow_l_min"), 1e-9)
}

func shape(i int) float64 { return math.Min(20+9*float64(i), 84) }

func objects() (list []string) {
	for i := range 25 {
		list = append(list, fmt.Sprintf(`{"seconds": %d, "coolant_c": %v}`, 60*i, shape(i)))
	}
	return list
}

func number(t *testing.T, result any, name string) *float64 {
	v, ok := asMap(t, result)[name].(float64)
	require.True(t, ok, name)
	return &v
}

// Bad input: the field, what was given and what is allowed.
func TestBadInputIsToldByField(t *testing.T) {
	for _, c := range []struct{ name, given, field, says string }{
		{"heat-carried", `{"flow_l_min": -3, "inlet_c": 18, "outlet_c": 29}`, "flow_l_min", "out of range"},
		{"heat-carried", `{"flow_l_min": "NaN", "inlet_c": 18, "outlet_c": 29}`, "flow_l_min", "not a number"},
		{"heat-carried", `{"flow_l_min": 3, "inlet_c": -273.15, "outlet_c": 29}`, "inlet_c", "out of range"},
		{"heat-carried", `{"flow_l_min": 3, "inlet_c": "0 K", "outlet_c": 29}`, "inlet_c", "out of range"},
		{"heat-carried", `{"flow_l_min": 3, "inlet_c": -10, "outlet_c": 29}`, "inlet_c", "ice"},
		{"heat-carried", `{"inlet_c": 18, "outlet_c": 29}`, "flow_l_min", "still missing"},
		{"heat-carried", `{"flow_l_min": 3, "inlet_c": 18, "outlet_c": 29, "flwo": 3}`, "flwo", "not asked for"},
		{"heat-carried", `{"flow_l_min": 3, "inlet_c": 18, "outlet_c": 29, "fluid": {"kind": "beer"}}`, "fluid.kind",
			"none of those"},
		{"heat-carried", `{"flow_l_min": true, "inlet_c": 18, "outlet_c": 29}`, "flow_l_min", "give a number"},
		{"heat-carried", `{"flow_l_min": {"value": 3, "error": -1}, "inlet_c": 18, "outlet_c": 29}`, "flow_l_min",
			"its error"},
		{"sea-water", `{"temperature_c": 25, "salinity_g_kg": 60}`, "salinity_g_kg", "0 to 42"},
		{"exchanger-rating", `{"hot": {"flow_l_min": 100, "inlet_c": 15, "outlet_c": 14}, "cold": {"flow_l_min": 70, "inlet_c": 80}}`, "hot.inlet_c", "uphill"},
		{"exchanger-rating", `{"hot": {"flow_l_min": 100, "inlet_c": 84, "outlet_c": 10}, "cold": {"flow_l_min": 70, "inlet_c": 18}}`, "hot.outlet_c", "never below what cools it"},
		{"exchanger-rating", `{"hot": {"flow_l_min": 100, "inlet_c": 84}, "cold": {"flow_l_min": 70, "inlet_c": 18, "outlet_c": 90}}`, "cold.outlet_c", "never above"},
		{"exchanger-rating", `{"arrangement": "parallel", "hot": {"flow_l_min": 100, "inlet_c": 84, "outlet_c": 40}, "cold": {"flow_l_min": 70, "inlet_c": 18, "outlet_c": 60}}`, "cold.outlet_c", "counterflow"},
		{"exchanger-rating", `{"arrangement": "parallel", "hot": {"flow_l_min": 100, "inlet_c": 84, "outlet_c": 30}, "cold": {"flow_l_min": 70, "inlet_c": 18}}`, "arrangement", "no surface is large enough"},
		{"exchanger-rating", `{"hot": {"flow_l_min": 100, "inlet_c": 84, "outlet_c": 76}, "cold": {"flow_l_min": 70, "inlet_c": 18}, "ua_w_k": 900}`, "ua_w_k", "either"},
		{"exchanger-rating", `{"hot": {"inlet_c": 84, "outlet_c": 76}, "cold": {"flow_l_min": 70, "inlet_c": 18}}`,
			"hot.flow_l_min", "still missing"},
		{"exchanger-rating", `{"hot": {"flow_l_min": 100, "inlet_c": 84, "outlet_c": 84}, "cold": {"flow_l_min": 70, "inlet_c": 18}}`, "hot.outlet_c", "no heat passes"},
		{"tube-stack", `{"tubes": 20, "inner_diameter_mm": 9, "outer_diameter_mm": 8, "length_mm": 300, "flow_l_min": 60}`,
			"inner_diameter_mm", "wall"},
		{"tube-stack", `{"tubes": 20, "inner_diameter_mm": 6, "outer_diameter_mm": 8, "length_mm": 300, "flow_l_min": 60, "blocked_tubes": 19}`, "blocked_tubes", "no water goes through"},
		{"tube-stack", `{"tubes": 20.5, "inner_diameter_mm": 6, "outer_diameter_mm": 8, "length_mm": 300, "flow_l_min": 60}`,
			"tubes", "whole number"},
		{"tube-stack", `{"tubes": 20, "inner_diameter_mm": 6, "outer_diameter_mm": 8, "length_mm": 300, "flow_l_min": 60, "scale_thickness_mm": 2.9}`, "scale_thickness_mm", "count such tubes as blocked"},
		{"scale-mass", `{"ua_w_k": 990, "ua_clean_w_k": 950, "tubes": 52, "inner_diameter_mm": 6, "outer_diameter_mm": 8, "length_mm": 300}`, "ua_w_k", "better than clean"},
		{"engine-heat", `{"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "rpm": 3400}`, "rpm", "1.1"},
		{"engine-heat", `{"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "rpm": 2400, "coolant_share_percent": 70}`,
			"coolant_share_percent", "together"},
		{"exhaust-mix", `{"gas_kg_h": 280, "gas_c": 20, "water_l_min": 45, "water_c": 31}`, "gas_c", "swapped"},
		{"bucket-flow", `{"volume_l": 10, "seconds": []}`, "seconds", "still missing"},
		{"bucket-flow", `{"volume_l": 10, "seconds": [12, -1]}`, "seconds[1]", "out of range"},
		{"bucket-flow", `{"volume_l": 10, "volume_error_l": 11, "seconds": [12]}`, "volume_error_l",
			"as large as the bucket"},
		{"surface-thermometer", `{"reading_c": -40, "surface_emissivity": 0.1, "surroundings_c": 60}`, "reading_c",
			"no surface that fits"},
		{"surface-thermometer", `{"reading_c": 40, "surface_emissivity": 1.2}`, "surface_emissivity", "out of range"},
		{"thermostat-pot", `{"rating_c": 82, "readings": [{"temperature_c": 60, "lift_mm": 0}]}`, "readings", "at least 2"},
		{"thermostat-pot", `{"rating_c": 82, "readings": [{"temperature_c": 60, "lift_mm": 0, "rising": false}, {"temperature_c": 50, "lift_mm": 0, "rising": false}]}`, "readings", "on the way up"},
		{"descale", `{"acid": "phosphoric", "stock_percent_mass": 110, "target_percent_mass": 10, "volume_l": 18}`,
			"stock_percent_mass", "out of range"},
		{"descale", `{"acid": "hydrochloric", "stock_percent_mass": 60, "target_percent_mass": 10, "volume_l": 18}`,
			"stock_percent_mass", "not sold stronger"},
		{"descale", `{"acid": "phosphoric", "stock_percent_mass": 5, "target_percent_mass": 10, "volume_l": 18}`,
			"target_percent_mass", "weaker than what you want"},
		{"descale", `{"acid": "citric", "stock_percent_mass": 80, "target_percent_mass": 10, "volume_l": 18}`,
			"stock_percent_mass", "crystals"},
		{"coolant-mix", `{"system_volume_l": 14, "target_percent_volume": 70}`, "target_percent_volume", "0 to 60"},
		{"coolant-mix", `{"system_volume_l": 14, "target_freeze_c": -58}`, "target_freeze_c", "no ethylene glycol coolant"},
		{"coolant-mix", `{"system_volume_l": 14}`, "target_percent_volume", "still missing"},
		{"coolant-mix", `{"system_volume_l": 14, "target_percent_volume": 50, "target_freeze_c": -20}`, "target_freeze_c",
			"either"},
		{"coolant-mix", `{"system_volume_l": 14, "target_percent_volume": 50, "concentrate_percent_volume": 40}`,
			"concentrate_percent_volume", "weaker"},
		{"run-check", `{"rating_c": 82, "samples": {"seconds": [1, 2, 3], "coolant_c": [20, 21]}}`, "samples.seconds",
			"not equally long"},
		{"run-check", `{"rating_c": 82, "samples": "seconds,coolant_c\n1,20\n2,\n"}`, "samples[1].coolant_c", "line 3"},
		{"run-check", `{"rating_c": 82, "samples": "a,b\nx,y\n"}`, "samples", "must name the columns"},
		{"run-check", `{"rating_c": 82, "samples": "seconds,coolant_c\n1,\"20\n"}`, "samples", "cannot be read"},
		{"run-check", `{"rating_c": 82, "samples": {"seconds": [1, 2, 3, 4, 5, 6, 5, 8, 9, 10], "coolant_c": [20, 21, 22, 23, 24, 25, 26, 27, 28, 29]}}`, "samples[6].seconds", "goes back"},
		{"run-check", `{"rating_c": 82, "samples": {"seconds": [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], "coolant_c": [20, 21, 22, -300, 24, 25, 26, 27, 28, 29]}}`, "samples[3].coolant_c", "out of range"},
		{"repair-choice", `{"options": []}`, "options", "still missing"},
		{"repair-choice", `{"horizon_hours": 1e6, "options": [{"name": "a", "parts_cost": 1, "minutes": 1, "hourly_rate": 1, "running_hours": 1}]}`, "options[0].running_hours", "200 times"},
		{"impeller-fit", `{"old": {"bore_mm": 12}, "candidates": [{"bore_mm": 12}]}`, "candidates[0].name", "still missing"},
	} {
		s, ok := calculator.Find(c.name)
		require.True(t, ok)
		_, err := s.ComputeJSON([]byte(c.given), units.Metric)
		var wrong validation.Errors
		if !assert.ErrorAs(t, err, &wrong, "%s %s", c.name, c.given) {
			continue
		}
		told := false
		for _, w := range wrong {
			told = told || strings.HasPrefix(w.Field, c.field) && strings.Contains((w.Say+" "+w.Allowed).String(), c.says) &&
				w.Given != "" && w.Allowed != ""
		}
		assert.True(t, told, "%s %s: want %s %q, got %v", c.name, c.given, c.field, c.says, wrong)
	}
	s, _ := calculator.Find("sea-water")
	_, err := s.ComputeJSON([]byte(`[1]`), units.Metric)
	assert.ErrorContains(t, err, "not a JSON object")
}

// Whatever is given within the ranges, at their ends too: an answer without NaN or infinity, or a refusal that names
// its field.
func TestWhateverIsGivenNothingStrangeLeaves(t *testing.T) {
	for _, s := range calculator.All() {
		answered := 0
		rapid.Check(t, func(t *rapid.T) {
			given := drawGroup(t, s.Fields, "")
			a, err := s.Compute(given, units.Metric)
			var wrong validation.Errors
			if errors.As(err, &wrong) {
				for _, w := range wrong {
					require.NotEmpty(t, w.Field)
					require.NotEmpty(t, w.Say)
				}
				return
			}
			require.NoError(t, err)
			answered++
			_, err = json.Marshal(a.Result)
			require.NoError(t, err, "%v", given)
			requireFinite(t, reflect.ValueOf(a.Picture))
			requireFinite(t, reflect.ValueOf(a.Working))
			for _, u := range a.Uncertainty {
				require.False(t, math.IsNaN(u) || math.IsInf(u, 0))
			}
		})
		t.Logf("%s: %d answered", s.Name, answered)
	}
}

func drawGroup(t *rapid.T, fields []calculator.Field, path string) map[string]any {
	given := map[string]any{}
	for _, f := range fields {
		if f.Optional && rapid.Bool().Draw(t, path+f.Name+" left out") {
			continue
		}
		given[f.Name] = drawField(t, f, path+f.Name)
	}
	return given
}

func drawField(t *rapid.T, f calculator.Field, path string) any {
	switch f.Kind {
	case calculator.Number:
		v := rapid.OneOf(rapid.Float64Range(f.Min, f.Max), rapid.SampledFrom([]float64{f.Min, f.Max}),
			rapid.Float64Range(f.Min, min(f.Max, f.Min+100))).Draw(t, path)
		if rapid.IntRange(0, 9).Draw(t, path+" uncertain") == 0 {
			return map[string]any{"value": v, "error": rapid.Float64Range(0, 10).Draw(t, path+" error")}
		}
		return v
	case calculator.Integer:
		return float64(rapid.IntRange(int(f.Min), int(f.Max)).Draw(t, path))
	case calculator.Choice:
		return rapid.SampledFrom(f.Choices).Draw(t, path).ID
	case calculator.YesNo:
		return rapid.Bool().Draw(t, path)
	case calculator.Group:
		return drawGroup(t, f.Fields, path+".")
	case calculator.Numbers:
		return rapid.Map(rapid.SliceOfN(rapid.Float64Range(f.Min, f.Max), f.MinRows, 5), func(l []float64) []any {
			out := make([]any, len(l))
			for i, x := range l {
				out[i] = x
			}
			return out
		}).Draw(t, path)
	case calculator.Rows:
		list := make([]any, rapid.IntRange(f.MinRows, f.MinRows+6).Draw(t, path+" rows"))
		for i := range list {
			row := drawGroup(t, f.Fields, fmt.Sprintf("%s[%d].", path, i))
			if _, ok := row["seconds"]; ok {
				row["seconds"] = float64(60 * i)
			}
			list[i] = row
		}
		return list
	}
	return "a word"
}

func requireFinite(t *rapid.T, v reflect.Value) {
	switch v.Kind() {
	case reflect.Float64:
		require.False(t, math.IsNaN(v.Float()) || math.IsInf(v.Float(), 0))
	case reflect.Pointer:
		if !v.IsNil() {
			requireFinite(t, v.Elem())
		}
	case reflect.Struct:
		for i := range v.NumField() {
			requireFinite(t, v.Field(i))
		}
	case reflect.Slice:
		for i := range v.Len() {
			requireFinite(t, v.Index(i))
		}
	}
}

func TestFieldsAreWellFormed(t *testing.T) {
	for _, s := range calculator.All() {
		checkFields(t, s.Name, s.Fields)
		assert.NotEmpty(t, s.Asks)
		assert.True(t, strings.HasSuffix(s.Asks, "?"), s.Name)
	}
}

func checkFields(t *testing.T, path string, fields []calculator.Field) {
	for _, f := range fields {
		at := path + "." + f.Name
		assert.NotEmpty(t, f.Label, at)
		switch f.Kind {
		case calculator.Number, calculator.Integer, calculator.Numbers:
			_, err := units.Find(f.Unit)
			assert.NoError(t, err, at)
			assert.Less(t, f.Min, f.Max, at)
			for _, x := range f.Suggest {
				assert.True(t, x.Value >= f.Min && x.Value <= f.Max, "%s suggests %v", at, x.Value)
			}
			if d, ok := f.Default.(float64); ok {
				assert.True(t, d >= f.Min && d <= f.Max, at)
			}
		case calculator.Choice:
			assert.NotEmpty(t, f.Choices, at)
		}
		checkFields(t, at, f.Fields)
	}
}

func BenchmarkSums(b *testing.B) {
	for _, s := range calculator.All() {
		var given map[string]any
		if err := json.Unmarshal([]byte(s.Example), &given); err != nil {
			b.Fatal(err)
		}
		b.Run(s.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := s.Compute(given, units.Metric); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// The whole of run-check with 10,000 samples, from the JSON text on.
func BenchmarkRunCheck10000(b *testing.B) {
	for _, shape := range []string{"rows", "columns", "csv"} {
		body := longRun(shape)
		s, _ := calculator.Find("run-check")
		b.Run(shape, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := s.ComputeJSON(body, units.Metric); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func longRun(shape string) []byte {
	const n = 10000
	var rows, seconds, coolant, csv []string
	for i := range n {
		c := math.Min(20+float64(i)/10, 84) + 0.3*math.Sin(float64(i*i))
		rows = append(rows, fmt.Sprintf(`{"seconds": %d, "coolant_c": %.2f}`, i, c))
		seconds, coolant = append(seconds, fmt.Sprint(i)), append(coolant, fmt.Sprintf("%.2f", c))
		csv = append(csv, fmt.Sprintf(`%d,%.2f`, i, c))
	}
	switch shape {
	case "rows":
		return []byte(`{"rating_c": 82, "samples": [` + strings.Join(rows, ",") + `]}`)
	case "columns":
		return []byte(`{"rating_c": 82, "samples": {"seconds": [` + strings.Join(seconds, ",") + `], "coolant_c": [` +
			strings.Join(coolant, ",") + `]}}`)
	}
	return []byte(`{"rating_c": 82, "samples": "seconds,coolant_c\n` + strings.Join(csv, `\n`) + `"}`)
}
