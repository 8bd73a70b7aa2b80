package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"hevrin/app/record"
)

// MakeOld makes an empty database of an older version.
func MakeOld(ctx context.Context, file string, version int64) (err error) {
	db, err := sql.Open(driverName, file)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	provider, err := migrator(db)
	if err != nil {
		return err
	}
	_, err = provider.UpTo(ctx, version)
	return err
}

// TroubleOf tells what SQLite met.
var TroubleOf = troubleOf

// LimitPages lets the database grow to so many pages, as a full disk would.
func LimitPages(s *Store, most int) error {
	return s.keep(context.Background(), func(db *gorm.DB) error {
		return db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", most)).Error
	})
}

// WorthKeeping tells which backups stay.
var WorthKeeping = worthKeeping

// CheckFails lets a check find trouble.
func CheckFails(s *Store, t *record.Trouble) { _ = s.found(t, false, "") }

// MirrorAt is KeepMirror that looks more often.
func MirrorAt(s *Store, folder string, every time.Duration) *Mirror { return s.mirrorAt(folder, every) }

// FileOf is the record's file.
func FileOf(s *Store) string { return s.file }

// Behind does something with SQLite itself behind a write's back, and says nothing of how it went.
func Behind(tx record.Tx, words string) { tx.(*Tx).db.Exec(words) }

// Reader is how readers speak to SQLite.
func ReadersSay(s *Store, words string) error { return s.db.Exec(words).Error }
