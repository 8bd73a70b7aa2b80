package server_test

import (
	"bufio"
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/server"
	"hevrin/simulator"
)

// gateway serves a simulator and gives its address.
func gateway(t *testing.T, script simulator.Script) (address string, stop func()) {
	t.Helper()
	known, err := simulator.Type("small-diesel")
	require.NoError(t, err)
	script.Engine = known
	r, err := simulator.New(script)
	require.NoError(t, err)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() { defer close(done); assert.NoError(t, r.Serve(ctx, l)) }()
	stop = func() { cancel(); <-done }
	t.Cleanup(stop)
	return l.Addr().String(), stop
}

func TestAGatewayFromAddressToStream(t *testing.T) {
	address, stop := gateway(t, simulator.Script{SeaC: 15, SpaceC: 30, StartC: 20, Speed: 20, EveryS: 1, Seed: 1,
		Phases: []simulator.Phase{{RPM: 1500}}})
	h := newHouse(t)
	_, engine := h.engineOn("direct")
	at := "/engines/" + engine

	w := h.send(http.MethodGet, server.BasePath+at+"/live/stream", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "has no feed yet")
	assert.Equal(t, http.StatusUnprocessableEntity, h.send(http.MethodGet, server.BasePath+at+"/live?address=boat",
		"").Code)

	require.Eventually(t, func() bool {
		p := read[api.LivePage](t, h.send(http.MethodGet, server.BasePath+at+"/live?address="+address, ""))
		return p.Status.State == api.Connected && len(p.Heard) == 13 && p.Feed == nil
	}, 60*time.Second, 50*time.Millisecond)
	feed := func(channel, station string) map[string]any {
		return map[string]any{"entry_id": id(), "by": "T", "feed": map[string]any{"address": address,
			"channels": []map[string]any{
				{"channel": "II RPM E1", "place": map[string]any{"station": "rpm"}}, {"channel": "II MTW",
					"place": map[string]any{"station": "sea"}},
				{"channel": channel, "place": map[string]any{"station": station}}}}}
	}
	w = h.put(at+"/feed", feed("II XDR C GAUGE", "header"))
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "not in this engine's circuit")
	page := read[api.EnginePage](t, h.put(at+"/feed", feed("II XDR C GAUGE", "gauge")))
	assert.Len(t, page.Engine.Feed.Channels, 3)
	heard := read[api.LivePage](t, h.send(http.MethodGet, server.BasePath+at+"/live", ""))
	assert.Equal(t, address, heard.Address)

	alone := httptest.NewServer(h)
	defer alone.Close()
	answer, err := http.Get(alone.URL + server.BasePath + at + "/live/stream") //nolint:noctx // the test's own
	require.NoError(t, err)
	defer func() { _ = answer.Body.Close() }()
	assert.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	events := bufio.NewScanner(answer.Body)
	events.Buffer(nil, 16<<20)
	next := func() (e api.LiveEvent) {
		for events.Scan() {
			if text, ok := strings.CutPrefix(events.Text(), "data: "); ok {
				require.NoError(t, json.Unmarshal([]byte(text), &e))
				return e
			}
		}
		require.FailNow(t, "the stream ended", "%v", events.Err())
		return e
	}
	first := next()
	assert.Equal(t, api.LiveEventKindBegin, first.Kind)
	assert.Len(t, first.Tracks, 3)
	points := map[string]int{}
	last := map[string]float64{}
	for range 12 {
		e := next()
		assert.Equal(t, api.LiveEventKindNews, e.Kind)
		for _, track := range e.Tracks {
			points[track.Place.Station] += len(track.Seconds)
			for _, s := range track.Seconds {
				assert.Greater(t, s, last[track.Place.Station])
				last[track.Place.Station] = s
			}
		}
	}
	assert.Greater(t, points["rpm"], 20)
	assert.Equal(t, points["rpm"] > 0, points["gauge"] > 0)
	stop()
	require.Eventually(t, func() bool { return next().Status.State == api.Lost }, time.Minute, time.Millisecond)
}

