// Package yardlist reads the lists that a yard kept before: craft with their engines, parts, past jobs. It recognises
// what the columns are, says row by row what would go on record, and what is wrong with a row. It reads no file and
// writes nothing: a list comes as a [Table], and leaves as a [Plan] of entries.
package yardlist

import (
	"regexp"
	"slices"
	"strings"

	"hevrin/core/units"
)

// Kind is what a list holds, a row of it each.
type Kind string

// The kinds of list.
const (
	Fleet Kind = "craft" // a craft, and an engine of it where the row tells one
	Parts Kind = "parts"
	Work  Kind = "work" // a past job, or maintenance that was done
)

// Column is what a column of a list can hold. Words are other names that headings use for it, in small letters; Unit is
// what a figure without one is in; empty: no figure.
type Column struct {
	ID, Label string
	Must      bool
	Words     []string
	Unit      string
	// Usual: what holds for every row that says nothing can be given once for the whole list.
	Usual bool
	Day   bool // holds a date
}

// listed is what a kind of list is called, and its columns.
type listed struct {
	kind    Kind
	label   string
	columns []Column
}

var kinds = []listed{
	{Fleet, "Craft and engines", []Column{
		{ID: "craft", Label: "Craft", Must: true, Words: []string{"boat", "vessel", "yacht", "ship", "name", "boat name",
			"craft name"}},
		{ID: "owner", Label: "Owner", Words: []string{"customer", "client", "owned by"}},
		{ID: "berth", Label: "Berth", Words: []string{"mooring", "lies", "place", "location", "pontoon", "marina"}},
		{ID: "note", Label: "Note", Words: []string{"notes", "remark", "remarks", "comment", "comments"}},
		{ID: "engine", Label: "Engine", Words: []string{"engine name", "position", "side", "motor"}},
		{ID: "cooling", Label: "Cooling", Usual: true, Words: []string{"cooled", "cooling system", "family", "circuit"}},
		{ID: "fuel", Label: "Fuel", Usual: true, Words: []string{"burns", "fuel type"}},
		{ID: "power", Label: "Rated power", Unit: "kW", Words: []string{"power", "kw", "hp", "bhp", "ps"}},
		{ID: "speed", Label: "Rated speed", Unit: "rpm", Words: []string{"rpm", "rated rpm", "max rpm", "revs", "rev/min"}},
		{ID: "thermostat", Label: "Thermostat", Unit: "degC", Words: []string{"thermostat rating", "stat"}},
		{ID: "pump", Label: "Raw-water pump", Words: []string{"raw pump", "pump", "pump type", "sea water pump",
			"seawater pump"}},
		{ID: "hours", Label: "Hours", Unit: "h", Words: []string{"engine hours", "meter", "hour meter", "hours run", "hrs"}},
		{ID: "read", Label: "Meter read on", Day: true, Words: []string{"date", "hours on", "as of", "read on"}},
		{ID: "impeller_fitted", Label: "Impeller fitted", Day: true, Words: []string{"impeller", "last impeller"}},
		{ID: "descaled", Label: "Descaled", Day: true, Words: []string{"last descaled", "exchanger descaled"}},
		{ID: "elbow_fitted", Label: "Exhaust elbow fitted", Day: true, Words: []string{"elbow", "elbow fitted", "riser"}},
		{ID: "coolant_changed", Label: "Coolant changed", Day: true, Words: []string{"coolant", "antifreeze",
			"last coolant"}},
		{ID: "seacock_worked", Label: "Seacock worked", Day: true, Words: []string{"seacock", "last seacock"}},
	}},
	{Parts, "Parts", []Column{
		{ID: "label", Label: "Part", Must: true, Words: []string{"description", "item", "name", "article", "what"}},
		{ID: "number", Label: "Number", Words: []string{"part number", "part no", "no", "code", "sku", "order number",
			"ref"}},
		{ID: "where", Label: "Where", Words: []string{"bin", "location", "drawer", "place", "shelf"}},
		{ID: "count", Label: "In stock", Words: []string{"count", "quantity", "qty", "stock", "on hand", "pieces"}},
		{ID: "unit", Label: "Unit", Words: []string{"each", "uom"}},
		{ID: "minimum", Label: "Minimum", Words: []string{"min", "reorder at", "least", "reorder level"}},
		{ID: "price", Label: "Price", Words: []string{"cost", "price each", "unit price"}},
		{ID: "pump", Label: "Fits raw-water pump", Words: []string{"pump", "fits pump", "pump type", "fits"}},
		{ID: "maintenance", Label: "Maintenance that uses it", Words: []string{"maintenance", "used for", "service item"}},
	}},
	{Work, "Past jobs", []Column{
		{ID: "craft", Label: "Craft", Must: true, Words: []string{"boat", "vessel", "yacht", "ship", "name", "boat name"}},
		{ID: "engine", Label: "Engine", Words: []string{"engine name", "position", "side", "motor"}},
		{ID: "day", Label: "Date", Must: true, Day: true, Words: []string{"day", "when", "done on", "job date"}},
		{ID: "complaint", Label: "Complaint", Words: []string{"problem", "symptom", "reported", "fault reported"}},
		{ID: "found", Label: "Found", Words: []string{"cause", "fault", "diagnosis", "fault found"}},
		{ID: "done", Label: "Work done", Words: []string{"work", "done", "repair", "job", "description", "what"}},
		{ID: "hours", Label: "Hours", Unit: "h", Words: []string{"engine hours", "meter", "hour meter", "hrs"}},
		{ID: "by", Label: "By", Words: []string{"technician", "mechanic", "who", "initials"}},
	}},
}

