package datalog

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hevrin/core/proving"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Column is a column as it is shown before anything is taken.
type Column struct {
	Heading string
	Unit    string // id of a unit, where the heading names one that is known
	Written string // the unit as it is written
	Numbers int    // cells that hold a number
	Sample  []string
	// Time: it can tell the time; Clock: as a clock, else as seconds, minutes or hours.
	Time, Clock bool
	// Guess is the place that its heading names; nil where it names none.
	Guess *proving.Place
}

// shown is how many cells of a column are shown.
const shown = 4

// Preview is what a file looks like, with guesses for what its columns are.
type Preview struct {
	Delimiter string
	Rows      int
	Columns   []Column
	Time      int // the column that is taken to tell the time; -1 when none is
	Dropped   []Dropped
}

// Preview shows a file; offered are the places that the engine has.
func (f *File) Preview(offered []proving.Place) Preview {
	p := Preview{Delimiter: f.Delimiter, Rows: len(f.rows), Time: -1, Dropped: slices.Clone(f.dropped)}
	taken := map[proving.Place]bool{}
	for i := range f.Headings {
		c := f.column(i)
		if c.Time && p.Time < 0 {
			p.Time = i
		}
		if g, ok := guess(c, offered); ok && i != p.Time && !taken[g] && c.Numbers > 0 {
			taken[g], c.Guess = true, &g
		}
		p.Columns = append(p.Columns, c)
	}
	return p
}

func (f *File) column(i int) Column {
	c := Column{Heading: f.Headings[i], Written: f.Units[i]}
	if u, ok := meant(f.Units[i]); ok {
		c.Unit = u.ID
	}
	clocks := 0
	back, last := 0, math.Inf(-1)
	for k, row := range f.rows {
		if k < shown {
			c.Sample = append(c.Sample, row[i])
		}
		if v, ok := number(row[i]); ok {
			c.Numbers++
			if v < last {
				back++
			}
			last = v
		} else if _, ok := moment(row[i], false); ok {
			clocks++
		}
	}
	named := slices.ContainsFunc(timeWords, func(w string) bool { return strings.Contains(strings.ToLower(c.Heading), w) })
	c.Clock = clocks > len(f.rows)/2
	named = named || c.Unit != "" && units.Must(c.Unit).Dimension == units.Time
	c.Time = c.Clock || named && c.Numbers > len(f.rows)/2 && back < c.Numbers/2
	return c
}

var timeWords = []string{"time", "second", "elapsed", "minute", "zeit", "temps", "tiempo", "clock", "stamp"}

// headingWords are the words in a heading that name a place, the surer first.
var headingWords = []struct {
	place proving.Place
	words []string
}{
	{proving.Place{Station: "rpm"}, []string{"rpm", "rev", "speed", "drehzahl", "engine_n"}},
	{proving.Place{Station: "flow"}, []string{"flow", "l/min"}},
	{proving.Place{Station: "gauge"}, []string{"gauge", "dash"}},
	{proving.Place{Station: "space"}, []string{"engine space", "engine room", "compartment", "ambient"}},
	{proving.Place{Station: "elbow", Side: "raw"}, []string{"elbow", "exhaust", "mixer"}},
	{proving.Place{Station: "raw-hoses", Side: "raw"}, []string{"raw hose", "rawhose"}},
	{proving.Place{Station: "exchanger", Side: "coolant"}, []string{"exchanger coolant", "exchcool", "coolant out",
		"coolant return"}},
	{proving.Place{Station: "exchanger", Side: "raw"}, []string{"raw out", "exchanger raw", "exchraw", "raw water out",
		"exchanger"}},
	{proving.Place{Station: "sea"}, []string{"sea", "raw in", "inlet", "water in"}},
	{proving.Place{Station: "thermostat", Side: "coolant"}, []string{"coolant", "thermostat", "engine temp", "water temp",
		"ect", "head"}},
	{proving.Place{Station: "thermostat", Side: "raw"}, []string{"coolant", "thermostat", "engine temp", "head"}},
}

