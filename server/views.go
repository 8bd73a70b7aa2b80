package server

import (
	"slices"

	"hevrin/api"
	"hevrin/app/engine"
	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/app/yard"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/units"
)

func answerView(a *diagnosis.Answer) api.Answer {
	return api.Answer{
		Suspects: each(a.Suspects, func(s diagnosis.Posterior) api.Suspect {
			return api.Suspect{Fault: s.Fault, Probability: s.Probability, Prior: s.Prior, MovedBy: each(s.MovedBy,
				func(m diagnosis.Move) api.Move {
					return api.Move{Kind: api.MoveKind(m.Kind), Id: m.ID, LogOdds: m.LogOdds}
				})}
		}),
		Sets: each(a.Sets, func(s diagnosis.Set) api.FaultSet {
			return api.FaultSet{Faults: s.Faults, Probability: s.Probability}
		}),
		NextChecks: each(a.NextChecks, func(n diagnosis.NextCheck) api.NextCheck {
			return api.NextCheck{Check: n.Check, Station: n.Station, Minutes: n.Minutes, AccessMinutes: n.AccessMinutes,
				StateMinutes:  some(n.StateMinutes),
				ConfirmChance: n.ConfirmChance, GainBits: n.GainBits, SavesMinutes: n.SavesMinutes, Again: some(n.Again),
				Reason: n.Reason}
		}),
		Found: a.Found, Given: a.Given, Advice: api.AnswerAdvice(a.Advice), Done: a.Done,
		Unexplained: a.Unexplained, OtherFault: a.OtherFault,
		Consequences: each(a.Consequences, func(c diagnosis.Consequence) api.Consequence {
			return api.Consequence{Fault: c.Fault, Because: c.Because, Why: c.Why, Probability: c.Probability}
		}),
		Conflicts: each(a.Conflicts, func(c diagnosis.Conflict) api.Conflict {
			return api.Conflict{A: c.A, B: c.B,
				Times: c.Times}
		}),
		Outlooks: each(a.Outlooks, func(o diagnosis.Outlook) api.Outlook {
			return api.Outlook{Strategy: api.Strategy(o.Strategy), Minutes: o.Minutes}
		}),
		RuledOut: each(a.RuledOut, func(r diagnosis.RuledOut) api.RuledOut {
			return api.RuledOut{Check: r.Check,
				Reason: r.Reason}
		}),
	}
}

func craftView(c record.Craft) api.Craft {
	return api.Craft{Id: c.ID, Name: c.Name, Owner: c.Owner, Berth: c.Berth, Note: c.Note,
		Archived: some(c.Archived), Saved: some(c.Saved)}
}

func craftCardView(c yard.CraftCard) api.CraftCard {
	return api.CraftCard{Craft: craftView(c.Craft), Engines: each(c.Engines, engineCardView)}
}

func craftPageView(p *engine.CraftPage) api.CraftPage {
	return api.CraftPage{Craft: craftView(p.Craft), Engines: each(p.Engines, engineCardView), Log: each(p.Log, logView)}
}

func engineView(e record.Engine) api.Engine {
	var baseline *api.EngineBaseline
	if b := e.Baseline; b != nil {
		baseline = &api.EngineBaseline{JobId: b.JobID, Rounds: each(b.Rounds, roundEntryView), Words: b.Words, By: b.From.By,
			At: b.From.At, EntryId: b.From.Entry}
	}
	return api.Engine{Id: e.ID, CraftId: e.CraftID, Name: e.Name, Family: api.FamilyID(e.Family), Fuel: api.Fuel(e.Fuel),
		RatedKw: e.RatedKW, RatedRpm: e.RatedRPM, ThermostatC: e.ThermostatC, RawPump: e.RawPump,
		SharesSeacock: some(e.SharesSeacock), Archived: some(e.Archived), Saved: some(e.Saved), Circuit: e.Circuit,
		Dates: datesView(e.Dates), Cooling: coolingView(e.Cooling), Baseline: baseline, Feed: feedView(e.Feed)}
}

func engineCardView(e engine.EngineCard) api.EngineCard {
	return api.EngineCard{Engine: engineView(e.Engine), Jobs: each(e.Jobs, jobCardView)}
}

