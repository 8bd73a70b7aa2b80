package phone_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/demo"
	"hevrin/phone"
	"hevrin/server"
	"hevrin/store"
)

// wasmFile is the phone's program as it ships.
const wasmFile = "../web/generated/phone.wasm"

// step is one thing that the phone's program is asked, with what the yard's answered.
type step struct {
	Along   json.RawMessage `json:"along,omitempty"` // it begins anew with this
	Request *phone.Request  `json:"request,omitempty"`
	status  int
	body    []byte
	job     int
}

// walk draws jobs on the demo's engines, has the yard's program do them, and writes down what it answered.
type walk struct {
	t     testing.TB
	yard  *echo.Echo
	c     *catalogue.Catalogue
	now   time.Time
	draw  *rand.Rand
	steps []step
	n     int
	job   string
	units units.System
	page  jobPage
	saved []string
}

// jobPage is as much of a job's page as the next step is drawn from.
type jobPage struct {
	Diagnosis struct {
		NextChecks []struct {
			Check string `json:"check"`
		} `json:"next_checks"`
		Likely []struct {
			Fault string `json:"fault"`
		} `json:"faults"`
	} `json:"diagnosis"`
	Hands struct {
		Items []struct {
			Key string `json:"key"`
		} `json:"items"`
	} `json:"hands"`
}

func newWalk(t testing.TB) *walk {
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	w := &walk{t: t, c: c, now: time.Date(2026, 5, 4, 7, 0, 0, 0, time.UTC)}
	a := app.New(c, s, func() time.Time { return w.now })
	require.NoError(t, demo.Seed(context.Background(), c, s))
	w.yard, err = server.New(server.Config{App: a, Version: "test"})
	require.NoError(t, err)
	return w
}

// ask lets the yard's program answer, and remembers what was asked.
func (w *walk) ask(method, path string, body map[string]any, query ...string) (status int, answer []byte) {
	w.now = w.now.Add(time.Duration(20+w.draw.IntN(200)) * time.Second)
	r := phone.Request{Method: method, Path: path, At: w.now, Units: w.units}
	address := server.BasePath + path
	if len(query) > 0 {
		r.Query = map[string]string{query[0]: query[1]}
		address += "?" + query[0] + "=" + query[1]
	}
	var raw []byte
	if body != nil {
		var err error
		raw, err = json.Marshal(body)
		require.NoError(w.t, err)
		r.Body = raw
	}
	q := httptest.NewRequest(method, address, bytes.NewReader(raw))
	q.Host = "localhost"
	q.Header.Set("Content-Type", "application/json")
	q.Header.Set("Hevrin-Units", string(w.units))
	out := httptest.NewRecorder()
	w.yard.ServeHTTP(out, q)
	w.steps = append(w.steps, step{Request: &r, status: out.Code, body: out.Body.Bytes(), job: w.n})
	return out.Code, out.Body.Bytes()
}

func (w *walk) get(path string) []byte {
	status, raw := w.ask(http.MethodGet, path, nil)
	require.Equal(w.t, http.StatusOK, status, "%s: %s", path, raw)
	return raw
}

// note adds an entry to the job. What the program refuses, the phone must refuse in the same words.
func (w *walk) note(body map[string]any) {
	id := uuid.NewString()
	body["by"] = "Wren"
	status, raw := w.ask(http.MethodPut, "/jobs/"+w.job+"/entries/"+id, body)
	if status == http.StatusOK {
		w.saved = append(w.saved, id)
		w.page = jobPage{}
		require.NoError(w.t, json.Unmarshal(raw, &w.page))
	}
}

func pick[T any](w *walk, list []T) T { return list[w.draw.IntN(len(list))] }

func (w *walk) stated(ids []string, most int) (list []map[string]any) {
	for i, at := range w.draw.Perm(len(ids)) {
		if i < most {
			list = append(list, map[string]any{"id": ids[at], "state": pick(w, []string{"present", "absent", "absent"})})
		}
	}
	return list
}

