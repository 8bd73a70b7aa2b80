package job

import (
	"slices"

	"hevrin/app/record"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/hindsight"
)

// LookBack goes through a closed job's hunt again, look by look: where the cause that was confirmed stood among the
// suspects, and what was offered. It is judged as the program judges now, by the catalogue's base rates and minutes
// whatever the yard goes by. Of the engine's state it knows what earlier looks opened; what the state cost beside is
// left out of the forecast. Not ok where no cause was named, or the job is not closed.
func LookBack(a *Jobs, r record.Reader, id string) (back hindsight.Job, ok bool, err error) {
	entries, _, err := a.Entries(r, eventlog.Subject{Kind: eventlog.OfJob, ID: id})
	if err != nil {
		return back, false, err
	}
	s, err := a.stateOf(r, id, entries)
	if err != nil || s.job.Closing == nil || len(s.job.Closing.Faults) == 0 {
		return back, false, err
	}
	w := &lookBack{Jobs: a, r: r, s: s, facts: record.FactsOf(s.engine)}
	back = hindsight.Job{ID: id, Engine: s.engine.ID, ClosedAt: s.job.Closing.From.At.UTC(),
		Catalogue: a.Catalogue.Version, Causes: s.job.Closing.Faults, OneOf: s.job.Closing.OneOf}
	standing := eventlog.Standing(entries)
	hunt := standing[:w.ends(standing)]
	ranked := func(j *eventlog.Job) (*diagnosis.Answer, error) {
		answer, err := w.rank(j)
		if err != nil {
			return nil, err
		}
		if n := len(back.Looks); n > 0 {
			back.Looks[n-1].After = w.placeOf(answer)
		} else {
			back.Complaint = w.placeOf(answer)
		}
		return answer, nil
	}
	for i, e := range hunt {
		if e.Kind != eventlog.Checked || e.Body.Outcome != "done" {
			continue
		}
		before, err := ranked(w.at(hunt[:i]))
		if err != nil {
			return back, false, err
		}
		back.Looks = append(back.Looks, w.look(before, e))
	}
	last, err := ranked(w.at(hunt))
	if err != nil {
		return back, false, err
	}
	for _, f := range last.Suspects {
		back.Possible = append(back.Possible, f.Fault)
	}
	return back, true, nil
}

// lookBack is a job that is gone through again.
type lookBack struct {
	*Jobs
	r      record.Reader
	s      *state
	facts  eventlog.EngineFacts
	opened []string // by its looks so far
}

// at is the job after some of its entries.
func (w *lookBack) at(entries []eventlog.Entry) *eventlog.Job {
	j, _ := eventlog.FoldJob(w.Catalogue, entries)
	return j
}

// ends is where among a job's entries its hunt ended: with its first proof, or with its closing.
func (w *lookBack) ends(standing []eventlog.Entry) int {
	for i, e := range standing {
		if e.Kind == eventlog.Closed || e.Kind == eventlog.Proved && w.at(standing[:i+1]).ProvedFrom() > 0 {
			return i
		}
	}
	return len(standing)
}

// rank asks the diagnosis of the job as it stands.
func (w *lookBack) rank(j *eventlog.Job) (*diagnosis.Answer, error) {
	if len(j.Rounds) > 0 {
		if _, err := w.readings.Judge(w.r, j, w.s.engine, w.s.beside); err != nil {
			return nil, err
		}
	}
	var past []eventlog.Past
	for _, other := range w.s.jobs {
		if other.ClosedAt != nil && other.ID != j.ID && other.ClosedAt.Before(j.OpenedAt) {
			past = append(past, eventlog.Past{At: *other.ClosedAt, Faults: other.Faults})
		}
	}
	j.TakeFromRecord(eventlog.HistoryFromRecord(w.facts, past, j.OpenedAt))
	q := j.Question(w.facts, w.opened)
	q.Brief = true
	return w.answer(q)
}

// placeOf is where the likeliest of the causes stands.
func (w *lookBack) placeOf(a *diagnosis.Answer) hindsight.Ranking {
	for i, f := range a.Suspects {
		if slices.Contains(w.s.job.Closing.Faults, f.Fault) {
			return hindsight.Ranking{Place: i + 1, Probability: f.Probability}
		}
	}
	return hindsight.Ranking{}
}

// look is a check that was made when the answer stood so.
func (w *lookBack) look(before *diagnosis.Answer, e eventlog.Entry) hindsight.Look {
	l := hindsight.Look{Check: e.Body.Check}
	if e.Body.Minutes != nil {
		l.Took = *e.Body.Minutes
	}
	check, _ := w.Catalogue.Check(e.Body.Check)
	for i, n := range before.NextChecks {
		if n.Check == e.Body.Check {
			l.Offered, l.Forecast = i+1, n.Minutes+n.AccessMinutes
			if n.AccessMinutes > 0 {
				l.Opened = check.Access
			}
		}
	}
	for _, access := range []string{check.Access, check.Opens} {
		if _, is := w.Catalogue.AccessTo(access); is && !slices.Contains(w.opened, access) {
			w.opened = append(w.opened, access)
		}
	}
	return l
}
