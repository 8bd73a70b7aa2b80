package server

import (
	"bytes"
	"context"
	"fmt"

	"hevrin/api"
	"hevrin/app/record"
	"hevrin/app/report"
	"hevrin/app/work"
	"hevrin/core/teardown"
	"hevrin/handlers"
	"hevrin/reports"
)

// sheetHandlers answer with tables, calendars and sheets to be printed.
type sheetHandlers struct {
	work    *work.Work
	source  report.Source
	version string
}

func (h *sheetHandlers) GetDueCSV(ctx context.Context,
	r api.GetDueCSVRequestObject) (api.GetDueCSVResponseObject, error) {
	list, err := h.work.Schedule.DueInYard(ctx, handlers.Ahead(r.Params.Days))
	if err != nil {
		return nil, err
	}
	raw, err := reports.DueTable(list)
	if err != nil {
		return nil, err
	}
	return api.GetDueCSV200TextcsvResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetDueCSV200ResponseHeaders{
			ContentDisposition: named("due-" + handlers.DayOf(h.work.Schedule.Now()) + ".csv"),
		}}, nil
}

func (h *sheetHandlers) GetCalendar(ctx context.Context,
	r api.GetCalendarRequestObject) (api.GetCalendarResponseObject, error) {
	list, err := h.work.Schedule.DueInYard(ctx, handlers.Ahead(r.Params.Days))
	if err != nil {
		return nil, err
	}
	raw := reports.Calendar(list, api.Value(r.Params.Engine), nil, h.work.Schedule.Now())
	return api.GetCalendar200TextcalendarResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetCalendar200ResponseHeaders{ContentDisposition: named("hevrin-due.ics")}}, nil
}

func (h *sheetHandlers) GetInventoryCSV(ctx context.Context,
	_ api.GetInventoryCSVRequestObject) (api.GetInventoryCSVResponseObject, error) {
	p, err := h.work.Stock.Inventory(ctx)
	if err != nil {
		return nil, err
	}
	raw, err := reports.InventoryTable(p)
	if err != nil {
		return nil, err
	}
	return api.GetInventoryCSV200TextcsvResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
			Headers: api.GetInventoryCSV200ResponseHeaders{
				ContentDisposition: named("inventory-" + handlers.DayOf(h.work.Stock.Now()) + ".csv"),
			}},
		nil
}

func (h *sheetHandlers) GetDoNotStartPDF(ctx context.Context,
	r api.GetDoNotStartPDFRequestObject) (api.GetDoNotStartPDFResponseObject, error) {
	e, s, err := h.work.States.Engine(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	c, _, err := h.work.States.Store.Read(ctx).Craft(e.CraftID)
	if err != nil {
		return nil, err
	}
	now, facts := h.work.States.Now(), record.FactsOf(e)
	sheet := reports.DoNotStart{Craft: c.Name, Engine: e.Name, NoCranking: !s.MayCrank(facts),
		Reasons: api.Each(s.InTheWay(facts), func(c teardown.Condition) reports.Reason {
			return reports.Reason{Label: c.Label, Why: c.Why}
		}),
		Waiting: api.Each(s.Waiting(), func(w teardown.Waiting) string {
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

func (h *sheetHandlers) GetReportPDF(ctx context.Context,
	r api.GetReportPDFRequestObject) (api.GetReportPDFResponseObject, error) {
	told, err := report.Of(ctx, h.work.Log.Catalogue, h.source, r.JobId, handlers.SystemIn(ctx))
	if err != nil {
		return nil, err
	}
	raw, err := reports.PDF(told, h.work.Log.Now(), h.version)
	if err != nil {
		return nil, err
	}
	return api.GetReportPDF200ApplicationpdfResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetReportPDF200ResponseHeaders{ContentDisposition: named(reports.FileName(told.Craft,
			told.EngineName, told.Opened, "-report", ".pdf"))}}, nil
}

func (h *sheetHandlers) GetReadingsCSV(ctx context.Context,
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

func (h *sheetHandlers) GetPartsCSV(ctx context.Context,
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

func (h *sheetHandlers) GetRecordingCSV(ctx context.Context,
	r api.GetRecordingCSVRequestObject) (api.GetRecordingCSVResponseObject, error) {
	p, err := h.work.Recordings.Recording(ctx, r.JobId, r.RecordingId)
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

// named says under which name a browser keeps a file.
func named(file string) *string {
	header := `attachment; filename="` + file + `"`
	return &header
}
