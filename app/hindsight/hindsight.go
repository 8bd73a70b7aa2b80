// Package hindsight looks back on the yard's closed jobs, and keeps of each what was seen when it was closed.
package hindsight

import (
	"context"
	"encoding/json"

	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/yard"
	"hevrin/core/eventlog"
	"hevrin/core/hindsight"
)

// Hindsight is the use case. It may be used from many goroutines.
type Hindsight struct {
	*record.Log
	jobs  *job.Jobs
	yard  *yard.Overview
	store record.HindsightStore
}

// New joins the jobs with what is kept of them.
func New(l *record.Log, j *job.Jobs, y *yard.Overview, s record.HindsightStore) *Hindsight {
	return &Hindsight{l, j, y, s}
}

// Page is what all closed jobs come to, each of them, and what the yard goes by.
type Page struct {
	hindsight.Account
	List []hindsight.Job // the newest first
	Left int             // closed jobs that are still to be looked back on: asked again, the page goes on with them
	// Unjudged are those of which the last try failed: they are left out, and tried again.
	Unjudged int
	Methods  *yard.MethodsPage
}

// mostAtOnce is how many jobs are looked back on while somebody waits: each takes some hundredths of a second.
const mostAtOnce = 60

// Page looks back on all closed jobs.
func (a *Hindsight) Page(ctx context.Context) (*Page, error) {
	left, err := a.store.ToLookBackOn(ctx)
	if err != nil {
		return nil, err
	}
	now := left[:min(len(left), mostAtOnce)]
	p := &Page{Left: len(left) - len(now)}
	for _, id := range now { // one that cannot be judged or kept does not take the others away
		if err := a.Keep(ctx, id); ctx.Err() != nil {
			return nil, ctx.Err()
		} else if err != nil {
			p.Unjudged++
		}
	}
	kept, err := a.store.Hindsight(ctx)
	if err != nil {
		return nil, err
	}
	for _, k := range kept {
		var j hindsight.Job
		if err := json.Unmarshal([]byte(k.Body), &j); err != nil {
			return nil, err
		}
		p.List = append(p.List, j)
	}
	p.Account = hindsight.Sum(a.Catalogue, p.List)
	p.Methods, err = a.yard.Methods(ctx)
	return p, err
}

// Keep looks back on a job and keeps what it sees; of one that is not closed, or has no cause, nothing.
func (a *Hindsight) Keep(ctx context.Context, id string) error {
	j, ok, err := job.LookBack(a.jobs, a.Store.Read(ctx), id)
	if err != nil || !ok {
		return err
	}
	raw, err := json.Marshal(j)
	if err != nil {
		return err
	}
	return a.store.SaveHindsight(ctx, record.Hindsight{JobID: id, ClosedAt: j.ClosedAt, Body: string(raw)})
}

// Changed looks back on a job that was just closed. What fails now is made up for when the page is asked for.
func (a *Hindsight) Changed(ctx context.Context, e eventlog.Entry) {
	if e.Kind == eventlog.Closed && e.Subject.Kind == eventlog.OfJob && !job.InBulk(ctx) {
		_ = a.Keep(ctx, e.Subject.ID)
	}
}
