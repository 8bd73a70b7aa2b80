// Package server speaks HTTP: the routes of the contract, errors as problem details, and the embedded front end. The
// handlers are thin; what happens is in app.
package server

import (
	"context"
	"crypto/tls"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"regexp"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"hevrin/api/routes"
	"hevrin/app"
	"hevrin/app/record"
	"hevrin/app/tries"
	"hevrin/handlers"
	"hevrin/web"
)

// BasePath is where the contract's routes begin.
const BasePath = "/api/v1"

// bodyLimit is more than any tap needs, and little enough that nobody fills the memory.
const bodyLimit = 1 << 20

// fileLimits are those of the addresses that take a file in base64.
var fileLimits = []struct {
	path  *regexp.Regexp
	limit int64
}{
	{regexp.MustCompile(`^` + BasePath + `/(engines/[^/]+/logger|jobs/[^/]+/recordings/[^/]+)$`), 35 << 20},
	{regexp.MustCompile(`^` + BasePath + `/bundles$`), 65 << 20},
	{regexp.MustCompile(`^` + BasePath + `/lists/`), 9 << 20},
}

func limitBody(next echo.HandlerFunc) echo.HandlerFunc {
	usual := middleware.BodyLimit(bodyLimit)(next)
	files := make([]echo.HandlerFunc, len(fileLimits))
	for i, f := range fileLimits {
		files[i] = middleware.BodyLimit(f.limit)(next)
	}
	return func(c *echo.Context) error {
		for i, f := range fileLimits {
			if f.path.MatchString(c.Request().URL.Path) {
				return files[i](c)
			}
		}
		return usual(c)
	}
}

// Config is what a server is made of. App is needed; without a Supplier nothing can be ordered, without a Place no
// backup is made.
type Config struct {
	App      *app.App
	Supplier handlers.Supplier
	Place    record.Place
	Version  string // as /health gives it
	// Tries keeps what was practised; nil: while the program runs.
	Tries tries.Store
	// Yard lets people in from other machines, who sign in; nil: this machine only, and nobody signs in.
	Yard *Yard
	// SetUp lets people in from other machines, from the next start on; empty: that is not done from here.
	SetUp SetUp
	// MostPerSecond is how many requests of one client are answered in a second, after a burst of as many as in five; 0:
	// any.
	MostPerSecond int
}

// New makes the server of an app.
func New(c Config) (*echo.Echo, error) {
	from, err := c.Yard.extractor()
	if err != nil {
		return nil, err
	}
	e := echo.NewWithConfig(echo.Config{
		Logger:           slog.Default(),
		HTTPErrorHandler: answerProblem,
		IPExtractor:      from,
	})
	var g *guard
	if c.Yard != nil {
		if g, err = newGuard(*c.Yard); err != nil {
			return nil, err
		}
	}
	contract, err := followContract(g)
	if err != nil {
		return nil, err
	}
	e.Use(requestLog(), middleware.Recover(), inPieces(patience))
	if c.MostPerSecond > 0 {
		e.Use(atMost(c.MostPerSecond))
	}
	if g == nil {
		e.Use(ownAccount, localOnly, safeHeaders, asTheReader, limitBody, keepNone, compact, contract)
	} else {
		e.Use(g.yardOnly, safeHeaders, asTheReader, limitBody, keepNone, compact, g.session, contract)
	}
	routes.RegisterHandlersWithBaseURL(e, routes.NewStrictHandler(newOperations(c, g), nil), BasePath)
	if g != nil && len(c.Yard.Authority) > 0 {
		e.GET(AuthorityPath, giveAuthority(c.Yard.Authority))
	}
	serveFrontEnd(e, web.Dist())
	return e, nil
}

// atMost answers 429 to a client that asks for more than so much in a second, and says when to ask again. What waits in
// a device's outbox stays there meanwhile.
func atMost(perSecond int) echo.MiddlewareFunc {
	return middleware.RateLimiterWithConfig(middleware.RateLimiterConfig{
		Store: middleware.NewRateLimiterMemoryStoreWithConfig(middleware.RateLimiterMemoryStoreConfig{
			Rate: float64(perSecond), Burst: 5 * perSecond, ExpiresIn: 3 * time.Minute}),
		IdentifierExtractor: func(c *echo.Context) (string, error) { return c.RealIP(), nil },
		DenyHandler: func(c *echo.Context, _ string, _ error) error {
			c.Response().Header().Set("Retry-After", "1")
			return echo.NewHTTPError(http.StatusTooManyRequests, "this device asks for too much at once: wait a second")
		},
	})
}