func enginePageView(system units.System, p *engine.EnginePage) api.EnginePage {
	return api.EnginePage{Craft: craftView(p.Craft), Engine: engineView(p.Engine), Jobs: each(p.Jobs, jobCardView),
		Log: each(p.Log, logView), Facts: each(p.Facts, func(f plant.Fact) api.PlantFact { return factView(system, f) })}
}

func jobCardView(j record.Job) api.JobCard {
	return api.JobCard{Id: j.ID, EngineId: j.EngineID, OpenedAt: j.OpenedAt.UTC(), OpenedBy: j.OpenedBy,
		Complaint: list(j.Complaint),
		Words:     some(j.Words), Faults: list(j.Faults), Minutes: j.Minutes, Checks: j.Checks, Closed: j.ClosedAt != nil,
		ClosedAt: j.ClosedAt, Note: some(j.Note), Waiting: some(j.Waiting), Works: each(j.Works, workLineView),
		JobKind: j.Kind, Verdict: some(api.JobCardVerdict(j.Verdict))}
}

func jobPageView(system units.System, p *job.Page) api.JobPage {
	j := p.Job
	out := api.JobPage{
		Kind: jobKindView(p.Kind), Plan: each(p.Plan, planView), Leak: leakView(j.Opening.Leak),
		Card: jobCardView(p.Card), Craft: craftView(p.Craft), Engine: engineView(p.Engine),
		History: each(j.History, knownView), Findings: each(j.Findings, knownView), OpenAccess: list(p.State.OpenAccess()),
		Checks: each(j.Checks, func(k eventlog.CheckMade) api.CheckMade {
			return api.CheckMade{Check: k.Check, Outcome: api.CheckOutcome(k.Outcome), Minutes: k.Minutes, Words: some(k.Words),
				By: k.From.By, At: k.From.At, EntryId: k.From.Entry}
		}),
		Strategy: api.Strategy(j.Strategy),
		Notes: each(j.Notes, func(n eventlog.Note) api.Note {
			return api.Note{Words: n.Words, By: n.From.By, At: n.From.At, EntryId: n.From.Entry}
		}),
		Sums: each(j.Calculations, sumKeptView), Rounds: each(p.Rounds, roundMadeView), Standard: standardView(p.Comparison),
		Hands: handsView(system, p.TeardownPage), Photos: each(j.Photos, photoView), Wet: wetPageView(system, p.Wetwork),
		Proving: provingPageView(system, p.Proving),
		Log:     []api.LogLine{}, Diagnosis: answerView(p.Answer), // the log is written beside it: see jobPage
		Enough: each(p.Enough, func(x readings.Explained) api.Enough {
			return api.Enough{Fault: x.Fault, Verdict: api.Sufficiency(x.Verdict), Say: x.Say.In(system), Of: x.Of,
				Share: x.Share}
		}),
		AlsoSeen: each(p.AlsoSeen, alsoSeenView), Repaired: repairedViews(p), Since: p.Since,
		State: engineStateView(p.State, record.FactsOf(p.Engine)),
	}
	stepsBefore(system, p.State, record.FactsOf(p.Engine), p.Answer.NextChecks, &out.Diagnosis)
	if p.Health != nil {
		health := healthView(*p.Health, system)
		out.Health = &health
	}
	if c := j.Closing; c != nil {
		out.Closed = &api.Closed{Faults: list(c.Faults), ExplainsEverything: c.Explains, Words: c.Words,
			Despite: some(c.Despite),
			By:      c.From.By, At: c.From.At, EntryId: c.From.Entry}
	}
	return out
}

// repairedViews are what was put right before the proof, and what somebody says is put right by now.
func repairedViews(p *job.Page) []api.Repaired {
	list := []api.Repaired{}
	for _, d := range p.PutRight {
		list = append(list, api.Repaired{Fault: d.Item, By: some(d.By), At: &d.At, Words: some(d.Words)})
	}
	for _, f := range p.Repaired {
		if !slices.ContainsFunc(list, func(r api.Repaired) bool { return r.Fault == f }) {
			list = append(list, api.Repaired{Fault: f})
		}
	}
	return list
}

