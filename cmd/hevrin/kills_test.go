package main

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/store"
)

// kills is how often a test kills the program: HEVRIN_KILLS says so, else a few times.
func kills(usual int) int {
	if n, err := strconv.Atoi(os.Getenv("HEVRIN_KILLS")); err == nil {
		return n
	}
	return usual
}

const oldEntries = 3000

// older writes a record of three thousand entries as the version before the hashes kept it.
func older(t *testing.T, folder string) {
	t.Helper()
	ctx := context.Background()
	s, err := store.Open(ctx, folder)
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx record.Tx) error {
		for i := range oldEntries {
			if err := tx.Append(eventlog.Entry{ID: fmt.Sprint("e", i), Kind: eventlog.Noted, By: "T", At: time.Now(),
				Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: fmt.Sprint("j", i%7)},
				Body:    eventlog.Body{Words: fmt.Sprint("note ", i)}}); err != nil {
				return err
			}
		}
		return nil
	}))
	require.NoError(t, s.Close())
	require.NoError(t, store.Older(ctx, folder, 16))
}

func copyOf(t *testing.T, from, folder string) {
	t.Helper()
	raw, err := os.ReadFile(from)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), raw, 0o600))
}

// killed runs the program and kills it within so long; it tells whether it was still running then.
func killed(t *testing.T, within time.Duration, args ...string) bool {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...) //nolint:gosec // the test's own binary
	cmd.Env = append(os.Environ(), runAsProgram+"=1")
	require.NoError(t, cmd.Start())
	death := time.AfterFunc(rand.N(within), func() { _ = cmd.Process.Kill() }) //nolint:gosec // a moment
	err := cmd.Wait()
	death.Stop()
	var ended *exec.ExitError
	return errors.As(err, &ended)
}

// whole sees that a record has so many entries, each once, each bound to those before it.
func whole(t *testing.T, folder string, entries int) {
	t.Helper()
	s, err := store.Open(context.Background(), folder)
	require.NoError(t, err)
	copied := filepath.Join(t.TempDir(), "copy.db")
	h, err := s.Backup(context.Background(), copied)
	require.NoError(t, err)
	assert.EqualValues(t, entries, h.Entries)
	require.NoError(t, s.Close())
}

// Killed while the tables of an older record are changed, again and again, the next start finds it whole.
func TestKilledWhileTheTablesChange(t *testing.T) {
	base := t.TempDir()
	older(t, base)
	hits := 0
	for range kills(4) {
		folder := t.TempDir()
		copyOf(t, filepath.Join(base, store.FileName), folder)
		if killed(t, 400*time.Millisecond, "serve", "--data", folder, "--addr", "127.0.0.1:0") {
			hits++
		}
		whole(t, folder, oldEntries)
	}
	assert.Positive(t, hits)
}

// Killed while a backup is restored over a record, again and again, the folder holds the old record or the new one,
// whole.
func TestKilledWhileRestoring(t *testing.T) {
	base := t.TempDir()
	older(t, base)
	s, err := store.Open(context.Background(), base)
	require.NoError(t, err)
	backup := filepath.Join(t.TempDir(), "b.db")
	_, err = s.Backup(context.Background(), backup)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	for range kills(4) {
		folder := t.TempDir()
		s, err := store.Open(context.Background(), folder)
		require.NoError(t, err)
		require.NoError(t, s.Close())
		killed(t, 250*time.Millisecond, "restore", backup, "--data", folder, "--replace")
		s, err = store.Open(context.Background(), folder)
		require.NoError(t, err)
		empty, err := s.Empty(context.Background())
		require.NoError(t, err)
		require.NoError(t, s.Close())
		if !empty {
			whole(t, folder, oldEntries)
		}
	}
}
