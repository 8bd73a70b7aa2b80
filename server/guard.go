package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/labstack/echo/v5"

	"hevrin/app/people"
	"hevrin/app/record"
	core "hevrin/core/people"
	"hevrin/network"
)

// Yard is what a server needs to let people in from other machines: who they are, where their sessions lie, and the
// network by which they come.
type Yard struct {
	People   *people.People
	Sessions scs.Store
	Network  network.Settings
	Port     string // with its colon, as it stands in addresses; empty: that of TLS
	// Authority is the certificate of the yard's own authority, which phones must trust first; none: they trust it
	// already.
	Authority   []byte
	Fingerprint string // of it
}

// cookieName makes browsers refuse the cookie but over TLS, from this host, for all of it.
const cookieName = "__Host-hevrin"

// deviceKey is what a session holds: the device that is signed in.
const deviceKey = "device"

// guard lets in who signed in, to what their role allows.
type guard struct {
	Yard
	sessions *scs.SessionManager
	cross    *http.CrossOriginProtection
	denied   *lru.Cache[string, time.Time]
}

// mostDenied is how many refusals are remembered so that each is told in the audit log once in a while only.
const (
	mostDenied  = 1000
	toldAgainIn = 10 * time.Minute
)

func newGuard(y Yard) (*guard, error) {
	s := scs.New()
	s.Lifetime, s.HashTokenInStore, s.Store = core.LastsFor, true, y.Sessions
	s.Cookie = scs.SessionCookie{Name: cookieName, Path: "/", HttpOnly: true, Secure: true, SameSite: http.SameSiteLaxMode,
		Persist: true}
	denied, err := lru.New[string, time.Time](mostDenied)
	return &guard{y, s, http.NewCrossOriginProtection(), denied}, err
}

// addressOf is from where a request comes, as far as that is known for certain.
func addressOf(c *echo.Context) string { return c.RealIP() }

// extractor takes the address out of what the proxy says, where there is one, and out of nothing else otherwise.
func (y *Yard) extractor() (echo.IPExtractor, error) {
	if y == nil || y.Network.TLS != network.Proxy {
		return echo.ExtractIPDirect(), nil
	}
	trust := []echo.TrustOption{echo.TrustLoopback(false), echo.TrustLinkLocal(false), echo.TrustPrivateNet(false)}
	for _, p := range y.Network.Proxies {
		_, ipNet, err := net.ParseCIDR(p)
		if err != nil {
			return nil, err
		}
		trust = append(trust, echo.TrustIPRange(ipNet))
	}
	return echo.ExtractIPFromXFFHeader(trust...), nil
}

// yardOnly refuses requests under another name, past the proxy, or of another site.
func (g *guard) yardOnly(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if g.Network.TLS == network.Proxy {
			peer, _, err := net.SplitHostPort(r.RemoteAddr)
			if err != nil || !g.Network.FromProxy(peer) || r.Header.Get("X-Forwarded-Proto") != "https" {
				return echo.NewHTTPError(http.StatusForbidden, "open Hevrin by its secure address: it answers to its proxy alone")
			}
		}
		if !g.Network.Answers(r.Host) {
			return echo.NewHTTPError(http.StatusMisdirectedRequest, "Hevrin answers to no such name: use the address that "+
				"the yard's manager gave you")
		}
		if site := r.Header.Get("Sec-Fetch-Site"); strings.HasPrefix(r.URL.Path, BasePath) && site != "" &&
			site != "same-origin" && site != "none" {
			return otherSite()
		}
		if origin := r.Header.Get("Origin"); origin != "" && strings.HasPrefix(r.URL.Path, BasePath) {
			if _, host, ok := strings.Cut(origin, "://"); !ok || host != r.Host {
				return otherSite()
			}
		}
		if err := g.cross.Check(r); err != nil {
			return otherSite()
		}
		if g.Network.Forever() {
			c.Response().Header().Set("Strict-Transport-Security", "max-age=31536000")
		}
		return next(c)
	}
}

func otherSite() error {
	return echo.NewHTTPError(http.StatusForbidden, "this was asked from another site's page: nothing was done")
}

// session loads who is signed in, and keeps what of that is changed. The answer is held back meanwhile (see compact).
func (g *guard) session(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if !strings.HasPrefix(r.URL.Path, BasePath+"/") {
			return next(c)
		}
		token := ""
		if cookie, err := r.Cookie(cookieName); err == nil {
			token = cookie.Value
		}
		ctx, err := g.sessions.Load(r.Context(), token)
		if err != nil {
			return err
		}
		ctx = context.WithValue(ctx, fromKey{}, people.From{Address: addressOf(c), Label: labelOf(r.UserAgent())})
		if device := g.sessions.GetString(ctx, deviceKey); device != "" {
			who := g.People.Actor
			if byItself(r) {
				who = g.People.Look
			}
			actor, err := who(ctx, device, addressOf(c))
			switch {
			case err == nil:
				ctx = record.WithActor(ctx, actor)
			case !errors.Is(err, people.ErrSignedOut):
				return err
			}
		}
		c.SetRequest(r.WithContext(ctx))
		err = next(c)
		switch g.sessions.Status(ctx) {
		case scs.Modified:
			token, expiry, keepErr := g.sessions.Commit(ctx)
			if keepErr != nil {
				return errors.Join(err, keepErr)
			}
			g.sessions.WriteSessionCookie(ctx, c.Response(), token, expiry)
		case scs.Destroyed:
			g.sessions.WriteSessionCookie(ctx, c.Response(), "", time.Time{})
		}
		return err
	}
}

// askedByItself are the ends of addresses that pages ask for without a touch.
var askedByItself = []string{"/present", "/changes", "/health", "/session", "/devices"}

