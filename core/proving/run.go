// Package proving judges test runs.
package proving

import (
	"math"
	"slices"

	"hevrin/core/units"
)

// Sample is one reading of a run. RPM is nil where the speed was not noted.
type Sample struct {
	Seconds  float64  `json:"seconds"`
	CoolantC float64  `json:"coolant_c"`
	RPM      *float64 `json:"rpm,omitempty"`
}

// Load says how hard the engine worked at the end of a run.
type Load string

// The loads. An idling engine may never come up to its thermostat; at full power it may stand higher above it.
const (
	Idle   Load = "idle"
	Cruise Load = "cruise"
	Full   Load = "full"
)

// Loads lists the loads.
var Loads = []Load{Cruise, Full, Idle}

// UsualAbove is how far above the rating the plateau of a healthy engine may stand, in K: handbook of the trade, found
// on whole-engine models.
var UsualAbove = map[Load]float64{Idle: 8, Cruise: 8, Full: 13}

// UsualBelow is how far below the rating it may stand at work, in K: common practice.
const UsualBelow = 4.0

// Run is a run to be judged.
type Run struct {
	RatingC        float64
	Samples        []Sample // at least LeastSamples, times rising
	Load           Load
	PlateauMinutes float64
	SlopeCMin      float64 // the plateau's slope with its standard error stays under this, either way
	BelowC, AboveC float64 // how far the plateau may stand from the rating
}

// Verdict is what a run proves.
type Verdict string

// The verdicts.
const (
	Steady      Verdict = "steady"
	StillRising Verdict = "still-rising"
	BelowRating Verdict = "below-rating"
	AboveRating Verdict = "above-rating"
	TooShort    Verdict = "too-short"
	Unsteady    Verdict = "unsteady"
)

// What a run must hold to be judged, and what counts as odd.
const (
	LeastSamples   = 10
	leastInPlateau = 5
	LargestGapS    = 120.0 // within the plateau
	slopeWindowS   = 60.0
	oddByC         = 3.0  // a sample this far off its neighbours' median, and …
	oddByMAD       = 4.5  // … this many times their scatter, is odd
	neighbours     = 5    // either side
	coarseS        = 30.0 // so far apart, what lies between the sample before and the one after is the rise itself
	mostScatterC   = 2.0  // of a plateau round its line: more, and it hunts
	edgeC          = 1.0  // off its mean, where a plateau begins
	leastRiseC     = 10   // of a warm-up that can show a knee
	kneeWithinC    = 6.0  // from two thirds to one third of the warm-up rate
	kneeBelowC     = 15.0
	stoppedRPM     = 200.0
)

// Result is what the run shows; what was not seen is nil.
type Result struct {
	OpenedAtS, OpenedC     *float64
	PlateauC, PlateauFromS *float64
	PlateauToS             *float64
	SlopeCMin, SlopeErrorC *float64 // of the plateau, or of the end of the run when there is none
	WarmUpCMin, OvershootC *float64
	Odd                    []int // indices of the samples left out
	Verdict                Verdict
	Reasons                []units.Sentence
}

// Judge says what a run proves.
func (r Run) Judge() Result {
	kept, odd := r.withoutOdd()
	out := Result{Odd: odd}
	if len(odd) > 0 {
		out.say("%d odd %s left out, the first at %.0f s", len(odd), plural(len(odd), "sample"), r.Samples[odd[0]].Seconds)
	}
	kept = running(kept)
	if len(kept) < LeastSamples {
		out.Verdict = TooShort
		out.say("%d samples of the running engine are left, and %d are needed", len(kept), LeastSamples)
		return out
	}
	s := newSeries(kept)
	r.knee(s, &out)
	r.plateau(s, &out)
	return out
}

func (out *Result) say(words string, args ...any) {
	out.Reasons = append(out.Reasons, units.Say(words, args...))
}

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}

