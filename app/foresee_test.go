package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	appjob "hevrin/app/job"
	"hevrin/core/eventlog"
)

// What is foreseen of an answer saves nothing, and is what the answer gets when it comes: nothing is diagnosed anew.
func TestAnAnswerThatWasForeseenIsNotDiagnosedAnew(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	before := s.note(job, eventlog.Found, says("present", "hot-under-load"))
	answer := eventlog.Body{Check: "outlet-flow", Outcome: "done", Minutes: new(2.0),
		Stated: []eventlog.Stated{{ID: "raw-flow-low", State: "present"}}}
	_, err := s.NoteInJob(appjob.Foreseen(s.ctx), job, eventlog.Checked, stamp(), answer)
	require.ErrorIs(t, err, appjob.ErrForeseen)
	same, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Equal(t, before.Log, same.Log, "foreseen, not saved")
	assert.Equal(t, before.Answer, same.Answer)

	s.Jobs.Diagnosis = nil // whoever asks it from now on fails
	page := s.note(job, eventlog.Checked, answer)
	assert.Len(t, page.Log, len(before.Log)+1)
	assert.NotEqual(t, before.Answer.Suspects, page.Answer.Suspects)
	other := answer
	other.Stated = []eventlog.Stated{{ID: "raw-flow-low", State: "absent"}}
	assert.Panics(t, func() { _, _ = s.NoteInJob(appjob.Foreseen(s.ctx), job, eventlog.Checked, stamp(), other) })

	// what would be refused is refused
	answer.Check = "no-such-check"
	_, err = s.NoteInJob(appjob.Foreseen(s.ctx), job, eventlog.Checked, stamp(), answer)
	require.Error(t, err)
	require.NotErrorIs(t, err, appjob.ErrForeseen)
}
