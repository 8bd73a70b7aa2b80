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
	news chan struct{}
	last map[string]int64 // of each job, the change that was told last
	told int64
}

// Moves are the jobs at which somebody came, went, or turned to another check after a number, in that order; number is
// the newest. news is closed at the next of them.
type Moves struct {
	Number int64
	Jobs   []string
	News   <-chan struct{}
}

// Since tells what moved after a number; below 0: nothing did.
func (p *Presence) Since(number int64) Moves {
	p.mu.Lock()
	defer p.mu.Unlock()
	m := Moves{Number: p.told, News: p.news}
	for job, n := range p.last {
		if number >= 0 && n > number {
			m.Jobs = append(m.Jobs, job)
		}
	}
	slices.SortFunc(m.Jobs, func(a, b string) int { return cmp.Compare(p.last[a], p.last[b]) })
	return m
}

// tell wakes who listens.
func (p *Presence) tell(job string) {
	p.told++
	if len(p.last) >= mostJobs {
		clear(p.last)
	}
	p.last[job] = p.told
	close(p.news)
	p.news = make(chan struct{})
}

// New begins with nobody anywhere; now tells the time.
func New(now func() time.Time) *Presence {
	jobs, err := lru.New[string, map[string]Seen](mostJobs)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &Presence{now: now, jobs: jobs, news: make(chan struct{}), last: map[string]int64{}}
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
	old, was := all[s.Device]
	same := was && old.Check == s.Check && old.Name == s.Name
	s.Since, s.last = now, now
	if same {
		s.Since = old.Since
	}
	if leaving {
		delete(all, s.Device)
	} else if was || len(all) < mostDevices {
		all[s.Device] = s
	}
	p.jobs.Add(job, all)
	if _, is := all[s.Device]; is != was || is && !same {
		p.tell(job)
	}
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
