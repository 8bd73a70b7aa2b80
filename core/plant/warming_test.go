package plant

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// With no water through it a block warms along an exponential, which is known in closed form: T∞ + (T₀ − T∞)·e^(−kt), with
// T∞ where it sheds what comes in and k its shedding over its heat capacity.
func TestABlockWithoutWaterWarmsAlongAnExponential(t *testing.T) {
	p := turbo(t)
	p.BoilsC = 1e6 // that it goes on
	op := Operation{RPM: 1700, Load: 0.1, SeaC: 16, Salinity: 35, SpaceC: 30}
	dry := Well()
	dry.PumpState = 0
	s, err := p.Steady(op, dry)
	require.NoError(t, err)
	ends := 30 + 1000*s.BlockKW/p.ShedWK
	k := p.ShedWK / (1000 * p.BlockKJK)
	at := func(from, seconds float64) float64 { return ends + (from-ends)*math.Exp(-k*seconds) }

	run, err := p.Follow(20, []Phase{{UntilS: 25, Operation: op, Health: dry}, {UntilS: 62, Operation: op, Health: dry}}, 10)
	require.NoError(t, err)
	var told []float64
	for _, m := range run {
		told = append(told, m.Seconds)
		assert.InDelta(t, at(20, m.Seconds), m.BlockC, 1e-6)
	}
	assert.InDeltaSlice(t, []float64{0, 10, 20, 30, 40, 50, 60, 62}, told, 1e-6)

	r := p.Running(20)
	for _, seconds := range []float64{0.5, 2.5, 30} {
		_, err := r.Step(op, dry, seconds)
		require.NoError(t, err)
	}
	state, err := r.Step(op, dry, 0)
	require.NoError(t, err)
	assert.InDelta(t, at(20, 33), state.BlockC, 1e-6)
	stopped := 30 + (state.BlockC-30)*math.Exp(-k*600)
	assert.InDelta(t, stopped, r.Stand(30, 600), 1e-9)

	// from where it stood in health to a limit: told to the second
	was, err := p.Steady(op, Well())
	require.NoError(t, err)
	limit := was.BlockC + 5
	want := -math.Log((limit-ends)/(was.BlockC-ends)) / k
	require.Less(t, want, 3600.0)
	seconds, ok, err := p.SecondsTo(limit, op, Well(), dry)
	require.NoError(t, err)
	require.True(t, ok)
	assert.InDelta(t, want, seconds, 1)
	_, ok, err = p.SecondsTo(at(was.BlockC, 3600)+0.1, op, Well(), dry)
	require.NoError(t, err)
	assert.False(t, ok, "not within an hour")
	_, ok, err = p.SecondsTo(at(was.BlockC, 3500), op, Well(), dry)
	require.NoError(t, err)
	assert.True(t, ok)
}

// It is not followed beyond boiling.
func TestItStopsAtBoiling(t *testing.T) {
	p := turbo(t)
	dry := Well()
	dry.PumpState = 0
	run, err := p.Follow(p.BoilsC-0.1, []Phase{{UntilS: 600, Operation: Operation{RPM: 3400, Load: 1, SeaC: 16, Salinity: 35,
		SpaceC: 30}, Health: dry}}, 60)
	require.NoError(t, err)
	assert.InDelta(t, p.BoilsC, run[len(run)-1].BlockC, 1e-9)
}

