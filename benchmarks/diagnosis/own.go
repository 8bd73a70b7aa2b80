package main

import (
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"

	"golang.org/x/sync/errgroup"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// ownDone follows closed-cooled jobs with four symptoms told until the program itself says that it is done, or that
// nothing is left but to put the likeliest right.
func ownDone(c *catalogue.Catalogue, cases int, seed uint64) error {
	hunts := make([]ending, cases)
	found := make([]float64, cases) // minutes to where something is found first
	for i := range found {
		found[i] = math.Inf(1)
	}
	var side errgroup.Group
	side.SetLimit(runtime.GOMAXPROCS(0))
	for i := range cases {
		side.Go(func() error {
			r := rand.New(rand.NewPCG(seed, uint64(i)))
			w := drawAny(r, c, catalogue.Closed)
			q := diagnosis.Question{Family: w.family, Stations: w.circuit, Findings: w.told(r, c), Brief: true}
			until := rule{}
			until.stop = func(a *diagnosis.Answer) bool {
				if len(a.Found) > 0 {
					found[i] = min(found[i], hunts[i].minutes)
				}
				return a.Done
			}
			looks, steps := rand.New(rand.NewPCG(seed, uint64(i)+1<<32)), 0
			_, err := w.hunt(diagnosis.New(c), c, looks, &q, &hunts[i], &steps, until, nil)
			return err
		})
	}
	if err := side.Wait(); err != nil {
		return err
	}
	var all []float64
	sum, first, never, tried := 0.0, 0.0, 0, 0
	for i, h := range hunts {
		all = append(all, h.minutes)
		switch {
		case h.never:
			never++
			continue
		case h.tried:
			tried++
		}
		sum += h.minutes
		first += min(found[i], h.minutes)
	}
	n := float64(cases - never)
	fmt.Printf("%d closed-cooled jobs, four symptoms told, until the program says done\n\n"+
		"| mean | 90 of 100 under | to the first find | put right on the chance | never |\n|---|---|---|---|---|\n"+
		"| %.1f | %.0f | %.1f | %.1f %% | %.1f %% |\n", cases, sum/n, percentile(all, 0.9), first/n,
		100*float64(tried)/float64(cases), 100*float64(never)/float64(cases))
	return nil
}
