package live_test

import (
	"context"
	"math"
	"net"
	"runtime"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/live"
	"hevrin/simulator"
)

// aRig speaks on a port of this machine until the test ends, or until stop is called.
func aRig(t *testing.T, change func(*simulator.Script)) (r *simulator.Simulator, address string, stop func()) {
	t.Helper()
	known, err := simulator.Type("diesel")
	require.NoError(t, err)
	s := simulator.Script{Engine: known, SeaC: 15, SpaceC: 30, StartC: 20, Phases: simulator.ProvingRun(known.RatedRPM),
		Seed: 7}
	if change != nil {
		change(&s)
	}
	r, err = simulator.New(s)
	require.NoError(t, err)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- r.Serve(ctx, l) }()
	stop = func() {
		cancel()
		for err := range done {
			assert.NoError(t, err)
			close(done)
		}
	}
	t.Cleanup(stop)
	return r, l.Addr().String(), stop
}

func hub(t *testing.T) *live.Hub {
	t.Helper()
	h := live.NewHubThatLingers(time.Now, 10*time.Millisecond)
	t.Cleanup(h.Close)
	return h
}

func eventually(t *testing.T, f *live.Feed, want func(live.Status) bool, say string) live.Status {
	t.Helper()
	var s live.Status
	require.Eventually(t, func() bool { s = f.Status(); return want(s) }, 90*time.Second, 10*time.Millisecond, say)
	return s
}

func TestAFeedTellsEveryChannelByTheGatewaysClock(t *testing.T) {
	_, address, _ := aRig(t, func(s *simulator.Script) { s.Speed, s.EveryS = 40, 4 })
	f, release, err := hub(t).Use(address)
	require.NoError(t, err)
	defer release()
	s := eventually(t, f, func(s live.Status) bool { return s.Seconds > 120 },
		"two minutes of the gateway in three seconds")
	assert.Equal(t, live.Connected, s.State)
	assert.True(t, s.OwnClock)
	assert.Len(t, s.Channels, 13)
	assert.Empty(t, s.Passed)
	points, next := f.Since(0)
	assert.EqualValues(t, len(points), next)
	last := make([]float64, 13)
	for _, p := range points {
		assert.GreaterOrEqual(t, p.Seconds, last[p.Channel], "time goes back")
		last[p.Channel] = p.Seconds
	}
	more, _ := f.Since(next)
	assert.Less(t, len(more), len(points))
}

func TestALostGatewayIsToldAndFoundAgain(t *testing.T) {
	_, address, stop := aRig(t, nil)
	f, release, err := hub(t).Use(address)
	require.NoError(t, err)
	defer release()
	eventually(t, f, func(s live.Status) bool { return s.State == live.Connected }, "connected")
	stop()
	s := eventually(t, f, func(s live.Status) bool { return s.State == live.Lost }, "lost")
	assert.NotEmpty(t, s.Why)
	l, err := net.Listen("tcp", address)
	require.NoError(t, err)
	known, err := simulator.Type("diesel")
	require.NoError(t, err)
	again, err := simulator.New(simulator.Script{Engine: known, SeaC: 15, SpaceC: 30, StartC: 20})
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() { _ = again.Serve(ctx, l) }()
	eventually(t, f, func(s live.Status) bool { return s.State == live.Connected }, "found again")
}

// answers listens and says something to whoever connects.
func answers(t *testing.T, say string) (address string) {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			_, _ = c.Write([]byte(say))
			context.AfterFunc(t.Context(), func() { _ = c.Close() })
		}
	}()
	return l.Addr().String()
}

func TestAnOpenLineThatSaysNothingMoreIsSilent(t *testing.T) {
	f, release, err := hub(t).Use(answers(t, "$IIMTW,17.0,C*15\r\n"))
	require.NoError(t, err)
	defer release()
	eventually(t, f, func(s live.Status) bool { return s.State == live.Silent }, "silent")
}

// What stands at an address that never said anything a gateway says is not told: a closed port, an open one and one
// that speaks something else look alike, at the same time.
func TestNobodyScansANetworkThroughAFeed(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	closed := l.Addr().String()
	require.NoError(t, l.Close())
	h := hub(t)
	addresses := []string{closed, answers(t, ""), answers(t, "SSH-2.0-something\r\n")}
	told := make([]string, len(addresses))
	var all sync.WaitGroup
	for i, address := range addresses {
		begun := time.Now()
		f, release, err := h.Use(address)
		require.NoError(t, err)
		defer release()
		all.Go(func() {
			for f.Status().State == live.Connecting && time.Since(begun) < time.Minute {
				time.Sleep(10 * time.Millisecond)
			}
			s := f.Status()
			assert.Equal(t, live.Lost, s.State)
			assert.Empty(t, s.Passed)
			assert.InDelta(t, 5, time.Since(begun).Seconds(), 1)
			told[i] = s.Why
		})
	}
	all.Wait()
	assert.Equal(t, told[0], told[1])
	assert.Equal(t, told[0], told[2])
}

func TestAddressesThatAreNone(t *testing.T) {
	for _, address := range []string{"", "gateway", "gateway:", ":10110", "gateway:99999", "gateway:nmea",
		"http://gateway:80/x"} {
		_, _, err := hub(t).Use(address)
		assert.Error(t, err, address)
	}
}

// An hour of a gateway that ails in every way, in seconds: nothing is left running, memory stays bounded, and what was
// told well is there.
func TestSoak(t *testing.T) {
	before := runtime.NumGoroutine()
	h := live.NewHubThatLingers(time.Now, time.Millisecond)
	_, address, stop := aRig(t, func(s *simulator.Script) {
		s.Speed, s.EveryS = 720, 0.5
		s.LineFaults = simulator.Line{BadChecksum: 0.02, Garbage: 0.01, Partial: 0.02, Flood: 0.001, Silence: 0.0005,
			Cut: 0.0005}
	})
	f, release, err := h.Use(address)
	require.NoError(t, err)
	for range 50 { // listeners come and go
		_, leave, err := h.Use(address)
		require.NoError(t, err)
		leave()
	}
	s := eventually(t, f, func(s live.Status) bool { return s.Seconds > 3600 }, "an hour of its own")
	assert.Greater(t, s.Taken, 20_000)
	for _, why := range []string{"wrong checksum", "no checksum"} {
		assert.Positive(t, s.Passed[why], why)
	}
	assert.LessOrEqual(t, len(s.Channels), 48)
	points, _ := f.Since(0)
	for _, p := range points {
		require.False(t, math.IsNaN(p.Value) || math.IsInf(p.Value, 0))
		require.True(t, p.Value > -150 && p.Value < 5000, "%v was told by nobody", p.Value)
	}
	var memory runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&memory)
	assert.Less(t, memory.HeapAlloc, uint64(64<<20))
	release()
	h.Close()
	stop()
	for range 500 {
		if runtime.NumGoroutine() <= before {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	assert.LessOrEqual(t, runtime.NumGoroutine(), before, "goroutines are left")
}

// Names without end fill no memory.
func TestAFloodOfNamesIsBounded(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	go func() {
		c, err := l.Accept()
		if err != nil {
			return
		}
		defer c.Close()
		for i := range 20_000 {
			if _, err := c.Write([]byte(sentence(i))); err != nil {
				return
			}
		}
		<-t.Context().Done()
	}()
	f, release, err := hub(t).Use(l.Addr().String())
	require.NoError(t, err)
	defer release()
	s := eventually(t, f, func(s live.Status) bool { return s.Passed["more channels than are kept"] > 19_000 }, "flooded")
	assert.Len(t, s.Channels, 48)
}
