package plant_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/fluid"
	"hevrin/core/plant"
)

func engine(f plant.Fuel, a plant.Aspiration, kw, rpm, e float64) plant.Engine {
	return plant.Engine{Fuel: f, RatedKW: kw, RatedRPM: rpm, PropellerExponent: e, HeatDefaults: plant.DefaultsFor(f, a,
		kw), ExhaustJKgK: fluid.ExhaustSpecificHeat, AirC: 25}
}

var kinds = []plant.Engine{
	engine(plant.Diesel, plant.Natural, 15, 3000, 3), engine(plant.Diesel, plant.Natural, 60, 3000, 3),
	engine(plant.Diesel, plant.Turbo, 220, 3400, 2.5), engine(plant.Petrol, plant.Natural, 150, 4600, 2.5),
	engine(plant.Petrol, plant.Turbo, 180, 5000, 2.5),
}

func TestTheFuelsEnergyIsAccountedFor(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		e := rapid.SampledFrom(kinds).Draw(t, "engine")
		rpm := e.RatedRPM * rapid.Float64Range(0.2, 1.1).Draw(t, "r")
		h := e.At(rpm)
		require.InEpsilon(t, h.FuelKW, h.PowerKW+h.CoolantKW+h.OilKW+h.ExhaustKW+h.ChargeKW+h.OffKW, 1e-9)
		more := e.At(rpm * 1.01)
		require.Greater(t, more.CoolantKW, h.CoolantKW)
		require.Greater(t, more.FuelLH, h.FuelLH)
	})
}

// Worked by hand for 60 kW at 3000, at 2400: r 0.8; P = 60 · 0.512 = 30.72; friction 60 · 0.17 · 0.8 · 0.95 =
// 7.752; fuel 38.472/0.45 = 85.493 kW; at 42.8 MJ/kg 7.1911 kg/h; over 0.84 kg/L 8.5608 L/h; coolant 0.43 · 54.773 =
// 23.553.
func TestHeatByHand(t *testing.T) {
	h := kinds[1].At(2400)
	assert.InDelta(t, 30.72, h.PowerKW, 1e-9)
	assert.InDelta(t, 85.493, h.FuelKW, 1e-3)
	assert.InDelta(t, 8.5608, h.FuelLH, 1e-3)
	assert.InDelta(t, 23.553, h.CoolantKW, 1e-3)
}

// Common practice: at rated power a diesel burns 200 to 290 g/kWh and its exhaust has 300 to 650 °C before the elbow
// (behind a turbine it is the cooler), a petrol engine's 600 to 850; idle exhausts are cooler than full ones.
func TestEnginesReadLikeRealOnes(t *testing.T) {
	for _, e := range kinds {
		full, idle := e.At(e.RatedRPM), e.At(0.25*e.RatedRPM)
		low, high := 300.0, 650.0
		if e.Fuel == plant.Petrol {
			low, high = 600, 850
		} else {
			gkWh := full.FuelLH * 840 / full.PowerKW
			assert.True(t, gkWh > 200 && gkWh < 290, "%v kW: %.0f g/kWh", e.RatedKW, gkWh)
		}
		assert.True(t, full.GasC > low && full.GasC < high, "%s %v kW: %.0f °C", e.Fuel, e.RatedKW, full.GasC)
		assert.LessOrEqual(t, idle.GasC, full.GasC+1)
		shares := e.CoolantShare + e.OilShare + e.ExhaustShare + e.RestShare
		assert.InDelta(t, 1, shares, 1e-9, "the shares of %s %v kW", e.Fuel, e.RatedKW)
	}
}

var elbow = plant.Exhaust{GasKgH: 280, GasC: 420, WaterLMin: 45, WaterC: 31, Salinity: 35, PressureKPa: 101.325,
	SpecificHeatG: 1100}

func TestTheElbowsHeatBalances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := plant.Exhaust{GasKgH: rapid.Float64Range(10, 3000).Draw(t, "gas"), GasC: rapid.Float64Range(100, 850).Draw(t,
			"T"),
			WaterLMin: rapid.Float64Range(0.05, 400).Draw(t, "water"), WaterC: rapid.Float64Range(0, 80).Draw(t, "t"),
			Salinity:    rapid.Float64Range(0, 42).Draw(t, "S"),
			PressureKPa: 103, SpecificHeatG: 1100}
		m := x.Mix()
		gives := m.GasKgS * 1100 * (x.GasC - m.MixedC)
		takes := m.WaterKgS*m.WaterHeat*(m.MixedC-x.WaterC) + m.VapourKgS*fluid.LatentHeat(m.MixedC)
		require.InDelta(t, gives, takes, 1e-6*gives+1e-3)
		require.LessOrEqual(t, m.VapourKgS, m.WaterKgS*(1+1e-9))
		require.LessOrEqual(t, m.MixedC, max(m.SensibleC, x.WaterC)+1e-6, "evaporation cools")
		more := x
		more.WaterLMin *= 1.1
		if m.MixedC > x.WaterC { // else the gas is so cool and dry that more water only warms it
			require.LessOrEqual(t, more.Mix().MixedC, m.MixedC+1e-6, "more water, cooler hose")
		}
	})
}

func TestTheWaterForALimitGivesThatLimit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := elbow
		x.GasC = rapid.Float64Range(150, 800).Draw(t, "gas")
		limit := rapid.Float64Range(45, 98).Draw(t, "limit")
		need, ok := x.WaterFor(limit)
		require.True(t, ok)
		x.WaterLMin = need
		require.InDelta(t, limit, x.Mix().MixedC, 1e-4)
		sure, ok := x.WaterForSensible(limit)
		require.True(t, ok)
		require.GreaterOrEqual(t, sure, need)
		x.WaterLMin = sure
		require.InDelta(t, limit, x.Mix().SensibleC, 1e-6)
	})
	_, ok := elbow.WaterFor(30)
	assert.False(t, ok, "no water colder than the limit")
	_, ok = elbow.WaterForSensible(30)
	assert.False(t, ok)
	cold := elbow
	cold.GasC = 60
	none, ok := cold.WaterFor(70)
	assert.True(t, ok)
	assert.Zero(t, none)
}

// Worked by hand: 0.0778 kg/s gas at 420 °C, 0.1 L/min of fresh water at 20 °C (0.001664 kg/s): all of it evaporates.
// 0.0778 · 1100 (420 − T) = 0.001664 (4184 (T − 20) + 2.501e6 − 2361 T): 35933 − 85.56 T = 3.034 T + 4022: T =
// 360.2.
func TestDryExhaustByHand(t *testing.T) {
	x := plant.Exhaust{GasKgH: 280, GasC: 420, WaterLMin: 0.1, WaterC: 20, PressureKPa: 101.325, SpecificHeatG: 1100}
	m := x.Mix()
	assert.True(t, m.Dry)
	assert.InDelta(t, 360.2, m.MixedC, 0.3)
	assert.False(t, elbow.Mix().Dry)
}
