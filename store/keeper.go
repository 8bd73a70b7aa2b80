package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"sync"
	"time"

	"hevrin/app/record"
)

// How often a backup is made and the whole file is read, and how many backups are kept: of the last days, weeks and
// months that have one, the newest of each.
const (
	backupEvery = 24 * time.Hour
	checkEvery  = 7 * 24 * time.Hour
	lookEvery   = time.Hour
	keptDays    = 7
	keptWeeks   = 4
	keptMonths  = 12
)

// BackupFolder is the folder in the data folder where backups lie unless another one is chosen; one on another disk is
// better.
const BackupFolder = "backups"

// Manifest stands beside a backup, in a file of its name with .json after it.
type Manifest struct {
	Made   time.Time `json:"made"`
	Bytes  int64     `json:"bytes"`
	SHA256 string    `json:"sha256"`
	Holds  Holds     `json:"holds"`
}

// Keeper makes backups by itself, and reads the whole record once a week.
type Keeper struct {
	store  *Store
	folder string
	now    func() time.Time
	mu     sync.Mutex
	say    string // why the last try failed
	stop   context.CancelFunc
	done   chan struct{}
}

// KeepBackups makes a backup a day into a folder, from now on until it is closed, and lets those go that need not be
// kept. It begins at once where the last good one is over a day old.
func (s *Store) KeepBackups(folder string, now func() time.Time) *Keeper {
	ctx, stop := context.WithCancel(context.Background())
	k := &Keeper{store: s, folder: folder, now: now, stop: stop, done: make(chan struct{})}
	go k.run(ctx)
	return k
}

// Close stops it; a backup that is being made is given up.
func (k *Keeper) Close() {
	k.stop()
	<-k.done
}

