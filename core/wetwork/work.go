package wetwork

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Kinds of wet work.
const (
	Flushing   = "flush"
	Descale    = "descale"
	CoolantJob = "coolant"
)

// What an act does.
const (
	PlanIt   = "plan"
	Begin    = "begin" // the timer runs
	Stop     = "stop"  // the timer stands
	ReadBath = "read"
	CameOut  = "came-out"
	Drained  = "drained"
	Filled   = "filled"
	Topped   = "topped" // at a level check
	Strength = "strength"
	Stage    = "stage" // rinsed, neutralised, refitted, …
	Waste    = "waste"
	End      = "end"
)

// Act is one thing done in a piece of wet work. Which fields count depends on Do.
type Act struct {
	Do      string       `json:"do"`
	Work    string       `json:"work"` // its id, made by the client
	Kind    string       `json:"kind,omitempty"`
	Flush   *FlushPlan   `json:"flush,omitempty"`
	Descale *DescalePlan `json:"descale,omitempty"`
	Coolant *CoolantPlan `json:"coolant,omitempty"`
	Bath    *BathReading `json:"bath,omitempty"`
	What    string       `json:"what,omitempty"` // came out, stage, waste
	Station string       `json:"station,omitempty"`
	Litres  float64      `json:"litres,omitempty"`
	Percent float64      `json:"percent,omitempty"`
	Share   float64      `json:"share,omitempty"` // of a blade: rubber that came out
	Words   string       `json:"words,omitempty"`
	Hours   float64      `json:"hours,omitempty"` // of the engine, at the end
}

// Stages of a descaling after the bath, in order.
var Stages = []string{"rinsed", "neutralised", "refitted"}

// Check says what does not fit in an act in itself; raw lists the engine's raw-water stations.
func (a Act) Check(raw []string) error {
	var wrong validation.Errors
	if strings.TrimSpace(a.Work) == "" {
		wrong.Add("work", "nothing", "an id", "say which work it belongs to")
	}
	under := func(part string, err error) {
		if slips, ok := err.(validation.Errors); ok { //nolint:errorlint // the plans give nothing else
			for _, e := range slips {
				e.Field = part + "." + e.Field
				wrong = append(wrong, e)
			}
		}
	}
	switch a.Do {
	case PlanIt:
		switch {
		case a.Kind == Flushing && a.Flush != nil:
			_, err := a.Flush.Plan(raw)
			under("flush", err)
		case a.Kind == Descale && a.Descale != nil:
			_, err := a.Descale.Plan()
			under("descale", err)
			for i, s := range a.Descale.Loop {
				if !slices.Contains(raw, s) {
					wrong.Add(fmt.Sprintf("descale.loop[%d]", i), s, "a station of this engine's raw water",
						"the acid cannot go through what it has not got")
				}
			}
		case a.Kind == CoolantJob && a.Coolant != nil:
			_, err := a.Coolant.Plan()
			under("coolant", err)
		default:
			wrong.Add("kind", a.Kind, "flush, descale, coolant, with its plan", "say what is planned")
		}
	case ReadBath:
		if a.Bath == nil {
			wrong.Add("bath", "nothing", "a reading", "say what you see")
		} else {
			under("bath", a.Bath.Check())
		}
	case Drained, Filled, Topped, Waste:
		if !(a.Litres >= 0 && a.Litres <= 5000) {
			wrong.Add("litres", a.Litres, units.Range(0, 5000, "L"), "say how many litres")
		}
	case Strength:
		if !(a.Percent >= 0 && a.Percent <= 100) {
			wrong.Add("percent", a.Percent, "0 to 100 %", "read the tester again")
		}
	case CameOut:
		if !slices.Contains(Debris, a.What) {
			wrong.Add("what", a.What, units.Sentence(strings.Join(Debris, ", ")), "say what came out")
		}
		if a.What == Rubber && !slices.Contains(raw, a.Station) {
			wrong.Add("station", a.Station, "a station of this engine's raw water", "say where the rubber came out")
		}
		if rubber := a.What == Rubber; a.Share != 0 && !rubber || rubber && !(a.Share >= 0.01 && a.Share <= 1) {
			wrong.Add("share", a.Share, "0.01 to 1 of a blade for rubber, nothing else",
				"say how much of a blade it is: it goes into the piece ledger")
		}
	case Stage:
		if !slices.Contains(Stages, a.What) {
			wrong.Add("what", a.What, units.Sentence(strings.Join(Stages, ", ")), "there is no such stage")
		}
	case Begin, Stop, End:
	default:
		wrong.Add("do", a.Do, "an act", "there is no such act")
	}
	if (a.Do == Waste) && strings.TrimSpace(a.Words) == "" {
		wrong.Add("words", "nothing", "where it went", "say where it went: local rules ask")
	}
	return wrong.Err()
}

