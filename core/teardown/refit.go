package teardown

import (
	"slices"
	"strings"
	"time"
	"unicode"

	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// What a thread can be treated with.
const (
	Paste    = "paste"
	Lock     = "lock"
	DryOrOil = "none"
)

// Threads lists what a thread can be treated with.
var Threads = []string{Paste, Lock, DryOrOil}

// mostTorqueNM is beyond any fastener of a cooling system.
const mostTorqueNM = 1000

// Refit is what is worth knowing of a part that went back, beside whether it is new.
type Refit struct {
	OtherMake bool    `json:"other_make,omitempty"`
	Ports     bool    `json:"ports_turned,omitempty"` // of a pump: its ports stand otherwise than the old one's
	Rerouted  bool    `json:"rerouted,omitempty"`     // the hoses run otherwise than before
	Thread    string  `json:"thread,omitempty"`       // paste, lock, none; empty: not said
	TorqueNM  float64 `json:"torque_nm,omitempty"`    // as it was done up, N m; 0: not measured
	Places    string  `json:"places,omitempty"`       // which stud or long bolt stands where
	Sealant   string  `json:"sealant,omitempty"`      // what does in place of the seal until the proper part is there
	Plate     string  `json:"plate,omitempty"`        // of a raw-water pump: the type on its plate
}

// Refitter says who said how a part went back, when, in which entry.
type Refitter struct {
	By    string
	At    time.Time
	Entry string
}

func (r Refit) check(w *validation.Errors) {
	if r.Thread != "" {
		one(w, "refit.thread", r.Thread, Threads, "say what the thread was treated with")
	}
	between(w, "refit.torque_nm", r.TorqueNM, 0, mostTorqueNM, "N m")
}

// Says lists it in words, for record and report; in the reader's units.
func (r Refit) Says() []units.Sentence {
	var list []units.Sentence
	for _, x := range []struct {
		so  bool
		say units.Sentence
	}{
		{r.OtherMake, "of another make"}, {r.Ports, "ports turned"}, {r.Rerouted, "hose re-routed: look for chafe and kinks"},
		{r.Thread == Paste, "paste on the threads"}, {r.Thread == Lock, "thread lock"}, {r.Thread == DryOrOil, "threads dry"},
		{r.Places != "", units.Sentence(r.Places)},
		{r.Sealant != "", units.Sentence("sealant until the proper part: " + r.Sealant)},
		{r.Plate != "", units.Sentence("plate: " + r.Plate)},
	} {
		if x.so {
			list = append(list, x.say)
		}
	}
	if r.TorqueNM > 0 {
		list = append(list, units.Say("done up to %.1f", units.Of(r.TorqueNM, "N m")))
	}
	return list
}

// sealed is why a seal is excused that sealant stands in for.
const sealed = "sealant in its place"

// refitted takes in how an item went back. Sealant in the place of a seal counts for it: it is excused until the proper
// part, or until somebody says that there is none. Nothing but a seal has sealant in its place.
func refitted(_ *Account, i *Item, d Done) {
	i.Refit, i.RefitBy = *d.Refit, Refitter{By: d.By, At: d.At, Entry: d.Entry}
	if i.Kind != Seal {
		i.Refit.Sealant = ""
	}
	switch {
	case i.Refit.Sealant == "" && i.Excused == sealed:
		i.Excused = ""
	case i.Refit.Sealant != "" && i.StillOff() > 0:
		i.Excused = sealed
	}
}

// PartsUsed lists the parts that were used: those that were put down as used, and those that went back new and were not
// put down yet, each once. A part put down covers what it names, as a kit does, or was put down for.
func (a *Account) PartsUsed() []Used {
	return append(slices.Clone(a.Used), a.FittedNew()...)
}

// FittedNew lists what went back new and was not put down as used: item by item, with how many. For says which item.
func (a *Account) FittedNew() []Used {
	left := make([]float64, len(a.Used))
	for i, u := range a.Used {
		left[i] = u.Quantity
	}
	var list []Used
	for _, i := range a.Items {
		n := float64(i.New)
		for k, u := range a.Used {
			if n <= 0 {
				break
			}
			switch {
			case !u.covers(i):
			case u.For != "" && len(u.Holds) == 0: // by the piece
				take := min(n, left[k])
				n, left[k] = n-take, left[k]-take
			default: // a kit, or words that name it: a set is counted as one
				n = 0
			}
		}
		if n > 0 {
			list = append(list, Used{Label: i.Label, Quantity: n, State: New, For: i.Key})
		}
	}
	return list
}

// covers says whether a part put down as used is what an item is now, or holds it.
func (u Used) covers(i Item) bool {
	if u.State != New {
		return false
	}
	if u.For == i.Key || u.For == i.Scope+i.Task+"/"+i.ID {
		return true
	}
	return u.For == "" && names(u.Label, i.Label) ||
		slices.ContainsFunc(u.Holds, func(line string) bool { return names(line, i.Label) })
}

// small words and counts tell no part from another.
var small = []string{"a", "an", "the", "or", "and", "of", "with", "x", "set", "kit", "pair", "new"}

// words are those of a label that tell what it is, in the singular.
func words(s string) (list []string) {
	for w := range strings.FieldsFuncSeq(strings.ToLower(s), func(r rune) bool {
		return !unicode.IsLetter(r) && r != '-'
	}) {
		if w = strings.TrimSuffix(w, "s"); w != "" && !slices.Contains(small, w) {
			list = append(list, w)
		}
	}
	return list
}

// general words name no part by themselves: which gasket, which seal.
var general = []string{"gasket", "seal", "o-ring", "washer"}

// names says whether every word of one way of naming a part stands in the other: "impeller" and "2 impellers", "cover
// gasket or O-ring" and "cover gasket".
func names(a, b string) bool {
	x, y := words(a), words(b)
	return within(x, y) || within(y, x)
}

// namesSurely is names where a word that names no part by itself is not enough: "gasket" may be another one.
func namesSurely(a, b string) bool {
	vague := func(w []string) bool { return len(w) == 1 && slices.Contains(general, w[0]) }
	return names(a, b) && !vague(words(a)) && !vague(words(b))
}

func within(few, many []string) bool {
	return len(few) > 0 && !slices.ContainsFunc(few, func(w string) bool { return !slices.Contains(many, w) })
}

// Needs lists what a task takes new: its seals, and the parts that it usually uses up.
func Needs(t catalogue.Task) []string {
	var list []string
	for _, i := range t.Items {
		usual := slices.ContainsFunc(t.Parts, func(p string) bool { return names(p, i.Label) })
		if i.Kind == Seal || i.Kind == Part && usual {
			list = append(list, i.Label)
		}
	}
	return list
}

// Lacks lists what of some needs the lines of a kit do not name.
func Lacks(needs, kit []string) []string {
	lacks := []string{}
	for _, n := range needs {
		if !slices.ContainsFunc(kit, func(line string) bool { return namesSurely(line, n) }) {
			lacks = append(lacks, n)
		}
	}
	return lacks
}
