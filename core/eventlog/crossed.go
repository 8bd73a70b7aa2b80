package eventlog

import (
	"fmt"
	"slices"

	"hevrin/core/catalogue"
)

// Crossed says that somebody else saved the facts of a craft or an engine after they were opened to be changed, so that
// the change that was sent would undo theirs unseen. Nothing of it was kept.
type Crossed struct {
	By   string
	Name string // of what was changed
}

// Error says it in words.
func (c *Crossed) Error() string {
	return fmt.Sprintf("%s was changed by %s after you opened it: look at both, and choose", c.Name, c.By)
}

// LastSaved is the standing entry by which the facts of a craft or an engine were saved last; not ok when there is
// none.
func LastSaved(entries []Entry) (last Entry, ok bool) {
	for _, e := range Standing(entries) {
		if e.Body.Craft != nil || e.Body.Engine != nil {
			last, ok = e, true
		}
	}
	return last, ok
}

// CheckSeen refuses to change facts that were saved by another entry than the one seen; nothing seen: no check.
func CheckSeen(entries []Entry, seen string) error {
	last, ok := LastSaved(entries)
	if seen == "" || !ok || last.ID == seen {
		return nil
	}
	c := &Crossed{By: last.By}
	if last.Body.Craft != nil {
		c.Name = last.Body.Craft.Name
	} else {
		c.Name = last.Body.Engine.Name
	}
	return c
}

// NothingSeen is what somebody has seen of a log that was empty.
const NothingSeen = "none"

// CheckYardSeen refuses to change a task, a school or a product that another entry changed after the last one seen of
// the yard's log; nothing seen, or an entry that is not there: no check.
func CheckYardSeen(c *catalogue.Catalogue, entries []Entry, change Body, seen string) error {
	after := slices.IndexFunc(entries, func(e Entry) bool { return e.ID == seen })
	if seen != NothingSeen && after < 0 {
		return nil
	}
	wanted, name := change.ofYard(c)
	var crossed *Crossed
	for _, e := range Standing(entries[after+1:]) {
		if is, _ := e.Body.ofYard(c); is != "" && is == wanted {
			crossed = &Crossed{By: e.By, Name: name}
		}
	}
	if crossed == nil {
		return nil
	}
	return crossed
}

// ofYard names what a body changes of the yard's methods: a key, and a name for people. Empty: nothing of them.
func (b Body) ofYard(c *catalogue.Catalogue) (key, name string) {
	switch {
	case b.Task != nil:
		return "task/" + b.Task.Task.ID, b.Task.Task.Label
	case b.Method != nil:
		m, _ := c.Method(b.Method.Question)
		return "method/" + b.Method.Question, m.Label
	case b.Figures != nil:
		return "figures/" + b.Figures.What, figuresNames[b.Figures.What]
	case b.Product != nil:
		return "product/" + b.Product.Product.ID, b.Product.Product.Label
	}
	return "", ""
}
