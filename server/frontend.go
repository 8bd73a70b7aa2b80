package server

import (
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"
)

// serveFrontEnd serves the embedded files, and index.html for the addresses of screens. A missing file or another
// method is not answered with a page.
func serveFrontEnd(e *echo.Echo, files fs.FS) {
	e.GET("/*", func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean("/"+c.Request().URL.Path), "/")
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() && name != ".keep" {
			if strings.HasPrefix(name, "assets/") { // their names carry a hash of their contents
				c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			http.ServeFileFS(c.Response(), c.Request(), files, name)
			return nil
		}
		if path.Ext(name) != "" || strings.HasPrefix(name, "assets/") || strings.HasPrefix(name, "api/") {
			return echo.NewHTTPError(http.StatusNotFound, "there is nothing at this address")
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			return echo.NewHTTPError(http.StatusNotFound, "this program was built without its front end: run make build")
		}
		c.Response().Header().Set("Cache-Control", "no-cache")
		return c.HTMLBlob(http.StatusOK, page)
	})
}