func alsoSeenView(x job.AlsoSeen) api.AlsoSeen {
	return api.AlsoSeen{Grade: x.Grade.ID, Finding: x.Grade.Light, Label: x.Label, Check: x.Check, Do: x.Grade.Do,
		Item: some(x.Grade.Item), FollowUp: x.FollowUp, PutRight: x.PutRight, Here: x.Here, Open: x.Open, By: x.Since.By,
		At: x.Since.At, Job: x.Since.Job}
}

func knownView(k eventlog.Statement) api.Statement {
	if k.Record != "" {
		return api.Statement{Id: k.ID, Q: k.Q, FromRecord: &k.Record}
	}
	return api.Statement{Id: k.ID, Q: k.Q, Check: some(k.Check), Looks: some(k.Looks), By: &k.From.By,
		At: &k.From.At, EntryId: &k.From.Entry}
}

func datesView(d eventlog.Dates) api.Dates {
	day := func(x eventlog.Day) *api.Day { return some(api.Day(x)) }
	return api.Dates{ImpellerFitted: day(d.ImpellerFitted), Descaled: day(d.Descaled), ElbowFitted: day(d.ElbowFitted),
		CoolantChanged: day(d.CoolantChanged), SeacockWorked: day(d.SeacockWorked)}
}

func datesOf(d *api.Dates) eventlog.Dates {
	if d == nil {
		return eventlog.Dates{}
	}
	day := func(x *api.Day) eventlog.Day { return eventlog.Day(value(x)) }
	return eventlog.Dates{ImpellerFitted: day(d.ImpellerFitted), Descaled: day(d.Descaled),
		ElbowFitted:    day(d.ElbowFitted),
		CoolantChanged: day(d.CoolantChanged), SeacockWorked: day(d.SeacockWorked)}
}

func logView(l record.LogLine) api.LogLine {
	b := l.Body
	out := api.LogLine{EntryId: l.ID, Kind: string(l.Kind), By: l.By, At: l.At, TappedAt: l.TappedAt, Undone: l.Undone,
		Undoes: some(b.Undoes), Check: some(b.Check), Minutes: b.Minutes, Access: some(b.Access), Open: b.Open,
		Outcome: some(api.CheckOutcome(b.Outcome)), Strategy: some(api.Strategy(b.Strategy)), ExplainsEverything: b.Explains,
		Words: some(b.Words)}
	if len(b.Stated) > 0 {
		stated := each(b.Stated, func(s eventlog.Stated) api.Stated {
			return api.Stated{Id: s.ID, State: api.StatedState(s.State), Q: s.Q}
		})
		out.Stated = &stated
	}
	if len(b.Faults) > 0 {
		out.Faults = &b.Faults
	}
	if b.Round != nil {
		round := roundEntryView(*b.Round)
		out.Round = &round
	}
	if b.Teardown != nil {
		act := actView(*b.Teardown)
		out.Strip = &act
		if b.Teardown.Task != nil {
			out.Task = &b.Teardown.Task.Label
		}
	}
	if b.Wetwork != nil {
		act := wetActView(*b.Wetwork)
		out.Wet = &act
	}
	if b.Proving != nil {
		out.Proving = provingActView(*b.Proving)
	}
	if r := b.Recording; r != nil {
		out.Recording = &api.RecordingNoted{Id: r.ID, Do: api.RecordingNotedDo(r.Do), Name: r.Name}
	}
	out.Feed = feedView(b.Feed)
	if b.Task != nil {
		out.Task = &b.Task.Task.Label
	}
	if b.Method != nil {
		out.Question, out.School = &b.Method.Question, &b.Method.School
	}
	if b.Calculation != nil {
		figures := each(b.Calculation.Figures, figureView)
		out.Sum, out.Figures = &b.Calculation.Asks, &figures
	}
	if len(l.Changed) > 0 {
		changed := each(l.Changed, func(c record.FieldChange) api.Change {
			return api.Change{Field: c.Field, From: c.From,
				To: c.To}
		})
		out.Changed = &changed
	}
	return out
}

// some is a pointer to the value, or nil for the zero value.
func some[T comparable](x T) *T {
	var zero T
	if x == zero {
		return nil
	}
	return &x
}
