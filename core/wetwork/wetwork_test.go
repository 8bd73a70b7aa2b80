package wetwork_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/fluid"
	"hevrin/core/wetwork"
)

// Stoichiometry: a litre of 20 % hydrochloric acid holds 1098 · 0.2 = 219.6 g, 6.023 mol, half as much carbonate: 301
// g.
func TestALitreOfHydrochloricAcid(t *testing.T) {
	r := wetwork.Bath{Acid: wetwork.Hydrochloric, StockPercent: 20, TargetPercent: 20, VolumeL: 1}.Mix()
	assert.InDelta(t, 301.4, r.CapacityG, 0.3)
	assert.InDelta(t, 1, *r.StockL, 1e-9)
	assert.InDelta(t, 0, r.WaterL, 1e-9)
	assert.InDelta(t, 301.4/100.087*24.06, r.CarbonDioxideL, 0.1)
}

// Worked by hand, each for 1 kg of pure acid: carbonate = 1000 / M / (mol acid per mol) · 100.087.
func TestCapacityByEquation(t *testing.T) {
	for a, want := range map[wetwork.Acid]float64{
		wetwork.Hydrochloric: 1372.6, // 2 HCl, 36.458
		wetwork.Phosphoric:   510.7,  // 2 H3PO4, 97.994
		wetwork.Citric:       781.4,  // 2 per 3, 192.123
		wetwork.Sulfamic:     515.4,  // 2, 97.094
		wetwork.Formic:       1087.3, // 2, 46.025
		wetwork.Acetic:       833.3,  // 2, 60.052
	} {
		r := wetwork.Bath{Acid: a, StockPercent: 10, TargetPercent: 10, VolumeL: 100}.Mix()
		assert.InDelta(t, want, r.CapacityG/r.PureAcidG*1000, 0.2, string(a))
	}
}

// Perry's Chemical Engineers' Handbook, hydrochloric acid at 20 °C (memory), as the handbook of the trade gives it.
func TestDensitiesOfTheTable(t *testing.T) {
	f := wetwork.Facts(wetwork.Hydrochloric)
	for percent, kgL := range map[float64]float64{4: 1.018, 8: 1.038, 10: 1.047, 12: 1.057, 16: 1.078, 20: 1.098,
		24: 1.119, 28: 1.139, 32: 1.159, 36: 1.179} {
		assert.InDelta(t, kgL, f.Density(percent), 1e-9)
	}
	assert.InDelta(t, 1.0880, f.Density(18), 0.0005)
}

func TestDilutionKeepsTheMass(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.SampledFrom(wetwork.Acids).Draw(t, "acid")
		f := wetwork.Facts(a)
		stock := rapid.Float64Range(1, min(f.MostPercent, f.MostBath)).Draw(t, "stock")
		target := stock * rapid.Float64Range(0.01, 1).Draw(t, "target")
		b := wetwork.Bath{Acid: a, StockPercent: stock, TargetPercent: target, VolumeL: rapid.Float64Range(0.1, 500).Draw(t,
			"V"), ScaleG: rapid.Float64Range(1, 5000).Draw(t, "scale")}
		r := b.Mix()
		require.InEpsilon(t, r.BathKg, r.StockKg+r.WaterL*0.9982, 1e-9, "mass")
		require.InEpsilon(t, r.StockKg*stock, r.BathKg*target, 1e-9, "acid")
		require.Equal(t, r.CapacityG >= b.ScaleG, r.Enough)
		require.LessOrEqual(t, r.DissolvedG, r.CapacityG)
		require.InEpsilon(t, *r.StockL*f.Density(stock), r.StockKg, 1e-9)
	})
}

func TestCrystalsAreWeighed(t *testing.T) {
	r := wetwork.Bath{Acid: wetwork.Citric, StockPercent: 100, TargetPercent: 10, VolumeL: 20}.Mix()
	assert.Nil(t, r.StockL)
	assert.InDelta(t, 2.0784, r.StockKg, 1e-4) // 20 L of 1.0392 kg/L, a tenth of it
	assert.Equal(t, 30.0, wetwork.Turnovers(10, 60, 20))
}

// Worked by hand: 52 tubes 6/8 mm of 300 mm, R 0.0002: d_s = 6 exp(−2 · 2.2 · 0.0002/0.008) = 5.3750 mm: 0.3125 mm;
// mass 52 · π/4 (36 − 28.891) · 300 mm³ · 2.7 mg/mm³ = 235.2 g.
func TestScaleByHand(t *testing.T) {
	mm, g := wetwork.Layer{Resistance: 0.0002, Tubes: 52, InnerMM: 6, OuterMM: 8,
		LengthMM: 300}.Scale(wetwork.ScaleConductivity)
	assert.InDelta(t, 0.3125, mm, 1e-4)
	assert.InDelta(t, 235.2, g, 0.3)
}

// Worked by hand: 14 L at 28 % to 45 % with neat: 14 · 17/72 = 3.306 L out and in. Empty: 6.3 L and 7.7 L. Too strong,
// 60 to 45: 14 · 15/60 = 3.5 L out, water in.
func TestCoolantByHand(t *testing.T) {
	present := 28.0
	f := wetwork.Fill{VolumeL: 14, Glycol: fluid.Ethylene, PresentPercent: &present, TargetPercent: 45,
		ConcentratePercent: 100}
	r := f.Work()
	assert.InDelta(t, 3.3056, r.DrainL, 1e-4)
	assert.InDelta(t, r.DrainL, r.AddConcentrateL, 1e-12)
	assert.InDelta(t, 1.2*r.DrainL, r.WasteContainerL, 1e-12)
	f.PresentPercent = nil
	r = f.Work()
	assert.InDelta(t, 6.3, r.ConcentrateL, 1e-9)
	assert.InDelta(t, 7.7, r.WaterL, 1e-9)
	present = 60
	f.PresentPercent = &present
	r = f.Work()
	assert.InDelta(t, 3.5, r.AddWaterL, 1e-9)
	assert.Zero(t, r.AddConcentrateL)
}

func TestTheGlycolAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		present, target := rapid.Float64Range(0, 60).Draw(t, "present"), rapid.Float64Range(0, 60).Draw(t, "target")
		concentrate := rapid.Float64Range(61, 100).Draw(t, "concentrate")
		r := wetwork.Fill{VolumeL: 10, Glycol: fluid.Propylene, PresentPercent: &present, TargetPercent: target,
			ConcentratePercent: concentrate}.Work()
		glycol := (10-r.DrainL)*present + r.AddConcentrateL*concentrate
		require.InDelta(t, 10*target, glycol, 1e-9)
		require.InDelta(t, 10, 10-r.DrainL+r.AddConcentrateL+r.AddWaterL, 1e-9)
	})
}
