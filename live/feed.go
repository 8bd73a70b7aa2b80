// Package live listens to gateways on the boat's network that speak NMEA 0183 over TCP, keeps the last of what they
// said, and tells what is lost as lost. Memory is bounded whatever a gateway sends.
package live

import (
	"context"
	"errors"
	"io"
	"maps"
	"net"
	"slices"
	"sync"
	"time"

	"hevrin/core/nmea"
)

// State is how a feed stands.
type State string

// The states. Silent: the line is open and nothing comes.
const (
	Connecting State = "connecting"
	Connected  State = "connected"
	Silent     State = "silent"
	Lost       State = "lost"
)

// Times and bounds.
const (
	dialFor      = 5 * time.Second
	silentAfter  = 5 * time.Second
	giveUpAfter  = 30 * time.Second // of silence
	firstRetry   = 250 * time.Millisecond
	longestRetry = 5 * time.Second
	mostChannels = 48
	mostPoints   = 300_000 // an hour of 12 channels at 5 Hz is 216,000
	leastApartS  = 0.02    // what comes faster on one channel is passed over
)

// Point is one value. Seconds are the feed's own, from when it was first listened to, never going back.
type Point struct {
	Channel int
	Seconds float64
	Value   float64
}

// Channel is one thing that a gateway tells.
type Channel struct {
	Name     string
	Quantity nmea.Quantity
	Value    float64
	Seconds  float64   // when, by the feed
	Heard    time.Time // when, by this machine
	Count    int
}

// Status is how a feed stands, and what it heard.
type Status struct {
	State    State
	Since    time.Time
	Why      string // it is lost
	Seconds  float64
	OwnClock bool // the gateway tells the time (ZDA)
	Channels []Channel
	Taken    int
	Passed   map[string]int // lines that were not taken, by the reason
}

// Feed listens to one gateway.
type Feed struct {
	Address string
	now     func() time.Time

	mu       sync.Mutex
	state    State
	since    time.Time
	why      string
	channels []Channel
	index    map[string]int
	points   []Point // a ring once it is full
	next     uint64  // how many points there ever were
	taken    int
	passed   map[string]int
	clock    clock
	news     chan struct{} // closed at every news
}

func newFeed(address string, now func() time.Time) *Feed {
	return &Feed{Address: address, now: now, state: Connecting, since: now(), index: map[string]int{},
		passed: map[string]int{}, news: make(chan struct{}), clock: clock{wall: now()}}
}

// Status tells how the feed stands.
func (f *Feed) Status() Status {
	f.mu.Lock()
	defer f.mu.Unlock()
	s := Status{State: f.state, Since: f.since, Why: f.why, Seconds: f.clock.at(f.now()),
		OwnClock: f.clock.reported(f.now()), Channels: slices.Clone(f.channels), Taken: f.taken, Passed: map[string]int{}}
	if f.taken > 0 { // before, it would tell that something else speaks there
		maps.Copy(s.Passed, f.passed)
	}
	return s
}

// Since lists the points from one on, counted from the first that ever was, and where to go on. Points that the memory
// does not hold any more are left out.
func (f *Feed) Since(from uint64) ([]Point, uint64) {
	f.mu.Lock()
	defer f.mu.Unlock()
	oldest := f.next - min(f.next, uint64(len(f.points)))
	from = min(max(from, oldest), f.next)
	out := make([]Point, 0, f.next-from)
	for i := from; i < f.next; i++ {
		out = append(out, f.points[i%mostPoints])
	}
	return out, f.next
}

// News is closed when something new has come, or the state has changed.
func (f *Feed) News() <-chan struct{} {
	f.mu.Lock()
	defer f.mu.Unlock()
	return f.news
}

// report lets everybody who waits go on; the lock is held.
func (f *Feed) report() {
	close(f.news)
	f.news = make(chan struct{})
}

func (f *Feed) set(s State, why string) {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.state != s || f.why != why {
		f.state, f.why, f.since = s, why, f.now()
		f.report()
	}
}

// nothingComes is all that is told of an address from which nothing was heard yet, after the same time whatever stands
// there: who names it is not to learn which machines and ports of a network answer.
const nothingComes = "nothing comes from the gateway: is it on, is this its address and port, and is this machine on " +
	"the boat's network?"