// Guess is the place that a name in words speaks of, of those offered that fit its unit; not ok when it names none.
func Guess(name, unit string, offered []proving.Place) (proving.Place, bool) {
	return guess(Column{Heading: name, Unit: unit}, offered)
}

func guess(c Column, offered []proving.Place) (proving.Place, bool) {
	for _, p := range offered { // as the program's own tables name it
		if strings.TrimSpace(c.Heading) == p.String() {
			return p, true
		}
	}
	heading := strings.NewReplacer("_", " ", "-", " ").Replace(strings.ToLower(c.Heading))
	if c.Unit == "rpm" && slices.Contains(offered, proving.Place{Station: "rpm"}) {
		return proving.Place{Station: "rpm"}, true
	}
	for _, h := range headingWords {
		if !slices.Contains(offered, h.place) || c.Unit != "" && !fits(c.Unit, h.place) {
			continue
		}
		if slices.ContainsFunc(h.words, func(w string) bool { return strings.Contains(heading, w) }) {
			return h.place, true
		}
	}
	return proving.Place{}, false
}

func fits(unit string, p proving.Place) bool {
	u, err := units.Find(unit)
	return err == nil && u.Dimension == units.Must(p.Unit()).Dimension
}

// Mapping says what each column is.
type Mapping struct {
	Time     int    // column
	TimeUnit string // id of a unit of time; empty for a clock, or for what the heading says
	Columns  []Mapped
}

// Mapped is one column that is taken, in a unit by id; empty for what the heading says, or the place's own.
type Mapped struct {
	Column int
	proving.Place
	Unit string
}

// Taken is what was taken from a file.
type Taken struct {
	Tracks  []proving.Track
	Rows    int // that gave a reading
	Dropped []Dropped
}

// ranges of what can be read, in the place's own unit: beyond them it is the logger that is ill.
var ranges = map[string][2]float64{"degC": {-40, 1200}, "rpm": {0, 20000}, "h": {0, 200_000}, "L/min": {0, 20000}}

// Take reads the columns by a mapping.
func (f *File) Take(m Mapping) (Taken, error) {
	converters, err := f.check(m)
	if err != nil {
		return Taken{}, err
	}
	out := Taken{Tracks: make([]proving.Track, len(m.Columns))}
	left := slices.Clone(f.dropped)
	for i, c := range m.Columns {
		out.Tracks[i].Place = c.Place
	}
	clock := f.clock(m)
	for k, row := range f.rows {
		at, why := clock.at(row[m.Time])
		if why != "" {
			left.add(f.lines[k], why)
			continue
		}
		some := false
		for i, c := range m.Columns {
			cell := row[c.Column]
			v, ok := number(cell)
			if !ok {
				if cell != "" {
					left.add(f.lines[k], fmt.Sprintf("%s: not a number", named(f.Headings, c.Column)))
				}
				continue
			}
			v = converters[i](v)
			if r := ranges[c.Place.Unit()]; v < r[0] || v > r[1] {
				left.add(f.lines[k], fmt.Sprintf("%s: out of any range", named(f.Headings, c.Column)))
				continue
			}
			t := &out.Tracks[i]
			t.Seconds, t.Values = append(t.Seconds, at), append(t.Values, v)
			some = true
		}
		if some {
			out.Rows++
		}
	}
	out.Dropped = left
	if out.Rows == 0 {
		return Taken{}, refuse("no row that can be used", "1 row or more",
			"nothing could be read by these columns: look at the time's column and the units again")
	}
	return out, nil
}

func named(headings []string, i int) string {
	if headings[i] == "" {
		return fmt.Sprintf("column %d", i+1)
	}
	return headings[i]
}

