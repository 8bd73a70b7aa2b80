package store_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/store"
)

// Thirty bits flipped anywhere in a backup, and each is noticed: by the manifest beside it, and by the name of one that
// was sent away.
func TestEveryFlippedBitIsNoticed(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	for i := range 100 {
		require.NoError(t, keep(s, entry(fmt.Sprint(i))))
	}
	folder := t.TempDir()
	file := filepath.Join(folder, "a.db")
	_, err := s.Backup(ctx, file)
	require.NoError(t, err)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	name, err := store.NameWithSum(file, time.Now())
	require.NoError(t, err)
	sent := filepath.Join(folder, name)
	require.NoError(t, os.WriteFile(sent, raw, 0o600))
	_, err = store.Verify(ctx, sent)
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(1, 2))
	for range 30 {
		bad := append([]byte(nil), raw...)
		bad[r.IntN(len(bad))] ^= 1 << r.IntN(8)
		for _, f := range []string{file, sent} {
			require.NoError(t, os.WriteFile(f, bad, 0o600))
			_, err := store.Verify(ctx, f)
			assert.ErrorContains(t, err, "is damaged", f)
			_, _, err = store.Restore(ctx, f, t.TempDir(), false)
			assert.Error(t, err)
		}
	}
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	require.NoError(t, os.WriteFile(file+".json", []byte("{"), 0o600))
	_, err = store.Verify(ctx, file)
	assert.ErrorContains(t, err, "no manifest of Hevrin's")
}

// Two years of daily backups, of which those of the last seven days, four weeks and twelve months stay.
func TestWhichBackupsStay(t *testing.T) {
	var times []time.Time
	for d := range 730 {
		times = append(times, time.Date(2026, 11, 27, 3, 0, 0, 0, time.UTC).AddDate(0, 0, -d))
	}
	var kept []string
	for i, k := range store.WorthKeeping(times) {
		if k {
			kept = append(kept, times[i].Format(time.DateOnly))
		}
	}
	assert.Equal(t, []string{"2026-11-27", "2026-11-26", "2026-11-25", "2026-11-24", "2026-11-23", "2026-11-22",
		"2026-11-21",               // seven days; the weeks of 27, 22
		"2026-11-15", "2026-11-08", // … and of 15, 8
		"2026-10-31", "2026-09-30", "2026-08-31", "2026-07-31", "2026-06-30", "2026-05-31", "2026-04-30", "2026-03-31",
		"2026-02-28", "2026-01-31", "2025-12-31"}, kept)
	assert.Empty(t, store.WorthKeeping(nil))
}

// A backup is made at once, then no other before a day has gone; one that fails is told; what is not worth keeping goes
// with its manifest.
func TestBackupsAreMadeByThemselves(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	require.NoError(t, keep(s, entry("a")))
	folder := filepath.Join(t.TempDir(), "b")
	now := time.Date(2026, 5, 1, 8, 0, 0, 0, time.UTC)
	begin := func() record.BackupState {
		k := s.KeepBackups(folder, func() time.Time { return now })
		defer k.Close()
		require.Eventually(t, func() bool { st := k.State(); return !st.Last.IsZero() || st.Say != "" }, 60*time.Second,
			time.Millisecond)
		require.Eventually(t, func() bool { return s.Health(context.Background()).Whole }, 60*time.Second, time.Millisecond)
		return k.State()
	}
	count := func() int {
		list, err := filepath.Glob(filepath.Join(folder, "hevrin-*.db*"))
		require.NoError(t, err)
		return len(list)
	}
	assert.Equal(t, now, begin().Last)
	assert.Equal(t, 2, count(), "with its manifest")
	now = now.Add(23 * time.Hour)
	begin()
	assert.Equal(t, 2, count())
	for range 12 {
		now = now.Add(24 * time.Hour)
		begin()
	}
	assert.LessOrEqual(t, count(), 2*10)
	require.NoError(t, os.RemoveAll(folder))
	require.NoError(t, os.WriteFile(folder, nil, 0o600))
	assert.NotEmpty(t, begin().Say, "a folder that cannot be")
}
