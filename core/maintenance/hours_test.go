package maintenance_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/maintenance"
	"hevrin/core/validation"
)

func on(year int, month time.Month, d int) time.Time {
	return time.Date(year, month, d, 0, 0, 0, 0, time.UTC)
}

func TestHoursNeverRunBackwardsWithoutANewMeter(t *testing.T) {
	kept := []maintenance.MeterRead{{Day: on(2025, 3, 1), Hours: 100}, {Day: on(2025, 9, 1), Hours: 400}}
	for name, c := range map[string]struct {
		read  maintenance.MeterRead
		field string
	}{
		"on":                    {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: 500}, ""},
		"the same":              {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: 400}, ""},
		"between":               {maintenance.MeterRead{Day: on(2025, 6, 1), Hours: 250}, ""},
		"before":                {maintenance.MeterRead{Day: on(2025, 1, 1), Hours: 50}, ""},
		"backwards":             {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: 399}, "hours"},
		"between, too high":     {maintenance.MeterRead{Day: on(2025, 6, 1), Hours: 401}, "hours"},
		"between, too low":      {maintenance.MeterRead{Day: on(2025, 6, 1), Hours: 99}, "hours"},
		"before, too high":      {maintenance.MeterRead{Day: on(2025, 1, 1), Hours: 101}, "hours"},
		"faster than the clock": {maintenance.MeterRead{Day: on(2025, 9, 3), Hours: 500}, "hours"},
		"a new meter":           {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: 0, NewMeter: true, Old: 480}, ""},
		"a new meter, old one off": {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: 0, NewMeter: true, Old: 380},
			"old_hours"},
		"below nothing": {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: -1}, "hours"},
		"none":          {maintenance.MeterRead{Day: on(2026, 3, 1), Hours: math.NaN()}, "hours"},
	} {
		t.Run(name, func(t *testing.T) {
			err := maintenance.CheckMeter(kept, c.read)
			if c.field == "" {
				assert.NoError(t, err)
				return
			}
			var wrong validation.Errors
			require.ErrorAs(t, err, &wrong)
			assert.Equal(t, c.field, wrong[0].Field)
		})
	}
}

func TestANewMeterGoesOnWhereTheOldOneStopped(t *testing.T) {
	l := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2025, 1, 1), Hours: 1000}, {Day: on(2025, 7, 1),
		Hours: 5, NewMeter: true, Old: 1200}, {Day: on(2026, 1, 1), Hours: 305}})
	at, hours, ok := l.Last()
	require.True(t, ok)
	assert.Equal(t, on(2026, 1, 1), at)
	assert.InDelta(t, 1500, hours, 1e-9)
	h, _, _ := l.At(on(2025, 7, 1))
	assert.InDelta(t, 1200, h, 1e-9)
}

// North and south: the use of the seasons is learned from the readings, whatever the months.
func TestUseFollowsTheSeasonsOfEitherHemisphere(t *testing.T) {
	for name, summer := range map[string][]time.Month{"north": {6, 7, 8}, "south": {12, 1, 2}} {
		t.Run(name, func(t *testing.T) {
			life := used(3, func(m time.Month) float64 {
				for _, s := range summer {
					if m == s {
						return 90
					}
				}
				return 3
			})
			by := life.ByMonth()
			for m := range by {
				is := by[m] > 1.5
				assert.Equal(t, by[m], math.Max(by[m], 0))
				want := false
				for _, s := range summer {
					want = want || int(s) == m+1
				}
				assert.Equal(t, want, is, "%s: %.2f h a day", time.Month(m+1), by[m])
			}
			assert.InDelta(t, 3*90+9*3, life.PerYear(), 30)
		})
	}
}

// Months of which nothing is known take the mean of the others; a leap year's 29 February counts.
func TestMissingMonthsAndLeapDays(t *testing.T) {
	l := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2024, 2, 1), Hours: 0}, {Day: on(2024, 3, 1),
		Hours: 29}})
	by := l.ByMonth()
	assert.InDelta(t, 1, by[time.February-1], 1e-9, "29 h in the 29 days of a leap February")
	assert.InDelta(t, 1, by[time.August-1], 1e-9, "nothing is known of August")
	h, _, ok := l.At(on(2024, 3, 31))
	require.True(t, ok)
	assert.InDelta(t, 59, h, 1e-9)
	when, ok := l.When(29+366, on(2024, 3, 1))
	require.True(t, ok)
	assert.Equal(t, on(2025, 3, 2), when)
}

func TestOneReadingTellsNoUse(t *testing.T) {
	l := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2024, 2, 1), Hours: 700}})
	hours, use := l.Confirmed()
	assert.True(t, hours)
	assert.False(t, use)
	_, ok := l.When(800, on(2024, 3, 1))
	assert.False(t, ok)
	_, _, ok = maintenance.RunningHoursOf(nil).At(today)
	assert.False(t, ok)
}

// However readings come, an engine's hours never fall from one day to the next, and the day on which it has so many
// hours is the day on which it has them.
func TestHoursRiseWhateverIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var kept []maintenance.MeterRead
		for range rapid.IntRange(1, 12).Draw(t, "n") {
			r := maintenance.MeterRead{Day: on(2020, 1, 1).AddDate(0, 0, rapid.IntRange(0, 2500).Draw(t, "day")),
				Hours: rapid.Float64Range(0, 9000).Draw(t, "hours")}
			if rapid.Bool().Draw(t, "new") {
				r.NewMeter, r.Old = true, rapid.Float64Range(0, 9000).Draw(t, "old")
			}
			kept = append(kept, r)
		}
		l := maintenance.RunningHoursOf(kept)
		before := -1.0
		for d := 0; d < 4000; d += 13 {
			h, e, ok := l.At(on(2019, 6, 1).AddDate(0, 0, d))
			if !ok || h < before-1e-6 || e < 0 {
				t.Fatalf("day %d: %g h after %g, error %g, %v", d, h, before, e, ok)
			}
			before = h
		}
	})
}
