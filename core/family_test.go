package core_test

import (
	"os"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/yardlist"
)

// A third family is a file, and the rest of the core goes by it: an engine of it is taken, from a list too, diagnosed,
// told to fill its coolant up, and modelled, as the closed-cooled one of the same circuit is.
func TestTheCoreGoesByAThirdFamily(t *testing.T) {
	file, err := os.ReadFile("catalogue/testdata/families/dry-exhaust.yaml")
	require.NoError(t, err)
	files := fstest.MapFS{"families/dry-exhaust.yaml": {Data: file}}
	entries, err := os.ReadDir("catalogue/data")
	require.NoError(t, err)
	for _, e := range entries {
		raw, err := os.ReadFile("catalogue/data/" + e.Name())
		require.NoError(t, err)
		files[e.Name()] = &fstest.MapFile{Data: raw}
	}
	c, err := catalogue.LoadFrom(files)
	require.NoError(t, err)
	family, _ := c.Family("dry-exhaust")
	own := eventlog.EngineFacts{Name: "Main", Family: family.ID, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 80,
		Circuit: family.Circuit}
	like := own
	like.Family = catalogue.Closed
	require.NoError(t, eventlog.CheckEngine(c, own))

	list, err := yardlist.Make(c, yardlist.Fleet, yardlist.Table{Columns: []string{"craft", "power", "cooling", "fuel"},
		Headings: []string{"Boat", "Power", "Cooling", "Fuel"}, Rows: [][]string{{"Ormsgill", "60", "dry stack", "diesel"}},
		First: 2, System: units.Metric}, yardlist.Held{}, time.Date(2026, 5, 4, 0, 0, 0, 0, time.UTC),
		func(key string) string { return key })
	require.NoError(t, err)
	require.Empty(t, list.Lines[0].Slips)
	listed := list.Lines[0].Acts[1].Body.Engine
	assert.Equal(t, family.ID, listed.Family)
	assert.Equal(t, family.Circuit, listed.Circuit, "no kind of it ships: its own circuit")
	assert.Equal(t, 80.0, listed.ThermostatC)

	ask := func(e eventlog.EngineFacts) *diagnosis.Answer {
		a, err := diagnosis.New(c).Diagnose(diagnosis.Question{Family: e.Family, Stations: e.Circuit,
			Findings: []diagnosis.Evidence{{Finding: "hot-under-load", Q: 1}, {Finding: "weak-water-at-outlet", Q: 1}}})
		require.NoError(t, err)
		return a
	}
	assert.Equal(t, ask(like), ask(own))

	assert.True(t, own.HasCoolant())
	state := enginestate.Fold(c, []eventlog.Entry{{ID: "a", At: time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC), By: "Kit Venn",
		Kind: eventlog.Checked, Body: eventlog.Body{Check: "coolant-level", Outcome: eventlog.Done,
			Stated: []eventlog.Stated{{ID: "level-low-cold", State: eventlog.Present}}}}})
	before := func(e eventlog.EngineFacts) (list []string) {
		for _, x := range state.Conditions(e) {
			list = append(list, x.Label)
		}
		return list
	}
	assert.Equal(t, before(like), before(own))
	assert.Contains(t, before(own), "Coolant filled up, cold")

	model := func(e eventlog.EngineFacts) plant.State {
		p, err := plant.New(plant.EngineFacts{Family: e.Family, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000,
			ThermostatC: 80, Circuit: e.Circuit})
		require.NoError(t, err)
		s, err := p.Steady(plant.Operation{RPM: 2400, Load: 1, SeaC: 18, Salinity: 35, SpaceC: 35}, plant.Well())
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, model(like), model(own))
}