// acts are what may come next in a job, each as often as it stands here.
func (w *walk) acts() []func() {
	check := func() {
		next := w.page.Diagnosis.NextChecks
		if len(next) == 0 {
			w.note(map[string]any{"kind": "note", "words": "Nothing left to look at"})
			return
		}
		k, _ := w.c.Check(next[min(w.draw.IntN(3), len(next)-1)].Check)
		w.note(map[string]any{"kind": "check", "check": k.ID, "outcome": "done", "minutes": w.draw.IntN(20),
			"stated": w.stated(k.Settles, 1+w.draw.IntN(3))})
	}
	strip := func(act map[string]any) func() {
		return func() { w.note(map[string]any{"kind": "strip", "strip": maps.Clone(act)}) }
	}
	return []func(){check, check, check, check,
		func() { w.note(map[string]any{"kind": "finding", "stated": w.stated(w.symptoms(), 1)}) },
		func() {
			w.note(map[string]any{"kind": "round", "round": map[string]any{
				"operation": map[string]any{"rpm": 1400 + 100*w.draw.IntN(12), "sea_c": 10 + w.draw.IntN(12)},
				"readings": []map[string]any{{"station": "flow", "value": 20 + w.draw.IntN(60), "error": 3},
					{"station": "gauge", "value": 70 + w.draw.IntN(35), "error": 2}}}})
		},
		strip(map[string]any{"do": "isolate", "item": "seacock"}), strip(map[string]any{"do": "lift", "item": "seacock"}),
		strip(map[string]any{"do": "where", "item": pick(w, []string{"afloat", "alongside", "ashore"})}),
		strip(map[string]any{"do": "heat", "item": pick(w, []string{"cold", "warm", "hot"})}),
		strip(map[string]any{"do": "wait", "item": "part", "words": "for a seal"}), strip(map[string]any{"do": "start"}),
		strip(map[string]any{"do": "off", "item": "cover", "count": 1}),
		func() { w.note(map[string]any{"kind": "access", "access": pick(w, w.c.Access).ID, "open": true}) },
		func() {
			if len(w.saved) > 0 {
				w.ask(http.MethodPut, "/undo/"+uuid.NewString(), map[string]any{"by": "Wren", "undoes": pick(w, w.saved)})
			}
		},
		func() { w.get("/jobs/" + w.job + "/report") },
		func() { w.note(maps.Clone(pick(w, beyond))) },
	}
}

// beyond are entries that the contract does not take.
var beyond = []map[string]any{
	{"kind": "note", "words": strings.Repeat("é", 4001)},
	{"kind": "of another year", "words": "x"},
	{"words": "no kind"},
	{"kind": "check", "check": "outlet-flow", "outcome": "done", "minutes": 1441.5},
	{"kind": "check", "check": "outlet-flow", "outcome": "perhaps", "minutes": -1},
	{"kind": "closed", "faults": slices.Repeat([]string{"fouled-exchanger"}, 9), "watch_hours": 0},
	{"kind": "finding", "stated": []map[string]any{{"id": "hot-at-idle"}, {"state": "so"}}},
	{"kind": "strip", "strip": map[string]any{"item": strings.Repeat("x", 300), "count": 1.5}},
	{"kind": "round", "round": map[string]any{"operation": map[string]any{"rpm": 1e6}, "readings": []any{}}},
	{"kind": "proving", "proving": map[string]any{"do": "begin", "run": "not an id"}},
}

func (w *walk) symptoms() (ids []string) {
	for _, f := range w.c.Findings {
		if f.Source == "complaint" {
			ids = append(ids, f.ID)
		}
	}
	return ids
}

// drawJob has the yard's program do a job from its complaint, with some looks at what stands beside it.
func (w *walk) drawJob(seed uint64, acts int) {
	w.draw, w.n, w.saved = rand.New(rand.NewPCG(seed, 7)), int(seed), nil
	w.units = pick(w, []units.System{units.Metric, units.Metric, units.US})
	var yard struct {
		Craft []struct {
			Craft   struct{ ID string }
			Engines []struct{ Engine struct{ ID string } }
		}
	}
	w.steps = append(w.steps, step{}) // in the place of what is taken along, below
	first := len(w.steps) - 1
	require.NoError(w.t, json.Unmarshal(w.get("/yard"), &yard))
	w.steps = w.steps[:first+1] // the phone has one craft alone
	craft := pick(w, yard.Craft)
	for len(craft.Engines) == 0 {
		craft = pick(w, yard.Craft)
	}
	engine := pick(w, craft.Engines).Engine.ID
	w.steps[first] = step{Along: w.get("/craft/" + craft.Craft.ID + "/along"), job: w.n, status: http.StatusOK}
	w.steps = w.steps[:first+1]
	w.job = uuid.NewString()
	status, raw := w.ask(http.MethodPut, "/jobs/"+w.job, map[string]any{"entry_id": uuid.NewString(), "by": "Wren",
		"engine_id": engine, "words": "hot at speed"})
	require.Equal(w.t, http.StatusOK, status, string(raw))
	w.note(map[string]any{"kind": "finding", "stated": w.stated(w.symptoms(), 3)})
	for range acts {
		pick(w, w.acts())()
	}
	w.get("/jobs/" + w.job)
	w.get(pick(w, []string{"/engines/" + engine, "/engines/" + engine + "/state", "/engines/" + engine + "/record",
		"/craft/" + craft.Craft.ID}))
}

