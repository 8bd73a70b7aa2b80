package proving

import "math"

// Engine is what a recording is judged by.
type Engine struct {
	RatingC  float64 // of the thermostat
	RatedRPM float64
	AlarmC   float64
}

// Analysis is what a recording shows, while it goes on or after. What does not show is nil.
type Analysis struct {
	Result
	Samples int
	Load    Load // at which it was judged
	Place   Place
	// NowC is the coolant over the last ten seconds, and SlopeNow its slope over the last minute.
	NowC, SlopeNow *float64
	// ToRatingMin is how many minutes it takes to the thermostat's rating at this slope; nil where it does not rise there.
	ToRatingMin *float64
	// SteadyAfterS is from the start of the engine, or of the recording, to the plateau.
	SteadyAfterS *float64
	// GaugeOffC is the gauge less the coolant over the plateau, or over the last minutes where there is none.
	GaugeOffC, GaugeOffError *float64
	CruiseMinutes, TopRPM    *float64
	OverAlarm                bool
}

// coolantPlaces are where the coolant's temperature is told, the best first.
var coolantPlaces = []Place{{"thermostat", "coolant"}, {"block", "coolant"}, {"thermostat", "raw"}, {"block", "raw"},
	{"gauge", ""}}

// Stretches over which a recording is looked at, in s.
const (
	nowS       = 10.0
	slopeNowS  = 60.0
	gaugeOverS = 180.0
	turningRPM = 200.0
	fullShare  = 0.95
)

// TrackOf finds the track of a place; empty when there is none.
func TrackOf(tracks []Track, p Place) Track {
	for _, t := range tracks {
		if t.Place == p {
			return t
		}
	}
	return Track{Place: p}
}

// CoolantOf finds the track that tells the coolant best; not ok when none does.
func CoolantOf(tracks []Track) (Track, bool) {
	for _, p := range coolantPlaces {
		if t := TrackOf(tracks, p); t.Len() > 0 {
			return t, true
		}
	}
	return Track{}, false
}

// Analyse looks at the tracks of a recording. Where the speed was recorded, the run is judged up to the end of its last
// long stretch at cruising speed or above: an engine that idles afterwards says nothing against it.
func Analyse(tracks []Track, e Engine) Analysis {
	var out Analysis
	rpm := TrackOf(tracks, Place{Station: "rpm"})
	if most, ok := rpm.Most(); ok {
		minutes := rpm.Minutes(CruiseOfRated * e.RatedRPM)
		out.TopRPM, out.CruiseMinutes = &most, &minutes
	}
	coolant, ok := CoolantOf(tracks)
	if !ok || coolant.Len() < LeastSamples {
		out.Verdict = TooShort
		out.say("%d samples of the coolant so far, and %d are needed", coolant.Len(), LeastSamples)
		return out
	}
	out.Place, out.Samples = coolant.Place, coolant.Len()
	last := coolant.Seconds[coolant.Len()-1]
	out.now(coolant, last, e)
	judged, load := upToCruise(coolant, rpm, e)
	out.Load = load
	out.Result = Run{RatingC: e.RatingC, Samples: CoolantRun(judged, rpm), Load: load, PlateauMinutes: 5, SlopeCMin: 0.3,
		BelowC: UsualBelow, AboveC: UsualAbove[load]}.Judge()
	start := coolant.Seconds[0]
	for i, v := range rpm.Values {
		if v > turningRPM {
			start = rpm.Seconds[i]
			break
		}
	}
	if from := out.PlateauFromS; from != nil {
		after := max(0, *from-start)
		out.SteadyAfterS = &after
	}
	out.gauge(tracks, coolant, last)
	return out
}

func (a *Analysis) now(coolant Track, last float64, e Engine) {
	if l, ok := coolant.LevelOver(last, max(nowS, 4*coolant.Usual())); ok {
		a.NowC = &l.Mean
		a.OverAlarm = e.AlarmC > 0 && l.Mean >= e.AlarmC
	}
	if l, ok := coolant.LevelOver(last, max(slopeNowS, 6*coolant.Usual())); ok {
		a.SlopeNow = &l.Slope
		if a.NowC != nil && *a.NowC < e.RatingC && l.Slope > 0.3 {
			minutes := (e.RatingC - *a.NowC) / l.Slope
			a.ToRatingMin = &minutes
		}
	}
}

// stretch is a time over which the engine ran in one band of speed.
type stretch struct {
	from, to float64
	band     Load
}

// bandOf is how hard an engine works at a speed.
func bandOf(rpm float64, e Engine) Load {
	switch {
	case rpm >= fullShare*e.RatedRPM:
		return Full
	case rpm >= CruiseOfRated*e.RatedRPM:
		return Cruise
	}
	return Idle
}

// stretchesOf cuts a run by its speed; a moment in another band that is shorter than blinkS cuts nothing.
func stretchesOf(rpm Track, e Engine) []stretch {
	var list []stretch
	for i, v := range rpm.Values {
		at, band := rpm.Seconds[i], bandOf(v, e)
		n := len(list)
		if n > 0 && list[n-1].band == band {
			list[n-1].to = at
			continue
		}
		if n > 1 && list[n-2].band == band && at-list[n-1].from < blinkS { // back again: that was a moment
			list = list[:n-1]
			list[n-2].to = at
			continue
		}
		list = append(list, stretch{at, at, band})
	}
	return list
}

// blinkS is shorter than any change of speed that is meant, in s.
const blinkS = 20.0

// settleS is a plateau of five minutes and the time to get there, in s.
const settleS = 390.0

// upToCruise is the coolant up to the end of the stretch by which a run is judged: the last one at cruising speed or
// above that was long enough to settle in, else the last one at all. A burst at full speed at the end does not undo the
// plateau before it.
func upToCruise(coolant, rpm Track, e Engine) (Track, Load) {
	if rpm.Len() == 0 {
		return coolant, Cruise
	}
	var last, long *stretch
	list := stretchesOf(rpm, e)
	for i, s := range list {
		if s.band == Idle {
			continue
		}
		last = &list[i]
		if s.to-s.from >= settleS {
			long = &list[i]
		}
	}
	if long != nil {
		last = long
	}
	if last == nil {
		return coolant, Idle
	}
	return coolant.Window(0, last.to), last.band
}

func (a *Analysis) gauge(tracks []Track, coolant Track, last float64) {
	gauge := TrackOf(tracks, Place{Station: "gauge"})
	if coolant.Station == "gauge" || gauge.Len() == 0 {
		return
	}
	until, over := last, gaugeOverS
	if a.PlateauToS != nil {
		until, over = *a.PlateauToS, min(*a.PlateauToS-*a.PlateauFromS, 2*gaugeOverS)
	}
	g, ok := gauge.LevelOver(until, over)
	c, ok2 := coolant.LevelOver(until, over)
	if ok && ok2 {
		off, spread := g.Mean-c.Mean, math.Hypot(g.Error, c.Error)
		a.GaugeOffC, a.GaugeOffError = &off, &spread
	}
}

// Warmed is the analysis as a run keeps it.
func (a Analysis) Warmed(recording string) Warmed {
	return Warmed{Recording: recording, Load: a.Load, Verdict: a.Verdict, OpenedC: a.OpenedC, PlateauC: a.PlateauC,
		Slope: a.SlopeCMin, Overshoot: a.OvershootC, SteadyS: a.SteadyAfterS, Reasons: a.Reasons, GaugeOffC: a.GaugeOffC}
}
