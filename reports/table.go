package reports

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"hevrin/app/exchange"
	"hevrin/app/job"
	"hevrin/app/recording"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
	"hevrin/core/units"
)

// table writes comma-separated values after RFC 4180, in UTF-8 with a mark by which spreadsheets know it.
type table struct {
	out  bytes.Buffer
	rows *csv.Writer
}

const byteOrderMark = "\uFEFF"

func newTable(headings ...string) *table {
	t := &table{}
	t.out.WriteString(byteOrderMark)
	t.rows = csv.NewWriter(&t.out)
	t.rows.UseCRLF = true
	t.row(headings...)
	return t
}

// row adds a row. Errors come out in done.
func (t *table) row(cells ...string) { _ = t.rows.Write(cells) }

func (t *table) done() ([]byte, error) {
	t.rows.Flush()
	return t.out.Bytes(), t.rows.Error()
}

// formula is where a spreadsheet would begin to work something out: at the start of a cell, and where a reader that
// takes semicolons, tabs or line ends for the ends of cells would see the start of one; also in full-width signs.
var formula = regexp.MustCompile(`(^|[;\t\r\n])([\s"']*)([=+\-@＝＋－＠])`)

// text is a cell of words. A spreadsheet would work a cell out that begins like a formula: such a one gets an
// apostrophe before it (OWASP, CSV Injection).
func text(words string) string {
	words = formula.ReplaceAllString(words, "$1$2'$3")
	if words != "" && strings.ContainsAny(words[:1], "\t\r\n") {
		return "'" + words
	}
	return words
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func known(v float64) string {
	if v == 0 {
		return ""
	}
	return number(v)
}

func moment(t time.Time) string { return t.UTC().Format(time.RFC3339) }

// Readings is the table of a job's rounds, a row a reading. Temperatures are in °C, flows in L/min.
func Readings(p *job.Page) ([]byte, error) {
	t := newTable("taken at", "by", "round", "speed (rpm)", "load (share)", "out of gear", "sea (°C)", "salinity (g/kg)",
		"engine space (°C)",
		"station", "side", "reading", "unit", "one standard deviation", "as shown", "instrument", "should be",
		"spread between engines")
	for _, r := range p.Rounds {
		for _, x := range r.Readings {
			should, spread := shouldOf(r.Should, x)
			t.row(moment(r.From.At), text(r.From.By), text(r.Words), number(r.RPM), number(r.Load),
				strconv.FormatBool(r.OutOfGear), number(r.SeaC), number(r.Salinity), number(r.SpaceC),
				x.Station, x.Side, number(x.Value), unitOf(x.Station), number(x.Error), known(x.AsRead), text(x.Instrument),
				should, spread)
		}
	}
	return t.done()
}

func unitOf(station string) string {
	if station == "flow" {
		return "L/min"
	}
	return "°C"
}

func shouldOf(list []plant.Should, x eventlog.Read) (value, spread string) {
	for _, s := range list {
		if s.Station == x.Station && (x.Side == "" || s.Side == x.Side) {
			return fmt.Sprintf("%.1f", s.TempC), fmt.Sprintf("%.1f", s.SpreadK)
		}
	}
	return "", ""
}

// Parts is the table of a job's parts.
func Parts(p *job.Page) ([]byte, error) {
	t := newTable("craft", "engine", "job opened", "part", "part number", "quantity", "new or reused", "price each",
		"minutes")
	for _, u := range p.Account.PartsUsed() {
		t.row(text(p.Craft.Name), text(p.Engine.Name), moment(p.Job.OpenedAt), text(u.Label), text(u.PartNumber),
			number(u.Quantity), text(u.State), known(u.Price), known(u.Minutes))
	}
	return t.done()
}

// Recorded is the table of a recording: a row a time, a column a place, in the units of the headings.
func Recorded(p *recording.RecordingPage) ([]byte, error) {
	head := []string{"Time (s)"}
	for _, k := range p.Tracks {
		head = append(head, headingOf(k.Place))
	}
	t := newTable(head...)
	next := make([]int, len(p.Tracks))
	for {
		at, more := nextTime(p.Tracks, next)
		if !more {
			return t.done()
		}
		row := []string{number(at)}
		for i, k := range p.Tracks {
			cell := ""
			if next[i] < k.Len() && k.Seconds[next[i]] == at {
				cell = number(k.Values[next[i]])
				next[i]++
			}
			row = append(row, cell)
		}
		t.row(row...)
	}
}

// nextTime is the earliest time that is still to come in any track.
func nextTime(tracks []proving.Track, next []int) (at float64, more bool) {
	for i, k := range tracks {
		if next[i] < k.Len() && (!more || k.Seconds[next[i]] < at) {
			at, more = k.Seconds[next[i]], true
		}
	}
	return at, more
}

// headingOf is a place's own name with its unit: core/logger knows it again.
func headingOf(p proving.Place) string {
	return p.String() + " (" + units.Must(p.Unit()).Symbol + ")"
}

// FileName is a name for a paper: the craft's, the engine's and a day, in letters that every system takes.
func FileName(craft, engine string, at time.Time, kind, ending string) string {
	words := strings.FieldsFunc(strings.ToLower(craft+" "+engine), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' ||
			r >= '0' && r <= '9')
	})
	words = words[:min(len(words), 4)]
	return strings.Join(slices.Concat(words, []string{at.Format("2006-01-02")}), "-") + kind + ending
}

// BundleName is the name of a job's file.
func BundleName(b *exchange.Bundle) string {
	craft, _ := eventlog.Craft(b.Craft)
	engine, _ := eventlog.Engine(b.Engine)
	return FileName(craft.Name, engine.Name, b.Job[0].At, "", ".hevrin.json")
}
