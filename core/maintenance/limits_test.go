package maintenance_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
)

// byHand computes an engine's use again, hour by hour, from its readings: hours and days of each month, the mean, each
// month's rate (15 days of the mean weigh with it), and how much the stretches differ from the usual, per day.
type byHand struct {
	rate          [12]float64
	mean, wander  float64
	known, yearly float64
}

func usedByHand(reads []maintenance.MeterRead) (u byHand) {
	var hours, known [12]float64
	for i := 1; i < len(reads); i++ {
		from, to := reads[i-1].Day, reads[i].Day
		for t := from; t.Before(to); t = t.Add(time.Hour) {
			hours[t.Month()-1] += (reads[i].Hours - reads[i-1].Hours) / to.Sub(from).Hours()
			known[t.Month()-1] += 1.0 / 24
		}
	}
	all := 0.0
	for m := range hours {
		all, u.known = all+hours[m], u.known+known[m]
	}
	u.mean = all / u.known
	for m := range hours {
		u.rate[m] = (hours[m] + 15*u.mean) / (known[m] + 15)
		u.yearly += u.rate[m] * []float64{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}[m]
	}
	squares, over := 0.0, 0.0
	for i := 1; i < len(reads); i++ {
		off := reads[i].Hours - reads[i-1].Hours - u.expected(reads[i-1].Day, reads[i].Day)
		squares, over = squares+off*off, over+reads[i].Day.Sub(reads[i-1].Day).Hours()/24
	}
	n := float64(len(reads))
	if u.wander = squares / over * n / (n - 1); n == 2 {
		u.wander = u.mean * u.mean * 15
	}
	return u
}

func (u byHand) expected(from, to time.Time) (sum float64) {
	for t := from; t.Before(to); t = t.Add(time.Hour) {
		sum += u.rate[t.Month()-1] / 24
	}
	return sum
}

func seasons() []maintenance.MeterRead {
	return []maintenance.MeterRead{{Day: on(2023, 3, 10), Hours: 100}, {Day: on(2023, 7, 1), Hours: 160},
		{Day: on(2023, 11, 20), Hours: 300}, {Day: on(2024, 2, 10), Hours: 302}, {Day: on(2024, 6, 5), Hours: 360},
		{Day: on(2024, 10, 1), Hours: 520}}
}

// Use, hours between and beyond the readings, and their errors, against a computation hour by hour; with a leap day.
func TestHoursAgainstAComputationByHand(t *testing.T) {
	for _, reads := range [][]maintenance.MeterRead{seasons(), seasons()[:2], seasons()[3:]} {
		u, l := usedByHand(reads), maintenance.RunningHoursOf(reads)
		for m, rate := range l.ByMonth() {
			assert.InDelta(t, u.rate[m], rate, 1e-9, "month %d", m+1)
		}
		assert.InDelta(t, u.yearly, l.PerYear(), 1e-9)
		hours, use := l.Confirmed()
		assert.True(t, hours)
		assert.True(t, use)
		first, last := reads[0], reads[len(reads)-1]
		drift := func(days float64) float64 { return math.Sqrt(u.wander*days + u.wander*days*days/u.known) }
		for _, ahead := range []time.Duration{36*time.Hour + 30*time.Minute, 24 * 200 * time.Hour, 24 * 1300 * time.Hour} {
			h, e, ok := l.At(last.Day.Add(ahead))
			require.True(t, ok)
			assert.InDelta(t, last.Hours+u.expected(last.Day, last.Day.Add(ahead)), h, 0.03, "%s", ahead)
			assert.InDelta(t, drift(ahead.Hours()/24), e, 1e-6, "%s", ahead)
			h, e, ok = l.At(first.Day.Add(-ahead))
			require.True(t, ok)
			assert.InDelta(t, math.Max(0, first.Hours-u.expected(first.Day.Add(-ahead), first.Day)), h, 0.03, "-%s", ahead)
			assert.InDelta(t, drift(ahead.Hours()/24), e, 1e-6)
		}
		for i := 1; i < len(reads); i++ {
			at := reads[i-1].Day.Add(reads[i].Day.Sub(reads[i-1].Day) / 3).Truncate(time.Hour)
			share := u.expected(reads[i-1].Day, at) / u.expected(reads[i-1].Day, reads[i].Day)
			h, e, _ := l.At(at)
			assert.InDelta(t, reads[i-1].Hours+share*(reads[i].Hours-reads[i-1].Hours), h, 1e-6)
			assert.Zero(t, e)
		}
	}
	seconds := maintenance.RunningHoursOf(seasons())
	a, _, _ := seconds.At(time.Date(2024, 10, 2, 3, 4, 40, 0, time.UTC))
	b, _, _ := seconds.At(time.Date(2024, 10, 2, 3, 4, 0, 0, time.UTC))
	c, _, _ := seconds.At(time.Date(2024, 10, 2, 3, 2, 0, 0, time.UTC))
	assert.InDelta(t, seconds.ByMonth()[9]*40/86400, a-b, 1e-9)
	assert.InDelta(t, seconds.ByMonth()[9]*120/86400, b-c, 1e-9)
}

