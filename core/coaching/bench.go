package coaching

import (
	"context"
	"maps"
	"slices"

	"hevrin/core/practice"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Bench is a yard's own way of searching, played against many practice jobs.
type Bench struct {
	Policy
	Kind  string         // of engine
	Level practice.Level // of the jobs
	Jobs  int            // 1 to MostJobs
	Seed  uint32         // of the first; the others follow
}

// What a look takes somebody, min.
const (
	leastMinutes = 0.5
	mostMinutes  = 240.0
)

// MostJobs is how many a bench plays at most.
const MostJobs = 1000

// Tally is what a policy came to over many jobs. Means are of all of them.
type Tally struct {
	Jobs      int
	Cured     int // nothing left, and the proof said so
	Comebacks int // a proof said so before, and it was not
	Dangers   int
	Looking   float64 // minutes of looks, mean
	Minutes   float64 // all minutes, mean
	Opened    float64 // what was opened for looks, mean
	Cost      float64 // mean, in the yard's money
	Slowest   float64 // minutes of looks that one job in ten takes at least
	looks     []float64
}

// Check says what does not fit in a bench.
func (k *Coach) Check(b Bench) error {
	var wrong validation.Errors
	if b.Jobs < 1 || b.Jobs > MostJobs {
		wrong.Add("jobs", b.Jobs, units.Say("1 to %d", MostJobs), "choose how many jobs are played")
	}
	for i, id := range b.Order {
		if _, ok := k.c.Check(id); !ok {
			wrong.Add("order", id, "looks of the catalogue", "there is no such look")
		}
		if slices.Contains(b.Order[:i], id) {
			wrong.Add("order", id, "each look once", "it stands twice in the order: take one out")
		}
	}
	for _, id := range slices.Sorted(maps.Keys(b.Minutes)) {
		if _, ok := k.c.Check(id); !ok {
			wrong.Add("minutes", id, "looks of the catalogue", "there is no such look")
		}
		if m := b.Minutes[id]; !(m >= leastMinutes && m <= mostMinutes) {
			wrong.Add("minutes", m, units.Range(leastMinutes, mostMinutes, "min"), "say what a look takes you")
		}
	}
	if err := wrong.Err(); err != nil {
		return err
	}
	return practice.Case{Kind: b.Kind, Level: b.Level, Seed: b.Seed % (practice.MostSeed + 1)}.Check()
}

// Run plays the jobs by the bench's policy and, each beside it, by the program's own. told is given both after each
// job.
func (k *Coach) Run(ctx context.Context, b Bench, told func(own, program Tally)) error {
	if err := k.Check(b); err != nil {
		return err
	}
	var own, program Tally
	for i := range b.Jobs {
		if err := ctx.Err(); err != nil {
			return err
		}
		e, err := practice.Draw(k.c, practice.Case{Kind: b.Kind, Level: b.Level,
			Seed: (b.Seed + uint32(i)) % (practice.MostSeed + 1)})
		if err != nil {
			return err
		}
		for _, x := range []struct {
			to     *Tally
			policy Policy
		}{{&own, b.Policy}, {&program, Policy{Minutes: b.Minutes}}} {
			p, err := k.Play(e, x.policy)
			if err != nil {
				return err
			}
			x.to.add(p)
		}
		told(own, program)
	}
	return nil
}

// add takes one more job in.
func (t *Tally) add(p Played) {
	t.Jobs++
	n := float64(t.Jobs)
	mean := func(of *float64, v float64) { *of += (v - *of) / n }
	mean(&t.Looking, p.Looking)
	mean(&t.Minutes, p.Minutes)
	mean(&t.Opened, float64(p.Opened))
	mean(&t.Cost, p.Cost)
	if p.Cured {
		t.Cured++
	}
	if p.Comeback {
		t.Comebacks++
	}
	t.Dangers += len(p.Dangers)
	at, _ := slices.BinarySearch(t.looks, p.Looking)
	t.looks = slices.Insert(slices.Clone(t.looks), at, p.Looking)
	t.Slowest = t.looks[len(t.looks)*9/10]
}
