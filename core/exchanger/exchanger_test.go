package exchanger_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/reference"
)

// From first principles: heat balances of each stretch, integrated (reference/tables/effectiveness.csv).
func TestEffectivenessFromFirstPrinciples(t *testing.T) {
	for _, r := range reference.Rows("effectiveness") {
		a := exchanger.Arrangement(r["arrangement"])
		got := exchanger.Effectiveness(a, r.Number("ntu"), r.Number("capacity_ratio"))
		assert.InDelta(t, r.Number("effectiveness"), got, 2e-6, "%s, NTU %s, C_r %s", a, r["ntu"], r["capacity_ratio"])
	}
}

// W. M. Kays, A. L. London, Compact Heat Exchangers, 3rd ed. 1984, tables of chapter 2 (memory).
func TestEffectivenessOfKaysAndLondon(t *testing.T) {
	for _, c := range []struct {
		a           exchanger.Arrangement
		ntu, cr, is float64
	}{
		{exchanger.Counterflow, 2, 0.5, 0.7746}, {exchanger.Counterflow, 1, 1, 0.5}, {exchanger.Counterflow, 3, 0, 0.950},
		{exchanger.Parallel, 1, 1, 0.432}, {exchanger.Parallel, 2, 0.5, 0.633},
		{exchanger.CrossflowUnmixed, 1, 1, 0.476}, {exchanger.CrossflowUnmixed, 2, 1, 0.614}, {exchanger.ShellAndTube1, 1, 1,
			0.463},
	} {
		assert.InDelta(t, c.is, exchanger.Effectiveness(c.a, c.ntu, c.cr), 0.0006, "%s %v %v", c.a, c.ntu, c.cr)
	}
}

// Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, example 11.1, a counterflow oil cooler (memory): oil
// 0.1 kg/s of 2131 J/(kg K) from 100 to 60 °C, water 0.2 kg/s of 4178 J/(kg K) from 30 °C: 8524 W, 40.2 °C, 43.2 K.
func TestOilCoolerOfIncropera(t *testing.T) {
	oil, water := exchanger.Stream{C: 0.1 * 2131, InC: 100, OutC: 60}, exchanger.Stream{C: 0.2 * 4178, InC: 30}
	r, err := exchanger.FromHeat(exchanger.Counterflow, oil, water, oil.Heat())
	require.NoError(t, err)
	assert.InDelta(t, 8524, r.HeatW, 0.5)
	assert.InDelta(t, 40.2, r.ColdOutC, 0.05)
	assert.InDelta(t, 43.2, r.LMTD, 0.05)
	assert.InEpsilon(t, 8524/43.2, r.UA, 0.001, "UA = Q / LMTD")
	assert.Equal(t, 1.0, r.Correction)
}

func TestRatedFromItsOutletsAnExchangerGivesBackItsUA(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.SampledFrom(exchanger.Arrangements).Draw(t, "arrangement")
		hot := exchanger.Stream{C: rapid.Float64Range(50, 2e4).Draw(t, "hot C"), InC: rapid.Float64Range(40, 110).Draw(t,
			"hot in")}
		cold := exchanger.Stream{C: rapid.Float64Range(50, 2e4).Draw(t, "cold C"), InC: rapid.Float64Range(-2, 35).Draw(t,
			"cold in")}
		ua := min(hot.C, cold.C) * rapid.Float64Range(0.02, 2.5).Draw(t, "ntu")
		r := exchanger.FromUA(a, hot, cold, ua)
		require.InEpsilon(t, hot.C*(hot.InC-r.HotOutC), cold.C*(r.ColdOutC-cold.InC), 1e-9, "the heat balances")
		require.InEpsilon(t, r.HeatW, ua*r.LMTD*r.Correction, 1e-6, "Q = UA · LMTD · F")
		require.LessOrEqual(t, r.Correction, 1+1e-9)
		back, err := exchanger.FromHeat(a, hot, cold, r.HeatW)
		require.NoError(t, err)
		require.InEpsilon(t, ua, back.UA, 1e-5)
	})
}

func TestEffectivenessRisesWithSurfaceAndFallsWithTheRatio(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.SampledFrom(exchanger.Arrangements).Draw(t, "arrangement")
		ntu, cr := rapid.Float64Range(0.01, 8).Draw(t, "ntu"), rapid.Float64Range(0, 0.98).Draw(t, "cr")
		e := exchanger.Effectiveness(a, ntu, cr)
		require.True(t, e > 0 && e < 1)
		require.GreaterOrEqual(t, exchanger.Effectiveness(a, ntu+0.01, cr), e-1e-12)
		require.LessOrEqual(t, exchanger.Effectiveness(a, ntu, cr+0.01), e+1e-12)
		require.LessOrEqual(t, e, exchanger.Effectiveness(exchanger.Counterflow, ntu, cr)+1e-12, "nothing beats counterflow")
	})
	_, err := exchanger.NTU(exchanger.Parallel, 0.6, 1)
	assert.ErrorIs(t, err, exchanger.ErrTooEffective)
}

func TestProfileEndsAtTheOutlets(t *testing.T) {
	hot, cold := exchanger.Stream{C: 900, InC: 84}, exchanger.Stream{C: 1200, InC: 15}
	for _, a := range []exchanger.Arrangement{exchanger.Counterflow, exchanger.Parallel} {
		r := exchanger.FromUA(a, hot, cold, 700)
		h, c := exchanger.Profile(a, hot, cold, 700, 10)
		assert.InDelta(t, r.HotOutC, h[10], 1e-9)
		first, last := r.ColdOutC, cold.InC
		if a == exchanger.Parallel {
			first, last = last, first
		}
		assert.InDelta(t, first, c[0], 1e-9)
		assert.InDelta(t, last, c[10], 1e-9)
	}
}

