package yardlist

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/yardlist"
)

// Whatever comes as a file, it is read and planned row by row, or refused with a reason.
func FuzzList(f *testing.F) {
	f.Add([]byte("Boat,Owner,Engine,Cooling,Fuel,Power (kW),Hours,Read on\nOrmsgill,T. Vane,Port,closed,diesel,50,812,2026-04-01\n"))
	f.Add([]byte("Date;Boat;Complaint;Found;Work done;Hours\n12.05.2025;Ormsgill;Hot;Tubes scaled;descaled;1.640\n"))
	f.Add([]byte("Part\tNumber\tQty\nImpeller\tAB-12\t3\n"))
	f.Add([]byte("\xff\xfeB\x00o\x00"))
	book := excelize.NewFile()
	require.NoError(f, book.SetSheetRow("Sheet1", "A1", &[]any{"Boat", "Power"}))
	require.NoError(f, book.SetSheetRow("Sheet1", "A2", &[]any{"Wisp", 20}))
	var raw bytes.Buffer
	require.NoError(f, book.Write(&raw))
	f.Add(raw.Bytes())
	c, err := catalogue.Load()
	require.NoError(f, err)
	today := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := File{Name: "x", Data: data}.cells()
		if err != nil {
			var slips validation.Errors
			require.ErrorAs(t, err, &slips)
			return
		}
		kind, head, columns := yardlist.Guess(r.rows)
		plan, err := yardlist.Make(c, kind, yardlist.Table{Columns: columns, Headings: r.rows[head], Rows: r.rows[head+1:],
			First: head + 2, System: units.Metric, DecimalComma: r.decimalComma}, yardlist.Held{}, today,
			func(key string) string { return key })
		if err != nil {
			var slips validation.Errors
			require.ErrorAs(t, err, &slips)
			return
		}
		for _, l := range plan.Lines {
			if len(l.Slips) > 0 && len(l.Acts) > 0 {
				t.Fatalf("row %d is refused and taken", l.Row)
			}
		}
	})
}

// A file that is all commas or all quotes is refused, at once and in the memory that it takes itself.
func TestAFileOfOneRowIsRefusedAtOnce(t *testing.T) {
	for name, text := range map[string]string{"commas": strings.Repeat(",", MostBytes-1), "quotes": strings.Repeat("\"", MostBytes-1),
		"quoted commas": strings.Repeat("\",", MostBytes/2-1), "pipes": strings.Repeat("|;,\t", MostBytes/4-1)} {
		_, err := File{Name: "a.csv", Data: []byte(text)}.cells()
		assert.ErrorContains(t, err, "longer than any table's", name)
	}
}
