// Package reference reads the tables of outside reference libraries that the core is checked against. They are made by
// make.py and committed; see there for the libraries.
package reference

import (
	"embed"
	"encoding/csv"
	"fmt"
	"io/fs"
	"strconv"
)

//go:embed tables
var tables embed.FS

// Tables are the committed tables.
func Tables() fs.FS {
	sub, err := fs.Sub(tables, "tables")
	if err != nil {
		panic(err)
	}
	return sub
}

// Row is one row of a table by heading.
type Row map[string]string

// Number is a cell as a number; it panics on what is none, for the tables are made by a program.
func (r Row) Number(name string) float64 {
	v, err := strconv.ParseFloat(r[name], 64)
	if err != nil {
		panic(fmt.Sprintf("%s: %q is not a number", name, r[name]))
	}
	return v
}

// Rows reads a table by name, without its heading.
func Rows(name string) []Row {
	f, err := Tables().Open(name + ".csv")
	if err != nil {
		panic(err)
	}
	defer func() { _ = f.Close() }()
	records, err := csv.NewReader(f).ReadAll()
	if err != nil {
		panic(err)
	}
	list := make([]Row, len(records)-1)
	for i, record := range records[1:] {
		list[i] = Row{}
		for k, head := range records[0] {
			list[i][head] = record[k]
		}
	}
	return list
}
