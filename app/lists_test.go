package app_test

import (
	"bytes"
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"hevrin/app/record"
	lists "hevrin/app/yardlist"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/yardlist"
)

const fleetCSV = "Boat,Owner,Engine,Cooling,Fuel,Power (kW),Hours,Read on\n" +
	"Ormsgill,T. Vane,Port,closed,diesel,50,812,2026-04-01\n" +
	"Ormsgill,T. Vane,Starboard,closed,diesel,50,801,2026-04-01\n" +
	"Quenby,,,,,,,\n"

const workCSV = "Date;Boat;Engine;Complaint;Found;Work done;Hours\n" +
	"12.05.2025;Ormsgill;Port;Overheats at speed;Exchanger tubes scaled;exchanger descaled;640\n" +
	"01.03.2026;ormsgill;starboard;;;Impeller changed, anodes renewed;790\n"

func csvFile(text string) lists.File { return lists.File{Name: "list.csv", Data: []byte(text)} }

var metric = lists.Chosen{System: units.Metric}

func (s *shop) take(f lists.File) (id string, err error) {
	st := stamp()
	_, err = s.Take(s.ctx, st, f, metric, false)
	return st.EntryID, err
}

func (s *shop) allJobs(t *testing.T) []record.Job {
	r := s.Store.Read(s.ctx)
	engines, err := r.EngineLines()
	require.NoError(t, err)
	var ids []string
	for _, e := range engines {
		ids = append(ids, e.ID)
	}
	all, err := r.Jobs(ids...)
	require.NoError(t, err)
	return all
}

func (s *shop) standing(t *testing.T) (craft, engines, jobs, parts int) {
	overview, err := s.Yard(s.ctx)
	require.NoError(t, err)
	r := s.Store.Read(s.ctx)
	lines, err := r.EngineLines()
	require.NoError(t, err)
	all := s.allJobs(t)
	stock, err := s.Inventory(s.ctx)
	require.NoError(t, err)
	return len(overview), len(lines), len(all), len(stock.Lines)
}

func TestAListIsLookedAtTakenInAndTakenBackAsOne(t *testing.T) {
	s := newShop(t)
	look, err := s.Look(s.ctx, csvFile(fleetCSV), metric)
	require.NoError(t, err)
	assert.Equal(t, yardlist.Counts{Craft: 2, Engines: 2}, look.Counts)
	craft, engines, _, _ := s.standing(t)
	assert.Zero(t, craft+engines, "looking writes nothing")

	fleet, err := s.take(csvFile(fleetCSV))
	require.NoError(t, err)
	work, err := s.take(csvFile(workCSV))
	require.NoError(t, err)
	_, err = s.take(csvFile("Part,Number,Qty\nImpeller,AB-12,3\n"))
	require.NoError(t, err)
	craft, engines, jobs, parts := s.standing(t)
	assert.Equal(t, []int{2, 2, 1, 1}, []int{craft, engines, jobs, parts})

	job := s.allJobs(t)[0]
	assert.Equal(t, "2025-05-12", job.OpenedAt.Format(time.DateOnly), "on its own day")
	assert.Equal(t, []string{"tubes-scaled"}, job.Faults)
	require.NotNil(t, job.ClosedAt)
	due, err := s.DueInYard(s.ctx, 10*365*24*time.Hour)
	require.NoError(t, err)
	when := map[string]string{}
	for _, e := range due {
		for _, d := range e.Due {
			when[e.Engine.Name+" "+d.ID] = d.When.Format(time.DateOnly)
		}
	}
	assert.Less(t, "2027-01-01", when["Starboard impeller"], "what the list says was done is not due again at once")

	// the list of craft is in use by the list of work: that one first
	_, err = s.TakeBack(s.ctx, fleet, stamp())
	require.ErrorContains(t, err, "since")
	_, err = s.TakeBack(s.ctx, work, stamp())
	require.NoError(t, err)
	taken, err := s.TakeBack(s.ctx, fleet, stamp())
	require.NoError(t, err)
	assert.Equal(t, []bool{false, true, true}, []bool{taken[0].Back, taken[1].Back, taken[2].Back})
	craft, engines, jobs, parts = s.standing(t)
	assert.Equal(t, []int{0, 0, 0, 1}, []int{craft, engines, jobs, parts})
	_, err = s.kept.Backup(s.ctx, filepath.Join(t.TempDir(), "copy.db"))
	require.NoError(t, err, "the chain holds: a copy is verified")

	// and in again
	_, err = s.take(csvFile(fleetCSV))
	require.NoError(t, err)
	craft, engines, _, _ = s.standing(t)
	assert.Equal(t, []int{2, 2}, []int{craft, engines})
}

