package job

import (
	"slices"

	"hevrin/app/record"
	"hevrin/core/enginestate"
	"hevrin/core/maintenance"
)

// AlsoSeen is light wear that was seen on the engine: in this job, or before it and not put right since.
type AlsoSeen struct {
	enginestate.Worn
	FollowUp string // its line on the due list
	PutRight bool
	Here     bool // seen in this job
	Open     bool // what it lies behind stands open
}

// alsoSeen lists the wear that a job has to do with, what was seen in it first.
func (a *Jobs) alsoSeen(r record.Reader, s *state) ([]AlsoSeen, error) {
	worn := s.stand.Worn()
	left := make([]maintenance.FollowUp, len(worn))
	for i, w := range worn {
		left[i] = w.FollowUp()
	}
	settled, err := a.maintenance.Settled(r, s.engine, left)
	if err != nil {
		return nil, err
	}
	var list []AlsoSeen
	for i, w := range worn {
		check, _ := a.Catalogue.Check(w.Check)
		x := AlsoSeen{Worn: w, FollowUp: left[i].ID(), PutRight: settled[i], Here: w.Since.Job == s.job.ID,
			Open: s.stand.IsOpen(check.Access) || s.stand.IsOpen(check.Opens)}
		if x.Here || !x.PutRight {
			list = append(list, x)
		}
	}
	slices.SortStableFunc(list, func(x, y AlsoSeen) int { return rank(x.Here) - rank(y.Here) })
	return list, nil
}

func rank(first bool) int {
	if first {
		return 0
	}
	return 1
}
