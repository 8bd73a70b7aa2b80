package job

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"strings"

	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/validation"
)

// ImportDatalog takes a logger's file into a job as a recording, by a mapping of its columns.
func (a *Jobs) ImportDatalog(ctx context.Context, job string, s record.Stamp, id, name string, raw []byte,
	m datalog.Mapping) (*Page, error) {
	f, err := datalog.Read(raw)
	if err != nil {
		return nil, err
	}
	taken, err := f.Take(m)
	if err != nil {
		return nil, err
	}
	hash := sha256.Sum256(raw)
	r := &eventlog.Recording{ID: id, Do: eventlog.RecordingWhole, Source: eventlog.FromFile,
		Name: strings.TrimSpace(name), Rows: taken.Rows, Hash: hex.EncodeToString(hash[:]), Tracks: taken.Tracks}
	for _, d := range taken.Dropped {
		r.Left = append(r.Left, eventlog.LeftOut{Why: d.Why, Count: d.Count, Line: d.Line})
	}
	for _, t := range taken.Tracks {
		if n := t.Len(); n > 0 {
			r.Places = append(r.Places, t.Place)
			r.Seconds = max(r.Seconds, t.Seconds[n-1])
			r.Hours = max(r.Hours, recording.MeterOf(t))
		}
	}
	return a.NoteInJob(ctx, job, eventlog.Recorded, s, eventlog.Body{Recording: r})
}

// complete fills in what the program itself knows of an entry: how long a recording that ends was, what it shows, what
// a run comes to.
func (a *Jobs) complete(ctx context.Context, job string, body *eventlog.Body) error {
	if r := body.Recording; r != nil && r.Do == eventlog.RecordingEnded {
		return a.recording.Measure(ctx, r)
	}
	act := body.Proving
	if act == nil || act.Check() != nil { // what is wrong with it is told when it is kept
		return nil
	}
	j, engine, err := a.recording.JobOn(ctx, job)
	if err != nil {
		return err
	}
	switch act.Do {
	case proving.WarmUp:
		r, err := a.recording.Recording(ctx, job, act.Warmed.Recording)
		if err != nil {
			return err
		}
		w := r.Analysis.Warmed(r.ID)
		act.Warmed = &w
	case proving.Sign:
		page, err := a.Job(ctx, job)
		if err != nil {
			return err
		}
		if act.Outcome = page.Proving.outcome(act.Run); act.Outcome == proving.Unfinished && j.Proving.Find(act.Run) != nil {
			var wrong validation.Errors
			wrong.Add("proving.do", act.Do, "every stage done or excused",
				"the run is not finished: do what is still open, excuse it with a reason, or end the run without a verdict")
			return wrong
		}
	case proving.Loaded:
		if open, ok := j.Open(); ok && act.Minutes == 0 && act.TopRPM == 0 {
			r, err := a.recording.Recording(ctx, job, open.ID)
			if err != nil {
				return err
			}
			if r.Analysis.CruiseMinutes != nil {
				act.Minutes, act.TopRPM = *r.Analysis.CruiseMinutes, *r.Analysis.TopRPM
			}
		}
	}
	for _, t := range act.Findings(engine.RatedRPM, engine.ThermostatC) {
		if _, ok := a.Catalogue.Finding(t.Finding); ok {
			body.Stated = append(body.Stated, stateOf(t))
		}
	}
	return nil
}

func stateOf(t proving.FindingLikelihood) eventlog.Stated {
	q := t.Q
	return eventlog.Stated{ID: t.Finding, State: map[bool]string{true: eventlog.Present, false: eventlog.Absent}[q > 0.5],
		Q: &q}
}
