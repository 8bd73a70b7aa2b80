package store_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/store"
)

// The copy follows every write, is whole at every moment, and holds the last one when the program ends.
func TestTheSecondCopyFollowsTheRecord(t *testing.T) {
	ctx, folder := context.Background(), filepath.Join(t.TempDir(), "other disk")
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	file := filepath.Join(folder, store.MirrorName)
	holds := func() int64 {
		h, err := store.Verify(ctx, file)
		require.NoError(t, err)
		return h.Entries
	}
	require.NoError(t, keep(s, entry("1")))
	m := store.MirrorAt(s, folder, time.Millisecond)
	require.Eventually(t, func() bool { return !m.State().Last.IsZero() }, 60*time.Second, time.Millisecond)
	assert.Equal(t, int64(1), holds())
	for _, id := range []string{"2", "3", "4"} {
		require.NoError(t, keep(s, entry(id)))
		holds()
	}
	require.Eventually(t, func() bool { return holds() == 4 }, 60*time.Second, 5*time.Millisecond)
	require.NoError(t, keep(s, entry("5")))
	m.Close()
	assert.Equal(t, int64(5), holds(), "what was saved last")
	assert.Equal(t, m.State().Last, store.Place{Store: s, Mirror: m}.Health(ctx).Mirror.Last)
}

// A disk that is gone is told, and the copy goes on when it is back; a damaged record does not drive out a whole copy.
func TestTheSecondCopySaysWhyItStopped(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	folder := filepath.Join(t.TempDir(), "b")
	require.NoError(t, os.WriteFile(folder, nil, 0o600))
	m := store.MirrorAt(s, folder, time.Millisecond)
	defer m.Close()
	require.Eventually(t, func() bool { return m.State().Say != "" }, 60*time.Second, time.Millisecond)
	require.NoError(t, os.Remove(folder))
	require.Eventually(t, func() bool { return m.State().Say == "" && !m.State().Last.IsZero() }, 60*time.Second,
		time.Millisecond)
	store.CheckFails(s, &record.Trouble{Kind: record.Damaged})
	before := m.State().Last
	require.NoError(t, os.Chtimes(store.FileOf(s), time.Now(), time.Now()))
	require.Eventually(t, func() bool { return m.State().Say != "" }, 60*time.Second, time.Millisecond)
	assert.Equal(t, before, m.State().Last)
}
