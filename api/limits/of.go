package limits

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// document is as much of an OpenAPI 3.0 document as bodies are found by.
type document struct {
	Paths      map[string]map[string]json.RawMessage `json:"paths"` // operations, and what they share
	Components struct {
		Schemas map[string]*Schema `json:"schemas"`
	} `json:"components"`
}

type operation struct {
	RequestBody struct {
		Content map[string]struct {
			Schema *Schema `json:"schema"`
		} `json:"content"`
	} `json:"requestBody"`
}

// Of takes the limits of some operations (PUT /jobs/{job_id}) out of an OpenAPI document, with the schemas that they
// lead to. An operation that the document does not have is an error; one without a body has no limits.
func Of(spec []byte, operations []string) (*Contract, error) {
	var d document
	if err := json.Unmarshal(spec, &d); err != nil {
		return nil, err
	}
	c := &Contract{Operations: map[string]*Schema{}, Schemas: map[string]*Schema{}}
	for _, name := range operations {
		method, path, _ := strings.Cut(name, " ")
		raw, ok := d.Paths[path][strings.ToLower(method)]
		if !ok {
			return nil, fmt.Errorf("the contract has no operation %s", name)
		}
		var o operation
		if err := json.Unmarshal(raw, &o); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		if body := o.RequestBody.Content["application/json"].Schema; body != nil {
			c.Operations[name] = body
			d.reach(body, c.Schemas)
		}
	}
	return c, nil
}

// reach puts what a schema leads to among those that are kept, and shortens their names.
func (d *document) reach(s *Schema, kept map[string]*Schema) {
	if s == nil {
		return
	}
	if s.Ref != "" {
		s.Ref = s.Ref[strings.LastIndex(s.Ref, "/")+1:]
		if kept[s.Ref] == nil {
			kept[s.Ref] = d.Components.Schemas[s.Ref]
			d.reach(kept[s.Ref], kept)
		}
		return
	}
	d.reach(s.Items, kept)
	for _, name := range slices.Sorted(maps.Keys(s.Properties)) {
		d.reach(s.Properties[name], kept)
	}
}
