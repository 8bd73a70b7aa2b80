package eventlog

import (
	"fmt"
	"slices"
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

// CheckTaskSeen refuses to change a task that another entry changed after the last one seen of the yard's log; nothing
// seen, or an entry that is not there: no check.
func CheckTaskSeen(entries []Entry, task, seen string) error {
	after := slices.IndexFunc(entries, func(e Entry) bool { return e.ID == seen })
	if seen != NothingSeen && after < 0 {
		return nil
	}
	var crossed *Crossed
	for _, e := range Standing(entries[after+1:]) {
		if t := e.Body.Task; t != nil && t.Task.ID == task {
			crossed = &Crossed{By: e.By, Name: t.Task.Label}
		}
	}
	if crossed == nil {
		return nil
	}
	return crossed
}
