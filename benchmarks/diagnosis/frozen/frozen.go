// Package frozen holds the catalogue as it was before sure looks were taken as facts: what the bench compares with. It
// is never changed.
package frozen

import (
	"embed"

	"hevrin/core/catalogue"
)

//go:embed *.yaml
var files embed.FS

// Load reads it.
func Load() (*catalogue.Catalogue, error) { return catalogue.LoadFrom(files) }
