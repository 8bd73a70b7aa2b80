package app_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

var twinCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "exchanger", "raw-hoses",
	"elbow", "outlet", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge"}

// twins are two engines alike on one craft, with a job open on each.
func twins(t *testing.T, s *shop) (port, starboard, portJob, starboardJob string) {
	t.Helper()
	craft, _ := s.engine(eventlog.Dates{})
	add := func(name string) (string, string) {
		id := uuid.NewString()
		_, err := s.SaveEngine(s.ctx, id, stamp(), eventlog.EngineFacts{CraftID: craft, Name: name, Family: catalogue.Closed,
			Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, Circuit: twinCircuit})
		require.NoError(t, err)
		return id, s.job(id)
	}
	port, portJob = add("port")
	starboard, starboardJob = add("starboard")
	return port, starboard, portJob, starboardJob
}

// readAt is a round of an engine as it is, without noise.
func readAt(t *testing.T, rpm float64, h plant.Health, is func(*plant.EngineFacts)) eventlog.Body {
	t.Helper()
	k := plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, ThermostatC: 82,
		Circuit: twinCircuit}
	if is != nil {
		is(&k)
	}
	p, err := plant.New(k)
	require.NoError(t, err)
	op := plant.Operation{RPM: rpm, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	state, err := p.Steady(op, h)
	require.NoError(t, err)
	r := &eventlog.Round{RPM: rpm, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30,
		Readings: []eventlog.Read{{Station: "flow", Value: state.RawLMin, Error: 0.05 * state.RawLMin}}}
	for _, x := range state.Readings {
		switch x.Station {
		case "exchanger", "raw-hoses", "thermostat", "coolant-hoses", "outlet":
			r.Readings = append(r.Readings, eventlog.Read{Station: x.Station, Side: x.Side, Value: x.TempC, Error: 1})
		}
	}
	return eventlog.Body{Round: r}
}

func ratio(p *job.Page, pattern string) float64 {
	for _, l := range p.Health.Patterns {
		if l.ID == pattern {
			return l.Ratio
		}
	}
	return 0
}

func TestAHealthyRoundBecomesTheEnginesStandard(t *testing.T) {
	s := newShop(t)
	port, _, job, _ := twins(t, s)
	strong := func(k *plant.EngineFacts) { k.UA = 1150 }
	p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, plant.Well(), strong))
	require.NoError(t, err)
	assert.Equal(t, readings.ByType, p.Comparison.Kind)
	healthy := p.Rounds[0].From.Entry
	page, err := s.SaveBaseline(s.ctx, port, stamp(), job, []string{healthy}, "")
	require.NoError(t, err)
	require.NotNil(t, page.Engine.Baseline)
	for _, f := range page.Facts {
		if f.ID == "ua_w_k" {
			assert.Equal(t, plant.Baseline, f.From)
			assert.InDelta(t, 1150, f.Value, 110)
		}
	}
	weak := plant.Well()
	weak.UA = 0.75 // of a strong exchanger: still near a typical engine of this kind
	p, err = s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, weak, strong))
	require.NoError(t, err)
	assert.Equal(t, readings.ByBaseline, p.Comparison.Kind)
	assert.NotEmpty(t, p.Rounds[1].Baseline)
	against := ratio(p, "exchanger-weak")
	log := page.Log[len(page.Log)-1]
	assert.Equal(t, eventlog.BaselineSet, log.Kind)
	_, err = s.Undo(s.ctx, log.ID, stamp())
	require.NoError(t, err)
	p, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Equal(t, readings.ByType, p.Comparison.Kind, "taken back")
	assert.Less(t, ratio(p, "exchanger-weak"), against)
}

