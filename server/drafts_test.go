package server_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
)

// What is typed and not saved is there for another device, until it is saved or dropped; the record knows nothing of it.
func TestDraftsAreThereForAnotherDevice(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	path := "/jobs/" + job
	before := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1"+path, ""))
	save := func(what, value string) api.Drafts {
		body := map[string]any{"by": "Kit", "what": what}
		if value != "" {
			body["value"] = value
		}
		return read[api.Drafts](t, h.put(path+"/drafts", body))
	}
	save("The impeller", `{"blades":6}`)
	list := save("A note", `{"words":"Ö"}`)
	require.Len(t, list.Drafts, 2)
	list = save("The impeller", `{"blades":8}`)
	require.Len(t, list.Drafts, 2, "in its place")
	assert.Equal(t, list, read[api.Drafts](t, h.send(http.MethodGet, "/api/v1"+path+"/drafts", "")))
	assert.Len(t, save("A note", "").Drafts, 1, "forgotten")
	assert.Len(t, save("A note", "").Drafts, 1, "twice is no error")
	assert.Equal(t, before.Log, read[api.JobPage](t, h.send(http.MethodGet, "/api/v1"+path, "")).Log)
}

func TestDraftsThatAreRefused(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	path := "/jobs/" + job + "/drafts"
	for what, body := range map[string]map[string]any{
		"no JSON":    {"by": "Kit", "what": "x", "value": "{"},
		"too long":   {"by": "Kit", "what": "x", "value": `"` + strings.Repeat("a", 20_000) + `"`},
		"no name":    {"by": "Kit", "what": "", "value": "1"},
		"blank name": {"by": "Kit", "what": "  ", "value": "1"},
	} {
		code := h.put(path, body).Code
		assert.True(t, code == http.StatusBadRequest || code == http.StatusUnprocessableEntity, "%s: %d", what, code)
	}
	assert.Equal(t, http.StatusNotFound, h.put("/jobs/"+id()+"/drafts", map[string]any{"by": "K", "what": "x", "value": "1"}).Code)
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, "/api/v1/jobs/"+id()+"/drafts", "").Code)
	for i := range 85 {
		h.put(path, map[string]any{"by": "Kit", "what": fmt.Sprint("form ", i), "value": "1"})
	}
	list := read[api.Drafts](t, h.send(http.MethodGet, "/api/v1"+path, ""))
	require.Len(t, list.Drafts, 80, "the oldest are let go")
}
