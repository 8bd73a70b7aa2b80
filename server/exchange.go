package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"

	"hevrin/api"
	"hevrin/app/exchange"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/reports"
)

// exchangeHandlers answer with files that leave the program, and take in those that come.
type exchangeHandlers struct {
	bundles    *exchange.Bundles
	source     reports.Source
	recordings *recording.Recordings
	place      record.Place
	version    string
}

func (h *exchangeHandlers) GetReport(ctx context.Context,
	r api.GetReportRequestObject) (api.GetReportResponseObject, error) {
	report, err := reports.ReportOf(ctx, h.bundles.Catalogue, h.source, r.JobId, systemIn(ctx))
	if err != nil {
		return nil, err
	}
	return api.GetReport200JSONResponse(reportView(report)), nil
}

// named says under which name a browser keeps a file.
func named(file string) *string {
	header := `attachment; filename="` + file + `"`
	return &header
}

func (h *exchangeHandlers) GetReportPDF(ctx context.Context,
	r api.GetReportPDFRequestObject) (api.GetReportPDFResponseObject, error) {
	report, err := reports.ReportOf(ctx, h.bundles.Catalogue, h.source, r.JobId, systemIn(ctx))
	if err != nil {
		return nil, err
	}
	raw, err := report.PDF(h.bundles.Now(), h.version)
	if err != nil {
		return nil, err
	}
	return api.GetReportPDF200ApplicationpdfResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetReportPDF200ResponseHeaders{ContentDisposition: named(reports.FileName(report.Craft,
			report.EngineName, report.Opened, "-report", ".pdf"))}}, nil
}

func (h *exchangeHandlers) GetBundle(ctx context.Context,
	r api.GetBundleRequestObject) (api.GetBundleResponseObject, error) {
	b, err := h.bundles.Bundle(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	raw, err := reports.WriteBundle(b, h.version, h.bundles.Catalogue.Version, h.bundles.Now())
	if err != nil {
		return nil, err
	}
	return api.GetBundle200ApplicationoctetStreamResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetBundle200ResponseHeaders{ContentDisposition: named(reports.BundleName(b))}}, nil
}

func (h *exchangeHandlers) GetReadingsCSV(ctx context.Context,
	r api.GetReadingsCSVRequestObject) (api.GetReadingsCSVResponseObject, error) {
	page, err := h.source.Job(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	raw, err := reports.Readings(page)
	if err != nil {
		return nil, err
	}
	return api.GetReadingsCSV200TextcsvResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetReadingsCSV200ResponseHeaders{ContentDisposition: named(reports.FileName(page.Craft.Name,
			page.Engine.Name, page.Job.OpenedAt, "-readings", ".csv"))}}, nil
}

func (h *exchangeHandlers) GetPartsCSV(ctx context.Context,
	r api.GetPartsCSVRequestObject) (api.GetPartsCSVResponseObject, error) {
	page, err := h.source.Job(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	raw, err := reports.Parts(page)
	if err != nil {
		return nil, err
	}
	return api.GetPartsCSV200TextcsvResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetPartsCSV200ResponseHeaders{ContentDisposition: named(reports.FileName(page.Craft.Name,
			page.Engine.Name, page.Job.OpenedAt, "-parts", ".csv"))}}, nil
}

func (h *exchangeHandlers) GetRecordingCSV(ctx context.Context,
	r api.GetRecordingCSVRequestObject) (api.GetRecordingCSVResponseObject, error) {
	p, err := h.recordings.Recording(ctx, r.JobId, r.RecordingId)
	if err != nil {
		return nil, err
	}
	raw, err := reports.Recorded(p)
	if err != nil {
		return nil, err
	}
	return api.GetRecordingCSV200TextcsvResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetRecordingCSV200ResponseHeaders{ContentDisposition: named(reports.FileName("recording", "", p.From.At,
			"", ".csv"))}}, nil
}

func (h *exchangeHandlers) ImportBundle(ctx context.Context,
	r api.ImportBundleRequestObject) (api.ImportBundleResponseObject, error) {
	b, err := reports.ReadBundle(r.Body.Data)
	if err != nil {
		return nil, err
	}
	t, err := h.bundles.ImportBundle(ctx, b, value(r.Body.Try))
	if err != nil {
		return nil, err
	}
	return api.ImportBundle200JSONResponse{Craft: t.Craft.Name, Engine: t.Engine.Name, JobId: b.JobID, Words: t.Job.Words,
		Opened:   &t.Job.OpenedAt,
		NewCraft: t.NewCraft, NewEngine: t.NewEngine, NewJob: t.NewJob, Photos: t.Photos, Recordings: t.Recordings,
		Kept: list(t.Stored)}, nil
}

