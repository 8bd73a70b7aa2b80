package plant_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

var (
	closedCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter", "gear-cooler",
		"oil-cooler", "exchanger", "raw-hoses", "elbow", "exhaust-hose",
		"silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge", "load"}
	oilLast = []string{"intake", "strainer", "raw-pump", "exchanger", "oil-cooler", "charge-cooler", "elbow",
		"outlet", "circ-pump", "block", "thermostat", "gauge"}
	directCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "thermostat", "block",
		"raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "gauge", "load"}
)

func plantOf(t require.TestingT, y plant.Type, circuit []string) plant.Plant {
	p, err := plant.New(plant.EngineFacts{Family: y.Family, Fuel: y.Fuel, Aspiration: y.Aspiration, RatedKW: y.RatedKW,
		RatedRPM: y.RatedRPM, Circuit: circuit})
	require.NoError(t, err)
	return p
}

func usual(t require.TestingT, i int) plant.Plant {
	y := plant.Types()[i]
	if y.Family == plant.Direct {
		return plantOf(t, y, directCircuit)
	}
	return plantOf(t, y, closedCircuit)
}

func at(p plant.Plant, share, sea float64) plant.Operation {
	return plant.Operation{RPM: share * p.Engine.RatedRPM, Load: 1, SeaC: sea, Salinity: 35, SpaceC: 35}
}

func steady(t require.TestingT, p plant.Plant, op plant.Operation, h plant.Health) plant.State {
	s, err := p.Steady(op, h)
	require.NoError(t, err)
	return s
}

func drawPlant(t *rapid.T) plant.Plant {
	y := rapid.SampledFrom(plant.Types()).Draw(t, "type")
	circuit := closedCircuit
	if y.Family == plant.Direct {
		circuit = directCircuit
	} else if rapid.Bool().Draw(t, "oil last") {
		circuit = oilLast
	}
	y.RatedKW *= rapid.Float64Range(0.5, 2).Draw(t, "size")
	y.RatedRPM *= rapid.Float64Range(0.7, 1.2).Draw(t, "speed")
	return plantOf(t, y, circuit)
}

func drawOperation(t *rapid.T, p plant.Plant) plant.Operation {
	op := at(p, rapid.Float64Range(0.2, 1.1).Draw(t, "r"), rapid.Float64Range(0, 34).Draw(t, "sea"))
	op.Load = rapid.Float64Range(0.3, 1.3).Draw(t, "load")
	return op
}

func drawFault(t *rapid.T, p plant.Plant) string {
	ids := slices.DeleteFunc(plant.Physical(), func(id string) bool { return !p.Shows(id) })
	return rapid.SampledFrom(ids).Draw(t, "fault")
}

// Energy closes to 0.01 %: into the block what leaves it, through the exchanger what both sides take, into the raw
// water what it carries to the elbow.
func TestEnergyCloses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawPlant(t)
		op := drawOperation(t, p)
		h, err := plant.Ail(plant.Fault{ID: drawFault(t, p), Severity: rapid.Float64Range(0, 1).Draw(t, "severity")})
		require.NoError(t, err)
		s := steady(t, p, op, h)
		if !s.Boils {
			require.InEpsilon(t, s.BlockKW, s.ExchangerKW+s.ShedKW, 1e-4)
		}
		if s.RawLMin < 0.01 || s.ExchangerKW < 0.01 {
			return
		}
		water := fluid.SeaWater(op.Salinity).At(op.SeaC + 5)
		raw := s.RawLMin / 60000 * water.DensityKgM3 * water.SpecificHeat * (1 - h.LeakBefore) / 1000 // kW/K
		require.InEpsilon(t, s.ExchangerKW, raw*(s.RawOutC-s.RawInC), 1e-4)
		require.InDelta(t, s.EarlierKW+s.ExchangerKW+s.LaterKW, raw*(s.ToElbowC-op.SeaC),
			1e-4*(s.EarlierKW+s.ExchangerKW+s.LaterKW))
		if p.Family == plant.Closed {
			c := p.Coolant.At(80)
			coolant := s.ExchangerLMin / 60000 * c.DensityKgM3 * c.SpecificHeat / 1000
			require.InEpsilon(t, s.ExchangerKW, coolant*(s.BlockC-s.ExchangerOutC), 1e-4)
		}
	})
}

// cools are the faults that make an engine run cooler, and the one that does nothing to it.
var cools = map[string]float64{"thermostat-open": -1, "gauge-wrong": 0}

