package job

import (
	"context"
	"time"

	"hevrin/app/engine"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/teardown"
	"hevrin/core/validation"
)

// Page is a job as it stands, with its diagnosis.
type Page struct {
	Card   record.Job
	Job    *eventlog.Job
	Engine record.Engine
	Craft  record.Craft
	State  *enginestate.State // of the engine
	Ahead  *enginestate.Ahead // what comes before its checks
	Log    []record.LogLine
	// Timed are checks and accesses of which this engine's other jobs tell what they take, and how often they were timed.
	Timed  map[string]int
	Answer *diagnosis.Answer
	// PutRight is what somebody says is put right, and was not seen again since.
	PutRight []teardown.Done
	// Repaired was found and put right before the proof that began Since: the answer goes by what was read from then
	// on. Since is nil before any proof of a repair.
	Repaired []string
	Since    *time.Time
	// Enough says of what was found whether it explains the heat that was complained of.
	Enough []readings.Explained
	// AlsoSeen is light wear, to be put right while it is open.
	AlsoSeen []AlsoSeen
	readings.Judged
	Kind catalogue.JobKind
	// Plan is what the job is to do, of a kind that begins with a plan.
	Plan []PlanItem
	TeardownPage
	Wetwork WetworkPage
	Proving ProvingPage
}

// Start is what a job is opened for: the engine, the complaint as it was told, the kind of job, and the symptoms and
// history items that are so.
type Start struct {
	Engine, Words string
	eventlog.Opening
	Seen []string
}

// OpenJob starts a job on an engine.
func (a *Jobs) OpenJob(ctx context.Context, id string, s record.Stamp, start Start) (*Page, error) {
	body := eventlog.Body{EngineID: start.Engine, Words: start.Words}
	if o := start.Opening; o.Kind != "" || o.Leak != nil || len(o.Plan) > 0 {
		body.Opening = &o
	}
	body.Stated = eventlog.OpeningStates(a.Catalogue, start.Opening, start.Seen)
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfJob, ID: id}, eventlog.Opened, body)
	err := a.WriteLocked(ctx, e, func(r record.Reader, entries []eventlog.Entry) (record.Prepared, error) {
		if len(entries) > 0 {
			return nil, &eventlog.Conflict{Say: "a job with this id was started before: make a new id"}
		}
		on, ok, err := r.Engine(start.Engine)
		if err != nil {
			return nil, err
		} else if !ok {
			var wrong validation.Errors
			wrong.Add("engine_id", start.Engine, "an engine on record", "add the engine first")
			return nil, wrong
		}
		if err := eventlog.CheckOpening(a.Catalogue, record.FactsOf(on), body); err != nil {
			return nil, err
		}
		if b := bulkOf(ctx); b != nil {
			b.add(id)
			return func(tx record.Tx) error { return tx.SaveJob(a.bareLine(id, e)) }, nil
		}
		return func(tx record.Tx) error { return a.Project(tx, id, append(entries, e)) }, nil
	})
	if err != nil || bulkOf(ctx) != nil {
		return nil, err
	}
	return a.Job(ctx, id)
}

