package calculator

import (
	"encoding/csv"
	"errors"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"hevrin/core/delimited"
	"hevrin/core/units"
)

// putRows reads a list of objects, an object of columns, or CSV text.
func (r *reader) putRows(f Field, v any, path string, place reflect.Value) {
	var list []map[string]any
	switch v := v.(type) {
	case []any:
		list = make([]map[string]any, 0, len(v))
		for i, x := range v {
			row, ok := x.(map[string]any)
			if !ok {
				r.add(fmt.Sprintf("%s[%d]", path, i), x, f, "row %d of %s must be an object with %s", i+1, f.Label, names(f.Fields))
				return
			}
			list = append(list, row)
		}
	case map[string]any:
		r.unknown(f.Fields, v, path+".")
		var ok bool
		if list, ok = r.columns(f, v, path); !ok {
			return
		}
	case string:
		var ok bool
		if list, ok = r.csvRows(f, v, path); !ok {
			return
		}
	default:
		r.add(path, v, f, "%s is a list: give its rows, its columns, or CSV text with a heading", sentence(f.Label))
		return
	}
	if !r.counted(f, len(list), path) {
		return
	}
	out := reflect.MakeSlice(place.Type(), len(list), len(list))
	r.inRows++
	defer func() { r.inRows-- }()
	for i, row := range list {
		if r.plainRow(f.Fields, row, out.Index(i)) {
			continue
		}
		at := path + "[" + strconv.Itoa(i) + "]."
		r.unknown(f.Fields, row, at)
		r.fill(f.Fields, row, at, out.Index(i))
		if len(r.wrong) >= mostNoted {
			break
		}
	}
	place.Set(out)
}

// plainRow takes a row that holds nothing but plain numbers that fit, which is what a logger writes by the thousand.
func (r *reader) plainRow(fields []Field, row map[string]any, target reflect.Value) bool {
	taken := 0
	for _, f := range fields {
		v, ok := row[f.Name]
		if !ok && f.Optional {
			continue
		}
		number, isNumber := v.(float64)
		if !isNumber || !f.take(number, r.member(target, f.Name)) {
			return false
		}
		taken++
	}
	return taken == len(row)
}

func (r *reader) counted(f Field, n int, path string) bool {
	switch {
	case n == 0 && f.MinRows > 0:
		r.add(path, nothing, f, "%s is still missing", sentence(f.Label))
	case n < f.MinRows:
		r.add(path, fmt.Sprintf("%d rows", n), f, "%s needs at least %d rows, and there are %d", sentence(f.Label),
			f.MinRows, n)
	case n > f.MaxRows:
		r.add(path, fmt.Sprintf("%d rows", n), f, "%s takes at most %d rows, and there are %d: thin it out",
			sentence(f.Label), f.MaxRows, n)
	default:
		return true
	}
	return false
}

func (r *reader) putNumbers(f Field, v any, path string, place reflect.Value) {
	var list []any
	switch v := v.(type) {
	case []any:
		list = v
	case string:
		for _, s := range splitNumbers(v) {
			list = append(list, s)
		}
	case float64:
		list = []any{v}
	default:
		r.add(path, v, f, "%s is a list of numbers", sentence(f.Label))
		return
	}
	if !r.counted(f, len(list), path) {
		return
	}
	out := reflect.MakeSlice(place.Type(), len(list), len(list))
	one := f
	one.Kind = Number
	for i, x := range list {
		r.putNumber(one, x, fmt.Sprintf("%s[%d]", path, i), out.Index(i))
	}
	place.Set(out)
}

// splitNumbers takes numbers apart at line ends, semicolons and spaces between whole numbers; at commas only where no
// semicolon stands, as in "12,5; 12,9".
func splitNumbers(text string) []string {
	between := func(c rune) bool { return c == '\n' || c == '\r' || c == ';' || c == '\t' }
	if !strings.ContainsAny(text, ";\n\t") {
		between = func(c rune) bool { return c == ',' }
		if !strings.Contains(text, ",") {
			between = func(c rune) bool { return c == ' ' }
		}
	}
	var list []string
	for _, s := range strings.FieldsFunc(strings.TrimSpace(text), between) {
		if s = strings.TrimSpace(s); s != "" {
			list = append(list, s)
		}
	}
	return list
}

