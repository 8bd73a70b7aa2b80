package memory_test

import (
	"context"
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/along"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/phone/memory"
)

var at = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func note(id string) eventlog.Entry {
	return eventlog.Entry{ID: id, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "job"}, Kind: eventlog.Noted, By: "Wren",
		At: at, Body: eventlog.Body{Words: id}}
}

func TestAllOfATransactionIsKeptOrNothing(t *testing.T) {
	ctx := context.Background()
	s := memory.New()
	fill := func(tx record.Tx) error {
		for _, err := range []error{tx.Append(note("a")), tx.SaveCraft(record.Craft{ID: "c", Name: "Sallow Ebb"}),
			tx.SaveEngine(record.Engine{ID: "e", CraftID: "c"}), tx.SaveJob(record.Job{ID: "job", EngineID: "e"}),
			tx.SaveDraft(record.Draft{JobID: "job", What: "w", Value: "1"}),
			tx.SavePartsUsed("job", []record.PartUsed{{JobID: "job", PartID: "p", EngineID: "e", Quantity: 1, At: at}}),
			tx.AddPhoto(record.Photo{ID: "f", JobID: "job"}), tx.SaveMaintenance(record.MaintenanceState{EngineID: "e"}),
			tx.SaveServiceLines("job", []record.ServiceLine{{EngineID: "e", JobID: "job"}}),
			tx.AddPieces([]record.TrackPiece{{RecordingID: "r", JobID: "job"}})} {
			if err != nil {
				return err
			}
		}
		return nil
	}
	look := func() (n int) {
		r := s.Read(ctx)
		entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "job"})
		require.NoError(t, err)
		_, craft, _ := r.Craft("c")
		_, engine, _ := r.Engine("e")
		_, job, _ := r.Job("job")
		_, photo, _ := r.Photo("f")
		drafts, _ := r.Drafts("job")
		used, _ := r.PartsUsed(map[string]time.Time{"p": {}})
		history, _ := r.ServiceHistory("e")
		states, _ := r.AllMaintenance()
		pieces, _ := r.Pieces("job")
		for _, there := range []bool{craft, engine, job, photo} {
			if there {
				n++
			}
		}
		return n + len(entries) + len(drafts) + len(used) + len(history) + len(states) + len(pieces)
	}
	refused := errors.New("refused")
	require.ErrorIs(t, s.Write(ctx, func(tx record.Tx) error { return errors.Join(fill(tx), refused) }), refused)
	assert.Zero(t, look())
	require.NoError(t, s.Write(ctx, fill))
	assert.Equal(t, 10, look())
}

func TestEntriesAreAddedOnceAndAfterWhatIsKnown(t *testing.T) {
	ctx := context.Background()
	s := memory.New()
	require.NoError(t, s.Write(ctx, func(tx record.Tx) error { return tx.Append(note("a")) }))
	_, upTo, err := s.Read(ctx).EntriesAfter(note("a").Subject, 0)
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx record.Tx) error { return tx.Append(note("b")) }))
	require.NoError(t, s.Write(ctx, func(tx record.Tx) error {
		at, err := tx.AppendAfter(note("c"), upTo)
		assert.Zero(t, at, "b came between")
		return err
	}))
	var used *eventlog.Conflict
	require.ErrorAs(t, s.Write(ctx, func(tx record.Tx) error { return tx.Append(note("a")) }), &used)
	list, _, err := s.Read(ctx).EntriesAfter(note("a").Subject, upTo)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "b", list[0].ID)
}

// What jobs took is told with what is taken along; what the jobs here take goes on from there, and a count ends it.
func TestPartsUsed(t *testing.T) {
	ctx := context.Background()
	s := memory.New()
	took := func(q float64, when time.Time) []record.PartUsed {
		return []record.PartUsed{{JobID: "job", PartID: "p", EngineID: "e", Quantity: q, At: when}}
	}
	s.Take(&along.Along{At: at, Parts: took(2, at.Add(-time.Hour)), Used: []inventory.Used{
		{Part: "p", Engine: "e", Quantity: 5, At: at.Add(-time.Hour)}, {Part: "q", Engine: "e", Quantity: 1, At: at}}})
	sum := func(since time.Time) float64 {
		list, err := s.Read(ctx).PartsUsed(map[string]time.Time{"p": since})
		require.NoError(t, err)
		require.Len(t, list, 1, "the part that was asked for")
		return list[0].Quantity
	}
	counted := at.Add(-24 * time.Hour)
	assert.InDelta(t, 5, sum(counted), 1e-12)
	require.NoError(t, s.Write(ctx, func(tx record.Tx) error { return tx.SavePartsUsed("job", took(3, at.Add(time.Hour))) }))
	assert.InDelta(t, 6, sum(counted), 1e-12, "three where there were two")
	assert.InDelta(t, 3, sum(at.Add(time.Minute)), 1e-12, "counted anew since: what was taken after it")
	assert.InDelta(t, 0, sum(at.Add(2*time.Hour)), 1e-12)
}
