package teardown

import (
	"fmt"
	"math"
	"slices"

	"hevrin/core/validation"
)

// What a blade can be like.
const (
	Sound   = "sound"
	Gone    = "gone"
	Torn    = "torn"
	Cracked = "cracked"
	Set     = "set"
)

// Wheel is an impeller as it came out: its blades in the order of the wheel, and its hub.
type Wheel struct {
	Blades  []Blade `json:"blades"`
	HubLoud bool    `json:"hub_slips,omitempty"` // the bond or the drive slips
	Scored  bool    `json:"scored,omitempty"`    // scores on the face: a mirror of the body
	Hours   float64 `json:"hours,omitempty"`     // it has run; 0: not known
	Life    float64 `json:"life_hours,omitempty"`
}

// Blade is one blade; Share, of a torn one, is what is missing of it.
type Blade struct {
	State string  `json:"state"`
	Share float64 `json:"share,omitempty"`
}

func (w Wheel) check(wrong *validation.Errors) {
	if n := len(w.Blades); n < 3 || n > 16 {
		wrong.Add("wheel.blades", n, "3 to 16", "say how many blades it has")
	}
	for i, b := range w.Blades {
		at := fmt.Sprintf("wheel.blades[%d]", i)
		if !slices.Contains([]string{Sound, Gone, Torn, Cracked, Set}, b.State) {
			wrong.Add(at+".state", b.State, "sound, gone, torn, cracked, set", "say what the blade is like")
		}
		if b.State == Torn && !(b.Share > 0 && b.Share < 1) {
			wrong.Add(at+".share", b.Share, "above 0, below 1", "say how much of the blade is missing")
		}
	}
	between(wrong, "wheel.hours", w.Hours, 0, 20000, "hours")
	between(wrong, "wheel.life_hours", w.Life, 0, 20000, "hours")
}

// Missing is what of the wheel is gone, in blades.
func (w Wheel) Missing() float64 {
	sum := 0.0
	for _, b := range w.Blades {
		switch b.State {
		case Gone:
			sum++
		case Torn:
			sum += b.Share
		}
	}
	return sum
}

func (w Wheel) has(states ...string) bool {
	return slices.ContainsFunc(w.Blades, func(b Blade) bool { return slices.Contains(states, b.State) })
}

// Verdicts on a wheel.
const (
	ReuseIt        = "reuse"
	Replace        = "replace"
	ReplaceAndHunt = "replace-and-hunt"
)

// Judge gives the verdict on a wheel, with its reasons. keepsSound is the yard's way with an old one that is sound.
func (w Wheel) Judge(keepsSound bool) (verdict string, reasons []string) {
	say := func(format string, args ...any) { reasons = append(reasons, fmt.Sprintf(format, args...)) }
	if m := w.Missing(); m > 0 {
		say("%.2g of a blade is missing: find it before the water does", m)
	}
	if w.has(Cracked) {
		say("a crack at the root is the next blade to go")
	}
	if w.has(Set) {
		say("blades that stay bent no longer seal, nor draw air when dry")
	}
	if w.HubLoud {
		say("the hub or its drive slips: the pump stands still while the engine runs")
	}
	if w.Scored {
		say("its face is scored: look at the plate and the cover for the same marks")
	}
	const spareUnder = 0.5 // of its service history
	switch {
	case w.Missing() > 0:
		return ReplaceAndHunt, reasons
	case w.has(Cracked, Set) || w.HubLoud || w.Scored:
		return Replace, reasons
	case w.Life > 0 && w.Hours >= w.Life:
		say("sound, but at %.0f of its %.0f hours", w.Hours, w.Life)
		return Replace, reasons
	case w.Hours == 0:
		say("it looks sound; its hours are not known, so a new one is the cheaper risk")
	case w.Life > 0 && w.Hours < spareUnder*w.Life && keepsSound:
		say("sound at %.0f of its %.0f hours: it may go back, or lie by as a spare, labelled so", w.Hours, w.Life)
		return ReuseIt, reasons
	default:
		say("sound; with so many hours on it, fit a new one while it is open")
	}
	return Replace, reasons
}

// Piece is a fragment that turned up: its size as a share of a blade, and whether it is of an earlier impeller.
type Piece struct {
	Share float64 `json:"share"`
	Old   bool    `json:"old,omitempty"`
}

// PieceFound is a piece and where it was.
type PieceFound struct {
	Piece
	Station string
	scope   string
}

