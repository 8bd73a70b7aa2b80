package yardlist_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/yardlist"
)

var today = time.Date(2026, 6, 3, 9, 0, 0, 0, time.UTC)

func knowledge(t testing.TB) *catalogue.Catalogue {
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

// sheet is a list as it would come from a file: its headings found, its columns guessed.
func sheet(k yardlist.Kind, text string) yardlist.Table {
	var cells [][]string
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		row := strings.Split(line, "|")
		for i := range row {
			row[i] = strings.TrimSpace(row[i])
		}
		cells = append(cells, row)
	}
	head, columns := yardlist.GuessFor(k, cells)
	return yardlist.Table{Columns: columns, Headings: cells[head], Rows: cells[head+1:], First: head + 2,
		System: units.Metric}
}

func planned(t testing.TB, k yardlist.Kind, s yardlist.Table, held yardlist.Held) *yardlist.Plan {
	p, err := yardlist.Make(knowledge(t), k, s, held, today, func(key string) string { return key })
	require.NoError(t, err)
	return p
}

func says(l yardlist.Line) string {
	var all []string
	for _, s := range l.Does {
		all = append(all, s.In(units.Metric))
	}
	return strings.Join(all, "; ")
}

func wrongIn(l yardlist.Line) string {
	var all []string
	for _, s := range l.Slips {
		all = append(all, s.Column+": "+string(s.Say))
	}
	return strings.Join(all, "; ")
}

func TestHeadingsAreRecognised(t *testing.T) {
	for name, c := range map[string]struct {
		headings string
		kind     yardlist.Kind
		columns  string
	}{
		"a list of boats": {"Boat|Customer|Mooring|Engine|HP|Engine hours|Date",
			yardlist.Fleet, "craft owner berth engine power hours read"},
		"its own words": {"Craft|Owner|Cooling|Fuel|Rated power|Rated speed|Impeller fitted",
			yardlist.Fleet, "craft owner cooling fuel power speed impeller_fitted"},
		"units in brackets":    {"NAME|Power (kW)|Thermostat [°C]", yardlist.Fleet, "craft power thermostat"},
		"parts":                {"Description|Part no.|Bin|Qty|Min|Price each", yardlist.Parts, "label number where count minimum price"},
		"past jobs":            {"Date|Boat|Fault found|Work done|Hrs", yardlist.Work, "day craft found done hours"},
		"what nobody knows":    {"Boat|Colour of the hull", yardlist.Fleet, "craft "},
		"a word among others":  {"Name of boat|Owner's name|Raw pump type", yardlist.Fleet, "craft owner pump"},
		"a number is no count": {"Article|Order number|Reorder level", yardlist.Parts, "label number minimum"},
	} {
		t.Run(name, func(t *testing.T) {
			kind, head, columns := yardlist.Guess([][]string{{"", ""}, {"The yard's list, spring"},
				strings.Split(c.headings, "|")})
			assert.Equal(t, c.kind, kind)
			assert.Equal(t, 2, head)
			assert.Equal(t, c.columns, strings.Join(columns, " "))
		})
	}
}

func TestCraftAndEnginesAreReadRowByRow(t *testing.T) {
	s := sheet(yardlist.Fleet, `
		Boat|Owner|Engine|Cooling|Fuel|Power (hp)|RPM|Hours|Read on|Impeller|Raw pump
		Ormsgill|T. Vane|Port|fresh water|Diesel|65|3,000|1,250|04/05/2026|2025-04-12|HX 12
		ormsgill |T. Vane|Starboard|fresh water|Diesel|65|3,000|1,310|04/05/2026||
		Quenby||||||||||
		`)
	p := planned(t, yardlist.Fleet, s, yardlist.Held{})
	require.Len(t, p.Lines, 3)
	assert.Equal(t, yardlist.Counts{Craft: 2, Engines: 2}, p.Counts)
	first := p.Lines[0]
	assert.Equal(t, 2, first.Row)
	assert.Contains(t, says(first), "48.5 kW")
	assert.Contains(t, says(first), "1250 h on the meter on 4 May 2026")
	require.Len(t, first.Acts, 3) // craft, engine, hours
	engine := first.Acts[1].Body.Engine
	require.NotNil(t, engine)
	assert.Equal(t, "craft/ormsgill", engine.CraftID)
	assert.InDelta(t, 48.47, engine.RatedKW, 0.01) // 1 hp is 0.745 699 872 kW
	assert.Equal(t, 3000.0, engine.RatedRPM)
	assert.Equal(t, "HX 12", engine.RawPump)
	assert.Equal(t, eventlog.Day("2025-04-12"), engine.Dates.ImpellerFitted)
	assert.NotEmpty(t, engine.Circuit)
	assert.Equal(t, &eventlog.Meter{Day: "2026-05-04", Hours: 1250}, first.Acts[2].Body.Meter)
	second := p.Lines[1]
	require.Len(t, second.Acts, 2, "the craft is that of the row before")
	assert.Equal(t, "craft/ormsgill", second.Acts[0].Body.Engine.CraftID)
	assert.Len(t, p.Lines[2].Acts, 1, "a craft without an engine")
}

