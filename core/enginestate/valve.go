package enginestate

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// doesNotHold is why nothing more is opened behind a seacock that passes.
const doesNotHold = "The seacock does not hold: close up what is open. Nothing below the waterline is opened until " +
	"the craft is ashore, or the intake is plugged from outside."

const shutSeacock = "seacock-shut"

// What of the needs of a check means that the sea is shut off, on a closed-cooled engine and on a raw-cooled one, whose
// block has raw water where others have coolant.
func shutOnClosed(need string) bool { return need == shutSeacock }
func shutOnDirect(need string) bool { return need == shutSeacock || need == "coolant-drained" }

func shuts(e eventlog.EngineFacts) func(need string) bool {
	if !e.HasCoolant() {
		return shutOnDirect
	}
	return shutOnClosed
}

// Raw is how the raw water stands on an engine with these facts.
func (s *State) Raw(e eventlog.EngineFacts) RawWater {
	if !e.HasCoolant() && s.raw.direct != nil {
		return *s.raw.direct
	}
	return s.raw
}

// passes says that water still comes behind the seacock though it is shut, and the sea is there.
func (s *State) passes() bool {
	return s.raw.Behind == teardown.LetsThrough && !s.dryLand()
}

// dryLand says that no sea can come in: somebody said not long ago that the craft is ashore.
func (s *State) dryLand() bool { return s.Lies.Value == "ashore" && !s.Lies.Old }

// AsksBehind says whether it is to be asked what comes behind the shut seacock: the first joint below the waterline is
// open, nobody said yet, and the sea is there. Some water was to come: what stood in the pipe.
func (s *State) AsksBehind(e eventlog.EngineFacts) bool {
	return s.raw.State == Shut && s.raw.Behind == "" && !s.dryLand() && slices.Contains(e.Circuit, "seacock") &&
		s.openBelow(e)
}

// openBelow says whether an access, a joint or a hose end is open below the waterline.
func (s *State) openBelow(e eventlog.EngineFacts) bool {
	return slices.ContainsFunc(s.open, func(o Opening) bool { return s.below(o.ID, e) }) ||
		slices.ContainsFunc(s.Hands.Items, func(i teardown.Item) bool { return i.Below && i.StillOff() > 0 })
}

// below says whether an access or a joint, open, lets the sea in where the seacock is not shut.
func (s *State) below(id string, e eventlog.EngineFacts) bool {
	shut := shuts(e)
	if a, ok := s.catalogue.AccessTo(id); ok {
		return slices.ContainsFunc(a.Needs, shut)
	}
	return slices.ContainsFunc(s.catalogue.Checks, func(k catalogue.Check) bool {
		return k.Opens == id && slices.ContainsFunc(k.Needs, shut)
	})
}
