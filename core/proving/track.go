package proving

import (
	"math"
	"slices"
)

// Place is where something is read: "rpm", "sea", "space", "flow", "gauge", "hours" (the meter's), or a station with
// its side.
type Place struct {
	Station string `json:"station"`
	Side    string `json:"side,omitempty"` // "raw" or "coolant"; only at a station that has both
}

// String is the place in one word.
func (p Place) String() string {
	if p.Side == "" {
		return p.Station
	}
	return p.Station + "/" + p.Side
}

// Places that are no station, with the units in which they are kept, as core/quantity names them. Stations are in degC.
var placeUnits = map[string]string{"rpm": "rpm", "flow": "L/min", "sea": "degC", "space": "degC", "gauge": "degC",
	"hours": "h"}

// Unit is the unit in which the place is kept.
func (p Place) Unit() string {
	if u, ok := placeUnits[p.Station]; ok {
		return u
	}
	return "degC"
}

// Free lists the places that are no station.
func Free() []string { return []string{"rpm", "sea", "space", "flow", "gauge", "hours"} }

// Track is what was read at one place over a run, times rising, in s from its begin.
type Track struct {
	Place
	Seconds []float64
	Values  []float64
}

// Len is how many points there are.
func (t Track) Len() int { return len(t.Seconds) }

// Window is the part of a track from one time to another, both included.
func (t Track) Window(from, to float64) Track {
	a, _ := slices.BinarySearch(t.Seconds, from)
	b, found := slices.BinarySearch(t.Seconds, to)
	if found {
		b++
	}
	if b < a {
		b = a
	}
	return Track{t.Place, t.Seconds[a:b], t.Values[a:b]}
}

// Usual is the usual time between two points, in s: the median.
func (t Track) Usual() float64 {
	if t.Len() < 2 {
		return 0
	}
	every := make([]float64, 0, t.Len()-1)
	for i := 1; i < t.Len(); i++ {
		every = append(every, t.Seconds[i]-t.Seconds[i-1])
	}
	return median(every)
}

// A gap is a silence of so many usual times, and of so many seconds at least.
const (
	gapTimes   = 4.0
	gapLeastS  = 5.0
	thinByPair = 2 // points that are kept of a stretch: its lowest and its highest
)

// GapAfterS is the silence from which on a gap is shown as one.
func (t Track) GapAfterS() float64 { return max(gapLeastS, gapTimes*t.Usual()) }

// Breaks are the times of the points after which nothing came for longer than usual.
func (t Track) Breaks() []float64 {
	list, over := []float64{}, t.GapAfterS()
	for i := 1; i < t.Len(); i++ {
		if t.Seconds[i]-t.Seconds[i-1] > over {
			list = append(list, t.Seconds[i-1])
		}
	}
	return list
}

// Thin keeps at most about n points for a drawing: of every stretch its lowest and its highest, so that no spike and no
// gap is lost.
func (t Track) Thin(n int) Track {
	if t.Len() <= n || n < 2*thinByPair {
		return t
	}
	out := Track{Place: t.Place}
	keep := func(i int) {
		if k := len(out.Seconds); k == 0 || out.Seconds[k-1] < t.Seconds[i] {
			out.Seconds, out.Values = append(out.Seconds, t.Seconds[i]), append(out.Values, t.Values[i])
		}
	}
	stretches := (n - 2) / thinByPair
	keep(0)
	for s := range stretches {
		from, to := s*t.Len()/stretches, (s+1)*t.Len()/stretches
		low, high := from, from
		for i := from; i < to; i++ {
			if t.Values[i] < t.Values[low] {
				low = i
			}
			if t.Values[i] > t.Values[high] {
				high = i
			}
		}
		keep(min(low, high))
		keep(max(low, high))
	}
	keep(t.Len() - 1)
	return out
}

// Level is what a track stood at over its last stretch.
type Level struct {
	Mean    float64
	Error   float64 // one standard deviation of the mean, from the scatter alone
	Slope   float64 // per minute
	Points  int
	Seconds float64 // that the stretch really covers
}

// LevelOver is the level over the last so many seconds up to a time; not ok with under three points, or where the last
// point is older than a gap.
func (t Track) LevelOver(until, seconds float64) (Level, bool) {
	w := t.Window(until-seconds, until)
	n := w.Len()
	if n < 3 || until-w.Seconds[n-1] > max(t.GapAfterS(), seconds/2) {
		return Level{}, false
	}
	var st, sv, stt, stv, svv float64
	t0 := w.Seconds[0]
	for i, s := range w.Seconds {
		x, v := s-t0, w.Values[i]-w.Values[0]
		st, sv, stt, stv, svv = st+x, sv+v, stt+x*x, stv+x*v, svv+v*v
	}
	k := float64(n)
	l := Level{Mean: w.Values[0] + sv/k, Points: n, Seconds: w.Seconds[n-1] - t0}
	if tt := stt - st*st/k; tt > 0 {
		slope := (stv - st*sv/k) / tt
		l.Slope = 60 * slope
		rest := max(0, svv-sv*sv/k-slope*(stv-st*sv/k))
		l.Error = math.Sqrt(rest / (k - 2) / k)
	}
	return l, true
}

// Minutes is how long a track stood at or over a value, in min, silences not counted.
func (t Track) Minutes(atLeast float64) float64 {
	sum, over := 0.0, t.GapAfterS()
	for i := 1; i < t.Len(); i++ {
		if dt := t.Seconds[i] - t.Seconds[i-1]; dt <= over && t.Values[i] >= atLeast && t.Values[i-1] >= atLeast {
			sum += dt
		}
	}
	return sum / 60
}

// Most is a track's highest value; not ok when it is empty.
func (t Track) Most() (float64, bool) {
	if t.Len() == 0 {
		return 0, false
	}
	return slices.Max(t.Values), true
}

// CoolantRun makes the samples of a run of a coolant track, with the speed read last before each where one was logged.
func CoolantRun(coolant, rpm Track) []Sample {
	list := make([]Sample, coolant.Len())
	k := -1
	for i, s := range coolant.Seconds {
		list[i] = Sample{Seconds: s, CoolantC: coolant.Values[i]}
		for k+1 < rpm.Len() && rpm.Seconds[k+1] <= s {
			k++
		}
		if k >= 0 && s-rpm.Seconds[k] <= rpm.GapAfterS() {
			list[i].RPM = &rpm.Values[k]
		}
	}
	return list
}
