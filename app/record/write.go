package record

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// ErrNotFound says that there is no such thing on record.
var ErrNotFound = errors.New("not on record")

// NotFound says that there is no such thing; what is its kind, as in "job". It wraps ErrNotFound.
func NotFound(what, id string) error {
	return fmt.Errorf("there is no %s %s: it may have been taken back on another device: %w", what, id, ErrNotFound)
}

// UsedBefore refuses an entry whose id belongs to another one.
func UsedBefore() error {
	return &eventlog.Conflict{Say: "this entry id was used before for something else: make a new one"}
}

// ShortCode is the beginning of an id as it stands on a label, to be typed where nothing scans it: 9F3A-22C1.
func ShortCode(id string) string {
	hex := strings.ToUpper(strings.ReplaceAll(id, "-", ""))
	if len(hex) < 8 {
		return hex
	}
	return hex[:4] + "-" + hex[4:8]
}

// Stamp is what every entry carries: its id made by the client, who, and when it was tapped.
type Stamp struct {
	EntryID  string
	By       string
	TappedAt *time.Time
	Seen     string // the entry by which what is changed had been saved; empty: nobody looked
}

// Projection rewrites a subject's line in the lists from all its entries, in the transaction that adds one.
type Projection func(tx Tx, id string, entries []eventlog.Entry) error

// Log adds entries to the event log. It may be used from many goroutines.
type Log struct {
	Catalogue   *catalogue.Catalogue
	Store       Store
	Now         func() time.Time
	Projections map[eventlog.SubjectKind]Projection
	// Changed, where it is set, is called with each entry once it is saved.
	Changed func(ctx context.Context, e eventlog.Entry)
	// Changes lets whoever shows the record know of each entry.
	Changes Changes
	logs    *lru.Cache[eventlog.Subject, *cachedLog]
}

// mostLogs is how many subjects' logs are kept in memory.
const mostLogs = 512

// NewLog joins a catalogue and a store; now tells the time.
func NewLog(c *catalogue.Catalogue, s Store, now func() time.Time) *Log {
	logs, err := lru.New[eventlog.Subject, *cachedLog](mostLogs)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &Log{Catalogue: c, Store: s, Now: now, Projections: map[eventlog.SubjectKind]Projection{}, logs: logs}
}

// NewEntry makes an entry of a stamp, a subject, a kind and a body; it saves nothing.
func (l *Log) NewEntry(s Stamp, subject eventlog.Subject, kind eventlog.Kind, body eventlog.Body) eventlog.Entry {
	e := eventlog.Entry{ID: s.EntryID, Subject: subject, Kind: kind, By: s.By, At: l.Now().UTC(), Body: body}
	if s.TappedAt != nil {
		t := s.TappedAt.UTC()
		e.TappedAt = &t
	}
	return e
}

// cachedLog keeps a log in memory. Entries are only ever added, so that a reading fetches what is new alone.
type cachedLog struct {
	mu      sync.Mutex
	entries []eventlog.Entry
	upTo    int64
	asked   time.Time // when it was last asked for; zero where something was added since
}

// soon is how old a log may be that is given without asking the store: another program may write to the same record.
const soon = 250 * time.Millisecond

// Entries gives a subject's log as it stands, and the place in the record up to which it is known. In a transaction it
// must come before anything is added there.
func (l *Log) Entries(r EntryReader, s eventlog.Subject) ([]eventlog.Entry, int64, error) {
	k := l.cached(s)
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.read(r, s, l.Now())
}

// EntriesSoon is Entries that may be a moment old, but for what this program added itself: for what is shown beside
// another subject.
func (l *Log) EntriesSoon(r EntryReader, s eventlog.Subject) ([]eventlog.Entry, error) {
	entries, _, err := l.entriesSoon(r, s)
	return entries, err
}

func (l *Log) entriesSoon(r EntryReader, s eventlog.Subject) ([]eventlog.Entry, int64, error) {
	k := l.cached(s)
	k.mu.Lock()
	defer k.mu.Unlock()
	if now := l.Now(); now.Sub(k.asked) < soon && !now.Before(k.asked) {
		return slices.Clip(k.entries), k.upTo, nil
	}
	return k.read(r, s, l.Now())
}

