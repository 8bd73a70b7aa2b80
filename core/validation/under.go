package validation

import (
	"errors"
	"strings"
)

// Under puts the fields of an error under a part of the question: speed becomes engine.speed. Other errors stay as they
// are.
func Under(part string, err error) error {
	var wrong Errors
	if errors.As(err, &wrong) {
		for _, w := range wrong {
			w.Field = part + "." + w.Field
		}
	}
	return err
}

// Renamed puts the fields of an error that begin with from under to instead. Other errors stay as they are.
func Renamed(err error, from, to string) error {
	var wrong Errors
	if errors.As(err, &wrong) {
		for _, w := range wrong {
			if rest, ok := strings.CutPrefix(w.Field, from); ok {
				w.Field = to + rest
			}
		}
	}
	return err
}
