package maintenance

import (
	"fmt"
	"math"
	"time"
)

// Forecast is when growth meets a limit, as a span: with 5 % it is met before Early, with 5 % after Late. A time that
// is zero lies beyond what can be told; Late above all.
type Forecast struct {
	Growth      Growth
	Limit       float64
	Likely      time.Time
	Early, Late time.Time
	Hours       float64 // engine hours at Likely; 0 where that is not told
	Met         bool    // as fitted it is met today
	Say         string  // why there is no date, or what is odd about it; empty otherwise
}

// sure is the part of the forecast's distribution on either side of the span: 90 % lie within.
const sure = 0.95

// Predict says when points that grow over the engine's hours meet a limit above them, by the engine's use from today
// on. With too few points, too noisy ones, or no growth to be seen it says so and gives no date. The span takes in the
// errors of the fit and how much the engine's use differs from the usual (after E. C. Fieller, Journal of the Royal
// Statistical Society B 16 (1954) 175-185: the days on which the limit is not ruled out).
func Predict(points []Point, limit float64, life RunningHours, today time.Time) (Forecast, error) {
	g, err := Fit(points)
	if err != nil {
		return Forecast{}, err
	}
	return g.Predict(limit, life, today)
}

// Predict is the same for growth that was fitted before.
func (g Growth) Predict(limit float64, life RunningHours, today time.Time) (Forecast, error) {
	f := Forecast{Growth: g, Limit: limit}
	now, _, hours := life.At(today)
	if !hours {
		return f, &TooLittle{"the engine's hours are not known: put the meter's reading in"}
	}
	value, _ := g.At(now)
	f.Met = value >= limit
	if !f.Met && !g.Significant {
		f.Say = "no growth is to be seen beyond the scatter of the readings"
	}
	if _, use := life.Confirmed(); !use {
		f.Say = "how much it is used is not known: a second reading of the meter tells it"
		return f, nil
	}
	z := g.quantile(sure)
	beyond := func(k float64) func(time.Time) bool {
		return func(t time.Time) bool { return margin(g, limit, life, t) >= k }
	}
	start := today
	if f.Met {
		start = startOf(life, g)
	}
	f.Early, _ = firstDay(start, beyond(-z))
	if f.Say != "" {
		return f, nil
	}
	f.Likely, _ = firstDay(start, beyond(0))
	f.Late, _ = firstDay(start, beyond(z))
	if f.Likely.IsZero() {
		f.Say = "it does not reach the limit within fifteen years"
		if level, ok := g.LevelsOff(); ok && level < limit {
			f.Say = fmt.Sprintf("it levels off at %.3g, short of the limit", level)
		}
		return f, nil
	}
	f.Hours, _, _ = life.At(f.Likely)
	return f, nil
}

// startOf is the day of the first point.
func startOf(life RunningHours, g Growth) time.Time {
	t, _ := life.When(g.From, life.days[len(life.days)-1])
	return t
}

// margin is by how many of its errors the growth lies above the limit on a day.
func margin(g Growth, limit float64, life RunningHours, t time.Time) float64 {
	hours, off, _ := life.At(t)
	value, err := g.At(hours)
	e := math.Hypot(err, g.Slope(hours)*off)
	if e < smallestError {
		e = smallestError
	}
	return (value - limit) / e
}