func (l *Log) cached(s eventlog.Subject) *cachedLog {
	k, ok := l.logs.Get(s)
	if !ok {
		k = &cachedLog{}
		if old, had, _ := l.logs.PeekOrAdd(s, k); had {
			k = old
		}
	}
	return k
}

func (k *cachedLog) read(r EntryReader, s eventlog.Subject, now time.Time) ([]eventlog.Entry, int64, error) {
	list, upTo, err := r.EntriesAfter(s, k.upTo)
	if err != nil {
		return nil, 0, err
	}
	k.entries, k.upTo, k.asked = append(k.entries, list...), upTo, now
	return slices.Clip(k.entries), upTo, nil
}

// same tells whether two entries are one that was sent twice.
func same(a, b eventlog.Entry) (bool, error) {
	if a.Subject != b.Subject || a.Kind != b.Kind || a.By != b.By {
		return false, nil
	}
	was, err := json.Marshal(a.Body)
	if err != nil {
		return false, err
	}
	is, err := json.Marshal(b.Body)
	return bytes.Equal(was, is), err
}

// repeated tells whether the entry is among those of its subject already, as after a lost link; the same id for
// something else is refused.
func repeated(entries []eventlog.Entry, e eventlog.Entry) (bool, error) {
	at := slices.IndexFunc(entries, func(x eventlog.Entry) bool { return x.ID == e.ID })
	if at < 0 {
		return false, nil
	}
	is, err := same(entries[at], e)
	if err == nil && !is {
		err = UsedBefore()
	}
	return is, err
}

// errStale says that the log went on between the reading and the writing.
var errStale = errors.New("the log went on meanwhile")

// fewTries is how often a tap is worked out anew because another came between; then it is worked out within the lock.
const fewTries = 3

// Prepared is what is left to be done in the transaction that adds an entry, once all else was worked out.
type Prepared func(tx Tx) error

// Write adds an entry, unless it is on record already. prepare works out everything that follows from it, outside the
// transaction, from the entries before it; what it gives is done in the transaction. It may be called again where the
// log went on meanwhile. Its error refuses the entry.
func (l *Log) Write(ctx context.Context, e eventlog.Entry, prepare func(r Reader,
	before []eventlog.Entry) (Prepared, error)) error {
	if err := eventlog.CheckBy(e); err != nil {
		return err
	}
	for i := range fewTries {
		r := l.Store.Read(ctx)
		read := l.Entries
		if i == 0 {
			read = l.entriesSoon // whether it was too old is seen when the entry is added
		}
		before, upTo, err := read(r, e.Subject)
		if err != nil {
			return err
		}
		if done, err := repeated(before, e); done || err != nil {
			return err
		}
		save, err := prepare(r, before)
		if err != nil {
			return err
		}
		var at int64
		err = l.Store.WriteShared(ctx, func(tx Tx) (err error) {
			at, err = l.add(tx, e, upTo, save)
			return err
		})
		if !errors.Is(err, errStale) {
			return l.written(ctx, e, upTo, at, err)
		}
	}
	return l.WriteLocked(ctx, e, prepare)
}

// WriteLocked is Write with everything worked out within the transaction: for what must see nobody come between.
func (l *Log) WriteLocked(ctx context.Context, e eventlog.Entry, prepare func(r Reader,
	before []eventlog.Entry) (Prepared, error)) error {
	if err := eventlog.CheckBy(e); err != nil {
		return err
	}
	done := false
	var upTo, at int64
	err := l.Store.Write(ctx, func(tx Tx) error {
		var before []eventlog.Entry
		var err error
		if before, upTo, err = l.Entries(tx, e.Subject); err != nil {
			return err
		}
		if done, err = repeated(before, e); done || err != nil {
			return err
		}
		save, err := prepare(tx, before)
		if err != nil {
			return err
		}
		at, err = l.add(tx, e, upTo, save)
		return err
	})
	if done {
		return err
	}
	return l.written(ctx, e, upTo, at, err)
}

// written keeps a saved entry, which lies at a place in the record after what was known of its log, and lets whoever
// follows the record know of it.
func (l *Log) written(ctx context.Context, e eventlog.Entry, upTo, at int64, err error) error {
	if err != nil {
		return err
	}
	l.Announce(ctx, e)
	l.cached(e.Subject).add(e, upTo, at, l.Now())
	return nil
}

