package reports_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/report"
	"hevrin/core/catalogue"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/reports"
)

func cells(t *testing.T, raw []byte) [][]string {
	t.Helper()
	rows, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\uFEFF")))).ReadAll()
	require.NoError(t, err)
	return rows
}

// A spreadsheet must not work out what somebody typed (OWASP, CSV Injection).
func TestTablesCarryNoFormula(t *testing.T) {
	p := &job.Page{Job: &eventlog.Job{OpenedAt: now}, Craft: record.Craft{Name: "=cmd|' /C calc'!A0"},
		Engine: record.Engine{Name: "@SUM(A1)"}}
	p.Account = teardown.NewAccount()
	for _, label := range []string{"=1+1", "+1", "-1", "@x", "\tx", "\rx", "seal \"double\", long\nline", "-"} {
		p.Account.Used = append(p.Account.Used, teardown.Used{Label: label, PartNumber: "=HYPERLINK(\"x\")", Quantity: 2,
			State: "new", Price: 1.5})
	}
	raw, err := reports.Parts(p)
	require.NoError(t, err)
	rows := cells(t, raw)
	require.Len(t, rows, 9)
	for _, r := range rows[1:] {
		for _, cell := range r {
			assert.NotContains(t, "=+-@\t\r", cell[:min(1, len(cell))]+"\x00", cell)
		}
		assert.Equal(t, "2", r[5])
	}
	assert.Equal(t, "'=1+1", rows[1][3])
	assert.Equal(t, "seal \"double\", long\nline", rows[7][3], "everything else is as it was typed")
}

// Nor what it sees as the start of a cell where it takes semicolons for the ends of cells; nor full-width signs.
func TestTablesCarryNoFormulaForAnyReader(t *testing.T) {
	for typed, want := range map[string]string{
		"seal;=1+1": "seal;'=1+1", "a; \"@x": "a; \"'@x", "a\n-1": "a\n'-1", "a\t+1": "a\t'+1",
		"＝1": "'＝1", "＋1": "'＋1", "－1": "'－1", "＠x": "'＠x", " =1": " '=1",
		"a - b": "a - b", "12; 14": "12; 14", "x=1": "x=1",
	} {
		p := &job.Page{Job: &eventlog.Job{OpenedAt: now}}
		p.Account = teardown.NewAccount()
		p.Account.Used = []teardown.Used{{Label: typed}}
		raw, err := reports.Parts(p)
		require.NoError(t, err)
		assert.Equal(t, want, cells(t, raw)[1][3])
	}
}

func TestTheReadingsAreThoseOfTheRecord(t *testing.T) {
	a, list := demoReports(t, "metric")
	r := ofCraft(t, list, "Sallow Ebb", report.Cured)
	page, err := a.Job(context.Background(), r.JobID)
	require.NoError(t, err)
	raw, err := reports.Readings(page)
	require.NoError(t, err)
	rows := cells(t, raw)
	want := 0
	for _, x := range page.Rounds {
		want += len(x.Readings)
	}
	require.Len(t, rows, want+1)
	assert.Equal(t, "°C", rows[1][12])
	assert.NotEmpty(t, rows[1][16], "beside what should be")
}

// What is written of a recording is read back by the program's own import, point for point.
func TestARecordingIsReadBackByTheImport(t *testing.T) {
	a, list := demoReports(t, "metric")
	r := ofCraft(t, list, "Sallow Ebb", report.Cured)
	page, err := a.Job(context.Background(), r.JobID)
	require.NoError(t, err)
	kept, err := a.Recording(context.Background(), r.JobID, page.Job.Recordings[0].ID)
	require.NoError(t, err)
	raw, err := reports.Recorded(kept)
	require.NoError(t, err)
	f, err := datalog.Read(raw)
	require.NoError(t, err)
	var places []proving.Place
	for _, k := range kept.Tracks {
		places = append(places, k.Place)
	}
	look := f.Preview(places)
	assert.Equal(t, 0, look.Time)
	m := datalog.Mapping{Time: look.Time}
	for i, c := range look.Columns {
		if c.Guess != nil {
			m.Columns = append(m.Columns, datalog.Mapped{Column: i, Place: *c.Guess})
		}
	}
	require.Len(t, m.Columns, len(kept.Tracks), "every heading tells its place")
	back, err := f.Take(m)
	require.NoError(t, err)
	assert.Empty(t, back.Dropped)
	for _, k := range kept.Tracks {
		is := proving.TrackOf(back.Tracks, k.Place)
		assert.InDeltaSlice(t, k.Seconds, is.Seconds, 1e-9, k.Place.String())
		assert.InDeltaSlice(t, k.Values, is.Values, 1e-9, k.Place.String())
	}
}

// Every place of an engine with everything on it has a heading that the import knows again.
func TestEveryHeadingIsKnownAgain(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	f, ok := c.Family(catalogue.Closed)
	require.True(t, ok)
	circuit := append([]string{"raw-filter", "oil-cooler", "charge-cooler"}, f.Circuit...)
	places := eventlog.Places(c, eventlog.EngineFacts{Family: catalogue.Closed, Circuit: circuit})
	p := &recording.RecordingPage{}
	for _, x := range places {
		p.Tracks = append(p.Tracks, proving.Track{Place: x, Seconds: []float64{0, 1, 2}, Values: []float64{10, 11, 12}})
	}
	raw, err := reports.Recorded(p)
	require.NoError(t, err)
	read, err := datalog.Read(raw)
	require.NoError(t, err)
	for i, col := range read.Preview(places).Columns[1:] {
		if assert.NotNil(t, col.Guess, "%s: %s", places[i], col.Heading) {
			assert.Equal(t, places[i], *col.Guess, col.Heading)
		}
	}
}
