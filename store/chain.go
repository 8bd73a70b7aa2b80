package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"

	"github.com/mattn/go-sqlite3"
	"github.com/pressly/goose/v3"
)

// The record proves itself: each entry carries two hashes (SHA-256, FIPS 180-4). hash is over the one before it in its
// subject's log and over all that the entry says, the device's time of it too; chain is over the one before it in the
// whole record and over hash. Whoever changes, drops, adds or moves a past entry by hand breaks them at that place.

// driverName is SQLite's driver with the function that the chain needs.
const driverName = "hevrin-sqlite3"

func init() {
	sql.Register(driverName, &sqlite3.SQLiteDriver{ConnectHook: func(c *sqlite3.SQLiteConn) error {
		return c.RegisterFunc("link", link, true)
	}})
}

// link hashes its parts, each with its length before it, so that no two lists of parts are alike. SQL knows it as link.
// A part that is NULL is told from an empty one.
func link(parts ...any) ([]byte, error) {
	h := sha256.New()
	for _, p := range parts {
		var raw []byte
		switch p := p.(type) {
		case nil:
			h.Write([]byte{0xFF})
			continue
		case []byte:
			if raw = p; p == nil {
				h.Write([]byte{0xFF})
				continue
			}
		case string:
			raw = []byte(p)
		default:
			return nil, fmt.Errorf("link: a part is a %T, and text or bytes are hashed", p)
		}
		var size [9]byte
		binary.BigEndian.PutUint64(size[1:], uint64(len(raw)))
		h.Write(size[:])
		h.Write(raw)
	}
	return h.Sum(nil), nil
}

// appendEntry adds a row with its two hashes; a condition may follow.
const appendEntry = `WITH e(id, subject_kind, subject_id, kind, by, at, tapped_at, undoes, body) AS
	(VALUES (?,?,?,?,?,?,?,?,?)),
h(hash) AS (SELECT link((SELECT p.hash FROM entries p
	WHERE p.subject_kind = e.subject_kind AND p.subject_id = e.subject_id ORDER BY p.seq DESC LIMIT 1),
	e.id, e.subject_kind, e.subject_id, e.kind, e.by, CAST(e.at AS TEXT),
	CAST(e.tapped_at AS TEXT), e.undoes, e.body) FROM e)
INSERT INTO entries (id, subject_kind, subject_id, kind, by, at, tapped_at, undoes, body, hash, chain)
SELECT e.id, e.subject_kind, e.subject_id, e.kind, e.by, e.at, e.tapped_at, e.undoes, e.body, h.hash,
	link((SELECT p.chain FROM entries p ORDER BY p.seq DESC LIMIT 1), h.hash) FROM e, h`

// chained is a row of the record as it is hashed, and its hashes.
type chained struct {
	seq                              int64
	id, kind, subject, entry, by, at string
	tapped, undoes                   sql.NullString
	body                             string
	hash, chain                      []byte
}

const chainedRows = `SELECT seq, id, subject_kind, subject_id, kind, by, CAST(at AS TEXT), CAST(tapped_at AS TEXT),
	undoes, body, hash, chain FROM entries ORDER BY seq`

func (c *chained) scan(rows *sql.Rows) error {
	return rows.Scan(&c.seq, &c.id, &c.kind, &c.subject, &c.entry, &c.by, &c.at, &c.tapped, &c.undoes, &c.body, &c.hash,
		&c.chain)
}

// links walks the chain: the hashes that each entry should have, in order.
type links struct {
	last  map[string][]byte // of each subject
	chain []byte
}

func (l *links) next(c chained) (hash, chain []byte, err error) {
	text := func(s sql.NullString) any {
		if s.Valid {
			return s.String
		}
		return nil
	}
	of := c.kind + "/" + c.subject
	if hash, err = link(l.last[of], c.id, c.kind, c.subject, c.entry, c.by, c.at, text(c.tapped), text(c.undoes),
		c.body); err != nil {
		return nil, nil, err
	}
	if chain, err = link(l.chain, hash); err != nil {
		return nil, nil, err
	}
	l.last[of], l.chain = hash, chain
	return hash, chain, nil
}

