// Package enginestate keeps the one account of the state that an engine is in: what is open, off, shut, drained, wrong
// or not known, whether it may run and may be cranked, and what settles it. It is folded from the entries of all the
// jobs on the engine, in the order in which they happened, and outlives each of them; every part of the program goes by
// it.
package enginestate

import (
	"slices"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// Who says who set a part of the state, when, in which entry of which job.
type Who struct {
	By    string
	At    time.Time
	Entry string
	Job   string
	saved time.Time // when it came on record: At is when it happened
}

// Water is how the raw water stands.
type Water string

// How the raw water can stand. Nothing is assumed: it is not asked until somebody says so.
const (
	NotAsked Water = "not-asked"
	Open     Water = "open"
	Shut     Water = "shut"
)

// RawWater is the seacock, or the hose of a drive leg. Why says what made a known state doubtful again; Behind is what
// came at the first joint opened behind it while it is shut: teardown.Dry, teardown.LetsThrough, empty where nobody
// said.
type RawWater struct {
	State  Water
	Why    string
	Behind string
	Since  Who
	direct *RawWater // as it is where the engine is raw-cooled, which the entries do not say
}

// Opening is an access or a joint that is open.
type Opening struct {
	ID, Label string
	For       string // the check, task or work that opened it, in words
	Bars      bool   // it must be closed up before a run
	Minutes   float64
	Since     Who
}

// Condemned is a part that was found unfit to go back. Reason is why it went back all the same; empty while it has not.
type Condemned struct {
	Part, Label string
	Why         string
	Reason      string
	Since       Who
	bench       bool // the workbench said so, not a check
}

// Heat is how hot the engine is, as felt or as it follows from running; unknown at first.
type Heat struct {
	Value string
	Since Who
}

// Oil is how the oil is; empty where nobody looked.
type Oil struct {
	Value string
	Since Who
}

// milkySeen is oil that was seen milky while nobody said whether its level has risen.
const milkySeen = "milky-seen"

// Place is where the craft lies; empty where nobody said. Old: it was said too long ago to take away a danger of the
// sea, and still asks for what it asked for.
type Place struct {
	Value string
	Old   bool
	Since Who
}

// work is a piece of wet work as far as it bears on the state.
type work struct {
	wetwork.Work
	since  Who
	label  string
	closed bool // its joints are closed up again
}

// State is the state of an engine. The zero value is no state: New makes one.
type State struct {
	// Hands is the account of what was isolated, taken off, found on the workbench and put back, over all jobs; the keys
	// of its items begin with the id of their job and a colon.
	Hands *teardown.Account
	Heat  Heat
	Oil   Oil
	Lies  Place

	catalogue *catalogue.Catalogue
	raw       RawWater
	now       time.Time // at which it is looked at; zero in the state as it was folded
	valve     valve
	behind    []behindSame
	open      []Opening
	condemned []Condemned
	works     []*work
	coolant   Oil                         // low, by a look at the level; the drained is an isolation
	vent      bool                        // the anti-siphon valve is bad: water may stand in the silencer
	dry       bool                        // no water came at the outlet
	waiting   map[string]teardown.Waiting // by job
	watched   map[string]watch            // by job
	isolated  map[string]Who              // who shut, drained or unplugged it last
	stirred   Who                         // who let all looks go, the last on record
	worn      []Worn
	lastRun   run // of the engine, that was signed
	timed     []timed
}

// New is the state of an engine of which nothing is known.
func New(c *catalogue.Catalogue) *State {
	return &State{Hands: teardown.NewAccount(), raw: RawWater{State: NotAsked}, catalogue: c,
		waiting: map[string]teardown.Waiting{}, watched: map[string]watch{}, isolated: map[string]Who{}}
}

// Fold makes the state of the entries of an engine's jobs, which are in the order in which they were saved; they count
// in the order in which they happened: what waited on a device does not undo what another one did after it. What was
// taken back counts for nothing.
func Fold(c *catalogue.Catalogue, entries []eventlog.Entry) *State {
	s, undone := New(c), eventlog.Undone(entries)
	happened := func(a, b eventlog.Entry) int { return a.Happened().Compare(b.Happened()) }
	if !slices.IsSortedFunc(entries, happened) {
		entries = slices.SortedStableFunc(slices.Values(entries), happened)
	}
	for i := range entries {
		if !undone[entries[i].ID] {
			s.Take(entries[i])
		}
	}
	return s
}

// Take takes one more entry in. An undo may take back anything: for it, fold anew.
func (s *State) Take(e eventlog.Entry) {
	if step, ok := steps[e.Kind]; ok {
		step(s, e)
	}
}

func whoOf(e eventlog.Entry) Who {
	from := e.Source()
	return Who{By: from.By, At: from.At, Entry: from.Entry, Job: e.Subject.ID, saved: e.At}
}

// Bears lists the kinds of entry that bear on the state.
var Bears = []eventlog.Kind{eventlog.Opened, eventlog.Found, eventlog.Checked, eventlog.Access, eventlog.TeardownNoted,
	eventlog.WetworkNoted, eventlog.RoundTaken, eventlog.Proved, eventlog.Closed,
	eventlog.Reopened, eventlog.Undo}

var steps = map[eventlog.Kind]func(*State, eventlog.Entry){
	eventlog.Opened:  func(s *State, e eventlog.Entry) { s.see(e, "") },
	eventlog.Found:   func(s *State, e eventlog.Entry) { s.see(e, "") },
	eventlog.Checked: (*State).check,
	eventlog.Access: func(s *State, e eventlog.Entry) {
		if e.Body.Open != nil && *e.Body.Open {
			s.opens(e.Body.Access, "", whoOf(e))
		} else {
			s.closes(e.Body.Access, whoOf(e))
		}
	},
	eventlog.TeardownNoted: func(s *State, e eventlog.Entry) { s.act(e, *e.Body.Teardown) },
	eventlog.WetworkNoted:  (*State).wet,
	eventlog.RoundTaken:    (*State).round,
	eventlog.Closed:        (*State).close,
	eventlog.Reopened:      func(s *State, e eventlog.Entry) { delete(s.watched, e.Subject.ID) }, // it came back
	eventlog.Proved: func(s *State, e eventlog.Entry) {
		s.see(e, "")
		s.proves(e)
		if p := e.Body.Proving; p.Warmed != nil || p.Minutes > 0 {
			s.Heat = Heat{"hot", whoOf(e)}
		}
	},
}

// round takes a round in: the engine ran for it, and with raw water where some was measured.
func (s *State) round(e eventlog.Entry) {
	s.Heat = Heat{"hot", whoOf(e)}
	s.dry = s.dry && !slices.ContainsFunc(e.Body.Round.Readings, func(r eventlog.Read) bool {
		return r.Station == catalogue.Flow && r.Value > 0
	})
}

// startOnly is how long a check may take, in minutes, that is no more than a start of seconds: it warms nothing.
const startOnly = 1.0

// check takes a check in: what it opened, what it needed, what it saw.
func (s *State) check(e eventlog.Entry) {
	k, ok := s.catalogue.Check(e.Body.Check)
	if !ok || e.Body.Outcome == eventlog.Skipped {
		return
	}
	who := whoOf(e)
	s.time(e, !s.IsOpen(k.Access))
	for _, id := range []string{k.Access, k.Opens} {
		if was := s.IsOpen(id); !was {
			s.opens(id, k.Label, who)
			s.offBehind(e, func(i teardown.Item) bool { return i.Scope == e.Subject.ID+":" && i.Access == id })
		}
	}
	a, _ := s.catalogue.AccessTo(k.Access)
	needs := slices.Concat(k.Needs, a.Needs)
	if s.raw.State == Open && k.Engine != catalogue.Running {
		doubt := RawWater{State: NotAsked, Why: "it was to be shut for: " + k.Label, Since: who}
		switch {
		case slices.ContainsFunc(needs, shutOnClosed):
			s.raw = doubt
		case slices.ContainsFunc(needs, shutOnDirect):
			s.raw.direct = &doubt
		}
	}
	if k.Engine == catalogue.Running && k.Minutes > startOnly {
		s.Heat = Heat{"hot", who}
	}
	s.see(e, k.Label)
}

// opens notes that an access or a joint is open; one that is open already stays as it was.
func (s *State) opens(id, what string, who Who) {
	o, ok := s.catalogue.Opening(id)
	if !ok {
		return
	}
	if o.Bars {
		s.Hands.Stir() // what only a person sees is to be looked at again
		s.stirs(who)
	}
	if !s.IsOpen(id) {
		s.open = append(s.open, Opening{ID: id, Label: o.Label, For: what, Bars: o.Bars, Minutes: o.Minutes, Since: who})
	}
}

// stirs notes who let all looks go; of several, who did so last on record.
func (s *State) stirs(who Who) {
	if s.stirred.knew(who) {
		return
	}
	s.stirred = who
}

// closes notes that an access or a joint is closed. What came on record only after that was said stays open: whoever
// said it could not know of it, and a clock that is slow would hide it.
func (s *State) closes(id string, who Who) {
	s.open = slices.DeleteFunc(s.open, func(o Opening) bool { return o.ID == id && who.knew(o.Since) })
}

// knew says whether something was on record when this was saved.
func (w Who) knew(of Who) bool { return !of.saved.After(w.saved) }

// opensWater notes that the raw water is open, for the engine ran; where it was said to be shut and that came on record
// only after this, it is asked anew.
func (s *State) opensWater(who Who) {
	if since := s.raw.Since; s.raw.State == Shut && !who.knew(since) {
		s.raw = RawWater{State: NotAsked, Why: "shut by " + since.By + ", which came in later than it was said to be open",
			Since: since}
		return
	}
	s.raw = RawWater{State: Open, Since: who}
}

// IsOpen says whether an access or a joint is open.
func (s *State) IsOpen(id string) bool {
	return slices.ContainsFunc(s.open, func(o Opening) bool { return o.ID == id })
}

// Openings lists what is open, in the order of opening.
func (s *State) Openings() []Opening { return slices.Clone(s.open) }

// condemns are the findings that condemn a part, and what becomes of it.
var condemns = map[string]struct{ part, label, why string }{
	"elbow-thin-or-holed":   {"elbow", "Elbow", "seen thin or holed"},
	"hose-burnt-or-soft":    {"exhaust-hose", "Exhaust hose", "seen burnt or soft"},
	"blades-missing":        {teardown.Impeller, "Impeller", "blades missing"},
	"blades-cracked-or-set": {teardown.Impeller, "Impeller", "blades cracked or set"},
}

// see takes in what was seen: what condemns a part, bars a run or tells of rubber at large.
func (s *State) see(e eventlog.Entry, _ string) {
	who := whoOf(e)
	for _, x := range e.Saw(s.catalogue) {
		s.wears(x, e, who)
		// who was not sure of a danger has not ruled it out
		present, absent := x.State == eventlog.Present || x.State == eventlog.Unsure, x.State == eventlog.Absent
		if x.Q != nil || !present && !absent {
			continue
		}
		if c, ok := condemns[x.ID]; ok {
			doubt := c.why + notSure
			switch {
			case x.State == eventlog.Unsure:
				if !s.hasAgainst(c.part, c.why) {
					s.condemn(Condemned{Part: c.part, Label: c.label, Why: doubt, Since: who})
				}
			case present:
				s.acquit(c.part, doubt)
				s.condemn(Condemned{Part: c.part, Label: c.label, Why: c.why, Since: who})
			default:
				s.acquit(c.part, c.why)
				s.acquit(c.part, doubt)
			}
		}
		switch x.ID {
		case "blades-missing":
			if x.State != eventlog.Unsure { // how much is at large is asked of the wheel
				s.Hands.BladesMissing(present)
			}
		case "milky-oil":
			if s.Oil.Value != "risen" { // not milky, or milky too: its level has risen all the same
				s.Oil = Oil{map[bool]string{true: milkySeen, false: "sound"}[present], who}
			}
		case "level-low-cold":
			s.coolant = Oil{map[bool]string{true: "low"}[present], who}
		case "oil-level-risen":
			if present {
				s.Oil = Oil{"risen", who}
			}
		case "water-in-silencer":
			s.vent = s.vent || present
		case "vent-valve-bad":
			s.vent = present
		case "no-water-at-outlet":
			s.dry = present
		case "weak-water-at-outlet", "good-water-at-outlet":
			s.dry = s.dry && x.State != eventlog.Present
		}
	}
}

// notSure stands behind what condemns a part where the look was neither yes nor no.
const notSure = ", nobody was sure: look again"

// hasAgainst says whether something is held against a part.
func (s *State) hasAgainst(part, why string) bool {
	return slices.ContainsFunc(s.condemned, func(c Condemned) bool { return c.Part == part && c.Why == why })
}

// condemn notes that a part is unfit; what was said of it before is said anew.
func (s *State) condemn(c Condemned) {
	s.acquit(c.Part, c.Why)
	s.condemned = append(s.condemned, c)
}

// acquit takes back what was said of a part; why empty: all of it.
func (s *State) acquit(part, why string) {
	s.condemned = slices.DeleteFunc(s.condemned, func(c Condemned) bool {
		return c.Part == part && (why == "" || c.Why == why)
	})
}

// judgedAnew takes back what the workbench said of a part; what a check saw stands until it is seen to be otherwise, or
// the part is renewed.
func (s *State) judgedAnew(part string) {
	s.condemned = slices.DeleteFunc(s.condemned, func(c Condemned) bool { return c.Part == part && c.bench })
}

// IsCondemned gives why a part is condemned and not back yet; not ok where it is not.
func (s *State) IsCondemned(part string) (Condemned, bool) {
	i := slices.IndexFunc(s.condemned, func(c Condemned) bool { return c.Part == part && c.Reason == "" })
	if i < 0 {
		return Condemned{}, false
	}
	return s.condemned[i], true
}

// Holds says whether an item stands on an account of the engine, by its key in the job or in full.
func (s *State) Holds(job, key string) bool { return s.Hands.Has(job+":"+key) || s.Hands.Has(key) }

// Item is what an item on an account of the engine is; not ok where there is none.
func (s *State) Item(job, key string) (teardown.Item, bool) {
	for _, full := range []string{job + ":" + key, key} {
		if i := slices.IndexFunc(s.Hands.Items, func(i teardown.Item) bool { return i.Key == full }); i >= 0 {
			return s.Hands.Items[i], true
		}
	}
	return teardown.Item{}, false
}
