package handlers

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
		Suspects: api.Each(a.Suspects, func(s diagnosis.Posterior) api.Suspect {
			return api.Suspect{Fault: s.Fault, Probability: s.Probability, Prior: s.Prior, MovedBy: api.Each(s.MovedBy,
				func(m diagnosis.Move) api.Move {
					return api.Move{Kind: api.MoveKind(m.Kind), Id: m.ID, Point: api.Some(m.Point), LogOdds: m.LogOdds}
				})}
		}),
		Sets: api.Each(a.Sets, func(s diagnosis.Set) api.FaultSet {
			return api.FaultSet{Faults: s.Faults, Probability: s.Probability}
		}),
		NextChecks: api.Each(a.NextChecks, nextCheckView),
		Found:      a.Found, Given: a.Given, Advice: api.AnswerAdvice(a.Advice), Done: a.Done,
		Unexplained: a.Unexplained, OtherFault: a.OtherFault,
		Consequences: api.Each(a.Consequences, func(c diagnosis.Consequence) api.Consequence {
			return api.Consequence{Fault: c.Fault, Because: c.Because, Why: c.Why, Probability: c.Probability}
		}),
		Conflicts: api.Each(a.Conflicts, func(c diagnosis.Conflict) api.Conflict {
			return api.Conflict{A: c.A, B: c.B,
				Times: c.Times}
		}),
		Outlooks: api.Each(a.Outlooks, func(o diagnosis.Outlook) api.Outlook {
			return api.Outlook{Strategy: api.Strategy(o.Strategy), Minutes: o.Minutes}
		}),
		RuledOut: api.Each(a.RuledOut, func(r diagnosis.RuledOut) api.RuledOut {
			return api.RuledOut{Check: r.Check,
				Reason: r.Reason}
		}),
	}
}

func nextCheckView(n diagnosis.NextCheck) api.NextCheck {
	return api.NextCheck{Check: n.Check, Station: n.Station, Minutes: n.Minutes, AccessMinutes: n.AccessMinutes,
		StateMinutes: api.Some(n.StateMinutes), ConfirmChance: n.ConfirmChance, GainBits: n.GainBits,
		SavesMinutes: n.SavesMinutes, Again: api.Some(n.Again), FirstSaves: api.Some(n.FirstSaves), Reason: n.Reason}
}

func craftView(c record.Craft) api.Craft {
	return api.Craft{Id: c.ID, Name: c.Name, Owner: c.Owner, Berth: c.Berth, Note: c.Note,
		Archived: api.Some(c.Archived), Saved: api.Some(c.Saved)}
}

func craftCardView(c yard.CraftCard) api.CraftCard {
	return api.CraftCard{Craft: craftView(c.Craft), Engines: api.Each(c.Engines, engineCardView)}
}

func craftPageView(p *engine.CraftPage) api.CraftPage {
	return api.CraftPage{
		Craft:   craftView(p.Craft),
		Engines: api.Each(p.Engines, engineCardView),
		Log:     api.Each(p.Log, logView),
	}
}

func engineView(e record.Engine) api.Engine {
	var baseline *api.EngineBaseline
	if b := e.Baseline; b != nil {
		baseline = &api.EngineBaseline{
			JobId:   b.JobID,
			Rounds:  api.Each(b.Rounds, RoundEntryView),
			Words:   b.Words,
			By:      b.From.By,
			At:      b.From.At,
			EntryId: b.From.Entry,
		}
	}
	return api.Engine{Id: e.ID, CraftId: e.CraftID, Name: e.Name, Family: e.Family, Fuel: api.Fuel(e.Fuel),
		RatedKw: e.RatedKW, RatedRpm: e.RatedRPM, ThermostatC: e.ThermostatC, RawPump: e.RawPump,
		SharesSeacock: api.Some(
			e.SharesSeacock,
		), Archived: api.Some(e.Archived), Saved: api.Some(e.Saved), Circuit: e.Circuit,
		Dates: datesView(e.Dates), Cooling: coolingView(e.Cooling), Baseline: baseline, Feed: FeedView(e.Feed)}
}

func engineCardView(e engine.EngineCard) api.EngineCard {
	return api.EngineCard{Engine: engineView(e.Engine), Jobs: api.Each(e.Jobs, jobCardView)}
}

