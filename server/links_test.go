package server_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	core "hevrin/core/people"
)

// An owner's link opens one report and nothing else, is counted, answered, ended.
func TestAnOwnersLinkOpensOneReport(t *testing.T) {
	y := newYard(t, ownTLS)
	boss := y.boss()
	craft, engine := id(), id()
	read[api.CraftPage](t, boss.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "by": "x", "name": "Ormsgill"}))
	read[api.EnginePage](t, boss.ask("PUT", base+"/engines/"+engine, map[string]any{"entry_id": id(), "by": "x", "craft_id": craft,
		"name": "main", "family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82,
		"circuit": []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "elbow", "outlet", "gauge"}}))
	picture := func(job string) string {
		entry := id()
		read[api.JobPage](t, boss.ask("PUT", base+"/jobs/"+job+"/entries/"+entry, map[string]any{"by": "x", "kind": "photo",
			"photo": map[string]any{"data": onePixel}, "words": "the strainer"}))
		return entry
	}
	jobs, photos := []string{id(), id()}, []string{"", ""}
	for i, job := range jobs {
		read[api.JobPage](t, boss.ask("PUT", base+"/jobs/"+job, map[string]any{"entry_id": id(), "by": "x", "engine_id": engine, "words": "hot"}))
		photos[i] = picture(job)
	}
	made := read[api.OwnerLinks](t, boss.ask("POST", base+"/jobs/"+jobs[0]+"/links", map[string]any{"days": 30}))
	require.NotNil(t, made.Made)
	_, token, _ := strings.Cut(*made.Made, "#")
	owner := y.browser()
	shared := read[api.Shared](t, owner.ask("GET", base+"/shared/"+token, nil))
	assert.Equal(t, "Ormsgill", shared.Report.Craft)
	require.Len(t, shared.Report.Photos, 1)
	assert.Equal(t, 200, owner.ask("GET", base+"/shared/"+token+"/photos/"+photos[0], nil).Code)
	assert.Equal(t, 404, owner.ask("GET", base+"/shared/"+token+"/photos/"+photos[1], nil).Code, "another job's")
	for _, path := range []string{"/photos/" + photos[0], "/jobs/" + jobs[0], "/jobs/" + jobs[0] + "/report", "/yard", "/engines/" + engine} {
		assert.Equal(t, 401, owner.ask("GET", base+path, nil).Code, path)
	}
	assert.Equal(t, 422, owner.ask("POST", base+"/shared/"+token, map[string]any{"name": "R. Thrale", "approved": false}).Code)
	read[api.Shared](t, owner.ask("POST", base+"/shared/"+token, map[string]any{"name": "R. Thrale", "approved": true, "words": "Go on."}))
	page := read[api.JobPage](t, boss.ask("GET", base+"/jobs/"+jobs[0], nil))
	assert.Contains(t, logText(page), "Approved. Go on.")
	assert.Contains(t, logText(page), "R. Thrale, by the owner's link")
	assert.Equal(t, 409, boss.ask("POST", base+"/shared/"+token, map[string]any{"name": "R. Thrale", "approved": true}).Code)

	links := read[api.OwnerLinks](t, boss.ask("GET", base+"/jobs/"+jobs[0]+"/links", nil)).Links
	require.Len(t, links, 1)
	all := read[api.OwnerLinks](t, boss.ask("GET", base+"/links", nil)).Links
	require.Len(t, all, 1, "what can be read from outside stands in one list")
	assert.Equal(t, "Ormsgill, main", *all[0].Of)
	assert.Equal(t, jobs[0], *all[0].JobId)
	assert.Equal(t, 1, links[0].Opened)
	assert.Equal(t, 1, links[0].Answers)
	read[api.OwnerLinks](t, boss.ask("DELETE", base+"/links/"+links[0].Id, nil))
	assert.Equal(t, 409, owner.ask("GET", base+"/shared/"+token, nil).Code)
	assert.Equal(t, 409, owner.ask("GET", base+"/shared/"+token+"/photos/"+photos[0], nil).Code)
	assert.Equal(t, 409, owner.ask("GET", base+"/shared/"+strings.Repeat("A", 43), nil).Code, "guessed")
	assert.Equal(t, 422, boss.ask("POST", base+"/jobs/"+jobs[0]+"/links", map[string]any{"days": 4000}).Code)
}

