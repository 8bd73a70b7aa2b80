//go:build !js

package plant

import (
	_ "embed"
	"fmt"
	"sync"

	"github.com/goccy/go-yaml"
)

//go:embed kinds.yaml
var kindsFile []byte

// kinds reads the kinds of engine once.
var kinds = sync.OnceValue(func() []Type {
	var file struct {
		Kinds []Type `yaml:"kinds"`
	}
	if err := yaml.UnmarshalWithOptions(kindsFile, &file, yaml.Strict()); err != nil {
		panic(fmt.Sprintf("kinds.yaml: %v", err)) // it ships inside the program, and a test reads it
	}
	return file.Kinds
})
