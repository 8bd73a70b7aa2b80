package coaching

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/practice"
	"hevrin/core/teardown"
)

// Played is how a player did.
type Played struct {
	Looking  float64 // minutes of looks, what was opened for them among it
	Minutes  float64 // all of them
	Looks    int
	Opened   int     // accesses and joints that were opened for looks, each as often as it was
	Cost     float64 // of the time, in the yard's money
	Proofs   int
	Cured    bool // nothing is left, and the last proof said so
	Comeback bool // a proof said so before, and it was not
	Dangers  []practice.Danger
	Steps    []practice.Step
}

// Policy is how a player plays.
type Policy struct {
	Strategy string // of the diagnosis
	// HuntOn: not put right what is found until nothing else is likely.
	HuntOn bool
	// Order is a yard's own order of looks; those that are not in it come after, by the strategy.
	Order []string
	// Minutes are what looks take there, by check, where that is not what the catalogue says.
	Minutes map[string]float64
}

// Nobody makes more steps than these, or more proofs.
const (
	mostSteps  = 90
	mostProofs = 8
)

// Play goes through a practice by a policy, as somebody careful does: the seacock shut before a joint is opened, all
// closed up before a run, a hot engine left alone until it is cold.
func (k *Coach) Play(e *practice.Engine, p Policy) (Played, error) {
	w := practice.Enter(e)
	w.TakeOwn(p.Minutes)
	q := k.known(e, p.Strategy)
	var out Played
	for step := 0; step < mostSteps && out.Proofs < mostProofs && !w.Over(); step++ {
		q.Ahead = k.ahead(w, p)
		a, err := k.d.Diagnose(q)
		if err != nil {
			return out, err
		}
		if now := putRight(a, p); len(now) > 0 {
			out.Proofs++
			trouble, err := k.prove(w, &q, now)
			if err != nil {
				return out, err
			}
			if trouble {
				continue
			}
			out.Cured = w.Cured()
			if out.Cured {
				break
			}
			out.Comeback = true
			k.comeback(w, &q)
			continue
		}
		next, ok := p.next(a)
		if !ok {
			break
		}
		check, _ := k.c.Check(next)
		wasOpen := w.Open()
		Prepare(w, k.c, check)
		s, err := w.Look(next)
		if err != nil {
			return out, err
		}
		out.Looks++
		for _, id := range w.Open() {
			if !slices.Contains(wasOpen, id) {
				out.Opened++
			}
		}
		k.take(&q, s)
	}
	out.Minutes, out.Cost, out.Steps = w.Minutes, w.Cost(), w.Log
	for _, s := range w.Log {
		if s.Do == practice.Looked {
			out.Looking += s.Minutes
		}
		if s.Danger != nil {
			out.Dangers = append(out.Dangers, *s.Danger)
		}
	}
	return out, nil
}

// putRight is what is put right now; nothing where looking goes on.
func putRight(a *diagnosis.Answer, p Policy) []string {
	switch {
	case len(a.Found) > 0 && (!p.HuntOn || a.Done || len(a.NextChecks) == 0):
		return a.Found
	case len(a.Suspects) > 0 && (a.Advice == diagnosis.PutRightLikely || len(a.NextChecks) == 0):
		return []string{a.Suspects[0].Fault}
	}
	return nil
}

// next is the check to make: of the yard's own order the first that is offered, else the program's.
func (p Policy) next(a *diagnosis.Answer) (string, bool) {
	for _, id := range p.Order {
		if slices.ContainsFunc(a.NextChecks, func(n diagnosis.NextCheck) bool { return n.Check == id && !n.Again }) {
			return id, true
		}
	}
	if len(a.NextChecks) == 0 {
		return "", false
	}
	return a.NextChecks[0].Check, true
}

// prove puts right and proves, and says whether the run showed trouble.
func (k *Coach) prove(w *practice.World, q *diagnosis.Question, faults []string) (bool, error) {
	for _, f := range faults {
		if err := fetch(w, f); err != nil {
			return false, err
		}
		note(w, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.PutRight, Item: f}})
	}
	Prepare(w, k.c, catalogue.Check{Engine: catalogue.Running})
	run, err := w.Prove()
	if err != nil {
		return false, err
	}
	k.renew(q, run.Seen, faults)
	return len(run.Seen) > 0, nil
}

// fetch measures the part that a repair takes, and orders the one that fits.
func fetch(w *practice.World, fault string) error {
	s, ok := w.SpareFor(fault)
	at := slices.IndexFunc(w.Stocks(), func(x practice.Stock) bool { return x.ID == s.ID && !x.Ready })
	if !ok || at < 0 {
		return nil
	}
	if _, err := w.Measure(s.ID); err != nil {
		return err
	}
	now := w.Stocks()[at]
	_, err := w.Order(s.ID, slices.IndexFunc(now.Offers,
		func(o practice.Offer) bool { return slices.Equal(o.Measures, now.Measured) }))
	return err
}

// comeback is the owner's next call: what shows of what was left.
func (k *Coach) comeback(w *practice.World, q *diagnosis.Question) {
	for _, s := range w.DayAfter() {
		k.see(q, s, "", false)
	}
	q.Done = nil // weeks have passed
}

// Prepare does what has to be done before a check.
func Prepare(w *practice.World, c *catalogue.Catalogue, k catalogue.Check) {
	by := func(do, item string) {
		note(w, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: do, Item: item}})
	}
	if k.Engine == catalogue.Running {
		no := false
		for _, id := range w.Open() {
			if id != k.Access {
				note(w, eventlog.Access, eventlog.Body{Access: id, Open: &no})
			}
		}
		by(teardown.Lift, "seacock")
		by(teardown.Lift, "battery")
		return
	}
	a, _ := c.AccessTo(k.Access)
	for _, need := range append(slices.Clone(k.Needs), a.Needs...) {
		switch need {
		case "seacock-shut":
			by(teardown.Isolate, "seacock")
		case "coolant-drained":
			if !w.Facts().HasCoolant() {
				by(teardown.Isolate, "seacock")
			}
		case "battery-off":
			by(teardown.Isolate, "battery")
		case "engine-cold":
			if w.Cold() >= 1 {
				_, _ = w.Wait(w.Cold()) // within its range
			}
		}
	}
}

func note(w *practice.World, kind eventlog.Kind, b eventlog.Body) {
	w.Note(eventlog.Entry{Kind: kind, Body: b, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "practice"}})
}

// ahead is what a look takes beside the catalogue's minutes: a hot engine's before it can be opened, a yard's own.
func (k *Coach) ahead(w *practice.World, p Policy) map[string]float64 {
	out := map[string]float64{}
	for id, own := range p.Minutes {
		c, _ := k.c.Check(id)
		out[id] = own - c.Minutes
	}
	left := w.Cold()
	if left == 0 {
		return out
	}
	for _, c := range k.c.Checks {
		a, _ := k.c.AccessTo(c.Access)
		if slices.Contains(append(slices.Clone(c.Needs), a.Needs...), "engine-cold") {
			out[c.ID] += left
		}
	}
	return out
}