// withoutOdd takes out the samples that stand alone: far from the median of their neighbours, and by far more than
// those scatter (F. R. Hampel's identifier, Journal of the American Statistical Association 69 (1974) 383-393).
func (r Run) withoutOdd() (kept []Sample, odd []int) {
	near, off := make([]float64, 0, 2*neighbours), make([]float64, 0, 2*neighbours)
	kept = make([]Sample, 0, len(r.Samples))
	for i, s := range r.Samples {
		near, off = near[:0], off[:0]
		for j := max(0, i-neighbours); j <= min(len(r.Samples)-1, i+neighbours); j++ {
			if j != i {
				near = append(near, r.Samples[j].CoolantC)
			}
		}
		middle := median(near)
		d := math.Abs(s.CoolantC - middle)
		if d <= oddByC || r.between(i) {
			kept = append(kept, s)
			continue
		}
		for _, n := range near {
			off = append(off, math.Abs(n-middle))
		}
		if d > oddByMAD*median(off) {
			odd = append(odd, i)
			continue
		}
		kept = append(kept, s)
	}
	return kept, odd
}

// between tells whether a sample, of those that were read seldom, lies between the one before and the one after:
// typed a line a minute, a warm-up rises by more from line to line than its neighbours scatter.
func (r Run) between(i int) bool {
	if i == 0 || i == len(r.Samples)-1 {
		return false
	}
	before, at, after := r.Samples[i-1], r.Samples[i], r.Samples[i+1]
	return after.Seconds-before.Seconds >= 2*coarseS && (at.CoolantC-before.CoolantC)*(after.CoolantC-at.CoolantC) >= 0
}

// median sorts the list.
func median(list []float64) float64 {
	slices.Sort(list)
	n := len(list)
	if n == 0 {
		return 0
	}
	return (list[n/2] + list[(n-1)/2]) / 2
}

// running leaves out the end of a run after which the engine stood still.
func running(list []Sample) []Sample {
	end := len(list)
	for end > 0 && list[end-1].RPM != nil && *list[end-1].RPM < stoppedRPM {
		end--
	}
	return list[:end]
}

// knee finds where the thermostat opened: where the rate of rise falls from two thirds to one third of the warm-up's
// own, within 6 K and not more than 15 K below the rating. The warm-up's rate is the median of the slopes between a
// quarter and three quarters of the rise.
func (r Run) knee(s *series, out *Result) {
	slopes, level := s.slope, s.level
	top := slices.Max(level)
	start := level[0]
	if top-start < leastRiseC {
		return
	}
	var rates []float64
	for i, t := range level {
		if share := (t - start) / (top - start); share > 0.25 && share < 0.75 && slopes[i] > 0 {
			rates = append(rates, slopes[i])
		}
		if t >= top-0.25*(top-start) {
			break
		}
	}
	rate := median(rates)
	if rate <= 0 {
		return
	}
	out.WarmUpCMin = &rate
	var began *point
	for i := 1; i < len(slopes); i++ {
		if slopes[i-1] >= rate*2/3 && slopes[i] < rate*2/3 {
			began = s.where(i, rate*2/3)
		}
		if began == nil || slopes[i] > rate/3 || slopes[i-1] <= rate/3 {
			continue
		}
		if opened := s.where(i, rate/3); opened.c >= r.RatingC-kneeBelowC && opened.c-began.c <= kneeWithinC {
			out.OpenedAtS, out.OpenedC = &opened.t, &opened.c
			return
		}
		began = nil
	}
}