func (h *exchangeHandlers) GetBundleSchema(context.Context,
	api.GetBundleSchemaRequestObject) (api.GetBundleSchemaResponseObject, error) {
	var schema api.GetBundleSchema200ApplicationSchemaPlusJSONResponse
	err := json.Unmarshal(reports.BundleSchema, &schema)
	return schema, err
}

// GetBackup writes the backup beside the system's other passing files and sends it from there.
func (h *exchangeHandlers) GetBackup(ctx context.Context,
	_ api.GetBackupRequestObject) (api.GetBackupResponseObject, error) {
	folder, err := os.MkdirTemp("", "hevrin-backup")
	if err != nil {
		return nil, err
	}
	file := filepath.Join(folder, "backup.db")
	name, err := h.place.SendAway(ctx, file)
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(folder))
	}
	f, err := os.Open(file) //nolint:gosec // made here
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(folder))
	}
	facts, err := f.Stat()
	if err != nil {
		return nil, errors.Join(err, f.Close(), os.RemoveAll(folder))
	}
	return api.GetBackup200ApplicationoctetStreamResponse{Body: &passing{f, folder}, ContentLength: facts.Size(),
		Headers: api.GetBackup200ResponseHeaders{ContentDisposition: named(name)}}, nil
}

// passing is a file that goes, with its folder, once it was sent.
type passing struct {
	*os.File
	folder string
}

var _ io.ReadCloser = (*passing)(nil)

func (p *passing) Close() error { return errors.Join(p.File.Close(), os.RemoveAll(p.folder)) }

func reportView(r *reports.Report) api.Report {
	out := api.Report{Craft: r.Craft, Owner: r.Owner, Berth: r.Berth, Engine: r.Engine, Opened: r.Opened, By: r.By,
		Closed: r.Closed, Minutes: r.Minutes, Outcome: api.ReportOutcome(r.Outcome),
		Verdict: r.Verdict, Says: r.Says, Signed: r.Signed, Complaint: r.Complaint, Signs: list(r.Signs), Against: r.Against,
		Done: list(r.Done), Total: r.Total, MorePhotos: r.MorePhotos,
		Mind: list(r.KeepAnEyeOn), Cautions: list(r.Cautions),
		Causes: each(r.Causes, func(c reports.Cause) api.ReportCause {
			return api.ReportCause{Label: c.Label, Remedy: c.Remedy, Evidence: list(c.Evidence)}
		}),
		Figures: each(r.Figures, func(f reports.FigureLine) api.ReportFigure {
			return api.ReportFigure{Label: f.Label, Before: f.Before, After: f.After}
		}),
		Parts: each(r.Parts, func(p reports.PartLine) api.ReportPart {
			return api.ReportPart{Label: p.Label, Number: p.Number, State: p.State, Quantity: p.Quantity, Price: p.Price}
		}),
		Proof: each(r.Proof, func(p reports.ProofLine) api.ReportStage {
			return api.ReportStage{Label: p.Label, Standing: api.Standing(p.Standing), Say: p.Say}
		}),
		Photos: each(r.Photos, func(p reports.PhotoLine) api.ReportPhoto {
			return api.ReportPhoto{Id: p.ID, Words: p.Words,
				At: p.At}
		}),
		Due:      each(r.Due, func(d reports.DueLine) api.ReportDue { return api.ReportDue(d) }),
		Pictures: []api.Picture{}}
	for i := range r.Pictures {
		out.Pictures = append(out.Pictures, *pictureView(&r.Pictures[i]))
	}
	if p := r.Path; p != nil {
		out.Path = &api.ReportPath{Before: p.Before, After: p.After, Points: each(p.Points,
			func(q reports.PathPoint) api.ReportPoint {
				return api.ReportPoint{Label: q.Label, Side: q.Side, ShouldC: q.Should, SpreadK: q.Spread, BeforeC: q.Before,
					AfterC: q.After}
			})}
	}
	return out
}
