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
				added, err := tx.AppendAfter(noted(fmt.Sprint("j", i), "n"), 0)
				if err != nil || !added {
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
	add := func(seq int64, words string) (added bool) {
		require.NoError(t, s.WriteShared(context.Background(), func(tx record.Tx) (err error) {
			added, err = tx.AppendAfter(noted("a", words), seq)
			return err
		}))
		return added
	}
	assert.True(t, add(0, "first"))
	assert.False(t, add(0, "somebody came between"))
	_, seq, err := s.Read(context.Background()).EntriesAfter(eventlog.Subject{Kind: eventlog.OfJob, ID: "a"}, 0)
	require.NoError(t, err)
	assert.True(t, add(seq, "second"))
}
