package main

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"runtime"
	"slices"
	"sync"

	"golang.org/x/sync/errgroup"

	"hevrin/benchmarks/diagnosis/frozen"
	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

func main() {
	cases := flag.Int("cases", 400, "how many jobs to draw")
	seed := flag.Uint64("seed", 1, "where the drawing begins")
	orders := flag.Bool("orders", true, "compare the orders of search, to the cause")
	states := flag.Bool("states", true, "compare the rules with what the engine's state costs too")
	own := flag.Bool("own", false, "follow closed-cooled jobs to the program's own done, and no more")
	first := flag.Bool("first", false, "print the first checks of typical complaints, and no more")
	flag.Parse()
	do := func() error { return both(*cases, *seed, *orders, *states) }
	switch {
	case *first:
		do = firstChecks
	case *own:
		do = func() error { return ownAlone(*cases, *seed) }
	}
	if err := do(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func ownAlone(cases int, seed uint64) error {
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	return ownDone(c, cases, seed)
}

// both compares the orders of search to the cause, then the rules to the proof.
func both(cases int, seed uint64, orders, states bool) error {
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	if err := ownDone(c, cases, seed); err != nil {
		return err
	}
	fmt.Println()
	if orders {
		t, err := run(c, cases, seed, diagnosis.Strategies...)
		if err != nil {
			return err
		}
		t.print()
		fmt.Println()
	}
	was, err := frozen.Load()
	if err != nil {
		return err
	}
	if err := proofs(c, was, cases, seed, false); err != nil || !states {
		return err
	}
	fmt.Print("\nWith what the engine's state costs between looks (knowing the cause is without it):\n\n")
	return proofs(c, was, cases, seed, true)
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

// proofs draws jobs from today's catalogue and follows each rule through them to the proof; the rule of before goes by
// the catalogue of before.
func proofs(c, was *catalogue.Catalogue, cases int, seed uint64, states bool) error {
	rules := []struct {
		rule
		c *catalogue.Catalogue
	}{{huntUntilDone, was}, {doneFirst, c}, {repairAndProve, c}, {lookFirst, c}}
	for i := range rules {
		rules[i].states = states
	}
	rows := make([][]ending, len(rules))
	for i := range rows {
		rows[i] = make([]ending, cases)
	}
	knowing := make([]float64, cases)
	var side errgroup.Group
	side.SetLimit(runtime.GOMAXPROCS(0))
	for i := range cases {
		side.Go(func() error {
			r := rand.New(rand.NewPCG(seed, uint64(i)))
			family := catalogue.Closed
			if i%4 == 3 {
				family = catalogue.Direct
			}
			w := drawAny(r, c, family)
			told := w.told(r, c)
			knowing[i] = w.knowing(c) + proofMinutes
			for k, x := range rules {
				out, err := toProved(diagnosis.New(x.c), x.c, w, told, rand.New(rand.NewPCG(seed, uint64(i)+1<<32)), x.rule)
				if err != nil {
					return err
				}
				rows[k][i] = out
			}
			return nil
		})
	}
	if err := side.Wait(); err != nil {
		return err
	}
	printProofs(cases, knowing, func(i int) (string, []ending) { return rules[i].label, rows[i] }, len(rules))
	return nil
}

func printProofs(cases int, knowing []float64, row func(i int) (string, []ending), rows int) {
	fmt.Printf("%d jobs, four symptoms told: minutes to the proof\n\n", cases)
	fmt.Print("| rule | mean | 90 of 100 under | of the first | to the first repair | hunts | false found | comebacks | " +
		"never ended |\n|---|---|---|---|---|---|---|---|---|\n")
	first := 0.0
	for i := range rows {
		label, list := row(i)
		var minutes []float64
		sum, begun, hunts := 0.0, 0.0, 0
		count := map[string]int{}
		for _, x := range list {
			minutes = append(minutes, x.minutes)
			sum, begun, hunts = sum+x.minutes, begun+x.first, hunts+x.hunts
			for name, is := range map[string]bool{"false": x.falseFound, "back": x.comeback, "never": x.never} {
				if is {
					count[name]++
				}
			}
		}
		n := float64(len(list))
		if i == 0 {
			first = sum / n
		}
		share := func(name string) float64 { return 100 * float64(count[name]) / n }
		fmt.Printf("| %s | %.1f | %.0f | %.0f %% | %.1f | %.2f | %.1f %% | %.1f %% | %.1f %% |\n", label, sum/n,
			percentile(minutes, 0.9), 100*sum/n/first, begun/n, float64(hunts)/n, share("false"), share("back"), share("never"))
	}
	sum := 0.0
	for _, x := range knowing {
		sum += x
	}
	mean := sum / float64(len(knowing))
	fmt.Printf("| knowing the cause, one proof | %.1f | %.0f | %.0f %% | | 1.00 | | | |\n", mean, percentile(knowing, 0.9),
		100*mean/first)
}