// byItself says whether a page asks for something without anybody's touch.
func byItself(r *http.Request) bool {
	return r.Header.Get("Accept") == "text/event-stream" || slices.ContainsFunc(askedByItself, func(end string) bool {
		return strings.HasSuffix(r.URL.Path, end) && (r.Method == http.MethodGet || end == "/present")
	})
}

type fromKey struct{}

// fromOf is from where somebody asks.
func fromOf(ctx context.Context) people.From {
	from, _ := ctx.Value(fromKey{}).(people.From)
	return from
}

// signedOut is the answer to who must sign in first.
func signedOut() error {
	return echo.NewHTTPError(http.StatusUnauthorized, "sign in first")
}

// admit refuses an operation to who may not do it.
func (g *guard) admit(c *echo.Context, operation string) error {
	right, known := rights[operation]
	if !known {
		return echo.NewHTTPError(http.StatusForbidden, "nobody is allowed this yet")
	}
	if right == open {
		return nil
	}
	ctx := c.Request().Context()
	actor, ok := record.ActorOf(ctx)
	if !ok {
		return signedOut()
	}
	if right == signedIn {
		return nil
	}
	err := record.Allow(ctx, right)
	if err != nil {
		g.tellDenied(ctx, actor, operation)
	}
	return err
}

// tellDenied puts a refusal into the audit log, the same one once in a while.
func (g *guard) tellDenied(ctx context.Context, a record.Actor, operation string) {
	key := a.ID + " " + operation
	if last, ok := g.denied.Get(key); ok && time.Since(last) < toldAgainIn {
		return
	}
	g.denied.Add(key, time.Now())
	g.People.Audit(ctx, core.AuditLine{What: core.Denied, Person: a.ID, Device: a.Device, Address: fromOf(ctx).Address,
		Say: operation})
}

// tell puts what was done into the audit log, where it belongs there.
func (g *guard) tell(c *echo.Context, operation string) {
	what := told[operation]
	if what == "" {
		return
	}
	ctx := c.Request().Context()
	a, _ := record.ActorOf(ctx)
	g.People.Audit(ctx, core.AuditLine{What: what, Person: a.ID, Device: a.Device, Address: addressOf(c),
		Say: c.Request().Method + " " + strings.TrimPrefix(c.Request().URL.Path, BasePath)})
}

// audit puts something into the audit log that who asks did; where nobody signs in there is none.
func (g *guard) audit(ctx context.Context, what, of, say string) {
	if g == nil {
		return
	}
	a, _ := record.ActorOf(ctx)
	g.People.Audit(ctx, core.AuditLine{What: what, Person: a.ID, Device: a.Device, Address: fromOf(ctx).Address, Of: of,
		Say: say})
}

// whileSignedIn ends a stream as soon as its device is signed out.
func (g *guard) whileSignedIn(c *echo.Context) (stop func()) {
	ctx, cancel := context.WithCancel(c.Request().Context())
	actor, ok := record.ActorOf(ctx)
	if !ok {
		return cancel
	}
	c.SetRequest(c.Request().WithContext(ctx))
	address := addressOf(c)
	go func() {
		for {
			changed := g.People.Changed()
			now, err := g.People.Look(context.WithoutCancel(ctx), actor.Device, address)
			if errors.Is(err, people.ErrSignedOut) || err == nil && now.ID != actor.ID {
				cancel()
				return
			}
			select {
			case <-changed:
			case <-time.After(time.Minute): // lay too long
			case <-ctx.Done():
				return
			}
		}
	}()
	return cancel
}

// namedBy says who noted something: the one who is signed in, whatever the body says.
func namedBy(r *http.Request, body *openapi3.RequestBodyRef) error {
	actor, ok := record.ActorOf(r.Context())
	if !ok || !takesBy(body) {
		return nil
	}
	raw, err := io.ReadAll(r.Body)
	if err != nil {
		return err
	}
	var fields map[string]json.RawMessage
	if json.Unmarshal(raw, &fields) == nil && fields != nil {
		if fields["by"], err = json.Marshal(actor.Name); err != nil {
			return err
		}
		if raw, err = json.Marshal(fields); err != nil {
			return err
		}
	}
	r.Body, r.ContentLength = io.NopCloser(bytes.NewReader(raw)), int64(len(raw))
	return nil
}

// takesBy says whether a body says who noted it.
func takesBy(body *openapi3.RequestBodyRef) bool {
	if body == nil || body.Value == nil {
		return false
	}
	media := body.Value.Content["application/json"]
	return media != nil && media.Schema != nil && hasBy(media.Schema)
}

func hasBy(s *openapi3.SchemaRef) bool {
	if s == nil || s.Value == nil {
		return false
	}
	if s.Value.Properties["by"] != nil {
		return true
	}
	for _, list := range []openapi3.SchemaRefs{s.Value.AllOf, s.Value.OneOf, s.Value.AnyOf} {
		for _, x := range list {
			if hasBy(x) {
				return true
			}
		}
	}
	return false
}

// called are the words of browsers and systems by which a device is called, the more special first.
var called = [2][]struct{ sign, name string }{
	{{"Edg/", "Edge"}, {"Firefox/", "Firefox"}, {"Chrome/", "Chrome"}, {"Safari/", "Safari"}, {"", "A browser"}},
	{{"iPhone", "a phone"}, {"iPad", "a tablet"}, {"Android", "an Android device"}, {"Windows", "Windows"}, {"Mac OS",
		"a Mac"},
		{"Linux", "Linux"}, {"", "a device"}},
}

// labelOf calls a device by what its browser says of itself.
func labelOf(agent string) string {
	var words [2]string
	for i, list := range called {
		for _, x := range list {
			if strings.Contains(agent, x.sign) {
				words[i] = x.name
				break
			}
		}
	}
	return words[0] + " on " + words[1]
}
