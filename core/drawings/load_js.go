package drawings

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"
)

//go:embed drawings.json
var file []byte

// All gives the drawings as they were written when the phone's program was built. They are shared: nobody changes them.
var All = sync.OnceValue(func() *Drawings {
	d := &Drawings{}
	if err := json.Unmarshal(file, d); err != nil {
		panic(fmt.Sprintf("drawings.json: %v", err)) // it ships inside the program
	}
	return d
})
