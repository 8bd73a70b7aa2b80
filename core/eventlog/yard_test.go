package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/wetwork"
)

func yardEntry(id string, kind eventlog.Kind, b eventlog.Body) eventlog.Entry {
	return eventlog.Entry{ID: id, Subject: eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.YardID}, Kind: kind,
		Body: b}
}

// Tasks and methods: a changed task takes the shipped one's place, giving it back brings that again, an own one goes;
// what is taken back never was.
func TestTheYardsBook(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	changed, _ := c.Task("thermostat-change")
	changed.Label = "Thermostat, our way"
	own := changed
	own.ID, own.Label = "own", "Ours"
	label := func(entries []eventlog.Entry, id string) string {
		for _, x := range eventlog.FoldYard(c, entries).Tasks {
			if x.ID == id {
				return x.Label
			}
		}
		return ""
	}
	entries := []eventlog.Entry{yardEntry("a", eventlog.TaskSaved, eventlog.Body{Task: &eventlog.TaskOf{Task: changed}}),
		yardEntry("b", eventlog.TaskSaved, eventlog.Body{Task: &eventlog.TaskOf{Task: own}})}
	assert.Equal(t, "Thermostat, our way", label(entries, "thermostat-change"))
	assert.Equal(t, "Ours", label(entries, "own"))
	assert.Len(t, eventlog.FoldYard(c, entries).Tasks, len(c.Tasks)+1)
	given := append(entries, yardEntry("c", eventlog.TaskSaved, eventlog.Body{Task: &eventlog.TaskOf{Task: changed,
		Gone: true}}), yardEntry("d", eventlog.TaskSaved, eventlog.Body{Task: &eventlog.TaskOf{Task: own, Gone: true}}))
	assert.Equal(t, "Thermostat", label(given, "thermostat-change"))
	assert.Empty(t, label(given, "own"))
	assert.Empty(t, eventlog.FoldYard(c, given).Own)
	undone := append(entries, yardEntry("e", eventlog.Undo, eventlog.Body{Undoes: "b"}))
	assert.Empty(t, label(undone, "own"))
}

func TestSchoolsAndProductsOfTheYard(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	mix := wetwork.Product{ID: "mix", Label: "Dock mix", PartsWater: 4}
	entries := []eventlog.Entry{yardEntry("a", eventlog.Chosen, eventlog.Body{Method: &eventlog.Method{Question: "seals",
		School: "sound"}}), yardEntry("b", eventlog.Stocked, eventlog.Body{Product: &eventlog.ProductOf{Product: mix}})}
	b := eventlog.FoldYard(c, entries)
	assert.Equal(t, "sound", b.Schools["seals"])
	assert.Equal(t, "pot", b.Schools["thermostat"], "the default where nothing was chosen")
	assert.Equal(t, mix, b.Products[len(b.Products)-1])
	b = eventlog.FoldYard(c, append(entries, yardEntry("c", eventlog.Stocked,
		eventlog.Body{Product: &eventlog.ProductOf{Product: mix, Gone: true}})))
	assert.Len(t, b.Products, len(wetwork.Products))
	for name, e := range map[string]eventlog.Entry{
		"no such school": yardEntry("x", eventlog.Chosen, eventlog.Body{Method: &eventlog.Method{Question: "seals",
			School: "luck"}}),
		"no items": yardEntry("x", eventlog.TaskSaved,
			eventlog.Body{Task: &eventlog.TaskOf{Task: catalogue.Task{ID: "t", Label: "T"}}}),
		"no strength": yardEntry("x", eventlog.Stocked,
			eventlog.Body{Product: &eventlog.ProductOf{Product: wetwork.Product{ID: "p", Label: "P", Acid: wetwork.Citric}}}),
		"not the yard's": yardEntry("x", eventlog.Noted, eventlog.Body{Words: "hello"}),
	} {
		assert.Error(t, eventlog.CheckYardEntry(c, e), name)
	}
	for _, e := range entries {
		assert.NoError(t, eventlog.CheckYardEntry(c, e))
	}
}
