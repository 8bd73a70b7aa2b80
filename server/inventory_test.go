package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/server"
)

func (h *house) onShelf(body map[string]any) api.Inventory {
	h.t.Helper()
	body["by"] = "T"
	return read[api.Inventory](h.t, h.put("/inventory/entries/"+id(), body))
}

func TestTheShelfAndItsSupplier(t *testing.T) {
	h := newHouse(t)
	_, engine := h.engineOn("direct")
	part := id()
	s := h.onShelf(map[string]any{"do": "keep", "part": part, "is": map[string]any{"label": "Impeller",
		"number": "LM-2051", "minimum": 2, "upkeep": "impeller", "fits": []map[string]any{{"engine": engine, "how": "tried"}},
		"impeller": map[string]any{"outside_diameter_mm": 65, "width_mm": 50.8, "bore_mm": 16, "drive": "key",
			"blades": 10}}})
	require.Len(t, s.ToOrder, 1)
	w := h.put("/inventory/entries/"+id(), map[string]any{"by": "T", "do": "order", "part": part, "order": "o1",
		"number": "LM-2051", "quantity": 2})
	require.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "superseded: order LM-2052", "the old number is told its new one")
	w = h.put("/inventory/entries/"+id(), map[string]any{"by": "T", "do": "order", "part": part, "order": "o1",
		"number": "XX-1", "quantity": 2})
	assert.Equal(t, http.StatusConflict, w.Code)
	s = h.onShelf(map[string]any{"do": "order", "part": part, "order": "o1", "number": "LM-2052", "quantity": 2})
	assert.Empty(t, s.ToOrder)
	require.Len(t, s.Lines[0].Orders, 1)
	assert.InDelta(t, 36.9, s.Lines[0].Orders[0].Price, 1e-9, "the supplier's price")
	s = h.onShelf(map[string]any{"do": "receive", "part": part, "order": "o1", "quantity": 2})
	assert.InDelta(t, 2, s.Lines[0].Have, 1e-9)
	s = h.onShelf(map[string]any{"do": "wrong", "part": part, "quantity": 1, "number": "LM-2060",
		"words": "spline, not key"})
	assert.Equal(t, "spline, not key", s.Lines[0].Wrong[0].Words)
	assert.Equal(t, http.StatusUnprocessableEntity, h.put("/inventory/entries/"+id(), map[string]any{"by": "T",
		"do": "count", "part": part, "quantity": -1}).Code)

	w = h.send(http.MethodPost, server.BasePath+"/inventory/impeller-fit",
		`{"outside_diameter_mm": 65.1, "width_mm": 50.9, "bore_mm": 16, "drive": "key", "blades": 10, "insert": "brass", "cover_seal": "o-ring"}`)
	fit := read[api.Fittings](t, w)
	require.NotEmpty(t, fit.List)
	assert.Equal(t, api.FittingsListFit("fits"), fit.List[0].Fit)
	assert.Contains(t, fit.List[0].Name, "LM-2052 at the supplier")
	w = h.send(http.MethodPost, server.BasePath+"/inventory/impeller-fit", `{"outside_diameter_mm": 65.1, "bore_mm": 160}`)
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `"field":"bore_mm"`, "under the name that was sent")
	assert.Equal(t, api.FittingsListFit("does-not-fit"), fit.List[len(fit.List)-1].Fit)
	list := read[api.SupplierList](t, h.send(http.MethodGet, server.BasePath+"/supplier?find=anode", ""))
	require.Len(t, list.Items, 1)
	csv := h.send(http.MethodGet, server.BasePath+"/inventory.csv", "")
	assert.Contains(t, csv.Body.String(), "spline, not key")
}

