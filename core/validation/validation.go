// Package validation gives the one shape in which the core refuses bad input: which field, what was given, what is
// allowed, and a sentence that says what to do.
package validation

import (
	"fmt"
	"strings"

	"hevrin/core/units"
)

// Error is one field that does not fit.
type Error struct {
	Field   string // path of the field, as in findings[2].state
	Given   string
	Allowed units.Sentence
	Say     units.Sentence // a plain sentence
}

// Error says it in words.
func (e *Error) Error() string {
	return fmt.Sprintf("%s: %s (given %s; allowed: %s)", e.Field, e.Say, e.Given, e.Allowed)
}

// Errors is everything that does not fit, so that a person can mend it in one go.
type Errors []*Error

// Error says it in words.
func (e Errors) Error() string {
	lines := make([]string, len(e))
	for i, x := range e {
		lines[i] = x.Error()
	}
	return strings.Join(lines, "; ")
}

// Add notes one more field that does not fit; say and its values are those of units.Say.
func (e *Errors) Add(field string, given any, allowed units.Sentence, say string, args ...any) {
	*e = append(*e, &Error{Field: field, Given: fmt.Sprint(given), Allowed: allowed, Say: units.Say(say, args...)})
}

// Err is nil when nothing was noted.
func (e Errors) Err() error {
	if len(e) == 0 {
		return nil
	}
	return e
}
