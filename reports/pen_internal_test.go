package reports

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What letters can show is shown, in the order in which it is seen; what none can show leaves a mark.
func TestWordsAreShownOrReplacedVisibly(t *testing.T) {
	for words, want := range map[string]struct {
		shown string
		more  bool
	}{
		"Bella":            {"Bella", false},
		"µ ± °C Ѐ ΑΒΓ ẞ":   {"µ ± °C Ѐ ΑΒΓ ẞ", true},
		"Bella 👍":          {"Bella \uFFFD", true},
		"海":                {"\uFFFD", true},
		"אב":               {"אב", true},
		"a\r\n\tb\x00\x1b": {"a   b", false},
		"\u202Ea\u200Db":   {"ab", false},
	} {
		shown, more := printable(words)
		assert.Equal(t, want.shown, shown, "%q", words)
		assert.Equal(t, want.more, more, "%q", words)
	}
	assert.Equal(t, "a גבא b", visual("a אבג b"))
	assert.Equal(t, "12 a", visual("12 a"))
}