// Whatever the streams and however large the surface: between the inlets, and the two never cross.
func TestProfilesStayBetweenTheInlets(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.SampledFrom([]exchanger.Arrangement{exchanger.Counterflow, exchanger.Parallel}).Draw(t, "arrangement")
		hot := exchanger.Stream{C: rapid.Float64Range(0.5, 2e4).Draw(t, "hot C"), InC: 84}
		cold := exchanger.Stream{C: rapid.Float64Range(0.5, 2e4).Draw(t, "cold C"), InC: 15}
		h, c := exchanger.Profile(a, hot, cold, rapid.Float64Range(1, 1e6).Draw(t, "ua"), 12)
		for i := range h {
			require.True(t, h[i] <= 84+1e-6 && c[i] >= 15-1e-6 && h[i] >= c[i]-1e-6, "%v %v", h, c)
		}
	})
}

// Hand-worked: two measured sides of equal error are averaged; the surer side counts more.
func TestWeighedHeat(t *testing.T) {
	heat, spread, off := exchanger.Weighed(exchanger.Approach{HeatW: 1000, ErrorW: 50}, exchanger.Approach{HeatW: 900,
		ErrorW: 50})
	assert.InDelta(t, 950, heat, 1e-9)
	assert.InDelta(t, 50/math.Sqrt2, spread, 1e-9)
	assert.InDelta(t, 100.0*100/950, off, 1e-9)
	heat, _, _ = exchanger.Weighed(exchanger.Approach{HeatW: 1000, ErrorW: 10}, exchanger.Approach{HeatW: 900, ErrorW: 90})
	assert.InDelta(t, 1000-100/82.0, heat, 1e-9) // weights 81 : 1
}

var stack = exchanger.Stack{Tubes: 52, Passes: 2, InnerDiameter: 6, OuterDiameter: 8, Length: 300,
	WallConductivity: 50, Roughness: 0.0015,
	ScaleConductivity: 2.2, ShellCoefficient: 3000, Fluid: fluid.SeaWater(35), FlowLMin: 60, MeanC: 25}

// Worked by hand: 26 tubes of 6 mm carry 1 L/s: v = 0.001/(26 π 0.006²/4) = 1.3603 m/s; at 25 °C ρ = 1023.6, μ =
// 0.9588e-3: Re = 8713. Smooth friction by the Blasius formula 0.316 Re^−1/4 = 0.0327, within 3 %; Δp = f ·
// 0.6/0.006 · ρ v²/2.
func TestStackByHand(t *testing.T) {
	r := stack.Rate()
	assert.InEpsilon(t, 1.3603, r.Velocity, 1e-4)
	assert.InEpsilon(t, 8713, r.Reynolds, 2e-3)
	assert.InEpsilon(t, 0.316*math.Pow(8713, -0.25), r.Friction, 0.03)
	assert.InEpsilon(t, r.Friction*100*1023.6*1.3603*1.3603/2/1000, r.DropKPa, 1e-3)
	// Dittus-Boelter, heating: Nu = 0.023 Re^0.8 Pr^0.4, known to 25 %: Incropera and DeWitt, equation 8.60.
	assert.InEpsilon(t, 0.023*math.Pow(r.Reynolds, 0.8)*math.Pow(r.Prandtl, 0.4), r.Nusselt, 0.15)
	assert.InEpsilon(t, r.U*r.OutsideArea, r.UA, 1e-12)
}

func TestStackPhysics(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := stack
		s.FlowLMin = rapid.Float64Range(45, 200).Draw(t, "flow") // turbulent when clean: else narrower tubes can do better
		s.ScaleThickness = rapid.Float64Range(0, 1).Draw(t, "scale")
		s.Blocked = rapid.IntRange(0, 40).Draw(t, "blocked")
		r := s.Rate()
		require.LessOrEqual(t, r.UA, s.Clean().Rate().UA*1.3, "narrow tubes run faster, but never that much")
		more := s
		more.Blocked += 2
		require.Greater(t, more.Rate().DropKPa, r.DropKPa, "blocking raises the drop")
		more = s
		more.ScaleThickness += 0.05
		require.Less(t, more.Rate().U*s.Clean().Rate().OutsideArea,
			(1/(1/r.U-r.ResistanceInside))*s.Clean().Rate().OutsideArea, "scale insulates")
		more = s
		more.FlowLMin *= 1.05
		require.GreaterOrEqual(t, more.Rate().UA, r.UA, "flow never harms")
	})
}

func TestFoulingResistanceComesBackFromU(t *testing.T) {
	s := stack
	s.ScaleThickness = 0.02 // so thin that it hardly changes the flow
	scaled, clean := s.Rate(), stack.Rate()
	assert.InEpsilon(t, scaled.ResistanceScale, exchanger.FoulingResistance(scaled.U, clean.U), 0.12)
}

func TestLaminarAndBlend(t *testing.T) {
	assert.Equal(t, exchanger.LaminarNusselt, exchanger.Nusselt(1500, 6, 0))
	low, high := exchanger.Nusselt(2301, 6, 0), exchanger.Nusselt(3999, 6, 0)
	assert.InDelta(t, 3.66, low, 0.05)
	assert.InDelta(t, exchanger.Nusselt(4001, 6, 0), high, 0.05)
	assert.Greater(t, exchanger.Nusselt(3150, 6, 0), low)
	// Gnielinski at Re 10,000, Pr 6, f 0.0309 (smooth, Colebrook), worked by hand: 0.003863 · 9000 · 6 / 2.817 = 74.05.
	assert.InDelta(t, 74.05, exchanger.Nusselt(10000, 6, 0), 0.2)
}

func BenchmarkRate(b *testing.B) {
	for b.Loop() {
		stack.Rate()
	}
}
