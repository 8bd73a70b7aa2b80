package yardlist

import (
	"cmp"
	"math"
	"strings"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/units"
)

// How many letters a name and a note may have; as for those that are typed.
const (
	mostOfName = 80
	mostOfNote = 2000
)

// engineColumns are the columns that tell of an engine: a row that fills none of them is of a craft alone.
var engineColumns = []string{"engine", "cooling", "fuel", "power", "speed", "thermostat", "pump", "hours",
	"impeller_fitted", "descaled", "elbow_fitted", "coolant_changed", "seacock_worked"}

// fleet plans a row of craft and engines.
func (p *planner) fleet() error {
	facts := eventlog.CraftFacts{Name: p.short("craft", mostOfName), Owner: p.short("owner", mostOfName),
		Berth: p.short("berth", mostOfName), Note: p.short("note", mostOfNote)}
	if facts.Name == "" {
		if len(p.slips) == 0 {
			p.slip("craft", "say what the craft is called")
		}
		return nil
	}
	craft, there := p.theCraft(facts.Name)
	if len(p.slips) > 0 {
		return nil
	}
	if row, isNew := p.rows[craft.ID]; isNew && facts.Owner != "" && !same(facts.Owner, p.owners[craft.ID]) {
		p.slip("owner", "row %d gives %s to another owner: if they are two craft, give each a name of its own", row,
			facts.Name)
		return nil
	}
	told := p.tellsEngine()
	if !there {
		craft = HeldCraft{p.id("craft/" + strings.ToLower(facts.Name)), facts.Name}
		p.adds(eventlog.Subject{Kind: eventlog.OfCraft, ID: craft.ID}, eventlog.Saved, eventlog.Body{Craft: &facts},
			time.Time{})
		p.says("%s", strings.Join(filled(facts.Name, facts.Owner, facts.Berth), ", "))
		p.plan.Counts.Craft++
	}
	if told {
		if err := p.engine(craft); err != nil {
			return err
		}
	}
	if len(p.slips) == 0 && !there { // what a wrong row would have added is not there for the next
		p.held.Craft = append(p.held.Craft, craft)
		p.owners[craft.ID], p.rows[craft.ID] = facts.Owner, p.line.Row
	}
	return nil
}

func filled(parts ...string) []string {
	var out []string
	for _, s := range parts {
		if s != "" {
			out = append(out, s)
		}
	}
	return out
}

// tellsEngine says whether the row itself, not what is usual, tells of an engine.
func (p *planner) tellsEngine() bool {
	for _, id := range engineColumns {
		if i, ok := p.at[id]; ok && cellOf(p.row, i) != "" {
			return true
		}
	}
	return false
}

// fuels are words for what an engine burns: the first is the catalogue's own.
var fuels = map[string][]string{"diesel": {"diesel", "d", "derv", "gas oil"}, "petrol": {"petrol", "p", "gasoline",
	"gas"}}

// coolings are words for how an engine is cooled, by family, and what to write.
func coolings(c *catalogue.Catalogue) (words map[string][]string, write string) {
	words = map[string][]string{}
	var labels []string
	for _, f := range c.Families {
		words[f.ID] = append([]string{f.ID, f.Label}, f.Names...)
		labels = append(labels, strings.ToLower(f.Label))
	}
	return words, strings.Join(labels, " or ")
}

// oneOf reads a column by its words; not ok where it says nothing or none of them.
func (p *planner) oneOf(column string, words map[string][]string, allowed string) (string, bool) {
	said := p.text(column)
	for is, list := range words {
		for _, w := range list {
			if same(said, w) {
				return is, true
			}
		}
	}
	if said == "" {
		p.slip(column, "say it in a column, or once for the whole list: %s", allowed)
	} else {
		p.slip(column, "%q is not known here: write %s", said, allowed)
	}
	return "", false
}

// ofEngine are the columns by the fields of an engine's facts.
var ofEngine = map[string]string{"name": "engine", "family": "cooling", "fuel": "fuel", "rated_kw": "power",
	"rated_rpm": "speed", "thermostat_c": "thermostat", "hours": "hours"}

