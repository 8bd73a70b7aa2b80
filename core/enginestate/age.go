package enginestate

import (
	"maps"
	"time"
)

// stays is how long what was seen to be as it should holds: overnight a seacock may be shut, an engine run, a bilge
// filled with vapour by somebody else. What stands in the way stays until it is settled. Common practice: each morning
// is looked at afresh.
const stays = 12 * time.Hour

// At is the state at a moment, by the program's clock: what was said to be as it should too long ago is not known any
// more, however late it was sent. The state itself stays as it is.
func (s *State) At(now time.Time) *State {
	old := func(said time.Time) bool { return now.Sub(said) > stays }
	at, hands := *s, *s.Hands
	at.now = now
	hands.Ticked = maps.Clone(hands.Ticked)
	maps.DeleteFunc(hands.Ticked, func(_ string, said time.Time) bool { return old(said) })
	at.Hands = &hands
	if at.raw.State == Open && old(at.raw.Since.At) {
		at.raw.State = NotAsked
	}
	if old(at.Heat.Since.At) {
		at.Heat = Heat{}
	}
	at.Lies.Old = old(at.Lies.Since.At)
	return &at
}

// looked says whether somebody looked at what only a person sees.
func (s *State) looked(id string) bool {
	_, ok := s.Hands.Ticked[id]
	return ok
}
