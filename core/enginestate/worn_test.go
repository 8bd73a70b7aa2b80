package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
)

func graded(check, finding, state string) eventlog.Entry {
	return eventlog.Entry{ID: check + finding + state, Kind: eventlog.Checked, By: "Kit Venn",
		Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "job"}, Body: eventlog.Body{Check: check, Outcome: eventlog.Done,
			Stated: []eventlog.Stated{{ID: finding, State: state}}}}
}

func TestLightWearIsLeftToBePutRightUntilALookShowsNone(t *testing.T) {
	hair := graded("impeller-look", "blades-hair-cracked", eventlog.Present)
	left := fold(t, hair).FollowUps()
	require.Len(t, left, 1)
	assert.Equal(t, "also-seen", left[0].Kind)
	assert.Equal(t, "impeller", left[0].Item, "a new impeller does it too")
	assert.Equal(t, "Fit a new impeller", left[0].Do)
	assert.Equal(t, "job", left[0].Job)
	assert.Len(t, fold(t, hair, hair).FollowUps(), 1, "seen twice, left once")

	for what, e := range map[string]eventlog.Entry{
		"none now":         graded("impeller-look", "blades-hair-cracked", eventlog.Absent),
		"a heavy one":      graded("impeller-look", "blades-missing", eventlog.Present),
		"nobody knows now": graded("impeller-look", "blades-hair-cracked", eventlog.Unsure),
	} {
		assert.Empty(t, fold(t, hair, e).Worn(), what)
	}
	for what, e := range map[string]eventlog.Entry{
		"another thing":     graded("impeller-look", "hub-or-key-slipping", eventlog.Absent),
		"no heavy one":      graded("impeller-look", "blades-missing", eventlog.Absent),
		"at another place":  graded("elbow-look", "elbow-narrowed", eventlog.Present),
		"a heavy one there": graded("exchanger-look", "fragments-at-exchanger", eventlog.Present),
	} {
		assert.Len(t, fold(t, hair, e).Worn(), 1, what)
	}
}

// Whoever saw a wheel with hair cracks counted its blades: what condemned it before was another wheel.
func TestALightGradeSaysThatThePartIsFit(t *testing.T) {
	bad := graded("impeller-look", "blades-cracked-or-set", eventlog.Present)
	_, condemned := fold(t, bad).IsCondemned("impeller")
	require.True(t, condemned)
	_, condemned = fold(t, bad, graded("impeller-look", "blades-hair-cracked", eventlog.Present)).IsCondemned("impeller")
	assert.False(t, condemned)
}
