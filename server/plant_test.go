package server_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
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

func (h *house) postJSON(path string, body any) *httptest.ResponseRecorder {
	h.t.Helper()
	b, err := json.Marshal(body)
	require.NoError(h.t, err)
	return h.send(http.MethodPost, path, string(b))
}

func plantQuestion(rest string) string { return "{" + plantEngine + ", " + rest + "}" }

func TestWhatShouldSheRead(t *testing.T) {
	h := newHouse(t)
	well := read[api.PlantState](t, h.send(http.MethodPost, "/api/v1/plant/steady",
		plantQuestion(`"operation": {"rpm": 2400, "sea_c": 15}`)))
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
		{"steady", plantQuestion(`"operation": {"rpm": 2000, "sea_c": 15}, "faults": [{"id": "gremlins", "severity": 1}]`),
			"faults[0].id"},
		{"transient", plantQuestion(`"phases": [{"until_s": 60, "operation": {"rpm": 2400, "sea_c": 15}}, {"until_s": 30, "operation": {"rpm": 2400, "sea_c": 15}}]`), "phases[1].until_s"},
		{"transient", plantQuestion(`"phases": [{"until_s": 60, "operation": {"rpm": 9400, "sea_c": 15}}]`),
			"phases[0].operation.rpm"},
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
		return map[string]any{"kind": "round", "words": "off the quay",
			"round": map[string]any{"operation": map[string]any{"rpm": 2800, "sea_c": 18},
				"readings": []map[string]any{{"station": "flow", "value": flow}, {"station": "outlet", "side": "raw",
					"value": outlet, "instrument": "surface"}}}}
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
	var low *api.Statement
	for i, f := range p.Findings {
		if f.Id == "raw-flow-low" {
			low = &p.Findings[i]
		}
	}
	require.NotNil(t, low, "the round tells it")
	assert.Greater(t, low.Q, 0.9)
	assert.Equal(t, "computed from 1 round of readings", *low.FromRecord)
	chance := func(p api.JobPage, fault string) float64 {
		for _, s := range p.Diagnosis.Suspects {
			if s.Fault == fault {
				return s.Probability
			}
		}
		return 0
	}
	assert.Greater(t, chance(p, "strainer-clogged"), chance(before, "strainer-clogged"))

	// what somebody says in the job counts before what is computed
	p = read[api.JobPage](t, h.note(job, map[string]any{"kind": "finding", "stated": stated("raw-flow-low", "absent")}))
	for _, f := range p.Findings {
		if f.Id == "raw-flow-low" {
			assert.Zero(t, f.Q)
		}
	}
	bad := h.note(job, map[string]any{"kind": "round", "round": map[string]any{"operation": map[string]any{"rpm": 9000,
		"sea_c": 18}, "readings": []map[string]any{{"station": "flow", "value": 28}}}})
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

func TestTheFactsTakenForAnEngine(t *testing.T) {
	h := newHouse(t)
	types := read[api.PlantTypes](t, h.send(http.MethodGet, "/api/v1/plant/types", ""))
	assert.GreaterOrEqual(t, len(types.Types), 5)
	assert.Contains(t, types.Faults, "tubes-scaled")
	engine := strings.TrimSuffix(plantEngine, "}") +
		`, "cooling": {"raw_l_min": 80, "exchanger_rating": {"heat_kw": 50, "coolant_l_min": 95, "coolant_in_c": 90, "raw_l_min": 70, "raw_in_c": 30}}}`
	list := read[api.PlantFactList](t, h.send(http.MethodPost, "/api/v1/plant/facts", "{"+engine+"}"))
	from := map[string]string{}
	for _, f := range list.Facts {
		from[f.Id] = string(f.From)
	}
	assert.Equal(t, map[string]string{"propeller_exponent": "usual", "raw_l_min": "given", "block_kj_k": "usual",
		"ua_w_k": "reckoned", "coolant_l_min": "usual", "glycol_percent_volume": "usual", "alarm_c": "usual"}, from)
	bad := h.send(http.MethodPost, "/api/v1/plant/facts", "{"+strings.Replace(engine, `"raw_l_min": 80`,
		`"raw_l_min": 800000`, 1)+"}")
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Code)
	assert.Contains(t, bad.Body.String(), `"engine.cooling.raw_l_min"`)
}

