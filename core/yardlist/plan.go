package yardlist

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Held is what is on record already, as far as a list can speak of it.
type Held struct {
	Craft   []HeldCraft
	Engines []HeldEngine
	Parts   []HeldPart
	Jobs    []HeldJob
	// LogOf gives an engine's entries; the hours and the maintenance of a list must fit among them.
	LogOf func(engine string) ([]eventlog.Entry, error)
}

// HeldCraft is a craft on record.
type HeldCraft struct{ ID, Name string }

// HeldEngine is an engine on record.
type HeldEngine struct {
	ID    string
	Facts eventlog.EngineFacts
}

// HeldJob is a job on record: its engine, the day on which it was opened, and what it was opened for.
type HeldJob struct{ Engine, Day, Words string }

// HeldPart is a part on record.
type HeldPart struct{ ID, Label, Number string }

// Act is an entry that a row asks for. On is the day of which it tells; zero: the day on which it is brought in.
type Act struct {
	Subject eventlog.Subject
	Kind    eventlog.Kind
	Body    eventlog.Body
	On      time.Time
}

// Line is what becomes of a row: what is added, or that it is on record already, or what is wrong with it.
type Line struct {
	Row   int // as the sheet counts them, from 1
	Does  []units.Sentence
	There bool
	Slips []Slip
	Acts  []Act
}

// Counts says what a plan adds.
type Counts struct{ Craft, Engines, Parts, Jobs, Maintenance, There, Wrong int }

// Plan is what bringing a list in comes to.
type Plan struct {
	Kind   Kind
	Lines  []Line
	Counts Counts
}

// Acts are the entries of all rows in which nothing is wrong, in their order.
func (p *Plan) Acts() []Act {
	var out []Act
	for _, l := range p.Lines {
		out = append(out, l.Acts...)
	}
	return out
}

// MostRows is how many rows a list may have.
const MostRows = 5000

// planner plans a list row by row; what a row adds is on record for the rows after it.
type planner struct {
	*reader
	c     *catalogue.Catalogue
	held  Held
	today time.Time
	id    func(key string) string
	line  *Line
	plan  *Plan
	// what the rows so far brought
	owners map[string]string // of new craft, by their id
	rows   map[string]int    // of new things, by their id
	logs   map[string][]eventlog.Entry
}

// Make plans a list. today is the day on which it is brought in; id makes the id of a new thing from what names it in
// this list, the same each time. What is wrong with the list as a whole is an error, what is wrong with a row a slip of
// it.
func Make(c *catalogue.Catalogue, k Kind, t Table, held Held, today time.Time, id func(key string) string) (*Plan,
	error) {
	if err := checkTable(k, t); err != nil {
		return nil, err
	}
	p := &planner{reader: newReader(t), c: c, held: held, today: today, id: id, plan: &Plan{Kind: k},
		owners: map[string]string{}, rows: map[string]int{}, logs: map[string][]eventlog.Entry{}}
	read := map[Kind]func(*planner) error{Fleet: (*planner).fleet, Parts: (*planner).part, Work: (*planner).work}[k]
	for i, row := range t.Rows {
		if strings.TrimSpace(strings.Join(row, "")) == "" {
			continue
		}
		p.row, p.slips = row, nil
		p.line = &Line{Row: t.First + i}
		before := p.plan.Counts
		if err := read(p); err != nil {
			return nil, err
		}
		if p.line.Slips = p.slips; len(p.slips) > 0 {
			p.plan.Counts = before
			p.plan.Counts.Wrong++
			p.line.Acts, p.line.Does = nil, nil
		} else if p.line.There = len(p.line.Acts) == 0; p.line.There {
			p.plan.Counts.There++
		}
		p.plan.Lines = append(p.plan.Lines, *p.line)
	}
	return p.plan, nil
}

