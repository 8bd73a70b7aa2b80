package enginestate

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
)

// Worn is a light grade of wear that was seen beside the cause: to be put right while it is open, or else later.
type Worn struct {
	Grade catalogue.Grade
	Label string // of what was seen
	Check string // that saw it
	Since Who
}

// wears takes in what a look says of wear: a light grade stands until the same look shows none, or a heavy one.
func (s *State) wears(x eventlog.Stated, e eventlog.Entry, who Who) {
	if e.Body.Check == "" {
		return
	}
	g, light := s.catalogue.LightGrade(x.ID)
	if !light {
		if g, light = s.catalogue.HeavyGrade(x.ID); !light || x.State != eventlog.Present {
			return // a heavy one that is not there says nothing of the light one
		}
	}
	s.worn = slices.DeleteFunc(s.worn, func(w Worn) bool { return w.Grade.ID == g.ID && w.Check == e.Body.Check })
	if x.ID == g.Light && x.State == eventlog.Present && x.Q == nil {
		f, _ := s.catalogue.Finding(g.Light)
		s.worn = append(s.worn, Worn{Grade: g, Label: f.Label, Check: e.Body.Check, Since: who})
	}
}

// Worn lists the light wear that was seen and not seen to be gone since, the oldest first.
func (s *State) Worn() []Worn { return slices.Clone(s.worn) }

// FollowUp is what the due list makes of it.
func (w Worn) FollowUp() maintenance.FollowUp {
	return maintenance.FollowUp{Kind: "also-seen", Key: w.Since.Entry + "/" + w.Grade.ID, What: lower(w.Label),
		Do: w.Grade.Do, Item: w.Grade.Item, At: w.Since.At, By: w.Since.By, Job: w.Since.Job}
}