func TestAListSentTwiceIsTakenOnce(t *testing.T) {
	s := newShop(t)
	st := stamp()
	for range 2 {
		taken, err := s.Take(s.ctx, st, csvFile(fleetCSV), metric, false)
		require.NoError(t, err)
		require.Len(t, taken, 1)
		assert.Equal(t, 2, taken[0].Engines)
	}
	craft, engines, _, _ := s.standing(t)
	assert.Equal(t, []int{2, 2}, []int{craft, engines})
	// taken as another list, all of it is on record
	_, err := s.take(csvFile(fleetCSV))
	assert.ErrorContains(t, err, "there is nothing in it to bring in")
	back := stamp()
	for range 2 {
		_, err = s.TakeBack(s.ctx, st.EntryID, back)
		require.NoError(t, err)
	}
	_, err = s.Undo(s.ctx, st.EntryID, stamp())
	assert.ErrorContains(t, err, "taken back as one")
	_, err = s.TakeBack(s.ctx, uuid.NewString(), stamp())
	assert.ErrorContains(t, err, "there is no list")
}

func TestNothingOfAListIsTakenWhereARowIsWrong(t *testing.T) {
	s := newShop(t)
	wrong := strings.Replace(fleetCSV, "Starboard,closed", "Starboard,steam", 1)
	_, err := s.take(csvFile(wrong))
	var slips validation.Errors
	require.ErrorAs(t, err, &slips)
	require.Len(t, slips, 1)
	assert.Equal(t, "row 3, cooling", slips[0].Field)
	craft, engines, _, _ := s.standing(t)
	assert.Zero(t, craft+engines)
	_, err = s.Take(s.ctx, stamp(), csvFile(wrong), metric, true)
	require.NoError(t, err)
	craft, engines, _, _ = s.standing(t)
	assert.Equal(t, []int{2, 1}, []int{craft, engines}, "but for the row that is left out")
}

// What was done since with what a list brought would be lost: then it is not taken back.
func TestAListInUseIsNotTakenBack(t *testing.T) {
	id := func(s *shop, kind string) string {
		r := s.Store.Read(s.ctx)
		if kind == "craft" {
			all, err := r.AllCraft()
			require.NoError(t, err)
			return all[0].ID
		}
		all, err := r.Engines()
		require.NoError(t, err)
		return all[0].ID
	}
	for name, do := range map[string]func(s *shop) error{
		"a job": func(s *shop) error {
			s.job(id(s, "engine"))
			return nil
		},
		"a changed craft": func(s *shop) error {
			_, err := s.SaveCraft(s.ctx, id(s, "craft"), stamp(), eventlog.CraftFacts{Name: "Other"})
			return err
		},
		"the hours read": func(s *shop) error {
			_, err := s.meter(id(s, "engine"), "2026-05-04", 820)
			return err
		},
		"a part counted": func(s *shop) error {
			p, err := s.Inventory(s.ctx)
			if err != nil {
				return err
			}
			_, err = s.NoteInInventory(s.ctx, stamp(), inventory.Act{Do: inventory.Count, Part: p.Lines[0].ID, Quantity: 1})
			return err
		},
	} {
		t.Run(name, func(t *testing.T) {
			s := newShop(t)
			fleet, err := s.take(csvFile(fleetCSV))
			require.NoError(t, err)
			parts, err := s.take(csvFile("Part,Qty\nImpeller,3\n"))
			require.NoError(t, err)
			require.NoError(t, do(s))
			list := map[bool]string{true: parts, false: fleet}[name == "a part counted"]
			_, err = s.TakeBack(s.ctx, list, stamp())
			var clash *eventlog.Conflict
			require.ErrorAs(t, err, &clash)
			assert.Contains(t, clash.Say, "cannot be taken back as one")
			craft, engines, _, lines := s.standing(t)
			assert.Equal(t, []int{2, 2, 1}, []int{craft, engines, lines}, "nothing half")
		})
	}
}

