package server_test

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/api/routes"
	core "hevrin/core/people"
	"hevrin/server"
)

// practise begins a practice and gives its id.
func (h *house) practise(how map[string]any) api.Practice {
	how["by"] = "T"
	return read[api.Practice](h.t, h.put("/practice/"+id(), how))
}

// inPractice asks a practice's own record.
func (h *house) inPractice(p api.Practice, method, path string, body map[string]any) api.PracticeAnswer {
	asked := map[string]any{"method": method, "path": path}
	if body != nil {
		asked["body"] = body
	}
	return read[api.PracticeAnswer](h.t, h.postJSON(server.BasePath+"/practice/"+p.Id+"/ask", asked))
}

func (h *house) doInPractice(p api.Practice, act map[string]any) api.Practice {
	act["by"] = "T"
	return read[api.Practice](h.t, h.put("/practice/"+p.Id+"/acts/"+id(), act))
}

// volatile is what differs between two looks at the same record.
var volatile = regexp.MustCompile(`"(at|as_of|now|made_at|checked_at|time|date)":"[^"]*"|DTSTAMP:\S+|"size":\d+|"free":\d+|\d{2}:\d{2}:\d{2}`)

// leaked is what only the practice says.
var leaked = regexp.MustCompile(`(?i)practice (sloop|words|berth)|needle climbs`)

// everything is what all routes that read say, each of the addresses that there are.
func (h *house) everything(t *testing.T, values map[string]string) map[string]string {
	t.Helper()
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	out := map[string]string{}
	for path, item := range spec.Paths.Map() {
		op := item.Get
		if op == nil || strings.Contains(path, "/practice") || strings.Contains(path, "/changes") ||
			strings.Contains(path, "stream") || strings.HasPrefix(path, "/health") || strings.Contains(path, "backup") {
			continue
		}
		address := inPath.ReplaceAllStringFunc(path, func(p string) string {
			if v := values[strings.Trim(p, "{}")]; v != "" {
				return v
			}
			return "00000000-0000-0000-0000-000000000000"
		})
		if path == "/search" {
			address += "?for=sloop"
		}
		w := h.send(http.MethodGet, server.BasePath+address, "")
		if strings.HasSuffix(path, ".pdf") {
			out[path] = fmt.Sprint(w.Code) // the same words may be drawn at other moments
			continue
		}
		out[path] = volatile.ReplaceAllString(w.Body.String(), "")
	}
	return out
}

// Nothing of practice is ever in the yard's lists, parts, reports or exports: all routes that read say the same before
// and after a practice in which everything is done.
func TestNothingOfPracticeIsInTheYardsRecord(t *testing.T) {
	h := newHouse(t)
	craft, engine := h.engineOn("closed")
	job := id()
	read[api.JobPage](t, h.put("/jobs/"+job, map[string]any{"entry_id": id(), "by": "T", "engine_id": engine, "words": "hot"}))
	values := map[string]string{"craft_id": craft, "engine_id": engine, "job_id": job}
	before := h.everything(t, values)
	require.Greater(t, len(before), 25)

	p := h.practise(map[string]any{"lesson": 1})
	note := func(body map[string]any) {
		body["by"] = "T"
		a := h.inPractice(p, "PUT", "/jobs/"+p.JobId+"/entries/"+id(), body)
		require.Equal(t, 200, a.Status, a.Body)
	}
	strip := func(act map[string]any) { note(map[string]any{"kind": "strip", "strip": act}) }
	h.doInPractice(p, map[string]any{"do": "look", "check": "look-over-side"})
	strip(map[string]any{"do": "isolate", "item": "seacock"})
	h.doInPractice(p, map[string]any{"do": "look", "check": "strainer-look"})
	note(map[string]any{"kind": "check", "check": "strainer-look", "outcome": "done",
		"stated": stated("debris-in-strainer", "present")})
	strip(map[string]any{"do": "used", "used": map[string]any{"label": "Impeller", "quantity": 1, "state": "new", "price": 42}})
	strip(map[string]any{"do": "put-right", "item": "strainer-clogged"})
	a := h.inPractice(p, "PUT", "/inventory/entries/"+id(), map[string]any{"by": "T", "shelf": map[string]any{"do": "part"}})
	assert.NotEqual(t, 501, a.Status, "the practice has an inventory of its own")
	note(map[string]any{"kind": "note", "words": "practice words"})
	h.doInPractice(p, map[string]any{"do": "prove"})
	h.doInPractice(p, map[string]any{"do": "end"})
	review := read[api.PracticeReview](t, h.send(http.MethodGet, "/api/v1/practice/"+p.Id+"/review", ""))
	assert.True(t, review.Cured)

	after := h.everything(t, values)
	for path, said := range before {
		assert.True(t, said == after[path], "%s says something else", path)
		assert.False(t, leaked.MatchString(after[path]), "%s knows of it", path)
	}
	// and the yard's record is not reached from within
	inside := h.inPractice(p, "GET", "/jobs/"+job, nil)
	assert.Equal(t, 404, inside.Status)
	yard := h.inPractice(p, "GET", "/yard", nil)
	assert.NotContains(t, fmt.Sprint(yard.Body), "Brackling")
}

