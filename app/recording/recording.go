package recording

import (
	"context"
	"math"

	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
)

// RecordingPage is a recording with what was read, and what it shows.
type RecordingPage struct {
	eventlog.StoredRecording
	Tracks   []proving.Track
	Analysis proving.Analysis
	Limits   []readings.AlarmLine
	Gaps     int
	Length   float64 // s
}

// Recording gives a recording of a job.
func (a *Recordings) Recording(ctx context.Context, job, id string) (*RecordingPage, error) {
	j, engine, err := a.JobOn(ctx, job)
	if err != nil {
		return nil, err
	}
	kept, ok := j.Recording(id)
	if !ok {
		return nil, record.NotFound("recording", id)
	}
	tracks, err := a.tracks(a.Store.Read(ctx), id)
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
	p.Limits = readings.AlarmLines(engine, places)
	return p, nil
}

// JobOn gives a job as its entries make it, and the engine that it is on.
func (a *Recordings) JobOn(ctx context.Context, job string) (*eventlog.Job, record.Engine, error) {
	r := a.Store.Read(ctx)
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: job})
	if err != nil {
		return nil, record.Engine{}, err
	}
	j, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return nil, record.Engine{}, record.NotFound("job", job)
	}
	engine, _, err := r.Engine(j.EngineID)
	return j, engine, err
}

// tracks gives a recording's tracks: as they are taken while it goes on, else from the store.
func (a *Recordings) tracks(r record.Reader, id string) ([]proving.Track, error) {
	if t, ok := a.running(id); ok {
		return t, nil
	}
	return r.Tracks(id)
}

func judgedEngine(e record.Engine) proving.Engine {
	out := proving.Engine{RatingC: e.ThermostatC, RatedRPM: e.RatedRPM}
	if p, err := plant.New(readings.PlantFacts(record.FactsOf(e))); err == nil {
		out.AlarmC = p.AlarmC
	}
	return out
}

// DatalogPage is what a logger's file looks like, and the places that this engine has for its columns.
type DatalogPage struct {
	datalog.Preview
	Places []proving.Place
}

// PreviewDatalog looks at a logger's file for an engine; it keeps nothing.
func (a *Recordings) PreviewDatalog(ctx context.Context, engine string, raw []byte) (*DatalogPage, error) {
	e, ok, err := a.Store.Read(ctx).Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", engine)
	}
	f, err := datalog.Read(raw)
	if err != nil {
		return nil, err
	}
	places := eventlog.Places(a.Catalogue, record.FactsOf(e))
	return &DatalogPage{f.Preview(places), places}, nil
}

// Measure fills in how much was read in a recording that is to end.
func (a *Recordings) Measure(ctx context.Context, r *eventlog.Recording) error {
	tracks, err := a.tracks(a.Store.Read(ctx), r.ID)
	if err != nil {
		return err
	}
	for _, t := range tracks {
		if n := t.Len(); n > 0 {
			r.Places, r.Rows, r.Seconds = append(r.Places, t.Place), max(r.Rows, n), max(r.Seconds, t.Seconds[n-1])
			r.Hours = max(r.Hours, MeterOf(t))
		}
	}
	return nil
}

// MeterOf is what the hour meter showed at the end of a track, to a tenth; 0 where it is another place's.
func MeterOf(t proving.Track) float64 {
	if t.Station != "hours" || t.Len() == 0 {
		return 0
	}
	return math.Round(10*t.Values[t.Len()-1]) / 10
}
