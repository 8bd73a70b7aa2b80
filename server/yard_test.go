package server_test

import (
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"regexp"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/api/routes"
	"hevrin/app"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	core "hevrin/core/people"
	"hevrin/network"
	"hevrin/server"
	"hevrin/simulator"
	"hevrin/store"
)

const yardHost = "hevrin.test"

// yard is a server that people sign in to, on a record of its own, with a manager.
type yard struct {
	t *testing.T
	*echo.Echo
	app    *app.App
	people *people.People
}

const (
	bossName   = "Tamsin Vane"
	bossPhrase = "kettle moss ladder orange"
	hisPhrase  = "brass tide lantern almond"
)

var ownTLS = network.Settings{Hosts: []string{yardHost, "127.0.0.1"}, TLS: network.OwnAuthority}

func newYard(t *testing.T, net network.Settings) *yard {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	supplier, err := simulator.NewSupplier()
	require.NoError(t, err)
	a := app.New(c, s, time.Now)
	p := people.NewQuick(a.Log, s)
	_, err = p.Begin(context.Background(), bossName, bossPhrase)
	require.NoError(t, err)
	e, err := server.New(server.Config{App: a, Supplier: supplier, Place: store.Place{Store: s}, Version: "test",
		Yard: &server.Yard{People: p, Sessions: store.NewSessions(s), Network: net}})
	require.NoError(t, err)
	return &yard{t, e, a, p}
}

// browser is one device's, which keeps its cookie.
type browser struct {
	*yard
	cookie string
	peer   string
	head   http.Header
}

func (y *yard) browser() *browser {
	return &browser{yard: y, peer: "192.168.1.50:1234", head: http.Header{}}
}

func (b *browser) ask(method, path string, body any) *httptest.ResponseRecorder {
	b.t.Helper()
	ctx, stop := context.WithTimeout(b.t.Context(), 60*time.Second)
	defer stop()
	return b.askIn(ctx, method, path, body)
}

func (b *browser) askIn(ctx context.Context, method, path string, body any) *httptest.ResponseRecorder {
	var from io.Reader
	if body != nil {
		raw, err := json.Marshal(body)
		require.NoError(b.t, err)
		from = strings.NewReader(string(raw))
	}
	r := httptest.NewRequestWithContext(ctx, method, "https://"+yardHost+path, from)
	r.RemoteAddr = b.peer
	if body != nil {
		r.Header.Set("Content-Type", "application/json")
	}
	for name, values := range b.head {
		r.Header[name] = values
	}
	if b.cookie != "" {
		r.AddCookie(&http.Cookie{Name: "__Host-hevrin", Value: b.cookie})
	}
	if host := b.head.Get("Host"); host != "" {
		r.Host = host
	}
	w := httptest.NewRecorder()
	b.ServeHTTP(w, r)
	for _, c := range w.Result().Cookies() {
		if c.Name == "__Host-hevrin" {
			b.cookie = c.Value
		}
	}
	return w
}

const base = server.BasePath

func (b *browser) signIn(name, phrase string) *browser {
	b.t.Helper()
	s := read[api.Session](b.t, b.ask("POST", base+"/session", map[string]any{"name": name, "passphrase": phrase}))
	require.True(b.t, s.SignedIn)
	return b
}

func (y *yard) boss() *browser { return y.browser().signIn(bossName, bossPhrase) }

// person invites somebody, who accepts on a device of their own.
func (y *yard) person(name string, role core.Role) *browser {
	made := read[api.InvitationMade](y.t, y.boss().ask("POST", base+"/people", map[string]any{"name": name, "role": role}))
	_, token, ok := strings.Cut(made.Link, "#")
	require.True(y.t, ok)
	b := y.browser()
	read[api.Session](y.t, b.ask("POST", base+"/invitations/"+token, map[string]any{"passphrase": hisPhrase}))
	return b
}

