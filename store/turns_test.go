package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/store"
)

func opened(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	return s
}

func noted(job, words string) eventlog.Entry {
	return eventlog.Entry{ID: uuid.NewString(), Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: job},
		Kind: eventlog.Noted,
		By:   "U", At: time.Now().UTC(), Body: eventlog.Body{Words: words}}
}

// Of writes that share a commit each stands or falls by itself, whatever the others do.
func TestWritesThatShareACommitFallAlone(t *testing.T) {
	s := opened(t)
	defer func() { require.NoError(t, s.Close()) }()
	begin := make(chan struct{})
	var all sync.WaitGroup
	for i := range 60 {
		all.Go(func() {
			<-begin
			err := s.WriteShared(context.Background(), func(tx record.Tx) error {
				at, err := tx.AppendAfter(noted(fmt.Sprint("j", i), "n"), 0)
				if err != nil || at == 0 {
					return errors.Join(err, errors.New("not added"))
				}
				if i%3 == 0 {
					return errors.New("refused")
				}
				return nil
			})
			if i%3 == 0 {
				assert.ErrorContains(t, err, "refused")
			} else {
				assert.NoError(t, err)
			}
		})
	}
	close(begin)
	all.Wait()
	for i := range 60 {
		entries, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: fmt.Sprint("j", i)})
		require.NoError(t, err)
		assert.Len(t, entries, map[bool]int{true: 0, false: 1}[i%3 == 0], "job %d", i)
	}
}

// What panics in a write is the caller's to see; the others and the store go on.
func TestAPanicIsTheCallersOwn(t *testing.T) {
	s := opened(t)
	defer func() { require.NoError(t, s.Close()) }()
	for name, write := range map[string]func(context.Context, func(record.Tx) error) error{"alone": s.Write,
		"shared": s.WriteShared} {
		assert.PanicsWithValue(t, "boom", func() {
			_ = write(context.Background(), func(tx record.Tx) error {
				_ = tx.Append(noted("p", "lost"))
				panic("boom")
			})
		}, name)
	}
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error { return tx.Append(noted("p", "kept")) }))
	entries, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "p"})
	require.NoError(t, err)
	require.Len(t, entries, 1)
	assert.Equal(t, "kept", entries[0].Body.Words)
}

// Who gives up while waiting has nothing written; who is being written learns how it went.
func TestGivingUpWhileWaiting(t *testing.T) {
	s := opened(t)
	defer func() { require.NoError(t, s.Close()) }()
	busy, go1 := make(chan struct{}), make(chan struct{})
	var all sync.WaitGroup
	all.Go(func() {
		assert.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
			close(busy)
			<-go1
			return tx.Append(noted("a", "first"))
		}))
	})
	<-busy
	ctx, cancel := context.WithCancel(context.Background())
	gaveUp := make(chan error, 1)
	go func() {
		gaveUp <- s.Write(ctx, func(tx record.Tx) error { return tx.Append(noted("a", "given up")) })
	}()
	cancel()
	assert.ErrorIs(t, <-gaveUp, context.Canceled)
	close(go1)
	all.Wait()
	entries, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "a"})
	require.NoError(t, err)
	assert.Len(t, entries, 1)
}

// An entry is added only after what was read of its log.
func TestAnEntryIsAddedAfterWhatWasRead(t *testing.T) {
	s := opened(t)
	defer func() { require.NoError(t, s.Close()) }()
	add := func(seq int64, words string) (at int64) {
		require.NoError(t, s.WriteShared(context.Background(), func(tx record.Tx) (err error) {
			at, err = tx.AppendAfter(noted("a", words), seq)
			return err
		}))
		return at
	}
	at := add(0, "first")
	assert.Positive(t, at)
	assert.Zero(t, add(0, "somebody came between"))
	_, seq, err := s.Read(context.Background()).EntriesAfter(eventlog.Subject{Kind: eventlog.OfJob, ID: "a"}, 0)
	require.NoError(t, err)
	assert.Equal(t, seq, at, "its place is told")
	assert.Greater(t, add(seq, "second"), seq)
}

var errRefused = errors.New("refused")

// A line is read as it stands, though it was read before: by who comes after the commit, and within the transaction.
func TestALineIsReadAsItStands(t *testing.T) {
	ctx := context.Background()
	s := opened(t)
	defer func() { require.NoError(t, s.Close()) }()
	was := ""
	save := func(name string, fails error) {
		err := s.WriteShared(ctx, func(tx record.Tx) error {
			craft, _, err := tx.Craft("c")
			assert.Equal(t, was, craft.Name)
			err = errors.Join(err, tx.SaveCraft(record.Craft{ID: "c", Name: name}),
				tx.SaveEngine(record.Engine{ID: "e", CraftID: "c", Name: name, Circuit: []string{}}),
				tx.SaveJob(record.Job{ID: "j", EngineID: "e", Words: name, Complaint: []string{}, Faults: []string{},
					Works: []record.WorkLine{}}))
			craft, _, err2 := tx.Craft("c")
			assert.Equal(t, name, craft.Name, "as it is within the transaction")
			return errors.Join(err, err2, fails)
		})
		require.ErrorIs(t, err, fails)
		if fails == nil {
			was = name
		}
	}
	read := func() (names []string) {
		r := s.Read(ctx)
		craft, _, err := r.Craft("c")
		require.NoError(t, err)
		engine, _, err := r.Engine("e")
		require.NoError(t, err)
		job, _, err := r.Job("j")
		require.NoError(t, err)
		beside, err := r.EnginesBeside("e")
		require.NoError(t, err)
		jobs, err := r.Jobs("e")
		require.NoError(t, err)
		names = []string{craft.Name, engine.Name, job.Words}
		for i := range beside {
			names = append(names, beside[i].Name)
		}
		for i := range jobs {
			names = append(names, jobs[i].Words)
			jobs[i].Words = "changed by a reader"
		}
		return names
	}
	assert.Equal(t, []string{"", "", ""}, read(), "what is not there is known not to be")
	save("before", nil)
	assert.Equal(t, []string{"before", "before", "before", "before", "before"}, read())
	assert.Equal(t, []string{"before", "before", "before", "before", "before"}, read())
	save("lost", errRefused)
	assert.Equal(t, []string{"before", "before", "before", "before", "before"}, read())
	save("after", nil)
	assert.Equal(t, []string{"after", "after", "after", "after", "after"}, read())
}
