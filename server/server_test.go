package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"regexp"
	"sort"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/api/routes"
	"hevrin/app"
	"hevrin/core/catalogue"
	"hevrin/server"
	"hevrin/simulator"
	"hevrin/store"
)

// house is a server on a record of its own.
type house struct {
	t *testing.T
	*echo.Echo
	store *store.Store
}

func newHouse(t *testing.T) *house {
	t.Helper()
	e, s := newServer(t)
	return &house{t, e, s}
}

// newServer is a server over an empty record.
func newServer(t testing.TB) (*echo.Echo, *store.Store) { return newServerBy(t, time.Now) }

// newServerBy is newServer with a clock of the test's own.
func newServerBy(t testing.TB, now func() time.Time) (*echo.Echo, *store.Store) {
	t.Helper()
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return serverOn(t, s, now), s
}

// serverOn is a server that is started on a record.
func serverOn(t testing.TB, s *store.Store, now func() time.Time) *echo.Echo {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	supplier, err := simulator.NewSupplier()
	require.NoError(t, err)
	e, err := server.New(server.Config{App: app.New(c, s, now), Supplier: supplier, Place: store.Place{Store: s}, Tries: s, Version: "test"})
	require.NoError(t, err)
	return e
}

// Whoever goes away before the answer broke their own request off: it is told so, and no fault is logged.
func TestARequestThatIsBrokenOffIsNoFault(t *testing.T) {
	e, _ := newServer(t)
	gone, stop := context.WithCancel(t.Context())
	stop()
	r := httptest.NewRequest(http.MethodPut, server.BasePath+"/craft/"+uuid.NewString(),
		strings.NewReader(`{"entry_id":"`+uuid.NewString()+`","by":"Kit Venn","name":"Gone"}`)).WithContext(gone)
	r.Host = "localhost"
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	e.ServeHTTP(w, r)
	assert.Equal(t, http.StatusRequestTimeout, w.Code, w.Body.String())
	r = httptest.NewRequest(http.MethodGet, server.BasePath+"/yard", nil)
	r.Host = "localhost"
	w = httptest.NewRecorder()
	e.ServeHTTP(w, r)
	require.Equal(t, http.StatusOK, w.Code)
	assert.NotContains(t, w.Body.String(), "Gone", "nothing is half kept")
}

func (h *house) send(method, path, body string, headers ...string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	r.Host = "localhost:8420"
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	assert.NotContains(h.t, w.Body.String(), `\u0002`, "%s %s: a quantity that nobody put into words", method, path)
	return w
}

func (h *house) put(path string, body map[string]any) *httptest.ResponseRecorder {
	raw, err := json.Marshal(body)
	require.NoError(h.t, err)
	return h.send(http.MethodPut, server.BasePath+path, string(raw))
}

func read[T any](t *testing.T, w *httptest.ResponseRecorder) T {
	t.Helper()
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	var out T
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
	return out
}

func id() string { return uuid.NewString() }

// engineOn adds a craft with an engine and gives the engine's id.
func (h *house) engineOn(family string) (craft, engine string) {
	craft, engine = id(), id()
	read[api.CraftPage](h.t, h.put("/craft/"+craft, map[string]any{"entry_id": id(), "by": "T", "name": "Brackling"}))
	circuit := []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "elbow", "outlet", "gauge"}
	read[api.EnginePage](h.t, h.put("/engines/"+engine, map[string]any{"entry_id": id(), "by": "T", "craft_id": craft,
		"name":   "main",
		"family": family, "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82, "circuit": circuit}))
	return craft, engine
}

func (h *house) job() string {
	_, engine := h.engineOn("closed")
	job := id()
	read[api.JobPage](h.t, h.put("/jobs/"+job, map[string]any{"entry_id": id(), "by": "T", "engine_id": engine,
		"words": "hot"}))
	return job
}

func (h *house) note(job string, entry map[string]any) *httptest.ResponseRecorder {
	entry["by"] = "T"
	return h.put("/jobs/"+job+"/entries/"+id(), entry)
}

func stated(pairs ...string) []map[string]any {
	var out []map[string]any
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, map[string]any{"id": pairs[i], "state": pairs[i+1]})
	}
	return out
}

