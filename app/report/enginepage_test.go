package report_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/app/report"
	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
	"hevrin/core/units"
)

// An owner's page of an engine: jobs the newest first, in plain words, without what is the yard's own.
func TestEnginePage(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	at := func(d int) time.Time { return time.Date(2026, 3, d, 9, 0, 0, 0, time.UTC) }
	line := func(job string, d int, kind, item, label string, value float64) record.ServiceLine {
		return record.ServiceLine{JobID: job, At: at(d), Kind: kind, Item: item, Label: label, Value: value}
	}
	item, ok := c.MaintenanceItem("impeller")
	assert.True(t, ok)
	p := &schedule.ServicePage{Craft: record.Craft{Name: "Ormsgill", Owner: "R. Thrale"},
		Engine: record.Engine{Name: "Main", Fuel: "diesel", Family: "closed", RatedKW: 60, RatedRPM: 3000},
		Hours:  schedule.HoursPage{Confirmed: true, Now: 1234.4},
		Due: []maintenance.Due{{MaintenanceItem: item, State: maintenance.Overdue, When: at(1)},
			{MaintenanceItem: item, State: maintenance.Soon, When: at(20)}, {MaintenanceItem: item}},
		History: []record.ServiceLine{
			line("old", 2, schedule.ServiceOpened, "", "hot at speed", 0),
			line("old", 2, schedule.ServiceRound, "", "as it came in", 2400),
			line("old", 3, schedule.ServicePart, "X-1", "Impeller", 2),
			line("old", 3, schedule.ServiceDone, "impeller", "", 0),
			line("old", 3, schedule.ServiceDone, "impeller", "", 0),
			line("old", 3, schedule.ServiceWork, "descale", "", 0),
			line("old", 4, schedule.ServiceWork, "flush", "", 0),
			line("old", 4, schedule.ServiceRun, "cured", "calm sea", 0),
			line("old", 4, schedule.ServiceCause, "impeller-tired", "owner argued", 0),
			line("new", 5, schedule.ServiceOpened, "", "service", 0),
			line("new", 5, schedule.ServiceCause, "", "", 0)}}
	page := report.EnginePageOf(c, p, units.Metric)
	assert.Equal(t, "Main, diesel of 60 kW at 3000 rev/min, closed-cooled", page.Engine)
	assert.Equal(t, "About 1234 h run", page.Hours)
	assert.Equal(t, []string{"since 1 March 2026", "by 20 March 2026"}, []string{page.Due[0].When, page.Due[1].When})
	assert.Len(t, page.Due, 2, "what nobody knows the date of is no line")
	assert.Equal(t, []string{"new", "old"}, []string{page.Jobs[0].ID, page.Jobs[1].ID})
	assert.Equal(t, []string{"Closed"}, page.Jobs[0].Lines)
	old := page.Jobs[1]
	assert.Equal(t, "hot at speed", old.Complaint)
	assert.Equal(t, []string{"2 × Impeller", item.Do + ": done", "Flushed", "Proved in a run under load: cured"}, old.Lines[:4])
	assert.Equal(t, "Found: impeller tired", old.Lines[4])
}