// who may do what, written out once more by hand: m manager, t technician, a assistant, o office, - nobody need sign in.
const whoMay = `
-     getHealth getSession signIn getInvitation acceptInvitation getShared getSharedPhoto answerShared readCalendar
mtao  signOut switchPerson changePassphrase setPIN getDevices endDevice endDevices undo getOwnCalendar makeCalendar endCalendar getAccountNews
mtao  getPracticeHome beginPractice getPractice doInPractice askInPractice getPracticeReview getPracticeBench beginPracticeBench stopPracticeBench sharePractice
mtao  getPushing subscribe unsubscribe
mtao  getCatalogue getDrawings diagnose listCalculators calculate plantSteady plantTypes plantFacts plantLimits plantTransient plantHealth
mtao  getYard search getCraft getAlong getEngine getServiceRecord getEngineState getDoNotStartPDF getChanges getDue getJob getReport
mtao  getRecording getDrafts getPhoto getInventory getMethods getBundleSchema getPeople getLists fitImpeller getSupplier putPresent getLabels getHindsight
mta   openJob putJobEntry putDraft putBaseline putFeed getLive getLiveStream getLiveRound previewDatalog importDatalog
mtao  putEngineEntry putInventoryEntry putCraft putEngine
mto   getReportPDF getBundle getReadingsCSV getPartsCSV getRecordingCSV getDueCSV getCalendar getInventoryCSV
mto   getLinks makeLink endLink getEngineLinks makeEngineLink
mt    putMethodEntry
m     importBundle lookAtList takeList takeListBack checkRecord getBackups makeBackup checkBackup restoreAtStart getBackup
m     getPracticePeople invitePerson changePerson inviteAgain getAudit getSetUp setUp getStandingLinks
`

func rightsTable() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(strings.TrimSpace(whoMay)) {
		words := strings.Fields(line)
		for _, op := range words[1:] {
			out[op] = words[0]
		}
	}
	return out
}

var inPath = regexp.MustCompile(`\{(\w+)\}`)

// Every route, for every role and for who is not signed in, against the table; a route without a row fails.
func TestEveryRouteAsksForItsRight(t *testing.T) {
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	y := newYard(t, ownTLS)
	devices := map[string]*browser{"m": y.boss(), "t": y.person("Kit Venn", core.Technician),
		"a": y.person("Wyn Abery", core.Assistant), "o": y.person("Ada Sedge", core.Office), "": y.browser()}
	names := map[string]string{"m": bossName, "t": "Kit Venn", "a": "Wyn Abery", "o": "Ada Sedge"}
	craft, engine, job := id(), id(), id()
	boss := devices["m"]
	read[api.CraftPage](t, boss.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "by": "x", "name": "Ormsgill"}))
	read[api.EnginePage](t, boss.ask("PUT", base+"/engines/"+engine, map[string]any{"entry_id": id(), "by": "x", "craft_id": craft,
		"name": "main", "family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82,
		"circuit": []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "elbow", "outlet", "gauge"}}))
	// somebody else's job
	read[api.JobPage](t, boss.ask("PUT", base+"/jobs/"+job, map[string]any{"entry_id": id(), "by": "x", "engine_id": engine, "words": "hot"}))
	values := map[string]string{"craft_id": craft, "engine_id": engine, "job_id": job, "token": strings.Repeat("x", 43),
		"name": "no-such", "list_id": id(), "photo_id": id()}
	expected := rightsTable()
	for path, item := range spec.Paths.Map() {
		for method, op := range item.Operations() {
			op.OperationID = server.OperationName(op)
			may, known := expected[op.OperationID]
			if !assert.True(t, known, "%s stands in no row of the table", op.OperationID) {
				continue
			}
			delete(expected, op.OperationID)
			address := base + inPath.ReplaceAllStringFunc(path, func(p string) string {
				if v := values[strings.Trim(p, "{}")]; v != "" {
					return v
				}
				return id()
			})
			for role, b := range devices {
				var body any
				if op.RequestBody != nil {
					body = map[string]any{}
				}
				ctx, stop := context.WithTimeout(t.Context(), 200*time.Millisecond) // streams go on for ever
				if !strings.Contains(op.OperationID, "Changes") && !strings.Contains(op.OperationID, "Stream") {
					stop()
					ctx, stop = context.WithTimeout(t.Context(), 60*time.Second)
				} else {
					b.head.Set("Accept", "text/event-stream")
				}
				w := b.askIn(ctx, method, address, body)
				stop()
				b.head.Del("Accept")
				allowed := may == "-" || role != "" && strings.Contains(may, role)
				switch {
				case allowed:
					assert.NotContains(t, []int{401, 403}, w.Code, "%s as %q: %s", op.OperationID, role, w.Body)
				case role == "":
					assert.Equal(t, 401, w.Code, "%s signed out", op.OperationID)
				default:
					assert.Equal(t, 403, w.Code, "%s as %q", op.OperationID, role)
				}
				if op.OperationID == "signOut" && role != "" {
					b.cookie = ""
					b.signIn(names[role], map[bool]string{true: bossPhrase, false: hisPhrase}[role == "m"])
				}
			}
		}
	}
	assert.Empty(t, expected, "the table speaks of routes that there are not")
}

