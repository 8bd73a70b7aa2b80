package reports_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/app/exchange"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/validation"
	"hevrin/demo"
	"hevrin/reports"
	"hevrin/reports/schema"
	"hevrin/store"
)

var now = time.Date(2026, time.June, 1, 12, 0, 0, 0, time.UTC)

// program makes an empty program.
func program(t testing.TB) *app.App {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	a := app.New(c, s, func() time.Time { return now })
	t.Cleanup(func() { a.Close(); assert.NoError(t, s.Close()) })
	return a
}

// house is the demo in a program, with the files of all its jobs.
type house struct {
	*app.App
	files map[string][]byte
}

// demoHouse is made once: it is only read.
var demoHouse = sync.OnceValues(func() (*house, error) {
	folder, err := os.MkdirTemp("", "hevrin-papers")
	if err != nil {
		return nil, err
	}
	ctx := context.Background()
	c, err := catalogue.Load()
	if err != nil {
		return nil, err
	}
	s, err := store.Open(ctx, folder)
	if err != nil {
		return nil, err
	}
	if err := demo.Seed(ctx, c, s); err != nil {
		return nil, err
	}
	h := &house{app.New(c, s, func() time.Time { return now }), map[string][]byte{}}
	leave = func() { h.Close(); _ = s.Close(); _ = os.RemoveAll(folder) }
	yard, err := h.Yard(ctx)
	if err != nil {
		return nil, err
	}
	for _, craft := range yard {
		page, err := h.Craft(ctx, craft.Craft.ID)
		if err != nil {
			return nil, err
		}
		for _, e := range page.Engines {
			for _, j := range e.Jobs {
				b, err := h.Bundle(ctx, j.ID)
				if err != nil {
					return nil, err
				}
				if h.files[j.ID], err = reports.WriteBundle(b, "test", c.Version, now); err != nil {
					return nil, err
				}
			}
		}
	}
	return h, nil
})

var leave = func() {}

func TestMain(m *testing.M) {
	code := m.Run()
	leave()
	os.Exit(code)
}

func ofDemo(t testing.TB) *house {
	t.Helper()
	h, err := demoHouse()
	require.NoError(t, err)
	return h
}

func jobsOfDemo(t testing.TB) map[string][]byte {
	t.Helper()
	return ofDemo(t).files
}

// one is the file of the job that has the most in it.
func one(t testing.TB) []byte {
	t.Helper()
	var most []byte
	for _, raw := range jobsOfDemo(t) {
		if len(raw) > len(most) {
			most = raw
		}
	}
	return most
}

func take(t testing.TB, a *app.App, raw []byte) (*exchange.Imported, error) {
	t.Helper()
	b, err := reports.ReadBundle(raw)
	if err != nil {
		return nil, err
	}
	return a.ImportBundle(context.Background(), b, false)
}

func TestTheCommittedSchemaIsThatOfTheTypes(t *testing.T) {
	made, err := schema.Bundle()
	require.NoError(t, err)
	assert.Equal(t, string(made), string(reports.BundleSchema), "run go generate in reports")
}

// Exported, taken into an empty program and exported again, every job of the demo is the same to the byte.
func TestAJobComesBackTheSame(t *testing.T) {
	jobs := jobsOfDemo(t)
	require.Greater(t, len(jobs), 10)
	for id, raw := range jobs {
		a := program(t)
		taken, err := take(t, a, raw)
		require.NoError(t, err, id)
		assert.Positive(t, taken.NewJob)
		b, err := a.Bundle(context.Background(), id)
		require.NoError(t, err)
		again, err := reports.WriteBundle(b, "test", a.Catalogue.Version, now.Add(time.Hour))
		require.NoError(t, err)
		was, is := bytes.SplitN(raw, []byte("\n"), 5), bytes.SplitN(again, []byte("\n"), 5)
		assert.Contains(t, string(is[3]), "exported_at")
		assert.NotEqual(t, string(was[3]), string(is[3]))
		was[3], is[3] = nil, nil
		assert.Equal(t, string(bytes.Join(was, nil)), string(bytes.Join(is, nil)), "job %s", id)
		page, err := a.Job(context.Background(), id)
		require.NoError(t, err)
		assert.NotNil(t, page.Answer)
	}
}

// All jobs of the demo taken in one after another share craft and engines, and taking one in twice adds nothing.
func TestTakenInTwiceAddsNothing(t *testing.T) {
	a := program(t)
	for range 2 {
		for _, raw := range jobsOfDemo(t) {
			_, err := take(t, a, raw)
			require.NoError(t, err)
		}
	}
	taken, err := take(t, a, one(t))
	require.NoError(t, err)
	assert.Zero(t, taken.NewCraft+taken.NewEngine+taken.NewJob+taken.Photos+taken.Recordings)
	yard, err := a.Yard(context.Background())
	require.NoError(t, err)
	assert.Greater(t, len(yard), 3)
}