// Ledger is the account of the rubber, in blades.
type Ledger struct {
	Missing, Found, Old float64
	AtLarge             float64
	Over                float64 // more found than is missing
	Unseen              bool    // a check saw blades missing: how much is not known until the wheel is tapped
	Denied              bool    // a check saw blades missing, and the wheel is whole: one of the two is wrong
	Closed              string  // why the hunt ended
	Pieces              []PieceFound
	Looked              []string
}

// smallest is what may stay at large: crumbs that pass every tube.
const smallest = 0.1

// Open says whether rubber is at large that nobody has accounted for.
func (l Ledger) Open() bool {
	return (l.AtLarge > smallest+1e-9 || l.Unseen || l.Denied) && l.Closed == ""
}

// carry adds what of a wheel before is still at large.
func (l *Ledger) carry(blades float64) {
	l.Missing += blades
	l.AtLarge, l.Over = max(0, l.Missing-l.Found), max(0, l.Found-l.Missing)
}

// Say is the account in words.
func (l Ledger) Say() string {
	switch {
	case l.Unseen:
		return "blades are missing, how much is not known: tap the wheel as it came out"
	case l.Denied:
		return "a check saw blades missing, the wheel tapped is whole: which is so?"
	case l.Missing == 0 && l.Found == 0:
		return "no blade is missing"
	case l.Over > smallest+1e-9:
		return fmt.Sprintf("%.2f of a blade more was found than is missing: some of it is from an earlier impeller, so "+
			"count again", l.Over)
	case l.AtLarge > smallest+1e-9:
		return fmt.Sprintf("%.2f missing, %.2f found: %.2f of a blade unaccounted for", l.Missing, l.Found, l.AtLarge)
	}
	return fmt.Sprintf("%.2f missing, %.2f found: all accounted for", l.Missing, l.Found)
}

func ledger(w *Wheel, pieces []PieceFound, looked []string, closed string) Ledger {
	l := Ledger{Pieces: pieces, Looked: looked, Closed: closed}
	if w != nil {
		l.Missing = w.Missing()
	}
	for _, p := range pieces {
		if p.Old {
			l.Old += p.Share
		} else {
			l.Found += p.Share
		}
	}
	l.AtLarge, l.Over = max(0, l.Missing-l.Found), max(0, l.Found-l.Missing)
	return l
}

// Hunt is a place to look for rubber.
type Hunt struct {
	Station string
	Say     string
	// Crumbs: only crumbs come so far; the pieces are larger than what lies before it lets through.
	Crumbs bool
	Looked bool
}

// narrow is how wide a station's passages are, in mm; common practice. What is not here lets a whole blade through.
var narrow = map[string]float64{"raw-filter": 2, "gear-cooler": 7, "oil-cooler": 7, "charge-cooler": 6,
	"exchanger": 6.5, "thermostat": 12, "elbow": 10}

// faces says where rubber lies at a station.
var faces = map[string]string{
	"raw-pump": "in the housing, behind the cam and in the outlet port", "raw-filter": "in its basket",
	"gear-cooler": "on its inlet face", "oil-cooler": "on its inlet face",
	"charge-cooler": "on its inlet face", "exchanger": "in the inlet cap, on the tube plate",
	"thermostat": "in its housing and the bypass", "block": "in the inlet gallery and the low passages",
	"anti-siphon": "in the vent's seat", "elbow": "in its water jacket and spray holes",
	"raw-hoses": "the hose that leaves the pump first of all, then the bends",
}

// bladeMM is how wide a whole blade is taken to be, and so a share of one by its root: common practice.
const bladeMM = 22.0

// WhereToLook lists the places where a piece as large as share of a blade may have stopped: the pump, the hose that
// leaves it, then in the order of the water at the first passage narrower than itself; beyond that only crumbs.
func WhereToLook(circuit []string, share float64, looked []string) []Hunt {
	at := slices.Index(circuit, "raw-pump")
	if at < 0 {
		return nil
	}
	wide := bladeMM * math.Sqrt(max(share, 0))
	var list []Hunt
	crumbs := false
	order := slices.Clone(circuit[at:])
	if hoses := slices.Index(order, "raw-hoses"); hoses > 0 {
		order = slices.Insert(slices.Delete(order, hoses, hoses+1), 1, "raw-hoses")
	}
	for _, s := range order {
		say, ok := faces[s]
		if !ok {
			if s == "exhaust-hose" {
				break // what is past the elbow has left
			}
			continue
		}
		list = append(list, Hunt{Station: s, Say: say, Crumbs: crumbs, Looked: slices.Contains(looked, s)})
		if s == "raw-pump" && !slices.Contains(circuit, "raw-hoses") {
			list[0].Say += ", then in the hose that leaves it"
		}
		if gap, ok := narrow[s]; ok && gap < wide {
			crumbs = true
		}
	}
	return list
}
