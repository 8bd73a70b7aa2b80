package training_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/app/tries"
	"hevrin/core/catalogue"
	"hevrin/core/coaching"
	"hevrin/core/practice"
	"hevrin/phone"
	"hevrin/training"
)

// bench is a room with what is needed to practise in it.
type bench struct {
	t     *testing.T
	room  *training.Room
	store tries.Store
	id    string
	job   string
	ctx   context.Context
}

func begin(t *testing.T, c practice.Case) *bench {
	t.Helper()
	cat, err := catalogue.Load()
	require.NoError(t, err)
	b := &bench{t: t, store: tries.InMemory(), id: uuid.NewString(), ctx: t.Context()}
	b.room = training.New(cat, b.store, time.Now)
	s, err := b.room.Begin(b.ctx, b.id, c, "Kit Venn")
	require.NoError(t, err)
	b.job = s.IDs.Job
	return b
}

func (b *bench) do(d training.Did) *training.Status {
	b.t.Helper()
	if d.ID == "" {
		d.ID = uuid.NewString()
	}
	s, err := b.room.Do(b.ctx, b.id, d)
	require.NoError(b.t, err)
	return s
}

func (b *bench) ask(method, path string, body any) (int, map[string]any) {
	b.t.Helper()
	q := phone.Request{Method: method, Path: path}
	if body != nil {
		raw, err := json.Marshal(body)
		require.NoError(b.t, err)
		q.Body = raw
	}
	a, _, err := b.room.Ask(b.ctx, b.id, q)
	require.NoError(b.t, err)
	var out map[string]any
	require.NoError(b.t, json.Unmarshal(a.Body, &out), string(a.Body))
	return a.Status, out
}

func (b *bench) note(body map[string]any) (int, map[string]any) {
	body["by"] = "Kit Venn"
	return b.ask("PUT", fmt.Sprintf("/jobs/%s/entries/%s", b.job, uuid.NewString()), body)
}

func (b *bench) hand(do, item string) {
	b.t.Helper()
	status, out := b.note(map[string]any{"kind": "strip", "strip": map[string]any{"do": do, "item": item}})
	require.Equal(b.t, 200, status, out)
}

