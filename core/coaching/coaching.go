// Package coaching looks at a practice from outside: what the program would have looked at next, what that would have
// taken, and what the learner could do better. It asks the diagnosis; the practice itself never does.
package coaching

import (
	"math"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/practice"
)

// Coach answers from one catalogue. It holds no state and may be used from many goroutines.
type Coach struct {
	c *catalogue.Catalogue
	d *diagnosis.Diagnoser
}

// New makes a coach.
func New(c *catalogue.Catalogue) *Coach { return &Coach{c, diagnosis.New(c)} }

// sisterLook needs another engine, which a practice does not have.
const sisterLook = "sister-look"

// known is what a question holds at the start of a practice: what the owner told, and what is known of the engine.
func (k *Coach) known(e *practice.Engine, strategy string) diagnosis.Question {
	q := diagnosis.Question{Family: e.Kind.Facts.Family, Stations: e.Kind.Facts.Circuit, History: e.History,
		Strategy: strategy, Brief: true, Barred: map[string]string{sisterLook: "one engine"}}
	for _, id := range e.Told {
		q.Findings = append(q.Findings, diagnosis.Evidence{Finding: id, Q: 1})
	}
	return q
}

// take puts what was seen into a question; a second look at what did not show counts as one more.
func (k *Coach) take(q *diagnosis.Question, s practice.Step) {
	again := slices.Contains(q.Done, s.Check)
	if s.Do == practice.Looked && !again {
		q.Done = append(q.Done, s.Check)
	}
	if check, ok := k.c.Check(s.Check); ok && check.Access != "" && !slices.Contains(q.OpenAccess, check.Access) {
		q.OpenAccess = append(q.OpenAccess, check.Access)
	}
	for _, f := range s.Seen {
		k.see(q, f, k.c.PointOf(s.Check, f.Finding), again)
	}
}

// see puts a finding into a question, of the operating point that it was read at.
func (k *Coach) see(q *diagnosis.Question, f practice.Seen, point string, again bool) {
	at := slices.IndexFunc(q.Findings, func(e diagnosis.Evidence) bool {
		return e.Finding == f.Finding && e.Point == point
	})
	group, grouped := k.c.GroupOf(f.Finding)
	if grouped {
		if !f.Present {
			return // of a question only the option that is so is evidence
		}
		q.Findings = slices.DeleteFunc(q.Findings, func(e diagnosis.Evidence) bool {
			g, one := k.c.GroupOf(e.Finding)
			return one && g == group
		})
		at = -1
	}
	e := diagnosis.Evidence{Finding: f.Finding, Point: point}
	if f.Present {
		e.Q = 1
	}
	switch {
	case at < 0:
		q.Findings = append(q.Findings, e)
	case again && e.Q == 0 && q.Findings[at].Q < 1:
		q.Findings[at].Looks = min(diagnosis.MostLooks, max(1, q.Findings[at].Looks)+1)
	default:
		q.Findings[at] = e
	}
}

// renew is what is known after a proof, with what was put right as new and everything closed up: what only a fault that
// is gone had shown is gone.
func (k *Coach) renew(q *diagnosis.Question, run []practice.Seen, renewed []string) {
	now := func(id string) bool {
		return slices.ContainsFunc(run, func(s practice.Seen) bool { return s.Finding == id && s.Present })
	}
	var kept []diagnosis.Evidence
	for _, e := range q.Findings {
		f, _ := k.c.Finding(e.Finding)
		switch {
		case f.Source == catalogue.FromCheck && e.Q == 1 && k.byRenewed(f, renewed):
			e.Q, e.Looks = 0, 0
		case f.Source != catalogue.FromCheck:
			if _, grouped := k.c.GroupOf(e.Finding); grouped && !now(e.Finding) {
				continue
			}
			e.Q = 0
			if now(e.Finding) {
				e.Q = 1
			}
		}
		kept = append(kept, e)
	}
	q.Findings, q.OpenAccess = kept, nil
	for _, s := range run {
		k.see(q, s, "", false)
	}
	for _, id := range renewed {
		f, _ := k.c.Fault(id)
		for _, s := range f.Sure {
			if !slices.ContainsFunc(q.Findings, func(e diagnosis.Evidence) bool { return e.Finding == s.Finding }) {
				q.Findings = append(q.Findings, diagnosis.Evidence{Finding: s.Finding})
			}
		}
	}
}

