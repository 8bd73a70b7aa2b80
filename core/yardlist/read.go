package yardlist

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"hevrin/core/units"
)

// Table is a list as it was taken apart: what each column holds, its headings, and its rows below them. First is the
// number of the first of those rows as the sheet counts them, from 1.
type Table struct {
	Columns  []string // ids; empty: left out
	Headings []string
	Rows     [][]string
	First    int
	// Usual is what holds for rows that say nothing, by column.
	Usual map[string]string
	// DecimalComma: the table comes from where a comma parts decimals, and a point thousands.
	DecimalComma bool
	System       units.System // whose gallon an unnamed one is
}

// Slip is what is wrong with a row, or with a cell of it.
type Slip struct {
	Column string // empty: of the row as a whole
	Given  string
	Say    units.Sentence
}

// reader reads a table's cells, and remembers what was wrong with those of one row.
type reader struct {
	Table
	at         map[string]int // where each column stands
	monthFirst map[string]bool
	thousands  map[string]bool // columns whose commas, or points, part thousands
	row        []string
	slips      []Slip
}

func newReader(t Table) *reader {
	r := &reader{Table: t, at: map[string]int{}, monthFirst: map[string]bool{}, thousands: map[string]bool{}}
	for i, id := range t.Columns {
		if id != "" {
			r.at[id] = i
			r.monthFirst[id], r.thousands[id] = r.habits(i)
		}
	}
	return r
}

var (
	slashed = regexp.MustCompile(`^(\d{1,2})[/.-](\d{1,2})[/.-](\d{4}|\d{2})$`)
	commas  = regexp.MustCompile(`^\d{1,3}(,\d{3})+(\.\d+)?$`)
	points  = regexp.MustCompile(`^[1-9]\d{0,2}(\.\d{3})+(,\d+)?$`)
)

// habits tells how a column is written: its dates with the month first, where one of them can be read no other way and
// none the other way only; its figures with commas between thousands, or points where a comma parts decimals, where
// every one of them can be that.
func (r *reader) habits(column int) (monthFirst, thousands bool) {
	mark, parted := ",", commas
	if r.DecimalComma {
		mark, parted = ".", points
	}
	dayFirst, some, all := false, false, true
	for _, row := range r.Rows {
		cell := cellOf(row, column)
		if m := slashed.FindStringSubmatch(cell); m != nil {
			a, _ := strconv.Atoi(m[1])
			b, _ := strconv.Atoi(m[2])
			monthFirst = monthFirst || b > 12
			dayFirst = dayFirst || a > 12
		}
		if strings.Contains(cell, mark) {
			some = true
			all = all && parted.MatchString(cell)
		}
	}
	return monthFirst && !dayFirst, some && all
}

func cellOf(row []string, i int) string {
	if i >= len(row) {
		return ""
	}
	return strings.TrimSpace(strings.ReplaceAll(row[i], "\u00a0", " "))
}

// text is what a column of the row holds, or what is usual where it says nothing.
func (r *reader) text(column string) string {
	if i, ok := r.at[column]; ok {
		if cell := cellOf(r.row, i); cell != "" {
			return cell
		}
	}
	return strings.TrimSpace(r.Usual[column])
}

func (r *reader) slip(column, say string, args ...any) {
	r.slips = append(r.slips, Slip{column, r.text(column), units.Say(say, args...)})
}

// short is a column that names a thing: a line of at most so many letters.
func (r *reader) short(column string, most int) string {
	s := r.text(column)
	if n := len([]rune(s)); n > most {
		r.slip(column, "this has %d letters: %d at most", n, most)
		return ""
	}
	return s
}

// figure is a number of a column in the column's own unit; not ok where it says nothing or cannot be read.
func (r *reader) figure(column string) (float64, bool) {
	cell := r.text(column)
	if cell == "" {
		return 0, false
	}
	if r.thousands[column] {
		cell = strings.ReplaceAll(cell, map[bool]string{true: ".", false: ","}[r.DecimalComma], "")
	}
	c := columnOf(column)
	if c.Unit == "" {
		v, err := strconv.ParseFloat(strings.Replace(cell, ",", ".", 1), 64)
		if err != nil || v != v || v > 1e12 || v < -1e12 {
			r.slip(column, "%q is not a number", cell)
			return 0, false
		}
		return v, true
	}
	in := unitIn(r.heading(column), c, r.System)
	m, err := units.Read(cell, in, r.System)
	if err != nil {
		r.slip(column, "%s", err)
		return 0, false
	}
	v, err := units.Convert(m.Value, in, units.Must(c.Unit))
	if err != nil {
		r.slip(column, "%s", err)
		return 0, false
	}
	return v, true
}

// columnOf is a column by its id: an id means the same in every kind of list.
func columnOf(id string) Column {
	for _, k := range kinds {
		if at := slices.IndexFunc(k.columns, func(c Column) bool { return c.ID == id }); at >= 0 {
			return k.columns[at]
		}
	}
	return Column{ID: id}
}

func (r *reader) heading(column string) string {
	if i, ok := r.at[column]; ok && i < len(r.Headings) {
		return r.Headings[i]
	}
	return ""
}

// Spreadsheets count days from the end of 1899; a number of five digits in a column of dates is such a count
// (ECMA-376, the 1900 date system).
var dayZero = time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC)

const leastDays, mostDays = 18_264, 73_050 // 1950 to 2099

// day is a date as 2026-05-04; empty where nothing is said or it cannot be read.
func (r *reader) day(column string) (iso string, at time.Time) {
	cell := r.text(column)
	if cell == "" {
		return "", time.Time{}
	}
	t, ok := readDay(cell, r.monthFirst[column])
	if !ok {
		r.slip(column, "%q is not a date: write it as 2026-05-04", cell)
		return "", time.Time{}
	}
	return t.Format(time.DateOnly), t
}

var worded = []string{"2 January 2006", "2 Jan 2006", "January 2, 2006", "Jan 2, 2006", "2-Jan-2006", "2-Jan-06",
	"January 2006", "Jan 2006", "2006-01", "2006-1-2", "2006/01/02", "2006/1/2", "2006.01.02", "20060102"}

func readDay(cell string, monthFirst bool) (time.Time, bool) {
	if n, err := strconv.ParseFloat(cell, 64); err == nil && n >= leastDays && n < mostDays {
		return dayZero.AddDate(0, 0, int(n)), true
	}
	if m := slashed.FindStringSubmatch(cell); m != nil {
		day, month := m[1], m[2]
		if monthFirst {
			day, month = month, day
		}
		layout := "2/1/2006"
		if len(m[3]) == 2 {
			layout = "2/1/06"
		}
		t, err := time.Parse(layout, strings.TrimLeft(day, "0")+"/"+strings.TrimLeft(month, "0")+"/"+m[3])
		return t, err == nil && inSight(t)
	}
	if date, _, found := strings.Cut(cell, "T"); found && len(date) == len(time.DateOnly) {
		cell = date
	}
	if date, _, found := strings.Cut(cell, " "); found && len(date) == len(time.DateOnly) {
		cell = date
	}
	for _, layout := range worded {
		if t, err := time.Parse(layout, cell); err == nil && inSight(t) {
			return t, true
		}
	}
	return time.Time{}, false
}

func inSight(t time.Time) bool { return t.Year() >= 1950 && t.Year() < 2100 }
