package server

import (
	"context"
	"slices"

	"github.com/labstack/echo/v5"

	"hevrin/core/units"
)

// unitsHeader is the header in which a reader says in whose units the sentences of every answer are to speak; the query
// parameter units of some routes goes before it.
const unitsHeader = "Hevrin-Units"

type systemKey struct{}

// inUnits notes the reader's units.
func inUnits(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		system := units.System(r.URL.Query().Get("units"))
		if system == "" {
			system = units.System(r.Header.Get(unitsHeader))
		}
		if slices.Contains(units.Systems, system) {
			c.SetRequest(r.WithContext(context.WithValue(r.Context(), systemKey{}, system)))
		}
		c.Response().Header().Add("Vary", unitsHeader)
		return next(c)
	}
}

// systemIn is the system in which the sentences of an answer speak: the metric one where nobody said.
func systemIn(ctx context.Context) units.System {
	if system, ok := ctx.Value(systemKey{}).(units.System); ok {
		return system
	}
	return units.Metric
}

// said puts sentences into words.
func said(system units.System, list []units.Sentence) []string {
	return each(list, func(s units.Sentence) string { return s.In(system) })
}
