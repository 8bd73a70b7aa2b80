// Ship writes what the phone's program reads in place of YAML: the catalogue, proved here, the drawings, the kinds of
// engine and the contract's limits, as JSON beside the code that embeds them.
package main

import (
	"encoding/json"
	"log"
	"os"

	"hevrin/api/limits"
	"hevrin/api/routes"
	"hevrin/core/catalogue"
	"hevrin/core/drawings"
	"hevrin/core/plant"
	"hevrin/phone"
)

func main() {
	c, err := catalogue.Load()
	if err != nil {
		log.Fatal(err)
	}
	spec, err := routes.GetSpecJSON()
	if err != nil {
		log.Fatal(err)
	}
	most, err := limits.Of(spec, phone.Operations())
	if err != nil {
		log.Fatal(err)
	}
	for file, what := range map[string]any{"core/catalogue/shipped.json": c, "core/plant/kinds.json": plant.Types(),
		"core/drawings/drawings.json": drawings.All(), "api/limits/limits.json": most} {
		raw, err := json.Marshal(what)
		if err == nil {
			err = os.WriteFile(file, raw, 0o600)
		}
		if err != nil {
			log.Fatal(err)
		}
	}
}
