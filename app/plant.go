package app

import (
	"errors"
	"fmt"
	"strings"

	"hevrin/core/input"
	"hevrin/core/plant"
)

// Shoulds lists what a healthy engine reads at every station, with the spread of healthy engines.
func Shoulds(k plant.Known, op plant.Operation) ([]plant.Should, error) {
	p, err := plant.New(k)
	if err != nil {
		return nil, under("engine", err)
	}
	list, err := p.Shoulds(op, false)
	return list, under("operation", err)
}

// Phase is a stretch of a run with the faults of that stretch.
type Phase struct {
	UntilS    float64
	Operation plant.Operation
	Faults    []plant.Fault
}

// Steady is what an engine with these faults should read at rest; it keeps nothing.
func Steady(k plant.Known, op plant.Operation, faults []plant.Fault) (plant.State, error) {
	p, err := plant.New(k)
	if err != nil {
		return plant.State{}, under("engine", err)
	}
	h, err := plant.Ail(faults...)
	if err != nil {
		return plant.State{}, err
	}
	s, err := p.Steady(op, h)
	return s, under("operation", err)
}

// Transient follows an engine through phases; without a start in °C it begins at rest in the first.
func Transient(k plant.Known, startC *float64, phases []Phase, everyS float64) ([]plant.Moment, error) {
	p, err := plant.New(k)
	if err != nil {
		return nil, under("engine", err)
	}
	list := make([]plant.Phase, len(phases))
	for i, ph := range phases {
		at := fmt.Sprintf("phases[%d]", i)
		if i > 0 && ph.UntilS <= phases[i-1].UntilS {
			var wrong input.Errors
			wrong.Add(at+".until_s", ph.UntilS, fmt.Sprintf("over %g s", phases[i-1].UntilS), "each phase ends after the one before")
			return nil, wrong
		}
		h, err := plant.Ail(ph.Faults...)
		if err == nil {
			err = under("operation", p.Check(ph.Operation))
		}
		if err != nil {
			return nil, under(at, err)
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
func Judge(k plant.Known, rounds []plant.Round, fitted bool) (plant.HealthReport, error) {
	p, err := plant.New(k)
	if err != nil {
		return plant.HealthReport{}, under("engine", err)
	}
	return p.Judge(rounds, fitted)
}

// renamed puts the fields of an error, where they begin so, under another name.
func renamed(err error, from, to string) error {
	var wrong input.Errors
	if errors.As(err, &wrong) {
		for _, w := range wrong {
			if rest, ok := strings.CutPrefix(w.Field, from); ok {
				w.Field = to + rest
			}
		}
	}
	return err
}

// under puts the fields of an error under a part of the question.
func under(part string, err error) error {
	var wrong input.Errors
	if errors.As(err, &wrong) {
		for _, w := range wrong {
			w.Field = part + "." + w.Field
		}
	}
	return err
}
