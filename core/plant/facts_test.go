package plant_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

func sixty() plant.EngineFacts {
	return plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, Circuit: closedCircuit}
}

// A maker's rating at this engine's own flows gives the conductance of the exchanger sum.
func TestAnExchangerByItsRating(t *testing.T) {
	p, err := plant.New(sixty())
	require.NoError(t, err)
	k := sixty()
	k.Rating = &plant.MakersRating{HeatKW: 50, CoolantLMin: p.Rated.ShellLMin, CoolantInC: 90, RawLMin: p.Rated.RawLMin,
		RawInC: 30}
	got, err := plant.New(k)
	require.NoError(t, err)
	c, w := p.Coolant.At(90), fluid.SeaWater(fluid.OceanSalinity).At(30)
	hot := exchanger.Stream{C: p.Rated.ShellLMin / 60000 * c.DensityKgM3 * c.SpecificHeat, InC: 90}
	cold := exchanger.Stream{C: p.Rated.RawLMin / 60000 * w.DensityKgM3 * w.SpecificHeat, InC: 30}
	assert.InEpsilon(t, 50000, exchanger.FromUA(p.Arrangement, hot, cold, got.UA).HeatW, 1e-9)
	// half the raw flow on the sheet: the same heat there means more conductance here
	k.Rating.RawLMin /= 2
	half, err := plant.New(k)
	require.NoError(t, err)
	assert.Greater(t, half.UA, got.UA*1.2)
	k.Rating.HeatKW = 5000
	_, err = plant.New(k)
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "cooling.exchanger_rating.heat_kw", wrong[0].Field)
}

// A stack by its measures is the tube-stack sum's conductance, and shares its resistance out as that does.
func TestAnExchangerByItsTubes(t *testing.T) {
	k := sixty()
	k.Tubes = &plant.Tubes{Tubes: 64, Passes: 2, InnerMM: 6.5, OuterMM: 8, LengthMM: 320, ShellWM2K: 2500}
	p, err := plant.New(k)
	require.NoError(t, err)
	s := exchanger.Stack{Tubes: 64, Passes: 2, InnerDiameter: 6.5, OuterDiameter: 8, Length: 320, WallConductivity: 50,
		Roughness: 0.0015, ScaleConductivity: 1, ShellCoefficient: 2500,
		Fluid: fluid.SeaWater(35), FlowLMin: p.Rated.RawLMin, MeanC: 30}.Rate()
	assert.InEpsilon(t, s.UA, p.UA, 1e-3)
	assert.InEpsilon(t, s.ResistanceInside/(s.ResistanceInside+s.ResistanceWall+s.ResistanceShell), p.TubeShare, 1e-3)
	assert.InDelta(t, 0.4, p.TubeShare, 0.2)
}

func TestFactsSayWhereTheyComeFrom(t *testing.T) {
	k := sixty()
	k.RawLMin = 80
	p, err := plant.New(k)
	require.NoError(t, err)
	from := func(p plant.Plant, k plant.EngineFacts) map[string]plant.Fact {
		m := map[string]plant.Fact{}
		for _, f := range p.Facts(k) {
			m[f.ID] = f
		}
		return m
	}
	facts := from(p, k)
	assert.Equal(t, plant.Given, facts["raw_l_min"].From)
	assert.InEpsilon(t, 80, facts["raw_l_min"].Value, 0.02)
	assert.Equal(t, plant.Usual, facts["ua_w_k"].From)
	assert.Contains(t, facts["ua_w_k"].Why.String(),
		"usual for its type: diesel, closed-cooled, scaled to 60 kW; unknown, calibrate")
	assert.InDelta(t, 950, facts["ua_w_k"].Value, 1e-9)
	fitted, err := p.Calibrated(healthyRounds(t, p), plant.LeftByBaseline)
	require.NoError(t, err)
	assert.Equal(t, plant.Baseline, from(fitted, k)["ua_w_k"].From)
	k.Tubes = &plant.Tubes{Tubes: 64, Passes: 2, InnerMM: 6.5, OuterMM: 8, LengthMM: 320}
	p, err = plant.New(k)
	require.NoError(t, err)
	assert.Equal(t, plant.FromModel, from(p, k)["ua_w_k"].From)
	direct := plant.EngineFacts{Family: plant.Direct, RatedKW: 12, RatedRPM: 2600, Circuit: directCircuit}
	p, err = plant.New(direct)
	require.NoError(t, err)
	_, has := from(p, direct)["ua_w_k"]
	assert.False(t, has, "no exchanger, no conductance")
}

func TestFactsThatCannotBeAreRefused(t *testing.T) {
	for field, change := range map[string]func(*plant.EngineFacts){
		"cooling.raw_l_min":             func(k *plant.EngineFacts) { k.RawLMin = 1e6 },
		"cooling.glycol_percent_volume": func(k *plant.EngineFacts) { k.Glycol = 80 },
		"cooling.exchanger_rating.raw_l_min": func(k *plant.EngineFacts) {
			k.Rating = &plant.MakersRating{HeatKW: 50, CoolantLMin: 90, CoolantInC: 90, RawInC: 30}
		},
		"cooling.exchanger_tubes.outer_diameter_mm": func(k *plant.EngineFacts) {
			k.Tubes = &plant.Tubes{Tubes: 60, Passes: 2, InnerMM: 8, OuterMM: 6, LengthMM: 300}
		},
		"cooling": func(k *plant.EngineFacts) {
			k.UA, k.Tubes = 900, &plant.Tubes{Tubes: 60, Passes: 2, InnerMM: 6, OuterMM: 8, LengthMM: 300}
		},
	} {
		k := sixty()
		change(&k)
		_, err := plant.New(k)
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
	}
	_, err := plant.New(plant.EngineFacts{Family: plant.Direct, RatedKW: 12, RatedRPM: 2600, Circuit: directCircuit,
		UA: 300})
	assert.ErrorContains(t, err, "no coolant and no heat exchanger")
}

// Out of gear it makes only the heat of turning itself over, and runs cooler at the same speed.
func TestOutOfGearIsLessHeat(t *testing.T) {
	for i := range plant.Types() {
		p := usual(t, i)
		op := at(p, 0.6, 20)
		in := steady(t, p, op, plant.Well())
		op.OutOfGear = true
		out := steady(t, p, op, plant.Well())
		assert.Zero(t, out.Heat.PowerKW)
		assert.Less(t, out.Heat.FuelLH, in.Heat.FuelLH)
		assert.Less(t, out.BlockKW, in.BlockKW)
		assert.LessOrEqual(t, out.BlockC, in.BlockC)
		assert.InDelta(t, in.RawLMin, out.RawLMin, 1e-9)
		assert.Less(t, out.Elbow.MixedC, in.Elbow.MixedC)
	}
	// by hand, 60 kW at 3000, at 1800 out of gear: r 0.6; friction 60·0.17·0.6·0.9 = 5.508 kW; fuel 5.508/0.45 +
	// 0.25·60·0.4 = 18.24 kW, all of it heat; coolant 0.43 of that and oil 0.06
	h := kinds[1].OutOfGear(1800)
	assert.InDelta(t, 18.24, h.FuelKW, 1e-9)
	assert.InDelta(t, 7.8432, h.CoolantKW, 1e-9)
}
