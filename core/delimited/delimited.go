// Package delimited bounds tables of text before they are taken apart: encoding/csv holds a whole row in memory, many
// times over what it is written with, and a row may be the whole of a file.
package delimited

import "fmt"

// Limits of one row: no list and no logger comes near them.
const (
	MostCells = 2000
	MostBytes = 64 << 10
)

// TooLarge says at which row's first line a table goes beyond the limits, and how.
type TooLarge struct {
	Line int
	What string // as in "2000 columns"
}

// Error says it in words.
func (e *TooLarge) Error() string {
	return fmt.Sprintf("the row at line %d is longer than any table's (%s): look whether a quote is not closed", e.Line,
		e.What)
}

// Check looks through a table with one byte between its cells, rows and quotes as RFC 4180 has them and encoding/csv
// reads them with LazyQuotes: a quote counts at a cell's begin, and ends it where a delimiter or a line's end follows.
// It takes no memory and one pass. The error is a *TooLarge.
func Check(text string, delimiter byte) error {
	line, first, begin, cells := 1, 1, 0, 1
	quoted, opens := false, true // within a quoted cell; at the begin of a cell
	for i := 0; i < len(text); i++ {
		b := text[i]
		switch {
		case b == '\n' && !quoted:
			begin, cells, opens = i+1, 1, true
			line++
			first = line
			continue
		case b == '\n':
			line++
		case quoted && b == '"':
			next := byte('\n')
			if i+1 < len(text) {
				next = text[i+1]
			}
			switch next {
			case '"':
				i++
			case delimiter, '\n', '\r':
				quoted = false
			}
		case quoted:
		case b == '"' && opens:
			quoted = true
		case b == delimiter:
			cells++
		}
		opens = b == delimiter && !quoted
		if cells > MostCells {
			return &TooLarge{first, fmt.Sprintf("over %d columns", MostCells)}
		}
		if i-begin > MostBytes {
			return &TooLarge{first, fmt.Sprintf("over %d kB", MostBytes>>10)}
		}
	}
	return nil
}
