package record_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/input"
	"hevrin/core/record"
)

func aSum() record.Body {
	flow := 46.2
	return record.Body{Words: "at 2400", Sum: &record.Sum{Name: "bucket-flow", Asks: "How much?", Given: map[string]any{"volume_l": 10.0}, Units: "metric",
		Figures: []record.Figure{{Label: "Flow", Value: &flow, Unit: "L/min"}}}}
}

func aRound() record.Body {
	return record.Body{Words: "off the quay", Round: &record.Round{RPM: 2400, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30,
		Readings: []record.Read{{Station: "flow", Value: 50, Error: 2.5, Instrument: "bucket"}}}}
}

func TestSumsAndRoundsStandInTheJobUntilTakenBack(t *testing.T) {
	l := opened().and(record.Summed, aSum()).and(record.Rounded, aRound())
	j := fold(t, l)
	require.Len(t, j.Sums, 1)
	require.Len(t, j.Rounds, 1)
	assert.Equal(t, "at 2400", j.Sums[0].Words)
	assert.Equal(t, "e1", j.Sums[0].From.Entry)
	assert.Equal(t, 2400.0, j.Rounds[0].RPM)
	j = fold(t, l.undoing("e1").undoing("e2"))
	assert.Empty(t, j.Sums)
	assert.Empty(t, j.Rounds)
	j = fold(t, l.undoing("e1").undoing("e3"))
	assert.Len(t, j.Sums, 1, "the undo was taken back")
}

func TestSumsAndRoundsHaveTheirOwnFields(t *testing.T) {
	c := catalogue(t)
	job := fold(t, opened())
	entry := func(kind record.Kind, b record.Body) error {
		return record.CheckJobEntry(c, engine(c), job, record.Entry{ID: "x", Kind: kind, By: "A", Body: b})
	}
	require.NoError(t, entry(record.Summed, aSum()))
	require.NoError(t, entry(record.Rounded, aRound()))
	for kind, b := range map[record.Kind]record.Body{record.Summed: aRound(), record.Rounded: aSum(), record.Noted: aSum()} {
		var wrong input.Errors
		require.ErrorAs(t, entry(kind, b), &wrong, string(kind))
	}
	closed := fold(t, opened().and(record.Closed, record.Body{Words: "done", Explains: new(bool)}))
	assert.NoError(t, record.CheckJobEntry(c, engine(c), closed, record.Entry{ID: "x", Kind: record.Summed, By: "A", Body: aSum()}), "a sum may be kept with a closed job")
	var clash *record.Conflict
	assert.ErrorAs(t, record.CheckJobEntry(c, engine(c), closed, record.Entry{ID: "x", Kind: record.Rounded, By: "A", Body: aRound()}), &clash)
}

func TestWhatIsReckonedGivesWayToWhatWasSaid(t *testing.T) {
	j := fold(t, opened().and(record.Found, says(record.Absent, "raw-flow-low")))
	j.TakeReckoned([]record.Reckoned{{ID: "raw-flow-low", Q: 0.97, Why: "reckoned"}, {ID: "exchanger-weak", Q: 0.9, Why: "reckoned"}})
	assert.Equal(t, []string{"raw-flow-low", "exchanger-weak"}, ids(j.Findings))
	assert.Zero(t, j.Findings[0].Q)
	assert.Equal(t, "reckoned", j.Findings[1].Record)
	q := j.Question(engine(catalogue(t)))
	assert.InDelta(t, 0.9, q.Findings[1].Q, 1e-12, "it is evidence with its likelihood")
}