func TestFitsByThePumpByTheirRoute(t *testing.T) {
	h := newHouse(t)
	craft, engine := h.engineOn("closed")
	_, other := h.engineOn("direct")
	facts := map[string]any{"entry_id": id(), "by": "T", "craft_id": craft, "name": "main", "family": "closed",
		"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82,
		"raw_pump": "  LM-P65  ", "circuit": []string{"intake", "seacock", "strainer", "raw-pump", "exchanger", "elbow",
			"outlet", "header", "circ-pump", "block", "thermostat", "gauge"}}
	page := read[api.EnginePage](t, h.put("/engines/"+engine, facts))
	assert.Equal(t, "LM-P65", page.Engine.RawPump)
	keep := func(fits ...map[string]any) map[string]any {
		return map[string]any{"by": "T", "do": "keep", "part": id(), "is": map[string]any{"label": "Seal", "fits": fits}}
	}
	s := h.onShelf(keep(map[string]any{"pump": "lm p65", "how": "measured"}))
	assert.Equal(t, map[string][]string{"lm p65": {page.Craft.Name + ", main"}}, s.Pumps)
	require.NotNil(t, s.Lines[0].Is.Fits)
	assert.Equal(t, "lm p65", *(*s.Lines[0].Is.Fits)[0].Pump)
	of := func(engine string) api.Inventory {
		return read[api.Inventory](t, h.send(http.MethodGet, server.BasePath+"/inventory?engine="+engine, ""))
	}
	assert.Len(t, of(engine).Lines, 1)
	assert.Empty(t, of(other).Lines)
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, server.BasePath+"/inventory?engine="+id(), "").Code)
	for name, fit := range map[string]map[string]any{"neither": {"how": "tried"}, "both": {"how": "tried",
		"engine": engine, "pump": "x"}, "no way": {"pump": "x", "how": "felt"}} {
		assert.GreaterOrEqual(t, h.put("/inventory/entries/"+id(), keep(fit)).Code, 400, name)
	}
	assert.Contains(t, h.send(http.MethodGet, server.BasePath+"/inventory.csv", "").Body.String(),
		"pump lm p65 (measured)")
	// of two devices that change a part at once the second is told
	change := func(where string) map[string]any {
		return map[string]any{"by": "T", "do": "keep", "part": s.Lines[0].Id, "seen": s.Lines[0].Kept,
			"is": map[string]any{"label": "Seal", "where": where}}
	}
	require.Equal(t, http.StatusOK, h.put("/inventory/entries/"+id(), change("Drawer 1")).Code)
	w := h.put("/inventory/entries/"+id(), change("Drawer 2"))
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "changed on another device")
	assert.Equal(t, "Drawer 1", *read[api.Inventory](t, h.send(http.MethodGet, server.BasePath+"/inventory",
		"")).Lines[0].Is.Where)
	c := read[api.Catalogue](t, h.send(http.MethodGet, server.BasePath+"/catalogue", ""))
	assert.Contains(t, c.Impeller.Drives, "spline")
	assert.NotEmpty(t, c.Upkeep)
}

func TestAnEnginesRecordByItsRoute(t *testing.T) {
	h := newHouse(t)
	_, engine := h.engineOn("direct")
	put := func(body map[string]any) int {
		body["by"] = "T"
		return h.put("/engines/"+engine+"/entries/"+id(), body).Code
	}
	assert.Equal(t, http.StatusOK, put(map[string]any{"meter": map[string]any{"day": "2025-05-01", "hours": 100}}))
	assert.Equal(t, http.StatusUnprocessableEntity, put(map[string]any{"meter": map[string]any{"day": "2025-06-01",
		"hours": 90}}))
	assert.Equal(t, http.StatusUnprocessableEntity, put(map[string]any{}))
	assert.Equal(t, http.StatusOK, put(map[string]any{"upkeep": map[string]any{"do": "done", "item": "seacock",
		"day": "2024-01-01"}}))
	r := read[api.ServiceRecord](t, h.send(http.MethodGet, server.BasePath+"/engines/"+engine+"/record", ""))
	assert.True(t, r.Hours.Known)
	assert.Equal(t, "seacock", r.Due[0].Item)
	due := read[api.DueList](t, h.send(http.MethodGet, server.BasePath+"/due?days=0", ""))
	require.Len(t, due.Engines, 1)
	ics := h.send(http.MethodGet, server.BasePath+"/calendar.ics?engine="+engine, "")
	assert.Contains(t, ics.Header().Get("Content-Type"), "text/calendar")
	assert.Contains(t, ics.Body.String(), "BEGIN:VEVENT")
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, server.BasePath+"/engines/"+id()+"/record", "").Code)
	assert.Equal(t, http.StatusUnprocessableEntity, h.send(http.MethodGet, server.BasePath+"/due?days=-1", "").Code)
}
