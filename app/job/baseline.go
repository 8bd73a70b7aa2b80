package job

import (
	"context"
	"fmt"

	"hevrin/app/engine"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

// SaveBaseline makes rounds of a job the engine's own standard. Rounds that look like a fault need words why it is well
// all the same.
func (a *Jobs) SaveBaseline(ctx context.Context, engine string, s record.Stamp, job string, rounds []string,
	words string) (*engine.EnginePage, error) {
	page, err := a.Job(ctx, job)
	if err != nil {
		return nil, err
	}
	var wrong validation.Errors
	if page.Engine.ID != engine {
		wrong.Add("job_id", job, "a job on this engine", "that job is on another engine")
		return nil, wrong
	}
	b := eventlog.Baseline{JobID: job}
	for i, id := range rounds {
		n := len(b.Rounds)
		for _, r := range page.Job.Rounds {
			if r.From.Entry == id {
				b.Rounds = append(b.Rounds, r.Round)
			}
		}
		if len(b.Rounds) == n {
			wrong.Add(fmt.Sprintf("rounds[%d]", i), id, "a round of the job that stands",
				"there is no such round: it may have been taken back")
		}
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	p, err := plant.New(readings.PlantFacts(record.FactsOf(page.Engine)))
	if err != nil {
		return nil, validation.Under("engine", err)
	}
	check := p.CheckHealthy
	if words != "" { // said to be well all the same; but warm it must have been
		check = p.CheckWarm
	}
	if err := check(readings.RoundsOf(b.Rounds)); err != nil {
		return nil, err
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: engine}, eventlog.BaselineSet,
		eventlog.Body{Baseline: &b, Words: words})
	if err := a.Save(ctx, e, func(record.Reader, []eventlog.Entry) error { return nil }); err != nil {
		return nil, err
	}
	return a.engine.Engine(ctx, engine)
}
