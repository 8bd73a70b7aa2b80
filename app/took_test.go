package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	appjob "hevrin/app/job"
	"hevrin/core/eventlog"
)

// What a look took on an engine stands for it in the engine's next job, and the page says so; taken back, it does not.
func TestTheNextJobKnowsWhatLooksTakeHere(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	minutes := func(p *appjob.Page, check string) float64 {
		for _, n := range p.Answer.NextChecks {
			if n.Check == check {
				return n.Minutes
			}
		}
		return 0
	}
	first, next := s.job(engine), s.job(engine)
	before, err := s.Job(s.ctx, next)
	require.NoError(t, err)
	assert.Empty(t, before.Timed)
	k, _ := s.Catalogue.Check("strainer-look")
	took, st := 3*k.Minutes, stamp()
	p, err := s.NoteInJob(s.ctx, first, eventlog.Checked, st, eventlog.Body{Check: k.ID, Outcome: eventlog.Done, Minutes: &took,
		Stated: says(eventlog.Absent, "debris-in-strainer").Stated})
	require.NoError(t, err)
	assert.Empty(t, p.Timed, "in the next job")
	p, err = s.Job(s.ctx, next)
	require.NoError(t, err)
	assert.Equal(t, 1, p.Timed[k.ID])
	assert.InDelta(t, 2*k.Minutes, minutes(p, k.ID), 1e-12)
	figures := eventlog.Figures{What: eventlog.FiguresMinutes, Values: map[string]float64{k.ID: 5 * k.Minutes}}
	_, err = s.NoteMethod(s.ctx, eventlog.FiguresSet, stamp(), eventlog.Body{Figures: &figures})
	require.NoError(t, err)
	p, err = s.Job(s.ctx, next)
	require.NoError(t, err)
	assert.InDelta(t, 4*k.Minutes, minutes(p, k.ID), 1e-12, "half as the yard has it, half as it took here")
	_, err = s.Undo(s.ctx, st.EntryID, stamp())
	require.NoError(t, err)
	p, err = s.Job(s.ctx, next)
	require.NoError(t, err)
	assert.Empty(t, p.Timed)
	assert.InDelta(t, 5*k.Minutes, minutes(p, k.ID), 1e-12)
}
