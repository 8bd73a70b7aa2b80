package maintenance_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
)

func loadCatalogue(t testing.TB) *catalogue.Catalogue {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

func closedEngine(t testing.TB, c *catalogue.Catalogue) maintenance.Engine {
	t.Helper()
	f, ok := c.Family(catalogue.Closed)
	require.True(t, ok)
	e := maintenance.Engine{Family: catalogue.Closed, Circuit: f.Circuit}
	for m := -30; m <= 0; m++ {
		e.Meter = append(e.Meter, maintenance.MeterRead{Day: today.AddDate(0, m, 0), Hours: 50 * float64(m+30)})
	}
	return e
}

func of(t *testing.T, list []maintenance.Due, item string) maintenance.Due {
	t.Helper()
	for _, d := range list {
		if d.ID == item {
			return d
		}
	}
	require.Fail(t, "not on the list", item)
	return maintenance.Due{}
}

// An impeller is due after a year or 500 h: at 50 h a month the hours come first, ten months on; at 20 the year.
func TestTheEarliestWinsAndSaysWhy(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "impeller", At: today.AddDate(0, -6, 0)}}
	d := of(t, maintenance.List(c, e, today), "impeller")
	assert.Equal(t, maintenance.ByHours, d.Reasons[0].Kind)
	assert.WithinDuration(t, today.AddDate(0, 4, 0), d.When, 4*24*time.Hour)
	assert.Equal(t, maintenance.Later, d.State)
	for i := range e.Meter {
		e.Meter[i].Hours *= 0.4
	}
	d = of(t, maintenance.List(c, e, today), "impeller")
	assert.Equal(t, maintenance.ByDate, d.Reasons[0].Kind)
	assert.Equal(t, today.AddDate(0, 6, 0), d.When)
	assert.Contains(t, d.Reasons[0].Say, "a year since 1 November 2025")
	e.Own = map[string]maintenance.Interval{"impeller": {Hours: 100, Says: "the maker's"}}
	d = of(t, maintenance.List(c, e, today), "impeller")
	assert.Equal(t, maintenance.Overdue, d.State)
	assert.Contains(t, d.Reasons[0].Say, "the maker's")
}

func TestNotKnownIsSaidAndStandsLast(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "seacock", At: today.AddDate(-1, 0, 0)}}
	list := maintenance.List(c, e, today)
	assert.Equal(t, "seacock", list[0].ID)
	assert.Equal(t, maintenance.Overdue, list[0].State)
	assert.Equal(t, maintenance.Unknown, list[1].State)
	for _, d := range list {
		assert.NotEqual(t, "block-flush", d.ID, "only on raw-cooled engines")
	}
}

// The last of the month stays the last: a year after 29 February is 28 February.
func TestMonthsStayInTheirMonth(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	for at, want := range map[time.Time]time.Time{on(2024, 2, 29): on(2025, 2, 28), on(2025, 8, 31): on(2026, 2, 28)} {
		item := map[bool]string{true: "gauge-check", false: "seacock"}[at.Month() == 2]
		e.Done = []maintenance.Done{{Item: item, At: at}}
		assert.Equal(t, want, of(t, maintenance.List(c, e, today), item).When)
	}
}

func TestPutOffHoldsUntilItsDayOrUntilItIsDone(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "seacock", At: today.AddDate(-1, 0, 0)}}
	e.PutOff = []maintenance.Postponement{{Item: "seacock", Until: today.AddDate(0, 2, 0), Why: "at the haul-out",
		By: "T", At: today.AddDate(0, -1, 0)}}
	d := of(t, maintenance.List(c, e, today), "seacock")
	require.NotNil(t, d.PutOff)
	assert.Equal(t, maintenance.Later, d.State)
	assert.Equal(t, today.AddDate(0, 2, 0), d.When)
	d = of(t, maintenance.List(c, e, today.AddDate(0, 2, 1)), "seacock")
	assert.Nil(t, d.PutOff, "it lapses")
	assert.Equal(t, maintenance.Overdue, d.State)
	e.Done = append(e.Done, maintenance.Done{Item: "seacock", At: today.AddDate(0, 0, -1)})
	assert.Nil(t, of(t, maintenance.List(c, e, today), "seacock").PutOff, "done since")
}

// Scale grows by 1e-4 per hour since the last descaling: 0.25 (80 % of clean) after 2500 h.
func scaled(e maintenance.Engine, since int, share func(h float64) float64) maintenance.Engine {
	e.Done = append(e.Done, maintenance.Done{Item: "descale", At: today.AddDate(0, -since, 0)})
	for m := since - 1; m >= 0; m -= 2 {
		h := 50 * float64(since-m)
		e.Measures = append(e.Measures, maintenance.Measure{Kind: "ua", At: today.AddDate(0, -m, 0), Value: share(h),
			Error: 0.01})
	}
	return e
}