// plateau judges the end of the run, or the last plateau before an engine that was slowed.
func (r Run) plateau(s *series, out *Result) {
	window := r.PlateauMinutes * 60
	last := len(s.t) - 1
	if s.t[last]-s.t[0] < window {
		out.Verdict = TooShort
		out.say("the run is %.1f minutes long, and a plateau takes %.0f", (s.t[last]-s.t[0])/60, r.PlateauMinutes)
		return
	}
	end := s.lineTo(last, window)
	if end.gap > LargestGapS || end.n < leastInPlateau {
		out.Verdict = TooShort
		out.say("the last %.0f minutes have a gap of %.0f s or too few samples to judge: go on logging", r.PlateauMinutes,
			end.gap)
		return
	}
	// too noisy to say: a longer stretch tells more
	for share := 1.25; share <= 2 && !r.level(end) && math.Abs(end.slope) < r.SlopeCMin; share += 0.25 {
		if longer := s.lineTo(last, share*window); r.level(longer) {
			end = longer
		}
	}
	since := math.Inf(1)
	if out.OpenedAtS != nil {
		since = s.t[last] - *out.OpenedAtS
	}
	switch {
	case r.level(end):
		r.judgePlateau(s, last, end, out)
	case since < window:
		out.Verdict = TooShort
		out.SlopeCMin, out.SlopeErrorC = &end.slope, &end.slopeError
		out.say("the thermostat opened %.1f minutes before the end: run on until it has stood %.0f minutes", since/60,
			r.PlateauMinutes)
	case end.slope-end.slopeError > 0 && end.scatter <= mostScatterC:
		out.Verdict = StillRising
		out.SlopeCMin, out.SlopeErrorC = &end.slope, &end.slopeError
		out.say("the coolant still rises by %.2f at %.1f", units.Within(end.slope, end.slopeError, "K/min"),
			units.Of(end.mean, "degC"))
	default:
		if i, line, ok := r.lastPlateau(s, window); ok && end.slope < 0 {
			out.say("the coolant falls at the end: judged by the plateau before")
			r.judgePlateau(s, i, line, out)
			return
		}
		out.Verdict = Unsteady
		out.SlopeCMin, out.SlopeErrorC = &end.slope, &end.slopeError
		out.say("the last %.0f minutes go at %+.2f and scatter by %.1f: no plateau", r.PlateauMinutes,
			units.Within(end.slope, end.slopeError, "K/min"), units.Of(end.scatter, "K"))
	}
}

func (r Run) level(l line) bool {
	return math.Abs(l.slope)+l.slopeError < r.SlopeCMin && l.scatter <= mostScatterC && l.gap <= LargestGapS &&
		l.n >= leastInPlateau
}

// lastPlateau is the latest window that is level.
func (r Run) lastPlateau(s *series, window float64) (int, line, bool) {
	for i := len(s.t) - 1; i >= 0 && s.t[i]-s.t[0] >= window; i-- {
		if l := s.lineTo(i, window); r.level(l) {
			return i, l, true
		}
	}
	return 0, line{}, false
}

// judgePlateau goes back from a level window as far as the coolant stood, then compares it with the rating.
func (r Run) judgePlateau(s *series, end int, l line, out *Result) {
	from := l.first
	for from > 0 {
		if s.t[from]-s.t[from-1] > LargestGapS || math.Abs(s.level[from-1]-l.mean) > edgeC || !r.level(s.line(from-1, end)) {
			break
		}
		from--
	}
	mean, first, last := l.mean, s.t[from], s.t[end]
	out.PlateauC, out.PlateauFromS, out.PlateauToS = &mean, &first, &last
	out.SlopeCMin, out.SlopeErrorC = &l.slope, &l.slopeError
	over := max(0, slices.Max(s.level[:end+1])-mean)
	out.OvershootC = &over
	above, below := mean-r.RatingC, r.RatingC-mean
	switch {
	case above > r.AboveC:
		out.Verdict = AboveRating
		out.say("it stands at %.1f, %.1f over the thermostat's %.0f (allowed %.0f)", units.Of(mean, "degC"),
			units.Of(above, "K"),
			units.Of(r.RatingC, "degC"), units.Of(r.AboveC, "K"))
	case below > r.BelowC && r.Load != Idle:
		out.Verdict = BelowRating
		out.say("it stands at %.1f, %.1f under the thermostat's %.0f (allowed %.0f)", units.Of(mean, "degC"),
			units.Of(below, "K"),
			units.Of(r.RatingC, "degC"), units.Of(r.BelowC, "K"))
	default:
		out.Verdict = Steady
		out.say("it stood at %.1f for %.1f minutes, moving by %.2f", units.Of(mean, "degC"), (last-first)/60,
			units.Within(math.Abs(l.slope), l.slopeError, "K/min"))
		if below > r.BelowC {
			out.say("at idle an engine may stand under its thermostat's %.0f: prove it under load", units.Of(r.RatingC, "degC"))
		}
	}
}
