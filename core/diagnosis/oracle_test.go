package diagnosis_test

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// oracle recomputes every probability by brute force from the catalogue alone, in the plainest way: sets of names,
// products over every entry, no tables, no masks, nothing shared with the package under test.
type oracle struct {
	c *catalogue.Catalogue
	q diagnosis.Question
}

type weighed struct {
	faults []string
	weight float64
}

func (o oracle) allowed() []string {
	var out []string
	for _, f := range o.c.Faults {
		if !slices.Contains(f.Families, o.q.Family) {
			continue
		}
		on := o.q.Stations == nil
		for _, s := range f.Stations {
			on = on || slices.Contains(o.q.Stations, s)
		}
		if on {
			out = append(out, f.ID)
		}
	}
	return out
}

func (o oracle) prior(set []string) float64 {
	w := 1.0
	for i, id := range set {
		for _, f := range o.c.Faults {
			if f.ID == id {
				rate := f.Prior
				if own, ok := o.q.Yard.Rates[id]; ok {
					rate = own
				}
				w *= rate / (1 - rate)
			}
		}
		for _, h := range o.c.History {
			if !slices.Contains(o.q.History, h.ID) {
				continue
			}
			for _, x := range h.Multipliers {
				if x.Fault == id {
					w *= x.Factor
				}
			}
		}
		if i > 0 {
			w *= o.c.SetFactor
		}
	}
	for _, p := range o.c.Pairs {
		if slices.Contains(set, p.A) && slices.Contains(set, p.B) {
			w *= p.Factor
		}
	}
	return w
}

func (o oracle) present(e diagnosis.Evidence, set []string) float64 {
	for _, f := range o.c.Findings {
		if f.ID != e.Finding {
			continue
		}
		none, spared, causes := 1-f.Leak, 1.0, f.Causes
		if e.Point != "" {
			causes = f.At[e.Point]
		}
		for _, l := range causes {
			if slices.Contains(set, l.Fault) {
				missed := 1 - l.Strength
				for look := 1; look < e.Looks && e.Q == 0; look++ {
					missed /= 2
				}
				none *= missed
			}
		}
		for _, l := range f.Blocks {
			if slices.Contains(set, l.Fault) {
				spared *= 1 - l.Strength
			}
		}
		return (1 - none) * spared
	}
	panic("unknown finding " + e.Finding)
}

func (o oracle) inGroup(finding string) bool {
	for _, g := range o.c.Groups {
		if slices.Contains(g.Findings, finding) {
			return true
		}
	}
	return false
}

func (o oracle) likelihood(set []string) float64 {
	w := 1.0
	for _, e := range o.q.Findings {
		if e.Q == 0 && o.inGroup(e.Finding) || o.knownHarder(e) {
			continue
		}
		p := o.present(e, set)
		w *= e.Q*p + (1-e.Q)*(1-p)
	}
	return w
}

// knownHarder tells whether the same is known at a harder point, or without one.
func (o oracle) knownHarder(e diagnosis.Evidence) bool {
	hard := map[string]int{"": len(o.c.Points)}
	for i, p := range o.c.Points {
		hard[p.ID] = i
	}
	for _, x := range o.q.Findings {
		if x.Finding == e.Finding && hard[x.Point] > hard[e.Point] {
			return true
		}
	}
	return false
}

// given lists the faults that a sure look without a rival on this circuit showed.
func (o oracle) given() []string {
	here := o.allowed()
	var out []string
	for _, f := range o.c.Faults {
		shown := false
		for _, s := range f.Sure {
			rivals := 0
			for _, r := range s.Rivals {
				if slices.Contains(here, r.Fault) {
					rivals++
				}
			}
			for _, e := range o.q.Findings {
				shown = shown || e.Finding == s.Finding && e.Q == 1 && rivals == 0
			}
		}
		if shown && slices.Contains(here, f.ID) {
			out = append(out, f.ID)
		}
	}
	return out
}

// posterior lists every set with its normalised weight: what is given, and up to three faults more.
func (o oracle) posterior(withFindings bool) []weighed {
	var given []string
	if withFindings {
		given = o.given()
	}
	ids := slices.DeleteFunc(o.allowed(), func(f string) bool { return slices.Contains(given, f) })
	var out []weighed
	var grow func(from int, more []string)
	grow = func(from int, more []string) {
		if set := slices.Concat(given, more); len(set) > 0 {
			w := o.prior(set)
			if withFindings {
				w *= o.likelihood(set)
			}
			out = append(out, weighed{slices.Clone(set), w})
		}
		if len(more) == 3 {
			return
		}
		for i := from; i < len(ids); i++ {
			grow(i+1, append(more, ids[i]))
		}
	}
	grow(0, nil)
	sum := 0.0
	for _, x := range out {
		sum += x.weight
	}
	for i := range out {
		out[i].weight /= sum
	}
	return out
}

func marginalsOf(sets []weighed) map[string]float64 {
	out := map[string]float64{}
	for _, s := range sets {
		for _, f := range s.faults {
			out[f] += s.weight
		}
	}
	return out
}