func TestTemperaturesAreMonotone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawPlant(t)
		op := drawOperation(t, p)
		id, severity := drawFault(t, p), rapid.Float64Range(0, 0.95).Draw(t, "severity")
		h, err := plant.Ail(plant.Fault{ID: id, Severity: severity})
		require.NoError(t, err)
		base := steady(t, p, op, h).BlockC
		const slack = 1e-4
		warmer := op
		warmer.SeaC += 1
		require.GreaterOrEqual(t, steady(t, p, warmer, h).BlockC, base-slack, "sea temperature")
		harder := op
		harder.Load += 0.05
		require.GreaterOrEqual(t, steady(t, p, harder, h).BlockC, base-slack, "load")
		worse, err := plant.Ail(plant.Fault{ID: id, Severity: severity + 0.05})
		require.NoError(t, err)
		sign, special := cools[id]
		if !special {
			sign = 1
		}
		change := steady(t, p, op, worse).BlockC - base
		if sign == 0 {
			require.InDelta(t, 0, change, slack)
			return
		}
		require.GreaterOrEqual(t, sign*change, -slack, "severity of %s", id)
	})
}

// Common practice, full power in warm sea: raw rise 7 to 15 K, raw outlet under 55 °C, coolant drop 6 to 13 K, elbow
// mix 40 to 60 °C, plateau a few kelvin above the rating, and no boiling in 30 °C water.
func TestHealthyEnginesReadLikeRealOnes(t *testing.T) {
	for i, y := range plant.Types() {
		p := usual(t, i)
		s := steady(t, p, at(p, 1, 30), plant.Well())
		between := func(name string, v, low, high float64) {
			assert.True(t, v >= low && v <= high, "%s: %s %.1f, should be %.0f to %.0f", y.ID, name, v, low, high)
		}
		between("raw rise", s.ToElbowC-30, 7, 15)
		between("raw outlet", s.ToElbowC, 30, 55)
		between("elbow mix", s.Elbow.MixedC, 40, 60)
		between("plateau over its rating", s.BlockC-p.ThermostatC, 1, 13)
		if p.Family == plant.Closed {
			between("coolant drop", s.BlockC-s.ExchangerOutC, 6, 13)
		}
		assert.False(t, s.Boils)
		cruise := steady(t, p, at(p, 0.8, 15), plant.Well())
		between("plateau at cruise over its rating", cruise.BlockC-p.ThermostatC, 1, 8)
	}
}

// The same functions as the sums: the engine's heat, the exchanger by its conductance, the elbow.
func TestConsistentWithTheSums(t *testing.T) {
	p := usual(t, 1)
	op := at(p, 1, 20)
	s := steady(t, p, op, plant.Well())
	heat := p.Engine.At(op.RPM)
	assert.Equal(t, heat, s.Heat)
	water, c := fluid.SeaWater(35).At(25), p.Coolant.At(80)
	cold := exchanger.Stream{C: s.RawLMin / 60000 * water.DensityKgM3 * water.SpecificHeat, InC: s.RawInC}
	hot := exchanger.Stream{C: s.ExchangerLMin / 60000 * c.DensityKgM3 * c.SpecificHeat, InC: s.BlockC}
	rating, err := exchanger.FromHeat(p.Arrangement, hot, cold, 1000*s.ExchangerKW)
	require.NoError(t, err)
	// by hand: at rated raw flow only the coolant's film is thinner: 1/UA = 0.4/950 + 0.6/950 (share/rated)^-0.6
	want := 1 / (0.4/p.UA + 0.6/p.UA*math.Pow(s.ExchangerLMin/p.Rated.ShellLMin, -0.6))
	assert.InEpsilon(t, want, rating.UA, 1e-3)
	mix := plant.Exhaust{GasKgH: heat.GasKgH, GasC: heat.GasC, WaterLMin: s.RawLMin, WaterC: s.ToElbowC, Salinity: 35,
		PressureKPa: fluid.AtmosphereKPa, SpecificHeatG: fluid.ExhaustSpecificHeat}
	assert.InDelta(t, mix.Mix().MixedC, s.Elbow.MixedC, 1e-6)
}

// While the thermostat modulates it hides a weak exchanger: the plateau hardly moves and its lift grows.
func TestTheThermostatHidesAWeakExchanger(t *testing.T) {
	p := usual(t, 1)
	op := at(p, 0.6, 15)
	well := steady(t, p, op, plant.Well())
	h := plant.Well()
	h.UA = 0.6
	weak := steady(t, p, op, h)
	assert.InDelta(t, well.BlockC, weak.BlockC, 2.5)
	assert.Greater(t, weak.Opening, well.Opening*1.15)
	full := steady(t, p, at(p, 1, 28), h)
	assert.Greater(t, full.BlockC, steady(t, p, at(p, 1, 28), plant.Well()).BlockC+4, "load enough shows it")
}

func TestRestrictionsShowOnTheirSide(t *testing.T) {
	p := usual(t, 1)
	op := at(p, 0.8, 18)
	well := steady(t, p, op, plant.Well())
	for id, vacuum := range map[string]bool{"strainer-clogged": true, "intake-blocked": true, "elbow-choked": false,
		"debris-at-cooler": false} {
		h, err := plant.Ail(plant.Fault{ID: id, Severity: 0.5})
		require.NoError(t, err)
		s := steady(t, p, op, h)
		if vacuum {
			assert.Greater(t, s.VacuumKPa, well.VacuumKPa+1, id)
			assert.LessOrEqual(t, s.PressureKPa, well.PressureKPa, id)
		} else {
			assert.Greater(t, s.PressureKPa, well.PressureKPa+1, id)
			assert.LessOrEqual(t, s.VacuumKPa, well.VacuumKPa, id)
		}
	}
}

