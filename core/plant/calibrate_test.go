package plant_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/plant"
	"hevrin/core/validation"
)

// peculiar is an engine of the usual kind that differs from its type in what a healthy round can tell.
func peculiar(t *testing.T) (believed, real plant.Plant) {
	t.Helper()
	k := plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, Circuit: closedCircuit}
	believed, err := plant.New(k)
	require.NoError(t, err)
	k.RawLMin, k.UA, k.CoolantLMin, k.ThermostatC = 1.12*believed.Rated.RawLMin, 870, 108, 83.5
	real, err = plant.New(k)
	require.NoError(t, err)
	return believed, real
}

func healthyRounds(t *testing.T, p plant.Plant) []plant.Round {
	t.Helper()
	return []plant.Round{roundAt(t, p, at(p, 0.3, 15), plant.Well(), everywhere...), roundAt(t, p, at(p, 0.95, 15),
		plant.Well(), everywhere...)}
}

// A healthy round makes the model this engine: it predicts it at another speed in another sea better than its type
// does.
func TestABaselineFitsTheVeryEngine(t *testing.T) {
	believed, real := peculiar(t)
	fitted, err := believed.Calibrated(healthyRounds(t, real), plant.LeftByBaseline)
	require.NoError(t, err)
	op := at(real, 0.8, 26)
	truth, type_, own := steady(t, real, op, plant.Well()), steady(t, believed, op, plant.Well()), steady(t, fitted, op,
		plant.Well())
	assert.InDelta(t, truth.BlockC, own.BlockC, 0.6)
	assert.InDelta(t, truth.RawLMin, own.RawLMin, 0.02*truth.RawLMin)
	assert.Greater(t, truth.RawLMin-type_.RawLMin, 0.08*truth.RawLMin)
	for i, r := range truth.Readings {
		assert.InDelta(t, r.TempC, own.Readings[i].TempC, 0.9, r.Station)
	}
	assert.True(t, fitted.Fitted())
	assert.False(t, believed.Fitted())
}

// What the baseline's rounds leave open stays as open as between engines, and nothing becomes more open.
func TestABaselineNarrowsOnlyWhatItReads(t *testing.T) {
	believed, real := peculiar(t)
	only, err := believed.Calibrated([]plant.Round{roundAt(t, real, at(real, 0.95, 15), plant.Well(), "flow", "gauge")},
		plant.LeftByBaseline)
	require.NoError(t, err)
	op := at(real, 0.95, 15)
	loose, err := believed.Shoulds(op)
	require.NoError(t, err)
	some, err := only.Shoulds(op)
	require.NoError(t, err)
	whole, err := believed.Calibrated(healthyRounds(t, real), plant.LeftByBaseline)
	require.NoError(t, err)
	all, err := whole.Shoulds(op)
	require.NoError(t, err)
	for i := range loose {
		assert.LessOrEqual(t, some[i].SpreadK, loose[i].SpreadK+0.05, loose[i].Station)
		assert.LessOrEqual(t, all[i].SpreadK, some[i].SpreadK+0.05, loose[i].Station)
		if loose[i].Station == "exchanger" && loose[i].Side == "coolant" {
			assert.Greater(t, some[i].SpreadK, 0.7*loose[i].SpreadK, "flow and gauge say little of the exchanger")
			assert.Less(t, all[i].SpreadK, 0.7*loose[i].SpreadK)
		}
	}
}

func TestAgainstABaselineLessIsEnough(t *testing.T) {
	believed, real := peculiar(t)
	fitted, err := believed.Calibrated(healthyRounds(t, real), plant.LeftByBaseline)
	require.NoError(t, err)
	h := plant.Well()
	h.UA = 0.75
	rounds := []plant.Round{roundAt(t, real, at(real, 1, 20), h, everywhere...)}
	loose, err := believed.Judge(rounds)
	require.NoError(t, err)
	sharp, err := fitted.Judge(rounds)
	require.NoError(t, err)
	assert.Equal(t, plant.SaysFound, loose.SaysFound)
	assert.Equal(t, plant.SaysFoundFitted, sharp.SaysFound)
	assert.Equal(t, "exchanger-weak", sharp.Patterns[0].ID)
	assert.Greater(t, sharp.Patterns[0].Ratio, sharp.SaysFound)
	assert.InDelta(t, 0.75, figureOf(t, sharp, "ua").Value, 0.06, "against its own conductance")
	healthy, err := fitted.Judge([]plant.Round{roundAt(t, real, at(real, 0.7, 24), plant.Well(), everywhere...)})
	require.NoError(t, err)
	for _, f := range healthy.Findings {
		assert.Less(t, f.Ratio, plant.SaysLeaning, f.ID)
	}
}

func TestAnAilingEngineIsNoStandard(t *testing.T) {
	p := usual(t, 1)
	h := plant.Well()
	h.Raw = 0.5
	var wrong validation.Errors
	require.ErrorAs(t, p.CheckHealthy([]plant.Round{roundAt(t, p, at(p, 1, 20), h, everywhere...)}), &wrong)
	assert.Equal(t, "raw-flow-low", wrong[0].Given)
	assert.NoError(t, p.CheckHealthy(healthyRounds(t, p)))
	_, err := p.Calibrated(nil, plant.LeftByBaseline)
	assert.ErrorAs(t, err, &wrong)
	assert.ErrorAs(t, p.CheckHealthy(nil), &wrong)
}

// A round carried to its own operation is itself; carried elsewhere, a healthy engine's is what it would read there.
func TestARoundIsCarriedToAnotherOperation(t *testing.T) {
	p := usual(t, 1)
	from, to := at(p, 0.9, 12), at(p, 0.6, 24)
	r := roundAt(t, p, from, plant.Well(), everywhere...)
	same, err := p.Carried(r, from)
	require.NoError(t, err)
	there, err := p.Carried(r, to)
	require.NoError(t, err)
	want := roundAt(t, p, to, plant.Well(), everywhere...)
	for i := range r.Reads {
		assert.InDelta(t, r.Reads[i].Value, same[i].Value, 1e-9)
		assert.InDelta(t, want.Reads[i].Value, there[i].Value, 1e-6, r.Reads[i].Station)
	}
	_, err = p.Carried(r, plant.Operation{})
	assert.Error(t, err)
	r.Operation.RPM = 9000
	_, err = p.Carried(r, to)
	assert.Error(t, err)
}

// However a healthy engine differs from its type, fitting it never makes its own round look like a fault.
func TestHerOwnRoundIsHealthyToHer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		y := rapid.SampledFrom(plant.Types()[:4]).Draw(t, "type")
		k := plant.EngineFacts{Family: y.Family, Fuel: y.Fuel, Aspiration: y.Aspiration, RatedKW: y.RatedKW,
			RatedRPM: y.RatedRPM, Circuit: closedCircuit}
		believed, err := plant.New(k)
		require.NoError(t, err)
		vary := func(name string) float64 { return rapid.Float64Range(0.9, 1.1).Draw(t, name) }
		k.RawLMin, k.UA, k.CoolantLMin = believed.Rated.RawLMin*vary("raw"), y.UA*vary("ua"), y.CoolantLMin*vary("coolant")
		real, err := plant.New(k)
		require.NoError(t, err)
		rounds := []plant.Round{roundAt(t, real, at(real, 0.9, 18), plant.Well(), everywhere...)}
		fitted, err := believed.Calibrated(rounds, plant.LeftByBaseline)
		require.NoError(t, err)
		rep, err := fitted.Judge(rounds)
		require.NoError(t, err)
		require.Less(t, rep.Patterns[0].Ratio, plant.SaysLeaning)
	})
}
