package teardown

import (
	"maps"
	"slices"
	"time"

	"hevrin/core/catalogue"
)

// Done is an act with who did it, when, and in which entry. Scope, where an account is of several jobs, is the job's:
// it goes before the keys of its items.
type Done struct {
	Act
	Scope string
	By    string
	At    time.Time
	Entry string
}

// Item is something that comes off, with what became of it.
type Item struct {
	catalogue.Item
	Key     string // task and id, the scope before them
	Scope   string
	Task    string
	Round   int // how often it was off and back before
	Off     int
	New     int // back, new
	Reused  int // back, the old one
	Excused string
	Why     string // the old one went back because
	Notes   []string
	Pass    int
	Clamps  int
	Reach   bool
	Chafe   bool
	Refit   Refit
	RefitBy Refitter // who said how it went back
	LastOff int      // in the order of doing; the rebuild goes backwards
}

// again begins a new round: what came off once more is counted afresh.
func (i *Item) again() {
	*i = Item{Item: i.Item, Key: i.Key, Scope: i.Scope, Task: i.Task, Notes: i.Notes, Round: i.Round + 1}
}

// Back says whether it was off and is back, or excused.
func (i Item) Back() bool { return i.Off > 0 && i.StillOff() == 0 }

// On is how many are back.
func (i Item) On() int { return i.New + i.Reused }

// StillOff is how many are not back and not excused.
func (i Item) StillOff() int {
	if i.Excused != "" {
		return 0
	}
	return max(0, i.Off-i.On())
}

// Isolated is an isolation that stands.
type Isolated struct {
	ID, Banner string
	By         string
	At         time.Time
	Words      string
	Litres     float64
}

// Started is a start of the engine that was called ready.
type Started struct {
	By    string
	At    time.Time
	Entry string
}

// Waiting says what a job is paused for, since when, and who said so.
type Waiting struct {
	For   string // part, haul-out, owner, specialist, other
	Words string
	By    string
	At    time.Time
}

// waits are what a job can be paused for, in words.
var waits = map[string]string{"part": "a part", "haul-out": "a haul-out", "owner": "the owner",
	"specialist": "a specialist", "other": "something else"}

// Say says what the job waits for.
func (w Waiting) Say() string { return waits[w.For] + ": " + w.Words }

// Account is what the acts of a job make.
type Account struct {
	Isolated  []Isolated
	Tasks     []catalogue.Task
	Items     []Item
	Wheel     *Wheel
	Ledger    Ledger
	Body      *Body
	Leaks     []string
	LeaksSaid bool
	Elbow     *Elbow
	Used      []Used
	UsedFrom  []string             // entries
	UsedAt    map[string]time.Time // by entry
	FittedAt  map[string]time.Time // when an item last went back new, by its key
	Waiting   *Waiting             // nil while the job goes on
	PutRight  []Done               // faults that somebody said are put right, each once
	howFar    map[string]float64   // by fault: what somebody said of its extent
	Heeded    []string
	Methods   map[string]string
	Ticked    map[string]time.Time // when it was looked at
	Stirred   int                  // how often all looks were let go
	Starts    []Started
	overrides map[string]Act
	Drained   bool // coolant was drained since the last start
	Opened    bool // anything came off since the last start
	Oil       bool // the oil side was opened since the last start
	seq       int
	begun     map[string]bool // tasks, by scope and id
	pieces    []PieceFound
	looked    []string
	closed    string
	wheelIn   string  // the scope in which the wheel was tapped
	carried   float64 // at large from a wheel before, in blades
	claimed   bool    // a check saw blades missing, and nobody took it back
	unseen    bool    // a check saw blades missing, and no wheel was tapped since
	denied    bool    // a check saw blades missing, and the wheel tapped after it is whole
}

// Empty says whether nothing was done by hand.
func (a *Account) Empty() bool { return a == nil || a.seq == 0 }

// NewAccount is an account in which nothing was done.
func NewAccount() *Account {
	return &Account{Methods: map[string]string{}, Ticked: map[string]time.Time{}, UsedAt: map[string]time.Time{},
		FittedAt: map[string]time.Time{}, overrides: map[string]Act{},
		begun: map[string]bool{}}
}

// Take takes an act in.
func (a *Account) Take(d Done) {
	a.seq++
	if step, ok := steps[d.Do]; ok {
		step(a, d)
	}
	a.tally()
}

// BladesMissing takes in that a check saw blades missing, or saw them all: then how much is missing is not known until
// the wheel is tapped.
func (a *Account) BladesMissing(missing bool) {
	a.claimed, a.denied = missing, false
	a.unseen = missing && (a.Wheel == nil || a.Wheel.Missing() == 0)
	if missing {
		a.closed = ""
	}
	a.tally()
}

