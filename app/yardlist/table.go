package yardlist

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"

	"hevrin/core/delimited"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/yardlist"
)

// Limits of a file. Most of a yard's lists are far below them.
const (
	MostBytes   = 6 << 20
	mostColumns = 100
	mostRows    = yardlist.MostRows + 20 // with what stands above the headings
	mostUnzip   = 64 << 20
)

// File is a list as it came: a table with commas, semicolons or tabs between its columns, or a spreadsheet (.xlsx).
// Sheet is the one that is meant; empty: the first that holds anything.
type File struct {
	Name  string
	Data  []byte
	Sheet string
}

// refused says what is wrong with the file as a whole.
func refused(given any, allowed units.Sentence, say string, args ...any) error {
	var wrong validation.Errors
	wrong.Add("data", given, allowed, say, args...)
	return wrong
}

// How the files of spreadsheets begin.
var (
	zipped  = []byte("PK\x03\x04")
	olderXL = []byte("\xd0\xcf\x11\xe0")
)

// read is a file that was taken apart. A table has no sheets; a comma parts decimals where semicolons part columns.
type read struct {
	rows         [][]string
	sheets       []string
	sheet        string
	decimalComma bool
}

// cells takes a file apart into its rows.
func (f File) cells() (r read, err error) {
	switch {
	case len(f.Data) == 0:
		return r, refused("nothing", "a file with a list in it", "the file is empty: choose another")
	case len(f.Data) > MostBytes:
		return r, refused(fmt.Sprintf("%d kB", len(f.Data)>>10), units.Say("%d kB at most", MostBytes>>10),
			"save the list alone, without pictures")
	case bytes.HasPrefix(f.Data, olderXL):
		return r, refused("an older kind of spreadsheet", ".xlsx, .csv", "save it as .xlsx or .csv and choose that")
	case bytes.HasPrefix(f.Data, zipped):
		err = f.spreadsheet(&r)
		return r, err
	}
	r.rows, r.decimalComma, err = f.table()
	return r, err
}

// spreadsheet reads one sheet of an Office Open XML workbook; dates come as the number of their day.
func (f File) spreadsheet(r *read) (err error) {
	book, err := excelize.OpenReader(bytes.NewReader(f.Data), excelize.Options{RawCellValue: true,
		UnzipSizeLimit: mostUnzip, UnzipXMLSizeLimit: mostUnzip})
	if err != nil {
		return refused(f.Name, ".xlsx, .csv", "this is no spreadsheet that can be read: save it as .xlsx or .csv")
	}
	defer func() { err = errors.Join(err, book.Close()) }()
	r.sheets = book.GetSheetList()
	if f.Sheet != "" && !slices.Contains(r.sheets, f.Sheet) {
		return refused(f.Sheet, units.Sentence(strings.Join(r.sheets, ", ")), "there is no such sheet in it")
	}
	for _, r.sheet = range r.sheets {
		if f.Sheet != "" && r.sheet != f.Sheet {
			continue
		}
		if r.rows, err = sheetRows(book, r.sheet); err != nil || len(r.rows) > 0 {
			return err
		}
	}
	return refused("no row", "a list", "there is nothing on it: choose another sheet, or another file")
}

func sheetRows(book *excelize.File, sheet string) ([][]string, error) {
	broken := func(err error) error {
		return refused(sheet, ".xlsx, .csv", "the sheet cannot be read (%s): save the list as .csv and choose that", err)
	}
	it, err := book.Rows(sheet)
	if err != nil {
		return nil, broken(err)
	}
	var rows [][]string
	for it.Next() {
		row, err := it.Columns()
		if err != nil {
			return nil, broken(err)
		}
		if rows, err = withRow(rows, row); err != nil {
			return nil, err
		}
	}
	if err := errors.Join(it.Error(), it.Close()); err != nil {
		return nil, broken(err)
	}
	return trimmed(rows), nil
}

func withRow(rows [][]string, row []string) ([][]string, error) {
	if len(rows) >= mostRows {
		return nil, refused("more rows", units.Say("%d at most", yardlist.MostRows), "bring it in in pieces")
	}
	if len(row) > mostColumns {
		row = row[:mostColumns]
	}
	return append(rows, row), nil
}

// trimmed drops the empty rows at the end.
func trimmed(rows [][]string) [][]string {
	for len(rows) > 0 && strings.TrimSpace(strings.Join(rows[len(rows)-1], "")) == "" {
		rows = rows[:len(rows)-1]
	}
	return rows
}

// table reads rows of text. What parts the columns is what parts most rows alike.
func (f File) table() (best [][]string, decimalComma bool, err error) {
	text, err := decoded(f.Data)
	if err != nil {
		return nil, false, err
	}
	most := -1
	var large error
	for _, comma := range []rune{',', ';', '\t', '|'} {
		if err := delimited.Check(text, byte(comma)); err != nil {
			large = refused("a longer row", "a table", "%s", err)
			continue // it may be parted by another
		}
		rows, err := parted(text, comma)
		if err != nil {
			return nil, false, err
		}
		if n := alike(rows); n > most {
			best, most, decimalComma = rows, n, comma == ';'
		}
	}
	if most < 0 {
		return nil, false, large
	}
	if best = trimmed(best); len(best) == 0 {
		return nil, false, refused("no row", "a list", "there is nothing in it")
	}
	return best, decimalComma, nil
}

// decoded is the text of a file: by its mark where it has one, else UTF-8, else Windows-1252, which is what is left of
// western spreadsheets.
func decoded(raw []byte) (string, error) {
	var by transform.Transformer = charmap.Windows1252.NewDecoder()
	if utf8.Valid(raw) || bytes.HasPrefix(raw, []byte("\xff\xfe")) || bytes.HasPrefix(raw, []byte("\xfe\xff")) {
		by = unicode.BOMOverride(unicode.UTF8.NewDecoder())
	}
	text, _, err := transform.Bytes(by, raw)
	if err != nil || bytes.IndexByte(text, 0) >= 0 {
		return "", refused("not text", ".xlsx, .csv", "this is neither a spreadsheet nor a table of text")
	}
	return string(text), nil
}

func parted(text string, comma rune) ([][]string, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = comma, -1, true
	var rows [][]string
	for line := 0; ; {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, refused("a table", "a table", "line %d cannot be read: %s", len(rows)+1, err)
		}
		for at, _ := r.FieldPos(0); line+1 < at && len(rows) < mostRows; line++ { // the reader leaves empty lines out
			rows = append(rows, nil)
		}
		line, _ = r.FieldPos(len(row) - 1)
		if rows, err = withRow(rows, row); err != nil {
			return nil, err
		}
	}
}

// alike counts the cells of the rows that have as many columns as most have; a table of one column counts less than any
// other.
func alike(rows [][]string) int {
	counts := map[int]int{}
	for _, row := range rows {
		counts[len(row)]++
	}
	best := 0
	for columns, n := range counts {
		if columns > 1 {
			best = max(best, columns*n)
		}
	}
	return best
}
