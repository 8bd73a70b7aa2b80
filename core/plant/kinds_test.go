package plant_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/plant"
)

func kind(t *testing.T, id string) plant.Type {
	t.Helper()
	for _, k := range plant.Types() {
		if k.ID == id {
			return k
		}
	}
	t.Fatal("no kind of engine: ", id)
	return plant.Type{}
}

func kindPlant(t *testing.T, id string) plant.Plant {
	t.Helper()
	k := kind(t, id)
	return plantOf(t, k, k.Circuit)
}

// Each kind is the nearest to itself, holds its thermostat in health at rated speed in a cold sea, and is not hot at its
// own cruise in a warm one.
func TestEveryKindOfEngineKeepsItsTemperatureInHealth(t *testing.T) {
	for _, k := range plant.Types() {
		assert.Equal(t, k.ID, plant.TypeFor(k.Family, k.Fuel, k.Aspiration, k.RatedKW).ID)
		p := plantOf(t, k, k.Circuit)
		for share, seaC := range map[float64]float64{1: 12, 0.8: 28} {
			s, err := p.Steady(plant.Operation{RPM: share * k.RatedRPM, Load: 1, SeaC: seaC, Salinity: 35, SpaceC: 35}, plant.Well())
			require.NoError(t, err)
			assert.InDelta(t, k.ThermostatC+4, s.BlockC, 6, "%s at %.0f %%", k.ID, 100*share)
		}
	}
}

// The nearest kind: the family stands over the fuel, the fuel over how it breathes, that over its power.
func TestTheNearestKindOfEngine(t *testing.T) {
	for _, tc := range []struct {
		family string
		fuel   plant.Fuel
		breath plant.Aspiration
		kW     float64
		is     string
	}{{plant.Closed, plant.Diesel, plant.Natural, 29, "small-diesel"}, {plant.Closed, plant.Diesel, plant.Natural, 31, "diesel"},
		{plant.Closed, plant.Diesel, plant.Natural, 400, "diesel"}, {plant.Closed, plant.Diesel, plant.Turbo, 20, "turbo-diesel"},
		{plant.Closed, plant.Petrol, plant.Turbo, 250, "petrol-v8"}, {plant.Direct, plant.Petrol, plant.Natural, 12, "raw-petrol-v8"},
		{plant.Direct, plant.Diesel, plant.Turbo, 200, "old-diesel"}} {
		assert.Equal(t, tc.is, plant.TypeFor(tc.family, tc.fuel, tc.breath, tc.kW).ID, tc)
	}
}

// Handbook of the trade, from memory: a petrol V8 on a drive leg passes about 135 L/min at rated speed; a small diesel
// warms to its thermostat at idle out of gear in about 20 to 40 min, a V8 at 1,000 to 1,500 rev/min in some quarter of
// an hour; turning over, a diesel of 2 L (here 35 kW) takes about 1 L/h, a petrol V8 of 5.7 L about 2 L/h.
func TestWarmUpAndFuelAtIdleAreThoseOfRealEngines(t *testing.T) {
	v8 := kindPlant(t, "raw-petrol-v8")
	s, err := v8.Steady(plant.Operation{RPM: 4600, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}, plant.Well())
	require.NoError(t, err)
	assert.InDelta(t, 135, s.RawLMin, 4)
	assert.InDelta(t, 240, v8.BlockKJK, 0)

	minutes := func(id string, rpm float64) float64 {
		k := kind(t, id)
		op := plant.Operation{RPM: rpm, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 15, OutOfGear: true}
		m, err := plantOf(t, k, k.Circuit).Follow(15, []plant.Phase{{UntilS: 2 * 3600, Operation: op, Health: plant.Well()}}, 30)
		require.NoError(t, err)
		for _, x := range m {
			if x.BlockC >= k.ThermostatC-3 {
				return x.Seconds / 60
			}
		}
		return 120
	}
	for _, id := range []string{"small-diesel", "diesel", "old-diesel"} {
		assert.InDelta(t, 30, minutes(id, 800), 10, id)
	}
	assert.InDelta(t, 12, minutes("raw-petrol-v8", 1250), 4)
	assert.Less(t, minutes("petrol-v8", 1500), 20.0)

	diesel := kindPlant(t, "diesel").Engine
	assert.InDelta(t, 1, diesel.OutOfGear(750).FuelLH*35/60, 0.2)
	assert.InDelta(t, 2, v8.Engine.OutOfGear(650).FuelLH, 0.3)
	assert.InDelta(t, diesel.At(3000).FuelLH-diesel.At(3000).PowerKW/0.45*3.6/42.8/0.84, diesel.OutOfGear(3000).FuelLH, 0.01,
		"at rated speed it is friction alone")
}
