package handlers

import (
	"context"

	"hevrin/api"
	"hevrin/core/drawings"
)

func (h *catalogueHandlers) GetDrawings(context.Context,
	api.GetDrawingsRequestObject) (api.GetDrawingsResponseObject, error) {
	return api.GetDrawings200JSONResponse(h.drawingsView(drawings.All())), nil
}

func (h *catalogueHandlers) drawingsView(d *drawings.Drawings) api.Drawings {
	out := api.Drawings{OnLeg: d.OnLeg, Screens: eachOf(d.Screens, drawingView),
		Stations: eachOf(d.Stations, drawingView), Checks: eachOf(d.Checks, drawingView),
		Access: eachOf(d.Access, drawingView), Items: eachOf(d.Items, drawingView), Findings: eachOf(d.Findings, seenView),
		Faults: map[string]api.FaultDrawn{},
		Steps:  eachOf(d.Steps, drawingViews), After: eachOf(d.After, drawingViews)}
	for _, f := range h.catalogue.Faults {
		x := d.Fault(f)
		out.Faults[f.ID] = api.FaultDrawn{Drawing: drawingView(x.Drawing), Extent: api.Some(x.Extent)}
	}
	for _, p := range d.Plates {
		out.Plates = append(out.Plates, struct {
			Id    string `json:"id"`
			Label string `json:"label"`
			Says  string `json:"says"`
		}{p.ID, p.Label, p.Says})
	}
	return out
}

func drawingView(d drawings.Drawing) api.Drawing {
	out := api.Drawing{Plate: api.Some(d.Plate), View: api.Some(d.View), None: api.Some(d.None)}
	if len(d.Show) > 0 {
		out.Show = &d.Show
	}
	return out
}

func drawingViews(list []drawings.Drawing) []api.Drawing { return api.Each(list, drawingView) }

func seenView(s drawings.Seen) api.SeenDrawn {
	out := api.SeenDrawn{Present: drawingView(s.Present)}
	if s.None != "" {
		out.Present = api.Drawing{None: &s.None}
	}
	if s.Absent != nil {
		absent := drawingView(*s.Absent)
		out.Absent = &absent
	}
	return out
}

func eachOf[A, B any](m map[string]A, view func(A) B) map[string]B {
	out := make(map[string]B, len(m))
	for k, v := range m {
		out[k] = view(v)
	}
	return out
}