func TestWhatTheListLeavesOutIsSaidOnceOrTakenFromTheKind(t *testing.T) {
	s := sheet(yardlist.Fleet, "Boat|Power\nOrmsgill|20 kW\nQuenby|45")
	s.Usual = map[string]string{"cooling": "raw-water", "fuel": "diesel"}
	p := planned(t, yardlist.Fleet, s, yardlist.Held{})
	require.Empty(t, wrongIn(p.Lines[0]))
	engine := p.Lines[0].Acts[1].Body.Engine
	assert.Equal(t, catalogue.Direct, engine.Family)
	assert.Equal(t, "Main", engine.Name)
	assert.Positive(t, engine.RatedRPM)
	assert.Equal(t, 20.0, engine.RatedKW)
	s.Usual = nil
	p = planned(t, yardlist.Fleet, s, yardlist.Held{})
	assert.Equal(t, 2, p.Counts.Wrong)
	assert.Contains(t, wrongIn(p.Lines[0]), "cooling: say it in a column, or once for the whole list")
	assert.Empty(t, p.Acts(), "nothing of a wrong row is taken")
}

func TestWhatIsWrongIsToldByRowAndColumn(t *testing.T) {
	held := yardlist.Held{Craft: []yardlist.HeldCraft{{"a", "Tern"}, {"b", "Tern"}}}
	for name, c := range map[string]struct{ row, wrong string }{
		"no name":               {"|diesel|raw|20|10|2026-05-04|", "craft: say what the craft is called"},
		"two of a name":         {"TERN|diesel|raw|20|10|2026-05-04|", "craft: 2 craft on record are called TERN"},
		"no number":             {"Wisp|diesel|raw|strong|10|2026-05-04|", `power: "strong" is not a number`},
		"too strong":            {"Wisp|diesel|raw|90000|10|2026-05-04|", "power: look at the figure and its unit again"},
		"another unit":          {"Wisp|diesel|raw|20 L|10|2026-05-04|", "power: "},
		"no power":              {"Wisp|diesel|raw||10|2026-05-04|", "power: say how strong it is"},
		"unknown fuel":          {"Wisp|steam|raw|20|10|2026-05-04|", `fuel: "steam" is not known here`},
		"unknown cooling":       {"Wisp|diesel|air|20|10|2026-05-04|", `cooling: "air" is not known here`},
		"no date":               {"Wisp|diesel|raw|20|10|last week|", `read: "last week" is not a date`},
		"no such day":           {"Wisp|diesel|raw|20|10|31/02/2026|", `read: "31/02/2026" is not a date`},
		"a meter of no day":     {"Wisp|diesel|raw|20|10||", "read: say on which day the meter was read"},
		"still to come":         {"Wisp|diesel|raw|20|10|2026-07-01|", "read: a day that is still to come"},
		"a meter that is none":  {"Wisp|diesel|raw|20|-3|2026-05-04|", "hours: read the meter again"},
		"impeller next summer":  {"Wisp|diesel|raw|20|10|2026-05-04|2027-01-01", "impeller_fitted: 2027-01-01 is still to come"},
		"a name of 81 letters":  {strings.Repeat("a", 81) + "|diesel|raw|20|10|2026-05-04|", "craft: this has 81 letters"},
		"the same engine twice": {"Lark|diesel|raw|20|10|2026-05-04|", "engine: row 2 has this engine already"},
	} {
		t.Run(name, func(t *testing.T) {
			s := sheet(yardlist.Fleet, "Boat|Fuel|Cooling|Power|Hours|Read on|Impeller\nLark|diesel|raw|20|||\n"+c.row)
			p := planned(t, yardlist.Fleet, s, held)
			require.Len(t, p.Lines, 2)
			assert.Contains(t, wrongIn(p.Lines[1]), c.wrong)
			assert.Equal(t, yardlist.Counts{Craft: 1, Engines: 1, Wrong: 1}, p.Counts)
			assert.Len(t, p.Acts(), 2)
		})
	}
}