// A turbo diesel and a petrol engine at 0.6 of rated, each figure by its formula: friction r·(0.75 + 0.25·r), the fuel by
// the indicated efficiency, the rest shared out; a diesel's air by its own exponent, a petrol engine's with its fuel, its
// exhaust's share by its own.
func TestHeatByFormula(t *testing.T) {
	for _, fuel := range []Fuel{Diesel, Petrol} {
		e := Engine{Fuel: fuel, RatedKW: 180, RatedRPM: 4000, PropellerExponent: 2.5, HeatDefaults: DefaultsFor(fuel, Turbo, 180),
			ExhaustJKgK: 1150, AirC: 25}
		mj, density := 42.8, 0.84
		if fuel == Petrol {
			mj, density = 43.5, 0.745
		}
		const r = 0.6
		power := 180 * math.Pow(r, 2.5)
		friction := e.Friction * 180 * r * (0.75 + 0.25*r)
		burnt := (power + friction) / e.IndicatedEfficiency
		rejected := burnt - power
		exhaust := e.ExhaustShare * math.Pow(r, e.ExhaustExponent)
		charge := rejected * e.ChargeCoolerShare
		kgH := burnt / (1000 * mj) * 3600
		air := kgH * e.AirFuel
		if e.AirExponent > 0 {
			air = (180 + e.Friction*180) / e.IndicatedEfficiency / (1000 * mj) * 3600 * e.AirFuel * math.Pow(r, e.AirExponent)
		}
		h := e.At(2400)
		for name, x := range map[string][2]float64{"power": {power, h.PowerKW}, "fuel": {burnt, h.FuelKW},
			"litres": {kgH / density, h.FuelLH}, "coolant": {rejected * (e.CoolantShare + e.ExhaustShare - exhaust), h.CoolantKW},
			"oil": {rejected * e.OilShare, h.OilKW}, "charge": {charge, h.ChargeKW},
			"exhaust": {rejected*exhaust - charge, h.ExhaustKW}, "rest": {rejected * e.RestShare, h.OffKW},
			"gas": {air + kgH, h.GasKgH}, "air to fuel": {air / kgH, h.AirFuel},
			"gas temperature": {25 + 1000*(rejected*exhaust-charge)/((air+kgH)/3600*1150), h.GasC}} {
			assert.InEpsilon(t, x[0], x[1], 1e-9, "%s: %s", fuel, name)
		}
		idle := e.OutOfGear(800)
		assert.Zero(t, idle.PowerKW)
		own := e.Friction * 180 * 0.2 * (0.75 + 0.05) / e.IndicatedEfficiency
		assert.InEpsilon(t, own+e.Idle*180*0.8, idle.FuelKW, 1e-9)
		assert.InEpsilon(t, e.Friction*180*1.1*(0.75+0.275)/e.IndicatedEfficiency, e.OutOfGear(4400).FuelKW, 1e-9,
			"over rated speed nothing is added")
	}
	assert.NotEqual(t, DefaultsFor(Diesel, Natural, 29.9), DefaultsFor(Diesel, Natural, 30))
	assert.Equal(t, DefaultsFor(Diesel, Natural, 30), DefaultsFor(Fuel("coal"), Natural, 10))
	over := Engine{Fuel: Petrol, RatedKW: 100, RatedRPM: 4000, PropellerExponent: 3, HeatDefaults: DefaultsFor(Petrol, Natural,
		100), ExhaustJKgK: 1150, AirC: 25}
	h := over.At(4400) // the exhaust's share grows no more
	assert.InEpsilon(t, over.ExhaustShare, (h.ExhaustKW+h.ChargeKW)/(h.FuelKW-h.PowerKW), 1e-9)
}

// Water for an elbow, by hand, from the same balance that mixes: at the flow that it gives, the mix stands at the limit.
func TestWaterForALimit(t *testing.T) {
	x := Exhaust{GasKgH: 300, GasC: 450, WaterLMin: 1, WaterC: 30, Salinity: 35, PressureKPa: 101.325, SpecificHeatG: 1150}
	for _, limit := range []float64{45, 60, 75} {
		litres, ok := x.WaterFor(limit)
		require.True(t, ok)
		at := x
		at.WaterLMin = litres
		assert.InDelta(t, limit, at.Mix().MixedC, 0.01, "%g", limit)
		sensible, ok := x.WaterForSensible(limit)
		require.True(t, ok)
		at.WaterLMin = sensible
		assert.InDelta(t, limit, at.Mix().SensibleC, 0.01, "%g", limit)
		assert.Greater(t, sensible, litres, "what evaporates takes heat too")
	}
	for _, limit := range []float64{30, 29} { // no colder than the water
		_, ok := x.WaterFor(limit)
		assert.False(t, ok)
		_, ok = x.WaterForSensible(limit)
		assert.False(t, ok)
	}
	for _, limit := range []float64{450, 460} { // cool enough without
		litres, ok := x.WaterFor(limit)
		assert.True(t, ok)
		assert.Zero(t, litres)
		litres, ok = x.WaterForSensible(limit)
		assert.True(t, ok)
		assert.Zero(t, litres)
	}
	x.WaterLMin = 0.5
	m := x.Mix()
	assert.True(t, m.Dry, "so little is all steam")
	assert.InEpsilon(t, m.WaterKgS, m.VapourKgS, 1e-6)
	x.WaterLMin = 40
	m = x.Mix()
	assert.False(t, m.Dry)
	assert.InEpsilon(t, m.GasKgS*m.SaturatedAt, m.VapourKgS, 1e-9, "the gas is full")
	assert.Less(t, m.MixedC, m.SensibleC)
}
