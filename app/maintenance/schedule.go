// Package maintenance is what is due on an engine and when, computed from its service history.
package maintenance

import (
	"context"
	"sync"

	"hevrin/app/enginestate"
	"hevrin/app/readings"
	"hevrin/app/record"
)

// Schedule are the use cases of maintenance. It may be used from many goroutines.
type Schedule struct {
	*record.Log
	readings *readings.Models
	states   *enginestate.States
	lists    sync.Map // by engine: *cachedDue
	stopDays context.CancelFunc
	days     sync.WaitGroup
}

// New has computed nothing yet.
func New(l *record.Log, r *readings.Models, s *enginestate.States) *Schedule {
	return &Schedule{Log: l, readings: r, states: s}
}
