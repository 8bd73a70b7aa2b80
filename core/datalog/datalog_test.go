package datalog_test

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"pgregory.net/rapid"

	"hevrin/core/datalog"
	"hevrin/core/proving"
)

var (
	rpm     = proving.Place{Station: "rpm"}
	coolant = proving.Place{Station: "thermostat", Side: "coolant"}
	sea     = proving.Place{Station: "sea"}
	rawOut  = proving.Place{Station: "exchanger", Side: "raw"}
	flow    = proving.Place{Station: "flow"}
	offered = []proving.Place{rpm, sea, flow, {Station: "space"}, {Station: "gauge"}, coolant, rawOut,
		{Station: "exchanger", Side: "coolant"}, {Station: "elbow", Side: "raw"}}
)

// guessed takes a file by its own guesses.
func guessed(t *testing.T, text string) (datalog.Preview, datalog.Taken) {
	t.Helper()
	f, err := datalog.Read([]byte(text))
	require.NoError(t, err)
	p := f.Preview(offered)
	m := datalog.Mapping{Time: p.Time}
	for i, c := range p.Columns {
		if c.Guess != nil {
			m.Columns = append(m.Columns, datalog.Mapped{Column: i, Place: *c.Guess})
		}
	}
	taken, err := f.Take(m)
	require.NoError(t, err)
	return p, taken
}

func track(t *testing.T, taken datalog.Taken, p proving.Place) proving.Track {
	t.Helper()
	for _, x := range taken.Tracks {
		if x.Place == p {
			return x
		}
	}
	require.Failf(t, "no such track", "%s", p)
	return proving.Track{}
}

// Every one of these says the same: 0, 30 and 60 s, 20, 25.5 and 31 °C, and twice 900, then 1200 rev/min.
func TestFormsOfTheSameRun(t *testing.T) {
	for name, text := range map[string]string{
		"commas":             "seconds,coolant_c,rpm\n0,20,900\n30,25.5,900\n60,31,1200\n",
		"another order":      "rpm,coolant_c,seconds\n900,20,0\n900,25.5,30\n1200,31,60\n",
		"semicolons, commas": "Time (s);Coolant (°C);Engine speed (rpm)\n0;20;900\n30;25,5;900\n60;31,0;1200\n",
		"tabs":               "Time [s]\tCoolant [C]\tRev/min\n0\t20\t900\n30\t25.5\t900\n60\t31\t1.200,0\n",
		"fahrenheit":         "Time (s),Coolant temp (°F),RPM\n0,68,900\n30,77.9,900\n60,87.8,1200\n",
		"minutes":            "minutes,Coolant C,rpm\n0,20,900\n0.5,25.5,900\n1,31,1200\n",
		"clock":              "Clock,Coolant (C),rpm\n10:00:00,20,900\n10:00:30,25.5,900\n10:01:00,31,1200\n",
		"past midnight":      "Clock,Coolant (C),rpm\n23:59:30,20,900\n00:00:00,25.5,900\n00:00:30,31,1200\n",
		"date and time": "Timestamp;Coolant (C);rpm\n18.05.2026 10:00:00;20;900\n18.05.2026 " +
			"10:00:30;25,5;900\n18.05.2026 10:01:00;31;1200\n",
		"month first": "Timestamp,Coolant (C),rpm\n05/28/2026 10:00:00,20,900\n05/28/2026 " +
			"10:00:30,25.5,900\n05/28/2026 10:01:00,31,1200\n",
		"over the new year":  "Timestamp,Coolant (C),rpm\n2026-12-31T23:59:30Z,20,900\n2027-01-01T00:00:00Z,25.5,900\n2027-01-01T00:00:30Z,31,1200\n",
		"seconds since 1970": "time,Coolant (C),rpm\n1779098400,20,900\n1779098430,25.5,900\n1779098460,31,1200\n",
		"thousandths":        "time,Coolant (C),rpm\n1779098400000,20,900\n1779098430000,25.5,900\n1779098460000,31,1200\n",
		"a row of units":     "Time;Coolant;Speed\ns;°C;rpm\n0;20;900\n30;25,5;900\n60;31;1200\n",
		"words before":       "Logger 7, bench\nStarted today\nseconds,coolant_c,rpm\n0,20,900\n30,25.5,900\n60,31,1200\n",
		"empty lines":        "seconds,coolant_c,rpm\r\n\r\n0,20,900\r\n\r\n30,25.5,900\r\n60,31,1200\r\n\r\n",
		"quotes": "\"seconds\",\"Coolant, " +
			"(°C)\",\"rpm\"\n\"0\",\"20\",\"900\"\n\"30\",\"25,5\",\"900\"\n\"60\",\"31\",\"1200\"\n",
		"bars, spaces, a mark": "\xEF\xBB\xBF seconds | coolant_c | rpm \n 0 | 20 | 900 \n 30 | 25.5 | 900\n 60 | 31 | 1 " +
			"200 \n",
		"old line ends": "seconds,coolant_c,rpm\r0,20,900\r30,25.5,900\r60,31,1200\r",
	} {
		t.Run(name, func(t *testing.T) {
			_, taken := guessed(t, text)
			c, r := track(t, taken, coolant), track(t, taken, rpm)
			assert.Equal(t, []float64{0, 30, 60}, c.Seconds)
			assert.InDeltaSlice(t, []float64{20, 25.5, 31}, c.Values, 1e-9)
			assert.InDeltaSlice(t, []float64{900, 900, 1200}, r.Values, 1e-9)
			assert.Equal(t, 3, taken.Rows)
		})
	}
}

