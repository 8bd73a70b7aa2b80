package reports

import (
	"fmt"
	"math"

	"hevrin/app/report"
	"hevrin/core/calculator"
	"hevrin/core/units"
)

var (
	temperatureSteps = []float64{5, 10, 20, 50, 100}
	timeSteps        = []float64{60, 120, 300, 600, 900, 1800, 3600, 7200, 14400, 86400}
)

// ownC turns °C into the reader's own unit of temperature.
func ownC(system units.System) (turn func(float64) float64, symbol string) {
	c := units.Must("degC")
	to := c.ShownAs(system)
	return func(v float64) float64 { return to.FromBase(c.ToBase(v)) }, to.Symbol
}

// drawPath draws the temperature in flow order: a row a place, the band of a healthy engine, before and after.
func (s *sheet) drawPath(p report.Path, system units.System) {
	const row, names = 5.4, 39.0
	turn, symbol := ownC(system)
	height := 10 + row*float64(len(p.Points)) + 13
	s.needs(height)
	top := s.pdf.GetY()
	low, high := math.Inf(1), math.Inf(-1)
	for _, q := range p.Points {
		for _, v := range []*float64{q.Before, q.After} {
			if v != nil {
				low, high = math.Min(low, turn(*v)), math.Max(high, turn(*v))
			}
		}
		low, high = math.Min(low, turn(q.Should-q.Spread)), math.Max(high, turn(q.Should+q.Spread))
	}
	low, high = math.Floor(low/10)*10, math.Ceil(high/10)*10
	x := func(c float64) float64 {
		return s.left + names + (turn(c)-low)/(high-low)*(s.wide-names-4)
	}
	s.font("B", bodySize)
	s.pdf.SetXY(s.left, top)
	s.pdf.CellFormat(s.wide, lineHeight, "Temperature in flow order, "+symbol, "", 0, "L", false, 0, "")
	bottom := top + 9 + row*float64(len(p.Points))
	s.font("", smallSize)
	s.pdf.SetLineWidth(0.1)
	s.pdf.SetDrawColor(185, 185, 185)
	for _, t := range ticks(low, high, 7, temperatureSteps) {
		at := s.left + names + (t-low)/(high-low)*(s.wide-names-4)
		s.pdf.Line(at, top+8.4, at, bottom)
		s.pdf.SetXY(at-6, top+4.8)
		s.pdf.CellFormat(12, 3.4, whole(t), "", 0, "C", false, 0, "")
	}
	s.pdf.SetDrawColor(0, 0, 0)
	for i, q := range p.Points {
		s.pathRow(q, x, top+9+row*(float64(i)+0.5), names)
	}
	s.pdf.SetXY(s.left, bottom+1)
	s.pathKey(p)
}

func (s *sheet) pathRow(q report.PathPoint, x func(float64) float64, y, names float64) {
	s.font("", smallSize)
	s.pdf.SetXY(s.left, y-1.8)
	label := s.pdf.SplitText(q.Label, names-2)
	s.pdf.CellFormat(names-2, 3.6, label[0], "", 0, "R", false, 0, "")
	from, to := x(q.Should-q.Spread), x(q.Should+q.Spread)
	s.pdf.SetFillColor(215, 215, 215)
	s.pdf.Rect(from, y-1.7, to-from, 3.4, "F")
	s.pdf.SetFillColor(0, 0, 0)
	s.pdf.SetLineWidth(0.45)
	if q.Before != nil {
		at := x(*q.Before)
		s.pdf.Line(at-1.3, y-1.3, at+1.3, y+1.3)
		s.pdf.Line(at-1.3, y+1.3, at+1.3, y-1.3)
	}
	if q.After != nil {
		s.pdf.Circle(x(*q.After), y, 1.25, "F")
	}
}

func (s *sheet) pathKey(p report.Path) {
	y := s.pdf.GetY() + 1.8
	s.font("", smallSize)
	line := func(words string, mark func(x, y float64)) {
		mark(s.left+2, y)
		s.pdf.SetXY(s.left+6, y-1.8)
		s.pdf.CellFormat(s.wide-6, 3.6, words, "", 0, "L", false, 0, "")
		y += 3.7
	}
	s.pdf.SetLineWidth(0.45)
	if p.Before != "" {
		line("before: "+p.Before, func(x, y float64) {
			s.pdf.Line(x-1.3, y-1.3, x+1.3, y+1.3)
			s.pdf.Line(x-1.3, y+1.3, x+1.3, y-1.3)
		})
	}
	after := "read: " + p.After
	if p.Before != "" {
		after = "after: " + p.After
	}
	line(after, func(x, y float64) { s.pdf.Circle(x, y, 1.25, "F") })
	line("where a healthy engine reads then", func(x, y float64) {
		s.pdf.SetFillColor(215, 215, 215)
		s.pdf.Rect(x-1.8, y-1.5, 3.6, 3, "F")
		s.pdf.SetFillColor(0, 0, 0)
	})
	s.pdf.SetXY(s.left, y)
}

// strokes tell what stands for what where there is no colour.
var strokes = map[calculator.Role]struct {
	wide float64
	dash []float64
	grey int
}{
	calculator.HotSide: {0.55, nil, 0}, calculator.ColdSide: {0.4, []float64{1.6, 1}, 60}, calculator.Plain: {0.3,
		[]float64{0.5, 0.8}, 60}, calculator.Should: {0.3, []float64{4, 1}, 90},
	calculator.Warn: {0.4, []float64{2.4, 1.2}, 0}, calculator.Stop: {0.4, []float64{0.8, 1}, 0}, calculator.Here: {0.4,
		nil, 0},
}

