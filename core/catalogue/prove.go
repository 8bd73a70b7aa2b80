package catalogue

import (
	"errors"
	"fmt"
	"slices"
)

// leastSureRatio is the likelihood ratio that a sure look must reach against the leak and against every rival that it
// does not name (handbook of the trade, common practice).
const leastSureRatio = 20

// Prove checks that the catalogue holds together: ids known and used, numbers in range and reasoned, and every fault
// with a sure look that tells it from its rivals. It reports everything that is wrong, not only the first.
func (c *Catalogue) Prove() error {
	p := &proof{c: c}
	p.numbers()
	p.references()
	p.sureLooks()
	p.grades()
	p.coverage()
	p.tasks()
	p.maintenance()
	p.jobs()
	return errors.Join(p.wrong...)
}

type proof struct {
	c     *Catalogue
	wrong []error
}

func (p *proof) expect(ok bool, format string, args ...any) {
	if !ok {
		p.wrong = append(p.wrong, fmt.Errorf(format, args...))
	}
}

func (p *proof) known(m map[string]int, kind, id, where string) {
	_, ok := m[id]
	p.expect(ok, "%s: unknown %s %q", where, kind, id)
}

func (p *proof) unique(kind string, listed, distinct int) {
	p.expect(listed == distinct, "a %s id is given twice", kind)
}

// points looks at what readings show by operating point.
func (p *proof) points() {
	known, last := map[string]bool{"": true}, 0.0
	for _, x := range p.c.Points {
		p.expect(x.Speed > last && x.Speed <= 1 && x.Label != "",
			"point %s: needs a label, and more speed than the one before", x.ID)
		last, known[x.ID] = x.Speed, true
	}
	for _, k := range p.c.Checks {
		p.expect(known[k.Point] && (k.Point == "" || k.Engine == Running), "check %s: point %q is none of a running engine",
			k.ID, k.Point)
	}
	for _, f := range p.c.Findings {
		p.expect(f.At == nil || f.Source == Reading, "finding %s: no reading, but told by operating point", f.ID)
		for point, links := range f.At {
			p.expect(point != "" && known[point], "finding %s: unknown point %q", f.ID, point)
			for _, l := range links {
				p.expect(l.Strength > 0 && l.Strength < 1, "finding %s: strength %v of %s %s is not between 0 and 1", f.ID,
					l.Strength, l.Fault, point)
				p.known(p.c.index.faults, "fault", l.Fault, "finding "+f.ID)
			}
		}
	}
}

