// Ship writes what the phone's program reads in place of YAML: the catalogue, proved here, the drawings and the kinds
// of engine, as JSON beside the code that embeds them.
package main

import (
	"encoding/json"
	"log"
	"os"

	"hevrin/core/catalogue"
	"hevrin/core/drawings"
	"hevrin/core/plant"
)

func main() {
	c, err := catalogue.Load()
	if err != nil {
		log.Fatal(err)
	}
	for file, what := range map[string]any{"core/catalogue/shipped.json": c, "core/plant/kinds.json": plant.Types(),
		"core/drawings/drawings.json": drawings.All()} {
		raw, err := json.Marshal(what)
		if err == nil {
			err = os.WriteFile(file, raw, 0o600)
		}
		if err != nil {
			log.Fatal(err)
		}
	}
}
