package maintenance

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hevrin/core/catalogue"
)

// FollowUp is work that a job left behind, to be done once.
type FollowUp struct {
	Kind string // in the catalogue
	Key  string // the entry that left it
	What string // the same in words
	Do   string // what puts it right, where that differs from one to the other
	Item string // the maintenance that does it too; empty: none
	// Hours is within how many running hours it is due, days apart; 0: by the days alone.
	Hours float64   `json:",omitempty"`
	At    time.Time // since when
	By    string
	Job   string
}

// ID is what the due list and the engine's log call it.
func (f FollowUp) ID() string { return "follow-up:" + f.Kind + ":" + f.Key }

// FollowUpOf reads an id that ID made; not ok where it is none.
func FollowUpOf(id string) (FollowUp, bool) {
	rest, ok := strings.CutPrefix(id, "follow-up:")
	kind, key, two := strings.Cut(rest, ":")
	return FollowUp{Kind: kind, Key: key}, ok && two && kind != "" && key != ""
}

// Settled says whether it was put down as done, or the maintenance that does it was made since; of what was put down by
// hand only the day is known.
func (f FollowUp) Settled(e Engine) bool {
	day := f.At.UTC().Truncate(24 * time.Hour)
	return slices.ContainsFunc(e.Done, func(d Done) bool {
		since := d.At.After(f.At) || d.Job == "" && !d.At.Before(day)
		return d.Item == f.ID() || f.Item != "" && d.Item == f.Item && since
	})
}

// Words are its label and what is to be done, of its kind in the catalogue.
func (f FollowUp) Words(k catalogue.FollowUp) (label, do string) {
	words := func(s string) string {
		s = strings.ReplaceAll(strings.ReplaceAll(s, "{what}", f.What), "{do}", f.Do)
		return strings.ToUpper(s[:1]) + s[1:]
	}
	return words(k.Label), words(k.Do)
}

// due is its line on the due list; not ok where it was done, or the catalogue has no such kind.
func (f FollowUp) due(c *catalogue.Catalogue, e Engine, life RunningHours, today time.Time) (Due, bool) {
	k, ok := c.FollowUp(f.Kind)
	if !ok || f.Settled(e) || k.Until > 0 && today.After(f.At.AddDate(0, 0, k.Until)) {
		return Due{}, false
	}
	label, do := f.Words(k)
	d := Due{MaintenanceItem: catalogue.MaintenanceItem{ID: f.ID(), Label: label, Do: do, Ashore: k.Ashore, Why: k.Why}}
	d.Reasons = []Reason{{ByJob, fmt.Sprintf("since %s, by %s", day(f.At), f.By), f.At.AddDate(0, 0, k.Days)}}
	if began, _, ok := life.At(f.At); ok && f.Hours > 0 {
		say := fmt.Sprintf("%.0f h since %s, at %.0f h", f.Hours, day(f.At), began)
		if when, ok := life.When(began+f.Hours, today); ok {
			d.Reasons = append(d.Reasons, Reason{ByHours, say, when})
		}
	}
	slices.SortStableFunc(d.Reasons, func(a, b Reason) int { return a.When.Compare(b.When) })
	d.DoneToo = f.Item
	d.settle(e, life, today)
	return d, true
}