func TestRoutesAndContractAgree(t *testing.T) {
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	var contract, routes []string
	for path, item := range spec.Paths.Map() {
		for method := range item.Operations() {
			contract = append(contract, method+" "+server.BasePath+path)
		}
	}
	parameter := regexp.MustCompile(`:(\w+)`)
	for _, r := range newHouse(t).Router().Routes() {
		if strings.HasPrefix(r.Path, server.BasePath) {
			routes = append(routes, r.Method+" "+parameter.ReplaceAllString(r.Path, "{$1}"))
		}
	}
	sort.Strings(contract)
	sort.Strings(routes)
	assert.Equal(t, contract, routes)
}

func TestTheCatalogueHasTheContractsShape(t *testing.T) {
	h := newHouse(t)
	w := h.send(http.MethodGet, server.BasePath+"/catalogue", "")
	var c map[string]any
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &c))
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	require.NoError(t, spec.Components.Schemas["Catalogue"].Value.VisitJSON(c))
	assert.NotContains(t, w.Body.String(), "null,\"cautions\":null")
	assert.Len(t, c["faults"], 51)
}

func TestDiagnoseAnswers(t *testing.T) {
	h := newHouse(t)
	a := read[api.Answer](t, h.send(http.MethodPost, server.BasePath+"/diagnose",
		`{"family":"closed","history":["weed-about"],"findings":[{"id":"weak-water-at-outlet","state":"present"},{"id":"gauge-off","q":0.3}],"strategy":"likeliest"}`))
	assert.Equal(t, "strainer-clogged", a.Suspects[0].Fault)
	assert.NotEmpty(t, a.NextChecks)
	assert.NotNil(t, a.Found)
}