// run connects and listens, and connects again, until the context ends.
func (f *Feed) run(ctx context.Context) {
	retry, ever := firstRetry, false
	for ctx.Err() == nil {
		same := time.After(dialFor)
		heard, err := f.listen(ctx, ever)
		if ever = ever || heard; !ever {
			select {
			case <-ctx.Done():
			case <-same:
			}
		}
		if ctx.Err() != nil {
			return
		}
		if heard {
			retry = firstRetry
		}
		f.set(Lost, whyLost(err, ever))
		select {
		case <-ctx.Done():
		case <-time.After(retry):
		}
		retry = min(2*retry, longestRetry)
	}
}

func whyLost(err error, ever bool) string {
	switch {
	case !ever:
		return nothingComes
	case errors.Is(err, io.EOF):
		return "the gateway closed the line"
	}
	return "the gateway does not answer: is it on, and is this machine on the boat's network?"
}

// listen takes one connection from its begin to its end; ever says whether anything was taken of this gateway before,
// heard whether anything was now.
func (f *Feed) listen(ctx context.Context, ever bool) (heard bool, err error) {
	dial := net.Dialer{Timeout: dialFor}
	c, err := dial.DialContext(ctx, "tcp", f.Address)
	if err != nil {
		return false, err
	}
	stop := context.AfterFunc(ctx, func() { _ = c.Close() })
	defer func() {
		if stop() {
			_ = c.Close()
		}
	}()
	var lines nmea.Lines
	piece := make([]byte, 16<<10)
	last := f.now()
	for {
		_ = c.SetReadDeadline(time.Now().Add(silentAfter))
		n, err := c.Read(piece)
		if n > 0 {
			if f.take(&lines, piece[:n]) {
				heard, last = true, f.now()
				f.set(Connected, "")
			}
		}
		var network net.Error
		switch {
		case err == nil:
		case errors.As(err, &network) && network.Timeout() && (heard || ever) &&
			f.now().Sub(last) < giveUpAfter:
			f.set(Silent, "the line is open, and nothing comes")
		default:
			return heard, err
		}
	}
}

// take reads what came; some says whether there was a reading in it.
func (f *Feed) take(lines *nmea.Lines, piece []byte) (some bool) {
	f.mu.Lock()
	defer f.mu.Unlock()
	dropped := lines.Dropped
	lines.Take(piece, func(line string) {
		s, err := nmea.Parse(line)
		if err != nil {
			f.pass(err)
			return
		}
		if at, ok := s.Time(); ok {
			f.clock.hear(at, f.now())
			return
		}
		list, err := s.Readings()
		if err != nil {
			f.pass(err)
			return
		}
		for _, r := range list {
			some = f.put(r) || some
		}
	})
	if n := lines.Dropped - dropped; n > 0 {
		f.passed[string(nmea.TooLong)] += n
	}
	if some {
		f.report()
	}
	return some
}

func (f *Feed) pass(err error) {
	var slip nmea.LineError
	if errors.As(err, &slip) {
		f.passed[string(slip)]++
	}
}

// Why readings are passed over that were told well.
const (
	tooMany = "more channels than are kept"
	tooFast = "faster than 50 a second"
)

func (f *Feed) put(r nmea.Reading) bool {
	i, known := f.index[r.Channel]
	if !known {
		if len(f.channels) == mostChannels {
			f.passed[tooMany]++
			return false
		}
		i = len(f.channels)
		f.index[r.Channel] = i
		f.channels = append(f.channels, Channel{Name: r.Channel, Quantity: r.Quantity, Seconds: -1})
	}
	at := f.clock.at(f.now())
	c := &f.channels[i]
	if at-c.Seconds < leastApartS && c.Count > 0 {
		f.passed[tooFast]++
		return true
	}
	c.Quantity, c.Value, c.Seconds, c.Heard, c.Count = r.Quantity, r.Value, at, f.now(), c.Count+1
	p := Point{i, at, r.Value}
	if len(f.points) < mostPoints {
		f.points = append(f.points, p)
	} else {
		f.points[f.next%mostPoints] = p
	}
	f.next++
	f.taken++
	return true
}