// Whatever a body says, it was noted by who is signed in; and every operation whose body says so is one of which that
// is made sure.
func TestWhoNotedSomethingIsWhoIsSignedIn(t *testing.T) {
	y := newYard(t, ownTLS)
	kit := y.person("Kit Venn", core.Technician)
	craft := id()
	page := read[api.CraftPage](t, kit.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "by": "Tamsin Vane",
		"name": "Ormsgill"}))
	assert.Equal(t, "Kit Venn", page.Log[0].By)
	read[api.CraftPage](t, kit.ask("PUT", base+"/craft/"+craft, map[string]any{"entry_id": id(), "name": "Ormsgill too"}))
	w := kit.ask("PUT", base+"/craft/"+craft, []any{"by", "x"})
	assert.Equal(t, 422, w.Code)
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	found := 0
	for _, item := range spec.Paths.Map() {
		for _, op := range item.Operations() {
			if op.RequestBody != nil && strings.Contains(schemaText(op.RequestBody), `"by"`) {
				found++
				assert.True(t, server.TakesBy(op.RequestBody), op.OperationID)
			}
		}
	}
	assert.Greater(t, found, 8)
}

func schemaText(body *openapi3.RequestBodyRef) string {
	raw, err := json.Marshal(body.Value.Content["application/json"].Schema.Value)
	if err != nil {
		panic(err)
	}
	return string(raw)
}

func TestTheCookieIsBoundAndNew(t *testing.T) {
	y := newYard(t, ownTLS)
	b := y.browser()
	b.cookie = "chosen-by-an-attacker-000000000000000000000"
	w := b.ask("POST", base+"/session", map[string]any{"name": bossName, "passphrase": bossPhrase})
	require.Equal(t, 200, w.Code)
	c := w.Result().Cookies()[0]
	assert.Equal(t, "__Host-hevrin", c.Name)
	assert.True(t, c.Secure && c.HttpOnly)
	assert.Equal(t, http.SameSiteLaxMode, c.SameSite)
	assert.Equal(t, "/", c.Path)
	assert.Empty(t, c.Domain)
	assert.NotContains(t, c.Value, "attacker")
	thief := y.browser()
	thief.cookie = "chosen-by-an-attacker-000000000000000000000"
	assert.Equal(t, 401, thief.ask("GET", base+"/yard", nil).Code, "the token that was planted opens nothing")

	// signed in again: the token of before opens nothing
	before := b.cookie
	b.signIn(bossName, bossPhrase)
	assert.NotEqual(t, before, b.cookie)
	thief.cookie = before
	assert.Equal(t, 401, thief.ask("GET", base+"/yard", nil).Code)
	// forged, and cut
	for _, forged := range []string{b.cookie[:len(b.cookie)-1], b.cookie + "A", strings.Repeat("A", 43), "'; DROP TABLE sessions"} {
		thief.cookie = forged
		assert.Equal(t, 401, thief.ask("GET", base+"/yard", nil).Code, forged)
	}
	assert.Equal(t, 200, b.ask("GET", base+"/yard", nil).Code)
	read[api.Session](t, b.ask("DELETE", base+"/session", nil))
	assert.Empty(t, b.cookie)
	thief.cookie = before
	assert.Equal(t, 401, thief.ask("GET", base+"/yard", nil).Code)
}