func (k *Coach) byRenewed(f catalogue.Finding, renewed []string) bool {
	return slices.ContainsFunc(f.Causes, func(l catalogue.Link) bool { return slices.Contains(renewed, l.Fault) })
}

// Hint is one of three, each telling more than the one before; or what is to be done where no look is, which is free.
type Hint struct {
	Words   string
	Minutes float64 // that it costs
}

// Hints cost so many minutes, common practice of nothing: enough to think first.
var hintMinutes = []float64{3, 5, 8}

// Hint tells where to look next: the first time on which side, the second time where, the third time what and why.
func (k *Coach) Hint(w *practice.World) (Hint, error) {
	q, _ := k.soFar(w, diagnosis.Quickest)
	a, err := k.d.Diagnose(q)
	if err != nil {
		return Hint{}, err
	}
	n := 0 // hints since the last look
	for _, s := range w.Log {
		switch s.Do {
		case practice.Hinted:
			n++
		case practice.Looked, practice.Repaired, practice.Proof:
			n = 0
		}
	}
	if say := k.nothingToHint(a); say != "" {
		return Hint{Words: say}, nil
	}
	at := min(n, len(hintMinutes)-1)
	return Hint{k.hintWords(w, a, at), hintMinutes[at]}, nil
}

// nothingToHint is said where there is no next look, and costs nothing; empty where there is one.
func (k *Coach) nothingToHint(a *diagnosis.Answer) string {
	if len(a.Found) > 0 {
		f, _ := k.c.Fault(a.Found[0])
		return "You have found it: " + f.Label + ". Put it right, and prove it."
	}
	if len(a.NextChecks) == 0 {
		return "Everything was looked at. Put the likeliest right, and let the proof decide."
	}
	return ""
}

func (k *Coach) hintWords(w *practice.World, a *diagnosis.Answer, at int) string {
	next := a.NextChecks[0]
	check, _ := k.c.Check(next.Check)
	s, ok := k.c.Station(next.Station)
	switch {
	case at == 0 && ok:
		return "Stay with the " + sideWords(s, w.Facts().Family) + "."
	case at == 0:
		return "Look at the engine as a whole, before anything is opened."
	case at == 1 && ok:
		return "Look at: " + s.Label + "."
	case at == 1:
		return "One look all over the engine."
	}
	return check.Label + ": " + next.Reason
}

func sideWords(s catalogue.Station, family string) string {
	words := map[string]string{"raw": "raw water", "coolant": "coolant", "instrument": "gauge and alarm",
		"load": "load on the engine"}
	for _, side := range s.Sides[family] {
		return words[side]
	}
	return "engine"
}

// soFar is what the learner knew after all that was done, and how often it was proved.
func (k *Coach) soFar(w *practice.World, strategy string) (diagnosis.Question, int) {
	q := k.known(w.Engine, strategy)
	var renewed []string
	proofs := 0
	for _, s := range w.Log {
		switch s.Do {
		case practice.Looked:
			k.take(&q, s)
		case practice.Repaired:
			renewed = append(renewed, s.Fault)
		case practice.Proof:
			k.renew(&q, s.Seen, renewed)
			renewed = nil
			proofs++
		}
	}
	return q, proofs
}

// Knowing is what somebody needs who knows the causes from the start: the cheapest sure looks that show, and the proof.
func (k *Coach) Knowing(e *practice.Engine) float64 {
	sum, opened, made := 0.0, map[string]bool{}, map[string]bool{}
	for _, h := range e.Hidden {
		f, _ := k.c.Fault(h.Fault)
		best, check := math.Inf(1), catalogue.Check{}
		for _, s := range f.Sure {
			if !e.Sees(s) {
				continue
			}
			c, _ := k.c.Check(s.Check)
			cost := c.Minutes
			if a, ok := k.c.AccessTo(c.Access); ok && !opened[c.Access] {
				cost += a.Minutes
			}
			if made[c.ID] {
				cost = 0
			}
			if cost < best {
				best, check = cost, c
			}
		}
		if !math.IsInf(best, 1) {
			sum += best
			opened[check.Access], made[check.ID] = true, true
		}
	}
	return sum
}
