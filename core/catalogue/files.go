//go:build !js

package catalogue

import (
	"embed"
	"fmt"
	"io/fs"
	"regexp"
	"strings"
	"sync"

	"github.com/goccy/go-yaml"
)

// fileNames lists the data files; data/schema.json tells what may stand in each.
var fileNames = []string{"scale.yaml", "stations.yaml", "faults.yaml", "pairs.yaml", "history.yaml", "findings.yaml",
	"checks.yaml", "cautions.yaml", "tasks.yaml", "methods.yaml", "maintenance.yaml",
	"jobs.yaml", "synonyms.yaml", "readings.yaml"}

//go:embed data
var embedded embed.FS

// Load gives the catalogue that ships inside the program, read and proved once. It is shared: nobody changes it.
func Load() (*Catalogue, error) { return shipped() }

var shipped = sync.OnceValues(func() (*Catalogue, error) {
	sub, err := fs.Sub(embedded, "data")
	if err != nil {
		return nil, err
	}
	return LoadFrom(sub)
})

// LoadFrom reads and proves a catalogue from a folder of data files. A file that does not fit is refused with its
// name and line.
func LoadFrom(files fs.FS) (*Catalogue, error) {
	var d dataFiles
	into := []any{&d.scale, &d.stations, &d.faults, &d.pairs, &d.history, &d.findings, &d.checks, &d.cautions, &d.tasks,
		&d.methods, &d.maintenance, &d.jobs, &d.synonyms, &d.readings}
	for i, name := range fileNames {
		if err := readFile(files, name, into[i]); err != nil {
			return nil, err
		}
	}
	own, err := fs.Glob(files, "families/*.yaml") // in the order of their names
	if err != nil {
		return nil, err
	}
	d.families = make([]familyRow, len(own))
	for i, name := range own {
		if err := readFile(files, name, &d.families[i]); err != nil {
			return nil, err
		}
	}
	c, err := d.expand()
	if err != nil {
		return nil, fmt.Errorf("%w%s", err, placesOf(files, err.Error()))
	}
	c.buildIndex()
	if err := c.Prove(); err != nil {
		return nil, fmt.Errorf("the catalogue does not hold together:\n%w%s", err, placesOf(files, err.Error()))
	}
	return c, nil
}

var quotable = regexp.MustCompile(`[a-z]+(?:-[a-z]+)*`)

// placesOf says where in the files the things stand that an error speaks of, as file:line, so that whoever changed
// the data finds the place. Ids are looked up in the order in which the error names them.
func placesOf(files fs.FS, message string) string {
	var out []string
	told := map[string]bool{}
	for _, id := range quotable.FindAllString(message, -1) {
		for _, name := range fileNames {
			raw, err := fs.ReadFile(files, name)
			if err != nil || told[id] {
				continue
			}
			n := 0
			for line := range strings.Lines(string(raw)) {
				if n++; strings.Contains(line, "id: "+id+",") || strings.TrimSpace(line) == "- id: "+id {
					out = append(out, fmt.Sprintf("\n  %s stands at %s:%d", id, name, n))
					told[id] = true
				}
			}
		}
	}
	return strings.Join(out, "")
}

func readFile(files fs.FS, name string, into any) error {
	raw, err := fs.ReadFile(files, name)
	if err != nil {
		return fmt.Errorf("catalogue file %s: %w", name, err)
	}
	if err := yaml.UnmarshalWithOptions(raw, into, yaml.Strict()); err != nil {
		return fmt.Errorf("catalogue file %s: %w", name, err)
	}
	return nil
}
