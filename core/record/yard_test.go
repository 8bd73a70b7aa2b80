package record_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/record"
	"hevrin/core/trade"
	"hevrin/core/wet"
)

func yardEntry(id string, kind record.Kind, b record.Body) record.Entry {
	return record.Entry{ID: id, Subject: record.Subject{Kind: record.OfYard, ID: record.YardID}, Kind: kind, Body: b}
}

// The yard's book: a changed task takes the shipped one's place, giving it back brings that again, an own one goes; what is
// taken back never was.
func TestTheYardsBook(t *testing.T) {
	c, err := trade.Load()
	require.NoError(t, err)
	changed, _ := c.Task("thermostat-change")
	changed.Label = "Thermostat, our way"
	own := changed
	own.ID, own.Label = "own", "Ours"
	label := func(entries []record.Entry, id string) string {
		for _, x := range record.YardBook(c, entries).Tasks {
			if x.ID == id {
				return x.Label
			}
		}
		return ""
	}
	entries := []record.Entry{yardEntry("a", record.TaskKept, record.Body{Task: &record.TaskOf{Task: changed}}), yardEntry("b", record.TaskKept, record.Body{Task: &record.TaskOf{Task: own}})}
	assert.Equal(t, "Thermostat, our way", label(entries, "thermostat-change"))
	assert.Equal(t, "Ours", label(entries, "own"))
	assert.Len(t, record.YardBook(c, entries).Tasks, len(c.Tasks)+1)
	given := append(entries, yardEntry("c", record.TaskKept, record.Body{Task: &record.TaskOf{Task: changed, Gone: true}}), yardEntry("d", record.TaskKept, record.Body{Task: &record.TaskOf{Task: own, Gone: true}}))
	assert.Equal(t, "Thermostat", label(given, "thermostat-change"))
	assert.Empty(t, label(given, "own"))
	assert.Empty(t, record.YardBook(c, given).Own)
	undone := append(entries, yardEntry("e", record.Undo, record.Body{Undoes: "b"}))
	assert.Empty(t, label(undone, "own"))
}

func TestSchoolsAndProductsOfTheYard(t *testing.T) {
	c, err := trade.Load()
	require.NoError(t, err)
	mix := wet.Product{ID: "mix", Label: "Dock mix", PartsWater: 4}
	entries := []record.Entry{yardEntry("a", record.Chosen, record.Body{Method: &record.Method{Question: "seals", School: "sound"}}), yardEntry("b", record.Stocked, record.Body{Product: &record.ProductOf{Product: mix}})}
	b := record.YardBook(c, entries)
	assert.Equal(t, "sound", b.Schools["seals"])
	assert.Equal(t, "pot", b.Schools["thermostat"], "the default where nothing was chosen")
	assert.Equal(t, mix, b.Products[len(b.Products)-1])
	b = record.YardBook(c, append(entries, yardEntry("c", record.Stocked, record.Body{Product: &record.ProductOf{Product: mix, Gone: true}})))
	assert.Len(t, b.Products, len(wet.Products))
	for name, e := range map[string]record.Entry{
		"no such school": yardEntry("x", record.Chosen, record.Body{Method: &record.Method{Question: "seals", School: "luck"}}),
		"no items":       yardEntry("x", record.TaskKept, record.Body{Task: &record.TaskOf{Task: trade.Task{ID: "t", Label: "T"}}}),
		"no strength":    yardEntry("x", record.Stocked, record.Body{Product: &record.ProductOf{Product: wet.Product{ID: "p", Label: "P", Acid: wet.Citric}}}),
		"not the yard's": yardEntry("x", record.Noted, record.Body{Words: "hello"}),
	} {
		assert.Error(t, record.CheckYardEntry(c, e), name)
	}
	for _, e := range entries {
		assert.NoError(t, record.CheckYardEntry(c, e))
	}
}
