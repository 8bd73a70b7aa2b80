package enginestate

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"time"

	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

// FollowUps lists what the jobs left behind on the engine to be done once, the oldest first: sealant in place of a seal
// that no proper one has replaced since, a seacock that does not hold, light wear that was seen, a trouble that comes
// and goes and is on watch, the leak check on the day after the last run that was signed.
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
	for _, w := range s.watched {
		list = append(list, w.followUp())
	}
	if r := s.lastRun; r.id != "" && !r.lookedAt {
		list = append(list, maintenance.FollowUp{Kind: "next-day", Key: r.signed.Entry, What: "bilge and joints",
			At: r.signed.At, By: r.signed.By, Job: r.signed.Job})
	}
	slices.SortStableFunc(list, func(a, b maintenance.FollowUp) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID(), b.ID()))
	})
	return list
}

// watch is a trouble that came and went: its job was closed, and it is on watch for so many running hours.
type watch struct {
	who   Who
	what  string
	hours float64
}

func (w watch) followUp() maintenance.FollowUp {
	return maintenance.FollowUp{Kind: "watch", Key: w.who.Entry, What: w.what, Hours: w.hours, At: w.who.At, By: w.who.By,
		Job: w.who.Job}
}

// mostOfWords is how much is told of what a job was closed with, in letters.
const mostOfWords = 60

// close takes in that a job was closed, and whether its trouble is on watch from then on.
func (s *State) close(e eventlog.Entry) {
	delete(s.waiting, e.Subject.ID)
	delete(s.watched, e.Subject.ID)
	if h := e.Body.WatchHours; h != nil {
		what := []rune(strings.TrimSpace(e.Body.Words))
		if len(what) > mostOfWords {
			what = append(what[:mostOfWords], '…')
		}
		s.watched[e.Subject.ID] = watch{whoOf(e), cmp.Or(string(what), "what came and went"), *h}
	}
}

// Pump is the type on the plate of the raw-water pump that was fitted last, and when; empty where no job told
// of one.
func (s *State) Pump() (plate string, at time.Time) {
	for _, i := range s.Hands.Items {
		if i.Refit.Plate != "" && !i.RefitBy.At.Before(at) {
			plate, at = i.Refit.Plate, i.RefitBy.At
		}
	}
	return plate, at
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

// run is a proving run that was signed: the last one of the engine.
type run struct {
	id       string
	signed   Who
	lookedAt bool // on the day after
}

// proves takes in what a proving run says: signed, it asks for a look on the day after; begun, the one before is over.
func (s *State) proves(e eventlog.Entry) {
	switch p := e.Body.Proving; p.Do {
	case proving.Prime:
		s.dry = !p.Water
	case proving.Begin:
		s.lastRun = run{}
	case proving.Sign:
		s.lastRun = run{id: p.Run, signed: whoOf(e)}
	case proving.NextDay:
		if p.Run == s.lastRun.id {
			s.lastRun.lookedAt = true
		}
	}
}