func checkTable(k Kind, t Table) error {
	var wrong validation.Errors
	if len(ColumnsOf(k)) == 0 {
		wrong.Add("kind", k, "craft, parts, work", "say what the list holds")
		return wrong
	}
	if len(t.Rows) > MostRows {
		wrong.Add("rows", len(t.Rows), units.Say("%d at most", MostRows), "bring it in in pieces")
	}
	at := map[string]int{}
	for i, id := range t.Columns {
		if _, twice := at[id]; twice && id != "" {
			wrong.Add(fmt.Sprintf("columns[%d]", i), id, "each once", "two columns are said to hold the same")
		}
		at[id] = i
	}
	for id := range at {
		if c := columnOf(id); id != "" && c.Label == "" {
			wrong.Add("columns", id, "a column of this kind of list", "there is no such column")
		}
	}
	for _, c := range ColumnsOf(k) {
		if _, ok := at[c.ID]; c.Must && !ok {
			wrong.Add("columns", "nothing", units.Sentence(c.ID), "say which column holds this: %s", c.Label)
		}
	}
	return wrong.Err()
}

// adds puts an entry into the row's line.
func (p *planner) adds(s eventlog.Subject, k eventlog.Kind, b eventlog.Body, on time.Time) {
	p.line.Acts = append(p.line.Acts, Act{s, k, b, on})
}

func (p *planner) says(template string, values ...any) {
	p.line.Does = append(p.line.Does, units.Say(template, values...))
}

// refuse takes what a check of the core found wrong into the row's slips; other errors are given back.
func (p *planner) refuse(err error, columns map[string]string) error {
	var wrong validation.Errors
	var clash *eventlog.Conflict
	switch {
	case errors.As(err, &wrong):
		for _, w := range wrong {
			column := ""
			for field, is := range columns {
				if strings.HasSuffix(w.Field, field) {
					column = is
				}
			}
			p.slip(column, "%s (allowed: %s)", w.Say, w.Allowed)
		}
		return nil
	case errors.As(err, &clash):
		p.slip("", "%s", clash.Say)
		return nil
	}
	return err
}

// same compares names as people write them: neither case nor blanks count.
func same(a, b string) bool {
	squeeze := func(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }
	return squeeze(a) == squeeze(b)
}

// theCraft finds the craft of a name; more than one: a slip.
func (p *planner) theCraft(name string) (HeldCraft, bool) {
	var found []HeldCraft
	for _, c := range p.held.Craft {
		if same(c.Name, name) {
			found = append(found, c)
		}
	}
	switch len(found) {
	case 0:
		return HeldCraft{}, false
	case 1:
		return found[0], true
	}
	p.slip("craft", "%d craft on record are called %s: give each a name of its own first", len(found), name)
	return HeldCraft{}, false
}

// enginesOf lists the engines of a craft.
func (p *planner) enginesOf(craft string) []HeldEngine {
	var out []HeldEngine
	for _, e := range p.held.Engines {
		if e.Facts.CraftID == craft {
			out = append(out, e)
		}
	}
	return out
}

// logOf is an engine's log with what the rows so far add to it.
func (p *planner) logOf(engine string) ([]eventlog.Entry, error) {
	if log, ok := p.logs[engine]; ok || p.held.LogOf == nil {
		return log, nil
	}
	log, err := p.held.LogOf(engine)
	p.logs[engine] = log
	return log, err
}

// onEngine adds an entry to an engine's log.
func (p *planner) onEngine(engine string, k eventlog.Kind, b eventlog.Body, on time.Time) {
	s := eventlog.Subject{Kind: eventlog.OfEngine, ID: engine}
	p.adds(s, k, b, on)
	p.logs[engine] = append(p.logs[engine], eventlog.Entry{ID: fmt.Sprintf("row %d/%d", p.line.Row, len(p.line.Acts)),
		Subject: s, Kind: k, At: p.today, Body: b})
}

// meter adds what the row says of an engine's hours on a day.
func (p *planner) meter(engine string, day string, at time.Time) error {
	hours, ok := p.figure("hours")
	if !ok || day == "" {
		return nil
	}
	log, err := p.logOf(engine)
	if err != nil {
		return err
	}
	for _, e := range eventlog.Standing(log) {
		if m := e.Body.Meter; m != nil && string(m.Day) == day && m.Hours == hours {
			return nil // on record already
		}
	}
	m := eventlog.Meter{Day: eventlog.Day(day), Hours: hours}
	if err := eventlog.CheckMeter(log, m, p.today); err != nil {
		return p.refuse(err, map[string]string{"hours": "hours", "day": "read"})
	}
	p.onEngine(engine, eventlog.Metered, eventlog.Body{Meter: &m}, at)
	p.says("%s on the meter on %s", units.Of(hours, "h"), at.Format("2 January 2006"))
	return nil
}
