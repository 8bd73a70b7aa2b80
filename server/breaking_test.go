package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/server"
	"hevrin/store"
)

// breaking is for how long links are broken; HEVRIN_BREAKING says otherwise, as 20s.
func breaking() time.Duration {
	if d, err := time.ParseDuration(os.Getenv("HEVRIN_BREAKING")); err == nil {
		return d
	}
	return 2 * time.Second
}

// breakLink sends a save and cuts the link after a while, half said or waiting for its answer.
func breakLink(t *testing.T, address, path string, body []byte) {
	t.Helper()
	link, err := net.Dial("tcp", address)
	if !assert.NoError(t, err) {
		return
	}
	said := fmt.Appendf(nil, "PUT %s HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\n"+
		"Content-Length: %d\r\n\r\n%s", path, len(body), body)
	if rand.IntN(4) == 0 { //nolint:gosec // a test's own chance
		said = said[:rand.IntN(len(said))] //nolint:gosec // as above
	}
	_, err = link.Write(said)
	assert.NoError(t, err)
	time.Sleep(time.Duration(rand.IntN(4000)) * time.Microsecond) //nolint:gosec // as above
	assert.NoError(t, link.Close())
}

// While ten phones break their links off in the midst of saves, twelve others save: what they are answered is on disk
// after the program is started anew, and none of them is told of a fault.
func TestBrokenLinksCostNobodyAnything(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(t.Context(), folder)
	require.NoError(t, err)
	h := &house{t, serverOn(t, s, time.Now), s}
	jobs := make([]string, 6)
	for i := range jobs {
		jobs[i] = h.job()
	}
	web := httptest.NewServer(h)
	ctx, stop := context.WithTimeout(t.Context(), breaking())
	defer stop()
	var all sync.WaitGroup
	var mu sync.Mutex
	answered := map[string]bool{}
	var faults, broken atomic.Int64
	noted := func(n int) (path, entry string, body []byte) {
		entry = id()
		body, err := json.Marshal(map[string]any{"by": "U", "kind": "note", "words": fmt.Sprint("Note of ", n)})
		assert.NoError(t, err)
		return server.BasePath + "/jobs/" + jobs[n%len(jobs)] + "/entries/" + entry, entry, body
	}
	for n := range 12 {
		all.Go(func() {
			for ctx.Err() == nil {
				path, entry, body := noted(n)
				r, err := http.NewRequest(http.MethodPut, web.URL+path, bytes.NewReader(body))
				if !assert.NoError(t, err) {
					return
				}
				r.Host = "localhost"
				r.Header.Set("Content-Type", "application/json")
				w, err := web.Client().Do(r)
				if !assert.NoError(t, err) {
					return
				}
				said, err := io.ReadAll(w.Body)
				if !assert.NoError(t, err) || !assert.NoError(t, w.Body.Close()) {
					return
				}
				if w.StatusCode != http.StatusOK {
					faults.Add(1)
					t.Logf("%d %s", w.StatusCode, said)
					continue
				}
				mu.Lock()
				answered[entry] = true
				mu.Unlock()
			}
		})
	}
	for n := range 10 {
		all.Go(func() {
			for ctx.Err() == nil {
				path, _, body := noted(n)
				breakLink(t, web.Listener.Addr().String(), path, body)
				broken.Add(1)
			}
		})
	}
	all.Wait()
	web.Close()
	require.NoError(t, s.Close())
	s, err = store.Open(t.Context(), folder)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	lost := 0
	for entry := range answered {
		if _, ok, err := s.Read(t.Context()).Entry(entry); err != nil || !ok {
			lost++
		}
	}
	t.Logf("%d answered, %d links broken, %d lost, %d faults", len(answered), broken.Load(), lost, faults.Load())
	assert.Zero(t, lost)
	assert.Zero(t, faults.Load())
	assert.NotEmpty(t, answered)
	require.NoError(t, s.Check(t.Context(), true), "the record is whole")
}