// An owner's link to an engine's page shows what is due and what was done, what bars a start, and no more.
func TestAnOwnersLinkOpensOneEnginesPage(t *testing.T) {
	y := newYard(t, ownTLS)
	boss := y.boss()
	craft, engine, other, job := id(), id(), id(), id()
	read[api.CraftPage](t, boss.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "by": "x", "name": "Ormsgill"}))
	for _, e := range []string{engine, other} {
		read[api.EnginePage](t, boss.ask("PUT", base+"/engines/"+e, map[string]any{"entry_id": id(), "by": "x", "craft_id": craft,
			"name": "main " + e[:4], "family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82,
			"circuit": []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "elbow", "outlet", "gauge"}}))
	}
	read[api.JobPage](t, boss.ask("PUT", base+"/jobs/"+job, map[string]any{"entry_id": id(), "by": "x", "engine_id": engine, "words": "hot"}))
	read[api.JobPage](t, boss.ask("PUT", base+"/jobs/"+job+"/entries/"+id(), map[string]any{"by": "x", "kind": "note",
		"words": "the owner is slow to pay"}))
	made := read[api.OwnerLinks](t, boss.ask("POST", base+"/engines/"+engine+"/links", map[string]any{"days": 30}))
	_, token, _ := strings.Cut(*made.Made, "#")
	owner := y.browser()
	w := owner.ask("GET", base+"/shared/"+token, nil)
	assert.NotContains(t, w.Body.String(), "slow to pay")
	assert.NotContains(t, w.Body.String(), bossName, "who works in the yard is the yard's")
	shared := read[api.Shared](t, w)
	require.NotNil(t, shared.Engine)
	assert.Nil(t, shared.Report)
	assert.Equal(t, "Ormsgill", shared.Engine.Craft)
	assert.Equal(t, "main "+engine[:4], shared.Engine.EngineName)
	assert.True(t, shared.Engine.WorkOpen, "a job is open on it")
	require.Len(t, shared.Engine.Jobs, 1)
	assert.Equal(t, "hot", shared.Engine.Jobs[0].Complaint)
	assert.Equal(t, 409, owner.ask("POST", base+"/shared/"+token, map[string]any{"name": "R. Thrale", "approved": true}).Code)
	assert.Equal(t, 404, owner.ask("GET", base+"/shared/"+token+"/photos/"+id(), nil).Code)
	assert.Equal(t, 401, owner.ask("GET", base+"/engines/"+engine, nil).Code)
	assert.Empty(t, read[api.OwnerLinks](t, boss.ask("GET", base+"/engines/"+other+"/links", nil)).Links)
	links := read[api.OwnerLinks](t, boss.ask("GET", base+"/engines/"+engine+"/links", nil)).Links
	require.Len(t, links, 1)
	assert.Equal(t, 1, links[0].Opened)
	assert.Empty(t, read[api.OwnerLinks](t, boss.ask("GET", base+"/jobs/"+job+"/links", nil)).Links)
	ended := read[api.OwnerLinks](t, boss.ask("DELETE", base+"/links/"+links[0].Id, nil)).Links
	require.Len(t, ended, 1, "the list of the same engine comes back")
	assert.False(t, ended[0].Stands)
	assert.Equal(t, 409, owner.ask("GET", base+"/shared/"+token, nil).Code)
	assert.Equal(t, 404, boss.ask("POST", base+"/engines/"+id()+"/links", map[string]any{"days": 30}).Code)
}

func logText(p api.JobPage) string {
	raw, err := json.Marshal(p.Log)
	if err != nil {
		panic(err)
	}
	return strings.ReplaceAll(string(raw), `\u0027`, "'")
}

// onePixel is a PNG of one pixel.
const onePixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="

// A person's own calendar is read without signing in, until it is ended, made anew, or its person is switched off.
func TestAPersonsCalendarIsTheirOwn(t *testing.T) {
	y := newYard(t, ownTLS)
	kit := y.person("Kit Venn", core.Technician)
	program := y.browser()
	made := func() string { return *read[api.OwnCalendar](t, kit.ask("POST", base+"/session/calendar", nil)).Link }
	first := made()
	w := program.ask("GET", first, nil)
	assert.Equal(t, 200, w.Code)
	assert.Contains(t, w.Body.String(), "BEGIN:VCALENDAR")
	second := made()
	assert.Equal(t, 409, program.ask("GET", first, nil).Code)
	assert.Equal(t, 200, program.ask("GET", second, nil).Code)
	assert.False(t, read[api.OwnCalendar](t, y.boss().ask("GET", base+"/session/calendar", nil)).Has)
	assert.False(t, read[api.OwnCalendar](t, kit.ask("DELETE", base+"/session/calendar", nil)).Has)
	assert.Equal(t, 409, program.ask("GET", second, nil).Code)
	third := made()
	me := read[api.Session](t, kit.ask("GET", base+"/session", nil)).Person.Id
	read[api.People](t, y.boss().ask("PUT", base+"/people/"+me, map[string]any{"off": true}))
	assert.Equal(t, 409, program.ask("GET", third, nil).Code)
}

// Labels lead to what they stick on; where nothing scans them their code finds it.
func TestLabelsLeadToWhatTheyStickOn(t *testing.T) {
	y := newYard(t, ownTLS)
	boss := y.boss()
	craft, engine, part := id(), id(), id()
	read[api.CraftPage](t, boss.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "by": "x", "name": "Ormsgill"}))
	read[api.EnginePage](t, boss.ask("PUT", base+"/engines/"+engine, map[string]any{"entry_id": id(), "by": "x", "craft_id": craft,
		"name": "Port", "family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82,
		"circuit": []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "elbow", "outlet", "gauge"}}))
	read[api.Inventory](t, boss.ask("PUT", base+"/inventory/entries/"+id(), map[string]any{"by": "x", "do": "keep", "part": part,
		"is": map[string]any{"label": "Impeller", "where": "B3"}}))
	read[api.EnginePage](t, boss.ask("PUT", base+"/engines/"+engine+"/feed", map[string]any{"entry_id": id(), "by": "x",
		"feed": map[string]any{"address": "127.0.0.1:9", "channels": []any{}}}))
	labels := read[api.Labels](t, boss.ask("GET", base+"/labels", nil)).Labels
	require.Len(t, labels, 3)
	assert.Equal(t, "Ormsgill", labels[0].Title)
	assert.Equal(t, "Gateway", labels[1].Title)
	assert.Equal(t, "Ormsgill, Port", labels[1].Say)
	assert.Equal(t, "Impeller", labels[2].Title)
	for i, want := range []string{engine, engine, part} {
		code := labels[i].Code
		assert.Equal(t, strings.ToUpper(want[:4]+"-"+want[4:8]), code)
		hits := read[api.Found](t, boss.ask("GET", base+"/search?for="+code, nil)).Hits
		require.Len(t, hits, 1, code)
		assert.Equal(t, want, hits[0].Id)
	}
}
