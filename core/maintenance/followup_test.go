package maintenance_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/maintenance"
)

func TestWhatAJobLeftBehindIsDueOnceUntilItIsDone(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	sealant := maintenance.FollowUp{Kind: "sealant", Key: "e1", What: "cover gasket, pump cover", At: today.AddDate(0, 0, -89), By: "Kit Venn"}
	seacock := maintenance.FollowUp{Kind: "seacock-passes", Key: "e2", What: "the seacock", At: today, By: "Kit Venn"}
	e.FollowUps = []maintenance.FollowUp{sealant, seacock, {Kind: "no-such-kind", Key: "e3", At: today}}
	d := of(t, maintenance.List(c, e, today), "follow-up:sealant:e1")
	assert.Equal(t, "Fit the proper part: cover gasket, pump cover", d.Do)
	assert.Equal(t, "Cover gasket, pump cover: sealant in its place", d.Label)
	assert.Equal(t, maintenance.Soon, d.State)
	assert.Equal(t, today.AddDate(0, 0, 1), d.When, "90 days after it was put in")
	assert.Contains(t, d.Reasons[0].Say, "by Kit Venn")
	assert.Equal(t, maintenance.ByJob, d.Reasons[0].Kind)

	d = of(t, maintenance.List(c, e, today), "follow-up:seacock-passes:e2")
	assert.Equal(t, maintenance.Overdue, d.State, "at once")
	assert.True(t, d.Ashore)
	e.PutOff = []maintenance.Postponement{{Item: d.ID, Until: today.AddDate(0, 2, 0), At: today, Why: "haul-out in July"}}
	d = of(t, maintenance.List(c, e, today), d.ID)
	assert.Equal(t, maintenance.Later, d.State)
	require.NotNil(t, d.PutOff)

	was := len(maintenance.List(c, e, today))
	e.Done = append(e.Done, maintenance.Done{Item: sealant.ID(), At: today})
	assert.Len(t, maintenance.List(c, e, today), was-1)
	assert.Len(t, maintenance.List(c, e.Slim(c), today), was-1, "what is kept of it knows too")
}

func TestTheIDOfAFollowUpIsReadBack(t *testing.T) {
	f := maintenance.FollowUp{Kind: "sealant", Key: "a:b"}
	got, ok := maintenance.FollowUpOf(f.ID())
	assert.True(t, ok)
	assert.Equal(t, f, got)
	for _, bad := range []string{"", "impeller", "follow-up:", "follow-up:sealant", "follow-up:sealant:", "follow-up::x"} {
		_, ok := maintenance.FollowUpOf(bad)
		assert.False(t, ok, bad)
	}
}

// What was put in says how long it lasts; the yard's own interval stands over it.
func TestACoolantsOwnYearsSetItsNextChange(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "coolant", At: today.AddDate(-2, 0, 0), Months: 60}}
	assert.Equal(t, today.AddDate(3, 0, 0), of(t, maintenance.List(c, e, today), "coolant").When)
	assert.Equal(t, today.AddDate(3, 0, 0), of(t, maintenance.List(c, e.Slim(c), today), "coolant").When, "kept with it")
	e.Done[0].Months = 0
	assert.Equal(t, today.AddDate(1, 0, 0), of(t, maintenance.List(c, e, today), "coolant").When, "the usual 36")
	e.Done[0].Months = 60
	e.Own = map[string]maintenance.Interval{"coolant": {Months: 24, Says: "the yard's"}}
	assert.Equal(t, today, of(t, maintenance.List(c, e, today), "coolant").When)
}

// Light wear is due within the year, and done by the maintenance that renews the part: of what was put down by hand only
// the day is known; the look that saw it is none.
func TestWhatWasAlsoSeenIsDoneByItsMaintenanceToo(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	seen := today.Add(14 * time.Hour)
	f := maintenance.FollowUp{Kind: "also-seen", Key: "e1/impeller-wear", What: "hair cracks", Do: "Fit a new impeller",
		Item: "impeller", At: seen, By: "Kit Venn"}
	e.FollowUps = []maintenance.FollowUp{f}
	d := of(t, maintenance.List(c, e, today), f.ID())
	assert.Equal(t, "Also seen: hair cracks", d.Label)
	assert.Equal(t, "Fit a new impeller", d.Do)
	assert.Equal(t, "impeller", d.DoneToo)
	assert.Equal(t, seen.AddDate(0, 0, 365), d.When)
	for what, tc := range map[string]struct {
		done    maintenance.Done
		settled bool
	}{
		"put down as done":                {maintenance.Done{Item: f.ID(), At: today}, true},
		"renewed in a job, an hour on":    {maintenance.Done{Item: "impeller", At: seen.Add(time.Hour), Job: "j"}, true},
		"the same entry":                  {maintenance.Done{Item: "impeller", At: seen, Job: "j"}, false},
		"renewed before it was seen":      {maintenance.Done{Item: "impeller", At: seen.Add(-time.Hour), Job: "j"}, false},
		"put down by hand that day":       {maintenance.Done{Item: "impeller", At: today}, true},
		"put down by hand the day before": {maintenance.Done{Item: "impeller", At: today.AddDate(0, 0, -1)}, false},
		"something else":                  {maintenance.Done{Item: "elbow", At: seen.Add(time.Hour), Job: "j"}, false},
	} {
		e.Done = []maintenance.Done{tc.done}
		assert.Equal(t, tc.settled, f.Settled(e), what)
	}
}

// A trouble on watch is due by the engine's hours, 25 h at 50 h a month, or within half a year where it hardly runs.
func TestATroubleOnWatchIsDueByHours(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.FollowUps = []maintenance.FollowUp{{Kind: "watch", Key: "w", What: "hot twice, then never again", Hours: 25, At: today}}
	d := of(t, maintenance.List(c, e, today), "follow-up:watch:w")
	assert.Equal(t, "On watch: hot twice, then never again", d.Label)
	require.Len(t, d.Reasons, 2)
	assert.Equal(t, maintenance.ByHours, d.Reasons[0].Kind)
	assert.Contains(t, d.Reasons[0].Say, "25 h since")
	assert.InDelta(t, 15, d.When.Sub(today).Hours()/24, 2)
	assert.Equal(t, today.AddDate(0, 0, 183), d.Reasons[1].When)
	e.FollowUps[0].Hours = 1000
	d = of(t, maintenance.List(c, e.Slim(c), today), "follow-up:watch:w")
	assert.Equal(t, maintenance.ByJob, d.Reasons[0].Kind, "the days come first")
	assert.Equal(t, today.AddDate(0, 0, 183), d.When)
	e.Meter = nil
	assert.Len(t, of(t, maintenance.List(c, e, today), "follow-up:watch:w").Reasons, 1, "nobody knows its hours")
}