func names(fields []Field) string {
	list := make([]string, len(fields))
	for i, f := range fields {
		list[i] = f.Name
	}
	return strings.Join(list, ", ")
}

// columns turns {seconds: […], coolant_c: […]} into rows; the series must be equally long.
func (r *reader) columns(f Field, v map[string]any, path string) ([]map[string]any, bool) {
	length, first := -1, ""
	columns := map[string][]any{}
	keys := make([]string, 0, len(v))
	for k := range v {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	for _, k := range keys {
		list, ok := v[k].([]any)
		if !ok {
			r.add(path+"."+k, v[k], f, "each column of %s is a list", f.Label)
			return nil, false
		}
		switch {
		case length < 0:
			length, first = len(list), k
		case len(list) != length:
			r.add(path+"."+k, fmt.Sprintf("%d values", len(list)), Field{Kind: Text, Label: f.Label},
				"the series are not equally long: %s has %d values and %s has %d", first, length, k, len(list))
			return nil, false
		}
		columns[k] = list
	}
	list := make([]map[string]any, max(length, 0))
	for i := range list {
		list[i] = map[string]any{}
		for k, c := range columns {
			list[i][k] = c[i]
		}
	}
	return list, true
}

// heading is a column's name with a unit behind it in brackets or after a comma or slash.
var heading = regexp.MustCompile(`^\s*(.*?)\s*(?:[\[(]\s*(.*?)\s*[\])]|[,/]\s*(\S+))?\s*$`)

// csvRows reads CSV text (RFC 4180; comma, semicolon or tab) with a heading, columns in any order, units in the
// headings. Columns that nobody asks for are left out.
func (r *reader) csvRows(f Field, text, path string) ([]map[string]any, bool) {
	records, err := readCSV(text)
	if err != nil {
		r.add(path, "CSV text", f, "the CSV text cannot be read: %s", err)
		return nil, false
	}
	if len(records) == 0 {
		return nil, true
	}
	columns, head := r.headings(f, records[0], path)
	if !head && len(records[0]) >= requiredOf(f.Fields) && looksLikeNumbers(records[0]) {
		columns, records = inOrder(f.Fields, len(records[0])), append([][]string{nil}, records...)
		head = true
	}
	if !head {
		r.add(path, strings.Join(records[0], ","), f, "the first line of the CSV text must name the columns: %s",
			names(f.Fields))
		return nil, false
	}
	var list []map[string]any
	for i, record := range records[1:] {
		if len(record) < len(columns) && len(strings.TrimSpace(strings.Join(record, ""))) == 0 {
			continue
		}
		row := map[string]any{}
		for k, c := range columns {
			if c.name == "" || k >= len(record) || strings.TrimSpace(record[k]) == "" {
				continue
			}
			row[c.name] = c.cell(record[k])
		}
		for _, c := range columns {
			if _, ok := row[c.name]; c.name != "" && !ok && c.must {
				r.add(fmt.Sprintf("%s[%d].%s", path, i, c.name), nothing, f,
					"line %d of the CSV text has no value for %s: the series must be equally long", i+2, c.name)
				return nil, false
			}
		}
		list = append(list, row)
	}
	fromFirstTime(list)
	return list, true
}

// column is how one column of CSV text is read.
type column struct {
	name     string
	must     bool
	number   bool       // read as a number
	unit, in units.Unit // of the heading, and of the field
}

func (c column) cell(s string) any {
	s = strings.TrimSpace(s)
	if c.number {
		if v, err := strconv.ParseFloat(s, 64); err == nil && !math.IsNaN(v) && !math.IsInf(v, 0) {
			return c.in.FromBase(c.unit.ToBase(v))
		}
	}
	return s
}

func readCSV(text string) ([][]string, error) {
	text = strings.TrimPrefix(strings.TrimSpace(text), "\ufeff")
	first, _, _ := strings.Cut(text, "\n")
	reader := csv.NewReader(strings.NewReader(text))
	reader.FieldsPerRecord, reader.TrimLeadingSpace = -1, true
	for _, sep := range []rune{'\t', ';'} {
		if strings.ContainsRune(first, sep) {
			reader.Comma = sep
			break
		}
	}
	if err := delimited.Check(text, byte(reader.Comma)); err != nil {
		return nil, err
	}
	list, err := reader.ReadAll()
	var slip *csv.ParseError
	if errors.As(err, &slip) {
		return nil, fmt.Errorf("line %d: %w", slip.Line, slip.Err)
	}
	return list, err
}

// synonyms are other headings that loggers write, by field.
var synonyms = map[string][]string{
	"seconds":       {"time", "t", "elapsed", "timestamp", "s", "sec"},
	"coolant_c":     {"coolant", "temperature", "temp", "coolant temperature", "engine temperature", "water temperature"},
	"rpm":           {"speed", "engine speed", "revs", "rev/min"},
	"temperature_c": {"temperature", "temp", "water"},
	"lift_mm":       {"lift", "opening"},
	"rising":        {"direction", "heating"},
}

func (r *reader) headings(f Field, head []string, path string) ([]column, bool) {
	columns := make([]column, len(head))
	found := 0
	for i, h := range head {
		m := heading.FindStringSubmatch(h)
		name, unit := strings.ToLower(m[1]), m[2]+m[3]
		for _, x := range f.Fields {
			if whole := strings.ToLower(strings.TrimSpace(h)); whole == x.Name || name == x.Name ||
				name == strings.ToLower(x.Label) || slices.Contains(synonyms[x.Name], name) {
				columns[i] = columnFor(x)
				found++
				if whole != x.Name && x.Kind == Number {
					var err error
					if columns[i].unit, err = units.Meant(unit, columns[i].in, r.system); err != nil {
						r.add(path, h, f, "the heading %q: %s", h, err)
					}
				}
				break
			}
		}
	}
	for _, x := range f.Fields {
		if !x.Optional && x.Default == nil && !slices.ContainsFunc(columns, func(c column) bool { return c.name == x.Name }) {
			return nil, false
		}
	}
	return columns, found > 0
}

func requiredOf(fields []Field) (n int) {
	for _, f := range fields {
		if !f.Optional && f.Default == nil {
			n++
		}
	}
	return n
}

func looksLikeNumbers(record []string) bool {
	for _, s := range record[:min(len(record), 2)] {
		if _, err := units.Read(s, units.Must("s"), units.Metric); err != nil {
			return false
		}
	}
	return true
}

func inOrder(fields []Field, n int) []column {
	columns := make([]column, min(n, len(fields)))
	for i := range columns {
		columns[i] = columnFor(fields[i])
	}
	return columns
}

func columnFor(f Field) column {
	c := column{name: f.Name, must: !f.Optional && f.Default == nil, number: f.Kind == Number}
	if c.number {
		c.in = units.Must(f.Unit)
		c.unit = c.in
	}
	return c
}

// moments are the ways in which loggers write a moment.
var moments = []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02T15:04:05", "2006/01/02 15:04:05",
	"02.01.2006 15:04:05"}

// fromFirstTime turns moments in a column of seconds into seconds from the first of them; what is no moment is left for
// the number's own reading.
func fromFirstTime(list []map[string]any) {
	var first time.Time
	for i, row := range list {
		s, _ := row["seconds"].(string)
		at, ok := moment(s)
		if !ok {
			return
		}
		if i == 0 {
			first = at
		}
		row["seconds"] = at.Sub(first).Seconds()
	}
}

func moment(s string) (time.Time, bool) {
	for _, layout := range moments {
		if t, err := time.Parse(layout, s); err == nil {
			return t, true
		}
	}
	return time.Time{}, false
}
