package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"math"
	"strings"

	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
	"hevrin/core/validation"
	"hevrin/store"
)

// RecordingPage is a recording with what was read, and what it shows.
type RecordingPage struct {
	eventlog.StoredRecording
	Tracks   []proving.Track
	Analysis proving.Analysis
	Limits   []AlarmLine
	Gaps     int
	Length   float64 // s
}

// Recording gives a recording of a job.
func (a *App) Recording(ctx context.Context, job, id string) (*RecordingPage, error) {
	j, engine, err := a.jobOn(ctx, job)
	if err != nil {
		return nil, err
	}
	kept, ok := j.Recording(id)
	if !ok {
		return nil, notFound("recording", id)
	}
	tracks, err := a.tracks(a.store.Read(ctx), id)
	if err != nil {
		return nil, err
	}
	p := &RecordingPage{StoredRecording: kept, Analysis: proving.Analyse(tracks, judgedEngine(engine))}
	var places []proving.Place
	for _, t := range tracks {
		p.Tracks = append(p.Tracks, t)
		p.Gaps = max(p.Gaps, len(t.Breaks()))
		if n := t.Len(); n > 0 {
			p.Length = max(p.Length, t.Seconds[n-1])
		}
		places = append(places, t.Place)
	}
	p.Limits = alarmLines(engine, places)
	return p, nil
}

// jobOn gives a job as its entries make it, and the engine that it is on.
func (a *App) jobOn(ctx context.Context, job string) (*eventlog.Job, store.Engine, error) {
	r := a.store.Read(ctx)
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: job})
	if err != nil {
		return nil, store.Engine{}, err
	}
	j, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return nil, store.Engine{}, notFound("job", job)
	}
	engine, _, err := r.Engine(j.EngineID)
	return j, engine, err
}

// tracks gives a recording's tracks: as they are taken while it goes on, else from the store.
func (a *App) tracks(r *store.Reader, id string) ([]proving.Track, error) {
	if t, ok := a.recorder.tracks(id); ok {
		return t, nil
	}
	return r.Tracks(id)
}

func judgedEngine(e store.Engine) proving.Engine {
	out := proving.Engine{RatingC: e.ThermostatC, RatedRPM: e.RatedRPM}
	if p, err := plant.New(PlantFacts(FactsOf(e))); err == nil {
		out.AlarmC = p.UsualAlarmC()
	}
	return out
}

// DatalogPage is what a logger's file looks like, and the places that this engine has for its columns.
type DatalogPage struct {
	datalog.Preview
	Places []proving.Place
}

// PreviewDatalog looks at a logger's file for an engine; it keeps nothing.
func (a *App) PreviewDatalog(ctx context.Context, engine string, raw []byte) (*DatalogPage, error) {
	e, ok, err := a.store.Read(ctx).Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, notFound("engine", engine)
	}
	f, err := datalog.Read(raw)
	if err != nil {
		return nil, err
	}
	places := eventlog.Places(a.Catalogue, FactsOf(e))
	return &DatalogPage{f.Preview(places), places}, nil
}

// ImportDatalog takes a logger's file into a job as a recording, by a mapping of its columns.
func (a *App) ImportDatalog(ctx context.Context, job string, s Stamp, id, name string, raw []byte, m datalog.Mapping) (*JobPage, error) {
	f, err := datalog.Read(raw)
	if err != nil {
		return nil, err
	}
	taken, err := f.Take(m)
	if err != nil {
		return nil, err
	}
	hash := sha256.Sum256(raw)
	r := &eventlog.Recording{ID: id, Do: eventlog.RecordingWhole, Source: eventlog.FromFile, Name: strings.TrimSpace(name), Rows: taken.Rows, Hash: hex.EncodeToString(hash[:]), Tracks: taken.Tracks}
	for _, d := range taken.Dropped {
		r.Left = append(r.Left, eventlog.LeftOut{Why: d.Why, Count: d.Count, Line: d.Line})
	}
	for _, t := range taken.Tracks {
		if n := t.Len(); n > 0 {
			r.Places = append(r.Places, t.Place)
			r.Seconds = max(r.Seconds, t.Seconds[n-1])
			r.Hours = max(r.Hours, meterOf(t))
		}
	}
	return a.NoteInJob(ctx, job, eventlog.Recorded, s, eventlog.Body{Recording: r})
}

// complete fills in what the program itself knows of an entry: how long a recording that ends was, what it shows, what a
// run comes to.
func (a *App) complete(ctx context.Context, job string, body *eventlog.Body) error {
	if r := body.Recording; r != nil && r.Do == eventlog.RecordingEnded {
		return a.measure(ctx, r)
	}
	act := body.Proving
	if act == nil || act.Check() != nil { // what is wrong with it is told when it is kept
		return nil
	}
	j, engine, err := a.jobOn(ctx, job)
	if err != nil {
		return err
	}
	switch act.Do {
	case proving.WarmUp:
		r, err := a.Recording(ctx, job, act.Warmed.Recording)
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
			wrong.Add("proving.do", act.Do, "every stage done or excused", "the run is not finished: do what is still open, excuse it with a reason, or end the run without a verdict")
			return wrong
		}
	case proving.Loaded:
		if open, ok := j.Open(); ok && act.Minutes == 0 && act.TopRPM == 0 {
			r, err := a.Recording(ctx, job, open.ID)
			if err != nil {
				return err
			}
			if r.Analysis.CruiseMinutes != nil {
				act.Minutes, act.TopRPM = *r.Analysis.CruiseMinutes, *r.Analysis.TopRPM
			}
		}
	}
	for _, t := range act.Findings(engine.RatedRPM) {
		if _, ok := a.Catalogue.Finding(t.Finding); ok {
			body.Stated = append(body.Stated, stateOf(t))
		}
	}
	return nil
}

// measure fills in how much was read in a recording that is to end.
func (a *App) measure(ctx context.Context, r *eventlog.Recording) error {
	tracks, err := a.tracks(a.store.Read(ctx), r.ID)
	if err != nil {
		return err
	}
	for _, t := range tracks {
		if n := t.Len(); n > 0 {
			r.Places, r.Rows, r.Seconds = append(r.Places, t.Place), max(r.Rows, n), max(r.Seconds, t.Seconds[n-1])
			r.Hours = max(r.Hours, meterOf(t))
		}
	}
	return nil
}

// meterOf is what the hour meter showed at the end of a track, to a tenth; 0 where it is another place's.
func meterOf(t proving.Track) float64 {
	if t.Station != "hours" || t.Len() == 0 {
		return 0
	}
	return math.Round(10*t.Values[t.Len()-1]) / 10
}

func stateOf(t proving.FindingLikelihood) eventlog.Stated {
	q := t.Q
	return eventlog.Stated{ID: t.Finding, State: map[bool]string{true: eventlog.Present, false: eventlog.Absent}[q > 0.5], Q: &q}
}
