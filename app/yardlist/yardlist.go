// Package yardlist brings a yard's own lists in: craft with their engines, parts, past jobs, out of a table or a
// spreadsheet. A list is looked at first; it is taken in whole or not at all, and taken back as one.
package yardlist

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/yardlist"
)

// Lists are the use cases of bringing lists in. They may be used from many goroutines.
type Lists struct{ *record.Log }

// New keeps nothing itself.
func New(l *record.Log) *Lists { return &Lists{l} }

// Chosen is how a list is to be read. What is left empty is guessed.
type Chosen struct {
	Kind    yardlist.Kind
	Columns []string          // what each holds, by the id of a column of the kind; empty: left out
	Usual   map[string]string // what holds for rows that say nothing, by column
	System  units.System
}

// Look is a list as it was read, and what bringing it in would come to.
type Look struct {
	Sheets   []string // of a spreadsheet
	Sheet    string
	Chosen   Chosen // as it was read, guesses included
	Headings []string
	Samples  [][]string // the first cells of each column
	*yardlist.Plan
	// Refused says why the list as a whole cannot be read so, as where no column holds what must be told.
	Refused validation.Errors
}

// shown is how many cells of a column are shown.
const shown = 3

// Look says what bringing a list in would come to; it writes nothing.
func (a *Lists) Look(ctx context.Context, f File, c Chosen) (*Look, error) {
	return a.look(a.Store.Read(ctx), f, c, uuid.Nil)
}

func (a *Lists) look(r record.Reader, f File, c Chosen, list uuid.UUID) (*Look, error) {
	from, err := f.cells()
	if err != nil {
		return nil, err
	}
	cells := from.rows
	table := yardlist.Table{Usual: c.Usual, System: c.System, DecimalComma: from.decimalComma}
	head, columns := 0, []string(nil)
	if c.Kind == "" {
		c.Kind, head, columns = yardlist.Guess(cells)
	} else {
		head, columns = yardlist.GuessFor(c.Kind, cells)
	}
	if c.Columns == nil {
		c.Columns = columns
	}
	table.Columns, table.Headings, table.Rows, table.First = c.Columns, cells[head], cells[head+1:], head+2
	look := &Look{Sheets: from.sheets, Sheet: from.sheet, Chosen: c, Headings: table.Headings, Samples: samples(table)}
	held, err := a.held(r)
	if err != nil {
		return nil, err
	}
	look.Plan, err = yardlist.Make(a.Catalogue, c.Kind, table, held, a.Now(), func(key string) string {
		return uuid.NewSHA1(list, []byte(key)).String()
	})
	if wrong, ok := err.(validation.Errors); ok { //nolint:errorlint // the core gives it bare
		look.Refused, look.Plan = wrong, &yardlist.Plan{Kind: c.Kind}
		err = nil
	}
	return look, err
}

func samples(t yardlist.Table) [][]string {
	out := make([][]string, len(t.Headings))
	for _, row := range t.Rows {
		for i := range out {
			if i < len(row) && strings.TrimSpace(row[i]) != "" && len(out[i]) < shown {
				out[i] = append(out[i], row[i])
			}
		}
	}
	return out
}

// held is what is on record of what a list can speak of.
func (a *Lists) held(r record.Reader) (yardlist.Held, error) {
	held := yardlist.Held{LogOf: func(engine string) ([]eventlog.Entry, error) {
		return r.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: engine})
	}}
	craft, err := r.AllCraft()
	if err != nil {
		return held, err
	}
	for _, c := range craft {
		held.Craft = append(held.Craft, yardlist.HeldCraft{ID: c.ID, Name: c.Name})
	}
	engines, err := r.Engines()
	if err != nil {
		return held, err
	}
	ids := make([]string, len(engines))
	for i, e := range engines {
		ids[i] = e.ID
		held.Engines = append(held.Engines, yardlist.HeldEngine{ID: e.ID, Facts: record.FactsOf(e)})
	}
	jobs, err := r.Jobs(ids...)
	if err != nil {
		return held, err
	}
	for _, j := range jobs {
		held.Jobs = append(held.Jobs, yardlist.HeldJob{Engine: j.EngineID, Day: j.OpenedAt.Format(time.DateOnly),
			Words: j.Words})
	}
	held.Parts, err = a.parts(r)
	return held, err
}

