package enginestate

import (
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Given is as much of an engine's state as somebody tells who has no record of it. What is empty is not known.
type Given struct {
	Heat       string   // cold, warm, hot
	Running    bool     // it runs now, and nothing was opened
	Where      string   // afloat, alongside, under-way, ashore
	OpenAccess []string // accesses and joints that are open
	Isolated   []string // what is shut, off, drained or unplugged
	Seen       []eventlog.Stated
}

// FromGiven makes the state of what is given; what does not fit is refused.
func FromGiven(c *catalogue.Catalogue, g Given) (*State, error) {
	var wrong validation.Errors
	one := func(field, given string, of []string) {
		if given != "" && !slices.Contains(of, given) {
			wrong.Add(field, given, units.Sentence(strings.Join(of, ", ")), "say how it is, or leave it out")
		}
	}
	one("state.heat", g.Heat, teardown.Heats)
	one("state.where", g.Where, teardown.Where)
	s := New(c)
	for _, id := range g.OpenAccess {
		if _, ok := c.Opening(id); !ok {
			wrong.Add("state.open_access", id, "an access or a joint of the catalogue", "there is no access %q", id)
		}
		s.opens(id, "", Who{})
	}
	for _, id := range g.Isolated {
		if err := (teardown.Act{Do: teardown.Isolate, Item: id}).Check(); err != nil {
			wrong.Add("state.isolated", id, "seacock, leg-hose, battery, coolant, sensor, anodes", "there is no such isolation")
			continue
		}
		s.act(eventlog.Entry{}, teardown.Act{Do: teardown.Isolate, Item: id})
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	if g.Running {
		s.act(eventlog.Entry{}, teardown.Act{Do: teardown.Ran})
	}
	if g.Heat != "" {
		s.Heat = Heat{Value: g.Heat}
	}
	s.Lies = Place{Value: g.Where}
	s.see(eventlog.Entry{Body: eventlog.Body{Stated: g.Seen}}, "")
	return s, nil
}
