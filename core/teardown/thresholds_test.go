package teardown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/teardown"
)

// A sound impeller may go back up to half of its hours, and not beyond; at its hours it goes.
func TestASoundImpellerGoesBackUpToHalfItsHours(t *testing.T) {
	for hours, want := range map[float64]string{1: teardown.ReuseIt, 149: teardown.ReuseIt, 150: teardown.Replace,
		200: teardown.Replace, 239: teardown.Replace, 299: teardown.Replace, 300: teardown.Replace} {
		w := wheel(teardown.Sound, teardown.Sound, teardown.Sound)
		w.Hours, w.Life = hours, 300
		verdict, _ := w.Judge(true)
		assert.Equal(t, want, verdict, "%g of 300 h", hours)
	}
}
