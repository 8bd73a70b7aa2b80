package validation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/validation"
)

func TestNames(t *testing.T) {
	for _, s := range []string{"Kit Venn", "Å", "замок", "船", "M/V 7", "Zo\u0301e", "a\u200db", "🚤"} {
		assert.True(t, validation.IsName(s), "%q", s)
	}
	for _, s := range []string{"", " ", "\t", "\u00a0\u2003", "\u200b", "\u200d\u200c", "\u3164", "\u2800", "\u0301", "\ufeff",
		"Kit\nVenn", "Kit\x00", "Kit\x1b[2J", "\u202eneV tiK", "Kit\u2066", "\xff"} {
		assert.False(t, validation.IsName(s), "%q", s)
	}
}
