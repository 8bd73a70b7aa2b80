package enginestate

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"time"

	"hevrin/core/maintenance"
	"hevrin/core/teardown"
)

// FollowUps lists what the jobs left behind on the engine to be done once, the oldest first: sealant in place of a seal
// that no proper one has replaced since, a seacock that does not hold, light wear that was seen.
func (s *State) FollowUps() []maintenance.FollowUp {
	var list []maintenance.FollowUp
	for _, i := range s.Hands.Items {
		if i.Refit.Sealant == "" || s.properSince(i) {
			continue
		}
		what := i.Label
		if i.Where != "" {
			what += ", " + i.Where
		}
		list = append(list, maintenance.FollowUp{Kind: "sealant", Key: i.RefitBy.Entry, What: lower(what), At: i.RefitBy.At,
			By: i.RefitBy.By, Job: strings.TrimSuffix(i.Scope, ":")})
	}
	if p := s.valve; p.passes {
		list = append(list, maintenance.FollowUp{Kind: "seacock-passes", Key: p.Entry, What: "the seacock", At: p.At,
			By: p.By, Job: p.Job})
	}
	for _, w := range s.worn {
		list = append(list, w.FollowUp())
	}
	slices.SortStableFunc(list, func(a, b maintenance.FollowUp) int { return a.At.Compare(b.At) })
	return list
}

// Pump is the type on the plate of the raw-water pump that was fitted last, and when that was saved by the program's
// clock; empty where no job told of one.
func (s *State) Pump() (plate string, saved time.Time) {
	for _, i := range s.Hands.Items {
		if i.Refit.Plate != "" && !i.RefitBy.Saved.Before(saved) {
			plate, saved = i.Refit.Plate, i.RefitBy.Saved
		}
	}
	return plate, saved
}

// Waiting lists what jobs on the engine wait for, the oldest first.
func (s *State) Waiting() []teardown.Waiting {
	return slices.SortedFunc(maps.Values(s.waiting),
		func(a, b teardown.Waiting) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Words, b.Words)) })
}

// properSince says whether the same seal went back later, in this job or another, with no sealant in its place.
func (s *State) properSince(was teardown.Item) bool {
	return slices.ContainsFunc(s.Hands.Items, func(i teardown.Item) bool {
		return i.ID == was.ID && i.Task == was.Task && i.LastOff > was.LastOff && i.New > 0 && i.Refit.Sealant == ""
	})
}
