package reports

import (
	"math"
	"strconv"
	"strings"
)

// Sizes of a sheet of A4 (ISO 216), in mm; letters in points.
const (
	pageWidth, pageHeight = 210.0, 297.0
	margin                = 16.0
	foot                  = 16.0
	bodySize              = 9.2
	headSize              = 11.5
	smallSize             = 7.8
	lineHeight            = 4.3
)

// sheet is a paper that is written from top to bottom, in greys alone: it is often copied.
type sheet struct {
	pdf        *pen
	left, wide float64 // of what is written now
}

func newSheet() *sheet {
	pdf := newPen()
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(true, foot+2)
	pdf.SetCatalogSort(true)
	s := &sheet{pdf: pdf, left: margin, wide: pageWidth - 2*margin}
	return s
}

func (s *sheet) font(style string, size float64) { s.pdf.choose(style, size) }

func (s *sheet) ink(grey int) { s.pdf.SetTextColor(grey, grey, grey) }

// column keeps what follows to a part of the width.
func (s *sheet) column(left, wide float64) {
	s.left, s.wide = left, wide
	s.pdf.SetLeftMargin(left)
	s.pdf.SetRightMargin(pageWidth - left - wide)
	s.pdf.SetX(left)
}

func (s *sheet) whole() { s.column(margin, pageWidth-2*margin) }

// needs goes on to the next page where less than so much is left of this one.
func (s *sheet) needs(height float64) {
	if s.pdf.GetY()+height > pageHeight-foot-2 {
		s.pdf.AddPage()
	}
}

func (s *sheet) heading(words string) {
	s.needs(14)
	s.pdf.Ln(2.2)
	s.font("B", headSize)
	s.ink(0)
	s.pdf.CellFormat(s.wide, 5.6, words, "", 1, "L", false, 0, "")
	s.pdf.SetLineWidth(0.35)
	s.pdf.Line(s.left, s.pdf.GetY()+0.2, s.left+s.wide, s.pdf.GetY()+0.2)
	s.pdf.Ln(1.4)
}

func (s *sheet) say(style string, size float64, words string) {
	s.font(style, size)
	s.ink(0)
	s.pdf.SetX(s.left)
	s.pdf.MultiCell(s.wide, lineHeight*size/bodySize, words, "", "L", false)
}

func (s *sheet) text(words string)  { s.say("", bodySize, words) }
func (s *sheet) quiet(words string) { s.say("I", smallSize+0.4, words) }

// item is a line of a list.
func (s *sheet) item(words string) {
	s.needs(lineHeight)
	s.font("", bodySize)
	s.ink(0)
	x, y := s.left, s.pdf.GetY()
	s.pdf.Rect(x+0.6, y+1.6, 1.1, 1.1, "F")
	s.pdf.SetX(x + 4)
	s.pdf.SetLeftMargin(x + 4)
	s.pdf.MultiCell(s.wide-4, lineHeight, words, "", "L", false)
	s.pdf.SetLeftMargin(x)
	s.pdf.SetX(x)
}

// columnOf is a column of a table.
type columnOf struct {
	heading string
	wide    float64 // mm; 0: what is left
	right   bool    // figures
	bold    bool
}

// rows writes a table whose cells break where they must.
func (s *sheet) rows(columns []columnOf, rows [][]string) {
	left := s.wide
	for _, c := range columns {
		left -= c.wide
	}
	write := func(cells []string, style func(c columnOf) string, size float64) {
		lines := make([][]string, len(cells))
		most := 1
		for i, c := range columns {
			wide := c.wide
			if wide == 0 {
				wide = left
			}
			s.font(style(c), size)
			lines[i] = s.pdf.SplitText(cells[i], wide-1.5)
			most = max(most, len(lines[i]))
		}
		height := float64(most)*lineHeight*size/bodySize + 1.2
		s.needs(height)
		x, y := s.left, s.pdf.GetY()
		for i, c := range columns {
			wide := c.wide
			if wide == 0 {
				wide = left
			}
			s.font(style(c), size)
			align := "L"
			if c.right {
				align = "R"
			}
			s.pdf.SetXY(x, y+0.6)
			for _, l := range lines[i] {
				s.pdf.SetX(x)
				s.pdf.CellFormat(wide-1.5, lineHeight*size/bodySize, l, "", 2, align, false, 0, "")
			}
			x += wide
		}
		s.pdf.SetXY(s.left, y+height)
		s.pdf.SetLineWidth(0.1)
		s.pdf.SetDrawColor(150, 150, 150)
		s.pdf.Line(s.left, y+height, s.left+s.wide, y+height)
		s.pdf.SetDrawColor(0, 0, 0)
	}
	heads := make([]string, len(columns))
	for i, c := range columns {
		heads[i] = c.heading
	}
	if strings.Join(heads, "") != "" {
		s.ink(70)
		write(heads, func(columnOf) string { return "I" }, smallSize)
	}
	s.ink(0)
	for _, r := range rows {
		write(r, func(c columnOf) string { return map[bool]string{true: "B", false: ""}[c.bold] }, bodySize)
	}
}

// ticks are round values along an axis, about n of them.
func ticks(from, to float64, n int, steps []float64) []float64 {
	if !(to > from) {
		return nil
	}
	step := steps[len(steps)-1]
	for _, x := range steps {
		if (to-from)/x <= float64(n) {
			step = x
			break
		}
	}
	var list []float64
	for v := math.Ceil(from/step) * step; v <= to+1e-9; v += step {
		list = append(list, v)
	}
	return list
}

func whole(v float64) string { return strconv.FormatFloat(math.Round(v), 'f', -1, 64) }
