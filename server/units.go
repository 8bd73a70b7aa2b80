package server

import (
	"github.com/labstack/echo/v5"

	"hevrin/core/units"
	"hevrin/handlers"
)

// inUnits notes the reader's units.
func inUnits(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		system := units.System(r.URL.Query().Get("units"))
		if system == "" {
			system = units.System(r.Header.Get(handlers.UnitsHeader))
		}
		c.SetRequest(r.WithContext(handlers.WithUnits(r.Context(), system)))
		c.Response().Header().Add("Vary", handlers.UnitsHeader)
		return next(c)
	}
}