func TestAnInvitationIsTakenOnceAndSignsIn(t *testing.T) {
	y := newYard(t, ownTLS)
	made := read[api.InvitationMade](t, y.boss().ask("POST", base+"/people", map[string]any{"name": "Kit Venn", "role": "technician"}))
	assert.Greater(t, made.Qr.Size, 20)
	assert.Contains(t, made.Qr.Path, "M0 0h7v1h-7z", "the corner of a code")
	_, token, _ := strings.Cut(made.Link, "#")
	b := y.browser()
	assert.Equal(t, "Kit Venn", read[api.Invitation](t, b.ask("GET", base+"/invitations/"+token, nil)).Name)
	assert.Equal(t, 422, b.ask("POST", base+"/invitations/"+token, map[string]any{"passphrase": "short"}).Code)
	s := read[api.Session](t, b.ask("POST", base+"/invitations/"+token, map[string]any{"passphrase": hisPhrase}))
	assert.Equal(t, "Kit Venn", s.Person.Name)
	assert.Contains(t, s.Rights, api.Right("sign"))
	assert.Equal(t, 409, y.browser().ask("POST", base+"/invitations/"+token, map[string]any{"passphrase": hisPhrase}).Code)
	assert.Equal(t, 409, y.browser().ask("GET", base+"/invitations/"+token, nil).Code)
}

func TestOnlyTheYardsOwnPagesAsk(t *testing.T) {
	y := newYard(t, ownTLS)
	boss := y.boss()
	for name, c := range map[string]struct {
		head   http.Header
		status int
	}{
		"itself":             {http.Header{"Sec-Fetch-Site": {"same-origin"}, "Origin": {"https://" + yardHost}}, 200},
		"a cross-site form":  {http.Header{"Sec-Fetch-Site": {"cross-site"}, "Content-Type": {"text/plain"}}, 403},
		"a sister site":      {http.Header{"Sec-Fetch-Site": {"same-site"}}, 403},
		"another origin":     {http.Header{"Origin": {"https://evil.example"}}, 403},
		"no origin at all":   {http.Header{"Origin": {"null"}}, 403},
		"a name like it":     {http.Header{"Origin": {"https://" + yardHost + ".evil.example"}}, 403},
		"another name of it": {http.Header{"Host": {"evil.example"}}, 421},
		"this machine":       {http.Header{"Host": {"localhost"}}, 421},
	} {
		for _, of := range []string{"GET /backup", "GET /changes", "GET /engines/" + id() + "/live/stream", "POST /session"} {
			b := *boss
			b.head = c.head.Clone()
			method, path, _ := strings.Cut(of, " ")
			var body any
			if method == "POST" {
				body = map[string]any{"name": bossName, "passphrase": bossPhrase}
			}
			ctx, stop := context.WithTimeout(t.Context(), 300*time.Millisecond)
			w := b.askIn(ctx, method, base+path, body)
			stop()
			if c.status != 200 {
				assert.Equal(t, c.status, w.Code, "%s: %s", name, of)
			} else {
				assert.NotContains(t, []int{401, 403, 421}, w.Code, "%s: %s %s", name, of, w.Body)
			}
		}
	}
	w := boss.ask("GET", "/", nil)
	for name, holds := range map[string]string{"Content-Security-Policy": "default-src 'self'", "X-Content-Type-Options": "nosniff",
		"Permissions-Policy": "microphone=()", "Referrer-Policy": "no-referrer", "Cross-Origin-Opener-Policy": "same-origin"} {
		assert.Contains(t, w.Header().Get(name), holds)
	}
	scripts, _, _ := strings.Cut(w.Header().Get("Content-Security-Policy"), " style-src")
	assert.Equal(t, "default-src 'self'; script-src 'self' 'wasm-unsafe-eval';", scripts, // WebAssembly of the program's own
		"no script in a page, and none made of words")
	assert.Empty(t, w.Header().Get("Strict-Transport-Security"), "an authority of one's own may be unknown to another device")
	files := newYard(t, network.Settings{Hosts: []string{yardHost}, TLS: network.Files})
	assert.NotEmpty(t, files.browser().ask("GET", "/", nil).Header().Get("Strict-Transport-Security"))
}

