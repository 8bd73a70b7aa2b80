package job

import (
	"context"
	"encoding/json"
	"strings"

	"hevrin/app/record"
	"hevrin/core/validation"
)

// Limits of drafts: what a form holds, and more forms than a job has.
const (
	mostDrafts    = 80
	longestDraft  = 20_000
	longestOfWhat = 200
)

// Drafts lists what was typed or tapped in a job on any device and not saved yet, the oldest first.
func (a *Jobs) Drafts(ctx context.Context, job string) ([]record.Draft, error) {
	r := a.Store.Read(ctx)
	if _, ok, err := r.Job(job); err != nil || !ok {
		return nil, orNotFound(err, job)
	}
	return r.Drafts(job)
}

// SaveDraft keeps a draft, JSON under a name that says what it is about, in the place of an older one; an empty value
// forgets it. It is no part of the record: nothing follows from it.
func (a *Jobs) SaveDraft(ctx context.Context, d record.Draft) ([]record.Draft, error) {
	var wrong validation.Errors
	if what := strings.TrimSpace(d.What); what == "" || len(what) > longestOfWhat {
		wrong.Add("what", d.What, "1 to 200 letters", "say what it is about")
	}
	if len(d.Value) > longestDraft || d.Value != "" && !json.Valid([]byte(d.Value)) {
		wrong.Add("value", "something else", "JSON of at most 20,000 bytes, or nothing", "send the form as it stands")
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	d.At = a.Now().UTC()
	var list []record.Draft
	err := a.Store.WriteShared(ctx, func(tx record.Tx) error {
		if _, ok, err := tx.Job(d.JobID); err != nil || !ok {
			return orNotFound(err, d.JobID)
		}
		if err := tx.SaveDraft(d); err != nil {
			return err
		}
		var err error
		if list, err = tx.Drafts(d.JobID); err != nil {
			return err
		}
		for len(list) > mostDrafts { // the oldest are let go
			if err := tx.SaveDraft(record.Draft{JobID: d.JobID, What: list[0].What}); err != nil {
				return err
			}
			list = list[1:]
		}
		return nil
	})
	return list, err
}

func orNotFound(err error, job string) error {
	if err != nil {
		return err
	}
	return record.NotFound("job", job)
}
