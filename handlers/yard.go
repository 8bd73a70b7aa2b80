package handlers

import (
	"context"

	"hevrin/api"
	"hevrin/app/engine"
	"hevrin/app/search"
	"hevrin/app/yard"
	"hevrin/core/eventlog"
)

// yardHandlers answer for the yard and its craft.
type yardHandlers struct {
	overview *yard.Overview
	engines  *engine.Engines
	finder   *search.Finder
}

func (h *yardHandlers) GetYard(ctx context.Context, _ api.GetYardRequestObject) (api.GetYardResponseObject, error) {
	cards, err := h.overview.Yard(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetYard200JSONResponse{Craft: api.Each(cards, craftCardView)}, nil
}

func (h *yardHandlers) GetCraft(ctx context.Context, r api.GetCraftRequestObject) (api.GetCraftResponseObject, error) {
	p, err := h.engines.Craft(ctx, r.CraftId)
	if err != nil {
		return nil, err
	}
	return api.GetCraft200JSONResponse(craftPageView(p)), nil
}

func (h *yardHandlers) PutCraft(ctx context.Context, r api.PutCraftRequestObject) (api.PutCraftResponseObject, error) {
	b := r.Body
	p, err := h.engines.SaveCraft(ctx, r.CraftId, seenBy(Stamp(ctx, b.EntryId, b.By, b.TappedAt), b.Seen),
		eventlog.CraftFacts{Name: b.Name, Owner: api.Value(b.Owner), Berth: api.Value(b.Berth), Note: api.Value(b.Note),
			Archived: api.Value(b.Archived)})
	if err != nil {
		return nil, err
	}
	return api.PutCraft200JSONResponse(craftPageView(p)), nil
}

func (h *yardHandlers) Search(ctx context.Context, r api.SearchRequestObject) (api.SearchResponseObject, error) {
	hits, err := h.finder.Search(ctx, r.Params.For)
	if err != nil {
		return nil, err
	}
	return api.Search200JSONResponse{Hits: api.Each(hits, func(x search.Hit) api.Hit {
		return api.Hit{Kind: api.HitKind(x.Kind), Id: x.ID, Label: x.Label, Say: x.Say}
	})}, nil
}
