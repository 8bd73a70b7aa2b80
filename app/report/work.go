package report

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

// done lists what was done: tasks, wet work, what is on the bench, notes.
func (b *builder) done() {
	p, r := b.page, b.r
	seals, reused := 0, 0
	for _, i := range p.Account.Items {
		if i.Kind == teardown.Seal {
			seals, reused = seals+i.New, reused+i.Reused
		}
	}
	for _, t := range p.Account.Tasks {
		r.Done = append(r.Done, t.Label)
	}
	for _, i := range p.Plan {
		if i.DoneAt != nil && i.Task == "" { // what a task did is told by it
			r.Done = append(r.Done, i.Do)
		}
	}
	if seals > 0 {
		r.Done = append(r.Done, fmt.Sprintf("%d new %s fitted", seals, plural(seals, "seal")))
	}
	if reused > 0 {
		r.Done = append(r.Done, fmt.Sprintf("%d old %s put back, each with a reason on record", reused, plural(reused,
			"seal")))
	}
	for _, x := range p.AlsoSeen {
		if x.PutRight {
			r.Done = append(r.Done, fmt.Sprintf("Also seen and put right: %s", Lower(x.Label)))
		}
	}
	for _, i := range p.Account.Items {
		if says := i.Refit.Says(); len(says) > 0 {
			r.Done = append(r.Done, b.say("%s: %s", i.Label, units.Join(says, ", ")))
		}
	}
	if w := p.Account.Waiting; w != nil && p.Job.Closing == nil {
		r.Done = append(r.Done, "Not finished: waits for "+w.Say())
	}
	for _, w := range p.Wetwork.Works {
		r.Done = append(r.Done, b.workWords(w.Work))
	}
	for _, n := range p.Job.Notes {
		r.Done = append(r.Done, n.Words)
	}
	for _, u := range p.Account.PartsUsed() {
		line := PartLine{Label: u.Label, Number: u.PartNumber, State: u.State, Quantity: u.Quantity,
			Price: u.Quantity * u.Price}
		r.Parts, r.Total = append(r.Parts, line), r.Total+line.Price
	}
}

var workKinds = map[string]string{wetwork.Flushing: "Flushed", wetwork.Descale: "Descaled",
	wetwork.CoolantJob: "Coolant changed"}

func (b *builder) workWords(w wetwork.Work) string {
	say := workKinds[w.Kind]
	if w.Caustic() {
		say = "Cleaned"
	}
	switch {
	case w.Descale != nil:
		say += b.say(" with %s, %.0f of bath", w.Descale.Product.Label, units.Of(w.Descale.BathL, "L"))
	case w.Coolant != nil:
		say += b.say(", %.1f in", units.Of(w.InL, "L"))
	}
	if w.Ended == nil {
		return say + ", not finished"
	}
	return strings.TrimSuffix(say+". "+w.Words, ". ")
}

func (b *builder) proof() {
	if b.run == nil {
		return
	}
	for _, s := range b.run.Stages {
		line := ProofLine{Label: s.Label, Standing: s.Standing}
		var say []string
		joints, dry := 0, 0
		for _, k := range s.Criteria {
			switch {
			case strings.HasPrefix(k.ID, "joint:"):
				joints++
				if k.Standing == proving.Passed {
					dry++
					continue
				}
				say = append(say, Lower(k.Label)+" "+k.Say.In(b.r.System))
			case k.Standing == proving.Passed && slices.Contains(plainly, k.Say):
				say = append(say, Lower(k.Label))
			case k.Say != "" && s.ID != proving.VerdictStage || k.ID == "readings" || k.ID == "codes":
				say = append(say, Lower(k.Label)+": "+k.Say.In(b.r.System))
			}
		}
		if joints > 0 {
			say = append([]string{fmt.Sprintf("%d of %d joints dry", dry, joints)}, say...)
		}
		if s.Standing == proving.Excused {
			say = []string{"left out: " + s.Why}
		}
		line.Say = Capital(strings.Join(say, "; "))
		b.r.Proof = append(b.r.Proof, line)
	}
}

// plainly says no more than the criterion itself.
var plainly = []units.Sentence{"nothing", "dry", "measured"}

func (b *builder) due() {
	for _, w := range b.page.Card.Works {
		if w.Due != "" {
			when, err := time.Parse("2006-01-02", w.Due)
			if err == nil {
				b.r.Due = append(b.r.Due, DueLine{nextWork[w.Kind], "by " + Day(when), w.Why})
			}
		}
	}
}

var nextWork = map[string]string{wetwork.Descale: "Descale again", wetwork.CoolantJob: "Change the coolant"}