// What a proxy says of an address counts from the proxy alone.
func TestForwardedHeadersOfAStrangerCountForNothing(t *testing.T) {
	address := func(y *yard) string {
		list, err := y.people.Audited(context.Background(), 1)
		require.NoError(t, err)
		return list[0].Body.Audit.Address
	}
	forged := http.Header{"X-Forwarded-For": {"1.2.3.4"}, "X-Forwarded-Proto": {"https"}, "X-Real-Ip": {"1.2.3.4"}, "Forwarded": {"for=1.2.3.4"}}
	y := newYard(t, ownTLS)
	b := y.browser()
	b.head = forged
	b.signIn(bossName, bossPhrase)
	assert.Equal(t, "192.168.1.50", address(y))

	y = newYard(t, network.Settings{Hosts: []string{yardHost}, TLS: network.Proxy, Proxies: []string{"10.9.0.1/32"}})
	b = y.browser()
	b.head = forged
	assert.Equal(t, 403, b.ask("GET", base+"/session", nil).Code, "past the proxy")
	b.peer = "10.9.0.1:5555"
	b.signIn(bossName, bossPhrase)
	assert.Equal(t, "1.2.3.4", address(y))
	b.head.Set("X-Forwarded-For", "6.6.6.6, 1.2.3.4") // the first part is the client's own invention
	b.signIn(bossName, bossPhrase)
	assert.Equal(t, "1.2.3.4", address(y))
	b.head.Set("X-Forwarded-Proto", "http")
	assert.Equal(t, 403, b.ask("GET", base+"/session", nil).Code, "a session over a plain link")
}

func TestWhoIsNotSignedInLearnsNothing(t *testing.T) {
	y := newYard(t, ownTLS)
	w := y.browser().ask("GET", base+"/health", nil)
	assert.Equal(t, api.Health{Status: "ok"}, read[api.Health](t, w))
	known := y.browser().ask("POST", base+"/session", map[string]any{"name": bossName, "passphrase": "wrong"})
	unknown := y.browser().ask("POST", base+"/session", map[string]any{"name": "Nobody", "passphrase": "wrong"})
	assert.Equal(t, 403, known.Code)
	assert.Equal(t, known.Body.String(), unknown.Body.String())
	b := y.browser()
	for range 5 {
		w = b.ask("POST", base+"/session", map[string]any{"name": "Nobody", "passphrase": "wrong"})
	}
	assert.Equal(t, 429, w.Code)
	assert.NotEmpty(t, w.Header().Get("Retry-After"))
	// of who does not look after the record no folder
	kit := read[api.Health](t, y.person("Kit Venn", core.Technician).ask("GET", base+"/health", nil))
	assert.Empty(t, kit.Record.Folder)
	assert.NotEmpty(t, read[api.Health](t, y.boss().ask("GET", base+"/health", nil)).Record.Folder)
}

