package handlers

import (
	"context"

	"hevrin/api"
	stock "hevrin/app/inventory"
	"hevrin/app/yard"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/teardown"
	"hevrin/core/workbench"
)

// Supplier is a supplier's service: what it offers, and what it says to an order.
type Supplier interface {
	// Offers lists what has all the words in its number or label; all of it without any.
	Offers(find string) []inventory.Offer
	// Ask asks for so many of a part: when they come, or why not.
	Ask(number string, quantity float64) (inventory.Promise, error)
}

// inventoryHandlers answer for the yard's parts and the supplier's.
type inventoryHandlers struct {
	stock    *stock.Stock
	overview *yard.Overview
	supplier Supplier
}

func (h *inventoryHandlers) GetInventory(ctx context.Context,
	r api.GetInventoryRequestObject) (api.GetInventoryResponseObject, error) {
	of := h.stock.Inventory
	if e := r.Params.Engine; e != nil {
		of = func(ctx context.Context) (*stock.InventoryPage, error) { return h.stock.InventoryFor(ctx, *e) }
	}
	p, err := of(ctx)
	if err != nil {
		return nil, err
	}
	out := shelfView(p)
	if id := api.Value(r.Params.Task); id != "" {
		book, err := h.overview.Methods(ctx)
		if err != nil {
			return nil, err
		}
		for _, t := range book.Tasks {
			if t.ID == id {
				sayLacks(out.Lines, teardown.Needs(t))
			}
		}
	}
	return api.GetInventory200JSONResponse(out), nil
}

func (h *inventoryHandlers) PutInventoryEntry(ctx context.Context,
	r api.PutInventoryEntryRequestObject) (api.PutInventoryEntryResponseObject, error) {
	b := r.Body
	act := inventory.Act{Do: string(b.Do), Part: b.Part, Quantity: api.Value(b.Quantity), Order: api.Value(b.Order),
		Number: api.Value(b.Number), Words: api.Value(b.Words), Seen: api.Value(b.Seen)}
	if b.Is != nil {
		act.Is = partOf(*b.Is)
	}
	if act.Do == inventory.Order && act.Number != "" {
		promise, err := h.supplier.Ask(act.Number, act.Quantity)
		if err != nil {
			return nil, &eventlog.Conflict{Say: err.Error()}
		}
		act.Price, act.DueDays, act.Words = promise.Price, promise.Days, promise.Say
	}
	p, err := h.stock.NoteInInventory(ctx, Stamp(ctx, r.EntryId, b.By, b.TappedAt), act)
	if err != nil {
		return nil, err
	}
	return api.PutInventoryEntry200JSONResponse(shelfView(p)), nil
}

func (h *inventoryHandlers) FitImpeller(ctx context.Context,
	r api.FitImpellerRequestObject) (api.FitImpellerResponseObject, error) {
	var others []workbench.Impeller
	for _, i := range h.supplier.Offers("") {
		if i.Impeller != nil && i.Replaced == "" {
			x := *i.Impeller
			x.Name = i.Number + " at the supplier"
			others = append(others, x)
		}
	}
	list, err := h.stock.Fitting(ctx, *impellerOf(r.Body), workbench.UsualTolerances, others)
	if err != nil {
		return nil, err
	}
	var out api.FitImpeller200JSONResponse
	for _, f := range list {
		out.List = append(out.List, struct {
			Fit     api.FittingsListFit `json:"fit"`
			Name    string              `json:"name"`
			Reasons []string            `json:"reasons"`
		}{api.FittingsListFit(f.Fit), f.Name, Said(SystemIn(ctx), f.Reasons)})
	}
	return out, nil
}

func (h *inventoryHandlers) GetSupplier(_ context.Context,
	r api.GetSupplierRequestObject) (api.GetSupplierResponseObject, error) {
	return api.GetSupplier200JSONResponse{Items: api.Each(h.supplier.Offers(api.Value(r.Params.Find)),
		func(i inventory.Offer) api.SupplierItem {
			return api.SupplierItem{Number: i.Number, Label: i.Label, Price: i.Price, Stock: i.Stock, LeadDays: i.LeadDays,
				MadeDays: i.MadeDays, Upkeep: i.Maintenance, ReplacedBy: i.Replaced, Impeller: impellerView(i.Impeller)}
		})}, nil
}

