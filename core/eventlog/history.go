package eventlog

import (
	"fmt"
	"slices"
	"time"

	"hevrin/core/validation"
)

// Day is a date without a time, as 2026-05-04; empty: not known.
type Day string

const dayForm = "2006-01-02"

func (d Day) time() (time.Time, bool) {
	t, err := time.Parse(dayForm, string(d))
	return t, err == nil
}

// Dates are when something of an engine was last done.
type Dates struct {
	ImpellerFitted Day `json:"impeller_fitted,omitempty"`
	Descaled       Day `json:"descaled,omitempty"`
	ElbowFitted    Day `json:"elbow_fitted,omitempty"`
	CoolantChanged Day `json:"coolant_changed,omitempty"`
	SeacockWorked  Day `json:"seacock_worked,omitempty"`
}

func (d Dates) each() [][2]string {
	return [][2]string{{"impeller_fitted", string(d.ImpellerFitted)}, {"descaled", string(d.Descaled)}, {"elbow_fitted",
		string(d.ElbowFitted)},
		{"coolant_changed", string(d.CoolantChanged)}, {"seacock_worked", string(d.SeacockWorked)}}
}

// Fields lists the dates with their names, for logs.
func (d Dates) Fields() [][2]string { return d.each() }

func checkDates(wrong *validation.Errors, d Dates) {
	for _, f := range d.each() {
		if _, ok := Day(f[1]).time(); f[1] != "" && !ok {
			wrong.Add("dates."+f[0], f[1], "a date as 2026-05-04", "give the day it was done, or leave it empty")
		}
	}
}

// Past is an earlier job of the same engine that was closed.
type Past struct {
	At     time.Time
	Faults []string
}

// FromRecord is a history item that the engine's record tells, and the words for it.
type FromRecord struct{ ID, Why string }

// age is one rule: the history item holds when its date lies further back than so many months. Months are common
// practice: an impeller a year, an elbow five years, coolant three, a seacock one season; scale builds over two
// seasons in warm salt water.
type age struct {
	history, words string
	date           func(Dates) Day
	months         int
}

var ages = []age{
	{"impeller-overdue", "impeller fitted", func(d Dates) Day { return d.ImpellerFitted }, 12},
	{"warm-salt-undescaled", "last descaled", func(d Dates) Day { return d.Descaled }, 24},
	{"elbow-old", "elbow fitted", func(d Dates) Day { return d.ElbowFitted }, 60},
	{"coolant-old", "coolant changed", func(d Dates) Day { return d.CoolantChanged }, 36},
	{"seacock-unworked", "seacock last worked", func(d Dates) Day { return d.SeacockWorked }, 12},
}

// justFittedDays is how long before a job an impeller counts as changed since the last good run, and rubberYears how
// long lost blades may lie in the circuit (common practice).
const (
	justFittedDays = 14
	rubberYears    = 3
)

// HistoryFromRecord tells which history items hold for a job begun at a time, from the engine's dates and earlier jobs.
func HistoryFromRecord(e EngineFacts, past []Past, at time.Time) []FromRecord {
	var out []FromRecord
	for _, a := range ages {
		if t, ok := a.date(e.Dates).time(); ok && t.AddDate(0, a.months, 0).Before(at) {
			out = append(out, FromRecord{a.history, fmt.Sprintf("%s %s", a.words, t.Format("2 Jan 2006"))})
		}
	}
	if t, ok := e.Dates.ImpellerFitted.time(); ok && !t.After(at) && t.AddDate(0, 0, justFittedDays).After(at) {
		out = append(out, FromRecord{"impeller-just-fitted", "impeller fitted " + t.Format("2 Jan 2006")})
	}
	for _, p := range past {
		if slices.Contains(p.Faults, "impeller-vanes-missing") && p.At.Before(at) && p.At.AddDate(rubberYears, 0,
			0).After(at) {
			out = append(out, FromRecord{"lost-blades-before", "vanes were missing on " + p.At.Format("2 Jan 2006")})
			break
		}
	}
	return out
}

// TakeFromRecord adds what the record tells to a job's history, where nobody has said otherwise in the job.
func (j *Job) TakeFromRecord(told []FromRecord) {
	for _, t := range told {
		if !slices.ContainsFunc(j.History, func(k Statement) bool { return k.ID == t.ID }) {
			j.History = append(j.History, Statement{ID: t.ID, Q: 1, Record: t.Why})
		}
	}
}

// ComputedFinding is a finding that readings tell, with its likelihood.
type ComputedFinding struct {
	ID    string
	Point string // the hardest operating point that it was read at; empty: of what tells the same at each
	Q     float64
	Why   string
}

// TakeComputed adds what the rounds tell to a job's findings, where nobody has said otherwise in the job; order is
// where the last of them was taken among its entries. What was said before a repair does not stand against what was
// read since.
func (j *Job) TakeComputed(told []ComputedFinding, order int) {
	from := j.ProvedFrom()
	for _, t := range told {
		is := Statement{ID: t.ID, Point: t.Point, Q: t.Q, Record: t.Why, Order: order}
		at := slices.IndexFunc(j.Findings, is.sameAs)
		switch {
		case at < 0:
			j.Findings = append(j.Findings, is)
		case j.Findings[at].Order <= from && order > from:
			j.Findings[at] = is
		}
	}
}
