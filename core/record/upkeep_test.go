package record_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/input"
	"hevrin/core/record"
	"hevrin/core/trade"
	"hevrin/core/upkeep"
)

// engineLog is the log of a closed engine with entries of her upkeep, an hour apart.
func engineLog(t *testing.T, dates record.Dates, acts ...record.UpkeepAct) (*trade.Catalogue, record.EngineFacts, []record.Entry) {
	t.Helper()
	c, err := trade.Load()
	require.NoError(t, err)
	f, ok := c.Family(trade.Closed)
	require.True(t, ok)
	facts := record.EngineFacts{CraftID: "c", Name: "Main", Family: trade.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit, Dates: dates}
	at := time.Date(2026, time.May, 4, 8, 0, 0, 0, time.UTC)
	log := []record.Entry{{ID: "kept", Kind: record.Kept, By: "T", At: at, Body: record.Body{Engine: &facts}}}
	for i, a := range acts {
		log = append(log, record.Entry{ID: string(rune('a' + i)), Kind: record.Upkept, By: "T", At: at.Add(time.Duration(i+1) * time.Hour), Body: record.Body{Upkeep: &a}})
	}
	return c, facts, log
}

func lastOf(u record.EngineUpkeep, item string) (last upkeep.Done) {
	for _, d := range u.Done {
		if d.Item == item && d.At.After(last.At) {
			last = d
		}
	}
	return last
}

func TestAnEnginesLogTellsHerUpkeep(t *testing.T) {
	c, _, log := engineLog(t, record.Dates{ImpellerFitted: "2025-03-01", SeacockWorked: "2026-01-05"},
		record.UpkeepAct{Do: record.UpkeepDone, Item: "cap", Day: "2026-02-01", Words: "held 0.9 bar"},
		record.UpkeepAct{Do: record.UpkeepPutOff, Item: "impeller", Until: "2026-09-01", Words: "at the haul-out"},
		record.UpkeepAct{Do: record.UpkeepInterval, Item: "impeller", Months: 24},
		record.UpkeepAct{Do: record.UpkeepInterval, Item: "belts", Hours: 300, Words: "the maker's"},
		record.UpkeepAct{Do: record.UpkeepInterval, Item: "impeller"},
		record.UpkeepAct{Do: record.UpkeepTopped, Day: "2026-03-01", Litres: 0.5},
		record.UpkeepAct{Do: record.SeasonTick, List: "spring", Year: 2026, Step: "seacock-worked"},
		record.UpkeepAct{Do: record.SeasonTick, List: "spring", Year: 2026, Step: "drains-shut"})
	u := record.UpkeepOf(c, log)
	assert.Equal(t, "among her facts", lastOf(u, "impeller").Says)
	assert.Contains(t, lastOf(u, "cap").Says, "held 0.9 bar")
	assert.Equal(t, "Spring start", lastOf(u, "seacock").Says, "a step does its upkeep")
	require.Len(t, u.PutOff, 1)
	assert.Equal(t, "at the haul-out", u.PutOff[0].Why)
	assert.Equal(t, map[string]upkeep.Interval{"belts": {Hours: 300, Says: "the maker's"}}, u.Own, "nothing of both gives the usual back")
	assert.Len(t, u.Topped, 1)
	assert.Len(t, u.Seasons, 2)

	// what is taken back does not count
	log = append(log, record.Entry{ID: "u", Kind: record.Undo, By: "T", At: log[1].At.AddDate(0, 0, 1), Body: record.Body{Undoes: "a"}})
	assert.Empty(t, lastOf(record.UpkeepOf(c, log), "cap").Says)
}

func TestAStepTickedAgainAndUntickedLeavesNothing(t *testing.T) {
	tick := record.UpkeepAct{Do: record.SeasonTick, List: "lay-up", Year: 2026, Step: "coolant-strength"}
	untick := tick
	untick.Do = record.SeasonUntick
	c, _, log := engineLog(t, record.Dates{}, tick, tick)
	u := record.UpkeepOf(c, log)
	assert.Len(t, u.Seasons, 1, "ticked twice is ticked once")
	c, _, log = engineLog(t, record.Dates{}, tick, untick)
	u = record.UpkeepOf(c, log)
	assert.Empty(t, u.Seasons)
	assert.True(t, lastOf(u, "coolant-test").At.IsZero())
}

func TestUpkeepIsOfThisEngine(t *testing.T) {
	c, facts, _ := engineLog(t, record.Dates{})
	today := time.Date(2026, time.May, 4, 0, 0, 0, 0, time.UTC)
	for name, act := range map[string]record.UpkeepAct{
		"upkeep.item":   {Do: record.UpkeepDone, Item: "block-flush", Day: "2026-05-01"},
		"upkeep.day":    {Do: record.UpkeepDone, Item: "cap", Day: "2026-05-09"},
		"upkeep.until":  {Do: record.UpkeepPutOff, Item: "cap", Until: "2026-05-01", Words: "x"},
		"upkeep.months": {Do: record.UpkeepInterval, Item: "cap", Months: 500},
		"upkeep.litres": {Do: record.UpkeepTopped, Day: "2026-05-01"},
		"upkeep.year":   {Do: record.SeasonTick, List: "spring", Year: 26, Step: "drains-shut"},
		"upkeep.step":   {Do: record.SeasonTick, List: "autumn", Year: 2026, Step: "drains-shut"},
	} {
		var wrong input.Errors
		require.ErrorAs(t, record.CheckUpkeep(c, facts, act, today), &wrong, name)
		assert.Equal(t, name, wrong[0].Field)
	}
	assert.NoError(t, record.CheckUpkeep(c, facts, record.UpkeepAct{Do: record.UpkeepDone, Item: "cap", Day: "2026-05-04"}, today))
}
