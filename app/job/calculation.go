package job

import (
	"encoding/json"
	"errors"
	"fmt"

	"hevrin/app/record"
	"hevrin/core/calculator"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Work answers a calculator; it keeps nothing.
func Work(name string, given map[string]any, system units.System) (*calculator.Calculator, calculator.Answer, error) {
	s, ok := calculator.Find(name)
	if !ok {
		return nil, calculator.Answer{}, fmt.Errorf("there is no calculator %q: GET /calc lists them: %w", name,
			record.ErrNotFound)
	}
	a, err := s.Compute(given, system)
	return s, a, err
}

// computed fills in what a calculator to be kept comes to. What does not fit is told by the path within the entry.
func computed(asked *eventlog.Calculation) (*eventlog.Calculation, error) {
	s, a, err := Work(asked.Name, asked.Given, units.System(asked.Units))
	var wrong validation.Errors
	switch {
	case errors.As(err, &wrong):
		for _, w := range wrong {
			w.Field = "sum.given." + w.Field
		}
		return nil, wrong
	case errors.Is(err, record.ErrNotFound):
		wrong.Add("sum.name", asked.Name, "a calculator that GET /calc lists", "there is no calculator %q", asked.Name)
		return nil, wrong
	case err != nil:
		return nil, err
	}
	out := *asked
	out.Asks = s.Asks
	for _, f := range s.Figures(a) {
		out.Figures = append(out.Figures, eventlog.Figure(f))
	}
	return &out, nil
}

// potCalculator is the calculator whose verdict settles findings.
const potCalculator = "thermostat-pot"

// settledBy are the findings that a kept calculator settles: the pot test's, by its verdict.
func settledBy(asked *eventlog.Calculation) []eventlog.Stated {
	if asked.Name != potCalculator {
		return nil
	}
	_, a, err := Work(asked.Name, asked.Given, units.System(asked.Units))
	if err != nil {
		return nil
	}
	raw, err := json.Marshal(a.Result)
	if err != nil {
		return nil
	}
	var is struct {
		Verdict string `json:"verdict"`
	}
	if err := json.Unmarshal(raw, &is); err != nil {
		return nil
	}
	return potStated(is.Verdict)
}
