package app

import (
	"context"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/validation"
	"hevrin/store"
)

// JobPage is a job as it stands, with its diagnosis.
type JobPage struct {
	Card   store.Job
	Job    *eventlog.Job
	Engine store.Engine
	Craft  store.Craft
	Log    []LogLine
	Answer *diagnosis.Answer
	Judged
	TeardownPage
	Wetwork WetworkPage
	Proving ProvingPage
}

// OpenJob starts a job on an engine. words is the complaint as it was told.
func (a *App) OpenJob(ctx context.Context, id, engine string, s Stamp, words string) (*JobPage, error) {
	e := a.entry(s, eventlog.Subject{Kind: eventlog.OfJob, ID: id}, eventlog.Opened, eventlog.Body{EngineID: engine, Words: words})
	err := a.write(ctx, e, func(tx *store.Tx, entries []eventlog.Entry) error {
		if len(entries) > 0 {
			return &eventlog.Conflict{Say: "a job with this id was started before: make a new id"}
		}
		if _, ok, err := tx.Engine(engine); err != nil || ok {
			return err
		}
		var wrong validation.Errors
		wrong.Add("engine_id", engine, "an engine on record", "add the engine first")
		return wrong
	})
	if err != nil {
		return nil, err
	}
	return a.Job(ctx, id)
}

// NoteInJob adds an entry to a job.
func (a *App) NoteInJob(ctx context.Context, job string, kind eventlog.Kind, s Stamp, body eventlog.Body) (*JobPage, error) {
	if body.Calculation != nil {
		kept, err := computed(body.Calculation)
		if err != nil {
			return nil, err
		}
		body.Calculation, body.Stated = kept, settledBy(kept)
	}
	if body.Teardown != nil && body.Teardown.Do == teardown.Begin {
		task, err := a.taskToBegin(ctx, body.Teardown.Item)
		if err != nil {
			return nil, err
		}
		body.Teardown.Task = task
	}
	if body.Photo != nil {
		kept, err := developed(*body.Photo)
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
	e := a.entry(s, eventlog.Subject{Kind: eventlog.OfJob, ID: job}, kind, body)
	err := a.write(ctx, e, func(tx *store.Tx, entries []eventlog.Entry) error {
		j, ok := eventlog.FoldJob(a.Catalogue, entries)
		if !ok {
			return notFound("job", job)
		}
		engine, ok, err := tx.Engine(j.EngineID)
		if err != nil {
			return err
		}
		if !ok {
			return notFound("engine", j.EngineID)
		}
		if err := eventlog.CheckJobEntry(a.Catalogue, FactsOf(engine), j, e); err != nil {
			return err
		}
		if r := e.Body.Recording; r != nil && r.Do == eventlog.RecordingBegun && !hasFeed(engine) {
			return errNoFeed()
		}
		if x := e.Body.Teardown; x != nil && x.Used != nil && x.Used.Stock != "" {
			return a.enoughInStock(tx, *x.Used)
		}
		if e.Body.Round == nil {
			return nil
		}
		return checkRound(FactsOf(engine), *e.Body.Round)
	})
	if err != nil {
		return nil, err
	}
	if slices.Contains([]eventlog.Kind{eventlog.Recorded, eventlog.Closed, eventlog.Reopened}, kind) {
		a.follow(ctx, job)
	}
	return a.Job(ctx, job)
}

// sentAgain gives the page where the entry is on record already: what the program filled in then may come out otherwise
// now, and must not make a second sending look like something else. The id of another entry is refused.
func (a *App) sentAgain(ctx context.Context, job string, kind eventlog.Kind, s Stamp, body eventlog.Body) (*JobPage, error) {
	old, ok, err := a.store.Read(ctx).Entry(s.EntryID)
	if err != nil || !ok {
		return nil, err
	}
	same := old.Subject == (eventlog.Subject{Kind: eventlog.OfJob, ID: job}) && old.Kind == kind && old.By == s.By
	if was, is := old.Body.Proving, body.Proving; was != nil && is != nil {
		same = same && was.Do == is.Do && was.Run == is.Run && was.Stage == is.Stage && was.Joint == is.Joint && was.State == is.State
	}
	if was, is := old.Body.Recording, body.Recording; was != nil && is != nil {
		same = same && was.Do == is.Do && was.ID == is.ID && was.Hash == is.Hash
	}
	if !same {
		return nil, usedBefore()
	}
	return a.Job(ctx, job)
}

// Job gives a job's page.
func (a *App) Job(ctx context.Context, id string) (*JobPage, error) {
	r := a.store.Read(ctx)
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: id})
	if err != nil {
		return nil, err
	}
	job, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return nil, notFound("job", id)
	}
	p := &JobPage{Job: job, Log: logLines(entries)}
	if p.Card, _, err = r.Job(id); err != nil {
		return nil, err
	}
	if p.Engine, _, err = r.Engine(job.EngineID); err != nil {
		return nil, err
	}
	if p.Craft, _, err = r.Craft(p.Engine.CraftID); err != nil {
		return nil, err
	}
	if p.Judged, err = a.judge(r, job, p.Engine); err != nil {
		return nil, err
	}
	book, err := a.methodsIn(r)
	if err != nil {
		return nil, err
	}
	p.TeardownPage, p.Wetwork = a.teardownPage(book.YardMethods, job, p.Engine), a.wetworkPage(book.YardMethods, job, p.Engine, p.Judged)
	if p.Proving, err = a.provingPage(r, job, p.Engine); err != nil {
		return nil, err
	}
	if p.Answer, err = a.diagnose(r, job, FactsOf(p.Engine), false); err != nil {
		return nil, err
	}
	return p, nil
}

