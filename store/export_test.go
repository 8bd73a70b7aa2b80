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

// LimitPages lets the database grow to so many pages, as a full disk would: on every connection.
func LimitPages(s *Store, most int) error {
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	raw.SetMaxOpenConns(1)
	raw.SetMaxIdleConns(1)
	_, err = raw.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", most))
	return err
}

// WorthKeeping tells which backups stay.
var WorthKeeping = worthKeeping

// CheckFails lets a check find trouble.
func CheckFails(s *Store, t *record.Trouble) { _ = s.found(t, false, "") }

// MirrorAt is KeepMirror that looks more often.
func MirrorAt(s *Store, folder string, every time.Duration) *Mirror { return s.mirrorAt(folder, every) }

// FileOf is the record's file.
func FileOf(s *Store) string { return s.file }

// Begin begins a transaction as every write does, on at most so many connections.
func Begin(s *Store, connections int) (gorm.Tx, error) {
	raw, err := s.db.DB()
	if err != nil {
		return nil, err
	}
	raw.SetMaxOpenConns(connections)
	tx, err := pool{raw}.BeginTx(context.Background(), nil)
	if err != nil {
		return nil, err
	}
	return tx.(gorm.Tx), nil
}
