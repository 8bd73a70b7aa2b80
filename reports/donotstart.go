package reports

import (
	"bytes"
	"time"
)

// DoNotStart is what hangs at an engine's key and helm while it must not be started.
type DoNotStart struct {
	Craft, Engine string
	// NoCranking: it must not even be turned over by its starter.
	NoCranking bool
	Reasons    []Reason
	Waiting    []string // what its jobs wait for, who said so and when
}

// Reason is one thing that is to be so before a start. Why says how it stands; empty where nothing is known.
type Reason struct{ Label, Why string }

func (r Reason) words() string {
	if r.Why == "" {
		return r.Label
	}
	return r.Label + " (" + r.Why + ")"
}

// Sizes of the letters of the sheet, in points: read from across an engine space.
const (
	warningSize = 62
	shoutSize   = 24
	reasonSize  = 15
)

// PDF writes the sheet, one side of A4 where what stands in the way fits on it.
func (d *DoNotStart) PDF(at time.Time, program string) ([]byte, error) {
	s := newSheet()
	s.pdf.SetCreationDate(at.UTC())
	s.pdf.SetModificationDate(at.UTC())
	s.pdf.SetTitle("Do not start: "+d.Craft, true)
	s.pdf.SetCreator("Hevrin "+program, true)
	s.pdf.AddPage()
	s.warning("DO NOT START")
	s.say("B", shoutSize, d.Craft+", "+d.Engine)
	s.pdf.Ln(2)
	if d.NoCranking {
		s.say("B", shoutSize, "Do not crank it either.")
		s.pdf.Ln(2)
	}
	s.heading("Before any start")
	for _, r := range d.Reasons {
		s.needs(lineHeight * reasonSize / bodySize)
		s.say("", reasonSize, r.words())
		s.pdf.Ln(1)
	}
	if len(d.Reasons) == 0 {
		s.say("", reasonSize, "Nothing that the program knows of. Look at the engine before you take this sheet down.")
	}
	if len(d.Waiting) > 0 {
		s.heading("Waiting for")
		for _, w := range d.Waiting {
			s.say("", reasonSize, w)
		}
	}
	s.heading(map[bool]string{true: "Left so by, back on", false: "Left so by, waiting for, back on"}[len(d.Waiting) > 0])
	s.pdf.Ln(26)
	s.quiet("As it stood on " + at.Format("2 January 2006, 15:04") +
		". Ask the program before you take this sheet down: it " +
		"is the record that counts, and the hand that hung it.")
	var out bytes.Buffer
	err := s.pdf.Output(&out)
	return out.Bytes(), err
}

// warning is white on black across the sheet.
func (s *sheet) warning(words string) {
	top, high := s.pdf.GetY(), 32.0
	s.pdf.SetFillColor(0, 0, 0)
	s.pdf.Rect(s.left, top, s.wide, high, "F")
	s.font("B", warningSize)
	s.pdf.SetTextColor(255, 255, 255)
	s.pdf.SetXY(s.left, top)
	s.pdf.CellFormat(s.wide, high, words, "", 1, "CM", false, 0, "")
	s.pdf.Ln(5)
}
