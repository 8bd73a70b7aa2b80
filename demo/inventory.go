package demo

import (
	"fmt"
	"time"

	"hevrin/core/inventory"
	"hevrin/core/workbench"
)

// onShelf is what lies on the yard's inventory, with what was done about it.
var onShelf = []struct {
	part inventory.Part
	have float64
	acts []inventory.Act
}{
	{inventory.Part{Label: "Impeller 65 x 51, key", Number: "LM-2052", Where: "Drawer 3", Minimum: 3, Price: 36.9,
		Maintenance: "impeller", Fits: append(fits("Mudlark's Due Main", inventory.Tried, patienceName+" Main",
			inventory.Tried), inventory.Fit{Pump: "V65-51 K", How: inventory.Measured}),
		Impeller: &workbench.Impeller{OutsideDiameter: 65, Width: 50.8, Bore: 16, Drive: "key", Blades: 10, Insert: "brass",
			CoverSeal: "o-ring"}}, 1,
		[]inventory.Act{{Do: inventory.WrongOne, Number: "LM-2060",
			Words: "Came as spline: the pump has a key. Measure the drive, not the blades alone."}}},
	{inventory.Part{Label: "Impeller 95 x 63, spline", Number: "LM-3110", Where: "Drawer 3", Minimum: 1, Price: 71.2,
		Maintenance: "impeller", Fits: append(fits("Brackling Main", inventory.Tried), inventory.Fit{Pump: "V95-63 S",
			How: inventory.Listed}),
		Impeller: &workbench.Impeller{OutsideDiameter: 95, Width: 63, Bore: 22, Drive: "spline", Blades: 12,
			Insert: "bronze", CoverSeal: "o-ring"}}, 0,
		[]inventory.Act{{Do: inventory.Order, Order: "brackling-impeller", Number: "LM-3110", Quantity: 1, Price: 71.2,
			DueDays: 4}}},
	{inventory.Part{Label: "Pump kit, small, 57", Number: "LM-K57", Where: "Van box 2", Minimum: 1, Price: 58,
		Fits:  append(fits("Lissamar Main", inventory.Tried), fits("Old Grummet Main", inventory.Listed)...),
		Holds: []string{"Impeller", "Cover gasket", "Cover screws, 6"}}, 2, nil},
	{inventory.Part{Label: "Pencil anode 12 mm", Number: "ZN-12", Where: "Tin by the door", Minimum: 6, Price: 6.2,
		Maintenance: "anode", Fits: fits("Mudlark's Due Main", inventory.Tried, "Brackling Main", inventory.Tried,
			patienceName+" Main", inventory.Listed)}, 9, nil},
	{inventory.Part{Label: "Exchanger seal set 65", Number: "OR-EX65", Where: "Drawer 5", Minimum: 2, Price: 18.5,
		Maintenance: "descale", Fits: fits("Sallow Ebb Main", inventory.Tried, patienceName+" Main", inventory.Measured)}, 2,
		nil},
	{inventory.Part{Label: "Coolant concentrate, hybrid", Number: "CO-HY5", Where: "Under the bench", Unit: "L",
		Minimum: 15, Price: 4.8, Maintenance: "coolant"}, 25, nil},
	{inventory.Part{Label: "Citric descaler, 2 kg", Number: "DS-CIT", Where: "Locked cupboard", Minimum: 2, Price: 18.5},
		3, nil},
	{inventory.Part{Label: "Thermostat 82 °C with gasket", Number: "TH-82", Where: "Drawer 1", Minimum: 1, Price: 27.4,
		Maintenance: "thermostat", Fits: fits("Lissamar Main", inventory.Tried)}, 1, nil},
}

// fits reads pairs of an engine and how it is known.
func fits(pairs ...string) (list []inventory.Fit) {
	for i := 0; i < len(pairs); i += 2 {
		list = append(list, inventory.Fit{Engine: id(pairs[i]), How: pairs[i+1]})
	}
	return list
}

func (w *writer) shelf() {
	w.now = time.Date(2026, time.May, 20, 16, 0, 0, 0, time.UTC)
	for i, s := range onShelf {
		part := id("shelf " + s.part.Label)
		acts := append([]inventory.Act{{Do: inventory.SavePart, Is: &s.part}, {Do: inventory.Count, Quantity: s.have}},
			s.acts...)
		for k, a := range acts {
			a.Part = part
			w.keep(func() error {
				_, err := w.app.NoteInInventory(w.ctx, w.stamp(fmt.Sprintf("shelf %d act %d", i, k)), a)
				return err
			})
		}
	}
}
