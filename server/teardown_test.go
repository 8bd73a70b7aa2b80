package server_test

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"net/http"
	"net/http/httptest"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
)

func (h *house) act(job string, act map[string]any) *httptest.ResponseRecorder {
	return h.note(job, map[string]any{"kind": "strip", "strip": act})
}

func (h *house) done(job string, acts ...map[string]any) api.Teardown {
	h.t.Helper()
	var p api.JobPage
	for _, a := range acts {
		p = read[api.JobPage](h.t, h.act(job, a))
	}
	return p.Hands
}

const changing = "impeller-change/"

func TestAnImpellerChangeWithABladeAtLarge(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	engine := read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Engine
	hands := h.done(job, map[string]any{"do": "isolate", "item": "seacock"}, map[string]any{"do": "task",
		"item": "impeller-change"})
	assert.Equal(t, "SEACOCK SHUT", hands.Isolated[0].Banner)
	assert.NotEmpty(t, *hands.Items[0].Order, "the screws have their order")
	for _, i := range hands.Items {
		hands = h.done(job, map[string]any{"do": "off", "item": i.Key, "count": i.Item.Count})
	}
	assert.Len(t, hands.Rebuild, 5)
	blades := []map[string]any{{"state": "gone"}, {"state": "torn", "share": 0.5}}
	for range 4 {
		blades = append(blades, map[string]any{"state": "sound"})
	}
	page := read[api.JobPage](t, h.act(job, map[string]any{"do": "wheel", "wheel": map[string]any{"blades": blades}}))
	assert.Equal(t, "replace-and-hunt", *page.Hands.WheelVerdict)
	assert.InDelta(t, 1.5, page.Hands.Ledger.AtLarge, 1e-9)
	assert.Equal(t, "raw-pump", page.Hands.Hunt[0].Station)
	findings := func(p api.JobPage) map[string]float64 {
		m := map[string]float64{}
		for _, f := range p.Findings {
			m[f.Id] = f.Q
		}
		return m
	}
	assert.Equal(t, map[string]float64{"blades-missing": 1, "blades-cracked-or-set": 0, "hub-or-key-slipping": 0},
		findings(page))

	// neither started nor closed while anything is open
	start := h.act(job, map[string]any{"do": "start"})
	assert.Equal(t, http.StatusConflict, start.Code)
	assert.Contains(t, start.Body.String(), "seacock shut")
	end := map[string]any{"kind": "closed", "explains_everything": true, "faults": []string{"impeller-vanes-missing"}}
	refused := h.note(job, end)
	assert.Equal(t, http.StatusConflict, refused.Code)
	for _, say := range []string{"seacock shut", "still off", "1 off, 0 on", "1.50 of a blade unaccounted for"} {
		assert.Contains(t, refused.Body.String(), say)
	}
	end["despite"] = "Towed to the yard as it is."
	closed := read[api.JobPage](t, h.note(job, end))
	assert.Equal(t, "Towed to the yard as it is.", *closed.Closed.Despite)
	h.note(job, map[string]any{"kind": "reopened"})

	cooler := engine.Circuit[5] // the first place after the pump
	hands = h.done(job, map[string]any{"do": "looked", "item": "raw-pump"}, map[string]any{"do": "piece", "item": cooler,
		"piece": map[string]any{"share": 0.9}},
		map[string]any{"do": "piece", "item": cooler, "piece": map[string]any{"share": 0.5}})
	assert.Contains(t, hands.Ledger.Say, "all accounted for")
	for i := len(hands.Items) - 1; i >= 0; i-- {
		hands = h.done(job, map[string]any{"do": "on", "item": hands.Items[i].Key, "count": hands.Items[i].Off,
			"state": "new"})
	}
	for pass := range 3 {
		hands = h.done(job, map[string]any{"do": "tighten", "item": changing + "cover-screws", "pass": pass + 1})
	}
	hands = h.done(job, map[string]any{"do": "lift", "item": "seacock"})
	assert.Empty(t, hands.Standing)
	assert.False(t, hands.Ready)
	for _, c := range hands.Conditions {
		if c.Settle == "tick" {
			hands = h.done(job, map[string]any{"do": "tick", "item": c.Item})
		}
	}
	assert.True(t, hands.Ready)
	hands = h.done(job, map[string]any{"do": "start"})
	assert.Len(t, hands.Starts, 1)
	assert.False(t, hands.Ready, "the next start is looked at afresh")
}