func TestWhatWouldOverheatHer(t *testing.T) {
	h := newHouse(t)
	ask := func(rest string) api.PlantLimits {
		return read[api.PlantLimits](t, h.send(http.MethodPost, "/api/v1/plant/limits",
			plantQuestion(`"operation": {"rpm": 2800, "sea_c": 18}`+rest)))
	}
	well, scaled := ask(""), ask(`, "faults": [{"id": "tubes-scaled", "severity": 0.5}]`)
	assert.InDelta(t, 97, well.AlarmC, 1e-9)
	assert.Nil(t, well.SeaC)
	require.NotNil(t, well.AlarmS)
	assert.Greater(t, *well.AlarmS, 30.0)
	assert.Less(t, scaled.MarginK, well.MarginK)
	assert.Greater(t, scaled.Gone, 0.2)
	assert.Len(t, well.Picture.Lines, 1)
	assert.Len(t, scaled.Picture.Lines, 2)
	for rest, field := range map[string]string{`"operation": {"rpm": 2800, "sea_c": 18}, "alarm_c": 50`: "alarm_c",
		`"operation": {"rpm": 28000, "sea_c": 18}`: "operation.rpm"} {
		w := h.send(http.MethodPost, "/api/v1/plant/limits", plantQuestion(rest))
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), `"`+field+`"`)
	}
}

func TestABaselineIsKeptByTheRoute(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	engine := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Engine
	asked := map[string]any{"family": engine.Family, "fuel": engine.Fuel, "rated_kw": engine.RatedKw,
		"rated_rpm": engine.RatedRpm, "thermostat_c": engine.ThermostatC, "circuit": engine.Circuit}
	op := map[string]any{"rpm": 0.9 * engine.RatedRpm, "sea_c": 15}
	s := read[api.PlantState](t, h.postJSON("/api/v1/plant/steady", map[string]any{"engine": asked, "operation": op}))
	readings := []map[string]any{{"station": "flow", "value": s.RawLMin}}
	for _, r := range s.Readings {
		if strings.Contains("exchanger thermostat raw-hoses", r.Station) {
			readings = append(readings, map[string]any{"station": r.Station, "side": r.Side, "value": r.TempC})
		}
	}
	readings = append(readings, map[string]any{"station": "outlet", "side": "raw", "value": s.ElbowC - 6,
		"instrument": "surface", "surface": "rust"})
	p := read[api.JobPage](t, h.note(job, map[string]any{"kind": "round", "round": map[string]any{"operation": op,
		"readings": readings}}))
	outlet := p.Rounds[0].Round.Readings[len(readings)-1]
	assert.InDelta(t, s.ElbowC-6, *outlet.AsRead, 1e-9)
	assert.NotEqual(t, *outlet.AsRead, outlet.Value, "what rust sends is not what the thermometer is set for")
	assert.Greater(t, *outlet.Error, 2.0)
	page := read[api.EnginePage](t, h.put("/engines/"+engine.Id+"/baseline", map[string]any{"entry_id": id(),
		"by": "Kit Venn", "job_id": job, "rounds": []string{p.Rounds[0].EntryId}}))
	require.NotNil(t, page.Engine.Baseline)
	assert.Equal(t, p.Rounds[0].Round, page.Engine.Baseline.Rounds[0])
	standard := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Standard
	assert.Equal(t, api.ComparisonKind("baseline"), standard.Kind)
	asked["standard"] = standard
	should := read[api.PlantState](t, h.postJSON("/api/v1/plant/steady", map[string]any{"engine": asked, "operation": op}))
	require.NotNil(t, should.Standard)
	assert.Len(t, *should.Standard, len(readings))
}

func TestHealthSpeaksInAPersonsUnits(t *testing.T) {
	h := newHouse(t)
	body := plantQuestion(`"rounds": [{"operation": {"rpm": 2400, "sea_c": 15}, "readings": [{"station": "thermostat", "side": "coolant", "value": 180}, {"station": "gauge", "value": 84}]}]`)
	us := read[api.PlantHealth](t, h.send(http.MethodPost, "/api/v1/plant/health?units=us", body))
	assert.NotContains(t, strings.Join(us.Words, " "), " K")
	assert.NotEmpty(t, us.Next)
	assert.InDelta(t, 1, *(*us.Rounds)[0].Readings[0].Error, 1e-9)
}

func jsonInto(text string, into any) error { return json.Unmarshal([]byte(text), into) }
