package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

func TestWhatIsGivenOfAStateMeansTheSameAsOnRecord(t *testing.T) {
	e := closedEngine(t)
	check := func(id string) catalogue.Check {
		k, ok := book(t).Check(id)
		require.True(t, ok)
		return k
	}
	steps := func(g enginestate.Given, id string) map[string]bool {
		s, err := enginestate.FromGiven(book(t), g)
		require.NoError(t, err)
		known := map[string]bool{}
		for _, x := range s.Before(e, check(id)).Steps {
			known[x.ID] = x.Known
		}
		return known
	}
	assert.Equal(t, map[string]bool{"seacock-shut": false}, steps(enginestate.Given{}, "strainer-look"), "not known: told")
	assert.Equal(t, map[string]bool{"seacock-shut": true}, steps(enginestate.Given{Running: true}, "strainer-look"), "known to stand in the way: added")
	assert.Empty(t, steps(enginestate.Given{Isolated: []string{"seacock"}}, "strainer-look"))
	assert.Contains(t, steps(enginestate.Given{Heat: "hot"}, "coolant-level"), "engine-cold")
	assert.NotContains(t, steps(enginestate.Given{Heat: "cold"}, "coolant-level"), "engine-cold")
	assert.True(t, steps(enginestate.Given{OpenAccess: []string{"pump-cover-off"}}, "outlet-flow")["open:pump-cover-off"])
	for what, g := range map[string]enginestate.Given{"heat": {Heat: "tepid"}, "where": {Where: "moon"},
		"open_access": {OpenAccess: []string{"hatch"}}, "isolated": {Isolated: []string{"fridge"}}} {
		_, err := enginestate.FromGiven(book(t), g)
		assert.ErrorContains(t, err, what)
	}
}

// Over drawn states: no check that needs the engine running is offered for one that must not run.
func TestNoRunningCheckIsOfferedForAnEngineThatMustNotRun(t *testing.T) {
	dangers := []string{"milky-oil", "elbow-thin-or-holed", "hose-burnt-or-soft", "blades-missing", "blades-cracked-or-set",
		"level-low-cold"}
	rapid.Check(t, func(rt *rapid.T) {
		g := enginestate.Given{Heat: rapid.SampledFrom(append([]string{""}, teardown.Heats...)).Draw(rt, "heat"),
			Where:   rapid.SampledFrom(append([]string{""}, teardown.Where...)).Draw(rt, "where"),
			Running: rapid.Bool().Draw(rt, "running")}
		if rapid.Bool().Draw(rt, "coolant drained") {
			g.Isolated = append(g.Isolated, "coolant")
		}
		danger := rapid.SampledFrom(dangers).Draw(rt, "danger")
		g.Seen = []eventlog.Stated{{ID: danger,
			State: rapid.SampledFrom([]string{eventlog.Present, eventlog.Unsure}).Draw(rt, "state")}}
		s, err := enginestate.FromGiven(book(rt), g)
		require.NoError(rt, err)
		e := closedEngine(rt)
		barred := s.Ahead(e).Barred
		for _, k := range book(rt).Checks {
			if _, here := book(rt).StationOf(k, e.Family, e.Circuit); here && k.Engine == catalogue.Running {
				require.NotEmpty(rt, barred[k.ID], "%s with %s", k.ID, danger)
			}
		}
	})
}
