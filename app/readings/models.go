// Package readings holds rounds of readings against the model of their engine: what a healthy one reads, what it is
// compared with, what the readings say. Expensive answers are kept in memory.
package readings

import (
	"hevrin/app/record"
	"hevrin/core/plant"
)

// Models answers questions about engines' readings. It may be used from many goroutines.
type Models struct {
	*record.Log
	Cache  *Cache
	states *plant.Memo
}

// mostStates is how many states of plants are kept: those of some five jobs with twenty rounds each.
const mostStates = 16384

// New has nothing in memory yet.
func New(l *record.Log) *Models {
	return &Models{Log: l, Cache: NewCache(), states: plant.NewMemo(mostStates)}
}
