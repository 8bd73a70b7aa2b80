package proving

import "math"

// series is a run with running sums, so that a straight line through any stretch of it costs nothing.
type series struct {
	t, value            []float64
	st, sv, stt, stv, q []float64 // sums of t, value, t², t·value, value² before each sample
	slope, level        []float64 // K/min and °C at each sample, with the noise taken off
}

func newSeries(list []Sample) *series {
	n := len(list)
	s := &series{t: make([]float64, n), value: make([]float64, n), st: make([]float64, n+1), sv: make([]float64, n+1),
		stt: make([]float64, n+1), stv: make([]float64, n+1), q: make([]float64, n+1)}
	t0, v0 := list[0].Seconds, list[0].CoolantC // sums about the first sample keep their figures
	for i, x := range list {
		s.t[i], s.value[i] = x.Seconds, x.CoolantC
		t, v := x.Seconds-t0, x.CoolantC-v0
		s.st[i+1], s.sv[i+1], s.stt[i+1], s.stv[i+1], s.q[i+1] = s.st[i]+t, s.sv[i]+v, s.stt[i]+t*t, s.stv[i]+t*v, s.q[i]+v*v
	}
	s.slope, s.level = s.slopes(slopeWindowS)
	return s
}

// line is a straight line through a stretch, by least squares. Slopes are in K/min.
type line struct {
	first, n          int
	mean              float64 // °C
	slope, slopeError float64
	scatter           float64 // standard deviation round the line, K
	gap               float64 // the largest between two samples, s; only of a window
}

// line fits the samples from one to another, both included.
func (s *series) line(from, to int) line {
	n := float64(to - from + 1)
	st, sv := s.st[to+1]-s.st[from], s.sv[to+1]-s.sv[from]
	tt := s.stt[to+1] - s.stt[from] - st*st/n
	tv := s.stv[to+1] - s.stv[from] - st*sv/n
	vv := s.q[to+1] - s.q[from] - sv*sv/n
	l := line{first: from, n: int(n), mean: s.value[0] + sv/n}
	if tt <= 0 {
		return l
	}
	slope := tv / tt
	rest := max(0, vv-slope*tv)
	if n > 2 {
		l.scatter = math.Sqrt(rest / (n - 2))
		l.slopeError = 60 * l.scatter / math.Sqrt(tt)
	}
	l.slope = 60 * slope
	return l
}

// lineTo fits the window of so many seconds that ends with a sample.
func (s *series) lineTo(end int, window float64) line {
	from := end
	for from > 0 && s.t[end]-s.t[from-1] <= window+1e-9 {
		from--
	}
	l := s.line(from, end)
	for i := from + 1; i <= end; i++ {
		l.gap = max(l.gap, s.t[i]-s.t[i-1])
	}
	return l
}

// slopes is the slope in K/min at every sample, from a window of so many seconds about it (wider where samples are
// sparse), and the level of the line there.
func (s *series) slopes(window float64) (slope, level []float64) {
	n := len(s.t)
	half := max(window, 2.2*(s.t[n-1]-s.t[0])/float64(n-1)) / 2
	slope, level = make([]float64, n), make([]float64, n)
	from, to := 0, 0
	for i := range n {
		for s.t[i]-s.t[from] > half {
			from++
		}
		for to < n-1 && s.t[to+1]-s.t[i] <= half {
			to++
		}
		a, b := from, to
		if b-a < 2 { // three samples at least
			a, b = max(0, i-1), min(n-1, i+1)
		}
		l := s.line(a, b)
		middle := s.t[0] + (s.st[b+1]-s.st[a])/float64(b-a+1)
		slope[i], level[i] = l.slope, l.mean+l.slope/60*(s.t[i]-middle)
	}
	return slope, level
}

// point is a moment of a run with its temperature.
type point struct{ t, c float64 }

// where is the point between a sample and the one before it at which the slope passes a rate.
func (s *series) where(i int, rate float64) *point {
	share := (s.slope[i-1] - rate) / (s.slope[i-1] - s.slope[i])
	return &point{s.t[i-1] + share*(s.t[i]-s.t[i-1]), s.level[i-1] + share*(s.level[i]-s.level[i-1])}
}
