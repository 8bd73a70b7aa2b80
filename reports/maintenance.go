package reports

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"runtime"
	"slices"
	"strings"
	"time"
	"unicode"

	ics "github.com/arran4/golang-ical"
	"golang.org/x/sync/errgroup"

	stock "hevrin/app/inventory"
	schedule "hevrin/app/maintenance"
	"hevrin/app/report"
	"hevrin/core/inventory"
	"hevrin/core/maintenance"
)

// DueTable is what is due in the yard, a row a maintenance item.
func DueTable(list []schedule.EngineDue) ([]byte, error) {
	t := newTable("craft", "engine", "owner", "berth", "state", "due", "engine hours then", "what", "why", "postponed to",
		"postponed because", "last done", "access", "ashore")
	for _, e := range list {
		for _, d := range e.Due {
			var until, because, last string
			if p := d.PutOff; p != nil {
				until, because = p.Until.Format("2006-01-02"), p.Why
			}
			if d.Last != nil {
				last = d.Last.At.Format("2006-01-02")
			}
			t.row(text(e.Craft.Name), text(e.Engine.Name), text(e.Craft.Owner), text(e.Craft.Berth), string(d.State),
				d.When.Format("2006-01-02"), wholeHours(d.Hours), text(d.Do), text(d.Reasons[0].Say),
				until, text(because), last, d.Access, fmt.Sprint(d.Ashore))
		}
	}
	return t.done()
}

func wholeHours(h float64) string {
	if h <= 0 {
		return ""
	}
	return fmt.Sprintf("%.0f", h)
}

// Calendar is what is due as whole days of an iCalendar file (RFC 5545): a whole day has no clock, so that no change to
// summer time moves it. An engine's id keeps it to it; empty: the whole yard.
func Calendar(list []schedule.EngineDue, engine string, orders []inventory.Line, now time.Time) []byte {
	c := ics.NewCalendarFor("Hevrin")
	c.SetMethod(ics.MethodPublish)
	c.SetXWRCalName("Hevrin: what is due")
	if engine != "" {
		list = slices.DeleteFunc(slices.Clone(list), func(e schedule.EngineDue) bool { return e.Engine.ID != engine })
	}
	c.Components = make([]ics.Component, len(list))
	var side errgroup.Group // each engine by itself: a yard has some 20,000 events
	side.SetLimit(runtime.GOMAXPROCS(0))
	for i, e := range list {
		side.Go(func() error {
			var lines bytes.Buffer
			for _, d := range e.Due {
				if err := event(e, d, now).SerializeTo(&lines, written); err != nil {
					return err
				}
			}
			c.Components[i] = engineEvents{lines: lines.Bytes()}
			return nil
		})
	}
	for _, l := range orders {
		for _, o := range l.Orders {
			if o.Left() > 0 && !o.Due.IsZero() {
				c.Components = append(c.Components, arrival(l, o, now))
			}
		}
	}
	var out bytes.Buffer
	if err := errors.Join(side.Wait(), c.SerializeTo(&out, ics.WithNewLineWindows)); err != nil {
		panic(err) // cannot be: a buffer takes what it is given
	}
	return out.Bytes()
}

// written is how RFC 5545 wants lines: folded at 75 octets, ended by CR LF.
var written = &ics.SerializationConfiguration{MaxLength: 75, PropertyMaxLength: 75,
	NewLine: string(ics.WithNewLineWindows)}

// engineEvents is an engine's events, written beforehand.
type engineEvents struct {
	ics.Component
	lines []byte
}

// SerializeTo copies them.
func (e engineEvents) SerializeTo(w io.Writer, _ *ics.SerializationConfiguration) error {
	_, err := w.Write(e.lines)
	return err
}

// arrival is the day on which a part that was ordered is expected.
func arrival(l inventory.Line, o inventory.Ordered, now time.Time) *ics.VEvent {
	v := ics.NewEvent(o.ID + "@order")
	v.SetDtStampTime(now.UTC())
	v.SetAllDayStartAt(o.Due)
	v.SetAllDayEndAt(o.Due.AddDate(0, 0, 1))
	v.SetSummary(inCalendar(fmt.Sprintf("Expected: %s, %g", l.Label, o.Left())))
	v.SetDescription(inCalendar(fmt.Sprintf("Ordered by %s on %s. %s", o.By, o.At.Format("2 January 2006"), o.Number)))
	v.SetTimeTransparency(ics.TransparencyTransparent)
	return v
}

func event(e schedule.EngineDue, d maintenance.Due, now time.Time) *ics.VEvent {
	v := ics.NewEvent(d.ID + "@" + e.Engine.ID)
	v.SetDtStampTime(now.UTC())
	v.SetAllDayStartAt(d.When)
	v.SetAllDayEndAt(d.When.AddDate(0, 0, 1))
	v.SetSummary(inCalendar(fmt.Sprintf("%s, %s: %s", e.Craft.Name, e.Engine.Name, report.Lower(d.Do))))
	v.SetDescription(inCalendar(reasons(d)))
	if e.Craft.Berth != "" {
		v.SetLocation(inCalendar(e.Craft.Berth))
	}
	v.SetTimeTransparency(ics.TransparencyTransparent)
	return v
}

var lineEnds = strings.NewReplacer("\r\n", "\n", "\r", "\n")

// inCalendar is a text as a calendar takes it: line ends of one kind, no other control characters (RFC 5545, 3.3.11).
func inCalendar(words string) string {
	return strings.Map(func(r rune) rune {
		if r != '\n' && r != '\t' && unicode.IsControl(r) {
			return -1
		}
		return r
	}, lineEnds.Replace(strings.ToValidUTF8(words, "\uFFFD")))
}

func reasons(d maintenance.Due) string {
	var list []string
	for _, r := range d.Reasons {
		list = append(list, report.Capital(r.Say))
	}
	if p := d.PutOff; p != nil {
		list = append(list, fmt.Sprintf("Postponed to %s by %s: %s", report.Day(p.Until), p.By, p.Why))
	}
	return strings.Join(append(list, report.Capital(d.Why)), ".\n") + "."
}

// InventoryTable is the yard's inventory, a row a part.
func InventoryTable(p *stock.InventoryPage) ([]byte, error) {
	need := map[string]string{}
	for _, n := range p.ToOrder {
		need[n.ID] = number(n.Quantity)
	}
	t := newTable("part", "number", "where", "here", "unit", "least", "on order", "to order", "price each", "fits",
		"ordered wrong before")
	for _, l := range p.Lines {
		var fits, wrong []string
		for _, f := range l.Fits {
			at := p.Engines[f.Engine]
			if f.Pump != "" {
				at = "pump " + f.Pump
			}
			fits = append(fits, at+" ("+f.How+")")
		}
		for _, w := range l.Wrong {
			wrong = append(wrong, w.Words)
		}
		t.row(text(l.Label), text(l.Number), text(l.Where), number(l.Have), text(l.Unit), known(l.Minimum),
			known(l.Coming()), need[l.ID], known(l.Price), text(strings.Join(fits, "; ")), text(strings.Join(wrong, "; ")))
	}
	return t.done()
}
