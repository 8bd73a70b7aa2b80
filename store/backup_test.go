package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/store"
)

func TestABackupIsWholeAndComesBack(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	for i := range 200 {
		require.NoError(t, keep(s, entry(fmt.Sprint(i))))
	}
	file := filepath.Join(t.TempDir(), "a.db")
	require.NoError(t, os.WriteFile(file+".part", []byte("of one that was killed"), 0o600))
	holds, err := s.Backup(ctx, file)
	require.NoError(t, err)
	assert.EqualValues(t, 200, holds.Entries)
	assert.Equal(t, entry("").At, holds.Newest)
	assert.NoFileExists(t, file+".part")
	_, err = s.Backup(ctx, file)
	assert.ErrorContains(t, err, "there already")

	folder := t.TempDir()
	again, kept, err := store.Restore(ctx, file, folder, false)
	require.NoError(t, err)
	assert.Equal(t, holds, again)
	assert.Empty(t, kept)
	back := open(t, folder)
	list, err := back.Read(ctx).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "job"})
	require.NoError(t, err)
	assert.Len(t, list, 200)
	assert.Equal(t, entry("7"), list[7])

	_, _, err = store.Restore(ctx, file, folder, true)
	assert.ErrorContains(t, err, "in use", "not under a running program")
	require.NoError(t, keep(back, entry("later")))
	require.NoError(t, back.Close())
	_, _, err = store.Restore(ctx, file, folder, false)
	assert.ErrorContains(t, err, "--replace", "a record is not replaced unasked")
	_, kept, err = store.Restore(ctx, file, folder, true)
	require.NoError(t, err)
	old := open(t, kept)
	_, ok, err := old.Read(ctx).Entry("later")
	require.NoError(t, err)
	assert.True(t, ok, "the old record is kept beside")
	require.NoError(t, old.Close())
	back = open(t, folder)
	_, ok, err = back.Read(ctx).Entry("later")
	require.NoError(t, err)
	assert.False(t, ok)
	require.NoError(t, back.Close())
}

// While it is being restored nobody may open the record.
func TestTwoProgramsShareARecordButNotARestore(t *testing.T) {
	folder := t.TempDir()
	a, b := open(t, folder), open(t, folder)
	assert.NoError(t, a.Close())
	file := filepath.Join(t.TempDir(), "a.db")
	_, err := b.Backup(context.Background(), file)
	require.NoError(t, err)
	_, _, err = store.Restore(context.Background(), file, folder, true)
	assert.ErrorContains(t, err, "in use", "b still has it")
	assert.NoError(t, b.Close())
	_, _, err = store.Restore(context.Background(), file, folder, true)
	assert.NoError(t, err)
}

// One program serves a record; what another one writes to it beside, as an import does, is seen within a second.
func TestOneServesAndOthersAreSeen(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	letGo, err := store.Serving(folder)
	require.NoError(t, err)
	_, err = store.Serving(folder)
	assert.ErrorContains(t, err, "another Hevrin serves")
	serving := open(t, folder)
	beside := open(t, folder)
	save := func(s *store.Store, name string) {
		require.NoError(t, s.Write(ctx, func(tx record.Tx) error { return tx.SaveCraft(record.Craft{ID: "c", Name: name}) }))
	}
	name := func() string {
		c, _, err := serving.Read(ctx).Craft("c")
		require.NoError(t, err)
		return c.Name
	}
	save(serving, "Wisp")
	assert.Equal(t, "Wisp", name())
	save(beside, "Sallow Ebb")
	assert.Eventually(t, func() bool { return name() == "Sallow Ebb" }, 10*time.Second, 50*time.Millisecond)
	require.NoError(t, beside.Close())
	require.NoError(t, serving.Close())
	require.NoError(t, letGo())
	letGo, err = store.Serving(folder)
	require.NoError(t, err)
	require.NoError(t, letGo())
}

func TestABadBackupIsRefusedAndChangesNothing(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	for i := range 500 {
		require.NoError(t, keep(s, entry(fmt.Sprint(i))))
	}
	good := filepath.Join(t.TempDir(), "good.db")
	_, err := s.Backup(ctx, good)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	raw, err := os.ReadFile(good) //nolint:gosec // the test's own
	require.NoError(t, err)
	with := func(statements ...string) func(t *testing.T, file string) {
		return func(t *testing.T, file string) {
			require.NoError(t, os.WriteFile(file, raw, 0o600))
			db, err := sql.Open("sqlite3", file)
			require.NoError(t, err)
			for _, x := range statements {
				_, err = db.Exec(x)
				require.NoError(t, err)
			}
			require.NoError(t, db.Close())
		}
	}
	bytes := func(change func([]byte) []byte) func(t *testing.T, file string) {
		return func(t *testing.T, file string) {
			require.NoError(t, os.WriteFile(file, change(append([]byte(nil), raw...)), 0o600))
		}
	}
	for _, c := range []struct {
		name, say string
		make      func(t *testing.T, file string)
	}{
		{"empty", "no backup", bytes(func([]byte) []byte { return nil })},
		{"no database", "no backup", bytes(func([]byte) []byte { return []byte("this is a text, and a longer one") })},
		{"truncated", "", bytes(func(b []byte) []byte { return b[:len(b)/2] })},
		{"a page overwritten", "", bytes(func(b []byte) []byte {
			for i := 2 * 4096; i < 6*4096; i++ {
				b[i] ^= 0x5A
			}
			return b
		})},
		{"another database", "none of Hevrin's", func(t *testing.T, file string) {
			db, err := sql.Open("sqlite3", file)
			require.NoError(t, err)
			_, err = db.Exec("CREATE TABLE t (x)")
			require.NoError(t, err)
			require.NoError(t, db.Close())
		}},
		{"of the future", "later Hevrin", with("INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)")},
		{"a guard taken off", "changed by hand", with("DROP TRIGGER entries_stay")},
		{"a trap put in", "changed by hand",
			with("CREATE TRIGGER trap AFTER INSERT ON entries BEGIN DELETE FROM craft; END")},
		{"loose ends", "belongs to nothing", with("INSERT INTO photos (id, job_id, jpeg) VALUES ('x', 'y', 'z')")},
	} {
		t.Run(c.name, func(t *testing.T) {
			file := filepath.Join(t.TempDir(), "bad.db")
			c.make(t, file)
			folder := t.TempDir()
			_, _, err := store.Restore(ctx, file, folder, true)
			require.Error(t, err)
			assert.ErrorContains(t, err, c.say)
			assert.NoFileExists(t, filepath.Join(folder, store.FileName))
		})
	}
}

// A backup of an older version is brought up to date when it is opened.
func TestABackupOfAnOlderVersionIsTaken(t *testing.T) {
	folder := t.TempDir()
	file := filepath.Join(folder, "old.db")
	require.NoError(t, store.MakeOld(context.Background(), file, 2))
	holds, err := store.Verify(context.Background(), file)
	require.NoError(t, err)
	assert.EqualValues(t, 2, holds.Version)
	into := t.TempDir()
	_, _, err = store.Restore(context.Background(), file, into, false)
	require.NoError(t, err)
	s := open(t, into)
	assert.NoError(t, s.Check(context.Background(), true))
	assert.NoError(t, s.Close())
}
