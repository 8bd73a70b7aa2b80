package store

import (
	"context"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// Photos and the stretches of recordings lie in tables of their own, beside the entries that speak of them. Each is
// sealed: an entry of the yard's, written in the same transaction, holds its hash, so that the record's chain hangs on
// its bytes too.

// sealsVersion is that of the record since which they are sealed.
const sealsVersion = 23

// seal is the hash of one thing, SHA-256 in hex over its columns as link puts them together.
type seal struct {
	Thing string `json:"thing"` // as in "photo " and its id
	Hash  string `json:"sha256"`
}

// seals is what an entry of the kind says. AsFound: they lay there before they were sealed, and what was done to them
// until then cannot be told.
type seals struct {
	Seals   []seal `json:"seals"`
	AsFound bool   `json:"as_found,omitempty"`
	Words   string `json:"words,omitempty"`
}

// things gives everything that is sealed with its hash as it lies; a condition may follow each half.
const (
	photoThings   = `SELECT 'photo ' || id AS thing, link(id, job_id, jpeg) AS hash FROM photos`
	stretchThings = `SELECT 'stretch ' || recording_id || ' ' || station || ' ' || side || ' ' || CAST(from_s AS TEXT)
	AS thing, link(recording_id, station, side, CAST(from_s AS TEXT), job_id, CAST(seconds AS BLOB),
	CAST(readings AS BLOB)) AS hash FROM track_pieces`
)

// sealedBy is who writes seals.
const sealedBy = "Hevrin"

func sealsEntry(now time.Time) eventlog.Entry {
	return eventlog.Entry{ID: uuid.NewString(), Subject: eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.SealsID},
		Kind: eventlog.Sealed, By: sealedBy, At: now}
}

// seal binds what was written a moment ago to the chain; which is a condition on one of the things' tables.
func (t *Tx) seal(things, which string, args ...any) error {
	var rows []struct {
		Thing string
		Hash  []byte
	}
	if err := t.db.Raw(things+" WHERE "+which, args...).Find(&rows).Error; err != nil || len(rows) == 0 {
		return err
	}
	var list seals
	for _, r := range rows {
		list.Seals = append(list.Seals, seal{r.Thing, hex.EncodeToString(r.Hash)})
	}
	body, err := json.Marshal(list)
	if err != nil {
		return err
	}
	_, err = t.appendBody(sealsEntry(time.Now().UTC()), body, "")
	return err
}

// sealPieces seals stretches of recordings that were written a moment ago.
func (t *Tx) sealPieces(rows []record.TrackPiece) error {
	for some := range slices.Chunk(rows, 100) {
		var args []any
		for _, r := range some {
			args = append(args, r.RecordingID, r.Station, r.Side, r.FromS)
		}
		which := "(recording_id, station, side, from_s) IN (VALUES " +
			strings.TrimSuffix(strings.Repeat("(?,?,?,?),", len(some)), ",") + ")"
		if err := t.seal(stretchThings, which, args...); err != nil {
			return err
		}
	}
	return nil
}

// sealed reads all seals, by what they are of.
func sealed(ctx context.Context, db querier) (map[string]string, error) {
	of := map[string]string{}
	err := each(ctx, db, "SELECT body FROM entries WHERE subject_kind = 'yard' AND subject_id = 'seals' ORDER BY seq",
		func(scan func(...any) error) error {
			var raw []byte
			var list seals
			if err := scan(&raw); err != nil {
				return err
			}
			if err := json.Unmarshal(raw, &list); err != nil {
				return err
			}
			for _, s := range list.Seals {
				if _, had := of[s.Thing]; !had { // the first counts
					of[s.Thing] = s.Hash
				}
			}
			return nil
		})
	return of, err
}

// walkSeals names the photos and recordings that are not as they were kept, are gone, or were put there by hand.
func walkSeals(ctx context.Context, db querier) (broken []string, err error) {
	of, err := sealed(ctx, db)
	if err != nil {
		return nil, err
	}
	err = each(ctx, db, photoThings+" UNION ALL "+stretchThings, func(scan func(...any) error) error {
		var thing string
		var hash []byte
		if err := scan(&thing, &hash); err != nil {
			return err
		}
		kept, ok := of[thing]
		delete(of, thing)
		switch {
		case !ok:
			broken = append(broken, "the "+thing+" was put there by hand")
		case kept != hex.EncodeToString(hash):
			broken = append(broken, "the "+thing+" is not as it was kept")
		}
		return nil
	})
	for _, thing := range slices.Sorted(maps.Keys(of)) {
		broken = append(broken, "the "+thing+" is gone")
	}
	return broken[:min(len(broken), mostBroken)], err
}

// walkRecord follows the hashes of the entries, and of what they seal, in a record of a version.
func walkRecord(ctx context.Context, db *sql.DB, version int64) (Chain, error) {
	chain, err := walkChain(ctx, db)
	if err != nil || version < sealsVersion {
		return chain, err
	}
	broken, err := walkSeals(ctx, db)
	chain.Broken = append(chain.Broken, broken...)
	return chain, err
}

// sealsMigration seals what lies there already, and says that it does: as it is found, not as it was kept.
func sealsMigration() *goose.Migration {
	up := func(ctx context.Context, tx *sql.Tx) error {
		of, err := sealed(ctx, tx)
		if err != nil {
			return err
		}
		var list []seal
		err = each(ctx, tx, photoThings+" UNION ALL "+stretchThings+" ORDER BY thing",
			func(scan func(...any) error) error {
				var thing string
				var hash []byte
				err := scan(&thing, &hash)
				if _, had := of[thing]; !had {
					list = append(list, seal{thing, hex.EncodeToString(hash)})
				}
				return err
			})
		if err != nil {
			return err
		}
		for some := range slices.Chunk(list, 500) {
			body, err := json.Marshal(seals{Seals: some, AsFound: true,
				Words: "Photos and recordings sealed as they were found: whether they were changed before cannot be told."})
			if err != nil {
				return err
			}
			row := rowOf(sealsEntry(time.Now().UTC()))
			if _, err := tx.ExecContext(ctx, appendEntry, row.ID, row.SubjectKind, row.SubjectID, row.Kind, row.By, row.At,
				nil, nil, string(body)); err != nil {
				return err
			}
		}
		return nil
	}
	down := func(context.Context, *sql.Tx) error { return nil } // entries stay
	return goose.NewGoMigration(sealsVersion, &goose.GoFunc{RunTx: up}, &goose.GoFunc{RunTx: down})
}

// querier asks a database or a transaction.
type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// each reads the rows of a question one by one.
func each(ctx context.Context, db querier, ask string, row func(scan func(...any) error) error) (err error) {
	rows, err := db.QueryContext(ctx, ask)
	if err != nil {
		return fmt.Errorf("cannot read what is sealed: %w", err)
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		if err := row(rows.Scan); err != nil {
			return err
		}
	}
	return rows.Err()
}
