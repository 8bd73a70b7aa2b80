package enginestate

import (
	"fmt"
	"slices"
	"strings"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// looks are the conditions that only a person sees, in the order of doing.
var looks = []struct {
	id, label string
	when      func(s *State, e eventlog.EngineFacts) bool
}{
	{"strainer-lid", "Strainer lid on and tight", has("strainer")},
	{"pump-primed", "Pump lubricated or primed", func(s *State, _ eventlog.EngineFacts) bool { return s.Hands.Opened }},
	{"coolant-filled", "Coolant filled and the cap on",
		func(s *State, e eventlog.EngineFacts) bool { return e.HasCoolant() && s.Hands.Drained }},
	{"oil-level", "Oil side closed, oil at its mark", func(s *State, _ eventlog.EngineFacts) bool { return s.Hands.Oil }},
	{"silencer-drained", "No long cranking without firing, or the silencer drained", always},
	{"blower", "Blower run four minutes, bilge sniffed",
		func(_ *State, e eventlog.EngineFacts) bool { return e.Fuel == "petrol" }},
	{"shore-water", "Water on at the hose, before the start",
		func(s *State, _ eventlog.EngineFacts) bool { return s.Lies.Value == "ashore" }},
	{"people-clear", "People clear of belts and pulleys", always},
	{"outlet-watched", "Someone watches the outlet: water within 30 seconds, or stop", always},
}

func always(*State, eventlog.EngineFacts) bool { return true }

func has(station string) func(*State, eventlog.EngineFacts) bool {
	return func(_ *State, e eventlog.EngineFacts) bool { return slices.Contains(e.Circuit, station) }
}

// Conditions lists what must be so before a start of an engine with these facts, in the order of doing, each with the
// touch that settles it. What nobody said is not met.
func (s *State) Conditions(e eventlog.EngineFacts) []teardown.Condition {
	list := append(s.onSisters(), s.RawWater(e))
	list = append(list, s.openings()...)
	list = append(list, s.hands()...)
	list = append(list, s.unfit()...)
	list = append(list, s.fluids(e)...)
	for _, l := range looks {
		if !l.when(s, e) {
			continue
		}
		c := teardown.Condition{ID: l.id, Label: l.label, OK: s.looked(l.id), Settle: teardown.Tick, Item: l.id}
		if !c.OK {
			c.Why = "not looked at yet"
		}
		list = append(list, c)
	}
	s.Hands.Overrides(list)
	return list
}

// hands are the conditions of the hands; of a part that was condemned only a new one goes back by one touch.
func (s *State) hands() []teardown.Condition {
	list := s.Hands.Conditions()
	for i, c := range list {
		if c.Settle != teardown.On {
			continue
		}
		if x, ok := s.Item("", c.Item); ok {
			if _, unfit := s.IsCondemned(x.ID); unfit {
				list[i].State = teardown.New
			}
		}
	}
	return list
}

// RawWater is the condition of the raw water: the seacock, asked always; a drive leg without a valve has its hose,
// asked once it was off.
func (s *State) RawWater(e eventlog.EngineFacts) teardown.Condition {
	id, label := "seacock", "Seacock open"
	if !slices.Contains(e.Circuit, "seacock") {
		id, label = "leg-hose", "Drive-leg hose back on"
		if !s.Hands.Shut("leg-hose") && !s.Hands.Shut("seacock") {
			return teardown.Stands(id, label, "", teardown.Lift, id)
		}
	}
	for _, i := range s.Hands.Isolated {
		if i.ID == "seacock" || i.ID == "leg-hose" {
			return teardown.Stands(i.ID, label, fmt.Sprintf("%s, by %s", strings.ToLower(i.Banner), i.By), teardown.Lift, i.ID)
		}
	}
	raw := s.Raw(e)
	if raw.State == Open {
		return teardown.Stands(id, label, "", teardown.Lift, id)
	}
	c := teardown.Condition{ID: id, Label: label, Why: "nobody said so yet", Settle: teardown.Lift, Item: id}
	switch {
	case raw.Why != "":
		c.Why, c.Stands = raw.Why, true
	case raw.Since.By != "":
		c.Why = fmt.Sprintf("was open on %s, by %s: look again", raw.Since.At.Format("2 Jan, 15:04"), raw.Since.By)
	}
	return c
}

// openings are the accesses and joints that must be closed up before a run, and the joints of a flush.
func (s *State) openings() []teardown.Condition {
	var list []teardown.Condition
	for _, o := range s.open {
		if o.Bars {
			list = append(list, teardown.Stands("open:"+o.ID, o.Label, fmt.Sprintf("since %s, by %s",
				o.Since.At.Format("2 Jan, 15:04"), o.Since.By), Closing, o.ID))
		}
	}
	for _, w := range s.works {
		if w.joints() {
			id := "flush:" + w.ID
			at := s.placesOf(w)
			list = append(list, teardown.Stands(id, "Joints of the flush closed up", fmt.Sprintf("open at the %s, by %s", at,
				w.since.By), teardown.Close, id))
		}
	}
	return list
}

// placesOf names where a flush has its joints open.
func (s *State) placesOf(w *work) string {
	var list []string
	for _, at := range w.Flush.Places() {
		if station, ok := s.catalogue.Station(at); ok {
			at = lower(station.Label)
		}
		list = append(list, at)
	}
	return strings.Join(list, " and the ")
}

// Closing is the settling touch that closes an access or a joint up again: an entry of kind access.
const Closing = "access"

// unfit are the parts that were condemned.
func (s *State) unfit() []teardown.Condition {
	var list []teardown.Condition
	seen := map[string]int{}
	for _, c := range s.condemned {
		if i, ok := seen[c.Part]; ok {
			list[i].Why += ", " + c.Why
			continue
		}
		seen[c.Part] = len(list)
		x := teardown.Stands("condemned:"+c.Part, "A fit "+lower(c.Label)+" in place", c.Why, teardown.Renewed, c.Part)
		x.Overridden = c.Reason
		list = append(list, x)
	}
	return list
}

// fluids are acid that stands in the circuit, coolant that is low, oil that is not as it should be.
func (s *State) fluids(e eventlog.EngineFacts) []teardown.Condition {
	var list []teardown.Condition
	for _, w := range s.works {
		if w.acid() {
			list = append(list, teardown.Stands("acid:"+w.ID, "Acid out and rinsed", "acid is in, by "+w.since.By, "", ""))
		}
	}
	if e.HasCoolant() && s.coolant.Value == "low" && !s.Hands.Shut("coolant") {
		list = append(list, teardown.Stands("coolant-low", "Coolant filled up, cold", "seen low, by "+s.coolant.Since.By,
			teardown.Lift, "coolant"))
	}
	switch s.Oil.Value {
	case milkySeen, "milky", "risen":
		c := teardown.Stands("oil", "Oil changed, its cause found", oilWords[s.Oil.Value]+", by "+s.Oil.Since.By,
			teardown.OilIs, "changed")
		c.Words = true
		list = append(list, c)
	case "low":
		list = append(list, teardown.Stands("oil", "Oil at its mark", "low, by "+s.Oil.Since.By, teardown.OilIs, "sound"))
	}
	return list
}

var oilWords = map[string]string{milkySeen: "milky", "milky": "milky, its level as it was",
	"risen": "milky and risen: water may stand in a cylinder"}

// MayStart says whether the engine may be started: nothing is open, off, shut, drained, wrong or unknown.
func (s *State) MayStart(e eventlog.EngineFacts) bool { return teardown.Ready(s.Conditions(e)) }

// Crank lists what must be so before the engine is even turned over by its starter; met where it is empty.
func (s *State) Crank(_ eventlog.EngineFacts) []teardown.Condition {
	var list []teardown.Condition
	if o := s.Oil.Value; o == milkySeen || o == "risen" {
		why := oilWords["risen"]
		if o == milkySeen {
			why = "milky, and nobody said whether its level has risen"
		}
		c := teardown.Stands("oil", "No water in a cylinder", why, teardown.OilIs, "changed")
		c.Words = true
		list = append(list, c)
	}
	if s.vent && !s.looked("silencer-drained") {
		list = append(list, teardown.Stands("silencer-drained", "Silencer drained",
			"its anti-siphon valve is bad, or water stood in it: the cylinders may take it in", teardown.Tick,
			"silencer-drained"))
	}
	for _, o := range s.open {
		if o.ID == "under-hull" {
			list = append(list, teardown.Stands("open:"+o.ID, "Nobody under the hull", lower(o.Label), Closing, o.ID))
		}
	}
	s.Hands.Overrides(list)
	return list
}

// InTheWay lists what bars cranking, then what bars a start, each once; the looks that belong to every start are for
// the start itself.
func (s *State) InTheWay(e eventlog.EngineFacts) []teardown.Condition {
	var list []teardown.Condition
	for _, c := range append(s.Crank(e), s.Conditions(e)...) {
		again := slices.ContainsFunc(list, func(x teardown.Condition) bool { return x.ID == c.ID })
		if !c.Passed() && !again && (c.Settle != teardown.Tick || c.Stands) {
			list = append(list, c)
		}
	}
	return list
}

// MayCrank says whether the engine may be turned over by its starter.
func (s *State) MayCrank(e eventlog.EngineFacts) bool { return teardown.Ready(s.Crank(e)) }

func lower(s string) string { return strings.ToLower(s[:1]) + s[1:] }
