package fluid_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/fluid"
	"hevrin/core/validation"
	"hevrin/reference"
)

// TEOS-10 by the Gibbs SeaWater library (reference/tables/sea-water.csv): density within 0.1 %, specific heat within
// 0.5 %, freezing within 0.1 K.
func TestSeaWaterAgainstTEOS10(t *testing.T) {
	for _, r := range reference.Rows("sea-water") {
		at, s := r.Number("temperature_c"), r.Number("salinity_g_kg")
		assert.InEpsilon(t, r.Number("density_kg_m3"), fluid.SeaDensity(at, s), 0.001, "density at %v °C, %v g/kg", at, s)
		assert.InEpsilon(t, r.Number("specific_heat_j_kg_k"), fluid.SeaSpecificHeat(at, s), 0.005,
			"specific heat at %v °C, %v g/kg", at, s)
		assert.InDelta(t, r.Number("freezing_c"), fluid.SeaFreezing(s), 0.1, "freezing at %v g/kg", s)
	}
}

// IAPWS-IF97 (reference/tables/fresh-water.csv); the authors claim 1.5 % for viscosity and 3 % for conductivity.
func TestFreshWaterAgainstIF97(t *testing.T) {
	for _, r := range reference.Rows("fresh-water") {
		at := r.Number("temperature_c")
		assert.InEpsilon(t, r.Number("density_kg_m3"), fluid.SeaDensity(at, 0), 0.001, "density at %v °C", at)
		assert.InEpsilon(t, r.Number("specific_heat_j_kg_k"), fluid.SeaSpecificHeat(at, 0), 0.005, "specific heat at %v °C",
			at)
		assert.InEpsilon(t, r.Number("viscosity_pa_s"), fluid.SeaViscosity(at, 0), 0.015, "viscosity at %v °C", at)
		assert.InEpsilon(t, r.Number("conductivity_w_m_k"), fluid.SeaConductivity(at, 0), 0.03, "conductivity at %v °C", at)
	}
}

// IAPWS-IF97, region 4 (reference/tables/saturation.csv), and the latent heat's straight line within 0.4 % to 100 °C.
func TestSaturationAgainstIF97(t *testing.T) {
	for _, r := range reference.Rows("saturation") {
		at, p := r.Number("temperature_c"), r.Number("pressure_kpa")
		assert.InEpsilon(t, p, fluid.SaturationKPa(at), 1e-7, "%v °C", at)
		assert.InDelta(t, at, fluid.BoilingC(p), 1e-4, "%v kPa", p)
		if at <= 100 {
			assert.InEpsilon(t, r.Number("latent_heat_kj_kg"), fluid.LatentHeat(at)/1000, 0.004, "%v °C", at)
		}
	}
}

func TestPublishedValues(t *testing.T) {
	// IAPWS R7-97(2012), table 35: 300 K and 500 K.
	assert.InDelta(t, 0.353658941e-2, fluid.SaturationKPa(26.85)/1000, 1e-11)
	assert.InDelta(t, 2.63889776, fluid.SaturationKPa(226.85)/1000, 1e-8)
	// UNESCO Technical Papers in Marine Science 44 (1983): 35, 25 °C, 0 dbar (memory).
	assert.InEpsilon(t, 1023.343, fluid.SeaDensity(25, 35), 0.001)
	// ISO 2533:1975, table: 1000 m.
	assert.InDelta(t, 89.876, fluid.AirKPa(1000), 0.02)
	// Ethylene glycol by volume, ASHRAE Handbook of Fundamentals (memory).
	for percent, freezes := range map[float64]float64{0: 0, 10: -3.4, 20: -7.9, 30: -13.7, 40: -23.5, 50: -36.8,
		60: -52.8} {
		assert.InDelta(t, freezes, fluid.FreezingC(fluid.Ethylene, percent), 1e-9)
	}
}

// Pure mixtures measured at 20 °C: CRC Handbook of Chemistry and Physics, concentrative properties of aqueous
// solutions (memory): 32.4 % by mass ethylene glycol is 30 % by volume, 1.041 kg/L; 50.9 % propylene glycol is 50 %,
// 1.040 kg/L. Inhibitors make a coolant a little heavier.
func TestCoolantNearPureMixtures(t *testing.T) {
	assert.InEpsilon(t, 1041, fluid.CoolantDensity(fluid.Ethylene, 30, 20), 0.012)
	assert.InEpsilon(t, 1040, fluid.CoolantDensity(fluid.Propylene, 50, 20), 0.012)
	assert.InEpsilon(t, 3281, fluid.CoolantSpecificHeat(fluid.Ethylene, 50, 20), 0.02) // ASHRAE (memory)
}

func TestCoolantPhysics(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		g := rapid.SampledFrom(fluid.Glycols).Draw(t, "glycol")
		percent := rapid.Float64Range(0, 59).Draw(t, "percent")
		at := rapid.Float64Range(0, 110).Draw(t, "t")
		more := percent + 1
		require.Less(t, fluid.FreezingC(g, more), fluid.FreezingC(g, percent), "stronger freezes later")
		require.Less(t, fluid.CoolantSpecificHeat(g, more, at), fluid.CoolantSpecificHeat(g, percent, at),
			"stronger carries less")
		require.Greater(t, fluid.CoolantViscosity(g, more, at), fluid.CoolantViscosity(g, percent, at), "stronger is thicker")
		back, err := fluid.PercentForFreezing(g, fluid.FreezingC(g, percent))
		require.NoError(t, err)
		require.InDelta(t, percent, back, 1e-4)
	})
	none := fluid.Mix(fluid.Ethylene, 0).At(40)
	assert.Equal(t, fluid.Fluid{Kind: fluid.Fresh}.At(40), none, "no glycol is water")
	_, err := fluid.PercentForFreezing(fluid.Ethylene, -60)
	assert.ErrorContains(t, err, "no ethylene glycol coolant stands -60 °C")
}

func TestCheckRefusesIceAndSteam(t *testing.T) {
	for _, c := range []struct {
		fluid fluid.Fluid
		t     float64
		ok    bool
	}{{fluid.SeaWater(35), -1.9, true}, {fluid.SeaWater(35), -2.5, false}, {fluid.Fluid{Kind: fluid.Fresh}, -0.1, false},
		{fluid.SeaWater(35), 101, false},
		{fluid.Mix(fluid.Ethylene, 50), -30, true}, {fluid.Mix(fluid.Ethylene, 50), -40, false},
		{fluid.Mix(fluid.Ethylene, 50), 118, true}, {fluid.Fluid{Kind: fluid.Other}, 150, true}} {
		var wrong validation.Errors
		c.fluid.Check(&wrong, "inlet_c", c.t)
		assert.Equal(t, c.ok, len(wrong) == 0, "%s at %v", c.fluid.Name(), c.t)
	}
}

func TestVapourRisesUntilItBoils(t *testing.T) {
	last := 0.0
	for at := 0.0; at < 99; at++ {
		h := fluid.HumidityAtSaturation(at, 35, fluid.AtmosphereKPa)
		assert.Greater(t, h, last)
		last = h
	}
	// IF97: 7.3849 kPa at 40 °C
	assert.InDelta(t, 0.622*7.3849/(101.325-7.3849), fluid.HumidityAtSaturation(40, 0, fluid.AtmosphereKPa), 1e-4)
	assert.True(t, fluid.HumidityAtSaturation(120, 35, fluid.AtmosphereKPa) > 1e300)
}
