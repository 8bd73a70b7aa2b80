// Package job is a job from its complaint to its closing: what was seen, taken off, cleaned, read and proved, what it
// says of the engine's faults, and what is to be done next.
package job

import (
	"hevrin/app/engine"
	"hevrin/app/enginestate"
	"hevrin/app/inventory"
	"hevrin/app/maintenance"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/yard"
	"hevrin/core/diagnosis"
)

// Jobs are the use cases of jobs. It may be used from many goroutines.
type Jobs struct {
	*record.Log
	Diagnosis   *diagnosis.Diagnoser
	engine      *engine.Engines
	inventory   *inventory.Stock
	maintenance *maintenance.Schedule
	readings    *readings.Models
	recording   *recording.Recordings
	yard        *yard.Overview
	states      *enginestate.States
}

// New joins what a job touches.
func New(l *record.Log, e *engine.Engines, i *inventory.Stock, m *maintenance.Schedule, r *readings.Models,
	rec *recording.Recordings, y *yard.Overview, s *enginestate.States) *Jobs {
	return &Jobs{l, diagnosis.New(l.Catalogue), e, i, m, r, rec, y, s}
}
