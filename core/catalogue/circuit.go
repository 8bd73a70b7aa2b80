package catalogue

import (
	"fmt"
	"slices"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// CheckCircuit notes under the field what keeps stations, in the order of the water, from being the circuit of an
// engine of the family: stations known, none twice, none that the family does not have, intake, pump and outlet among
// them where the family has them, and of a family of its own file the heat exchanger as it has one: what runs in the
// block is told by it.
func (c *Catalogue) CheckCircuit(field, family string, stations []string) validation.Errors {
	var wrong validation.Errors
	seen := map[string]bool{}
	for i, id := range stations {
		at := fmt.Sprintf("%s[%d]", field, i)
		s, ok := c.Station(id)
		switch {
		case !ok:
			wrong.Add(at, id, "a station of the catalogue", "there is no station %q", id)
		case seen[id]:
			wrong.Add(at, id, "each station once", "%s stands twice in the circuit: take one out", s.Label)
		case len(s.Sides[family]) == 0:
			wrong.Add(at, id, units.Sentence("stations of the "+family+" family"), "a %s engine has no %s: take it out", family,
				s.Label)
		}
		seen[id] = true
	}
	for _, id := range []string{"intake", "raw-pump", "outlet"} {
		if s, _ := c.Station(id); !seen[id] && len(s.Sides[family]) > 0 {
			wrong.Add(field, units.Say("%d stations", len(stations)), units.Sentence("a circuit with "+s.Label),
				"every raw-water circuit has %s: put it in", s.Label)
		}
	}
	if f, ok := c.Family(family); ok && HasCoolant(family, stations) != HasCoolant(family, f.Circuit) {
		wrong.Add(field, units.Say("%d stations", len(stations)), "the heat exchanger as the family has it",
			"a %s engine is told by its heat exchanger: leave it as it is", f.ID)
	}
	return wrong
}

// HasCoolant tells whether coolant runs in an engine's block: in Closed, and in a family of its own file where the
// circuit has a heat exchanger; else it is the raw water itself.
func HasCoolant(family string, circuit []string) bool {
	return family == Closed || family != Direct && slices.Contains(circuit, "exchanger")
}

// FaultsOn lists the faults that an engine can have: those of its family with a station on the circuit. A nil circuit
// stands for every station.
func (c *Catalogue) FaultsOn(family string, stations []string) []Fault {
	var out []Fault
	for _, f := range c.Faults {
		if slices.Contains(f.Families, family) && (stations == nil || overlap(f.Stations, stations)) {
			out = append(out, f)
		}
	}
	return out
}

// StationOf tells where on this circuit a check is made: the first of its stations that the circuit has, or
// AllStations; not ok when the check is not of this family or circuit.
func (c *Catalogue) StationOf(k Check, family string, stations []string) (string, bool) {
	if len(k.Families) > 0 && !slices.Contains(k.Families, family) {
		return "", false
	}
	if stations == nil {
		return k.Stations[0], true
	}
	if k.Stations[0] == AllStations {
		return AllStations, true
	}
	// The first in the order of this circuit's water: the first cooler differs from boat to boat.
	for _, s := range stations {
		if slices.Contains(k.Stations, s) {
			return s, true
		}
	}
	return "", false
}

func overlap(a, b []string) bool {
	return slices.ContainsFunc(a, func(x string) bool { return slices.Contains(b, x) })
}
