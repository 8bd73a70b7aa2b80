package enginestate

import (
	"slices"
	"strings"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
)

// act takes an act of the hands in.
func (s *State) act(e eventlog.Entry, a teardown.Act) {
	who := whoOf(e)
	scope := e.Subject.ID + ":"
	if a.Do == teardown.Lift && s.Hands.Shut(a.Item) && !who.knew(s.isolated[a.Item]) {
		return // what was shut, off or drained came on record only after that was said: it stands until somebody sees it
	}
	if a.Do == teardown.Isolate {
		s.isolated[a.Item] = who
	}
	if a.Do == teardown.Tick && !who.knew(s.stirred) {
		return // something was opened, shut or run before that look, and whoever made it could not know
	}
	before, stirred := s.Hands.Keys(), s.Hands.Stirred
	s.Hands.Take(teardown.Done{Act: a, Scope: scope, By: e.By, At: who.At, Entry: e.ID})
	if s.Hands.Stirred > stirred {
		s.stirs(who)
	}
	if then, ok := acts[a.Do]; ok {
		then(s, a, who)
	}
	switch a.Do {
	case teardown.Begin, teardown.Add:
		s.offBehind(e, func(i teardown.Item) bool { return !before[i.Key] && s.IsOpen(i.Access) })
	case teardown.Off, teardown.On, teardown.Excuse:
		s.opensWith(a, who)
	}
}

var acts = map[string]func(*State, teardown.Act, Who){
	teardown.Isolate: func(s *State, a teardown.Act, who Who) {
		if a.Item == "seacock" || a.Item == "leg-hose" {
			s.raw = RawWater{State: Shut, Since: who}
		}
		if a.Item == "seacock" && s.valve.passes { // it did not hold last time, and nobody mended it
			s.raw.Behind = teardown.LetsThrough
		}
		if a.Item == "coolant" {
			s.coolant = Oil{}
		}
	},
	teardown.Lift: func(s *State, a teardown.Act, who Who) {
		if a.Item == "seacock" || a.Item == "leg-hose" {
			s.raw = RawWater{State: Open, Since: who}
		}
		if a.Item == "coolant" {
			s.coolant = Oil{}
		}
	},
	teardown.Ran: func(s *State, _ teardown.Act, who Who) {
		s.opensWater(who)
		s.Heat = Heat{"hot", who}
	},
	teardown.Start: func(s *State, _ teardown.Act, who Who) { s.Heat = Heat{"hot", who} },
	teardown.Heat:  func(s *State, a teardown.Act, who Who) { s.Heat = Heat{a.Item, who} },
	teardown.Lies:  func(s *State, a teardown.Act, who Who) { s.Lies = Place{Value: a.Item, Since: who} },
	teardown.OilIs: func(s *State, a teardown.Act, who Who) { s.Oil = Oil{a.Item, who} },
	teardown.Holds: func(s *State, a teardown.Act, who Who) {
		if s.raw.State == Shut {
			s.raw.Behind = a.Item
		}
		if passes := a.Item == teardown.LetsThrough; !passes || !s.valve.passes { // since it was first seen
			s.valve = valve{who, passes}
		}
	},
	teardown.Wait: func(s *State, a teardown.Act, who Who) {
		s.waiting[who.Job] = teardown.Waiting{For: a.Item, Words: a.Words, By: who.By, At: who.At}
	},
	teardown.GoOn: func(s *State, _ teardown.Act, who Who) { delete(s.waiting, who.Job) },
	teardown.Close: func(s *State, a teardown.Act, _ Who) {
		for _, w := range s.works {
			w.closed = w.closed || "flush:"+w.ID == a.Item
		}
	},
	teardown.Renewed: func(s *State, a teardown.Act, who Who) {
		s.acquit(a.Item, "")
		if a.Item == "seacock" {
			s.valve, s.raw.Behind = valve{Who: who}, ""
		}
	},
	teardown.On: func(s *State, a teardown.Act, who Who) {
		i, ok := s.Item(who.Job, a.Item)
		if !ok || a.Count <= 0 {
			return
		}
		if a.State == teardown.New {
			s.acquit(i.ID, "")
			return
		}
		for k := range s.condemned {
			if s.condemned[k].Part == i.ID && strings.TrimSpace(a.Words) != "" {
				s.condemned[k].Reason = a.Words
			}
		}
	},
	teardown.Off: func(s *State, a teardown.Act, who Who) { // off again: the reason for which it went back is spent
		if i, ok := s.Item(who.Job, a.Item); ok && a.Count > 0 {
			for k := range s.condemned {
				if s.condemned[k].Part == i.ID {
					s.condemned[k].Reason = ""
				}
			}
		}
	},
	teardown.SetWheel: func(s *State, a teardown.Act, who Who) {
		s.judgedAnew(teardown.Impeller)
		condemn := func(why string) {
			s.condemn(Condemned{Part: teardown.Impeller, Label: "Impeller", Why: why, Since: who, bench: true})
		}
		for _, b := range a.Wheel.Blades {
			switch b.State {
			case teardown.Gone, teardown.Torn:
				condemn("short of a blade")
			case teardown.Cracked:
				condemn("a blade is cracked")
			}
		}
	},
	teardown.SetElbow: func(s *State, a teardown.Act, who Who) {
		s.judgedAnew("elbow")
		if verdict, reasons := a.Elbow.Judge(); verdict == "replace" {
			s.condemn(Condemned{Part: "elbow", Label: "Elbow", Why: units.Join(reasons, "; ").String(), Since: who, bench: true})
		}
	},
}

// offBehind takes off what goes with an access that is open, of some items; what is off already stays so.
func (s *State) offBehind(e eventlog.Entry, of func(teardown.Item) bool) {
	for _, i := range slices.Clone(s.Hands.Items) {
		if i.Access == "" || i.StillOff() > 0 || !of(i) {
			continue
		}
		s.Hands.Take(teardown.Done{Act: teardown.Act{Do: teardown.Off, Item: i.Key, Count: i.Count}, By: e.By,
			At: whoOf(e).At, Entry: e.ID})
	}
}

// opensWith opens the access that an item opens, and closes it once all that goes with it is back.
func (s *State) opensWith(a teardown.Act, who Who) {
	i, ok := s.Item(who.Job, a.Item)
	if !ok || i.Access == "" {
		return
	}
	off, back := false, false
	for _, x := range s.Hands.Items {
		if x.Access == i.Access && x.Off > 0 {
			off, back = off || x.StillOff() > 0, back || x.Back()
		}
	}
	switch {
	case off:
		s.opens(i.Access, i.Label+" off", who)
	case back:
		s.closes(i.Access, who)
	}
}
