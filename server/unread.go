package server

import (
	"net"
	"net/http"
	"net/netip"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// Limits of what is held for whoever does not read what they asked for.
const (
	patience       = 20 * time.Second // for a piece of an answer to be taken
	onePiece       = 64 << 10         // bytes
	mostLinks      = 1024             // connections at once
	mostOfAddress  = 64               // of them from one address
	mostOfLoopback = 512              // of them from this machine, on which a browser test or a proxy runs
	mostStreams    = 32               // requests at once on one connection (HTTP/2)
)

// inPieces lets an answer go out piece by piece, each within a time: a slow reader gets all of it, one who does not
// read is let go. Streams are written through it too.
func inPieces(patience time.Duration) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			plain := c.Response()
			w := &pieceWriter{ResponseWriter: plain, to: http.NewResponseController(plain), patience: patience}
			c.SetResponse(w)
			defer c.SetResponse(plain)
			defer w.extend() // what is still held back is sent after this
			return next(c)
		}
	}
}

type pieceWriter struct {
	http.ResponseWriter
	to       *http.ResponseController
	patience time.Duration
}

// Unwrap gives the writer below, for http.ResponseController.
func (w *pieceWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func (w *pieceWriter) extend() {
	_ = w.to.SetWriteDeadline(time.Now().Add(w.patience)) // a test's recorder knows none
}

// rest takes the limit away: between two pieces a stream may say nothing for long.
func (w *pieceWriter) rest() { _ = w.to.SetWriteDeadline(time.Time{}) }

func (w *pieceWriter) Write(b []byte) (n int, err error) {
	defer w.rest()
	for first := true; first || len(b) > 0; first = false {
		w.extend()
		piece, err := w.ResponseWriter.Write(b[:min(len(b), onePiece)])
		if n += piece; err != nil {
			return n, err
		}
		b = b[piece:]
	}
	return n, nil
}

// FlushError is that of http.ResponseController.
func (w *pieceWriter) FlushError() error {
	w.extend()
	defer w.rest()
	return w.to.Flush()
}

// bounded is a listener that takes so many connections at once, and so many of one address: whoever comes beyond that
// is let go at once. free are addresses that many come by, as a proxy.
type bounded struct {
	net.Listener
	free func(address string) bool
	mu   sync.Mutex
	all  int
	of   map[netip.Addr]int
}

func newBounded(l net.Listener, free func(address string) bool) *bounded {
	return &bounded{Listener: l, free: free, of: map[netip.Addr]int{}}
}

// Accept waits for a connection that may be taken.
func (b *bounded) Accept() (net.Conn, error) {
	for {
		c, err := b.Listener.Accept()
		if err != nil {
			return nil, err
		}
		at, err := netip.ParseAddrPort(c.RemoteAddr().String())
		if err != nil {
			_ = c.Close() // no address of the network
			continue
		}
		ip := ofNet(at.Addr())
		if !b.take(ip) {
			_ = c.Close()
			continue
		}
		return &boundedConn{Conn: c, leave: sync.OnceFunc(func() { b.leave(ip) })}, nil
	}
}

// ofNet is an address as far as one host can choose within it: all of an IPv6 /64 counts as one.
func ofNet(ip netip.Addr) netip.Addr {
	ip = ip.Unmap().WithZone("")
	if ip.Is6() && !ip.IsLoopback() {
		if net, err := ip.Prefix(64); err == nil {
			return net.Addr()
		}
	}
	return ip
}

func (b *bounded) take(ip netip.Addr) bool {
	most := mostOfAddress
	if ip.IsLoopback() {
		most = mostOfLoopback
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.all >= mostLinks || b.of[ip] >= most && !b.free(ip.String()) {
		return false
	}
	b.all++
	b.of[ip]++
	return true
}

func (b *bounded) leave(ip netip.Addr) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.all--
	if b.of[ip]--; b.of[ip] <= 0 {
		delete(b.of, ip)
	}
}

type boundedConn struct {
	net.Conn
	leave func()
}

// Close lets the connection go.
func (c *boundedConn) Close() error {
	defer c.leave()
	return c.Conn.Close()
}
