package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gofrs/flock"
	"github.com/pressly/goose/v3"

	"hevrin/app/record"
)

// lockName is the file by which a running program and a restore keep out of each other's way.
const lockName = "hevrin.lock"

// hold takes the folder's lock: shared by whoever works with the record, alone by who replaces it. It is let go with
// the process, however that ends.
func hold(folder string, alone bool) (*flock.Flock, error) {
	l := flock.New(filepath.Join(folder, lockName), flock.SetPermissions(0o600))
	got, err := l.TryRLock()
	if alone && err == nil {
		err = l.Unlock()
		if err == nil {
			got, err = l.TryLock()
		}
	}
	switch {
	case err != nil:
		return nil, fmt.Errorf("cannot use the data folder %s: %w", folder, err)
	case !got && alone:
		return nil, fmt.Errorf("the record in %s is in use: stop Hevrin first", folder)
	case !got:
		return nil, fmt.Errorf("the record in %s is being restored: wait until that is done", folder)
	}
	return l, nil
}

// servingName is the lock of who serves a folder's record, beside that of all who work with it.
const servingName = "hevrin.serving"

// Serving says that the record in a folder is served from now on until the lock is let go, or that another program
// serves it already: each would show what it knows, and tell its phones of its own changes alone.
func Serving(folder string) (letGo func() error, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, unusable(folder, err)
	}
	l := flock.New(filepath.Join(folder, servingName), flock.SetPermissions(0o600))
	got, err := l.TryLock()
	if err != nil {
		return nil, fmt.Errorf("cannot use the data folder %s: %w", folder, err)
	}
	if !got {
		return nil, fmt.Errorf("another Hevrin serves the record in %s already: open that one, or stop it first", folder)
	}
	return l.Unlock, nil
}

// Holds is what a database holds.
type Holds struct {
	Version                       int64 // of its tables
	Craft, Engines, Jobs, Entries int64
	Photos                        int64
	Newest                        time.Time // entry
	Head                          string    // the last of the hashes that bind the entries; none of an older version
}

// Backup writes a whole copy of the record to a new file, as it stands at one moment; writing goes on meanwhile. The
// file has its name only once it is whole, on disk and verified.
// Its manifest stands beside it. One at a time is made.
func (s *Store) Backup(ctx context.Context, file string) (h Holds, err error) {
	if !s.backing.TryLock() {
		return h, &record.Trouble{Kind: record.Busy, Err: errors.New("a backup is being made already")}
	}
	defer s.backing.Unlock()
	err = s.copyTo(ctx, file, func(part string) error {
		h, err = Verify(ctx, part)
		return err
	})
	if err != nil {
		return h, err
	}
	return h, writeManifest(file, h)
}

// copyTo writes a whole copy, which has its name only once it was looked at and is on disk.
func (s *Store) copyTo(ctx context.Context, file string, looked func(part string) error) error {
	if _, err := os.Stat(file); !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s is there already: give the backup a new name", file)
	}
	part := file + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) { // of one that was killed
		return err
	}
	if err := os.WriteFile(part, nil, 0o600); err != nil { // nobody else may read it
		return err
	}
	if err := s.vacuumInto(ctx, part); err != nil {
		return errors.Join(fmt.Errorf("cannot write the backup %s: %w", part, err), ignoreMissing(os.Remove(part)))
	}
	err := looked(part)
	if err == nil {
		err = flushed(part)
	}
	if err != nil {
		return errors.Join(err, os.Remove(part))
	}
	if err := os.Rename(part, file); err != nil {
		return err
	}
	return flushed(filepath.Dir(file))
}

// vacuumInto writes a copy of one moment, on a connection of its own: readers' may write nothing, not even elsewhere.
func (s *Store) vacuumInto(ctx context.Context, part string) (err error) {
	db, err := connections(s.file, 1, false)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", part)
	return err
}

func ignoreMissing(err error) error {
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return err
}

