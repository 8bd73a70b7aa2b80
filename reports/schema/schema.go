// Package schema makes the published schemas from the Go types of the files.
package schema

import (
	"encoding/json"
	"path"
	"reflect"

	"github.com/invopop/jsonschema"

	"hevrin/core/eventlog"
	"hevrin/reports"
)

// Bundle is the JSON Schema of a job's file.
func Bundle() ([]byte, error) {
	r := &jsonschema.Reflector{Anonymous: true, Mapper: kinds, Namer: named}
	s := r.Reflect(&reports.JobFile{})
	s.ID = ""
	s.Title = "A job of Hevrin"
	s.Description = "One job on one engine: the logs of the craft, the engine and the job, the photos, and what was " +
		"recorded. Ids of findings, checks, faults and stations are the catalogue's."
	for _, d := range s.Definitions {
		if d.Properties == nil {
			continue
		}
		for p := d.Properties.Oldest(); p != nil; p = p.Next() {
			orNothing(p.Value)
			notEndless(p.Value)
		}
	}
	raw, err := json.MarshalIndent(s, "", " ")
	return append(raw, '\n'), err
}

// named keeps types of one name apart by their package.
func named(t reflect.Type) string {
	if t.Name() == "" || t.PkgPath() == "" {
		return ""
	}
	return path.Base(t.PkgPath()) + "." + t.Name()
}

// longestText is more than anybody types.
var longestText uint64 = 5000

// notEndless keeps a text to what somebody may have typed; pictures are longer.
func notEndless(s *jsonschema.Schema) {
	if s.Type == "string" && s.Format == "" && s.ContentEncoding == "" && len(s.Enum) == 0 {
		s.MaxLength = &longestText
	}
}

// orNothing lets a list be null too: Go writes an empty one so.
func orNothing(s *jsonschema.Schema) {
	if s.Type != "array" {
		return
	}
	list := *s
	*s = jsonschema.Schema{AnyOf: []*jsonschema.Schema{&list, {Type: "null"}}, Description: list.Description}
	list.Description = ""
}

// kinds lists the kinds of entries.
func kinds(t reflect.Type) *jsonschema.Schema {
	if t != reflect.TypeFor[eventlog.Kind]() {
		return nil
	}
	s := &jsonschema.Schema{Type: "string"}
	for _, k := range eventlog.Kinds {
		s.Enum = append(s.Enum, k)
	}
	return s
}