// EnginePageView is an engine's page, as the contract tells it, in the reader's units.
func EnginePageView(system units.System, p *engine.EnginePage) api.EnginePage {
	return api.EnginePage{Craft: craftView(p.Craft), Engine: engineView(p.Engine), Jobs: api.Each(p.Jobs, jobCardView),
		Log: api.Each(
			p.Log,
			logView,
		), Facts: api.Each(p.Facts, func(f plant.Fact) api.PlantFact { return factView(system, f) })}
}

func jobCardView(j record.Job) api.JobCard {
	return api.JobCard{Id: j.ID, EngineId: j.EngineID, OpenedAt: j.OpenedAt.UTC(), OpenedBy: j.OpenedBy,
		Complaint: api.List(j.Complaint),
		Words: api.Some(
			j.Words,
		), Faults: api.List(j.Faults), Minutes: j.Minutes, Checks: j.Checks, Closed: j.ClosedAt != nil,
		ClosedAt: j.ClosedAt, Note: api.Some(j.Note), Waiting: api.Some(j.Waiting), Works: api.Each(j.Works, workLineView),
		JobKind: j.Kind, Verdict: api.Some(api.JobCardVerdict(j.Verdict))}
}

func jobPageView(system units.System, p *job.Page) api.JobPage {
	j := p.Job
	out := api.JobPage{
		Kind: jobKindView(p.Kind), Plan: api.Each(p.Plan, planView), Leak: leakView(j.Opening.Leak),
		Card: jobCardView(p.Card), Craft: craftView(p.Craft), Engine: engineView(p.Engine),
		History: api.Each(
			j.History,
			knownView,
		), Findings: api.Each(j.Findings, knownView), OpenAccess: api.List(p.State.OpenAccess()),
		Checks: api.Each(j.Checks, func(k eventlog.CheckMade) api.CheckMade {
			return api.CheckMade{
				Check:   k.Check,
				Outcome: api.CheckOutcome(k.Outcome),
				Minutes: k.Minutes,
				Words:   api.Some(k.Words),
				By:      k.From.By,
				At:      k.From.At,
				EntryId: k.From.Entry,
			}
		}),
		Strategy: api.Strategy(j.Strategy),
		Notes: api.Each(j.Notes, func(n eventlog.Note) api.Note {
			return api.Note{Words: n.Words, By: n.From.By, At: n.From.At, EntryId: n.From.Entry}
		}),
		Sums: api.Each(
			j.Calculations,
			sumKeptView,
		), Rounds: api.Each(p.Rounds, roundMadeView), Standard: standardView(p.Comparison),
		Hands: handsView(system, p.TeardownPage), Photos: api.Each(j.Photos, photoView), Wet: wetPageView(system, p.Wetwork),
		Proving: provingPageView(system, p.Proving),
		Log:     []api.LogLine{}, // it and the diagnosis are written beside it: see JobPage
		Enough: api.Each(p.Enough, func(x readings.Explained) api.Enough {
			return api.Enough{Fault: x.Fault, Verdict: api.Sufficiency(x.Verdict), Say: x.Say.In(system), Of: x.Of,
				Share: x.Share}
		}),
		AlsoSeen: api.Each(p.AlsoSeen, alsoSeenView), Repaired: repairedViews(p), Since: p.Since,
		State: engineStateView(p.State, record.FactsOf(p.Engine)),
	}
	if len(j.Apart) > 0 {
		apart := api.Each(j.Apart, func(d eventlog.Disagreement) api.Disagreement {
			return api.Disagreement{Stands: knownView(d.Stands), Other: knownView(d.Other)}
		})
		out.Apart = &apart
	}
	if len(p.Timed) > 0 {
		out.TimedHere = &p.Timed
	}
	if p.Health != nil {
		health := healthView(*p.Health, system)
		out.Health = &health
	}
	if c := j.Closing; c != nil {
		out.Closed = &api.Closed{Faults: api.List(c.Faults), ExplainsEverything: c.Explains, Words: c.Words,
			Despite: api.Some(c.Despite), WatchHours: api.Some(c.WatchHours), OneOfThese: api.Some(c.OneOf),
			By: c.From.By, At: c.From.At, EntryId: c.From.Entry}
	}
	return out
}