// diagnose answers for a job, with what the engine's record tells taken in; in brief, what was found will do.
func (a *App) diagnose(r *store.Reader, job *eventlog.Job, engine eventlog.EngineFacts, brief bool) (*diagnosis.Answer, error) {
	jobs, err := r.Jobs(job.EngineID)
	if err != nil {
		return nil, err
	}
	var past []eventlog.Past
	for _, j := range jobs {
		if j.ClosedAt != nil && j.ID != job.ID {
			past = append(past, eventlog.Past{At: *j.ClosedAt, Faults: j.Faults})
		}
	}
	engine.Dates = withWetwork(engine.Dates, jobs)
	job.TakeFromRecord(eventlog.HistoryFromRecord(engine, past, job.OpenedAt))
	q := job.Question(engine)
	q.Brief = brief
	return cached(a.cache, "diagnosis", q, func() (*diagnosis.Answer, error) { return a.Diagnosis.Diagnose(q) })
}

func projectJob(a *App, tx *store.Tx, id string, entries []eventlog.Entry) error {
	job, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		row, had, err := tx.Job(id)
		if err != nil || !had {
			return err
		}
		row.Removed = true
		if err := tx.SaveJob(row); err != nil {
			return err
		}
		return a.forgetServiceLines(tx, row)
	}
	engine, _, err := tx.Engine(job.EngineID)
	if err != nil {
		return err
	}
	row, err := a.jobLine(tx, id, job, engine)
	if err != nil {
		return err
	}
	if err := tx.SaveJob(row); err != nil {
		return err
	}
	if err := savePartsUsed(tx, job); err != nil {
		return err
	}
	return a.saveServiceLines(tx, job, entries, engine)
}

// forgetServiceLines takes what a job told of its engine's life away with it.
func (a *App) forgetServiceLines(tx *store.Tx, row store.Job) error {
	if err := tx.SaveServiceLines(row.ID, nil); err != nil {
		return err
	}
	if err := tx.SavePartsUsed(row.ID, nil); err != nil {
		return err
	}
	engine, ok, err := tx.Engine(row.EngineID)
	if err != nil || !ok {
		return err
	}
	return a.saveMaintenance(tx, engine)
}

func (a *App) jobLine(tx *store.Tx, id string, job *eventlog.Job, engine store.Engine) (store.Job, error) {
	row := store.Job{ID: id, EngineID: job.EngineID, OpenedAt: job.OpenedAt.UTC(), OpenedBy: job.OpenedBy, Words: job.Words,
		Complaint: complaintOf(a.Catalogue, job), Faults: []string{}, Minutes: job.Minutes(), Checks: len(job.Checks), Works: workLines(job)}
	if c := job.Closing; c != nil {
		at := c.From.At.UTC()
		row.ClosedAt, row.Note = &at, c.Words
		row.Faults = append(row.Faults, c.Faults...)
		return row, nil
	}
	if _, err := a.judge(&tx.Reader, job, engine); err != nil {
		return row, err
	}
	answer, err := a.diagnose(&tx.Reader, job, FactsOf(engine), true)
	if err != nil {
		return row, err
	}
	row.Faults = answer.Found
	return row, nil
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
