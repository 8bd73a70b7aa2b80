package catalogue

import (
	_ "embed"
	"sync"
)

//go:embed shipped.json
var shippedJSON []byte

// Load gives the catalogue that ships inside the phone's program: it was read and proved when that was built. It is
// shared: nobody changes it.
func Load() (*Catalogue, error) { return shipped() }

var shipped = sync.OnceValues(func() (*Catalogue, error) { return Parse(shippedJSON) })
