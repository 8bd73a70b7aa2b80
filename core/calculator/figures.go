package calculator

import (
	"reflect"
	"slices"
	"strings"
)

// Figure is one of an answer's main results: a value in its unit with its error, or words.
type Figure struct {
	Label string
	Value *float64
	Error float64
	Unit  string
	Words string
}

// Figures are the main results of an answer, those that apply.
func (s *Calculator) Figures(a Answer) []Figure {
	var list []Figure
	v := reflect.ValueOf(a.Result)
	for i := range v.NumField() {
		name := jsonName(v.Type().Field(i))
		k := slices.IndexFunc(s.Results, func(r Result) bool { return r.Name == name && r.Main })
		if k < 0 {
			continue
		}
		if f, ok := figure(s.Results[k], v.Field(i)); ok {
			f.Error = a.Uncertainty[name]
			list = append(list, f)
		}
	}
	return list
}

func figure(r Result, v reflect.Value) (Figure, bool) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return Figure{}, false
		}
		v = v.Elem()
	}
	f := Figure{Label: r.Label, Unit: r.Unit}
	switch v.Kind() {
	case reflect.Float64:
		x := v.Float()
		f.Value = &x
	case reflect.Bool:
		f.Words = map[bool]string{true: "yes", false: "no"}[v.Bool()]
	case reflect.String:
		f.Words = v.String()
		if k := slices.IndexFunc(r.Choices, func(c Named) bool { return c.ID == v.String() }); k >= 0 {
			f.Words = r.Choices[k].Label
		}
	}
	return f, f.Value != nil || strings.TrimSpace(f.Words) != ""
}
