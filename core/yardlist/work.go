package yardlist

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// work plans a row of past work. What somebody complained of or what was found becomes a closed job of that day, and so
// does work that cannot be told from its words; maintenance that is told for certain becomes maintenance that was done.
func (p *planner) work() error {
	engine, ok := p.workedOn()
	day, at := p.day("day")
	words := map[string]string{}
	for _, c := range []string{"complaint", "found", "done", "by"} {
		words[c] = p.short(c, mostOfNote)
	}
	switch {
	case !ok || len(p.slips) > 0:
		return nil
	case day == "":
		p.slip("day", "say on which day it was")
		return nil
	case at.After(p.today.AddDate(0, 0, 1)):
		p.slip("day", "%s is still to come: it cannot have been then", day)
		return nil
	case words["complaint"] == "" && words["found"] == "" && words["done"] == "":
		p.slip("done", "say what was done, or what was found")
		return nil
	}
	items, all := p.maintenance(engine.Facts, words["done"])
	if words["complaint"] != "" || words["found"] != "" || !all {
		if err := p.job(engine, at, words); err != nil || len(p.slips) > 0 {
			return err
		}
	}
	for _, m := range items {
		if err := p.did(engine, m, day, at, words); err != nil || len(p.slips) > 0 {
			return err
		}
	}
	if len(p.line.Acts) == 0 { // all of it is on record; its hours are too
		return nil
	}
	return p.meter(engine.ID, day, at)
}

// workedOn finds the engine of a row; not ok, with a slip, where there is none or more than one.
func (p *planner) workedOn() (HeldEngine, bool) {
	name, which := p.text("craft"), p.text("engine")
	if name == "" {
		p.slip("craft", "say on which craft it was")
		return HeldEngine{}, false
	}
	craft, ok := p.theCraft(name)
	if !ok {
		if len(p.slips) == 0 {
			p.slip("craft", "no craft on record is called %s: bring in the list of craft first", name)
		}
		return HeldEngine{}, false
	}
	engines := p.enginesOf(craft.ID)
	if which == "" && len(engines) == 1 {
		return engines[0], true
	}
	var names []string
	for _, e := range engines {
		if same(e.Facts.Name, which) {
			return e, true
		}
		names = append(names, e.Facts.Name)
	}
	if len(engines) == 0 {
		p.slip("engine", "%s has no engine on record: add it first", craft.Name)
	} else {
		p.slip("engine", "say which engine of %s it was: %s", craft.Name, strings.Join(names, ", "))
	}
	return HeldEngine{}, false
}

// done are the words by which work is told for certain: one of each row's nouns with one of its verbs in the same
// clause. What was only looked at, is due or is to be done is none of it.
var done = []struct {
	item         string
	nouns, verbs []string
}{
	{"impeller", []string{"impeller"}, renewed},
	{"pump-seals", []string{"raw-water pump", "raw water pump", "sea water pump", "seawater pump"}, []string{"rebuilt",
		"overhauled", "resealed", "reconditioned"}},
	{"anode", []string{"anode", "anodes", "zinc", "zincs"}, renewed},
	{"descale", []string{"exchanger", "heat exchanger", "tube stack", "descaled"}, []string{"descaled"}},
	{"coolant", []string{"coolant", "antifreeze"}, renewed},
	{"thermostat", []string{"thermostat"}, renewed},
	{"belts", []string{"belt", "belts"}, renewed},
	{"elbow-life", []string{"elbow", "riser"}, renewed},
	{"strainer", []string{"strainer"}, []string{"cleaned"}},
	{"seacock", []string{"seacock"}, []string{"worked", "greased", "serviced", "overhauled", "renewed", "replaced"}},
}

var renewed = []string{"changed", "replaced", "renewed", "new", "fitted", "renew", "change", "replace"}

// doubtful words keep a clause from being taken for work that was done.
var doubtful = []string{"not", "no", "due", "needs", "need", "needed", "should", "next", "soon", "to be", "recommend",
	"recommended", "advised", "suggest", "if", "before", "refused", "declined", "ordered", "quote", "quoted", "still",
	"old", "refitted", "same", "again later", "todo", "wants", "tested", "checked", "looked"}

var clauses = regexp.MustCompile(`[,;.\n&+]|\band\b|\bthen\b`)

func holdsAny(clause string, words []string) bool {
	return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(clause, " "+w+" ") })
}

// spaced is a clause in small letters with blanks round each word.
func spaced(clause string) string {
	letters := strings.FieldsFunc(strings.ToLower(clause), func(r rune) bool {
		return strings.ContainsRune(" \t\r\n()[]\"'!?:/", r)
	})
	return " " + strings.Join(letters, " ") + " "
}

// maintenance tells which items of an engine's maintenance a text says were done, and whether that is all it says.
func (p *planner) maintenance(e eventlog.EngineFacts, text string) (items []string, all bool) {
	all = strings.TrimSpace(text) != ""
	for _, clause := range clauses.Split(text, -1) {
		clause = spaced(clause)
		if strings.TrimSpace(clause) == "" {
			continue
		}
		told := false
		for _, d := range done {
			m, ok := p.c.MaintenanceItem(d.item)
			if !ok || !m.On(e.Family, e.Circuit) || holdsAny(clause, doubtful) || !holdsAny(clause, d.nouns) ||
				!holdsAny(clause, d.verbs) {
				continue
			}
			told = true
			if !slices.Contains(items, m.ID) {
				items = append(items, m.ID)
			}
		}
		all = all && told
	}
	return items, all
}