func workbook(t *testing.T, rows [][]any) []byte {
	book := excelize.NewFile()
	_, err := book.NewSheet("Boats")
	require.NoError(t, err)
	for i, row := range rows {
		require.NoError(t, book.SetSheetRow("Boats", fmt.Sprintf("A%d", i+1), &row))
	}
	var out bytes.Buffer
	require.NoError(t, book.Write(&out))
	return out.Bytes()
}

func TestSpreadsheetsAndTextOfManyKindsAreRead(t *testing.T) {
	day := time.Date(2026, 4, 1, 0, 0, 0, 0, time.UTC)
	latin, err := charmap.Windows1252.NewEncoder().String(strings.Replace(fleetCSV, "T. Vane", "Véa Größ", 2))
	require.NoError(t, err)
	wide, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(strings.ReplaceAll(fleetCSV, ",",
		"\t"))
	require.NoError(t, err)
	for name, data := range map[string][]byte{
		"commas":           []byte(fleetCSV),
		"semicolons":       []byte(strings.ReplaceAll(fleetCSV, ",", ";")),
		"a mark before it": []byte("\ufeff" + fleetCSV),
		"Windows-1252":     []byte(latin),
		"UTF-16 with tabs": []byte(wide),
		"line ends of old": []byte(strings.ReplaceAll(fleetCSV, "\n", "\r\n")),
		"quotes":           []byte(strings.Replace(fleetCSV, "Quenby", `"Quenby"`, 1)),
		"a title above":    []byte("The yard's boats\n\n" + fleetCSV),
		"a workbook": workbook(t, [][]any{{"Boat", "Owner", "Engine", "Cooling", "Fuel", "Power (kW)", "Hours", "Read on"},
			{"Ormsgill", "T. Vane", "Port", "closed", "diesel", 50, 812.0, day},
			{"Ormsgill", "T. Vane", "Starboard", "closed", "diesel", 50, 801, day}, {"Quenby"}}),
	} {
		t.Run(name, func(t *testing.T) {
			s := newShop(t)
			look, err := s.Look(s.ctx, lists.File{Name: "x", Data: data}, metric)
			require.NoError(t, err)
			assert.Equal(t, yardlist.Fleet, look.Kind)
			assert.Equal(t, yardlist.Counts{Craft: 2, Engines: 2}, look.Counts)
			for _, a := range look.Acts() {
				if m := a.Body.Meter; m != nil {
					assert.Equal(t, eventlog.Day("2026-04-01"), m.Day)
				}
				if c := a.Body.Craft; c != nil && name == "Windows-1252" && c.Name == "Ormsgill" {
					assert.Equal(t, "Véa Größ", c.Owner)
				}
			}
			if name == "a title above" {
				assert.Equal(t, 4, look.Lines[0].Row, "rows as the file counts them")
			}
		})
	}
}

func TestFilesThatAreNoListAreRefused(t *testing.T) {
	s := newShop(t)
	for name, c := range map[string]struct {
		file lists.File
		say  string
	}{
		"empty":             {lists.File{}, "the file is empty"},
		"a picture":         {lists.File{Data: []byte("\x89PNG\r\n\x1a\n\x00\x00")}, "neither a spreadsheet nor a table"},
		"an older workbook": {lists.File{Data: []byte("\xd0\xcf\x11\xe0\xa1\xb1")}, "save it as .xlsx or .csv"},
		"a broken workbook": {lists.File{Data: []byte("PK\x03\x04rubbish")}, "no spreadsheet that can be read"},
		"blank":             {lists.File{Data: []byte(" \n,,\n")}, "there is nothing in it"},
		"no such sheet":     {lists.File{Data: workbook(t, [][]any{{"Boat"}}), Sheet: "Parts"}, "there is no such sheet"},
		"far too large":     {lists.File{Data: make([]byte, lists.MostBytes+1)}, "save the list alone"},
		"far too long":      {lists.File{Data: []byte("Boat\n" + strings.Repeat("Wisp\n", 5100))}, "in pieces"},
	} {
		_, err := s.Look(s.ctx, c.file, metric)
		assert.ErrorContains(t, err, c.say, name)
	}
}
