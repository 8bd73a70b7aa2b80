// Package memory keeps a record in memory, behind the same narrow interfaces as the one on disk: what a phone took
// along of it, and what was added since.
package memory

import (
	"context"
	"maps"
	"slices"
	"sync"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
)

// Store keeps a record. It may be used from many goroutines.
type Store struct {
	mu sync.RWMutex
	tables
}

// tables are what is kept. Entries are only ever added, each with its place.
type tables struct {
	entries     []numbered
	byID        map[string]int
	craft       map[string]record.Craft
	engines     map[string]record.Engine
	jobs        map[string]record.Job
	service     map[string][]record.ServiceLine // by job
	maintenance map[string]record.MaintenanceState
	parts       map[string][]record.PartUsed // by job
	photos      map[string]record.Photo
	drafts      map[[2]string]record.Draft // by job and name
	pieces      []record.TrackPiece
	used        map[[2]string]inventory.Used // by part and engine: what all jobs took, as it was told
	taken       []record.PartUsed            // of it, by the jobs that are here
	counted     time.Time                    // when that was told
}

type numbered struct {
	seq int64
	eventlog.Entry
}

var _ record.Store = (*Store)(nil)

// New keeps nothing yet.
func New() *Store {
	return &Store{tables: tables{byID: map[string]int{}, craft: map[string]record.Craft{},
		engines: map[string]record.Engine{}, jobs: map[string]record.Job{}, service: map[string][]record.ServiceLine{},
		maintenance: map[string]record.MaintenanceState{}, parts: map[string][]record.PartUsed{},
		photos: map[string]record.Photo{}, drafts: map[[2]string]record.Draft{},
		used: map[[2]string]inventory.Used{}}}
}

// copied is a copy of the tables that changes of the original leave alone; what is in them is never changed in place.
func (t *tables) copied() tables {
	return tables{slices.Clip(t.entries), maps.Clone(t.byID), maps.Clone(t.craft), maps.Clone(t.engines),
		maps.Clone(t.jobs), maps.Clone(t.service), maps.Clone(t.maintenance), maps.Clone(t.parts), maps.Clone(t.photos),
		maps.Clone(t.drafts), slices.Clip(t.pieces), t.used, t.taken, t.counted}
}

// Read gives a reader outside any transaction.
func (s *Store) Read(context.Context) record.Reader { return &reader{s, s.mu.RLocker()} }

// Write runs a use case in one transaction: all of it is kept, or nothing.
func (s *Store) Write(_ context.Context, do func(record.Tx) error) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	before := s.copied()
	err := do(&tx{reader{s, unlocked{}}})
	if err != nil {
		s.tables = before
	}
	return err
}

// WriteShared is Write: there is no commit to share.
func (s *Store) WriteShared(ctx context.Context, do func(record.Tx) error) error {
	return s.Write(ctx, do)
}

// ForgetMaintenance throws away what was put together of service histories.
func (s *Store) ForgetMaintenance(context.Context) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	clear(s.service)
	clear(s.maintenance)
	return nil
}

// unlocked is the lock of who holds it already.
type unlocked struct{}

func (unlocked) Lock()   {}
func (unlocked) Unlock() {}

// tx reads and adds in one transaction.
type tx struct{ reader }

func (t *tx) Append(e eventlog.Entry) error {
	_, err := t.AppendAfter(e, t.s.last())
	return err
}

// AppendAfter refuses an id that is used, as the index of the record on disk does.
func (t *tx) AppendAfter(e eventlog.Entry, seq int64) (at int64, err error) {
	s := t.s
	for i := len(s.entries) - 1; i >= 0 && s.entries[i].seq > seq; i-- {
		if s.entries[i].Subject == e.Subject {
			return 0, nil
		}
	}
	if _, used := s.byID[e.ID]; used {
		return 0, record.UsedBefore()
	}
	s.keep(numbered{s.last() + 1, e})
	return s.last(), nil
}

// Added lists the entries from a place on, in the order in which they were saved.
func (s *Store) Added(from int) []eventlog.Entry {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var list []eventlog.Entry
	for _, e := range s.entries[min(from, len(s.entries)):] {
		list = append(list, e.Entry)
	}
	return list
}

func (s *Store) last() int64 {
	if len(s.entries) == 0 {
		return 0
	}
	return s.entries[len(s.entries)-1].seq
}

func (s *Store) keep(e numbered) {
	s.byID[e.ID] = len(s.entries)
	s.entries = append(s.entries, e)
}

func (t *tx) AddPhoto(p record.Photo) error {
	t.s.photos[p.ID] = p
	return nil
}

func (t *tx) SaveCraft(c record.Craft) error {
	t.s.craft[c.ID] = c
	return nil
}

func (t *tx) SaveEngine(e record.Engine) error {
	t.s.engines[e.ID] = e
	return nil
}

func (t *tx) SaveJob(j record.Job) error {
	t.s.jobs[j.ID] = j
	return nil
}

func (t *tx) SaveDraft(d record.Draft) error {
	if key := [2]string{d.JobID, d.What}; d.Value == "" {
		delete(t.s.drafts, key)
	} else {
		t.s.drafts[key] = d
	}
	return nil
}

func (t *tx) SaveServiceLines(job string, lines []record.ServiceLine) error {
	t.s.service[job] = slices.Clone(lines)
	return nil
}

func (t *tx) SaveMaintenance(m record.MaintenanceState) error {
	t.s.maintenance[m.EngineID] = m
	return nil
}

func (t *tx) SavePartsUsed(job string, list []record.PartUsed) error {
	t.s.parts[job] = slices.Clone(list)
	return nil
}