func TestABaselineThatCannotBe(t *testing.T) {
	s := newShop(t)
	port, starboard, job, _ := twins(t, s)
	ill := plant.Well()
	ill.Raw = 0.5
	p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, ill, nil))
	require.NoError(t, err)
	round := p.Rounds[0].From.Entry
	field := func(engine, job string, rounds []string, words string) string {
		_, err := s.SaveBaseline(s.ctx, engine, stamp(), job, rounds, words)
		var wrong validation.Errors
		if err == nil {
			return ""
		}
		require.ErrorAs(t, err, &wrong)
		return wrong[0].Field
	}
	assert.Equal(t, "rounds", field(port, job, []string{round}, ""), "it looks like a fault")
	assert.Equal(t, "job_id", field(starboard, job, []string{round}, ""))
	assert.Equal(t, "rounds[0]", field(port, job, []string{uuid.NewString()}, ""))
	assert.Empty(t, field(port, job, []string{round}, "New pump with half the displacement, by design."),
		"kept if the person insists")
	early := eventlog.Body{Round: &eventlog.Round{RPM: 800, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30, OutOfGear: true,
		RanMin: 4, Readings: []eventlog.Read{{Station: "gauge", Value: 45, Error: 2}}}}
	p, err = s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), early)
	require.NoError(t, err)
	assert.Equal(t, "rounds", field(port, job, []string{p.Rounds[1].From.Entry}, "It is well."),
		"but no word makes a baseline of an engine that was warming up")
}

// The twin, healthy on the same day, is a standard; an ailing one, or one that differs, is none.
func TestTheTwinsRoundOfTheDay(t *testing.T) {
	s := newShop(t)
	_, starboard, portJob, job := twins(t, s)
	strong := func(k *plant.EngineFacts) { k.UA = 1050 }
	_, err := s.NoteInJob(s.ctx, portJob, eventlog.RoundTaken, stamp(), readAt(t, 2800, plant.Well(), strong))
	require.NoError(t, err)
	weak := plant.Well()
	weak.UA = 0.7
	p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2600, weak, strong))
	require.NoError(t, err)
	assert.Equal(t, readings.ByTwin, p.Comparison.Kind)
	assert.Equal(t, "port", p.Comparison.Name)
	assert.NotEmpty(t, p.Rounds[0].Twin)
	beside := ratio(p, "exchanger-weak")
	facts := p.Engine
	_, err = s.SaveEngine(s.ctx, starboard, stamp(), eventlog.EngineFacts{CraftID: facts.CraftID, Name: "starboard",
		Family: catalogue.Closed, Fuel: "diesel", RatedKW: 70, RatedRPM: 3000, ThermostatC: 82, Circuit: twinCircuit})
	require.NoError(t, err)
	p, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Equal(t, readings.ByType, p.Comparison.Kind, "no twin any more")
	assert.Empty(t, p.Rounds[0].Twin)
	assert.Greater(t, beside, 1.0)
}

// An ailing twin is no standard, nor is one that was read on another day.
func TestAnAilingTwinIsNoStandard(t *testing.T) {
	for name, c := range map[string]struct {
		twin  plant.Health
		later time.Duration
	}{"ailing": {func() plant.Health { h := plant.Well(); h.Raw = 0.5; return h }(), 0}, "two days later": {plant.Well(),
		48 * time.Hour}} {
		s := newShop(t)
		_, _, portJob, job := twins(t, s)
		_, err := s.NoteInJob(s.ctx, portJob, eventlog.RoundTaken, stamp(), readAt(t, 2800, c.twin, nil))
		require.NoError(t, err)
		s.now = s.now.Add(c.later)
		p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, plant.Well(), nil))
		require.NoError(t, err)
		assert.Equal(t, readings.ByType, p.Comparison.Kind, name)
	}
}

func TestCoolingFactsAreKeptAndChecked(t *testing.T) {
	s := newShop(t)
	craft, engine := s.engine(eventlog.Dates{})
	facts := eventlog.EngineFacts{CraftID: craft, Name: "main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, Circuit: twinCircuit,
		Cooling: eventlog.Cooling{RawLMin: 88, Tubes: &eventlog.Tubes{Tubes: 64, Passes: 2, InnerMM: 6.5, OuterMM: 8,
			LengthMM: 320}}}
	page, err := s.SaveEngine(s.ctx, engine, stamp(), facts)
	require.NoError(t, err)
	assert.Equal(t, facts.Cooling, page.Engine.Cooling)
	facts.Cooling.RawLMin = 9e6
	_, err = s.SaveEngine(s.ctx, engine, stamp(), facts)
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "cooling.raw_l_min", wrong[0].Field)
	var kept record.Engine = page.Engine
	assert.Equal(t, 88.0, kept.Cooling.RawLMin)
}

