package main

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// coolingMinutes is the wait until what ran hot may be opened; common practice, from the least.
const coolingMinutes = 30.0

// states counts what the engine's state costs between looks: a running engine is closed up first, which takes as long
// as it took to open, and what ran hot cools before it is opened. Nil counts nothing.
type states struct {
	c   *catalogue.Catalogue
	hot bool
}

// closing is what it takes to close up what is open.
func (s *states) closing(open []string) (minutes float64) {
	for _, id := range open {
		a, _ := s.c.AccessTo(id)
		minutes += a.Minutes
	}
	return minutes
}

// ahead is what stands before each check, as the program counts it into its order.
func (s *states) ahead(q *diagnosis.Question) map[string]float64 {
	if s == nil {
		return nil
	}
	out := map[string]float64{}
	for _, k := range s.c.Checks {
		if m := s.before(k, q.OpenAccess); m > 0 {
			out[k.ID] = m
		}
	}
	return out
}

func (s *states) before(k catalogue.Check, open []string) float64 {
	switch {
	case k.Engine == "running":
		return s.closing(open)
	case s.hot && k.Access != "" && !slices.Contains(open, k.Access):
		return coolingMinutes
	}
	return 0
}

// make goes to the state that a check needs and gives what that takes.
func (s *states) make(k catalogue.Check, q *diagnosis.Question) float64 {
	if s == nil {
		return 0
	}
	minutes := s.before(k, q.OpenAccess)
	switch {
	case k.Engine == "running":
		q.OpenAccess, s.hot = nil, true
	case minutes > 0:
		s.hot = false
	}
	return minutes
}

// prove closes up what is open for a proof, which leaves the engine hot.
func (s *states) prove(q *diagnosis.Question) float64 {
	if s == nil {
		return 0
	}
	s.hot = true
	return s.closing(q.OpenAccess)
}
