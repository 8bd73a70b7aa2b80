package record

import (
	"sync"

	"hevrin/core/eventlog"
)

// Change is one entry that was added to the record. Number rises with each; it holds while the program runs.
type Change struct {
	Number  int64
	Subject eventlog.Subject
	Entry   string
}

// mostChanges is how many are remembered for whoever comes back.
const mostChanges = 512

// Changes lets whoever shows the record know what was added. It may be used from many goroutines; the zero value is
// ready.
type Changes struct {
	mu     sync.Mutex
	last   int64
	recent []Change
	news   chan struct{}
}

func (c *Changes) publish(e eventlog.Entry) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.last++
	c.recent = append(c.recent, Change{c.last, e.Subject, e.ID})
	if len(c.recent) > mostChanges {
		c.recent = c.recent[len(c.recent)-mostChanges:]
	}
	if c.news != nil {
		close(c.news)
	}
	c.news = make(chan struct{})
}

// Since lists what came after a number, and a channel that is closed as soon as there is more. Not ok when the number
// is not known any more: then anything may have changed. last is the newest number.
func (c *Changes) Since(number int64) (list []Change, last int64, news <-chan struct{}, ok bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.news == nil {
		c.news = make(chan struct{})
	}
	first := c.last - int64(len(c.recent))
	if number < first || number > c.last {
		return nil, c.last, c.news, false
	}
	return append(list, c.recent[number-first:]...), c.last, c.news, true
}
