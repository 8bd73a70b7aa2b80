package readings

import (
	"fmt"
	"math"

	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// PlantQuestion is an engine as a question about it gives it: what is known, and the healthy rounds that it is held
// against.
type PlantQuestion struct {
	Engine plant.EngineFacts
	By     string // ByType, ByBaseline, ByTwin
	Rounds []plant.Round
	Fitted bool // the facts are fitted to its already
}

func (a PlantQuestion) plant() (plant.Plant, error) {
	p, err := plant.New(a.Engine)
	if err != nil {
		return p, validation.Under("engine", err)
	}
	if a.Fitted {
		return p.AsFitted(), nil
	}
	if len(a.Rounds) == 0 {
		return p, nil
	}
	p, err = p.Calibrated(a.Rounds, Comparison{Kind: a.By}.left())
	return p, validation.Renamed(err, "rounds", "engine.standard.rounds")
}

// Shoulds lists what a healthy engine reads at every station, with the spread of healthy engines, and what the round of
// its standard comes to there.
func Shoulds(a PlantQuestion, op plant.Operation) (list []plant.Should, standard []plant.Read, err error) {
	p, err := a.plant()
	if err != nil {
		return nil, nil, err
	}
	if list, err = p.Shoulds(op); err != nil {
		return nil, nil, validation.Under("operation", err)
	}
	nearest := math.Inf(1)
	for _, r := range a.Rounds {
		if off := math.Abs(r.Operation.RPM - op.RPM); off < nearest {
			nearest = off
			if standard, err = p.Carried(r, op); err != nil {
				return nil, nil, err
			}
		}
	}
	return list, standard, nil
}

// Facts lists the figures that the model takes for an engine, with where each comes from.
func Facts(a PlantQuestion) ([]plant.Fact, error) {
	p, err := a.plant()
	if err != nil {
		return nil, err
	}
	return p.Facts(a.Engine), nil
}

// Phase is a stretch of a run with the faults of that stretch.
type Phase struct {
	UntilS    float64
	Operation plant.Operation
	Faults    []plant.Fault
}

// Steady is what an engine with these faults should read at rest; it keeps nothing.
func Steady(a PlantQuestion, op plant.Operation, faults []plant.Fault) (plant.State, error) {
	p, err := a.plant()
	if err != nil {
		return plant.State{}, err
	}
	h, err := plant.Ail(faults...)
	if err != nil {
		return plant.State{}, err
	}
	s, err := p.Steady(op, h)
	return s, validation.Under("operation", err)
}

// Transient follows an engine through phases; without a start in °C it begins at rest in the first.
func Transient(a PlantQuestion, startC *float64, phases []Phase, everyS float64) ([]plant.Moment, error) {
	p, err := a.plant()
	if err != nil {
		return nil, err
	}
	list := make([]plant.Phase, len(phases))
	for i, ph := range phases {
		at := fmt.Sprintf("phases[%d]", i)
		if i > 0 && ph.UntilS <= phases[i-1].UntilS {
			var wrong validation.Errors
			wrong.Add(at+".until_s", ph.UntilS, units.Say("over %g s", phases[i-1].UntilS),
				"each phase ends after the one before")
			return nil, wrong
		}
		h, err := plant.Ail(ph.Faults...)
		if err == nil {
			err = validation.Under("operation", p.Check(ph.Operation))
		}
		if err != nil {
			return nil, validation.Under(at, err)
		}
		list[i] = plant.Phase{UntilS: ph.UntilS, Operation: ph.Operation, Health: h}
	}
	start := 0.0
	if startC != nil {
		start = *startC
	} else {
		s, err := p.Steady(list[0].Operation, list[0].Health)
		if err != nil {
			return nil, err
		}
		start = s.BlockC
	}
	return p.Follow(start, list, everyS)
}

// Judge is what rounds of readings say of an engine; it keeps nothing.
func Judge(a PlantQuestion, rounds []plant.Round) (plant.HealthReport, error) {
	p, err := a.plant()
	if err != nil {
		return plant.HealthReport{}, err
	}
	return p.Judge(rounds)
}
