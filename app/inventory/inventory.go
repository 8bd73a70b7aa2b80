package inventory

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/maintenance"
	"hevrin/core/teardown"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// InventoryPage is the yard's inventory, and what is to be ordered.
type InventoryPage struct {
	Lines   []inventory.Line
	ToOrder []inventory.Need
	Engines map[string]string   // names of those that parts fit, by id
	Pumps   map[string][]string // names of the engines that have a pump that parts fit, by its type as the part has it
}

// wantedWithin is how near a maintenance item must be for its part to be wanted in stock.
const wantedWithin = 90 * 24 * time.Hour

var InventorySubject = eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.InventoryID}

// stockIn folds the inventory in a transaction or outside one.
func (a *Stock) stockIn(r record.Reader) ([]inventory.Line, error) {
	entries, _, err := a.Entries(r, InventorySubject)
	if err != nil {
		return nil, err
	}
	acts := Acts(entries)
	used, err := r.PartsUsed(inventory.Counted(acts))
	return inventory.Fold(acts, used), err
}

// Acts are the standing acts of an inventory's log, in the order in which they happened; entries of other logs say
// nothing of it.
func Acts(entries []eventlog.Entry) []inventory.Done {
	var acts []inventory.Done
	for _, e := range eventlog.Standing(entries) {
		if e.Body.Inventory != nil {
			acts = append(acts, inventory.Done{Act: *e.Body.Inventory, By: e.By, At: e.Happened(), Entry: e.ID})
		}
	}
	slices.SortStableFunc(acts, func(a, b inventory.Done) int { return a.At.Compare(b.At) })
	return acts
}

// Inventory gives the yard's inventory.
func (a *Stock) Inventory(ctx context.Context) (*InventoryPage, error) {
	p := &InventoryPage{Engines: map[string]string{}, Pumps: map[string][]string{}}
	var due []schedule.EngineDue
	side, within := errgroup.WithContext(ctx) // the two have nothing to do with each other
	side.Go(func() (err error) {
		r := a.Store.Read(within)
		if p.Lines, err = a.stockIn(r); err != nil {
			return err
		}
		return p.nameEngines(r)
	})
	side.Go(func() (err error) {
		due, err = a.maintenance.DueInYard(within, wantedWithin)
		return err
	})
	if err := side.Wait(); err != nil {
		return nil, err
	}
	var wanted []inventory.Wanted
	for _, e := range due {
		for _, d := range e.Due {
			if d.PutOff == nil && d.State != maintenance.Later {
				wanted = append(wanted, inventory.Wanted{Maintenance: cmp.Or(d.DoneToo, d.ID),
					Engine: inventory.Engine{ID: e.Engine.ID, Pump: e.Engine.RawPump},
					Say: fmt.Sprintf("%s, %s: due %s", e.Craft.Name, e.Engine.Name,
						d.When.Format("2 January 2006"))})
			}
		}
	}
	p.ToOrder = inventory.ToOrder(p.Lines, wanted)
	return p, nil
}

// InventoryFor gives what of the inventory fits an engine, by itself or by its pump.
func (a *Stock) InventoryFor(ctx context.Context, engine string) (*InventoryPage, error) {
	e, ok, err := a.Store.Read(ctx).Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", engine)
	}
	p, err := a.Inventory(ctx)
	if err != nil {
		return nil, err
	}
	own := inventory.Engine{ID: e.ID, Pump: e.RawPump}
	other := func(x inventory.Part) bool { _, fits := x.FitOn(own); return !fits }
	p.Lines = slices.DeleteFunc(p.Lines, func(l inventory.Line) bool { return other(l.Part) })
	p.ToOrder = slices.DeleteFunc(p.ToOrder, func(n inventory.Need) bool { return other(n.Part) })
	return p, nil
}

// nameEngines names the engines that parts fit, by themselves or by their pumps.
func (p *InventoryPage) nameEngines(r record.Reader) error {
	engines, err := r.EngineLines()
	if err != nil {
		return err
	}
	craft, err := r.AllCraft()
	if err != nil {
		return err
	}
	names := map[string]string{}
	for _, c := range craft {
		names[c.ID] = c.Name
	}
	fitted, pumps := map[string]bool{}, map[string]map[string]bool{} // engines; writings of a pump's type, by its plate
	for _, l := range p.Lines {
		for _, f := range l.Fits {
			fitted[f.Engine] = true
			if key := inventory.Plate(f.Pump); key != "" && pumps[key] == nil {
				pumps[key] = map[string]bool{f.Pump: true}
			} else if key != "" {
				pumps[key][f.Pump] = true
			}
		}
	}
	for _, e := range engines {
		name := names[e.CraftID] + ", " + e.Name
		if fitted[e.ID] {
			p.Engines[e.ID] = name
		}
		for writing := range pumps[inventory.Plate(e.RawPump)] {
			p.Pumps[writing] = append(p.Pumps[writing], name)
		}
	}
	return nil
}