func TestActsThatDoNotFitTheJob(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	for field, act := range map[string]map[string]any{
		"strip.item":          {"do": "task", "item": "gold-plating"},
		"strip.state":         {"do": "method", "item": "seals", "state": "guess"},
		"strip.count":         {"do": "off", "item": changing + "cover"},
		"strip.piece.share":   {"do": "piece", "item": "raw-pump", "piece": map[string]any{"share": 9}},
		"strip.elbow.bore_mm": {"do": "elbow", "elbow": map[string]any{"bore_mm": 90, "new_bore_mm": 50}},
	} {
		w := h.act(job, act)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), `"`+field+`"`)
	}
	assert.Equal(t, http.StatusConflict, h.act(job, map[string]any{"do": "off", "item": changing + "cover",
		"count": 1}).Code, "no task was begun")
	assert.Equal(t, http.StatusUnprocessableEntity, h.act(job, map[string]any{"do": "piece", "item": "mast",
		"piece": map[string]any{"share": 0.5}}).Code)
	assert.Equal(t, http.StatusUnprocessableEntity, h.act(job, map[string]any{"do": "tick", "item": "blower"}).Code,
		"a diesel has no blower to run")
}

// A pump worn so tells its loss at idle, by the engine's model; an elbow and a pot test tell the diagnosis.
func TestTheBench(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	hands := h.done(job, map[string]any{"do": "body", "body": map[string]any{"cam_mm": 0.05, "plate_mm": 0.25,
		"cover_mm": 0.2}})
	require.NotNil(t, hands.IdleShare)
	assert.Less(t, *hands.IdleShare, 0.9)
	assert.Greater(t, *hands.IdleShare, 0.1)
	p := read[api.JobPage](t, h.act(job, map[string]any{"do": "elbow", "elbow": map[string]any{"bore_mm": 30,
		"new_bore_mm": 50}}))
	assert.Equal(t, "clean", *p.Hands.ElbowVerdict)
	pot := `{"rating_c": 82, "readings": [{"temperature_c": 60, "lift_mm": 0, "rising": true}, {"temperature_c": 82, "lift_mm": 0, "rising": true}, {"temperature_c": 90, "lift_mm": 0.2, "rising": true}, {"temperature_c": 94, "lift_mm": 4, "rising": true}, {"temperature_c": 99, "lift_mm": 9, "rising": true}, {"temperature_c": 85, "lift_mm": 0, "rising": false}]}`
	var given map[string]any
	require.NoError(t, jsonInto(pot, &given))
	p = read[api.JobPage](t, h.note(job, map[string]any{"kind": "sum", "sum": map[string]any{"name": "thermostat-pot",
		"given": given}}))
	q := map[string]float64{}
	for _, f := range p.Findings {
		q[f.Id] = f.Q
	}
	assert.Equal(t, map[string]float64{"pump-body-scored": 1, "elbow-narrowed": 1, "elbow-thin-or-holed": 0,
		"thermostat-late-or-short": 1, "thermostat-no-open": 0, "thermostat-no-shut": 0}, q)
}

func picture(t *testing.T, asPNG bool, w, hgt int) []byte {
	t.Helper()
	m := image.NewRGBA(image.Rect(0, 0, w, hgt))
	for x := range w {
		m.Set(x, x%hgt, color.RGBA{R: uint8(x), A: 255})
	}
	var b bytes.Buffer
	if asPNG {
		require.NoError(t, png.Encode(&b, m))
	} else {
		require.NoError(t, jpeg.Encode(&b, m, nil))
	}
	return b.Bytes()
}

// Only pictures are kept, made anew without what hangs on them; what is broken leaves nothing.
func TestPhotos(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	send := func(data []byte) *httptest.ResponseRecorder {
		return h.note(job, map[string]any{"kind": "photo", "words": "cover mark at 8 o'clock",
			"photo": map[string]any{"data": base64.StdEncoding.EncodeToString(data)}})
	}
	whole := picture(t, false, 320, 200)
	secret := append(append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, 18}, []byte("Exif\x00\x00GPS 50.1N")...), whole[2:]...)
	p := read[api.JobPage](t, send(secret))
	require.Len(t, p.Photos, 1)
	assert.Equal(t, 320, p.Photos[0].Width)
	w := h.send(http.MethodGet, "/api/v1/photos/"+p.Photos[0].Id, "")
	assert.Equal(t, "image/jpeg", w.Header().Get("Content-Type"))
	assert.NotContains(t, w.Body.String(), "GPS")
	_, err := jpeg.Decode(w.Body)
	assert.NoError(t, err)
	assert.Len(t, read[api.JobPage](t, send(picture(t, true, 40, 40))).Photos, 2, "a PNG will do")
	for name, bad := range map[string][]byte{"text": []byte("<svg onload=alert(1)>"), "half": whole[:len(whole)/2],
		"nothing": {}, "huge": picture(t, true, 5000, 2), "zip": []byte("PK\x03\x04../../etc/passwd")} {
		got := send(bad)
		assert.Equal(t, http.StatusUnprocessableEntity, got.Code, name)
		assert.Contains(t, got.Body.String(), "photo", name)
	}
	assert.Len(t, read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Photos, 2, "nothing half was kept")
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, "/api/v1/photos/"+id(), "").Code)
	assert.NotEqual(t, http.StatusOK, h.send(http.MethodGet, "/api/v1/photos/..%2f..%2fhevrin.db", "").Code)
}

