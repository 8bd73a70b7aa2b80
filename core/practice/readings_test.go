package practice_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/practice"
	"hevrin/core/teardown"
)

func at(r eventlog.Round, station, side string) float64 {
	for _, x := range r.Readings {
		if x.Station == station && x.Side == side {
			return x.Value
		}
	}
	return math.NaN()
}

// A round is the model's, with the error of each instrument: over many rounds their spread is what it says, and their
// mean the model's own figure for the engine as it is.
func TestReadingsAreTheModelsWithTheirError(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 5}) // scaled tubes
	require.NoError(t, err)
	w := practice.Enter(e)
	f := w.Facts()
	p, err := plant.New(plant.EngineFacts{Family: f.Family, Fuel: plant.Fuel(f.Fuel), RatedKW: f.RatedKW,
		RatedRPM: f.RatedRPM, ThermostatC: f.ThermostatC, Circuit: f.Circuit})
	require.NoError(t, err)
	x, ok := plant.ExtentOf("tubes-scaled")
	require.True(t, ok)
	ailing, err := plant.Ail(plant.Fault{ID: "tubes-scaled", Severity: x.Severity(e.Hidden[0].Share)})
	require.NoError(t, err)
	const rounds = 60
	var flow, block []float64
	var op plant.Operation
	for range rounds {
		r, err := w.Read()
		require.NoError(t, err)
		op = plant.Operation{RPM: r.RPM, Load: r.Load, SeaC: r.SeaC, Salinity: r.Salinity, SpaceC: r.SpaceC,
			OutOfGear: r.OutOfGear}
		flow = append(flow, at(r, "flow", ""))
		block = append(block, at(r, "thermostat", "coolant"))
	}
	state, err := p.Steady(op, ailing)
	require.NoError(t, err)
	mean, deviation := spreadOf(flow)
	usual := plant.UsualError("flow", plant.Bucket, state.RawLMin)
	assert.InDelta(t, state.RawLMin, mean, 4*usual/math.Sqrt(rounds))
	assert.InDelta(t, usual, deviation, 0.5*usual)
	mean, deviation = spreadOf(block)
	for _, r := range state.Readings {
		if r.Station == "thermostat" && r.Side == "coolant" {
			assert.InDelta(t, r.TempC, mean, 4/math.Sqrt(rounds))
		}
	}
	assert.InDelta(t, 1, deviation, 0.5)
}

func spreadOf(list []float64) (mean, deviation float64) {
	for _, v := range list {
		mean += v / float64(len(list))
	}
	for _, v := range list {
		deviation += (v - mean) * (v - mean) / float64(len(list)-1)
	}
	return mean, math.Sqrt(deviation)
}

// A choked strainer shows as little water, and as usual water once it is clean; a gauge that lies shows on the gauge
// alone.
func TestReadingsShowTheFaultAndItsCure(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 1})
	require.NoError(t, err)
	w := practice.Enter(e)
	before, err := w.Read()
	require.NoError(t, err)
	w.Note(act(teardown.Act{Do: teardown.PutRight, Item: "strainer-clogged"}))
	after, err := w.Read()
	require.NoError(t, err)
	assert.Less(t, before.RPM, after.RPM, "full speed was too hot to hold")
	assert.Equal(t, w.Facts().RatedRPM, after.RPM)
	assert.Less(t, at(before, "flow", ""), 0.9*at(after, "flow", "")*before.RPM/after.RPM)
	lying, err := practice.Draw(c, practice.Case{Lesson: 4})
	require.NoError(t, err)
	r, err := practice.Enter(lying).Read()
	require.NoError(t, err)
	assert.Greater(t, at(r, "gauge", "coolant")-at(r, "thermostat", "coolant"), 8.0)
}

// Nobody reads an engine with its seacock shut: it ran dry.
func TestReadingWithTheSeacockShutRunsDry(t *testing.T) {
	c := load(t)
	e, err := practice.Draw(c, practice.Case{Lesson: 1})
	require.NoError(t, err)
	w := practice.Enter(e)
	w.Note(act(teardown.Act{Do: teardown.Isolate, Item: "seacock"}))
	_, err = w.Read()
	require.NoError(t, err)
	require.NotNil(t, w.Log[0].Danger)
	assert.Equal(t, "dry", w.Log[0].Danger.ID)
}
