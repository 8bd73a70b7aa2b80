package teardown

import (
	"fmt"
	"slices"
	"strings"
)

// Condition is one thing that must be so before the engine is started.
type Condition struct {
	ID, Label string
	OK        bool
	Why       string // what stands in the way
	// Settle is the act that settles it with one touch, as do, item, state and count; empty where there is more to it.
	Settle, Item, State string
	Count               int
	// Clamps is how many the touch says that a hose has, their heads where a driver reaches.
	Clamps int
	// Words: the touch that settles it asks for a few words.
	Words bool
	// Stands: it also keeps the job from being closed.
	Stands bool
	// Overridden is the reason for which it is passed over.
	Overridden string
}

// Passed says whether the condition is met or passed over with a reason.
func (c Condition) Passed() bool { return c.OK || c.Overridden != "" }

// Ready says whether every condition is met or passed over.
func Ready(list []Condition) bool {
	return !slices.ContainsFunc(list, func(c Condition) bool { return !c.Passed() })
}

// Standing lists what keeps a job from being closed, in words.
func Standing(conditions []Condition) []string {
	var list []string
	for _, c := range conditions {
		if c.Stands && !c.Passed() {
			list = append(list, c.Label+": "+c.Why)
		}
	}
	return list
}

// Overrides marks the conditions that are passed over with a reason, as they stood when it was given.
func (a *Account) Overrides(list []Condition) {
	for i, c := range list {
		if o, ok := a.overrides[c.ID]; ok && !c.OK && o.Against == c.Why {
			list[i].Overridden = o.Words
		}
	}
}

// Conditions lists what the hands must have done before a start: every part back, seals matched, hoses clamped,
// fasteners tightened, rubber found, isolations lifted (but for the raw water's).
func (a *Account) Conditions() []Condition {
	return slices.Concat(a.partsBack(), []Condition{a.sealsMatched()}, a.hosesClamped(),
		[]Condition{a.tightened(), a.piecesFound()}, a.isolations())
}

// Stands is a condition that also keeps the job from being closed; met where why is empty.
func Stands(id, label, why, settle, item string) Condition {
	return Condition{ID: id, Label: label, OK: why == "", Why: why, Settle: settle, Item: item, Stands: true}
}

func (a *Account) isolations() []Condition {
	var list []Condition
	for _, i := range Isolations {
		if i.ID == "seacock" || i.ID == "leg-hose" || !a.Shut(i.ID) {
			continue
		}
		list = append(list, Stands(i.ID, fmt.Sprintf("%s %s", i.Label, i.Open), strings.ToLower(i.Shut), Lift, i.ID))
	}
	return list
}

func times(n int, label string) string {
	if n == 1 {
		return label
	}
	return fmt.Sprintf("%d × %s", n, label)
}

// partsBack is a condition for each part, hose and set of fasteners that is off, with the touch that puts it back as it
// was; one that is met where none is.
func (a *Account) partsBack() []Condition {
	var list []Condition
	for _, i := range a.Items {
		if i.Kind == Seal {
			continue
		}
		if n := i.StillOff(); n > 0 {
			c := Stands("off:"+i.Key, times(n, i.Label), "still off", On, i.Key)
			c.State, c.Count = Reused, n
			list = append(list, c)
		}
		if n := i.On() - i.Off; n > 0 {
			list = append(list, Stands("count:"+i.Key, i.Label, fmt.Sprintf("%d more on than came off: count again",
				n), "", ""))
		}
	}
	if len(list) == 0 {
		list = append(list, Stands("parts-back", "Every part back", "", "", ""))
	}
	return list
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
	return Stands("seals-matched", "All seals replaced", strings.Join(list, "; "), "", "")
}

// below the waterline a hose has two clamps whose heads a driver reaches; elsewhere one will do.
const clampsBelow, clampsAbove = 2, 1

// hosesClamped is a condition for each hose that is back and not held as it should be, with the touch that says it is;
// one that is met where none is.
func (a *Account) hosesClamped() []Condition {
	var list []Condition
	for _, i := range a.Items {
		if i.Kind != Hose || i.On() == 0 {
			continue
		}
		want, why := clampsAbove, ""
		if i.Below {
			want = clampsBelow
		}
		switch {
		case i.Clamps < want:
			why = fmt.Sprintf("%d of %d clamps", i.Clamps, want)
		case i.Below && !i.Reach:
			why = "clamp heads where no driver reaches"
		default:
			continue
		}
		c := Stands("clamps:"+i.Key, i.Label+": clamped", why, On, i.Key)
		c.State, c.Clamps = Reused, want
		if i.New > 0 {
			c.State = New
		}
		list = append(list, c)
	}
	if len(list) == 0 {
		list = append(list, Stands("hoses-clamped", "Hoses clamped", "", "", ""))
	}
	return list
}

func (a *Account) tightened() Condition {
	var list []string
	for _, i := range a.Items {
		if i.Kind == Fasteners && i.Off >= LeastFasteners && i.On() >= i.Off && i.Pass < len(Passes) {
			list = append(list, fmt.Sprintf("%s: %d of %d passes", i.Label, i.Pass, len(Passes)))
		}
	}
	return Stands("tightened", "Fasteners tightened in their passes", strings.Join(list, "; "), "", "")
}

func (a *Account) piecesFound() Condition {
	why := ""
	if a.Ledger.Open() {
		why = a.Ledger.Say()
	}
	return Stands("pieces", "All rubber accounted for", why, "", "")
}