// Chain is what a walk along the record's hashes found.
type Chain struct {
	Entries int64
	// Head is the last hash, which hangs on every entry: noted somewhere else it proves that none was cut off the end.
	Head string
	// Broken names the entries at which the chain does not fit, at most ten of them.
	Broken []string
}

// Err says what is broken, nil where nothing is.
func (c Chain) Err() error {
	if len(c.Broken) == 0 {
		return nil
	}
	return fmt.Errorf("the record was changed by hand or is damaged: %s", c.Broken[0])
}

// mostBroken bounds how many breaks are told.
const mostBroken = 10

// walkChain checks every entry's hashes in a database of a version that has them.
func walkChain(ctx context.Context, db *sql.DB) (out Chain, err error) {
	rows, err := db.QueryContext(ctx, chainedRows)
	if err != nil {
		return out, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	at := links{last: map[string][]byte{}}
	for rows.Next() {
		var c chained
		if err := c.scan(rows); err != nil {
			return out, err
		}
		before := at.chain
		hash, chain, err := at.next(c)
		if err != nil {
			return out, err
		}
		out.Entries++
		if bytes.Equal(hash, c.hash) && bytes.Equal(chain, c.chain) {
			continue
		}
		if len(out.Broken) < mostBroken {
			what := "is not as it was kept"
			if own, err := link(before, c.hash); err != nil || !bytes.Equal(own, c.chain) {
				what = "does not follow the one before it: one was dropped, added or moved there"
			}
			out.Broken = append(out.Broken, fmt.Sprintf("entry %d (%s, %s of %s %s) %s", c.seq, c.id, c.entry, c.kind, c.subject,
				what))
		}
		// go on from what stands there, so that the next break is told too
		at.last[c.kind+"/"+c.subject], at.chain = c.hash, c.chain
	}
	out.Head = fmt.Sprintf("%x", at.chain)
	return out, rows.Err()
}

// chainVersion is that of the tables since which entries carry hashes.
const chainVersion = 17

// chainMigration gives the entries of an older record their hashes, as they stand.
func chainMigration() *goose.Migration {
	up := func(ctx context.Context, tx *sql.Tx) error {
		for _, line := range []string{"ALTER TABLE entries ADD COLUMN hash BLOB", "ALTER TABLE entries ADD COLUMN chain BLOB",
			"DROP TRIGGER entries_stay"} {
			if _, err := tx.ExecContext(ctx, line); err != nil {
				return err
			}
		}
		if err := chainAll(ctx, tx); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, "CREATE TRIGGER entries_stay BEFORE UPDATE ON entries BEGIN "+
			"SELECT RAISE(ABORT, 'entries are never changed'); END")
		return err
	}
	down := func(ctx context.Context, tx *sql.Tx) error {
		for _, line := range []string{"ALTER TABLE entries DROP COLUMN chain", "ALTER TABLE entries DROP COLUMN hash"} {
			if _, err := tx.ExecContext(ctx, line); err != nil {
				return err
			}
		}
		return nil
	}
	return goose.NewGoMigration(chainVersion, &goose.GoFunc{RunTx: up}, &goose.GoFunc{RunTx: down})
}

// chainAll writes the hashes of all entries, a stretch at a time: a record may hold more of them than the memory.
func chainAll(ctx context.Context, tx *sql.Tx) error {
	const stretch = 1000
	at := links{last: map[string][]byte{}}
	for seq := int64(0); ; {
		list, err := chainedAfter(ctx, tx, seq, stretch)
		if err != nil || len(list) == 0 {
			return err
		}
		for _, c := range list {
			hash, chain, err := at.next(c)
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, "UPDATE entries SET hash = ?, chain = ? WHERE seq = ?", hash, chain,
				c.seq); err != nil {
				return err
			}
			seq = c.seq
		}
	}
}

func chainedAfter(ctx context.Context, tx *sql.Tx, seq int64, most int) (list []chained, err error) {
	rows, err := tx.QueryContext(ctx, `SELECT * FROM (`+chainedRows+`) WHERE seq > ? LIMIT ?`, seq, most)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var c chained
		if err := c.scan(rows); err != nil {
			return nil, err
		}
		list = append(list, c)
	}
	return list, rows.Err()
}