// check refuses a mapping that does not fit the file, and gives what turns each column's numbers into its place's unit.
func (f *File) check(m Mapping) ([]func(float64) float64, error) {
	var wrong validation.Errors
	n := len(f.Headings)
	inFile := func(i int) bool { return i >= 0 && i < n }
	if !inFile(m.Time) {
		wrong.Add("time", m.Time, units.Say("0 to %d", n-1), "say which column tells the time")
	}
	if len(m.Columns) == 0 {
		wrong.Add("columns", "nothing", "1 column or more", "say what at least one column is")
	}
	seen := map[proving.Place]bool{}
	list := make([]func(float64) float64, len(m.Columns))
	for i, c := range m.Columns {
		at := fmt.Sprintf("columns[%d]", i)
		if !inFile(c.Column) {
			wrong.Add(at+".column", c.Column, units.Say("0 to %d", n-1), "there is no such column")
			continue
		}
		if seen[c.Place] {
			wrong.Add(at+".station", c.Place.String(), "each place once", "two columns are said to be the same place")
		}
		seen[c.Place] = true
		own := units.Must(c.Place.Unit())
		from := own
		words := c.Unit
		if words == "" {
			words = f.Units[c.Column]
		}
		if words != "" {
			u, err := units.Meant(words, own, units.Metric)
			if err != nil {
				wrong.Add(at+".unit", words, units.Sentence("a unit of "+string(own.Dimension)), "%s", err)
				continue
			}
			from = u
		}
		list[i] = func(v float64) float64 { return own.FromBase(from.ToBase(v)) }
	}
	if m.TimeUnit != "" {
		if u, err := units.Find(m.TimeUnit); err != nil || u.Dimension != units.Time {
			wrong.Add("time_unit", m.TimeUnit, "s, min, h", "say in what the time is written")
		}
	}
	return list, wrong.Err()
}

// ticking turns the cells of the time's column into seconds from the first.
type ticking struct {
	unit       units.Unit
	monthFirst bool
	begun      bool
	first      float64
	last       float64
	days       float64
}

func (f *File) clock(m Mapping) *ticking {
	t := &ticking{unit: units.Must("s")}
	words := m.TimeUnit
	if words == "" {
		words = f.Units[m.Time]
	}
	if u, err := units.Meant(words, t.unit, units.Metric); err == nil {
		t.unit = u
	}
	for _, row := range f.rows { // a day over 12 in the second place: the month comes first
		cell := row[m.Time]
		if len(cell) > 5 && cell[2] == '/' && cell[5] == '/' && cell[3:5] > "12" {
			t.monthFirst = true
		}
	}
	return t
}

const (
	day       = 86400.0
	backByDay = day / 2    // a time of day that goes back by more has gone past midnight
	farAhead  = 400 * day  // no run is as long
	inMillis  = 100_000e6  // seconds since 1970 are far under this
	sinceEra  = 100_000e3  // … and over this
	perMilli  = 1.0 / 1000 // s
)

// at is the time of a cell in s from the first; why says what is wrong with it.
func (t *ticking) at(cell string) (seconds float64, why string) {
	v, ok := 0.0, false
	if m, is := moment(cell, t.monthFirst); is {
		v, ok = m.seconds, true
		if !m.dated {
			if t.begun && v+t.days < t.last-backByDay {
				t.days += day
			}
			v += t.days
		}
	} else if n, is := number(cell); is {
		switch {
		case n > inMillis:
			v = n * perMilli
		case n > sinceEra:
			v = n
		default:
			v = t.unit.ToBase(n)
		}
		ok = true
	}
	switch {
	case !ok:
		return 0, "no time that can be read"
	case !t.begun:
		t.begun, t.first = true, v
	case v < t.last:
		return 0, "time goes back"
	case v == t.last:
		return 0, "the same time as the row before"
	case v-t.first > farAhead:
		return 0, "more than a year after the first"
	}
	t.last = v
	return math.Round((v-t.first)*1e6) / 1e6, ""
}