func (p *proof) numbers() {
	c := p.c
	p.expect(c.Version != "", "version is missing")
	p.expect(c.SetFactor > 0 && c.SetFactor <= 1, "set_factor %v is not in (0, 1]", c.SetFactor)
	for _, f := range c.Faults {
		p.expect(f.Prior > 0 && f.Prior < 1, "fault %s: prior %v is not between 0 and 1", f.ID, f.Prior)
		p.expect(f.Why != "" && f.Remedy != "" && f.Label != "", "fault %s: label, why and remedy are needed", f.ID)
	}
	for _, f := range c.Findings {
		p.expect(f.Leak > 0 && f.Leak < 1, "finding %s: leak %v is not between 0 and 1", f.ID, f.Leak)
		p.expect(f.LeakWhy != "" && f.Label != "", "finding %s: label and leak_why are needed", f.ID)
		for _, l := range slices.Concat(f.Causes, f.Blocks) {
			p.expect(l.Strength > 0 && l.Strength < 1, "finding %s: strength %v of %s is not between 0 and 1", f.ID, l.Strength,
				l.Fault)
			p.expect(l.Why != "", "finding %s: %s has no reason", f.ID, l.Fault)
		}
	}
	p.points()
	for _, x := range c.Pairs {
		p.expect(x.Factor > 0 && x.Why != "" && x.A != x.B, "pair %s + %s: needs a positive factor, a reason and two faults",
			x.A, x.B)
	}
	for _, h := range c.History {
		for _, m := range h.Multipliers {
			p.expect(m.Factor > 0 && m.Why != "", "history %s: %s needs a positive factor and a reason", h.ID, m.Fault)
		}
	}
	for _, k := range c.Checks {
		p.expect(k.Minutes > 0 && len(k.How) > 0, "check %s: minutes and how are needed", k.ID)
		p.expect(k.Brief == 0 || k.Engine == Running, "check %s: run_seconds of an engine that is not to run", k.ID)
		p.expect(slices.Contains([]string{Running, Stopped, Any}, k.Engine), "check %s: engine %q", k.ID, k.Engine)
	}
	for _, k := range c.Checks {
		p.expect(!k.Removed || k.Engine != Running && len(k.Confirms) > 0,
			"check %s: of a part that came out, it is made at rest and is a sure look", k.ID)
	}
	for _, k := range c.Checks {
		complaint := func(id string) bool { f, ok := c.Finding(id); return ok && f.Source == Complaint }
		p.expect(len(k.TestKPa) == 0 || len(k.TestKPa) == 2 && 0 < k.TestKPa[0] && k.TestKPa[0] <= k.TestKPa[1] &&
			slices.Contains(k.Cautions, "pressure-air"),
			"check %s: a test pressure goes from and to, with its caution", k.ID)
		p.expect(!k.Asks || k.Engine == Any && k.Access == "" && k.Opens == "" && len(k.Confirms) == 0,
			"check %s: a question needs nothing and proves nothing", k.ID)
		p.expect(!k.Asks || !slices.ContainsFunc(k.Settles, func(id string) bool { return !complaint(id) }),
			"check %s: only what is told with a complaint can be asked", k.ID)
	}
	for _, a := range c.Access {
		p.expect(a.Minutes > 0 && a.Why != "", "access %s: minutes and why are needed", a.ID)
	}
}

func (p *proof) references() {
	c := p.c
	p.unique("station", len(c.Stations), len(c.index.stations))
	p.unique("fault", len(c.Faults), len(c.index.faults))
	p.unique("finding", len(c.Findings), len(c.index.findings))
	p.unique("family", len(c.Families), len(c.index.families))
	p.unique("check", len(c.Checks), len(c.index.checks))
	p.unique("access", len(c.Access), len(c.index.access))
	p.unique("history", len(c.History), len(c.index.history))
	for _, f := range c.Families {
		p.expect(f.Label != "" && f.ThermostatC > 0 && len(f.Circuit) > 0,
			"family %s: label, thermostat_c and circuit are needed", f.ID)
		base := func(id string) bool { return id == Closed || id == Direct }
		p.expect(base(f.ID) && f.Like == "" || !base(f.ID) && base(f.Like),
			"family %s: like %q is not %s or %s", f.ID, f.Like, Closed, Direct)
		p.expect(f.Like == "" || HasCoolant(f.ID, f.Circuit) == (f.Like == Closed),
			"family %s: like %s, and its circuit says otherwise: coolant runs in the block where there is an exchanger",
			f.ID, f.Like)
		for _, e := range c.CheckCircuit("circuit", f.ID, f.Circuit) {
			p.expect(false, "family %s: %s: %s", f.ID, e.Field, e.Say)
		}
		for _, s := range f.Circuit {
			p.known(c.index.stations, "station", s, "family "+f.ID)
		}
	}
	for _, f := range c.Faults {
		p.expect(len(f.Stations) > 0 && len(f.Families) > 0, "fault %s: stations and families are needed", f.ID)
		for _, s := range f.Stations {
			p.known(c.index.stations, "station", s, "fault "+f.ID)
		}
		for _, s := range f.Families {
			p.known(c.index.families, "family", s, "fault "+f.ID)
		}
	}
	p.findingReferences()
	for _, x := range c.Pairs {
		p.known(c.index.faults, "fault", x.A, "pair")
		p.known(c.index.faults, "fault", x.B, "pair")
	}
	seen := map[[2]string]bool{}
	for _, x := range c.Pairs {
		key := [2]string{min(x.A, x.B), max(x.A, x.B)}
		p.expect(!seen[key], "pair %s + %s is given twice", x.A, x.B)
		seen[key] = true
	}
	for _, h := range c.History {
		for _, m := range h.Multipliers {
			p.known(c.index.faults, "fault", m.Fault, "history "+h.ID)
		}
	}
	p.checkReferences()
}

