package server_test

import (
	"encoding/base64"
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/server"
	"hevrin/store"
)

// jobOn starts a job and gives its id.
func (h *house) jobOn(engine, words string) string {
	job := id()
	read[api.JobPage](h.t, h.put("/jobs/"+job, map[string]any{"entry_id": id(), "by": "T", "engine_id": engine,
		"words": words}))
	return job
}

func TestPapersOfAJob(t *testing.T) {
	h := newHouse(t)
	_, engine := h.engineOn("direct")
	job := h.jobOn(engine, "Hot off the bar")
	for path, kind := range map[string]string{"report.pdf?units=us": "application/pdf",
		"bundle": "application/octet-stream", "readings.csv": "text/csv", "parts.csv": "text/csv"} {
		w := h.send(http.MethodGet, server.BasePath+"/jobs/"+job+"/"+path, "")
		require.Equal(t, http.StatusOK, w.Code, path)
		assert.Contains(t, w.Header().Get("Content-Type"), kind)
		assert.Contains(t, w.Header().Get("Content-Disposition"), "brackling-main-")
		assert.NotEmpty(t, w.Body.Bytes())
		assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, server.BasePath+"/jobs/"+id()+"/"+path, "").Code, path)
	}
	r := read[api.Report](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job+"/report", ""))
	assert.Equal(t, api.ReportOutcomeOpen, r.Outcome)
	assert.Equal(t, "Hot off the bar", r.Complaint)
	assert.Equal(t, http.StatusUnprocessableEntity, h.send(http.MethodGet,
		server.BasePath+"/jobs/"+job+"/report?units=furlongs", "").Code)
}

func TestABundleIsTriedThenTaken(t *testing.T) {
	from, into := newHouse(t), newHouse(t)
	_, engine := from.engineOn("direct")
	job := from.jobOn(engine, "Hot off the bar")
	raw := from.send(http.MethodGet, server.BasePath+"/jobs/"+job+"/bundle", "").Body.Bytes()
	post := func(raw []byte, try bool) (int, string) {
		body, err := json.Marshal(map[string]any{"data": base64.StdEncoding.EncodeToString(raw), "try": try})
		require.NoError(t, err)
		w := into.send(http.MethodPost, server.BasePath+"/bundles", string(body))
		return w.Code, w.Body.String()
	}
	status, body := post(raw, true)
	require.Equal(t, http.StatusOK, status, body)
	var tried api.BundleImported
	require.NoError(t, json.Unmarshal([]byte(body), &tried))
	assert.Equal(t, "Brackling", tried.Craft)
	assert.Positive(t, tried.NewJob)
	assert.Equal(t, http.StatusNotFound, into.send(http.MethodGet, server.BasePath+"/jobs/"+job, "").Code,
		"trying keeps nothing")
	status, body = post(raw[:len(raw)-20], false)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, body, "breaks off")
	status, _ = post(raw, false)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, "Hot off the bar", *read[api.JobPage](t, into.send(http.MethodGet, server.BasePath+"/jobs/"+job,
		"")).Card.Words)
}

func TestTheSchemaIsServedAndTheBackupIsWhole(t *testing.T) {
	h := newHouse(t)
	h.engineOn("direct")
	schema := read[map[string]any](t, h.send(http.MethodGet, server.BasePath+"/schemas/job-bundle-1.json", ""))
	assert.Contains(t, schema["$schema"], "2020-12")
	w := h.send(http.MethodGet, server.BasePath+"/backup", "")
	require.Equal(t, http.StatusOK, w.Code)
	file := filepath.Join(t.TempDir(), "b.db")
	require.NoError(t, os.WriteFile(file, w.Body.Bytes(), 0o600))
	holds, err := store.Verify(t.Context(), file)
	require.NoError(t, err)
	assert.EqualValues(t, 1, holds.Engines)
}