// sums asks every calculator its example, in each system of units, and the diagnosis alone.
func (w *walk) sums() {
	var list struct {
		Sums []struct {
			Name    string
			Example map[string]any
		}
	}
	require.NoError(w.t, json.Unmarshal(w.get("/calc"), &list))
	require.NotEmpty(w.t, list.Sums)
	for _, c := range list.Sums {
		for _, w.units = range units.Systems {
			w.ask(http.MethodPost, "/calc/"+c.Name, c.Example)
		}
	}
	for range 20 {
		w.ask(http.MethodPost, "/diagnose", map[string]any{"family": pick(w, w.c.Families).ID,
			"findings": w.stated(w.symptoms(), 4)})
	}
}

// tooMuch asks what the contract does not take, of entries and of what else is saved.
func (w *walk) tooMuch() {
	for _, body := range beyond {
		w.note(maps.Clone(body))
	}
	long := strings.Repeat("x", 201)
	w.ask(http.MethodPut, "/craft/"+uuid.NewString(), map[string]any{"entry_id": "1", "by": " ", "name": long})
	w.ask(http.MethodPut, "/engines/"+uuid.NewString(), map[string]any{"by": "Wren", "name": "Main", "rated_kw": -1})
	w.ask(http.MethodPut, "/jobs/"+uuid.NewString(), map[string]any{"by": long})
	w.ask(http.MethodPut, "/undo/"+uuid.NewString(), map[string]any{"by": ""})
	w.ask(http.MethodPost, "/diagnose", map[string]any{"family": "closed", "findings": []map[string]any{{"state": long}}})
}

// told is what the phone's program answered.
type told struct {
	Ready   float64
	Memory  float64
	Answers []struct {
		Status int
		Body   string
		MS     float64
	}
}

// onThePhone has the phone's program, in WebAssembly, do the same.
func onThePhone(t *testing.T, steps []step) told {
	_, err := os.Stat(wasmFile)
	require.NoError(t, err, "make it first: make web/generated/phone.wasm")
	folder := t.TempDir()
	asked, out := filepath.Join(folder, "steps"), filepath.Join(folder, "out")
	var lines bytes.Buffer
	e := json.NewEncoder(&lines)
	for _, s := range steps {
		require.NoError(t, e.Encode(s))
	}
	require.NoError(t, os.WriteFile(asked, lines.Bytes(), 0o600))
	wasm, err := filepath.Abs(wasmFile)
	require.NoError(t, err)
	said, err := exec.Command("node", "testdata/answer.mjs", wasm, asked, out).CombinedOutput()
	require.NoError(t, err, string(said))
	raw, err := os.ReadFile(out)
	require.NoError(t, err)
	var a told
	require.NoError(t, json.Unmarshal(raw, &a))
	return a
}

// The phone gives the same decisions, order and words as the yard's program, and numbers within 1e-9: over drawn jobs
// with checks, findings, rounds, strips, undos and what is refused of them. HEVRIN_SAME draws so many longer jobs, a
// yard for every fifty, from HEVRIN_SAME_FROM on.
func TestThePhoneAnswersAsTheYardDoes(t *testing.T) {
	const aYard = 50
	c := comparison{kinds: map[string]int{}}
	if n, err := strconv.Atoi(os.Getenv("HEVRIN_SAME")); err == nil {
		from, _ := strconv.Atoi(os.Getenv("HEVRIN_SAME_FROM"))
		for ; n > 0; n, from = n-aYard, from+aYard {
			c.run(t, from, min(n, aYard), 14)
		}
	} else {
		c.run(t, 0, 100, 3)
	}
	assert.Greater(t, c.refused, c.steps/50, "what is refused is compared too")
}

// comparison counts what was compared.
type comparison struct {
	kinds                 map[string]int
	steps, refused, wrong int
}

// run compares jobs of a new yard, by their seeds.
func (c *comparison) run(t *testing.T, from, jobs, acts int) {
	w := newWalk(t)
	for i := range jobs {
		w.drawJob(uint64(from+i), acts)
	}
	w.sums()
	w.tooMuch()
	a := onThePhone(t, w.steps)
	require.Len(t, a.Answers, len(w.steps))
	var taps []float64
	for i, s := range w.steps {
		got := a.Answers[i]
		if s.Request == nil {
			require.Equal(t, 200, got.Status, got.Body)
			continue
		}
		c.kinds[s.Request.Method+" "+strings.Split(s.Request.Path, "/")[1]]++
		if s.status != http.StatusOK {
			c.refused++
		}
		if s.Request.Method == http.MethodPut {
			taps = append(taps, got.MS)
		}
		if differs := difference(s.body, []byte(got.Body)); got.Status != s.status || differs != "" {
			if c.wrong++; c.wrong <= 20 {
				t.Errorf("job %d, step %d, %s %s %s\nyard %d, phone %d: %s", s.job, i, s.Request.Method, s.Request.Path,
					s.Request.Body, s.status, got.Status, differs)
			}
		}
	}
	c.steps += len(w.steps)
	slices.Sort(taps)
	t.Logf("jobs %d to %d: %d steps by now, %v, %d refused, %d differ; ready in %.0f ms, a tap %.1f ms, of ten %.1f ms, %.0f MB in all",
		from, from+jobs-1, c.steps, c.kinds, c.refused, c.wrong, a.Ready, taps[len(taps)/2], taps[len(taps)*9/10], a.Memory/1e6)
}