// Bad input is answered with the field, what was given and what is allowed; nothing is ever a 500.
func TestBadInput(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	entry := "/jobs/" + job + "/entries/" + id()
	for name, tc := range map[string]struct {
		method, path, body string
		status             int
		field              string
	}{
		"broken JSON":      {"POST", "/diagnose", `{"family":"closed"`, 400, ""},
		"two JSON values":  {"POST", "/diagnose", `{"family":"closed"} {}`, 400, ""},
		"empty":            {"POST", "/diagnose", " ", 400, ""},
		"not an object":    {"POST", "/diagnose", `[]`, 422, "body"},
		"no family":        {"POST", "/diagnose", `{}`, 422, "family"},
		"unknown family":   {"POST", "/diagnose", `{"family":"air"}`, 422, "family"},
		"a field too many": {"POST", "/diagnose", `{"family":"closed","colour":1}`, 422, "colour"},
		"unknown station":  {"POST", "/diagnose", `{"family":"closed","stations":["keel"]}`, 422, "stations[0]"},
		"null list":        {"POST", "/diagnose", `{"family":"closed","history":null}`, 422, "history"},
		"unknown finding": {"POST", "/diagnose", `{"family":"closed","findings":[{"id":"x","q":1}]}`, 422,
			"findings[0].id"},
		"state and q": {"POST", "/diagnose",
			`{"family":"closed","findings":[{"id":"gauge-off","q":1,"state":"absent"}]}`, 422, "findings[0]"},
		"neither": {"POST", "/diagnose", `{"family":"closed","findings":[{"id":"gauge-off"}]}`, 422,
			"findings[0]"},
		"q too large": {"POST", "/diagnose", `{"family":"closed","findings":[{"id":"gauge-off","q":1.01}]}`, 422,
			"findings[0].q"},
		"q beyond numbers": {"POST", "/diagnose", `{"family":"closed","findings":[{"id":"gauge-off","q":1e999}]}`, 422,
			"findings[0].q"},
		"contradiction": {"POST", "/diagnose",
			`{"family":"closed","findings":[{"id":"runs-cool","state":"present"},{"id":"hot-at-idle","state":"present"}]}`, 422,
			"findings[1].id"},
		"present and absent": {"POST", "/diagnose",
			`{"family":"closed","findings":[{"id":"milky-oil","state":"present"},{"id":"milky-oil","state":"absent"}]}`, 422,
			"findings[1].id"},
		"an id that is none":  {"GET", "/jobs/12", "", 422, "job_id"},
		"a job not on record": {"GET", "/jobs/" + id(), "", 404, ""},
		"no name":             {"PUT", "/craft/" + id(), `{"entry_id":"` + id() + `","by":"T","name":"  "}`, 422, "name"},
		"nobody":              {"PUT", "/craft/" + id(), `{"entry_id":"` + id() + `","by":"","name":"x"}`, 422, "by"},
		"engine of no craft": {"PUT", "/engines/" + id(), `{"entry_id":"` + id() + `","by":"T","craft_id":"` + id() +
			`","name":"m","family":"closed","fuel":"diesel","rated_kw":60,"rated_rpm":3000,"thermostat_c":82,"circuit":["intake","raw-pump","outlet"]}`, 422, "craft_id"},
		"job on no engine": {"PUT", "/jobs/" + id(), `{"entry_id":"` + id() + `","by":"T","engine_id":"` + id() + `"}`,
			422, "engine_id"},
		"unknown kind":   {"PUT", entry, `{"kind":"dance","by":"T"}`, 422, "kind"},
		"opened by hand": {"PUT", entry, `{"kind":"opened","by":"T"}`, 422, "kind"},
		"check not on circuit": {"PUT", entry, `{"kind":"check","by":"T","check":"exchanger-look","outcome":"skipped"}`, 422,
			"check"},
		"a time that is none": {"PUT", entry, `{"kind":"note","by":"T","words":"x","tapped_at":"noon"}`, 422, "tapped_at"},
		"undo of nothing":     {"PUT", "/undo/" + id(), `{"undoes":"` + id() + `","by":"T"}`, 404, ""},
		"no such address":     {"GET", "/nothing", "", 404, ""},
		"wrong method":        {"DELETE", "/yard", "", 405, ""},
		"too much":            {"POST", "/diagnose", `{"family":"` + strings.Repeat("x", 2<<20) + `"}`, 413, ""},
	} {
		t.Run(name, func(t *testing.T) {
			w := h.send(tc.method, server.BasePath+tc.path, tc.body)
			require.Equal(t, tc.status, w.Code, w.Body.String())
			assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
			var p api.Problem
			require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
			assert.Equal(t, tc.status, p.Status)
			assert.NotEmpty(t, p.Detail)
			if tc.field != "" {
				require.NotNil(t, p.Errors)
				assert.Equal(t, tc.field, (*p.Errors)[0].Field)
				assert.NotEmpty(t, (*p.Errors)[0].Given)
				assert.NotEmpty(t, (*p.Errors)[0].Allowed)
			}
		})
	}
	after := read[api.JobPage](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job, ""))
	assert.Len(t, after.Log, 1, "nothing of all that was kept")
}

func TestAJobFromComplaintToClosed(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	p := read[api.JobPage](t, h.note(job, map[string]any{"kind": "finding", "stated": stated("weak-water-at-outlet",
		"present")}))
	assert.Equal(t, "strainer-clogged", p.Diagnosis.Suspects[0].Fault)
	read[api.JobPage](t, h.note(job, map[string]any{"kind": "history", "stated": stated("weed-about", "present")}))
	p = read[api.JobPage](t, h.note(job, map[string]any{"kind": "check", "check": "strainer-look", "outcome": "done",
		"minutes": 5,
		"stated":  stated("debris-in-strainer", "present", "strainer-lid-draws-air", "absent")}))
	assert.Equal(t, []string{"strainer-clogged"}, p.Diagnosis.Found)
	assert.InDelta(t, 5, p.Card.Minutes, 0)
	end := map[string]any{"kind": "closed", "faults": []string{"strainer-clogged"}, "explains_everything": true,
		"words": "weed"}
	assert.Contains(t, h.note(job, end).Body.String(), "Strainer lid off: since", "not over an open strainer")
	read[api.JobPage](t, h.note(job, map[string]any{"kind": "access", "access": "strainer-open", "open": false}))
	p = read[api.JobPage](t, h.note(job, end))
	assert.True(t, p.Card.Closed)
	engine := read[api.EnginePage](t, h.send(http.MethodGet, server.BasePath+"/engines/"+p.Engine.Id, ""))
	assert.Equal(t, []string{"strainer-clogged"}, engine.Jobs[0].Faults, "a line in the engine's record")
	assert.Equal(t, http.StatusConflict, h.note(job, map[string]any{"kind": "strategy", "strategy": "likeliest"}).Code)

	closing := p.Log[len(p.Log)-1].EntryId
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": closing, "by": "T"}))
	p = read[api.JobPage](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job, ""))
	assert.False(t, p.Card.Closed)
	assert.True(t, p.Log[len(p.Log)-2].Undone, "it stays on record as taken back")
}

