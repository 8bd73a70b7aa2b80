package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"hevrin/api"
	"hevrin/app"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/validation"
	"hevrin/simulator"
)

// handlers answer the contract's operations.
type handlers struct {
	app      *app.App
	version  string
	supplier *simulator.Supplier
}

var _ api.StrictServerInterface = (*handlers)(nil)

func (h *handlers) GetHealth(context.Context, api.GetHealthRequestObject) (api.GetHealthResponseObject, error) {
	return api.GetHealth200JSONResponse{Status: "ok", Version: h.version, Catalogue: h.app.Catalogue.Version}, nil
}

func (h *handlers) GetCatalogue(context.Context, api.GetCatalogueRequestObject) (api.GetCatalogueResponseObject, error) {
	return api.GetCatalogue200JSONResponse(catalogueView(h.app.Catalogue)), nil
}

func (h *handlers) Diagnose(_ context.Context, r api.DiagnoseRequestObject) (api.DiagnoseResponseObject, error) {
	q, err := questionOf(*r.Body)
	if err != nil {
		return nil, err
	}
	answer, err := h.app.Diagnosis.Diagnose(q)
	if err != nil {
		return nil, err
	}
	return api.Diagnose200JSONResponse(answerView(answer)), nil
}

func questionOf(b api.Question) (diagnosis.Question, error) {
	q := diagnosis.Question{Family: string(b.Family), History: value(b.History), OpenAccess: value(b.OpenAccess),
		Done: value(b.Done), Strategy: string(value(b.Strategy)), Stations: value(b.Stations)}
	var wrong validation.Errors
	for i, f := range value(b.Findings) {
		at := fmt.Sprintf("findings[%d]", i)
		e := diagnosis.Evidence{Finding: f.Id}
		switch {
		case f.State != nil && f.Q != nil:
			wrong.Add(at, "state and q", "one of the two", "give either a state or q")
		case f.State != nil:
			if *f.State == api.PresencePresent {
				e.Q = 1
			}
		case f.Q != nil:
			e.Q = *f.Q
		default:
			wrong.Add(at, "neither state nor q", "one of the two", "say whether it is present or absent, or give q")
		}
		q.Findings = append(q.Findings, e)
	}
	return q, wrong.Err()
}

func (h *handlers) GetYard(ctx context.Context, _ api.GetYardRequestObject) (api.GetYardResponseObject, error) {
	cards, err := h.app.Yard(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetYard200JSONResponse{Craft: each(cards, craftCardView)}, nil
}

func (h *handlers) GetCraft(ctx context.Context, r api.GetCraftRequestObject) (api.GetCraftResponseObject, error) {
	p, err := h.app.Craft(ctx, r.CraftId)
	if err != nil {
		return nil, err
	}
	return api.GetCraft200JSONResponse(craftPageView(p)), nil
}

func (h *handlers) PutCraft(ctx context.Context, r api.PutCraftRequestObject) (api.PutCraftResponseObject, error) {
	b := r.Body
	p, err := h.app.SaveCraft(ctx, r.CraftId, stamp(b.EntryId, b.By, b.TappedAt),
		eventlog.CraftFacts{Name: b.Name, Owner: value(b.Owner), Berth: value(b.Berth), Note: value(b.Note)})
	if err != nil {
		return nil, err
	}
	return api.PutCraft200JSONResponse(craftPageView(p)), nil
}

func (h *handlers) GetEngine(ctx context.Context, r api.GetEngineRequestObject) (api.GetEngineResponseObject, error) {
	p, err := h.app.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetEngine200JSONResponse(enginePageView(p)), nil
}

func (h *handlers) PutEngine(ctx context.Context, r api.PutEngineRequestObject) (api.PutEngineResponseObject, error) {
	b := r.Body
	p, err := h.app.SaveEngine(ctx, r.EngineId, stamp(b.EntryId, b.By, b.TappedAt), eventlog.EngineFacts{CraftID: b.CraftId,
		Name: b.Name, Family: string(b.Family), Fuel: string(b.Fuel), RatedKW: b.RatedKw, RatedRPM: b.RatedRpm,
		ThermostatC: b.ThermostatC, RawPump: strings.TrimSpace(value(b.RawPump)), Circuit: b.Circuit, Dates: datesOf(b.Dates), Cooling: coolingOf(b.Cooling)})
	if err != nil {
		return nil, err
	}
	return api.PutEngine200JSONResponse(enginePageView(p)), nil
}

func (h *handlers) PutBaseline(ctx context.Context, r api.PutBaselineRequestObject) (api.PutBaselineResponseObject, error) {
	b := r.Body
	p, err := h.app.SaveBaseline(ctx, r.EngineId, stamp(b.EntryId, b.By, b.TappedAt), b.JobId, b.Rounds, value(b.Words))
	if err != nil {
		return nil, err
	}
	return api.PutBaseline200JSONResponse(enginePageView(p)), nil
}

func (h *handlers) GetJob(ctx context.Context, r api.GetJobRequestObject) (api.GetJobResponseObject, error) {
	p, err := h.app.Job(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	return api.GetJob200JSONResponse(jobPageView(p)), nil
}

func (h *handlers) OpenJob(ctx context.Context, r api.OpenJobRequestObject) (api.OpenJobResponseObject, error) {
	b := r.Body
	p, err := h.app.OpenJob(ctx, r.JobId, b.EngineId, stamp(b.EntryId, b.By, b.TappedAt), value(b.Words))
	if err != nil {
		return nil, err
	}
	return api.OpenJob200JSONResponse(jobPageView(p)), nil
}

func (h *handlers) PutJobEntry(ctx context.Context, r api.PutJobEntryRequestObject) (api.PutJobEntryResponseObject, error) {
	b := r.Body
	body := eventlog.Body{Check: value(b.Check), Outcome: string(value(b.Outcome)), Minutes: b.Minutes, Access: value(b.Access),
		Open: b.Open, Strategy: string(value(b.Strategy)), Faults: value(b.Faults), Explains: b.ExplainsEverything, Words: value(b.Words)}
	if b.Sum != nil {
		body.Calculation = &eventlog.Calculation{Name: b.Sum.Name, Given: b.Sum.Given, Units: string(systemOf(b.Sum.Units))}
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
	p, err := h.app.NoteInJob(ctx, r.JobId, eventlog.Kind(b.Kind), stamp(r.EntryId, b.By, b.TappedAt), body)
	if err != nil {
		return nil, err
	}
	return api.PutJobEntry200JSONResponse(jobPageView(p)), nil
}

func (h *handlers) Undo(ctx context.Context, r api.UndoRequestObject) (api.UndoResponseObject, error) {
	b := r.Body
	subject, err := h.app.Undo(ctx, b.Undoes, stamp(r.EntryId, b.By, b.TappedAt))
	if err != nil {
		return nil, err
	}
	return api.Undo200JSONResponse{SubjectKind: api.SubjectKind(subject.Kind), SubjectId: subject.ID}, nil
}

func stamp(id, by string, tapped *time.Time) app.Stamp {
	return app.Stamp{EntryID: id, By: by, TappedAt: tapped}
}

// value is what a pointer points to, or the zero value.
func value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// each maps a list; the contract's lists are never null.
func each[A, B any](list []A, to func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = to(x)
	}
	return out
}
