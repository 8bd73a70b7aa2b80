package calculator

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// reader turns what was given into a calculator's own input and notes everything that does not fit.
type reader struct {
	system     units.System
	given      map[string]any
	wrong      validation.Errors
	understood map[string]Understood
	uncertain  []uncertain
	inRows     int // how deep in rows: what was typed there is not told back
	places     map[reflect.Type]map[string]int
	spread     func() (map[string]float64, bool)
}

// uncertain is an input that came with an error.
type uncertain struct {
	value     reflect.Value
	at, error float64
	low, high float64 // the field's range
}

// nothing is what Given says of a field that is missing; the page tells it from a slip by this word.
const nothing = "nothing"

// mostNoted bounds how many slips of one question are told.
const mostNoted = 20

func (r *reader) into(fields []Field, target reflect.Value) { r.fill(fields, r.given, "", target) }

func (r *reader) add(path string, given any, f Field, say string, args ...any) {
	if len(r.wrong) < mostNoted {
		r.wrong.Add(path, given, f.Allowed(), say, args...)
	}
}

// unknown notes names that the calculator has no field for: a typing slip would else go unnoticed.
func (r *reader) unknown(fields []Field, given map[string]any, path string) {
	for name, v := range given {
		i := slices.IndexFunc(fields, func(f Field) bool { return f.Name == name })
		if i < 0 {
			names := make([]string, len(fields))
			for k, f := range fields {
				names[k] = f.Name
			}
			if len(r.wrong) < mostNoted {
				r.wrong.Add(path+name, v, units.Sentence(strings.Join(names, ", ")),
					"%s is not asked for here: take it out or correct its name",
					path+name)
			}
			continue
		}
		if inner, ok := v.(map[string]any); ok && fields[i].Kind == Group {
			r.unknown(fields[i].Fields, inner, path+name+".")
		}
	}
}

// fill puts the values of an object into a struct, by JSON name.
func (r *reader) fill(fields []Field, given map[string]any, path string, target reflect.Value) {
	for _, f := range fields {
		if f.OnlyIf != nil && !matters(f, fields, given) {
			continue
		}
		place := r.member(target, f.Name)
		v, ok := given[f.Name]
		if plain, isNumber := v.(float64); isNumber && f.take(plain, place) {
			continue
		}
		if s, isText := v.(string); v == nil || isText && strings.TrimSpace(s) == "" {
			ok = false
		}
		if !ok && f.Default != nil {
			v, ok = f.Default, true
		}
		switch {
		case ok:
			r.put(f, v, path+f.Name, place)
		case f.Optional:
		case f.Kind == Group:
			r.fill(f.Fields, nil, path+f.Name+".", place)
		default:
			r.add(path+f.Name, nothing, f, "%s is still missing", sentence(f.Label))
		}
	}
}

func sentence(label string) string { return strings.ToUpper(label[:1]) + label[1:] }

func matters(f Field, fields []Field, given map[string]any) bool {
	v, ok := given[f.OnlyIf.Field]
	if !ok {
		i := slices.IndexFunc(fields, func(x Field) bool { return x.Name == f.OnlyIf.Field })
		v = fields[i].Default
	}
	return slices.Contains(f.OnlyIf.Is, fmt.Sprint(v))
}

// take puts a plain number that fits straight into its place.
func (f Field) take(v float64, place reflect.Value) bool {
	if f.Kind != Number || !(v >= f.Min && v <= f.Max) {
		return false
	}
	if place.Kind() == reflect.Pointer {
		place.Set(reflect.ValueOf(&v))
	} else {
		place.SetFloat(v)
	}
	return true
}

// member finds a struct's field by its JSON name.
func (r *reader) member(v reflect.Value, name string) reflect.Value {
	t := v.Type()
	index, known := r.places[t]
	if !known {
		index = map[string]int{}
		for i := range t.NumField() {
			index[jsonName(t.Field(i))] = i
		}
		r.places[t] = index
	}
	i, ok := index[name]
	if !ok {
		panic(fmt.Sprintf("%s has no field for %s", t, name))
	}
	return v.Field(i)
}