// Its own program answers as a real job's does; what is noted reaches the engine.
func TestPracticeIsAJobOfItsOwn(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	status, page := b.ask("GET", "/jobs/"+b.job, nil)
	require.Equal(t, 200, status)
	assert.Contains(t, fmt.Sprint(page), "The needle climbs")
	s := b.do(training.Did{Do: training.Look, Check: "look-over-side"})
	require.Len(t, s.Seen, 1)
	assert.InDelta(t, 1, s.Minutes, 1e-9)
	b.hand("isolate", "seacock")
	s = b.do(training.Did{Do: training.Look, Check: "strainer-look"})
	assert.Empty(t, s.Dangers)
	status, _ = b.note(map[string]any{"kind": "check", "check": "strainer-look", "outcome": "done",
		"stated": []map[string]any{{"id": "debris-in-strainer", "state": "present"}}})
	require.Equal(t, 200, status)
	b.hand("put-right", "strainer-clogged")
	s = b.do(training.Did{Do: training.End})
	assert.True(t, s.Over)
	v, _, err := b.room.Review(b.ctx, b.id)
	require.NoError(t, err)
	assert.True(t, v.Cured)
	list, err := b.room.Tries(b.ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	require.NotNil(t, list[0].Result)
	assert.True(t, list[0].Result.Cured)
	assert.Equal(t, []string{"strainer-clogged"}, list[0].Result.Faults)
}

// The program was killed: what was done stands, to the last tap, and the job as its screens show it.
func TestPracticeStandsWhenTheProgramIsKilled(t *testing.T) {
	b := begin(t, practice.Case{Kind: "sail", Level: practice.TwoFaults, Seed: 5})
	b.do(training.Did{Do: training.Look, Check: "look-over-side"})
	b.hand("isolate", "seacock")
	b.do(training.Did{Do: training.Wait, Minutes: 40})
	b.do(training.Did{Do: training.Look, Check: "impeller-look"})
	b.do(training.Did{Do: training.Hint})
	b.do(training.Did{Do: training.Measure, Part: "impeller"})
	b.do(training.Did{Do: training.Order, Part: "impeller", Offer: 1})
	b.do(training.Did{Do: training.Prove})
	before, err := b.room.Status(b.ctx, b.id)
	require.NoError(t, err)
	_, page := b.ask("GET", "/jobs/"+b.job, nil)
	cat, err := catalogue.Load()
	require.NoError(t, err)
	b.room = training.New(cat, b.store, time.Now)
	after, err := b.room.Status(b.ctx, b.id)
	require.NoError(t, err)
	assert.Equal(t, before.Log, after.Log)
	assert.Equal(t, before.Parts, after.Parts)
	assert.Equal(t, before.Run, after.Run)
	assert.InDelta(t, before.Minutes, after.Minutes, 1e-9)
	_, again := b.ask("GET", "/jobs/"+b.job, nil)
	assert.Equal(t, page["log"], again["log"])
	assert.Equal(t, page["answer"], again["answer"])
}

// What a run or a round told is of the engine as it was: it goes with a repair, and where a proof begins.
func TestARunIsOfTheEngineAsItWas(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 10})
	runs := func() *training.Status {
		s := b.do(training.Did{Do: training.Prove})
		require.NotNil(t, s.Run)
		assert.Greater(t, s.Run.ProbeC, 95.0, "it is blocked outside")
		return b.do(training.Did{Do: training.Read})
	}
	stands := func() *training.Status {
		s, err := b.room.Status(b.ctx, b.id)
		require.NoError(t, err)
		return s
	}
	require.NotNil(t, runs().Round)
	b.hand("put-right", "impeller-tired")
	assert.Nil(t, stands().Run)
	assert.Nil(t, stands().Round)
	runs()
	status, out := b.note(map[string]any{"kind": "proving", "proving": map[string]any{"do": "begin", "run": uuid.NewString(),
		"how": "by-hand", "where": "afloat"}})
	require.Equal(t, 200, status, out)
	assert.Nil(t, stands().Run)
	b.note(map[string]any{"kind": "note", "words": "the needle stands still"})
	assert.NotNil(t, runs().Run)
	b.note(map[string]any{"kind": "note", "words": "the needle stands still"})
	assert.NotNil(t, stands().Run, "a note changes nothing")
}

func TestWhatIsSentTwiceIsDoneOnce(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	d := training.Did{ID: uuid.NewString(), Do: training.Look, Check: "look-over-side"}
	b.do(d)
	assert.InDelta(t, 1, b.do(d).Minutes, 1e-9)
	again, err := b.room.Begin(b.ctx, b.id, practice.Case{Lesson: 2}, "Kit Venn")
	require.NoError(t, err)
	assert.Equal(t, 1, again.Case.Lesson, "it was begun")
}

func TestWhatIsRefused(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	for name, d := range map[string]training.Did{
		"no look":  {Do: training.Look, Check: "no-such"},
		"no wait":  {Do: training.Wait},
		"no thing": {Do: "dance"},
		"no part":  {Do: training.Measure, Part: "impeller"}, // in a lesson all lies ready
	} {
		d.ID = uuid.NewString()
		_, err := b.room.Do(b.ctx, b.id, d)
		assert.Error(t, err, name)
	}
	_, _, err := b.room.Review(b.ctx, b.id)
	assert.ErrorContains(t, err, "still goes on")
	_, err = b.room.Status(b.ctx, uuid.NewString())
	assert.Error(t, err, "there is none")
	status, out := b.note(map[string]any{"kind": "check", "check": "no-such", "outcome": "done"})
	assert.Equal(t, 422, status, out)
	s, err := b.room.Status(b.ctx, b.id)
	require.NoError(t, err)
	assert.Empty(t, s.Log, "nothing was done")
}

