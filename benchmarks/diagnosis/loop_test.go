//go:build !race

package main

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// Over 200 drawn jobs quickest needs at most 45 % of along-the-water's minutes, and hardly anything is called found
// that is not there. A fault left behind at "done" must stay under 4 %; 2 % are allowed for the draw, one standard
// error being 1.3 % in 200 jobs (the bench itself draws more: docs/benchmark-diagnosis.md).
func TestQuickestIsWellUnderHalfOfAlongTheWater(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	got, err := run(c, 200, 3, diagnosis.Quickest, diagnosis.AlongTheWater)
	require.NoError(t, err)
	quickest, water := got.mean(diagnosis.Quickest), got.mean(diagnosis.AlongTheWater)
	assert.LessOrEqual(t, quickest/water, 0.45, "quickest %.1f, in flow order %.1f minutes", quickest, water)
	assert.Less(t, got.share(diagnosis.Quickest, func(r result) bool { return r.falseFound }), 0.015)
	assert.Less(t, got.share(diagnosis.Quickest, func(r result) bool { return r.leftBehind }), 0.06)
	knowing := 0.0
	for _, x := range got.oracle {
		knowing += x / float64(len(got.oracle))
	}
	assert.Less(t, knowing, quickest, "nobody beats knowing the cause")
}

// The drawing follows the base rates and the model's own chances.
func TestTheDrawingFollowsTheModel(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(5, 6))
	const n = 4000
	two, scaled, seen, strainer := 0.0, 0.0, 0.0, 0.0
	for range n {
		w := drawAny(r, c, catalogue.Closed)
		two += float64(len(w.faults) - 1)
		if w.faults[0] == "tubes-scaled" {
			scaled++
		}
		if len(w.faults) == 1 && w.faults[0] == "strainer-clogged" {
			strainer++
			if w.findings["debris-in-strainer"] {
				seen++
			}
		}
	}
	f, _ := c.Family(catalogue.Closed)
	sum := 0.0
	for _, x := range c.FaultsOn(catalogue.Closed, f.Circuit) {
		sum += x.Prior
	}
	assert.InDelta(t, twoFaults, two/n, 4*math.Sqrt(0.2*0.8/n))
	assert.InDelta(t, 0.08/sum, scaled/n, 4*math.Sqrt(0.07/n))
	assert.InDelta(t, 0.95, seen/strainer, 4*math.Sqrt(0.05/strainer))
}
