package job

import (
	"fmt"
	"slices"

	"hevrin/app/engine"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

// ProvingPage is a job's proving runs with their stages, and its recordings.
type ProvingPage struct {
	Runs       []RunPage
	Recordings []eventlog.StoredRecording
	HasFeed    bool
}

// RunPage is a run as it stands.
type RunPage struct {
	*proving.ProvingRun
	Stages  []proving.Stage
	Outcome string // as it was signed, unless it dripped on the day after; else as it stands
	Joints  []proving.Joint
	Gains   []Gained // before and after, where rounds tell both
	Against string
	Rounds  []eventlog.RoundMade
}

// Gained is a figure of the engine's health before the run and in it.
type Gained struct {
	Label               string
	Before, BeforeError float64
	After, AfterError   float64
	Ratio               bool
}

func (p ProvingPage) outcome(run string) string {
	for _, r := range p.Runs {
		if r.ID == run {
			return r.Outcome
		}
	}
	return proving.Unfinished
}

func (a *Jobs) provingPage(r record.Reader, s *state) (ProvingPage, error) {
	job, e := s.job, s.engine
	page := ProvingPage{Recordings: job.Recordings, HasFeed: engine.HasFeed(e)}
	for _, run := range job.Proving.Runs {
		twin, err := a.readings.TwinOf(r, e, s.beside, run.Begun.At)
		if err != nil {
			return page, err
		}
		page.Runs = append(page.Runs, a.runPage(run, s, twin))
	}
	return page, nil
}

func (a *Jobs) runPage(r *proving.ProvingRun, s *state, twin *readings.Comparison) RunPage {
	job, e := s.job, s.engine
	facts := proving.Facts{RatedRPM: e.RatedRPM, ThermostatC: e.ThermostatC, Petrol: e.Fuel == "petrol",
		Joints: a.joints(job, e)}
	for _, c := range s.stand.Conditions(record.FactsOf(e)) {
		if !c.Passed() {
			facts.Missing = append(facts.Missing, c.Label)
		}
	}
	out := RunPage{ProvingRun: r, Joints: facts.Joints}
	var before, during []eventlog.Round
	for _, x := range job.Rounds {
		switch {
		case x.Order < r.Order:
			before = append(before, x.Round)
		case r.Last == 0 || x.Order < r.Last:
			during = append(during, x.Round)
			out.Rounds = append(out.Rounds, x)
			facts.Rounds = append(facts.Rounds, roundRead(x.Round))
		}
	}
	facts.Recording = slices.ContainsFunc(job.Recordings,
		func(x eventlog.StoredRecording) bool { return x.Order > r.Order && (r.Last == 0 || x.Order < r.Last) })
	a.judgeRun(e, twin, before, during, &facts, &out)
	out.Stages = r.Stages(facts)
	out.Against = facts.Against
	out.Outcome = r.Outcome(out.Stages)
	if r.Signed != nil {
		out.Outcome = r.Verdict()
	}
	return out
}

func roundRead(x eventlog.Round) proving.RoundRead {
	read := proving.RoundRead{RPM: x.RPM, OutOfGear: x.OutOfGear}
	for _, v := range x.Readings {
		switch v.Station {
		case "flow":
			read.Flow = true
		case "gauge":
		default:
			read.Stations++
		}
	}
	return read
}

// judgeRun holds the run's rounds against the engine's standard, and against those before the run.
func (a *Jobs) judgeRun(e record.Engine, twin *readings.Comparison, before, during []eventlog.Round,
	facts *proving.Facts, out *RunPage) {
	if len(during) == 0 {
		return
	}
	f, err := a.readings.Fitted(e, twin)
	if err != nil {
		return
	}
	report, err := a.readings.Judged(e, twin, during)
	if err != nil {
		return
	}
	facts.Judged, facts.Against = len(report.Unsettled) < len(during), f.Comparison.Words()
	if len(report.Unsettled) > 0 {
		facts.Warming = report.Unsettled[0].Say
	}
	for _, l := range report.Patterns {
		name := plant.PatternLabel(l.ID)
		switch {
		case l.Ratio >= report.SaysFound:
			facts.Found = append(facts.Found, name)
		case l.Ratio >= plant.SaysLeaning:
			facts.Leaning = append(facts.Leaning, name)
		}
	}
	if len(before) == 0 {
		return
	}
	was, err := a.readings.Judged(e, twin, before)
	if err != nil || len(was.Figures) != len(report.Figures) { // one of the two was read before it was warm
		return
	}
	for i, f := range was.Figures {
		if g := report.Figures[i]; f.Known && g.Known {
			out.Gains = append(out.Gains, Gained{f.Label, f.Value, f.Own, g.Value, g.Own, f.Ratio})
		}
	}
}

// usualJoints are looked at where the job's record names none.
var usualJoints = []string{"strainer", "raw-pump", "exchanger", "raw-hoses", "elbow", "circ-pump", "coolant-hoses"}

// joints are the places that were touched in this job: hose ends and seals.
func (a *Jobs) joints(job *eventlog.Job, e record.Engine) []proving.Joint {
	var list []proving.Joint
	for _, i := range job.Teardown.Items {
		if i.Off == 0 && i.On() == 0 || i.Kind != teardown.Hose && i.Kind != teardown.Seal {
			continue
		}
		label := i.Label
		if i.Where != "" {
			label = fmt.Sprintf("%s, %s", i.Label, i.Where)
		}
		station := ""
		for _, t := range job.Teardown.Tasks {
			if t.ID == i.Task && len(t.Stations) > 0 {
				station = t.Stations[0]
			}
		}
		list = append(list, proving.Joint{ID: i.Key, Label: label, Station: station})
	}
	if len(list) > 0 {
		return list
	}
	for _, id := range usualJoints {
		if s, ok := a.Catalogue.Station(id); ok && slices.Contains(e.Circuit, id) {
			list = append(list, proving.Joint{ID: "station/" + id, Label: s.Label, Station: id})
		}
	}
	return list
}
