package eventlog

import (
	"fmt"
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// MostLeakPerDay is the most water that a leak is taken for, in litres a day: more sinks a boat before it is measured.
const MostLeakPerDay = 5000.0

// open takes in what a job was opened for: what it states is a symptom or a history item.
func (j *Job) open(c *catalogue.Catalogue, e Entry) {
	j.ID, j.EngineID, j.Words = e.Subject.ID, e.Body.EngineID, e.Body.Words
	j.OpenedAt, j.OpenedBy = e.Happened(), e.By
	if o := e.Body.Opening; o != nil {
		j.Opening = *o
	}
	seen := e
	seen.Body.Stated = nil
	for _, s := range e.Body.Stated {
		if _, past := c.HistoryItem(s.ID); past {
			j.History = restate(j.History, s, Statement{From: e.Source(), Order: j.order})
		} else {
			seen.Body.Stated = append(seen.Body.Stated, s)
		}
	}
	j.state(c, seen)
}

// OpeningStates lists what a job opened so takes as so, each once: what its kind and its water say, and what was seen
// beside.
func OpeningStates(c *catalogue.Catalogue, o Opening, seen []string) []Stated {
	kind, _ := c.JobKind(o.Kind)
	ids := slices.Concat(kind.Findings, kind.History)
	if o.Leak != nil {
		water, _ := c.Water(o.Leak.Water)
		ids = append(ids, water.Findings...)
	}
	var out []Stated
	for _, id := range slices.Concat(ids, seen) {
		if !slices.ContainsFunc(out, func(s Stated) bool { return s.ID == id }) {
			out = append(out, Stated{ID: id, State: Present})
		}
	}
	return out
}

// CheckOpening says what keeps a job from being opened so: a kind and a water of the catalogue, a plan of maintenance
// that the engine has where the kind asks for one and nowhere else, findings of the complaint and history items.
func CheckOpening(c *catalogue.Catalogue, engine EngineFacts, body Body) error {
	var wrong validation.Errors
	var o Opening
	if body.Opening != nil {
		o = *body.Opening
	}
	kind, ok := c.JobKind(o.Kind)
	if !ok {
		var ids []string
		for _, k := range c.JobKinds {
			ids = append(ids, k.ID)
		}
		wrong.Add("kind", o.Kind, units.Sentence(strings.Join(ids, ", ")), "there is no such kind of job")
	}
	if ok && kind.Begins != catalogue.Plan && len(o.Plan) > 0 {
		wrong.Add("plan", strings.Join(o.Plan, ", "), "nothing", "a job of kind %s looks for a cause: leave the plan out",
			kind.ID)
	}
	seen := map[string]bool{}
	for i, id := range o.Plan {
		at := fmt.Sprintf("plan[%d]", i)
		u, known := c.MaintenanceItem(id)
		_, left := maintenance.FollowUpOf(id)
		switch {
		case seen[id]:
			wrong.Add(at, id, "each once", "%q is given twice", id)
		case !left && (!known || !u.On(engine.Family, engine.Circuit)):
			wrong.Add(at, id, "maintenance of this engine", "this engine has no such maintenance item")
		}
		seen[id] = true
	}
	if l := o.Leak; l != nil {
		if _, known := c.Water(l.Water); !known && l.Water != "" {
			wrong.Add("leak.water", l.Water, "a kind of water of the catalogue", "there is no such kind of water")
		}
		if !(l.PerDay >= 0 && l.PerDay <= MostLeakPerDay) {
			wrong.Add("leak.litres_day", l.PerDay, units.Range(0, MostLeakPerDay, "L"), "say how many litres a day")
		}
	}
	for i, s := range body.Stated {
		f, symptom := c.Finding(s.ID)
		if _, past := c.HistoryItem(s.ID); !past && (!symptom || f.Source != catalogue.Complaint) {
			wrong.Add(fmt.Sprintf("stated[%d]", i), s.ID, "a symptom or a history item", "state what is seen without a look")
		}
	}
	return wrong.Err()
}
