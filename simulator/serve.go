package simulator

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"strconv"
	"strings"
	"sync"
	"time"
)

// talk keeps the connections of a simulator.
type talk struct {
	mu    sync.Mutex
	lines map[net.Conn]chan []byte
}

// waiting is how many rounds may wait for a slow listener before it loses some.
const waiting = 64

// Serve speaks to everybody who connects, until the context ends; then it returns once every connection is closed.
func (r *Simulator) Serve(ctx context.Context, l net.Listener) error {
	t := &talk{lines: map[net.Conn]chan []byte{}}
	var all sync.WaitGroup
	defer all.Wait()
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	all.Go(func() {
		<-ctx.Done()
		_ = l.Close() // ends Accept
		t.cut()
	})
	all.Go(func() { r.drive(ctx, t) })
	for {
		c, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil {
				return nil //nolint:nilerr // it was told to stop
			}
			return fmt.Errorf("the simulator cannot listen any more: %w", err)
		}
		out := t.add(c)
		all.Go(func() { speak(c, out) })
	}
}

func (t *talk) add(c net.Conn) chan []byte {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.lines[c] = make(chan []byte, waiting)
	return t.lines[c]
}

// cut closes every connection.
func (t *talk) cut() {
	t.mu.Lock()
	defer t.mu.Unlock()
	for c, out := range t.lines {
		close(out)
		_ = c.Close()
	}
	clear(t.lines)
}

func (t *talk) say(text []byte) {
	t.mu.Lock()
	defer t.mu.Unlock()
	for _, out := range t.lines {
		select {
		case out <- text:
		default: // slow: it loses this round
		}
	}
}

func speak(c net.Conn, out chan []byte) {
	for text := range out {
		_ = c.SetWriteDeadline(time.Now().Add(5 * time.Second))
		if _, err := c.Write(text); err != nil {
			break
		}
	}
	_ = c.Close()
	for range out { //nolint:revive // until it is closed
	}
}

// leastTick is how often the simulator goes on at most, in real time.
const leastTick = 10 * time.Millisecond

// drive lets the engine run and speak by the clock.
func (r *Simulator) drive(ctx context.Context, t *talk) {
	every := time.Duration(r.script.EveryS / r.script.Speed * float64(time.Second))
	tick := time.NewTicker(max(every, leastTick))
	defer tick.Stop()
	last := time.Now()
	owed := 0.0
	for {
		select {
		case <-ctx.Done():
			return
		case now := <-tick.C:
			owed += min(now.Sub(last).Seconds(), 5) * r.script.Speed
			last = now
			for ; owed >= r.script.EveryS; owed -= r.script.EveryS {
				text, cut, err := r.round()
				if err != nil {
					return
				}
				if len(text) > 0 {
					t.say(text)
				}
				if cut {
					t.cut()
				}
			}
		}
	}
}

