// Package yard is what the whole yard sees: all craft with what is open, and the tasks and methods that it goes by.
package yard

import "hevrin/app/record"

// Overview are the use cases of the whole yard. It may be used from many goroutines.
type Overview struct{ *record.Log }

// New keeps nothing itself.
func New(l *record.Log) *Overview { return &Overview{l} }