func (p *proof) findingReferences() {
	c := p.c
	for _, g := range c.Groups {
		for _, f := range g.Findings {
			p.known(c.index.findings, "finding", f, "group "+g.ID)
		}
	}
	for _, f := range c.Findings {
		seen := map[string]bool{}
		for _, l := range slices.Concat(f.Causes, f.Blocks) {
			p.known(c.index.faults, "fault", l.Fault, "finding "+f.ID)
			p.expect(!seen[l.Fault], "finding %s: %s is given twice", f.ID, l.Fault)
			seen[l.Fault] = true
		}
	}
}

func (p *proof) checkReferences() {
	c := p.c
	for _, k := range c.Checks {
		where := "check " + k.ID
		for _, f := range k.Settles {
			p.known(c.index.findings, "finding", f, where)
		}
		for _, s := range k.Stations {
			if s != AllStations {
				p.known(c.index.stations, "station", s, where)
			}
		}
		for _, n := range k.Needs {
			p.known(c.index.needs, "need", n, where)
		}
		for _, n := range k.Cautions {
			p.known(c.index.cautions, "caution", n, where)
		}
		if k.Access != "" {
			p.known(c.index.access, "access", k.Access, where)
		}
		p.reads(k, where)
		if k.Opens != "" {
			_, ok := c.Opening(k.Opens)
			p.expect(ok, "%s opens %q, which is no joint", where, k.Opens)
		}
	}
	for _, a := range c.Access {
		for _, n := range a.Needs {
			p.known(c.index.needs, "need", n, "access "+a.ID)
		}
		for _, n := range a.Cautions {
			p.known(c.index.cautions, "caution", n, "access "+a.ID)
		}
	}
}

// reads: a check that is read off names stations or the flow, and settles what readings tell.
func (p *proof) reads(k Check, where string) {
	for _, s := range k.Reads {
		if s != AllStations && s != Flow {
			p.known(p.c.index.stations, "station", s, where)
		}
	}
	tells := slices.ContainsFunc(k.Settles, func(id string) bool {
		f, ok := p.c.Finding(id)
		return ok && f.Source == Reading
	})
	p.expect(len(k.Reads) == 0 || tells && k.Engine == "running", "%s reads what no finding of it is told by", where)
}

// sureLooks: every fault has a look whose likelihood ratio is at least leastSureRatio, against the leak and against
// each other cause of the same finding in its family, or names those rivals and the look that can tell them apart.
func (p *proof) sureLooks() {
	for _, f := range p.c.Faults {
		p.expect(len(f.Sure) > 0, "fault %s has no sure look", f.ID)
		for _, s := range f.Sure {
			p.sureLook(f, s)
		}
	}
}

func (p *proof) sureLook(f Fault, s SureLook) {
	c := p.c
	check, okCheck := c.Check(s.Check)
	finding, okFinding := c.Finding(s.Finding)
	p.expect(okCheck && okFinding, "fault %s: unknown sure look %s / %s", f.ID, s.Check, s.Finding)
	if !okCheck || !okFinding {
		return
	}
	p.expect(slices.Contains(check.Settles, s.Finding), "fault %s: %s does not settle %s", f.ID, s.Check, s.Finding)
	rivals := map[string]bool{}
	for _, r := range s.Rivals {
		rivals[r.Fault] = true
		p.known(c.index.faults, "fault", r.Fault, "fault "+f.ID+", rivals")
		p.known(c.index.checks, "check", r.SettledBy, "fault "+f.ID+", rivals")
	}
	shown := finding.ChanceWith(f.ID)
	p.expect(shown/finding.Leak >= leastSureRatio, "fault %s: %s shows it only %.1f times better than its leak",
		f.ID, s.Finding, shown/finding.Leak)
	for _, other := range finding.Causes {
		rival, ok := c.Fault(other.Fault)
		if !ok || rival.ID == f.ID || !shareFamily(f, rival) || rivals[rival.ID] {
			continue
		}
		p.expect(shown/finding.ChanceWith(rival.ID) >= leastSureRatio,
			"fault %s: %s cannot tell it from %s: name the rival and the look that can", f.ID, s.Finding, rival.ID)
	}
}