// difference tells the first place in which two answers differ, empty for none.
func difference(yard, phone []byte) string {
	var a, b any
	if err := json.Unmarshal(yard, &a); err != nil {
		return err.Error()
	}
	if err := json.Unmarshal(phone, &b); err != nil {
		return err.Error() + ": " + string(phone[:min(len(phone), 300)])
	}
	return differs("", a, b)
}

func differs(at string, a, b any) string {
	switch x := a.(type) {
	case map[string]any:
		y, ok := b.(map[string]any)
		if !ok {
			break
		}
		for _, k := range slices.Sorted(maps.Keys(x)) {
			if d := differs(at+"."+k, x[k], y[k]); d != "" {
				return d
			}
		}
		for k := range y {
			if _, ok := x[k]; !ok {
				return fmt.Sprintf("%s.%s: only the phone has it", at, k)
			}
		}
		return ""
	case []any:
		y, ok := b.([]any)
		if !ok || len(x) != len(y) {
			break
		}
		for i := range x {
			if d := differs(fmt.Sprintf("%s[%d]", at, i), x[i], y[i]); d != "" {
				return d
			}
		}
		return ""
	case float64:
		if y, ok := b.(float64); ok && math.Abs(x-y) <= 1e-9*max(1, math.Abs(x)) {
			return ""
		}
	default:
		if a == b {
			return ""
		}
	}
	return fmt.Sprintf("%s: %v, the phone %v", at, a, b)
}

// What another version of the program gave along is refused, with what to do; what nobody can do here says so.
func TestWhatThePhoneRefuses(t *testing.T) {
	p, err := phone.New()
	require.NoError(t, err)
	require.ErrorIs(t, p.Take([]byte(`{"form": 1, "catalogue": "of another year"}`)), phone.ErrOtherForm)
	require.ErrorIs(t, p.Take([]byte(`{"form": 99}`)), phone.ErrOtherForm)
	require.Error(t, p.Take([]byte(`{"form": `)))
	for path, status := range map[string]int{"/people": phone.NotHere, "/engines/x/live": phone.NotHere,
		"/jobs/" + uuid.NewString(): http.StatusNotFound, "/yard": http.StatusOK} {
		a := p.Answer(phone.Request{Method: http.MethodGet, Path: path, At: time.Now()})
		assert.Equal(t, status, a.Status, path)
	}
	a := p.Answer(phone.Request{Method: http.MethodPut, Path: "/jobs/" + uuid.NewString() + "/entries/" + uuid.NewString(),
		Body: []byte(`{"kind": 7}`), At: time.Now()})
	assert.Equal(t, http.StatusBadRequest, a.Status, string(a.Body))
	// an assistant's rights are looked at here too
	assistant := &phone.Person{ID: "1", Name: "Kit", Role: "assistant"}
	a = p.Answer(phone.Request{Method: http.MethodPut, Path: "/undo/" + uuid.NewString(), Body: []byte(`{"by": "Kit",
		"undoes": "` + uuid.NewString() + `"}`), At: time.Now(), Who: assistant})
	assert.Equal(t, http.StatusNotFound, a.Status, string(a.Body))
}

// Only an entry of a job can be foreseen: what else is asked is left alone, and so is what makes no sense.
func TestWhatIsForeseenIsNotSaved(t *testing.T) {
	p, err := phone.New()
	require.NoError(t, err)
	craft := phone.Request{Method: http.MethodPut, Path: "/craft/" + uuid.NewString(), At: time.Now(),
		Body: []byte(`{"entry_id": "` + uuid.NewString() + `", "by": "Kit", "name": "Skiff"}`)}
	p.Foresee(craft)
	assert.Empty(t, p.Added(0))
	p.Foresee(phone.Request{Method: http.MethodPut, Path: "/jobs/x/entries/y", Body: []byte(`{"kind": 7}`)})
	assert.Equal(t, http.StatusOK, p.Answer(craft).Status)
	assert.Len(t, p.Added(0), 1)
}
