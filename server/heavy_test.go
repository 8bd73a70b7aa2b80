package server_test

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"runtime/debug"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/labstack/echo/v5"
	_ "github.com/mattn/go-sqlite3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/plant"
	"hevrin/server"
	"hevrin/store"
)

// heavy is a server with a job of 500 entries, 50 photos and 20 rounds, and what one tap on it costs.
type heavy struct {
	t      testing.TB
	e      *echo.Echo
	job    string
	engine string
	store  *store.Store
	sql    *atomic.Int64
}

func newHeavy(t testing.TB, now func() time.Time, notes, photos, rounds int) *heavy {
	e, s := newServerBy(t, now)
	h := &heavy{t: t, e: e, store: s, job: id(), engine: id(), sql: s.Statements()}
	h.open()
	var photo bytes.Buffer
	picture := image.NewRGBA(image.Rect(0, 0, 64, 48))
	picture.Set(3, 3, color.White)
	require.NoError(t, jpeg.Encode(&photo, picture, nil))
	data := base64.StdEncoding.EncodeToString(photo.Bytes())
	for range photos {
		h.tap(map[string]any{"kind": "photo", "photo": map[string]any{"data": data}})
	}
	for i := range rounds {
		_ = h.round(i)
	}
	for i := range notes {
		h.tap(map[string]any{"kind": "note",
			"words": fmt.Sprintf("Note %d: nothing new at the strainer, the pump cover is dry", i)})
	}
	return h
}