func TestLettersOfOtherMachines(t *testing.T) {
	text := "Zeit (s);Coolant (°C);rpm\n0;20;900\n30;25,5;900\n60;31;1200\n"
	western, err := charmap.Windows1252.NewEncoder().String(text)
	require.NoError(t, err)
	wide, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(text)
	require.NoError(t, err)
	for name, raw := range map[string]string{"Windows": western, "UTF-16": wide} {
		t.Run(name, func(t *testing.T) {
			p, taken := guessed(t, raw)
			assert.Equal(t, "degC", p.Columns[1].Unit)
			assert.InDeltaSlice(t, []float64{20, 25.5, 31}, track(t, taken, coolant).Values, 1e-9)
		})
	}
}

func TestWhatIsDroppedIsCountedAndNamed(t *testing.T) {
	_, taken := guessed(t,
		"Depot logger\nseconds,Coolant (C),rpm\n0,20,900\n10,error,900\n20,22\n15,23,900\n20,24,900\n20,24,900\nlater,25,900\n30,9999,900\n40,26,900\n")
	assert.Equal(t, []datalog.Dropped{{"before the headings", 1, 1}, {"not as many columns as the rest", 1, 5},
		{"Coolant: not a number", 1, 4},
		{"the same time as the row before", 1, 8}, {"no time that can be read", 1, 9}, {"Coolant: out of any range", 1, 10}},
		taken.Dropped)
	assert.Equal(t, []float64{0, 15, 20, 40}, track(t, taken, coolant).Seconds)
	assert.Equal(t, []float64{0, 10, 15, 20, 30, 40}, track(t, taken, rpm).Seconds)
	_, taken = guessed(t, "seconds,coolant_c\n0,20\n30,21\n20,22\n60,23\n")
	assert.Equal(t, []datalog.Dropped{{"time goes back", 1, 4}}, taken.Dropped)
}

func TestFilesThatAreNone(t *testing.T) {
	for name, c := range map[string]struct{ raw, say string }{
		"empty":         {"", "no columns"},
		"prose":         {"There was no water at the outlet.\nIt was hot.\n", "no columns"},
		"a spreadsheet": {"PK\x03\x04xxxx", "spreadsheet"},
		"a PDF":         {"%PDF-1.7 …", "PDF"},
		"packed":        {"\x1f\x8b\x08", "unpack"},
		"a database":    {"SQLite format 3\x00", "database"},
		"zeros":         {"a,b\n\x00,1\n", "no text"},
		"no rows":       {"seconds,coolant_c\n", "no rows"},
		"too long":      {strings.Repeat("1,2\n", datalog.MostRows+1000), "too many lines"},
		"ten million":   {strings.Repeat("\n", 10_000_000), "too many lines"},
		"too large":     {strings.Repeat("x", datalog.MostBytes+1), "too large"},
		"one long line": {strings.Repeat("1,", 1_000_000), "no columns"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := datalog.Read([]byte(c.raw))
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.say)
		})
	}
}

func TestMappingsThatDoNotFit(t *testing.T) {
	f, err := datalog.Read([]byte("seconds,coolant_c,note\n0,20,x\n30,25.5,y\n"))
	require.NoError(t, err)
	for name, c := range map[string]struct {
		m   datalog.Mapping
		say string
	}{
		"no time": {datalog.Mapping{Time: -1, Columns: []datalog.Mapped{{Column: 1, Place: coolant}}},
			"tells the time"},
		"nothing": {datalog.Mapping{Time: 0}, "at least one"},
		"no such column": {datalog.Mapping{Time: 0, Columns: []datalog.Mapped{{Column: 7, Place: coolant}}},
			"no such column"},
		"one place twice": {datalog.Mapping{Time: 0, Columns: []datalog.Mapped{{Column: 1, Place: coolant},
			{Column: 2, Place: coolant}}}, "same place"},
		"a unit of else": {datalog.Mapping{Time: 0, Columns: []datalog.Mapped{{Column: 1, Place: coolant, Unit: "L/min"}}},
			"measures"},
		"time in degrees": {datalog.Mapping{Time: 0, TimeUnit: "degC", Columns: []datalog.Mapped{{Column: 1,
			Place: coolant}}}, "in what the time"},
		"words": {datalog.Mapping{Time: 0, Columns: []datalog.Mapped{{Column: 2, Place: coolant}}},
			"nothing could be read"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := f.Take(c.m)
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.say)
		})
	}
}

