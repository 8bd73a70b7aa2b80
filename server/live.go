package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"hevrin/api"
	"hevrin/api/routes"
	"hevrin/app/engine"
	"hevrin/app/job"
	"hevrin/app/recording"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/handlers"
	"hevrin/live"
)

// liveHandlers answer for gateways and data loggers.
type liveHandlers struct {
	engines    *engine.Engines
	recordings *recording.Recordings
	jobs       *job.Jobs
	pages      *handlers.Handlers
}

func (h *liveHandlers) PutFeed(ctx context.Context, r api.PutFeedRequestObject) (api.PutFeedResponseObject, error) {
	b := r.Body
	feed := eventlog.Feed{Address: b.Feed.Address, Channels: api.Each(b.Feed.Channels,
		func(c api.FeedChannel) eventlog.FeedChannel {
			return eventlog.FeedChannel{Channel: c.Channel, Place: handlers.PlaceOf(c.Place), Offset: api.Value(c.Offset),
				Error: api.Value(c.Error)}
		})}
	p, err := h.engines.SaveFeed(ctx, r.EngineId, handlers.Stamp(ctx, b.EntryId, b.By, b.TappedAt), feed)
	if err != nil {
		return nil, err
	}
	return api.PutFeed200JSONResponse(handlers.EnginePageView(handlers.SystemIn(ctx), p)), nil
}

func (h *liveHandlers) GetLive(ctx context.Context, r api.GetLiveRequestObject) (api.GetLiveResponseObject, error) {
	p, err := h.engines.Live(ctx, r.EngineId, api.Value(r.Params.Address))
	if err != nil {
		return nil, err
	}
	out := api.GetLive200JSONResponse{
		Address: p.Address,
		Places:  api.Each(p.Places, handlers.OfferedView),
		Feed:    handlers.FeedView(p.Feed),
		Heard: api.Each(p.Heard, func(c engine.HeardChannel) api.HeardChannel {
			heard := api.HeardChannel{Channel: c.Name, Unit: c.Unit, Value: c.Value, AgoS: max(0, p.Status.Seconds-c.Seconds),
				Count: c.Count}
			if c.Place != nil {
				place := handlers.PlaceView(*c.Place)
				heard.Place = &place
			}
			if c.Guess != nil {
				guess := handlers.PlaceView(*c.Guess)
				heard.Guess = &guess
			}
			return heard
		}),
	}
	if p.Status.State != "" {
		status := statusView(p.Status)
		out.Status = &status
	}
	return out, nil
}

func statusView(s live.Status) api.FeedStatus {
	return api.FeedStatus{State: api.FeedState(s.State), Since: s.Since, Why: s.Why, Seconds: s.Seconds,
		OwnClock: s.OwnClock, Taken: s.Taken, Passed: s.Passed}
}

