package coaching

import (
	"cmp"
	"fmt"
	"slices"

	"hevrin/core/diagnosis"
	"hevrin/core/practice"
)

// Review is what is told when a practice is over.
type Review struct {
	Cured, Signed bool
	Minutes       float64 // all of them
	Looking       float64 // of looks
	Cost          float64 // in the yard's money
	Knowing       float64 // looks of somebody who knew
	Quickest      float64 // looks by the program's quickest order
	AlongTheWater float64 // looks in the order of the water
	Hidden        []practice.Hidden
	Left          []string // faults that are still on
	Comeback      []practice.Seen
	Theory        string // what the owner blamed
	Mistaken      string // a finding that the owner told and that was not so; empty: none
	Dangers       []practice.Danger
	Turns         []Turn
	Better        []Better
	FirstMet      bool // of a lesson: the first look was the one that it is about
	MissedLooks   []string
}

// Turn is a step of the learner's beside what was known before it.
type Turn struct {
	Step      practice.Step
	Suspects  []diagnosis.Posterior // the three likeliest before it
	Best      string                // the look that was best then; empty where something was to be put right
	BestTakes float64               // minutes, its access among them
	BestWhy   string
	Found     []string // what was known to be found before it
	Lost      float64  // minutes more than the best would have taken, of a look that showed nothing; else 0
}

// Better is one thing to do better, with the minutes that it would have saved; 0: it is not about minutes. What weighs
// more comes first: a minute weighs one.
type Better struct {
	Label, Why string
	Minutes    float64
	weighs     float64
}

// What weighs otherwise than by its minutes: a danger before all, a wrong word to the owner before any habit.
const (
	dangerWeighs = 1000.0
	wrongWeighs  = 500.0
	habitWeighs  = 60.0
)

// mostTold is how many things to do better are told, and how many suspects.
const mostTold = 3

// Review looks back over a practice.
func (k *Coach) Review(w *practice.World) (Review, error) {
	r := Review{Cured: w.Cured(), Signed: w.Signed(), Minutes: w.Minutes, Cost: w.Cost(), Hidden: w.Hidden, Left: w.Left(),
		Theory: w.Theory, Mistaken: w.Mistaken, Knowing: k.Knowing(w.Engine)}
	if !r.Cured {
		r.Comeback = w.DayAfter()
	}
	for _, s := range w.Log {
		if s.Do == practice.Looked {
			r.Looking += s.Minutes
		}
		if s.Danger != nil {
			r.Dangers = append(r.Dangers, *s.Danger)
		}
	}
	for strategy, to := range map[string]*float64{diagnosis.Quickest: &r.Quickest,
		diagnosis.AlongTheWater: &r.AlongTheWater} {
		p, err := k.Play(w.Engine, Policy{Strategy: strategy})
		if err != nil {
			return r, err
		}
		*to = p.Looking
	}
	var err error
	if r.Turns, err = k.turns(w); err != nil {
		return r, err
	}
	r.lesson(w)
	r.better(k, w)
	return r, nil
}

// turns goes through what was done, and asks at each look and repair what was known before it.
func (k *Coach) turns(w *practice.World) ([]Turn, error) {
	q := k.known(w.Engine, diagnosis.Quickest)
	var renewed []string
	var out []Turn
	for _, s := range w.Log {
		t := Turn{Step: s}
		if s.Do == practice.Looked || s.Do == practice.Repaired {
			a, err := k.d.Diagnose(q)
			if err != nil {
				return nil, err
			}
			t.judge(a)
		}
		out = append(out, t)
		switch s.Do {
		case practice.Looked:
			k.take(&q, s)
		case practice.Repaired:
			renewed = append(renewed, s.Fault)
		case practice.Proof:
			k.renew(&q, s.Seen, renewed)
			renewed = nil
		}
	}
	return out, nil
}

func (t *Turn) judge(a *diagnosis.Answer) {
	t.Suspects = a.Suspects[:min(mostTold, len(a.Suspects))]
	t.Found = a.Found
	if len(a.Found) > 0 || len(a.NextChecks) == 0 {
		return
	}
	best := a.NextChecks[0]
	t.Best, t.BestTakes, t.BestWhy = best.Check, best.Minutes+best.AccessMinutes, best.Reason
	among := slices.ContainsFunc(a.NextChecks[:min(mostTold, len(a.NextChecks))],
		func(n diagnosis.NextCheck) bool { return n.Check == t.Step.Check })
	showed := slices.ContainsFunc(t.Step.Seen, func(s practice.Seen) bool { return s.Present })
	if t.Step.Do == practice.Looked && !among && !showed {
		t.Lost = max(0, t.Step.Minutes-t.BestTakes)
	}
}

