package store

import (
	"slices"
	"sync/atomic"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
)

// mostLists is how many lists of lines are kept in memory, and mostAsked of how many engines at most one is of.
const (
	mostLists = 1024
	mostAsked = 8
)

// keptFor is how long they are kept at most: another program may write to the same record, as hevrin import does.
const keptFor = time.Second

// lineCache keeps what was read of the lines of craft, engines and jobs until one of them is written here, for a while
// at most: most taps write none, and each reads several.
type lineCache struct {
	written atomic.Int64 // counts the commits that wrote a line
	lists   *lru.Cache[string, keptList]
}

// keptList is a list as it was read; after how many commits that wrote a line, and when.
type keptList struct {
	after int64
	at    time.Time
	rows  any
}

func newLineCache() *lineCache {
	lists, err := lru.New[string, keptList](mostLists)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &lineCache{lists: lists}
}

// kept gives a list of lines by its name, reading it where it is not known as it stands. A transaction, which has no
// such cache, reads always. What is read while a line is committed may be from before it, and is not used after.
func kept[T any](c *lineCache, name string, read func() ([]T, error)) ([]T, error) {
	if c == nil {
		return read()
	}
	after := c.written.Load()
	if k, ok := c.lists.Get(name); ok && k.after == after && time.Since(k.at) < keptFor {
		rows, _ := k.rows.([]T)
		return slices.Clone(rows), nil
	}
	at := time.Now()
	rows, err := read()
	if err == nil {
		c.lists.Add(name, keptList{after, at, slices.Clone(rows)})
	}
	return rows, err
}