func TestAJobThatWentOnIsPutTogetherOrRefused(t *testing.T) {
	ctx := context.Background()
	var raw []byte
	for _, j := range jobsOfDemo(t) {
		if b, err := reports.ReadBundle(j); err == nil && b.Job[len(b.Job)-1].Kind != eventlog.Closed {
			raw = j
		}
	}
	require.NotNil(t, raw)
	there, here := program(t), program(t)
	for _, a := range []*app.App{there, here} {
		_, err := take(t, a, raw)
		require.NoError(t, err)
	}
	b, err := reports.ReadBundle(raw)
	require.NoError(t, err)
	note := func(a *app.App, words, id string) {
		_, err := a.NoteInJob(ctx, b.JobID, eventlog.Noted, record.Stamp{EntryID: id, By: "T"}, eventlog.Body{Words: words})
		require.NoError(t, err)
	}
	export := func(a *app.App) []byte {
		b, err := a.Bundle(ctx, b.JobID)
		require.NoError(t, err)
		out, err := reports.WriteBundle(b, "test", "", now)
		require.NoError(t, err)
		return out
	}
	note(there, "gone on there", "7b7c2f0e-0000-4000-8000-000000000001")
	taken, err := take(t, here, export(there))
	require.NoError(t, err)
	assert.Equal(t, 1, taken.NewJob, "what came since is added")
	taken, err = take(t, there, raw)
	require.NoError(t, err)
	assert.Zero(t, taken.NewJob, "an older file adds nothing")
	note(here, "gone on here", "7b7c2f0e-0000-4000-8000-000000000002")
	note(there, "gone on there again", "7b7c2f0e-0000-4000-8000-000000000003")
	_, err = take(t, here, export(there))
	var clash *eventlog.Conflict
	require.ErrorAs(t, err, &clash)
	assert.Contains(t, clash.Say, "both here and where it was exported")
}

// changed is the file with one text replaced by another.
func changed(t testing.TB, raw []byte, from, to string) []byte {
	t.Helper()
	require.Contains(t, string(raw), from)
	return bytes.Replace(raw, []byte(from), []byte(to), 1)
}

// What is malformed, truncated, too large, of the future or hostile is refused with its reason, and changes nothing.
func TestABadFileIsRefusedAndChangesNothing(t *testing.T) {
	good := one(t)
	withPhoto := good
	for _, j := range jobsOfDemo(t) {
		if bytes.Contains(j, []byte(`"jpeg"`)) {
			withPhoto = j
		}
	}
	mutate := func(f func(m map[string]any)) []byte {
		var m map[string]any
		require.NoError(t, json.Unmarshal(good, &m))
		f(m)
		raw, err := json.Marshal(m)
		require.NoError(t, err)
		return raw
	}
	log := func(m map[string]any, name string) []any { return m[name].(map[string]any)["entries"].([]any) }
	for _, c := range []struct {
		name string
		raw  []byte
		say  string
	}{
		{"empty", nil, "empty or breaks off"},
		{"truncated", good[:len(good)/2], "breaks off"},
		{"a slip within", changed(t, good, `"version": 1`, `"version": ;1`), "damaged at byte"},
		{"packed", append([]byte("PK\x03\x04"), good...), "unpack it"},
		{"a database", []byte("SQLite format 3\x00"), "hevrin restore"},
		{"no text", []byte("{\"format\": \"\xff\xfe\"}"), "letters cannot be read"},
		{"too large", bytes.Repeat([]byte{' '}, reports.MostBundleBytes+1), "too large"},
		{"ten million rows", []byte(`{"format":"hevrin-job","version":1,"pieces":[` + strings.Repeat("1,", 10_000_000) +
			`1]}`), "not made by Hevrin"},
		{"nested without end", []byte(strings.Repeat("[", 100_000)), "not made by Hevrin"},
		{"another file", []byte(`{"name": "x"}`), "no job's file"},
		{"of the future", changed(t, good, `"version": 1`, `"version": 7`), "bring this one up to date"},
		{"version in words", changed(t, good, `"version": 1`, `"version": "1"`), "version does not fit"},
		{"an unknown field", changed(t, good, `"version": 1,`, `"version": 1, "extra": 1,`), "extra"},
		{"an id that is a path", mutate(func(m map[string]any) { m["job"].(map[string]any)["id"] = "../../etc/passwd" }),
			"job.id does not fit"},
		{"an entry's id that is a path",
			mutate(func(m map[string]any) { log(m, "job")[1].(map[string]any)["id"] = "/etc/passwd" }), "does not fit"},
		{"an entry of no kind", mutate(func(m map[string]any) { log(m, "job")[1].(map[string]any)["kind"] = "root" }),
			"kind does not fit"},
		{"an entry without what its kind needs", mutate(func(m map[string]any) {
			e := log(m, "job")[1].(map[string]any)
			e["kind"], e["body"] = "recording", map[string]any{}
		}), "needs recording"},
		{"an entry twice", mutate(func(m map[string]any) { l := log(m, "job"); l[2] = l[1] }), "twice"},
		{"opened twice", mutate(func(m map[string]any) {
			e := log(m, "job")[1].(map[string]any)
			e["kind"], e["body"] = "opened", log(m, "job")[0].(map[string]any)["body"]
		}), "cannot stand there"},
		{"a kind of job that is none", mutate(func(m map[string]any) {
			log(m, "job")[0].(map[string]any)["body"].(map[string]any)["opening"] = map[string]any{"kind": "party"}
		}), "no such kind of job"},
		{"a finding that is none", mutate(func(m map[string]any) {
			e := log(m, "job")[1].(map[string]any)
			e["kind"], e["body"] = "finding", map[string]any{"stated": []any{map[string]any{"id": "haunted",
				"state": "present"}}}
		}), "there is no finding"},
		{"takes back what is not there", mutate(func(m map[string]any) {
			e := log(m, "job")[1].(map[string]any)
			e["kind"], e["body"] = "undo", map[string]any{"undoes": "7b7c2f0e-0000-4000-8000-000000000009"}
		}), "no such entry"},
		{"an engine of another craft", mutate(func(m map[string]any) {
			m["craft"].(map[string]any)["id"] = "7b7c2f0e-0000-4000-8000-000000000009"
		}), "another craft"},
		{"an engine that cannot be", mutate(func(m map[string]any) {
			log(m, "engine")[0].(map[string]any)["body"].(map[string]any)["engine"].(map[string]any)["rated_kw"] = -3
		}), "look at the figure"},
		{"a gateway elsewhere", mutate(func(m map[string]any) {
			l := log(m, "engine")
			e := map[string]any{}
			for k, v := range l[0].(map[string]any) {
				e[k] = v
			}
			e["id"], e["kind"] = "7b7c2f0e-0000-4000-8000-00000000000a", "feed"
			e["body"] = map[string]any{"feed": map[string]any{"address": "no address", "channels": []any{}}}
			m["engine"].(map[string]any)["entries"] = append(l, e)
		}), ""},
		{"readings of no recording", mutate(func(m map[string]any) {
			m["pieces"] = append(m["pieces"].([]any), map[string]any{"recording": "x", "station": "rpm", "side": "",
				"from_s": 0, "seconds": []any{0}, "readings": []any{1}})
		}), "belong to no recording"},
		{"times that run backwards", mutate(func(m map[string]any) {
			s := m["pieces"].([]any)[0].(map[string]any)["seconds"].([]any)
			s[1] = s[0]
		}), "backwards"},
		{"a picture missing", mutate2(t, withPhoto, func(m map[string]any) { m["photos"] = []any{} }), "picture is missing"},
		{"a picture that is none", mutate2(t, withPhoto, func(m map[string]any) {
			m["photos"].([]any)[0].(map[string]any)["jpeg"] = "AAAA"
		}), "broken off or another one"},
		{"a text without end", mutate(func(m map[string]any) { m["program"] = strings.Repeat("x", 100_000) }),
			"does not fit"},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := program(t)
			_, err := take(t, a, c.raw)
			require.Error(t, err)
			var slips validation.Errors
			require.True(t, errors.As(err, &slips), "%v", err)
			assert.Contains(t, slips[0].Say, c.say)
			yard, err := a.Yard(context.Background())
			require.NoError(t, err)
			assert.Empty(t, yard, "nothing was kept")
		})
	}
}

