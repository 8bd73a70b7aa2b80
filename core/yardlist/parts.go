package yardlist

import (
	"slices"
	"strings"
	"time"

	"hevrin/core/eventlog"
	"hevrin/core/inventory"
)

// ofPart are the columns by the fields of a part and of its count.
var ofPart = map[string]string{"is.label": "label", "is.minimum": "minimum", "is.price": "price", "quantity": "count",
	"price": "price"}

// part plans a row of the inventory. A part is on record where its number is, or where its name is and neither has a
// number.
func (p *planner) part() error {
	is := inventory.Part{Label: p.short("label", mostOfName), Number: p.short("number", mostOfName),
		Where: p.short("where", mostOfName), Unit: p.pieces()}
	if is.Label == "" {
		if len(p.slips) == 0 {
			p.slip("label", "say what the part is")
		}
		return nil
	}
	is.Minimum, _ = p.figure("minimum")
	is.Price, _ = p.figure("price")
	if pump := p.short("pump", mostOfName); pump != "" {
		is.Fits = []inventory.Fit{{Pump: pump, How: inventory.Listed}}
	}
	is.Maintenance = p.itemNamed("maintenance")
	count, counted := p.figure("count")
	if len(p.slips) > 0 {
		return nil
	}
	if slices.ContainsFunc(p.held.Parts, func(h HeldPart) bool { return h.is(is) }) {
		return nil // left as it stands
	}
	id := p.id("part/" + strings.ToLower(is.Label+"/"+inventory.Plate(is.Number)))
	log := eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.InventoryID}
	acts := []inventory.Act{{Do: inventory.SavePart, Part: id, Is: &is}}
	if counted {
		acts = append(acts, inventory.Act{Do: inventory.Count, Part: id, Quantity: count})
	}
	for _, a := range acts {
		if err := a.Check(); err != nil {
			return p.refuse(err, ofPart)
		}
		p.adds(log, eventlog.InventoryNoted, eventlog.Body{Inventory: &a}, time.Time{})
	}
	p.says("%s", strings.Join(filled(is.Label, is.Number, is.Where), ", "))
	if counted {
		p.says("%g %s in stock", count, map[bool]string{true: "pieces", false: is.Unit}[is.Unit == ""])
	}
	p.held.Parts = append(p.held.Parts, HeldPart{id, is.Label, is.Number})
	p.plan.Counts.Parts++
	return nil
}

// is says whether a part on record is the one that a row tells of.
func (h HeldPart) is(x inventory.Part) bool {
	a, b := inventory.Plate(h.Number), inventory.Plate(x.Number)
	return a == b && (a != "" || same(h.Label, x.Label))
}

// pieces is the unit of a count; empty for pieces, however they are written.
func (p *planner) pieces() string {
	unit := p.short("unit", 20)
	if slices.ContainsFunc([]string{"piece", "pieces", "pc", "pcs", "ea", "each", "no", "off", "unit", "units"},
		func(w string) bool { return same(unit, w) }) {
		return ""
	}
	return unit
}

// itemNamed is the maintenance item that a column names, by its id, its name or what is done; empty where it says
// nothing.
func (p *planner) itemNamed(column string) string {
	said := p.text(column)
	if said == "" {
		return ""
	}
	var names []string
	for _, m := range p.c.Maintenance {
		if same(said, m.ID) || same(said, m.Label) || same(said, m.Do) {
			return m.ID
		}
		names = append(names, m.Label)
	}
	p.slip(column, "%q is not known here: write one of %s", said, strings.Join(names, ", "))
	return ""
}