func TestWhatIsOnRecordStaysAsItStands(t *testing.T) {
	held := yardlist.Held{Craft: []yardlist.HeldCraft{{"c1", "Ormsgill"}},
		Engines: []yardlist.HeldEngine{{"e1", eventlog.EngineFacts{CraftID: "c1", Name: "Main"}}},
		Parts:   []yardlist.HeldPart{{"p1", "Impeller", "AB-12"}, {"p2", "Hose 38 mm", ""}}}
	p := planned(t, yardlist.Fleet, sheet(yardlist.Fleet,
		"Boat|Engine|Fuel|Cooling|Power\nORMSGILL|main|diesel|raw|20\nOrmsgill|Generator|diesel|raw|8"), held)
	assert.True(t, p.Lines[0].There)
	require.Len(t, p.Lines[1].Acts, 1)
	assert.Equal(t, "c1", p.Lines[1].Acts[0].Body.Engine.CraftID)
	assert.Equal(t, yardlist.Counts{Engines: 1, There: 1}, p.Counts)
	p = planned(t, yardlist.Parts, sheet(yardlist.Parts,
		"Part|Number|Qty\nImpeller, six blades|ab 12|3\nhose 38 MM||2\nImpeller|AB-13|1\nimpeller|AB-13|1"), held)
	assert.Equal(t, yardlist.Counts{Parts: 1, There: 3}, p.Counts)
}

func TestTwoOwnersOfOneNameAreAsked(t *testing.T) {
	p := planned(t, yardlist.Fleet, sheet(yardlist.Fleet, "Boat|Owner\nWisp|A. Reed\nWisp|B. Sedge"), yardlist.Held{})
	assert.Contains(t, wrongIn(p.Lines[1]), "row 2 gives Wisp to another owner")
}

func TestPartsAreCountedAndFitted(t *testing.T) {
	p := planned(t, yardlist.Parts, sheet(yardlist.Parts, `
		Part|Number|Bin|Qty|Unit|Min|Price|Fits pump|Maintenance
		Impeller|AB-12|B3|4|pcs|2|31,50|HX 12|Impeller
		Coolant|CX|shelf|12.5|L|5|6|| change the COOLANT
		Rag|||||||| polishing
		`), yardlist.Held{})
	require.Empty(t, wrongIn(p.Lines[0]))
	is := p.Lines[0].Acts[0].Body.Inventory.Is
	assert.Equal(t, "impeller", is.Maintenance)
	assert.Equal(t, 31.5, is.Price)
	assert.Empty(t, is.Unit, "pieces")
	require.Len(t, is.Fits, 1)
	assert.Equal(t, "HX 12", is.Fits[0].Pump)
	assert.Equal(t, "listed", is.Fits[0].How, "a list is the weakest proof that a part fits")
	assert.Equal(t, 4.0, p.Lines[0].Acts[1].Body.Inventory.Quantity)
	assert.Equal(t, "coolant", p.Lines[1].Acts[0].Body.Inventory.Is.Maintenance)
	assert.Equal(t, "L", p.Lines[1].Acts[0].Body.Inventory.Is.Unit)
	assert.Contains(t, wrongIn(p.Lines[2]), `maintenance: "polishing" is not known here`)
	assert.Equal(t, yardlist.Counts{Parts: 2, Wrong: 1}, p.Counts)
}

// engineOnRecord is a closed engine, alone on its craft.
func engineOnRecord(t testing.TB) yardlist.Held {
	p := planned(t, yardlist.Fleet, sheet(yardlist.Fleet, "Boat|Fuel|Cooling|Power\nOrmsgill|diesel|closed|50"),
		yardlist.Held{})
	facts := *p.Lines[0].Acts[1].Body.Engine
	facts.CraftID = "c1"
	return yardlist.Held{Craft: []yardlist.HeldCraft{{"c1", "Ormsgill"}}, Engines: []yardlist.HeldEngine{{"e1", facts}}}
}

