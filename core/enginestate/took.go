package enginestate

import (
	"maps"

	"hevrin/core/eventlog"
	"hevrin/core/hindsight"
)

// timed is a check or an access of which somebody said what it took: so many times as long as the catalogue says.
type timed struct {
	id, job string
	times   float64
}

// time takes in what a check took, with the access that was opened for it.
func (s *State) time(e eventlog.Entry, opened bool) {
	k, _ := s.catalogue.Check(e.Body.Check)
	if e.Body.Outcome != eventlog.Done || e.Body.Minutes == nil || *e.Body.Minutes <= 0 {
		return
	}
	forecast := k.Minutes
	a, behind := s.catalogue.AccessTo(k.Access)
	if behind = behind && opened; behind {
		forecast += a.Minutes
	}
	times := hindsight.Times(*e.Body.Minutes, forecast)
	s.timed = append(s.timed, timed{k.ID, e.Subject.ID, times})
	if behind {
		s.timed = append(s.timed, timed{a.ID, e.Subject.ID, times})
	}
}

// Minutes are those of checks and accesses as they were on this engine, for one of its jobs: what its other jobs took
// counts, one look half, from three on alone (hindsight.OwnMinutes); what nobody timed here is as the yard has it. Here
// tells, by check and access, how often it was timed.
func (s *State) Minutes(job string, yard map[string]float64) (minutes map[string]float64, here map[string]int) {
	minutes, here = map[string]float64{}, map[string]int{}
	maps.Copy(minutes, yard)
	times := map[string][]float64{}
	for _, t := range s.timed {
		if t.job != job {
			times[t.id] = append(times[t.id], t.times)
		}
	}
	for id, list := range times {
		k, check := s.catalogue.Check(id)
		catalogues := k.Minutes
		if !check {
			a, _ := s.catalogue.AccessTo(id)
			catalogues = a.Minutes
		}
		otherwise, chosen := yard[id]
		if !chosen {
			otherwise = catalogues
		}
		minutes[id], here[id] = hindsight.OwnMinutes(otherwise, catalogues, list), len(list)
	}
	return minutes, here
}
