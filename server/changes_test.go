package server_test

import (
	"bufio"
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/server"
)

// follow reads a stream of changes line by line.
func follow(t *testing.T, address, last string) (lines <-chan string, stop func()) {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address+server.BasePath+"/changes", nil)
	require.NoError(t, err)
	r.Header.Set("Accept", "text/event-stream")
	if last != "" {
		r.Header.Set("Last-Event-ID", last)
	}
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	require.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	out := make(chan string, 100)
	go func() {
		defer close(out)
		defer func() { _ = answer.Body.Close() }()
		for scan := bufio.NewScanner(answer.Body); scan.Scan(); {
			out <- scan.Text()
		}
	}()
	return out, cancel
}

func next(t *testing.T, lines <-chan string, begins string) string {
	t.Helper()
	for {
		select {
		case l, ok := <-lines:
			require.True(t, ok, "the stream ended before %q", begins)
			if strings.HasPrefix(l, begins) {
				return l
			}
		case <-time.After(60 * time.Second):
			t.Fatalf("%q did not come", begins)
		}
	}
}

func TestChangesArePushedAsTheyAreSaved(t *testing.T) {
	h := newHouse(t)
	there := httptest.NewServer(h)
	t.Cleanup(there.Close)
	lines, stop := follow(t, there.URL, "")
	next(t, lines, "retry: 500")
	next(t, lines, ": here")
	craft := id()
	entry := id()
	require.Equal(t, http.StatusOK, h.put("/craft/"+craft, map[string]any{"entry_id": entry, "by": "U",
		"name": "Sallow Ebb"}).Code)
	data := next(t, lines, "data: ")
	assert.JSONEq(t, `{"subject_kind":"craft","subject_id":"`+craft+`","entry_id":"`+entry+`"}`, strings.TrimPrefix(data,
		"data: "))
	stop()
	require.Equal(t, http.StatusOK, h.put("/craft/"+craft, map[string]any{"entry_id": id(), "by": "U",
		"name": "Sallow Ebb", "note": "n"}).Code)
	again, stop := follow(t, there.URL, "1")
	defer stop()
	assert.Equal(t, "id: 2", next(t, again, "id: "), "what came while the link was down")
	lost, end := follow(t, there.URL, "77")
	defer end()
	assert.Equal(t, "event: all", next(t, lost, "event: "), "a number of another run of the program")
}

func TestWhatIsKnownIsNotSentAgain(t *testing.T) {
	h := newHouse(t)
	get := func(head map[string]string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, server.BasePath+"/catalogue", nil)
		r.Host = "localhost"
		for k, v := range head {
			r.Header.Set(k, v)
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
	plain := get(nil)
	tag := plain.Header().Get("ETag")
	require.NotEmpty(t, tag)
	assert.Empty(t, plain.Header().Get("Content-Encoding"))
	again := get(map[string]string{"If-None-Match": tag, "Accept-Encoding": "gzip"})
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Zero(t, again.Body.Len())
	packed := get(map[string]string{"Accept-Encoding": "gzip, br"})
	assert.Equal(t, "gzip", packed.Header().Get("Content-Encoding"))
	assert.Less(t, packed.Body.Len(), plain.Body.Len()/3)
	assert.Equal(t, http.StatusOK, get(map[string]string{"If-None-Match": `W/"another"`}).Code)
}

func TestWhoComesToAJobIsPushed(t *testing.T) {
	h := newHouse(t)
	there := httptest.NewServer(h)
	t.Cleanup(there.Close)
	lines, stop := follow(t, there.URL, "")
	defer stop()
	next(t, lines, ": here")
	one, two := id(), id()
	say := map[string]any{"device": id(), "by": "Kit Venn"}
	for range 2 { // the second time nothing moved
		require.Equal(t, http.StatusOK, h.put("/jobs/"+one+"/present", say).Code)
	}
	say["check"] = "strainer-look"
	require.Equal(t, http.StatusOK, h.put("/jobs/"+two+"/present", say).Code)
	next(t, lines, "event: present")
	assert.Equal(t, `data: {"job_id":"`+one+`"}`, next(t, lines, "data: "))
	assert.Equal(t, `data: {"job_id":"`+two+`"}`, next(t, lines, "data: "))
}
