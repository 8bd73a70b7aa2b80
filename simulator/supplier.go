package simulator

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"hevrin/core/inventory"
)

//go:embed supplier.json
var priceList []byte

// Supplier is a simulated supplier of parts: a price list with what lies in stock, how long it takes, and what was
// superseded. It is invented and stands in for a real one's service.
type Supplier struct{ items []inventory.Offer }

// NewSupplier is the supplier that ships with the program.
func NewSupplier() (*Supplier, error) {
	var s Supplier
	if err := json.Unmarshal(priceList, &s.items); err != nil {
		return nil, fmt.Errorf("the supplier's price list: %w", err)
	}
	return &s, nil
}

// Offers lists what has all the words in its number or label.
func (s *Supplier) Offers(find string) []inventory.Offer {
	var out []inventory.Offer
	for _, i := range s.items {
		text := strings.ToLower(i.Number + " " + i.Label)
		if !slices.ContainsFunc(strings.Fields(strings.ToLower(find)), func(w string) bool {
			return !strings.Contains(text,
				w)
		}) {
			out = append(out, i)
		}
	}
	return out
}

// Item finds a part by its number.
func (s *Supplier) Item(number string) (inventory.Offer, bool) {
	i := slices.IndexFunc(s.items, func(x inventory.Offer) bool {
		return strings.EqualFold(x.Number,
			strings.TrimSpace(number))
	})
	if i < 0 {
		return inventory.Offer{}, false
	}
	return s.items[i], true
}

// Ask asks for so many of a part: when they come, or why not. What was superseded is told with its new number.
func (s *Supplier) Ask(number string, quantity float64) (inventory.Promise, error) {
	i, ok := s.Item(number)
	switch {
	case !ok:
		return inventory.Promise{}, fmt.Errorf("the supplier has no %q", number)
	case i.Replaced != "":
		return inventory.Promise{Offer: i}, fmt.Errorf("%s was superseded: order %s", i.Number, i.Replaced)
	case quantity <= float64(i.Stock):
		return inventory.Promise{Offer: i, Days: i.LeadDays, Say: fmt.Sprintf("in stock, %d days", i.LeadDays)}, nil
	}
	return inventory.Promise{Offer: i, Days: i.MadeDays, Say: fmt.Sprintf("%d in stock, all of them in %d days", i.Stock,
		i.MadeDays)}, nil
}
