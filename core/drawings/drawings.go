// Package drawings says which drawing belongs to what the catalogue holds: to a check, to each answer of a check, to an
// access, to a part that comes off, to a step of a task. It draws nothing; the plates themselves are the front end's.
package drawings

import (
	"fmt"
	"maps"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/validation"
)

// Plate is one drawing with what it can show.
type Plate struct {
	ID    string   `json:"id" yaml:"id"`
	Label string   `json:"label" yaml:"label"`
	Says  string   `json:"says" yaml:"says"`   // in words, for those who do not see it
	Views []string `json:"views" yaml:"views"` // besides the whole
	Shows []string `json:"shows" yaml:"shows"` // what can be shown on it, each as a share
}

// Drawing is a plate in a state, or the reason why there is none.
type Drawing struct {
	Plate string             `json:"plate,omitempty" yaml:"plate"`
	View  string             `json:"view,omitempty" yaml:"view"`
	Show  map[string]float64 `json:"show,omitempty" yaml:"show"` // shares from 0 to 1
	None  string             `json:"none,omitempty" yaml:"none"` // why nothing is drawn
}

// Seen is what an answer looks like, and beside it how it should look; the options of one question show each other.
type Seen struct {
	Present Drawing  `json:"present" yaml:"present"`
	Absent  *Drawing `json:"absent,omitempty" yaml:"absent"`
	None    string   `json:"none,omitempty" yaml:"none"`
}

// Fault is how a fault looks that was found, and which share of its drawing says how far it has gone.
type Fault struct {
	Drawing `yaml:",inline"`
	Extent  string `json:"extent,omitempty" yaml:"extent"`
}

// Drawings says what is drawn where, by the ids of the catalogue.
type Drawings struct {
	Plates   []Plate              `json:"plates" yaml:"plates"`
	OnLeg    map[string]string    `json:"on_leg" yaml:"on_leg"`   // plates that give place on a drive leg, and to which
	Screens  map[string]Drawing   `json:"screens" yaml:"screens"` // screens and kinds of work that begin with a drawing
	Stations map[string]Drawing   `json:"stations" yaml:"stations"`
	Checks   map[string]Drawing   `json:"checks" yaml:"checks"`
	Findings map[string]Seen      `json:"findings" yaml:"findings"`
	Faults   map[string]Fault     `json:"faults" yaml:"faults"`
	Access   map[string]Drawing   `json:"access" yaml:"access"`
	Items    map[string]Drawing   `json:"items" yaml:"items"` // by item, or by task/item where a task means another
	Steps    map[string][]Drawing `json:"steps" yaml:"steps"` // of each task, in its order
	After    map[string][]Drawing `json:"after" yaml:"after"`
}

// Of gives the drawing of an item of a task.
func (d *Drawings) Of(task, item string) (Drawing, bool) {
	if x, ok := d.Items[task+"/"+item]; ok {
		return x, true
	}
	x, ok := d.Items[item]
	return x, ok
}

// Fault gives the drawing of a fault: its own, else what its first sure look shows.
func (d *Drawings) Fault(f catalogue.Fault) Fault {
	if x, ok := d.Faults[f.ID]; ok || len(f.Sure) == 0 {
		return x
	}
	return Fault{Drawing: d.Findings[f.Sure[0].Finding].Present}
}

// GoneBy is the drawing of a fault that has gone so far: a share from 0 to 1 of what its extent names.
func (f Fault) GoneBy(share float64) Drawing {
	out := f.Drawing
	if f.Extent == "" {
		return out
	}
	out.Show = maps.Clone(f.Show)
	out.Show[f.Extent] = share
	return out
}

// On gives the plate of an engine's own circuit its place: on a drive leg there is no hull fitting and no seacock.
func (d *Drawings) On(circuit []string, x Drawing) Drawing {
	if other, ok := d.OnLeg[x.Plate]; ok && !slices.Contains(circuit, "seacock") {
		x.Plate = other
	}
	return x
}

