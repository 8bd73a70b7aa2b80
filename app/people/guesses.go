package people

import (
	"fmt"
	"net/netip"
	"strings"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/core/people"
)

// Wait says that wrong guesses were made, and for how long no further one is looked at.
type Wait struct{ For time.Duration }

// Error says it in words.
func (w *Wait) Error() string {
	return fmt.Sprintf("too many wrong tries from this device: wait %s, then try again", w.For.Round(time.Second))
}

// mostGuessed is how many names and addresses are remembered: who was guessed longest ago is forgotten first.
const mostGuessed = 10_000

type guessed struct {
	wrong int
	last  time.Time
}

// guesses counts wrong guesses, of a name from an address and of an address.
type guesses struct {
	mu   sync.Mutex
	kept *lru.Cache[string, guessed]
}

func newGuesses() *guesses {
	kept, err := lru.New[string, guessed](mostGuessed)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &guesses{kept: kept}
}

// netOf is the network of an address as far as one who guesses can choose within it: all of an IPv6 /64 counts as one.
func netOf(address string) string {
	ip, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	if ip = ip.Unmap(); ip.Is6() {
		if net, err := ip.WithZone("").Prefix(64); err == nil {
			return net.String()
		}
	}
	return ip.String()
}

func keysOf(name, address string) (pair, net string) {
	net = netOf(address)
	return net + " " + strings.ToLower(strings.Join(strings.Fields(name), " ")), net
}

// forgotten is after how long without a guess they count no more.
const forgotten = 24 * time.Hour

func (g *guesses) of(key string, now time.Time) guessed {
	x, _ := g.kept.Get(key)
	if now.Sub(x.last) > forgotten {
		return guessed{}
	}
	return x
}

// begin refuses a guess that comes too soon, and counts any other before it is known to be right, in one: of those that
// run at once no more are judged than of those that come one after the other.
func (g *guesses) begin(name, address string, now time.Time) error {
	g.mu.Lock()
	defer g.mu.Unlock()
	pair, net := keysOf(name, address)
	ofPair, ofNet := g.of(pair, now), g.of(net, now)
	left := max(ofPair.last.Add(people.WaitAfter(ofPair.wrong, 0)).Sub(now),
		ofNet.last.Add(people.WaitAfter(0, ofNet.wrong)).Sub(now))
	if left > 0 && ofPair.wrong+ofNet.wrong > 0 {
		return &Wait{left}
	}
	g.kept.Add(pair, guessed{ofPair.wrong + 1, now})
	g.kept.Add(net, guessed{ofNet.wrong + 1, now})
	return nil
}

// right forgets the guesses of a name from an address, and takes this one off the address.
func (g *guesses) right(name, address string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	pair, net := keysOf(name, address)
	g.kept.Remove(pair)
	if x, ok := g.kept.Get(net); ok {
		g.kept.Add(net, guessed{max(0, x.wrong-1), x.last})
	}
}