// The day on which it has run so many hours: passed between two readings in proportion, after the last by its use.
func TestWhenItHasRunSoManyHours(t *testing.T) {
	reads := seasons()
	l := maintenance.RunningHoursOf(reads)
	today := on(2024, 12, 1)
	for hours, want := range map[float64]time.Time{160: on(2023, 7, 1), 230: on(2023, 9, 9), 302: on(2024, 2, 10),
		440: on(2024, 8, 3), 520: on(2024, 10, 1), 50: on(2023, 3, 10), 100: on(2023, 3, 10)} {
		at, ok := l.When(hours, today)
		require.True(t, ok)
		assert.WithinDuration(t, want, at, 24*time.Hour, "%g h", hours)
	}
	exact, _ := l.When(230, today) // half the hours, half the days: 71 of 142 days
	assert.Equal(t, reads[1].Day.Add(71*24*time.Hour), exact)
	for _, more := range []float64{1, 30, 200} { // by its use after the last reading
		at, ok := l.When(520+more, today)
		require.True(t, ok)
		h, _, _ := l.At(at)
		before, _, _ := l.At(at.AddDate(0, 0, -1))
		assert.GreaterOrEqual(t, h, 520+more)
		assert.Less(t, before, 520+more)
	}
	_, ok := l.When(1e6, today)
	assert.False(t, ok, "too far ahead")
	far, ok := l.When(520+14*l.PerYear(), today)
	require.True(t, ok, "fourteen years ahead is told")
	assert.Equal(t, 2038, far.Year())
	_, ok = maintenance.RunningHoursOf(nil).When(10, today)
	assert.False(t, ok)
	idle := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2024, 1, 1), Hours: 10}, {Day: on(2024, 5, 1),
		Hours: 10}})
	_, ok = idle.When(11, today)
	assert.False(t, ok, "what never runs comes to nothing")
	_, use := idle.Confirmed()
	assert.False(t, use)
}

func TestAMeterAtItsLimits(t *testing.T) {
	kept := []maintenance.MeterRead{{Day: on(2025, 3, 1), Hours: 100}}
	ok := func(r maintenance.MeterRead) bool { return maintenance.CheckMeter(kept, r) == nil }
	assert.True(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 148}),
		"a day more may lie between than was written")
	assert.False(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 148.1}))
	assert.True(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 100}))
	assert.True(t, ok(maintenance.MeterRead{Day: on(2025, 2, 1), Hours: 100}))
	kept = nil
	assert.True(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 0}))
	assert.True(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 200_000}))
	assert.False(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: 200_001}))
	assert.False(t, ok(maintenance.MeterRead{Day: on(2025, 3, 2), Hours: -0.1}))
	l := maintenance.RunningHoursOf([]maintenance.MeterRead{{Day: on(2025, 3, 1), Hours: 100}, {Day: on(2025, 3, 2),
		Hours: 149}, {Day: on(2025, 3, 5), Hours: 110}})
	_, hours, _ := l.Last()
	assert.InDelta(t, 110, hours, 0, "a reading that cannot be is left out, the next is held against the one before")
}