// add puts an entry that was saved behind those of which it was worked out, as it would be read; where that cannot be
// had, or the log is known up to another place, it will be read.
func (k *cachedLog) add(e eventlog.Entry, upTo, at int64, now time.Time) {
	raw, err := json.Marshal(e.Body)
	if err != nil {
		return
	}
	e.Body = eventlog.Body{}
	if err := json.Unmarshal(raw, &e.Body); err != nil {
		return
	}
	e.At = e.At.Round(0) // the process's own clock goes no further
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.upTo == upTo {
		k.entries, k.upTo, k.asked = append(k.entries, e), at, now
	}
}

// Announce lets whoever follows the record know of an entry that was saved.
func (l *Log) Announce(ctx context.Context, e eventlog.Entry) {
	k := l.cached(e.Subject)
	k.mu.Lock()
	k.asked = time.Time{}
	k.mu.Unlock()
	if l.Changed != nil {
		l.Changed(ctx, e)
	}
	l.Changes.publish(e)
}

// add puts an entry into the record after what is known of its log, with what lies beside it. It is stale where the log
// went on. Its place in the record is given.
func (l *Log) add(tx Tx, e eventlog.Entry, upTo int64, save Prepared) (int64, error) {
	at, err := tx.AppendAfter(e, upTo)
	if err != nil {
		if _, ok, e2 := tx.Entry(e.ID); e2 == nil && ok {
			return 0, UsedBefore()
		}
		return 0, err
	}
	if at == 0 {
		return 0, errStale
	}
	if r := e.Body.Recording; r != nil && len(r.Tracks) > 0 {
		if err := tx.AddTracks(e.Subject.ID, r.ID, r.Tracks); err != nil {
			return 0, err
		}
	}
	if e.Body.Photo != nil {
		if err := tx.AddPhoto(Photo{ID: e.ID, JobID: e.Subject.ID, JPEG: e.Body.Photo.JPEG}); err != nil {
			return 0, err
		}
	}
	return at, save(tx)
}

// Save adds an entry of which check finds nothing wrong and rewrites its subject's line, all in one transaction.
func (l *Log) Save(ctx context.Context, e eventlog.Entry, check func(r Reader, before []eventlog.Entry) error) error {
	return l.WriteLocked(ctx, e, func(r Reader, before []eventlog.Entry) (Prepared, error) {
		if err := check(r, before); err != nil {
			return nil, err
		}
		project := l.Projections[e.Subject.Kind]
		if project == nil {
			return func(Tx) error { return nil }, nil
		}
		return func(tx Tx) error { return project(tx, e.Subject.ID, append(before, e)) }, nil
	})
}

// Undo takes an entry of any log back, and says which log it was of.
func (l *Log) Undo(ctx context.Context, target string, s Stamp) (eventlog.Subject, error) {
	old, ok, err := l.Store.Read(ctx).Entry(target)
	if err != nil {
		return eventlog.Subject{}, err
	}
	if !ok {
		return eventlog.Subject{}, NotFound("entry", target)
	}
	if say := notUndone[old.Subject.ID]; say != "" && old.Subject.Kind == eventlog.OfYard {
		return old.Subject, &eventlog.Conflict{Say: say}
	}
	if err := mayUndo(ctx, old); err != nil {
		return old.Subject, err
	}
	e := l.NewEntry(s, old.Subject, eventlog.Undo, eventlog.Body{Undoes: target})
	return old.Subject, l.Save(ctx, e, func(r Reader, before []eventlog.Entry) error {
		dependents, err := dependentsOf(r, old.Subject)
		if err != nil {
			return err
		}
		return eventlog.CheckUndo(before, target, dependents)
	})
}

// notUndone are the logs of the yard of which no single entry is taken back, each with what to do.
var notUndone = map[string]string{
	eventlog.ListsID:  "a list that was brought in is taken back as one, where the lists stand",
	eventlog.PeopleID: "people are changed where they are listed: nothing of them is taken back",
	eventlog.AuditID:  "the audit log stays as it is",
}

// dependentsOf counts what would be left without its subject.
func dependentsOf(r EngineAndJobReader, s eventlog.Subject) (int, error) {
	switch s.Kind {
	case eventlog.OfCraft:
		engines, err := r.Engines(s.ID)
		return len(engines), err
	case eventlog.OfEngine:
		jobs, err := r.Jobs(s.ID)
		return len(jobs), err
	}
	return 0, nil
}
