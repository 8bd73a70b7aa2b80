package server

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
)

// A page brings what a browser heeds with a page; a script that comes beside it, what guards a script and a worker.
func TestAFileBringsTheHeadersThatCountForIt(t *testing.T) {
	e := echo.New()
	e.Use(safeHeaders)
	serveFrontEnd(e, fstest.MapFS{
		"index.html":     {Data: []byte("<!doctype html>")},
		"assets/a.js":    {Data: []byte("plain")},
		"assets/a.js.br": {Data: []byte("packed")},
		"icon-192.png":   {Data: []byte("png")},
		"assets/a.js.gz": {Data: []byte("zipped")},
	})
	get := func(path, accepts, tag string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, path, nil)
		r.Header.Set("Accept-Encoding", accepts)
		r.Header.Set("If-None-Match", tag)
		w := httptest.NewRecorder()
		e.ServeHTTP(w, r)
		return w
	}
	page, script := get("/jobs/1", "", ""), get("/assets/a.js", "gzip, br", "")
	assert.Equal(t, "<!doctype html>", page.Body.String())
	assert.Equal(t, "packed", script.Body.String())
	for _, name := range ofPages[:3] {
		assert.NotEmpty(t, page.Header().Get(name), name)
		assert.Empty(t, script.Header().Get(name), name)
	}
	for _, name := range []string{"Content-Security-Policy", "X-Content-Type-Options", "Cross-Origin-Resource-Policy"} {
		assert.NotEmpty(t, page.Header().Get(name), name)
		assert.NotEmpty(t, script.Header().Get(name), name)
	}
	assert.Equal(t, "no-cache", page.Header().Get("Cache-Control"))
	assert.Contains(t, script.Header().Get("Cache-Control"), "immutable")
	assert.Equal(t, []string{"Accept-Encoding"}, script.Header().Values("Vary"))
	assert.Equal(t, "zipped", get("/assets/a.js", "gzip", "").Body.String())
	assert.Equal(t, "plain", get("/assets/a.js", "", "").Body.String())
	assert.Equal(t, http.StatusNotModified, get("/assets/a.js", "br", script.Header().Get("ETag")).Code)
	assert.Equal(t, http.StatusOK, get("/assets/a.js", "gzip", script.Header().Get("ETag")).Code, "packed otherwise")
}
