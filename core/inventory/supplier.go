package inventory

import "hevrin/core/workbench"

// Offer is a part on a supplier's price list.
type Offer struct {
	Number      string              `json:"number"`
	Label       string              `json:"label"`
	Price       float64             `json:"price"` // each, in the yard's money
	Stock       int                 `json:"stock"`
	LeadDays    int                 `json:"lead_days"`             // from stock
	MadeDays    int                 `json:"made_days"`             // what is not in stock
	Maintenance string              `json:"upkeep,omitempty"`      // the maintenance item that it is for
	Replaced    string              `json:"replaced_by,omitempty"` // superseded by this number
	Impeller    *workbench.Impeller `json:"impeller,omitempty"`
}

// Promise is what a supplier says to an order.
type Promise struct {
	Offer
	Days int // until it comes
	Say  string
}
