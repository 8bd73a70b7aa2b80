// Package training runs practice jobs: each is a record of its own in memory, worked on by the same use cases and the
// same routes as a real one, with an engine of core/practice behind it. Nothing of it ever meets the yard's record:
// what is kept of a try is what was done in it, in order, and it is made anew from that.
package training

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"sync"
	"time"

	"hevrin/app/record"
	"hevrin/app/tries"
	"hevrin/core/catalogue"
	"hevrin/core/coaching"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/practice"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
	"hevrin/phone"
)

// Result is how a try went, for who looks at many.
type Result struct {
	Cured    bool     `json:"cured"`
	Minutes  float64  `json:"minutes"`
	Looking  float64  `json:"looking"`
	Knowing  float64  `json:"knowing"`
	Quickest float64  `json:"quickest"`
	Cost     float64  `json:"cost"`
	Dangers  []string `json:"dangers,omitempty"`
	Better   []string `json:"better,omitempty"`
	Faults   []string `json:"faults"`
}

// Limits: of tries that are held ready at once, of what is done in one, of those that are listed.
const (
	mostReady  = 32
	mostDone   = 1500
	mostListed = 200
)

// Room is where practice goes on. It may be used from many goroutines.
type Room struct {
	catalogue *catalogue.Catalogue
	coach     *coaching.Coach
	store     tries.Store
	now       func() time.Time

	mu    sync.Mutex
	ready map[string]*going

	benches benches
}

// New makes a room. now gives the time.
func New(c *catalogue.Catalogue, s tries.Store, now func() time.Time) *Room {
	return &Room{catalogue: c, coach: coaching.New(c), store: s, now: now, ready: map[string]*going{},
		benches: benches{last: map[string]*Benching{}, stop: map[string]context.CancelFunc{}}}
}

// going is a try that is held ready: its world and its program, made of what was done.
type going struct {
	mu      sync.Mutex
	try     tries.Try
	did     []Did
	world   *practice.World
	program *phone.Program
	taken   int // entries of the program's record that the world has seen
	run     *practice.Run
	round   *eventlog.Round
	used    time.Time
	inHand  int // requests that are at it; guarded by the room's lock
}

// Status is a try as it stands.
type Status struct {
	Try     tries.Try
	Case    practice.Case
	Engine  *practice.Engine
	Minutes float64
	Cost    float64
	Cold    float64 // minutes for which it is too hot to open
	Over    bool
	Log     []practice.Step
	Seen    []practice.Step // the last look at each check, in the order of looking
	Parts   []practice.Stock
	Run     *practice.Run
	Round   *eventlog.Round   // the last that was read
	Dangers []practice.Danger // that the last act walked into
	IDs     IDs
}

// IDs are those of what a try works on, in its own record.
type IDs struct{ Craft, Engine, Job string }

func idsOf(try string) IDs {
	return IDs{idFrom(try + "craft"), idFrom(try + "engine"), idFrom(try + "job")}
}

// idFrom is an id made of words: a UUID of version 8 (RFC 9562, 5.8), of their hash. The library that makes others
// would double what a phone has to fetch for practice.
func idFrom(words string) string {
	h := sha256.Sum256([]byte(words))
	h[6], h[8] = h[6]&0x0f|0x80, h[8]&0x3f|0x80
	return fmt.Sprintf("%x-%x-%x-%x-%x", h[:4], h[4:6], h[6:8], h[8:10], h[10:16])
}

// who is whose tries somebody sees: their own, or, where nobody signs in, everybody's on this machine.
func who(ctx context.Context) (id, name string) {
	if a, ok := record.ActorOf(ctx); ok {
		return a.ID, a.Name
	}
	return "", ""
}

// Fresh gives a case of a kind and a level that nobody has seen yet.
func Fresh(kind string, level practice.Level) practice.Case {
	return practice.Case{Kind: kind, Level: level, Seed: rand.Uint32N(practice.MostSeed + 1)}
}

// Begin starts a try of a case. The same id again gives the one that was begun.
func (r *Room) Begin(ctx context.Context, id string, c practice.Case, name string) (*Status, error) {
	if _, ok, err := r.store.Try(ctx, id); err != nil || ok {
		if err != nil {
			return nil, err
		}
		return r.Status(ctx, id)
	}
	person, known := who(ctx)
	if known != "" {
		name = known
	}
	t := tries.Try{ID: id, PersonID: person, Person: name, Code: c.Code(), BegunAt: r.now().UTC(), Did: "[]"}
	if _, err := practice.Draw(r.catalogue, c); err != nil {
		return nil, err
	}
	if err := r.store.SaveTry(ctx, t); err != nil {
		return nil, err
	}
	return r.Status(ctx, id)
}

// Status gives a try as it stands.
func (r *Room) Status(ctx context.Context, id string) (*Status, error) {
	g, err := r.open(ctx, id)
	if err != nil {
		return nil, err
	}
	defer r.close(g)
	return g.status(0), nil
}

