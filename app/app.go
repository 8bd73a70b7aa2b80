// Package app holds the use cases: what a technician does, one file for each thing done. It joins the core, which
// reckons, with the store, which keeps.
package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/live"
	"hevrin/store"
)

// App is the program without its interface. It may be used from many goroutines.
type App struct {
	Catalogue    *catalogue.Catalogue
	Diagnosis    *diagnosis.Diagnoser
	store        *store.Store
	now          func() time.Time
	hub          *live.Hub
	recorder     *recorder
	cache        *cache
	due          sync.Map // by engine: *knownDue
	inventoryLog cachedLog
	stopDays     context.CancelFunc
	days         sync.WaitGroup
}

// New joins a catalogue and a store. now tells the time. Who makes it closes it.
func New(c *catalogue.Catalogue, s *store.Store, now func() time.Time) *App {
	a := &App{Catalogue: c, Diagnosis: diagnosis.New(c), store: s, now: now, hub: live.NewHub(now), cache: newCache(), inventoryLog: cachedLog{subject: inventorySubject}}
	a.recorder = newRecorder(a)
	return a
}

// Resume brings an older record up to date and lets the recordings go on that were open when the program was stopped.
func (a *App) Resume(ctx context.Context) error {
	if err := a.Rebuild(ctx); err != nil {
		return err
	}
	if _, err := a.Inventory(ctx); err != nil { // and what is due: so that the first who asks has both at once
		return err
	}
	r := a.store.Read(ctx)
	jobs, err := r.OpenJobs()
	if err != nil {
		return err
	}
	for _, j := range jobs {
		a.follow(ctx, j.ID)
	}
	a.computeDueDaily(ctx)
	return nil
}

// follow lets the recorder do what the job's record says. What it cannot do now is told in the log: the entry is kept, and
// the next one tries again.
func (a *App) follow(ctx context.Context, job string) {
	if err := a.followJob(ctx, job); err != nil {
		slog.Error("a recording could not go on", "job", job, "error", err)
	}
}

func (a *App) followJob(ctx context.Context, job string) error {
	j, engine, err := a.jobOn(ctx, job)
	if errors.Is(err, ErrNotFound) { // its opening was taken back
		j, err = &eventlog.Job{ID: job}, nil
	}
	if err != nil {
		return err
	}
	return a.recorder.follow(ctx, j, engine)
}

// Close writes what is still to be written and lets the gateways go.
func (a *App) Close() {
	a.stopDaily()
	a.recorder.close()
	a.hub.Close()
}

// Now is the program's time.
func (a *App) Now() time.Time { return a.now() }

// Backup writes a whole copy of the record to a new file; see store.Store.Backup.
func (a *App) Backup(ctx context.Context, file string) (store.Holds, error) {
	return a.store.Backup(ctx, file)
}

// ErrNotFound says that there is no such thing on record.
var ErrNotFound = errors.New("not on record")

func notFound(what, id string) error {
	return fmt.Errorf("there is no %s %s: it may have been taken back on another device: %w", what, id, ErrNotFound)
}

// Stamp is what every entry carries: its id made by the client, who, and when it was tapped.
type Stamp struct {
	EntryID  string
	By       string
	TappedAt *time.Time
}

func (a *App) entry(s Stamp, subject eventlog.Subject, kind eventlog.Kind, body eventlog.Body) eventlog.Entry {
	e := eventlog.Entry{ID: s.EntryID, Subject: subject, Kind: kind, By: s.By, At: a.now().UTC(), Body: body}
	if s.TappedAt != nil {
		t := s.TappedAt.UTC()
		e.TappedAt = &t
	}
	return e
}

// repeated tells whether the entry is on record already, as after a lost link; the same id for something else is
// refused.
func repeated(tx *store.Tx, e eventlog.Entry) (bool, error) {
	old, ok, err := tx.Entry(e.ID)
	if err != nil || !ok {
		return false, err
	}
	was, err := json.Marshal(old.Body)
	if err != nil {
		return false, err
	}
	is, err := json.Marshal(e.Body)
	if err != nil {
		return false, err
	}
	if old.Subject != e.Subject || old.Kind != e.Kind || old.By != e.By || string(was) != string(is) {
		return false, usedBefore()
	}
	return true, nil
}

func usedBefore() error {
	return &eventlog.Conflict{Say: "this entry id was used before for something else: make a new one"}
}

// write adds an entry, unless it is on record already, and lets the subject's line be rewritten from all its entries.
// check sees the entries that stand before it.
func (a *App) write(ctx context.Context, e eventlog.Entry, check func(*store.Tx, []eventlog.Entry) error) error {
	return a.store.Write(ctx, func(tx *store.Tx) error {
		done, err := repeated(tx, e)
		if done || err != nil {
			return err
		}
		entries, err := a.logOf(tx, e.Subject)
		if err != nil {
			return err
		}
		if err := check(tx, entries); err != nil {
			return err
		}
		if err := tx.Append(e); err != nil {
			return err
		}
		if r := e.Body.Recording; r != nil && len(r.Tracks) > 0 {
			if err := tx.AddTracks(e.Subject.ID, r.ID, r.Tracks); err != nil {
				return err
			}
		}
		if e.Body.Photo != nil {
			if err := tx.AddPhoto(store.Photo{ID: e.ID, JobID: e.Subject.ID, JPEG: e.Body.Photo.JPEG}); err != nil {
				return err
			}
		}
		return projections[e.Subject.Kind](a, tx, e.Subject.ID, append(entries, e))
	})
}

// logOf is a subject's log as it stands.
func (a *App) logOf(tx *store.Tx, s eventlog.Subject) ([]eventlog.Entry, error) {
	if s == inventorySubject {
		return a.inventoryLog.read(&tx.Reader)
	}
	return tx.Entries(s)
}

// projections rewrite a subject's line from its entries.
var projections map[eventlog.SubjectKind]func(*App, *store.Tx, string, []eventlog.Entry) error

func init() {
	projections = map[eventlog.SubjectKind]func(*App, *store.Tx, string, []eventlog.Entry) error{
		eventlog.OfCraft: projectCraft, eventlog.OfEngine: projectEngine, eventlog.OfJob: projectJob,
		eventlog.OfYard: func(*App, *store.Tx, string, []eventlog.Entry) error { return nil },
	}
}
