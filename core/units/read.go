package units

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Measured is a value with its error, both in the same unit. Error is one standard deviation; 0 means that none was
// given.
type Measured struct{ Value, Error float64 }

const number = `[+-]?(?:\d+\s+\d+/\d+|\d+-\d+/\d+|\d+/\d+|(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)`

var (
	written = regexp.MustCompile(`^(` + number + `)\s*(.*)$`)
	plusOr  = regexp.MustCompile(`\s*(?:±|\+/-|\+-)\s*`)
	clock   = regexp.MustCompile(`^(?:(\d+):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)$`)
	minus   = strings.NewReplacer("−", "-", "–", "-", "\u00a0", " ", "\u202f", " ")
)

// Read understands what a person typed, as in "160F", "12 gpm", "3/8 in", "1 1/2 in", "60 ± 1 °C", "12,5" or, for a
// time, "1:30" (minutes and seconds). What carries no unit of its own is in the unit given; the answer is in that unit
// too. A gallon or pint that does not say whose it is belongs to the system.
func Read(text string, in Unit, system System) (Measured, error) {
	text = strings.TrimSpace(minus.Replace(text))
	if text == "" {
		return Measured{}, fmt.Errorf("nothing was typed: type a number, as in %s", example(in))
	}
	if m := clock.FindStringSubmatch(text); m != nil && in.Dimension == Time {
		return Measured{Value: in.FromBase(clockSeconds(m[1:]))}, nil
	}
	parts := plusOr.Split(text, 2)
	m := written.FindStringSubmatch(parts[0])
	spread := []string{"", "0", ""}
	if len(parts) == 2 {
		spread = written.FindStringSubmatch(parts[1])
	}
	if m == nil || spread == nil {
		return Measured{}, fmt.Errorf("%q is not a number: type one, as in %s", text, example(in))
	}
	words, wordsOfSpread := m[2], spread[2]
	if words == "" {
		words = wordsOfSpread
	}
	if wordsOfSpread == "" {
		wordsOfSpread = words
	}
	unit, err := Meant(words, in, system)
	if err != nil {
		return Measured{}, err
	}
	unitOfSpread, err := Meant(wordsOfSpread, in, system)
	if err != nil {
		return Measured{}, err
	}
	got := Measured{Value: in.FromBase(unit.ToBase(value(m[1]))),
		Error: math.Abs(value(spread[1])) * unitOfSpread.Factor / in.Factor}
	if math.IsNaN(got.Value) || math.IsInf(got.Value, 0) || math.IsNaN(got.Error) || math.IsInf(got.Error, 0) {
		return Measured{}, fmt.Errorf("%q is not a number that can be computed with: type one, as in %s", text, example(in))
	}
	return got, nil
}

// Meant is the unit that the words behind a number name, of the dimension of the unit given; without words it is that
// unit itself.
func Meant(words string, in Unit, system System) (Unit, error) {
	w := plain(words)
	if w == "" {
		return in, nil
	}
	meant := forms[w]
	if u, ok := gallons(w, system); ok {
		meant = []Unit{u}
	}
	elsewhere := Dimension("")
	for _, u := range meant {
		if u.Dimension == in.Dimension {
			return u, nil
		}
		elsewhere = u.Dimension
	}
	if elsewhere != "" {
		return Unit{}, fmt.Errorf("%q measures %s, and this is a %s: use %s", strings.TrimSpace(words), elsewhere,
			in.Dimension, symbolsOf(in.Dimension))
	}
	return Unit{}, fmt.Errorf("the unit %q is not known here: use %s", strings.TrimSpace(words), symbolsOf(in.Dimension))
}

// unnamed lists the ways to write a gallon or pint that do not say whose it is.
var unnamed = map[string]string{"gpm": "gal-%s/min", "gal/min": "gal-%s/min", "gph": "gal-%s/h", "gal/h": "gal-%s/h",
	"gal/hr": "gal-%s/h",
	"gal":    "gal-%s", "gallon": "gal-%s", "gallons": "gal-%s", "pt": "pt-%s", "pint": "pt-%s", "pints": "pt-%s",
	"lb/gal": "lb/gal-%s"}

func gallons(w string, system System) (Unit, bool) {
	id, ok := unnamed[w]
	if !ok {
		return Unit{}, false
	}
	whose := "us"
	if system == Imperial {
		whose = "imp"
	}
	u, ok := byID[fmt.Sprintf(id, whose)]
	return u, ok
}

var bareUnit = strings.NewReplacer(" ", "", ".", "")

// plain is how units are compared: lower case, no spaces, no full stops.
func plain(s string) string { return bareUnit.Replace(strings.ToLower(strings.TrimSpace(s))) }

// forms are the units that a way of writing can mean, one for each dimension.
var forms = func() map[string][]Unit {
	m := map[string][]Unit{}
	for _, u := range units {
		for _, w := range append([]string{plain(u.ID), plain(u.Symbol)}, u.Written...) {
			if w != "" && !slices.ContainsFunc(m[w], func(x Unit) bool { return x.Dimension == u.Dimension }) {
				m[w] = append(m[w], u)
			}
		}
	}
	return m
}()

func value(s string) float64 {
	sign := 1.0
	if rest, ok := strings.CutPrefix(s, "-"); ok {
		s, sign = rest, -1
	}
	s = strings.TrimPrefix(s, "+")
	if whole, fraction, ok := strings.Cut(strings.Replace(s, "-", " ", 1), " "); ok && strings.Contains(fraction, "/") {
		return sign * (value(whole) + value(strings.TrimSpace(fraction)))
	}
	if over, under, ok := strings.Cut(s, "/"); ok {
		return sign * value(over) / value(under)
	}
	v, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	if err != nil {
		return math.NaN()
	}
	return sign * v
}

func clockSeconds(parts []string) float64 {
	total := 0.0
	for _, p := range parts {
		total *= 60
		if p != "" {
			total += value(p)
		}
	}
	return total
}

func symbolsOf(d Dimension) string {
	var list []string
	for _, u := range units {
		if u.Dimension == d && u.Symbol != "" {
			list = append(list, u.Symbol)
		}
	}
	if len(list) == 0 {
		return "a bare number"
	}
	return strings.Join(list, ", ")
}

// examples shows how to write a quantity.
var examples = map[Dimension]string{Temperature: `"71" or "160 F"`, VolumeFlow: `"45" or "12 gpm"`,
	Length: `"9.5" or "3/8 in"`, Time: `"90" or "1:30"`,
	Pressure: `"20" or "6 inHg"`, Volume: `"10" or "2.5 gal"`, Power: `"60" or "80 hp"`}

func example(u Unit) string {
	if e, ok := examples[u.Dimension]; ok {
		return e
	}
	return `"12.5"`
}

// Show writes a value, given in the unit's own terms, with the decimals that are worth showing and never fewer than
// two significant figures.
func (u Unit) Show(v float64) string {
	decimals := u.Decimals
	switch a := math.Abs(v); {
	case a > 1e-9 && a < 10:
		decimals = max(decimals, 1-int(math.Floor(math.Log10(a))))
	case a >= 1000:
		decimals = 0
	}
	s := strconv.FormatFloat(v, 'f', min(decimals, 8), 64)
	if zero, _ := strconv.ParseFloat(s, 64); zero == 0 {
		s = strings.TrimPrefix(s, "-")
	}
	if u.Dimension == None && strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if u.Symbol == "" {
		return s
	}
	return s + " " + u.Symbol
}
