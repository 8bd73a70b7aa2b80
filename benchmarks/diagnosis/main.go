package main

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"runtime"
	"slices"
	"sync"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

func main() {
	cases := flag.Int("cases", 400, "how many jobs to draw")
	seed := flag.Uint64("seed", 1, "where the drawing begins")
	flag.Parse()
	c, err := catalogue.Load()
	if err == nil {
		var t table
		if t, err = run(c, *cases, *seed, diagnosis.Strategies...); err == nil {
			t.print()
			return
		}
	}
	fmt.Fprintln(os.Stderr, err)
	os.Exit(1)
}

// table is the outcome of a bench.
type table struct {
	rows   map[string][]result
	oracle []float64
}

// run draws the jobs and follows the strategies through each of them.
func run(c *catalogue.Catalogue, cases int, seed uint64, strategies ...string) (table, error) {
	e := diagnosis.New(c)
	t := table{rows: map[string][]result{}, oracle: make([]float64, cases)}
	for _, s := range strategies {
		t.rows[s] = make([]result, cases)
	}
	var wait sync.WaitGroup
	failed := make(chan error, cases)
	slots := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i := range cases {
		slots <- struct{}{}
		wait.Go(func() {
			defer func() { <-slots }()
			r := rand.New(rand.NewPCG(seed, uint64(i)))
			family := catalogue.Closed
			if i%4 == 3 {
				family = catalogue.Direct
			}
			w := draw(r, c, family)
			complaint := w.complaint(r, c)
			t.oracle[i] = w.knowing(c)
			for _, s := range strategies {
				out, err := follow(e, c, w, complaint, s)
				if err != nil {
					failed <- err
					return
				}
				t.rows[s][i] = out
			}
		})
	}
	wait.Wait()
	close(failed)
	return t, <-failed
}

func (t table) mean(strategy string) float64 {
	sum := 0.0
	for _, r := range t.rows[strategy] {
		sum += r.minutes
	}
	return sum / float64(len(t.rows[strategy]))
}

func (t table) share(strategy string, of func(result) bool) float64 {
	n := 0
	for _, r := range t.rows[strategy] {
		if of(r) {
			n++
		}
	}
	return float64(n) / float64(len(t.rows[strategy]))
}

func percentile(list []float64, p float64) float64 {
	sorted := slices.Sorted(slices.Values(list))
	return sorted[int(p*float64(len(sorted)-1))]
}

func (t table) print() {
	water := t.mean(diagnosis.AlongTheWater)
	fmt.Printf("%d jobs, minutes until every fault that is there was confirmed\n\n", len(t.oracle))
	fmt.Printf("| strategy | mean | 90 of 100 under | of along-the-water | false found | fault left behind at done " +
		"|\n|---|---|---|---|---|---|\n")
	for _, s := range diagnosis.Strategies {
		var list []float64
		for _, r := range t.rows[s] {
			list = append(list, r.minutes)
		}
		fmt.Printf("| %s | %.1f | %.0f | %.0f %% | %.1f %% | %.1f %% |\n", s, t.mean(s), percentile(list, 0.9),
			100*t.mean(s)/water,
			100*t.share(s, func(r result) bool { return r.falseFound }), 100*t.share(s,
				func(r result) bool { return r.leftBehind }))
	}
	sum := 0.0
	for _, x := range t.oracle {
		sum += x
	}
	mean := sum / float64(len(t.oracle))
	fmt.Printf("| knowing the cause | %.1f | %.0f | %.0f %% | | |\n", mean, percentile(t.oracle, 0.9), 100*mean/water)
}
