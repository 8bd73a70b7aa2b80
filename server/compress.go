package server

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"regexp"
	"strings"
	"sync"

	"github.com/klauspost/compress/gzip"
	"github.com/labstack/echo/v5"
)

// leastCompressed is below what compressing is worth its while, in bytes.
const leastCompressed = 1024

var packers = sync.Pool{New: func() any {
	w, err := gzip.NewWriterLevel(nil, gzip.BestSpeed)
	if err != nil {
		panic(err) // the level is known
	}
	return w
}}

// secret are the beginnings of addresses whose answers hold a token, or are for who has one: nothing keeps them.
var secret = regexp.MustCompile(`^` + BasePath +
	`/(session|shared|invitations|people|links|calendars?|setup|audit)(/|$)|/links$`)

// keepNone forbids browsers and what stands between to keep those answers.
func keepNone(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if secret.MatchString(c.Request().URL.Path) {
			c.Response().Header().Set("Cache-Control", "no-store")
		}
		return next(c)
	}
}

// compact gives every JSON answer that it can an ETag, answers 304 where the asker has it already, and packs what is
// large enough. Streams and files go through as they are.
func compact(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if !strings.HasPrefix(r.URL.Path, BasePath+"/") || strings.Contains(r.Header.Get("Accept"), "text/event-stream") {
			return next(c)
		}
		plain := c.Response()
		held := &heldResponse{ResponseWriter: plain, reads: r.Method == http.MethodGet, has: r.Header.Get("If-None-Match"),
			packs: strings.Contains(r.Header.Get("Accept-Encoding"), "gzip")}
		c.SetResponse(held)
		defer c.SetResponse(plain)
		if err := next(c); err != nil {
			return err
		}
		return held.send()
	}
}

// heldResponse holds a JSON answer back until it is whole; anything else passes straight through.
type heldResponse struct {
	http.ResponseWriter
	reads, packs bool
	has          string
	status       int
	passes       bool
	body         bytes.Buffer
}

// Unwrap gives the writer below, for http.ResponseController.
func (h *heldResponse) Unwrap() http.ResponseWriter { return h.ResponseWriter }

func (h *heldResponse) WriteHeader(status int) {
	if h.status != 0 {
		return
	}
	h.status = status
	if kind := h.Header().Get("Content-Type"); !strings.Contains(kind, "json") {
		h.passes = true
		h.ResponseWriter.WriteHeader(status)
	}
}

func (h *heldResponse) Write(b []byte) (int, error) {
	if h.status == 0 {
		h.WriteHeader(http.StatusOK)
	}
	if h.passes {
		return h.ResponseWriter.Write(b)
	}
	return h.body.Write(b)
}

func (h *heldResponse) send() error {
	if h.passes || h.status == 0 {
		return nil
	}
	head := h.Header()
	head.Add("Vary", "Accept-Encoding")
	if h.reads && h.status == http.StatusOK {
		sum := sha256.Sum256(h.body.Bytes())
		tag := `W/"` + hex.EncodeToString(sum[:12]) + `"`
		head.Set("ETag", tag)
		if head.Get("Cache-Control") == "" {
			head.Set("Cache-Control", "no-cache") // kept, and asked about each time
		}
		if strings.Contains(h.has, tag) {
			head.Del("Content-Type")
			h.ResponseWriter.WriteHeader(http.StatusNotModified)
			return nil
		}
	}
	if !h.packs || h.body.Len() < leastCompressed {
		h.ResponseWriter.WriteHeader(h.status)
		_, err := h.ResponseWriter.Write(h.body.Bytes())
		return err
	}
	head.Set("Content-Encoding", "gzip")
	head.Del("Content-Length")
	h.ResponseWriter.WriteHeader(h.status)
	w, ok := packers.Get().(*gzip.Writer)
	if !ok {
		panic("only writers are pooled")
	}
	defer packers.Put(w)
	w.Reset(h.ResponseWriter)
	if _, err := w.Write(h.body.Bytes()); err != nil {
		return err
	}
	return w.Close()
}