// open puts a job on an engine of its own into the record.
func (h *heavy) open() {
	craft := id()
	h.put("/craft/"+craft, map[string]any{"entry_id": id(), "by": "U", "name": "Sallow Ebb"})
	h.put("/engines/"+h.engine, map[string]any{"entry_id": id(), "by": "U", "craft_id": craft, "name": "Main",
		"family": "closed", "fuel": "diesel",
		"rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82, "circuit": heavyCircuit})
	h.put("/jobs/"+h.job, map[string]any{"entry_id": id(), "by": "U", "engine_id": h.engine,
		"words": "Runs hot off the bar"})
}

func (h *heavy) put(path string, body any) {
	h.t.Helper()
	w := h.send(path, body)
	require.Equal(h.t, http.StatusOK, w.Code, w.Body.String())
}

func (h *heavy) send(path string, body any) *httptest.ResponseRecorder {
	r := httptest.NewRequest(http.MethodPut, server.BasePath+path, bytes.NewReader(marshal(h.t, body)))
	r.Host = "localhost"
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	h.e.ServeHTTP(w, r)
	return w
}

// tap adds an entry to the job and gives its id.
func (h *heavy) tap(body map[string]any) string {
	h.t.Helper()
	body["by"] = "U"
	entry := id()
	h.put("/jobs/"+h.job+"/entries/"+entry, body)
	return entry
}

func (h *heavy) note() { h.tap(map[string]any{"kind": "note", "words": "Dry at the cover"}) }

// round puts a round down as an engine with half its exchanger scaled would read it, at one of twenty speeds.
func (h *heavy) round(i int) string {
	op := plant.Operation{RPM: 1200 + 80*float64(i%20), Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	scaled := plant.Well()
	scaled.UA = 0.6
	s, err := heavyPlant().Steady(op, scaled)
	require.NoError(h.t, err)
	readings := []map[string]any{{"station": "flow", "value": s.RawLMin, "error": 2}}
	for _, r := range s.Readings {
		if r.Station == "exchanger" || r.Station == "elbow" {
			readings = append(readings, map[string]any{"station": r.Station, "side": r.Side, "value": r.TempC +
				0.3*float64(i%3) + 0.001*float64(i), "error": 1})
		}
	}
	return h.tap(map[string]any{"kind": "round", "round": map[string]any{"operation": map[string]any{"rpm": op.RPM,
		"sea_c": op.SeaC}, "readings": readings}})
}

var heavyCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "exchanger", "raw-hoses",
	"elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge",
	"load"}

var heavyPlant = sync.OnceValue(func() plant.Plant {
	p, err := plant.New(plant.EngineFacts{Family: plant.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000,
		ThermostatC: 82, Circuit: heavyCircuit})
	if err != nil {
		panic(err)
	}
	return p
})

func TestANoteTakesFewStatements(t *testing.T) {
	at := time.Now()
	still := func() time.Time { return at } // what is asked again after a while does not count, however slow the machine
	h := newHeavy(t, still, 5, 1, 2)
	h.note()
	h.sql.Store(0)
	h.note()
	assert.LessOrEqual(t, h.sql.Load(), int64(8), "SQL statements of a note")
	h.sql.Store(0)
	h.tap(map[string]any{"kind": "finding", "stated": []map[string]any{{"id": "weak-water-at-outlet",
		"state": "present"}}})
	assert.LessOrEqual(t, h.sql.Load(), int64(9), "and of a finding: the job's line shows it")
}

// What is kept of answers is of the engine as it is: after each tap, and as it cools, the page is that of a program that was
// started just now, in either reader's units.
func TestAKeptAnswerIsOfTheEngineAsItIs(t *testing.T) {
	at := time.Now()
	h := newHeavy(t, func() time.Time { return at }, 0, 0, 0)
	page := func(e *echo.Echo, units string) string {
		r := httptest.NewRequest(http.MethodGet, server.BasePath+"/jobs/"+h.job, nil)
		r.Host = "localhost"
		r.Header.Set("Hevrin-Units", units)
		w := httptest.NewRecorder()
		e.ServeHTTP(w, r)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
		return w.Body.String()
	}
	was := map[string]bool{}
	for _, tap := range []map[string]any{
		{"kind": "note", "words": "Alongside"},
		{"kind": "finding", "stated": []map[string]any{{"id": "hot-under-load", "state": "present"}}},
		{"kind": "strip", "strip": map[string]any{"do": "isolate", "item": "seacock"}},
		{"kind": "access", "access": "strainer-open", "open": true},
		{"kind": "note", "words": "Nothing else"},
		{"kind": "strip", "strip": map[string]any{"do": "lift", "item": "seacock"}},
		{"kind": "finding", "stated": []map[string]any{{"id": "no-water-at-outlet", "state": "present"}}},
	} {
		h.tap(tap)
		for range 2 {
			for _, units := range []string{"metric", "us"} {
				warm := page(h.e, units)
				assert.JSONEq(t, page(serverOn(t, h.store, func() time.Time { return at }), units), warm, "%v", tap)
				was[warm] = true
			}
			at = at.Add(40 * time.Minute) // it cools meanwhile
		}
	}
	assert.Greater(t, len(was), 8, "the taps change what is told")
}

func BenchmarkHeavyJob(b *testing.B) {
	h := newHeavy(b, time.Now, 430, 50, 20)
	b.Run("note", func(b *testing.B) {
		h.t = b
		for b.Loop() {
			h.note()
		}
	})
	b.Run("finding", func(b *testing.B) {
		h.t = b
		n := 0
		for b.Loop() {
			n++
			h.tap(map[string]any{"kind": "finding", "stated": []map[string]any{{"id": "weak-water-at-outlet",
				"state": map[bool]string{true: "present", false: "absent"}[n%2 == 0]}}})
		}
	})
	b.Run("page", func(b *testing.B) {
		for b.Loop() {
			r := httptest.NewRequest(http.MethodGet, server.BasePath+"/jobs/"+h.job, nil)
			r.Host = "localhost"
			h.e.ServeHTTP(httptest.NewRecorder(), r)
		}
	})
}

// The 21st round of a job, another each time: it is taken back before the next.
func BenchmarkRound21(b *testing.B) {
	h := newHeavy(b, time.Now, 0, 0, 20)
	n := 0
	for b.Loop() {
		n++
		entry := h.round(20 + n)
		b.StopTimer()
		h.put("/undo/"+id(), map[string]any{"undoes": entry, "by": "U"})
		b.StartTimer()
	}
}

// Twenty people write at once, each in a job of their own, against the same rows through the bare driver in the same
// run.
func BenchmarkTwentyWriters(b *testing.B) {
	const writers, each = 20, 40
	defer debug.SetGCPercent(debug.SetGCPercent(server.CollectAt))
	h := newHeavy(b, time.Now, 0, 0, 0)
	jobs := make([]string, writers)
	var ours, bare time.Duration
	for b.Loop() {
		for i := range jobs { // fresh ones: a job that grows for ever is another question
			h.job, h.engine = id(), id()
			h.open()
			jobs[i] = h.job
		}
		begun := time.Now()
		var all sync.WaitGroup
		for _, job := range jobs {
			all.Go(func() {
				for range each {
					if w := h.send("/jobs/"+job+"/entries/"+id(), map[string]any{"by": "U", "kind": "note",
						"words": "Dry at the cover"}); w.Code != http.StatusOK {
						panic(w.Body.String())
					}
				}
			})
		}
		all.Wait()
		ours += time.Since(begun)
		bare += bareWrites(b, writers*each)
	}
	b.ReportMetric(float64(b.N*writers*each)/ours.Seconds(), "writes/s")
	b.ReportMetric(float64(b.N*writers*each)/bare.Seconds(), "bare/s")
	b.ReportMetric(bare.Seconds()/ours.Seconds(), "of-bare")
}

// bareWrites adds as many rows through the driver alone, one transaction each, with full sync, and gives how long that
// took.
func bareWrites(b *testing.B, n int) time.Duration {
	b.Helper()
	db := openBare(b)
	defer func() { _ = db.Close() }()
	begun := time.Now()
	for range n {
		_, err := db.ExecContext(context.Background(),
			"INSERT INTO entries (id, subject_kind, subject_id, kind, by, at, body) VALUES (?, 'job', 'j', 'note', 'U', ?, ?)",
			id(), time.Now().UTC(), `{"words":"Dry at the cover"}`)
		require.NoError(b, err)
	}
	return time.Since(begun)
}

func openBare(b *testing.B) *sql.DB {
	b.Helper()
	db, err := sql.Open("sqlite3", "file:"+filepath.Join(b.TempDir(),
		"bare.db")+"?_journal_mode=WAL&_synchronous=FULL&_txlock=immediate")
	require.NoError(b, err)
	db.SetMaxOpenConns(1)
	_, err = db.ExecContext(context.Background(),
		"CREATE TABLE entries (seq INTEGER PRIMARY KEY AUTOINCREMENT, id TEXT NOT NULL UNIQUE, subject_kind TEXT, "+
			"subject_id TEXT, kind TEXT, by TEXT, at DATETIME, tapped_at DATETIME, undoes TEXT, body TEXT)")
	require.NoError(b, err)
	return db
}

func marshal(t testing.TB, v any) []byte {
	t.Helper()
	raw, err := json.Marshal(v)
	require.NoError(t, err)
	return raw
}