// repairedViews are what was put right before the proof, and what somebody says is put right by now.
func repairedViews(p *job.Page) []api.Repaired {
	list := []api.Repaired{}
	for _, d := range p.PutRight {
		list = append(list, api.Repaired{Fault: d.Item, By: api.Some(d.By), At: &d.At, Words: api.Some(d.Words)})
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
		Item: api.Some(x.Grade.Item), FollowUp: x.FollowUp, PutRight: x.PutRight, Here: x.Here, Open: x.Open, By: x.Since.By,
		At: x.Since.At, Job: x.Since.Job}
}

func knownView(k eventlog.Statement) api.Statement {
	if k.Record != "" {
		return api.Statement{Id: k.ID, Q: k.Q, Point: api.Some(k.Point), FromRecord: &k.Record}
	}
	return api.Statement{Id: k.ID, Q: k.Q, Check: api.Some(k.Check), Point: api.Some(k.Point),
		Looks: api.Some(k.Looks), By: &k.From.By, At: &k.From.At, EntryId: &k.From.Entry}
}

func datesView(d eventlog.Dates) api.Dates {
	day := func(x eventlog.Day) *api.Day { return api.Some(api.Day(x)) }
	return api.Dates{ImpellerFitted: day(d.ImpellerFitted), Descaled: day(d.Descaled), ElbowFitted: day(d.ElbowFitted),
		CoolantChanged: day(d.CoolantChanged), SeacockWorked: day(d.SeacockWorked)}
}

func datesOf(d *api.Dates) eventlog.Dates {
	if d == nil {
		return eventlog.Dates{}
	}
	day := func(x *api.Day) eventlog.Day { return eventlog.Day(api.Value(x)) }
	return eventlog.Dates{ImpellerFitted: day(d.ImpellerFitted), Descaled: day(d.Descaled),
		ElbowFitted:    day(d.ElbowFitted),
		CoolantChanged: day(d.CoolantChanged), SeacockWorked: day(d.SeacockWorked)}
}

func logView(l record.LogLine) api.LogLine {
	b := l.Body
	out := api.LogLine{EntryId: l.ID, Kind: string(l.Kind), By: l.By, At: l.At, TappedAt: l.TappedAt, Undone: l.Undone,
		Undoes: api.Some(b.Undoes), Check: api.Some(b.Check), Minutes: b.Minutes, Access: api.Some(b.Access), Open: b.Open,
		Outcome: api.Some(
			api.CheckOutcome(b.Outcome),
		), Strategy: api.Some(api.Strategy(b.Strategy)), ExplainsEverything: b.Explains,
		Words: api.Some(b.Words)}
	if len(b.Stated) > 0 {
		stated := api.Each(b.Stated, func(s eventlog.Stated) api.Stated {
			return api.Stated{Id: s.ID, State: api.StatedState(s.State), Q: s.Q}
		})
		out.Stated = &stated
	}
	if len(b.Faults) > 0 {
		out.Faults = &b.Faults
	}
	if b.Round != nil {
		round := RoundEntryView(*b.Round)
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
	out.Feed = FeedView(b.Feed)
	if b.Figures != nil {
		what := api.FiguresKind(b.Figures.What)
		out.YardFigures = &what
	}
	if b.Task != nil {
		out.Task = &b.Task.Task.Label
	}
	if b.Method != nil {
		out.Question, out.School = &b.Method.Question, &b.Method.School
	}
	if b.Calculation != nil {
		figures := api.Each(b.Calculation.Figures, figureView)
		out.Sum, out.Figures = &b.Calculation.Asks, &figures
	}
	if len(l.Changed) > 0 {
		changed := api.Each(l.Changed, func(c record.FieldChange) api.Change {
			return api.Change{Field: c.Field, From: c.From,
				To: c.To}
		})
		out.Changed = &changed
	}
	return out
}

// FeedView is a gateway's feed, as the contract tells it; nil for none.
func FeedView(f *eventlog.Feed) *api.Feed {
	if f == nil {
		return nil
	}
	return &api.Feed{Address: f.Address, Channels: api.Each(f.Channels, func(c eventlog.FeedChannel) api.FeedChannel {
		return api.FeedChannel{
			Channel: c.Channel,
			Place:   PlaceView(c.Place),
			Offset:  api.Some(c.Offset),
			Error:   api.Some(c.Error),
		}
	})}
}
