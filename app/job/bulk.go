package job

import (
	"context"

	"hevrin/app/inventory"
	"hevrin/app/record"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
)

type bulkKey struct{}

// bulk are the jobs of which entries were added and nothing was worked out yet.
type bulk struct {
	jobs []string
	seen map[string]bool
}

func (b *bulk) add(job string) {
	if !b.seen[job] {
		b.seen[job] = true
		b.jobs = append(b.jobs, job)
	}
}

func bulkOf(ctx context.Context) *bulk {
	b, _ := ctx.Value(bulkKey{}).(*bulk)
	return b
}

// InBulk says whether what goes on is part of Bulk.
func InBulk(ctx context.Context) bool { return bulkOf(ctx) != nil }

// Bulk lets do add many entries to jobs: each is checked as ever, but what follows from them (the job's line, the
// service history) is worked out once for each job, at the end, and no pages are drawn: OpenJob and NoteInJob give
// none. Whoever reads these jobs meanwhile sees them as they were. do gets the context to pass on.
func (a *Jobs) Bulk(ctx context.Context, do func(context.Context) error) error {
	b := &bulk{seen: map[string]bool{}}
	if err := do(context.WithValue(ctx, bulkKey{}, b)); err != nil {
		return err
	}
	for _, id := range b.jobs {
		err := a.Store.Write(ctx, func(tx record.Tx) error {
			entries, _, err := a.Entries(tx, eventlog.Subject{Kind: eventlog.OfJob, ID: id})
			if err != nil {
				return err
			}
			return a.Project(tx, id, entries)
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// later is what is left to be done in the transaction of an entry whose consequences are worked out later: what others
// count.
func (s *state) later(e eventlog.Entry, stock *inventory.Stock) record.Prepared {
	return func(tx record.Tx) error {
		u := e.Body.Teardown
		if u == nil || u.Used == nil {
			return nil
		}
		if u.Used.Stock != "" {
			if err := stock.EnoughInStock(tx, *u.Used); err != nil {
				return err
			}
		}
		return inventory.SavePartsUsed(tx, s.job)
	}
}

// bareLine is a job's line before anything was worked out.
func (a *Jobs) bareLine(id string, e eventlog.Entry) record.Job {
	job, _ := eventlog.FoldJob(a.Catalogue, []eventlog.Entry{e})
	job.ID = id
	return a.lineOf(&state{job: job, answer: &diagnosis.Answer{Found: []string{}}})
}