func (a *Account) tally() {
	a.Ledger = ledger(a.Wheel, a.pieces, a.looked, a.closed)
	a.Ledger.carry(a.carried)
	a.Ledger.Unseen, a.Ledger.Denied = a.unseen, a.denied
}

// forgetWheel makes room for another wheel: what of the last one is still at large goes on with it.
func (a *Account) forgetWheel(scope string) {
	a.carried = 0
	if a.Ledger.Open() {
		a.carried = a.Ledger.AtLarge
	}
	a.pieces = slices.DeleteFunc(slices.Clone(a.pieces),
		func(p PieceFound) bool { return p.scope != scope || scope == "" })
	a.Wheel, a.looked, a.closed = nil, nil, ""
	a.tally()
}

func (a *Account) item(key string) *Item {
	for i := range a.Items {
		if a.Items[i].Key == key {
			return &a.Items[i]
		}
	}
	return nil
}

// Has says whether an item of this key is on the list.
func (a *Account) Has(key string) bool { return a.item(key) != nil }

func with(f func(a *Account, i *Item, d Done)) func(*Account, Done) {
	return func(a *Account, d Done) {
		if i := a.item(d.Scope + d.Item); i != nil {
			f(a, i, d)
		} else if i := a.item(d.Item); i != nil { // of another job
			f(a, i, d)
		}
	}
}

var steps = map[string]func(*Account, Done){
	Isolate: func(a *Account, d Done) {
		a.lift(d.Item)
		for _, i := range Isolations {
			if i.ID == d.Item {
				a.Isolated = append(a.Isolated, Isolated{ID: i.ID, Banner: i.Shut, By: d.By, At: d.At, Words: d.Words,
					Litres: d.Litres})
			}
		}
		a.Drained = a.Drained || d.Item == "coolant"
		a.Stir()
	},
	Lift: func(a *Account, d Done) { a.lift(d.Item) },
	Begin: func(a *Account, d Done) {
		if a.begun[d.Scope+d.Task.ID] {
			return
		}
		a.begun[d.Scope+d.Task.ID] = true
		a.Tasks = append(a.Tasks, *d.Task)
		for _, i := range d.Task.Items {
			a.Items = append(a.Items, Item{Item: i, Key: d.Scope + d.Task.ID + "/" + i.ID, Scope: d.Scope, Task: d.Task.ID})
		}
	},
	Add: func(a *Account, d Done) {
		if key := d.Scope + "own/" + d.Adds.ID; !a.Has(key) { // what came off is off the moment it is listed
			a.Items = append(a.Items, Item{Item: *d.Adds, Key: key, Scope: d.Scope, Off: d.Adds.Count, LastOff: a.seq})
			a.opened(d.Adds.Oil)
		}
	},
	Off: with(func(a *Account, i *Item, d Done) {
		if d.Count > 0 && i.Off > 0 && i.On() == i.Off { // once more
			i.again()
			if i.ID == Impeller {
				a.forgetWheel("")
			}
		}
		i.Off = min(max(0, i.Off+d.Count), i.Count) // no more can be off than there are
		i.LastOff, i.Excused = a.seq, ""
		if d.Count > 0 {
			i.Pass, i.Refit, i.RefitBy = 0, Refit{}, Refitter{}
			a.opened(i.Oil)
		}
		if d.Words != "" {
			i.Notes = append(i.Notes, d.Words)
		}
	}),
	On: with(func(a *Account, i *Item, d Done) {
		switch {
		case d.Count == 0: // its clamps alone
		case d.State == New:
			i.New = max(0, i.New+d.Count)
			a.FittedAt[i.Key] = d.At
			a.claimed = a.claimed && i.ID != Impeller // what the check saw was the old one
		default:
			i.Reused = max(0, i.Reused+d.Count)
			i.Why = d.Words
		}
		if d.Clamps > 0 {
			i.Clamps, i.Reach, i.Chafe = d.Clamps, d.Reach, d.Chafe
		}
		if d.Words != "" && d.State == New {
			i.Notes = append(i.Notes, d.Words)
		}
	}),
	Counted: with(func(_ *Account, i *Item, d Done) {
		i.Count = d.Count
		if d.State != "" {
			i.Shape = d.State
		}
	}),
	Refitted: with(refitted),
	Wait: func(a *Account, d Done) {
		a.Waiting = &Waiting{For: d.Item, Words: d.Words, By: d.By, At: d.At}
	},
	GoOn: func(a *Account, _ Done) { a.Waiting = nil },
	PutRight: func(a *Account, d Done) {
		a.PutRight = append(slices.DeleteFunc(a.PutRight, func(x Done) bool { return x.Item == d.Item }), d)
	},
	HowFar: func(a *Account, d Done) {
		if a.howFar == nil {
			a.howFar = map[string]float64{}
		}
		a.howFar[d.Item] = d.Share
	},
	Noted:   with(func(_ *Account, i *Item, d Done) { i.Notes = append(i.Notes, d.Words) }),
	Excuse:  with(func(_ *Account, i *Item, d Done) { i.Excused = d.Words }),
	Tighten: with(func(_ *Account, i *Item, d Done) { i.Pass = max(i.Pass, d.Pass) }),
	SetWheel: func(a *Account, d Done) {
		if a.Wheel != nil && a.wheelIn != d.Scope {
			a.forgetWheel(d.Scope)
		}
		a.Wheel, a.closed, a.wheelIn = d.Wheel, "", d.Scope
		a.unseen, a.denied = false, a.claimed && d.Wheel.Missing() == 0
	},
	Found:    func(a *Account, d Done) { a.pieces = append(a.pieces, PieceFound{*d.Piece, d.Item, d.Scope}) },
	Looked:   func(a *Account, d Done) { a.looked = append(a.looked, d.Item) },
	GiveUp:   func(a *Account, d Done) { a.closed, a.claimed, a.unseen, a.denied = d.Words, false, false, false },
	SetBody:  func(a *Account, d Done) { a.Body = d.Body },
	SetLeaks: func(a *Account, d Done) { a.Leaks, a.LeaksSaid = d.Leaks, true },
	SetElbow: func(a *Account, d Done) { a.Elbow = d.Elbow },
	Use: func(a *Account, d Done) {
		a.Used, a.UsedFrom = append(a.Used, *d.Used), append(a.UsedFrom, d.Entry)
		a.UsedAt[d.Entry] = d.At
	},
	Heed:     func(a *Account, d Done) { a.Heeded = append(a.Heeded, d.Item) },
	Choose:   func(a *Account, d Done) { a.Methods[d.Item] = d.State },
	Tick:     func(a *Account, d Done) { a.Ticked[d.Item] = d.At },
	Untick:   func(a *Account, d Done) { delete(a.Ticked, d.Item) },
	Override: func(a *Account, d Done) { a.overrides[d.Item] = d.Act },
	Start: func(a *Account, d Done) {
		a.Starts = append(a.Starts, Started{By: d.By, At: d.At, Entry: d.Entry})
		a.Stir() // the next start is looked at afresh
		a.Opened, a.Drained, a.Oil = false, false, false
	},
}

