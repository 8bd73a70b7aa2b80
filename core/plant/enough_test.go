package plant_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/plant"
	"hevrin/core/units"
)

func enoughPlant(t *testing.T) (plant.Plant, plant.Operation) {
	t.Helper()
	p, err := plant.New(plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000,
		ThermostatC: 82, Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter",
			"gear-cooler", "exchanger", "raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block",
			"thermostat", "coolant-hoses", "gauge", "load"}})
	require.NoError(t, err)
	return p, plant.Operation{RPM: 2600, Load: 1, SeaC: 18, Salinity: 35, SpaceC: 35}
}

// The handbook's own example: an elbow narrowed by 20 % costs about 1 °C at 2600 rev/min, not what overheated it. A crust
// that fills two fifths of the bores' area is: a layer of 0.7 mm in a tube of 6 mm.
func TestASlightlyNarrowedElbowIsNotWhatOverheatedIt(t *testing.T) {
	p, op := enoughPlant(t)
	e, err := p.Enough(op, "elbow-choked", 0.2, 0.2, 90)
	require.NoError(t, err)
	assert.Equal(t, plant.NotEnough, e.Verdict)
	assert.LessOrEqual(t, e.LeastC-e.HealthyC, 1.5)
	assert.Contains(t, e.Say.In(units.Metric), "not what overheated it")
	e, err = p.Enough(op, "tubes-scaled", 0.4, 0.4, 90)
	require.NoError(t, err)
	assert.Equal(t, plant.EnoughAlone, e.Verdict)
	e, err = p.Enough(op, "tubes-scaled", 1.0/3, 0.8, 90)
	require.NoError(t, err)
	assert.Equal(t, plant.HangsOnIt, e.Verdict)
	assert.InDelta(t, 0.365, e.From, 0.005)
}

// The verdict goes from not enough over part to enough as a fault grows, and turns at the share that is told.
func TestWhatIsEnoughHangsOnHowFarItHasGone(t *testing.T) {
	p, op := enoughPlant(t)
	rank := map[plant.Sufficiency]int{plant.NotEnough: 0, plant.PartOfIt: 1, plant.EnoughAlone: 2}
	for _, f := range []string{"strainer-clogged", "impeller-vanes-missing", "tubes-blocked", "thermostat-shut",
		"coolant-low", "suction-hose-collapsed", "pump-belt-slipping"} {
		extent, ok := plant.ExtentOf(f)
		require.True(t, ok, f)
		whole, err := p.Enough(op, f, extent.Least, extent.Most, 90)
		require.NoError(t, err)
		assert.Equal(t, plant.HangsOnIt, whole.Verdict, f)
		require.False(t, math.IsNaN(whole.From), f)
		was, hot := 0, 0.0
		for share := 0.05; share < 0.98; share += 0.05 {
			e, err := p.Enough(op, f, share, share, 90)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, rank[e.Verdict], was, "%s at %.2f", f, share)
			assert.GreaterOrEqual(t, e.LeastC, hot-0.01, f)
			assert.Equal(t, share > whole.From, e.Verdict == plant.EnoughAlone, "%s at %.2f of %.2f", f, share, whole.From)
			was, hot = rank[e.Verdict], e.LeastC
		}
		assert.Equal(t, 2, was, f)
	}
}

func TestWhatTheModelCannotSay(t *testing.T) {
	p, op := enoughPlant(t)
	for _, f := range []string{"head-gasket-leak", "raw-hose-leak", "block-silted", "riser-choked", "no-such"} {
		e, err := p.Enough(op, f, 0.5, 0.5, 90)
		require.NoError(t, err)
		assert.Equal(t, plant.CannotSay, e.Verdict, f)
	}
	e, err := p.Enough(op, "strainer-clogged", 0.5, 0.5, 60) // in health it is hotter than that
	require.NoError(t, err)
	assert.Equal(t, plant.CannotSay, e.Verdict)
	for _, good := range [][2]float64{{0, 0}, {0, 1}, {1, 1}} {
		_, err = p.Enough(op, "strainer-clogged", good[0], good[1], 90)
		assert.NoError(t, err, good)
	}
	for _, bad := range [][2]float64{{-0.1, 0.5}, {0.6, 0.5}, {0.5, 1.1}, {math.NaN(), 0.5}} {
		_, err = p.Enough(op, "strainer-clogged", bad[0], bad[1], 90)
		assert.Error(t, err, bad)
	}
}

// Part of it begins at a quarter of what is to be explained.
func TestAQuarterIsPartOfIt(t *testing.T) {
	p, op := enoughPlant(t)
	e, err := p.Enough(op, "coolant-low", 0.3, 0.3, 90)
	require.NoError(t, err)
	rise := e.LeastC - e.HealthyC
	require.Positive(t, rise)
	for toC, is := range map[float64]plant.Sufficiency{e.HealthyC + 3.9*rise: plant.PartOfIt,
		e.HealthyC + 4.1*rise: plant.NotEnough, e.HealthyC + 0.99*rise: plant.EnoughAlone} {
		e, err := p.Enough(op, "coolant-low", 0.3, 0.3, toC)
		require.NoError(t, err)
		assert.Equal(t, is, e.Verdict, toC)
	}
}
