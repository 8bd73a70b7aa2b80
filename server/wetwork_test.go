package server_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/server"
)

func (h *house) wet(job string, act map[string]any) *httptest.ResponseRecorder {
	return h.note(job, map[string]any{"kind": "wet", "wet": act})
}

func closedJob(t *testing.T, h *house) string {
	t.Helper()
	_, engine := h.engineOn("closed")
	job := id()
	read[api.JobPage](t, h.put("/jobs/"+job, map[string]any{"entry_id": id(), "by": "Kit Venn", "engine_id": engine}))
	return job
}

func descale(change map[string]any) map[string]any {
	plan := map[string]any{"place": "in-place", "product": map[string]any{"id": "phosphoric-75",
		"label": "Phosphoric acid, 75 %", "acid": "phosphoric", "stock_percent_mass": 75}, "target_percent_mass": 10,
		"loop": []string{"elbow"}, "materials": map[string]any{"elbow": []string{"copper-alloy"}}, "anodes_out": true,
		"loop_l": 4, "hoses_l": 3, "tank_l": 25, "bath_l": 18, "minutes": 60}
	for k, v := range change {
		plan[k] = v
	}
	return plan
}

// A descaling from plan to end: the timer goes by the program's clock whatever the device says, what is left undone
// keeps the job open, and the engine's record has it.
func TestADescalingFromPlanToRecord(t *testing.T) {
	h := newHouse(t)
	job := closedJob(t, h)
	work := id()
	p := read[api.JobPage](t, h.wet(job, map[string]any{"do": "plan", "work": work, "kind": "descale",
		"descale": descale(nil)}))
	require.Len(t, p.Wet.Works, 1)
	assert.InDelta(t, 16.8, p.Wet.Works[0].Bath.WaterL, 0.5)
	assert.NotEmpty(t, p.Wet.Works[0].Steps)
	// a device whose clock is three hours slow, or goes ahead, moves the timer as little as any: it says when it sends
	for _, off := range []time.Duration{-3 * time.Hour, 3 * time.Hour} {
		at := func(ago time.Duration) string { return time.Now().Add(off - ago).UTC().Format(time.RFC3339Nano) }
		tapped := func(do string, ago time.Duration) api.JobPage {
			raw, err := json.Marshal(map[string]any{"kind": "wet", "by": "Kit Venn", "tapped_at": at(ago),
				"wet": map[string]any{"do": do, "work": work}})
			require.NoError(t, err)
			return read[api.JobPage](t, h.send(http.MethodPut, server.BasePath+"/jobs/"+job+"/entries/"+id(), string(raw),
				"Hevrin-Sent-At", at(0)))
		}
		before := p.Wet.Works[0].ElapsedS
		p = tapped("begin", 20*time.Minute)
		assert.True(t, p.Wet.Works[0].Running)
		assert.InDelta(t, before+20*60, p.Wet.Works[0].ElapsedS, 60, "it waited twenty minutes for a link")
		p = tapped("stop", 5*time.Minute)
		assert.InDelta(t, before+15*60, p.Wet.Works[0].ElapsedS, 60)
	}
	p = read[api.JobPage](t, h.wet(job, map[string]any{"do": "begin", "work": work}))
	p = read[api.JobPage](t, h.wet(job, map[string]any{"do": "read", "work": work, "bath": map[string]any{"ph": 4.4,
		"fizz": "weak"}}))
	assert.Contains(t, p.Wet.Works[0].Advice[0], "spent")
	p = read[api.JobPage](t, h.wet(job, map[string]any{"do": "end", "work": work, "words": "clean", "hours": 1312}))
	assert.Equal(t, []string{"rinsed", "neutralised", "refitted"}, p.Wet.Works[0].Missing)
	end := map[string]any{"kind": "closed", "explains_everything": true, "words": "done"}
	refused := h.note(job, end)
	assert.Equal(t, http.StatusConflict, refused.Code)
	assert.Contains(t, refused.Body.String(), "not yet neutralised")
	for _, stage := range []string{"rinsed", "neutralised", "refitted"} {
		read[api.JobPage](t, h.wet(job, map[string]any{"do": "stage", "work": work, "what": stage}))
	}
	p = read[api.JobPage](t, h.note(job, end))
	require.Len(t, p.Card.Works, 1)
	line := p.Card.Works[0]
	assert.Equal(t, "Phosphoric acid, 75 %", *line.Product)
	assert.Equal(t, 1312.0, *line.Hours)
	assert.Equal(t, time.Now().AddDate(2, 0, 0).UTC().Format("2006-01-02"), *line.Due)
}

