// Package calculator offers the arithmetic of the trade by name: each calculator lists its fields with units and
// ranges, reads what a person typed, and answers with figures, their errors, the working and plain warnings. The
// calculators themselves are the functions of fluid, exchanger, hydraulics, plant, bench, wet and proving.
package calculator

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Calculator is one calculator: what it wants, what it gives, and where it is from.
type Calculator struct {
	Name     string // as in the route
	Asks     string // what a person wants to know
	About    string // when to use it
	Group    string
	Fields   []Field
	Results  []Result
	Notes    []string // what the figures mean exactly
	Sources  []string
	Cautions []string // ids of the trade's cautions that always stand beside it
	Example  string   // a whole question as JSON, which a test answers
	work     func(r *reader) (any, *Reporter, error)
}

// Answer is what a calculator says.
type Answer struct {
	Result      any                   // a struct whose JSON names are those of Sum.Results
	Uncertainty map[string]float64    // one standard deviation of a result, where inputs came with an error
	Working     []Step                // in order
	Warnings    []units.Sentence      // plain sentences
	Cautions    []string              // ids of the trade's cautions that bite here
	Picture     *Picture              // nil when words say it all
	Understood  map[string]Understood // how what was typed was read, by field path
}

// Understood is a field's value in the field's own unit, with the error that came with it.
type Understood struct {
	Value, Error float64
	Unit         string
}

// Step is one line of the working.
type Step struct {
	Say     units.Sentence // what is worked out
	Formula string         // in symbols
	Of      []Term         // what goes in
	Gives   *Term          // what comes out
}

// Term is a symbol with its value.
type Term struct {
	Symbol string
	Value  float64
	Unit   string // id of a unit of package quantity, or words for one that people never choose
}

// Text is the step as a sentence in the units of the calculator.
func (s Step) Text() string {
	var b strings.Builder
	b.WriteString(s.Say.String())
	if s.Formula != "" {
		fmt.Fprintf(&b, ": %s", s.Formula)
	}
	for i, t := range s.Of {
		b.WriteString([]string{", with ", ", "}[min(i, 1)] + t.text())
	}
	if s.Gives != nil {
		b.WriteString(" → " + s.Gives.text())
	}
	return b.String()
}

func (t Term) text() string {
	u, err := units.Find(t.Unit)
	if err != nil {
		return strings.TrimSpace(fmt.Sprintf("%s = %.4g %s", t.Symbol, t.Value, t.Unit))
	}
	return fmt.Sprintf("%s = %s", t.Symbol, u.Show(t.Value))
}

// Reporter is what a calculator says beside its figures.
type Reporter struct {
	working  []Step
	warnings []units.Sentence
	cautions []string
	errors   map[string]float64 // errors that the calculator itself knows, by result
	draw     func() *Picture    // asked for once, not when the calculator is worked again for its error
}

// step notes a line of the working.
func (t *Reporter) step(say units.Sentence, formula string, gives Term, of ...Term) {
	t.working = append(t.working, Step{Say: say, Formula: formula, Of: of, Gives: &gives})
}

// report notes a line of the working that has no figure of its own.
func (t *Reporter) report(words string, args ...any) {
	t.working = append(t.working, Step{Say: units.Say(words, args...)})
}

func (t *Reporter) warn(words string, args ...any) {
	w := sentence(string(units.Say(words, args...)))
	if !strings.HasSuffix(w, ".") && !strings.HasSuffix(w, "?") {
		w += "."
	}
	t.warnings = append(t.warnings, units.Sentence(w))
}

// warnIf warns when something is so.
func (t *Reporter) warnIf(so bool, words string, args ...any) {
	if so {
		t.warn(words, args...)
	}
}

func (t *Reporter) caution(ids ...string) { t.cautions = append(t.cautions, ids...) }

// All lists the calculators, in the order in which they are offered.
func All() []*Calculator { return slices.Clone(catalogue) }

// Find gives the calculator of this name.
func Find(name string) (*Calculator, bool) {
	i := slices.IndexFunc(catalogue, func(s *Calculator) bool { return s.Name == name })
	if i < 0 {
		return nil, false
	}
	return catalogue[i], true
}

// define makes a calculator of a function over its own input.
func define[In, Out any](s Calculator, f func(In, *Reporter) (Out, error)) *Calculator {
	s.work = func(r *reader) (any, *Reporter, error) {
		in := new(In)
		r.into(s.Fields, reflect.ValueOf(in).Elem())
		if err := r.wrong.Err(); err != nil {
			return nil, nil, err
		}
		talk := &Reporter{}
		out, err := f(*in, talk)
		if err == nil {
			err = finite(reflect.ValueOf(out))
		}
		if err != nil {
			return nil, nil, err
		}
		r.spread = func() (map[string]float64, bool) {
			return spread(r.uncertain, reflect.ValueOf(out), func() (Out, error) { return f(*in, &Reporter{}) })
		}
		return out, talk, nil
	}
	return &s
}

