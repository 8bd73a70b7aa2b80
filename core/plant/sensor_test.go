package plant_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/plant"
)

// A first-order lag: after one time constant all but 1/e of a step is shown, however the time is cut up.
func TestSensorLags(t *testing.T) {
	var whole, parts plant.Sensor
	assert.Equal(t, 20.0, whole.Follow(20, 3))
	parts.Follow(20, 3)
	for range 6 {
		parts.Follow(80, plant.SensorLagS/6)
	}
	assert.InDelta(t, 80-60/math.E, whole.Follow(80, plant.SensorLagS), 1e-9)
	assert.InDelta(t, whole.Follow(80, 1), parts.Follow(80, 1), 1e-9)
}
