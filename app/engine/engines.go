// Package engine is craft and engines: their facts, their pages, and the gateways that report their readings.
package engine

import (
	"hevrin/app/enginestate"
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
	states      *enginestate.States
	Hub         *live.Hub
}

// New lets craft and engines be listed from their entries.
func New(l *record.Log, m *maintenance.Schedule, r *readings.Models, s *enginestate.States, hub *live.Hub) *Engines {
	return &Engines{l, m, r, s, hub}
}
