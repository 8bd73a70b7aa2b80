//go:build !js

package drawings

import (
	_ "embed"
	"fmt"
	"sync"

	"github.com/goccy/go-yaml"
)

//go:embed drawings.yaml
var file []byte

// All gives the drawings that ship inside the program, read once. They are shared: nobody changes them.
var All = sync.OnceValue(func() *Drawings {
	d, err := Read(file)
	if err != nil {
		panic(err) // it ships inside the program, and a test reads it
	}
	return d
})

// Read reads drawings as drawings.yaml has them; what is not known there is refused.
func Read(raw []byte) (*Drawings, error) {
	d := &Drawings{}
	if err := yaml.UnmarshalWithOptions(raw, d, yaml.Strict()); err != nil {
		return nil, fmt.Errorf("drawings.yaml: %w", err)
	}
	return d, nil
}