func (r *reader) put(f Field, v any, path string, place reflect.Value) {
	if place.Kind() == reflect.Pointer && f.Kind != Rows && f.Kind != Numbers {
		place.Set(reflect.New(place.Type().Elem()))
		place = place.Elem()
	}
	switch f.Kind {
	case Number, Integer:
		r.putNumber(f, v, path, place)
	case Text, Choice:
		s, ok := v.(string)
		if !ok || f.Kind == Choice && !slices.ContainsFunc(f.Choices, func(c Named) bool { return c.ID == s }) {
			r.add(path, v, f, "%s is none of those offered: choose one", sentence(f.Label))
			return
		}
		place.SetString(s)
	case YesNo:
		b, ok := v.(bool)
		if s, isText := v.(string); isText {
			b, ok = readYesNo(s)
		}
		if !ok {
			r.add(path, v, f, "%s is either so or not: give true or false", sentence(f.Label))
			return
		}
		place.SetBool(b)
	case Group:
		inner, ok := v.(map[string]any)
		if !ok {
			r.add(path, v, f, "%s has several parts: give them as an object", sentence(f.Label))
			return
		}
		r.fill(f.Fields, inner, path+".", place)
	case Rows:
		r.putRows(f, v, path, place)
	case Numbers:
		r.putNumbers(f, v, path, place)
	}
}

var yes, no = []string{"true", "yes", "y", "1", "up", "rising", "heating"}, []string{"false", "no", "n", "0", "down",
	"falling", "cooling"}

func readYesNo(s string) (value, ok bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	return slices.Contains(yes, s), slices.Contains(yes, s) || slices.Contains(no, s)
}

func (r *reader) putNumber(f Field, v any, path string, place reflect.Value) {
	got, err := r.number(f, v)
	if err != nil {
		r.add(path, v, f, "%s: %s", sentence(f.Label), err)
		return
	}
	slack := 1e-9 * max(math.Abs(got.Value), 1) // 212 °F is 100 °C, whatever the last digit says
	switch {
	case got.Value < f.Min-slack || got.Value > f.Max+slack:
		r.add(path, showGiven(v), f, "%s: %s is out of range, which goes from %s", sentence(f.Label), showGiven(v),
			f.Allowed())
		return
	case f.Kind == Integer && got.Value != math.Trunc(got.Value):
		r.add(path, v, f, "%s is counted: give a whole number", sentence(f.Label))
		return
	}
	got.Value = min(max(got.Value, f.Min), f.Max)
	if _, typed := v.(float64); r.inRows == 0 && (!typed || got.Error > 0) {
		r.understood[path] = Understood{got.Value, got.Error, f.Unit}
	}
	if place.Kind() == reflect.Int {
		place.SetInt(int64(got.Value))
		return
	}
	place.SetFloat(got.Value)
	if got.Error > 0 {
		r.uncertain = append(r.uncertain, uncertain{place, got.Value, got.Error, f.Min, f.Max})
	}
}

func showGiven(v any) string {
	if f, ok := v.(float64); ok {
		return plainNumber(f)
	}
	return fmt.Sprint(v)
}

func (r *reader) number(f Field, v any) (units.Measured, error) {
	switch v := v.(type) {
	case float64:
		return units.Measured{Value: v}, nil
	case int:
		return units.Measured{Value: float64(v)}, nil
	case json.Number:
		return units.Read(v.String(), units.Must(f.Unit), r.system)
	case string:
		return units.Read(v, units.Must(f.Unit), r.system)
	case map[string]any:
		return r.numberWithError(f, v)
	}
	return units.Measured{}, fmt.Errorf("give a number, or words such as \"12.5\" with its unit")
}

// numberWithError reads {value, error}, both in the field's unit or with their own.
func (r *reader) numberWithError(f Field, v map[string]any) (units.Measured, error) {
	value, ok := v["value"]
	if !ok || len(v) > 2 {
		return units.Measured{}, fmt.Errorf("give {value, error}")
	}
	got, err := r.number(f, value)
	if err != nil {
		return got, err
	}
	plusMinus, ok := v["error"]
	if !ok {
		return got, nil
	}
	spread, ok := plusMinus.(float64)
	if !ok || spread < 0 || math.IsInf(spread, 0) || math.IsNaN(spread) {
		return got, fmt.Errorf("its error must be a number of 0 or more, in the field's unit")
	}
	got.Error = spread
	return got, nil
}
