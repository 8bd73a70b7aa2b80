package simulator

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"hevrin/core/workbench"
)

//go:embed supplier.json
var priceList []byte

// Item is a part on the simulated supplier's price list.
type Item struct {
	Number   string              `json:"number"`
	Label    string              `json:"label"`
	Price    float64             `json:"price"`
	Stock    int                 `json:"stock"`
	LeadDays int                 `json:"lead_days"`             // from stock
	Longer   int                 `json:"made_days"`             // what is not in stock
	Upkeep   string              `json:"upkeep,omitempty"`      // what it is for
	Replaced string              `json:"replaced_by,omitempty"` // superseded by this number
	Impeller *workbench.Impeller `json:"impeller,omitempty"`
}

// Supplier is a simulated supplier of parts: a price list with what lies in stock, how long it takes, and what was superseded.
// It is invented and stands in for a real one's service.
type Supplier struct{ items []Item }

// NewSupplier is the supplier that ships with the program.
func NewSupplier() (*Supplier, error) {
	var s Supplier
	if err := json.Unmarshal(priceList, &s.items); err != nil {
		return nil, fmt.Errorf("the supplier's price list: %w", err)
	}
	return &s, nil
}

// Items lists what has all the words in its number or label.
func (s *Supplier) Items(find string) []Item {
	var out []Item
	for _, i := range s.items {
		text := strings.ToLower(i.Number + " " + i.Label)
		if !slices.ContainsFunc(strings.Fields(strings.ToLower(find)), func(w string) bool { return !strings.Contains(text, w) }) {
			out = append(out, i)
		}
	}
	return out
}

// Item finds a part by its number.
func (s *Supplier) Item(number string) (Item, bool) {
	i := slices.IndexFunc(s.items, func(x Item) bool { return strings.EqualFold(x.Number, strings.TrimSpace(number)) })
	if i < 0 {
		return Item{}, false
	}
	return s.items[i], true
}

// Promise is what the supplier says to an order.
type Promise struct {
	Item
	Days int // until it comes
	Say  string
}

// Ask asks for so many of a part: when they come, or why not. What was superseded is told with its new number.
func (s *Supplier) Ask(number string, quantity float64) (Promise, error) {
	i, ok := s.Item(number)
	switch {
	case !ok:
		return Promise{}, fmt.Errorf("the supplier has no %q", number)
	case i.Replaced != "":
		return Promise{Item: i}, fmt.Errorf("%s was superseded: order %s", i.Number, i.Replaced)
	case quantity <= float64(i.Stock):
		return Promise{i, i.LeadDays, fmt.Sprintf("in stock, %d days", i.LeadDays)}, nil
	}
	return Promise{i, i.Longer, fmt.Sprintf("%d in stock, all of them in %d days", i.Stock, i.Longer)}, nil
}