func (p *planner) engine(craft HeldCraft) error {
	name := cmp.Or(p.short("engine", mostOfName), "Main")
	for _, e := range p.enginesOf(craft.ID) {
		if !same(e.Facts.Name, name) {
			continue
		}
		if row, isNew := p.rows[e.ID]; isNew {
			p.slip("engine", "row %d has this engine already: give the other a name of its own, as port and starboard", row)
			return nil
		}
		return nil // on record: left as it stands
	}
	f, ok := p.engineFacts(craft, name)
	if !ok {
		return nil
	}
	if err := eventlog.CheckEngine(p.c, f); err != nil {
		return p.refuse(err, ofEngine)
	}
	id := p.id("engine/" + strings.ToLower(craft.Name+"/"+name))
	p.onEngine(id, eventlog.Saved, eventlog.Body{Engine: &f}, time.Time{})
	family, _ := p.c.Family(f.Family)
	p.says("%s, %s: %s, %s, %s at %s, opens at %s", craft.Name, name, strings.ToLower(family.Label), f.Fuel,
		units.Of(math.Round(10*f.RatedKW)/10, "kW"), units.Of(f.RatedRPM, "rpm"), units.Of(f.ThermostatC, "degC"))
	day, at := p.day("read")
	if p.text("hours") != "" && day == "" && len(p.slips) == 0 {
		p.slip("read", "say on which day the meter was read, in a column or once for the whole list")
	}
	if err := p.meter(id, day, at); err != nil {
		return err
	}
	if len(p.slips) == 0 {
		p.held.Engines = append(p.held.Engines, HeldEngine{id, f})
		p.rows[id] = p.line.Row
		p.plan.Counts.Engines++
	}
	return nil
}

// engineFacts reads what the row tells of an engine. Speed, thermostat and circuit that it leaves out are those of the
// nearest kind of engine; cooling, fuel and power must be told.
func (p *planner) engineFacts(craft HeldCraft, name string) (eventlog.EngineFacts, bool) {
	f := eventlog.EngineFacts{CraftID: craft.ID, Name: name, RawPump: p.short("pump", mostOfName)}
	var known bool
	words, write := coolings(p.c)
	if f.Family, known = p.oneOf("cooling", words, write); !known {
		return f, false
	}
	if f.Fuel, known = p.oneOf("fuel", fuels, "diesel or petrol"); !known {
		return f, false
	}
	if f.RatedKW, known = p.figure("power"); !known {
		if len(p.slips) == 0 {
			p.slip("power", "say how strong it is, in kW or hp: nothing can be judged without")
		}
		return f, false
	}
	f.RatedKW = math.Round(100*f.RatedKW) / 100 // as exact as anybody writes it
	kind := plant.TypeFor(f.Family, plant.Fuel(f.Fuel), "", f.RatedKW)
	f.Circuit = kind.Circuit
	if kind.Family != f.Family { // no kind of this family ships: its own circuit
		own, _ := p.c.Family(f.Family)
		f.Circuit, kind.ThermostatC = own.Circuit, own.ThermostatC
	}
	if f.RatedRPM, known = p.figure("speed"); !known {
		f.RatedRPM = kind.RatedRPM
	}
	if f.ThermostatC, known = p.figure("thermostat"); !known {
		f.ThermostatC = kind.ThermostatC
	}
	for _, d := range []struct {
		column string
		to     *eventlog.Day
	}{{"impeller_fitted", &f.Dates.ImpellerFitted}, {"descaled", &f.Dates.Descaled}, {"elbow_fitted",
		&f.Dates.ElbowFitted},
		{"coolant_changed", &f.Dates.CoolantChanged}, {"seacock_worked", &f.Dates.SeacockWorked}} {
		day, at := p.day(d.column)
		if at.After(p.today.AddDate(0, 0, 1)) {
			p.slip(d.column, "%s is still to come: it cannot have been done then", day)
		}
		*d.to = eventlog.Day(day)
	}
	return f, len(p.slips) == 0
}
