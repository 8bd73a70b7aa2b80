// Package presence tells who else has a job open at this moment, and which check they are at, so that two do not open
// the same hose. It is kept in memory alone: nothing of it is on record.
package presence

import (
	"cmp"
	"slices"
	"strings"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Seen is a device that has a job open: who uses it, and the check that stands open on it; empty: none. Since is when
// it came to that.
type Seen struct {
	Device, Name, Check string
	Since               time.Time
	last                time.Time
}

// How long a device counts as there after it was heard last, and how many are remembered.
const (
	StaysFor    = 20 * time.Second
	mostJobs    = 1000
	mostDevices = 50 // of a job
)

// Presence may be used from many goroutines.
type Presence struct {
	mu   sync.Mutex
	now  func() time.Time
	jobs *lru.Cache[string, map[string]Seen]
}

// New begins with nobody anywhere; now tells the time.
func New(now func() time.Time) *Presence {
	jobs, err := lru.New[string, map[string]Seen](mostJobs)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &Presence{now: now, jobs: jobs}
}

// Here notes that a device has a job open, or, leaving, that it has not any more, and lists the others who have, by
// name. One person with two devices is not another.
func (p *Presence) Here(job string, s Seen, leaving bool) []Seen {
	p.mu.Lock()
	defer p.mu.Unlock()
	now := p.now()
	all, ok := p.jobs.Get(job)
	if !ok {
		all = map[string]Seen{}
	}
	for id, x := range all {
		if now.Sub(x.last) > StaysFor {
			delete(all, id)
		}
	}
	if old, was := all[s.Device]; was && old.Check == s.Check && old.Name == s.Name {
		s.Since = old.Since
	} else {
		s.Since = now
	}
	s.last = now
	if leaving {
		delete(all, s.Device)
	} else if _, was := all[s.Device]; was || len(all) < mostDevices {
		all[s.Device] = s
	}
	p.jobs.Add(job, all)
	others := []Seen{}
	for _, x := range all {
		if x.Device != s.Device && x.Name != s.Name {
			others = append(others, x)
		}
	}
	slices.SortFunc(others, func(a, b Seen) int {
		return cmp.Or(strings.Compare(a.Name, b.Name), a.Since.Compare(b.Since), strings.Compare(a.Device, b.Device))
	})
	return others
}
