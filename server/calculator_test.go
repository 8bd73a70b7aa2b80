package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/core/calculator"
)

func TestTheSumsAreListedWithFieldsUnitsAndRanges(t *testing.T) {
	h := newHouse(t)
	list := read[api.CalculatorList](t, h.send(http.MethodGet, "/api/v1/calc", ""))
	assert.Len(t, list.Sums, len(calculator.All()))
	units := map[string]api.Unit{}
	for _, u := range list.Units {
		units[u.Id] = u
	}
	for _, u := range list.Units {
		for _, as := range []string{u.ShownAs.Metric, u.ShownAs.Us, u.ShownAs.Imperial} {
			assert.Equal(t, u.Dimension, units[as].Dimension, "%s shown as %s", u.Id, as)
		}
	}
	for _, s := range list.Sums {
		for _, f := range s.Fields {
			if f.Kind == api.CalculatorFieldKindNumber {
				assert.Contains(t, units, *f.Unit, "%s %s", s.Name, f.Name)
				assert.Less(t, *f.Min, *f.Max)
			}
		}
	}
}

// Every sum answers its own example through the route, and all its cautions are the trade's.
func TestEverySumAnswersThroughItsRoute(t *testing.T) {
	h := newHouse(t)
	for _, s := range calculator.All() {
		w := h.send(http.MethodPost, "/api/v1/calc/"+s.Name, s.Example)
		a := read[api.CalculatorAnswer](t, w)
		for _, r := range s.Results {
			assert.Contains(t, a.Result, r.Name, s.Name)
		}
		assert.NotEmpty(t, a.Working)
		assert.GreaterOrEqual(t, len(a.Cautions), len(s.Cautions), "%s has a caution that the trade does not know", s.Name)
	}
	w := h.send(http.MethodPost, "/api/v1/calc/descale",
		`{"acid": "hydrochloric", "stock_percent_mass": 20, "target_percent_mass": 5, "volume_l": 10}`)
	a := read[api.CalculatorAnswer](t, w)
	var labels []string
	for _, k := range a.Cautions {
		labels = append(labels, k.Id)
	}
	assert.Equal(t, []string{"acid-bath", "hydrogen", "carbon-dioxide", "waste", "limits"}, labels)
	assert.Contains(t, strings.Join(a.Warnings, " "), "on the bench only")
}

func TestASumThatDoesNotFitIsToldByField(t *testing.T) {
	h := newHouse(t)
	w := h.send(http.MethodPost, "/api/v1/calc/heat-carried", `{"flow_l_min": -1, "inlet_c": "warm", "outlet_c": 20}`)
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	var p api.Problem
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
	require.Len(t, *p.Errors, 2)
	assert.Equal(t, "flow_l_min", (*p.Errors)[0].Field)
	assert.Equal(t, "-1", (*p.Errors)[0].Given)
	assert.Equal(t, "0.01 to 20000 L/min", (*p.Errors)[0].Allowed)
	assert.Contains(t, (*p.Errors)[1].Say, "is not a number")
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodPost, "/api/v1/calc/horoscope", `{}`).Code)
	assert.Equal(t, http.StatusBadRequest, h.send(http.MethodPost, "/api/v1/calc/heat-carried",
		`{"flow_l_min": NaN}`).Code)
	assert.Equal(t, http.StatusUnprocessableEntity, h.send(http.MethodPost, "/api/v1/calc/heat-carried?units=cubits",
		`{}`).Code)
}

func TestTheGallonIsTheSystems(t *testing.T) {
	h := newHouse(t)
	for units, litres := range map[string]float64{"metric": 37.854, "us": 37.854, "imperial": 45.461} {
		w := h.send(http.MethodPost, "/api/v1/calc/heat-carried?units="+units,
			`{"flow_l_min": "10 gpm", "inlet_c": 10, "outlet_c": 20}`)
		a := read[api.CalculatorAnswer](t, w)
		assert.InDelta(t, litres, a.Understood["flow_l_min"].Value, 0.001, units)
	}
}

func TestASumIsKeptInAJob(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	entry := func() string { return "/jobs/" + job + "/entries/" + uuid.NewString() }
	body := map[string]any{"kind": "sum", "by": "Ide", "words": "at 2400",
		"sum": map[string]any{"name": "bucket-flow", "units": "us", "given": map[string]any{"volume_l": "2.5 gal",
			"seconds": []any{12, 13, 14}}}}
	path := entry()
	w := h.put(path, body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, h.put(path, body).Code, "sent twice, kept once")
	p := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, ""))
	require.Len(t, p.Sums, 1)
	kept := p.Sums[0]
	assert.Equal(t, "How much raw water does it pump?", kept.Asks)
	assert.InDelta(t, 60*2.5*3.785411784/13, *kept.Figures[0].Value, 1e-9)
	assert.Equal(t, "L/min", *kept.Figures[0].Unit)
	assert.Equal(t, "at 2400", kept.Words)
	assert.Equal(t, "2.5 gal", kept.Given["volume_l"])
	assert.Equal(t, kept.Asks, *p.Log[len(p.Log)-1].Sum)
	for given, field := range map[string]string{
		`{"name": "bucket-flow", "given": {"volume_l": -1, "seconds": [12]}}`: "sum.given.volume_l",
		`{"name": "horoscope", "given": {}}`:                                  "sum.name",
	} {
		var asked map[string]any
		require.NoError(t, json.Unmarshal([]byte(given), &asked))
		w := h.put(entry(), map[string]any{"kind": "sum", "by": "Ide", "sum": asked})
		require.Equal(t, http.StatusUnprocessableEntity, w.Code)
		assert.Contains(t, w.Body.String(), fmt.Sprintf("%q", field))
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.put(entry(), map[string]any{"kind": "note", "by": "Ide",
		"words": "x", "sum": body["sum"]}).Code, "a note has no calculator")
}
