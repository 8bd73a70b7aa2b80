package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// Opening says what may be done where a folder holds no record.
type Opening int

// The ways to open a folder.
const (
	// OrBegin begins a record in a folder that is new or empty, and refuses any other that holds none: it may be
	// mistyped, or its record may be gone.
	OrBegin Opening = iota
	// Existing begins none.
	Existing
	// New begins one in any folder that holds none.
	New
)

// markOf stands in the lock's file once the folder held a record.
const markOf = "A record of Hevrin lies in this folder.\n"

// look finds out what a folder holds before anything in it is touched: the version of its tables, 0 where a record is
// to be begun.
func look(ctx context.Context, folder string, how Opening) (version int64, err error) {
	file := filepath.Join(folder, FileName)
	facts, err := os.Stat(file)
	switch {
	case err == nil && facts.Size() > 0:
		return versionOf(ctx, file)
	case err != nil && !errors.Is(err, fs.ErrNotExist):
		return 0, fmt.Errorf("cannot use the data folder %s: %w", folder, err)
	case how == New || err == nil:
		return 0, nil
	case how == Existing:
		return 0, fmt.Errorf("there is no record in %s: say with --data where it is", folder)
	}
	if mark, err := os.ReadFile(filepath.Join(folder, lockName)); err == nil && len(mark) > 0 { //nolint:gosec // our own
		return 0, fmt.Errorf("the record that was in %s is gone: put %s back, restore a backup with hevrin restore, or say "+
			"--new to begin a new one", folder, FileName)
	}
	list, err := os.ReadDir(folder)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return 0, fmt.Errorf("cannot use the data folder %s: %w", folder, err)
	}
	own := []string{lockName, servingName, restoredName}
	list = slices.DeleteFunc(list, func(e fs.DirEntry) bool { return slices.Contains(own, e.Name()) })
	if len(list) > 0 {
		return 0, fmt.Errorf("there is no record in %s, and it is not empty: say with --data where the record is, or --new "+
			"to begin one there", folder)
	}
	return 0, nil
}

// versionOf reads the version of a database's tables, and refuses what is none of Hevrin's or made by a later one.
func versionOf(ctx context.Context, file string) (version int64, err error) {
	if err := isDatabase(file); err != nil {
		return 0, err
	}
	db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: filepath.ToSlash(file),
		RawQuery: "mode=ro&_busy_timeout=5000"}).String())
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var ours, tables int64
	if err := db.QueryRowContext(ctx, "SELECT count(*) FILTER (WHERE name = 'goose_db_version'), count(*) FROM "+
		"sqlite_master").Scan(&ours, &tables); err != nil {
		return 0, fmt.Errorf("cannot read %s: %w", file, err)
	}
	if ours == 0 && tables > 0 {
		return 0, fmt.Errorf("%s is a database, but none of Hevrin's: say with --data where the record is", file)
	}
	if ours > 0 {
		if version, err = stepsOf(ctx, db); err != nil {
			return 0, fmt.Errorf("cannot use %s: %w", file, err)
		}
	}
	_, newest, err := tablesAt(ctx, 0)
	if err == nil && version > newest {
		err = fmt.Errorf("%s was made by a later Hevrin (tables of version %d, this one knows %d): nothing was touched; "+
			"start that Hevrin, or restore a backup of before", file, version, newest)
	}
	return version, err
}

// stepsOf is the version of a database's tables, by the steps that led to it: each must be there. Where one is missing
// the tables would be changed by it once more.
func stepsOf(ctx context.Context, db *sql.DB) (version int64, err error) {
	done := map[int64]bool{}
	err = each(ctx, db, "SELECT version_id, is_applied FROM goose_db_version ORDER BY id",
		func(scan func(...any) error) error {
			var step int64
			var is bool
			err := scan(&step, &is)
			done[step] = is
			version = max(version, step)
			return err
		})
	if err != nil {
		return 0, err
	}
	known, err := steps()
	if err != nil {
		return 0, err
	}
	for _, step := range known {
		if step <= version && !done[step] {
			return 0, fmt.Errorf("the list of its tables' versions was changed by hand: version %d is missing; take an older "+
				"backup", step)
		}
	}
	return version, nil
}

// steps are the versions that tables had, rising.
var steps = sync.OnceValues(func() (list []int64, err error) {
	db, err := sql.Open(driverName, "file::memory:")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	provider, err := migrator(db)
	if err != nil {
		return nil, err
	}
	for _, s := range provider.ListSources() {
		list = append(list, s.Version)
	}
	return list, nil
})

// isDatabase tells a file of SQLite by its first bytes.
func isDatabase(file string) error {
	head := make([]byte, 16)
	f, err := os.Open(file) //nolint:gosec // the caller's own path
	if err != nil {
		return err
	}
	n, _ := f.Read(head)
	if err := f.Close(); err != nil {
		return err
	}
	if string(head[:n]) != "SQLite format 3\x00" {
		return fmt.Errorf("%s is no database of Hevrin's, or its beginning was destroyed: nothing was touched; restore a "+
			"backup with hevrin restore", file)
	}
	return nil
}

// Copies that are kept of the record as it was before its tables were changed.
const (
	upgradeFolder = "before-upgrade"
	keptUpgrades  = 3
)

// copyBefore keeps a copy of a record whose tables are about to be changed, and lets the oldest copies go.
func (s *Store) copyBefore(ctx context.Context, version int64) error {
	folder := filepath.Join(filepath.Dir(s.file), upgradeFolder)
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	name := fmt.Sprintf("hevrin-v%03d-%s.db", version, time.Now().UTC().Format("20060102T150405.000"))
	err := s.copyTo(ctx, filepath.Join(folder, name), func(part string) (err error) {
		db, err := sql.Open(driverName, (&url.URL{Scheme: "file", Opaque: filepath.ToSlash(part),
			RawQuery: "mode=ro&immutable=1"}).String())
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, db.Close()) }()
		return sound(ctx, db, part)
	})
	if err != nil {
		return fmt.Errorf("the record was not changed, since no copy could be made of it first: %w", err)
	}
	list, err := filepath.Glob(filepath.Join(folder, "hevrin-v*.db"))
	if err != nil {
		return err
	}
	stamp := func(name string) string { return name[len(name)-len("20060102T150405.000.db"):] }
	slices.SortFunc(list, func(a, b string) int { return strings.Compare(stamp(b), stamp(a)) })
	for _, old := range list[min(keptUpgrades, len(list)):] {
		if err := os.Remove(old); err != nil {
			return err
		}
	}
	return nil
}
