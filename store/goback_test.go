package store_test

import (
	"context"
	"errors"
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

func entriesIn(t *testing.T, folder string) int64 {
	s := open(t, folder)
	defer func() { require.NoError(t, s.Close()) }()
	file := filepath.Join(t.TempDir(), "count.db")
	h, err := s.Backup(context.Background(), file)
	require.NoError(t, err)
	return h.Entries
}

// A backup is chosen while the program runs; at the next start it stands in the place of the record, which is kept
// beside.
func TestTheRecordGoesBackToABackupAtTheNextStart(t *testing.T) {
	ctx, folder := context.Background(), t.TempDir()
	s := open(t, folder)
	keeper := s.KeepBackups(filepath.Join(folder, store.BackupFolder), time.Now)
	p := store.Place{Store: s, Keeper: keeper}
	require.NoError(t, keep(s, entry("1")))
	require.Eventually(t, func() bool { list, _ := p.Backups(ctx); return len(list) == 1 }, 60*time.Second,
		5*time.Millisecond)
	time.Sleep(time.Second) // a backup's name counts seconds
	require.NoError(t, p.MakeBackup(ctx))
	require.NoError(t, keep(s, entry("2")))
	list, err := p.Backups(ctx)
	require.NoError(t, err)
	made := list[0]
	assert.Equal(t, int64(1), made.Entries)
	assert.Positive(t, made.Bytes)
	require.NoError(t, p.VerifyBackup(ctx, made.Name))

	assert.ErrorIs(t, p.RestoreAtStart(ctx, "hevrin-20200101T000000Z.db"), record.ErrNotFound)
	assert.ErrorIs(t, p.RestoreAtStart(ctx, "../hevrin.db"), record.ErrNotFound)
	require.NoError(t, p.RestoreAtStart(ctx, made.Name))
	assert.Equal(t, made.Name, p.Health(ctx).Backup.AtStart)
	require.NoError(t, p.RestoreAtStart(ctx, ""), "thought better of")
	assert.Empty(t, p.Health(ctx).Backup.AtStart)
	require.NoError(t, p.RestoreAtStart(ctx, made.Name))
	keeper.Close()
	require.NoError(t, s.Close())

	kept, err := store.RestoreAsked(ctx, folder)
	require.NoError(t, err)
	assert.Equal(t, int64(1), entriesIn(t, folder))
	assert.Equal(t, int64(2), entriesIn(t, kept), "the record of before is kept whole")
	kept, err = store.RestoreAsked(ctx, folder)
	require.NoError(t, err)
	assert.Empty(t, kept, "once")
}

// Where the backup is damaged it is not chosen; where it is gone at the start the record stays, and it is told.
func TestTheRecordStaysWhereItCannotGoBack(t *testing.T) {
	ctx, folder := context.Background(), t.TempDir()
	s := open(t, folder)
	keeper := s.KeepBackups(filepath.Join(folder, store.BackupFolder), time.Now)
	p := store.Place{Store: s, Keeper: keeper}
	require.NoError(t, keep(s, entry("1")))
	require.Eventually(t, func() bool { list, _ := p.Backups(ctx); return len(list) == 1 }, 60*time.Second,
		5*time.Millisecond)
	list, err := p.Backups(ctx)
	require.NoError(t, err)
	require.NoError(t, p.RestoreAtStart(ctx, list[0].Name))
	keeper.Close()
	file := filepath.Join(folder, store.BackupFolder, list[0].Name)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	raw[len(raw)/2] ^= 1
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	var clash *eventlog.Conflict
	require.ErrorAs(t, p.VerifyBackup(ctx, list[0].Name), &clash)
	require.ErrorAs(t, p.RestoreAtStart(ctx, list[0].Name), &clash)
	require.NoError(t, s.Close())

	_, err = store.RestoreAsked(ctx, folder)
	require.ErrorContains(t, err, "the record stands as it was")
	assert.Equal(t, int64(1), entriesIn(t, folder))
	kept, err := store.RestoreAsked(ctx, folder)
	assert.NoError(t, err, "not tried again")
	assert.Empty(t, kept)
}

// The reading of the whole follows the hashes too: an entry that was changed by hand is named, and writing goes on.
func TestTheWholeReadingNamesWhatWasMeddledWith(t *testing.T) {
	ctx := context.Background()
	file := meddled(t, `UPDATE entries SET by = 'Another' WHERE seq = 5`)
	folder := t.TempDir()
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), raw, 0o600))
	s := open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	require.NoError(t, s.Check(ctx, true))
	assert.Contains(t, s.Health(ctx).ChainSay, "entry 5")
	require.NoError(t, keep(s, entry("new")))
}

// That a backup was put in the place of the record is told to the record that is there then, until it took it.
func TestGoingBackIsToldToTheRecord(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, keep(s, entry("1")))
	file := filepath.Join(t.TempDir(), "monday.db")
	_, err := s.Backup(ctx, file)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	nothing := func(string) error { t.Error("nothing was restored"); return nil }
	require.NoError(t, store.Restored(folder, nothing))
	_, kept, err := store.Restore(ctx, file, folder, true)
	require.NoError(t, err)
	broken := errors.New("the plug was pulled")
	require.ErrorIs(t, store.Restored(folder, func(string) error { return broken }), broken)
	said := ""
	require.NoError(t, store.Restored(folder, func(say string) error { said = say; return nil }))
	assert.Contains(t, said, "monday.db")
	assert.Contains(t, said, filepath.Base(kept))
	require.NoError(t, store.Restored(folder, nothing), "once")
}

// A backup whose list of versions lacks one would have its tables changed once more: it is refused, and so is such a
// record.
func TestAMissingVersionIsRefused(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	require.NoError(t, open(t, folder).Close())
	changed(t, folder, "DELETE FROM goose_db_version WHERE version_id = 12")
	file := filepath.Join(folder, store.FileName)
	_, err := store.Verify(ctx, file)
	assert.ErrorContains(t, err, "version 12 is missing")
	_, err = store.Open(ctx, folder)
	assert.ErrorContains(t, err, "version 12 is missing")
	changed(t, folder, "DROP TABLE goose_db_version")
	_, err = store.Verify(ctx, file)
	assert.ErrorContains(t, err, "none of Hevrin's")
}
