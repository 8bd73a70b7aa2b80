package catalogue_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestOtherNamesFindTheSameThing(t *testing.T) {
	c := load(t)
	for typed, text := range map[string]string{
		"antifreeze":        "Coolant low",
		"riser":             "Mixing elbow choked",
		"pencil zinc":       "Zinc anode",
		"sea strainer lid":  "Strainer lid draws air",
		"temperature gauge": "Gauge or its sender wrong",
		"IMPELLER":          "Impeller vanes missing",
	} {
		assert.Positive(t, c.SearchFor(typed).In(text), "%s in %s", typed, text)
	}
	for typed, text := range map[string]string{
		"":                 "Coolant low",
		"antifreeze riser": "Coolant low", // every word
		"propeller":        "Impeller vanes missing",
	} {
		assert.Zero(t, c.SearchFor(typed).In(text), "%s in %s", typed, text)
	}
}

func TestTheWordsThemselvesGoBeforeOtherNames(t *testing.T) {
	s := load(t).SearchFor("elbow")
	assert.Equal(t, 3, s.In("Elbow choked"))
	assert.Equal(t, 2, s.In("Mixing elbow"))
	assert.Equal(t, 1, s.In("Riser choked"))
	assert.Zero(t, s.In("Strainer"))
}