// A line and a curve of growth, their slopes and what they level off at, against closed forms.
func TestGrowthAgainstClosedForms(t *testing.T) {
	var line, curve []maintenance.Point
	for i := range 9 {
		h := 100 + 150*float64(i)
		line = append(line, maintenance.Point{Hours: h, Value: 2 + 0.004*(h-100), Error: 0.1})
		curve = append(curve, maintenance.Point{Hours: h, Value: 0.5 + 1.5*(1-math.Exp(-(h-100)/400)), Error: 0.01})
	}
	g, err := maintenance.FitLinear(line)
	require.NoError(t, err)
	v, e := g.At(1000)
	assert.InDelta(t, 5.6, v, 1e-9)
	// weights 1/0.1² at nine hours evenly spread: S = 900, var(slope) = 1/Σ w (h − mean)², mean 700
	sxx := 0.0
	for _, p := range line {
		sxx += (p.Hours - 700) * (p.Hours - 700) / 0.01
	}
	assert.InDelta(t, math.Sqrt(1/900.0+300*300/sxx), e, 1e-9)
	assert.InDelta(t, 0.004, g.Slope(500), 1e-12)
	assert.True(t, g.Significant)
	c, ok := maintenance.FitAsymptotic(curve)
	require.True(t, ok)
	for _, h := range []float64{100, 333, 1000, 3000} {
		v, _ := c.At(h)
		assert.InDelta(t, 0.5+1.5*(1-math.Exp(-(h-100)/400)), v, 1e-4, "%g h", h)
		assert.InEpsilon(t, 1.5/400*math.Exp(-(h-100)/400), c.Slope(h), 1e-3, "%g h", h)
	}
	level, ok := c.LevelsOff()
	require.True(t, ok)
	assert.InDelta(t, 2, level, 1e-3)
	for _, bad := range []maintenance.Point{{Hours: math.NaN(), Value: 1, Error: 1},
		{Hours: 1, Value: math.NaN(), Error: 1},
		{Hours: 1, Value: 1, Error: math.NaN()}, {Hours: math.Inf(1), Value: 1, Error: 1}, {Hours: 1, Value: math.Inf(-1),
			Error: 1}, {Hours: 1, Value: 1, Error: math.Inf(1)}, {Hours: 1, Value: 1, Error: -1}} {
		_, err := maintenance.FitLinear([]maintenance.Point{line[0], line[1], bad})
		require.Error(t, err, "%v", bad)
	}
	_, err = maintenance.FitLinear([]maintenance.Point{line[0], line[0]})
	require.Error(t, err, "one and the same hours tell no growth")
}

// Overdue on its day, soon up to 45 days ahead, then later; what shares an access goes along up to half a year ahead.
func TestStatesAndGroupsAtTheirLimits(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Own = map[string]maintenance.Interval{"seacock": {Months: 12}}
	state := func(item string, left int) maintenance.State {
		e.Done = []maintenance.Done{{Item: item, At: today.AddDate(-1, 0, left)}}
		return of(t, maintenance.List(c, e, today), item).State
	}
	for left, want := range map[int]maintenance.State{-1: maintenance.Overdue, 0: maintenance.Overdue,
		1: maintenance.Soon, 45: maintenance.Soon, 46: maintenance.Later} {
		assert.Equal(t, want, state("seacock", left), "%d days left", left)
	}
	due := func(id, access string, left int, state maintenance.State) maintenance.Due {
		return maintenance.Due{MaintenanceItem: catalogue.MaintenanceItem{ID: id, Access: access},
			When:  today.AddDate(0, 0, left),
			State: state}
	}
	groups := func(list ...maintenance.Due) int { return len(maintenance.Groups(list, today)) }
	soon, later, far := due("a", "x", 5, maintenance.Soon), due("b", "x", 183, maintenance.Later), due("b", "x", 184,
		maintenance.Later)
	assert.Equal(t, 1, groups(soon, later))
	assert.Equal(t, 0, groups(soon, far))
	assert.Equal(t, 1, groups(due("a", "x", -5, maintenance.Overdue), later))
	assert.Equal(t, 0, groups(later, due("c", "x", 100, maintenance.Later)), "nothing presses")
	assert.Equal(t, 0, groups(soon), "one is no group")
	assert.Equal(t, 0, groups(soon, due("b", "y", 5, maintenance.Soon)))
}