// round goes on by one round and gives what comes out of the line, ailing as it does.
func (r *Simulator) round() (text []byte, cut bool, err error) {
	if err := r.Advance(r.script.EveryS); err != nil {
		return nil, false, err
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	a := r.script.LineFaults
	hit := func(share float64) bool { return share > 0 && r.random.Float64() < share }
	if hit(a.Silence) {
		r.quiet = r.now + silenceS
	}
	if r.now < r.quiet {
		return nil, false, nil
	}
	times := 1
	if hit(a.Flood) {
		times = floodTimes
	}
	var b strings.Builder
	for range times {
		for _, line := range r.sentences() {
			switch {
			case hit(a.BadChecksum):
				line = strings.Replace(line, ",", ",7", 1)
			case hit(a.Partial):
				line = line[:r.random.IntN(len(line))]
			}
			b.WriteString(line + "\r\n")
		}
		if hit(a.Garbage) {
			for range 200 {
				b.WriteByte(byte(r.random.IntN(256)))
			}
		}
	}
	return []byte(b.String()), hit(a.Cut), nil
}

// commands are the words of the console.
var commands = map[string]struct {
	help string
	do   func(r *Simulator, words []string) (string, error)
}{
	"go": {"go: let a held script begin, or give the engine back to it", func(r *Simulator, _ []string) (string,
		error) {
		r.Go()
		return "going", nil
	}},
	"rpm": {"rpm 2400 [out]: run at a speed, out of gear; 0 stops it", func(r *Simulator, w []string) (string, error) {
		if len(w) == 0 {
			return "", fmt.Errorf("say the speed, as in: rpm 2400")
		}
		v, err := strconv.ParseFloat(w[0], 64)
		if err != nil {
			return "", fmt.Errorf("%q is no speed", w[0])
		}
		return "running", r.Throttle(v, len(w) > 1 && w[1] == "out")
	}},
	"fault": {"fault tubes-scaled 0.6 …: the faults of the engine; nothing else cures it", func(r *Simulator,
		w []string) (string, error) {
		faults, err := Faults(strings.Join(w, " "))
		if err != nil {
			return "", err
		}
		return "so be it", r.Ail(faults)
	}},
	"now": {"now: what it is at", func(r *Simulator, _ []string) (string, error) {
		n := r.Now()
		return fmt.Sprintf("%.0f s, %.0f rev/min, coolant %.1f °C, raw flow %.1f L/min, faults: %v", n.Seconds, n.RPM,
			n.State.BlockC, n.State.RawLMin, n.Faults), nil
	}},
	"surface": {"surface elbow raw [0.3]: what a surface thermometer shows there, on a surface of an emissivity",
		func(r *Simulator, w []string) (string, error) {
			if len(w) < 2 || w[1] != "raw" && w[1] != "coolant" {
				return "", fmt.Errorf("say where, as in: surface elbow raw, or surface exchanger coolant 0.3 for a bright one")
			}
			emissivity := 0.95
			if len(w) > 2 {
				v, err := strconv.ParseFloat(w[2], 64)
				if err != nil || !(v >= 0.05 && v <= 1) {
					return "", fmt.Errorf("%q is no emissivity: 0.05 to 1", w[2])
				}
				emissivity = v
			}
			return fmt.Sprintf("%.1f °C", r.Surface(w[0], w[1], emissivity)), nil
		}},
	"bucket": {"bucket 10: seconds to fill so many litres", func(r *Simulator, w []string) (string, error) {
		litres := 10.0
		if len(w) > 0 {
			if v, err := strconv.ParseFloat(w[0], 64); err == nil && v > 0 {
				litres = v
			}
		}
		s, ok := r.Bucket(litres)
		if !ok {
			return "no water", nil
		}
		return fmt.Sprintf("%.1f s", s), nil
	}},
}

// Console takes commands, a line each, until there are no more.
func (r *Simulator) Console(in io.Reader, out io.Writer) {
	lines := bufio.NewScanner(in)
	for lines.Scan() {
		words := strings.Fields(lines.Text())
		if len(words) == 0 {
			continue
		}
		c, ok := commands[words[0]]
		if !ok {
			for _, c := range commands {
				fmt.Fprintln(out, c.help)
			}
			continue
		}
		said, err := c.do(r, words[1:])
		if err != nil {
			said = err.Error()
		}
		fmt.Fprintln(out, said)
	}
}

// Faults reads "tubes-scaled 0.6 strainer-clogged=0.9"; a fault without a figure is at its worst.
func Faults(text string) (map[string]float64, error) {
	list := map[string]float64{}
	last := ""
	for _, w := range strings.FieldsFunc(text, func(c rune) bool { return c == ' ' || c == '=' || c == ',' }) {
		if v, err := strconv.ParseFloat(w, 64); err == nil {
			if last == "" || v < 0 || v > 1 {
				return nil, fmt.Errorf("%q: give a fault and how bad it is, from 0 to 1, as in tubes-scaled=0.6", text)
			}
			list[last] = v
			continue
		}
		list[w], last = 1, w
	}
	return list, nil
}
