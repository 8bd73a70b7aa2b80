package server

import (
	"bytes"
	"context"
	"fmt"
	"slices"

	"hevrin/api"
	states "hevrin/app/enginestate"
	"hevrin/app/record"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/reports"
)

// stateHandlers answer for the states of engines.
type stateHandlers struct {
	states  *states.States
	version string
}

func (h *stateHandlers) GetEngineState(ctx context.Context,
	r api.GetEngineStateRequestObject) (api.GetEngineStateResponseObject, error) {
	e, s, err := h.states.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetEngineState200JSONResponse(engineStateView(s, record.FactsOf(e))), nil
}

func (h *stateHandlers) GetDoNotStartPDF(ctx context.Context,
	r api.GetDoNotStartPDFRequestObject) (api.GetDoNotStartPDFResponseObject, error) {
	e, s, err := h.states.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	c, _, err := h.states.Store.Read(ctx).Craft(e.CraftID)
	if err != nil {
		return nil, err
	}
	now, facts := h.states.Now(), record.FactsOf(e)
	sheet := reports.DoNotStart{Craft: c.Name, Engine: e.Name, NoCranking: !s.MayCrank(facts),
		Reasons: each(s.InTheWay(facts), func(c teardown.Condition) reports.Reason {
			return reports.Reason{Label: c.Label, Why: c.Why}
		}),
		Waiting: each(s.Waiting(), func(w teardown.Waiting) string {
			return fmt.Sprintf("%s (%s, %s)", w.Say(), w.By, w.At.Format("2 January"))
		})}
	raw, err := sheet.PDF(now, h.version)
	if err != nil {
		return nil, err
	}
	return api.GetDoNotStartPDF200ApplicationpdfResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetDoNotStartPDF200ResponseHeaders{ContentDisposition: named(reports.FileName(c.Name, e.Name, now,
			"-do-not-start", ".pdf"))}}, nil
}

func engineStateView(s *enginestate.State, e eventlog.EngineFacts) api.StateOfEngine {
	raw := s.Raw(e)
	out := api.StateOfEngine{MayStart: permissionView(s.Conditions(e)), MayCrank: permissionView(s.Crank(e)),
		RawWater: api.StateValue{Id: s.RawWater(e).Item, Value: string(raw.State), Why: raw.Why, Since: whoView(raw.Since)},
		Behind:   api.StateOfEngineBehind(raw.Behind),
		Waiting:  each(s.Waiting(), func(w teardown.Waiting) api.WaitingFor { return *waitingView(&w) }),
		Open: each(s.Openings(), func(o enginestate.Opening) api.OpeningNow {
			return api.OpeningNow{Id: o.ID, Label: o.Label, For: o.For, Bars: o.Bars, Since: whoView(o.Since)}
		}),
		Parts: each(s.Parts(), func(i teardown.Item) api.PartNow {
			return api.PartNow{Key: i.Key, Label: i.Label, Kind: api.ItemKind(i.Kind), Off: i.Off, On: i.On(), New: i.New,
				StillOff: i.StillOff()}
		}),
		Fluids: each(s.Fluids(), func(f enginestate.Fluid) api.StateValue {
			return api.StateValue{Id: f.ID, Value: f.State, Since: whoView(f.Since)}
		}),
		Heat:       api.StateValue{Id: "heat", Value: s.Heat.Value, Since: whoView(s.Heat.Since)},
		Isolations: each(s.Hands.Isolated, isolatedView), Rubber: ledgerView(s.Hands.Ledger),
		Where: liesView(s.Lies),
		Condemned: each(s.Unfit(), func(c enginestate.Condemned) api.CondemnedNow {
			return api.CondemnedNow{Part: c.Part, Label: c.Label, Why: c.Why, Reason: c.Reason, Since: whoView(c.Since)}
		}),
		Flags: each(s.Flags(e), func(f enginestate.Flag) api.StateFlag {
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
		State: some(c.State), Count: some(c.Count), Clamps: some(c.Clamps), AsksWords: some(c.Words),
		Stands: c.Stands, Overridden: c.Overridden}
}

func isolatedView(i teardown.Isolated) api.Isolated {
	return api.Isolated{Id: i.ID, Banner: i.Banner, By: i.By, At: i.At, Words: i.Words, Litres: i.Litres}
}

func whoView(w enginestate.Who) api.Who {
	if w.By == "" {
		return api.Who{}
	}
	return api.Who{By: &w.By, At: &w.At, JobId: some(w.Job)}
}

// stepsBefore puts beside each check that comes next what must be known or done first.
func stepsBefore(system units.System, s *enginestate.State, e eventlog.EngineFacts, next []diagnosis.NextCheck,
	out *api.Answer) {
	for i, n := range next {
		k, ok := s.Check(n.Check)
		if !ok {
			continue
		}
		before := s.Before(e, k)
		out.NextChecks[i].Watch = some(before.Watch.In(system))
		steps := each(before.Steps, func(x enginestate.Step) api.StepBefore {
			return api.StepBefore{Id: x.ID, Label: x.Label, Minutes: x.Minutes, Known: x.Known, Settle: x.Settle, Item: x.Item}
		})
		out.NextChecks[i].Before, out.NextChecks[i].Cautions = &steps, &before.Cautions
		first := slices.DeleteFunc(slices.Clone(steps), func(x api.StepBefore) bool { return x.Known })
		out.NextChecks[i].NeedsFirst = &first
	}
}
