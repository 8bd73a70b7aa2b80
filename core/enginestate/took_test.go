package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
)

// took is a check that took so many minutes in a job.
func took(job, check string, minutes float64) eventlog.Entry {
	return eventlog.Entry{ID: job + check, Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: job}, Kind: eventlog.Checked,
		Body: eventlog.Body{Check: check, Outcome: eventlog.Done, Minutes: &minutes}}
}

// What a look and the access opened for it took on this engine stands for them in its next job: one look counts half,
// three alone; the job itself is not told of its own.
func TestMinutesAsTheyWere(t *testing.T) {
	c := book(t)
	k, _ := c.Check("impeller-look")
	a, _ := c.AccessTo("pump-cover-off")
	twice := 2 * (k.Minutes + a.Minutes)
	s := enginestate.New(c)
	s.Take(took("1", "impeller-look", twice))
	minutes, here := s.Minutes("2", nil)
	assert.Equal(t, map[string]float64{"impeller-look": 1.5 * k.Minutes, "pump-cover-off": 1.5 * a.Minutes}, minutes)
	assert.Equal(t, map[string]int{"impeller-look": 1, "pump-cover-off": 1}, here)
	minutes, here = s.Minutes("1", nil)
	assert.Empty(t, minutes)
	assert.Empty(t, here)

	// behind an open cover the look alone is timed; what the yard goes by counts until there are three
	s.Take(took("1", "impeller-look", 2*k.Minutes))
	s.Take(took("1", "pump-measure", 0))
	skipped := took("1", "pump-measure", 30)
	skipped.Body.Outcome = eventlog.Skipped
	s.Take(skipped)
	nobody := took("1", "pump-measure", 30)
	nobody.Body.Minutes = nil
	s.Take(nobody)
	yard := map[string]float64{"pump-cover-off": 30, "strainer-look": 9}
	minutes, here = s.Minutes("2", yard)
	assert.Equal(t, map[string]int{"impeller-look": 2, "pump-cover-off": 1}, here)
	assert.InDelta(t, 10, minutes["impeller-look"], 1e-12, "a third as the catalogue has it, two thirds twice that")
	assert.InDelta(t, (30+2*a.Minutes)/2, minutes["pump-cover-off"], 1e-12)
	assert.InDelta(t, 9, minutes["strainer-look"], 1e-12, "not timed here")
	assert.NotContains(t, minutes, "pump-measure")
	assert.Len(t, yard, 2, "what was given is left alone")
}
