// Package inventory is the parts that the yard has: what lies where, what is to be ordered, what fits which engine.
package inventory

import (
	"hevrin/app/maintenance"
	"hevrin/app/record"
)

// Stock are the use cases of the inventory. It may be used from many goroutines.
type Stock struct {
	*record.Log
	maintenance *maintenance.Schedule
}

// New keeps nothing itself.
func New(l *record.Log, m *maintenance.Schedule) *Stock { return &Stock{l, m} }
