// Package main is the closed-loop bench of the diagnosis: faults are drawn by base rate, findings by the model, the
// complaint is answered, a strategy is followed to confirmation, and the minutes are counted. See
// docs/benchmark-diagnosis.md.
package main

import (
	"math"
	"math/rand/v2"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// world is one drawn job: what is wrong, and what every finding would show.
type world struct {
	family   string
	circuit  []string
	faults   []string
	findings map[string]bool
	at       map[reading]bool // of readings that are told otherwise at each operating point
}

// reading is a finding at an operating point.
type reading struct{ finding, point string }

const twoFaults = 0.2 // share of jobs with two faults

// draw makes a job of a family on its usual circuit. A job with a fault that none of its sure looks would show (about
// 1 in 20) is drawn again: no strategy could confirm it, and each would walk through every check there is.
func draw(r *rand.Rand, c *catalogue.Catalogue, family string) world {
	for {
		if w := drawAny(r, c, family); w.confirmable(c) {
			return w
		}
	}
}

func drawAny(r *rand.Rand, c *catalogue.Catalogue, family string) world {
	f, _ := c.Family(family)
	w := world{family: family, circuit: f.Circuit, findings: map[string]bool{}, at: map[reading]bool{}}
	possible := c.FaultsOn(family, w.circuit)
	w.faults = []string{pick(r, possible, func(f catalogue.Fault) float64 { return f.Prior })}
	if r.Float64() < twoFaults {
		first := w.faults[0]
		w.faults = append(w.faults, pick(r, possible, func(f catalogue.Fault) float64 {
			if f.ID == first {
				return 0
			}
			return f.Prior * pairFactor(c, first, f.ID)
		}))
	}
	for _, f := range c.Findings {
		x := r.Float64()
		w.findings[f.ID] = x < chance(f, w.faults)
		for point, causes := range f.At {
			f.Causes = causes
			w.at[reading{f.ID, point}] = x < chance(f, w.faults)
		}
	}
	return w
}

func pick(r *rand.Rand, faults []catalogue.Fault, weight func(catalogue.Fault) float64) string {
	sum := 0.0
	for _, f := range faults {
		sum += weight(f)
	}
	x := r.Float64() * sum
	for _, f := range faults {
		if x -= weight(f); x < 0 {
			return f.ID
		}
	}
	return faults[len(faults)-1].ID
}

func pairFactor(c *catalogue.Catalogue, a, b string) float64 {
	for _, p := range c.Pairs {
		if p.A == a && p.B == b || p.A == b && p.B == a {
			return p.Factor
		}
	}
	return 1
}

// chance is P(present | faults), written out afresh here: the bench draws from the model, not through it.
func chance(f catalogue.Finding, faults []string) float64 {
	none, spared := 1-f.Leak, 1.0
	for _, l := range f.Causes {
		if slices.Contains(faults, l.Fault) {
			none *= 1 - l.Strength
		}
	}
	for _, l := range f.Blocks {
		if slices.Contains(faults, l.Fault) {
			spared *= 1 - l.Strength
		}
	}
	return (1 - none) * spared
}

// complaint answers what is asked at intake: of a question the one option that shows (of several, one at random).
func (w world) complaint(r *rand.Rand, c *catalogue.Catalogue) []diagnosis.Evidence {
	var out []diagnosis.Evidence
	for _, f := range c.Findings {
		if _, grouped := c.GroupOf(f.ID); f.Source == catalogue.Complaint && !grouped {
			out = append(out, w.state(f.ID))
		}
	}
	for _, g := range c.Groups {
		var shown []string
		for _, f := range g.Findings {
			if w.findings[f] && g.ID != "sister-engine" {
				shown = append(shown, f)
			}
		}
		if len(shown) > 0 {
			out = append(out, diagnosis.Evidence{Finding: shown[r.IntN(len(shown))], Q: 1})
		}
	}
	return out
}

func (w world) state(finding string) diagnosis.Evidence {
	e := diagnosis.Evidence{Finding: finding}
	if w.findings[finding] {
		e.Q = 1
	}
	return e
}

// result is how one strategy did on one job.
type result struct {
	minutes    float64 // until every fault that is there was confirmed, or nothing was left to look at
	falseFound bool    // something was called found that is not there
	reached    bool    // it came to "done"
	leftBehind bool    // with a fault not found
	steps      int
}

// follow walks a strategy through a job.
func follow(e *diagnosis.Diagnoser, c *catalogue.Catalogue, w world, complaint []diagnosis.Evidence,
	strategy string) (result, error) {
	q := diagnosis.Question{Family: w.family, Stations: w.circuit, Findings: slices.Clone(complaint), Strategy: strategy,
		Brief: true}
	var out result
	for {
		a, err := e.Diagnose(q)
		if err != nil {
			return out, err
		}
		out.falseFound = out.falseFound || slices.ContainsFunc(a.Found,
			func(f string) bool { return !slices.Contains(w.faults, f) })
		if a.Done && !out.reached {
			out.reached = true
			out.leftBehind = slices.ContainsFunc(w.faults, func(f string) bool { return !slices.Contains(a.Found, f) })
		}
		if w.confirmed(c, q.Findings) || len(a.NextChecks) == 0 {
			return out, nil
		}
		n := a.NextChecks[0]
		check, _ := c.Check(n.Check)
		out.minutes += n.Minutes + n.AccessMinutes
		out.steps++
		if n.Again { // these jobs are drawn so that each fault shows at the first look
			for i := range q.Findings {
				if e := &q.Findings[i]; e.Q < 1 && slices.Contains(check.Settles, e.Finding) {
					e.Looks = min(max(1, e.Looks)+1, diagnosis.MostLooks)
				}
			}
			continue
		}
		q.Done = append(q.Done, n.Check)
		if check.Access != "" && !slices.Contains(q.OpenAccess, check.Access) {
			q.OpenAccess = append(q.OpenAccess, check.Access)
		}
		w.settle(c, check, &q)
	}
}

// settle answers what a check settles; of a question the one option that shows first.
func (w world) settle(c *catalogue.Catalogue, check catalogue.Check, q *diagnosis.Question) {
	answered := func(f string) bool {
		group, grouped := c.GroupOf(f)
		return slices.ContainsFunc(q.Findings, func(x diagnosis.Evidence) bool {
			g, one := c.GroupOf(x.Finding)
			same := x.Finding == f && (x.Point == "" || x.Point == c.PointOf(check.ID, f))
			return same || grouped && one && g == group && x.Q == 1
		})
	}
	for _, f := range check.Settles {
		if !answered(f) && !w.hidden(c, f) {
			e := w.state(f)
			if shown, told := w.at[reading{f, check.Point}]; told {
				e.Q, e.Point = 0, check.Point
				if shown {
					e.Q = 1
				}
			}
			q.Findings = append(q.Findings, e)
		}
	}
}

// hidden says whether a light grade of wear is not seen beside its heavy one.
func (w world) hidden(c *catalogue.Catalogue, finding string) bool {
	g, light := c.LightGrade(finding)
	return light && slices.ContainsFunc(g.Heavy, func(h string) bool { return w.findings[h] })
}

// confirmable: every fault that is there would be shown by one of its sure looks on this circuit.
func (w world) confirmable(c *catalogue.Catalogue) bool {
	var all []diagnosis.Evidence
	for _, k := range c.Checks {
		if _, here := c.StationOf(k, w.family, w.circuit); here {
			for _, f := range k.Settles {
				all = append(all, w.state(f))
			}
		}
	}
	return w.confirmed(c, all)
}

// confirmed: a sure look has shown every fault that is there.
func (w world) confirmed(c *catalogue.Catalogue, known []diagnosis.Evidence) bool {
	for _, id := range w.faults {
		f, _ := c.Fault(id)
		shown := slices.ContainsFunc(f.Sure, func(s catalogue.SureLook) bool {
			return slices.ContainsFunc(known, func(e diagnosis.Evidence) bool { return e.Finding == s.Finding && e.Q == 1 })
		})
		if !shown {
			return false
		}
	}
	return true
}

// knowing is what somebody needs who knows the causes from the start: the cheapest sure looks that show.
func (w world) knowing(c *catalogue.Catalogue) float64 {
	sum, opened := 0.0, map[string]bool{}
	made := map[string]bool{}
	for _, id := range w.faults {
		f, _ := c.Fault(id)
		best, check := math.Inf(1), catalogue.Check{}
		for _, s := range f.Sure {
			k, _ := c.Check(s.Check)
			if _, here := c.StationOf(k, w.family, w.circuit); !here || !w.findings[s.Finding] {
				continue
			}
			cost := k.Minutes
			if a, ok := c.AccessTo(k.Access); ok && !opened[k.Access] {
				cost += a.Minutes
			}
			if made[k.ID] {
				cost = 0
			}
			if cost < best {
				best, check = cost, k
			}
		}
		if !math.IsInf(best, 1) {
			sum += best
			opened[check.Access], made[check.ID] = true, true
		}
	}
	return sum
}
