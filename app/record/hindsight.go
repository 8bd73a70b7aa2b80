package record

import (
	"context"
	"time"
)

// Hindsight is what was seen of a job when it was closed. It is a reading of the record, made anew where it is missing,
// by the catalogue of then.
type Hindsight struct {
	JobID    string `gorm:"primaryKey"`
	ClosedAt time.Time
	Body     string // hindsight.Job as JSON
}

// TableName keeps the word.
func (Hindsight) TableName() string { return "hindsight" }

// HindsightStore keeps what was seen of closed jobs.
type HindsightStore interface {
	// Hindsight lists what was kept of jobs that are still closed as they were then, the newest first.
	Hindsight(ctx context.Context) ([]Hindsight, error)
	// ToLookBackOn lists closed jobs with a cause of which nothing is kept, by their ids, the newest first.
	ToLookBackOn(ctx context.Context) ([]string, error)
	SaveHindsight(ctx context.Context, h Hindsight) error
}
