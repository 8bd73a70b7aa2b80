package limits

import (
	_ "embed"
	"encoding/json"
	"fmt"
)

//go:embed limits.json
var file []byte

// Shipped are the contract's limits as they were when the phone's program was built.
func Shipped() *Contract {
	c := &Contract{}
	if err := json.Unmarshal(file, c); err != nil {
		panic(fmt.Sprintf("limits.json: %v", err)) // it ships inside the program
	}
	return c
}
