package readings

import (
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
)

// What an engine's readings are held against.
const (
	ByType     = "type"
	ByBaseline = "baseline"
	ByTwin     = "twin"
)

// Comparison is what an engine's readings are held against: its type, its own healthy rounds, or its sister's of the
// same day.
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

// FittedPlant is the plant of an engine, fitted to its baseline, or else to its sister's rounds, or else of its type.
func FittedPlant(e record.Engine, twin *Comparison) (plant.Plant, Comparison, error) {
	p, err := plant.New(PlantFacts(record.FactsOf(e)))
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
	fitted, err := p.Calibrated(RoundsOf(s.Rounds), s.left())
	if err != nil { // its facts were changed since: the standard no longer fits
		return p, Comparison{Kind: ByType}, nil //nolint:nilerr // its type serves
	}
	return fitted, s, nil
}

// RoundsOf gives saved rounds as the model takes them.
func RoundsOf(list []eventlog.Round) []plant.Round {
	out := make([]plant.Round, len(list))
	for i, r := range list {
		out[i] = RoundOf(r)
	}
	return out
}

// looksWell says whether rounds lean to no fault at all.
func looksWell(p plant.Plant, rounds []eventlog.Round) bool {
	report, err := p.Judge(RoundsOf(rounds))
	return err == nil && len(report.Unsettled) == 0 &&
		(len(report.Patterns) == 0 || report.Patterns[0].Ratio < plant.SaysLeaning)
}

// sameDay is how far apart in time two engines' rounds may lie to be of one day, and recentJobs how many of the twin's
// jobs are looked through for them.
const (
	sameDay    = 24 * time.Hour
	recentJobs = 3
)

// TwinOf finds the rounds that another engine of the craft (beside are all of them), alike in family, fuel, power and
// speed, gave about a time.
func (a *Models) TwinOf(r record.Reader, e record.Engine, beside []record.Engine, at time.Time) (*Comparison, error) {
	for _, t := range beside {
		if t.ID == e.ID || t.Family != e.Family || t.Fuel != e.Fuel || t.RatedKW != e.RatedKW || t.RatedRPM != e.RatedRPM {
			continue
		}
		jobs, err := r.Jobs(t.ID)
		if err != nil {
			return nil, err
		}
		for _, j := range jobs[:min(len(jobs), recentJobs)] {
			entries, _, err := a.Entries(r, eventlog.Subject{Kind: eventlog.OfJob, ID: j.ID})
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

func roundsNear(a *Models, entries []eventlog.Entry, at time.Time) *Comparison {
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

// Words says what an engine is held against.
func (s Comparison) Words() string {
	switch s.Kind {
	case ByBaseline:
		return "its own healthy baseline of " + s.At.Format("2 January 2006")
	case ByTwin:
		return s.Name + ", its sister"
	}
	return "a typical engine of this kind"
}
