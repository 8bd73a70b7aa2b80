package job

import (
	"bytes"
	"context"
	"encoding/json"
	"maps"
	"slices"

	"hevrin/app/inventory"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/yard"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
)

// state is a job worked out from its entries: read once, folded once, judged once, diagnosed once. A page is drawn from
// it, and its line in the lists.
type state struct {
	entries []eventlog.Entry
	job     *eventlog.Job
	engine  record.Engine
	beside  []record.Engine // all engines of the craft, this one among them
	jobs    []record.Job    // of the engine
	methods *yard.MethodsPage
	timed   map[string]int // checks and accesses of which this engine's other jobs tell what they take
	line    record.Job     // in the lists; empty before the job is opened
	judged  readings.Judged
	answer  *diagnosis.Answer
	stand   *enginestate.State // of the engine
	ahead   *enginestate.Ahead // of its checks
	// repaired are the faults found before the proof, provedFrom where it begins among the entries; 0: no proof of a
	// repair.
	repaired   []string
	provedFrom int
}

// last is the newest entry's id.
func (s *state) last() string { return s.entries[len(s.entries)-1].ID }

// stateOf reads and folds a job; it judges nothing yet.
func (a *Jobs) stateOf(r record.Reader, id string, entries []eventlog.Entry) (*state, error) {
	s := &state{entries: entries}
	var ok bool
	if s.job, ok = eventlog.FoldJob(a.Catalogue, entries); !ok {
		return nil, record.NotFound("job", id)
	}
	return s, a.readBeside(r, s)
}

// readBeside reads what lies beside a job's entries: its engine with those of the same craft, and the engine's jobs.
func (a *Jobs) readBeside(r record.Reader, s *state) (err error) {
	if s.beside, err = r.EnginesBeside(s.job.EngineID); err != nil {
		return err
	}
	at := slices.IndexFunc(s.beside, func(e record.Engine) bool { return e.ID == s.job.EngineID })
	if at < 0 {
		return record.NotFound("engine", s.job.EngineID)
	}
	s.engine = s.beside[at]
	if s.jobs, err = r.Jobs(s.engine.ID); err != nil {
		return err
	}
	if at := slices.IndexFunc(s.jobs, func(j record.Job) bool { return j.ID == s.job.ID }); at >= 0 {
		s.line = s.jobs[at]
	}
	return nil
}

// infer judges the job's readings and asks the diagnosis, of the engine as it stands.
func (a *Jobs) infer(r record.Reader, s *state) (err error) {
	if s.judged, err = a.readings.Judge(r, s.job, s.engine, s.beside); err != nil {
		return err
	}
	if s.methods, err = a.yard.MethodsIn(r); err != nil {
		return err
	}
	s.answer, err = a.diagnose(s)
	return err
}

// add takes one more entry into a job that is folded already, and works out what follows.
func (a *Jobs) add(r record.Reader, s *state, e eventlog.Entry) error {
	var err error
	if s.stand, err = a.states.After(r, s.engine.ID, s.beside, e); err != nil {
		return err
	}
	s.entries = append(s.entries, e)
	s.job.Add(a.Catalogue, e)
	if err := a.infer(r, s); err != nil {
		return err
	}
	s.line = a.lineOf(s)
	return nil
}

// diagnose answers for a job, with what the engine's record says taken in.
func (a *Jobs) diagnose(s *state) (*diagnosis.Answer, error) {
	var past []eventlog.Past
	for _, j := range s.jobs {
		if j.ClosedAt != nil && j.ID != s.job.ID {
			past = append(past, eventlog.Past{At: *j.ClosedAt, Faults: j.Faults})
		}
	}
	facts := record.FactsOf(s.engine)
	facts.Dates = withWetwork(facts.Dates, s.jobs)
	s.job.TakeFromRecord(eventlog.HistoryFromRecord(facts, past, s.job.OpenedAt))
	q, err := a.question(s, facts)
	if err != nil {
		return nil, err
	}
	q.Yard = s.methods.Figures
	q.Yard.Minutes, s.timed = s.stand.Minutes(s.job.ID, q.Yard.Minutes)
	s.ahead = s.stand.Ahead(facts)
	q.Barred, q.Ahead = maps.Clone(s.ahead.Barred), s.ahead.Minutes
	if len(s.beside) < 2 {
		for _, id := range ofTwins {
			q.Barred[id] = "No other engine aboard."
		}
	}
	if s.provedFrom > 0 {
		for _, k := range a.Catalogue.Checks {
			if k.Asks {
				q.Barred[k.ID] = "What is told of a run before the proof is not of now."
			}
		}
	}
	return a.answer(q)
}

