// Package validation gives the one shape in which the core refuses bad input: which field, what was given, what is
// allowed, and a sentence that says what to do.
package validation

import (
	"fmt"
	"strings"
)

// Error is one field that does not fit.
type Error struct {
	Field   string // path of the field, as in findings[2].state
	Given   string
	Allowed string
	Say     string // a plain sentence
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

// Add notes one more field that does not fit.
func (e *Errors) Add(field string, given any, allowed, say string, args ...any) {
	*e = append(*e, &Error{Field: field, Given: fmt.Sprint(given), Allowed: allowed, Say: fmt.Sprintf(say, args...)})
}

// Err is nil when nothing was noted.
func (e Errors) Err() error {
	if len(e) == 0 {
		return nil
	}
	return e
}
