package live

import (
	"context"
	"fmt"
	"net"
	"strconv"
	"sync"
	"time"

	"hevrin/core/validation"
)

// Hub holds the feeds that are listened to, one for each gateway's address, however many listen.
type Hub struct {
	now    func() time.Time
	linger time.Duration
	ctx    context.Context //nolint:containedctx // it is the hub's own life
	stop   context.CancelFunc
	all    sync.WaitGroup

	mu    sync.Mutex
	feeds map[string]*held
}

type held struct {
	feed  *Feed
	stop  context.CancelFunc
	users int
	timer *time.Timer
}

// lingers is how long a gateway is listened to after the last listener has gone: the next page goes on where it was.
const lingers = time.Minute

// NewHub makes a hub. now tells the time.
func NewHub(now func() time.Time) *Hub { return NewHubThatLingers(now, lingers) }

// NewHubThatLingers is NewHub with another time to go on for after the last listener.
func NewHubThatLingers(now func() time.Time, linger time.Duration) *Hub {
	ctx, stop := context.WithCancel(context.Background())
	return &Hub{now: now, linger: linger, ctx: ctx, stop: stop, feeds: map[string]*held{}}
}

// CheckAddress refuses what is no host:port.
func CheckAddress(address string) error {
	var wrong validation.Errors
	host, port, err := net.SplitHostPort(address)
	if n, bad := strconv.Atoi(port); err != nil || bad != nil || host == "" || n < 1 || n > 65535 || len(address) > 200 {
		wrong.Add("address", address, "host:port, as in 192.168.1.20:10110",
			"give the gateway's address and port, as its manual or its display says")
	}
	return wrong.Err()
}

// OnThisMachine tells whether an address is this machine's own.
func OnThisMachine(address string) bool {
	host, _, err := net.SplitHostPort(address)
	ip := net.ParseIP(host)
	return err == nil && (host == "localhost" || ip != nil && ip.IsLoopback())
}

// CheckNear refuses what is neither this machine nor on a private network (RFC 1918, RFC 4193) or the link itself: a
// gateway stands aboard or in the yard, and the program is not to be led anywhere else.
func CheckNear(address string) error {
	if err := CheckAddress(address); err != nil || OnThisMachine(address) {
		return err
	}
	host, _, err := net.SplitHostPort(address)
	if ip := net.ParseIP(host); err == nil && ip != nil && (ip.IsPrivate() || ip.IsLinkLocalUnicast()) {
		return nil
	}
	var wrong validation.Errors
	wrong.Add("address", address, "an address of the boat's or the yard's own network, as in 192.168.1.20:10110",
		"a gateway is reached on the network aboard alone: give its number there, not a name")
	return wrong
}

// Use listens to a gateway until release is called.
func (h *Hub) Use(address string) (f *Feed, release func(), err error) {
	if err := CheckNear(address); err != nil {
		return nil, nil, err
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.ctx.Err() != nil {
		return nil, nil, fmt.Errorf("the program is stopping: %w", h.ctx.Err())
	}
	x, ok := h.feeds[address]
	if !ok {
		ctx, stop := context.WithCancel(h.ctx)
		x = &held{feed: newFeed(address, h.now), stop: stop}
		h.feeds[address] = x
		h.all.Go(func() { x.feed.run(ctx) })
	}
	x.users++
	if x.timer != nil {
		x.timer.Stop()
		x.timer = nil
	}
	return x.feed, sync.OnceFunc(func() { h.leave(address, x) }), nil
}

func (h *Hub) leave(address string, x *held) {
	h.mu.Lock()
	defer h.mu.Unlock()
	x.users--
	if x.users > 0 || h.ctx.Err() != nil {
		return
	}
	x.timer = time.AfterFunc(h.linger, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if x.users == 0 && h.feeds[address] == x {
			delete(h.feeds, address)
			x.stop()
		}
	})
}

// Close stops listening to everything and waits until it has stopped.
func (h *Hub) Close() {
	h.stop()
	h.mu.Lock()
	for _, x := range h.feeds {
		if x.timer != nil {
			x.timer.Stop()
		}
		x.stop()
	}
	h.mu.Unlock()
	h.all.Wait()
}
