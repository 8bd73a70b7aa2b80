package report

import (
	"fmt"
	"slices"
	"strings"
	"time"

	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
	"hevrin/core/units"
)

// EnginePage is what an owner is shown of an engine: what it is, what is due on it, and what was done, the newest job
// first. It holds no notes, readings or pictures of the work, and no names of who works in the yard.
type EnginePage struct {
	Craft, Owner, Berth string
	EngineName, Engine  string // Engine with what it is
	Hours               string // what it has run, in words
	Due                 []DueLine
	Jobs                []PastJob
}

// PastJob is a job in a few lines: when it was begun, what was complained of, and what came of it.
type PastJob struct {
	ID        string
	Opened    time.Time
	Complaint string
	Lines     []string
}

// mostPastJobs is how many jobs an owner's page goes back.
const mostPastJobs = 40

// EnginePageOf makes an engine's page for its owner, from its record, in the reader's units.
func EnginePageOf(c *catalogue.Catalogue, p *schedule.ServicePage, system units.System) *EnginePage {
	out := &EnginePage{Craft: p.Craft.Name, Owner: p.Craft.Owner, Berth: p.Craft.Berth, EngineName: p.Engine.Name,
		Engine: engineWords(c, p.Engine, system)}
	if h := p.Hours; h.Confirmed {
		out.Hours = fmt.Sprintf("About %.0f h run", h.Now)
	}
	for _, d := range p.Due {
		if line, ok := ownersDue(d); ok {
			out.Due = append(out.Due, line)
		}
	}
	out.Jobs = pastJobs(c, p.History)
	return out
}

// engineWords says what an engine is.
func engineWords(c *catalogue.Catalogue, e record.Engine, system units.System) string {
	family := e.Family
	if f, ok := c.Family(family); ok {
		family = f.Label
	}
	return units.Say("%s, %s of %g at %g rev/min, %s", e.Name, e.Fuel, units.Of(e.RatedKW, "kW"), e.RatedRPM,
		Lower(family)).In(system)
}

// ownersDue is what is due, or will be; what nobody knows the date of is no line.
func ownersDue(d maintenance.Due) (DueLine, bool) {
	if d.When.IsZero() {
		return DueLine{}, false
	}
	line := DueLine{What: d.Do, When: "by " + Day(d.When), Why: d.Why}
	if d.State == maintenance.Overdue {
		line.When = "since " + Day(d.When)
	}
	return line, true
}

var runWords = map[string]string{"cured": "Proved in a run under load: cured", "not-cured": "Run under load: not cured",
	"tight": "Run for leaks: tight"}

// ownersLine is a line of the service history as an owner reads it; empty: it is the yard's alone.
func ownersLine(c *catalogue.Catalogue, l record.ServiceLine) string {
	switch l.Kind {
	case schedule.ServiceCause:
		var names []string
		for _, id := range strings.Fields(l.Item) {
			if f, ok := c.Fault(id); ok {
				names = append(names, Lower(f.Label))
			}
		}
		if len(names) == 0 {
			return "Closed"
		}
		return "Found: " + strings.Join(names, " and ")
	case schedule.ServiceDone:
		if m, ok := c.MaintenanceItem(l.Item); ok {
			return m.Do + ": done"
		}
	case schedule.ServiceWork:
		return workKinds[l.Item]
	case schedule.ServicePart:
		return strings.TrimSpace(fmt.Sprintf("%g × %s", l.Value, l.Label))
	case schedule.ServiceRun:
		return runWords[l.Item]
	}
	return ""
}

// pastJobs puts the lines of each job together, the newest job first.
func pastJobs(c *catalogue.Catalogue, history []record.ServiceLine) []PastJob {
	jobs := map[string]*PastJob{}
	for _, l := range history {
		j := jobs[l.JobID]
		if j == nil {
			j = &PastJob{ID: l.JobID, Opened: l.At}
			jobs[l.JobID] = j
		}
		if l.Kind == schedule.ServiceOpened {
			j.Opened, j.Complaint = l.At, l.Label
		}
		if l.Kind == schedule.ServiceWork && slices.ContainsFunc(history, func(d record.ServiceLine) bool {
			return d.JobID == l.JobID && d.Kind == schedule.ServiceDone && d.At.Equal(l.At)
		}) {
			continue // what it did says it already
		}
		if say := ownersLine(c, l); say != "" && !slices.Contains(j.Lines, say) {
			j.Lines = append(j.Lines, say)
		}
	}
	var out []PastJob
	for _, j := range jobs {
		out = append(out, *j)
	}
	slices.SortFunc(out, func(a, b PastJob) int {
		if n := b.Opened.Compare(a.Opened); n != 0 {
			return n
		}
		return strings.Compare(a.ID, b.ID)
	})
	return out[:min(len(out), mostPastJobs)]
}
