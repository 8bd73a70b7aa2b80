package validation

import (
	"strings"
	"unicode"
)

// IsName says whether a text can be somebody's or something's name: something of it is seen, and none of it is a
// control character or turns the direction of what is written after it (Unicode's Cc and the bidirectional controls of
// UAX 9, 2). Two names could look alike otherwise, or like none.
func IsName(s string) bool {
	seen := false
	for _, r := range s {
		switch {
		case unicode.IsControl(r), unicode.Is(unicode.Bidi_Control, r), r == unicode.ReplacementChar:
			return false
		case unicode.IsGraphic(r) && !unicode.IsSpace(r) && !strings.ContainsRune("\u115f\u1160\u2800\u3164\uffa0", r) &&
			!unicode.IsMark(r): // those five are letters without a form
			seen = true
		}
	}
	return seen
}
