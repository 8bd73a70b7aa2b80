package recording

import (
	"context"
	"errors"
	"log/slog"
	"sync"
	"time"

	"hevrin/app/engine"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
)

// writeEvery is how often a recording is written: what a killed program loses at most.
const writeEvery = time.Second

// Recordings gives what was read over time, and writes what the gateways report into the recordings that are open. It
// may be used from many goroutines; who makes it closes it.
type Recordings struct {
	*record.Log
	engines *engine.Engines
	all     sync.WaitGroup
	mu      sync.Mutex
	on      map[string]*recording // by recording
	off     bool
}

// recording is one that goes on.
type recording struct {
	id, job  string
	stop     context.CancelFunc
	done     chan struct{}
	mu       sync.Mutex
	tracks   []proving.Track // all of it
	unsaved  []int           // from which point of each track on
	listener *engine.Listener
	base     float64 // the feed's time at the recording's begin
}

// New records nothing yet: Follow lets it begin.
func New(l *record.Log, engines *engine.Engines) *Recordings {
	return &Recordings{Log: l, engines: engines, on: map[string]*recording{}}
}

// follow lets a recorder run for the job's open recording, and for no other of this job.
func (r *Recordings) follow(ctx context.Context, job *eventlog.Job, e record.Engine) error {
	open, is := job.Open()
	is = is && open.Source == eventlog.FromFeed && job.Closing == nil
	r.mu.Lock()
	var ended []*recording
	for id, x := range r.on {
		if x.job == job.ID && (!is || id != open.ID) {
			ended = append(ended, x)
			delete(r.on, id)
		}
	}
	_, running := r.on[open.ID]
	start := is && !running && !r.off
	r.mu.Unlock()
	for _, x := range ended {
		x.stop()
		<-x.done
	}
	if !start {
		return nil
	}
	return r.start(ctx, job.ID, open, e)
}

func (r *Recordings) start(ctx context.Context, job string, open eventlog.StoredRecording, e record.Engine) error {
	l, err := r.engines.ListenTo(e)
	if err != nil {
		return err
	}
	before, err := r.Store.Read(ctx).Tracks(open.ID)
	if err != nil {
		l.Release()
		return err
	}
	l.From()
	own, stop := context.WithCancel(context.WithoutCancel(ctx))
	x := &recording{id: open.ID, job: job, stop: stop, done: make(chan struct{}), listener: l}
	x.base = l.Feed.Status().Seconds
	if len(before) > 0 { // the program was stopped meanwhile: it goes on where the clock is now
		x.base -= r.Now().Sub(open.From.At).Seconds()
		for _, t := range before { // … or later, where the gateway's clock ran faster
			x.base = min(x.base, l.Feed.Status().Seconds-t.Seconds[t.Len()-1]-1)
		}
	}
	x.tracks = make([]proving.Track, len(l.Channels))
	x.unsaved = make([]int, len(l.Channels))
	for i, c := range l.Channels {
		x.tracks[i] = proving.TrackOf(before, c.Place)
		x.unsaved[i] = x.tracks[i].Len()
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.off || r.on[open.ID] != nil {
		stop()
		l.Release()
		return nil
	}
	r.on[open.ID] = x
	r.all.Go(func() { r.run(own, x) })
	return nil
}

// run takes what comes and writes it, until the recording is ended; then it writes the rest.
func (r *Recordings) run(ctx context.Context, x *recording) {
	defer close(x.done)
	defer x.listener.Release()
	tick := time.NewTicker(writeEvery)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			x.take()
			r.save(context.WithoutCancel(ctx), x)
			return
		case <-tick.C:
			x.take()
			r.save(ctx, x)
		}
	}
}

// take takes in what came since the last time.
func (x *recording) take() {
	next := x.listener.Next()
	x.mu.Lock()
	defer x.mu.Unlock()
	for i, t := range next {
		have := &x.tracks[i]
		for k, s := range t.Seconds {
			at := s - x.base
			if n := have.Len(); at < 0 || n > 0 && at <= have.Seconds[n-1] {
				continue
			}
			have.Seconds, have.Values = append(have.Seconds, at), append(have.Values, t.Values[k])
		}
	}
}

// save writes what is not written yet; what cannot be written now is tried again.
func (r *Recordings) save(ctx context.Context, x *recording) {
	x.mu.Lock()
	var list []proving.Track
	ends := make([]int, len(x.tracks))
	for i, t := range x.tracks {
		ends[i] = t.Len()
		if from := x.unsaved[i]; from < ends[i] {
			list = append(list, proving.Track{Place: t.Place, Seconds: t.Seconds[from:ends[i]], Values: t.Values[from:ends[i]]})
		}
	}
	x.mu.Unlock()
	if len(list) == 0 {
		return
	}
	if err := r.Store.Write(ctx, func(tx record.Tx) error { return tx.AddTracks(x.job, x.id, list) }); err != nil {
		if ctx.Err() == nil {
			slog.Error("a recording could not be written; it is tried again", "recording", x.id, "error", err)
		}
		return
	}
	x.mu.Lock()
	copy(x.unsaved, ends)
	x.mu.Unlock()
}

// running gives a recording that goes on, as far as it was taken; not ok when it does not.
func (r *Recordings) running(id string) ([]proving.Track, bool) {
	r.mu.Lock()
	x, ok := r.on[id]
	r.mu.Unlock()
	if !ok {
		return nil, false
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	out := make([]proving.Track, len(x.tracks))
	for i, t := range x.tracks {
		out[i] = proving.Track{Place: t.Place, Seconds: t.Seconds[:t.Len():t.Len()], Values: t.Values[:t.Len():t.Len()]}
	}
	return out, true
}

// CloseRecordings ends every recorder; the recordings stay open and go on at the next start.
func (r *Recordings) CloseRecordings() {
	r.mu.Lock()
	r.off = true
	for _, x := range r.on {
		x.stop()
	}
	r.mu.Unlock()
	r.all.Wait()
}

// Follow lets the recorder do what the job's record says. What it cannot do now is told in the log: the entry is kept,
// and the next one tries again.
func (a *Recordings) Follow(ctx context.Context, job string) {
	if err := a.followJob(ctx, job); err != nil {
		slog.Error("a recording could not go on", "job", job, "error", err)
	}
}

func (a *Recordings) followJob(ctx context.Context, job string) error {
	j, engine, err := a.JobOn(ctx, job)
	if errors.Is(err, record.ErrNotFound) { // its opening was taken back
		j, err = &eventlog.Job{ID: job}, nil
	}
	if err != nil {
		return err
	}
	return a.follow(ctx, j, engine)
}
