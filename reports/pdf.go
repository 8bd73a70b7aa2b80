package reports

import (
	"bytes"
	"fmt"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"

	"hevrin/app/report"
	"hevrin/core/proving"
)

// ownersReport is a report as it is put on paper.
type ownersReport struct{ *report.Report }

// PDF writes a report on sheets of A4.
func PDF(told *report.Report, at time.Time, program string) ([]byte, error) {
	r, s := ownersReport{told}, newSheet()
	s.pdf.SetCreationDate(at.UTC())
	s.pdf.SetModificationDate(at.UTC())
	s.pdf.SetTitle("Cooling report: "+r.Craft, true)
	s.pdf.SetCreator("Hevrin "+program, true)
	s.pdf.AliasNbPages("")
	s.pdf.SetFooterFunc(func() {
		s.pdf.SetY(-foot + 3)
		s.font("", smallSize)
		s.ink(70)
		s.pdf.SetX(margin)
		s.pdf.CellFormat(pageWidth-2*margin, 3.6,
			fmt.Sprintf("%s, made with Hevrin on %s. It advises: maker's manual, class, flag, local codes and licensed "+
				"trades rule.", r.Craft, report.Day(at)), "", 0, "L", false, 0, "")
		s.pdf.SetX(margin)
		s.pdf.CellFormat(pageWidth-2*margin, 3.6, fmt.Sprintf("%d of {nb}", s.pdf.PageNo()), "", 0, "R", false, 0, "")
	})
	s.pdf.AddPage()
	r.title(s)
	r.verdict(s)
	r.wrongAndNumbers(s)
	r.pictures(s)
	r.doneAndParts(s)
	r.proved(s)
	r.photographs(s)
	r.ahead(s)
	r.signatures(s)
	var out bytes.Buffer
	err := s.pdf.Output(&out)
	return out.Bytes(), err
}

func (r ownersReport) title(s *sheet) {
	s.font("", smallSize+1)
	s.ink(70)
	s.pdf.CellFormat(s.wide, 4.4, "Cooling report", "", 1, "L", false, 0, "")
	s.say("B", 19, r.Craft)
	s.say("", bodySize+0.8, r.Engine)
	where := strings.Join(some(r.Owner, r.Berth), ", ")
	dates := fmt.Sprintf("Job begun %s by %s", report.Day(r.Opened), r.By)
	if r.Closed != nil {
		dates += ", closed " + report.Day(*r.Closed)
	}
	s.text(strings.Join(some(where, dates), ". "))
	s.pdf.Ln(1.6)
}

func some(list ...string) (out []string) {
	for _, x := range list {
		if x != "" {
			out = append(out, x)
		}
	}
	return out
}

// verdict stands in a frame: heavy where it is good, broken where it is not.
func (r ownersReport) verdict(s *sheet) {
	top := s.pdf.GetY()
	s.column(margin+4, pageWidth-2*margin-8)
	s.pdf.SetY(top + 2.4)
	s.say("B", 15, r.Verdict)
	s.text(strings.Join(some(r.Says, r.Signed), " "))
	bottom := s.pdf.GetY() + 2
	s.whole()
	s.pdf.SetLineWidth(0.9)
	if r.Outcome != report.Cured {
		s.pdf.SetDashPattern([]float64{3, 1.6}, 0)
	}
	s.pdf.Rect(margin, top, pageWidth-2*margin, bottom-top, "D")
	s.plainStroke()
	s.pdf.SetY(bottom + 0.5)
}

// wrongAndNumbers stand side by side: what was wrong, and what it came to in figures.
func (r ownersReport) wrongAndNumbers(s *sheet) {
	const gap = 7.0
	half := (pageWidth - 2*margin - gap) / 2
	page, top := s.pdf.PageNo(), s.pdf.GetY()
	s.column(margin, half)
	s.heading("What was wrong")
	if r.Complaint != "" {
		s.text("“" + r.Complaint + "”")
	}
	for _, x := range r.Signs {
		s.item(x)
	}
	if r.OneOf != "" {
		s.text(r.OneOf)
	}
	for _, c := range r.Causes {
		s.pdf.Ln(1)
		s.say("B", bodySize+0.6, c.Label)
		for _, e := range c.Evidence {
			s.item(e)
		}
		s.text("Cure: " + c.Remedy)
	}
	if len(r.Causes) == 0 {
		s.text("No cause is named.")
	}
	endPage, end := s.pdf.PageNo(), s.pdf.GetY()
	s.pdf.SetPage(page)
	s.column(margin+half+gap, half)
	s.pdf.SetY(top)
	s.heading("In numbers")
	r.numbers(s)
	if p := s.pdf.PageNo(); p < endPage || p == endPage && s.pdf.GetY() < end {
		s.pdf.SetPage(endPage)
		s.pdf.SetY(end)
	}
	s.whole()
}

