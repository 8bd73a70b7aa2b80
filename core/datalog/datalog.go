// Package datalog reads the tables that data loggers write: any order of columns, units in the headings, comma,
// semicolon, tab or bar between, point or comma for decimals, time as a clock or as seconds. What it cannot use it
// counts and names.
package datalog

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"hevrin/core/delimited"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Limits of a file.
const (
	MostBytes   = 24 << 20
	MostRows    = 300_000
	MostColumns = 64
	leastRows   = 2
	mostCell    = 200
	looksAt     = 200 // rows from which the form of a file is told
)

// delimiters in the order in which they are preferred where two fit alike.
var delimiters = []struct {
	mark rune
	name string
}{{'\t', "tab"}, {';', "semicolon"}, {',', "comma"}, {'|', "bar"}}

// File is a table as it was read: its headings, and the rows that have as many cells.
type File struct {
	Delimiter string
	Headings  []string
	Units     []string // as written in the headings, or in a row of units below
	rows      [][]string
	lines     []int // of each row in the file, from 1
	dropped   dropped
}

// Dropped is what was left out of a file, and why.
type Dropped struct {
	Why   string
	Count int
	Line  int // of the first, from 1
}

type dropped []Dropped

func (d *dropped) add(line int, why string) {
	for i := range *d {
		if (*d)[i].Why == why {
			(*d)[i].Count++
			return
		}
	}
	*d = append(*d, Dropped{why, 1, line})
}

func refuse(given string, allowed units.Sentence, say string, args ...any) error {
	var wrong validation.Errors
	wrong.Add("file", given, allowed, say, args...)
	return wrong
}

// Read reads a table. The answer holds copies: raw may be used again.
func Read(raw []byte) (*File, error) {
	if len(raw) > MostBytes {
		return nil, refuse(fmt.Sprintf("%d bytes", len(raw)), units.Say("up to %d", MostBytes),
			"the file is too large: let the logger write fewer rows, or cut out the run that counts")
	}
	if n := bytes.Count(raw, []byte{'\n'}) + 1; n > MostRows+looksAt {
		return nil, refuse(fmt.Sprintf("%d lines", n), units.Say("up to %d", MostRows),
			"the file has too many lines: let the logger write fewer, or cut out the run that counts")
	}
	text, err := decoded(raw)
	if err != nil {
		return nil, err
	}
	f, err := split(text)
	if err != nil {
		return nil, err
	}
	if len(f.rows) < leastRows {
		return nil, refuse(fmt.Sprintf("%d rows", len(f.rows)), "2 rows or more",
			"there are no rows of numbers in it: is it the right file?")
	}
	return f, nil
}

// signatures of files that are no tables but look like a slip of the hand.
var signatures = []struct{ begins, say string }{
	{"PK\x03\x04", "this is a packed file or a spreadsheet: save it as CSV"},
	{"%PDF", "this is a PDF: save the table as CSV"},
	{"\x1f\x8b", "this is a packed file: unpack it first"}, {"SQLite format 3",
		"this is a database: save the table as CSV"},
}

// decoded turns what may be UTF-8, UTF-16 with a mark, or Windows' western letters into UTF-8.
func decoded(raw []byte) (string, error) {
	for _, s := range signatures {
		if bytes.HasPrefix(raw, []byte(s.begins)) {
			return "", refuse("no table", "CSV text", "%s", s.say)
		}
	}
	if bytes.HasPrefix(raw, []byte{0xFF, 0xFE}) || bytes.HasPrefix(raw, []byte{0xFE, 0xFF}) {
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(raw)
		if err != nil {
			return "", refuse("broken UTF-16", "CSV text", "the file's letters cannot be read: save it as CSV again")
		}
		raw = out
	}
	raw = bytes.TrimPrefix(raw, []byte("\xEF\xBB\xBF"))
	if bytes.IndexByte(raw, 0) >= 0 {
		return "", refuse("no text", "CSV text", "this is no text: save the table as CSV")
	}
	if !utf8.Valid(raw) {
		out, err := charmap.Windows1252.NewDecoder().Bytes(raw)
		if err != nil {
			return "", refuse("unknown letters", "CSV text", "the file's letters cannot be read: save it as UTF-8")
		}
		raw = out
	}
	return strings.ReplaceAll(strings.ReplaceAll(string(raw), "\r\n", "\n"), "\r", "\n"), nil
}