// opened notes that something came off: what only a person sees is to be looked at again.
func (a *Account) opened(oil bool) {
	a.Opened, a.Oil = true, a.Oil || oil
	a.Stir()
}

// Stir lets all looks go that only a person makes: something was opened, shut or run since.
func (a *Account) Stir() {
	a.Ticked = map[string]time.Time{}
	a.Stirred++
}

func (a *Account) lift(id string) {
	a.Isolated = slices.DeleteFunc(a.Isolated, func(i Isolated) bool { return i.ID == id })
}

// Shut says whether an isolation stands.
func (a *Account) Shut(id string) bool {
	return slices.ContainsFunc(a.Isolated, func(i Isolated) bool { return i.ID == id })
}

// Rebuild lists what is still off in the order in which it goes back: the last that came off first.
func (a *Account) Rebuild() []Item {
	var list []Item
	for _, i := range a.Items {
		if i.StillOff() > 0 {
			list = append(list, i)
		}
	}
	slices.SortStableFunc(list, func(x, y Item) int { return y.LastOff - x.LastOff })
	return list
}

// Keys are the keys of the items on the list.
func (a *Account) Keys() map[string]bool {
	keys := make(map[string]bool, len(a.Items))
	for _, i := range a.Items {
		keys[i.Key] = true
	}
	return keys
}

// PassedOver lists the conditions of a start that were passed over, each with what stood in the way and the reason, by
// the condition's id.
func (a *Account) PassedOver() []Act {
	var list []Act
	for _, id := range slices.Sorted(maps.Keys(a.overrides)) {
		list = append(list, a.overrides[id])
	}
	return list
}

// Extent is how far a fault has gone, as a share from 0 to 1: as somebody said, or as the workbench measured the elbow
// or counted the blades. Not ok where nobody did.
func (a *Account) Extent(fault string) (float64, bool) {
	if share, said := a.howFar[fault]; said {
		return share, true
	}
	switch {
	case (fault == "elbow-choked" || fault == "riser-choked") && a.Elbow != nil && a.Elbow.NewBoreMM > 0:
		return 1 - a.Elbow.BoreMM/a.Elbow.NewBoreMM, true
	case fault == "impeller-vanes-missing" && a.Wheel != nil && len(a.Wheel.Blades) > 0 && a.Wheel.Missing() > 0:
		return min(1, a.Wheel.Missing()/float64(len(a.Wheel.Blades))), true
	}
	return 0, false
}
