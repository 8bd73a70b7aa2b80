package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/readings"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

// The model and the catalogue speak of the same faults and findings.
func TestTheModelSpeaksTheCataloguesWords(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	for _, id := range plant.Physical() {
		_, ok := c.Fault(id)
		assert.True(t, ok, "the catalogue has no fault %s", id)
		assert.NotEmpty(t, plant.Pattern(id), "%s shows by no pattern", id)
	}
	f, _ := c.Family(catalogue.Closed)
	k := plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, Circuit: f.Circuit}
	p, err := plant.New(k)
	require.NoError(t, err)
	rep, err := p.Judge([]plant.Round{{Operation: plant.Operation{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30},
		Reads: []plant.Read{{Station: "thermostat", Side: "coolant", Value: 84, Error: 1}, {Station: "outlet", Side: "raw",
			Value: 30, Error: 2}, {Station: "raw-hoses", Side: "raw", Value: 22, Error: 1}}}})
	require.NoError(t, err)
	for _, l := range rep.Findings {
		finding, ok := c.Finding(l.ID)
		assert.True(t, ok && finding.Source == catalogue.Reading, "the catalogue computes no finding %s", l.ID)
	}
}

func known(t *testing.T) readings.PlantQuestion {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	f, _ := c.Family(catalogue.Closed)
	return readings.PlantQuestion{Engine: plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60,
		RatedRPM: 3000, Circuit: f.Circuit}}
}

func TestARunBeginsAtRestUnlessItIsTold(t *testing.T) {
	op := plant.Operation{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	rest, err := readings.Transient(known(t), nil, []readings.Phase{{UntilS: 600, Operation: op}}, 60)
	require.NoError(t, err)
	assert.InDelta(t, rest[0].BlockC, rest[len(rest)-1].BlockC, 0.05)
	cold := 15.0
	warming, err := readings.Transient(known(t), &cold, []readings.Phase{{UntilS: 600, Operation: op}}, 60)
	require.NoError(t, err)
	assert.InDelta(t, 15, warming[0].BlockC, 1e-9)
	assert.Greater(t, warming[len(warming)-1].BlockC, 60.0)
	for i := 1; i < len(warming); i++ {
		assert.Greater(t, warming[i].BlockC, warming[i-1].BlockC, "it only warms")
	}
}

func TestSlipsAreToldUnderTheirPart(t *testing.T) {
	op := plant.Operation{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	fast := op
	fast.RPM = 9000
	_, noEngine := readings.Steady(readings.PlantQuestion{}, op, nil)
	_, tooFast := readings.Steady(known(t), fast, nil)
	_, second := readings.Transient(known(t), nil, []readings.Phase{{UntilS: 60, Operation: op},
		{UntilS: 90, Operation: fast}}, 10)
	_, judged := readings.Judge(readings.PlantQuestion{}, nil)
	_, _, should := readings.Shoulds(known(t), fast)
	for field, err := range map[string]error{"engine.family": noEngine, "operation.rpm": tooFast,
		"phases[1].operation.rpm": second} {
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
	}
	assert.Error(t, judged)
	assert.Error(t, should)
}

// A circuit that is changed after a round was taken leaves the round standing, and the job readable.
func TestARoundOutlivesAChangeOfTheCircuit(t *testing.T) {
	s := newShop(t)
	craft, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	round := eventlog.Body{Round: &eventlog.Round{RPM: 4000, Load: 1, SeaC: 18, Salinity: 35, SpaceC: 33,
		Readings: []eventlog.Read{{Station: "gear-cooler", Side: "raw", Value: 20, Error: 1}, {Station: "flow", Value: 60,
			Error: 3}}}}
	p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), round)
	require.NoError(t, err)
	require.NotNil(t, p.Health)
	_, err = s.SaveEngine(s.ctx, engine, stamp(), eventlog.EngineFacts{CraftID: craft, Name: "main",
		Family: catalogue.Closed, Fuel: "petrol", RatedKW: 150, RatedRPM: 4600,
		ThermostatC: 71, Circuit: []string{"intake", "strainer", "raw-pump", "exchanger", "elbow", "outlet", "thermostat",
			"gauge"}})
	require.NoError(t, err)
	p, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Nil(t, p.Health)
	require.Len(t, p.Rounds, 1)
	assert.Equal(t, 4000.0, p.Rounds[0].RPM)
}
