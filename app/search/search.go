// Package search finds craft, engines, jobs, parts, the handbook's entries and calculators by a word of them, or by
// another name of the same thing.
package search

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"hevrin/app/inventory"
	"hevrin/app/record"
	"hevrin/core/calculator"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// What a hit can be.
const (
	Engine     = "engine"
	Job        = "job"
	Part       = "part"
	Fault      = "fault"
	Check      = "check"
	Station    = "station"
	Calculator = "calculator"
)

// Most is how many hits of a kind are given.
const Most = 8

// Hit is one thing found: its kind, its id, what it is called, and a line about it.
type Hit struct{ Kind, ID, Label, Say string }

// Finder searches. It may be used from many goroutines.
type Finder struct {
	*record.Log
	stock *inventory.Stock
}

// New joins what is searched.
func New(l *record.Log, s *inventory.Stock) *Finder { return &Finder{l, s} }

// scored is a hit with how well it holds what was looked for, as catalogue.Search.In says.
type scored struct {
	Hit
	score int
}

// finds collects the hits of one kind.
type finds struct {
	search catalogue.Search
	list   []scored
}

// add takes a thing in that holds what is looked for, in its label or in more words about it.
func (f *finds) add(h Hit, more ...string) {
	score := f.search.In(h.Label)
	if score == 0 && f.search.In(h.Label+" "+h.Say+" "+strings.Join(more, " ")) > 0 {
		score = 1
	}
	if score > 0 {
		f.list = append(f.list, scored{h, score})
	}
}

// best are the hits, the best first, of equal ones in the order in which they came.
func (f *finds) best() []Hit {
	slices.SortStableFunc(f.list, func(a, b scored) int { return cmp.Compare(b.score, a.score) })
	var out []Hit
	for _, s := range f.list[:min(len(f.list), Most)] {
		out = append(out, s.Hit)
	}
	return out
}

// Search finds what was typed, kind by kind: engines, jobs, parts, the handbook, calculators. Nothing typed finds
// nothing.
func (a *Finder) Search(ctx context.Context, typed string) ([]Hit, error) {
	s := a.Catalogue.SearchFor(typed)
	if len(s) == 0 {
		return nil, nil
	}
	r := a.Store.Read(ctx)
	engines, names, err := a.engines(r, s)
	if err != nil {
		return nil, err
	}
	jobs, err := a.jobs(r, s, names)
	if err != nil {
		return nil, err
	}
	parts, err := a.parts(r, s)
	if err != nil {
		return nil, err
	}
	return slices.Concat(engines, jobs, parts, a.handbook(s), calculators(s)), nil
}

// engines finds engines by their craft, owner and berth too, and gives the names of all, by id.
func (a *Finder) engines(r record.Reader, s catalogue.Search) ([]Hit, map[string]string, error) {
	craft, err := r.AllCraft()
	if err != nil {
		return nil, nil, err
	}
	of := map[string]record.Craft{}
	for _, c := range craft {
		of[c.ID] = c
	}
	lines, err := r.EngineLines()
	if err != nil {
		return nil, nil, err
	}
	found, names := finds{search: s}, map[string]string{}
	for _, e := range lines {
		c := of[e.CraftID]
		names[e.ID] = c.Name + ", " + e.Name
		found.add(Hit{Engine, e.ID, names[e.ID], strings.Trim(c.Owner+". "+c.Berth, ". ")}, e.RawPump,
			record.ShortCode(e.ID))
	}
	return found.best(), names, nil
}

// jobs finds jobs by what was told, seen, found and noted, and by their engine.
func (a *Finder) jobs(r record.Reader, s catalogue.Search, engines map[string]string) ([]Hit, error) {
	terms := make([][]string, len(s))
	for i, names := range s {
		terms[i] = append(terms[i], names...)
		holds := func(label string) bool {
			return slices.ContainsFunc(names, func(n string) bool { return strings.Contains(strings.ToLower(label), n) })
		}
		for _, f := range a.Catalogue.Faults {
			if holds(f.Label) {
				terms[i] = append(terms[i], f.ID)
			}
		}
		for _, f := range a.Catalogue.Findings {
			if f.Source == catalogue.Complaint && holds(f.Label) {
				terms[i] = append(terms[i], f.ID)
			}
		}
		for id, name := range engines {
			if holds(name) && len(terms[i]) < mostTerms {
				terms[i] = append(terms[i], id)
			}
		}
	}
	list, err := r.JobsHolding(terms, Most)
	if err != nil {
		return nil, err
	}
	var out []Hit
	for _, j := range list {
		kind, _ := a.Catalogue.JobKind(j.Kind)
		say := []string{kind.Label}
		for _, f := range j.Faults {
			if fault, ok := a.Catalogue.Fault(f); ok {
				say = append(say, fault.Label)
			}
		}
		if j.Words != "" {
			say = append(say, j.Words)
		}
		label := engines[j.EngineID] + ", " + j.OpenedAt.Format("2 Jan 2006")
		out = append(out, Hit{Job, j.ID, label, strings.Join(say, ". ")})
	}
	return out, nil
}

// mostTerms is how many names one word may stand for in a question to the store.
const mostTerms = 100

func (a *Finder) parts(r record.Reader, s catalogue.Search) ([]Hit, error) {
	entries, err := r.Entries(inventory.InventorySubject)
	if err != nil {
		return nil, err
	}
	parts, ids := map[string]Hit{}, []string{}
	for _, e := range eventlog.Standing(entries) {
		act := e.Body.Inventory
		if act == nil || act.Is == nil {
			continue
		}
		if _, known := parts[act.Part]; !known {
			ids = append(ids, act.Part)
		}
		parts[act.Part] = Hit{Part, act.Part, act.Is.Label, strings.Trim(act.Is.Number+". "+act.Is.Where, ". ")}
		if act.Is.Gone {
			parts[act.Part] = Hit{}
		}
	}
	found := finds{search: s}
	for _, id := range ids {
		if parts[id].ID != "" {
			found.add(parts[id], record.ShortCode(id))
		}
	}
	return found.best(), nil
}

// handbook finds stations, faults and checks.
func (a *Finder) handbook(s catalogue.Search) []Hit {
	stations, faults, checks := finds{search: s}, finds{search: s}, finds{search: s}
	for _, x := range a.Catalogue.Stations {
		stations.add(Hit{Station, x.ID, x.Label, x.What})
	}
	for _, x := range a.Catalogue.Faults {
		faults.add(Hit{Fault, x.ID, x.Label, x.Remedy})
	}
	for _, x := range a.Catalogue.Checks {
		checks.add(Hit{Check, x.ID, x.Label, strings.Join(x.How, " ")})
	}
	return slices.Concat(stations.best(), faults.best(), checks.best())
}

func calculators(s catalogue.Search) []Hit {
	found := finds{search: s}
	for _, x := range calculator.All() {
		found.add(Hit{Calculator, x.Name, x.Asks, x.About})
	}
	return found.best()
}