// did adds an item of maintenance that was done on a day.
func (p *planner) did(engine HeldEngine, item, day string, at time.Time, words map[string]string) error {
	log, err := p.logOf(engine.ID)
	if err != nil {
		return err
	}
	a := eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: item, Day: eventlog.Day(day),
		Words: withName(words["done"], words["by"])}
	for _, e := range eventlog.Standing(log) {
		if m := e.Body.Maintenance; m != nil && m.Do == a.Do && m.Item == a.Item && m.Day == a.Day {
			return nil // on record already
		}
	}
	if err := eventlog.CheckMaintenance(p.c, engine.Facts, a, nil, p.today); err != nil {
		return p.refuse(err, map[string]string{"day": "day"})
	}
	p.onEngine(engine.ID, eventlog.MaintenanceNoted, eventlog.Body{Maintenance: &a}, at)
	m, _ := p.c.MaintenanceItem(item)
	p.says("%s, %s: counts as done: %s", at.Format("2 January 2006"), p.text("craft"), strings.ToLower(m.Do))
	p.plan.Counts.Maintenance++
	return nil
}

func withName(words, by string) string {
	if by == "" {
		return words
	}
	return strings.TrimSpace(words + " (" + by + ")")
}

// kindsOfJob are the words of a complaint that say what kind of job it was, the surest first; runs-hot is what is left
// of a complaint, inspection of work without one.
var kindsOfJob = []struct {
	kind  string
	words []string
}{
	{"leak", []string{"leak", "leaks", "leaking", "drip", "drips", "weeps", "water in bilge"}},
	{"runs-cold", []string{"cold", "cool", "too cool", "runs cold", "overcooled"}},
	{"exhaust-alarm", []string{"alarm"}},
	{"power-cut", []string{"power cut", "limp", "derate", "derated"}},
	{"after-grounding", []string{"aground", "grounded", "grounding"}},
	{"lay-up", []string{"lay-up", "layup", "winterised", "winterized", "laid up"}},
	{"spring", []string{"spring", "recommissioned", "launch", "launched"}},
	{"service", []string{"service", "serviced", "annual"}},
	{"runs-hot", []string{"hot", "overheats", "overheating", "overheated", "boils", "boiled", "steam", "temperature"}},
}

func kindOf(complaint, rest string) string {
	text := spaced(complaint)
	if strings.TrimSpace(text) == "" {
		text = spaced(rest)
	}
	for _, k := range kindsOfJob {
		if holdsAny(text, k.words) {
			return k.kind
		}
	}
	if strings.TrimSpace(complaint) == "" {
		return "inspection"
	}
	return "runs-hot"
}

// job adds a job that was begun and ended on a day, with a note of what was done, closed with the faults that its words
// name.
func (p *planner) job(engine HeldEngine, at time.Time, words map[string]string) error {
	id := p.id(strings.ToLower(strings.Join([]string{"job", engine.ID, at.Format(time.DateOnly), words["complaint"],
		words["found"], words["done"]}, "/")))
	if p.rows[id] > 0 {
		p.slip("", "row %d says the same", p.rows[id])
		return nil
	}
	kind := kindOf(words["complaint"], words["found"]+" "+words["done"])
	faults := p.faultsNamed(engine.Facts, words["found"])
	opened := eventlog.Body{EngineID: engine.ID, Opening: &eventlog.Opening{Kind: kind},
		Words: cmp.Or(words["complaint"], words["found"], words["done"])}
	if slices.Contains(p.held.Jobs, HeldJob{engine.ID, at.Format(time.DateOnly), opened.Words}) {
		return nil // on record already
	}
	if err := eventlog.CheckOpening(p.c, engine.Facts, opened); err != nil {
		return err
	}
	explains := len(faults) > 0
	ending := cmp.Or(strings.Join(filled(words["found"], words["done"]), ". "), "the list says no more")
	s := eventlog.Subject{Kind: eventlog.OfJob, ID: id}
	p.adds(s, eventlog.Opened, opened, at)
	if words["done"] != "" {
		p.adds(s, eventlog.Noted, eventlog.Body{Words: withName(words["done"], words["by"])}, at)
	}
	p.adds(s, eventlog.Closed, eventlog.Body{Faults: faults, Explains: &explains, Words: ending}, at)
	k, _ := p.c.JobKind(kind)
	p.says("%s, %s: a closed job, %s: %s", at.Format("2 January 2006"), p.text("craft"), strings.ToLower(k.Label),
		opened.Words)
	for _, f := range faults {
		fault, _ := p.c.Fault(f)
		p.says("found: %s", strings.ToLower(fault.Label))
	}
	p.rows[id] = p.line.Row
	p.plan.Counts.Jobs++
	return nil
}

// faultsNamed are the faults of an engine that a text names: a clause that holds every word of a fault's name, and no
// word that denies it.
func (p *planner) faultsNamed(e eventlog.EngineFacts, text string) []string {
	var out []string
	for _, clause := range clauses.Split(text, -1) {
		clause = spaced(clause)
		if holdsAny(clause, doubtful) {
			continue
		}
		for _, f := range p.c.FaultsOn(e.Family, e.Circuit) {
			if namesFault(clause, f) && !slices.Contains(out, f.ID) {
				out = append(out, f.ID)
			}
		}
	}
	return out
}

func namesFault(clause string, f catalogue.Fault) bool {
	for _, w := range strings.Fields(spaced(f.Label)) {
		if !strings.Contains(clause, " "+w+" ") {
			return false
		}
	}
	return true
}
