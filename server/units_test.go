package server_test

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/api"
	"hevrin/server"
)

// The sentences of every answer speak the reader's units, refusals too.
func TestSentencesSpeakTheReadersUnits(t *testing.T) {
	h := newHouse(t)
	job := closedJob(t, h)
	h.note(job, map[string]any{"kind": "strip", "strip": map[string]any{"do": "elbow",
		"elbow": map[string]any{"bore_mm": 30, "new_bore_mm": 50}}})
	as := func(system, query string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, server.BasePath+"/jobs/"+job+query, nil)
		r.Host = "localhost:8420"
		r.Header.Set("Hevrin-Units", system)
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
	for system, want := range map[string]string{
		"metric":   "30 mm of 50 mm is left: narrowed by a third or more",
		"us":       "1.18 in of 1.97 in is left: narrowed by a third or more",
		"leagues":  "30 mm of 50 mm is left: narrowed by a third or more",
		"":         "30 mm of 50 mm is left: narrowed by a third or more",
		"imperial": "1.18 in of 1.97 in is left: narrowed by a third or more",
	} {
		w := as(system, "")
		assert.Equal(t, want, read[api.JobPage](t, w).Hands.ElbowSays[0], system)
		assert.Contains(t, w.Header().Values("Vary"), "Hevrin-Units")
	}
	w := h.send(http.MethodPost, server.BasePath+"/calc/exhaust-mix?units=us", `{"water_c": 30, "gas_c": 2000}`)
	assert.Contains(t, w.Body.String(), "32 to 1652 °F")
}
