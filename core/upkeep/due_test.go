package upkeep_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/trade"
	"hevrin/core/upkeep"
)

func catalogue(t testing.TB) *trade.Catalogue {
	t.Helper()
	c, err := trade.Load()
	require.NoError(t, err)
	return c
}

func closedEngine(t testing.TB, c *trade.Catalogue) upkeep.Engine {
	t.Helper()
	f, ok := c.Family(trade.Closed)
	require.True(t, ok)
	e := upkeep.Engine{Family: trade.Closed, Circuit: f.Circuit}
	for m := -30; m <= 0; m++ {
		e.Meter = append(e.Meter, upkeep.MeterRead{Day: today.AddDate(0, m, 0), Hours: 50 * float64(m+30)})
	}
	return e
}

func of(t *testing.T, list []upkeep.Due, item string) upkeep.Due {
	t.Helper()
	for _, d := range list {
		if d.ID == item {
			return d
		}
	}
	require.Fail(t, "not on the list", item)
	return upkeep.Due{}
}

// An impeller is due after a year or 500 h: at 50 h a month the hours come first, ten months on; at 20 the year.
func TestTheEarliestWinsAndSaysWhy(t *testing.T) {
	c := catalogue(t)
	e := closedEngine(t, c)
	e.Done = []upkeep.Done{{Item: "impeller", At: today.AddDate(0, -6, 0)}}
	d := of(t, upkeep.List(c, e, today), "impeller")
	assert.Equal(t, upkeep.ByHours, d.Reasons[0].Kind)
	assert.WithinDuration(t, today.AddDate(0, 4, 0), d.When, 4*24*time.Hour)
	assert.Equal(t, upkeep.Later, d.State)
	for i := range e.Meter {
		e.Meter[i].Hours *= 0.4
	}
	d = of(t, upkeep.List(c, e, today), "impeller")
	assert.Equal(t, upkeep.ByDate, d.Reasons[0].Kind)
	assert.Equal(t, today.AddDate(0, 6, 0), d.When)
	assert.Contains(t, d.Reasons[0].Say, "a year since 1 November 2025")
	e.Own = map[string]upkeep.Interval{"impeller": {Hours: 100, Says: "the maker's"}}
	d = of(t, upkeep.List(c, e, today), "impeller")
	assert.Equal(t, upkeep.Overdue, d.State)
	assert.Contains(t, d.Reasons[0].Say, "the maker's")
}

func TestNotKnownIsSaidAndStandsLast(t *testing.T) {
	c := catalogue(t)
	e := closedEngine(t, c)
	e.Done = []upkeep.Done{{Item: "seacock", At: today.AddDate(-1, 0, 0)}}
	list := upkeep.List(c, e, today)
	assert.Equal(t, "seacock", list[0].ID)
	assert.Equal(t, upkeep.Overdue, list[0].State)
	assert.Equal(t, upkeep.Unknown, list[1].State)
	for _, d := range list {
		assert.NotEqual(t, "block-flush", d.ID, "only on raw-cooled engines")
	}
}

// The last of the month stays the last: a year after 29 February is 28 February.
func TestMonthsStayInTheirMonth(t *testing.T) {
	c := catalogue(t)
	e := closedEngine(t, c)
	for at, want := range map[time.Time]time.Time{on(2024, 2, 29): on(2025, 2, 28), on(2025, 8, 31): on(2026, 2, 28)} {
		item := map[bool]string{true: "gauge-check", false: "seacock"}[at.Month() == 2]
		e.Done = []upkeep.Done{{Item: item, At: at}}
		assert.Equal(t, want, of(t, upkeep.List(c, e, today), item).When)
	}
}

func TestPutOffHoldsUntilItsDayOrUntilItIsDone(t *testing.T) {
	c := catalogue(t)
	e := closedEngine(t, c)
	e.Done = []upkeep.Done{{Item: "seacock", At: today.AddDate(-1, 0, 0)}}
	e.PutOff = []upkeep.PutOff{{Item: "seacock", Until: today.AddDate(0, 2, 0), Why: "at the haul-out", By: "T", At: today.AddDate(0, -1, 0)}}
	d := of(t, upkeep.List(c, e, today), "seacock")
	require.NotNil(t, d.PutOff)
	assert.Equal(t, upkeep.Later, d.State)
	assert.Equal(t, today.AddDate(0, 2, 0), d.When)
	d = of(t, upkeep.List(c, e, today.AddDate(0, 2, 1)), "seacock")
	assert.Nil(t, d.PutOff, "it lapses")
	assert.Equal(t, upkeep.Overdue, d.State)
	e.Done = append(e.Done, upkeep.Done{Item: "seacock", At: today.AddDate(0, 0, -1)})
	assert.Nil(t, of(t, upkeep.List(c, e, today), "seacock").PutOff, "done since")
}

