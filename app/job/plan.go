package job

import (
	"slices"
	"time"

	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
)

// PlanItem is maintenance that a job is to do, with what does it: a task, a check or wet work. DoneAt is nil while it
// was not done since the job was opened.
type PlanItem struct {
	Item, Label, Do   string
	Task, Check, Work string
	DoneAt            *time.Time
}

func kindOf(job *eventlog.Job) string {
	if job.Opening.Kind == "" {
		return catalogue.RunsHot
	}
	return job.Opening.Kind
}

// plan is what the job is to do, and what of it was done since it was opened, here or anywhere else on the engine; of
// what was put down by hand only the day is known.
func (a *Jobs) plan(r record.Reader, s *state) ([]PlanItem, error) {
	if len(s.job.Opening.Plan) == 0 {
		return nil, nil
	}
	done, err := a.maintenance.DoneOn(r, s.engine)
	if err != nil {
		return nil, err
	}
	left := s.stand.FollowUps()
	settled, err := a.maintenance.Settled(r, s.engine, left)
	if err != nil {
		return nil, err
	}
	opened := s.job.OpenedAt.UTC()
	day := opened.Truncate(24 * time.Hour)
	var list []PlanItem
	for _, id := range s.job.Opening.Plan {
		item := PlanItem{Item: id, Label: id, Do: id}
		if u, ok := a.Catalogue.MaintenanceItem(id); ok {
			item.Label, item.Do, item.Task = u.Label, u.Do, u.Task
			item.Check, item.Work = first(u.DoneBy.Checks), first(u.DoneBy.Works)
		}
		if at := slices.IndexFunc(left, func(f maintenance.FollowUp) bool { return f.ID() == id }); at >= 0 {
			item.Label, item.Do = a.maintenance.FollowUpWords(left[at])
			if settled[at] {
				item.DoneAt = &opened
			}
		}
		for _, d := range done {
			if d.Item == id && (!d.At.Before(opened) || d.Job == "" && !d.At.Before(day)) {
				at := d.At
				item.DoneAt = &at
			}
		}
		list = append(list, item)
	}
	return list, nil
}

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}