func TestPastWork(t *testing.T) {
	for name, c := range map[string]struct {
		complaint, found, done string
		items                  []string
		job                    string // its kind; empty: none
		faults                 []string
	}{
		"maintenance alone":        {"", "", "Impeller changed, zincs renewed", []string{"impeller", "anode"}, "", nil},
		"its verb is needed":       {"", "", "Impeller looked at", nil, "inspection", nil},
		"what is due is not done":  {"", "", "new impeller due", nil, "inspection", nil},
		"what is ordered neither":  {"", "", "new thermostat ordered", nil, "inspection", nil},
		"part of it is told":       {"", "", "Coolant changed; wiring tidied", []string{"coolant"}, "inspection", nil},
		"a complaint makes a job":  {"Overheats at speed", "tubes scaled", "exchanger descaled", []string{"descale"}, "runs-hot", nil},
		"a fault by its name":      {"Hot", "Exchanger tubes scaled", "descaled", []string{"descale"}, "runs-hot", []string{"tubes-scaled"}},
		"a fault that is denied":   {"Hot", "exchanger tubes not scaled", "", nil, "runs-hot", nil},
		"two faults":               {"Hot", "Impeller vanes missing, exchanger tubes blocked", "", nil, "runs-hot", []string{"impeller-vanes-missing", "tubes-blocked"}},
		"a leak":                   {"Drips at the pump", "", "", nil, "leak", nil},
		"laid up":                  {"", "", "Laid up for the winter", nil, "lay-up", nil},
		"what nobody complains of": {"", "", "Annual service", nil, "service", nil},
		"both in one clause":       {"", "", "new thermostat & coolant replaced", []string{"thermostat", "coolant"}, "", nil},
	} {
		t.Run(name, func(t *testing.T) {
			p := planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Complaint|Found|Work done\nOrmsgill|2025-05-04|"+
				strings.Join([]string{c.complaint, c.found, c.done}, "|")), engineOnRecord(t))
			require.Len(t, p.Lines, 1)
			require.Empty(t, wrongIn(p.Lines[0]))
			var items, faults []string
			job := ""
			for _, a := range p.Acts() {
				assert.Equal(t, "2025-05-04", a.On.Format(time.DateOnly))
				switch {
				case a.Kind == eventlog.MaintenanceNoted:
					items = append(items, a.Body.Maintenance.Item)
					assert.Equal(t, eventlog.Day("2025-05-04"), a.Body.Maintenance.Day)
				case a.Kind == eventlog.Opened:
					job = a.Body.Opening.Kind
				case a.Kind == eventlog.Closed:
					faults = a.Body.Faults
					assert.Equal(t, len(faults) > 0, *a.Body.Explains)
				}
			}
			assert.Equal(t, c.items, items)
			assert.Equal(t, c.job, job)
			assert.Equal(t, c.faults, faults)
		})
	}
}

func TestPastJobsPassWhatTypedOnesMustPass(t *testing.T) {
	c, held := knowledge(t), engineOnRecord(t)
	p := planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Complaint|Found|Work done|By\n"+
		"Ormsgill|2025-05-04|Overheats|Exchanger tubes scaled|exchanger descaled|T. Vane\n"+
		"Ormsgill|2025-06-01||||\nOrmsgill|2025-06-02|||Laid up|"), held)
	assert.Contains(t, wrongIn(p.Lines[1]), "done: say what was done")
	logs := map[string][]eventlog.Entry{}
	for i, a := range p.Acts() {
		if a.Subject.Kind != eventlog.OfJob {
			continue
		}
		e := eventlog.Entry{ID: string(rune('a' + i)), Subject: a.Subject, Kind: a.Kind, By: "T. Vane", At: today, Body: a.Body}
		if a.Kind != eventlog.Opened {
			job, ok := eventlog.FoldJob(c, logs[a.Subject.ID])
			require.True(t, ok)
			require.NoError(t, eventlog.CheckJobEntry(c, held.Engines[0].Facts, job, nil, e))
		}
		logs[a.Subject.ID] = append(logs[a.Subject.ID], e)
	}
	require.Len(t, logs, 2)
	for _, log := range logs {
		job, ok := eventlog.FoldJob(c, log)
		require.True(t, ok)
		assert.NotNil(t, job.Closing)
	}
}

