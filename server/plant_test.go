package server_test

import (
	"net/http"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
)

func number(v float64) string { return strconv.FormatFloat(v, 'f', 3, 64) }

const plantEngine = `"engine": {"family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82, "circuit":
	["intake", "seacock", "strainer", "suction-hose", "raw-pump", "oil-cooler", "exchanger", "raw-hoses", "elbow", "outlet", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge"]}`

func plantQuestion(rest string) string { return "{" + plantEngine + ", " + rest + "}" }

func TestWhatShouldSheRead(t *testing.T) {
	h := newHouse(t)
	well := read[api.PlantState](t, h.send(http.MethodPost, "/api/v1/plant/steady", plantQuestion(`"operation": {"rpm": 2400, "sea_c": 15}`)))
	assert.InDelta(t, 84, well.BlockC, 3)
	assert.False(t, well.Boils)
	clogged := read[api.PlantState](t, h.send(http.MethodPost, "/api/v1/plant/steady",
		plantQuestion(`"operation": {"rpm": 2400, "sea_c": 15}, "faults": [{"id": "strainer-clogged", "severity": 0.8}]`)))
	assert.Less(t, clogged.RawLMin, 0.7*well.RawLMin)
	assert.Greater(t, clogged.VacuumKpa, well.VacuumKpa)
	assert.NotEmpty(t, clogged.Readings)
}

func TestHowLongFromLosingTheWater(t *testing.T) {
	h := newHouse(t)
	run := read[api.PlantMoments](t, h.send(http.MethodPost, "/api/v1/plant/transient",
		plantQuestion(`"phases": [{"until_s": 60, "operation": {"rpm": 2400, "sea_c": 15}}, {"until_s": 360, "operation": {"rpm": 2400, "sea_c": 15}, "faults": [{"id": "impeller-drive-failed", "severity": 1}]}], "every_s": 5`)))
	first, last := run.Moments[0], run.Moments[len(run.Moments)-1]
	assert.InDelta(t, first.BlockC, run.Moments[11].BlockC, 0.1, "at rest until the water is lost")
	assert.Greater(t, last.BlockC, first.BlockC+15)
	assert.InDelta(t, 360, last.Seconds, 1e-6)
}

func TestARoundTellsTheHealth(t *testing.T) {
	h := newHouse(t)
	s := read[api.PlantState](t, h.send(http.MethodPost, "/api/v1/plant/steady",
		plantQuestion(`"operation": {"rpm": 3000, "sea_c": 18}, "faults": [{"id": "impeller-tired", "severity": 0.6}]`)))
	var list []string
	for _, r := range s.Readings {
		if strings.Contains("exchanger thermostat raw-hoses outlet", r.Station) {
			list = append(list, `{"station": "`+r.Station+`", "side": "`+string(r.Side)+`", "value": `+number(r.TempC)+`}`)
		}
	}
	list = append(list, `{"station": "flow", "value": `+number(s.RawLMin)+`}`)
	got := read[api.PlantHealth](t, h.send(http.MethodPost, "/api/v1/plant/health",
		plantQuestion(`"rounds": [{"operation": {"rpm": 3000, "sea_c": 18}, "readings": [`+strings.Join(list, ",")+`]}]`)))
	assert.Equal(t, "raw-flow-low", got.Findings[0].Id)
	assert.Greater(t, got.Findings[0].Q, 0.95)
	assert.NotEmpty(t, got.Words)
}

func TestThePlantRefusesWhatCannotBe(t *testing.T) {
	h := newHouse(t)
	for _, c := range []struct{ path, body, field string }{
		{"steady", plantQuestion(`"operation": {"rpm": 9000, "sea_c": 15}`), "operation.rpm"},
		{"steady", plantQuestion(`"operation": {"rpm": 2000, "sea_c": 70}`), "operation.sea_c"},
		{"steady", plantQuestion(`"operation": {"rpm": 2000, "sea_c": 15}, "faults": [{"id": "gremlins", "severity": 1}]`), "faults[0].id"},
		{"transient", plantQuestion(`"phases": [{"until_s": 60, "operation": {"rpm": 2400, "sea_c": 15}}, {"until_s": 30, "operation": {"rpm": 2400, "sea_c": 15}}]`), "phases[1].until_s"},
		{"transient", plantQuestion(`"phases": [{"until_s": 60, "operation": {"rpm": 9400, "sea_c": 15}}]`), "phases[0].operation.rpm"},
		{"health", plantQuestion(`"rounds": [{"operation": {"rpm": 2400, "sea_c": 15}, "readings": [{"station": "mast", "value": 20}]}]`), "rounds[0].readings[0].station"},
	} {
		w := h.send(http.MethodPost, "/api/v1/plant/"+c.path, c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, c.field)
		assert.Contains(t, w.Body.String(), `"`+c.field+`"`)
	}
}

