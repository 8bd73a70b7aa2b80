package main

import (
	"maps"
	"math/rand/v2"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// rule is when a hunt ends and what was found is put right and proved.
type rule struct {
	label   string
	weighed bool                           // sure looks are weighed, not given
	stop    func(a *diagnosis.Answer) bool // put right now
	first   bool                           // of something found, what is worth a look before it is closed up
	states  bool                           // what the engine's state costs between looks is counted
}

// The rules that are compared: today's, and the one that took its place.
var (
	huntUntilDone  = rule{label: "hunt until nothing else is likely", weighed: true, stop: isDone}
	doneFirst      = rule{label: "looks believed, hunt until nothing else is likely", stop: isDone}
	repairAndProve = rule{label: "put right what is found, prove, look on",
		stop: func(a *diagnosis.Answer) bool { return len(a.Found) > 0 }}
	lookFirst = rule{label: "… looking first where that is worth it", first: true,
		stop: func(a *diagnosis.Answer) bool { return len(a.Found) > 0 && mostSaved(a).FirstSaves == 0 }}
)

func isDone(a *diagnosis.Answer) bool { return a.Done }

// The proof takes so many minutes, its readings among them; nobody makes more steps than these, or more proofs.
const (
	proofMinutes = 25.0
	mostSteps    = 90
	mostProofs   = 6
	symptoms     = 4
)

// ending is how a job went from its complaint to the proof.
type ending struct {
	minutes    float64 // to the last proof, or to where it was given up
	first      float64 // to the first time that something was put right
	hunts      int     // 1: one strip-down
	falseFound bool
	comeback   bool // it left with a fault: the proof showed nothing of it
	never      bool // it never came to an end
	tried      bool // what is put right is the likeliest, and was not found
}

// told are the symptoms that somebody tells: four, those that show first; the others are not asked.
func (w world) told(r *rand.Rand, c *catalogue.Catalogue) []diagnosis.Evidence {
	list := w.complaint(r, c)
	r.Shuffle(len(list), func(i, k int) { list[i], list[k] = list[k], list[i] })
	slices.SortStableFunc(list, func(a, b diagnosis.Evidence) int { return int(b.Q - a.Q) })
	return list[:min(symptoms, len(list))]
}

// readAt says what is looked at in a proof: heat, water, what readings tell, and whether the symptoms that were told
// are gone.
func readAt(told []diagnosis.Evidence) func(f catalogue.Finding) bool {
	return func(f catalogue.Finding) bool {
		return f.Source == catalogue.Reading || f.Source == catalogue.Complaint && (f.Topic == "heat" || f.Topic == "water" ||
			slices.ContainsFunc(told, func(e diagnosis.Evidence) bool { return e.Finding == f.ID && e.Q == 1 }))
	}
}

// toProved follows a rule through a job: hunt, put right, prove, and on from what the proof shows.
func toProved(e *diagnosis.Diagnoser, c *catalogue.Catalogue, w world, complaint []diagnosis.Evidence, r *rand.Rand,
	by rule) (ending, error) {
	q := diagnosis.Question{Family: w.family, Stations: w.circuit, Findings: slices.Clone(complaint), Brief: true,
		Weighed: by.weighed}
	var st *states
	if by.states {
		st = &states{c: c}
	}
	left := slices.Clone(w.faults)
	seen := w
	seen.findings = maps.Clone(w.findings)
	var out ending
	for steps := 0; ; {
		out.hunts++
		found, err := seen.hunt(e, c, r, &q, &out, &steps, by, st)
		if err != nil || out.never {
			return out, err
		}
		if out.hunts == 1 {
			out.first = out.minutes
		}
		for _, f := range found {
			if out.tried { // on the chance: nobody called it found
				break
			}
			out.falseFound = out.falseFound || !slices.Contains(left, f)
		}
		out.tried = false
		left = slices.DeleteFunc(left, func(f string) bool { return slices.Contains(found, f) })
		out.minutes += st.prove(&q) + proofMinutes
		trouble := seen.prove(r, c, readAt(complaint), left, found, &q)
		switch {
		case len(left) == 0:
			return out, nil
		case !trouble:
			out.comeback = true
			return out, nil
		case out.hunts == mostProofs:
			out.never = true
			return out, nil
		}
	}
}

// hunt makes check after check until the rule says to put right what was found.
func (w world) hunt(e *diagnosis.Diagnoser, c *catalogue.Catalogue, r *rand.Rand, q *diagnosis.Question, out *ending,
	steps *int, by rule, st *states) ([]string, error) {
	for {
		if !by.weighed { // the rule of before did not count it in
			q.Ahead = st.ahead(q)
		}
		a, err := e.Diagnose(*q)
		if err != nil {
			return nil, err
		}
		if by.stop(a) || len(a.NextChecks) == 0 && len(a.Found) > 0 {
			return a.Found, nil
		}
		if !by.weighed && a.Advice == diagnosis.PutRightLikely {
			out.tried = true
			return []string{a.Suspects[0].Fault}, nil
		}
		if *steps++; len(a.NextChecks) == 0 || *steps > mostSteps {
			out.never = true
			return nil, nil
		}
		n := a.NextChecks[0]
		if by.first && len(a.Found) > 0 {
			n = mostSaved(a)
		}
		check, _ := c.Check(n.Check)
		out.minutes += n.Minutes + n.AccessMinutes + st.make(check, q)
		if n.Again {
			w.lookAgain(c, r, check, q)
		} else {
			q.Done = append(q.Done, n.Check)
		}
		if check.Access != "" && !slices.Contains(q.OpenAccess, check.Access) {
			q.OpenAccess = append(q.OpenAccess, check.Access)
		}
		w.settle(c, check, q)
	}
}

// mostSaved is the look that is most worth making before what was found is closed up.
func mostSaved(a *diagnosis.Answer) (most diagnosis.NextCheck) {
	for _, n := range a.NextChecks {
		if n.FirstSaves > most.FirstSaves {
			most = n
		}
	}
	return most
}

// lookAgain makes one more look: of what is there and did not show, half shows.
func (w world) lookAgain(c *catalogue.Catalogue, r *rand.Rand, check catalogue.Check, q *diagnosis.Question) {
	for i := range q.Findings {
		e := &q.Findings[i]
		_, light := c.LightGrade(e.Finding)
		if light || e.Q == 1 || !slices.Contains(check.Settles, e.Finding) {
			continue
		}
		e.Looks = min(max(1, e.Looks)+1, diagnosis.MostLooks)
		f, _ := c.Finding(e.Finding)
		there := slices.ContainsFunc(f.Causes, func(l catalogue.Link) bool { return slices.Contains(w.faults, l.Fault) })
		if there && r.IntN(2) == 0 {
			e.Q, w.findings[e.Finding] = 1, true
		}
	}
}

// hardest is the operating point of a proof's readings; empty for what tells the same at each.
func hardest(c *catalogue.Catalogue, finding string) string {
	points := c.PointsOf(finding)
	if len(points) == 0 {
		return ""
	}
	return points[len(points)-1]
}

// prove runs what was put right: everything is closed up; what is read says whether trouble is left, and is what the
// suspects go by from then on. Looks that showed nothing still count; what was renewed is as new. It reads with care:
// only what a fault causes shows, nothing by chance.
func (w *world) prove(r *rand.Rand, c *catalogue.Catalogue, atProof func(catalogue.Finding) bool, left,
	renewed []string, q *diagnosis.Question) bool {
	now := map[string]bool{}
	trouble := false
	var findings []diagnosis.Evidence
	for _, f := range c.Findings {
		switch {
		case atProof(f):
			f.Leak = map[bool]float64{true: f.Leak}[len(f.Causes) == 0] // normality stays usual
			if causes, told := f.At[hardest(c, f.ID)]; told {
				f.Causes = causes
			}
			now[f.ID] = r.Float64() < chance(f, left)
			trouble = trouble || now[f.ID] && len(f.Causes) > 0
		default:
			now[f.ID] = w.findings[f.ID] && slices.ContainsFunc(f.Causes,
				func(l catalogue.Link) bool { return slices.Contains(left, l.Fault) })
		}
	}
	again := world{family: w.family, circuit: w.circuit, faults: left, findings: now}
	grouped := map[string]bool{}
	for _, f := range c.Findings {
		group, one := c.GroupOf(f.ID)
		was := slices.IndexFunc(q.Findings, func(x diagnosis.Evidence) bool { return x.Finding == f.ID })
		switch {
		case atProof(f) && one && (grouped[group] || !now[f.ID]):
		case atProof(f):
			grouped[group] = one
			e := again.state(f.ID)
			e.Point = hardest(c, f.ID)
			findings = append(findings, e)
		case f.Source == catalogue.FromCheck && was >= 0:
			findings = append(findings, again.state(f.ID))
		}
	}
	for _, id := range renewed { // looked at as it went in
		f, _ := c.Fault(id)
		for _, s := range f.Sure {
			if !slices.ContainsFunc(findings, func(x diagnosis.Evidence) bool { return x.Finding == s.Finding }) {
				findings = append(findings, again.state(s.Finding))
			}
		}
	}
	q.Findings, q.OpenAccess = findings, nil
	q.Barred = map[string]string{}
	for _, k := range c.Checks {
		if k.Asks {
			q.Barred[k.ID] = "what was told is of before the proof"
		}
	}
	*w = again
	return trouble
}
