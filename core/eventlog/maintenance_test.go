package eventlog_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/validation"
)

// engineLog is the log of a closed engine with entries of its maintenance, an hour apart.
func engineLog(t *testing.T, dates eventlog.Dates,
	acts ...eventlog.MaintenanceAct) (*catalogue.Catalogue, eventlog.EngineFacts, []eventlog.Entry) {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	f, ok := c.Family(catalogue.Closed)
	require.True(t, ok)
	facts := eventlog.EngineFacts{CraftID: "c", Name: "Main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit, Dates: dates}
	at := time.Date(2026, time.May, 4, 8, 0, 0, 0, time.UTC)
	log := []eventlog.Entry{{ID: "kept", Kind: eventlog.Saved, By: "T", At: at, Body: eventlog.Body{Engine: &facts}}}
	for i, a := range acts {
		log = append(log, eventlog.Entry{ID: string(rune('a' + i)), Kind: eventlog.MaintenanceNoted, By: "T",
			At: at.Add(time.Duration(i+1) * time.Hour), Body: eventlog.Body{Maintenance: &a}})
	}
	return c, facts, log
}

func lastOf(u eventlog.EngineMaintenance, item string) (last maintenance.Done) {
	for _, d := range u.Done {
		if d.Item == item && d.At.After(last.At) {
			last = d
		}
	}
	return last
}

func TestAnEnginesLogTellsHerUpkeep(t *testing.T) {
	c, _, log := engineLog(t, eventlog.Dates{ImpellerFitted: "2025-03-01", SeacockWorked: "2026-01-05"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "cap", Day: "2026-02-01", Words: "held 0.9 bar"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenancePostponed, Item: "impeller", Until: "2026-09-01",
			Words: "at the haul-out"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "impeller", Months: 24},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "belts", Hours: 300, Words: "the maker's"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "impeller"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceToppedUp, Day: "2026-03-01", Litres: 0.5},
		eventlog.MaintenanceAct{Do: eventlog.SeasonTick, List: "spring", Year: 2026, Step: "seacock-worked"},
		eventlog.MaintenanceAct{Do: eventlog.SeasonTick, List: "spring", Year: 2026, Step: "drains-shut"})
	u := eventlog.MaintenanceOf(c, log)
	assert.Equal(t, "among its facts", lastOf(u, "impeller").Says)
	assert.Contains(t, lastOf(u, "cap").Says, "held 0.9 bar")
	assert.Equal(t, "Spring start", lastOf(u, "seacock").Says, "a step does its maintenance")
	require.Len(t, u.PutOff, 1)
	assert.Equal(t, "at the haul-out", u.PutOff[0].Why)
	assert.Equal(t, map[string]maintenance.Interval{"belts": {Hours: 300, Says: "the maker's"}}, u.Own,
		"nothing of both gives the usual back")
	assert.Len(t, u.Topped, 1)
	assert.Len(t, u.Seasons, 2)

	// what is taken back does not count
	log = append(log, eventlog.Entry{ID: "u", Kind: eventlog.Undo, By: "T", At: log[1].At.AddDate(0, 0, 1),
		Body: eventlog.Body{Undoes: "a"}})
	assert.Empty(t, lastOf(eventlog.MaintenanceOf(c, log), "cap").Says)
}

func TestAStepTickedAgainAndUntickedLeavesNothing(t *testing.T) {
	tick := eventlog.MaintenanceAct{Do: eventlog.SeasonTick, List: "lay-up", Year: 2026, Step: "coolant-strength"}
	untick := tick
	untick.Do = eventlog.SeasonUntick
	c, _, log := engineLog(t, eventlog.Dates{}, tick, tick)
	u := eventlog.MaintenanceOf(c, log)
	assert.Len(t, u.Seasons, 1, "ticked twice is ticked once")
	c, _, log = engineLog(t, eventlog.Dates{}, tick, untick)
	u = eventlog.MaintenanceOf(c, log)
	assert.Empty(t, u.Seasons)
	assert.True(t, lastOf(u, "coolant-test").At.IsZero())
}

func TestUpkeepIsOfThisEngine(t *testing.T) {
	c, facts, _ := engineLog(t, eventlog.Dates{})
	today := time.Date(2026, time.May, 4, 0, 0, 0, 0, time.UTC)
	for name, act := range map[string]eventlog.MaintenanceAct{
		"upkeep.item":   {Do: eventlog.MaintenanceDone, Item: "block-flush", Day: "2026-05-01"},
		"upkeep.day":    {Do: eventlog.MaintenanceDone, Item: "cap", Day: "2026-05-09"},
		"upkeep.until":  {Do: eventlog.MaintenancePostponed, Item: "cap", Until: "2026-05-01", Words: "x"},
		"upkeep.months": {Do: eventlog.MaintenanceInterval, Item: "cap", Months: 500},
		"upkeep.litres": {Do: eventlog.MaintenanceToppedUp, Day: "2026-05-01"},
		"upkeep.year":   {Do: eventlog.SeasonTick, List: "spring", Year: 26, Step: "drains-shut"},
		"upkeep.step":   {Do: eventlog.SeasonTick, List: "autumn", Year: 2026, Step: "drains-shut"},
	} {
		var wrong validation.Errors
		require.ErrorAs(t, eventlog.CheckMaintenance(c, facts, act, nil, today), &wrong, name)
		assert.Equal(t, name, wrong[0].Field)
	}
	assert.NoError(t, eventlog.CheckMaintenance(c, facts, eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone,
		Item: "cap", Day: "2026-05-04"}, nil, today))
}
