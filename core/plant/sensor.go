package plant

import "math"

// A probe in a pocket, as boats have them: how long it lags, in s, and its noise in K, one standard deviation. Memory.
const (
	SensorLagS   = 6.0
	SensorNoiseK = 0.25
)

// Sensor follows what it sits on, late. The zero value shows at once what it is held to first.
type Sensor struct {
	shows float64
	held  bool
}

// Follow is what it shows after so many seconds on something.
func (s *Sensor) Follow(to, seconds float64) float64 {
	if !s.held {
		s.shows, s.held = to, true
	}
	s.shows = to + (s.shows-to)*math.Exp(-seconds/SensorLagS)
	return s.shows
}
