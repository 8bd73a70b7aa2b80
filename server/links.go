package server

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"rsc.io/qr"

	"hevrin/api"
	states "hevrin/app/enginestate"
	"hevrin/app/job"
	"hevrin/app/maintenance"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/app/report"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/handlers"
)

// linkHandlers let owners read a report or an engine's page by a link, and nothing else.
type linkHandlers struct {
	*peopleHandlers
	jobs     *job.Jobs
	source   report.Source
	schedule *maintenance.Schedule
	states   *states.States
}

// sharedPath is where a link is opened, before its token; see joinPath.
const sharedPath = "/shared#"

func (h *linkHandlers) linksOf(ctx context.Context, of people.Linked) (api.OwnerLinks, error) {
	out := api.OwnerLinks{Links: []api.OwnerLink{}}
	p, err := h.inYard()
	if err != nil {
		return out, err
	}
	list, err := p.Links(ctx, of)
	for _, l := range list {
		out.Links = append(out.Links, linkView(l))
	}
	return out, err
}

func linkView(l people.Link) api.OwnerLink {
	return api.OwnerLink{Id: l.ID, MadeBy: l.MadeBy, MadeAt: l.MadeAt, ExpiresAt: l.ExpiresAt,
		Stands: l.Stands(time.Now()), Opened: l.Opened, OpenedAt: l.OpenedAt, Answers: l.Answers}
}

// GetStandingLinks lists what can be read from outside, whoever made it.
func (h *linkHandlers) GetStandingLinks(ctx context.Context,
	_ api.GetStandingLinksRequestObject) (api.GetStandingLinksResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	list, err := p.StandingLinks(ctx)
	if err != nil {
		return nil, err
	}
	out := api.GetStandingLinks200JSONResponse{Links: []api.OwnerLink{}}
	r := p.Store.Read(ctx)
	for _, l := range list {
		view, engine := linkView(l), l.EngineID
		view.JobId, view.EngineId = api.Some(l.JobID), api.Some(l.EngineID)
		if l.JobID != "" {
			j, _, err := r.Job(l.JobID)
			if err != nil {
				return nil, err
			}
			engine = j.EngineID
		}
		e, _, err := r.Engine(engine)
		if err != nil {
			return nil, err
		}
		c, _, err := r.Craft(e.CraftID)
		if err != nil {
			return nil, err
		}
		view.Of = api.Some(strings.Trim(c.Name+", "+e.Name, ", "))
		out.Links = append(out.Links, view)
	}
	return out, nil
}

func (h *linkHandlers) GetLinks(ctx context.Context, r api.GetLinksRequestObject) (api.GetLinksResponseObject, error) {
	out, err := h.linksOf(ctx, people.Linked{JobID: r.JobId})
	return api.GetLinks200JSONResponse(out), err
}

func (h *linkHandlers) MakeLink(ctx context.Context, r api.MakeLinkRequestObject) (api.MakeLinkResponseObject, error) {
	out, err := h.made(ctx, people.Linked{JobID: r.JobId}, r.Body.Days)
	return api.MakeLink200JSONResponse(out), err
}

func (h *linkHandlers) GetEngineLinks(ctx context.Context,
	r api.GetEngineLinksRequestObject) (api.GetEngineLinksResponseObject, error) {
	out, err := h.linksOf(ctx, people.Linked{EngineID: r.EngineId})
	return api.GetEngineLinks200JSONResponse(out), err
}

func (h *linkHandlers) MakeEngineLink(ctx context.Context,
	r api.MakeEngineLinkRequestObject) (api.MakeEngineLinkResponseObject, error) {
	out, err := h.made(ctx, people.Linked{EngineID: r.EngineId}, r.Body.Days)
	return api.MakeEngineLink200JSONResponse(out), err
}

// made makes a link and lists it with the others.
func (h *linkHandlers) made(ctx context.Context, of people.Linked, days int) (api.OwnerLinks, error) {
	p, err := h.inYard()
	if err != nil {
		return api.OwnerLinks{}, err
	}
	token, err := p.MakeLink(ctx, of, days)
	if err != nil {
		return api.OwnerLinks{}, err
	}
	out, err := h.linksOf(ctx, of)
	if err != nil {
		return out, err
	}
	out.Made = api.Some(sharedPath + token)
	code, err := qr.Encode("https://"+h.guard.Network.Hosts[0]+h.guard.Port+*out.Made, qr.M)
	if err != nil {
		return out, err
	}
	view := qrView(code)
	out.Qr = &view
	return out, nil
}

func (h *linkHandlers) EndLink(ctx context.Context, r api.EndLinkRequestObject) (api.EndLinkResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	of, err := p.EndLink(ctx, r.LinkId)
	if err != nil {
		return nil, err
	}
	out, err := h.linksOf(ctx, of)
	return api.EndLink200JSONResponse(out), err
}

// shared is what a link opens.
func (h *linkHandlers) shared(ctx context.Context, l people.Link) (api.Shared, error) {
	out := api.Shared{Until: l.ExpiresAt, Units: api.Each(units.Units(), handlers.UnitView)}
	if l.EngineID != "" {
		page, err := h.enginePage(ctx, l.EngineID)
		out.Engine = page
		return out, err
	}
	told, err := report.Of(ctx, h.jobs.Catalogue, h.source, l.JobID, handlers.SystemIn(ctx))
	if err != nil {
		return api.Shared{}, err
	}
	view := handlers.ReportView(told)
	out.Report = &view
	return out, nil
}

// enginePage is what an owner reads of an engine.
func (h *linkHandlers) enginePage(ctx context.Context, engine string) (*api.SharedEngine, error) {
	e, s, err := h.states.Engine(ctx, engine)
	if err != nil {
		return nil, err
	}
	p, err := h.schedule.ServiceRecord(ctx, engine)
	if err != nil {
		return nil, err
	}
	open, err := h.workOpen(ctx, e, s)
	if err != nil {
		return nil, err
	}
	page := report.EnginePageOf(h.jobs.Catalogue, p, handlers.SystemIn(ctx))
	out := &api.SharedEngine{Craft: page.Craft, Owner: page.Owner, Berth: page.Berth, EngineName: page.EngineName,
		Engine: page.Engine, Hours: page.Hours, WorkOpen: open,
		Due: api.Each(page.Due, func(d report.DueLine) api.ReportDue {
			return api.ReportDue{What: d.What, When: d.When, Why: d.Why}
		}),
		Jobs: api.Each(page.Jobs, func(j report.PastJob) api.PastJob {
			return api.PastJob{Opened: j.Opened, Complaint: j.Complaint, Lines: api.List(j.Lines)}
		})}
	return out, nil
}

// workOpen says whether an engine is in the yard's hands: a job is open on it, or something was left open or condemned.
func (h *linkHandlers) workOpen(ctx context.Context, e record.Engine, s *enginestate.State) (bool, error) {
	stands := func(c teardown.Condition) bool { return c.Stands }
	if len(s.Openings())+len(s.Unfit()) > 0 || slices.ContainsFunc(s.InTheWay(record.FactsOf(e)), stands) {
		return true, nil
	}
	jobs, err := h.states.Store.Read(ctx).Jobs(e.ID)
	return slices.ContainsFunc(jobs, func(j record.Job) bool { return j.ClosedAt == nil && !j.Removed }), err
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
	asked := func(x api.ReportPhoto) bool { return x.Id == r.PhotoId }
	if report.Report == nil || !slices.ContainsFunc(report.Report.Photos, asked) {
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
		Words: api.Value(r.Body.Words)}, fromOf(ctx))
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