func (a *Jobs) answer(q diagnosis.Question) (*diagnosis.Answer, error) {
	return readings.Cached(a.readings.Cache, "diagnosis", q, func() (*diagnosis.Answer, error) {
		return a.Diagnosis.Diagnose(q)
	})
}

// question is what the diagnosis is asked: once what was found is put right and its proof begun, by what was read
// since. A run that nothing was put right before is one more look.
func (a *Jobs) question(s *state, facts eventlog.EngineFacts) (diagnosis.Question, error) {
	open, from := s.stand.OpenAccess(), s.job.ProvedFrom()
	s.repaired, s.provedFrom = nil, 0
	if from == 0 {
		return s.job.Question(facts, open), nil
	}
	before := s.job.QuestionUntil(facts, nil, from)
	before.Brief, before.Yard = true, s.methods.Figures
	then, err := a.answer(before)
	if err != nil {
		return before, err
	}
	s.repaired = s.job.Repaired(a.Catalogue, then.Found, from)
	if curedBy(s.job, from) { // the signature stands for all of it
		s.repaired = then.Found
	}
	if len(s.repaired) == 0 {
		return s.job.Question(facts, open), nil
	}
	s.provedFrom = from
	return s.job.QuestionSince(a.Catalogue, facts, open, from, s.repaired), nil
}

// curedBy says whether the run that begins at a place among a job's entries was signed as cured.
func curedBy(job *eventlog.Job, order int) bool {
	return slices.ContainsFunc(job.Proving.Runs, func(r *proving.ProvingRun) bool {
		return r.Order == order && r.Verdict() == proving.Cured
	})
}

// ofTwins are the checks that look at a sister engine.
var ofTwins = []string{"sister-look", "twin-round"}

// lineOf is a job's line in the lists.
func (a *Jobs) lineOf(s *state) record.Job {
	job := s.job
	line := record.Job{ID: job.ID, EngineID: job.EngineID, OpenedAt: job.OpenedAt.UTC(), OpenedBy: job.OpenedBy,
		Words: job.Words, Kind: kindOf(job), Verdict: job.Proving.Verdict(),
		Complaint: complaintOf(a.Catalogue, job), Faults: []string{}, Minutes: job.Minutes(), Checks: len(job.Checks),
		Works: workLines(job)}
	if c := job.Closing; c != nil {
		at := c.From.At.UTC()
		line.ClosedAt, line.Note = &at, c.Words
		line.Faults = append(line.Faults, c.Faults...)
		return line
	}
	line.Faults = append([]string{}, s.repaired...) // found, and put right since
	for _, f := range s.answer.Found {
		if !slices.Contains(line.Faults, f) {
			line.Faults = append(line.Faults, f)
		}
	}
	if len(s.answer.Found) > 0 && line.Verdict != proving.NotCured { // found since, or not said to be put right
		line.Verdict = ""
	}
	if w := job.Teardown.Waiting; w != nil {
		line.Waiting = w.Say()
	}
	return line
}

// quiet are the kinds of entry that change nothing of the engine's service history, nor of the parts used.
var quiet = []eventlog.Kind{eventlog.Noted, eventlog.Found, eventlog.HistoryStated, eventlog.Access, eventlog.Strategy,
	eventlog.Calculated}

// save is what is left to be done in the transaction: only what changed is rewritten.
func (a *Jobs) save(s *state, was record.Job, before *enginestate.State, e eventlog.Entry) record.Prepared {
	var lines []record.ServiceLine
	loud, other := !slices.Contains(quiet, e.Kind), !alike(was, s.line)
	if loud {
		lines = a.maintenance.ServiceLinesOf(s.job, s.entries, s.engine)
	}
	return func(tx record.Tx) error {
		// of two who take the last part one is told
		if u := e.Body.Teardown; u != nil && u.Used != nil && u.Used.Stock != "" {
			if err := a.inventory.EnoughInStock(tx, *u.Used); err != nil {
				return err
			}
		}
		if other {
			if err := tx.SaveJob(s.line); err != nil {
				return err
			}
		}
		if !loud {
			return nil
		}
		if e.Kind == eventlog.TeardownNoted {
			if err := inventory.SavePartsUsed(tx, s.job); err != nil {
				return err
			}
		}
		if err := a.maintenance.SaveServiceLines(tx, s.job.ID, lines, s.engine); err != nil {
			return err
		}
		if !leavesOther(before, s.stand) {
			return nil
		}
		return a.engine.ProjectAfterJob(tx, s.engine.ID)
	}
}

