package app

import (
	"errors"
	"fmt"

	"hevrin/core/input"
	"hevrin/core/quantity"
	"hevrin/core/record"
	"hevrin/core/sums"
)

// Work answers a sum; it keeps nothing.
func Work(name string, given map[string]any, system quantity.System) (*sums.Sum, sums.Answer, error) {
	s, ok := sums.Find(name)
	if !ok {
		return nil, sums.Answer{}, fmt.Errorf("there is no sum %q: GET /calc lists them: %w", name, ErrNotFound)
	}
	a, err := s.Work(given, system)
	return s, a, err
}

// workedOut fills in what a sum to be kept comes to. What does not fit is told by the path within the entry.
func workedOut(asked *record.Sum) (*record.Sum, error) {
	s, a, err := Work(asked.Name, asked.Given, quantity.System(asked.Units))
	var wrong input.Errors
	switch {
	case errors.As(err, &wrong):
		for _, w := range wrong {
			w.Field = "sum.given." + w.Field
		}
		return nil, wrong
	case errors.Is(err, ErrNotFound):
		wrong.Add("sum.name", asked.Name, "a sum that GET /calc lists", "there is no sum %q", asked.Name)
		return nil, wrong
	case err != nil:
		return nil, err
	}
	out := *asked
	out.Asks = s.Asks
	for _, f := range s.Figures(a) {
		out.Figures = append(out.Figures, record.Figure(f))
	}
	return &out, nil
}
