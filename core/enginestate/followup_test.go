package enginestate_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/teardown"
)

// of puts an entry into another job of the engine, at another time.
func of(job string, id string, at time.Time, e eventlog.Entry) eventlog.Entry {
	e.Subject.ID, e.ID, e.At = job, id, at
	return e
}

func TestSealantIsToBeReplacedUntilTheProperSealIsIn(t *testing.T) {
	off := act(teardown.Act{Do: teardown.Off, Item: "impeller-change/cover-seal", Count: 1})
	sealed := []eventlog.Entry{act(task(t, "impeller-change")), off,
		act(teardown.Act{Do: teardown.Refitted, Item: "impeller-change/cover-seal", Refit: &teardown.Refit{Sealant: "grey"}})}
	left := fold(t, sealed...).FollowUps()
	require.Len(t, left, 1)
	assert.Equal(t, "sealant", left[0].Kind)
	assert.Equal(t, "cover gasket or O-ring, pump cover", left[0].What)
	assert.Equal(t, "job", left[0].Job)

	on := teardown.Act{Do: teardown.On, Item: "impeller-change/cover-seal", Count: 1, State: teardown.New}
	assert.Empty(t, fold(t, append(sealed, off, act(on))...).FollowUps(), "the proper one, in the same job")
	begin := task(t, "impeller-change")
	later := append(sealed, of("next", "x", time.Time{}, act(begin)), of("next", "y", time.Time{}, off))
	assert.Len(t, fold(t, later...).FollowUps(), 1, "off, and not back")
	assert.Empty(t, fold(t, append(later, of("next", "z", time.Time{}, act(on)))...).FollowUps(), "in the next job")
	on.State, on.Words = teardown.Reused, "sound"
	assert.Len(t, fold(t, append(later, of("next", "z", time.Time{}, act(on)))...).FollowUps(), 1, "an old one is none")
}

func TestASeacockThatPassesIsRememberedWhenItIsOpenedAndShutAgain(t *testing.T) {
	e := closedEngine(t)
	open := act(teardown.Act{Do: teardown.Lift, Item: "seacock"})
	cap := closes("pump-cover-off")
	passed := []eventlog.Entry{shut, opened("pump-cover-off"), passes, cap, open}
	require.Len(t, fold(t, passed...).FollowUps(), 1)
	assert.Equal(t, "seacock-passes", fold(t, passed...).FollowUps()[0].Kind)
	assert.Equal(t, teardown.LetsThrough, fold(t, append(passed, shut)...).Raw(e).Behind, "nobody mended it")
	assert.Contains(t, flags(fold(t, append(passed, shut)...), e), "SEACOCK PASSES")
	for what, mended := range map[string]eventlog.Entry{"it holds now": dry,
		"renewed": act(teardown.Act{Do: teardown.Renewed, Item: "seacock"})} {
		assert.Empty(t, fold(t, append(passed, shut, mended)...).FollowUps(), what)
		again := fold(t, append(passed, shut, mended, open, shut)...)
		assert.Empty(t, again.Raw(e).Behind, what)
	}
}

func flags(s *enginestate.State, e eventlog.EngineFacts) (list []string) {
	for _, f := range s.Flags(e) {
		list = append(list, f.Label)
	}
	return list
}

func TestThePumpThatWasFittedLast(t *testing.T) {
	day := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	plate := func(p string, at time.Time) eventlog.Entry {
		return of("job", p, at, act(teardown.Act{Do: teardown.Refitted, Item: "raw-pump-off/pump",
			Refit: &teardown.Refit{Plate: p}}))
	}
	begin := act(task(t, "raw-pump-off"))
	got, _ := fold(t, begin).Pump()
	assert.Empty(t, got)
	got, at := enginestate.Fold(book(t), []eventlog.Entry{begin, plate("VR 20", day), plate("VR 25", day.Add(time.Hour))}).Pump()
	assert.Equal(t, "VR 25", got)
	assert.Equal(t, day.Add(time.Hour), at)
}

func TestWhatAJobWaitsForEndsWithIt(t *testing.T) {
	wait := act(teardown.Act{Do: teardown.Wait, Item: "haul-out", Words: "crane on Friday"})
	require.Len(t, fold(t, wait).Waiting(), 1)
	assert.Equal(t, "a haul-out: crane on Friday", fold(t, wait).Waiting()[0].Say())
	assert.Empty(t, fold(t, wait, act(teardown.Act{Do: teardown.GoOn})).Waiting())
	assert.Empty(t, fold(t, wait, entry("job", eventlog.Closed, eventlog.Body{})).Waiting())
	assert.Len(t, fold(t, wait, entry("other", eventlog.Closed, eventlog.Body{})).Waiting(), 1, "another job's end")
}

// A trouble that comes and goes stands on the list for so many running hours from its closing (handbook 9.10: "ends as on
// watch until n hours"), until it is put down as done or its job is opened again.
func TestWhatComesAndGoesIsOnWatch(t *testing.T) {
	closing := func(job, words string, hours float64) eventlog.Entry {
		body := eventlog.Body{Words: words}
		if hours > 0 {
			body.WatchHours = &hours
		}
		e := entry(job, eventlog.Closed, body)
		e.ID = "close-" + job
		return e
	}
	left := func(list ...eventlog.Entry) []maintenance.FollowUp { return fold(t, list...).FollowUps() }
	got := left(closing("job", " hot twice, then never again ", 25))
	require.Len(t, got, 1)
	require.Equal(t, maintenance.FollowUp{Kind: "watch", Key: got[0].Key, What: "hot twice, then never again", Hours: 25,
		At: nine, By: "Kit Venn", Job: "job"}, got[0])
	require.Equal(t, "what came and went", left(closing("job", "", 10))[0].What)
	require.Len(t, []rune(left(closing("job", strings.Repeat("ä", 200), 10))[0].What), 61)
	require.Empty(t, left(closing("job", "found", 0)))
	require.Len(t, left(closing("job", "a", 25), closing("other", "b", 50)), 2)
	require.Empty(t, left(closing("job", "a", 25), entry("job", eventlog.Reopened, eventlog.Body{})))
	require.Empty(t, left(closing("job", "a", 25), closing("job", "found at last", 0)))
}