// leastLight is the leak from which a light grade is common in service.
const leastLight = 0.2

// grades: a light grade is common and shows no fault for sure, each heavy one does; whoever looks sees both.
func (p *proof) grades() {
	c := p.c
	sure := map[string]bool{}
	for _, f := range c.Faults {
		for _, s := range f.Sure {
			sure[s.Finding] = true
		}
	}
	lights, heavies := 0, 0
	for _, g := range c.Grades {
		where := "grade " + g.ID
		p.known(c.index.findings, "finding", g.Light, where)
		light, _ := c.Finding(g.Light)
		p.expect(light.Leak >= leastLight && !sure[g.Light], "%s: %s must be common, and no sure look", where, g.Light)
		p.expect(g.Label != "" && g.Do != "" && len(g.Heavy) > 0, "%s: label, heavy and do are needed", where)
		if g.Item != "" {
			_, ok := c.MaintenanceItem(g.Item)
			p.expect(ok, "%s: unknown maintenance %q", where, g.Item)
		}
		for _, h := range g.Heavy {
			p.known(c.index.findings, "finding", h, where)
			p.expect(sure[h], "%s: %s must be a sure look", where, h)
		}
		for _, k := range c.Checks {
			heavy := slices.ContainsFunc(k.Settles, func(f string) bool { return slices.Contains(g.Heavy, f) })
			p.expect(heavy == slices.Contains(k.Settles, g.Light),
				"%s: %s must settle its light grade beside a heavy one", where, k.ID)
		}
		lights, heavies = lights+1, heavies+len(g.Heavy)
	}
	p.expect(lights == len(c.index.lightOf) && heavies == len(c.index.heavyOf), "a finding is in two grades")
}

// ChanceWith is the chance that the finding shows when the given fault is the only one.
func (f Finding) ChanceWith(fault string) float64 {
	chance := f.Leak
	for _, l := range f.Causes {
		if l.Fault == fault {
			chance = 1 - (1-chance)*(1-l.Strength)
		}
	}
	for _, l := range f.Blocks {
		if l.Fault == fault {
			chance *= 1 - l.Strength
		}
	}
	return chance
}

func shareFamily(a, b Fault) bool {
	return slices.ContainsFunc(a.Families, func(f string) bool { return slices.Contains(b.Families, f) })
}

// coverage: nothing orphaned.
func (p *proof) coverage() {
	c := p.c
	settled, checked, opened, caused := map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, k := range c.Checks {
		p.expect(len(k.Settles) > 0, "check %s settles nothing", k.ID)
		for _, f := range k.Settles {
			settled[f] = true
		}
		for _, s := range k.Stations {
			checked[s] = true
		}
		opened[k.Access] = true
	}
	for _, f := range c.Findings {
		p.expect(len(f.Causes)+len(f.Blocks) > 0, "finding %s has neither cause nor blocker", f.ID)
		p.expect(f.Source == Complaint || settled[f.ID] && (f.Source == FromCheck || f.Source == Reading),
			"finding %s (%s) is settled by no check", f.ID, f.Source)
		p.expect(f.Source != Complaint || f.Topic != "", "complaint %s has no topic", f.ID)
		for _, l := range f.Causes {
			caused[l.Fault] = true
		}
		for _, l := range f.Blocks {
			caused[l.Fault] = true
		}
	}
	for _, s := range c.Stations {
		p.expect(checked[s.ID], "station %s has no check", s.ID)
	}
	for _, a := range c.Access {
		p.expect(opened[a.ID], "access %s serves no check", a.ID)
	}
	for _, f := range c.Faults {
		p.expect(caused[f.ID], "fault %s shows in no finding", f.ID)
	}
}

