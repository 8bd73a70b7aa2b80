package server_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"time"

	"hevrin/app"
	"hevrin/app/people"
	"hevrin/core/catalogue"
	"hevrin/server"
	"hevrin/simulator"
	"hevrin/store"
)

// BenchmarkGuard is what signing in costs a request: the same page, alone and in a yard.
func BenchmarkGuard(b *testing.B) {
	for _, mode := range []string{"alone", "yard"} {
		b.Run(mode, func(b *testing.B) {
			c, err := catalogue.Load()
			require.NoError(b, err)
			s, err := store.Open(b.Context(), b.TempDir())
			require.NoError(b, err)
			defer func() { _ = s.Close() }()
			supplier, err := simulator.NewSupplier()
			require.NoError(b, err)
			a := app.New(c, s, time.Now)
			defer a.Close()
			config := server.Config{App: a, Supplier: supplier, Place: store.Place{Store: s}, Version: "test"}
			host := "127.0.0.1:8420"
			if mode == "yard" {
				p := people.NewQuick(a.Log, s)
				_, err := p.Begin(b.Context(), bossName, bossPhrase)
				require.NoError(b, err)
				config.Yard, host = &server.Yard{People: p, Sessions: store.NewSessions(s), Network: ownTLS}, yardHost
			}
			e, err := server.New(config)
			require.NoError(b, err)
			cookie := ""
			ask := func(method, path, body string) *httptest.ResponseRecorder {
				r := httptest.NewRequest(method, "https://"+host+base+path, strings.NewReader(body))
				r.Host, r.RemoteAddr = host, "127.0.0.1:1"
				if body != "" {
					r.Header.Set("Content-Type", "application/json")
				}
				if cookie != "" {
					r.Header.Set("Cookie", "__Host-hevrin="+cookie)
				}
				w := httptest.NewRecorder()
				e.ServeHTTP(w, r)
				for _, k := range w.Result().Cookies() {
					cookie = k.Value
				}
				return w
			}
			if mode == "yard" {
				require.Equal(b, 200, ask("POST", "/session", `{"name":"`+bossName+`","passphrase":"`+bossPhrase+`"}`).Code)
			}
			craft := id()
			require.Equal(b, http.StatusOK, ask("PUT", "/craft/"+craft, `{"entry_id":"`+id()+`","by":"x","name":"Ormsgill"}`).Code)
			for b.Loop() {
				if w := ask("GET", "/craft/"+craft, ""); w.Code != http.StatusOK {
					b.Fatal(w.Code)
				}
			}
		})
	}
}
