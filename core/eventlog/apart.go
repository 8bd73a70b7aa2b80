package eventlog

import (
	"slices"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// Two devices without a link between them may answer the same question, and what arrives last need not be what was
// seen last. What was seen last stands, whenever it arrives. Where another person saw it otherwise both answers are
// kept side by side until somebody answers once more.

// Disagreement is a question that two people answered differently, neither knowing of the other.
type Disagreement struct {
	Stands Statement // as seen last
	Other  Statement // as seen before, or arrived after
}

// waited is how long an entry was under way at least that waited for a link: whoever tapped it may not have known what
// others had said meanwhile. One that did not wait is the newest whatever the clock says, which may have been set back.
const waited = time.Minute

// Waited says whether an entry was saved long after it happened.
func (e Entry) Waited() bool { return e.At.Sub(e.Happened()) >= waited }

// seenOf is what stands of what s speaks of: of its finding at the same operating point, and, where s states an option
// of a group present, of the others.
func (j *Job) seenOf(c *catalogue.Catalogue, s Stated, is Statement) (list []Statement) {
	is.ID = s.ID
	var group []string
	if id, grouped := c.GroupOf(s.ID); grouped && s.State == Present {
		g, _ := c.Group(id)
		group = g.Findings
	}
	for _, k := range j.Findings {
		if is.sameAs(k) || slices.Contains(group, k.ID) && k.Q == 1 {
			list = append(list, k)
		}
	}
	return list
}

// qOf is the likelihood that an answer is; not ok for one that takes an answer away.
func qOf(s Stated) (q float64, ok bool) {
	switch {
	case s.Q != nil:
		return *s.Q, true
	case s.State == Present:
		return 1, true
	case s.State == Absent:
		return 0, true
	case s.State == Unsure:
		return diagnosis.UnsureQ, true
	}
	return 0, false
}

// overtaken says whether what an entry states was seen before what stands of it, and so does not replace it. Where two
// people differ that is remembered, until one of them, or somebody else, says it once more.
func (j *Job) overtaken(c *catalogue.Catalogue, e Entry, s Stated, is Statement) bool {
	seen := j.seenOf(c, s, is)
	q, answers := qOf(s)
	is.ID, is.Q = s.ID, q
	under := e.Waited()
	late := under && slices.ContainsFunc(seen, func(k Statement) bool { return k.From.At.After(is.From.At) })
	if !late { // the newest: whatever was open of it is settled
		j.Apart = slices.DeleteFunc(slices.Clone(j.Apart), func(d Disagreement) bool {
			return d.Stands.sameAs(is) || d.Other.sameAs(is) || slices.ContainsFunc(seen, d.Stands.sameAs)
		})
	}
	for _, k := range seen {
		if !answers || k.From.By == e.By || k.ID == is.ID && k.Q == is.Q {
			continue
		}
		switch {
		case late && k.From.At.After(is.From.At):
			j.Apart = append(slices.Clone(j.Apart), Disagreement{Stands: k, Other: is})
		case under && !late:
			j.Apart = append(slices.Clone(j.Apart), Disagreement{Stands: is, Other: k})
		}
	}
	return late
}