func (k *Keeper) run(ctx context.Context) {
	defer close(k.done)
	checked := time.Time{}
	tick := time.NewTicker(lookEvery)
	defer tick.Stop()
	for {
		k.keep(ctx)
		if k.now().Sub(checked) >= checkEvery {
			if err := k.store.Check(ctx, true); err != nil && ctx.Err() == nil {
				slog.Error("the record was read whole", "error", err)
			}
			checked = k.now()
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// keep makes a backup where one is due, and says why where it could not.
func (k *Keeper) keep(ctx context.Context) {
	list, err := backupsIn(k.folder)
	if err == nil && (len(list) == 0 || k.now().Sub(list[0].made) >= backupEvery) {
		_, err = k.Make(ctx)
	}
	if ctx.Err() != nil {
		return
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	k.say = ""
	if err != nil {
		k.say = err.Error()
		slog.Error("no backup could be made", "folder", k.folder, "error", err)
	}
}

// Make makes a backup now, with its manifest, and gives its file.
func (k *Keeper) Make(ctx context.Context) (file string, err error) {
	if err := os.MkdirAll(k.folder, 0o700); err != nil {
		return "", err
	}
	made := k.now().UTC()
	file = filepath.Join(k.folder, "hevrin-"+made.Format(stampLayout)+".db")
	if _, err := k.store.Backup(ctx, file); err != nil {
		return "", err
	}
	return file, k.letGo()
}

const stampLayout = "20060102T150405Z"

var backupName = regexp.MustCompile(`^hevrin-(\d{8}T\d{6}Z)\.db$`)

type keptBackup struct {
	file string
	made time.Time
}

// backupsIn lists the backups of a folder that have their manifest, which is written last: the newest first.
func backupsIn(folder string) (list []keptBackup, err error) {
	files, err := os.ReadDir(folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	for _, f := range files {
		m := backupName.FindStringSubmatch(f.Name())
		if m == nil {
			continue
		}
		file := filepath.Join(folder, f.Name())
		if _, err := os.Stat(file + ".json"); err != nil {
			continue
		}
		if made, err := time.Parse(stampLayout, m[1]); err == nil {
			list = append(list, keptBackup{file, made})
		}
	}
	slices.SortFunc(list, func(a, b keptBackup) int { return b.made.Compare(a.made) })
	return list, err
}

// worthKeeping tells which of some times, the newest first, are kept: the newest of each of the last days, weeks (from
// Monday, ISO 8601) and months that have one.
func worthKeeping(times []time.Time) []bool {
	keep := make([]bool, len(times))
	for _, by := range []struct {
		most int
		name func(time.Time) string
	}{
		{keptDays, func(t time.Time) string { return t.Format(time.DateOnly) }},
		{keptWeeks, func(t time.Time) string { y, w := t.ISOWeek(); return fmt.Sprint(y, " ", w) }},
		{keptMonths, func(t time.Time) string { return t.Format("2006-01") }},
	} {
		seen := map[string]bool{}
		for i, t := range times {
			if name := by.name(t.UTC()); !seen[name] && len(seen) < by.most {
				seen[name], keep[i] = true, true
			}
		}
	}
	return keep
}

// letGo removes the backups that need not be kept; the manifest goes last, so that none is left without its file.
func (k *Keeper) letGo() error {
	list, err := backupsIn(k.folder)
	if err != nil {
		return err
	}
	times := make([]time.Time, len(list))
	for i, b := range list {
		times[i] = b.made
	}
	for i, kept := range worthKeeping(times) {
		if kept {
			continue
		}
		if err := errors.Join(os.Remove(list[i].file), os.Remove(list[i].file+".json")); err != nil {
			return err
		}
	}
	return nil
}

// State tells how the backups stand.
func (k *Keeper) State() record.BackupState {
	k.mu.Lock()
	defer k.mu.Unlock()
	out := record.BackupState{Folder: k.folder, Say: k.say}
	if list, err := backupsIn(k.folder); err == nil && len(list) > 0 {
		out.Last = list[0].made
	}
	return out
}

// Folder is where they lie.
func (k *Keeper) Folder() string { return k.folder }

// writeManifest puts a backup's manifest beside it.
func writeManifest(file string, h Holds) error {
	sum, size, err := sumOf(file)
	if err != nil {
		return err
	}
	raw, err := json.MarshalIndent(Manifest{Made: time.Now().UTC(), Bytes: size, SHA256: sum, Holds: h}, "", "  ")
	if err != nil {
		return err
	}
	if err := os.WriteFile(file+".json", append(raw, '\n'), 0o600); err != nil {
		return err
	}
	return flushed(file + ".json")
}

func sumOf(file string) (sum string, size int64, err error) {
	f, err := os.Open(file) //nolint:gosec // the caller's own path
	if err != nil {
		return "", 0, err
	}
	defer func() { err = errors.Join(err, f.Close()) }()
	h := sha256.New()
	size, err = io.Copy(h, f)
	return hex.EncodeToString(h.Sum(nil)), size, err
}

// sumInName is the beginning of a file's SHA-256 at the end of its name, as a downloaded backup carries it.
var sumInName = regexp.MustCompile(`-([0-9a-f]{16})\.db$`)

// NameWithSum is the name of a backup that is sent away: it carries the beginning of the file's SHA-256.
func NameWithSum(file string, made time.Time) (string, error) {
	sum, _, err := sumOf(file)
	if err != nil {
		return "", err
	}
	return "hevrin-" + made.UTC().Format("2006-01-02-1504") + "-" + sum[:16] + ".db", nil
}

// matches holds a file against its manifest and against its name, where it has them.
func matches(file string) error {
	var wanted []string
	raw, err := os.ReadFile(file + ".json") //nolint:gosec // beside the caller's own path
	switch {
	case err == nil:
		var m Manifest
		if err := json.Unmarshal(raw, &m); err != nil || len(m.SHA256) != 2*sha256.Size {
			return fmt.Errorf("%s.json is no manifest of Hevrin's: take an older backup", file)
		}
		wanted = append(wanted, m.SHA256)
	case !errors.Is(err, fs.ErrNotExist):
		return err
	}
	if m := sumInName.FindStringSubmatch(filepath.Base(file)); m != nil {
		wanted = append(wanted, m[1])
	}
	if len(wanted) == 0 {
		return nil
	}
	sum, _, err := sumOf(file)
	if err != nil {
		return err
	}
	for _, w := range wanted {
		if sum[:len(w)] != w {
			return fmt.Errorf("%s is damaged: it is not as it was written (SHA-256); take an older backup", file)
		}
	}
	return nil
}