// The yard changes a task and a school; a job that began before keeps the list it began with.
func TestTheYardsBook(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	h.done(job, map[string]any{"do": "task", "item": "thermostat-change"})
	book := read[api.YardMethods](t, h.send(http.MethodGet, "/api/v1/methods", ""))
	assert.GreaterOrEqual(t, len(book.Tasks), 12)
	assert.Equal(t, "new", book.Schools["seals"])
	var task api.Task
	for _, x := range book.Tasks {
		if x.Id == "thermostat-change" {
			task = x
		}
	}
	task.Items = append(task.Items, api.TaskItem{Id: "heat-shield", Kind: "part", Label: "Heat shield", Count: 1})
	put := func(body map[string]any) *httptest.ResponseRecorder {
		body["by"] = "Kit Venn"
		return h.put("/methods/entries/"+id(), body)
	}
	book = read[api.YardMethods](t, put(map[string]any{"kind": "task", "task": task}))
	assert.Equal(t, []string{"thermostat-change"}, book.Own)
	book = read[api.YardMethods](t, put(map[string]any{"kind": "method", "question": "seals", "school": "sound"}))
	assert.Equal(t, "sound", book.Schools["seals"])
	other := h.job()
	assert.Len(t, h.done(other, map[string]any{"do": "task", "item": "thermostat-change"}).Items, len(task.Items))
	mine := read[api.JobPage](t, h.act(job, map[string]any{"do": "method", "item": "seals", "state": "new"})).Hands
	assert.Len(t, mine.Items, len(task.Items)-1)
	assert.Equal(t, "new", mine.Schools["seals"], "the job goes its own way")
	book = read[api.YardMethods](t, put(map[string]any{"kind": "task", "task": task, "gone": true}))
	assert.Empty(t, book.Own, "the shipped one is back")
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": book.Log[len(book.Log)-1].EntryId,
		"by": "Kit Venn"}))
	for _, bad := range []map[string]any{{"kind": "method", "question": "seals", "school": "luck"}, {"kind": "task"},
		{"kind": "task", "task": map[string]any{"id": "x", "label": "X", "stations": []string{}, "families": []string{},
			"minutes": 5, "items": []map[string]any{}}}} {
		assert.Equal(t, http.StatusUnprocessableEntity, put(bad).Code)
	}
}

// Two devices tap at once: every tap counts, none twice, also when each is sent again.
func TestTapsOfTwoDevicesAddUp(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	h.done(job, map[string]any{"do": "task", "item": "impeller-change"}, map[string]any{"do": "ring",
		"item": changing + "cover-screws", "count": 30})
	const each = 12
	var wait sync.WaitGroup
	for range 2 {
		wait.Go(func() {
			for range each {
				entry := map[string]any{"kind": "strip", "by": "Kit Venn", "strip": map[string]any{"do": "off", "item": changing +
					"cover-screws", "count": 1}}
				path := "/jobs/" + job + "/entries/" + id()
				for range 2 { // as after a lost answer
					assert.Equal(t, http.StatusOK, h.put(path, entry).Code)
				}
			}
		})
	}
	wait.Wait()
	assert.Equal(t, 2*each, read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, "")).Hands.Items[0].Off)
}

// A flush that brings rubber out settles the ledger, and taking the tap back opens it again.
func TestRubberOutOfAFlushGoesIntoTheLedger(t *testing.T) {
	h := newHouse(t)
	job := h.job()
	h.done(job, map[string]any{"do": "wheel", "wheel": map[string]any{"blades": []map[string]any{{"state": "gone"},
		{"state": "sound"}, {"state": "sound"}}}})
	work := id()
	read[api.JobPage](t, h.wet(job, map[string]any{"do": "plan", "work": work, "kind": "flush",
		"flush": map[string]any{"station": "elbow", "debris": "rubber", "source": "engine"}}))
	p := read[api.JobPage](t, h.wet(job, map[string]any{"do": "came-out", "work": work, "what": "rubber", "share": 0.95,
		"station": "elbow"}))
	assert.False(t, *p.Hands.Ledger.Open)
	assert.InDelta(t, 0.95, p.Hands.Ledger.Found, 1e-9)
	read[api.Undone](t, h.put("/undo/"+id(), map[string]any{"undoes": p.Log[len(p.Log)-1].EntryId, "by": "Kit Venn"}))
	p = read[api.JobPage](t, h.send(http.MethodGet, "/api/v1/jobs/"+job, ""))
	assert.True(t, *p.Hands.Ledger.Open)
	w := h.wet(job, map[string]any{"do": "came-out", "work": work, "what": "rubber", "station": "elbow"})
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "how much of it is needed")
	read[api.JobPage](t, h.wet(job, map[string]any{"do": "end", "work": work}))
	assert.Equal(t, http.StatusConflict, h.wet(job, map[string]any{"do": "begin", "work": work}).Code, "it is done")
}
