package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/mattn/go-sqlite3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/store"
)

func by(t *testing.T, file, statement string) {
	t.Helper()
	db, err := sql.Open("sqlite3", file)
	require.NoError(t, err)
	_, err = db.Exec(statement)
	require.NoError(t, err)
	require.NoError(t, db.Close())
}

// What a folder holds is found out before anything in it is touched.
func TestAFolderIsOpenedOnlyForWhatItHolds(t *testing.T) {
	ctx := context.Background()
	ofHevrin := func(t *testing.T, folder string) {
		require.NoError(t, open(t, folder).Close())
	}
	for name, c := range map[string]struct {
		how   store.Opening
		makes func(t *testing.T, folder string)
		says  string // empty: it opens
	}{
		"an empty folder":         {makes: func(*testing.T, string) {}},
		"a folder that is not":    {makes: func(t *testing.T, f string) { require.NoError(t, os.Remove(f)) }},
		"a record":                {makes: ofHevrin},
		"a record, to be begun":   {how: store.New, makes: ofHevrin},
		"a record that must be":   {how: store.Existing, makes: ofHevrin},
		"none where one must be":  {how: store.Existing, makes: func(*testing.T, string) {}, says: "there is no record in"},
		"a mistyped folder":       {makes: mistyped, says: "is not empty: say with --data"},
		"a mistyped one, but new": {how: store.New, makes: mistyped},
		"a record that is gone": {makes: func(t *testing.T, f string) {
			ofHevrin(t, f)
			require.NoError(t, os.Remove(filepath.Join(f, store.FileName)))
		}, says: "is gone: put hevrin.db back"},
		"a later Hevrin's": {makes: func(t *testing.T, f string) {
			ofHevrin(t, f)
			by(t, filepath.Join(f, store.FileName), "INSERT INTO goose_db_version (version_id, is_applied) VALUES (900, 1)")
		}, says: "made by a later Hevrin (tables of version 900"},
		"another program's": {makes: func(t *testing.T, f string) {
			by(t, filepath.Join(f, store.FileName), "CREATE TABLE music (title)")
		}, says: "is a database, but none of Hevrin's"},
		"no database": {makes: func(t *testing.T, f string) {
			require.NoError(t, os.WriteFile(filepath.Join(f, store.FileName), []byte("a letter to the harbour master"), 0o600))
		}, says: "is no database of Hevrin's, or its beginning was destroyed"},
	} {
		t.Run(name, func(t *testing.T) {
			folder := t.TempDir()
			c.makes(t, folder)
			before, _ := os.ReadFile(filepath.Join(folder, store.FileName))
			s, err := store.OpenAs(ctx, folder, c.how)
			if c.says == "" {
				require.NoError(t, err)
				require.NoError(t, s.Close())
				facts, err := os.Stat(filepath.Join(folder, store.FileName))
				require.NoError(t, err)
				assert.Equal(t, os.FileMode(0o600), facts.Mode().Perm(), "nobody else on the machine may read it")
				return
			}
			require.ErrorContains(t, err, c.says)
			after, _ := os.ReadFile(filepath.Join(folder, store.FileName))
			assert.Equal(t, before, after, "nothing was touched")
		})
	}
}

func mistyped(t *testing.T, folder string) {
	require.NoError(t, os.WriteFile(filepath.Join(folder, "letters.txt"), []byte("x"), 0o600))
}

// Before the tables of a record are changed a copy is kept, and of the copies the last three.
func TestACopyIsKeptBeforeTheTablesChange(t *testing.T) {
	folder := t.TempDir()
	file := filepath.Join(folder, store.FileName)
	for i := range 5 {
		_ = os.Remove(file)
		require.NoError(t, store.MakeOld(context.Background(), file, int64(10+i)))
		require.NoError(t, open(t, folder).Close())
		time.Sleep(2 * time.Millisecond) // their names tell milliseconds
	}
	list, err := filepath.Glob(filepath.Join(folder, "before-upgrade", "*"))
	require.NoError(t, err)
	require.Len(t, list, 3)
	for i, name := range list {
		assert.Contains(t, name, fmt.Sprintf("hevrin-v%03d-", 12+i))
		h, err := store.Verify(context.Background(), name)
		require.NoError(t, err)
		assert.EqualValues(t, 12+i, h.Version)
	}
	require.NoError(t, open(t, folder).Close())
	again, err := filepath.Glob(filepath.Join(folder, "before-upgrade", "*"))
	require.NoError(t, err)
	assert.Equal(t, list, again, "nothing to change, nothing to copy")
}

