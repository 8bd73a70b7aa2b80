package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/store"
)

// meddled keeps twelve entries of two jobs, and changes the file by hand.
func meddled(t *testing.T, change string) string {
	t.Helper()
	folder := t.TempDir()
	s := open(t, folder)
	for i := range 12 {
		e := entry(fmt.Sprint(i))
		e.Subject.ID = fmt.Sprint("job", i%2)
		require.NoError(t, keep(s, e))
	}
	require.NoError(t, s.Close())
	file := filepath.Join(folder, store.FileName)
	db, err := sql.Open("sqlite3", file)
	require.NoError(t, err)
	for _, line := range []string{"DROP TRIGGER entries_stay", "DROP TRIGGER entries_are_kept", change,
		"CREATE TRIGGER entries_stay BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'entries are never changed'); END",
		"CREATE TRIGGER entries_are_kept BEFORE DELETE ON entries BEGIN " +
			"SELECT RAISE(ABORT, 'entries are never deleted'); END", "PRAGMA wal_checkpoint(TRUNCATE)"} {
		_, err := db.Exec(line)
		require.NoError(t, err, line)
	}
	require.NoError(t, db.Close())
	return file
}

// Every past entry that was changed, dropped, added or moved is named.
func TestARecordThatWasMeddledWithIsNamed(t *testing.T) {
	for name, c := range map[string]struct{ change, says string }{
		"words":        {`UPDATE entries SET body = '{"words":"other"}' WHERE seq = 5`, "entry 5 (4, note of job job0) is not as"},
		"who":          {`UPDATE entries SET by = 'Another' WHERE seq = 5`, "entry 5"},
		"when":         {`UPDATE entries SET at = '2030-01-01 00:00:00' WHERE seq = 5`, "entry 5"},
		"when tapped":  {`UPDATE entries SET tapped_at = NULL WHERE seq = 5`, "entry 5"},
		"whose":        {`UPDATE entries SET subject_id = 'job1' WHERE seq = 5`, "entry 5"},
		"its hash too": {`UPDATE entries SET by = 'A', hash = x'00' WHERE seq = 5`, "entry 5"},
		"dropped":      {`DELETE FROM entries WHERE seq = 5`, "entry 6 (5, note of job job1) does not follow"},
		"added": {`INSERT INTO entries SELECT 20, 'x', subject_kind, subject_id, kind, by, at, tapped_at, undoes, body, hash,
			chain FROM entries WHERE seq = 12`, "entry 20"},
		"moved": {`UPDATE entries SET seq = 30 WHERE seq = 5`, "entry 6"},
	} {
		_, err := store.Verify(context.Background(), meddled(t, c.change))
		assert.ErrorContains(t, err, c.says, name)
		assert.ErrorContains(t, err, "changed by hand or is damaged", name)
	}
	h, err := store.Verify(context.Background(), meddled(t, `SELECT 1`))
	require.NoError(t, err)
	assert.Len(t, h.Head, 64)
	cut, err := store.Verify(context.Background(), meddled(t, `DELETE FROM entries WHERE seq = 12`))
	require.NoError(t, err, "the end that is cut off breaks nothing …")
	assert.NotEqual(t, h.Head, cut.Head, "… and the head tells it")
}

// An older record gets its hashes as its entries stand, and what is kept from then on follows them.
func TestAnOlderRecordIsChained(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	file := filepath.Join(folder, store.FileName)
	require.NoError(t, store.MakeOld(ctx, file, 16))
	db, err := sql.Open("sqlite3", file)
	require.NoError(t, err)
	tx, err := db.Begin()
	require.NoError(t, err)
	for i := range 2500 {
		_, err := tx.Exec(`INSERT INTO entries (id, subject_kind, subject_id, kind, by, at, body) VALUES (?, 'job', ?, 'note',
			'T', '2026-05-01 08:00:00', '{}')`, fmt.Sprint("old", i), fmt.Sprint("job", i%3))
		require.NoError(t, err)
	}
	require.NoError(t, tx.Commit())
	require.NoError(t, db.Close())
	s := open(t, folder)
	e := entry("new")
	e.Subject = eventlog.Subject{Kind: eventlog.OfJob, ID: "job1"}
	require.NoError(t, keep(s, e))
	copied := filepath.Join(t.TempDir(), "copy.db")
	h, err := s.Backup(ctx, copied)
	require.NoError(t, err)
	assert.EqualValues(t, 2501, h.Entries)
	assert.Len(t, h.Head, 64)
	require.NoError(t, s.Close())
}