func (r ownersReport) numbers(s *sheet) {
	if len(r.Figures) == 0 {
		s.text("No readings were taken that tell it.")
		return
	}
	var rows [][]string
	after := false
	for _, f := range r.Figures {
		rows = append(rows, []string{f.Label, f.Before, f.After})
		after = after || f.After != ""
	}
	columns := []columnOf{{heading: "share of healthy"}, {heading: "before", wide: 26, right: true}, {heading: "after",
		wide: 26, right: true, bold: true}}
	if !after {
		columns[1].heading, columns[2].heading = "read", ""
	}
	s.rows(columns, rows)
	s.pdf.Ln(0.8)
	if r.Against != "" {
		s.quiet("Compared with " + r.Against + ". ± is one standard deviation.")
	}
}

func (r ownersReport) pictures(s *sheet) {
	if r.Path == nil && len(r.Pictures) == 0 {
		return
	}
	s.pdf.Ln(3)
	if r.Path != nil {
		s.drawPath(*r.Path, r.System)
		s.pdf.Ln(3)
	}
	for _, p := range r.Pictures {
		s.drawOverTime(p, r.System, 56)
		s.pdf.Ln(2)
	}
}

func (r ownersReport) doneAndParts(s *sheet) {
	if len(r.Done) > 0 {
		s.heading("What was done")
		for _, d := range r.Done {
			s.item(d)
		}
	}
	if len(r.Parts) == 0 {
		return
	}
	s.heading("Parts used")
	var rows [][]string
	for _, p := range r.Parts {
		price := ""
		if p.Price > 0 {
			price = fmt.Sprintf("%.2f", p.Price)
		}
		rows = append(rows, []string{number(p.Quantity), p.Label, strings.Join(some(p.Number, p.State), ", "), price})
	}
	if r.Total > 0 {
		rows = append(rows, []string{"", "Together", "", fmt.Sprintf("%.2f", r.Total)})
	}
	s.rows([]columnOf{{wide: 14, right: true}, {}, {wide: 50}, {wide: 24, right: true}}, rows)
}

// standings are shown by a sign and a word.
var standings = map[proving.Standing]string{proving.Passed: "passed", proving.Failed: "FAILED",
	proving.Excused: "left out", proving.Waiting: "open"}

func (r ownersReport) proved(s *sheet) {
	if len(r.Proof) == 0 {
		return
	}
	s.heading("The test run")
	var rows [][]string
	for _, p := range r.Proof {
		rows = append(rows, []string{p.Label, standings[p.Standing], p.Say})
	}
	s.rows([]columnOf{{wide: 32}, {wide: 18, bold: true}, {}}, rows)
}

func (r ownersReport) photographs(s *sheet) {
	if len(r.Photos) == 0 {
		return
	}
	const gap, most = 4.0, 42.0
	wide := (pageWidth - 2*margin - gap*(report.MostPhotos-1)) / report.MostPhotos
	s.needs(most + 22)
	s.heading("Photos")
	top := s.pdf.GetY()
	low := top
	for i, p := range r.Photos {
		x := margin + float64(i)*(wide+gap)
		info := s.pdf.RegisterImageOptionsReader(p.ID, fpdf.ImageOptions{ImageType: "JPG"}, bytes.NewReader(p.JPEG))
		if info == nil {
			continue
		}
		w, h := wide, wide*info.Height()/info.Width()
		if h > most {
			w, h = most*info.Width()/info.Height(), most
		}
		s.pdf.ImageOptions(p.ID, x, top, w, h, false, fpdf.ImageOptions{ImageType: "JPG"}, 0, "")
		s.column(x, wide)
		s.pdf.SetY(top + h + 0.8)
		s.say("", smallSize, strings.Join(some(p.Words, report.Day(p.At)), ", "))
		low = max(low, s.pdf.GetY())
	}
	s.whole()
	s.pdf.SetY(low)
	if r.MorePhotos > 0 {
		s.quiet(fmt.Sprintf("%d more are kept with the job.", r.MorePhotos))
	}
}

func (r ownersReport) ahead(s *sheet) {
	if len(r.Due) > 0 {
		s.heading("Due")
		for _, d := range r.Due {
			s.item(fmt.Sprintf("%s %s: %s", d.What, d.When, d.Why))
		}
	}
	if len(r.KeepAnEyeOn)+len(r.Cautions) > 0 {
		s.heading("Keep an eye on")
		for _, m := range append(append([]string(nil), r.KeepAnEyeOn...), r.Cautions...) {
			s.item(m)
		}
	}
}

func (r ownersReport) signatures(s *sheet) {
	s.needs(20)
	s.pdf.Ln(12)
	y := s.pdf.GetY()
	s.pdf.SetLineWidth(0.2)
	s.font("", smallSize)
	for i, who := range []string{"For the yard", "For the craft"} {
		x := margin + float64(i)*95
		s.pdf.Line(x, y, x+78, y)
		s.pdf.SetXY(x, y+0.6)
		s.pdf.CellFormat(78, 3.6, who+", date", "", 0, "L", false, 0, "")
	}
	s.pdf.SetY(y + 5)
}
