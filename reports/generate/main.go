// Command generate writes the JSON Schema of a job's file from its Go types.
package main

import (
	"log"
	"os"

	"hevrin/reports/schema"
)

func main() {
	raw, err := schema.Bundle()
	if err == nil {
		err = os.WriteFile("schema/job-bundle-1.json", raw, 0o600)
	}
	if err != nil {
		log.Fatal(err)
	}
}
