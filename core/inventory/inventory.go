// Package inventory keeps account of the parts that a yard has: where they lie, how many, which engines they fit and
// how that is known, what is on order, and what was ordered wrong. It is folded from acts, so that two people's acts
// add up.
package inventory

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"
	"unicode"

	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// ways are how it is known that a part fits, the surest first.
var ways = []string{Tried, Measured, Listed}

// How it is known that a part fits.
const (
	Tried    = "tried"
	Measured = "measured"
	Listed   = "listed"
)

// Fit is an engine that a part fits, or a raw-water pump by which it fits every engine that has one, and how that is
// known. One of Engine and Pump is given.
type Fit struct {
	Engine string `json:"engine,omitempty"`
	Pump   string `json:"pump,omitempty"` // its type, as on its plate
	How    string `json:"how"`
}

// Engine is an engine as the inventory knows its: by its id, and by its raw-water pump's type where that is known.
type Engine struct{ ID, Pump string }

// FitOn says how it is known that a part fits an engine, by itself or by its pump, the surest way; not ok when it is
// not known to.
func (p Part) FitOn(e Engine) (how string, ok bool) { return p.places().on(e.ID, Plate(e.Pump)) }

// places are how it is known that a part fits, by engine and by a pump's plate.
type places struct{ engines, pumps map[string]int }

func (p Part) places() places {
	at := places{map[string]int{}, map[string]int{}}
	surer := func(list map[string]int, key, how string) {
		way := slices.Index(ways, how)
		if was, ok := list[key]; key != "" && way >= 0 && (!ok || way < was) {
			list[key] = way
		}
	}
	for _, f := range p.Fits {
		surer(at.engines, f.Engine, f.How)
		surer(at.pumps, Plate(f.Pump), f.How)
	}
	return at
}

func (at places) on(engine, plate string) (how string, ok bool) {
	a, byEngine := at.engines[engine]
	b, byPump := at.pumps[plate]
	switch {
	case byEngine && byPump:
		return ways[min(a, b)], true
	case byEngine:
		return ways[a], true
	case byPump:
		return ways[b], true
	}
	return "", false
}

// Plate is the letters and digits of what stands on a pump's plate, by which two writings of its type are compared:
// case, blanks and strokes do not count. Empty: not known, the same as none.
func Plate(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToUpper(r)
		}
		return -1
	}, s)
}

// Part is a part or a kit in stock.
type Part struct {
	Label       string              `json:"label"`
	Number      string              `json:"number,omitempty"` // the supplier's
	Where       string              `json:"where,omitempty"`
	Unit        string              `json:"unit,omitempty"` // as in L; empty: pieces
	Minimum     float64             `json:"minimum,omitempty"`
	Price       float64             `json:"price,omitempty"`  // each, in the yard's money
	Maintenance string              `json:"upkeep,omitempty"` // the maintenance item that uses it
	Fits        []Fit               `json:"fits,omitempty"`
	Impeller    *workbench.Impeller `json:"impeller,omitempty"` // its measures, where it is one
	Holds       []string            `json:"holds,omitempty"`    // the lines of a kit: what it has in it
	Gone        bool                `json:"gone,omitempty"`     // not kept any more
}

// What is done in stock.
const (
	SavePart = "keep"    // a part is added or changed
	Count    = "count"   // it was counted
	Order    = "order"   // it was ordered
	Receive  = "receive" // of an order
	Cancel   = "cancel"  // an order
	WrongOne = "wrong"   // what came was the wrong one, and why
)

// Act is one thing done in stock. Which fields count depends on Do.
type Act struct {
	Do       string  `json:"do"`
	Part     string  `json:"part"` // its id, made by the client
	Is       *Part   `json:"is,omitempty"`
	Quantity float64 `json:"quantity,omitempty"`
	Order    string  `json:"order,omitempty"` // its id, made by the client
	Number   string  `json:"number,omitempty"`
	Price    float64 `json:"price,omitempty"`
	DueDays  int     `json:"due_days,omitempty"`
	Words    string  `json:"words,omitempty"`
	// Seen is the entry by which the part was kept that was changed here: another since then is not overwritten.
	Seen string `json:"seen,omitempty"`
}

const (
	mostQuantity = 1e6
	mostPrice    = 1e7
)

