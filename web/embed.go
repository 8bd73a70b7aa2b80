// Package web carries the built front end inside the program. Before `make build` has run, the folder holds only a
// placeholder and the program says so instead of serving a page.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Dist is the built front end: index.html, assets, fonts.
func Dist() fs.FS {
	sub, err := fs.Sub(dist, "dist")
	if err != nil { // the folder is part of the program
		panic(err)
	}
	return sub
}