// tasks: what they name is there, items are named once, a method's default is one of its schools.
func (p *proof) tasks() {
	c := p.c
	questions, labels := map[string]int{}, map[string]int{}
	for _, m := range c.Methods {
		questions[m.ID]++
		_, ok := m.School(m.Default)
		p.expect(ok && m.Why != "" && m.Label != "" && len(m.Schools) > 1,
			"method %s: schools, a default among them and its why are needed", m.ID)
	}
	p.unique("method", len(c.Methods), len(questions))
	for _, t := range c.Tasks {
		labels[t.ID]++
		where := "task " + t.ID
		p.expect(t.Label != "" && t.Minutes > 0 && len(t.Items) > 0 && len(t.After) > 0,
			"%s: label, minutes, items and checks afterwards are needed", where)
		for _, s := range t.Stations {
			p.known(c.index.stations, "station", s, where)
		}
		for _, f := range t.Families {
			_, ok := c.Family(f)
			p.expect(ok, "%s: unknown family %q", where, f)
		}
		for _, k := range t.Cautions {
			p.known(c.index.cautions, "caution", k, where)
		}
		for _, a := range t.Access {
			_, ok := c.AccessTo(a)
			p.expect(ok, "%s: unknown access %q", where, a)
		}
		for _, m := range t.Methods {
			p.known(questions, "method", m, where)
		}
		items := map[string]bool{}
		for _, i := range t.Items {
			p.expect(!items[i.ID] && i.Count > 0 && i.Label != "", "%s: item %s: once, with a label and a count", where, i.ID)
			items[i.ID] = true
			if i.Access != "" {
				_, ok := c.Opening(i.Access)
				p.expect(ok, "%s: item %s opens %q, which is no access", where, i.ID, i.Access)
			}
		}
	}
	p.unique("task", len(c.Tasks), len(labels))
}

// jobs: each kind begins and ends as the program knows how to, and what it takes as so is in the catalogue.
func (p *proof) jobs() {
	kinds, troubles, waters := map[string]int{}, map[string]int{}, map[string]int{}
	for i, k := range p.c.JobKinds {
		kinds[k.ID] = i
		p.expect(slices.Contains([]string{Symptoms, Past, Plan}, k.Begins), "job kind %s: begins with %q", k.ID, k.Begins)
		p.expect(slices.Contains([]string{UntilProved, UntilDry, UntilDone}, k.Ends), "job kind %s: ends %q", k.ID, k.Ends)
		p.expect((k.Begins == Plan) == (k.Ends == UntilDone), "job kind %s: a plan, and only a plan, ends when it is done",
			k.ID)
		p.complaints(k.Findings, "job kind "+k.ID)
		for _, h := range k.History {
			p.known(p.c.index.history, "history item", h, "job kind "+k.ID)
		}
	}
	p.known(kinds, "job kind", RunsHot, "jobs")
	for i, t := range p.c.Troubles {
		troubles[t.ID] = i
		p.known(kinds, "job kind", t.Kind, "trouble "+t.ID)
		p.complaints(t.Findings, "trouble "+t.ID)
	}
	for i, w := range p.c.Waters {
		waters[w.ID] = i
		p.complaints(w.Findings, "water "+w.ID)
	}
	p.unique("job kind", len(p.c.JobKinds), len(kinds))
	p.unique("trouble", len(p.c.Troubles), len(troubles))
	p.unique("water", len(p.c.Waters), len(waters))
}

// complaints: what is seen without a look is a finding of the complaint.
func (p *proof) complaints(ids []string, where string) {
	for _, id := range ids {
		f, ok := p.c.Finding(id)
		p.expect(ok && f.Source == Complaint, "%s: %q is no finding of the complaint", where, id)
	}
}
