package server

import (
	"context"
	"net"
	"net/http"
	"net/netip"
	"os"

	"github.com/labstack/echo/v5"
)

// othersKey marks what comes over a connection of another account of this machine.
type othersKey struct{}

// withAccount notes, where that is known, that a connection is another account's. Alone nobody signs in: whoever has
// an account on the same machine could read and change the whole record otherwise.
func withAccount(ctx context.Context, c net.Conn) context.Context {
	remote, err := netip.ParseAddrPort(c.RemoteAddr().String())
	if err != nil {
		return ctx
	}
	if uid, ok := accountOf(remote); ok && uid != os.Getuid() {
		return context.WithValue(ctx, othersKey{}, true)
	}
	return ctx
}

// ownAccount refuses what comes from another account.
func ownAccount(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if c.Request().Context().Value(othersKey{}) != nil {
			return echo.NewHTTPError(http.StatusForbidden, "this Hevrin belongs to another account of this machine: start "+
				"your own, or let people in with hevrin setup, each under their own name")
		}
		return next(c)
	}
}