func TestPracticeByCodeLessonAndLevel(t *testing.T) {
	h := newHouse(t)
	home := read[api.PracticeHome](t, h.send(http.MethodGet, "/api/v1/practice", ""))
	require.GreaterOrEqual(t, len(home.Lessons), 12)
	assert.Len(t, home.Levels, 5)
	assert.Empty(t, home.Tries)
	first := h.practise(map[string]any{"kind": "motor", "level": "two-faults"})
	again := h.practise(map[string]any{"code": strings.ToLower(first.Code)})
	assert.Equal(t, first.Code, again.Code)
	assert.NotEqual(t, first.Id, again.Id)
	words := func(p api.Practice) any {
		return h.inPractice(p, "GET", "/jobs/"+p.JobId, nil).Body.(map[string]any)["words"]
	}
	assert.Equal(t, words(first), words(again), "the same code, the same owner")
	lesson := h.practise(map[string]any{"lesson": 4})
	assert.Equal(t, home.Lessons[3].Title, lesson.Title)
	byCode := h.practise(map[string]any{"code": home.Lessons[3].Code})
	assert.Equal(t, lesson.Code, byCode.Code)
	home = read[api.PracticeHome](t, h.send(http.MethodGet, "/api/v1/practice", ""))
	assert.Len(t, home.Tries, 4)
	assert.Equal(t, 2, home.Lessons[3].Tried)
	for name, how := range map[string]map[string]any{
		"no choice":   {},
		"no level":    {"kind": "sail"},
		"no lesson":   {"lesson": 99},
		"wrong code":  {"code": "AAA-AAAA"},
		"no kind":     {"level": "one-fault"},
		"strange key": {"engine": "x"},
	} {
		how["by"] = "T"
		assert.Equal(t, 422, h.put("/practice/"+id(), how).Code, name)
	}
}

func TestPracticeTellsDangersAndHowItWent(t *testing.T) {
	h := newHouse(t)
	p := h.practise(map[string]any{"lesson": 1})
	assert.Equal(t, 409, h.send(http.MethodGet, "/api/v1/practice/"+p.Id+"/review", "").Code, "it still goes on")
	s := h.doInPractice(p, map[string]any{"do": "look", "check": "impeller-look"})
	require.Len(t, s.Dangers, 1)
	assert.Equal(t, "flooding", s.Dangers[0].Id)
	s = h.doInPractice(p, map[string]any{"do": "wait", "minutes": 30})
	assert.Empty(t, s.Dangers, "told once")
	s = h.doInPractice(p, map[string]any{"do": "hint"})
	require.NotNil(t, s.Steps[len(s.Steps)-1].Words)
	h.doInPractice(p, map[string]any{"do": "end"})
	review := read[api.PracticeReview](t, h.send(http.MethodGet, "/api/v1/practice/"+p.Id+"/review", ""))
	assert.False(t, review.Cured)
	assert.NotEmpty(t, review.Better)
	assert.NotEmpty(t, review.Comeback)
	assert.Equal(t, "strainer-clogged", review.Hidden[0].Fault)
	home := read[api.PracticeHome](t, h.send(http.MethodGet, "/api/v1/practice", ""))
	assert.NotEmpty(t, home.Habits)
	assert.Equal(t, http.StatusNotFound, h.send(http.MethodGet, "/api/v1/practice/"+id(), "").Code)
	assert.Equal(t, 422, h.put("/practice/"+p.Id+"/acts/"+id(), map[string]any{"by": "T", "do": "look", "check": "impeller-look"}).Code,
		"it is over")
	assert.WithinDuration(t, time.Now(), home.Tries[0].BegunAt, time.Minute)
}

// Who leads sees only those who let it be seen, and nobody else sees anybody.
func TestOnlyWhoLetsItIsSeen(t *testing.T) {
	y := newYard(t, ownTLS)
	boss, kit, wyn := y.boss(), y.person("Kit Venn", core.Technician), y.person("Wyn Abery", core.Assistant)
	for _, b := range []*browser{kit, wyn} {
		p := read[api.Practice](t, b.ask("PUT", base+"/practice/"+id(), map[string]any{"by": "x", "lesson": 1}))
		read[api.Practice](t, b.ask("PUT", base+"/practice/"+p.Id+"/acts/"+id(), map[string]any{"by": "x", "do": "end"}))
	}
	seen := func() []api.PracticePerson {
		return read[api.PracticePeople](t, boss.ask("GET", base+"/practice/people", nil)).People
	}
	assert.Empty(t, seen(), "nobody said so yet")
	home := read[api.PracticeHome](t, kit.ask("PUT", base+"/practice/sharing", map[string]any{"by": "x", "shared": true}))
	assert.True(t, home.Shared)
	require.Len(t, seen(), 1)
	assert.Equal(t, "Kit Venn", seen()[0].Name)
	assert.Equal(t, 1, seen()[0].Over)
	assert.Zero(t, seen()[0].Cured)
	assert.NotEmpty(t, seen()[0].Habits)
	assert.Equal(t, 403, kit.ask("GET", base+"/practice/people", nil).Code)
	read[api.PracticeHome](t, kit.ask("PUT", base+"/practice/sharing", map[string]any{"by": "x", "shared": false}))
	assert.Empty(t, seen())
	assert.Len(t, read[api.PracticeHome](t, wyn.ask("GET", base+"/practice", nil)).Tries, 1, "one's own, and no other's")
}
