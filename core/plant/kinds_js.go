package plant

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"
)

//go:embed kinds.json
var kindsJSON []byte

// kinds reads the kinds of engine once, as they were written when the phone's program was built.
var kinds = sync.OnceValue(func() []Type {
	var list []Type
	if err := json.Unmarshal(kindsJSON, &list); err != nil {
		panic(fmt.Sprintf("kinds.json: %v", err)) // it ships inside the program
	}
	return list
})
