package main

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/plant"
)

// shownFrom is the least share of engines with a fault, above that of healthy ones, from which a round counts as
// telling of it: of 200 engines the share is known to 0.035.
const shownFrom = 0.05

// surest bounds what any reading may tell.
const surest = 0.95

// strengths prints what a round at each operating point shows of each fault: the share of drawn engines with it, of
// which a reading is past the threshold of the finding, or the pattern that the finding is comes out as found.
func strengths(w io.Writer, engines int, seed uint64) error {
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	fmt.Fprintf(w, head, engines, leastSeverity, mostSeverity)
	fmt.Fprintln(w, "points:")
	for _, p := range c.Points {
		fmt.Fprintf(w, "  - {id: %s, label: %q, speed: %g}\n", p.ID, p.Label, p.Speed)
	}
	shares := map[string]map[string]map[string]float64{} // by finding, point and fault
	for _, p := range c.Points {
		by, err := shown(p, engines, seed)
		if err != nil {
			return err
		}
		for fault, findings := range by {
			for finding, share := range findings {
				if shares[finding] == nil {
					shares[finding] = map[string]map[string]float64{}
				}
				if shares[finding][p.ID] == nil {
					shares[finding][p.ID] = map[string]float64{}
				}
				shares[finding][p.ID][fault] = share
			}
		}
	}
	fmt.Fprintln(w, "modelled: ["+strings.Join(slices.Sorted(slices.Values(plant.Physical())), ", ")+"]")
	fmt.Fprintln(w, "findings:")
	for _, f := range c.Findings {
		atPoint := slices.ContainsFunc(c.Checks, func(k catalogue.Check) bool {
			return k.Point != "" && slices.Contains(k.Settles, f.ID)
		})
		if !atPoint || !slices.Contains(plant.Told(), f.ID) {
			continue
		}
		fmt.Fprintf(w, "  - id: %s\n    at:\n", f.ID)
		for _, p := range c.Points {
			var list []string
			of := shares[f.ID][p.ID]
			for _, fault := range slices.SortedFunc(maps.Keys(of), func(x, y string) int {
				return cmp.Or(cmp.Compare(of[y], of[x]), strings.Compare(x, y))
			}) {
				if x := strength(of[fault], f.Leak); x >= shownFrom {
					list = append(list, fmt.Sprintf("%s: %.2f", fault, x))
				}
			}
			fmt.Fprintf(w, "      %s: {%s}\n", p.ID, strings.Join(list, ", "))
		}
	}
	return nil
}

// strength is that of a cause alone by the share of engines with it that show the finding: the noisy OR's.
func strength(share, leak float64) float64 {
	return math.Min(surest, math.Round(100*(share-leak)/(1-leak))/100)
}

const head = `# What readings show of a fault by the operating point that they are taken at, from the engine
# model: of %d drawn engines each (both families and all types as they have the place; severity %.1f to %.1f; what is
# believed of the engine off by what engines of a type differ; the errors of probe, surface thermometer and bucket) the
# share that shows it, beyond what healthy ones do. Made by: go run ./benchmarks/readings -strengths 200 -seed 11.
# A fault that the model does not have keeps the strength that findings.yaml gives. speed is a share of
# rated; the last point is the hardest.
`

// Severities that an engine is brought with: what shows at all, up to what stops it.
const leastSeverity, mostSeverity = 0.4, 0.9

// shown gives, by fault and finding, the share of engines that show it at a point.
func shown(p catalogue.Point, engines int, seed uint64) (map[string]map[string]float64, error) {
	faults := plant.Physical()
	each := make([]map[string]float64, len(faults))
	var side errgroup.Group
	side.SetLimit(runtime.NumCPU())
	for i, fault := range faults {
		side.Go(func() (err error) {
			each[i], err = shownOf(p, fault, engines, rand.New(rand.NewPCG(seed, uint64(i))))
			return err
		})
	}
	if err := side.Wait(); err != nil {
		return nil, err
	}
	out := map[string]map[string]float64{}
	for i, fault := range faults {
		out[fault] = each[i]
	}
	return out, nil
}

// shownOf gives, by finding, the share of engines with a fault that show it at a point.
func shownOf(p catalogue.Point, fault string, engines int, r *rand.Rand) (map[string]float64, error) {
	out := map[string]float64{}
	for drawn := 0; drawn < engines; {
		e, err := drawEngine(r)
		if err != nil {
			return nil, err
		}
		if !e.believed.Shows(fault) {
			continue
		}
		drawn++
		e.shares = []float64{p.Speed}
		h, err := plant.Ail(plant.Fault{ID: fault, Severity: leastSeverity + (mostSeverity-leastSeverity)*r.Float64()})
		if err != nil {
			return nil, err
		}
		rounds, err := e.rounds(r, h)
		if err != nil {
			return nil, err
		}
		report, err := e.believed.Judge(rounds)
		if err != nil {
			return nil, err
		}
		for _, l := range report.Findings {
			if l.Ratio >= shownAt(l.ID, report) {
				out[l.ID] += 1 / float64(engines)
			}
		}
	}
	return out, nil
}

// shownAt is the ratio from which a finding shows. Of what is read off directly, three to one that it is past the
// threshold: with less nobody is sure, and healthy engines show it as seldom as the catalogue says. Of a pattern, that
// from which it counts as found.
func shownAt(finding string, r plant.HealthReport) float64 {
	if plant.ReadOff(finding) {
		return diagnosis.UnsureQ / (1 - diagnosis.UnsureQ)
	}
	return r.SaysFound
}
