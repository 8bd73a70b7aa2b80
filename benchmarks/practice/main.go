// Package main plays practice jobs by the program's advice, and says how many of each level are proved cured, how many
// came back in between, and what was walked into. See docs/practice.md.
//
//	go run ./benchmarks/practice -jobs 500
package main

import (
	"flag"
	"fmt"
	"log"

	"hevrin/core/catalogue"
	"hevrin/core/coaching"
	"hevrin/core/diagnosis"
	"hevrin/core/practice"
)

func main() {
	jobs := flag.Int("jobs", 500, "how many of each level")
	seed := flag.Int("seed", 0, "the first of them")
	strategy := flag.String("strategy", diagnosis.Quickest, "of the diagnosis")
	flag.Parse()
	c, err := catalogue.Load()
	if err != nil {
		log.Fatal(err)
	}
	k := coaching.New(c)
	fmt.Print("| level | proved cured | at the first word | dangers | looks, min | all, min | knowing, min |\n" +
		"|---|---|---|---|---|---|---|\n")
	for _, l := range practice.Levels {
		var cured, first, dangers int
		var looking, all, knowing float64
		for i := range *jobs {
			kind := practice.Kinds[i%len(practice.Kinds)]
			e, err := practice.Draw(c, practice.Case{Kind: kind.ID, Level: l.ID, Seed: uint32(*seed + i)})
			if err != nil {
				log.Fatal(err)
			}
			p, err := k.Play(e, coaching.Policy{Strategy: *strategy})
			if err != nil {
				log.Fatal(err)
			}
			if p.Cured {
				cured++
			}
			if p.Cured && !p.Comeback {
				first++
			}
			dangers += len(p.Dangers)
			looking, all, knowing = looking+p.Looking, all+p.Minutes, knowing+k.Knowing(e)
		}
		n := float64(*jobs)
		fmt.Printf("| %s | %.1f %% | %.1f %% | %d | %.0f | %.0f | %.0f |\n", l.Label, 100*float64(cured)/n,
			100*float64(first)/n, dangers, looking/n, all/n, knowing/n)
	}
}