func TestWorkOnRecordIsNotTakenTwice(t *testing.T) {
	held := engineOnRecord(t)
	held.Jobs = []yardlist.HeldJob{{"e1", "2025-05-04", "Overheats"}}
	held.LogOf = func(string) ([]eventlog.Entry, error) {
		return []eventlog.Entry{{ID: "m", Kind: eventlog.MaintenanceNoted, Body: eventlog.Body{Maintenance: &eventlog.
			MaintenanceAct{Do: eventlog.MaintenanceDone, Item: "impeller", Day: "2025-05-04"}}}}, nil
	}
	p := planned(t, yardlist.Work, sheet(yardlist.Work, `
		Boat|Date|Complaint|Work done|Hours
		Ormsgill|2025-05-04|Overheats||812
		Ormsgill|2025-05-04||impeller changed|
		Ormsgill|2025-05-05||impeller changed|900
		Ormsgill|2025-05-05||Hoses moved|
		Ormsgill|2025-05-05||Hoses moved|
		Tern|2025-05-05||Hoses moved|
		`), held)
	assert.True(t, p.Lines[0].There)
	assert.True(t, p.Lines[1].There)
	assert.Len(t, p.Lines[2].Acts, 2)
	assert.Contains(t, wrongIn(p.Lines[4]), "row 5 says the same")
	assert.Contains(t, wrongIn(p.Lines[5]), "craft: no craft on record is called Tern")
	assert.Equal(t, yardlist.Counts{Jobs: 1, Maintenance: 1, There: 2, Wrong: 2}, p.Counts)
}

func TestAMeterThatRanBackwardsIsToldWithinTheList(t *testing.T) {
	p := planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Work done|Hours\nOrmsgill|2025-05-04|impeller changed|812\n"+
		"Ormsgill|2025-06-04|belts renewed|700"), engineOnRecord(t))
	assert.Empty(t, wrongIn(p.Lines[0]))
	assert.Contains(t, wrongIn(p.Lines[1]), "hours:")
}

// The days of ECMA-376, part 1, 18.17.4.1: 1 January 2008 is 39448 in the 1900 date system.
func TestDatesAsTheyAreWritten(t *testing.T) {
	for written, day := range map[string]string{"2026-05-04": "2026-05-04", "2026-05-04T00:00:00": "2026-05-04",
		"39448": "2008-01-01", "39448.5": "2008-01-01", "4 May 2026": "2026-05-04", "May 4, 2026": "2026-05-04",
		"4.5.2026": "2026-05-04", "04/05/26": "2026-05-04", "20260504": "2026-05-04", "May 2026": "2026-05-01",
		"2026-05-04 10:30": "2026-05-04", "13/05/2026": "2026-05-13"} {
		p := planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Work done\nOrmsgill|"+written+"|belts renewed"),
			engineOnRecord(t))
		require.Empty(t, wrongIn(p.Lines[0]), written)
		assert.Equal(t, day, p.Lines[0].Acts[0].On.Format(time.DateOnly), written)
	}
	// one date that has its month first says so for the whole column
	p := planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Work done\nOrmsgill|05/13/2025|belts renewed\n"+
		"Ormsgill|04/05/2026|belts renewed"), engineOnRecord(t))
	assert.Equal(t, "2025-05-13", p.Lines[0].Acts[0].On.Format(time.DateOnly))
	assert.Equal(t, "2026-04-05", p.Lines[1].Acts[0].On.Format(time.DateOnly))
	// both in one column: what cannot be a day is refused
	p = planned(t, yardlist.Work, sheet(yardlist.Work, "Boat|Date|Work done\nOrmsgill|05/13/2025|belts renewed\n"+
		"Ormsgill|14/05/2026|belts renewed"), engineOnRecord(t))
	assert.Contains(t, wrongIn(p.Lines[0]), "is not a date")
}

