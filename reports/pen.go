package reports

import (
	"strings"
	"sync"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusansoblique"
	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goitalic"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/text/unicode/bidi"
)

// The two families of letters that ship with the program: the usual one, and one that knows many more scripts.
const (
	usualLetters = "go"
	moreLetters  = "more"
)

// unknownLetter stands visibly where none of the shipped letters can show what was written.
const unknownLetter = '\uFFFD'

// pen writes on a paper. Everything that is written goes through it, so that no text, whatever it is made of, can spoil
// a paper or vanish from it without a trace.
type pen struct {
	*fpdf.Fpdf
	style string
	size  float64
	has   map[string]bool // styles of the larger family that were needed: it takes a while to read
}

// shipped are the letters of each style: the usual ones, and those of more scripts.
var shipped = map[string][2][]byte{"": {goregular.TTF, dejavusans.TTF}, "B": {gobold.TTF, dejavusansbold.TTF},
	"I": {goitalic.TTF, dejavusansoblique.TTF}}

func newPen() *pen {
	p := &pen{Fpdf: fpdf.New("P", "mm", "A4", ""), has: map[string]bool{}}
	for style, letters := range shipped {
		p.AddUTF8FontFromBytes(usualLetters, style, letters[0])
	}
	return p
}

// choose takes letters of a style ("", B or I) and a size in points for what is written from now on.
func (p *pen) choose(style string, size float64) {
	p.style, p.size = style, size
	p.SetFont(usualLetters, style, size)
}

// with runs something with the letters that can show the words, and hands it the words as they can be shown.
func (p *pen) with(words string, do func(words string)) {
	words, more := printable(words)
	if !more {
		do(words)
		return
	}
	if !p.has[p.style] {
		p.AddUTF8FontFromBytes(moreLetters, p.style, shipped[p.style][1])
		p.has[p.style] = true
	}
	p.SetFont(moreLetters, p.style, p.size)
	do(words)
	p.SetFont(usualLetters, p.style, p.size)
}

// CellFormat writes one line; what runs from right to left stands so.
func (p *pen) CellFormat(w, h float64, words, border string, ln int, align string, fill bool, link int, at string) {
	p.with(words, func(words string) { p.Fpdf.CellFormat(w, h, visual(words), border, ln, align, fill, link, at) })
}

// MultiCell writes lines that break where they must.
func (p *pen) MultiCell(w, h float64, words, border, align string, fill bool) {
	for _, line := range p.SplitText(words, w-1) {
		p.CellFormat(w, h, line, border, 1, align, fill, 0, "")
	}
}

// SplitText breaks words into lines of a width; there is always one.
func (p *pen) SplitText(words string, w float64) (lines []string) {
	p.with(words, func(words string) { lines = p.Fpdf.SplitText(words, w) })
	if len(lines) == 0 {
		return []string{""}
	}
	return lines
}

// GetStringWidth measures words as they will be written.
func (p *pen) GetStringWidth(words string) (w float64) {
	p.with(words, func(words string) { w = p.Fpdf.GetStringWidth(words) })
	return w
}

// SetTitle names the paper for whatever shows it.
func (p *pen) SetTitle(words string, utf8 bool) {
	p.with(words, func(words string) { p.Fpdf.SetTitle(words, utf8) })
}

// coverage tells which letters a font has.
type coverage struct{ font *sfnt.Font }

func (c coverage) has(r rune) bool {
	glyph, err := c.font.GlyphIndex(nil, r)
	return err == nil && glyph != 0
}

var letters = sync.OnceValue(func() (both [2]coverage) {
	for i, raw := range [][]byte{goregular.TTF, dejavusans.TTF} {
		f, err := sfnt.Parse(raw)
		if err != nil {
			panic(err) // they ship with the program
		}
		both[i] = coverage{f}
	}
	return both
})

// printable gives words as the shipped letters can show them, and whether they need the larger family: line ends and
// tabs as spaces, what is invisible left out, what no letters show as a mark that is seen.
func printable(words string) (shown string, more bool) {
	var out strings.Builder
	for _, r := range words {
		switch {
		case r == '\n' || r == '\t' || r == '\r':
			r = ' '
		case r < ' ' || r == 0x7F || r >= 0x80 && r < 0xA0: // controls
			continue
		case r >= 0xFE00 && r <= 0xFE0F || r >= 0x200B && r <= 0x200F || r >= 0x202A && r <= 0x202E ||
			r >= 0x2060 && r <= 0x206F || r == 0xFEFF: // how others are drawn, or which way; shown by themselves as nothing
			continue
		case r < 0x7F || r == '\u00a0':
		case r > 0xFFFF || !letters()[0].has(r): // the paper's format knows no letter beyond it
			if more = true; r > 0xFFFF || !letters()[1].has(r) {
				r = unknownLetter
			}
		}
		out.WriteRune(r)
	}
	return out.String(), more
}

// visual puts what runs from right to left in the order in which it is seen: Unicode Standard Annex 9.
func visual(line string) string {
	var p bidi.Paragraph
	if _, err := p.SetString(line, bidi.DefaultDirection(bidi.LeftToRight)); err != nil {
		return line
	}
	order, err := p.Order()
	if err != nil || order.NumRuns() == 0 {
		return line
	}
	var out strings.Builder
	for i := range order.NumRuns() {
		run := order.Run(i)
		if run.Direction() == bidi.RightToLeft {
			out.WriteString(bidi.ReverseString(run.String()))
		} else {
			out.WriteString(run.String())
		}
	}
	return out.String()
}
