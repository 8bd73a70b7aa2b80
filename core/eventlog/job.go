package eventlog

import (
	"slices"
	"strings"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// Job is what the standing entries make of a job.
type Job struct {
	ID       string
	EngineID string
	OpenedAt time.Time
	OpenedBy string
	Words    string // the complaint in its own words
	Opening  Opening
	// Findings and History in the order in which they were last stated.
	Findings     []Statement
	History      []Statement
	Apart        []Disagreement // what two people answered differently, neither knowing of the other
	Checks       []CheckMade
	Strategy     string
	Notes        []Note
	Calculations []StoredCalculation
	Rounds       []RoundMade
	Teardown     *teardown.Account
	Photos       []StoredPhoto
	Wetwork      *wetwork.Account
	Proving      *proving.Account
	Recordings   []StoredRecording
	order        int            // how many entries were taken in
	putRight     map[string]int // by fault: where among them somebody said that it is put right
	Closing      *Closing
}

// Statement is a finding or history item with who stated it and when. Q: 1 present, 0 absent, between: computed.
type Statement struct {
	ID    string
	Q     float64
	Check string // that settled it
	Point string // the operating point that it was read at; empty: of what tells the same at each
	Looks int    // how often that check showed nothing of it; 0 of what is present
	From  Source
	Order int // among the job's entries: clocks of devices differ
	// Record is set where the engine's record tells it and nobody said so in the job: how the record knows.
	Record string
}

// Source says who noted something, when, and in which entry.
type Source struct {
	By    string
	At    time.Time
	Entry string
}

// CheckMade is a check that was made, tried or skipped.
type CheckMade struct {
	Check, Outcome, Words string
	Minutes               float64
	From                  Source
	Order                 int // among the job's entries
}

// Note is a note.
type Note struct {
	Words string
	From  Source
}

// StoredCalculation is a sum that was kept in the job.
type StoredCalculation struct {
	Calculation
	Words string
	From  Source
}

// RoundMade is a round of readings that was taken in the job.
type RoundMade struct {
	Round
	Words string
	From  Source
	Order int // among the job's entries: clocks of devices differ
}

// StoredPhoto is a picture of a job; its entry's id is its own.
type StoredPhoto struct {
	Photo
	Words string
	From  Source
}

// StoredRecording is a recording of the job. Ended is nil while it goes on.
type StoredRecording struct {
	Recording
	From  Source
	Ended *time.Time
	Order int // among the job's entries
}

// Closing is how a job ended. Despite is why it was closed with something standing in the way.
type Closing struct {
	Despite  string
	Faults   []string
	OneOf    bool // it was one of them, and nobody knows which: they were put right between the same two runs
	Explains bool // everything that was found
	Words    string
	// WatchHours is for how many running hours it is on watch, for it comes and goes; 0: it is not.
	WatchHours float64
	From       Source
}

// FoldJob makes the job of its entries, in the order in which they were kept; not ok when it was never opened, or the
// opening was taken back.
func FoldJob(c *catalogue.Catalogue, entries []Entry) (*Job, bool) {
	j, undone := newJob(), Undone(entries)
	for i := range entries {
		if entries[i].Kind != Undo && !undone[entries[i].ID] {
			j.take(c, entries[i])
		}
	}
	return j, j.ID != ""
}

func newJob() *Job {
	return &Job{Strategy: diagnosis.Quickest, Teardown: teardown.NewAccount(), Wetwork: &wetwork.Account{},
		Proving: &proving.Account{}, putRight: map[string]int{}}
}

func (j *Job) take(c *catalogue.Catalogue, e Entry) {
	j.order++
	if apply, ok := steps[e.Kind]; ok {
		apply(c, j, e)
	}
}

// Add takes one more entry into a folded job. What an undo takes back may be anywhere: for it, fold anew.
func (j *Job) Add(c *catalogue.Catalogue, e Entry) { j.take(c, e) }

// Replay goes through a job's entries as they were kept, each seen by check with the job as it stood before it; the
// first that check refuses ends it. It gives the job at the end; not ok as in FoldJob.
func Replay(c *catalogue.Catalogue, entries []Entry, check func(j *Job, before []Entry,
	e Entry) error) (*Job, bool, error) {
	j := newJob()
	for i, e := range entries {
		if err := check(j, entries[:i], e); err != nil {
			return nil, false, err
		}
		if e.Kind == Undo { // what is taken back may be anywhere
			j, _ = FoldJob(c, entries[:i+1])
		} else {
			j.take(c, e)
		}
	}
	return j, j.ID != "", nil
}

var steps = map[Kind]func(*catalogue.Catalogue, *Job, Entry){
	Opened: func(c *catalogue.Catalogue, j *Job, e Entry) { j.open(c, e) },
	Found:  func(c *catalogue.Catalogue, j *Job, e Entry) { j.state(c, e) },
	HistoryStated: func(_ *catalogue.Catalogue, j *Job, e Entry) {
		for _, s := range e.Body.Stated {
			is := Statement{ID: s.ID, From: e.Source(), Order: j.order}
			newer := func(k Statement) bool { return k.sameAs(is) && k.From.At.After(is.From.At) }
			if !e.Waited() || !slices.ContainsFunc(j.History, newer) {
				j.History = restate(j.History, s, is)
			}
		}
	},
	Checked: func(c *catalogue.Catalogue, j *Job, e Entry) {
		made := CheckMade{Check: e.Body.Check, Outcome: e.Body.Outcome, Words: e.Body.Words, From: e.Source(),
			Order: j.order}
		if e.Body.Minutes != nil {
			made.Minutes = *e.Body.Minutes
		}
		j.Checks = append(j.Checks, made)
		if e.Body.Round != nil { // what was read at the check tells as any round does
			j.round(e)
		}
		j.state(c, e)
	},
	Strategy: func(_ *catalogue.Catalogue, j *Job, e Entry) { j.Strategy = e.Body.Strategy },
	Noted: func(_ *catalogue.Catalogue, j *Job, e Entry) {
		j.Notes = append(j.Notes, Note{e.Body.Words, e.Source()})
	},
	Calculated: func(c *catalogue.Catalogue, j *Job, e Entry) {
		j.state(c, e)
		j.Calculations = append(j.Calculations, StoredCalculation{*e.Body.Calculation, e.Body.Words, e.Source()})
	},
	TeardownNoted: func(c *catalogue.Catalogue, j *Job, e Entry) {
		j.byHand(c, e, *e.Body.Teardown)
		if e.Body.Teardown.Do == teardown.PutRight {
			j.putRight[e.Body.Teardown.Item] = j.order
		}
		if e.Body.Teardown.Do == teardown.Start {
			j.Proving.Start(e.By, e.Happened())
		}
	},
	Proved: func(c *catalogue.Catalogue, j *Job, e Entry) {
		j.Proving.Take(proving.Done{Act: *e.Body.Proving, By: e.By, At: e.Happened(), Entry: e.ID, Order: j.order})
		j.state(c, e)
	},
	Recorded: func(_ *catalogue.Catalogue, j *Job, e Entry) { j.record(e) },
	WetworkNoted: func(c *catalogue.Catalogue, j *Job, e Entry) {
		j.Wetwork.Take(wetwork.Done{Act: *e.Body.Wetwork, By: e.By, At: e.Happened(), Entry: e.ID, Order: j.order})
		if w := e.Body.Wetwork; w.Do == wetwork.CameOut && w.What == wetwork.Rubber { // into the piece ledger
			j.byHand(c, e, teardown.Act{Do: teardown.Found, Item: w.Station, Piece: &teardown.Piece{Share: w.Share}})
		}
	},
	Pictured: func(_ *catalogue.Catalogue, j *Job, e Entry) {
		j.Photos = append(j.Photos, StoredPhoto{*e.Body.Photo, e.Body.Words, e.Source()})
	},
	RoundTaken: func(_ *catalogue.Catalogue, j *Job, e Entry) { j.round(e) },
	Closed: func(_ *catalogue.Catalogue, j *Job, e Entry) {
		for i := range j.Recordings { // a closed job records nothing more
			j.end(&j.Recordings[i], e)
		}
		j.Closing = &Closing{Faults: e.Body.Faults, Explains: e.Body.Explains != nil && *e.Body.Explains,
			Words: e.Body.Words, Despite: e.Body.Despite, OneOf: e.Body.OneOf != nil && *e.Body.OneOf, From: e.Source()}
		if h := e.Body.WatchHours; h != nil {
			j.Closing.WatchHours = *h
		}
	},
	Reopened: func(_ *catalogue.Catalogue, j *Job, _ Entry) { j.Closing = nil },
}

// round takes in what was read, in a round of its own or at a check.
func (j *Job) round(e Entry) {
	j.Rounds = append(j.Rounds, RoundMade{*e.Body.Round, e.Body.Words, e.Source(), j.order})
}

// record takes in what becomes of a recording.
func (j *Job) record(e Entry) {
	r := *e.Body.Recording
	switch r.Do {
	case RecordingEnded:
		for i := range j.Recordings {
			if j.Recordings[i].ID == r.ID {
				j.end(&j.Recordings[i], e)
			}
		}
	default:
		kept := StoredRecording{Recording: r, From: e.Source(), Order: j.order}
		if r.Do == RecordingWhole {
			at := e.Happened()
			kept.Ended = &at
		}
		j.Recordings = append(j.Recordings, kept)
	}
}

func (j *Job) end(r *StoredRecording, e Entry) {
	if r.Ended == nil {
		at := e.Happened()
		r.Ended = &at
		if e.Body.Recording != nil {
			r.Seconds, r.Rows, r.Places, r.Hours = e.Body.Recording.Seconds, e.Body.Recording.Rows, e.Body.Recording.Places,
				e.Body.Recording.Hours
		}
	}
}

// Recording finds a recording of the job.
func (j *Job) Recording(id string) (StoredRecording, bool) {
	i := slices.IndexFunc(j.Recordings, func(r StoredRecording) bool { return r.ID == id })
	if i < 0 {
		return StoredRecording{}, false
	}
	return j.Recordings[i], true
}

// Open is the recording that goes on; not ok when there is none.
func (j *Job) Open() (StoredRecording, bool) {
	for _, r := range j.Recordings {
		if r.Ended == nil {
			return r, true
		}
	}
	return StoredRecording{}, false
}

// Happened is when it happened, as well as we know: as it was tapped, by the yard's clock as far as the device knew it,
// and never after it was saved. What waited on a device without a link was saved long after it happened.
func (e Entry) Happened() time.Time {
	if e.TappedAt != nil && e.TappedAt.Before(e.At) {
		return *e.TappedAt
	}
	return e.At
}

// Source says who noted an entry, when, and that it was in it.
func (e Entry) Source() Source { return Source{By: e.By, At: e.Happened(), Entry: e.ID} }

// state takes an entry's findings in; of a group the option stated present drives the others out.
func (j *Job) state(c *catalogue.Catalogue, e Entry) {
	for _, s := range e.Saw(c) {
		is := Statement{Check: e.Body.Check, Point: c.PointOf(e.Body.Check, s.ID), From: e.Source(), Order: j.order}
		if j.overtaken(c, e, s, is) {
			continue
		}
		if s.ID == "blades-missing" && s.Q == nil && (s.State == Present || s.State == Absent) {
			j.Teardown.BladesMissing(s.State == Present)
		}
		if group, grouped := c.GroupOf(s.ID); grouped && s.State == Present {
			g, _ := c.Group(group)
			for _, other := range g.Findings {
				j.Findings = without(j.Findings, other)
			}
		}
		if g, heavy := c.HeavyGrade(s.ID); heavy && s.State == Present && s.Q == nil {
			j.Findings = slices.DeleteFunc(j.Findings, func(k Statement) bool {
				return k.ID == g.Light && (e.Body.Check == "" || k.Check == e.Body.Check)
			})
		}
		looks := j.looksAt(s.ID, e.Body.Check)
		j.Findings = restate(j.Findings, s, is)
		if n := len(j.Findings); n > 0 && s.State == Absent && s.Q == nil && e.Body.Check != "" {
			j.Findings[n-1].Looks = looks + 1
		}
	}
}

// looksAt is how often a check showed nothing of a finding so far.
func (j *Job) looksAt(finding, check string) int {
	for _, k := range j.Findings {
		if k.ID == finding && k.Check == check && k.Q < 1 {
			return max(k.Looks, 1)
		}
	}
	return 0
}

// restate puts what was stated now in the place of what was stated of it before, at the same operating point; is holds
// all of it but what.
func restate(list []Statement, s Stated, is Statement) []Statement {
	is.ID = s.ID
	list = slices.DeleteFunc(slices.Clone(list), is.sameAs)
	switch {
	case s.Q != nil:
		is.Q = *s.Q
	case s.State == Present:
		is.Q = 1
	case s.State == Absent:
	case s.State == Unsure:
		is.Q = diagnosis.UnsureQ
	default:
		return list
	}
	return append(list, is)
}

// sameAs tells whether two statements are of the same thing: of a reading at the same operating point, or at any.
func (k Statement) sameAs(other Statement) bool {
	return k.ID == other.ID && (k.Point == other.Point || k.Point == "" || other.Point == "")
}

func without(list []Statement, id string) []Statement {
	out := make([]Statement, 0, len(list)+1)
	for _, k := range list {
		if k.ID != id {
			out = append(out, k)
		}
	}
	return out
}

// Minutes is what the job's checks took together.
func (j *Job) Minutes() float64 {
	sum := 0.0
	for _, k := range j.Checks {
		sum += k.Minutes
	}
	return sum
}

// byHand takes an act into the account, and what the bench tells into the findings.
func (j *Job) byHand(c *catalogue.Catalogue, e Entry, a teardown.Act) {
	j.Teardown.Take(teardown.Done{Act: a, By: e.By, At: e.Happened(), Entry: e.ID})
	for _, f := range a.Findings() {
		if _, ok := c.Finding(f.Finding); ok {
			j.Findings = restate(j.Findings, Stated{ID: f.Finding, State: map[bool]string{true: Present,
				false: Absent}[f.Present]}, Statement{From: e.Source(), Order: j.order})
		}
	}
}

// RawStations lists an engine's raw-water stations in the order of the water.
func (e EngineFacts) RawStations(c *catalogue.Catalogue) []string {
	var list []string
	for _, id := range e.Circuit {
		if s, ok := c.Station(id); ok && slices.Contains(s.Sides[e.Family], "raw") {
			list = append(list, id)
		}
	}
	return list
}

// Standing lists what keeps a job from being closed, in words, where its engine stands so.
func (j *Job) Standing(conditions []teardown.Condition) []string {
	list := teardown.Standing(conditions)
	for _, w := range j.Wetwork.Works {
		if missing := w.Missing(); len(missing) > 0 && len(w.Log) > 0 {
			list = append(list, "Descaling: not yet "+strings.Join(missing, ", not yet "))
		}
	}
	return list
}
