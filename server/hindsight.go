package server

import (
	"context"

	"hevrin/api"
	"hevrin/app/hindsight"
	core "hevrin/core/hindsight"
	"hevrin/handlers"
)

// hindsightHandlers tell how good the advice was.
type hindsightHandlers struct{ hindsight *hindsight.Hindsight }

// mostListed is how many closed jobs are listed, the newest.
const mostListed = 100

func (h *hindsightHandlers) GetHindsight(ctx context.Context,
	_ api.GetHindsightRequestObject) (api.GetHindsightResponseObject, error) {
	p, err := h.hindsight.Page(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetHindsight200JSONResponse{Jobs: p.Jobs, Left: p.Left, Unjudged: p.Unjudged,
		Catalogues: api.List(p.Catalogues), Complaint: hitsView(p.Complaint),
		After: api.Each(p.After, hitsView), Looks: p.Looks, Followed: p.Followed, Near: p.Near, Timed: p.Timed,
		ForecastMinutes: p.Forecast, TookMinutes: p.Took,
		Rates: api.Each(p.Rates, func(r core.Rate) api.HindsightRate {
			return api.HindsightRate{Fault: r.Fault, Jobs: r.Jobs, Confirmed: r.Confirmed, Catalogue: r.Catalogue, Own: r.Own}
		}),
		Minutes: api.Each(p.Minutes, func(t core.Time) api.HindsightTime {
			return api.HindsightTime{Id: t.ID, Access: t.Access, Times: t.Times, Catalogue: t.Catalogue, Own: t.Own}
		}),
		List:    api.Each(p.List[:min(len(p.List), mostListed)], lookedBackView),
		Figures: handlers.FiguresView(p.Methods.YardMethods)}, nil
}

func hitsView(h core.Hits) api.HindsightHits {
	return api.HindsightHits{First: h.First, Three: h.Three}
}

func rankingView(r core.Ranking) api.HindsightRanking {
	return api.HindsightRanking{Place: r.Place, Probability: r.Probability}
}

func lookedBackView(j core.Job) api.HindsightJob {
	return api.HindsightJob{JobId: j.ID, EngineId: j.Engine, ClosedAt: j.ClosedAt.UTC(), Catalogue: j.Catalogue,
		Causes: api.List(j.Causes), OneOfThese: api.Some(j.OneOf), Complaint: rankingView(j.Complaint),
		Looks: api.Each(j.Looks, func(l core.Look) api.HindsightLook {
			return api.HindsightLook{Check: l.Check, Offered: l.Offered, ForecastMinutes: l.Forecast, TookMinutes: l.Took,
				After: rankingView(l.After)}
		})}
}
