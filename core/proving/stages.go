package proving

import (
	"fmt"
	"math"
	"slices"

	"hevrin/core/units"
)

// Limits of a proving run: the handbook's, common practice.
const (
	PrimeWithinS  = 30.0
	PrimeRPM      = 1000.0
	CruiseMinutes = 10.0
	CruiseOfRated = 0.6  // from here on it counts as cruising
	IdleOfRated   = 0.45 // up to here as idling
	GaugeOffC     = 4.0
)

// Standing is how a stage, or what it asks, stands.
type Standing string

// How a stage stands.
const (
	Waiting Standing = "waiting"
	Passed  Standing = "passed"
	Failed  Standing = "failed"
	Excused Standing = "excused"
)

// Criterion is one thing that a stage asks.
type Criterion struct {
	ID, Label string
	Standing  Standing
	Say       units.Sentence // what was seen, or what is missing
}

// Stage is one stage as it stands.
type Stage struct {
	ID, Label string
	Standing  Standing
	Criteria  []Criterion
	Do        []string // what to do: how it is done while it waits, what next once it failed
	Cautions  []string
	Why       string // it was excused
}

// Joint is a place to look for leaks at.
type Joint struct{ ID, Label, Station string }

// RoundRead is a round of readings that was taken in a run.
type RoundRead struct {
	RPM       float64
	OutOfGear bool
	Stations  int  // temperatures that were read
	Flow      bool // by bucket or meter
}

// Facts are what a run is judged by beside its own acts.
type Facts struct {
	RatedRPM    float64
	ThermostatC float64
	Petrol      bool
	Missing     []string // what stands in the way of a start
	Joints      []Joint  // touched in this job
	Rounds      []RoundRead
	Recording   bool     // something is recorded, or was
	Found       []string // what the run's rounds say is wrong, in words
	Leaning     []string
	Against     string // what they were held against, in words
	Judged      bool
	Warming     units.Sentence // why rounds were not judged: it warmed up still; empty where all were
}

// Outcomes of a run.
const (
	Cured      = "cured"
	NotCured   = "not-cured"
	Unfinished = "unfinished"
	Tight      = "tight" // of a leak run: dry, and not proved under load
)

type stageRule struct {
	id, label string
	cautions  []string
	how, next []string // while it waits; once it failed
	ask       func(r *ProvingRun, f Facts) []Criterion
}

func ask(id, label string, standing Standing, say string, args ...any) Criterion {
	return Criterion{id, label, standing, units.Say(say, args...)}
}

// so turns a finding of yes or no into how it stands.
func so(ok bool) Standing {
	if ok {
		return Passed
	}
	return Failed
}