// What was written by any logger of these manners is read back as it was.
func TestRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		comma := rapid.Bool().Draw(t, "decimal comma")
		mark := ";"
		if !comma {
			mark = rapid.SampledFrom([]string{";", ",", "\t"}).Draw(t, "delimiter")
		}
		n := rapid.IntRange(3, 60).Draw(t, "rows")
		var b strings.Builder
		fmt.Fprintf(&b, "rpm%[1]sCoolant (°C)%[1]sTime (s)\n", mark)
		values, at := make([]float64, n), make([]float64, n)
		for i := range n {
			values[i] = math.Round(100*rapid.Float64Range(-20, 130).Draw(t, "°C")) / 100
			at[i] = float64(i) * 2.5
			row := fmt.Sprintf("%d%s%.2f%s%.1f\n", rapid.IntRange(0, 4000).Draw(t, "rpm"), mark, values[i], mark, at[i])
			if comma {
				row = strings.ReplaceAll(row, ".", ",")
			}
			b.WriteString(row)
		}
		f, err := datalog.Read([]byte(b.String()))
		if err != nil {
			t.Fatal(err)
		}
		taken, err := f.Take(datalog.Mapping{Time: 2, Columns: []datalog.Mapped{{Column: 1, Place: coolant}}})
		if err != nil {
			t.Fatal(err)
		}
		assert.InDeltaSlice(t, at, taken.Tracks[0].Seconds, 1e-6)
		assert.InDeltaSlice(t, values, taken.Tracks[0].Values, 1e-9)
	})
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{"seconds,coolant_c\n0,20\n30,25.5\n", "a;b\n\"1;2\n3;4\n",
		"\xff\xfea\x00;\x00b\x00\n\x001\x00;\x002\x00\n\x00", "Clock,C\n10:00,1\n09:00,2\n",
		"=cmd(),+1\n-1,@x\n1,2\n", "PK\x03\x04", "t,v\n1e308,1\n-1e308,2\n0x1p-2,3\nNaN,Inf\n", "1|2\n3|4\n5|6\n",
		"time,ms\n100000000001,1\n2,2\n"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, raw []byte) {
		before := bytes.Clone(raw)
		file, err := datalog.Read(raw)
		if !bytes.Equal(before, raw) {
			t.Fatal("the file was changed")
		}
		if err != nil {
			return
		}
		p := file.Preview(offered)
		m := datalog.Mapping{Time: max(p.Time, 0)}
		for i := range p.Columns {
			if i != m.Time && len(m.Columns) < len(offered) {
				m.Columns = append(m.Columns, datalog.Mapped{Column: i, Place: offered[len(m.Columns)]})
			}
		}
		taken, err := file.Take(m)
		if err != nil {
			return
		}
		for _, x := range taken.Tracks {
			for i, s := range x.Seconds {
				if math.IsNaN(s) || math.IsInf(s, 0) || math.IsNaN(x.Values[i]) || math.IsInf(x.Values[i], 0) || i > 0 &&
					s <= x.Seconds[i-1] {
					t.Fatalf("%v at %v", x.Values[i], s)
				}
			}
		}
	})
}

func BenchmarkReadHour(b *testing.B) {
	var text strings.Builder
	text.WriteString("seconds")
	for i := range 12 {
		fmt.Fprintf(&text, ",c%d (°C)", i)
	}
	for k := range 18_000 { // an hour at 5 Hz
		fmt.Fprintf(&text, "\n%.1f", float64(k)/5)
		for i := range 12 {
			fmt.Fprintf(&text, ",%.2f", 20+float64(i)+float64(k%100)/100)
		}
	}
	raw := []byte(text.String())
	m := datalog.Mapping{Time: 0}
	for i := range 9 {
		m.Columns = append(m.Columns, datalog.Mapped{Column: i + 1, Place: offered[i]})
	}
	for b.Loop() {
		f, err := datalog.Read(raw)
		if err != nil {
			b.Fatal(err)
		}
		if _, err := f.Take(m); err == nil {
			continue
		}
	}
}
