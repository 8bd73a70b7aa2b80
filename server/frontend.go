package server

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// packings are the encodings in which the build leaves files beside the plain ones, the smallest first.
var packings = []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// ofPages are the headers that a browser heeds with a page alone. Three dozen files come with a first visit, and each
// would bring them. What a worker heeds, its Content-Security-Policy, stays with every file.
var ofPages = []string{"Cross-Origin-Opener-Policy", "Permissions-Policy", "Referrer-Policy", "Vary"}

// serveFrontEnd serves the embedded files, and index.html for the addresses of screens. A missing file or another
// method is not answered with a page.
func serveFrontEnd(e *echo.Echo, files fs.FS) {
	tags := &fileTags{}
	e.GET("/*", func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean("/"+c.Request().URL.Path), "/")
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() && name != ".keep" {
			if strings.HasPrefix(name, "assets/") { // their names carry a hash of their contents
				c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
				for _, of := range ofPages {
					c.Response().Header().Del(of)
				}
			} else {
				c.Response().Header().Set("Cache-Control", "no-cache") // asked for each time, by its ETag
			}
			return serveFile(c, files, tags, name)
		}
		if path.Ext(name) != "" || strings.HasPrefix(name, "assets/") || strings.HasPrefix(name, "api/") {
			return echo.NewHTTPError(http.StatusNotFound, "there is nothing at this address")
		}
		if _, err := fs.Stat(files, "index.html"); err != nil {
			return echo.NewHTTPError(http.StatusNotFound, "this program was built without its front end: run make build")
		}
		c.Response().Header().Set("Cache-Control", "no-cache")
		return serveFile(c, files, tags, "index.html")
	})
}

func init() {
	_ = mime.AddExtensionType(".webmanifest", "application/manifest+json") // systems differ in what they know
}

// serveFile sends a file, packed where the build packed it and the asker takes it, with an ETag of its contents.
func serveFile(c *echo.Context, files fs.FS, tags *fileTags, name string) error {
	accepts := c.Request().Header.Get("Accept-Encoding")
	head := c.Response().Header()
	head.Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
	for _, p := range packings {
		if !strings.Contains(accepts, p.name) {
			continue
		}
		if _, err := fs.Stat(files, name+p.ending); err == nil {
			name += p.ending
			head.Set("Content-Encoding", p.name)
			break
		}
	}
	head.Add("Vary", "Accept-Encoding")
	file, err := files.Open(name)
	if err != nil {
		return err
	}
	defer func() { _ = file.Close() }()
	content, ok := file.(io.ReadSeeker)
	if !ok {
		return fmt.Errorf("%s cannot be read from its middle", name)
	}
	tag, err := tags.of(name, content)
	if err != nil {
		return err
	}
	head.Set("ETag", tag)
	// as it lies in the program, a little at a time: who does not read it costs next to nothing
	http.ServeContent(c.Response(), c.Request(), name, time.Time{}, content)
	return nil
}

// fileTags keeps the ETag of each file, of its contents.
type fileTags struct{ known sync.Map }

func (t *fileTags) of(name string, content io.ReadSeeker) (string, error) {
	if tag, ok := t.known.Load(name); ok {
		return tag.(string), nil //nolint:forcetypeassert // nothing else is kept
	}
	sum := sha256.New()
	if _, err := io.Copy(sum, content); err != nil {
		return "", err
	}
	if _, err := content.Seek(0, io.SeekStart); err != nil {
		return "", err
	}
	tag := `"` + hex.EncodeToString(sum.Sum(nil)[:12]) + `"`
	t.known.Store(name, tag)
	return tag, nil
}