// flushed sees a file or folder onto the disk.
func flushed(path string) error {
	f, err := os.Open(path) //nolint:gosec // the caller's own path
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// Verify reads a database file whole and says what it holds, or why it is none of Hevrin's that can be used.
func Verify(ctx context.Context, file string) (h Holds, err error) {
	if err := matches(file); err != nil {
		return h, err
	}
	if err := isDatabase(file); err != nil {
		return h, fmt.Errorf("%s is no backup of Hevrin: a backup is made by hevrin backup (%w)", file, err)
	}
	db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: filepath.ToSlash(file),
		RawQuery: "mode=ro&immutable=1"}).String())
	if err != nil {
		return h, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	if err := sound(ctx, db, file); err != nil {
		return h, err
	}
	var ours int
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'").
		Scan(&ours); err != nil || ours == 0 {
		return h, errors.Join(fmt.Errorf("%s is a database, but none of Hevrin's", file), err)
	}
	if h.Version, err = stepsOf(ctx, db); err != nil {
		return h, fmt.Errorf("cannot use %s: %w", file, err)
	}
	wanted, newest, err := tablesAt(ctx, h.Version)
	if err != nil {
		return h, err
	}
	if h.Version > newest {
		return h, fmt.Errorf("%s was made by a later Hevrin (tables of version %d, this one knows %d): bring this one up "+
			"to date first", file, h.Version, newest)
	}
	if have, err := tablesOf(ctx, db); err != nil || !slices.Equal(have, wanted) {
		return h, errors.Join(fmt.Errorf("%s is not as Hevrin makes it: its tables were changed by hand", file), err)
	}
	for table, into := range map[string]*int64{"craft": &h.Craft, "engines": &h.Engines, "jobs": &h.Jobs,
		"entries": &h.Entries, "photos": &h.Photos} {
		if err := db.QueryRowContext(ctx, "SELECT count(*) FROM "+table).Scan(into); err != nil && (table != "photos" ||
			h.Version > 3) {
			return h, err
		}
	}
	if h.Version >= chainVersion {
		chain, err := walkRecord(ctx, db, h.Version)
		if err = errors.Join(err, chain.Err()); err != nil {
			return h, fmt.Errorf("%s: %w", file, err)
		}
		h.Head = chain.Head
	}
	if h.Entries > 0 {
		err = db.QueryRowContext(ctx, "SELECT at FROM entries ORDER BY seq DESC LIMIT 1").Scan(&h.Newest)
		h.Newest = h.Newest.UTC()
	}
	return h, err
}

// sound asks SQLite whether every page and every link of a file is right.
func sound(ctx context.Context, db *sql.DB, file string) error {
	var answer string
	if err := db.QueryRowContext(ctx, "PRAGMA integrity_check(1)").Scan(&answer); err != nil || answer != "ok" {
		return errors.Join(fmt.Errorf("%s is damaged: take an older backup", file), err)
	}
	rows, err := db.QueryContext(ctx, "PRAGMA foreign_key_check")
	if err != nil {
		return err
	}
	loose := rows.Next()
	if err := errors.Join(rows.Err(), rows.Close()); err != nil || loose {
		return errors.Join(fmt.Errorf("%s is damaged: some of it belongs to nothing; take an older backup", file), err)
	}
	return nil
}

// tablesOf lists what makes up a database: tables, indexes, triggers, as they were written.
func tablesOf(ctx context.Context, db *sql.DB) ([]string, error) {
	rows, err := db.QueryContext(ctx,
		"SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite_%' ORDER BY type, name")
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	var list []string
	for rows.Next() {
		var line string
		if err := rows.Scan(&line); err != nil {
			return nil, err
		}
		list = append(list, strings.Join(strings.Fields(line), " "))
	}
	return list, rows.Err()
}

// tablesAt lists what makes up a database of ours at a version, and says which version is the newest.
func tablesAt(ctx context.Context, version int64) (tables []string, newest int64, err error) {
	db, err := sql.Open(driverName, "file::memory:")
	if err != nil {
		return nil, 0, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	db.SetMaxOpenConns(1) // another would be another memory
	provider, err := migrator(db)
	if err != nil {
		return nil, 0, err
	}
	for _, s := range provider.ListSources() {
		newest = max(newest, s.Version)
	}
	if version > newest || version == 0 {
		return nil, newest, nil
	}
	if _, err := provider.UpTo(ctx, version); err != nil {
		return nil, newest, err
	}
	tables, err = tablesOf(ctx, db)
	return tables, newest, err
}

func migrator(db *sql.DB) (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithGoMigrations(chainMigration(), sealsMigration()))
}

