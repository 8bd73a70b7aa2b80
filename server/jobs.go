package server

import (
	"context"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/units"
)

// jobHandlers answer for jobs and their entries.
type jobHandlers struct {
	jobs  *job.Jobs
	lines lines
	guard *guard // nil: nobody signs in
}

func (h *jobHandlers) GetJob(ctx context.Context, r api.GetJobRequestObject) (api.GetJobResponseObject, error) {
	p, err := h.jobs.Job(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	return jobPage{p, h.lines, systemIn(ctx)}, nil
}

func (h *jobHandlers) OpenJob(ctx context.Context, r api.OpenJobRequestObject) (api.OpenJobResponseObject, error) {
	b := r.Body
	p, err := h.jobs.OpenJob(ctx, r.JobId, stamp(b.EntryId, b.By, b.TappedAt), job.Start{Engine: b.EngineId,
		Words: value(b.Words), Seen: value(b.Seen), Opening: eventlog.Opening{Kind: value(b.JobKind), Plan: value(b.Plan),
			Leak: leakOf(b.Leak)}})
	if err != nil {
		return nil, err
	}
	return jobPage{p, h.lines, systemIn(ctx)}, nil
}

func (h *jobHandlers) PutJobEntry(ctx context.Context,
	r api.PutJobEntryRequestObject) (api.PutJobEntryResponseObject, error) {
	b := r.Body
	body := eventlog.Body{Check: value(b.Check), Outcome: string(value(b.Outcome)), Minutes: b.Minutes,
		Access: value(b.Access),
		Open:   b.Open, Strategy: string(value(b.Strategy)), Faults: value(b.Faults), Explains: b.ExplainsEverything,
		Words: value(b.Words)}
	if b.Sum != nil {
		body.Calculation = &eventlog.Calculation{Name: b.Sum.Name, Given: b.Sum.Given,
			Units: string(or(b.Sum.Units, api.UnitSystem(units.Metric)))}
	}
	if b.Round != nil {
		round, err := roundEntryOf(*b.Round, "round")
		if err != nil {
			return nil, err
		}
		body.Round = round
	}
	if b.Strip != nil {
		body.Teardown = actOf(*b.Strip)
	}
	if b.Wet != nil {
		body.Wetwork = wetActOf(*b.Wet)
	}
	if b.Proving != nil {
		body.Proving = provingActOf(*b.Proving)
	}
	if r := b.Recording; r != nil {
		body.Recording = &eventlog.Recording{ID: r.Id, Do: string(r.Do), Source: eventlog.FromFeed}
	}
	if b.Photo != nil {
		body.Photo = &eventlog.Photo{Item: value(b.Photo.Item), Data: b.Photo.Data}
	}
	body.Despite = value(b.Despite)
	for _, s := range value(b.Stated) {
		body.Stated = append(body.Stated, eventlog.Stated{ID: s.Id, State: string(s.State), Q: s.Q})
	}
	p, err := h.jobs.NoteInJob(ctx, r.JobId, eventlog.Kind(b.Kind), stamp(r.EntryId, b.By, b.TappedAt), body)
	if err != nil {
		return nil, err
	}
	if eventlog.NeedsSigning(body) {
		h.guard.audit(ctx, people.PassedOver, r.JobId, string(b.Kind))
	}
	return jobPage{p, h.lines, systemIn(ctx)}, nil
}

func (h *jobHandlers) Undo(ctx context.Context, r api.UndoRequestObject) (api.UndoResponseObject, error) {
	b := r.Body
	subject, err := h.jobs.Undo(ctx, b.Undoes, stamp(r.EntryId, b.By, b.TappedAt))
	if err != nil {
		return nil, err
	}
	return api.Undo200JSONResponse{SubjectKind: api.SubjectKind(subject.Kind), SubjectId: subject.ID}, nil
}

func (h *jobHandlers) GetDrafts(ctx context.Context,
	r api.GetDraftsRequestObject) (api.GetDraftsResponseObject, error) {
	list, err := h.jobs.Drafts(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	return api.GetDrafts200JSONResponse(draftsView(list)), nil
}

func (h *jobHandlers) PutDraft(ctx context.Context, r api.PutDraftRequestObject) (api.PutDraftResponseObject, error) {
	list, err := h.jobs.SaveDraft(ctx, record.Draft{JobID: r.JobId, What: r.Body.What, Value: value(r.Body.Value),
		By: r.Body.By})
	if err != nil {
		return nil, err
	}
	return api.PutDraft200JSONResponse(draftsView(list)), nil
}

func draftsView(list []record.Draft) api.Drafts {
	return api.Drafts{Drafts: each(list, func(d record.Draft) api.Draft {
		return api.Draft{What: d.What, Value: d.Value, By: d.By, At: d.At}
	})}
}

func leakOf(l *api.Leak) *eventlog.Leak {
	if l == nil {
		return nil
	}
	return &eventlog.Leak{Water: value(l.Water), Where: value(l.Where), PerDay: value(l.LitresDay)}
}

func leakView(l *eventlog.Leak) *api.Leak {
	if l == nil {
		return nil
	}
	return &api.Leak{Water: some(l.Water), Where: some(l.Where), LitresDay: some(l.PerDay)}
}

func planView(p job.PlanItem) api.PlanItem {
	return api.PlanItem{Item: p.Item, Label: p.Label, Do: p.Do, Task: some(p.Task), Check: some(p.Check),
		Work: some(p.Work), Done: p.DoneAt != nil, DoneAt: p.DoneAt}
}