func (h *liveHandlers) GetLiveRound(ctx context.Context,
	r api.GetLiveRoundRequestObject) (api.GetLiveRoundResponseObject, error) {
	round, err := h.engines.RoundFromFeed(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return api.GetLiveRound200JSONResponse{Round: handlers.RoundEntryView(round.Round), Seconds: round.Seconds,
		Unquiet: handlers.Said(handlers.SystemIn(ctx), round.Unquiet)}, nil
}

func (h *liveHandlers) PreviewDatalog(ctx context.Context,
	r api.PreviewDatalogRequestObject) (api.PreviewDatalogResponseObject, error) {
	p, err := h.recordings.PreviewDatalog(ctx, r.EngineId, r.Body.Data)
	if err != nil {
		return nil, err
	}
	return api.PreviewDatalog200JSONResponse{Delimiter: p.Delimiter, Rows: p.Rows, Time: p.Time, Places: api.Each(p.Places,
		handlers.OfferedView),
		LeftOut: api.Each(p.Dropped, func(d datalog.Dropped) api.LeftOut {
			return api.LeftOut{Why: d.Why, Count: d.Count,
				Line: d.Line}
		}),
		Columns: api.Each(p.Columns, func(c datalog.Column) api.DatalogColumn {
			out := api.DatalogColumn{Heading: c.Heading, Unit: c.Unit, Written: c.Written, Numbers: c.Numbers,
				Sample: api.List(c.Sample), Time: c.Time, Clock: c.Clock}
			if c.Guess != nil {
				place := handlers.PlaceView(*c.Guess)
				out.Guess = &place
			}
			return out
		})}, nil
}

func (h *liveHandlers) ImportDatalog(ctx context.Context,
	r api.ImportDatalogRequestObject) (api.ImportDatalogResponseObject, error) {
	b := r.Body
	m := datalog.Mapping{Time: b.Time, TimeUnit: api.Value(b.TimeUnit), Columns: api.Each(b.Columns,
		func(c api.DatalogMapped) datalog.Mapped {
			return datalog.Mapped{Column: c.Column, Place: handlers.PlaceOf(c.Place), Unit: api.Value(c.Unit)}
		})}
	p, err := h.jobs.ImportDatalog(
		ctx,
		r.JobId,
		handlers.Stamp(ctx, b.EntryId, b.By, b.TappedAt),
		r.RecordingId,
		b.Name,
		b.Data,
		m,
	)
	if err != nil {
		return nil, err
	}
	return h.pages.JobPage(ctx, p), nil
}

// How often a stream speaks at most and at least.
const (
	streamLeast = 250 * time.Millisecond
	streamMost  = 2 * time.Second
)

// GetLiveStream listens until the reader goes away or the server stops.
func (h *liveHandlers) GetLiveStream(ctx context.Context,
	r api.GetLiveStreamRequestObject) (api.GetLiveStreamResponseObject, error) {
	l, err := h.engines.Listen(ctx, r.EngineId)
	if err != nil {
		return nil, err
	}
	return liveStream{ctx, l}, nil
}

type liveStream struct {
	ctx      context.Context //nolint:containedctx // it is the request's, and lives as long
	listener *engine.Listener
}

// VisitGetLiveStreamResponse writes the events as they come.
func (s liveStream) VisitGetLiveStreamResponse(to api.ResponseWriter) error {
	w := to.(routes.Written) //nolint:forcetypeassert // the server gives no other
	defer s.listener.Release()
	out := http.NewResponseController(w.ResponseWriter)
	_ = out.SetReadDeadline(time.Time{}) // the request is read; its time limit would end the stream
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(http.StatusOK)
	limits := api.Each(s.listener.Limits, handlers.AlarmLineView)
	event := api.LiveEvent{
		Kind:   api.LiveEventKindBegin,
		Limits: &limits,
		Tracks: api.Each(s.listener.History(), handlers.Drawn),
	}
	for {
		news := s.listener.Feed.News()
		event.Status = statusView(s.listener.Feed.Status())
		raw, err := json.Marshal(event)
		if err != nil {
			return err
		}
		if _, err := fmt.Fprintf(w, "data: %s\n\n", raw); err != nil {
			return nil //nolint:nilerr // the reader went away
		}
		if err := out.Flush(); err != nil {
			return nil //nolint:nilerr // as above
		}
		if !s.news(news) {
			return nil
		}
		event = api.LiveEvent{Kind: api.LiveEventKindNews, Tracks: api.Each(s.listener.Next(), handlers.Drawn)}
	}
}

// news waits for news, but not for ever, and gives what comes quickly together; not ok when the reader went away or the
// server stops.
func (s liveStream) news(since <-chan struct{}) (ok bool) {
	soonest, latest := time.After(streamLeast), time.After(streamMost)
	stop := stopping(s.ctx)
	for _, wait := range []struct {
		news <-chan struct{}
		time <-chan time.Time
	}{{since, latest}, {nil, soonest}} {
		select {
		case <-s.ctx.Done():
			return false
		case <-stop:
			return false
		case <-wait.news:
		case <-wait.time:
		}
	}
	return true
}

type stoppingKey struct{}

// withStopping lets streams know when the server is to stop; requests that only take a moment are let finish.
func withStopping(ctx, server context.Context) context.Context {
	return context.WithValue(ctx, stoppingKey{}, server.Done())
}

func stopping(ctx context.Context) <-chan struct{} {
	done, _ := ctx.Value(stoppingKey{}).(<-chan struct{})
	return done
}