// Older takes the tables of a record that nobody has open back to what they were at a version, so that tests can see an
// older record come through. What came later is lost.
func Older(ctx context.Context, folder string, version int64) (err error) {
	file := filepath.ToSlash(filepath.Join(folder, FileName))
	db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: file}).String())
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	m, err := migrator(db)
	if err != nil {
		return err
	}
	if _, err = m.DownTo(ctx, version); err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	return err
}

// Restore puts a backup in the place of the record in a folder. A record that is there already is replaced only if
// asked to; it is kept beside, in the folder that is told. Killed at any moment it leaves the old record or the new
// one, whole.
func Restore(ctx context.Context, file, folder string, replace bool) (h Holds, kept string, err error) {
	if h, err = Verify(ctx, file); err != nil {
		return h, "", err
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return h, "", fmt.Errorf("cannot use the data folder %s: %w", folder, err)
	}
	lock, err := hold(folder, true)
	if err != nil {
		return h, "", err
	}
	defer func() { err = errors.Join(err, lock.Unlock()) }()
	into := filepath.Join(folder, FileName)
	part := into + ".part"
	if err := copied(file, part); err != nil {
		return h, "", errors.Join(err, ignoreMissing(os.Remove(part)))
	}
	if h, err = Verify(ctx, part); err != nil {
		return h, "", errors.Join(err, os.Remove(part))
	}
	if err := signedOut(ctx, part, h.Version); err != nil {
		return h, "", errors.Join(err, os.Remove(part))
	}
	if kept, err = setAside(ctx, folder, replace); err != nil {
		return h, "", errors.Join(err, os.Remove(part))
	}
	if err := noteRestored(folder, file, kept); err != nil {
		return h, kept, errors.Join(err, os.Remove(part))
	}
	for _, journal := range []string{"-wal", "-shm"} { // of the old record: it must not be played into the new one
		if err := ignoreMissing(os.Remove(into + journal)); err != nil {
			return h, kept, err
		}
	}
	if err := os.Rename(part, into); err != nil {
		return h, kept, err
	}
	return h, kept, flushed(folder)
}

// peopleVersion is that of the tables since which people sign in.
const peopleVersion = 19

// pushVersion is that of the tables since which reminders are pushed.
const pushVersion = 20

// signedOut lets every sign-in, invitation and link of a backup go: whoever was signed out since it was made stays out.
func signedOut(ctx context.Context, file string, version int64) (err error) {
	if version < peopleVersion {
		return nil
	}
	db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: filepath.ToSlash(file),
		RawQuery: "_journal_mode=DELETE&_synchronous=FULL"}).String())
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close(), flushed(file)) }()
	tables := []string{"sessions", "device_people", "invitations", "owner_links", "calendars"}
	if version >= pushVersion {
		tables = append(tables, "push_subscriptions")
	}
	for _, table := range tables {
		if _, err := db.ExecContext(ctx, "DELETE FROM "+table); err != nil {
			return err
		}
	}
	_, err = db.ExecContext(ctx, "UPDATE devices SET ended_at = used_at WHERE ended_at IS NULL")
	return err
}

// setAside keeps the record of a folder in a folder of its own, whole in one file, and leaves it where it is too.
func setAside(ctx context.Context, folder string, replace bool) (kept string, err error) {
	from := filepath.Join(folder, FileName)
	if _, err := os.Stat(from); errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: filepath.ToSlash(from)}).String())
	if err != nil {
		return "", err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var entries int64
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM entries").Scan(&entries); err == nil && entries > 0 &&
		!replace {
		return "", fmt.Errorf("%s holds a record of %d entries: restore into an empty folder, or say --replace; the old "+
			"record is then kept beside", folder, entries)
	}
	// what only the journal has goes into the file, which is then whole by itself; of a damaged one both are kept as they
	// are
	_, journal := db.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	kept = filepath.Join(folder, "before-restore-"+time.Now().UTC().Format("20060102T150405.000"))
	if err := os.MkdirAll(kept, 0o700); err != nil {
		return "", err
	}
	if err := copied(from, filepath.Join(kept, FileName)); err != nil {
		return "", err
	}
	if journal != nil {
		return kept, ignoreMissing(copied(from+"-wal", filepath.Join(kept, FileName+"-wal")))
	}
	return kept, nil
}

// copied writes a copy of a file and sees it onto the disk.
func copied(from, to string) error {
	in, err := os.Open(from) //nolint:gosec // the caller's own path
	if err != nil {
		return err
	}
	defer func() { _ = in.Close() }()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600) //nolint:gosec // as above
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}
