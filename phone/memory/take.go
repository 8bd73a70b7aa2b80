package memory

import (
	"hevrin/app/along"
	"hevrin/core/inventory"
)

// Take keeps what was taken along of a craft. What several craft share, as the yard's logs, is kept once.
func (s *Store) Take(a *along.Along) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, e := range a.Entries {
		if _, has := s.byID[e.ID]; !has {
			s.keep(numbered{s.last() + 1, e})
		}
	}
	s.craft[a.Craft.ID] = a.Craft
	for _, e := range a.Engines {
		s.engines[e.ID] = e
	}
	for _, j := range a.Jobs {
		s.jobs[j.ID] = j
	}
	for _, l := range a.Service {
		s.service[l.JobID] = append(s.service[l.JobID], l)
	}
	for _, m := range a.Maintenance {
		s.maintenance[m.EngineID] = m
	}
	for _, d := range a.Drafts {
		s.drafts[[2]string{d.JobID, d.What}] = d
	}
	for _, p := range a.Parts {
		s.parts[p.JobID] = append(s.parts[p.JobID], p)
	}
	if a.At.After(s.counted) {
		s.counted = a.At
		s.used = map[[2]string]inventory.Used{}
		for _, u := range a.Used {
			s.used[[2]string{u.Part, u.Engine}] = u
		}
	}
	s.taken = append(s.taken, a.Parts...)
}