// Another person's practice is none of one's own.
func TestAnothersPracticeIsNotFound(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	other := record.WithActor(b.ctx, record.Actor{ID: "ada", Name: "Ada Sedge"})
	_, err := b.room.Status(other, b.id)
	assert.Error(t, err)
	list, err := b.room.Tries(other)
	require.NoError(t, err)
	assert.Empty(t, list)
}

// What a bath may not meet is refused by the program as in a real job, and told as the danger that it is.
func TestAcidOnAluminiumIsTold(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 9})
	raw, err := json.Marshal(map[string]any{"kind": "wet", "by": "Kit Venn", "wet": map[string]any{"do": "plan",
		"work": uuid.NewString(), "kind": "descale", "descale": map[string]any{"place": "in-place",
			"product": map[string]any{"id": "citric", "label": "Citric acid", "acid": "citric", "stock_percent_mass": 100},
			"loop":    []string{"exchanger"}, "materials": map[string]any{"exchanger": []string{"aluminium"}}}}})
	require.NoError(t, err)
	a, walked, err := b.room.Ask(b.ctx, b.id, phone.Request{Method: "PUT",
		Path: fmt.Sprintf("/jobs/%s/entries/%s", b.job, uuid.NewString()), Body: raw})
	require.NoError(t, err)
	assert.GreaterOrEqual(t, a.Status, 400)
	require.Len(t, walked, 1, string(a.Body))
	assert.Equal(t, "acid-on-aluminium", walked[0].ID)
	s, err := b.room.Status(b.ctx, b.id)
	require.NoError(t, err)
	assert.Len(t, s.Log, 1, "it is kept although it was refused")
}

// many practise at once, and none is held up for long or mixed up with another.
func TestManyAtOnce(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	var all sync.WaitGroup
	for i := range 40 { // more than are held ready
		all.Add(1)
		go func() {
			defer all.Done()
			id := uuid.NewString()
			c := practice.Case{Lesson: i%len(practice.Lessons) + 1}
			_, err := b.room.Begin(b.ctx, id, c, "x")
			if !assert.NoError(t, err) {
				return
			}
			for range 3 {
				_, err = b.room.Do(b.ctx, id, training.Did{ID: uuid.NewString(), Do: training.Wait, Minutes: 5})
				assert.NoError(t, err)
			}
			s, err := b.room.Status(b.ctx, id)
			assert.NoError(t, err)
			assert.InDelta(t, 15, s.Minutes, 1e-9)
			assert.Equal(t, c.Lesson, s.Case.Lesson)
		}()
	}
	all.Wait()
}

var errFull = errors.New("the disk is full")

// full is a store that cannot keep.
type full struct {
	tries.Store
	is bool
}

func (f *full) SaveTry(ctx context.Context, t tries.Try) error {
	if f.is {
		return errFull
	}
	return f.Store.SaveTry(ctx, t)
}

// What could not be kept did not happen: it is said, and can be done again.
func TestWhatCannotBeKeptDidNotHappen(t *testing.T) {
	cat, err := catalogue.Load()
	require.NoError(t, err)
	store := &full{Store: tries.InMemory()}
	room := training.New(cat, store, time.Now)
	id := uuid.NewString()
	_, err = room.Begin(t.Context(), id, practice.Case{Lesson: 1}, "x")
	require.NoError(t, err)
	store.is = true
	d := training.Did{ID: uuid.NewString(), Do: training.Wait, Minutes: 5}
	_, err = room.Do(t.Context(), id, d)
	require.ErrorIs(t, err, errFull)
	store.is = false
	s, err := room.Status(t.Context(), id)
	require.NoError(t, err)
	assert.Zero(t, s.Minutes)
	s, err = room.Do(t.Context(), id, d)
	require.NoError(t, err)
	assert.InDelta(t, 5, s.Minutes, 1e-9)
}

