package eventlog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/eventlog"
)

func saw(check string, states map[string]string) eventlog.Body {
	b := eventlog.Body{Check: check, Outcome: eventlog.Done}
	for id, s := range states {
		b.Stated = append(b.Stated, eventlog.Stated{ID: id, State: s})
	}
	return b
}

// A light grade of wear says that no heavy one is there, of those that its check would show; a heavy one says nothing of
// the light one.
func TestGradesOfWearExcludeEachOther(t *testing.T) {
	const yes, no = eventlog.Present, eventlog.Absent
	q := func(l log, finding string) float64 { return evidence(t, l, finding).Q }
	l := opened().and(eventlog.Checked, saw("impeller-look", map[string]string{"blades-hair-cracked": yes}))
	assert.Equal(t, 1.0, q(l, "blades-hair-cracked"))
	assert.Zero(t, q(l, "blades-cracked-or-set"))
	assert.Zero(t, q(l, "blades-missing"))
	assert.Equal(t, 1, evidence(t, l, "blades-missing").Looks)

	l = l.and(eventlog.Checked, saw("impeller-look", map[string]string{"blades-cracked-or-set": yes}))
	assert.Equal(t, 1.0, q(l, "blades-cracked-or-set"), "a better look")
	assert.Equal(t, -1.0, q(l, "blades-hair-cracked"), "not known beside it")

	// crumbs at the cooler's face say nothing of the exchanger's, nor does what the exchanger shows of the cooler's
	l = opened().and(eventlog.Checked, saw("cooler-inlet-look", map[string]string{"crumbs-at-face": yes}))
	assert.Zero(t, q(l, "fragments-at-cooler"))
	assert.Equal(t, -1.0, q(l, "fragments-at-exchanger"))
	l = l.and(eventlog.Checked, saw("exchanger-look", map[string]string{"fragments-at-exchanger": yes}))
	assert.Equal(t, 1.0, q(l, "crumbs-at-face"), "seen at the other place")

	// a light one that is not there says nothing of a heavy one
	l = opened().and(eventlog.Checked, saw("elbow-look", map[string]string{"elbow-narrowed-some": no}))
	assert.Equal(t, -1.0, q(l, "elbow-narrowed"))
	both := saw("elbow-look", map[string]string{"elbow-narrowed-some": yes, "elbow-narrowed": yes})
	assert.ErrorContains(t, refused(t, opened(), eventlog.Checked, both), "a little or much")
	assert.NoError(t, refused(t, opened(), eventlog.Checked,
		saw("elbow-look", map[string]string{"elbow-narrowed-some": yes, "elbow-thin-or-holed": yes})))
}
