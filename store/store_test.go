package store_test

import (
	"context"
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"

	_ "github.com/mattn/go-sqlite3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/store"
)

func open(t *testing.T, folder string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), folder)
	require.NoError(t, err)
	return s
}

func entry(id string) eventlog.Entry {
	tapped := time.Date(2026, time.May, 1, 8, 0, 0, 0, time.UTC)
	return eventlog.Entry{ID: id, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "job"}, Kind: eventlog.Noted,
		By: "T",
		At: tapped.Add(time.Minute), TappedAt: &tapped, Body: eventlog.Body{Words: "Ö µ °C"}}
}

func keep(s *store.Store, e eventlog.Entry) error {
	return s.Write(context.Background(), func(tx record.Tx) error { return tx.Append(e) })
}

func TestAnEntryComesBackAsItWasKept(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, keep(s, entry("a")))
	require.NoError(t, s.Close())
	s = open(t, folder) // migrations run again and change nothing
	defer func() { assert.NoError(t, s.Close()) }()
	list, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: "job"})
	require.NoError(t, err)
	assert.Equal(t, []eventlog.Entry{entry("a")}, list)
	empty, err := s.Empty(context.Background())
	assert.NoError(t, err)
	assert.False(t, empty)
}

func TestAFailedUseCaseLeavesNothingHalf(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	broken := errors.New("broken off")
	err := s.Write(context.Background(), func(tx record.Tx) error {
		require.NoError(t, tx.Append(entry("a")))
		require.NoError(t, tx.SaveCraft(record.Craft{ID: "c", Name: "n"}))
		return broken
	})
	require.ErrorIs(t, err, broken)
	empty, err := s.Empty(context.Background())
	assert.NoError(t, err)
	assert.True(t, empty)
	craft, err := s.Read(context.Background()).AllCraft()
	assert.NoError(t, err)
	assert.Empty(t, craft)
}

func TestEntriesCanNeitherBeChangedNorDeletedNorDoubled(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, keep(s, entry("a")))
	assert.Error(t, keep(s, entry("a")))
	require.NoError(t, s.Close())
	raw, err := sql.Open("sqlite3", filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	defer func() { assert.NoError(t, raw.Close()) }()
	_, err = raw.Exec("UPDATE entries SET by = 'someone else'")
	assert.ErrorContains(t, err, "never changed")
	_, err = raw.Exec("DELETE FROM entries")
	assert.ErrorContains(t, err, "never deleted")
}

func TestAFolderThatCannotBeUsedIsNamed(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err := store.Open(context.Background(), file)
	assert.ErrorContains(t, err, file)
}

// A record of an older version comes through whole: entries with their undoes, and what keeps them from being changed.
func TestAnOlderRecordComesThrough(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, keep(s, entry("a")))
	undo := entry("b")
	undo.Kind, undo.Body.Undoes = eventlog.Undo, "a"
	require.NoError(t, keep(s, undo))
	require.NoError(t, s.Close())
	require.NoError(t, store.Older(context.Background(), folder, 3))
	s = open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	entries, err := s.Read(context.Background()).Entries(entry("a").Subject)
	require.NoError(t, err)
	require.Len(t, entries, 2)
	assert.Equal(t, "a", entries[1].Body.Undoes)
	require.NoError(t, keep(s, entry("c")))
	assert.NoError(t, s.Check(context.Background(), true))
}

// A picture is kept with its entry or not at all: when what comes after it breaks, neither is there.
func TestAPictureIsKeptWithItsEntryOrNotAtAll(t *testing.T) {
	s := open(t, t.TempDir())
	defer func() { assert.NoError(t, s.Close()) }()
	broken := errors.New("the plug was pulled")
	e := entry("p")
	err := s.Write(context.Background(), func(tx record.Tx) error {
		if err := tx.Append(e); err != nil {
			return err
		}
		if err := tx.SaveCraft(record.Craft{ID: "c", Name: "C"}); err != nil {
			return err
		}
		if err := tx.SaveEngine(record.Engine{ID: "e", CraftID: "c", Name: "E", Circuit: []string{}}); err != nil {
			return err
		}
		if err := tx.SaveJob(record.Job{ID: "j", EngineID: "e", Complaint: []string{}, Faults: []string{},
			Works: []record.WorkLine{}}); err != nil {
			return err
		}
		if err := tx.AddPhoto(record.Photo{ID: "p", JobID: "j", JPEG: []byte{1, 2, 3}}); err != nil {
			return err
		}
		return broken
	})
	require.ErrorIs(t, err, broken)
	_, ok, err := s.Read(context.Background()).Photo("p")
	require.NoError(t, err)
	assert.False(t, ok)
	_, ok, err = s.Read(context.Background()).Entry("p")
	require.NoError(t, err)
	assert.False(t, ok)
	orphan := s.Write(context.Background(), func(tx record.Tx) error {
		return tx.AddPhoto(record.Photo{ID: "nobody", JobID: "j", JPEG: []byte{1}})
	})
	assert.Error(t, orphan, "no picture without its entry")
}

// An older record's jobs are told what their last signed run came to; a drip on the day after is no cure.
func TestAnOlderRecordsVerdictsComeThrough(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	act := func(id, job, do, outcome string, ok bool) eventlog.Entry {
		e := entry(id)
		e.Subject.ID, e.Kind = job, eventlog.Proved
		e.Body = eventlog.Body{Proving: &proving.Act{Do: do, Run: "r", Outcome: outcome, OK: ok}}
		return e
	}
	undo := entry("u")
	undo.Subject.ID, undo.Kind, undo.Body = "undone", eventlog.Undo, eventlog.Body{Undoes: "d"}
	want := map[string]string{"cured": proving.Cured, "dry": proving.Cured, "dripped": proving.NotCured, "undone": "",
		"none": ""}
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
		if err := tx.SaveCraft(record.Craft{ID: "c"}); err != nil {
			return err
		}
		return tx.SaveEngine(record.Engine{ID: "e", CraftID: "c", Circuit: []string{}})
	}))
	for job := range want {
		require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
			return tx.SaveJob(record.Job{ID: job, EngineID: "e", Complaint: []string{}, Faults: []string{},
				Works: []record.WorkLine{}})
		}))
	}
	for _, e := range []eventlog.Entry{act("a", "cured", proving.Sign, proving.Cured, false),
		act("b", "dry", proving.Sign, proving.Cured, false), act("b2", "dry", proving.NextDay, "", true),
		act("c", "dripped", proving.Sign, proving.Cured, false), act("c2", "dripped", proving.NextDay, "", false),
		act("d", "undone", proving.Sign, proving.Cured, false), undo} {
		require.NoError(t, keep(s, e))
	}
	require.NoError(t, s.Close())
	require.NoError(t, store.Older(context.Background(), folder, 13))
	s = open(t, folder)
	defer func() { assert.NoError(t, s.Close()) }()
	jobs, err := s.Read(context.Background()).Jobs("e")
	require.NoError(t, err)
	got := map[string]string{}
	for _, j := range jobs {
		got[j.ID] = j.Verdict
		assert.Equal(t, "runs-hot", j.Kind)
	}
	assert.Equal(t, want, got)
}
