package handlers

import (
	"context"
	"math"
	"time"

	"hevrin/api"
	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/validation"
)

// maintenanceHandlers answer for service history and what is due.
type maintenanceHandlers struct{ schedule *schedule.Schedule }

func (h *maintenanceHandlers) GetServiceRecord(ctx context.Context,
	r api.GetServiceRecordRequestObject) (api.GetServiceRecordResponseObject, error) {
	p, err := h.schedule.ServiceRecord(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetServiceRecord200JSONResponse(h.recordView(p)), nil
}

func (h *maintenanceHandlers) PutEngineEntry(ctx context.Context,
	r api.PutEngineEntryRequestObject) (api.PutEngineEntryResponseObject, error) {
	b := r.Body
	if (b.Meter == nil) == (b.Upkeep == nil) {
		var wrong validation.Errors
		wrong.Add("meter", "both or neither", "meter or upkeep",
			"say either what the meter showed or what is about its maintenance")
		return nil, wrong
	}
	var meter *eventlog.Meter
	var act *eventlog.MaintenanceAct
	if m := b.Meter; m != nil {
		meter = &eventlog.Meter{
			Day:      eventlog.Day(m.Day),
			Hours:    m.Hours,
			NewMeter: api.Value(m.NewMeter),
			Old:      api.Value(m.OldHours),
		}
	}
	if u := b.Upkeep; u != nil {
		act = &eventlog.MaintenanceAct{Do: string(u.Do), Item: api.Value(u.Item), Day: eventlog.Day(api.Value(u.Day)),
			Until: eventlog.Day(api.Value(u.Until)), Months: api.Value(u.Months), Hours: api.Value(u.Hours),
			Litres: api.Value(
				u.Litres,
			), List: api.Value(u.List), Year: api.Value(u.Year), Step: api.Value(u.Step), Words: api.Value(u.Words)}
	}
	p, err := h.schedule.NoteMaintenance(ctx, r.EngineId, Stamp(ctx, r.EntryId, b.By, b.TappedAt), meter, act)
	if err != nil {
		return nil, err
	}
	return api.PutEngineEntry200JSONResponse(h.recordView(p)), nil
}

// Ahead is how far ahead is asked for, in days.
func Ahead(days *api.Ahead) time.Duration {
	n := 365
	if days != nil {
		n = *days
	}
	return time.Duration(n) * 24 * time.Hour
}

func (h *maintenanceHandlers) GetDue(ctx context.Context, r api.GetDueRequestObject) (api.GetDueResponseObject, error) {
	list, err := h.schedule.DueInYard(ctx, Ahead(r.Params.Days))
	if err != nil {
		return nil, err
	}
	return api.GetDue200JSONResponse{Engines: api.Each(list, func(d schedule.EngineDue) api.EngineDue {
		return api.EngineDue{Craft: craftView(d.Craft), Engine: api.EngineName{Id: d.Engine.ID, Name: d.Engine.Name},
			Hours: d.Hours, Due: api.Each(d.Due, dueView), Groups: h.groupViews(d.Groups)}
	})}, nil
}

// DayOf is the day of a moment, as in 2026-05-01.
func DayOf(t time.Time) string { return t.Format("2006-01-02") }

// dayOrNone leaves out what is not known.
func dayOrNone(t time.Time) *string {
	if t.IsZero() {
		return nil
	}
	d := DayOf(t)
	return &d
}

func dueView(d maintenance.Due) api.DueItem {
	out := api.DueItem{Item: d.ID, Label: d.Label, Do: d.Do, State: api.DueState(d.State), When: dayOrNone(d.When),
		Hours: api.Some(d.Hours), Why: d.Why, Task: api.Some(d.Task), Access: d.Access, Ashore: d.Ashore,
		Reasons: api.Each(d.Reasons, func(r maintenance.Reason) api.DueReason {
			return api.DueReason{Kind: api.DueReasonKind(r.Kind), Say: r.Say, When: dayOrNone(r.When)}
		})}
	if d.Last != nil {
		out.Last, out.LastJob = dayOrNone(d.Last.At), api.Some(d.Last.Job)
	}
	if p := d.PutOff; p != nil {
		out.PutOff = &api.Postponement{Until: DayOf(p.Until), Why: p.Why, By: p.By}
	}
	return out
}

func (h *maintenanceHandlers) groupViews(list []maintenance.Group) []api.DueGroup {
	return api.Each(list, func(g maintenance.Group) api.DueGroup {
		label := "While the craft is ashore"
		if x, ok := h.schedule.Catalogue.AccessTo(g.Key); ok {
			label = "With this open: " + x.Label
		}
		return api.DueGroup{Key: g.Key, Label: label, Items: g.Items}
	})
}

func (h *maintenanceHandlers) recordView(p *schedule.ServicePage) api.ServiceRecord {
	return api.ServiceRecord{Hours: hoursView(p.Hours), Due: api.Each(p.Due, dueView), Groups: h.groupViews(p.Groups),
		Trends:  api.Each(p.Trends, trendView),
		Seasons: api.Each(p.Seasons, seasonView), Life: api.Each(p.History, func(l record.ServiceLine) api.ServiceLine {
			hours, _, _ := p.Clock.At(l.At)
			return api.ServiceLine{
				JobId: l.JobID,
				Hours: api.Some(math.Round(hours)),
				At:    l.At,
				Kind:  api.ServiceLineKind(l.Kind),
				Item:  l.Item,
				Label: l.Label,
				Value: l.Value,
				Error: l.Error,
			}
		})}
}

func hoursView(h schedule.HoursPage) api.HoursView {
	out := api.HoursView{Known: h.Confirmed, UseKnown: h.UseConfirmed, Now: h.Now, Error: h.Error, PerYear: h.PerYear,
		ByMonth: h.ByMonth[:]}
	if h.Last != nil {
		out.LastDay, out.LastHours = dayOrNone(h.Last.Day), &h.Last.Hours
	}
	return out
}

func trendView(t maintenance.TrendLine) api.TrendView {
	out := api.TrendView{Id: t.ID, Label: t.Label, Short: t.Short, Unit: t.Unit, Limit: t.Limit, Why: t.Why, Item: t.Item,
		Say: t.Say, Past: t.Past, HoursNow: t.HoursNow,
		Points: api.Each(t.Points, func(p maintenance.TrendPoint) api.TrendPoint {
			return api.TrendPoint{At: p.At, Hours: p.Hours, Value: p.Value, Error: p.Error, JobId: p.Job,
				Current: p.At.After(t.Since)}
		}),
		Curve: api.Each(t.Curve, func(c [3]float64) []float64 { return c[:] })}
	if f := t.Forecast; f != nil {
		out.Shape = api.Some(api.TrendViewShape(f.Growth.Shape))
		out.Likely, out.Early, out.Late, out.LimitHours = dayOrNone(f.Likely), dayOrNone(f.Early), dayOrNone(f.Late),
			api.Some(f.Hours)
	}
	return out
}

func seasonView(s schedule.SeasonPage) api.SeasonView {
	return api.SeasonView{Id: s.ID, Label: s.Label, Year: s.Year, Steps: api.Each(s.Steps,
		func(x schedule.SeasonStep) api.SeasonStepView {
			out := api.SeasonStepView{Id: x.ID, Label: x.Label, Why: x.Why, Caution: x.Caution}
			if x.Done != nil {
				out.By, out.At = &x.Done.By, &x.Done.At
			}
			return out
		})}
}