// lesson says whether a set piece was done as it is meant.
func (r *Review) lesson(w *practice.World) {
	if w.Case.Lesson == 0 {
		return
	}
	l := practice.Lessons[w.Case.Lesson-1]
	var looked []string
	for _, s := range w.Log {
		if s.Do == practice.Looked {
			looked = append(looked, s.Check)
		}
	}
	r.FirstMet = len(l.First) == 0 || len(looked) > 0 && slices.Contains(l.First, looked[0])
	for _, m := range l.Must {
		if !slices.Contains(looked, m) {
			r.MissedLooks = append(r.MissedLooks, m)
		}
	}
}

// quickLook is a look that takes no more minutes than this, with nothing to open.
const quickLook = 3.0

// better lists what could be done better, what costs most first: a danger before all minutes.
func (r *Review) better(k *Coach, w *practice.World) {
	var list []Better
	for _, d := range r.Dangers {
		list = append(list, Better{Label: d.Label, Why: d.Instead, weighs: dangerWeighs})
	}
	if !r.Cured && r.Signed {
		list = append(list, Better{Label: "Signed as cured, and it was not",
			Why: "What the proof shows decides: heat, water, leaks, each looked at.", weighs: wrongWeighs})
	}
	if !r.Signed {
		list = append(list, Better{Label: "No proof", weighs: 1.5 * habitWeighs,
			Why: "What was put right is proved by a run before the owner has it back."})
	}
	opened, lost, blind, needless := "", 0.0, 0.0, 0.0
	worst := Turn{}
	quick := false
	for _, t := range r.Turns {
		c, _ := k.c.Check(t.Step.Check)
		switch {
		case t.Step.Do == practice.Looked && c.Access == "" && c.Minutes <= quickLook:
			quick = true
		case t.Step.Do == practice.Looked && c.Access != "" && !quick && opened == "":
			opened = c.Label
		case t.Step.Do == practice.Repaired && !t.Step.Needed:
			needless += t.Step.Minutes
		case t.Step.Do == practice.Looked && len(t.Found) > 0 && t.Lost == 0 && r.still(t):
			blind += t.Step.Minutes
		}
		lost += t.Lost
		if t.Lost > worst.Lost {
			worst = t
		}
	}
	if n := misordered(w); n > 0 {
		list = append(list, Better{Label: "Ordered without measuring", Minutes: n, weighs: n,
			Why: "The old part is measured, or its stamp read, before one is ordered: four minutes against a day."})
	}
	if opened != "" {
		list = append(list, Better{Label: "Opened before looking", weighs: habitWeighs,
			Why: opened + " came before any quick look from outside. Water at the outlet, hoses, belts and oil take minutes " +
				"and open nothing."})
	}
	if worst.Lost > 0 {
		c, _ := k.c.Check(worst.Step.Check)
		b, _ := k.c.Check(worst.Best)
		list = append(list, Better{Label: "The dear look first", Minutes: lost, weighs: lost,
			Why: fmt.Sprintf("%s took %.0f minutes; %s would have taken %.0f and told more then.", c.Label,
				worst.Step.Minutes, b.Label, worst.BestTakes)})
	}
	if needless > 0 {
		list = append(list, Better{Label: "Put right what was not wrong", Minutes: needless, weighs: needless,
			Why: "Parts that are fitted on a hunch cost twice: look first."})
	}
	if blind > 0 {
		list = append(list, Better{Label: "Looked on after it was found", Minutes: blind, weighs: blind,
			Why: "What is found is put right and proved: the proof is the cheapest look at everything else."})
	}
	slices.SortStableFunc(list, func(a, b Better) int { return cmp.Compare(b.weighs, a.weighs) })
	seen := map[string]bool{}
	for _, b := range list {
		if !seen[b.Label] && len(r.Better) < mostTold {
			seen[b.Label] = true
			r.Better = append(r.Better, b)
		}
	}
}

// misordered are the minutes that parts took which did not fit.
func misordered(w *practice.World) float64 {
	n := 0.0
	for _, s := range w.Log {
		if s.Do == practice.Ordered && !s.Needed {
			n += s.Minutes
		}
	}
	return n
}

// still says whether a fault that was known to be found before a step was still on then.
func (r *Review) still(t Turn) bool {
	return slices.ContainsFunc(t.Found, func(f string) bool { return slices.Contains(t.Step.Left, f) })
}
