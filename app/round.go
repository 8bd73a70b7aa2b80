package app

import (
	"fmt"
	"math"

	"hevrin/core/plant"
	"hevrin/core/record"
	"hevrin/core/trade"
)

// RoundRead is a round with what a healthy engine reads at its operation.
type RoundRead struct {
	record.RoundMade
	Should []plant.Should
}

func knownOf(e record.EngineFacts) plant.Known {
	return plant.Known{Family: e.Family, Fuel: plant.Fuel(e.Fuel), RatedKW: e.RatedKW, RatedRPM: e.RatedRPM, ThermostatC: e.ThermostatC, Circuit: e.Circuit}
}

func roundOf(r record.Round) plant.Round {
	out := plant.Round{Operation: plant.Operation{RPM: r.RPM, Load: r.Load, SeaC: r.SeaC, Salinity: r.Salinity, SpaceC: r.SpaceC}}
	for _, x := range r.Readings {
		out.Reads = append(out.Reads, plant.Read{Station: x.Station, Side: x.Side, Value: x.Value, Error: x.Error})
	}
	return out
}

// checkRound refuses a round that the model of this engine cannot take, by the field within the entry.
func checkRound(e record.EngineFacts, r record.Round) error {
	p, err := plant.New(knownOf(e))
	if err != nil {
		return under("round.engine", err)
	}
	_, err = p.Judge([]plant.Round{roundOf(r)}, false)
	return renamed(err, "rounds[0].", "round.")
}

// unsure is the ratio either side of 1 within which a reading says nothing worth noting.
const unsure = 1.5

// surest bounds what readings alone may say: a slip of the thermometer is never out of the question.
const surest = 0.98

// judge takes what the job's rounds tell into its findings; nil when there are none, or the engine cannot be modelled.
func (a *App) judge(job *record.Job, e record.EngineFacts) (*plant.HealthReport, []RoundRead) {
	if len(job.Rounds) == 0 {
		return nil, nil
	}
	p, err := plant.New(knownOf(e))
	if err != nil {
		return nil, plainRounds(job)
	}
	var rounds []plant.Round
	var out []RoundRead
	for _, r := range job.Rounds {
		round := roundOf(r.Round)
		should, err := p.Shoulds(round.Operation, false)
		if err != nil {
			return nil, plainRounds(job)
		}
		rounds, out = append(rounds, round), append(out, RoundRead{r, should})
	}
	report, err := p.Judge(rounds, false)
	if err != nil { // the circuit was changed since: the rounds stand, unjudged
		return nil, plainRounds(job)
	}
	job.TakeReckoned(a.reckoned(report, len(rounds)))
	return &report, out
}

func plainRounds(job *record.Job) []RoundRead {
	out := make([]RoundRead, len(job.Rounds))
	for i, r := range job.Rounds {
		out[i] = RoundRead{RoundMade: r}
	}
	return out
}

func (a *App) reckoned(r plant.HealthReport, rounds int) []record.Reckoned {
	var list []record.Reckoned
	for _, l := range r.Findings {
		f, ok := a.Catalogue.Finding(l.ID)
		if !ok || f.Source != trade.Reading || l.Ratio < unsure && l.Ratio > 1/unsure {
			continue
		}
		q := math.Min(math.Max(l.Normalised(), 1-surest), surest)
		list = append(list, record.Reckoned{ID: l.ID, Q: q, Why: fmt.Sprintf("reckoned from %d %s of readings", rounds, map[bool]string{true: "round", false: "rounds"}[rounds == 1])})
	}
	return list
}
