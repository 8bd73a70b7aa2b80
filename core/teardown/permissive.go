package teardown

import (
	"fmt"
	"slices"
	"strings"
)

// Engine is what the conditions of a start need to know of one.
type Engine struct {
	Closed, Petrol bool
	Circuit        []string
}

// Condition is one thing that must be so before the engine is started.
type Condition struct {
	ID, Label string
	OK        bool
	Why       string // what stands in the way
	// Settle is the act that settles it with one touch, as do and item; empty where there is more to it.
	Settle, Item string
	// Stands: it also keeps the job from being closed.
	Stands bool
	// Overridden is the reason for which it is passed over.
	Overridden string
}

// Passed says whether the condition is met or passed over with a reason.
func (c Condition) Passed() bool { return c.OK || c.Overridden != "" }

// looks are the conditions that only a person sees, in the order of doing.
var looks = []struct {
	id, label string
	when      func(a *Account, e Engine) bool
}{
	{"strainer-lid", "Strainer lid on and tight", func(_ *Account, e Engine) bool {
		return slices.Contains(e.Circuit,
			"strainer")
	}},
	{"pump-primed", "Pump lubricated or primed", func(a *Account, _ Engine) bool { return a.opened }},
	{"coolant-filled", "Coolant filled and the cap on", func(a *Account, e Engine) bool { return e.Closed && a.drained }},
	{"silencer-drained", "No long cranking without firing, or the silencer drained", func(*Account,
		Engine) bool {
		return true
	}},
	{"blower", "Blower run four minutes, bilge sniffed", func(_ *Account, e Engine) bool { return e.Petrol }},
	{"people-clear", "People clear of belts and pulleys", func(*Account, Engine) bool { return true }},
	{"outlet-watched", "Someone watches the outlet: water within 30 seconds, or stop", func(*Account,
		Engine) bool {
		return true
	}},
}

// Conditions lists what must be so before a start, in the order of doing.
func (a *Account) Conditions(e Engine) []Condition {
	list := []Condition{a.seacock(e), a.partsBack(), a.sealsMatched(), a.hosesClamped(), a.tightened(), a.piecesFound()}
	list = append(list, a.isolations()...)
	for _, l := range looks {
		if l.when(a, e) {
			c := Condition{ID: l.id, Label: l.label, OK: a.Ticked[l.id], Settle: Tick, Item: l.id}
			if !c.OK {
				c.Why = "not looked at yet"
			}
			list = append(list, c)
		}
	}
	for i, c := range list {
		if o, ok := a.overrides[c.ID]; ok && !c.OK && o.Against == c.Why {
			list[i].Overridden = o.Words
		}
	}
	return list
}

// Ready says whether every condition is met or passed over.
func Ready(list []Condition) bool {
	return !slices.ContainsFunc(list, func(c Condition) bool { return !c.Passed() })
}

// Standing lists what keeps the job from being closed, in words.
func (a *Account) Standing(e Engine) []string {
	var list []string
	for _, c := range a.Conditions(e) {
		if c.Stands && !c.Passed() {
			list = append(list, c.Label+": "+c.Why)
		}
	}
	return list
}

func condition(id, label, why, settle, item string) Condition {
	return Condition{ID: id, Label: label, OK: why == "", Why: why, Settle: settle, Item: item, Stands: true}
}

func (a *Account) seacock(e Engine) Condition {
	id, label := "seacock", "Seacock open"
	if !slices.Contains(e.Circuit, "seacock") {
		id, label = "leg-hose", "Drive-leg hose back on"
	}
	why := ""
	for _, i := range a.Isolated {
		if i.ID == "seacock" || i.ID == "leg-hose" {
			id, why = i.ID, fmt.Sprintf("%s, by %s", strings.ToLower(i.Banner), i.By)
		}
	}
	return condition(id, label, why, Lift, id)
}

func (a *Account) isolations() []Condition {
	var list []Condition
	for _, i := range Isolations {
		if i.ID == "seacock" || i.ID == "leg-hose" || !a.Shut(i.ID) {
			continue
		}
		list = append(list, condition(i.ID, fmt.Sprintf("%s %s", i.Label, i.Open), strings.ToLower(i.Shut), Lift, i.ID))
	}
	return list
}

// count says what is off of the kinds, as "2 × Cover screws, Key".
func (a *Account) count(kinds ...string) string {
	var list []string
	for _, i := range a.Items {
		if n := i.StillOff(); n > 0 && slices.Contains(kinds, i.Kind) {
			list = append(list, times(n, i.Label))
		}
	}
	return strings.Join(list, ", ")
}

func times(n int, label string) string {
	if n == 1 {
		return label
	}
	return fmt.Sprintf("%d × %s", n, label)
}

func (a *Account) partsBack() Condition {
	why := a.count(Part, Fasteners, Hose)
	for _, i := range a.Items {
		if i.On() > i.Off && i.Kind != Seal {
			why = strings.TrimPrefix(why+", ", ", ") + times(i.On()-i.Off, i.Label) + " more on than came off: count again"
		}
	}
	if why != "" && !strings.Contains(why, "count again") {
		why = "still off: " + why
	}
	return condition("parts-back", "Every part back", why, "", "")
}

func (a *Account) sealsMatched() Condition {
	var list []string
	for _, i := range a.Items {
		if i.Kind != Seal || i.Excused != "" {
			continue
		}
		at := i.Label
		if i.Where != "" {
			at += " (" + i.Where + ")"
		}
		switch {
		case i.Off > i.On():
			list = append(list, fmt.Sprintf("%s: %d off, %d on", at, i.Off, i.On()))
		case i.On() > i.Off:
			list = append(list, fmt.Sprintf("%s: %d on, only %d came off: is an old one still in there?", at, i.On(), i.Off))
		case i.Reused > 0 && i.Why == "":
			list = append(list, at+": the old one went back without a reason")
		}
	}
	return condition("seals-matched", "All seals replaced", strings.Join(list, "; "), "", "")
}

// below the waterline a hose has two clamps whose heads a driver reaches; elsewhere one will do.
const clampsBelow, clampsAbove = 2, 1

func (a *Account) hosesClamped() Condition {
	var list []string
	for _, i := range a.Items {
		if i.Kind != Hose || i.On() == 0 {
			continue
		}
		want := clampsAbove
		if i.Below {
			want = clampsBelow
		}
		switch {
		case i.Clamps < want:
			list = append(list, fmt.Sprintf("%s: %d of %d clamps", i.Label, i.Clamps, want))
		case i.Below && !i.Reach:
			list = append(list, i.Label+": clamp heads where no driver reaches")
		}
	}
	return condition("hoses-clamped", "Hoses clamped", strings.Join(list, "; "), "", "")
}

func (a *Account) tightened() Condition {
	var list []string
	for _, i := range a.Items {
		if i.Kind == Fasteners && i.Off >= LeastFasteners && i.On() >= i.Off && i.Pass < len(Passes) {
			list = append(list, fmt.Sprintf("%s: %d of %d passes", i.Label, i.Pass, len(Passes)))
		}
	}
	return condition("tightened", "Fasteners tightened in their passes", strings.Join(list, "; "), "", "")
}

func (a *Account) piecesFound() Condition {
	why := ""
	if a.Ledger.Open() {
		why = a.Ledger.Say()
	}
	return condition("pieces", "All rubber accounted for", why, "", "")
}