func TestAListThatCannotBeReadIsRefusedWhole(t *testing.T) {
	c := knowledge(t)
	for name, l := range map[string]struct {
		kind  yardlist.Kind
		table yardlist.Table
		say   string
	}{
		"no kind":       {"boats", yardlist.Table{}, "say what the list holds"},
		"no must":       {yardlist.Parts, yardlist.Table{Columns: []string{"number"}}, "say which column holds this: Part"},
		"twice":         {yardlist.Parts, yardlist.Table{Columns: []string{"label", "label"}}, "two columns"},
		"no column":     {yardlist.Parts, yardlist.Table{Columns: []string{"label", "colour"}}, "there is no such column"},
		"far too long":  {yardlist.Parts, yardlist.Table{Columns: []string{"label"}, Rows: make([][]string, 5001)}, "in pieces"},
		"work of craft": {yardlist.Work, yardlist.Table{Columns: []string{"craft"}}, "say which column holds this: Date"},
	} {
		_, err := yardlist.Make(c, l.kind, l.table, yardlist.Held{}, today, func(k string) string { return k })
		assert.ErrorContains(t, err, l.say, name)
	}
}

func TestThousandsAreReadAsTheirTableWritesThem(t *testing.T) {
	for name, c := range map[string]struct {
		comma bool
		cells []string
		hours float64 // of the first
	}{
		"commas":                      {false, []string{"1,250", "980"}, 1250},
		"a comma that parts decimals": {false, []string{"1,250", "980,5"}, 1.25},
		"points":                      {true, []string{"1.250", "980,5"}, 1250},
		"a point that parts decimals": {true, []string{"1.250", "980.5"}, 1.25},
		"a point by itself":           {false, []string{"1.250", "980"}, 1.25},
		"both":                        {true, []string{"1.250,5", "980"}, 1250.5},
	} {
		s := sheet(yardlist.Fleet, "Boat|Fuel|Cooling|Power|Read on|Hours\nA|diesel|raw|20|2026-05-04|"+c.cells[0]+
			"\nB|diesel|raw|20|2026-05-04|"+c.cells[1])
		s.DecimalComma = c.comma
		p := planned(t, yardlist.Fleet, s, yardlist.Held{})
		require.Empty(t, wrongIn(p.Lines[0]), name)
		assert.InDelta(t, c.hours, p.Lines[0].Acts[2].Body.Meter.Hours, 1e-9, name)
	}
}

// Whatever stands in a list, a row is taken whole, or is on record, or is refused with a reason; what is taken of craft
// and engines passes what typed ones must pass, and the same list makes the same entries again.
func TestDrawnListsAreTakenOrRefusedRowByRow(t *testing.T) {
	c := knowledge(t)
	cell := rapid.OneOf(rapid.SampledFrom([]string{"", "Wisp", "Lark", "diesel", "raw", "closed", "20", "65 hp", "2025-05-04",
		"04/05/25", "1,250", "-1", "impeller changed", "Hot", "45000", "\u00a0"}), rapid.StringN(0, 12, -1))
	held := engineOnRecord(t)
	rapid.Check(t, func(t *rapid.T) {
		k := rapid.SampledFrom([]yardlist.Kind{yardlist.Fleet, yardlist.Parts, yardlist.Work}).Draw(t, "kind")
		var ids []string
		for _, col := range yardlist.ColumnsOf(k) {
			ids = append(ids, col.ID)
		}
		rows := rapid.SliceOfN(rapid.SliceOfN(cell, 0, len(ids)+1), 0, 6).Draw(t, "rows")
		table := yardlist.Table{Columns: ids, Rows: rows, First: 2, System: units.Metric}
		p, err := yardlist.Make(c, k, table, held, today, func(k string) string { return k })
		if err != nil {
			t.Fatal(err)
		}
		again, err := yardlist.Make(c, k, table, held, today, func(k string) string { return k })
		if err != nil {
			t.Fatal(err)
		}
		assert.Equal(t, p, again)
		for _, l := range p.Lines {
			states := 0
			for _, is := range []bool{l.There, len(l.Slips) > 0, len(l.Acts) > 0} {
				if is {
					states++
				}
			}
			if states != 1 {
				t.Fatalf("row %d is neither taken nor refused: %+v", l.Row, l)
			}
			for _, a := range l.Acts {
				if f := a.Body.Engine; f != nil {
					if err := eventlog.CheckEngine(c, *f); err != nil {
						t.Fatal(err)
					}
				}
			}
		}
	})
}
