package store

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"sync"
	"time"

	"hevrin/app/record"
)

// MirrorName is the copy's file in its folder. It stands there whole at every moment.
const MirrorName = "hevrin-copy.db"

// How soon the copy follows the record: after a look every so often, and, of a large record, after so many times what
// copying took, so that the disk has time for other work.
const (
	mirrorEvery = 2 * time.Second
	mirrorRest  = 20
)

// Mirror keeps a second copy of the record, on another disk, a few seconds behind it.
type Mirror struct {
	store  *Store
	folder string
	every  time.Duration
	mu     sync.Mutex
	last   time.Time // of which the copy is
	say    string    // why the last try failed
	stop   context.CancelFunc
	done   chan struct{}
}

// KeepMirror keeps a copy of the record in a folder from now on until it is closed: of what is on record when it is
// closed, too.
func (s *Store) KeepMirror(folder string) *Mirror { return s.mirrorAt(folder, mirrorEvery) }

func (s *Store) mirrorAt(folder string, every time.Duration) *Mirror {
	ctx, stop := context.WithCancel(context.Background())
	m := &Mirror{store: s, folder: folder, every: every, stop: stop, done: make(chan struct{})}
	go m.run(ctx)
	return m
}

// Close makes the copy once more where anything changed, and stops.
func (m *Mirror) Close() {
	m.stop()
	<-m.done
}

// State tells of when the copy is and why the last try failed.
func (m *Mirror) State() record.BackupState {
	m.mu.Lock()
	defer m.mu.Unlock()
	return record.BackupState{Folder: m.folder, Last: m.last, Say: m.say}
}

func (m *Mirror) run(ctx context.Context) {
	defer close(m.done)
	var copied string // what the file looked like that was copied
	rest := time.Duration(0)
	for {
		if now := m.store.looks(); now != copied {
			begun := time.Now()
			if m.copy(begun) == nil {
				copied = now
			}
			rest = mirrorRest * time.Since(begun)
		}
		if ctx.Err() != nil {
			return
		}
		select {
		case <-ctx.Done(): // once more
		case <-time.After(max(m.every, rest)):
		}
	}
}

// looks is how the record's file and its journal look from outside: different after every write.
func (s *Store) looks() string {
	out := ""
	for _, name := range []string{s.file, s.file + "-wal"} {
		if facts, err := os.Stat(name); err == nil {
			out += fmt.Sprint(facts.Size(), facts.ModTime().UnixNano(), " ")
		}
	}
	return out
}

// copy makes the copy beside the one before it, and puts it in its place.
func (m *Mirror) copy(begun time.Time) error {
	err := m.store.standingTrouble() // what is damaged must not drive out what is whole
	if err == nil {
		err = os.MkdirAll(m.folder, 0o700)
	}
	fresh := filepath.Join(m.folder, MirrorName+".new")
	if err == nil {
		err = ignoreMissing(os.Remove(fresh))
	}
	if err == nil {
		err = m.store.copyTo(context.Background(), fresh, func(string) error { return nil })
	}
	if err == nil {
		err = errors.Join(os.Rename(fresh, filepath.Join(m.folder, MirrorName)), flushed(m.folder))
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if err != nil {
		if m.say == "" {
			slog.Error("the second copy could not be made", "folder", m.folder, "error", err)
		}
		m.say = "the second copy could not be made: " + err.Error()
		return err
	}
	m.last, m.say = begun, ""
	return nil
}
