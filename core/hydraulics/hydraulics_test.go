package hydraulics_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/hydraulics"
	"hevrin/reference"
)

// Colebrook solved by an outside library (reference/tables/friction.csv).
func TestFrictionAgainstAnOutsideLibrary(t *testing.T) {
	for _, r := range reference.Rows("friction") {
		got := hydraulics.Friction(r.Number("reynolds"), r.Number("relative_roughness"))
		assert.InEpsilon(t, r.Number("friction_factor"), got, 1e-8, "Re %s, ε/D %s", r["reynolds"], r["relative_roughness"])
	}
}

// L. F. Moody, Transactions of the ASME 66 (1944), 671-684, read off the chart (memory): smooth at 1e5: 0.018; ε/D
// 0.01 fully rough: 0.038; laminar at 1000: 0.064.
func TestFrictionOnMoodysChart(t *testing.T) {
	assert.InDelta(t, 0.018, hydraulics.Friction(1e5, 0), 0.0003)
	assert.InDelta(t, 0.038, hydraulics.Friction(1e8, 0.01), 0.0005)
	assert.InDelta(t, 0.064, hydraulics.Friction(1000, 0.01), 1e-12)
	assert.InDelta(t, hydraulics.Friction(2299.999, 0), hydraulics.Friction(2300.001, 0), 1e-6, "no step into the blend")
	assert.InDelta(t, hydraulics.Friction(3999.999, 0.001), hydraulics.Friction(4000.001, 0.001), 1e-6,
		"no step out of it")
}

// Worked by hand: 10 L in 12, 13 and 14 s: mean 13 s, spread 1 s, mean's error 1/√3 s: 46.154 L/min; with 0.2 L:
// 46.154 √((0.5774/13)² + 0.02²) = 2.248 L/min.
func TestBucketByHand(t *testing.T) {
	b := hydraulics.BucketFlow(10, 0.2, []float64{12, 13, 14})
	assert.InDelta(t, 46.154, b.FlowLMin, 0.001)
	assert.InDelta(t, 2.248, b.ErrorLMin, 0.001)
	one := hydraulics.BucketFlow(10, 0, []float64{12})
	assert.InDelta(t, 50*hydraulics.StopwatchError/12, one.ErrorLMin, 1e-9, "one try: the thumb's error")
}

// A diesel of the handbook's defaults: .025 L/rev, slip .2 at 1 kPa, 12 + 40 kPa at 70 L/min.
func healthy() hydraulics.Run {
	return hydraulics.Run{
		Pump: hydraulics.Pump{LitresPerRev: 0.025, State: 1, Slip: 0.2, MaxVacuumKPa: 48},
		Suction: []hydraulics.Station{{Name: "seacock", Drop: 5, At: 70, Factor: 1}, {Name: "strainer", Drop: 7, At: 70,
			Factor: 1}},
		Delivery: []hydraulics.Station{{Name: "exchanger", Drop: 22, At: 70, Factor: 1}, {Name: "elbow", Drop: 18, At: 70,
			Factor: 1}},
		LiftKPa: 1, HeadKPa: 3,
	}
}

func TestRunBalances(t *testing.T) {
	r := healthy()
	f, err := r.Solve(3000)
	require.NoError(t, err)
	assert.InDelta(t, r.Pump.Flow(3000, f.VacuumKPa+f.PressureKPa), f.FlowLMin, 1e-6, "what the pump moves is what passes")
	assert.InDelta(t, f.VacuumKPa, r.LiftKPa+f.SuctionDrops[0]+f.SuctionDrops[1], 1e-9)
	assert.InDelta(t, 22.0/18, f.DeliveryDrops[0]/f.DeliveryDrops[1], 1e-9)
	assert.False(t, f.Limited)
}

