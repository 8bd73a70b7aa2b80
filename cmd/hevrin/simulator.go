package main

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"hevrin/server"
	"hevrin/simulator"
)

// simulatorFlags are what the simulator command is given.
type simulatorFlags struct {
	address, kind, script, faults, line string
	sea, space, start, speed, every     float64
	hours                               float64
	hold, leash                         bool
	seed                                uint64
}

func simulatorCommand() *cobra.Command {
	var f simulatorFlags
	c := &cobra.Command{Use: "simulator", Aliases: []string{"rig"},
		Short: "Run a simulated engine behind a gateway that speaks NMEA 0183", Args: cobra.NoArgs,
		Long: "Run a simulated engine behind a gateway that speaks NMEA 0183 over TCP on this machine. While it runs it " +
			"takes a\n" +
			"line at a time: go, rpm 2400 [out], fault tubes-scaled 0.6, now, surface elbow raw, bucket 10.",
		RunE: func(c *cobra.Command, _ []string) error {
			r, err := f.simulator()
			if err != nil {
				return err
			}
			l, err := listenHere(c.Context(), f.address)
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "The simulated gateway is at %s  (Ctrl-C stops it)\n", l.Addr())
			ctx, end := context.WithCancel(c.Context())
			defer end()
			go func() {
				r.Console(c.InOrStdin(), c.OutOrStdout())
				if f.leash {
					end()
				}
			}()
			return r.Serve(ctx, l)
		}}
	c.Flags().StringVar(&f.address, "addr", "127.0.0.1:10110",
		"address to speak on; only this machine can reach it; port 0: any")
	c.Flags().StringVar(&f.kind, "type", "small-diesel", "kind of engine; a wrong one lists them")
	c.Flags().StringVar(&f.script, "script", "",
		"phases seconds:rev/min[:out], as in 240:1000:out,600:2400; left out: a proving run")
	c.Flags().StringVar(&f.faults, "faults", "", "faults of the engine, as in tubes-scaled=0.6,strainer-clogged=0.4")
	c.Flags().StringVar(&f.line, "line", "",
		"faults of the line, as shares of its rounds: checksum, garbage, partial, flood, silence, cut, as in "+
			"garbage=0.02,cut=0.001")
	c.Flags().Float64Var(&f.sea, "sea", 15, "temperature of the sea, °C")
	c.Flags().Float64Var(&f.space, "space", 30, "temperature of the engine space, °C")
	c.Flags().Float64Var(&f.start, "start", 15, "temperature of the engine at the begin, °C")
	c.Flags().Float64Var(&f.hours, "hours", 0, "on its hour meter at the begin, h")
	c.Flags().Float64Var(&f.speed, "speed", 1, "its seconds in a real one, to 1000")
	c.Flags().Float64Var(&f.every, "every", 0.2, "its seconds between two rounds of sentences")
	c.Flags().BoolVar(&f.hold, "hold", false, "wait for go before the script begins")
	c.Flags().BoolVar(&f.leash, "leash", false, "end when there is nothing more to read: with the program that started it")
	c.Flags().Uint64Var(&f.seed, "seed", 1, "of the noise")
	return c
}

// listenHere opens a port that only this machine reaches.
func listenHere(ctx context.Context, address string) (net.Listener, error) {
	if err := server.CheckLoopback(address); err != nil {
		return nil, err
	}
	l, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if err != nil {
		return nil, fmt.Errorf("cannot listen at %s, perhaps another gateway does: %w", address, err)
	}
	return l, nil
}

func (f simulatorFlags) simulator() (*simulator.Simulator, error) {
	known, err := simulator.Type(f.kind)
	if err != nil {
		return nil, err
	}
	s := simulator.Script{Engine: known, SeaC: f.sea, SpaceC: f.space, StartC: f.start, Hours: f.hours, Speed: f.speed,
		EveryS: f.every, Hold: f.hold, Seed: f.seed, Phases: simulator.ProvingRun(known.RatedRPM)}
	if s.Faults, err = simulator.Faults(f.faults); err != nil {
		return nil, err
	}
	if f.script != "" {
		if s.Phases, err = phasesOf(f.script); err != nil {
			return nil, err
		}
	}
	if s.LineFaults, err = lineOf(f.line); err != nil {
		return nil, err
	}
	return simulator.New(s)
}

func phasesOf(text string) (list []simulator.Phase, err error) {
	for one := range strings.SplitSeq(text, ",") {
		parts := strings.Split(strings.TrimSpace(one), ":")
		if len(parts) < 2 || len(parts) > 3 || len(parts) == 3 && parts[2] != "out" {
			return nil, fmt.Errorf("%q: a phase is seconds:rev/min, with :out where it is out of gear", one)
		}
		seconds, err := strconv.ParseFloat(parts[0], 64)
		if err != nil || !(seconds >= 0) {
			return nil, fmt.Errorf("%q: %q is no length in seconds", one, parts[0])
		}
		rpm, err := strconv.ParseFloat(parts[1], 64)
		if err != nil || !(rpm >= 0) {
			return nil, fmt.Errorf("%q: %q is no speed", one, parts[1])
		}
		list = append(list, simulator.Phase{Seconds: seconds, RPM: rpm, OutOfGear: len(parts) == 3})
	}
	return list, nil
}

func lineOf(text string) (simulator.Line, error) {
	var line simulator.Line
	shares := map[string]*float64{"checksum": &line.BadChecksum, "garbage": &line.Garbage, "partial": &line.Partial,
		"flood": &line.Flood, "silence": &line.Silence, "cut": &line.Cut}
	for one := range strings.SplitSeq(text, ",") {
		if strings.TrimSpace(one) == "" {
			continue
		}
		name, share, _ := strings.Cut(strings.TrimSpace(one), "=")
		v, err := strconv.ParseFloat(share, 64)
		if shares[name] == nil || err != nil || !(v >= 0 && v <= 1) {
			return line, fmt.Errorf("%q: a line fails by checksum, garbage, partial, flood, silence or cut, each a share "+
				"from 0 to 1, as in cut=0.001", one)
		}
		*shares[name] = v
	}
	return line, nil
}

// live runs the demo's simulator beside the server until the context ends.
func live(ctx context.Context, address string, script simulator.Script) (stopped <-chan struct{}, err error) {
	r, err := simulator.New(script)
	if err != nil {
		return nil, err
	}
	l, err := listenHere(ctx, address)
	if err != nil {
		return nil, err
	}
	done := make(chan struct{})
	go func() {
		defer close(done)
		if err := r.Serve(ctx, l); err != nil {
			slog.Error("the simulator stopped", "error", err)
		}
	}()
	slog.Info("the simulator speaks", "address", l.Addr().String())
	return done, nil
}