// sayLacks says of each kit what it does not hold of what a task needs.
func sayLacks(lines []api.InventoryLine, needs []string) {
	for i, l := range lines {
		if l.Is.Holds != nil && len(needs) > 0 {
			lacks := teardown.Lacks(needs, *l.Is.Holds)
			lines[i].Lacks = &lacks
		}
	}
}

func partOf(p api.Part) *inventory.Part {
	return &inventory.Part{Label: p.Label, Number: api.Value(p.Number), Where: api.Value(p.Where), Unit: api.Value(p.Unit),
		Minimum: api.Value(p.Minimum), Price: api.Value(p.Price), Maintenance: api.Value(p.Upkeep), Gone: api.Value(p.Gone),
		Holds: api.Value(
			p.Holds,
		), Impeller: impellerOf(p.Impeller), Fits: api.Each(api.Value(p.Fits), func(f api.PartFit) inventory.Fit {
			return inventory.Fit{Engine: api.Value(f.Engine), Pump: api.Value(f.Pump), How: string(f.How)}
		})}
}

func impellerOf(i *api.ImpellerMeasures) *workbench.Impeller {
	if i == nil {
		return nil
	}
	return &workbench.Impeller{OutsideDiameter: api.Value(i.OutsideDiameterMm), Width: api.Value(i.WidthMm),
		Bore: api.Value(i.BoreMm), Drive: api.Value(i.Drive), Blades: api.Value(i.Blades), Insert: api.Value(i.Insert),
		CoverSeal: api.Value(i.CoverSeal)}
}

func impellerView(i *workbench.Impeller) *api.ImpellerMeasures {
	if i == nil {
		return nil
	}
	return &api.ImpellerMeasures{
		OutsideDiameterMm: api.Some(i.OutsideDiameter),
		WidthMm:           api.Some(i.Width),
		BoreMm:            api.Some(i.Bore),
		Drive:             api.Some(i.Drive),
		Blades:            api.Some(i.Blades),
		Insert:            api.Some(i.Insert),
		CoverSeal:         api.Some(i.CoverSeal),
	}
}

func shelfView(p *stock.InventoryPage) api.Inventory {
	return api.Inventory{Engines: p.Engines, Pumps: p.Pumps,
		ToOrder: api.Each(p.ToOrder, func(n inventory.Need) api.InventoryNeed {
			return api.InventoryNeed{Part: n.ID, Quantity: n.Quantity, Reasons: api.List(n.Reasons)}
		}),
		Lines: api.Each(p.Lines, func(l inventory.Line) api.InventoryLine {
			return api.InventoryLine{Id: l.ID, Kept: l.Kept, Have: l.Have, Coming: l.Coming(), Is: partView(l.Part),
				Orders: api.Each(l.Orders, func(o inventory.Ordered) api.PartOrder {
					return api.PartOrder{Id: o.ID, Number: o.Number, Quantity: o.Quantity, Left: o.Left(), Price: o.Price, By: o.By,
						At: o.At, Due: DayOf(o.Due)}
				}),
				Wrong: api.Each(l.Wrong, func(w inventory.Wrong) api.WrongPart {
					return api.WrongPart{Words: w.Words, Number: w.Number, By: w.By, At: w.At}
				})}
		})}
}

func partView(p inventory.Part) api.Part {
	fits := api.Each(p.Fits, func(f inventory.Fit) api.PartFit {
		return api.PartFit{Engine: api.Some(f.Engine), Pump: api.Some(f.Pump), How: api.PartFitHow(f.How)}
	})
	return api.Part{Label: p.Label, Number: api.Some(p.Number), Where: api.Some(p.Where), Unit: api.Some(p.Unit),
		Minimum: api.Some(p.Minimum), Price: api.Some(p.Price), Upkeep: api.Some(p.Maintenance), Fits: &fits,
		Impeller: impellerView(p.Impeller), Holds: api.SomeList(p.Holds)}
}
