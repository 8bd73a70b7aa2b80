package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/wetwork"
)

// Of a task that others changed after what was seen of the log the second is told; of another task, of what was taken
// back, and of whoever did not look, nothing is.
func TestATaskChangedSinceIsTold(t *testing.T) {
	task := func(id, of string) eventlog.Entry {
		return eventlog.Entry{ID: id, Kind: eventlog.TaskSaved, By: "By " + id,
			Body: eventlog.Body{Task: &eventlog.TaskOf{Task: catalogue.Task{ID: of, Label: of}}}}
	}
	knowledge, err := catalogue.Load()
	require.NoError(t, err)
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
		err := eventlog.CheckYardSeen(knowledge, log[:c.entries], task("new", c.task).Body, c.seen)
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

// So with the school that the yard follows and with a descaler: each by itself.
func TestASchoolOrAProductChangedSinceIsTold(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	m := c.Methods[0]
	school := eventlog.Body{Method: &eventlog.Method{Question: m.ID, School: m.Default}}
	product := eventlog.Body{Product: &eventlog.ProductOf{Product: wetwork.Products[0]}}
	log := []eventlog.Entry{{ID: "1", Kind: eventlog.Chosen, By: "A", Body: school},
		{ID: "2", Kind: eventlog.Stocked, By: "B", Body: product}}
	var crossed *eventlog.Crossed
	require.ErrorAs(t, eventlog.CheckYardSeen(c, log, school, eventlog.NothingSeen), &crossed)
	assert.Equal(t, eventlog.Crossed{By: "A", Name: m.Label}, *crossed)
	require.ErrorAs(t, eventlog.CheckYardSeen(c, log, product, "1"), &crossed)
	assert.Equal(t, "B", crossed.By)
	assert.NoError(t, eventlog.CheckYardSeen(c, log, school, "1"))
	other := eventlog.Body{Method: &eventlog.Method{Question: c.Methods[1].ID, School: c.Methods[1].Default}}
	assert.NoError(t, eventlog.CheckYardSeen(c, log, other, eventlog.NothingSeen))
}

// So with the figures that the yard goes by in place of the catalogue: base rates, minutes and a comeback each by itself.
// What the yard goes by says up to which entry it goes.
func TestFiguresChosenSinceAreTold(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	rates := eventlog.Body{Figures: &eventlog.Figures{What: eventlog.FiguresRates,
		Values: map[string]float64{"strainer-clogged": 0.2}}}
	back := eventlog.Body{Figures: &eventlog.Figures{What: eventlog.FiguresRates}}
	comeback := eventlog.Body{Figures: &eventlog.Figures{What: eventlog.FiguresComeback, Comeback: 90}}
	var log []eventlog.Entry
	seen := eventlog.FoldYard(c, log).Last
	assert.Equal(t, eventlog.NothingSeen, seen)
	log = append(log, eventlog.Entry{ID: "1", Kind: eventlog.FiguresSet, By: "A", Body: rates})
	var crossed *eventlog.Crossed
	require.ErrorAs(t, eventlog.CheckYardSeen(c, log, back, seen), &crossed)
	assert.Equal(t, eventlog.Crossed{By: "A", Name: "Base rates"}, *crossed)
	assert.NoError(t, eventlog.CheckYardSeen(c, log, comeback, seen))
	seen = eventlog.FoldYard(c, log).Last
	assert.Equal(t, "1", seen)
	assert.NoError(t, eventlog.CheckYardSeen(c, log, back, seen))
}