// Compute answers the calculator for what was given: JSON values by field name, in which a number may also be a string
// such as "160F", "12 gpm" or "60 ± 1", or an object {value, error}, and rows may also be CSV text or an object of
// columns. What does not fit comes back as input.Errors.
func (s *Calculator) Compute(given map[string]any, system units.System) (Answer, error) {
	r := &reader{system: system, given: given, understood: map[string]Understood{},
		places: map[reflect.Type]map[string]int{}}
	r.unknown(s.Fields, given, "")
	out, talk, err := s.work(r)
	if err != nil {
		return Answer{}, inSystem(err, system)
	}
	a := Answer{Result: out, Working: talk.working, Warnings: talk.warnings, Uncertainty: map[string]float64{},
		Understood: r.understood,
		Cautions:   append(slices.Clone(s.Cautions), talk.cautions...)}
	maps.Copy(a.Uncertainty, talk.errors)
	if talk.draw != nil {
		a.Picture = talk.draw()
	}
	if len(r.uncertain) > 0 {
		certain := true
		var spread map[string]float64
		spread, certain = r.spread()
		for name, u := range spread {
			if _, own := a.Uncertainty[name]; !own {
				a.Uncertainty[name] = u
			}
		}
		if !certain {
			a.Warnings = append(a.Warnings,
				"An error is so large that the calculator cannot be worked at its edges: the uncertainty shown is too small.")
		}
	}
	units.Speak(&a, system)
	return a, nil
}

// inSystem tells slips in the system's own units.
func inSystem(err error, system units.System) error {
	var wrong validation.Errors
	if errors.As(err, &wrong) {
		units.Speak(&wrong, system)
	}
	return err
}

// finite refuses a figure that is none.
func finite(v reflect.Value) error {
	if bad := notFinite(v); bad != "" {
		var wrong validation.Errors
		wrong.Add(bad, "these values together", "values nearer to what an engine does",
			"from these values no figure comes for %s: check them for a slip", bad)
		return wrong
	}
	return nil
}

// notFinite names the first number that is not finite, or "".
func notFinite(v reflect.Value) string {
	switch v.Kind() {
	case reflect.Float64:
		if math.IsNaN(v.Float()) || math.IsInf(v.Float(), 0) {
			return "the result"
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return notFinite(v.Elem())
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if bad := notFinite(v.Field(i)); bad != "" {
				if bad == "the result" {
					return jsonName(v.Type().Field(i))
				}
				return bad
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			if bad := notFinite(v.Index(i)); bad != "" {
				return bad
			}
		}
	}
	return ""
}

// leastSpan is the part of an error that a difference must span to tell a slope.
const leastSpan = 0.01

// spread is the error of every number at the top of the result: the calculator is worked again with each uncertain
// input one error up and one down, within its range, and half the differences are joined in quadrature (JCGM 100:2008,
// 5.1.3 note 2). It is not certain when the calculator cannot be worked at one of those.
func spread[Out any](inputs []uncertain, at reflect.Value, work func() (Out, error)) (map[string]float64, bool) {
	certain := true
	squares := map[string]float64{}
	base := numbers(at)
	shifted := func(u uncertain, v float64) map[string]float64 {
		u.value.SetFloat(v)
		out, err := work()
		u.value.SetFloat(u.at)
		if err == nil {
			err = finite(reflect.ValueOf(out))
		}
		if err != nil {
			certain = false
			return nil
		}
		return numbers(reflect.ValueOf(out))
	}
	for _, u := range inputs {
		low, high := max(u.low, u.at-u.error), min(u.high, u.at+u.error)
		below, above := shifted(u, low), shifted(u, high)
		if below == nil {
			low, below = u.at, base
		}
		if above == nil {
			high, above = u.at, base
		}
		if high-low < leastSpan*u.error { // at the end of its range, and not workable on the other side
			certain = false
			continue
		}
		for name := range base {
			x, okBelow := below[name]
			y, okAbove := above[name]
			if okBelow && okAbove {
				part := (y - x) / (high - low) * u.error
				squares[name] += part * part
			}
		}
	}
	for name, s := range squares {
		if squares[name] = math.Sqrt(s); s == 0 {
			delete(squares, name)
		}
	}
	return squares, certain
}

// numbers are the numbers at the top of a result, by JSON name.
func numbers(v reflect.Value) map[string]float64 {
	m := map[string]float64{}
	for i := range v.NumField() {
		f := v.Field(i)
		if f.Kind() == reflect.Pointer && !f.IsNil() {
			f = f.Elem()
		}
		if f.Kind() == reflect.Float64 {
			m[jsonName(v.Type().Field(i))] = f.Float()
		}
	}
	return m
}

func jsonName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}

// ComputeJSON is Work for a JSON object.
func (s *Calculator) ComputeJSON(body []byte, system units.System) (Answer, error) {
	var given map[string]any
	if err := json.Unmarshal(body, &given); err != nil {
		return Answer{}, fmt.Errorf("this is not a JSON object: %w", err)
	}
	return s.Compute(given, system)
}
