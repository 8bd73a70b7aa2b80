package store

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"syscall"
	"time"

	"github.com/mattn/go-sqlite3"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"

	"hevrin/app/record"
)

// dialector is SQLite's with errors that tell what is wrong with the place where the record lies.
type dialector struct{ *sqlite.Dialector }

// Translate gives an error that use cases understand.
func (d dialector) Translate(err error) error {
	if t := troubleOf(err); t != nil {
		return t
	}
	return d.Dialector.Translate(err)
}

var kindOf = map[sqlite3.ErrNo]record.TroubleKind{sqlite3.ErrFull: record.Full, sqlite3.ErrReadonly: record.ReadOnly,
	sqlite3.ErrPerm: record.ReadOnly, sqlite3.ErrCorrupt: record.Damaged, sqlite3.ErrNotADB: record.Damaged,
	sqlite3.ErrBusy: record.Busy, sqlite3.ErrLocked: record.Busy}

// troubleOf tells what SQLite met; nil where the place is not to blame.
func troubleOf(err error) *record.Trouble {
	var known *record.Trouble
	if err == nil || errors.As(err, &known) {
		return known
	}
	var e sqlite3.Error
	if !errors.As(err, &e) {
		return nil
	}
	switch {
	case fullDisk(e.SystemErrno):
		return &record.Trouble{Kind: record.Full, Err: err}
	case e.SystemErrno == syscall.EROFS || e.SystemErrno == syscall.EACCES:
		return &record.Trouble{Kind: record.ReadOnly, Err: err}
	case e.Code == sqlite3.ErrIoErr:
		return &record.Trouble{Kind: record.Damaged, Err: err}
	}
	if kind, ok := kindOf[e.Code]; ok {
		return &record.Trouble{Kind: kind, Err: err}
	}
	return nil
}

// stand is what was found out about the file, and when.
type stand struct {
	trouble *record.Trouble
	at      time.Time
	whole   bool
	chain   string // what is wrong with the hashes of the entries; empty: nothing, or they were not followed
}

// Check reads the record's file, its outline or the whole of it, and remembers whether it is sound. A damaged one is
// not written any more. With the whole of it the hashes of the entries are followed too; an entry that is not as it was
// kept is told, and bars no writing.
func (s *Store) Check(ctx context.Context, whole bool) error {
	ask := "PRAGMA quick_check(1)"
	if whole {
		ask = "PRAGMA integrity_check(1)"
	}
	var answer string
	err := s.db.WithContext(ctx).Raw(ask).Scan(&answer).Error
	if ctx.Err() != nil {
		return ctx.Err()
	}
	t := troubleOf(err)
	switch {
	case t == nil && err != nil:
		return err
	case t == nil && answer != "ok":
		t = &record.Trouble{Kind: record.Damaged, Err: errors.New(answer)}
	}
	chain := ""
	if whole && t == nil {
		if chain, err = s.chainSay(ctx); err != nil {
			return err
		}
	}
	return s.found(t, whole, chain)
}

// chainSay follows the hashes of the entries, and says what is wrong with them.
func (s *Store) chainSay(ctx context.Context) (string, error) {
	db, err := s.db.DB()
	if err != nil {
		return "", err
	}
	chain, err := walkRecord(ctx, db, sealsVersion) // its tables are of today
	if err != nil {
		return "", err
	}
	if err := chain.Err(); err != nil {
		return err.Error(), nil
	}
	return "", nil
}

// found remembers what a check found: damage stays until the file is read again, anything else passes.
func (s *Store) found(t *record.Trouble, whole bool, chain string) error {
	if t == nil || t.Kind == record.Damaged {
		s.standing.Store(&stand{trouble: t, at: time.Now(), whole: whole, chain: chain})
	}
	if t == nil {
		return nil
	}
	return t
}

// writable refuses where the file is known to be damaged, or is not the one that was opened.
func (s *Store) writable() error {
	if err := s.standingTrouble(); err != nil {
		return err
	}
	facts, err := os.Stat(s.file)
	if err != nil || !os.SameFile(facts, s.opened) {
		return &record.Trouble{Kind: record.Gone, Err: err}
	}
	return nil
}

// standingTrouble is damage that the last reading found.
func (s *Store) standingTrouble() error {
	if now := s.standing.Load(); now != nil && now.trouble != nil {
		return now.trouble
	}
	return nil
}

// Health tells how the place where the record lies stands.
func (s *Store) Health(ctx context.Context) record.Health {
	h := record.Health{Folder: filepath.Dir(s.file), Waiting: len(s.writes)}
	if now := s.standing.Load(); now != nil {
		h.Trouble, h.Checked, h.Whole, h.ChainSay = now.trouble, now.at, now.whole, now.chain
	}
	var t *record.Trouble
	if err := s.writable(); h.Trouble == nil && errors.As(err, &t) {
		h.Trouble = t
	}
	h.FreeMB = freeMB(h.Folder)
	if h.Trouble == nil && !mayWrite(s.file) {
		h.Trouble = &record.Trouble{Kind: record.ReadOnly}
	}
	if h.Trouble == nil && h.FreeMB == 0 {
		h.Trouble = &record.Trouble{Kind: record.Full}
	}
	var newest []entryRow
	err := s.db.WithContext(ctx).Select("seq", "at").Order("seq DESC").Limit(1).Find(&newest).Error
	if t := troubleOf(err); h.Trouble == nil && t != nil {
		h.Trouble = t
	}
	if len(newest) > 0 {
		h.Newest = newest[0].At.UTC()
	}
	h.ClockSay = record.ClockSay(time.Now(), h.Newest)
	return h
}

// dialectOver is how SQLite is spoken to over some connections.
func dialectOver(c gorm.ConnPool) gorm.Dialector {
	return dialector{&sqlite.Dialector{DriverName: driverName, Conn: c}}
}
