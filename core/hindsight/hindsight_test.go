package hindsight_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/hindsight"
)

func shipped(t *testing.T) *catalogue.Catalogue {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

// closed is a job whose cause stood at a place by the complaint, and at others after each look.
func closed(day, place int, after ...int) hindsight.Job {
	j := hindsight.Job{ID: "j", ClosedAt: time.Date(2026, 5, day, 9, 0, 0, 0, time.UTC), Catalogue: "2026.11",
		Causes: []string{"strainer-clogged"}, Possible: []string{"strainer-clogged", "pump-worn-body"},
		Complaint: hindsight.Ranking{Place: place}}
	for _, p := range after {
		j.Looks = append(j.Looks, hindsight.Look{Check: "strainer-look", Offered: 1, After: hindsight.Ranking{Place: p}})
	}
	return j
}

// Place 0 is a cause that the engine cannot have: no hit. A job that ended earlier counts on as it stood last.
func TestWhereTheCauseStood(t *testing.T) {
	a := hindsight.Sum(shipped(t), []hindsight.Job{closed(1, 3, 1), closed(2, 4, 4, 3), closed(3, 1), closed(4, 0, 0)})
	assert.Equal(t, 4, a.Jobs)
	assert.Equal(t, hindsight.Hits{First: 1, Three: 2}, a.Complaint)
	assert.Equal(t, []hindsight.Hits{{First: 2, Three: 2}, {First: 2, Three: 3}}, a.After)
	long := closed(1, 1, 1, 1, 1, 1, 1, 1, 1)
	assert.Len(t, hindsight.Sum(shipped(t), []hindsight.Job{long}).After, 6)
	assert.Equal(t, hindsight.Account{After: []hindsight.Hits{}}, hindsight.Sum(shipped(t), nil))
}

func TestWhichAdviceWasFollowed(t *testing.T) {
	j := closed(1, 1, 1, 1, 1, 1)
	for i, offered := range []int{1, 3, 4, 0} {
		j.Looks[i].Offered = offered
	}
	a := hindsight.Sum(shipped(t), []hindsight.Job{j})
	assert.Equal(t, 4, a.Looks)
	assert.Equal(t, 1, a.Followed)
	assert.Equal(t, 2, a.Near)
}

func TestTheVersionsOfTheCatalogueAreTold(t *testing.T) {
	old := closed(1, 1)
	old.Catalogue = "2025.3"
	assert.Equal(t, []string{"2026.11", "2025.3"}, hindsight.Sum(shipped(t), []hindsight.Job{old, closed(2, 1), closed(3, 1)}).
		Catalogues)
}

// Twenty jobs of the catalogue's against what the yard's own show: the mean of a beta distribution.
func TestOwnBaseRates(t *testing.T) {
	assert.InDelta(t, 0.1, hindsight.OwnRate(0.1, 0, 0), 1e-12, "nothing known: the catalogue's")
	assert.InDelta(t, 0.3, hindsight.OwnRate(0.1, 10, 20), 1e-12)
	assert.InDelta(t, 0.05, hindsight.OwnRate(0.1, 0, 20), 1e-12)
	rapid.Check(t, func(rt *rapid.T) {
		n := rapid.IntRange(0, 5000).Draw(rt, "jobs")
		own := hindsight.OwnRate(rapid.Float64Range(0.001, 0.9).Draw(rt, "rate"), float64(rapid.IntRange(0, n).Draw(rt, "confirmed")), n)
		if own <= 0 || own >= 1 {
			rt.Fatalf("%v", own)
		}
	})
	a := hindsight.Sum(shipped(t), []hindsight.Job{closed(1, 1), closed(2, 1)})
	require.Len(t, a.Rates, 2, "faults that no engine of these jobs can have are left out")
	assert.Equal(t, "strainer-clogged", a.Rates[0].Fault)
	assert.InDelta(t, 2.0, a.Rates[0].Confirmed, 1e-12)
	assert.Equal(t, 2, a.Rates[1].Jobs)
	assert.Zero(t, a.Rates[1].Confirmed)
	f, _ := shipped(t).Fault("strainer-clogged")
	assert.InDelta(t, (20*f.Prior+2)/22, a.Rates[0].Own, 1e-12)
}

// Where it was one of several and nobody knows which, each counts for its share: the yard's jobs count no more faults
// than there were.
func TestOneOfSeveralCountsForItsShare(t *testing.T) {
	one, both := closed(1, 1), closed(2, 1)
	one.Causes, one.OneOf = []string{"strainer-clogged", "impeller-tired"}, true
	both.Causes = one.Causes
	one.Possible, both.Possible = one.Causes, one.Causes
	a := hindsight.Sum(shipped(t), []hindsight.Job{one, both})
	require.Len(t, a.Rates, 2)
	for _, r := range a.Rates {
		assert.InDelta(t, 1.5, r.Confirmed, 1e-12, r.Fault)
		assert.InDelta(t, hindsight.OwnRate(r.Catalogue, 1.5, 2), r.Own, 1e-12)
	}
}

// One look counts half, two count two thirds, three alone.
func TestOwnMinutes(t *testing.T) {
	for _, k := range []struct {
		times []float64
		want  float64
	}{{nil, 10}, {[]float64{2}, 15}, {[]float64{2, 2}, 17}, {[]float64{2, 2, 2}, 20}, {[]float64{1, 2, 4}, 20},
		{[]float64{1, 2, 3, 4}, 25}, {[]float64{0.25, 0.25, 0.25}, 3}} {
		assert.InDelta(t, k.want, hindsight.OwnMinutes(10, 10, k.times), 1e-12, "%v", k.times)
	}
	assert.InDelta(t, 1.0, hindsight.OwnMinutes(1, 1, []float64{0.25, 0.25, 0.25}), 1e-12, "never under a minute")
}

// What one would say otherwise, as the yard's own minutes, counts as long as there are few.
func TestOwnMinutesBesideWhatOneWouldSayOtherwise(t *testing.T) {
	assert.InDelta(t, 16.0, hindsight.OwnMinutes(16, 10, nil), 1e-12)
	assert.InDelta(t, 18.0, hindsight.OwnMinutes(16, 10, []float64{2}), 1e-12)
	assert.InDelta(t, 20.0, hindsight.OwnMinutes(16, 10, []float64{2, 2, 2}), 1e-12)
	assert.InDelta(t, 4.0, hindsight.Times(600, 6), 1e-12)
	assert.InDelta(t, 0.25, hindsight.Times(1, 60), 1e-12)
	assert.InDelta(t, 1.5, hindsight.Times(9, 6), 1e-12)
}

// What took longer than was forecast is put down to the check and to the access that was opened for it alike; a watch
// that ran on counts as four times as long.
func TestWhatTheLooksTook(t *testing.T) {
	c := shipped(t)
	j := closed(1, 1)
	j.Looks = []hindsight.Look{
		{Check: "impeller-look", Opened: "pump-cover-off", Forecast: 18, Took: 36},
		{Check: "impeller-look", Opened: "pump-cover-off", Forecast: 18, Took: 36},
		{Check: "impeller-look", Forecast: 6, Took: 600},
		{Check: "strainer-look", Forecast: 0, Took: 8},
		{Check: "strainer-look", Forecast: 5, Took: 0},
		{Check: "of-an-older-catalogue", Forecast: 5, Took: 10},
	}
	a := hindsight.Sum(c, []hindsight.Job{j})
	assert.Equal(t, 4, a.Timed)
	assert.InDelta(t, 47.0, a.Forecast, 1e-12)
	assert.InDelta(t, 682.0, a.Took, 1e-12)
	k, _ := c.Check("impeller-look")
	x, _ := c.AccessTo("pump-cover-off")
	assert.Equal(t, []hindsight.Time{
		{ID: "impeller-look", Times: 3, Catalogue: k.Minutes, Own: 2 * k.Minutes},
		{ID: "pump-cover-off", Access: true, Times: 2, Catalogue: x.Minutes, Own: 20}}, a.Minutes)
	j.Looks = j.Looks[2:3]
	assert.InDelta(t, 2.5*k.Minutes, hindsight.Sum(c, []hindsight.Job{j}).Minutes[0].Own, 1e-12)
}
