package server

import (
	"context"
	"net/url"
	"strings"

	"rsc.io/qr"

	"hevrin/api"
	"hevrin/app/inventory"
	"hevrin/app/record"
	"hevrin/app/yard"
)

// labelHandlers give labels that open a page where they are scanned.
type labelHandlers struct {
	team     *peopleHandlers
	overview *yard.Overview
	stock    *inventory.Stock
}

// mostLabels bounds a sheet: more are printed in pieces, by a word of them.
const mostLabels = 400

func (h *labelHandlers) GetLabels(ctx context.Context, _ api.GetLabelsRequestObject) (api.GetLabelsResponseObject,
	error) {
	if _, err := h.team.inYard(); err != nil { // a code that leads to this machine alone is worth nothing
		return nil, err
	}
	y := h.team.guard.Yard
	base := "https://" + y.Network.Hosts[0] + y.Port
	out := api.GetLabels200JSONResponse{Labels: []api.Label{}}
	add := func(kind api.LabelKind, id, title, say, path string) error {
		if len(out.Labels) >= mostLabels {
			out.More++
			return nil
		}
		code, err := qr.Encode(base+path, qr.M)
		if err != nil {
			return err
		}
		out.Labels = append(out.Labels, api.Label{Kind: kind, Id: id, Title: title, Say: say, Code: record.ShortCode(id),
			Qr: qrView(code)})
		return nil
	}
	craft, err := h.overview.Yard(ctx)
	if err != nil {
		return nil, err
	}
	for _, c := range craft {
		for _, e := range c.Engines {
			if c.Craft.Archived || e.Engine.Archived {
				continue
			}
			page := "/engines/" + e.Engine.ID
			if err := add(api.LabelKindEngine, e.Engine.ID, c.Craft.Name, e.Engine.Name, page); err != nil {
				return nil, err
			}
			if e.Engine.Feed == nil {
				continue
			}
			// the device that tells its readings, mounted on it
			on := c.Craft.Name + ", " + e.Engine.Name
			if err := add(api.LabelKindGateway, e.Engine.ID, "Gateway", on, page+"/feed"); err != nil {
				return nil, err
			}
		}
	}
	stock, err := h.stock.Inventory(ctx)
	if err != nil {
		return nil, err
	}
	for _, l := range stock.Lines {
		say := strings.Trim(l.Number+", "+l.Where, ", ")
		if err := add(api.LabelKindPart, l.ID, l.Label, say, "/parts?find="+url.QueryEscape(l.Label)); err != nil {
			return nil, err
		}
	}
	return out, nil
}
