package server

import (
	"context"

	"hevrin/api"
	"hevrin/app/yardlist"
	core "hevrin/core/yardlist"
	"hevrin/handlers"
)

// listHandlers bring a yard's own lists in.
type listHandlers struct{ lists *yardlist.Lists }

func (h *listHandlers) GetLists(ctx context.Context, _ api.GetListsRequestObject) (api.GetListsResponseObject, error) {
	taken, err := h.lists.Taken(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetLists200JSONResponse(listsView(taken)), nil
}

func (h *listHandlers) LookAtList(ctx context.Context, r api.LookAtListRequestObject) (api.LookAtListResponseObject,
	error) {
	file, chosen := listOf(ctx, *r.Body)
	look, err := h.lists.Look(ctx, file, chosen)
	if err != nil {
		return nil, err
	}
	system := handlers.SystemIn(ctx)
	n := look.Counts
	counts := countsView(n.Craft, n.Engines, n.Parts, n.Jobs, n.Maintenance)
	counts.There, counts.Wrong = &n.There, &n.Wrong
	out := api.LookAtList200JSONResponse{Kind: api.ListKindID(look.Kind), Sheet: api.Some(look.Sheet),
		Sheets: api.List(look.Sheets), Counts: counts, Columns: []api.ListHeading{}, Refused: []string{},
		Lines: api.Each(look.Lines, func(l core.Line) api.ListLine {
			return api.ListLine{Row: l.Row, There: l.There, Does: handlers.Said(system, l.Does),
				Slips: api.Each(l.Slips, func(s core.Slip) api.ListSlip {
					return api.ListSlip{Column: s.Column, Given: s.Given, Say: s.Say.In(system)}
				})}
		})}
	for i, heading := range look.Headings {
		column := ""
		if i < len(look.Chosen.Columns) {
			column = look.Chosen.Columns[i]
		}
		out.Columns = append(
			out.Columns,
			api.ListHeading{Heading: heading, Column: column, Samples: api.List(look.Samples[i])},
		)
	}
	for _, w := range look.Refused {
		out.Refused = append(out.Refused, w.Say.In(system))
	}
	return out, nil
}

func (h *listHandlers) TakeList(ctx context.Context, r api.TakeListRequestObject) (api.TakeListResponseObject, error) {
	file, chosen := listOf(ctx, r.Body.File)
	taken, err := h.lists.Take(
		ctx,
		handlers.Stamp(ctx, r.ListId, r.Body.By, r.Body.TappedAt),
		file,
		chosen,
		api.Value(r.Body.LeaveWrong),
	)
	if err != nil {
		return nil, err
	}
	return api.TakeList200JSONResponse(listsView(taken)), nil
}

func (h *listHandlers) TakeListBack(ctx context.Context,
	r api.TakeListBackRequestObject) (api.TakeListBackResponseObject, error) {
	taken, err := h.lists.TakeBack(ctx, r.ListId, handlers.Stamp(ctx, r.EntryId, r.Body.By, r.Body.TappedAt))
	if err != nil {
		return nil, err
	}
	return api.TakeListBack200JSONResponse(listsView(taken)), nil
}

func listOf(ctx context.Context, f api.ListFile) (yardlist.File, yardlist.Chosen) {
	chosen := yardlist.Chosen{
		Kind:   core.Kind(api.Value(f.Kind)),
		Usual:  api.Value(f.Usual),
		System: handlers.SystemIn(ctx),
	}
	chosen.Columns = api.Value(f.Columns)
	return yardlist.File{Name: f.Name, Data: f.Data, Sheet: api.Value(f.Sheet)}, chosen
}

func countsView(craft, engines, parts, jobs, maintenance int) api.ListCounts {
	return api.ListCounts{Craft: craft, Engines: engines, Parts: parts, Jobs: jobs, Maintenance: maintenance}
}

func listsView(taken []yardlist.Taken) api.Lists {
	return api.Lists{
		Kinds: api.Each(core.Kinds(), func(k core.Listing) api.ListKind {
			return api.ListKind{Id: api.ListKindID(k.Kind), Label: k.Label,
				Columns: api.Each(k.Columns, func(c core.Column) api.ListColumn {
					return api.ListColumn{
						Id:    c.ID,
						Label: c.Label,
						Must:  api.Some(c.Must),
						Usual: api.Some(c.Usual),
						Unit:  api.Some(c.Unit),
						Day:   api.Some(c.Day),
					}
				})}
		}),
		Taken: api.Each(taken, func(t yardlist.Taken) api.ListTaken {
			return api.ListTaken{Id: t.ID, Name: t.Name, Kind: api.ListKindID(t.Kind), By: t.From.By, At: t.From.At,
				Undone: t.Back, Counts: countsView(t.Craft, t.Engines, t.Parts, t.Jobs, t.Maintenance)}
		}),
	}
}
