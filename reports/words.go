package reports

import (
	"strings"
	"time"

	"hevrin/core/units"
)

// inOwnUnits turns the sentences into the reader's units.
func (b *builder) inOwnUnits() {
	r := b.r
	own := func(s string) string { return units.Rewrite(s, r.System) }
	for _, s := range []*string{&r.Says, &r.Verdict} {
		*s = own(*s)
	}
	for _, list := range [][]string{r.Done, r.KeepAnEyeOn, r.Cautions} {
		for i, s := range list {
			list[i] = own(s)
		}
	}
	for i := range r.Proof {
		r.Proof[i].Say = own(r.Proof[i].Say)
	}
	for i := range r.Figures {
		r.Figures[i].Before, r.Figures[i].After = own(r.Figures[i].Before), own(r.Figures[i].After)
	}
	for i := range r.Pictures {
		for k := range r.Pictures[i].Marks {
			r.Pictures[i].Marks[k].Label = own(r.Pictures[i].Marks[k].Label)
		}
	}
	if r.Path != nil {
		r.Path.Before, r.Path.After = own(r.Path.Before), own(r.Path.After)
	}
}

func day(t time.Time) string { return t.Format("2 January 2006") }

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func lower(s string) string {
	if len(s) < 2 || s[1] >= 'A' && s[1] <= 'Z' { // as UA
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}