func TestWordsOfIntervals(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "seacock", At: today.AddDate(0, -1, 0)}}
	for months, want := range map[int]string{1: "a month since", 2: "2 months since", 12: "a year since",
		13: "13 months since", 24: "2 years since", 36: "3 years since"} {
		e.Own = map[string]maintenance.Interval{"seacock": {Months: months}}
		assert.Contains(t, of(t, maintenance.List(c, e, today), "seacock").Reasons[0].Say, want)
	}
	e.Own = map[string]maintenance.Interval{"seacock": {Hours: 5000}}
	d := of(t, maintenance.List(c, e, today), "seacock")
	require.Len(t, d.Reasons, 1, "no months, no date")
	assert.Equal(t, maintenance.ByHours, d.Reasons[0].Kind)
}

// A figure that falls, as a share of clean: what is fitted and what is shown turn into each other, with their errors.
func TestATrendIsShownInItsOwnUnit(t *testing.T) {
	c := loadCatalogue(t)
	for _, id := range []string{"ua", "raw-flow"} {
		trend, ok := trendOf(c, id)
		require.True(t, ok, id)
		e := closedEngine(t, c)
		value := func(m int) float64 { return 1 / (1 + 0.02*float64(m+10)) }
		if trend.Fits == catalogue.FitsLoss {
			value = func(m int) float64 { return 1 - 0.01*float64(m+10) }
		}
		for m := -9; m <= 0; m++ {
			e.Measures = append(e.Measures, maintenance.Measure{Kind: trend.Measure, At: today.AddDate(0, m, 0),
				Value: value(m), Error: 0.01})
		}
		life := maintenance.RunningHoursOf(e.Meter)
		line := maintenance.TrendOf(trend, e, life, today)
		require.NotEmpty(t, line.Curve, "%s: %s", id, line.Say)
		for _, p := range line.Curve {
			if p[0] <= line.HoursNow {
				month := (p[0] - 1500) / 50
				want := 1 / (1 + 0.02*(month+10))
				if trend.Fits == catalogue.FitsLoss {
					want = 1 - 0.01*(month+10)
				}
				assert.InDelta(t, want, p[1], 0.004, "%s at %g h", id, p[0])
				assert.InDelta(t, 0.005, p[2], 0.003, "%s at %g h", id, p[0])
			}
		}
		assert.Equal(t, "80 ± 1 %", line.Format(0.8, -0.01))
		assert.Equal(t, "80 %", line.Format(0.8, 0))
		// past its limit by more than its error, not by less
		for off, past := range map[float64]bool{0.005: false, -0.005: false, -0.011: true} {
			e.Measures = []maintenance.Measure{{Kind: trend.Measure, At: today, Value: trend.Limit + off, Error: 0.01}}
			if trend.Fits == catalogue.FitsFouling { // the error of 1/v − 1 is the error over v²
				v := trend.Limit + off
				past = 1/v-1-0.01/(v*v) > 1/trend.Limit-1
			}
			assert.Equal(t, past, maintenance.TrendOf(trend, e, life, today).Past, "%s %g", id, off)
		}
	}
}
