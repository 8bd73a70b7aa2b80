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
var coolantPlaces = []Place{{"thermostat", "coolant"}, {"block", "coolant"}, {"thermostat", "raw"}, {"block", "raw"}, {"gauge", ""}}

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
// stretch at cruising speed or above: an engine that idles afterwards says nothing against it.
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
	out.Result = Run{RatingC: e.RatingC, Samples: CoolantRun(judged, rpm), Load: load, PlateauMinutes: 5, SlopeCMin: 0.3, BelowC: 4, AboveC: UsualAbove[load]}.Judge()
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

func upToCruise(coolant, rpm Track, e Engine) (Track, Load) {
	end := math.Inf(1)
	at := 0.0
	for i := rpm.Len() - 1; i >= 0; i-- {
		if rpm.Values[i] >= CruiseOfRated*e.RatedRPM {
			end, at = rpm.Seconds[i], rpm.Values[i]
			break
		}
	}
	switch {
	case rpm.Len() == 0:
		return coolant, Cruise
	case math.IsInf(end, 1):
		return coolant, Idle
	}
	if l, ok := rpm.LevelOver(end, slopeNowS); ok {
		at = l.Mean
	}
	if at >= fullShare*e.RatedRPM {
		return coolant.Window(0, end), Full
	}
	return coolant.Window(0, end), Cruise
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
	return Warmed{Recording: recording, Load: a.Load, Verdict: a.Verdict, OpenedC: a.OpenedC, PlateauC: a.PlateauC, Slope: a.SlopeCMin, Overshoot: a.OvershootC, SteadyS: a.SteadyAfterS, Reasons: a.Reasons, GaugeOffC: a.GaugeOffC}
}