func TestARoundIsKeptJudgedAndFeedsTheDiagnosis(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	round := func(flow, outlet float64) map[string]any {
		return map[string]any{"kind": "round", "words": "off the quay", "round": map[string]any{"operation": map[string]any{"rpm": 2800, "sea_c": 18},
			"readings": []map[string]any{{"station": "flow", "value": flow}, {"station": "outlet", "side": "raw", "value": outlet, "instrument": "surface"}}}}
	}
	before := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, ""))
	p := read[api.JobPage](t, h.note(job, round(28, 55)))
	require.Len(t, p.Rounds, 1)
	assert.Equal(t, "off the quay", p.Rounds[0].Words)
	assert.InDelta(t, 1.4, *p.Rounds[0].Round.Readings[0].Error, 1e-9, "5 % of the flow")
	assert.InDelta(t, 2, *p.Rounds[0].Round.Readings[1].Error, 1e-9, "a surface thermometer's")
	assert.NotEmpty(t, *p.Rounds[0].Should)
	require.NotNil(t, p.Health)
	assert.Equal(t, "raw-flow-low", p.Health.Patterns[0].Id)
	var low *api.Known
	for i, f := range p.Findings {
		if f.Id == "raw-flow-low" {
			low = &p.Findings[i]
		}
	}
	require.NotNil(t, low, "the round tells it")
	assert.Greater(t, low.Q, 0.9)
	assert.Equal(t, "reckoned from 1 round of readings", *low.FromRecord)
	chance := func(p api.JobPage, fault string) float64 {
		for _, s := range p.Diagnosis.Suspects {
			if s.Fault == fault {
				return s.Probability
			}
		}
		return 0
	}
	assert.Greater(t, chance(p, "strainer-clogged"), chance(before, "strainer-clogged"))

	// what somebody says in the job counts before what is reckoned
	p = read[api.JobPage](t, h.note(job, map[string]any{"kind": "finding", "stated": stated("raw-flow-low", "absent")}))
	for _, f := range p.Findings {
		if f.Id == "raw-flow-low" {
			assert.Zero(t, f.Q)
		}
	}
	bad := h.note(job, map[string]any{"kind": "round", "round": map[string]any{"operation": map[string]any{"rpm": 9000, "sea_c": 18}, "readings": []map[string]any{{"station": "flow", "value": 28}}}})
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Code)
	assert.Contains(t, bad.Body.String(), "round.operation.rpm")
}

func TestSlipsAreAskedAbout(t *testing.T) {
	h := newHouse(t)
	got := read[api.PlantHealth](t, h.send(http.MethodPost, "/api/v1/plant/health", plantQuestion(`"rounds": [{"operation": {"rpm": 2400, "sea_c": 15}, "readings": [
		{"station": "thermostat", "side": "coolant", "value": 180}, {"station": "raw-hoses", "side": "raw", "value": 10}, {"station": "flow", "value": 51}]}]`)))
	require.Len(t, got.Doubts, 2)
	assert.Contains(t, got.Doubts[0].Say, "was it °F? That would be 82 °C")
	assert.Contains(t, got.Doubts[1].Say, "colder than the sea")
	swapped := read[api.PlantHealth](t, h.send(http.MethodPost, "/api/v1/plant/health", plantQuestion(`"rounds": [{"operation": {"rpm": 2400, "sea_c": 15}, "readings": [
		{"station": "thermostat", "side": "coolant", "value": 30}, {"station": "raw-hoses", "side": "raw", "value": 82}]}]`)))
	assert.Contains(t, swapped.Doubts[0].Say, "swapped")
}
