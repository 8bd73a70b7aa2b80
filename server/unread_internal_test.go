package server

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"runtime"
	"testing"
	"testing/fstest"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const bigFile = 16 << 20

// served serves a file of 16 MB as the front end's are, an answer of the routes' kind as large, and a stream.
func served(t *testing.T, patience time.Duration, h2 bool) *httptest.Server {
	t.Helper()
	e := echo.New()
	e.Use(inPieces(patience))
	serveFrontEnd(e, fstest.MapFS{"assets/phone.wasm": {Data: bytes.Repeat([]byte("0123456789abcdef"), bigFile/16)}})
	e.GET("/stream", func(c *echo.Context) error {
		out := http.NewResponseController(c.Response())
		for i := range 3 {
			if _, err := fmt.Fprintf(c.Response(), "data: %d\n\n", i); err != nil {
				return err
			}
			if err := out.Flush(); err != nil {
				return err
			}
			time.Sleep(2 * patience)
		}
		return nil
	})
	web := httptest.NewUnstartedServer(e)
	web.EnableHTTP2 = h2
	if h2 {
		web.StartTLS()
	} else {
		web.Start()
	}
	t.Cleanup(web.Close)
	return web
}

// Whoever asks for much and reads none of it costs little, and is let go.
func TestUnreadAnswersCostLittle(t *testing.T) {
	web := served(t, 300*time.Millisecond, false)
	memory := func() uint64 {
		runtime.GC()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		return m.HeapAlloc
	}
	before := memory()
	const many = 200
	links := make([]net.Conn, many)
	for i := range links {
		c, err := net.Dial("tcp", web.Listener.Addr().String())
		require.NoError(t, err)
		defer func() { _ = c.Close() }()
		_, err = fmt.Fprint(c, "GET /assets/phone.wasm HTTP/1.1\r\nHost: localhost\r\n\r\n")
		require.NoError(t, err)
		links[i] = c
	}
	time.Sleep(100 * time.Millisecond)
	now := memory()
	if now > before {
		assert.Less(t, (now-before)>>20, uint64(40), "MB for %d who read nothing; 3,200 were it held for each", many)
	}
	time.Sleep(time.Second)
	for _, c := range links[:10] {
		require.NoError(t, c.SetReadDeadline(time.Now().Add(5*time.Second)))
		n, err := io.Copy(io.Discard, c)
		assert.Less(t, n, int64(bigFile))
		assert.NotErrorIs(t, err, context.DeadlineExceeded, "the line was closed")
	}
}

// A slow reader gets all of it, however long it takes as a whole; a stream may be silent for longer than a piece takes.
func TestSlowReadersAndSilentStreamsAreServed(t *testing.T) {
	for _, h2 := range []bool{false, true} {
		t.Run(fmt.Sprint("HTTP/2: ", h2), func(t *testing.T) {
			web := served(t, 200*time.Millisecond, h2)
			get := func(path string) *http.Response {
				r, err := web.Client().Get(web.URL + path)
				require.NoError(t, err)
				assert.Equal(t, map[bool]int{false: 1, true: 2}[h2], r.ProtoMajor)
				return r
			}
			r := get("/assets/phone.wasm")
			begun, total := time.Now(), 0
			piece := make([]byte, 2<<20)
			for {
				n, err := io.ReadFull(r.Body, piece)
				if total += n; err != nil {
					break
				}
				time.Sleep(100 * time.Millisecond)
			}
			require.NoError(t, r.Body.Close())
			assert.Equal(t, bigFile, total)
			assert.Greater(t, time.Since(begun), 400*time.Millisecond)
			r = get("/stream")
			said, err := io.ReadAll(r.Body)
			require.NoError(t, err)
			require.NoError(t, r.Body.Close())
			assert.Equal(t, "data: 0\n\ndata: 1\n\ndata: 2\n\n", string(said))
		})
	}
}

// Of one address so many connections are taken and no more; another's are not touched, and whoever leaves makes room.
func TestConnectionsAreBoundedByAddress(t *testing.T) {
	b := newBounded(nil, func(address string) bool { return address == "10.0.0.1" })
	take := func(ip string, times int) (taken int) {
		for range times {
			if b.take(ofNet(netip.MustParseAddr(ip))) {
				taken++
			}
		}
		return taken
	}
	assert.Equal(t, mostOfAddress, take("10.0.0.9", 400))
	assert.Equal(t, 6, take("10.0.0.7", 6))
	assert.Equal(t, mostOfAddress, take("fd00::1", 40)+take("fd00::2", 40), "a network of one host's own")
	assert.Equal(t, 300, take("10.0.0.1", 300), "a proxy speaks for many")
	b.leave(netip.MustParseAddr("10.0.0.9"))
	assert.Equal(t, 1, take("10.0.0.9", 5))
	take("127.0.0.1", mostOfLoopback)
	take("10.0.0.1", mostLinks)
	assert.Equal(t, mostLinks, b.all, "of all together")
	assert.Zero(t, take("10.0.0.2", 1))
}

// The listener lets go at once of whoever comes beyond, and takes the next one.
func TestWhoComesBeyondIsLetGo(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	b := newBounded(l, func(string) bool { return false })
	defer func() { _ = b.Close() }()
	here := netip.MustParseAddr("127.0.0.1")
	for range mostOfLoopback {
		require.True(t, b.take(here))
	}
	accepted := make(chan net.Conn, 1)
	go func() {
		if c, err := b.Accept(); err == nil {
			accepted <- c
		}
	}()
	refused, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	require.NoError(t, refused.SetReadDeadline(time.Now().Add(5*time.Second)))
	_, err = refused.Read(make([]byte, 1))
	require.Error(t, err)
	b.leave(here)
	taken, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	defer func() { _ = taken.Close() }()
	c := <-accepted
	assert.False(t, b.take(here), "it took the place")
	require.NoError(t, c.Close())
	assert.True(t, b.take(here), "and gave it back")
}