// Scale grows by 1e-4 per hour since the last descaling: 0.25 (80 % of clean) after 2500 h.
func scaled(e upkeep.Engine, since int, share func(h float64) float64) upkeep.Engine {
	e.Done = append(e.Done, upkeep.Done{Item: "descale", At: today.AddDate(0, -since, 0)})
	for m := since - 1; m >= 0; m -= 2 {
		h := 50 * float64(since-m)
		e.Measures = append(e.Measures, upkeep.Measure{Kind: "ua", At: today.AddDate(0, -m, 0), Value: share(h), Error: 0.01})
	}
	return e
}

func TestATrendMakesItDue(t *testing.T) {
	c := catalogue(t)
	e := scaled(closedEngine(t, c), 14, func(h float64) float64 { return 1 / (1 + 3e-4*h) })
	e.Measures = append(e.Measures, upkeep.Measure{Kind: "ua", At: today.AddDate(0, -16, 0), Value: 0.7, Error: 0.01})
	d := of(t, upkeep.List(c, e, today), "descale")
	require.Equal(t, upkeep.ByTrend, d.Reasons[0].Kind, "%+v", d.Reasons)
	assert.WithinDuration(t, today.AddDate(0, 3, 0), d.When, 20*24*time.Hour, "0.25 after 833 h, 700 h run: 133 h more, not quite three months")
	assert.Contains(t, d.Reasons[0].Say, "nine times in ten between")
	trend, _ := trendOf(c, "ua")
	line := upkeep.TrendOf(trend, e, upkeep.LifeOf(e.Meter), today)
	assert.Len(t, line.Points, 8)
	assert.Len(t, line.Now, 7, "what was before the descaling is another stretch")
	assert.InDelta(t, 0.8, line.Curve[len(line.Curve)-1][1], 0.01)
}

func trendOf(c *trade.Catalogue, id string) (trade.Trend, bool) {
	for _, t := range c.Trends {
		if t.ID == id {
			return t, true
		}
	}
	return trade.Trend{}, false
}

// What is kept for the due list tells the same list.
func TestASlimEngineTellsTheSame(t *testing.T) {
	c := catalogue(t)
	e := scaled(closedEngine(t, c), 14, func(h float64) float64 { return 1 / (1 + 3e-4*h) })
	e.Done = append(e.Done, upkeep.Done{Item: "impeller", At: today.AddDate(0, -9, 0)}, upkeep.Done{Item: "impeller", At: today.AddDate(0, -20, 0)})
	slim := e.Slim(c)
	assert.Less(t, len(slim.Measures), len(e.Measures))
	is, want := upkeep.List(c, slim, today), upkeep.List(c, e, today)
	require.Len(t, is, len(want))
	for i := range want {
		assert.Equal(t, want[i].Reasons, is[i].Reasons, want[i].ID)
		assert.Equal(t, want[i].When, is[i].When, want[i].ID)
	}
}

func TestAMeasureBeyondTheLimitMakesItDueNow(t *testing.T) {
	c := catalogue(t)
	e := scaled(closedEngine(t, c), 3, func(float64) float64 { return 0.72 })
	d := of(t, upkeep.List(c, e, today), "descale")
	assert.Equal(t, upkeep.ByCondition, d.Reasons[0].Kind)
	assert.Equal(t, upkeep.Overdue, d.State)
	assert.Contains(t, d.Reasons[0].Say, "measured at 72 ± 1 %")
}

func TestWhatSharesAnAccessIsDoneTogether(t *testing.T) {
	c := catalogue(t)
	e := closedEngine(t, c)
	e.Done = []upkeep.Done{{Item: "anode", At: today.AddDate(0, -13, 0)}, {Item: "descale", At: today.AddDate(0, -20, 0)}}
	list := upkeep.List(c, e, today)
	groups := upkeep.Groups(list, today)
	require.NotEmpty(t, groups)
	assert.Equal(t, "end-caps-off", groups[0].Key)
	assert.Equal(t, []string{"anode", "descale"}, groups[0].Items)
	e.Done[0].At = today
	assert.Empty(t, upkeep.Groups(upkeep.List(c, e, today), today)[0:0], "nothing presses")
}

func BenchmarkList(b *testing.B) {
	c := catalogue(b)
	e := scaled(closedEngine(b, c), 28, func(h float64) float64 { return 1 / (1 + 1e-4*h) })
	for b.Loop() {
		upkeep.List(c, e, today)
	}
}

// What the yard's due list costs an engine.
func BenchmarkListOfASlimEngine(b *testing.B) {
	c := catalogue(b)
	e := scaled(closedEngine(b, c), 28, func(h float64) float64 { return 1 / (1 + 1e-4*h) }).Slim(c)
	for b.Loop() {
		upkeep.List(c, e, today)
	}
}