// A bench is played in the background, tells how far it has come, and can be stopped; the next takes its place.
func TestBenchIsPlayedInTheBackground(t *testing.T) {
	b := begin(t, practice.Case{Lesson: 1})
	_, err := b.room.Bench(b.ctx)
	require.Error(t, err, "none was begun")
	of := coaching.Bench{Kind: "sail", Level: practice.OneFault, Jobs: 4}
	first, err := b.room.BeginBench(b.ctx, "a", of)
	require.NoError(t, err)
	again, err := b.room.BeginBench(b.ctx, "a", of)
	require.NoError(t, err)
	assert.Equal(t, first.Bench.Seed, again.Bench.Seed, "it was begun")
	require.Eventually(t, func() bool {
		now, err := b.room.Bench(b.ctx)
		return err == nil && now.Over
	}, time.Minute, 20*time.Millisecond)
	now, err := b.room.Bench(b.ctx)
	require.NoError(t, err)
	assert.Equal(t, 4, now.Own.Jobs)
	assert.Empty(t, now.Failed)
	assert.Equal(t, now.Program, now.Own)

	of.Jobs = coaching.MostJobs
	_, err = b.room.BeginBench(b.ctx, "b", of)
	require.NoError(t, err)
	_, err = b.room.StopBench(b.ctx)
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		now, err := b.room.Bench(b.ctx)
		return err == nil && now.Over && now.Failed == "stopped"
	}, time.Minute, 20*time.Millisecond)
	of.Jobs = 0
	_, err = b.room.BeginBench(b.ctx, "c", of)
	assert.Error(t, err)
}

// A phone without a link draws the same engine from the same code, with the same owner and the same answers.
func TestPhoneDrawsTheSameEngine(t *testing.T) {
	b := begin(t, practice.Case{Kind: "motor", Level: practice.WornBeside, Seed: 77})
	alone, err := phone.New()
	require.NoError(t, err)
	there := training.Answers{Room: training.New(alone.Catalogue(), tries.InMemory(), alone.Now)}
	alone.Also(there.Routes()...)
	id := uuid.NewString()
	ask := func(method, path string, body any) map[string]any {
		raw, err := json.Marshal(body)
		require.NoError(t, err)
		q := phone.Request{Method: method, Path: path, At: time.Now()}
		if body != nil {
			q.Body = raw
		}
		a := alone.Answer(q)
		require.Equal(t, 200, a.Status, string(a.Body))
		var out map[string]any
		require.NoError(t, json.Unmarshal(a.Body, &out))
		return out
	}
	s, err := b.room.Status(b.ctx, b.id)
	require.NoError(t, err)
	begun := ask("PUT", "/practice/"+id, map[string]any{"by": "x", "code": s.Try.Code})
	assert.Equal(t, s.Try.Code, begun["code"])
	inside := func(method, path string, body any) map[string]any {
		return ask("POST", "/practice/"+id+"/ask", map[string]any{"method": method, "path": path, "body": body})["body"].(map[string]any)
	}
	page := inside("GET", fmt.Sprintf("/jobs/%s", begun["job_id"]), nil)
	_, yards := b.ask("GET", "/jobs/"+b.job, nil)
	assert.Equal(t, yards["card"].(map[string]any)["words"], page["card"].(map[string]any)["words"])
	for _, check := range []string{"look-over-side", "oil-look", "belt-look"} {
		there := ask("PUT", "/practice/"+id+"/acts/"+uuid.NewString(), map[string]any{"by": "x", "do": "look", "check": check})
		here := b.do(training.Did{Do: training.Look, Check: check})
		steps := there["steps"].([]any)
		seen := steps[len(steps)-1].(map[string]any)["seen"].([]any)
		require.Len(t, seen, len(here.Log[len(here.Log)-1].Seen))
		for i, x := range here.Log[len(here.Log)-1].Seen {
			assert.Equal(t, x.Present, seen[i].(map[string]any)["present"], x.Finding)
		}
	}
	again := phone.Request{Method: "GET", Path: "/practice/bench", At: time.Now()}
	assert.NotEqual(t, 200, alone.Answer(again).Status, "the bench is the yard's alone")
}
