package store_test

import (
	"context"
	"database/sql"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/proving"
	"hevrin/store"
)

// pictured is a record with two photos and a recording of three stretches, closed.
func pictured(t *testing.T) (folder string) {
	t.Helper()
	folder = t.TempDir()
	s := open(t, folder)
	track := func(from float64) []proving.Track {
		return []proving.Track{{Place: proving.Place{Station: "elbow", Side: "out"}, Seconds: []float64{from, from + 1},
			Values: []float64{40, 41}}}
	}
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
		require.NoError(t, tx.SaveCraft(record.Craft{ID: "c", Name: "C"}))
		require.NoError(t, tx.SaveEngine(record.Engine{ID: "e", CraftID: "c", Name: "E", Circuit: []string{}}))
		require.NoError(t, tx.SaveJob(record.Job{ID: "j", EngineID: "e", Complaint: []string{}, Faults: []string{},
			Works: []record.WorkLine{}}))
		for _, id := range []string{"p1", "p2", "r", "r2", "p3"} {
			require.NoError(t, tx.Append(entry(id)))
		}
		for _, id := range []string{"p1", "p2"} {
			if err := tx.AddPhoto(record.Photo{ID: id, JobID: "j", JPEG: []byte("a picture of " + id)}); err != nil {
				return err
			}
		}
		if err := tx.AddTracks("j", "r", track(0)); err != nil {
			return err
		}
		return tx.AddTracks("j", "r", track(0.1+0.2)) // a time that no decimals tell exactly
	}))
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error { return tx.AddTracks("j", "r", track(0)) }),
		"what is there already is left as it is")
	require.NoError(t, s.Write(context.Background(), func(tx record.Tx) error {
		return tx.AddPieces([]record.TrackPiece{{RecordingID: "r2", Station: "rpm", JobID: "j", Seconds: []float64{1},
			Readings: []float64{800}}})
	}))
	require.NoError(t, s.Close())
	return folder
}

func changed(t *testing.T, folder, change string) {
	t.Helper()
	db, err := sql.Open("sqlite3", filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	_, err = db.Exec(change)
	require.NoError(t, err)
	_, err = db.Exec("PRAGMA wal_checkpoint(TRUNCATE)")
	require.NoError(t, err)
	require.NoError(t, db.Close())
}

// A photo or a stretch of a recording that was changed, exchanged, dropped or put there by hand is named.
func TestPhotosAndRecordingsAreInTheProof(t *testing.T) {
	ctx := context.Background()
	for name, c := range map[string]struct{ change, says string }{
		"a photo's junk":     {`UPDATE photos SET jpeg = x'00' WHERE id = 'p1'`, "photo p1 is not as it was kept"},
		"photos exchanged":   {`UPDATE photos SET jpeg = (SELECT p.jpeg FROM photos p WHERE p.id <> photos.id)`, "photo p1 is not"},
		"of another job":     {`UPDATE photos SET job_id = 'k' WHERE id = 'p2'`, "photo p2 is not"},
		"a photo gone":       {`DELETE FROM photos WHERE id = 'p2'`, "photo p2 is gone"},
		"a photo more":       {`INSERT INTO photos (id, job_id, jpeg) VALUES ('p3', 'j', x'00')`, "photo p3 was put there by hand"},
		"a reading":          {`UPDATE track_pieces SET readings = '[40,99]' WHERE from_s = 0`, "stretch r elbow out 0.0 is not"},
		"its times":          {`UPDATE track_pieces SET seconds = '[0,2]' WHERE from_s = 0`, "stretch r elbow out 0.0 is not"},
		"when":               {`UPDATE track_pieces SET from_s = 7 WHERE from_s = 0`, "stretch r elbow out 7.0 was put there"},
		"a stretch gone":     {`DELETE FROM track_pieces WHERE recording_id = 'r2'`, "stretch r2 rpm  1.0 is gone"},
		"a seal of its own":  {`UPDATE entries SET body = '{"seals":[]}' WHERE seq = 6`, "entry 6"},
		"a seal for another": {`DELETE FROM entries WHERE seq = 7`, "does not follow"},
	} {
		folder := pictured(t)
		if name == "a stretch gone" {
			c.says = "stretch r2 rpm  0.0 is gone" // it began at no time of its own
		}
		if c.change[:6] == "UPDATE" && c.change[7:14] == "entries" || c.change[:19] == "DELETE FROM entries" {
			changed(t, folder, "DROP TRIGGER entries_stay")
			changed(t, folder, "DROP TRIGGER entries_are_kept")
		}
		changed(t, folder, c.change)
		s := open(t, folder)
		require.NoError(t, s.Check(ctx, true))
		assert.Contains(t, s.Health(ctx).ChainSay, c.says, name)
		require.NoError(t, s.Close())
	}
	folder := pictured(t)
	s := open(t, folder)
	require.NoError(t, s.Check(ctx, true))
	assert.Empty(t, s.Health(ctx).ChainSay)
	copied := filepath.Join(t.TempDir(), "copy.db")
	_, err := s.Backup(ctx, copied)
	require.NoError(t, err, "a backup is proved with them")
	require.NoError(t, s.Close())
}

// What an older record holds is sealed as it is found, which is said; once, however often.
func TestAnOlderRecordsPhotosAreSealedAsFound(t *testing.T) {
	ctx := context.Background()
	folder := pictured(t)
	file := filepath.Join(folder, store.FileName)
	changed(t, folder, `INSERT INTO photos (id, job_id, jpeg) VALUES ('p3', 'j', x'0102')`) // as an older program would
	require.NoError(t, store.Older(ctx, folder, 22))
	for range 2 {
		s := open(t, folder)
		require.NoError(t, s.Check(ctx, true))
		assert.Empty(t, s.Health(ctx).ChainSay)
		require.NoError(t, s.Close())
		db, err := sql.Open("sqlite3", file)
		require.NoError(t, err)
		var n int
		var body string
		require.NoError(t, db.QueryRow("SELECT count(*), max(body) FROM entries WHERE kind = 'sealed' AND body LIKE '%as_found%'").Scan(&n, &body))
		assert.Equal(t, 1, n)
		assert.Contains(t, body, "sealed as they were found")
		require.NoError(t, db.Close())
		require.NoError(t, store.Older(ctx, folder, 22))
	}
	s := open(t, folder)
	require.NoError(t, s.Close())
	changed(t, folder, `UPDATE photos SET jpeg = x'04' WHERE id = 'p3'`)
	_, err := store.Verify(ctx, file)
	assert.ErrorContains(t, err, "photo p3 is not as it was kept")
}
