// Package readings holds rounds of readings against the model of their engine: what a healthy one reads, what it is compared
// with, what the readings say. Expensive answers are kept in memory.
package readings

import "hevrin/app/record"

// Models answers questions about engines' readings. It may be used from many goroutines.
type Models struct {
	*record.Log
	Cache *Cache
}

// New has nothing in memory yet.
func New(l *record.Log) *Models { return &Models{Log: l, Cache: NewCache()} }
