package calculator

import (
	"fmt"
	"math"
	"strings"

	"hevrin/core/units"
)

// Kind is what a field holds.
type Kind string

// The kinds of field. Rows is a list of groups, Numbers a list of numbers of one unit.
const (
	Number  Kind = "number"
	Integer Kind = "integer"
	Text    Kind = "text"
	Choice  Kind = "choice"
	YesNo   Kind = "yes-no"
	Group   Kind = "group"
	Rows    Kind = "rows"
	Numbers Kind = "numbers"
)

// Field is one thing that a calculator wants to know.
type Field struct {
	Name     string // as in the JSON, the unit at its end
	Label    string
	Help     string
	Kind     Kind
	Unit     string // id in package quantity, of a number
	Min, Max float64
	Default  any       // taken when nothing is given; nil: it must be given, unless Optional
	Optional bool      // the calculator goes without
	More     bool      // seldom touched: shown on demand
	Choices  []Named   // of a choice
	Suggest  []Suggest // values with a name, of a number
	Fields   []Field   // of a group or of one row
	OnlyIf   *OnlyIf   // else the field does not matter
	MinRows  int
	MaxRows  int
}

// Named is one choice.
type Named struct{ ID, Label string }

// Suggest is a value with a name, as in the emissivity of matt tape.
type Suggest struct {
	Label string
	Value float64
}

// OnlyIf says that a field matters only when its neighbour is one of these.
type OnlyIf struct {
	Field string
	Is    []string
}

// Result is one thing that a calculator tells.
type Result struct {
	Name, Label string
	Kind        Kind   // number, integer, text, choice, yes-no or rows
	Unit        string // of a number
	Main        bool   // what was asked for
	Choices     []Named
	Fields      []Result // of one row
}

func num(name, label, unit string, low, high float64) Field {
	return Field{Name: name, Label: label, Kind: Number, Unit: unit, Min: low, Max: high}
}

func whole(name, label string, low, high float64) Field {
	return Field{Name: name, Label: label, Kind: Integer, Unit: "1", Min: low, Max: high}
}

func choice[T ~string](name, label string, choices []T) Field {
	return Field{Name: name, Label: label, Kind: Choice, Choices: named(choices)}
}

func group(name, label string, fields ...Field) Field {
	return Field{Name: name, Label: label, Kind: Group, Fields: fields}
}

func rows(name, label string, least, most int, fields ...Field) Field {
	return Field{Name: name, Label: label, Kind: Rows, Fields: fields, MinRows: least, MaxRows: most}
}

func (f Field) help(words string) Field       { f.Help = words; return f }
func (f Field) standard(v any) Field          { f.Default = v; return f }
func (f Field) optional() Field               { f.Optional = true; return f }
func (f Field) more() Field                   { f.More = true; return f }
func (f Field) suggest(list ...Suggest) Field { f.Suggest = list; return f }
func (f Field) onlyIf(name string, is ...string) Field {
	f.OnlyIf = &OnlyIf{name, is}
	return f
}

// words are the labels of choices; what is not here is its id with spaces.
var words = map[string]string{"sea": "Sea water", "fresh": "Fresh water", "other": "Other liquid",
	"product": "Bought mix", "shell-and-tube-1": "Shell and tube, one shell pass",
	"crossflow-unmixed": "Crossflow, neither side mixed", "parallel": "Parallel flow", "ethylene": "Ethylene glycol",
	"propylene": "Propylene glycol",
	"natural":   "Naturally aspirated", "turbo": "Turbocharged", "full": "Full power", "o-ring": "O-ring",
	"cruise": "Cruising"}

func label(id string) string {
	if w, ok := words[id]; ok {
		return w
	}
	s := strings.ReplaceAll(id, "-", " ")
	return strings.ToUpper(s[:1]) + s[1:]
}

func named[T ~string](ids []T) []Named {
	list := make([]Named, len(ids))
	for i, id := range ids {
		list[i] = Named{string(id), label(string(id))}
	}
	return list
}

// Allowed says what a field takes.
func (f Field) Allowed() units.Sentence {
	switch f.Kind {
	case Number, Integer:
		if f.Kind == Integer {
			return units.Say("%s to %s whole number %s", plainNumber(f.Min), plainNumber(f.Max), units.Must(f.Unit).Symbol)
		}
		return units.Range(f.Min, f.Max, f.Unit)
	case Choice:
		ids := make([]string, len(f.Choices))
		for i, c := range f.Choices {
			ids[i] = c.ID
		}
		return units.Sentence(strings.Join(ids, ", "))
	case YesNo:
		return "true or false"
	case Rows, Numbers:
		return units.Say("%d to %d rows", f.MinRows, f.MaxRows)
	case Group:
		return "an object"
	}
	return "words"
}

func plainNumber(v float64) string {
	if math.Abs(v) >= 1e6 || v != 0 && math.Abs(v) < 1e-4 {
		return fmt.Sprintf("%g", v)
	}
	return strings.TrimRight(strings.TrimRight(fmt.Sprintf("%.4f", v), "0"), ".")
}
