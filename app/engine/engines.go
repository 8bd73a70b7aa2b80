// Package engine is craft and engines: their facts, their pages, and the gateways that report their readings.
package engine

import (
	"hevrin/app/maintenance"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/live"
)

// Engines are the use cases of craft and engines. It may be used from many goroutines.
type Engines struct {
	*record.Log
	maintenance *maintenance.Schedule
	readings    *readings.Models
	Hub         *live.Hub
}

// New lets craft and engines be listed from their entries.
func New(l *record.Log, m *maintenance.Schedule, r *readings.Models, hub *live.Hub) *Engines {
	return &Engines{l, m, r, hub}
}