func mutate2(t testing.TB, raw []byte, f func(m map[string]any)) []byte {
	t.Helper()
	var m map[string]any
	require.NoError(t, json.Unmarshal(raw, &m))
	f(m)
	out, err := json.Marshal(m)
	require.NoError(t, err)
	return out
}

// A changed entry that is on record already is seen.
func TestAnEntryChangedByHandIsSeen(t *testing.T) {
	a := program(t)
	raw := one(t)
	_, err := take(t, a, raw)
	require.NoError(t, err)
	_, err = take(t, a, changed(t, raw, "Gauge goes to 100", "Gauge goes to 90"))
	var clash *eventlog.Conflict
	require.ErrorAs(t, err, &clash)
	assert.Contains(t, clash.Say, "changed by hand")
}

// FuzzReadBundle: nothing makes the reader panic, and what it takes is checked without a panic too.
func FuzzReadBundle(f *testing.F) {
	for _, seed := range []string{"", "{}", `{"format":"hevrin-job","version":1}`,
		`{"format":"hevrin-job","version":1e400}`, `[[[[`,
		`{"format":"hevrin-job","version":1,"job":{"id":"","entries":null}}`, "\xff"} {
		f.Add([]byte(seed))
	}
	small := small(f)
	f.Add(small)
	a := program(f)
	f.Fuzz(func(t *testing.T, raw []byte) {
		b, err := reports.ReadBundle(raw)
		if err != nil {
			var slips validation.Errors
			if !errors.As(err, &slips) || slips[0].Say == "" {
				t.Fatalf("refused without a reason: %v", err)
			}
			return
		}
		if _, err := a.ImportBundle(context.Background(), b, true); err == nil && len(b.Job) == 0 {
			t.Fatal("a job without an entry was taken")
		}
	})
}

// small is the shortest file of the demo.
func small(t testing.TB) []byte {
	var least []byte
	for _, raw := range jobsOfDemo(t) {
		if least == nil || len(raw) < len(least) {
			least = raw
		}
	}
	return least
}
