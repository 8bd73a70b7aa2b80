package plant_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/plant"
)

func TestAStandingEngineCools(t *testing.T) {
	// worked by hand: 175,000 J/K over 34 W/K is 5147 s; from 95 to 50 °C in 30 °C is ln(65/20) = 1.1787 of it
	assert.InDelta(t, 101.1, plant.StandingMinutes(175, 95, 50, 30), 0.1)
	// twice the block has 2^(2/3) of the surface, and takes 2^(1/3) as long
	assert.InDelta(t, math.Cbrt(2), plant.StandingMinutes(350, 95, 50, 30)/plant.StandingMinutes(175, 95, 50, 30), 1e-9)
	assert.Zero(t, plant.StandingMinutes(175, 50, 50, 30))
	assert.True(t, math.IsInf(plant.StandingMinutes(175, 95, 30, 30), 1))
	// from hot to touch every kind of engine takes one to three hours (handbook of the trade, 9.2)
	for _, k := range plant.Types() {
		minutes := plant.StandingMinutes(k.BlockKJK, plant.HotC, plant.TouchC, plant.StandingSpaceC)
		assert.True(t, 60 <= minutes && minutes <= 180, "%s: %.0f min", k.ID, minutes)
	}
}
