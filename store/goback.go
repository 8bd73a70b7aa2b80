package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// askedName is the file in a data folder that says which backup is to stand in the place of the record when the program
// is started next.
const askedName = "restore-at-start"

// Backups lists the backups that the program made, the newest first, by what their manifests say.
func (p Place) Backups(context.Context) ([]record.StoredBackup, error) {
	if p.Keeper == nil {
		return nil, nil
	}
	list, err := backupsIn(p.Keeper.folder)
	var out []record.StoredBackup
	for _, b := range list {
		raw, err := os.ReadFile(b.file + ".json")
		var m Manifest
		if err == nil {
			err = json.Unmarshal(raw, &m)
		}
		if err != nil {
			continue // told when it is verified; it cannot be gone back to
		}
		out = append(out, record.StoredBackup{Name: filepath.Base(b.file), Made: b.made, Bytes: m.Bytes, Craft: m.Holds.Craft,
			Engines: m.Holds.Engines, Jobs: m.Holds.Jobs, Entries: m.Holds.Entries})
	}
	return out, err
}

// fileOf is the file of a backup that the program made.
func (p Place) fileOf(name string) (string, error) {
	if p.Keeper != nil && backupName.MatchString(name) {
		file := filepath.Join(p.Keeper.folder, name)
		if _, err := os.Stat(file + ".json"); err == nil {
			return filepath.Abs(file)
		}
	}
	return "", record.NotFound("backup", name)
}

// VerifyBackup reads a backup whole: its checksum, its pages, its tables, the hashes of its entries.
func (p Place) VerifyBackup(ctx context.Context, name string) error {
	file, err := p.fileOf(name)
	if err != nil {
		return err
	}
	if _, err = Verify(ctx, file); err != nil && ctx.Err() == nil {
		return &eventlog.Conflict{Say: err.Error()}
	}
	return err
}

// RestoreAtStart lets a backup stand in the place of the record when the program is started next; it is verified first.
// No name: the record stays.
func (p Place) RestoreAtStart(ctx context.Context, name string) error {
	asked := filepath.Join(filepath.Dir(p.file), askedName)
	if name == "" {
		return ignoreMissing(os.Remove(asked))
	}
	if err := p.VerifyBackup(ctx, name); err != nil {
		return err
	}
	file, err := p.fileOf(name)
	if err != nil {
		return err
	}
	part := asked + ".part"
	if err := os.WriteFile(part, []byte(file), 0o600); err != nil {
		return err
	}
	if err := errors.Join(flushed(part), os.Rename(part, asked)); err != nil {
		return err
	}
	return flushed(filepath.Dir(asked))
}

// restoreAsked is the name of the backup that is to be gone back to; empty: none.
func restoreAsked(folder string) string {
	file, err := os.ReadFile(filepath.Join(folder, askedName)) //nolint:gosec // our own
	if err != nil {
		return ""
	}
	return filepath.Base(string(file))
}

// RestoreAsked does what RestoreAtStart asked for, before the record is opened, and gives the folder in which the
// record that stood there is kept; empty where nothing was asked for. Killed at any moment it is done again at the
// next start. Where it cannot be done the record stays as it is, and it is not tried again.
func RestoreAsked(ctx context.Context, folder string) (kept string, err error) {
	asked := filepath.Join(folder, askedName)
	file, err := os.ReadFile(asked) //nolint:gosec // our own
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if err == nil {
		_, kept, err = Restore(ctx, string(file), folder, true)
	}
	if err != nil && ctx.Err() == nil {
		err = fmt.Errorf("the record stands as it was, since it could not go back to %s: %w", filepath.Base(string(file)),
			err)
	}
	if ctx.Err() != nil {
		return kept, ctx.Err()
	}
	return kept, errors.Join(err, ignoreMissing(os.Remove(asked)))
}

// restoredName is the file in a data folder that says which backup was put there, until the record says so itself: what
// stood in the record of before is not in the one of after.
const restoredName = "restored-from"

func noteRestored(folder, file, kept string) error {
	say := filepath.Base(file)
	if kept != "" {
		say += "; the record of before is kept in " + filepath.Base(kept)
	}
	note := filepath.Join(folder, restoredName)
	if err := os.WriteFile(note, []byte(say), 0o600); err != nil {
		return err
	}
	return flushed(note)
}

// Restored tells of the backup that was put in the place of a folder's record since it was last told, and calls told,
// which is to put that on record; once told it is not told again. Nothing is told where none was.
func Restored(folder string, told func(say string) error) error {
	note := filepath.Join(folder, restoredName)
	say, err := os.ReadFile(note) //nolint:gosec // our own
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	if err := told(string(say)); err != nil {
		return err
	}
	return os.Remove(note)
}
