package reports_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
	"hevrin/reports"
)

func dueOf(when time.Time, do string) schedule.EngineDue {
	return schedule.EngineDue{Craft: record.Craft{Name: "Gull; the \"third\", of\nCorrow", Berth: "=1+1"},
		Engine: record.EngineLine{ID: "e1", Name: "Main"},
		Due: []maintenance.Due{{MaintenanceItem: catalogue.MaintenanceItem{ID: "impeller", Do: do,
			Why: "rubber, set; cracks\\"}, State: maintenance.Soon, When: when,
			Reasons: []maintenance.Reason{{Kind: maintenance.ByDate, Say: "a year since 1 March 2025", When: when}}}}}
}

// Read by a parser that is not the writer's, the calendar says what was due, to the letter; whole days stand across the
// change to summer time.
func TestTheCalendarIsReadByAnotherParser(t *testing.T) {
	words := "Change the impeller; in, out\\ \"twice\" — " + strings.Repeat("long words with µ and ° ", 12)
	var list []schedule.EngineDue
	for _, d := range []string{"2026-03-28", "2026-03-29", "2026-10-25", "2028-02-29"} {
		when, err := time.Parse("2006-01-02", d)
		require.NoError(t, err)
		list = append(list, dueOf(when, words))
	}
	raw := reports.Calendar(list, "", nil, now)
	for _, line := range bytes.Split(raw, []byte("\r\n")) {
		assert.LessOrEqual(t, len(line), 75, "lines are folded (RFC 5545, 3.1)")
	}
	c, err := ical.NewDecoder(bytes.NewReader(raw)).Decode()
	require.NoError(t, err)
	events := c.Events()
	require.Len(t, events, 4)
	for i, e := range events {
		summary, err := e.Props.Text(ical.PropSummary)
		require.NoError(t, err)
		assert.Equal(t, "Gull; the \"third\", of\nCorrow, Main: c"+strings.TrimSuffix(words[1:], ""), summary)
		description, err := e.Props.Text(ical.PropDescription)
		require.NoError(t, err)
		assert.Contains(t, description, "Rubber, set; cracks\\")
		assert.Equal(t, "DATE", e.Props.Get(ical.PropDateTimeStart).Params.Get("VALUE"))
		start, err := e.DateTimeStart(time.UTC)
		require.NoError(t, err)
		end, err := e.DateTimeEnd(time.UTC)
		require.NoError(t, err)
		assert.Equal(t, list[i].Due[0].When, start)
		assert.Equal(t, start.AddDate(0, 0, 1), end, "a whole day, whatever the clocks do")
	}
	odd := dueOf(now, "change\rX-EVIL:1\x00\a \xff")
	odd.Craft.Berth = "A\rB\r\nC"
	odds := reports.Calendar([]schedule.EngineDue{odd}, "", nil, now)
	assert.NotRegexp(t, "\r[^\n]|[^\r]\n", string(odds), "no bare CR or LF")
	assert.NotContains(t, string(odds), "\nX-EVIL")
	other, err := ical.NewDecoder(bytes.NewReader(reports.Calendar(list, "e2", nil, now))).Decode()
	require.NoError(t, err)
	assert.Empty(t, other.Events())
}

// A yard's events stand in the order of the list, each under an id of its own that stays the same from one asking to
// the next; an engine's calendar has its own alone.
func TestAYardsCalendarKeepsItsOrder(t *testing.T) {
	var list []schedule.EngineDue
	var want []string
	for i := range 40 {
		e := dueOf(now.AddDate(0, 0, i), "Change the impeller")
		e.Engine.ID = fmt.Sprintf("engine-%d", i)
		for k := range i % 4 {
			d := e.Due[0]
			d.ID = fmt.Sprintf("piece-%d", k)
			e.Due = append(e.Due, d)
		}
		for _, d := range e.Due {
			want = append(want, d.ID+"@"+e.Engine.ID)
		}
		list = append(list, e)
	}
	uids := func(engine string) (got []string) {
		c, err := ical.NewDecoder(bytes.NewReader(reports.Calendar(list, engine, nil, now))).Decode()
		require.NoError(t, err)
		for _, e := range c.Events() {
			uid, err := e.Props.Text(ical.PropUID)
			require.NoError(t, err)
			got = append(got, uid)
		}
		return got
	}
	assert.Equal(t, want, uids(""))
	assert.Equal(t, want, uids(""))
	assert.Equal(t, []string{"impeller@engine-7", "piece-0@engine-7", "piece-1@engine-7", "piece-2@engine-7"},
		uids("engine-7"))
}

func TestTheDueTable(t *testing.T) {
	raw, err := reports.DueTable([]schedule.EngineDue{dueOf(now, "Change the impeller")})
	require.NoError(t, err)
	rows := cells(t, raw)
	require.Len(t, rows, 2)
	assert.Equal(t, "2026-06-01", rows[1][5])
	assert.Equal(t, "'=1+1", rows[1][3])
}

// The demo's yard has something due, and its calendar says so.
func TestTheDemosYardIsKeptUp(t *testing.T) {
	list, err := ofDemo(t).DueInYard(context.Background(), 400*24*time.Hour)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	c, err := ical.NewDecoder(bytes.NewReader(reports.Calendar(list, "", nil, now))).Decode()
	require.NoError(t, err)
	n := 0
	for _, e := range list {
		n += len(e.Due)
	}
	assert.Len(t, c.Events(), n)
}