// open finds a try of who asks, ready to be worked on and locked. Another's is none.
func (r *Room) open(ctx context.Context, id string) (*going, error) {
	person, _ := who(ctx)
	r.mu.Lock()
	g, ok := r.ready[id]
	if !ok {
		g = &going{}
	}
	g.used = r.now()
	g.inHand++
	r.ready[id] = g
	r.spare(id)
	r.mu.Unlock()
	g.mu.Lock()
	if g.world == nil {
		if err := r.make(ctx, g, id); err != nil {
			r.close(g)
			r.mu.Lock()
			if g.inHand == 0 {
				delete(r.ready, id)
			}
			r.mu.Unlock()
			return nil, err
		}
	}
	if g.try.PersonID != person {
		r.close(g)
		return nil, record.NotFound("practice", id)
	}
	return g, nil
}

// close lets go of a try that was opened.
func (r *Room) close(g *going) {
	g.mu.Unlock()
	r.mu.Lock()
	defer r.mu.Unlock()
	g.inHand--
}

// spare lets the try go that was longest not used, where too many are held; it is made anew when it is asked for.
func (r *Room) spare(but string) {
	if len(r.ready) <= mostReady {
		return
	}
	oldest := ""
	for id, g := range r.ready {
		if id != but && g.inHand == 0 && (oldest == "" || g.used.Before(r.ready[oldest].used)) {
			oldest = id
		}
	}
	delete(r.ready, oldest)
}

// make makes a try of what was done in it.
func (r *Room) make(ctx context.Context, g *going, id string) error {
	t, ok, err := r.store.Try(ctx, id)
	if err != nil {
		return err
	}
	if !ok {
		return record.NotFound("practice", id)
	}
	c, err := practice.ParseCode(t.Code)
	if err != nil {
		return err
	}
	engine, err := practice.Draw(r.catalogue, c)
	if err != nil {
		return err
	}
	var did []Did
	if err := json.Unmarshal([]byte(t.Did), &did); err != nil {
		return fmt.Errorf("practice %s cannot be read: %w", id, err)
	}
	g.try, g.world, g.run, g.round, g.did, g.taken = t, practice.Enter(engine), nil, nil, nil, 0
	g.program = phone.NewOf(r.catalogue)
	if err := g.furnish(engine); err != nil {
		return err
	}
	for _, d := range did {
		if _, err := r.apply(g, d); err != nil {
			return fmt.Errorf("practice %s cannot be made anew: %w", id, err)
		}
	}
	g.did = did
	return nil
}

// furnish puts craft, engine and job into the try's own record.
func (g *going) furnish(e *practice.Engine) error {
	ids, f := idsOf(g.try.ID), e.Kind.Facts
	by := "Practice"
	ask := func(path string, body map[string]any) error {
		body["by"] = by
		body["entry_id"] = idFrom(g.try.ID + path)
		raw, err := json.Marshal(body)
		if err != nil {
			return err
		}
		a := g.program.Answer(phone.Request{Method: "PUT", Path: path, Body: raw, At: g.try.BegunAt})
		if a.Status != 200 {
			return fmt.Errorf("a practice cannot be set up: %s: %s", path, a.Body)
		}
		return nil
	}
	if err := ask("/craft/"+ids.Craft, map[string]any{"name": e.Kind.Craft, "owner": "An owner",
		"berth": "Practice berth"}); err != nil {
		return err
	}
	if err := ask("/engines/"+ids.Engine, map[string]any{"craft_id": ids.Craft, "name": f.Name, "family": f.Family,
		"fuel": f.Fuel, "rated_kw": f.RatedKW, "rated_rpm": f.RatedRPM, "thermostat_c": f.ThermostatC,
		"circuit": f.Circuit}); err != nil {
		return err
	}
	if err := ask("/jobs/"+ids.Job, map[string]any{"engine_id": ids.Engine, "words": e.Words,
		"seen": append(append([]string{}, e.Told...), e.History...)}); err != nil {
		return err
	}
	g.taken = len(g.program.Added(0))
	return nil
}

// clock is the moment in a try: what was waited and worked in it has passed there, not here.
func (g *going) clock(now time.Time) time.Time {
	return now.UTC().Add(time.Duration(g.world.Minutes * float64(time.Minute)))
}

// Do does one thing beside the job's own acts. The same id again does nothing more.
func (r *Room) Do(ctx context.Context, try string, d Did) (*Status, error) {
	g, err := r.open(ctx, try)
	if err != nil {
		return nil, err
	}
	defer r.close(g)
	for _, x := range g.did {
		if x.ID == d.ID {
			return g.status(len(g.world.Log)), nil
		}
	}
	d.At = g.clock(r.now())
	before := len(g.world.Log)
	if _, err := r.apply(g, d); err != nil {
		return nil, err
	}
	if err := r.keep(ctx, g, d); err != nil {
		return nil, err
	}
	return g.status(before), nil
}