func TestUndoRestoresTheExactRanking(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	before := read[api.JobPage](t, h.note(job, map[string]any{"kind": "finding", "stated": stated("weak-water-at-outlet",
		"present")}))
	after := read[api.JobPage](t, h.note(job, map[string]any{"kind": "check", "check": "impeller-look", "outcome": "done",
		"minutes": 18,
		"stated":  stated("blades-missing", "present")}))
	require.NotEqual(t, before.Diagnosis, after.Diagnosis)
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": after.Log[len(after.Log)-1].EntryId, "by": "T"}))
	back := read[api.JobPage](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job, ""))
	assert.Equal(t, before.Diagnosis, back.Diagnosis)
	assert.Equal(t, before.OpenAccess, back.OpenAccess)
}

func TestASaveRepeatedAfterALostLinkDoesNotDouble(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	path := "/jobs/" + job + "/entries/" + id()
	body := map[string]any{"kind": "note", "by": "T", "words": "bolt in the bilge", "tapped_at": "2026-05-01T08:30:00Z"}
	first := read[api.JobPage](t, h.put(path, body))
	again := read[api.JobPage](t, h.put(path, body))
	assert.Equal(t, first, again)
	assert.Len(t, again.Notes, 1)
	body["words"] = "another"
	assert.Equal(t, http.StatusConflict, h.put(path, body).Code)
}

func TestChangesOfFactsAreKeptAndCanBeUndone(t *testing.T) {
	h := newHouse(t)
	craft, engine := h.engineOn("direct")
	changed := read[api.CraftPage](t, h.put("/craft/"+craft, map[string]any{"entry_id": id(), "by": "U",
		"name": "Brackling II"}))
	last := changed.Log[len(changed.Log)-1]
	assert.Equal(t, []api.Change{{Field: "name", From: "Brackling", To: "Brackling II"}}, *last.Changed)
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": last.EntryId, "by": "U"}))
	back := read[api.CraftPage](t, h.send(http.MethodGet, server.BasePath+"/craft/"+craft, ""))
	assert.Equal(t, "Brackling", back.Craft.Name)

	first := back.Log[0].EntryId
	assert.Equal(t, http.StatusConflict, h.put("/undo/"+id(), map[string]any{"undoes": first, "by": "U"}).Code,
		"its engine would be left without a craft")
	page := read[api.EnginePage](t, h.send(http.MethodGet, server.BasePath+"/engines/"+engine, ""))
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": page.Log[0].EntryId, "by": "U"}))
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": first, "by": "U"}))
	assert.Empty(t, read[api.Yard](t, h.send(http.MethodGet, server.BasePath+"/yard", "")).Craft)
}

func TestTwoDevicesOnOneJobLoseNothing(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	const each = 15
	var wait sync.WaitGroup
	for device := range 3 {
		wait.Go(func() {
			for n := range each {
				w := h.put("/jobs/"+job+"/entries/"+id(), map[string]any{"kind": "note", "by": fmt.Sprint(device),
					"words": fmt.Sprint(n)})
				assert.Equal(t, http.StatusOK, w.Code)
			}
		})
	}
	wait.Wait()
	assert.Len(t, read[api.JobPage](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job, "")).Notes, 3*each)
	assert.NoError(t, h.store.Check(context.Background(), true))
}