func TestALoggersFileByItsAddress(t *testing.T) {
	h := newHouse(t)
	_, engine := h.engineOn("direct")
	job := id()
	read[api.JobPage](t, h.put("/jobs/"+job, map[string]any{"entry_id": id(), "by": "T", "engine_id": engine}))
	text := "Zeit;Drehzahl (rpm);Gauge °F\n"
	for i := range 400 {
		text += fmt.Sprintf("%d;1800,5;%d,5\n", i*2, 100+i/8)
	}
	text += "800;x;\n"
	data := base64.StdEncoding.EncodeToString([]byte(text))
	raw, err := json.Marshal(map[string]any{"data": data})
	require.NoError(t, err)
	p := read[api.DatalogPreview](t, h.send(http.MethodPost, server.BasePath+"/engines/"+engine+"/logger", string(raw)))
	assert.Equal(t, 0, p.Time)
	assert.Equal(t, "gauge", p.Columns[2].Guess.Station)
	recording := id()
	take := map[string]any{"entry_id": id(), "by": "T", "name": "trial.csv", "data": data, "time": 0,
		"columns": []map[string]any{
			{"column": 1, "place": map[string]any{"station": "rpm"}}, {"column": 2, "place": map[string]any{"station": "gauge"},
				"unit": "degF"}}}
	page := read[api.JobPage](t, h.put("/jobs/"+job+"/recordings/"+recording, take))
	again := read[api.JobPage](t, h.put("/jobs/"+job+"/recordings/"+recording, take))
	assert.Len(t, again.Proving.Recordings, 1, "sent twice is one")
	kept := page.Proving.Recordings[0]
	assert.False(t, kept.Open)
	assert.Equal(t, 400, kept.Rows)
	assert.Equal(t, 1, kept.LeftOut[0].Count)
	shown := read[api.RecordingPage](t, h.send(http.MethodGet, server.BasePath+"/jobs/"+job+"/recordings/"+recording, ""))
	for _, track := range shown.Tracks {
		assert.InDelta(t, map[string]float64{"gauge": (100.5 - 32) / 1.8, "rpm": 1800.5}[track.Place.Station],
			track.Values[0], 5e-4)
	}
	assert.InDelta(t, 1800.5, *shown.Analysis.TopRpm, 1e-9)

	take["entry_id"], take["columns"] = id(), []map[string]any{{"column": 9, "place": map[string]any{"station": "rpm"}}}
	assert.Equal(t, http.StatusUnprocessableEntity, h.put("/jobs/"+job+"/recordings/"+id(), take).Code)
	large, err := json.Marshal(map[string]any{"data": strings.Repeat("AAAA", 9<<20)})
	require.NoError(t, err)
	assert.Equal(t, http.StatusRequestEntityTooLarge, h.send(http.MethodPost,
		server.BasePath+"/engines/"+engine+"/logger", string(large)).Code)
}

func TestARunByItsAddress(t *testing.T) {
	h := newHouse(t)
	job, run := h.job(), id()
	act := func(a map[string]any) *httptest.ResponseRecorder {
		a["run"] = run
		return h.note(job, map[string]any{"kind": "proving", "proving": a})
	}
	p := read[api.JobPage](t, act(map[string]any{"do": "begin", "where": "hose-leg"}))
	require.Len(t, p.Proving.Runs, 1)
	assert.Equal(t, api.RunOutcomeUnfinished, p.Proving.Runs[0].Outcome)
	assert.Len(t, p.Proving.Runs[0].Stages, 8)
	assert.Equal(t, http.StatusConflict, act(map[string]any{"do": "begin", "where": "afloat"}).Code, "begun before")
	w := act(map[string]any{"do": "look", "stage": "cold-leaks", "joint": "x", "state": "soaked"})
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	p = read[api.JobPage](t, act(map[string]any{"do": "prime", "water": false, "seconds": 30}))
	run1 := p.Proving.Runs[0]
	assert.Equal(t, api.RunOutcomeNotCured, run1.Outcome)
	assert.Equal(t, api.Failed, run1.Stages[1].Standing)
	assert.Equal(t, api.ProvingVerb("prime"), p.Log[len(p.Log)-1].Proving.Do)
	found := map[string]float64{}
	for _, f := range p.Findings {
		found[f.Id] = f.Q
	}
	assert.InDelta(t, 0.95, found["no-prime"], 1e-9, "the trace goes on with it")
	assert.Equal(t, http.StatusUnprocessableEntity, act(map[string]any{"do": "drop"}).Code, "ended without a word why")
	p = read[api.JobPage](t, act(map[string]any{"do": "drop", "words": "no water at the berth"}))
	assert.False(t, p.Proving.Runs[0].Open)
	assert.Equal(t, "no water at the berth", p.Proving.Runs[0].Dropped.Words)
	assert.Equal(t, http.StatusConflict, h.note(job, map[string]any{"kind": "recording",
		"recording": map[string]any{"id": id(), "do": "begin"}}).Code, "no feed")
}
