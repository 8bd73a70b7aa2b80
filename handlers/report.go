package handlers

import (
	"context"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/recording"
	"hevrin/app/report"
	"hevrin/core/catalogue"
)

// reportHandlers answer with what the owner is told of a job.
type reportHandlers struct {
	catalogue *catalogue.Catalogue
	source    report.Source
}

// source is where a report comes from.
type source struct {
	*job.Jobs
	*recording.Recordings
}

func (h *reportHandlers) GetReport(ctx context.Context,
	r api.GetReportRequestObject) (api.GetReportResponseObject, error) {
	told, err := report.Of(ctx, h.catalogue, h.source, r.JobId, SystemIn(ctx))
	if err != nil {
		return nil, err
	}
	return api.GetReport200JSONResponse(ReportView(told)), nil
}

// ReportView is a report, as the contract tells it.
func ReportView(r *report.Report) api.Report {
	out := api.Report{Craft: r.Craft, Owner: r.Owner, Berth: r.Berth, Engine: r.Engine, Opened: r.Opened, By: r.By,
		Closed: r.Closed, Minutes: r.Minutes, Outcome: api.ReportOutcome(r.Outcome),
		Verdict: r.Verdict, Says: r.Says, Signed: r.Signed, Complaint: r.Complaint, Signs: api.List(r.Signs),
		Against: r.Against,
		Done:    api.List(r.Done), Total: r.Total, MorePhotos: r.MorePhotos,
		Mind: api.List(r.KeepAnEyeOn), Cautions: api.List(r.Cautions),
		Causes: api.Each(r.Causes, func(c report.Cause) api.ReportCause {
			drawn := drawingView(c.Drawing)
			return api.ReportCause{Label: c.Label, Remedy: c.Remedy, Evidence: api.List(c.Evidence), Drawing: &drawn}
		}),
		OneOf: api.Some(r.OneOf),
		Figures: api.Each(r.Figures, func(f report.FigureLine) api.ReportFigure {
			return api.ReportFigure{Label: f.Label, Before: f.Before, After: f.After}
		}),
		Parts: api.Each(r.Parts, func(p report.PartLine) api.ReportPart {
			return api.ReportPart{Label: p.Label, Number: p.Number, State: p.State, Quantity: p.Quantity, Price: p.Price}
		}),
		Proof: api.Each(r.Proof, func(p report.ProofLine) api.ReportStage {
			return api.ReportStage{Label: p.Label, Standing: api.Standing(p.Standing), Say: p.Say}
		}),
		Photos: api.Each(r.Photos, func(p report.PhotoLine) api.ReportPhoto {
			return api.ReportPhoto{Id: p.ID, Words: p.Words,
				At: p.At}
		}),
		Due:      api.Each(r.Due, func(d report.DueLine) api.ReportDue { return api.ReportDue(d) }),
		Pictures: []api.Picture{}}
	for i := range r.Pictures {
		out.Pictures = append(out.Pictures, *pictureView(&r.Pictures[i]))
	}
	if p := r.Path; p != nil {
		out.Path = &api.ReportPath{Before: p.Before, After: p.After, Points: api.Each(p.Points,
			func(q report.PathPoint) api.ReportPoint {
				return api.ReportPoint{Label: q.Label, Side: q.Side, ShouldC: q.Should, SpreadK: q.Spread, BeforeC: q.Before,
					AfterC: q.After}
			})}
	}
	return out
}
