package eventlog

import "fmt"

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

// LastSaved is the standing entry by which the facts of a craft or an engine were saved last; not ok when there is none.
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
