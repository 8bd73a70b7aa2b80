package app

import (
	"context"
	"fmt"
	"time"

	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
	"hevrin/store"
)

// What an engine's readings are held against.
const (
	ByType     = "type"
	ByBaseline = "baseline"
	ByTwin     = "twin"
)

// Comparison is what an engine's readings are held against: her type, her own healthy rounds, or her twin's of the same day.
type Comparison struct {
	Kind   string
	Name   string // of the twin
	At     time.Time
	Rounds []eventlog.Round
}

// left is the part of the spread between engines that stays open against a standard.
func (s Comparison) left() float64 {
	if s.Kind == ByTwin {
		return plant.LeftByTwin
	}
	return plant.LeftByBaseline
}

// fittedPlant is the plant of an engine, fitted to her baseline, or else to her twin's rounds, or else of her type.
func fittedPlant(e store.Engine, twin *Comparison) (plant.Plant, Comparison, error) {
	p, err := plant.New(PlantFacts(FactsOf(e)))
	if err != nil {
		return p, Comparison{}, err
	}
	s := Comparison{Kind: ByType}
	switch {
	case e.Baseline != nil:
		s = Comparison{Kind: ByBaseline, At: e.Baseline.From.At, Rounds: e.Baseline.Rounds}
	case twin != nil && looksWell(p, twin.Rounds):
		s = *twin
	default:
		return p, s, nil
	}
	fitted, err := p.Calibrated(roundsOf(s.Rounds), s.left())
	if err != nil { // her facts were changed since: the standard no longer fits
		return p, Comparison{Kind: ByType}, nil //nolint:nilerr // her type serves
	}
	return fitted, s, nil
}

func roundsOf(list []eventlog.Round) []plant.Round {
	out := make([]plant.Round, len(list))
	for i, r := range list {
		out[i] = RoundOf(r)
	}
	return out
}

// looksWell says whether rounds lean to no fault at all.
func looksWell(p plant.Plant, rounds []eventlog.Round) bool {
	report, err := p.Judge(roundsOf(rounds))
	return err == nil && (len(report.Patterns) == 0 || report.Patterns[0].Ratio < plant.SaysLeaning)
}

// sameDay is how far apart in time two engines' rounds may lie to be of one day, and recentJobs how many of the twin's
// jobs are looked through for them.
const (
	sameDay    = 24 * time.Hour
	recentJobs = 3
)

// twinOf finds the rounds that another engine of the craft, alike in family, fuel, power and speed, gave about a time.
func (a *App) twinOf(r *store.Reader, e store.Engine, at time.Time) (*Comparison, error) {
	engines, err := r.Engines(e.CraftID)
	if err != nil {
		return nil, err
	}
	for _, t := range engines {
		if t.ID == e.ID || t.Family != e.Family || t.Fuel != e.Fuel || t.RatedKW != e.RatedKW || t.RatedRPM != e.RatedRPM {
			continue
		}
		jobs, err := r.Jobs(t.ID)
		if err != nil {
			return nil, err
		}
		for _, j := range jobs[:min(len(jobs), recentJobs)] {
			entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: j.ID})
			if err != nil {
				return nil, err
			}
			if s := roundsNear(a, entries, at); s != nil {
				s.Name = t.Name
				return s, nil
			}
		}
	}
	return nil, nil //nolint:nilnil // no twin is no error
}

func roundsNear(a *App, entries []eventlog.Entry, at time.Time) *Comparison {
	job, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return nil
	}
	s := &Comparison{Kind: ByTwin}
	for _, r := range job.Rounds {
		if off := r.From.At.Sub(at); off < sameDay && off > -sameDay {
			s.At = r.From.At
			s.Rounds = append(s.Rounds, r.Round)
		}
	}
	if len(s.Rounds) == 0 {
		return nil
	}
	return s
}

// SaveBaseline makes rounds of a job the engine's own standard. Rounds that look like a fault need words why she is well all
// the same.
func (a *App) SaveBaseline(ctx context.Context, engine string, s Stamp, job string, rounds []string, words string) (*EnginePage, error) {
	page, err := a.Job(ctx, job)
	if err != nil {
		return nil, err
	}
	var wrong validation.Errors
	if page.Engine.ID != engine {
		wrong.Add("job_id", job, "a job on this engine", "that job is on another engine")
		return nil, wrong
	}
	b := eventlog.Baseline{JobID: job}
	for i, id := range rounds {
		n := len(b.Rounds)
		for _, r := range page.Job.Rounds {
			if r.From.Entry == id {
				b.Rounds = append(b.Rounds, r.Round)
			}
		}
		if len(b.Rounds) == n {
			wrong.Add(fmt.Sprintf("rounds[%d]", i), id, "a round of the job that stands", "there is no such round: it may have been taken back")
		}
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	p, err := plant.New(PlantFacts(FactsOf(page.Engine)))
	if err != nil {
		return nil, Under("engine", err)
	}
	if words == "" {
		if err := p.CheckHealthy(roundsOf(b.Rounds)); err != nil {
			return nil, err
		}
	}
	e := a.entry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: engine}, eventlog.BaselineSet, eventlog.Body{Baseline: &b, Words: words})
	if err := a.write(ctx, e, func(*store.Tx, []eventlog.Entry) error { return nil }); err != nil {
		return nil, err
	}
	return a.Engine(ctx, engine)
}
