package server

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"rsc.io/qr"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/reports"
)

// linkHandlers let owners read a report by a link, and nothing else.
type linkHandlers struct {
	*peopleHandlers
	jobs   *job.Jobs
	source reports.Source
}

// sharedPath is where a link is opened, before its token; see joinPath.
const sharedPath = "/shared#"

func (h *linkHandlers) linksOf(ctx context.Context, job string) (api.OwnerLinks, error) {
	out := api.OwnerLinks{Links: []api.OwnerLink{}}
	p, err := h.inYard()
	if err != nil {
		return out, err
	}
	list, err := p.Links(ctx, job)
	now := time.Now()
	for _, l := range list {
		out.Links = append(out.Links, api.OwnerLink{Id: l.ID, MadeBy: l.MadeBy, MadeAt: l.MadeAt, ExpiresAt: l.ExpiresAt,
			Stands: l.Stands(now), Opened: l.Opened, OpenedAt: l.OpenedAt, Answers: l.Answers})
	}
	return out, err
}

func (h *linkHandlers) GetLinks(ctx context.Context, r api.GetLinksRequestObject) (api.GetLinksResponseObject, error) {
	out, err := h.linksOf(ctx, r.JobId)
	return api.GetLinks200JSONResponse(out), err
}

func (h *linkHandlers) MakeLink(ctx context.Context, r api.MakeLinkRequestObject) (api.MakeLinkResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	token, err := p.MakeLink(ctx, r.JobId, r.Body.Days)
	if err != nil {
		return nil, err
	}
	out, err := h.linksOf(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	out.Made = some(sharedPath + token)
	code, err := qr.Encode("https://"+h.guard.Network.Hosts[0]+h.guard.Port+*out.Made, qr.M)
	if err != nil {
		return nil, err
	}
	view := qrView(code)
	out.Qr = &view
	return api.MakeLink200JSONResponse(out), nil
}

func (h *linkHandlers) EndLink(ctx context.Context, r api.EndLinkRequestObject) (api.EndLinkResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	job, err := p.EndLink(ctx, r.LinkId)
	if err != nil {
		return nil, err
	}
	out, err := h.linksOf(ctx, job)
	return api.EndLink200JSONResponse(out), err
}

// shared is the report that a link opens.
func (h *linkHandlers) shared(ctx context.Context, l people.Link) (api.SharedReport, error) {
	report, err := reports.ReportOf(ctx, h.jobs.Catalogue, h.source, l.JobID, systemIn(ctx))
	if err != nil {
		return api.SharedReport{}, err
	}
	return api.SharedReport{Report: reportView(report), Until: l.ExpiresAt, Units: each(units.Units(), unitView)}, nil
}

func (h *linkHandlers) GetShared(ctx context.Context, r api.GetSharedRequestObject) (api.GetSharedResponseObject,
	error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	l, err := p.OpenLink(ctx, r.Token, true)
	if err != nil {
		return nil, err
	}
	out, err := h.shared(ctx, l)
	return api.GetShared200JSONResponse(out), err
}

func (h *linkHandlers) GetSharedPhoto(ctx context.Context,
	r api.GetSharedPhotoRequestObject) (api.GetSharedPhotoResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	l, err := p.OpenLink(ctx, r.Token, false)
	if err != nil {
		return nil, err
	}
	report, err := h.shared(ctx, l)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(report.Report.Photos, func(x api.ReportPhoto) bool { return x.Id == r.PhotoId }) {
		return nil, record.NotFound("picture", r.PhotoId)
	}
	jpeg, err := h.jobs.Photo(ctx, r.PhotoId)
	if err != nil {
		return nil, err
	}
	private := "private, no-store"
	return api.GetSharedPhoto200ImagejpegResponse{Body: bytes.NewReader(jpeg), ContentLength: int64(len(jpeg)),
		Headers: api.GetSharedPhoto200ResponseHeaders{CacheControl: &private}}, nil
}

func (h *linkHandlers) AnswerShared(ctx context.Context,
	r api.AnswerSharedRequestObject) (api.AnswerSharedResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	if _, ok := record.ActorOf(ctx); ok {
		return nil, echo.NewHTTPError(http.StatusConflict, "you are signed in: the owner answers, not the yard")
	}
	job, by, words, err := p.AnswerLink(ctx, r.Token, people.Answer{Name: r.Body.Name, Approved: r.Body.Approved,
		Words: value(r.Body.Words)}, fromOf(ctx))
	if err != nil {
		return nil, err
	}
	_, err = h.jobs.NoteInJob(ctx, job, eventlog.Noted, record.Stamp{EntryID: uuid.NewString(), By: by},
		eventlog.Body{Words: words})
	if err != nil {
		return nil, err
	}
	l, err := p.OpenLink(ctx, r.Token, false)
	if err != nil {
		return nil, err
	}
	out, err := h.shared(ctx, l)
	return api.AnswerShared200JSONResponse(out), err
}