func TestOnlyThisMachineAndNoOtherSite(t *testing.T) {
	h := newHouse(t)
	r := httptest.NewRequest(http.MethodGet, server.BasePath+"/yard", nil)
	r.Host = "hevrin.example:8420"
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	assert.Equal(t, http.StatusForbidden, w.Code)

	r = httptest.NewRequest(http.MethodPost, server.BasePath+"/diagnose", bytes.NewBufferString(`{"family":"closed"}`))
	r.Host = "127.0.0.1:8420"
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	w = httptest.NewRecorder()
	h.ServeHTTP(w, r)
	assert.Equal(t, http.StatusForbidden, w.Code)

	// nor may it read, or let work be done; it may lead here by a link
	for path, refused := range map[string]bool{server.BasePath + "/backup": true, server.BasePath + "/yard": true,
		"/": false} {
		for _, site := range []string{"cross-site", "same-site"} {
			r = httptest.NewRequest(http.MethodGet, path, nil)
			r.Host = "localhost:8420"
			r.Header.Set("Sec-Fetch-Site", site)
			w = httptest.NewRecorder()
			h.ServeHTTP(w, r)
			assert.Equal(t, refused, w.Code == http.StatusForbidden, "%s from %s", path, site)
		}
	}

	for address, ok := range map[string]bool{"127.0.0.1:8420": true, "localhost:0": true, "[::1]:8420": true,
		"0.0.0.0:8420": false, ":8420": false, "192.168.1.4:8420": false, "boat.example:8420": false, "8420": false} {
		assert.Equal(t, ok, server.CheckLoopback(address) == nil, address)
	}
}

func TestMissingFilesAreNotAnsweredWithAPage(t *testing.T) {
	h := newHouse(t)
	for _, path := range []string{"/assets/nothing.js", "/favicon.ico", "/api/v2/yard", "/../server.go"} {
		assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, path, "").Code, path)
	}
	assert.Equal(t, http.StatusMethodNotAllowed, h.send(http.MethodPost, "/", "{}").Code)
}

func BenchmarkDiagnoseRoute(b *testing.B) {
	e, _ := newServer(b)
	body := `{"family":"closed","history":["impeller-overdue","weed-about"],"findings":[{"id":"weak-water-at-outlet","state":"present"},{"id":"hot-under-load","state":"present"},{"id":"debris-in-strainer","state":"absent"}]}`
	for b.Loop() {
		r := httptest.NewRequest(http.MethodPost, server.BasePath+"/diagnose", strings.NewReader(body))
		r.Host = "localhost"
		r.Header.Set("Content-Type", "application/json")
		w := httptest.NewRecorder()
		e.ServeHTTP(w, r)
		if w.Code != http.StatusOK {
			b.Fatal(w.Body.String())
		}
	}
}

// Twenty people tap at random moments, twice a second each on the average; the figures are those of one answer, routing
// and JSON with it.
func BenchmarkTwentyUsers(b *testing.B) {
	e, _ := newServer(b)
	body := `{"family":"closed","history":["impeller-overdue","weed-about"],"findings":[{"id":"weak-water-at-outlet","state":"present"},{"id":"hot-under-load","state":"present"},{"id":"debris-in-strainer","state":"absent"}]}`
	var mutex sync.Mutex
	var took []float64
	const users, taps, pause = 20, 25, 500 * time.Millisecond
	for b.Loop() {
		var wait sync.WaitGroup
		for user := range users {
			wait.Go(func() {
				moments := rand.New(rand.NewPCG(uint64(user), 1))
				for range taps {
					time.Sleep(time.Duration(moments.ExpFloat64() * float64(pause)))
					begun := time.Now()
					r := httptest.NewRequest(http.MethodPost, server.BasePath+"/diagnose", strings.NewReader(body))
					r.Host = "localhost"
					r.Header.Set("Content-Type", "application/json")
					e.ServeHTTP(httptest.NewRecorder(), r)
					mutex.Lock()
					took = append(took, float64(time.Since(begun).Microseconds())/1000)
					mutex.Unlock()
				}
			})
		}
		wait.Wait()
	}
	sort.Float64s(took)
	b.ReportMetric(took[len(took)/2], "median-ms")
	b.ReportMetric(took[len(took)*99/100], "p99-ms")
}
