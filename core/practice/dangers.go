package practice

import (
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/wetwork"
)

// Danger is something that was walked into: what would have happened, and what keeps it from happening.
type Danger struct {
	ID, Label string
	Happened  string
	Instead   string
	Caution   string // of the catalogue; empty: none
	Ends      bool   // a real job would have ended here
}

// Dangers lists what can be walked into. Common practice; the maker's manual and local rules come first.
var Dangers = []Danger{
	{"flooding", "Opened with the seacock open",
		"The sea came in through the open joint, as fast as the hose is wide: a bucket in seconds. You got it shut in time.",
		"Shut the seacock, try that it holds, and only then open anything below the waterline.", "flooding", false},
	{"scald", "Opened while it was hot",
		"Coolant under pressure flashed to steam and came over your hands and face.",
		"Let it cool until a hand stays on it; then a cloth over the cap, the first notch, and wait.", "scald", false},
	{"battery", "Worked round the starter with the battery on",
		"A spanner lay across the terminal: a flash, and the cable glowed. And anybody could have turned the key.",
		"Battery off, and the key in your pocket, before hands go near starter, belts or injectors.", "shorts", false},
	{"dry", "Run dry",
		"The pump ran without water: half a minute, and its blades are torn or burnt. The exhaust hose got hot.",
		"Seacock open and the pump primed before the start; no water within 30 seconds: stop.", "dry-running", false},
	{"hydrolock", "Turned over with water in a cylinder",
		"Water does not compress: a connecting rod bent at the first turn of the starter. The engine is done for.",
		"Drain the silencer first; with milky or risen oil nothing is turned until the cylinders are known to be clear.",
		"flooded-cylinders", true},
	{"acid-on-aluminium", "Acid on aluminium, zinc or galvanised steel",
		"It fizzed, and that was hydrogen; the metal goes into solution while you look.",
		"Look up what the acid may meet; anodes out, light metal out of the bath, or another cleaner.", "hydrogen", false},
	{"acid-in", "Started with acid in the circuit",
		"Hot acid went through pump, cooler and exhaust, and out over the stern.",
		"Acid out, rinsed and neutralised, before it runs.", "acid-bath", false},
	{"seal-out", "A seal was left out",
		"It sprayed at the first revolutions. A divider's seal left out would not even drip: it just runs hot.",
		"Seals off and seals on are counted; the two numbers agree before a start.", "flooding", false},
	{"rubber", "Rubber was left behind",
		"The pieces went on with the water and lie now across the face of the next cooler.",
		"Count blades and pieces; look downstream until none is missing.", "", false},
	{"open", "Started with something open or off",
		"Water, coolant or exhaust came out where a part was missing.",
		"Everything that came off is back, and looked at, before the start.", "flooding", false},
	{"petrol", "A petrol engine started without airing",
		"Vapour lay in the bilge. One spark at the starter, and the boat was on fire.",
		"Blower four minutes, nose into the bilge, and only then the key.", "petrol-vapour", true},
	{"sunk", "Left open to the sea",
		"You went home with a joint off and the seacock open. In the morning only the mast stood out.",
		"Nobody leaves an open joint: closed up, or the seacock shut and tried.", "flooding", true},
}

// danger tells of one that was walked into; once while it stands, each time where it always counts.
func (w *World) danger(id string, always bool) {
	if w.over || w.told[id] && !always {
		return
	}
	w.told[id] = true
	i := slices.IndexFunc(Dangers, func(d Danger) bool { return d.ID == id })
	d := Dangers[i]
	w.over = w.over || d.Ends
	w.step(Step{Do: Endangers, Danger: &d})
}

// gone says that a danger does not stand any more: the next time it is told again.
func (w *World) gone(id string) { delete(w.told, id) }

// before is what a check asks of the engine, and what happens where it was left out.
func (w *World) before(k catalogue.Check) {
	if k.Engine == catalogue.Running {
		w.running(k.Access)
		return
	}
	a, _ := w.c.AccessTo(k.Access)
	if w.open[k.Access] {
		a = catalogue.Access{}
	}
	w.needs(append(slices.Clone(k.Needs), a.Needs...))
}

