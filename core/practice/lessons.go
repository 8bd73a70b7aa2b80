package practice

import "hevrin/core/catalogue"

// Lesson is a set piece with one point: its engine, what is wrong, and what it is to teach.
type Lesson struct {
	ID, Title, Point string
	Kind             string
	Faults           []string
	History          []string
	Told             []string
	Words            string
	// Also shows beside, of no fault.
	Also []string
	// First: one of these checks is to be the first look; empty: any.
	First []string
	// Must: these looks belong to it before anything is put right.
	Must []string
	// After is what is said when it is over.
	After string
}

// Lessons are the set pieces in the order of the work, common practice.
var Lessons = []Lesson{
	{"water-first", "Water at the outlet first", "One minute at the rail halves the engine.", "sail",
		[]string{"strainer-clogged"}, []string{"weed-about"}, []string{"hot-under-load"},
		"“The needle climbs at cruising speed. Fine at a crawl. My neighbour says it is always the thermostat.”", nil,
		[]string{"look-over-side"}, []string{"strainer-look"},
		"Weak water at the outlet is the raw side: the thermostat was never in question."},
	{"rubber-hides", "The hose the rubber hides in", "Blades that are gone lie in the next narrow place.", "sail",
		[]string{"debris-at-cooler"}, []string{"lost-blades-before"}, []string{"hot-under-load", "weak-water-at-outlet"},
		"“A new impeller went in last month, the old one had lost a few blades. Now she is hot when I push her.”", nil,
		nil, []string{"cooler-inlet-look"},
		"The first cooler stops what gets past the pump. Pieces are counted against blades, until none is missing."},
	{"seals-counted", "Seals, counted", "What came off goes back: a seal left out lets water past the tubes.", "sail",
		[]string{"exchanger-bypass"}, nil, []string{"hot-under-load", "good-water-at-outlet"},
		"“The yard had the caps off last week and cleaned it all. Since then it is hotter, and the water comes.”",
		nil, nil, []string{"exchanger-look"},
		"Water takes the short way past a divider without its seal. Seals off and seals on are two numbers that must agree."},
	{"gauge-lies", "The gauge that lies", "Before anything is opened: is it hot at all?", "motor",
		[]string{"gauge-wrong"}, nil, []string{"hot-everywhere", "good-water-at-outlet"},
		"“She runs hot whatever I do. I had the thermostat and the pump renewed, and it is the same.”", nil,
		nil, []string{"gauge-compare"},
		"Three minutes with a thermometer at the sender, and nothing needed to come apart."},
	{"scale-or-strainer", "Scale against strainer", "A little in the basket is not the cause of a hot engine.", "motor",
		[]string{"tubes-scaled"}, []string{"warm-salt-undescaled"}, []string{"hot-under-load", "came-gradually"},
		"“A little hotter each trip, all season, in the warm water down there.”", []string{"some-debris"},
		nil, []string{"exchanger-look"},
		"Slowly, under load, with good water: the tubes. The basket is emptied while it is open, and not blamed."},
	{"prime", "Prime in thirty seconds", "No water within thirty seconds: stop, and ask why.", "sail",
		[]string{"pump-not-primed"}, []string{"laid-up"}, []string{"no-water-at-outlet"},
		"“First start of the year. I saw no water at the stern, so I stopped her.”", nil,
		nil, []string{"prime-test"},
		"A pump that stood all winter is dry. Filled by hand it primes; if it loses that again, air comes in somewhere."},
	{"sand-both-ways", "Sand, both ways", "What went in one way comes out the other.", "raw",
		[]string{"sand-in-circuit"}, []string{"grounded"}, []string{"hot-everywhere", "weak-water-at-outlet"},
		"“We sat on a sandbank and I worked her off astern. Hot ever since.”", nil,
		nil, nil,
		"Back-flush first, then forward, until two looks in a row show nothing."},
	{"knee-and-plateau", "Knee and plateau", "Where the warm-up bends, and where it settles, is the thermostat.", "sail",
		[]string{"thermostat-lazy"}, nil, []string{"hot-under-load", "good-water-at-outlet"},
		"“Fine at a crawl, but the needle climbs at cruising speed. Water comes out as ever.”", nil,
		nil, []string{"thermostat-pot-test"},
		"It opens late or not far enough: a pot, a thermometer and a rule say so."},
	{"acid", "Acid, and what it must not meet", "Strength, minutes and metals are looked up before the acid is.", "motor",
		[]string{"tubes-scaled"}, []string{"warm-salt-undescaled"}, []string{"hot-under-load", "came-gradually"},
		"“A little hotter each trip when I push her. I have brought a can of acid, shall I pour it in?”", nil,
		nil, []string{"exchanger-look"},
		"Anodes out first, nothing of aluminium or zinc in the bath, one measured acid, by the clock."},
	{"two-faults", "Two at once", "Put right what is found, prove it, and look on from what the proof shows.", "sail",
		[]string{"intake-blocked", "impeller-tired"}, []string{"weed-about", "impeller-overdue"},
		[]string{"hot-everywhere", "weak-water-at-outlet"},
		"“Hot at any speed now, there was weed everywhere. It dribbles rather, at the back.”", nil,
		nil, []string{"impeller-look"},
		"The first cause was true, and not all. The proof is the cheapest look at everything else."},
	{"runs-cold", "The engine that runs cold", "Too cool wears an engine as well.", "sail",
		[]string{"thermostat-open"}, nil, []string{"runs-cool", "heater-lukewarm"},
		"“She never gets properly warm, and the cabin heater blows lukewarm.”", nil,
		nil, []string{"thermostat-pot-test"},
		"Stuck open, or none in at all: the block never reaches its rating."},
	{"rusty-water", "Rusty water that is not raw", "Colour and taste say which side leaks.", "motor",
		[]string{"circ-pump-seal-leak"}, []string{"coolant-old"},
		[]string{"rust-spray-line", "coolant-disappears"},
		"“There is a rusty line over everything at the front, and I keep topping up the green stuff.”", nil,
		nil, []string{"weep-look"},
		"Coolant past the circulation pump's seal: the weep hole tells it before the bearing goes."},
}

// lesson sets an engine up as its lesson wants it.
func lesson(c *catalogue.Catalogue, k Case) *Engine {
	l := Lessons[k.Lesson-1]
	kind, _ := KindOf(l.Kind)
	e := &Engine{Case: k, Kind: kind, History: l.History, Told: l.Told, Words: l.Words, c: c}
	for _, f := range l.Faults {
		e.put(f)
	}
	e.roll(0)
	// what the lesson is about shows, and nothing shows by chance
	for _, f := range c.Findings {
		if len(f.Causes) > 0 && chance(f, e.ids(), 0) == 0 {
			e.rolls[f.ID] = 1
		}
	}
	e.present = append(e.present, l.Told...)
	for _, h := range e.Hidden {
		f, _ := c.Fault(h.Fault)
		for _, s := range f.Sure {
			e.present = append(e.present, s.Finding)
		}
	}
	for _, id := range l.Also {
		e.rolls[id] = 0
	}
	return e
}