func TestATrendMakesItDue(t *testing.T) {
	c := loadCatalogue(t)
	e := scaled(closedEngine(t, c), 14, func(h float64) float64 { return 1 / (1 + 3e-4*h) })
	e.Measures = append(e.Measures, maintenance.Measure{Kind: "ua", At: today.AddDate(0, -16, 0), Value: 0.7, Error: 0.01})
	d := of(t, maintenance.List(c, e, today), "descale")
	require.Equal(t, maintenance.ByTrend, d.Reasons[0].Kind, "%+v", d.Reasons)
	assert.WithinDuration(t, today.AddDate(0, 3, 0), d.When, 20*24*time.Hour,
		"0.25 after 833 h, 700 h run: 133 h more, not quite three months")
	assert.Contains(t, d.Reasons[0].Say, "nine times in ten between")
	trend, _ := trendOf(c, "ua")
	line := maintenance.TrendOf(trend, e, maintenance.RunningHoursOf(e.Meter), today)
	assert.Len(t, line.Points, 8)
	assert.Len(t, line.Now, 7, "what was before the descaling is another stretch")
	assert.InDelta(t, 0.8, line.Curve[len(line.Curve)-1][1], 0.01)
}

func trendOf(c *catalogue.Catalogue, id string) (catalogue.Trend, bool) {
	for _, t := range c.Trends {
		if t.ID == id {
			return t, true
		}
	}
	return catalogue.Trend{}, false
}

// What is kept for the due list tells the same list.
func TestASlimEngineTellsTheSame(t *testing.T) {
	c := loadCatalogue(t)
	e := scaled(closedEngine(t, c), 14, func(h float64) float64 { return 1 / (1 + 3e-4*h) })
	e.Done = append(e.Done, maintenance.Done{Item: "impeller", At: today.AddDate(0, -9, 0)},
		maintenance.Done{Item: "impeller", At: today.AddDate(0, -20, 0)})
	slim := e.Slim(c)
	assert.Less(t, len(slim.Measures), len(e.Measures))
	is, want := maintenance.List(c, slim, today), maintenance.List(c, e, today)
	require.Len(t, is, len(want))
	for i := range want {
		assert.Equal(t, want[i].Reasons, is[i].Reasons, want[i].ID)
		assert.Equal(t, want[i].When, is[i].When, want[i].ID)
	}
}

func TestAMeasureBeyondTheLimitMakesItDueNow(t *testing.T) {
	c := loadCatalogue(t)
	e := scaled(closedEngine(t, c), 3, func(float64) float64 { return 0.72 })
	d := of(t, maintenance.List(c, e, today), "descale")
	assert.Equal(t, maintenance.ByCondition, d.Reasons[0].Kind)
	assert.Equal(t, maintenance.Overdue, d.State)
	assert.Contains(t, d.Reasons[0].Say, "measured at 72 ± 1 %")
}

func TestWhatSharesAnAccessIsDoneTogether(t *testing.T) {
	c := loadCatalogue(t)
	e := closedEngine(t, c)
	e.Done = []maintenance.Done{{Item: "anode", At: today.AddDate(0, -13, 0)}, {Item: "descale", At: today.AddDate(0, -20,
		0)}}
	list := maintenance.List(c, e, today)
	groups := maintenance.Groups(list, today)
	require.NotEmpty(t, groups)
	assert.Equal(t, "end-caps-off", groups[0].Key)
	assert.Equal(t, []string{"anode", "descale"}, groups[0].Items)
	e.Done[0].At = today
	assert.Empty(t, maintenance.Groups(maintenance.List(c, e, today), today)[0:0], "nothing presses")
}

func BenchmarkList(b *testing.B) {
	c := loadCatalogue(b)
	e := scaled(closedEngine(b, c), 28, func(h float64) float64 { return 1 / (1 + 1e-4*h) })
	for b.Loop() {
		maintenance.List(c, e, today)
	}
}

// What the yard's due list costs an engine.
func BenchmarkListOfASlimEngine(b *testing.B) {
	c := loadCatalogue(b)
	e := scaled(closedEngine(b, c), 28, func(h float64) float64 { return 1 / (1 + 1e-4*h) }).Slim(c)
	for b.Loop() {
		maintenance.List(c, e, today)
	}
}
