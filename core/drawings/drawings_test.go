package drawings_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/drawings"
)

func shipped(t *testing.T) *catalogue.Catalogue {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

// Every check, answer, access and step of the catalogue names its plate or says why none.
func TestTheShippedDrawingsHoldTogether(t *testing.T) {
	assert.NoError(t, drawings.All().Prove(shipped(t)))
}

// An answer is told apart from its opposite, and the grades of a look from each other.
func TestAnswersLookDifferent(t *testing.T) {
	d, c := drawings.All(), shipped(t)
	for id, seen := range d.Findings {
		if seen.Absent != nil {
			assert.NotEqual(t, seen.Present, *seen.Absent, id)
		}
	}
	for _, g := range c.Grades {
		light := d.Findings[g.Light]
		for _, heavy := range g.Heavy {
			assert.NotEqual(t, light.Present, d.Findings[heavy].Present, "%s and %s", g.Light, heavy)
			require.NotNil(t, d.Findings[heavy].Absent, heavy)
		}
		require.NotNil(t, light.Absent, g.Light)
	}
	for _, g := range c.Groups {
		for i, a := range g.Findings {
			for _, b := range g.Findings[:i] {
				if seen, ok := d.Findings[a]; ok && seen.Present.None == "" {
					assert.NotEqual(t, seen.Present, d.Findings[b].Present, "%s and %s", a, b)
				}
			}
		}
	}
}

// What is missing or cannot be drawn is named.
func TestProveNamesWhatIsWrong(t *testing.T) {
	c := shipped(t)
	for name, row := range map[string]struct {
		spoil func(*drawings.Drawings)
		says  string
	}{
		"a check without":   {func(d *drawings.Drawings) { delete(d.Checks, "elbow-look") }, "checks.elbow-look"},
		"an answer without": {func(d *drawings.Drawings) { delete(d.Findings, "tubes-crusted") }, "findings.tubes-crusted"},
		"a station without": {func(d *drawings.Drawings) { delete(d.Stations, "elbow") }, "stations.elbow"},
		"a fault's extent": {func(d *drawings.Drawings) {
			d.Faults["tubes-scaled"] = drawings.Fault{Drawing: drawings.Drawing{Plate: "tubes", Show: map[string]float64{}},
				Extent: "debris"}
		}, "faults.tubes-scaled"},
		"an unknown fault":   {func(d *drawings.Drawings) { d.Faults["keel"] = drawings.Fault{} }, "faults.keel"},
		"an access without":  {func(d *drawings.Drawings) { delete(d.Access, "under-hull") }, "access.under-hull"},
		"an item without":    {func(d *drawings.Drawings) { delete(d.Items, "wear-plate") }, "pump-rebuild/wear-plate"},
		"a step too few":     {func(d *drawings.Drawings) { d.Steps["pump-rebuild"] = nil }, "steps.pump-rebuild"},
		"a look after":       {func(d *drawings.Drawings) { d.After["sand-flush"] = nil }, "after.sand-flush"},
		"no such plate":      {set(drawings.Drawing{Plate: "keel"}), "name a plate"},
		"no such view":       {set(drawings.Drawing{Plate: "elbow", View: "back"}), "name a view of elbow"},
		"no such share":      {set(drawings.Drawing{Plate: "elbow", Show: map[string]float64{"slack": 1}}), "elbow can show"},
		"more than all":      {set(drawings.Drawing{Plate: "elbow", Show: map[string]float64{"narrowed": 1.1}}), "as a share"},
		"less than nothing":  {set(drawings.Drawing{Plate: "elbow", Show: map[string]float64{"narrowed": -0.1}}), "as a share"},
		"neither nor":        {set(drawings.Drawing{}), "why none does"},
		"both":               {set(drawings.Drawing{Plate: "elbow", None: "words"}), "why none does"},
		"an unknown check":   {func(d *drawings.Drawings) { d.Checks["keel-look"] = drawings.Drawing{None: "x"} }, "keel-look"},
		"an unknown finding": {func(d *drawings.Drawings) { d.Findings["keel"] = drawings.Seen{None: "x"} }, "findings.keel"},
		"a plate unused": {func(d *drawings.Drawings) {
			d.Plates = append(d.Plates, drawings.Plate{ID: "keel", Label: "Keel", Says: "a keel"})
		}, "plates.keel"},
		"a plate without words": {func(d *drawings.Drawings) { d.Plates[0].Says = "" }, "plates.intake"},
	} {
		d := *drawings.All()
		d.Checks, d.Findings, d.Access, d.Items = clone(d.Checks), clone(d.Findings), clone(d.Access), clone(d.Items)
		d.Steps, d.After = clone(d.Steps), clone(d.After)
		d.Stations, d.Faults = clone(d.Stations), clone(d.Faults)
		d.Plates = append([]drawings.Plate{}, d.Plates...)
		row.spoil(&d)
		err := d.Prove(c)
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), row.says, name)
	}
	require.NoError(t, drawings.All().Prove(c), "the shipped ones are as they were")
}

func set(x drawings.Drawing) func(*drawings.Drawings) {
	return func(d *drawings.Drawings) { d.Checks["elbow-look"] = x }
}

func clone[T any](m map[string]T) map[string]T {
	out := map[string]T{}
	for k, v := range m {
		out[k] = v
	}
	return out
}

// What was found is drawn as far as it has gone; a fault without a picture of its own as its sure look shows it.
func TestAFaultIsDrawnAsFarAsItHasGone(t *testing.T) {
	d, c := drawings.All(), shipped(t)
	scaled, _ := c.Fault("tubes-scaled")
	assert.Equal(t, map[string]float64{"crust": 0.4}, d.Fault(scaled).GoneBy(0.4).Show)
	assert.InDelta(t, 0.5, d.Fault(scaled).Show["crust"], 0, "the shared one is as it was")
	elbow, _ := c.Fault("elbow-holed")
	assert.Equal(t, d.Findings["elbow-thin-or-holed"].Present, d.Fault(elbow).GoneBy(0.4))
}

// On a drive leg the leg's ports are drawn, not a grille in the hull.
func TestADriveLegIsDrawnAsOne(t *testing.T) {
	d := drawings.All()
	assert.Equal(t, "leg", d.On([]string{"intake", "raw-pump"}, d.Stations["intake"]).Plate)
	assert.Equal(t, "intake", d.On([]string{"intake", "seacock", "raw-pump"}, d.Stations["intake"]).Plate)
	assert.Equal(t, "elbow", d.On([]string{"intake"}, d.Stations["elbow"]).Plate)
}

// A task's own item goes before what the item usually is.
func TestAnItemMayMeanAnotherThingInATask(t *testing.T) {
	d := drawings.All()
	usual, _ := d.Of("raw-pump-off", "pump")
	other, ok := d.Of("circ-pump-belt", "pump")
	require.True(t, ok)
	assert.Equal(t, "raw-pump", usual.Plate)
	assert.Equal(t, "circ-pump", other.Plate)
	_, ok = d.Of("raw-pump-off", "keel")
	assert.False(t, ok)
}

func TestReadRefusesWhatItDoesNotKnow(t *testing.T) {
	_, err := drawings.Read([]byte("plates:\n  - {id: a, colour: red}\n"))
	require.Error(t, err)
	assert.True(t, strings.HasPrefix(err.Error(), "drawings.yaml: "), err)
}
