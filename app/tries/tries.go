// Package tries says what is kept of practice: what was done in each try, and how it went. It is no part of the record.
package tries

import (
	"cmp"
	"context"
	"maps"
	"slices"
	"sync"
	"time"
)

// Try is a practice as it is kept. PersonID is empty where nobody signs in.
type Try struct {
	ID       string `gorm:"primaryKey"`
	PersonID string
	Person   string
	Code     string
	BegunAt  time.Time
	EndedAt  *time.Time
	Did      string // what was done, in order, as JSON
	Result   string // how it went, as JSON; empty until it is over
}

// TableName is that of the store.
func (Try) TableName() string { return "practice_tries" }

// Store keeps tries.
type Store interface {
	// Try finds one; not ok where there is none.
	Try(ctx context.Context, id string) (Try, bool, error)
	// Tries lists a person's, the newest first, at most so many, without what was done in each.
	Tries(ctx context.Context, person string, most int) ([]Try, error)
	SaveTry(ctx context.Context, t Try) error
	// Share says whether a person lets who leads see how their practice goes; nobody does before they say so.
	Share(ctx context.Context, person string, shared bool) error
	// Sharing lists the people who do, by their ids.
	Sharing(ctx context.Context) ([]string, error)
}

// Shared is a person who lets who leads see how their practice goes.
type Shared struct {
	PersonID string `gorm:"primaryKey"`
}

// TableName is that of the store.
func (Shared) TableName() string { return "practice_shared" }

// InMemory keeps tries while the program runs.
func InMemory() *Memory { return &Memory{tries: map[string]Try{}, sharing: map[string]bool{}} }

// Memory keeps tries in memory. It may be used from many goroutines.
type Memory struct {
	mu      sync.Mutex
	tries   map[string]Try
	sharing map[string]bool
}

var _ Store = (*Memory)(nil)

// All lists all of them, by their ids, with what was done in each.
func (m *Memory) All() []Try {
	m.mu.Lock()
	defer m.mu.Unlock()
	return slices.SortedFunc(maps.Values(m.tries), func(a, b Try) int { return cmp.Compare(a.ID, b.ID) })
}

// Try is that of Store.
func (m *Memory) Try(_ context.Context, id string) (Try, bool, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	t, ok := m.tries[id]
	return t, ok, nil
}

// Tries is that of Store.
func (m *Memory) Tries(_ context.Context, person string, most int) ([]Try, error) {
	var list []Try
	for _, t := range m.All() {
		if t.PersonID == person {
			t.Did = ""
			list = append(list, t)
		}
	}
	slices.SortStableFunc(list, func(a, b Try) int { return b.BegunAt.Compare(a.BegunAt) })
	return list[:min(most, len(list))], nil
}

// SaveTry is that of Store.
func (m *Memory) SaveTry(_ context.Context, t Try) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.tries[t.ID] = t
	return nil
}

// Share is that of Store.
func (m *Memory) Share(_ context.Context, person string, shared bool) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	if delete(m.sharing, person); shared {
		m.sharing[person] = true
	}
	return nil
}

// Sharing is that of Store.
func (m *Memory) Sharing(context.Context) ([]string, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	return slices.Sorted(maps.Keys(m.sharing)), nil
}