func (a *Lists) parts(r record.Reader) ([]yardlist.HeldPart, error) {
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.InventoryID})
	if err != nil {
		return nil, err
	}
	is := map[string]*inventory.Part{}
	var ids []string
	for _, e := range eventlog.Standing(entries) {
		if s := e.Body.Inventory; s != nil && s.Is != nil {
			if is[s.Part] == nil {
				ids = append(ids, s.Part)
			}
			is[s.Part] = s.Is
		}
	}
	var out []yardlist.HeldPart
	for _, id := range ids {
		if !is[id].Gone {
			out = append(out, yardlist.HeldPart{ID: id, Label: is[id].Label, Number: is[id].Number})
		}
	}
	return out, nil
}

// listsSubject is the log of the lists that were brought in.
var listsSubject = eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.ListsID}

// entryOf is the id of an entry that a list brought, from 0.
func entryOf(list uuid.UUID, n int) string {
	return uuid.NewSHA1(list, fmt.Appendf(nil, "entry/%d", n)).String()
}

// Take brings a list in: every row of it, or nothing. Rows in which something is wrong refuse it, unless they are to be
// left out. The stamp's entry is the list's own; sent again, nothing is added.
func (a *Lists) Take(ctx context.Context, s record.Stamp, f File, c Chosen, leaveWrong bool) ([]Taken, error) {
	list, err := uuid.Parse(s.EntryID)
	if err != nil {
		return nil, fmt.Errorf("the list's id: %w", err)
	}
	b := batch{log: a.Log}
	err = a.Store.Write(ctx, func(tx record.Tx) error {
		b.forget()
		if old, ok, err := tx.Entry(s.EntryID); err != nil {
			return err
		} else if ok && old.Body.List != nil {
			return nil // as after a lost link
		} else if ok {
			return record.UsedBefore()
		}
		look, err := a.look(tx, f, c, list)
		if err != nil {
			return err
		}
		if err := ready(look, leaveWrong); err != nil {
			return err
		}
		acts := look.Acts()
		for i, act := range acts {
			stamp := record.Stamp{EntryID: entryOf(list, i), By: s.By, TappedAt: s.TappedAt}
			if !act.On.IsZero() { // told of a day: at noon, whose day is the same all over the world but for its edges
				at := act.On.Add(12 * time.Hour)
				stamp.TappedAt = &at
			}
			b.add(a.NewEntry(stamp, act.Subject, act.Kind, act.Body))
		}
		n := look.Counts
		b.add(a.NewEntry(s, listsSubject, eventlog.ListTaken, eventlog.Body{List: &eventlog.List{Name: f.Name,
			Kind: string(look.Kind), Entries: len(acts), Craft: n.Craft, Engines: n.Engines, Parts: n.Parts, Jobs: n.Jobs,
			Maintenance: n.Maintenance}}))
		return b.write(tx)
	})
	if err != nil {
		return nil, err
	}
	b.announce(ctx)
	return a.Taken(ctx)
}

// ready refuses a list that cannot be taken whole.
func ready(l *Look, leaveWrong bool) error {
	if len(l.Refused) > 0 {
		return l.Refused
	}
	var wrong validation.Errors
	for _, line := range l.Lines {
		for _, s := range line.Slips {
			wrong.Add(fmt.Sprintf("row %d, %s", line.Row, s.Column), s.Given, "", "%s", s.Say)
		}
	}
	if len(wrong) > 0 && !leaveWrong {
		return wrong[:min(len(wrong), mostTold)]
	}
	if len(l.Acts()) == 0 {
		wrong = nil
		wrong.Add("data", "nothing new", "a row that is not on record yet", "there is nothing in it to bring in")
		return wrong
	}
	return nil
}

// mostTold is how many slips are told at once.
const mostTold = 50