var (
	readyRule = stageRule{ReadyStage, "Ready to start", []string{"petrol-vapour", "turning-parts"},
		[]string{"Go through the start list: seacock, parts, seals, hoses, pump, coolant, people.", "Then start it."},
		nil,
		func(r *ProvingRun, f Facts) []Criterion {
			if r.Started != nil {
				return []Criterion{ask("start", "Called ready and started", Passed, "by %s", r.Started.By)}
			}
			list := []Criterion{ask("start", "Called ready and started", Waiting, "the start list is not signed off yet")}
			for _, m := range f.Missing {
				list = append(list, ask("missing", m, Waiting, ""))
			}
			return list
		}}
	primeRule = stageRule{PrimeStage, "Prime", []string{"dry-running"},
		[]string{"About 1000 rev/min. Start the clock with the engine, somebody at the outlet.",
			"Soap in the pump before the start: its bubbles show that the water came through."},
		[]string{"Engine off. Look at once: seacock open, strainer full, lid tight, pump primed, impeller turning.",
			"Then prime again. If it does not take it, go back to the trace: it knows."},
		func(r *ProvingRun, _ Facts) []Criterion {
			const label = "Water at the outlet within 30 seconds"
			p := r.Primed
			switch {
			case p == nil:
				return []Criterion{ask("water", label, Waiting, "")}
			case !p.Water:
				return []Criterion{ask("water", label, Failed, "none after %.0f s, stopped", p.Seconds)}
			}
			list := []Criterion{ask("water", label, so(p.Seconds <= PrimeWithinS), "after %.0f s", p.Seconds)}
			if p.Bubbles != "" {
				list = append(list, ask("bubbles", "The soap's bubbles came through", so(p.Bubbles == "seen"), "%s",
					map[string]string{"seen": "seen", "not-seen": "not seen"}[p.Bubbles]))
			}
			return list
		}}
	coldRule = stageRule{ColdLeaks, "First leak round", []string{"turning-parts", "hot-exhaust"},
		[]string{"Dry tissue and a lamp at every joint that was touched. Nose and ears too."},
		[]string{"Engine off. Seal what is wet, then look at it again.",
			"A joint that stays wet is a finding: the trace has it."},
		func(r *ProvingRun, f Facts) []Criterion { return r.Cold.ask(f.Joints, false) }}
	warmRule = stageRule{WarmUpStage, "Warm-up", []string{"hot-exhaust"},
		[]string{"Watch coolant against time: from a feed, a logger's file, or typed every minute.",
			"In gear or under way: an engine that idles may never open its thermostat.",
			"Gauge against a thermometer at the sender once it is steady."},
		[]string{"Too hot: ease it, let it cool at idle with water running, then stop. Never open a hot cap.",
			"Go back to the trace: where the coolant settled is evidence there."},
		warmUp}
	idleRule = stageRule{IdleStage, "Idle round", []string{"turning-parts"},
		[]string{"A round of readings in flow order at idle, in gear if the berth allows, with the flow by bucket."},
		nil,
		func(r *ProvingRun, f Facts) []Criterion {
			return roundAt("idle", "A round at idle", f, func(x RoundRead) bool { return x.RPM <= IdleOfRated*f.RatedRPM })
		}}
	loadRule = stageRule{LoadStage, "Load", []string{"under-load", "alone", "hot-exhaust"},
		[]string{"Under way with somebody else steering, or in gear on doubled lines.",
			"Ten to twenty minutes at cruising speed, then full speed if it is allowed.",
			"A round of readings at cruising speed or above."},
		[]string{"Over the alarm: ease it at once. Short of its speed: propeller, hull, load, exhaust.",
			"Go back to the trace with what was read."},
		underLoad}
	hotRule = stageRule{HotLeaks, "Last leak round", []string{"scald", "hot-exhaust"},
		[]string{"Again at every joint, hot now. The bilge dry. Somebody looks for drips the day after."},
		[]string{"Seal what is wet and look again hot: some joints leak only then."},
		func(r *ProvingRun, f Facts) []Criterion { return r.Hot.ask(f.Joints, true) }}
)

func (l Leaks) ask(joints []Joint, bilge bool) []Criterion {
	var list []Criterion
	seen := map[string]bool{}
	for _, j := range l.Joints {
		seen[j.Joint] = true
		say := map[string]string{Dry: "dry", Damp: "damp: look again", Drips: "drips"}[j.State]
		if j.Words != "" {
			say += ", " + j.Words
		}
		list = append(list, ask("joint:"+j.Joint, labelOf(joints, j.Joint), so(j.State == Dry), "%s", say))
	}
	for _, j := range joints {
		if !seen[j.ID] {
			list = append(list, ask("joint:"+j.ID, j.Label, Waiting, ""))
		}
	}
	yes := func(id, label string, v *bool, good bool, right, wrong string) {
		switch {
		case v == nil:
			list = append(list, ask(id, label, Waiting, ""))
		case *v == good:
			list = append(list, ask(id, label, Passed, "%s", right))
		default:
			list = append(list, ask(id, label, Failed, "%s", wrong))
		}
	}
	yes("smell", "Nothing to smell or hear", l.Smelt, false, "nothing", "something is: find it")
	if bilge {
		yes("bilge", "The bilge is dry", l.Bilge, true, "dry", "wet")
	}
	return list
}

func labelOf(joints []Joint, id string) string {
	for _, j := range joints {
		if j.ID == id {
			return j.Label
		}
	}
	return id
}