// CollectAt is how much the memory in use may grow, in percent, before what is unused is collected. The program holds
// little, so that it would collect for every few answers; with this it takes some tens of MB more and a fifth less
// time.
const CollectAt = 400

// MemoryLimit is how many bytes the program tries to keep within: near it what is unused is collected sooner. Many
// pictures at once come near it, nothing else does.
const MemoryLimit = 400 << 20

// Serve listens on this machine alone until the context ends, then lets running requests finish. ready is told the
// address.
func Serve(ctx context.Context, address string, h http.Handler, ready func(net.Addr)) error {
	if err := CheckLoopback(address); err != nil {
		return err
	}
	return serve(ctx, address, nil, nil, h, ready)
}

// ServeYard is Serve for a yard's network: over TLS, or, behind a proxy, without. Of one address few connections are
// taken at once, but of a proxy's.
func ServeYard(ctx context.Context, address string, secret *tls.Config, proxy func(address string) bool, h http.Handler,
	ready func(net.Addr)) error {
	return serve(ctx, address, secret, proxy, h, ready)
}

// serve listens. free are the addresses that many come by; nil: alone, where one account of this machine is let in.
func serve(ctx context.Context, address string, secret *tls.Config, free func(string) bool, h http.Handler,
	ready func(net.Addr)) error {
	listener, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w", address, err)
	}
	alone := free == nil
	if alone {
		free = func(string) bool { return false }
	}
	listener = newBounded(listener, free)
	if secret != nil {
		secret = secret.Clone()
		secret.NextProtos = []string{"h2", "http/1.1"}
		listener = tls.NewListener(listener, secret)
	}
	start := echo.StartConfig{Listener: listener, HideBanner: true, HidePort: true, ListenerAddrFunc: ready,
		GracefulTimeout: 10 * time.Second,
		BeforeServeFunc: func(s *http.Server) error {
			s.TLSConfig = secret // so that HTTP/2 is spoken
			s.ReadHeaderTimeout, s.ReadTimeout, s.IdleTimeout = 5*time.Second, 30*time.Second, 2*time.Minute
			s.WriteTimeout = patience // of what no handler writes; see inPieces
			s.HTTP2 = &http.HTTP2Config{MaxConcurrentStreams: mostStreams}
			if alone {
				s.ConnContext = withAccount
			}
			s.BaseContext = func(net.Listener) context.Context { return withStopping(context.Background(), ctx) }
			return nil
		}}
	return start.Start(ctx, h)
}

// CheckLoopback refuses every address that other machines could reach: nobody signs in there.
func CheckLoopback(address string) error {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return fmt.Errorf("the address %q is not host:port, as in 127.0.0.1:8420", address)
	}
	if host == "localhost" {
		return nil
	}
	if ip := net.ParseIP(host); ip != nil && ip.IsLoopback() {
		return nil
	}
	return fmt.Errorf("the address %q could be reached from other machines, and nobody signs in there: use 127.0.0.1, or "+
		"let people in with hevrin setup, then hevrin serve --listen %s", address, address)
}

func requestLog() echo.MiddlewareFunc {
	return middleware.RequestLoggerWithConfig(middleware.RequestLoggerConfig{
		LogMethod: true, LogURIPath: true, LogStatus: true, LogLatency: true, HandleError: true,
		LogValuesFunc: func(c *echo.Context, v middleware.RequestLoggerValues) error {
			level := slog.LevelDebug
			if v.Status >= http.StatusInternalServerError {
				level = slog.LevelError
			}
			slog.LogAttrs(c.Request().Context(), level, "request", slog.String("method", v.Method), slog.String("path",
				v.URIPath),
				slog.Int("status", v.Status), slog.Duration("took", v.Latency), slog.Any("error", v.Error))
			return nil
		},
	})
}

// localOnly refuses requests that name another host, as a page of another site does that points its own name at this
// machine, and whatever another site's page asks of the
// contract's routes.
func localOnly(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		host := r.Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
			return echo.NewHTTPError(http.StatusForbidden, "open Hevrin at localhost or 127.0.0.1: it answers to no other name")
		}
		// another site's page may lead here by a link, and nothing else: it is not to read, to write, or to let work be done
		api := strings.HasPrefix(r.URL.Path, BasePath)
		if site := r.Header.Get("Sec-Fetch-Site"); api && site != "" && site != "same-origin" && site != "none" {
			return echo.NewHTTPError(http.StatusForbidden, "this was asked from another site's page: nothing was done")
		}
		return next(c)
	}
}

func safeHeaders(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Content-Security-Policy",
			"default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; "+
				"img-src 'self' data: blob:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Permissions-Policy", "camera=(self), microphone=(), geolocation=(), payment=(), usb=()")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		return next(c)
	}
}
