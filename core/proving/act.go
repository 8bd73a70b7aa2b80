package proving

import (
	"slices"
	"strings"
	"time"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// What an act of a proving run does.
const (
	Begin   = "begin"
	Prime   = "prime"    // water at the outlet, or none
	Look    = "look"     // at a joint, in one of the two leak rounds
	Smell   = "smell"    // sniffed and listened, in one of the two leak rounds
	Bilge   = "bilge"    // after the run
	NextDay = "next-day" // the drip look of the day after; also after the signature
	WarmUp  = "warm-up"  // judged from a recording
	Gauge   = "gauge"    // against a probe or surface thermometer at the sender
	Loaded  = "load"     // minutes at cruising speed, top speed reached
	Needle  = "needle"   // what the gauge, and a thermometer beside it, held at cruising speed: a run by hand
	Codes   = "codes"    // alarm or service codes that are still latched
	Excuse  = "excuse"   // a stage that cannot be done here
	Again   = "again"    // a stage is done afresh
	Sign    = "sign"
	Drop    = "drop" // ended without a verdict
)

// How a run proves. The first is by rounds of readings and a recorded warm-up; ByHand by a watch and a thermometer;
// a LeakRun is ten minutes at the berth: tight, and not proved under load. Handbook of the trade, 9.8.
const (
	ByReadings = ""
	ByHand     = "by-hand"
	LeakRun    = "leak-run"
)

// Hows lists how a run can prove.
var Hows = []string{ByReadings, ByHand, LeakRun}

// Where a run is made.
const (
	Afloat      = "afloat"
	HoseAtLeg   = "hose-leg"
	HoseAtInlet = "hose-inlet"
)

// Wheres lists where a run can be made.
var Wheres = []string{Afloat, HoseAtLeg, HoseAtInlet}

// States of a joint.
const (
	Dry   = "dry"
	Damp  = "damp"
	Drips = "drips"
)

// JointStates lists them.
var JointStates = []string{Dry, Damp, Drips}

// Stages of a run, in order.
const (
	ReadyStage   = "ready"
	PrimeStage   = "prime"
	ColdLeaks    = "cold-leaks"
	WarmUpStage  = "warm-up"
	IdleStage    = "idle"
	LoadStage    = "load"
	HotLeaks     = "hot-leaks"
	VerdictStage = "verdict"
)

// Warmed is what a recording showed of the warm-up, as it was judged then.
type Warmed struct {
	Recording string           `json:"recording"`
	Load      Load             `json:"load"`
	Verdict   Verdict          `json:"verdict"`
	OpenedC   *float64         `json:"opened_c,omitempty"`
	PlateauC  *float64         `json:"plateau_c,omitempty"`
	Slope     *float64         `json:"slope_c_min,omitempty"`
	Overshoot *float64         `json:"overshoot_c,omitempty"`
	SteadyS   *float64         `json:"steady_after_s,omitempty"`
	Reasons   []units.Sentence `json:"reasons,omitempty"`     // in metric units once they are on record
	GaugeOffC *float64         `json:"gauge_off_c,omitempty"` // gauge less coolant, over the plateau
}

// say is what it showed against the thermostat's rating, of the figures on record; without them the reason as recorded.
func (w Warmed) say(ratingC float64) units.Sentence {
	rating := units.Of(ratingC, "degC")
	switch {
	case w.PlateauC != nil && w.Verdict == AboveRating:
		return units.Say("it stands at %.1f, %.1f over the thermostat's %.0f", units.Of(*w.PlateauC, "degC"),
			units.Of(*w.PlateauC-ratingC, "K"), rating)
	case w.PlateauC != nil && w.Verdict == BelowRating:
		return units.Say("it stands at %.1f, %.1f under the thermostat's %.0f", units.Of(*w.PlateauC, "degC"),
			units.Of(ratingC-*w.PlateauC, "K"), rating)
	case w.PlateauC != nil && w.Verdict == Steady:
		return units.Say("it stood at %.1f", units.Of(*w.PlateauC, "degC"))
	case w.Slope != nil && w.Verdict == StillRising:
		return units.Say("the coolant still rises by %.2f", units.Of(*w.Slope, "K/min"))
	case w.Slope != nil && w.Verdict == Unsteady:
		return units.Say("the coolant moves by %+.2f and scatters: no plateau", units.Of(*w.Slope, "K/min"))
	case len(w.Reasons) > 0:
		return w.Reasons[len(w.Reasons)-1]
	}
	return "not told"
}

// Act is one thing done in a proving run. Which fields count depends on Do.
type Act struct {
	Do      string   `json:"do"`
	Run     string   `json:"run"` // its id, made by the client
	Where   string   `json:"where,omitempty"`
	How     string   `json:"how,omitempty"`
	Stage   string   `json:"stage,omitempty"`
	Water   bool     `json:"water,omitempty"`
	Seconds float64  `json:"seconds,omitempty"` // until the water came, or until it was stopped
	Bubbles string   `json:"bubbles,omitempty"` // soap in the pump: seen, not-seen; nothing: none was put in
	Joint   string   `json:"joint,omitempty"`
	Station string   `json:"station,omitempty"` // of the joint
	State   string   `json:"state,omitempty"`
	OK      bool     `json:"ok,omitempty"` // nothing smelt, bilge dry, dry the next day
	GaugeC  *float64 `json:"gauge_c,omitempty"`
	ProbeC  *float64 `json:"probe_c,omitempty"`
	Minutes float64  `json:"minutes,omitempty"`
	TopRPM  float64  `json:"top_rpm,omitempty"`
	Held    bool     `json:"held,omitempty"` // full speed was not allowed or not safe here
	Warmed  *Warmed  `json:"warmed,omitempty"`
	Outcome string   `json:"outcome,omitempty"` // of the run, as it was signed
	Words   string   `json:"words,omitempty"`
}

// stagesOf lists the stages that an act may name.
var stagesOf = map[string][]string{
	Look: {ColdLeaks, HotLeaks}, Smell: {ColdLeaks, HotLeaks},
	Excuse: {PrimeStage, ColdLeaks, WarmUpStage, IdleStage, LoadStage, HotLeaks},
	Again:  {PrimeStage, ColdLeaks, WarmUpStage, LoadStage, HotLeaks},
}

// Check says what does not fit in an act in itself.
func (a Act) Check() error {
	var wrong validation.Errors
	one := func(field, given string, of []string, say string) {
		if !slices.Contains(of, given) {
			wrong.Add(field, given, units.Sentence(strings.Join(of, ", ")), "%s", say)
		}
	}
	within := func(field string, v, low, high float64, unit, say string) {
		if !(v >= low && v <= high) {
			wrong.Add(field, v, units.Range(low, high, unit), "%s", say)
		}
	}
	if strings.TrimSpace(a.Run) == "" {
		wrong.Add("run", "nothing", "an id", "say which run it belongs to")
	}
	if of, ok := stagesOf[a.Do]; ok {
		one("stage", a.Stage, of, "say which stage it is about")
	}
	switch a.Do {
	case Begin:
		one("where", a.Where, Wheres, "say where the run is made: a hose's flow is not the sea's")
		one("how", a.How, Hows, "say how it proves: by readings, by hand, or as a leak run")
	case Prime:
		within("seconds", a.Seconds, 0, 600, "s", "say after how many seconds")
		one("bubbles", a.Bubbles, []string{"", "seen", "not-seen"}, "say whether the soap's bubbles came through")
	case Look:
		one("state", a.State, JointStates, "say what the tissue shows")
		if strings.TrimSpace(a.Joint) == "" {
			wrong.Add("joint", "nothing", "a joint", "say which joint was looked at")
		}
	case Gauge:
		if a.GaugeC == nil || a.ProbeC == nil {
			wrong.Add("probe_c", "nothing", "both temperatures", "read both at the same time")
			break
		}
		within("gauge_c", *a.GaugeC, 0, 150, "degC", "read the gauge again")
		within("probe_c", *a.ProbeC, 0, 150, "degC", "read the thermometer again")
	case Needle:
		within("minutes", a.Minutes, 1, 240, "min", "say how many minutes it took until it stood")
		if a.GaugeC == nil {
			wrong.Add("gauge_c", "nothing", "a temperature", "say where the needle stood")
			break
		}
		within("gauge_c", *a.GaugeC, 0, 150, "degC", "read the gauge again")
		if a.ProbeC != nil {
			within("probe_c", *a.ProbeC, 0, 150, "degC", "read the thermometer again")
		}
	case Loaded:
		within("minutes", a.Minutes, 0, 1440, "min", "say how long it ran at cruising speed")
		within("top_rpm", a.TopRPM, 0, 10000, "rev/min", "say the highest speed that it reached")
	case WarmUp:
		if a.Warmed == nil {
			wrong.Add("warmed", "nothing", "a recording", "say from which recording")
		}
	case Excuse, Drop:
		if strings.TrimSpace(a.Words) == "" {
			wrong.Add("words", "nothing", "a sentence", "say in a few words why: it stands in the owner's report")
		}
	case Smell, Bilge, NextDay, Codes, Again, Sign:
	default:
		wrong.Add("do", a.Do, "an act", "there is no such act")
	}
	return wrong.Err()
}

// Done is an act with who did it, when, and in which entry.
type Done struct {
	Act
	By    string
	At    time.Time
	Entry string
	Order int // among the job's entries
}

// Mark is who said something, and when.
type Mark struct {
	By string
	At time.Time
}

// JointLooked is a joint as it was last looked at.
type JointLooked struct {
	Joint, Station, State, Words string
	Mark
}

// Leaks is one leak round.
type Leaks struct {
	Joints []JointLooked
	Smelt  *bool // something was smelt or heard
	Bilge  *bool // dry
}

// ProvingRun is a run as it stands.
type ProvingRun struct {
	ID      string
	Where   string
	How     string
	Begun   Mark
	Order   int // of its begin
	Started *Mark
	Primed  *Done
	Cold    Leaks
	Hot     Leaks
	Warmed  *Done
	Gauge   *Done
	Needle  *Done
	Load    *Done
	Codes   *Done
	NextDay *Done
	Excused map[string]Done
	Signed  *Done
	Dropped *Done
	Last    int // order of its end; 0 while it is open
}

// Open says whether the run is neither signed nor dropped.
func (r *ProvingRun) Open() bool { return r.Signed == nil && r.Dropped == nil }

// Account is a job's proving runs.
type Account struct{ Runs []*ProvingRun }

// Current is the open run; nil when there is none.
func (a *Account) Current() *ProvingRun {
	for _, r := range a.Runs {
		if r.Open() {
			return r
		}
	}
	return nil
}

// Verdict is what the last run that was signed came to; empty before any.
func (a *Account) Verdict() string {
	for _, r := range slices.Backward(a.Runs) {
		if r.Signed != nil {
			return r.Verdict()
		}
	}
	return ""
}

// Verdict is what a run that was signed came to: as it was signed, unless something dripped on the day after. Empty
// before it is signed.
func (r *ProvingRun) Verdict() string {
	switch {
	case r.Signed == nil:
		return ""
	case r.NextDay != nil && !r.NextDay.OK:
		return NotCured
	}
	return r.Signed.Outcome
}

func (a *Account) find(id string) *ProvingRun {
	i := slices.IndexFunc(a.Runs, func(r *ProvingRun) bool { return r.ID == id })
	if i < 0 {
		return nil
	}
	return a.Runs[i]
}

// Find gives a run by its id; nil when it is not there.
func (a *Account) Find(id string) *ProvingRun { return a.find(id) }

// Refuse says why an act does not fit the account as it stands; empty when it does.
func (a *Account) Refuse(act Act) string {
	r := a.find(act.Run)
	switch {
	case act.Do == Begin && r != nil:
		return "that run is begun already"
	case act.Do == Begin && a.Current() != nil:
		return "a run is open already: sign it or end it first"
	case act.Do == Begin:
		return ""
	case r == nil:
		return "that run is not on this job any more: it may have been taken back on another device"
	case !r.Open() && (act.Do != NextDay || r.Dropped != nil):
		return "that run is ended: begin another, or take its end back"
	}
	return ""
}

// Start takes in that the engine was called ready and started.
func (a *Account) Start(by string, at time.Time) {
	if r := a.Current(); r != nil {
		r.Started = &Mark{by, at}
	}
}

// takers take an act into its run.
var takers = map[string]func(r *ProvingRun, d Done){
	Prime: func(r *ProvingRun, d Done) { r.Primed = &d },
	Look: func(r *ProvingRun, d Done) {
		l := r.leaks(d.Stage)
		l.Joints = slices.DeleteFunc(l.Joints, func(j JointLooked) bool { return j.Joint == d.Joint })
		l.Joints = append(l.Joints, JointLooked{d.Joint, d.Station, d.State, d.Words, Mark{d.By, d.At}})
	},
	Smell:   func(r *ProvingRun, d Done) { smelt := !d.OK; r.leaks(d.Stage).Smelt = &smelt },
	Bilge:   func(r *ProvingRun, d Done) { dry := d.OK; r.Hot.Bilge = &dry },
	NextDay: func(r *ProvingRun, d Done) { r.NextDay = &d },
	WarmUp:  func(r *ProvingRun, d Done) { r.Warmed = &d },
	Gauge:   func(r *ProvingRun, d Done) { r.Gauge = &d },
	Needle:  func(r *ProvingRun, d Done) { r.Needle = &d },
	Loaded:  func(r *ProvingRun, d Done) { r.Load = &d },
	Codes:   func(r *ProvingRun, d Done) { r.Codes = &d },
	Excuse:  func(r *ProvingRun, d Done) { r.Excused[d.Stage] = d },
	Again:   func(r *ProvingRun, d Done) { r.again(d.Stage) },
	Sign:    func(r *ProvingRun, d Done) { r.Signed, r.Last = &d, d.Order },
	Drop:    func(r *ProvingRun, d Done) { r.Dropped, r.Last = &d, d.Order },
}

// Take takes an act in.
func (a *Account) Take(d Done) {
	if d.Do == Begin {
		a.Runs = append(a.Runs, &ProvingRun{ID: d.Run, Where: d.Where, How: d.How, Begun: Mark{d.By, d.At}, Order: d.Order,
			Excused: map[string]Done{}})
		return
	}
	if r := a.find(d.Run); r != nil {
		if take, ok := takers[d.Do]; ok {
			take(r, d)
		}
	}
}

func (r *ProvingRun) leaks(stage string) *Leaks {
	if stage == ColdLeaks {
		return &r.Cold
	}
	return &r.Hot
}

func (r *ProvingRun) again(stage string) {
	delete(r.Excused, stage)
	switch stage {
	case PrimeStage:
		r.Primed = nil
	case ColdLeaks, HotLeaks:
		*r.leaks(stage) = Leaks{}
	case WarmUpStage:
		r.Warmed, r.Gauge, r.Needle = nil, nil, nil
	case LoadStage:
		r.Load = nil
	}
}