// The order of the coolers is the circuit's: with the oil cooler last, the exchanger gets colder water.
func TestTheCircuitsOrderCounts(t *testing.T) {
	y := plant.Types()[1]
	first, last := plantOf(t, y, closedCircuit), plantOf(t, y, oilLast)
	a, b := steady(t, first, at(first, 1, 20), plant.Well()), steady(t, last, at(last, 1, 20), plant.Well())
	assert.Greater(t, a.RawInC, b.RawInC+0.5)
	var stations []string
	for _, r := range b.Readings {
		if r.Side == "raw" {
			stations = append(stations, r.Station)
		}
	}
	assert.Equal(t, []string{"intake", "strainer", "raw-pump", "exchanger", "oil-cooler", "charge-cooler", "elbow",
		"outlet"}, stations)
}

func TestTheTimeStepDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawPlant(t)
		well, dry := plant.Well(), plant.Well()
		dry.PumpState = 0
		op := drawOperation(t, p)
		phases := []plant.Phase{{UntilS: 900, Operation: op, Health: well}, {UntilS: 1100, Operation: op, Health: dry}}
		coarse, err := p.FollowBy(15, phases, 50, 1)
		require.NoError(t, err)
		fine, err := p.FollowBy(15, phases, 50, 0.25)
		require.NoError(t, err)
		require.Len(t, fine, len(coarse))
		for i := range fine {
			require.InDelta(t, fine[i].BlockC, coarse[i].BlockC, 0.1)
			require.InDelta(t, fine[i].Seconds, coarse[i].Seconds, 1e-6)
		}
	})
}

// A run that goes on comes to rest where the steady state is; and without water an engine overheats in minutes.
func TestARunComesToRest(t *testing.T) {
	p := usual(t, 1)
	op := at(p, 0.8, 18)
	run, err := p.Follow(18, []plant.Phase{{UntilS: 7200, Operation: op, Health: plant.Well()}}, 600)
	require.NoError(t, err)
	assert.InDelta(t, steady(t, p, op, plant.Well()).BlockC, run[len(run)-1].BlockC, 0.05)
	dry := plant.Well()
	dry.PumpState = 0
	seconds, ok, err := p.SecondsTo(98, op, plant.Well(), dry)
	require.NoError(t, err)
	assert.True(t, ok)
	// by hand: 175 kJ/K · 14 K over 25 kW of heat is about 100 s
	assert.InDelta(t, 100, seconds, 30)
	_, ok, err = p.SecondsTo(98, op, plant.Well(), plant.Well())
	require.NoError(t, err)
	assert.False(t, ok)
}

func TestWhatTheModelCannotAnswerIsRefused(t *testing.T) {
	p := usual(t, 1)
	for field, change := range map[string]func(*plant.Operation){
		"rpm":   func(o *plant.Operation) { o.RPM = 3500 },
		"load":  func(o *plant.Operation) { o.Load = 0 },
		"sea_c": func(o *plant.Operation) { o.SeaC = 60 },
	} {
		op := at(p, 0.8, 15)
		change(&op)
		_, err := p.Steady(op, plant.Well())
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong)
		assert.Equal(t, field, wrong[0].Field)
	}
	for _, f := range []plant.Fault{{ID: "gremlins", Severity: 0.5}, {ID: "tubes-scaled", Severity: 1.5},
		{ID: "tubes-scaled", Severity: math.NaN()}} {
		_, err := plant.Ail(f)
		assert.Error(t, err)
	}
	_, err := plant.New(plant.EngineFacts{})
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Len(t, wrong, 4)
}

func TestWhatIsKnownCounts(t *testing.T) {
	y := plant.Types()[1]
	p, err := plant.New(plant.EngineFacts{Family: y.Family, Fuel: y.Fuel, RatedKW: 60, RatedRPM: 3000,
		Circuit: closedCircuit, RawLMin: 80, CoolantLMin: 120, UA: 1100, ThermostatC: 77})
	require.NoError(t, err)
	assert.InEpsilon(t, 80, p.Rated.RawLMin, 0.02)
	assert.InDelta(t, 114, p.Rated.ShellLMin, 1e-9)
	assert.Equal(t, 77.0, p.ThermostatC)
}

func BenchmarkSteady(b *testing.B) {
	p := usual(b, 1)
	for b.Loop() {
		if _, err := p.Steady(at(p, 0.8, 15), plant.Well()); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkAnHour(b *testing.B) {
	p := usual(b, 1)
	for b.Loop() {
		if _, err := p.Follow(20, []plant.Phase{{UntilS: 3600, Operation: at(p, 0.8, 15), Health: plant.Well()}},
			10); err != nil {
			b.Fatal(err)
		}
	}
}