func TestWhatThePlannerRefuses(t *testing.T) {
	h := newHouse(t)
	job := closedJob(t, h)
	plan := func(kind string, plan map[string]any) *httptest.ResponseRecorder {
		return h.wet(job, map[string]any{"do": "plan", "work": id(), "kind": kind, kind: plan})
	}
	coolant := map[string]any{"block_l": 9, "exchanger_l": 3, "header_l": 1, "heater_l": 0, "glycol": "ethylene",
		"target_percent_volume": 65, "concentrate_percent_volume": 100, "vessel_l": 10, "type": "hybrid"}
	for field, w := range map[string]*httptest.ResponseRecorder{
		"wet.flush.exhaust_off": plan("flush", map[string]any{"station": "elbow", "debris": "sand",
			"source": "hose"}),
		"wet.descale.materials": plan("descale",
			descale(map[string]any{"materials": map[string]any{"elbow": []string{"aluminium"}}})),
		"wet.descale.target_percent_mass":   plan("descale", descale(map[string]any{"target_percent_mass": 40})),
		"wet.descale.tank_l":                plan("descale", descale(map[string]any{"tank_l": 10})),
		"wet.coolant.target_percent_volume": plan("coolant", coolant),
		"wet.coolant.vessel_l":              plan("coolant", coolant),
	} {
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), `"`+field+`"`)
	}
	assert.Equal(t, http.StatusConflict, h.wet(job, map[string]any{"do": "begin", "work": id()}).Code,
		"nothing was planned")
	assert.Empty(t, read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Wet.Works)
}

// The yard's own product, and a coolant change with its balance.
func TestProductsAndACoolantChange(t *testing.T) {
	h := newHouse(t)
	job := closedJob(t, h)
	mine := map[string]any{"id": "own-mix", "label": "Dock mix", "parts_water": 4, "minutes": 45}
	book := read[api.YardMethods](t, h.put("/methods/entries/"+id(), map[string]any{"kind": "product", "by": "Kit Venn",
		"product": mine}))
	assert.Equal(t, "Dock mix", book.Products[len(book.Products)-1].Label)
	bad := h.put("/methods/entries/"+id(), map[string]any{"kind": "product", "by": "Kit Venn",
		"product": map[string]any{"id": "x", "label": "X"}})
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Code)
	work := id()
	coolant := map[string]any{"block_l": 9, "exchanger_l": 3, "header_l": 1, "heater_l": 2, "glycol": "ethylene",
		"target_percent_volume": 45, "concentrate_percent_volume": 100, "vessel_l": 20, "type": "long-life"}
	var p api.JobPage
	for _, act := range []map[string]any{{"do": "plan", "kind": "coolant", "coolant": coolant}, {"do": "drained",
		"litres": 14.2}, {"do": "filled", "litres": 12.5}} {
		act["work"] = work
		p = read[api.JobPage](t, h.wet(job, act))
	}
	assert.InDelta(t, 6.75, *p.Wet.Works[0].ConcentrateL, 1e-9)
	assert.Contains(t, p.Wet.Works[0].Balance, "air is trapped")
	assert.Equal(t, 5, *p.Wet.Works[0].Years)
}
