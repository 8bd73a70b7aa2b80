//go:build !race

package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Over 500 drawn engines with a fault at a middling severity the fault, or one that cannot be told from it, stands in
// the top three in at least 90 %; of as many healthy ones under 3 % raise a finding (one standard error is 0.8 %).
func TestReadingsTellTheFault(t *testing.T) {
	got, err := run(500, 500, 7, false, idleAndFull)
	require.NoError(t, err)
	three, first := got.shares()
	assert.GreaterOrEqual(t, three, 0.90)
	assert.GreaterOrEqual(t, first, 0.75)
	assert.Less(t, float64(got.anyRaised)/float64(got.healthy), 0.03)
}

// Compared with its own healthy rounds, an engine shows its faults better, at a lower threshold.
func TestABaselineTellsMore(t *testing.T) {
	got, err := run(150, 150, 11, true, idleAndFull)
	require.NoError(t, err)
	three, first := got.shares()
	assert.GreaterOrEqual(t, three, 0.93)
	assert.GreaterOrEqual(t, first, 0.85)
	assert.Less(t, float64(got.anyRaised)/float64(got.healthy), 0.03)
}