// split finds the delimiter by which the most lines have the same number of cells, more than one, and cuts by it.
func split(text string) (*File, error) {
	best, cells, fits := -1, 0, 0
	head := firstLines(text, looksAt)
	for i, d := range delimiters {
		if delimited.Check(head, byte(d.mark)) != nil {
			continue
		}
		counts := map[int]int{}
		cut(head, d.mark, func(_ int, row []string) { counts[len(row)]++ })
		for n, lines := range counts {
			if n > 1 && n <= MostColumns && (lines > fits || lines == fits && best == i && n > cells) {
				best, cells, fits = i, n, lines
			}
		}
	}
	if best < 0 {
		return nil, refuse("one column", "2 to 64 columns", "no columns are seen: put a comma, semicolon or tab between them")
	}
	if err := delimited.Check(text, byte(delimiters[best].mark)); err != nil {
		return nil, refuse("a longer row", "a table", "%s", err)
	}
	f := &File{Delimiter: delimiters[best].name}
	over := false
	cut(text, delimiters[best].mark, func(line int, row []string) { over = over || !f.take(line, row, cells) })
	if over {
		return nil, refuse("more rows", units.Say("up to %d", MostRows),
			"the file has too many rows: let the logger write fewer, or cut out the run that counts")
	}
	return f, nil
}

// take puts one row where it belongs; not ok when there are too many.
func (f *File) take(line int, row []string, cells int) bool {
	switch {
	case len(row) == 1 && row[0] == "":
	case len(row) != cells && f.Headings == nil:
		f.dropped.add(line, "before the headings")
	case len(row) != cells:
		f.dropped.add(line, "not as many columns as the rest")
	case f.Headings == nil && numbersIn(row) == 0:
		f.Headings, f.Units = make([]string, cells), make([]string, cells)
		for i, cell := range row {
			f.Headings[i], f.Units[i] = unitOf(cell)
		}
	case len(f.rows) == 0 && f.Headings != nil && isUnits(row):
		for i, cell := range row {
			if cell != "" {
				f.Units[i] = strings.Trim(cell, "()[] ")
			}
		}
	default:
		if f.Headings == nil { // a table without headings
			f.Headings, f.Units = make([]string, cells), make([]string, cells)
		}
		if len(f.rows) >= MostRows {
			return false
		}
		f.rows, f.lines = append(f.rows, row), append(f.lines, line)
	}
	return true
}

func firstLines(text string, n int) string {
	at := 0
	for range n {
		next := strings.IndexByte(text[at:], '\n')
		if next < 0 {
			return text
		}
		at += next + 1
	}
	return text[:at]
}

// cut gives every row, cells trimmed, with its line; rows that quotes break are passed over.
func cut(text string, delimiter rune, each func(line int, row []string)) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord = delimiter, true, -1
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return
		}
		if err != nil {
			continue
		}
		line, _ := r.FieldPos(0)
		for i, cell := range row {
			cell = strings.TrimSpace(cell)
			if len(cell) > mostCell {
				cell = ""
			}
			row[i] = cell
		}
		each(line, row)
	}
}

func numbersIn(row []string) int {
	n := 0
	for _, cell := range row {
		if _, ok := number(cell); ok {
			n++
		} else if _, ok := moment(cell, false); ok {
			n++
		}
	}
	return n
}

// isUnits says whether a row holds nothing but units, two at least.
func isUnits(row []string) bool {
	n := 0
	for _, cell := range row {
		if cell == "" {
			continue
		}
		if _, ok := meant(strings.Trim(cell, "()[] ")); !ok {
			return false
		}
		n++
	}
	return n >= 2
}
