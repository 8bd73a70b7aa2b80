// Package limits refuses what goes beyond the contract's limits: lengths, ranges, choices, forms, and what must be
// there. The yard's program has a whole validator and shares the words; on a phone without a link nobody else would say
// so until it is sent.
package limits

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Contract is as much of the contract (OpenAPI 3.0) as limits are read from.
type Contract struct {
	Operations map[string]*Schema `json:"operations"` // bodies, by method and path: PUT /jobs/{job_id}
	Schemas    map[string]*Schema `json:"schemas"`
}

// Schema limits one value. Its names are those of OpenAPI.
type Schema struct {
	Ref        string             `json:"$ref,omitempty"`
	Type       string             `json:"type,omitempty"`
	Format     string             `json:"format,omitempty"`
	Pattern    string             `json:"pattern,omitempty"`
	Enum       []any              `json:"enum,omitempty"`
	Min        *float64           `json:"minimum,omitempty"`
	Max        *float64           `json:"maximum,omitempty"`
	MinLength  int                `json:"minLength,omitempty"`
	MaxLength  *int               `json:"maxLength,omitempty"`
	MinItems   int                `json:"minItems,omitempty"`
	MaxItems   *int               `json:"maxItems,omitempty"`
	Items      *Schema            `json:"items,omitempty"`
	Required   []string           `json:"required,omitempty"`
	Properties map[string]*Schema `json:"properties,omitempty"`
}

// Check refuses a body that goes beyond what its operation takes, with validation.Errors. What is no JSON, and values
// of another kind than the contract's, are left to whoever reads it. No contract refuses nothing.
func (c *Contract) Check(operation string, body []byte) error {
	if c == nil || c.Operations[operation] == nil {
		return nil
	}
	var value any
	if json.Unmarshal(body, &value) != nil {
		return nil
	}
	v := visit{of: c}
	v.any(c.Operations[operation], "", value)
	return v.wrong.Err()
}

// visit goes through a value with its schema.
type visit struct {
	of    *Contract
	wrong validation.Errors
}

func (v *visit) any(s *Schema, at string, value any) {
	for s != nil && s.Ref != "" {
		s = v.of.Schemas[s.Ref]
	}
	if s == nil {
		return
	}
	if len(s.Enum) > 0 && !slices.Contains(s.Enum, value) {
		list, err := json.Marshal(s.Enum)
		v.refuse(err == nil, s, at, value, "value is not one of the allowed values %s", list)
		return
	}
	switch x := value.(type) {
	case float64:
		v.refuse(s.Type == "integer" && x != math.Trunc(x), s, at, value, "value must be an integer")
		v.refuse(s.Min != nil && x < *s.Min, s, at, value, "number must be at least %g", pointed(s.Min))
		v.refuse(s.Max != nil && x > *s.Max, s, at, value, "number must be at most %g", pointed(s.Max))
	case string:
		length := utf8.RuneCountInString(x)
		v.refuse(length < s.MinLength, s, at, value, "minimum string length is %d", s.MinLength)
		v.refuse(s.MaxLength != nil && length > *s.MaxLength, s, at, value, "maximum string length is %d",
			pointed(s.MaxLength))
		if s.Pattern != "" {
			form, err := regexp.Compile(s.Pattern)
			v.refuse(err == nil && !form.MatchString(x), s, at, value,
				`string doesn't match the regular expression "%s"`, s.Pattern)
		}
	case []any:
		v.refuse(len(x) < s.MinItems, s, at, value, "minimum number of items is %d", s.MinItems)
		v.refuse(s.MaxItems != nil && len(x) > *s.MaxItems, s, at, value, "maximum number of items is %d",
			pointed(s.MaxItems))
		for i, item := range x {
			v.any(s.Items, fmt.Sprintf("%s[%d]", at, i), item)
		}
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(x)) {
			v.any(s.Properties[name], under(at, name), x[name])
		}
		for _, name := range s.Required {
			if _, ok := x[name]; !ok {
				v.wrong.Add(under(at, name), "nothing", units.Sentence(AllOf(s.Required)),
					"%s does not fit: property %q is missing", under(at, name), name)
			}
		}
	}
}

// refuse notes a value that does not fit, where it does not.
func (v *visit) refuse(wrong bool, s *Schema, at string, value any, reason string, args ...any) {
	if wrong {
		v.wrong.Add(at, Given(value), units.Sentence(s.Allowed()), "%s does not fit: %s", at, fmt.Sprintf(reason, args...))
	}
}

func pointed[T any](p *T) (is T) {
	if p != nil {
		is = *p
	}
	return is
}

func under(at, name string) string {
	if at == "" {
		return name
	}
	return at + "." + name
}

const longestGiven = 120

// Given is a value as it is told back: its beginning, where it is long.
func Given(value any) string {
	raw, err := json.Marshal(value)
	if err != nil {
		return fmt.Sprint(value)
	}
	if len(raw) > longestGiven {
		return string(raw[:longestGiven]) + "…"
	}
	return string(raw)
}

// AllOf says in words that all these fields are needed.
func AllOf(fields []string) string {
	return "a value for every field of: " + strings.Join(fields, ", ")
}

// Allowed says in words what the schema takes.
func (s *Schema) Allowed() string {
	var words []string
	add := func(ok bool, format string, args ...any) {
		if ok {
			words = append(words, fmt.Sprintf(format, args...))
		}
	}
	add(s.Type != "", "%s", s.Type)
	add(len(s.Enum) > 0, "one of %v", s.Enum)
	add(s.Min != nil && s.Max != nil, "from %g to %g", pointed(s.Min), pointed(s.Max))
	add(s.MinLength > 0, "at least %d letters", s.MinLength)
	add(s.MaxLength != nil, "at most %d letters", pointed(s.MaxLength))
	add(s.MinItems > 0, "at least %d", s.MinItems)
	add(s.MaxItems != nil, "at most %d", pointed(s.MaxItems))
	add(s.Pattern != "", "of the form %s", s.Pattern)
	add(s.Format == "date-time", "a time as in 2026-05-01T08:30:00Z")
	return strings.Join(words, ", ")
}