// Listing is a kind of list as it is offered: its name, and the columns that it can have.
type Listing struct {
	Kind    Kind
	Label   string
	Columns []Column
}

// Kinds lists the kinds of list with their columns, the one that is brought in first before the others.
func Kinds() []Listing {
	var out []Listing
	for _, k := range kinds {
		out = append(out, Listing{k.kind, k.label, slices.Clone(k.columns)})
	}
	return out
}

// ColumnsOf lists the columns of a kind; none of one that there is not.
func ColumnsOf(k Kind) []Column {
	for _, x := range kinds {
		if x.kind == k {
			return x.columns
		}
	}
	return nil
}

// headings of a list lie within its first so many rows: above them stand a title, a date, an address.
const headingsWithin = 10

// Guess says which kind of list a sheet is, in which row its headings stand, counted from 0, and what each column
// holds: the id of a column of that kind, or nothing. A sheet none of whose headings is known is taken for the first
// kind, with its headings in the first row that is not empty.
func Guess(cells [][]string) (k Kind, head int, columns []string) {
	best := -1
	for _, l := range kinds {
		for i, row := range cells[:min(len(cells), headingsWithin)] {
			held, score := match(row, l.columns)
			if score > best && slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" }) {
				best, k, head, columns = score, l.kind, i, held
			}
		}
	}
	return k, head, columns
}

// GuessFor is Guess where the kind is known.
func GuessFor(k Kind, cells [][]string) (head int, columns []string) {
	best := -1
	for i, row := range cells[:min(len(cells), headingsWithin)] {
		held, score := match(row, ColumnsOf(k))
		if score > best && slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" }) {
			best, head, columns = score, i, held
		}
	}
	return head, columns
}

// How well a heading names a column.
const (
	holdsWord = 1 // among other words
	otherName = 4
	ownName   = 5
)

// match gives each heading of a row the column that it names best, each column once, and how well they fit in all.
func match(row []string, columns []Column) (held []string, score int) {
	held = make([]string, len(row))
	taken := map[string]bool{}
	for _, well := range []int{ownName, otherName, holdsWord} { // the surest names are given away first
		for i, cell := range row {
			if held[i] != "" {
				continue
			}
			for _, c := range columns {
				if !taken[c.ID] && fit(cell, c) == well {
					held[i], taken[c.ID] = c.ID, true
					score += well
					if c.Must {
						score += well
					}
					break
				}
			}
		}
	}
	return held, score
}

// bracketed is a unit or an explanation in brackets at the end of a heading.
var bracketed = regexp.MustCompile(`^(.*?)\s*[(\[]\s*([^()\[\]]*)\s*[)\]]\s*$`)

// plain is a heading in small letters without its brackets and strokes; written is what stands in its brackets.
func plain(heading string) (words, written string) {
	heading = strings.ToLower(strings.TrimSpace(heading))
	if m := bracketed.FindStringSubmatch(heading); m != nil {
		heading, written = m[1], m[2]
	}
	words = strings.Join(strings.FieldsFunc(heading, func(r rune) bool {
		return strings.ContainsRune(" _-.:\t\n\r'’",
			r)
	}), " ")
	return words, written
}

func fit(heading string, c Column) int {
	words, _ := plain(heading)
	own, _ := plain(c.Label)
	switch {
	case words == "":
		return 0
	case words == own || words == c.ID:
		return ownName
	case slices.Contains(c.Words, words):
		return otherName
	}
	for _, w := range append([]string{own}, c.Words...) {
		if len(w) > 2 && strings.Contains(" "+words+" ", " "+w+" ") {
			return holdsWord
		}
	}
	return 0
}

// unitIn is the unit that a heading gives its column's figures, as in "Power (hp)" or "hp"; the column's own where it
// names none.
func unitIn(heading string, c Column, s units.System) units.Unit {
	own := units.Must(c.Unit)
	words, written := plain(heading)
	for _, w := range []string{written, words} {
		if w == "" {
			continue
		}
		if u, err := units.Meant(w, own, s); err == nil {
			return u
		}
	}
	return own
}
