package handlers

import (
	"context"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
)

// jobHandlers answer for jobs and their entries.
type jobHandlers struct {
	jobs       *job.Jobs
	lines      lines
	answers    answers
	passedOver func(ctx context.Context, job, kind string) // nil: nobody is told
}

// JobPage answers with a job's page, in the reader's units.
func (h *jobHandlers) JobPage(ctx context.Context, p *job.Page) JobPage {
	return JobPage{p, h.lines, h.answers, SystemIn(ctx)}
}

func (h *jobHandlers) GetJob(ctx context.Context, r api.GetJobRequestObject) (api.GetJobResponseObject, error) {
	p, err := h.jobs.Job(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	return h.JobPage(ctx, p), nil
}

func (h *jobHandlers) OpenJob(ctx context.Context, r api.OpenJobRequestObject) (api.OpenJobResponseObject, error) {
	b := r.Body
	p, err := h.jobs.OpenJob(ctx, r.JobId, Stamp(ctx, b.EntryId, b.By, b.TappedAt), job.Start{Engine: b.EngineId,
		Words: api.Value(
			b.Words,
		), Seen: api.Value(b.Seen), Opening: eventlog.Opening{Kind: api.Value(b.JobKind), Plan: api.Value(b.Plan),
			Leak: leakOf(b.Leak)}})
	if err != nil {
		return nil, err
	}
	return h.JobPage(ctx, p), nil
}

func (h *jobHandlers) PutJobEntry(ctx context.Context,
	r api.PutJobEntryRequestObject) (api.PutJobEntryResponseObject, error) {
	b := r.Body
	body := eventlog.Body{Check: api.Value(b.Check), Outcome: string(api.Value(b.Outcome)), Minutes: b.Minutes,
		Access: api.Value(b.Access),
		Open:   b.Open, Strategy: string(api.Value(b.Strategy)), Faults: api.Value(b.Faults), Explains: b.ExplainsEverything,
		Words: api.Value(b.Words)}
	if b.Sum != nil {
		body.Calculation = &eventlog.Calculation{Name: b.Sum.Name, Given: b.Sum.Given,
			Units: string(api.Or(b.Sum.Units, api.UnitSystem(units.Metric)))}
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
		body.Photo = &eventlog.Photo{Item: api.Value(b.Photo.Item), Data: b.Photo.Data}
	}
	body.Despite, body.WatchHours, body.OneOf = api.Value(b.Despite), b.WatchHours, b.OneOfThese
	for _, s := range api.Value(b.Stated) {
		body.Stated = append(body.Stated, eventlog.Stated{ID: s.Id, State: string(s.State), Q: s.Q})
	}
	p, err := h.jobs.NoteInJob(ctx, r.JobId, eventlog.Kind(b.Kind), Stamp(ctx, r.EntryId, b.By, b.TappedAt), body)
	if err != nil {
		return nil, err
	}
	if h.passedOver != nil && eventlog.NeedsSigning(body) {
		h.passedOver(ctx, r.JobId, string(b.Kind))
	}
	return h.JobPage(ctx, p), nil
}

func (h *jobHandlers) Undo(ctx context.Context, r api.UndoRequestObject) (api.UndoResponseObject, error) {
	b := r.Body
	subject, err := h.jobs.Undo(ctx, b.Undoes, Stamp(ctx, r.EntryId, b.By, b.TappedAt))
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
	list, err := h.jobs.SaveDraft(ctx, record.Draft{JobID: r.JobId, What: r.Body.What, Value: api.Value(r.Body.Value),
		By: r.Body.By})
	if err != nil {
		return nil, err
	}
	return api.PutDraft200JSONResponse(draftsView(list)), nil
}

func draftsView(list []record.Draft) api.Drafts {
	return api.Drafts{Drafts: api.Each(list, func(d record.Draft) api.Draft {
		return api.Draft{What: d.What, Value: d.Value, By: d.By, At: d.At}
	})}
}

func leakOf(l *api.Leak) *eventlog.Leak {
	if l == nil {
		return nil
	}
	return &eventlog.Leak{Water: api.Value(l.Water), Where: api.Value(l.Where), PerDay: api.Value(l.LitresDay)}
}

func leakView(l *eventlog.Leak) *api.Leak {
	if l == nil {
		return nil
	}
	return &api.Leak{Water: api.Some(l.Water), Where: api.Some(l.Where), LitresDay: api.Some(l.PerDay)}
}

func planView(p job.PlanItem) api.PlanItem {
	return api.PlanItem{Item: p.Item, Label: p.Label, Do: p.Do, Task: api.Some(p.Task), Check: api.Some(p.Check),
		Work: api.Some(p.Work), Done: p.DoneAt != nil, DoneAt: p.DoneAt}
}
