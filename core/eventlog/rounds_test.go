package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/validation"
)

func aSum() eventlog.Body {
	flow := 46.2
	return eventlog.Body{Words: "at 2400", Calculation: &eventlog.Calculation{Name: "bucket-flow", Asks: "How much?",
		Given: map[string]any{"volume_l": 10.0}, Units: "metric",
		Figures: []eventlog.Figure{{Label: "Flow", Value: &flow, Unit: "L/min"}}}}
}

func aRound() eventlog.Body {
	return eventlog.Body{Words: "off the quay", Round: &eventlog.Round{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35,
		SpaceC:   30,
		Readings: []eventlog.Read{{Station: "flow", Value: 50, Error: 2.5, Instrument: "bucket"}}}}
}

func TestSumsAndRoundsStandInTheJobUntilTakenBack(t *testing.T) {
	l := opened().and(eventlog.Calculated, aSum()).and(eventlog.RoundTaken, aRound())
	j := fold(t, l)
	require.Len(t, j.Calculations, 1)
	require.Len(t, j.Rounds, 1)
	assert.Equal(t, "at 2400", j.Calculations[0].Words)
	assert.Equal(t, "e1", j.Calculations[0].From.Entry)
	assert.Equal(t, 2400.0, j.Rounds[0].RPM)
	j = fold(t, l.undoing("e1").undoing("e2"))
	assert.Empty(t, j.Calculations)
	assert.Empty(t, j.Rounds)
	j = fold(t, l.undoing("e1").undoing("e3"))
	assert.Len(t, j.Calculations, 1, "the undo was taken back")
}

func TestSumsAndRoundsHaveTheirOwnFields(t *testing.T) {
	c := loadCatalogue(t)
	job := fold(t, opened())
	entry := func(kind eventlog.Kind, b eventlog.Body) error {
		return eventlog.CheckJobEntry(c, engine(c), job, nil, eventlog.Entry{ID: "x", Kind: kind, By: "A", Body: b})
	}
	require.NoError(t, entry(eventlog.Calculated, aSum()))
	require.NoError(t, entry(eventlog.RoundTaken, aRound()))
	for kind, b := range map[eventlog.Kind]eventlog.Body{eventlog.Calculated: aRound(), eventlog.RoundTaken: aSum(),
		eventlog.Noted: aSum()} {
		var wrong validation.Errors
		require.ErrorAs(t, entry(kind, b), &wrong, string(kind))
	}
	closed := fold(t, opened().and(eventlog.Closed, eventlog.Body{Words: "done", Explains: new(bool)}))
	assert.NoError(t, eventlog.CheckJobEntry(c, engine(c), closed, nil, eventlog.Entry{ID: "x", Kind: eventlog.Calculated,
		By: "A", Body: aSum()}), "a sum may be kept with a closed job")
	var clash *eventlog.Conflict
	assert.ErrorAs(t, eventlog.CheckJobEntry(c, engine(c), closed, nil, eventlog.Entry{ID: "x", Kind: eventlog.RoundTaken,
		By: "A", Body: aRound()}), &clash)
}

func TestWhatIsReckonedGivesWayToWhatWasSaid(t *testing.T) {
	j := fold(t, opened().and(eventlog.Found, says(eventlog.Absent, "raw-flow-low")))
	j.TakeComputed([]eventlog.ComputedFinding{{ID: "raw-flow-low", Q: 0.97, Why: "reckoned"}, {ID: "exchanger-weak",
		Q: 0.9, Why: "reckoned"}}, 2)
	assert.Equal(t, []string{"raw-flow-low", "exchanger-weak"}, ids(j.Findings))
	assert.Zero(t, j.Findings[0].Q)
	assert.Equal(t, "reckoned", j.Findings[1].Record)
	q := j.Question(engine(loadCatalogue(t)), nil)
	assert.InDelta(t, 0.9, q.Findings[1].Q, 1e-12, "it is evidence with its likelihood")
}