// A wrong passphrase is worked on as long for a name that there is as for one that there is not. It is the memory
// that hashing fills, pass by pass, that is compared: time tells of what else the machine does.
func TestUnknownNamesTakeAsLong(t *testing.T) {
	y := newYard(t, ownTLS)
	ctx := context.Background()
	p := people.New(y.app.Log, storeOf(t, y))
	_, token, err := p.Invite(record.WithActor(ctx, record.Actor{Name: bossName}), "Kit Venn", core.Technician)
	require.NoError(t, err)
	_, err = p.Accept(ctx, token, hisPhrase, people.From{})
	require.NoError(t, err)
	filled := func(name string) float64 {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, err := p.SignIn(ctx, name, "wrong wrong wrong", people.From{Address: "x"}, "")
		runtime.ReadMemStats(&after)
		require.Error(t, err)
		return float64(after.TotalAlloc-before.TotalAlloc) / (1 << 20)
	}
	filled("Nobody") // the first makes the hash that unknown names are held against
	known, unknown := filled("Kit Venn"), filled("Nobody")
	assert.Greater(t, known, 64.0, "MiB")
	assert.InDelta(t, known, unknown, 8, "MiB")
}

func storeOf(t *testing.T, y *yard) people.Store {
	s, ok := y.app.Store.(people.Store)
	require.True(t, ok)
	return s
}

// A device that is signed out from elsewhere hears nothing more within a second: its stream ends.
func TestSigningOutEndsTheStream(t *testing.T) {
	y := newYard(t, ownTLS)
	kit := y.person("Kit Venn", core.Technician)
	s := httptest.NewTLSServer(y.Echo)
	defer s.Close()
	r, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+base+"/changes", nil)
	require.NoError(t, err)
	r.Header.Set("Accept", "text/event-stream")
	r.AddCookie(&http.Cookie{Name: "__Host-hevrin", Value: kit.cookie})
	answer, err := s.Client().Do(r)
	require.NoError(t, err)
	defer func() { _ = answer.Body.Close() }()
	require.Equal(t, 200, answer.StatusCode)
	ended := make(chan struct{})
	go func() {
		_, _ = io.Copy(io.Discard, answer.Body)
		close(ended)
	}()
	boss := y.boss()
	for _, d := range read[api.Devices](t, boss.ask("GET", base+"/devices", nil)).Devices {
		if d.Person == "Kit Venn" {
			read[api.Devices](t, boss.ask("DELETE", base+"/devices/"+d.Id, nil))
		}
	}
	select {
	case <-ended:
	case <-time.After(60 * time.Second):
		t.Fatal("the stream goes on")
	}
	assert.Equal(t, 401, kit.ask("GET", base+"/yard", nil).Code)
}

func TestTheAuditLogTells(t *testing.T) {
	y := newYard(t, ownTLS)
	boss, wyn := y.boss(), y.person("Wyn Abery", core.Assistant)
	assert.Equal(t, 403, wyn.ask("GET", base+"/audit", nil).Code)
	assert.Equal(t, 403, wyn.ask("GET", base+"/audit", nil).Code)
	assert.Equal(t, 200, boss.ask("GET", base+"/inventory.csv", nil).Code)
	assert.Equal(t, 200, boss.ask("GET", base+"/backup", nil).Code)
	var lines []string
	for _, l := range read[api.Audit](t, boss.ask("GET", base+"/audit", nil)).Lines {
		lines = append(lines, l.What+" by "+l.By)
		assert.NotContains(t, l.Say+l.By, hisPhrase)
	}
	got := strings.Join(lines, "; ")
	assert.Contains(t, got, "backup-sent by Tamsin Vane; exported by Tamsin Vane; denied by Wyn Abery; accepted by Wyn Abery")
	assert.Equal(t, 1, strings.Count(got, "denied"), "the same refusal once")
}