func warmUp(r *ProvingRun, f Facts) []Criterion {
	const label = "Coolant settles at the thermostat's rating"
	list := []Criterion{ask("steady", label, Waiting, "%s",
		map[bool]string{true: "watched: judge it once it has been steady for five minutes",
			false: "nothing is recorded yet"}[f.Recording])}
	if w := r.Warmed; w != nil {
		x := w.Warmed
		standing := so(x.Verdict == Steady)
		if x.Verdict == TooShort || x.Verdict == StillRising || x.Verdict == Unsteady {
			standing = Waiting
		}
		list[0] = ask("steady", label, standing, "%s", x.say(f.ThermostatC))
		if x.OpenedC != nil {
			list = append(list, ask("opened", "The thermostat opens near its rating",
				so(math.Abs(*x.OpenedC-f.ThermostatC) <= opensWithin), "at %.0f, rated %.0f",
				units.Of(*x.OpenedC, "degC"), units.Of(f.ThermostatC, "degC")))
		}
	}
	const gauge = gaugeTrue
	switch g := r.Gauge; {
	case g != nil:
		off := *g.GaugeC - *g.ProbeC
		list = append(list, ask("gauge", gauge, so(math.Abs(off) <= GaugeOffC), "%+.0f against the thermometer",
			units.Of(shift(off), "K")))
	case r.Warmed != nil && r.Warmed.Warmed.GaugeOffC != nil:
		off := *r.Warmed.Warmed.GaugeOffC
		list = append(list, ask("gauge", gauge, so(math.Abs(off) <= GaugeOffC), "%+.0f against the coolant's probe",
			units.Of(shift(off), "K")))
	default:
		list = append(list, ask("gauge", gauge, Waiting, "read it beside a thermometer at the sender"))
	}
	return list
}

// shift is a difference to a whole degree; none where nothing is left.
func shift(k float64) float64 { return math.Round(k) + 0 }

// opensWithin is how far from its rating the knee of a warm-up may lie, in K: the rate of rise falls late or early with
// the load, and a pot test tells better. Common practice.
const opensWithin = 8.0

func roundAt(id, label string, f Facts, counts func(RoundRead) bool) []Criterion {
	for _, x := range slices.Backward(f.Rounds) {
		if !counts(x) {
			continue
		}
		say := fmt.Sprintf("%d temperatures at %.0f rev/min", x.Stations, x.RPM)
		list := []Criterion{ask(id, label, so(x.Stations >= leastStations), "%s", say)}
		return append(list, ask("flow", "The flow measured", so(x.Flow), "%s", map[bool]string{true: "measured",
			false: "not measured: a bucket at the outlet, or say why not"}[x.Flow]))
	}
	return []Criterion{ask(id, label, Waiting, "not taken yet")}
}

// leastStations is how many temperatures a round of a proving run holds at least.
const leastStations = 3

func underLoad(r *ProvingRun, f Facts) []Criterion {
	list := cruised(r, f)
	for _, c := range roundAt("load-round", "A round under load", f,
		func(x RoundRead) bool { return x.RPM >= CruiseOfRated*f.RatedRPM && !x.OutOfGear }) {
		if c.ID == "load-round" {
			list = append(list, c)
		}
	}
	return list
}

// cruised is what a run showed at cruising speed and at its highest.
func cruised(r *ProvingRun, f Facts) []Criterion {
	const minutes, top = "Ten minutes and more at cruising speed", "Full speed reached"
	list := []Criterion{ask("cruise", minutes, Waiting, "")}
	if l := r.Load; l != nil {
		list[0] = ask("cruise", minutes, so(l.Minutes >= CruiseMinutes), "%.0f minutes", l.Minutes)
		switch {
		case l.Held:
			list = append(list, ask("top", top, Passed, "not allowed here, %.0f rev/min reached", l.TopRPM))
		case l.TopRPM > 0:
			list = append(list, ask("top", top, so(l.TopRPM >= shortOfRated*f.RatedRPM), "%.0f of %.0f rev/min", l.TopRPM,
				f.RatedRPM))
		default:
			list = append(list, ask("top", top, Waiting, "say how far it went, or that it is not allowed here"))
		}
	}
	return list
}

