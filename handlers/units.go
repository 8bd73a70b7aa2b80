package handlers

import (
	"context"
	"slices"

	"hevrin/api"
	"hevrin/core/units"
)

// UnitsHeader is the header in which a reader says in whose units the sentences of every answer are to speak; the query
// parameter units of some routes goes before it.
const UnitsHeader = "Hevrin-Units"

type systemKey struct{}

// WithUnits notes in whose units a reader reads; a system that is not known changes nothing.
func WithUnits(ctx context.Context, system units.System) context.Context {
	if !slices.Contains(units.Systems, system) {
		return ctx
	}
	return context.WithValue(ctx, systemKey{}, system)
}

// SystemIn is the system in which the sentences of an answer speak: the metric one where nobody said.
func SystemIn(ctx context.Context) units.System {
	if system, ok := ctx.Value(systemKey{}).(units.System); ok {
		return system
	}
	return units.Metric
}

// Said puts sentences into words.
func Said(system units.System, list []units.Sentence) []string {
	return api.Each(list, func(s units.Sentence) string { return s.In(system) })
}