// By hand: matt is what it is set for; a bright surface in its own warmth reads near the space, so that little is sure.
func TestASurfaceThermometerIsSetRight(t *testing.T) {
	for surface, want := range map[string][3]float64{"matt": {60, 0.4, 2.5}, "rust": {65, 3, 5}, "oxidised": {75, 4, 10}} {
		v, e, err := readings.Pointed(60, 2, surface, 30)
		require.NoError(t, err)
		assert.InDelta(t, want[0], v, want[1], surface)
		assert.InDelta(t, want[2], e, want[2]/2, surface)
	}
	v, e, err := readings.Pointed(40, 2, "bright", 30)
	require.NoError(t, err)
	assert.Greater(t, v, 90.0)
	assert.Greater(t, e, 10.0, "such a reading says little")
	for _, c := range []struct {
		reading float64
		surface string
	}{{60, "paper"}, {-60, "bright"}} {
		_, _, err := readings.Pointed(c.reading, 2, c.surface, 40)
		var wrong validation.Errors
		assert.ErrorAs(t, err, &wrong)
	}
}

// What is read at a check tells as a round does, and the check is made.
func TestACheckThatIsReadOffIsARound(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	_, _, id, _ := twins(t, s)
	scaled := plant.Well()
	scaled.UA = 0.4
	round := readAt(t, 2800, scaled, nil)
	alone := s.note(id, eventlog.RoundTaken, round)
	back := func(p *jobPage) *jobPage {
		_, err := s.Undo(s.ctx, p.Log[len(p.Log)-1].ID, stamp())
		require.NoError(t, err)
		p, err = s.Job(s.ctx, id)
		require.NoError(t, err)
		return p
	}
	back(alone)
	took := 9.0
	at := s.note(id, eventlog.Checked, eventlog.Body{Check: "temperatures-load", Outcome: eventlog.Done, Minutes: &took,
		Round: round.Round})
	require.Len(t, at.Job.Rounds, 1)
	require.Len(t, at.Job.Checks, 1)
	assert.Equal(t, alone.Health.Figures, at.Health.Figures)
	assert.InDelta(t, 9, at.Job.Minutes(), 1e-9)
	for _, n := range at.Answer.NextChecks {
		assert.NotEqual(t, "temperatures-load", n.Check, "it is made")
	}
	taken := back(at)
	assert.Empty(t, taken.Job.Rounds)
	assert.Empty(t, taken.Job.Checks)
}

// A round at idle tells of what it reads off there alone: what hardly shows at idle is not cleared by it, and the
// temperatures under load are still worth reading. One under load tells of both.
func TestARoundIsOfItsOperatingPoint(t *testing.T) {
	s := newShop(t)
	_, _, portJob, starboardJob := twins(t, s)
	points := func(job string, rpm float64) map[string]string {
		p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, rpm, plant.Well(), nil))
		require.NoError(t, err)
		out := map[string]string{}
		for _, k := range p.Job.Findings {
			if k.Record != "" {
				out[k.ID] = k.Point
			}
		}
		return out
	}
	idle, load := points(portJob, 800), points(starboardJob, 2400)
	assert.Equal(t, "idle", idle["raw-rise-high"])
	assert.Equal(t, "load", load["raw-rise-high"])
	assert.Equal(t, "load", points(portJob, 2300)["raw-rise-high"], "of several rounds the hardest counts")
	for _, told := range []map[string]string{idle, load} {
		at, ok := told["gauge-off"]
		assert.True(t, !ok || at == "", "a pattern was weighed with what shows at its speeds")
	}

	neutral := readAt(t, 2400, plant.Well(), nil)
	neutral.Round.OutOfGear = true
	_, _, job, _ := twins(t, s)
	p, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), neutral)
	require.NoError(t, err)
	for _, k := range p.Job.Findings {
		assert.NotEqual(t, "load", k.Point, "out of gear it works as little as at idle: %s", k.ID)
	}
}
