package store_test

import (
	"cmp"
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/store"
)

var noon = time.Date(2026, time.May, 4, 12, 0, 0, 0, time.UTC)

// never are the parts when none was counted.
var never = map[string]time.Time{"p": {}, "q": {}}

// takenBy writes jobs of two engines that took parts off the inventory.
func takenBy(t *testing.T, s *store.Store) {
	t.Helper()
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
		require.NoError(t, tx.SaveCraft(record.Craft{ID: "c", Name: "C"}))
		for _, e := range []string{"e1", "e2"} {
			require.NoError(t, tx.SaveEngine(record.Engine{ID: e, CraftID: "c", Name: e, Circuit: []string{}}))
		}
		for job, engine := range map[string]string{"j1": "e1", "j2": "e1", "j3": "e2"} {
			require.NoError(t, tx.SaveJob(record.Job{ID: job, EngineID: engine, Complaint: []string{}, Faults: []string{},
				Works: []record.WorkLine{}}))
		}
		at := func(hours int) time.Time { return noon.Add(time.Duration(hours)*time.Hour + 5*time.Millisecond) }
		require.NoError(t, tx.SavePartsUsed("j1", []record.PartUsed{{JobID: "j1", N: 0, PartID: "p", EngineID: "e1",
			Quantity: 1, At: at(-30)}, {JobID: "j1", N: 1, PartID: "q", EngineID: "e1", Quantity: 2.5, At: at(-30)}}))
		require.NoError(t, tx.SavePartsUsed("j2", []record.PartUsed{{JobID: "j2", N: 0, PartID: "p", EngineID: "e1",
			Quantity: 2, At: at(1)}}))
		return tx.SavePartsUsed("j3", []record.PartUsed{{JobID: "j3", N: 0, PartID: "p", EngineID: "e2", Quantity: 4,
			At: at(-1)}})
	}))
}

func taken(t *testing.T, s *store.Store, counted map[string]time.Time) []inventory.Used {
	t.Helper()
	list, err := s.Read(context.Background()).PartsUsed(counted)
	require.NoError(t, err)
	slices.SortFunc(list, func(a, b inventory.Used) int {
		return cmp.Or(cmp.Compare(a.Part, b.Part), cmp.Compare(a.Engine, b.Engine))
	})
	return list
}

// What jobs took is summed by part and engine since the part was counted, the moment of the count among it; the last
// taking stands also where the count came after it.
func TestWhatWasTakenSinceTheCount(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	assert.Empty(t, taken(t, s, nil))
	takenBy(t, s)
	last := noon.Add(time.Hour + 5*time.Millisecond)
	p1, p2, q := inventory.Used{Part: "p", Engine: "e1", Quantity: 3, At: last}, inventory.Used{Part: "p", Engine: "e2",
		Quantity: 4, At: noon.Add(-time.Hour + 5*time.Millisecond)}, inventory.Used{Part: "q", Engine: "e1", Quantity: 2.5,
		At: noon.Add(-30*time.Hour + 5*time.Millisecond)}
	assert.Equal(t, []inventory.Used{p1, p2, q}, taken(t, s, never), "never counted")
	assert.Equal(t, []inventory.Used{q}, taken(t, s, map[string]time.Time{"q": {}, "other": noon}),
		"only what is asked for")
	p1.Quantity, p2.Quantity = 2, 0
	counted := map[string]time.Time{"p": noon, "q": {}, "other": noon}
	assert.Equal(t, []inventory.Used{p1, p2, q}, taken(t, s, counted))
	counted["p"] = last.In(time.FixedZone("east", 9*3600))
	assert.Equal(t, []inventory.Used{p1, p2, q}, taken(t, s, counted), "taken at the very moment, in another zone's words")
	counted["p"] = last.Add(time.Nanosecond)
	p1.Quantity = 0
	assert.Equal(t, []inventory.Used{p1, p2, q}, taken(t, s, counted))
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error { return tx.SavePartsUsed("j3", nil) }))
	assert.Equal(t, []inventory.Used{p1, q}, taken(t, s, counted), "taken back")
}

// A record whose jobs took parts before the engine stood beside them is told whose they were.
func TestAnOlderRecordsTakingsGetTheirEngine(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	takenBy(t, s)
	want := taken(t, s, never)
	require.NoError(t, s.Close())
	require.NoError(t, store.Older(context.Background(), folder, 8))
	s = open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	assert.Equal(t, want, taken(t, s, never))
}

// A log is read on from a place in the record: what was added since, in order, and nothing of other logs.
func TestALogIsReadOnFromAPlace(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	other := entry("x")
	other.Subject.ID = "other job"
	for _, e := range []eventlog.Entry{entry("a"), other, entry("b")} {
		require.NoError(t, keep(s, e))
	}
	r := s.Read(context.Background())
	list, upTo, err := r.EntriesAfter(entry("a").Subject, 0)
	require.NoError(t, err)
	assert.Equal(t, []eventlog.Entry{entry("a"), entry("b")}, list)
	list, same, err := r.EntriesAfter(entry("a").Subject, upTo)
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.Equal(t, upTo, same)
	require.NoError(t, keep(s, entry("c")))
	list, _, err = r.EntriesAfter(entry("a").Subject, upTo)
	require.NoError(t, err)
	assert.Equal(t, []eventlog.Entry{entry("c")}, list)
}