// Check says what does not fit in an act in itself.
func (a Act) Check() error {
	var wrong validation.Errors
	need := func(missing bool, field string, allowed units.Sentence, say string) {
		if missing {
			wrong.Add(field, "nothing", allowed, "%s", say)
		}
	}
	amount := func(least float64) {
		if !(a.Quantity >= least && a.Quantity <= mostQuantity) {
			wrong.Add("quantity", a.Quantity, units.Say("%g to %g", least, float64(mostQuantity)), "say how many")
		}
	}
	need(strings.TrimSpace(a.Part) == "", "part", "an id", "say which part")
	if !(a.Price >= 0 && a.Price <= mostPrice) {
		wrong.Add("price", a.Price, "0 and more", "look at the price again")
	}
	switch a.Do {
	case SavePart:
		if need(a.Is == nil, "is", "a part", "say what it is"); a.Is != nil {
			wrong = append(wrong, a.Is.check()...)
		}
	case Count:
		amount(0)
	case Order:
		amount(1e-9)
		need(strings.TrimSpace(a.Order) == "", "order", "an id", "say which order")
	case Receive:
		amount(1e-9)
		need(strings.TrimSpace(a.Order) == "", "order", "an id", "say which order")
	case Cancel:
		need(strings.TrimSpace(a.Order) == "", "order", "an id", "say which order")
	case WrongOne:
		need(strings.TrimSpace(a.Words) == "", "words", "a sentence",
			"say in a few words what was wrong with it: it is shown the next time")
	default:
		wrong.Add("do", a.Do, "keep, count, order, receive, cancel, wrong", "there is no such act")
	}
	return wrong.Err()
}

func (p Part) check() (wrong validation.Errors) {
	if strings.TrimSpace(p.Label) == "" {
		wrong.Add("is.label", "nothing", "1 to 80 letters", "give it a name")
	}
	for name, v := range map[string]float64{"minimum": p.Minimum, "price": p.Price} {
		if !(v >= 0 && v <= mostPrice) {
			wrong.Add("is."+name, v, "0 and more", "look at the figure again")
		}
	}
	if p.Impeller != nil {
		p.Impeller.Check(&wrong, "is.impeller.")
	}
	type place struct{ engine, pump string }
	seen := map[place]bool{}
	for i, f := range p.Fits {
		at, field := place{f.Engine, Plate(f.Pump)}, fmt.Sprintf("is.fits[%d]", i)
		switch {
		case (at.engine == "") == (at.pump == ""):
			wrong.Add(field, "both or neither", "an engine or a pump",
				"say which engine it fits, or which raw-water pump by its plate")
		case !slices.Contains(ways, f.How) || seen[at]:
			wrong.Add(field, f.How, units.Sentence(strings.Join(ways, ", ")),
				"say of each engine and pump once how it is known that it fits")
		}
		seen[at] = true
	}
	return wrong
}

// Done is an act with who did it and when.
type Done struct {
	Act
	By    string
	At    time.Time
	Entry string // its id
}

// Used is what jobs on an engine took, at last at a time, as it happened: what waited on a device since before a count
// is in the count. Quantity leaves out what was taken before the part was last counted.
type Used struct {
	Part, Engine string
	Quantity     float64
	At           time.Time
}

// Ordered is an order that is not wholly received.
type Ordered struct {
	ID, Number string
	Quantity   float64
	Received   float64
	Price      float64
	By         string
	At, Due    time.Time
	Cancelled  bool
}

// Left is what is still to come.
func (o Ordered) Left() float64 {
	if o.Cancelled {
		return 0
	}
	return math.Max(0, o.Quantity-o.Received)
}

// Wrong is what was ordered wrong, and why.
type Wrong struct {
	Words, Number, By string
	At                time.Time
}

// Line is a part as it stands.
type Line struct {
	ID string
	Part
	Have    float64
	Counted time.Time // last
	Orders  []Ordered // open
	Wrong   []Wrong
	Kept    string    // the entry by which its facts were kept last
	said    time.Time // when it was last said what it fits, or that it was the wrong one
}

// Coming is what is on order.
func (l Line) Coming() float64 {
	sum := 0.0
	for _, o := range l.Orders {
		sum += o.Left()
	}
	return sum
}

// Fold is what the acts, and what the jobs took, make of it. A count says how many there are then; what was received
// and used since goes on from it. A part for certain engines or pumps that a job took since somebody last said what it
// fits was tried on the job's engine.
func Fold(acts []Done, used []Used) []Line {
	var list []*Line
	byID := map[string]*Line{}
	find := func(id string) *Line {
		if byID[id] == nil {
			byID[id] = &Line{ID: id}
			list = append(list, byID[id])
		}
		return byID[id]
	}
	for _, d := range acts {
		find(d.Part).take(d)
	}
	for _, u := range used {
		l := find(u.Part)
		if !u.At.Before(l.Counted) {
			l.Have -= u.Quantity
		}
		if u.Engine != "" && len(l.Fits) > 0 && !u.At.Before(l.said) {
			l.tried(u.Engine)
		}
	}
	var out []Line
	for _, l := range list {
		if l.Label != "" && !l.Gone {
			l.Orders = slices.DeleteFunc(l.Orders, func(o Ordered) bool { return o.Left() <= 0 })
			out = append(out, *l)
		}
	}
	return out
}

