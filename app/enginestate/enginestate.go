// Package enginestate gives the state that each engine of the yard is in, folded once from the entries of all its jobs
// and kept until one more comes.
package enginestate

import (
	"context"
	"slices"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/app/record"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
)

// mostEngines is how many engines' states are kept in memory.
const mostEngines = 256

// soon is how old a state may be that is given without asking the store: another program may write to the same record.
const soon = 250 * time.Millisecond

// States are the use cases of engines' states. It may be used from many goroutines.
type States struct {
	*record.Log
	mu    sync.Mutex
	known *lru.Cache[string, *known]
}

// known is an engine's state up to a place in the record. The state is never changed once it was given.
type known struct {
	mu      sync.Mutex
	entries []eventlog.Entry
	upTo    int64
	asked   time.Time // zero where something that bears on it was added since
	state   *enginestate.State
}

// New makes the states of a log's engines.
func New(l *record.Log) *States {
	cache, err := lru.New[string, *known](mostEngines)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &States{Log: l, known: cache}
}

// Changed takes in that an entry was saved: what bears on a state is asked for anew; an undo may change any.
func (a *States) Changed(_ context.Context, e eventlog.Entry) {
	a.mu.Lock()
	defer a.mu.Unlock()
	switch {
	case e.Kind == eventlog.Undo || e.Kind == eventlog.Opened:
		a.known.Purge()
	case e.Subject.Kind == eventlog.OfJob && slices.Contains(enginestate.Bears, e.Kind):
		for _, k := range a.known.Values() { // whose engine it is, the store knows
			k.mu.Lock()
			k.asked = time.Time{}
			k.mu.Unlock()
		}
	}
}

// Of is the state of an engine now; beside are all engines of its craft: where the craft lies is said once for all.
func (a *States) Of(r record.EntryReader, engine string, beside []record.Engine) (*enginestate.State, error) {
	return a.AsOf(r, engine, beside, a.Now())
}

// AsOf is the state of an engine at the moment at which an entry is saved, by which the entry is judged.
func (a *States) AsOf(r record.EntryReader, engine string, beside []record.Engine,
	at time.Time) (*enginestate.State, error) {
	own, err := a.own(r, engine)
	if err != nil {
		return nil, err
	}
	shared, err := a.withSisters(r, own, engine, beside)
	if err != nil {
		return nil, err
	}
	return shared.At(at), nil
}

// withSisters is an engine's state with what the engines of its craft share.
func (a *States) withSisters(r record.EntryReader, own *enginestate.State, engine string,
	beside []record.Engine) (*enginestate.State, error) {
	var facts eventlog.EngineFacts
	var sisters []enginestate.Sister
	for _, e := range beside {
		if e.ID == engine {
			facts = record.FactsOf(e)
			continue
		}
		other, err := a.own(r, e.ID)
		if err != nil {
			return nil, err
		}
		sisters = append(sisters, enginestate.Sister{State: other, Facts: record.FactsOf(e)})
	}
	return own.WithSisters(facts, sisters...), nil
}

// After is the state of an engine once an entry of one of its jobs is added, which is not on record yet.
func (a *States) After(r record.EntryReader, engine string, beside []record.Engine,
	e eventlog.Entry) (*enginestate.State, error) {
	before, err := a.Of(r, engine, beside)
	if err != nil || !slices.Contains(enginestate.Bears, e.Kind) {
		return before, err
	}
	a.mu.Lock()
	k, ok := a.known.Get(engine)
	a.mu.Unlock()
	if !ok { // purged meanwhile
		return a.Fresh(r, engine, e)
	}
	k.mu.Lock()
	entries := slices.Clip(k.entries)
	k.mu.Unlock()
	after, err := a.withSisters(r, enginestate.Fold(a.Catalogue, append(entries, e)), engine, beside)
	if err != nil {
		return nil, err
	}
	return after.At(a.Now()), nil
}

// Fresh is the state of an engine from the record alone, and entries that are not on it yet: for a transaction that may
// still be taken back.
func (a *States) Fresh(r record.EntryReader, engine string, more ...eventlog.Entry) (*enginestate.State, error) {
	entries, _, err := r.EntriesOfEngine(engine, enginestate.Bears, 0)
	return enginestate.Fold(a.Catalogue, append(entries, more...)).At(a.Now()), err
}

func (a *States) own(r record.EntryReader, engine string) (*enginestate.State, error) {
	a.mu.Lock()
	k, ok := a.known.Get(engine)
	if !ok {
		k = &known{}
		a.known.Add(engine, k)
	}
	a.mu.Unlock()
	k.mu.Lock()
	defer k.mu.Unlock()
	if now := a.Now(); k.state != nil && !k.asked.IsZero() && now.Sub(k.asked) < soon && !now.Before(k.asked) {
		return k.state, nil
	}
	added, upTo, err := r.EntriesOfEngine(engine, enginestate.Bears, k.upTo)
	if err != nil {
		return nil, err
	}
	k.asked = a.Now()
	if k.state != nil && len(added) == 0 {
		return k.state, nil
	}
	k.entries, k.upTo = append(k.entries, added...), upTo
	k.state = enginestate.Fold(a.Catalogue, k.entries)
	return k.state, nil
}

// Engine is an engine on record with its state; not found where there is no such engine.
func (a *States) Engine(ctx context.Context, id string) (record.Engine, *enginestate.State, error) {
	r := a.Store.Read(ctx)
	beside, err := r.EnginesBeside(id)
	if err != nil {
		return record.Engine{}, nil, err
	}
	at := slices.IndexFunc(beside, func(e record.Engine) bool { return e.ID == id })
	if at < 0 {
		return record.Engine{}, nil, record.NotFound("engine", id)
	}
	s, err := a.Of(r, id, beside)
	return beside[at], s, err
}