// Stages judges a run.
func (r *ProvingRun) Stages(f Facts) []Stage {
	var list []Stage
	for _, rule := range rulesOf[r.How] {
		s := Stage{ID: rule.id, Label: rule.label, Criteria: rule.ask(r, f), Do: rule.how, Cautions: rule.cautions}
		if !f.Petrol {
			s.Cautions = slices.DeleteFunc(slices.Clone(s.Cautions), func(c string) bool { return c == "petrol-vapour" })
		}
		s.Standing = standing(s.Criteria)
		if e, ok := r.Excused[rule.id]; ok && s.Standing != Passed {
			s.Standing, s.Why = Excused, e.Words
		}
		if s.Standing == Failed && rule.next != nil {
			s.Do = rule.next
		}
		if onlyGauge(s) {
			s.Do = gaugeAtFault
		}
		list = append(list, s)
	}
	return append(list, r.verdict(list, f))
}

// standing is that of the whole: what failed counts before what waits.
func standing(list []Criterion) Standing {
	out := Passed
	for _, c := range list {
		if c.Standing == Failed {
			return Failed
		}
		if c.Standing == Waiting {
			out = Waiting
		}
	}
	return out
}

// verdict is the last stage: what the others and the readings come to.
func (r *ProvingRun) verdict(before []Stage, f Facts) Stage {
	s := Stage{ID: VerdictStage, Label: "Verdict",
		Do: []string{"Read what the run comes to, note codes that are still latched, and sign it."}}
	var failed, waiting, excused []string
	for _, b := range before {
		switch b.Standing {
		case Excused:
			excused = append(excused, b.Label)
		case Failed:
			failed = append(failed, b.Label)
		case Waiting:
			waiting = append(waiting, b.Label)
		}
	}
	stages := ask("stages", "Every stage passed", Passed, "all of them")
	if len(excused) > 0 {
		stages.Say = units.Say("all but %s, with a reason", joined(excused))
	}
	if len(failed) > 0 {
		stages = ask("stages", "Every stage passed", Failed, "failed: %s", joined(failed))
	} else if len(waiting) > 0 {
		stages = ask("stages", "Every stage passed", Waiting, "still to do: %s", joined(waiting))
	}
	readings := ask("readings", "The readings show nothing wrong", Waiting, "no round was taken in this run")
	switch {
	case f.Warming != "" && !f.Judged:
		readings = ask("readings", "The readings show nothing wrong", Waiting, "taken before it was warm. %s", f.Warming)
	case len(f.Found) > 0:
		readings = ask("readings", "The readings show nothing wrong", Failed, "%s, against %s", joined(f.Found), f.Against)
	case f.Judged && len(f.Leaning) > 0:
		readings = ask("readings", "The readings show nothing wrong", Passed, "nothing found against %s; leaning to: %s",
			f.Against, joined(f.Leaning))
	case f.Judged:
		readings = ask("readings", "The readings show nothing wrong", Passed, "nothing, against %s", f.Against)
	}
	codes := ask("codes", "Latched codes noted", Waiting, "look at the panel: alarm, service")
	if c := r.Codes; c != nil {
		codes = ask("codes", "Latched codes noted", Passed, "none")
		if c.Words != "" {
			codes = ask("codes", "Latched codes noted", Passed, "%s", c.Words)
		}
	}
	s.Criteria = []Criterion{stages}
	if r.How == ByReadings || len(f.Rounds) > 0 {
		s.Criteria = append(s.Criteria, readings)
	}
	if r.How == LeakRun {
		s.Do = append(s.Do, "It proves that nothing leaks, and nothing else: not proved under load.")
	} else {
		s.Criteria = append(s.Criteria, codes)
	}
	if r.Where != Afloat {
		s.Do = append(s.Do, "Made on a hose: the flow is the hose's, not the sea's. What depends on it is proved afloat "+
			"only.")
	}
	s.Standing = standing(s.Criteria)
	return s
}

func joined(list []string) string {
	out := ""
	for i, s := range list {
		switch {
		case i == 0:
			out = s
		case i == len(list)-1:
			out += " and " + s
		default:
			out += ", " + s
		}
	}
	return out
}

// Outcome is what a run comes to: cured when every stage passed or is excused and nothing shows anything wrong; tight
// where it was a leak run.
func (r *ProvingRun) Outcome(stages []Stage) string {
	last := stages[len(stages)-1]
	switch {
	case slices.ContainsFunc(stages, func(s Stage) bool { return s.Standing == Failed }):
		return NotCured
	case last.Standing != Passed:
		return Unfinished
	case r.How == LeakRun:
		return Tight
	}
	return Cured
}
