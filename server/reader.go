package server

import (
	"time"

	"github.com/labstack/echo/v5"

	"hevrin/core/units"
	"hevrin/handlers"
)

// asTheReader notes the reader's units and how far their clock is off.
func asTheReader(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		system := units.System(r.URL.Query().Get("units"))
		if system == "" {
			system = units.System(r.Header.Get(handlers.UnitsHeader))
		}
		ctx := handlers.WithUnits(r.Context(), system)
		if sent, err := time.Parse(time.RFC3339, r.Header.Get(handlers.SentHeader)); err == nil {
			ctx = handlers.SentAt(ctx, sent, time.Now())
		}
		c.SetRequest(r.WithContext(ctx))
		c.Response().Header().Add("Vary", handlers.UnitsHeader)
		return next(c)
	}
}
