package server_test

import (
	"net/http"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

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
