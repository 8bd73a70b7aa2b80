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

// Done is an act with who did it and when it was saved, by the program's own clock.
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
	Begun   *time.Time // the timer runs since
	Spent   time.Duration
	Log     []Done
	Stages  []string
	OutL    float64
	InL     float64
	Ended   *time.Time
	Words   string
	Hours   float64
}

// Elapsed is how long the work has run, at a time of the program's own clock; it stands while it is stopped.
func (w Work) Elapsed(now time.Time) time.Duration {
	if w.Begun == nil {
		return w.Spent
	}
	return w.Spent + max(0, now.Sub(*w.Begun))
}

// Left is how long the work still has to run by its plan; below 0 it is over its time.
func (w Work) Left(now time.Time) time.Duration {
	minutes := bleedMinutes
	switch {
	case w.Descale != nil:
		minutes = w.Descale.Minutes
	case w.Flush != nil:
		minutes = flushMinutes
	}
	return time.Duration(minutes*float64(time.Minute)) - w.Elapsed(now)
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
		return ""
	case w == nil:
		return "that work is not on this job any more: it may have been taken back on another device"
	case w.Ended != nil && !slices.Contains(ofEnded, act.Do):
		return "that work is done: plan another, or take its end back"
	}
	return ""
}

// Take takes an act in.
func (a *Account) Take(d Done) {
	if d.Do == PlanIt {
		a.Works = append(a.Works, Work{ID: d.Work, Kind: d.Kind, Flush: d.Flush, Descale: d.Descale, Coolant: d.Coolant,
			By: d.By, Planned: d.At})
		return
	}
	w := a.find(d.Work)
	if w == nil {
		return
	}
	w.Log = append(w.Log, d)
	switch d.Do {
	case Begin:
		if w.Begun == nil {
			at := d.At
			w.Begun = &at
		}
	case Stop, End:
		w.Spent, w.Begun = w.Elapsed(d.At), nil
		if d.Do == End {
			at := d.At
			w.Ended, w.Words, w.Hours = &at, d.Words, d.Hours
		}
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
	return slices.DeleteFunc(slices.Clone(Stages), func(s string) bool { return slices.Contains(w.Stages, s) })
}

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
