package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// Of a task that others changed after what was seen of the log the second is told; of another task, of what was taken
// back, and of whoever did not look, nothing is.
func TestATaskChangedSinceIsTold(t *testing.T) {
	task := func(id, of string) eventlog.Entry {
		return eventlog.Entry{ID: id, Kind: eventlog.TaskSaved, By: "By " + id,
			Body: eventlog.Body{Task: &eventlog.TaskOf{Task: catalogue.Task{ID: of, Label: of}}}}
	}
	log := []eventlog.Entry{task("1", "impeller"), task("2", "thermostat"), task("3", "impeller"),
		{ID: "4", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "3"}}}
	for _, c := range []struct {
		entries    int
		task, seen string
		by         string // of whom it is told; empty: nothing
	}{
		{3, "impeller", "1", "By 3"}, {3, "impeller", "2", "By 3"}, {3, "impeller", "3", ""}, {3, "thermostat", "1", "By 2"},
		{3, "thermostat", "2", ""}, {3, "elbow", eventlog.NothingSeen, ""}, {1, "impeller", eventlog.NothingSeen, "By 1"},
		{0, "impeller", eventlog.NothingSeen, ""}, {3, "impeller", "not there", ""}, {4, "impeller", "1", ""},
	} {
		err := eventlog.CheckTaskSeen(log[:c.entries], c.task, c.seen)
		if c.by == "" {
			assert.NoError(t, err, "%+v", c)
			continue
		}
		var crossed *eventlog.Crossed
		if assert.ErrorAs(t, err, &crossed, "%+v", c) {
			assert.Equal(t, c.by, crossed.By, "%+v", c)
		}
	}
}
