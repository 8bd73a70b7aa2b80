package report

import (
	"strings"
	"time"

	"hevrin/core/units"
)

// say puts a sentence into the reader's units.
func (b *builder) say(template string, values ...any) string {
	return units.Say(template, values...).In(b.r.System)
}

// Day is a day in words, as in 1 May 2026.
func Day(t time.Time) string { return t.Format("2 January 2006") }

// Capital begins a sentence with a capital letter.
func Capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// Lower is a label within a sentence.
func Lower(s string) string {
	if len(s) < 2 || s[1] >= 'A' && s[1] <= 'Z' { // as UA
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}