// Done is an act with who did it and when it happened, by the program's own clock.
type Done struct {
	Act
	By    string
	At    time.Time
	Entry string
	Order int // among the job's entries
}

// Work is a piece of wet work as it stands.
type Work struct {
	ID      string
	Kind    string
	Flush   *FlushPlan
	Descale *DescalePlan
	Coolant *CoolantPlan
	By      string
	Planned time.Time
	Begun   *time.Time // the timer runs since; of a flush at several places, the first one's
	Spent   time.Duration
	Clocks  []Clock // of a flush at several places: those of the others
	Log     []Done
	Stages  []string
	OutL    float64
	InL     float64
	Ended   *time.Time
	Words   string
	Hours   float64
}

// Clock is the timer of a further place of a flush.
type Clock struct {
	Station string
	Begun   *time.Time // it runs since
	Spent   time.Duration
}

// Elapsed is how long it has run, at a time of the program's own clock; it stands while it is stopped.
func (c Clock) Elapsed(now time.Time) time.Duration {
	if c.Begun == nil {
		return c.Spent
	}
	return c.Spent + max(0, now.Sub(*c.Begun))
}

func (c *Clock) begin(at time.Time) {
	if c.Begun == nil {
		c.Begun = &at
	}
}

func (c *Clock) stop(at time.Time) { c.Spent, c.Begun = c.Elapsed(at), nil }

// Left is how long it still has to run; below 0 it is over its time.
func (c Clock) Left(now time.Time) time.Duration {
	return minutes(minutesAt(c.Station)) - c.Elapsed(now)
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }

// Elapsed is how long the work has run, at a time of the program's own clock; it stands while it is stopped.
func (w Work) Elapsed(now time.Time) time.Duration { return w.first().Elapsed(now) }

// first is the work's own clock.
func (w Work) first() Clock { return Clock{Begun: w.Begun, Spent: w.Spent} }

// Left is how long the work still has to run by its plan; below 0 it is over its time.
func (w Work) Left(now time.Time) time.Duration {
	m := bleedMinutes
	switch {
	case w.Descale != nil:
		m = w.Descale.Minutes
	case w.Flush != nil:
		m = minutesAt(w.Flush.Station)
	}
	return minutes(m) - w.Elapsed(now)
}

// onClock does something to the clock of a station: a further place's, or the work's own.
func (w *Work) onClock(station string, do func(*Clock)) {
	for i := range w.Clocks {
		if w.Clocks[i].Station == station {
			do(&w.Clocks[i])
			return
		}
	}
	own := w.first()
	do(&own)
	w.Begun, w.Spent = own.Begun, own.Spent
}

// Account is a job's wet work.
type Account struct{ Works []Work }

func (a *Account) find(id string) *Work {
	i := slices.IndexFunc(a.Works, func(w Work) bool { return w.ID == id })
	if i < 0 {
		return nil
	}
	return &a.Works[i]
}

// ofEnded are the acts that a work still takes once it was ended.
var ofEnded = []string{Stage, Waste, Strength}

// Refuse says why an act does not fit the account as it stands; empty when it does.
func (a *Account) Refuse(act Act) string {
	w := a.find(act.Work)
	switch {
	case act.Do == PlanIt && w != nil:
		return "that work is planned already: plan another, or take this one back"
	case act.Do == PlanIt:
		return a.mixes(act.Descale, "")
	case w != nil && act.Do == Begin && w.Ended == nil:
		if say := a.mixes(w.Descale, w.ID); say != "" {
			return say
		}
		if act.Station != "" && !w.has(act.Station) {
			return "that flush has no such place: plan another"
		}
		return ""
	case w == nil:
		return "that work is not on this job any more: it may have been taken back on another device"
	case act.Do == Stop && act.Station != "" && !w.has(act.Station):
		return "that flush has no such place: plan another"
	case w.Ended != nil && !slices.Contains(ofEnded, act.Do):
		return "that work is done: plan another, or take its end back"
	}
	return ""
}