// A record with a destroyed page says so, is read where it can be, and is not written.
func TestADamagedRecordIsReadAndNotWritten(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	s := open(t, folder)
	for i := range 400 {
		require.NoError(t, keep(s, entry(fmt.Sprint(i))))
	}
	h := s.Health(ctx)
	assert.Nil(t, h.Trouble)
	assert.False(t, h.Checked.IsZero() && h.Whole)
	assert.Equal(t, entry("").At, h.Newest)
	require.NoError(t, s.Close())
	file := filepath.Join(folder, store.FileName)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	const page = 4096
	destroyed := len(raw)/page - 2
	copy(raw[destroyed*page:], make([]byte, page))
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	s = open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	h = s.Health(ctx)
	require.NotNil(t, h.Trouble)
	assert.Equal(t, record.Damaged, h.Trouble.Kind)
	err = keep(s, entry("new"))
	var trouble *record.Trouble
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, record.Damaged, trouble.Kind)
	_, err = s.Read(ctx).AllCraft()
	require.NoError(t, err, "what can be read is read")
	_, _, err = s.Read(ctx).Entry("1") // its page is the one
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, record.Damaged, trouble.Kind)
	_, err = s.Backup(ctx, filepath.Join(t.TempDir(), "b.db"))
	assert.Error(t, err, "a damaged record makes no good backup")
}

// A record that was moved away under the running program takes no entry that would be lost with it.
func TestARecordMovedAwayIsNotWritten(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	file := filepath.Join(folder, store.FileName)
	gone := func(name string) {
		var trouble *record.Trouble
		require.ErrorAs(t, keep(s, entry(name)), &trouble, name)
		assert.Equal(t, record.Gone, trouble.Kind, name)
		require.NotNil(t, s.Health(context.Background()).Trouble, name)
	}
	require.NoError(t, os.Rename(file, file+".away"))
	gone("moved away")
	require.NoError(t, os.Rename(file+".away", file))
	require.NoError(t, keep(s, entry("back")), "it goes on once it is back")
	require.NoError(t, os.Rename(file, file+".away"))
	require.NoError(t, os.WriteFile(file, []byte("another"), 0o600))
	gone("another in its place")
	require.NoError(t, os.Remove(file))
	require.NoError(t, os.Rename(file+".away", file))
}

// A check that met another's lock bars no write: that passes, and damage alone stays.
func TestACheckThatMetALockBarsNothing(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	store.CheckFails(s, &record.Trouble{Kind: record.Busy})
	require.NoError(t, keep(s, entry("a")))
	store.CheckFails(s, &record.Trouble{Kind: record.Damaged})
	require.Error(t, keep(s, entry("b")))
	require.NoError(t, s.Check(context.Background(), true))
	require.NoError(t, keep(s, entry("b")), "it goes on once it is found sound")
}

// What SQLite says of the place is told apart from what it says of a statement.
func TestTroubleIsTold(t *testing.T) {
	for code, kind := range map[sqlite3.ErrNo]record.TroubleKind{sqlite3.ErrFull: record.Full,
		sqlite3.ErrReadonly: record.ReadOnly, sqlite3.ErrCorrupt: record.Damaged, sqlite3.ErrNotADB: record.Damaged,
		sqlite3.ErrBusy: record.Busy, sqlite3.ErrIoErr: record.Damaged} {
		got := store.TroubleOf(fmt.Errorf("while writing: %w", sqlite3.Error{Code: code}))
		require.NotNil(t, got, code)
		assert.Equal(t, kind, got.Kind)
		assert.NotEmpty(t, got.Say())
	}
	assert.Nil(t, store.TroubleOf(sqlite3.Error{Code: sqlite3.ErrConstraint}))
	assert.Nil(t, store.TroubleOf(nil))
}

// A disk without room is told by name, and nothing is half kept; the limit on pages stands in for the disk's.
func TestAFullDiskIsTold(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	require.NoError(t, store.LimitPages(s, 1))
	var failed error
	kept := 0
	for i := 0; i < 400 && failed == nil; i++ {
		if failed = keep(s, entry(fmt.Sprint(i))); failed == nil {
			kept++
		}
	}
	var trouble *record.Trouble
	require.ErrorAs(t, failed, &trouble)
	assert.Equal(t, record.Full, trouble.Kind)
	list, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "job"})
	require.NoError(t, err)
	assert.Len(t, list, kept, "reads go on, and nothing is half kept")
	require.NoError(t, store.LimitPages(s, 1<<20))
	require.NoError(t, keep(s, entry("after")), "it goes on once there is room")
}

func TestAnOddClockIsTold(t *testing.T) {
	now := time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)
	for name, c := range map[string]struct {
		newest time.Time
		says   string
	}{
		"nothing on record":  {time.Time{}, ""},
		"as it should be":    {now.Add(-time.Hour), ""},
		"a little back":      {now.Add(9 * time.Minute), ""},
		"jumped back":        {now.Add(11 * time.Minute), "set the clock right"},
		"a winter":           {now.AddDate(-1, 0, 0), ""},
		"years ahead of all": {now.AddDate(-2, 0, 0), "look at the clock"},
	} {
		say := record.ClockSay(now, c.newest)
		if c.says == "" {
			assert.Empty(t, say, name)
		} else {
			assert.Contains(t, say, c.says, name)
		}
	}
}