// need says which danger a state of the catalogue keeps away, and whether it is so.
var need = map[string]struct {
	danger string
	is     func(w *World) bool
}{
	"seacock-shut": {"flooding", func(w *World) bool { return w.shut }},
	"engine-cold":  {"scald", func(w *World) bool { return w.Cold() == 0 }},
	"battery-off":  {"battery", func(w *World) bool { return w.battery }},
}

func (w *World) needs(list []string) {
	for _, id := range list {
		n, ok := need[id]
		if id == "coolant-drained" && !w.Facts().HasCoolant() {
			n, ok = need["seacock-shut"], true // a raw-cooled block lets the sea in there
		}
		if !ok {
			continue
		}
		if n.is(w) {
			w.gone(n.danger)
		} else {
			w.danger(n.danger, false)
		}
	}
}

// off is an item that comes off: below the waterline the sea is behind it.
func (w *World) off(job, key string) {
	item, ok := w.state.Item(job, key)
	if ok && item.Below && !w.shut {
		w.danger("flooding", false)
	}
}

// belowWater are the accesses and joints that the sea stands behind.
func (w *World) belowWater(id string) bool {
	if id == "strainer-open" || id == "filter-open" {
		return true
	}
	a, ok := w.c.AccessTo(id)
	return ok && slices.Contains(a.Needs, "seacock-shut")
}

// start is the engine started by the start list: what the list had against it and was passed over happens.
func (w *World) start() {
	if w.running(""); w.over {
		return
	}
	w.hotAt = w.Minutes
	for _, c := range w.state.Conditions(w.Facts()) {
		if c.OK {
			continue
		}
		id, _, _ := strings.Cut(c.ID, ":")
		switch id {
		case "off", "count", "clamps", "tightened", "parts-back", "hoses-clamped":
			w.danger("open", false)
		case "seals-matched":
			w.danger("seal-out", false)
		case "pieces":
			w.danger("rubber", false)
		case "blower":
			w.danger("petrol", false)
		case "silencer-drained":
			if slices.Contains(w.left, "exhaust-flooded") || slices.Contains(w.left, "antisiphon-faulty") {
				w.danger("hydrolock", false)
			}
		}
	}
}

// running is the engine turning: with the seacock shut it runs dry, with a joint off it spills, with water in a
// cylinder it breaks.
func (w *World) running(through string) {
	if w.shut {
		w.danger("dry", false)
	} else {
		w.gone("dry")
	}
	for id := range w.open {
		if o, ok := w.c.Opening(id); ok && o.Bars && id != through {
			w.danger("open", false)
		}
	}
	if len(w.open) == 0 {
		w.gone("open")
	}
	for _, c := range w.state.Conditions(w.Facts()) {
		if strings.HasPrefix(c.ID, "acid:") && !c.OK {
			w.danger("acid-in", false)
		}
	}
	if o := w.state.Oil.Value; (o == "risen" || o == "milky-seen") && slices.ContainsFunc(w.left, waterInOil) {
		w.danger("hydrolock", false)
	}
}

// waterInOil are the faults by which water can stand in a cylinder.
func waterInOil(fault string) bool {
	return fault == "head-gasket-leak" || fault == "exhaust-flooded" || fault == "antisiphon-faulty"
}

// acid is a piece of wet work: what the bath may not meet.
func (w *World) acid(a wetwork.Act) {
	if a.Descale == nil || a.Descale.Product.Caustic {
		return
	}
	for _, materials := range a.Descale.Materials {
		for _, m := range materials {
			if m == "aluminium" || m == "zinc" || m == "galvanised" {
				w.danger("acid-on-aluminium", false)
			}
		}
	}
}

// leave is the end of the day. What an engine may run with, as a gauge teed in, lets no sea in.
func (w *World) leave() {
	for id := range w.open {
		if o, ok := w.c.Opening(id); ok && o.Bars && !w.shut && w.belowWater(id) {
			w.danger("sunk", false)
		}
	}
}