// Ask asks the try's own program, as a screen of a real job asks the yard's.
func (r *Room) Ask(ctx context.Context, try string, q phone.Request) (phone.Answer, []practice.Danger, error) {
	g, err := r.open(ctx, try)
	if err != nil {
		return phone.Answer{}, nil, err
	}
	defer r.close(g)
	q.At = g.clock(r.now())
	q.Who = nil
	if a, ok := record.ActorOf(ctx); ok {
		q.Who = &phone.Person{ID: a.ID, Name: a.Name, Role: people.Technician}
	}
	if q.Method != "PUT" {
		return g.program.Answer(q), nil, nil
	}
	before, taken := len(g.world.Log), g.taken
	d := Did{ID: idFrom(try + fmt.Sprint(len(g.did))), At: q.At, Do: Ask, Ask: &q}
	a, err := r.apply(g, d)
	if err != nil {
		return phone.Answer{}, nil, err
	}
	if len(g.world.Log) > before || g.taken > taken { // a draft, for one, is no part of it
		if err := r.keep(ctx, g, d); err != nil {
			return phone.Answer{}, nil, err
		}
	}
	return a, dangers(g.world.Log[before:]), nil
}

// changes says whether an entry is a repair, or begins a proof: the engine is another than it was run and read before.
func changes(e eventlog.Entry) bool {
	repair := e.Body.Teardown != nil && e.Body.Teardown.Do == teardown.PutRight
	return repair || e.Body.Proving != nil && e.Body.Proving.Do == proving.Begin
}

// ask asks the program, and lets the engine feel what was noted, or what was refused.
func (g *going) ask(q phone.Request) phone.Answer {
	a := g.program.Answer(q)
	for _, e := range g.program.Added(g.taken) {
		g.taken++
		if e.Subject.Kind == eventlog.OfJob {
			g.world.Note(e)
		}
		if changes(e) { // what was read before it is not of the engine as it is now
			g.run, g.round = nil, nil
		}
	}
	if a.Status >= 400 {
		var tried struct {
			Wet *wetwork.Act `json:"wet"`
		}
		if json.Unmarshal(q.Body, &tried) == nil && tried.Wet != nil {
			g.world.Tried(eventlog.Entry{Kind: eventlog.WetworkNoted, Body: eventlog.Body{Wetwork: tried.Wet}})
		}
	}
	return a
}

// keep writes what was done, and how it went where that ended it.
func (r *Room) keep(ctx context.Context, g *going, d Did) error {
	did := append(g.did, d)
	raw, err := json.Marshal(did)
	if err != nil {
		return err
	}
	t := g.try
	t.Did = string(raw)
	if g.world.Over() && t.EndedAt == nil {
		at := r.now().UTC()
		t.EndedAt = &at
		if t.Result, err = r.result(g.world); err != nil {
			return err
		}
	}
	if err := r.store.SaveTry(ctx, t); err != nil {
		g.world = nil // what is not kept did not happen: made anew at the next question
		return err
	}
	g.did, g.try = did, t
	return nil
}

func (r *Room) result(w *practice.World) (string, error) {
	v, err := r.coach.Review(w)
	if err != nil {
		return "", err
	}
	out := Result{Cured: v.Cured, Minutes: v.Minutes, Looking: v.Looking, Knowing: v.Knowing, Quickest: v.Quickest,
		Cost: v.Cost}
	for _, d := range v.Dangers {
		out.Dangers = append(out.Dangers, d.ID)
	}
	for _, b := range v.Better {
		out.Better = append(out.Better, b.Label)
	}
	for _, h := range v.Hidden {
		out.Faults = append(out.Faults, h.Fault)
	}
	raw, err := json.Marshal(out)
	return string(raw), err
}

// Review tells how a try went; only when it is over.
func (r *Room) Review(ctx context.Context, id string) (*coaching.Review, *Status, error) {
	g, err := r.open(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	defer r.close(g)
	if !g.world.Over() {
		return nil, nil, &eventlog.Conflict{Say: "this practice still goes on: end it first"}
	}
	v, err := r.coach.Review(g.world)
	return &v, g.status(len(g.world.Log)), err
}

// status is a try as it stands, with the dangers since a place in its log.
func (g *going) status(since int) *Status {
	w := g.world
	s := &Status{Try: g.try, Case: w.Case, Engine: w.Engine, Minutes: w.Minutes, Cost: w.Cost(), Cold: w.Cold(),
		Over: w.Over(), Log: slices.Clone(w.Log), Parts: w.Stocks(), Run: g.run, Round: g.round, IDs: idsOf(g.try.ID)}
	for _, step := range w.Log {
		if step.Do != practice.Looked {
			continue
		}
		s.Seen = slices.DeleteFunc(s.Seen, func(x practice.Step) bool { return x.Check == step.Check })
		s.Seen = append(s.Seen, step)
	}
	s.Dangers = dangers(w.Log[min(since, len(w.Log)):])
	return s
}

func dangers(log []practice.Step) []practice.Danger {
	var list []practice.Danger
	for _, s := range log {
		if s.Danger != nil {
			list = append(list, *s.Danger)
		}
	}
	return list
}