func (s *sheet) stroke(role calculator.Role) {
	k := strokes[role]
	s.pdf.SetLineWidth(k.wide)
	s.pdf.SetDrawColor(k.grey, k.grey, k.grey)
	s.pdf.SetDashPattern(k.dash, 0)
}

func (s *sheet) plainStroke() {
	s.pdf.SetDashPattern(nil, 0)
	s.pdf.SetDrawColor(0, 0, 0)
}

// drawOverTime draws a picture of temperatures over time.
func (s *sheet) drawOverTime(p calculator.Picture, system units.System, height float64) {
	turn, symbol := ownC(system)
	s.needs(height + 20)
	top := s.pdf.GetY()
	s.font("B", bodySize)
	s.pdf.SetXY(s.left, top)
	s.pdf.CellFormat(s.wide, lineHeight, p.Title+", "+symbol+" against min", "", 0, "L", false, 0, "")
	x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, l := range p.Lines {
		for i := range l.X {
			x0, x1 = math.Min(x0, l.X[i]), math.Max(x1, l.X[i])
			y0, y1 = math.Min(y0, turn(l.Y[i])), math.Max(y1, turn(l.Y[i]))
		}
	}
	for _, l := range p.Limits {
		y0, y1 = math.Min(y0, turn(l.At)), math.Max(y1, turn(l.At))
	}
	y0, y1 = math.Floor(y0/10)*10, math.Ceil(y1/10)*10
	if x1 <= x0 || y1 <= y0 {
		return
	}
	box := struct{ left, right, top, bottom float64 }{s.left + 9, s.left + s.wide - 2, top + 6, top + height - 4}
	x := func(v float64) float64 { return box.left + (v-x0)/(x1-x0)*(box.right-box.left) }
	y := func(own float64) float64 { return box.bottom - (own-y0)/(y1-y0)*(box.bottom-box.top) }
	s.font("", smallSize)
	s.pdf.SetLineWidth(0.1)
	s.pdf.SetDrawColor(185, 185, 185)
	for _, t := range ticks(y0, y1, 6, temperatureSteps) {
		s.pdf.Line(box.left, y(t), box.right, y(t))
		s.pdf.SetXY(s.left, y(t)-1.8)
		s.pdf.CellFormat(8, 3.6, whole(t), "", 0, "R", false, 0, "")
	}
	for _, t := range ticks(x0, x1, 9, timeSteps) {
		s.pdf.SetXY(x(t)-6, box.bottom+0.6)
		s.pdf.CellFormat(12, 3.6, whole(t/60), "", 0, "C", false, 0, "")
		s.pdf.Line(x(t), box.bottom-1, x(t), box.bottom)
	}
	for _, l := range p.Limits {
		s.stroke(l.Role)
		s.pdf.Line(box.left, y(turn(l.At)), box.right, y(turn(l.At)))
	}
	for _, l := range p.Lines {
		s.stroke(l.Role)
		for i := range l.X {
			if i == 0 {
				s.pdf.MoveTo(x(l.X[i]), y(turn(l.Y[i])))
				continue
			}
			s.pdf.LineTo(x(l.X[i]), y(turn(l.Y[i])))
		}
		s.pdf.DrawPath("D")
	}
	s.plainStroke()
	for i, m := range p.Marks {
		s.mark(m, x(m.X), y(turn(m.Y)), i%2 == 0)
	}
	s.pdf.SetXY(s.left, top+height+1)
	s.timeKey(p, turn, symbol)
}

func (s *sheet) mark(m calculator.Mark, x, y float64, below bool) {
	s.pdf.SetFillColor(255, 255, 255)
	s.pdf.SetLineWidth(0.5)
	s.pdf.Circle(x, y, 1.2, "FD")
	s.pdf.SetFillColor(0, 0, 0)
	s.font("B", smallSize)
	wide := s.pdf.GetStringWidth(m.Label) + 1
	at := math.Min(math.Max(x+2, s.left+10), s.left+s.wide-wide-2)
	dy := -5.4
	if below {
		dy = 1.8
	}
	s.pdf.SetXY(at, y+dy)
	s.pdf.CellFormat(wide, 3.6, m.Label, "", 0, "L", false, 0, "")
}

// timeKey names the lines and limits.
func (s *sheet) timeKey(p calculator.Picture, turn func(float64) float64, symbol string) {
	s.font("", smallSize)
	y := s.pdf.GetY() + 1.8
	line := func(role calculator.Role, words string) {
		s.stroke(role)
		s.pdf.Line(s.left, y, s.left+8, y)
		s.plainStroke()
		s.pdf.SetXY(s.left+10, y-1.8)
		s.pdf.CellFormat(s.wide-10, 3.6, words, "", 0, "L", false, 0, "")
		y += 3.7
	}
	for _, l := range p.Lines {
		line(l.Role, l.Label)
	}
	for _, l := range p.Limits {
		line(l.Role, fmt.Sprintf("%s: %s %s", l.Label, whole(turn(l.At)), symbol))
	}
	s.pdf.SetXY(s.left, y)
}