// Counted is when each part was last counted, zero where it never was: what was taken before is in the count.
func Counted(acts []Done) map[string]time.Time {
	at := map[string]time.Time{}
	for _, d := range acts {
		was := at[d.Part]
		if d.Do == Count {
			was = d.At
		}
		at[d.Part] = was
	}
	return at
}

// tried makes an engine one that the part was tried on.
func (l *Line) tried(engine string) {
	l.Fits = slices.Clone(l.Fits) // they are an act's
	if i := slices.IndexFunc(l.Fits, func(f Fit) bool { return f.Engine == engine }); i >= 0 {
		l.Fits[i].How = Tried
		return
	}
	l.Fits = append(l.Fits, Fit{Engine: engine, How: Tried})
}

func (l *Line) take(d Done) {
	at := slices.IndexFunc(l.Orders, func(o Ordered) bool { return o.ID == d.Act.Order })
	switch {
	case d.Do == SavePart:
		l.Part, l.said, l.Kept = *d.Is, d.At, d.Entry
	case d.Do == Count:
		l.Have, l.Counted = d.Quantity, d.At
	case d.Do == Order && at < 0:
		l.Orders = append(l.Orders, Ordered{ID: d.Act.Order, Number: d.Number, Quantity: d.Quantity, Price: d.Price,
			By: d.By, At: d.At, Due: d.At.AddDate(0, 0, d.DueDays)})
	case d.Do == Receive && at >= 0:
		l.Orders[at].Received += d.Quantity
		l.Have += d.Quantity
		if l.Orders[at].Price > 0 {
			l.Price = l.Orders[at].Price
		}
	case d.Do == Cancel && at >= 0:
		l.Orders[at].Cancelled = true
	case d.Do == WrongOne:
		l.Wrong, l.said = append(l.Wrong, Wrong{d.Words, d.Number, d.By, d.At}), d.At
		if d.Quantity > 0 {
			l.Have -= d.Quantity
		}
	}
}

// Refuse says why an act does not fit the inventory as it stands; empty when it does.
func Refuse(list []Line, a Act) string {
	at := slices.IndexFunc(list, func(l Line) bool { return l.ID == a.Part })
	if a.Do == SavePart && (a.Seen == "" || at >= 0 && list[at].Kept == a.Seen) {
		return ""
	}
	if a.Do == SavePart && at >= 0 {
		return "that part was changed on another device meanwhile: close this, and look at it as it stands now"
	}
	if at < 0 {
		return "that part is not in stock any more: it may have been taken back on another device"
	}
	l := list[at]
	order := slices.IndexFunc(l.Orders, func(o Ordered) bool { return o.ID == a.Order })
	switch {
	case a.Do == Order && order >= 0:
		return "that order is made already"
	case (a.Do == Receive || a.Do == Cancel) && order < 0:
		return "that order is not open any more: it was received or cancelled on another device"
	case a.Do == Receive && a.Quantity > l.Orders[order].Left()+1e-9:
		return fmt.Sprintf("%g are still to come of that order, not %g: count the stock if more lie there",
			l.Orders[order].Left(), a.Quantity)
	case a.Do == WrongOne && a.Quantity > l.Have+1e-9:
		return fmt.Sprintf("%g lie in stock, not %g", l.Have, a.Quantity)
	}
	return ""
}

// Need is a part to be ordered: how many, and why.
type Need struct {
	Line
	Quantity float64
	Reasons  []string
}

// Wanted is a maintenance item that is due soon on an engine, by which its part is wanted.
type Wanted struct {
	Maintenance string
	Engine      Engine
	Say         string
}

// ToOrder lists what is to be ordered: what is under its minimum, and what is due soon on engines that it fits.
func ToOrder(list []Line, wanted []Wanted) []Need {
	var out []Need
	type want struct {
		engine, plate, say string
	}
	wants := map[string][]want{} // by maintenance
	for _, w := range wanted {
		wants[w.Maintenance] = append(wants[w.Maintenance], want{w.Engine.ID, Plate(w.Engine.Pump), w.Say})
	}
	for _, l := range list {
		n := Need{Line: l}
		want, at := l.Minimum, l.places()
		for _, w := range wants[l.Maintenance] {
			if _, fits := at.on(w.engine, w.plate); fits {
				want++
				n.Reasons = append(n.Reasons, w.say)
			}
		}
		if n.Quantity = want - l.Have - l.Coming(); n.Quantity <= 1e-9 {
			continue
		}
		if l.Have < l.Minimum {
			n.Reasons = append([]string{fmt.Sprintf("%g here, the least is %g", l.Have, l.Minimum)}, n.Reasons...)
		}
		out = append(out, n)
	}
	return out
}
