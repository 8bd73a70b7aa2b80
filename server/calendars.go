package server

import (
	"bytes"
	"context"

	"hevrin/api"
	"hevrin/app/inventory"
	"hevrin/app/maintenance"
	"hevrin/handlers"
	"hevrin/reports"
)

// calendarHandlers let calendar programs subscribe to what is due.
type calendarHandlers struct {
	team     *peopleHandlers
	schedule *maintenance.Schedule
	stock    *inventory.Stock
}

func (h *calendarHandlers) own(ctx context.Context, link string) (api.OwnCalendar, error) {
	p, err := h.team.inYard()
	if err != nil {
		return api.OwnCalendar{}, err
	}
	has, err := p.HasCalendar(ctx)
	return api.OwnCalendar{Has: has, Link: api.Some(link)}, err
}

func (h *calendarHandlers) GetOwnCalendar(ctx context.Context,
	_ api.GetOwnCalendarRequestObject) (api.GetOwnCalendarResponseObject, error) {
	out, err := h.own(ctx, "")
	return api.GetOwnCalendar200JSONResponse(out), err
}

func (h *calendarHandlers) MakeCalendar(ctx context.Context,
	_ api.MakeCalendarRequestObject) (api.MakeCalendarResponseObject, error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	token, err := p.MakeCalendar(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.own(ctx, BasePath+"/calendars/"+token+"/hevrin.ics")
	return api.MakeCalendar200JSONResponse(out), err
}

func (h *calendarHandlers) EndCalendar(ctx context.Context,
	_ api.EndCalendarRequestObject) (api.EndCalendarResponseObject, error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.EndCalendar(ctx); err != nil {
		return nil, err
	}
	out, err := h.own(ctx, "")
	return api.EndCalendar200JSONResponse(out), err
}

func (h *calendarHandlers) ReadCalendar(ctx context.Context,
	r api.ReadCalendarRequestObject) (api.ReadCalendarResponseObject, error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.OpenCalendar(ctx, r.Token); err != nil {
		return nil, err
	}
	list, err := h.schedule.DueInYard(ctx, handlers.Ahead(nil))
	if err != nil {
		return nil, err
	}
	stock, err := h.stock.Inventory(ctx)
	if err != nil {
		return nil, err
	}
	raw := reports.Calendar(list, "", stock.Lines, h.schedule.Now())
	private := "private, no-store"
	return api.ReadCalendar200TextcalendarResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.ReadCalendar200ResponseHeaders{CacheControl: &private}}, nil
}
