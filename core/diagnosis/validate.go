package diagnosis

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// maxFaults is how many faults a circuit may have: sets are kept as 64-bit masks.
const maxFaults = 64

// MostLooks is how many looks at a thing are told apart: more add next to nothing.
const MostLooks = 4

// UnsureQ is the likelihood of a look that was neither yes nor no: three to one for what it looked for, since somebody
// hesitated; common practice.
const UnsureQ = 0.75

func (e *Diagnoser) validate(q Question) error {
	var wrong validation.Errors
	c := e.catalogue
	if _, ok := c.Family(q.Family); !ok {
		wrong.Add("family", q.Family, units.Sentence(strings.Join(c.FamilyIDs(), ", ")), "say how the engine is cooled")
	}
	if !slices.Contains(Strategies, q.Strategy) {
		wrong.Add("strategy", q.Strategy, units.Sentence(strings.Join(Strategies, ", ")), "there is no such order of search")
	}
	if q.PumpDrive != "" && !slices.Contains(catalogue.Drives, q.PumpDrive) {
		wrong.Add("pump_drive", q.PumpDrive, units.Sentence(strings.Join(catalogue.Drives, ", ")),
			"say what turns the raw-water pump, or leave it out")
	}
	known(&wrong, "stations", q.Stations, "station", func(id string) bool { _, ok := c.Station(id); return ok })
	known(&wrong, "history", q.History, "history item", func(id string) bool { _, ok := c.HistoryItem(id); return ok })
	known(&wrong, "open_access", q.OpenAccess, "access", func(id string) bool { _, ok := c.AccessTo(id); return ok })
	known(&wrong, "done", q.Done, "check", func(id string) bool { _, ok := c.Check(id); return ok })
	e.validateFindings(&wrong, q.Findings)
	var slips validation.Errors
	if errors.As(q.Yard.Check(c), &slips) {
		wrong = append(wrong, slips...)
	}
	if len(wrong) > 0 {
		return wrong
	}
	n := len(e.spaces.circuit(c, q).faults)
	if n == 0 {
		wrong.Add("stations", units.Sentence(strings.Join(q.Stations, ", ")), "at least one station that can go wrong",
			"no known fault lies on these stations")
	}
	if n > maxFaults {
		wrong.Add("stations", n, units.Say("at most %d faults", maxFaults),
			"the circuit has too many faults to compute with")
	}
	return wrong.Err()
}

func known(wrong *validation.Errors, field string, ids []string, kind string, ok func(string) bool) {
	seen := map[string]bool{}
	for i, id := range ids {
		at := fmt.Sprintf("%s[%d]", field, i)
		switch {
		case !ok(id):
			wrong.Add(at, id, "an id of the catalogue", "there is no %s %q", kind, id)
		case seen[id]:
			wrong.Add(at, id, "each once", "%q is given twice", id)
		}
		seen[id] = true
	}
}

// pointless tells whether a finding is not told at the point that it is given at.
func (e *Diagnoser) pointless(f Evidence) bool {
	return !slices.Contains(e.catalogue.PointsOf(f.Finding), f.Point)
}

func (e *Diagnoser) validateFindings(wrong *validation.Errors, findings []Evidence) {
	c := e.catalogue
	seen, chosen := map[reading]bool{}, map[string]string{}
	for i, f := range findings {
		at := fmt.Sprintf("findings[%d]", i)
		if _, ok := c.Finding(f.Finding); !ok {
			wrong.Add(at+".id", f.Finding, "a finding of the catalogue", "there is no finding %q", f.Finding)
			continue
		}
		this := reading{f.Finding, f.Point}
		if seen[this] {
			wrong.Add(at+".id", f.Finding, "each finding once at an operating point", "%q is given twice: keep one", f.Finding)
		}
		seen[this] = true
		if f.Point != "" && e.pointless(f) {
			wrong.Add(at+".point", f.Point, units.Sentence(strings.Join(c.PointsOf(f.Finding), ", ")),
				"%q is not told at such a point: leave it out where it is the same at each", f.Finding)
		}
		if math.IsNaN(f.Q) || f.Q < 0 || f.Q > 1 {
			wrong.Add(at+".q", f.Q, "0 to 1", "a normalised likelihood lies between 0 and 1")
		}
		if f.Looks < 0 || f.Looks > MostLooks {
			wrong.Add(at+".looks", f.Looks, units.Say("0 to %d", MostLooks), "more looks than that add nothing")
		}
		group, grouped := c.GroupOf(f.Finding)
		if !grouped || f.Q == 0 {
			continue
		}
		if other, taken := chosen[group]; taken {
			g, _ := c.Group(group)
			wrong.Add(at+".id", f.Finding, units.Sentence("one of "+strings.Join(g.Findings, ", ")),
				"%s cannot be both %q and %q: keep the one that is so", g.Label, other, f.Finding)
		}
		chosen[group] = f.Finding
	}
}
