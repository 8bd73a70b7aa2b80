package handlers

import (
	"context"
	"strings"

	"hevrin/api"
	"hevrin/app/engine"
	"hevrin/app/job"
	"hevrin/core/eventlog"
)

// engineHandlers answer for engines and their facts.
type engineHandlers struct {
	engines *engine.Engines
	jobs    *job.Jobs
}

func (h *engineHandlers) GetEngine(ctx context.Context,
	r api.GetEngineRequestObject) (api.GetEngineResponseObject, error) {
	p, err := h.engines.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetEngine200JSONResponse(EnginePageView(SystemIn(ctx), p)), nil
}

func (h *engineHandlers) PutEngine(ctx context.Context,
	r api.PutEngineRequestObject) (api.PutEngineResponseObject, error) {
	b := r.Body
	p, err := h.engines.SaveEngine(ctx, r.EngineId, seenBy(Stamp(ctx, b.EntryId, b.By, b.TappedAt), b.Seen),
		eventlog.EngineFacts{CraftID: b.CraftId,
			Name: b.Name, Family: string(b.Family), Fuel: string(b.Fuel), RatedKW: b.RatedKw, RatedRPM: b.RatedRpm,
			ThermostatC: b.ThermostatC, RawPump: strings.TrimSpace(api.Value(b.RawPump)),
			SharesSeacock: api.Value(b.SharesSeacock), Archived: api.Value(b.Archived), Circuit: b.Circuit,
			Dates: datesOf(b.Dates), Cooling: coolingOf(b.Cooling)})
	if err != nil {
		return nil, err
	}
	return api.PutEngine200JSONResponse(EnginePageView(SystemIn(ctx), p)), nil
}

func (h *engineHandlers) PutBaseline(ctx context.Context,
	r api.PutBaselineRequestObject) (api.PutBaselineResponseObject, error) {
	b := r.Body
	p, err := h.jobs.SaveBaseline(
		ctx,
		r.EngineId,
		Stamp(ctx, b.EntryId, b.By, b.TappedAt),
		b.JobId,
		b.Rounds,
		api.Value(b.Words),
	)
	if err != nil {
		return nil, err
	}
	return api.PutBaseline200JSONResponse(EnginePageView(SystemIn(ctx), p)), nil
}
