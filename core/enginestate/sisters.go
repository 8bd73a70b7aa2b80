package enginestate

import (
	"slices"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// Sister is another engine of the same craft.
type Sister struct {
	*State
	Facts eventlog.EngineFacts
}

// valve is what was last seen of the seacock when it was shut: whether it passes; nobody's where nobody looked.
type valve struct {
	Who
	passes bool
}

// behindSame is something open on a sister behind a seacock that both take their water through.
type behindSame struct{ id, sister, label, by string }

// WithSisters is the state of an engine with these facts as it is with the others of its craft: where the craft lies is
// said once for all; engines that take their water through one seacock share how that stands, and what is open behind
// it on one of them bars the start of each.
func (s *State) WithSisters(e eventlog.EngineFacts, sisters ...Sister) *State {
	at, hands := *s, *s.Hands
	for _, x := range sisters {
		if x.Lies.Since.At.After(at.Lies.Since.At) {
			at.Lies = x.Lies
		}
	}
	if !e.SharesSeacock {
		return &at
	}
	last, said := s, s.Raw(e).Since.At
	for _, x := range sisters {
		if !x.Facts.SharesSeacock {
			continue
		}
		if at := x.Raw(x.Facts).Since.At; at.After(said) {
			last, said = x.State, at
		}
		if x.valve.At.After(at.valve.At) {
			at.valve = x.valve
		}
		at.behind = append(at.behind, x.behindIt()...)
	}
	if last != s {
		at.raw = last.raw
		own := slices.DeleteFunc(slices.Clone(hands.Isolated), isSeacock)
		hands.Isolated = append(own, slices.DeleteFunc(slices.Clone(last.Hands.Isolated),
			func(i teardown.Isolated) bool { return !isSeacock(i) })...)
	}
	if at.raw.State == Shut && at.raw.Behind == "" && at.valve.passes {
		at.raw.Behind = teardown.LetsThrough
	}
	at.Hands = &hands
	return &at
}

func isSeacock(i teardown.Isolated) bool { return i.ID == "seacock" }

// behindIt lists what is open below the waterline on a sister, and stands open to the sea with the seacock.
func (x Sister) behindIt() (list []behindSame) {
	for _, o := range x.open {
		if x.below(o.ID, x.Facts) {
			list = append(list, behindSame{o.ID, x.Facts.Name, lower(o.Label), o.Since.By})
		}
	}
	for _, i := range x.Hands.Items {
		if i.Below && i.StillOff() > 0 {
			list = append(list, behindSame{i.Key, x.Facts.Name, lower(i.Label) + " off", ""})
		}
	}
	return list
}

// onSisters are the conditions that stand open on another engine behind the same seacock; they are settled there.
func (s *State) onSisters() (list []teardown.Condition) {
	for _, b := range s.behind {
		why := b.label + ", behind the same seacock"
		if b.by != "" {
			why += ", by " + b.by
		}
		list = append(list, teardown.Stands("sister:"+b.sister+":"+b.id, b.sister+" closed up", why, "", ""))
	}
	return list
}
