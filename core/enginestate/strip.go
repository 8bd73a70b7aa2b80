package enginestate

import (
	"fmt"
	"slices"
	"strings"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// Flag is one thing that stands on every screen of a job while it is so.
type Flag struct {
	ID, Label string
	Since     Who
}

// Flags are what is open, off, shut, drained, wrong or at large, the most dangerous first.
func (s *State) Flags(e eventlog.EngineFacts) []Flag {
	var list []Flag
	add := func(id, label string, who Who) { list = append(list, Flag{id, strings.ToUpper(label), who}) }
	for _, w := range s.works {
		if w.acid() {
			add("acid", "acid in the circuit", w.since)
		}
	}
	switch s.Oil.Value {
	case milkySeen, "risen":
		add("oil", "oil milky: do not crank", s.Oil.Since)
	case "milky":
		add("oil", "oil milky", s.Oil.Since)
	}
	for _, i := range s.Hands.Isolated {
		add(i.ID, i.Banner, Who{By: i.By, At: i.At})
	}
	raw := s.Raw(e)
	if s.passes() {
		add("seacock-passes", map[bool]string{true: "seacock passes: close up",
			false: "seacock passes"}[s.openBelow(e)], raw.Since)
	}
	if raw.State == NotAsked && raw.Why != "" {
		add("seacock", "seacock: open or shut?", raw.Since)
	}
	for i, c := range s.condemned {
		again := slices.ContainsFunc(s.condemned[:i], func(x Condemned) bool { return x.Part == c.Part && x.Reason == "" })
		if c.Reason == "" && !again {
			add("condemned:"+c.Part, c.Label+" condemned", c.Since)
		}
	}
	if s.Hands.Ledger.Open() {
		add("pieces", "rubber at large", Who{})
	}
	for _, o := range s.open {
		add("open:"+o.ID, o.Label, o.Since)
	}
	for _, b := range s.behind {
		add("sister:"+b.sister+":"+b.id, b.sister+": "+b.label, Who{})
	}
	for _, w := range s.works {
		if w.joints() {
			add("flush:"+w.ID, "joints open for a flush", w.since)
		}
	}
	if n := s.off(); n > 0 {
		add("off", fmt.Sprintf("%d %s off", n, map[bool]string{true: "part", false: "parts"}[n == 1]), Who{})
	}
	if s.coolant.Value == "low" && !s.Hands.Shut("coolant") {
		add("coolant-low", "coolant low", s.coolant.Since)
	}
	return list
}

// off is how many parts, hoses, fasteners and seals are off.
func (s *State) off() int {
	n := 0
	for _, i := range s.Hands.Items {
		if i.Kind != teardown.Fasteners {
			n += i.StillOff()
		} else if i.StillOff() > 0 {
			n++
		}
	}
	return n
}

// Fluid is what is in the engine, or not.
type Fluid struct {
	ID, State string
	Since     Who
}

// Fluids lists coolant, oil, acid and flush product as far as they are known.
func (s *State) Fluids() []Fluid {
	coolant := Fluid{"coolant", "unknown", Who{}}
	for _, i := range s.Hands.Isolated {
		if i.ID == "coolant" {
			coolant = Fluid{"coolant", "drained", Who{By: i.By, At: i.At}}
		}
	}
	if coolant.State == "unknown" && s.coolant.Value != "" {
		coolant = Fluid{"coolant", s.coolant.Value, s.coolant.Since}
	}
	oil := Fluid{"oil", "unknown", s.Oil.Since}
	if s.Oil.Value != "" {
		oil.State = s.Oil.Value
	}
	list := []Fluid{coolant, oil}
	for _, w := range s.works {
		if w.acid() {
			list = append(list, Fluid{"acid", "in", w.since})
		}
	}
	return list
}

// Parts lists what is off, and what is condemned.
func (s *State) Parts() []teardown.Item {
	var list []teardown.Item
	for _, i := range s.Hands.Items {
		if i.Off > 0 || i.On() > 0 {
			list = append(list, i)
		}
	}
	return list
}

// Unfit lists the parts that were condemned.
func (s *State) Unfit() []Condemned { return s.condemned }

// OpenAccess lists the accesses that are open.
func (s *State) OpenAccess() []string {
	var list []string
	for _, o := range s.open {
		if _, ok := s.catalogue.AccessTo(o.ID); ok {
			list = append(list, o.ID)
		}
	}
	return list
}

// AccountOf is a job's own account with what the engine's says of its items, isolations and rubber.
func (s *State) AccountOf(job string, own *teardown.Account) *teardown.Account {
	a := *own
	a.Items = nil
	for _, i := range s.Hands.Items {
		if i.Scope == job+":" {
			i.Key = strings.TrimPrefix(i.Key, i.Scope)
			a.Items = append(a.Items, i)
		}
	}
	a.Isolated, a.Ledger = s.Hands.Isolated, s.Hands.Ledger
	return &a
}

// Stand is what an entry of a job on an engine with these facts is held against.
func (s *State) Stand(e eventlog.EngineFacts, job string) *eventlog.Stand {
	return &eventlog.Stand{Conditions: s.Conditions(e),
		Holds: func(key string) bool { return s.Holds(job, key) },
		Unfit: func(key string) string {
			i, ok := s.Item(job, key)
			if !ok {
				return ""
			}
			c, _ := s.IsCondemned(i.ID)
			return c.Why
		},
		Joint: func(id string) bool {
			return slices.ContainsFunc(s.works, func(w *work) bool { return w.joints() && "flush:"+w.ID == id })
		}}
}
