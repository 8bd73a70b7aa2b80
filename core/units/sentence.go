package units

import (
	"fmt"
	"math"
	"reflect"
	"strconv"
	"strings"
)

// Sentence is a sentence in which the quantities are still values: In puts it into words in a reader's own units. Its
// parts may be cut and joined as text, as long as no quantity is cut.
type Sentence string

// A quantity in a sentence stands between these two control characters, which no text holds.
const (
	opening = "\x02"
	closing = "\x03"
)

// Say makes a sentence of a template as fmt.Sprintf does. Quantities are given by Of and Within and take the verbs of
// numbers, as in Say("it opens at %.1f", Of(82.4, "degC")); the symbol of the unit comes by itself.
func Say(template string, values ...any) Sentence {
	for i, v := range values {
		if s, ok := v.(Sentence); ok {
			values[i] = string(s) // its quantities stay values
		}
	}
	return Sentence(fmt.Sprintf(template, values...))
}

// Quantity is a value with its unit in a sentence.
type Quantity struct {
	values []float64 // one, or two that share their unit
	kind   string    // what stands between two
	unit   string    // an id of a unit
}

const (
	within  = " ± "
	between = " to "
)

// Of is a value in a unit, named by its id.
func Of(value float64, unit string) Quantity { return Quantity{[]float64{value}, "", Must(unit).ID} }

// Within is a value with its error, both in a unit: 0.23 ± 0.05 °C/min.
func Within(value, err float64, unit string) Quantity {
	return Quantity{[]float64{value, err}, within, Must(unit).ID}
}

// Between is a range, both ends in a unit: 4 to 200 mm.
func Between(low, high float64, unit string) Quantity {
	return Quantity{[]float64{low, high}, between, Must(unit).ID}
}

// Range is a range alone, what is allowed where a value does not fit; what is no unit's id stands behind it as words.
func Range(low, high float64, unit string) Sentence {
	if _, err := Find(unit); err != nil {
		return Sentence(strings.TrimSpace(fmt.Sprintf("%g to %g %s", low, high, unit)))
	}
	return Say("%g", Between(low, high, unit))
}

// Format writes the quantity as a value, with the verb, the sign and the decimals with which it is to be shown.
func (q Quantity) Format(f fmt.State, verb rune) {
	decimals := -1
	if p, ok := f.Precision(); ok {
		decimals = p
	}
	sign := "-"
	if f.Flag('+') {
		sign = "+"
	}
	fmt.Fprintf(f, "%s%s|%d|%c|%s|%s", opening, q.unit, decimals, verb, sign, q.kind)
	for _, v := range q.values {
		fmt.Fprint(f, "|", strconv.FormatFloat(v, 'g', -1, 64))
	}
	fmt.Fprint(f, closing)
}

// In puts the sentence into words in a system's own units. A larger unit gets decimals enough to say as much.
func (s Sentence) In(system System) string {
	parts := strings.Split(string(s), opening)
	for i, part := range parts[1:] {
		quantity, rest, _ := strings.Cut(part, closing)
		parts[i+1] = shown(strings.Split(quantity, "|"), system) + rest
	}
	return strings.Join(parts, "")
}

// String is the sentence in metric units.
func (s Sentence) String() string { return s.In(Metric) }

// MarshalText writes the sentence in metric units.
func (s Sentence) MarshalText() ([]byte, error) { return []byte(s.In(Metric)), nil }

// shown puts a quantity, written by Format, into words.
func shown(written []string, system System) string {
	from := Must(written[0])
	to := from.ShownAs(system)
	decimals, _ := strconv.Atoi(written[1])
	if decimals >= 0 {
		decimals += max(0, int(math.Ceil(math.Log10(to.Factor/from.Factor))))
	}
	text := ""
	for i, w := range written[5:] {
		v, _ := strconv.ParseFloat(w, 64)
		if i > 0 {
			text += written[4]
		}
		if i > 0 && written[4] == within {
			v *= from.Factor / to.Factor
		} else {
			v = to.FromBase(from.ToBase(v))
		}
		if written[3] == "+" && i == 0 && v >= 0 {
			text += "+"
		}
		text += digits(v, written[2][0], decimals, to.ID != from.ID)
	}
	return text + " " + to.Symbol
}

// digits writes a value; one that was turned has no more than four digits where no number of decimals is asked for.
func digits(v float64, verb byte, decimals int, turned bool) string {
	if verb == 'f' {
		return strconv.FormatFloat(v, 'f', decimals, 64)
	}
	if decimals < 0 && turned {
		decimals = 4
	}
	v, _ = strconv.ParseFloat(strconv.FormatFloat(v, 'g', decimals, 64), 64)
	return strconv.FormatFloat(v, 'f', -1, 64)
}

// Speak puts every sentence in a value, down to the last field, into words in a system's own units; the value is given
// by its pointer. What was put into words stays as it is.
func Speak(value any, system System) { speak(reflect.ValueOf(value), system) }

var sentence = reflect.TypeFor[Sentence]()

func speak(v reflect.Value, system System) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			speak(v.Elem(), system)
		}
	case reflect.Interface: // what it holds cannot be set, a copy can
		if !v.IsNil() && v.CanSet() {
			held := reflect.New(v.Elem().Type()).Elem()
			held.Set(v.Elem())
			speak(held, system)
			v.Set(held)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			speak(v.Field(i), system)
		}
	case reflect.Slice:
		for i := range v.Len() {
			speak(v.Index(i), system)
		}
	case reflect.String:
		if v.Type() == sentence && v.CanSet() {
			v.SetString(Sentence(v.String()).In(system))
		}
	}
}

// Join joins sentences, as strings.Join does.
func Join(list []Sentence, between string) Sentence {
	texts := make([]string, len(list))
	for i, s := range list {
		texts[i] = string(s)
	}
	return Sentence(strings.Join(texts, between))
}
