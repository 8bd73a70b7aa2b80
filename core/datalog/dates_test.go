package datalog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A date that can be read both ways has its day first, unless another row of the file can only have its month first.
func TestADateThatCanBeReadBothWays(t *testing.T) {
	for name, c := range map[string]struct{ first, second, third string }{
		"the day first":               {"03/04/2026 23:59:30", "04/04/2026 00:00:00", "04/04/2026 00:00:30"},
		"the month first, by one row": {"05/12/2026 23:59:30", "05/13/2026 00:00:00", "05/13/2026 00:00:30"},
	} {
		_, taken := guessed(t, "Timestamp,Coolant (C)\n"+c.first+",20\n"+c.second+",21\n"+c.third+",22\n")
		assert.Equal(t, []float64{0, 30, 60}, track(t, taken, coolant).Seconds, name)
	}
}
