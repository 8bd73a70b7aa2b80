package handlers

import (
	"context"
	"slices"

	"hevrin/api"
	states "hevrin/app/enginestate"
	"hevrin/app/record"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
)

// stateHandlers answer for the states of engines.
type stateHandlers struct{ states *states.States }

func (h *stateHandlers) GetEngineState(ctx context.Context,
	r api.GetEngineStateRequestObject) (api.GetEngineStateResponseObject, error) {
	e, s, err := h.states.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetEngineState200JSONResponse(engineStateView(s, record.FactsOf(e))), nil
}

func engineStateView(s *enginestate.State, e eventlog.EngineFacts) api.StateOfEngine {
	raw := s.Raw(e)
	out := api.StateOfEngine{MayStart: permissionView(s.Conditions(e)), MayCrank: permissionView(s.Crank(e)),
		RawWater: api.StateValue{Id: s.RawWater(e).Item, Value: string(raw.State), Why: raw.Why, Since: whoView(raw.Since)},
		Behind:   api.StateOfEngineBehind(raw.Behind),
		Waiting:  api.Each(s.Waiting(), func(w teardown.Waiting) api.WaitingFor { return *waitingView(&w) }),
		Open: api.Each(s.Openings(), func(o enginestate.Opening) api.OpeningNow {
			return api.OpeningNow{Id: o.ID, Label: o.Label, For: o.For, Bars: o.Bars, Since: whoView(o.Since)}
		}),
		Parts: api.Each(s.Parts(), func(i teardown.Item) api.PartNow {
			return api.PartNow{Key: i.Key, Label: i.Label, Kind: api.ItemKind(i.Kind), Off: i.Off, On: i.On(), New: i.New,
				StillOff: i.StillOff()}
		}),
		Fluids: api.Each(s.Fluids(), func(f enginestate.Fluid) api.StateValue {
			return api.StateValue{Id: f.ID, Value: f.State, Since: whoView(f.Since)}
		}),
		Heat:       api.StateValue{Id: "heat", Value: s.Heat.Value, Since: whoView(s.Heat.Since)},
		Isolations: api.Each(s.Hands.Isolated, isolatedView), Rubber: ledgerView(s.Hands.Ledger),
		Where: liesView(s.Lies),
		Condemned: api.Each(s.Unfit(), func(c enginestate.Condemned) api.CondemnedNow {
			return api.CondemnedNow{Part: c.Part, Label: c.Label, Why: c.Why, Reason: c.Reason, Since: whoView(c.Since)}
		}),
		Flags: api.Each(s.Flags(e), func(f enginestate.Flag) api.StateFlag {
			return api.StateFlag{Id: f.ID, Label: f.Label, Since: whoView(f.Since)}
		})}
	if s.AsksBehind(e) {
		out.Behind = api.StateOfEngineBehindAsk
	}
	if out.Heat.Value == "" {
		out.Heat.Value = "unknown"
	}
	return out
}

func liesView(p enginestate.Place) api.StateValue {
	out := api.StateValue{Id: "where", Value: p.Value, Since: whoView(p.Since)}
	if p.Old && p.Value != "" {
		out.Why = "said on " + p.Since.At.Format("2 Jan, 15:04") + ", by " + p.Since.By + ": still so?"
	}
	return out
}

func permissionView(list []teardown.Condition) api.Permission {
	p := api.Permission{Ok: teardown.Ready(list), Reasons: []api.Condition{}}
	for _, c := range list {
		if !c.Passed() {
			p.Reasons = append(p.Reasons, conditionView(c))
		}
	}
	return p
}

func conditionView(c teardown.Condition) api.Condition {
	return api.Condition{Id: c.ID, Label: c.Label, Ok: c.OK, Why: c.Why, Settle: c.Settle, Item: c.Item,
		State: api.Some(c.State), Count: api.Some(c.Count), Clamps: api.Some(c.Clamps), AsksWords: api.Some(c.Words),
		Stands: c.Stands, Overridden: c.Overridden}
}

func isolatedView(i teardown.Isolated) api.Isolated {
	return api.Isolated{Id: i.ID, Banner: i.Banner, By: i.By, At: i.At, Words: i.Words, Litres: i.Litres}
}

func whoView(w enginestate.Who) api.Who {
	if w.By == "" {
		return api.Who{}
	}
	return api.Who{By: &w.By, At: &w.At, JobId: api.Some(w.Job)}
}

// stepsBefore puts beside each check that comes next what must be known or done first.
func stepsBefore(system units.System, ahead *enginestate.Ahead, next []diagnosis.NextCheck, out *api.Answer) {
	for i, n := range next {
		if b, known := ahead.Before(n.Check); known {
			putBefore(system, b, &out.NextChecks[i])
		}
	}
}

func putBefore(system units.System, b enginestate.Before, out *api.NextCheck) {
	out.Watch = api.Some(b.Watch.In(system))
	steps := api.Each(b.Steps, func(x enginestate.Step) api.StepBefore {
		return api.StepBefore{Id: x.ID, Label: x.Label, Minutes: x.Minutes, Known: x.Known, Settle: x.Settle, Item: x.Item}
	})
	out.Before, out.Cautions = &steps, &b.Cautions
	first := slices.DeleteFunc(slices.Clone(steps), func(x api.StepBefore) bool { return x.Known })
	out.NeedsFirst = &first
}