// leavesOther says whether two states of an engine leave other work behind, or another pump in it.
func leavesOther(before, after *enginestate.State) bool {
	was, _ := before.Pump()
	is, _ := after.Pump()
	return was != is || !slices.Equal(before.FollowUps(), after.FollowUps())
}

// alike tells whether two lines say the same, however their times are written.
func alike(a, b record.Job) bool {
	x, err := json.Marshal(a)
	y, err2 := json.Marshal(b)
	return err == nil && err2 == nil && bytes.Equal(x, y)
}

// Project rewrites a job's line from its entries, and what it says of its engine's service history: for what may change
// anything, as an undo does.
func (a *Jobs) Project(tx record.Tx, id string, entries []eventlog.Entry) error {
	job, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return a.remove(tx, id)
	}
	s := &state{entries: entries, job: job}
	if err := a.readBeside(tx, s); err != nil {
		return err
	}
	if job.Closing == nil { // what a closed job found stands in its closing
		var err error
		if s.stand, err = a.states.Fresh(tx, s.engine.ID); err != nil {
			return err
		}
		if err := a.infer(tx, s); err != nil {
			return err
		}
	}
	if err := tx.SaveJob(a.lineOf(s)); err != nil {
		return err
	}
	if err := inventory.SavePartsUsed(tx, job); err != nil {
		return err
	}
	if err := a.maintenance.SaveServiceLines(tx, id, a.maintenance.ServiceLinesOf(job, entries, s.engine),
		s.engine); err != nil {
		return err
	}
	return a.engine.ProjectAfterJob(tx, s.engine.ID)
}

// remove takes a job off the lists whose opening was taken back.
func (a *Jobs) remove(tx record.Tx, id string) error {
	line, had, err := tx.Job(id)
	if err != nil || !had {
		return err
	}
	line.Removed = true
	if err := tx.SaveJob(line); err != nil {
		return err
	}
	if err := tx.SavePartsUsed(id, nil); err != nil {
		return err
	}
	engine, ok, err := tx.Engine(line.EngineID)
	if err != nil || !ok {
		return err
	}
	return a.maintenance.ForgetServiceLines(tx, id, engine)
}

// Job gives a job's page.
func (a *Jobs) Job(ctx context.Context, id string) (*Page, error) {
	r := a.Store.Read(ctx)
	entries, _, err := a.Entries(r, eventlog.Subject{Kind: eventlog.OfJob, ID: id})
	if err != nil {
		return nil, err
	}
	s, err := a.stateOf(r, id, entries)
	if err != nil {
		return nil, err
	}
	if s.stand, err = a.states.Of(r, s.engine.ID, s.beside); err != nil {
		return nil, err
	}
	if err := a.infer(r, s); err != nil {
		return nil, err
	}
	return a.page(r, s)
}

// page draws a job's page from its state.
func (a *Jobs) page(r record.Reader, s *state) (*Page, error) {
	p := &Page{Timed: s.timed, Card: s.line, Job: s.job, Engine: s.engine, State: s.stand, Ahead: s.ahead,
		Log: record.LogLines(s.entries), Judged: s.judged, Answer: s.answer, Repaired: s.repaired,
		PutRight: s.job.PutRight(a.Catalogue)}
	for _, e := range s.job.Proving.Runs {
		if s.provedFrom > 0 && e.Order == s.provedFrom {
			at := e.Begun.At
			p.Since = &at
		}
	}
	var err error
	if p.Craft, _, err = r.Craft(s.engine.CraftID); err != nil {
		return nil, err
	}
	p.Enough = a.readings.Enough(s.job, record.FactsOf(s.engine), s.line.Faults)
	if p.AlsoSeen, err = a.alsoSeen(r, s); err != nil {
		return nil, err
	}
	p.Kind, _ = a.Catalogue.JobKind(s.job.Opening.Kind)
	if p.Plan, err = a.plan(r, s); err != nil {
		return nil, err
	}
	p.TeardownPage = a.teardownPage(s.methods.YardMethods, s)
	p.Wetwork = a.wetworkPage(s.methods.YardMethods, s.job, s.engine, s.judged)
	p.Proving, err = a.provingPage(r, s)
	return p, err
}