// NoteInJob adds an entry to a job.
func (a *Jobs) NoteInJob(ctx context.Context, job string, kind eventlog.Kind, s record.Stamp,
	body eventlog.Body) (*Page, error) {
	if eventlog.NeedsSigning(body) {
		if err := record.Allow(ctx, people.Sign); err != nil {
			return nil, err
		}
	}
	if body.Calculation != nil {
		kept, err := computed(body.Calculation)
		if err != nil {
			return nil, err
		}
		body.Calculation, body.Stated = kept, settledBy(kept)
	}
	if body.Teardown != nil && body.Teardown.Do == teardown.Begin {
		task, err := a.taskToBegin(ctx, job, body.Teardown.Item)
		if err != nil {
			return nil, err
		}
		body.Teardown.Task = task
	}
	if body.Photo != nil {
		kept, err := developed(ctx, *body.Photo)
		if err != nil {
			return nil, err
		}
		body.Photo = kept
	}
	if body.Proving != nil || body.Recording != nil {
		if page, err := a.sentAgain(ctx, job, kind, s, body); page != nil || err != nil {
			return page, err
		}
	}
	if err := a.complete(ctx, job, &body); err != nil {
		return nil, err
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfJob, ID: job}, kind, body)
	if isForeseen(ctx) {
		return nil, a.foresee(ctx, e)
	}
	var now *state
	write := a.Write
	if ends := e.Kind == eventlog.Closed || body.Teardown != nil && body.Teardown.Do == teardown.Start; ends {
		write = a.WriteLocked // nobody opens anything in another job of the engine meanwhile
	}
	err := write(ctx, e, func(r record.Reader, before []eventlog.Entry) (record.Prepared, error) {
		var err error
		if now, err = a.stateOf(r, job, before); err != nil {
			return nil, err
		}
		if err := a.check(r, now, e); err != nil {
			return nil, err
		}
		if b := bulkOf(ctx); b != nil {
			b.add(job)
			now.entries = append(now.entries, e)
			now.job.Add(a.Catalogue, e)
			return now.later(e, a.inventory), nil
		}
		was := now.line
		stood, err := a.states.Of(r, now.engine.ID, now.beside)
		if err != nil {
			return nil, err
		}
		if err := a.add(r, now, e); err != nil {
			return nil, err
		}
		return a.save(now, was, stood, e), nil
	})
	if err != nil || bulkOf(ctx) != nil {
		return nil, err
	}
	if now == nil || now.last() != e.ID { // it was on record already
		return a.Job(ctx, job)
	}
	return a.page(a.Store.Read(ctx), now)
}

// check refuses an entry that does not fit the job as it stands, or its engine.
func (a *Jobs) check(r record.Reader, now *state, e eventlog.Entry) error {
	var stand *eventlog.Stand
	if e.Kind == eventlog.TeardownNoted || e.Kind == eventlog.Closed {
		s, err := a.states.AsOf(r, now.engine.ID, now.beside, e.At)
		if err != nil {
			return err
		}
		stand = s.Stand(record.FactsOf(now.engine), now.job.ID)
	}
	if err := eventlog.CheckJobEntry(a.Catalogue, record.FactsOf(now.engine), now.job, stand, e); err != nil {
		return err
	}
	if rec := e.Body.Recording; rec != nil && rec.Do == eventlog.RecordingBegun && !engine.HasFeed(now.engine) {
		return engine.ErrNoFeed()
	}
	if e.Body.Round == nil {
		return nil
	}
	return readings.CheckRound(record.FactsOf(now.engine), *e.Body.Round)
}

// sentAgain gives the page where the entry is on record already: what the program filled in then may come out otherwise
// now, and must not make a second sending look like something else. The id of another entry is refused.
func (a *Jobs) sentAgain(ctx context.Context, job string, kind eventlog.Kind, s record.Stamp,
	body eventlog.Body) (*Page, error) {
	old, ok, err := a.Store.Read(ctx).Entry(s.EntryID)
	if err != nil || !ok {
		return nil, err
	}
	same := old.Subject == (eventlog.Subject{Kind: eventlog.OfJob, ID: job}) && old.Kind == kind && old.By == s.By
	if was, is := old.Body.Proving, body.Proving; was != nil && is != nil {
		same = same && was.Do == is.Do && was.Run == is.Run && was.Stage == is.Stage && was.Joint == is.Joint &&
			was.State == is.State
	}
	if was, is := old.Body.Recording, body.Recording; was != nil && is != nil {
		same = same && was.Do == is.Do && was.ID == is.ID && was.Hash == is.Hash
	}
	if !same {
		return nil, record.UsedBefore()
	}
	return a.Job(ctx, job)
}

func complaintOf(c *catalogue.Catalogue, job *eventlog.Job) []string {
	out := []string{}
	for _, f := range job.Findings {
		if facts, ok := c.Finding(f.ID); ok && facts.Source == catalogue.Complaint && f.Q == 1 {
			out = append(out, f.ID)
		}
	}
	return out
}
