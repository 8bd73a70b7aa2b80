// Package exchange takes jobs out of the record and into another one, whole.
package exchange

import (
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/recording"
)

// Bundles are the use cases of the exchange. It may be used from many goroutines.
type Bundles struct {
	*record.Log
	job       *job.Jobs
	recording *recording.Recordings
}

// New keeps nothing itself.
func New(l *record.Log, j *job.Jobs, r *recording.Recordings) *Bundles { return &Bundles{l, j, r} }
