package eventlog

import (
	"maps"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/teardown"
)

// Question is what the diagnosis is asked for this job on this engine, of which some accesses are open.
func (j *Job) Question(e EngineFacts, open []string) diagnosis.Question {
	return j.question(e, open, j.Findings, 0)
}

// ProvedFrom is where among the job's entries its last proving run begins, but for one that was dropped; 0 without one.
func (j *Job) ProvedFrom() int {
	for _, r := range slices.Backward(j.Proving.Runs) {
		if r.Dropped == nil {
			return r.Order
		}
	}
	return 0
}

// QuestionUntil is the question as it stood at a place among the job's entries.
func (j *Job) QuestionUntil(e EngineFacts, open []string, order int) diagnosis.Question {
	until := slices.DeleteFunc(slices.Clone(j.Findings), func(s Statement) bool { return s.Order > order })
	return j.question(e, open, until, 0)
}

// Repaired are those of the faults found of which somebody said, after the look that showed each and before a place
// among the job's entries, that they are put right. A part that went in says nothing of what else was found.
func (j *Job) Repaired(c *catalogue.Catalogue, found []string, order int) (list []string) {
	for _, id := range found {
		if at := j.putRight[id]; j.seenAt(c, id) < at && at < order {
			list = append(list, id)
		}
	}
	return list
}

// PutRight lists what somebody says is put right, and what was not seen again since.
func (j *Job) PutRight(c *catalogue.Catalogue) []teardown.Done {
	return slices.DeleteFunc(slices.Clone(j.Teardown.PutRight),
		func(d teardown.Done) bool { return j.putRight[d.Item] <= j.seenAt(c, d.Item) })
}

// seenAt is where among the job's entries a fault was last seen by a sure look of it.
func (j *Job) seenAt(c *catalogue.Catalogue, fault string) (order int) {
	f, _ := c.Fault(fault)
	for _, s := range j.Findings {
		if s.Q == 1 && slices.ContainsFunc(f.Sure, func(l catalogue.SureLook) bool { return l.Finding == s.ID }) {
			order = max(order, s.Order)
		}
	}
	return order
}

// QuestionSince is the question of an engine of which faults were put right at a place among the job's entries: the
// complaint and the readings of before are history. Looks of before still count where they showed nothing, or what
// nobody put right; what was put right was looked at as it went in.
func (j *Job) QuestionSince(c *catalogue.Catalogue, e EngineFacts, open []string, order int,
	repaired []string) diagnosis.Question {
	gone := map[string]string{} // by finding: the check that showed what is put right
	for _, id := range repaired {
		f, _ := c.Fault(id)
		for _, look := range f.Sure {
			gone[look.Finding] = look.Check
		}
	}
	var since []Statement
	for _, s := range j.Findings {
		f, _ := c.Finding(s.ID)
		_, renewed := gone[s.ID]
		if s.Order > order || f.Source == catalogue.FromCheck && (s.Q == 0 || s.Q == 1 && !renewed && c.IsSureLook(s.ID)) {
			since = append(since, s)
			delete(gone, s.ID)
		}
	}
	for _, id := range slices.Sorted(maps.Keys(gone)) {
		since = append(since, Statement{ID: id, Check: gone[id]})
	}
	return j.question(e, open, since, order)
}

func (j *Job) question(e EngineFacts, open []string, findings []Statement, since int) diagnosis.Question {
	q := diagnosis.Question{Family: e.Family, Stations: e.Circuit, Strategy: j.Strategy, OpenAccess: open,
		PumpDrive: e.Cooling.PumpDrive}
	for _, h := range j.History {
		if h.Q > 0.5 {
			q.History = append(q.History, h.ID)
		}
	}
	for _, f := range findings {
		q.Findings = append(q.Findings, diagnosis.Evidence{Finding: f.ID, Point: f.Point, Q: f.Q,
			Looks: min(f.Looks, diagnosis.MostLooks)})
	}
	seen := map[string]bool{}
	for _, k := range j.Checks {
		if !seen[k.Check] && k.Order > since {
			q.Done = append(q.Done, k.Check)
			seen[k.Check] = true
		}
	}
	return q
}