// Whatever the pump and the run: what the pump moves against the rise is what passes, or the vacuum is the most it can
// pull and the pump would move more.
func TestEveryRunBalances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := healthy()
		r.Pump = hydraulics.Pump{LitresPerRev: rapid.Float64Range(0.001, 0.5).Draw(t, "displacement"),
			State: rapid.Float64Range(0.01, 1).Draw(t, "state"),
			Slip:  rapid.Float64Range(0, 20).Draw(t, "slip"), MaxVacuumKPa: rapid.Float64Range(2, 60).Draw(t, "vacuum")}
		r.Suction[0].Factor = math.Exp(rapid.Float64Range(-3, 8).Draw(t, "suction"))
		r.Delivery[1].Factor = math.Exp(rapid.Float64Range(-3, 8).Draw(t, "delivery"))
		r.HeadKPa = rapid.Float64Range(0, 40).Draw(t, "head")
		rpm := rapid.Float64Range(100, 6000).Draw(t, "rpm")
		f, err := r.Solve(rpm)
		require.NoError(t, err)
		moved := r.Pump.Flow(rpm, f.VacuumKPa+f.PressureKPa)
		switch {
		case f.Limited:
			require.InDelta(t, r.Pump.MaxVacuumKPa, f.VacuumKPa, 1e-9)
			require.Greater(t, moved, f.FlowLMin*(1-1e-9))
		case f.FlowLMin == 0:
			require.Zero(t, moved, "it cannot push up to the head")
		default:
			require.InDelta(t, moved, f.FlowLMin, 1e-7*r.Pump.LitresPerRev*rpm)
		}
	})
}

func TestARestrictionShowsOnItsOwnSideOfThePump(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rpm := rapid.Float64Range(600, 3300).Draw(t, "rpm")
		worse := rapid.Float64Range(1.2, 12).Draw(t, "worse")
		was, err := healthy().Solve(rpm)
		require.NoError(t, err)
		before := healthy()
		before.Suction[1].Factor = worse
		b, err := before.Solve(rpm)
		require.NoError(t, err)
		require.Greater(t, b.VacuumKPa, was.VacuumKPa)
		require.LessOrEqual(t, b.PressureKPa, was.PressureKPa)
		after := healthy()
		after.Delivery[0].Factor = worse
		a, err := after.Solve(rpm)
		require.NoError(t, err)
		require.Greater(t, a.PressureKPa, was.PressureKPa)
		require.LessOrEqual(t, a.VacuumKPa, was.VacuumKPa)
		require.LessOrEqual(t, max(a.FlowLMin, b.FlowLMin), was.FlowLMin)
		require.LessOrEqual(t, b.VacuumKPa, before.Pump.MaxVacuumKPa+1e-9)
	})
}

// Worked by hand: with the strainer shut to 60 times its resistance the suction takes 5 + 420 = 425 kPa at 70 L/min; 47
// kPa are left above the lift: 70 √(47/425) = 23.28 L/min.
func TestSuctionLimitByHand(t *testing.T) {
	r := healthy()
	r.Suction[1].Factor = 60
	f, err := r.Solve(3000)
	require.NoError(t, err)
	assert.True(t, f.Limited)
	assert.InDelta(t, 70*math.Sqrt(47.0/425), f.FlowLMin, 1e-6)
	assert.InDelta(t, 48, f.VacuumKPa, 1e-9)
}

func TestWornBladesAndStillPumps(t *testing.T) {
	still, err := healthy().Solve(0)
	require.NoError(t, err)
	assert.Zero(t, still.FlowLMin)
	worn := healthy()
	worn.Pump.Slip *= 8
	idle, _ := healthy().Solve(700)
	idleWorn, _ := worn.Solve(700)
	full, _ := healthy().Solve(3000)
	fullWorn, _ := worn.Solve(3000)
	assert.Less(t, idleWorn.FlowLMin/idle.FlowLMin, fullWorn.FlowLMin/full.FlowLMin, "a worn pump loses most at idle")
	high := healthy()
	high.LiftKPa = 60
	_, err = high.Solve(1000)
	assert.ErrorIs(t, err, hydraulics.ErrRun)
	flat := healthy()
	flat.HeadKPa, flat.Pump.Slip = 400, 5
	none, err := flat.Solve(600)
	require.NoError(t, err)
	assert.Zero(t, none.FlowLMin, "it cannot push up to the head")
}