// NoteInInventory adds an act to the stock's log.
func (a *Stock) NoteInInventory(ctx context.Context, s record.Stamp, act inventory.Act) (*InventoryPage, error) {
	if err := act.Check(); err != nil {
		return nil, validation.Under("shelf", err)
	}
	e := a.NewEntry(s, InventorySubject, eventlog.InventoryNoted, eventlog.Body{Inventory: &act})
	err := a.Save(ctx, e, func(tx record.Reader, _ []eventlog.Entry) error {
		list, err := a.stockIn(tx)
		if err != nil {
			return err
		}
		if say := inventory.Refuse(list, act); say != "" {
			return &eventlog.Conflict{Say: say}
		}
		return a.checkFits(tx, act)
	})
	if err != nil {
		return nil, err
	}
	return a.Inventory(ctx)
}

// checkFits refuses a fit on an engine that is not on record, or an maintenance that the catalogue does not have.
func (a *Stock) checkFits(tx record.Reader, act inventory.Act) error {
	if act.Is == nil {
		return nil
	}
	var wrong validation.Errors
	for i, f := range act.Is.Fits {
		if f.Engine == "" { // by its pump, which need not be aboard yet
			continue
		}
		if _, ok, err := tx.Engine(f.Engine); err != nil {
			return err
		} else if !ok {
			wrong.Add(fmt.Sprintf("shelf.is.fits[%d].engine", i), f.Engine, "an engine on record", "there is no such engine")
		}
	}
	if _, ok := a.Catalogue.MaintenanceItem(act.Is.Maintenance); act.Is.Maintenance != "" && !ok {
		wrong.Add("shelf.is.upkeep", act.Is.Maintenance, "a maintenance item of the catalogue",
			"there is no such maintenance")
	}
	return wrong.Err()
}

// EnoughInStock refuses to take more of a part than lie there: of two people who take the last one, one is told.
func (a *Stock) EnoughInStock(tx record.Reader, u teardown.Used) error {
	list, err := a.stockIn(tx)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(list, func(l inventory.Line) bool { return l.ID == u.Stock })
	switch {
	case at < 0:
		return &eventlog.Conflict{Say: "that part is not in stock any more: put it down without taking it from stock"}
	case list[at].Have >= u.Quantity-1e-9:
		return nil
	case list[at].Have <= 0:
		return &eventlog.Conflict{Say: fmt.Sprintf("there is no %s in stock any more: somebody took the last one",
			strings.ToLower(list[at].Label))}
	}
	return &eventlog.Conflict{Say: fmt.Sprintf("only %g of %s in stock, not %g: count the stock if more lie there",
		list[at].Have, list[at].Label, u.Quantity)}
}

// SavePartsUsed rewrites what a job took off the inventory.
func SavePartsUsed(tx record.Tx, job *eventlog.Job) error {
	return tx.SavePartsUsed(job.ID, PartsOf(job))
}

// PartsOf lists what a job took off the inventory.
func PartsOf(job *eventlog.Job) (list []record.PartUsed) {
	for i, u := range job.Teardown.Used {
		if u.Stock != "" {
			list = append(list, record.PartUsed{JobID: job.ID, N: i, PartID: u.Stock, EngineID: job.EngineID,
				Quantity: u.Quantity, At: job.Teardown.UsedAt[job.Teardown.UsedFrom[i]].UTC()})
		}
	}
	return list
}

// Fitting says of every impeller in stock whether it fits in the place of an old one that was measured, those that fit
// first.
func (a *Stock) Fitting(ctx context.Context, old workbench.Impeller, t workbench.Tolerances,
	others []workbench.Impeller) ([]workbench.Fitting, error) {
	var wrong validation.Errors
	if old.Check(&wrong, ""); len(wrong) > 0 {
		return nil, wrong
	}
	list, err := a.stockIn(a.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	var out []workbench.Fitting
	for _, l := range list {
		if l.Impeller != nil {
			x := *l.Impeller
			x.Name = fmt.Sprintf("%s (%g in stock)", l.Label, l.Have)
			out = append(out, t.Compare(old, x))
		}
	}
	for _, x := range others {
		out = append(out, t.Compare(old, x))
	}
	rank := map[workbench.Fit]int{workbench.MayFit: 1, workbench.NoFit: 2}
	slices.SortStableFunc(out, func(a, b workbench.Fitting) int { return rank[a.Fit] - rank[b.Fit] })
	return out, nil
}
