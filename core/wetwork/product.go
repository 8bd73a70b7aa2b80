package wetwork

import (
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Product is what descales as it is bought: an acid of a known strength, or a mix that goes by its own instructions.
type Product struct {
	ID           string   `json:"id"`
	Label        string   `json:"label"`
	Acid         Acid     `json:"acid,omitempty"` // empty: a mix of unknown strength
	StockPercent float64  `json:"stock_percent_mass,omitempty"`
	PartsWater   float64  `json:"parts_water,omitempty"` // as printed, of a mix
	Minutes      float64  `json:"minutes,omitempty"`     // as printed
	MostPercent  float64  `json:"most_percent,omitempty"`
	NotOn        []string `json:"not_on,omitempty"` // materials
	// Ready: it is used as it comes out of the can.
	Ready bool `json:"ready_mixed,omitempty"`
	// Caustic: a cleaner of carbon and grease, no acid; it does not dissolve scale.
	Caustic bool `json:"caustic,omitempty"`
}

// Products are the acids as they are sold; a yard puts its own beside them.
var Products = []Product{
	{ID: "phosphoric-75", Label: "Phosphoric acid, 75 %", Acid: Phosphoric, StockPercent: 75, Minutes: 60},
	{ID: "citric", Label: "Citric acid, crystals", Acid: Citric, StockPercent: 100, Minutes: 90},
	{ID: "sulfamic", Label: "Sulfamic acid, crystals", Acid: Sulfamic, StockPercent: 100, Minutes: 60,
		NotOn: []string{"galvanised"}},
	{ID: "acetic-24", Label: "Cleaning vinegar, 24 %", Acid: Acetic, StockPercent: 24, Minutes: 180},
	{ID: "hydrochloric-30", Label: "Hydrochloric acid, 30 %, bench only", Acid: Hydrochloric, StockPercent: 30,
		Minutes: 10, NotOn: []string{"steel", "rubber"}},
	{ID: "caustic-cleaner", Label: "Caustic cleaner for carbon, bench only", Caustic: true, PartsWater: 4, Minutes: 60},
}

// Check says what does not fit in a product.
func (x Product) Check() error {
	var wrong validation.Errors
	if x.ID == "" {
		wrong.Add("product.id", "nothing", "an id", "give it an id")
	}
	if x.Caustic && x.Acid != "" {
		wrong.Add("product.caustic", "both", "an acid, or a caustic cleaner", "the two are never one: say which it is")
	}
	if x.Acid == "" {
		x.checkParts(&wrong)
		return wrong.Err()
	}
	if f, known := acids[x.Acid]; !known {
		wrong.Add("product.acid", x.Acid, "phosphoric, citric, sulfamic, formic, acetic, hydrochloric",
			"there is no such acid here")
	} else if !(x.StockPercent > 0 && x.StockPercent <= f.MostPercent) {
		wrong.Add("product.stock_percent_mass", x.StockPercent, units.Say("above 0, to %g %%", f.MostPercent),
			"give the strength as bought, from the label")
	}
	return wrong.Err()
}

// checkParts refuses a mix of which nobody said how it is mixed: a blank is not ready-mixed.
func (x Product) checkParts(wrong *validation.Errors) {
	switch {
	case x.Ready && x.PartsWater != 0:
		wrong.Add("product.parts_water", x.PartsWater, "none for what is ready-mixed",
			"it is either ready-mixed or mixed with water: say which")
	case !x.Ready && !(x.PartsWater > 0 && x.PartsWater <= 200):
		wrong.Add("product.parts_water", x.PartsWater, "above 0, to 200",
			"give the parts of water to one of product, as printed on it, or say that it is ready-mixed")
	}
}

// Materials that acid may meet.
var Materials = []string{"copper-alloy", "aluminium", "zinc", "galvanised", "chrome", "rubber", "steel",
	"cast-iron", "stainless"}

// ferrous are the materials that hydrochloric acid never meets; common practice.
var ferrous = []string{"steel", "cast-iron", "stainless"}

// noAcid are the materials that no acid bath may meet, and why.
var noAcid = map[string]string{
	"aluminium":  "acid eats aluminium and sets hydrogen free",
	"galvanised": "acid takes the zinc off and sets hydrogen free",
	"chrome":     "acid lifts chrome",
}

// noCaustic are the materials that no caustic cleaner may meet, and why; common practice.
var noCaustic = map[string]string{
	"aluminium":  "caustic eats aluminium and sets hydrogen free",
	"zinc":       "caustic eats zinc and sets hydrogen free",
	"galvanised": "caustic takes the zinc off and sets hydrogen free",
}
