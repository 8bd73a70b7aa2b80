package training

import (
	"context"
	"errors"
	"log/slog"
	"math/rand/v2"
	"sync"
	"time"

	"hevrin/core/coaching"
	"hevrin/core/eventlog"
	"hevrin/core/practice"
)

// Benching is a bench that is played in the background, with how far it has come.
type Benching struct {
	ID      string
	Bench   coaching.Bench
	Own     coaching.Tally
	Program coaching.Tally
	Over    bool
	Failed  string // why it ended early, in words; empty where it did not
}

// benches are those that are played, or were: one at a time a person, the last of each kept while the program runs.
type benches struct {
	mu   sync.Mutex
	last map[string]*Benching // by person
	stop map[string]context.CancelFunc
}

// longestBench is how long one may take: what takes longer is stopped, and what came of it until then stands.
const longestBench = 15 * time.Minute

// BeginBench plays a bench in the background. One that is still played is stopped first.
func (r *Room) BeginBench(ctx context.Context, id string, b coaching.Bench) (Benching, error) {
	b.Seed = rand.Uint32N(practice.MostSeed + 1)
	if err := r.coach.Check(b); err != nil {
		return Benching{}, err
	}
	person, _ := who(ctx)
	r.benches.mu.Lock()
	defer r.benches.mu.Unlock()
	if was, ok := r.benches.last[person]; ok && was.ID == id {
		return *was, nil
	}
	if stop, ok := r.benches.stop[person]; ok {
		stop()
	}
	now := &Benching{ID: id, Bench: b}
	// it goes on when the request that began it is answered
	running, stop := context.WithTimeout(context.WithoutCancel(ctx), longestBench)
	r.benches.last[person], r.benches.stop[person] = now, stop
	go func() {
		defer stop()
		err := r.coach.Run(running, b, func(own, program coaching.Tally) {
			r.benches.mu.Lock()
			defer r.benches.mu.Unlock()
			now.Own, now.Program = own, program
		})
		r.benches.mu.Lock()
		defer r.benches.mu.Unlock()
		now.Over = true
		switch {
		case errors.Is(err, context.DeadlineExceeded):
			now.Failed = "it took too long: play fewer jobs"
		case errors.Is(err, context.Canceled):
			now.Failed = "stopped"
		case err != nil:
			slog.Error("a bench could not be played", "error", err)
			now.Failed = "something went wrong: try again"
		}
	}()
	return *now, nil
}

// Bench gives one's last bench as far as it has come.
func (r *Room) Bench(ctx context.Context) (Benching, error) {
	person, _ := who(ctx)
	r.benches.mu.Lock()
	defer r.benches.mu.Unlock()
	if b, ok := r.benches.last[person]; ok {
		return *b, nil
	}
	return Benching{}, &eventlog.Conflict{Say: "no bench was begun yet"}
}

// StopBench stops one's bench; what came of it until then stands.
func (r *Room) StopBench(ctx context.Context) (Benching, error) {
	person, _ := who(ctx)
	r.benches.mu.Lock()
	if stop, ok := r.benches.stop[person]; ok {
		stop()
	}
	r.benches.mu.Unlock()
	return r.Bench(ctx)
}