// Prove tells what is wrong with the drawings of a catalogue: every check, access, item, step and answer of a look has
// its drawing or a reason, every drawing stands on a plate that can show it, nothing is drawn that the catalogue does
// not hold.
func (d *Drawings) Prove(c *catalogue.Catalogue) error {
	p := prover{plates: map[string]Plate{}, used: map[string]bool{}}
	for _, plate := range d.Plates {
		p.plates[plate.ID] = plate
	}
	for from, to := range d.OnLeg {
		p.drawn("on_leg."+from, Drawing{Plate: from}, true)
		p.drawn("on_leg."+from, Drawing{Plate: to}, true)
	}
	for id, x := range d.Screens {
		p.drawn("screens."+id, x, true)
	}
	for _, s := range c.Stations {
		x, ok := d.Stations[s.ID]
		p.drawn("stations."+s.ID, x, ok)
	}
	for _, f := range c.Faults {
		x := d.Fault(f)
		p.drawn("faults."+f.ID, x.Drawing, true)
		if x.Extent != "" {
			p.drawn("faults."+f.ID, x.GoneBy(1), true)
		}
	}
	for _, k := range c.Checks {
		x, ok := d.Checks[k.ID]
		p.drawn("checks."+k.ID, x, ok)
		for _, id := range k.Settles {
			seen, ok := d.Findings[id]
			p.seen("findings."+id, seen, ok)
		}
	}
	for _, a := range c.Access {
		x, ok := d.Access[a.ID]
		p.drawn("access."+a.ID, x, ok)
	}
	for _, t := range c.Tasks {
		for _, i := range t.Items {
			x, ok := d.Of(t.ID, i.ID)
			p.drawn("items."+t.ID+"/"+i.ID, x, ok)
		}
		p.inOrder("steps."+t.ID, d.Steps[t.ID], len(t.Steps))
		p.inOrder("after."+t.ID, d.After[t.ID], len(t.After))
	}
	p.orphans("checks", d.Checks, func(id string) bool { _, ok := c.Check(id); return ok })
	for id := range d.Faults {
		if _, ok := c.Fault(id); !ok {
			p.wrong.Add("faults."+id, id, "a fault", "take it out")
		}
	}
	p.orphans("access", d.Access, func(id string) bool { _, ok := c.AccessTo(id); return ok })
	for id, seen := range d.Findings {
		if _, ok := c.Finding(id); !ok {
			p.wrong.Add("findings."+id, id, "a finding", "take it out")
		}
		p.seen("findings."+id, seen, true)
	}
	for _, plate := range d.Plates {
		if !p.used[plate.ID] || plate.Says == "" || plate.Label == "" {
			p.wrong.Add("plates."+plate.ID, plate.ID, "used, with a name and words", "use it, or take it out")
		}
	}
	return p.wrong.Err()
}

type prover struct {
	plates map[string]Plate
	used   map[string]bool
	wrong  validation.Errors
}

func (p *prover) seen(at string, s Seen, ok bool) {
	if ok && s.None != "" {
		return
	}
	p.drawn(at+".present", s.Present, ok)
	if s.Absent != nil {
		p.drawn(at+".absent", *s.Absent, true)
	}
}

func (p *prover) inOrder(at string, list []Drawing, want int) {
	if len(list) != want {
		p.wrong.Add(at, fmt.Sprintf("%d drawings", len(list)), "one a step", "draw each step, or say why not")
	}
	for i, x := range list {
		p.drawn(fmt.Sprintf("%s[%d]", at, i), x, true)
	}
}

func (p *prover) orphans(at string, list map[string]Drawing, known func(string) bool) {
	for id := range list {
		if !known(id) {
			p.wrong.Add(at+"."+id, id, "an id of the catalogue", "take it out")
		}
	}
}

func (p *prover) drawn(at string, x Drawing, ok bool) {
	if !ok || (x.Plate == "") == (x.None == "") {
		p.wrong.Add(at, "nothing", "a plate, or a reason for none", "say which plate shows it, or why none does")
		return
	}
	if x.None != "" {
		return
	}
	plate, known := p.plates[x.Plate]
	if !known {
		p.wrong.Add(at, x.Plate, "a plate", "name a plate that there is")
		return
	}
	p.used[x.Plate] = true
	if x.View != "" && !slices.Contains(plate.Views, x.View) {
		p.wrong.Add(at, x.View, "a view of the plate", "name a view of %s", plate.ID)
	}
	for name, share := range x.Show {
		if !slices.Contains(plate.Shows, name) || share < 0 || share > 1 {
			p.wrong.Add(at, fmt.Sprintf("%s %v", name, share), "what the plate shows, 0 to 1",
				"name what %s can show, as a share", plate.ID)
		}
	}
}