// mixes refuses a caustic cleaner on a station on which acid of this job was not neutralised, and the other way round
// what was not rinsed: the two together boil up, and with some products give off gas. Common practice.
func (a *Account) mixes(p *DescalePlan, own string) string {
	if p == nil {
		return ""
	}
	for _, w := range a.Works {
		if w.ID == own || w.Descale == nil || len(w.Log) == 0 || w.Descale.Product.Caustic == p.Product.Caustic ||
			!slices.ContainsFunc(p.Loop, func(s string) bool { return slices.Contains(w.Descale.Loop, s) }) {
			continue
		}
		switch {
		case p.Product.Caustic && !slices.Contains(w.Stages, Stages[1]):
			return "acid was on it and is not neutralised yet: caustic never meets acid. Rinse and neutralise it first"
		case !p.Product.Caustic && !slices.Contains(w.Stages, Stages[0]):
			return "a caustic cleaner was on it and is not rinsed off yet: acid never meets caustic. Rinse it first"
		}
	}
	return ""
}

// has says whether a flush has a place with a clock.
func (w *Work) has(station string) bool {
	return w.Flush != nil && slices.Contains(w.Flush.Places(), station)
}

// Take takes an act in.
func (a *Account) Take(d Done) {
	if d.Do == PlanIt {
		a.Works = append(a.Works, Planned(d))
		return
	}
	w := a.find(d.Work)
	if w == nil {
		return
	}
	w.Log = append(w.Log, d)
	switch d.Do {
	case Begin:
		w.onClock(d.Station, func(c *Clock) { c.begin(d.At) })
	case Stop:
		w.onClock(d.Station, func(c *Clock) { c.stop(d.At) })
	case End:
		w.Spent, w.Begun = w.Elapsed(d.At), nil
		for i := range w.Clocks {
			w.Clocks[i].stop(d.At)
		}
		at := d.At
		w.Ended, w.Words, w.Hours = &at, d.Words, d.Hours
	case Drained:
		w.OutL += d.Litres
	case Filled, Topped:
		w.InL += d.Litres
	case Stage:
		if !slices.Contains(w.Stages, d.What) {
			w.Stages = append(w.Stages, d.What)
		}
	}
}

// Planned is a work of which nothing was done yet.
func Planned(d Done) Work {
	w := Work{ID: d.Work, Kind: d.Kind, Flush: d.Flush, Descale: d.Descale, Coolant: d.Coolant, By: d.By, Planned: d.At}
	if d.Flush != nil {
		for _, s := range d.Flush.Also {
			w.Clocks = append(w.Clocks, Clock{Station: s})
		}
	}
	return w
}

// First is where the work begins among the job's entries; 0 when nothing was done yet.
func (w Work) First() int {
	if len(w.Log) == 0 {
		return 0
	}
	return w.Log[0].Order
}

// Last is where the work was ended; 0 when it was not.
func (w Work) Last() int {
	for _, d := range w.Log {
		if d.Do == End {
			return d.Order
		}
	}
	return 0
}

// Missing are the stages that a descaling has not gone through yet.
func (w Work) Missing() []string {
	if w.Kind != Descale {
		return nil
	}
	return slices.DeleteFunc(slices.Clone(Stages), func(s string) bool {
		return slices.Contains(w.Stages, s) || w.Caustic() && s == Stages[1]
	})
}

// Caustic says whether it is a caustic cleaner's bath: it takes no scale and is not neutralised.
func (w Work) Caustic() bool { return w.Descale != nil && w.Descale.Product.Caustic }

// Gain is a figure before and after with one standard deviation of each.
type Gain struct {
	Label               string
	Before, BeforeError float64
	After, AfterError   float64
	Better              bool // it rose by more than the error of the difference
	Worse               bool
	Change, ChangeError float64
}

// clearly is how many standard deviations a change must be to be called one.
const clearly = 1.64 // 90 % of a normal error lies within, both sides

// Compare tells a gain from the errors of its readings: no gain within the error is called no gain.
func Compare(label string, before, beforeError, after, afterError float64) Gain {
	g := Gain{Label: label, Before: before, BeforeError: beforeError, After: after, AfterError: afterError,
		Change: after - before, ChangeError: math.Hypot(beforeError, afterError)}
	g.Better, g.Worse = g.Change > clearly*g.ChangeError, g.Change < -clearly*g.ChangeError
	return g
}
