package job

import (
	"context"
	"slices"
	"strings"

	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// TeardownPage is what was done by hand in a job, what stands in the way of a start, and what the bench says.
type TeardownPage struct {
	Account    *teardown.Account
	Conditions []teardown.Condition
	Ready      bool
	Standing   []string // what keeps the job from being closed
	Hunt       []teardown.Hunt
	// Wheel and elbow as they were judged; empty without one.
	WheelVerdict, ElbowVerdict string
	WheelSays                  []string
	ElbowSays, BodySays        []units.Sentence
	// IdleShare is the raw flow at idle with the measured wear, as a share of a sound pump's; nil without a measure, or
	// where the model cannot take the engine.
	IdleShare *float64
	Schools   map[string]string // by question: the job's own choice, else the yard's
	Tasks     []catalogue.Task  // that fit this engine, the yard's own among them
}

// idleOfRated is the speed at which a worn pump's loss is told, as a share of rated.
const idleOfRated = 0.25

func (a *Jobs) teardownPage(book eventlog.YardMethods, s *state) TeardownPage {
	job, e := s.job, s.engine
	facts := record.FactsOf(e)
	account := s.stand.AccountOf(job.ID, job.Teardown)
	h := TeardownPage{Account: account, Conditions: s.stand.Conditions(facts), Schools: book.Schools}
	for i, c := range h.Conditions { // an item of this job by its key in it
		h.Conditions[i].Item = strings.TrimPrefix(c.Item, job.ID+":")
	}
	h.Standing = job.Standing(h.Conditions)
	h.Ready = teardown.Ready(h.Conditions)
	for question, school := range account.Methods {
		h.Schools[question] = school
	}
	for _, t := range book.Tasks {
		here := slices.ContainsFunc(t.Stations, func(s string) bool { return slices.Contains(e.Circuit, s) })
		if (here || len(t.Stations) == 0) && (len(t.Families) == 0 || slices.Contains(t.Families, e.Family)) {
			h.Tasks = append(h.Tasks, t)
		}
	}
	if w := account.Wheel; w != nil {
		h.WheelVerdict, h.WheelSays = w.Judge(h.Schools["old-impeller"] == "spare")
		if account.Ledger.Missing > 0 {
			largest := min(1, account.Ledger.Missing)
			h.Hunt = teardown.WhereToLook(e.Circuit, largest, account.Ledger.Looked)
		}
	}
	if account.Elbow != nil {
		h.ElbowVerdict, h.ElbowSays = account.Elbow.Judge()
	}
	if b := account.Body; b != nil {
		h.BodySays = b.Judge()
		h.IdleShare = idleShare(facts, *b)
	}
	return h
}

// idleShare is the flow at idle of a pump worn so, by the engine's model.
func idleShare(e eventlog.EngineFacts, b teardown.Body) *float64 {
	p, err := plant.New(readings.PlantFacts(e))
	if err != nil {
		return nil
	}
	op := plant.Operation{RPM: idleOfRated * e.RatedRPM, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	worn := plant.Well()
	worn.Slip = b.SlipFactor()
	sound, err := p.Steady(op, plant.Well())
	if err != nil {
		return nil
	}
	is, err := p.Steady(op, worn)
	if err != nil || sound.RawLMin <= 0 {
		return nil
	}
	share := is.RawLMin / sound.RawLMin
	return &share
}

// potFindings are what a thermostat's pot test tells the diagnosis, by its verdict; a test that was not finished tells
// nothing.
var potFindings = map[string]map[string]bool{
	string(workbench.Good): {"thermostat-no-open": false, "thermostat-late-or-short": false,
		"thermostat-no-shut": false},
	string(workbench.Late): {"thermostat-no-open": false, "thermostat-late-or-short": true,
		"thermostat-no-shut": false},
	string(workbench.Short): {"thermostat-no-open": false, "thermostat-late-or-short": true,
		"thermostat-no-shut": false},
	string(workbench.StuckShut): {"thermostat-no-open": true, "thermostat-late-or-short": false,
		"thermostat-no-shut": false},
	string(workbench.StuckOpen): {"thermostat-no-open": false, "thermostat-late-or-short": false,
		"thermostat-no-shut": true},
	string(workbench.Early): {"thermostat-no-open": false, "thermostat-no-shut": true},
}

// potStated turns a pot test's verdict into findings.
func potStated(verdict string) []eventlog.Stated {
	var list []eventlog.Stated
	for _, id := range []string{"thermostat-no-open", "thermostat-late-or-short", "thermostat-no-shut"} {
		if present, told := potFindings[verdict][id]; told {
			list = append(list, eventlog.Stated{ID: id, State: map[bool]string{true: eventlog.Present,
				false: eventlog.Absent}[present]})
		}
	}
	return list
}

// taskToBegin finds a task of the yard, as it stands now, fitted to the engine of a job.
func (a *Jobs) taskToBegin(ctx context.Context, job, id string) (*catalogue.Task, error) {
	_, e, err := a.recording.JobOn(ctx, job)
	if err != nil {
		return nil, err
	}
	book, err := a.yard.Methods(ctx)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(book.Tasks, func(t catalogue.Task) bool { return t.ID == id })
	if at < 0 {
		var wrong validation.Errors
		wrong.Add("strip.item", id, "a task of the yard", "there is no such task: it may have been taken off the list")
		return nil, wrong
	}
	fitted := teardown.Fitted(book.Tasks[at], teardown.Engine{Closed: record.FactsOf(e).HasCoolant(),
		Petrol: e.Fuel == "petrol", Circuit: e.Circuit})
	return &fitted, nil
}
