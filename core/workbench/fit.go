package workbench

import (
	"math"
	"slices"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Impeller is what is measured on an impeller, or listed for one. A length of 0, an empty word and 0 blades mean "not
// known".
type Impeller struct {
	Name            string  `json:"name"`
	OutsideDiameter float64 `json:"outside_diameter_mm"`
	Width           float64 `json:"width_mm"`
	Bore            float64 `json:"bore_mm"`
	Drive           string  `json:"drive"`
	Blades          int     `json:"blades"`
	Insert          string  `json:"insert"`
	CoverSeal       string  `json:"cover_seal"`
}

// Drives, Inserts and CoverSeals list the words for them.
var (
	Drives     = []string{"key", "spline", "single-flat", "double-flat", "pin", "thread"}
	Inserts    = []string{"bronze", "brass", "stainless", "plastic"}
	CoverSeals = []string{"paper-gasket", "o-ring", "moulded"}
)

// Lengths, in mm, and blades that an impeller of a boat may have: wide enough for any, narrow enough for a slipped
// digit. Common practice; they are the limits of the sum too.
const (
	LeastDiameter, MostDiameter = 10.0, 400.0
	LeastWidth, MostWidth       = 3.0, 300.0
	LeastBore, MostBore         = 3.0, 100.0
	LeastBlades, MostBlades     = 3, 24
)

// Check notes in the errors measures that no impeller has and words that are not among the usual; at stands before the
// fields, as in "is.impeller.". What is not known is fine.
func (i Impeller) Check(wrong *validation.Errors, at string) {
	for _, m := range []struct {
		field, in          string
		value, least, most float64
	}{{"outside_diameter_mm", "outside diameter", i.OutsideDiameter, LeastDiameter, MostDiameter}, {"width_mm", "width",
		i.Width, LeastWidth, MostWidth},
		{"bore_mm", "bore", i.Bore, LeastBore, MostBore}, {"blades", "blades", float64(i.Blades), LeastBlades, MostBlades}} {
		if m.value != 0 && !(m.value >= m.least && m.value <= m.most) {
			wrong.Add(at+m.field, m.value, units.Say("%g to %g", m.least, m.most),
				"no impeller of a boat measures %g in %s (%g to %g): measure it again, or leave it empty", m.value, m.in, m.least,
				m.most)
		}
	}
	for _, w := range []struct {
		field, word string
		words       []string
	}{{"drive", i.Drive, Drives}, {"insert", i.Insert, Inserts}, {"cover_seal", i.CoverSeal, CoverSeals}} {
		if w.word != "" && !slices.Contains(w.words, w.word) {
			wrong.Add(at+w.field, w.word, units.Sentence(strings.Join(w.words, ", ")),
				"say it in one of these words, or leave it empty")
		}
	}
	if i.Bore > 0 && i.OutsideDiameter > 0 && i.Bore >= i.OutsideDiameter {
		wrong.Add(at+"bore_mm", i.Bore, units.Say("under %g", i.OutsideDiameter),
			"the bore is wider than the impeller: are the two swapped?")
	}
}

// Tolerances are the differences, in mm, up to which two impellers count as the same; common practice.
type Tolerances struct {
	OutsideDiameter float64 `json:"outside_diameter_mm"`
	Width           float64 `json:"width_mm"`
	Bore            float64 `json:"bore_mm"`
}

// UsualTolerances are the tolerances taken where nobody says otherwise; common practice.
var UsualTolerances = Tolerances{OutsideDiameter: 0.5, Width: 0.4, Bore: 0.1}

// MeasureAgain is how many times a tolerance a difference may be and still be a slip of the calliper.
const MeasureAgain = 2.0

// Fit is how a candidate stands against the old one.
type Fit string

// The answers.
const (
	Fits    Fit = "fits"
	MayFit  Fit = "may-fit"
	NoFit   Fit = "does-not-fit"
	unknown     = ""
)

// Fitting is the answer for one candidate, with its reasons.
type Fitting struct {
	Name    string           `json:"name"`
	Fit     Fit              `json:"fit"`
	Reasons []units.Sentence `json:"reasons"`
}

// Compare says whether a candidate fits in place of the old impeller.
func (t Tolerances) Compare(old, candidate Impeller) Fitting {
	f := Fitting{Name: candidate.Name, Fit: Fits, Reasons: []units.Sentence{}}
	worse := func(to Fit, words string, args ...any) {
		if f.Fit != NoFit {
			f.Fit = to
		}
		f.Reasons = append(f.Reasons, units.Say(words, args...))
	}
	for _, d := range []struct {
		name             string
		old, new, within float64
	}{
		{"outside diameter", old.OutsideDiameter, candidate.OutsideDiameter, t.OutsideDiameter},
		{"width", old.Width, candidate.Width, t.Width},
		{"shaft bore", old.Bore, candidate.Bore, t.Bore},
	} {
		off := d.new - d.old
		switch {
		case d.old == 0 || d.new == 0:
			worse(MayFit, "the %s is not known on both: measure it", d.name)
		case math.Abs(off) > d.within*MeasureAgain:
			worse(NoFit, "the %s is %.2f %s (%.2f against %.2f; allowed %.2f)", d.name, mm(math.Abs(off)), larger(off),
				mm(d.new), mm(d.old), mm(d.within))
		case math.Abs(off) > d.within+1e-9:
			worse(MayFit, "the %s is %.2f %s (%.2f against %.2f): measure again", d.name, mm(math.Abs(off)), larger(off),
				mm(d.new), mm(d.old))
		}
	}
	for _, w := range []struct {
		name, old, new string
		unlike         Fit
		advice         string
	}{
		{"drive", old.Drive, candidate.Drive, NoFit, "it does not go on the shaft"},
		{"insert", old.Insert, candidate.Insert, MayFit, "ask whether the maker allows it at this load"},
		{"cover seal", old.CoverSeal, candidate.CoverSeal, MayFit, "lay the new seal on the old cover"},
	} {
		switch {
		case w.old == unknown || w.new == unknown:
			worse(MayFit, "the %s is not known on both: look", w.name)
		case w.old != w.new:
			worse(w.unlike, "the %s is %s instead of %s: %s", w.name, w.new, w.old, w.advice)
		}
	}
	switch {
	case old.Blades == 0 || candidate.Blades == 0:
		worse(MayFit, "the blades are not counted on both: count them")
	case old.Blades != candidate.Blades:
		worse(MayFit, "it has %d blades instead of %d: it turns, but not with the flow it was made for", candidate.Blades,
			old.Blades)
	}
	return f
}

func larger(off float64) string {
	if off > 0 {
		return "larger"
	}
	return "smaller"
}

func mm(v float64) units.Quantity { return units.Of(v, "mm") }
