package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"hevrin/api"
	"hevrin/app/engine"
	"hevrin/app/job"
	"hevrin/app/recording"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/live"
)

// liveHandlers answer for gateways and data loggers.
type liveHandlers struct {
	engines    *engine.Engines
	recordings *recording.Recordings
	jobs       *job.Jobs
	lines      lines
}

func (h *liveHandlers) PutFeed(ctx context.Context, r api.PutFeedRequestObject) (api.PutFeedResponseObject, error) {
	b := r.Body
	feed := eventlog.Feed{Address: b.Feed.Address, Channels: each(b.Feed.Channels,
		func(c api.FeedChannel) eventlog.FeedChannel {
			return eventlog.FeedChannel{Channel: c.Channel, Place: placeOf(c.Place), Offset: value(c.Offset),
				Error: value(c.Error)}
		})}
	p, err := h.engines.SaveFeed(ctx, r.EngineId, stamp(b.EntryId, b.By, b.TappedAt), feed)
	if err != nil {
		return nil, err
	}
	return api.PutFeed200JSONResponse(enginePageView(systemIn(ctx), p)), nil
}

func feedView(f *eventlog.Feed) *api.Feed {
	if f == nil {
		return nil
	}
	return &api.Feed{Address: f.Address, Channels: each(f.Channels, func(c eventlog.FeedChannel) api.FeedChannel {
		return api.FeedChannel{Channel: c.Channel, Place: placeView(c.Place), Offset: some(c.Offset), Error: some(c.Error)}
	})}
}

func (h *liveHandlers) GetLive(ctx context.Context, r api.GetLiveRequestObject) (api.GetLiveResponseObject, error) {
	p, err := h.engines.Live(ctx, r.EngineId, value(r.Params.Address))
	if err != nil {
		return nil, err
	}
	out := api.GetLive200JSONResponse{Address: p.Address, Places: each(p.Places, offeredView), Feed: feedView(p.Feed),
		Heard: each(p.Heard, func(c engine.HeardChannel) api.HeardChannel {
			heard := api.HeardChannel{Channel: c.Name, Unit: c.Unit, Value: c.Value, AgoS: max(0, p.Status.Seconds-c.Seconds),
				Count: c.Count}
			if c.Place != nil {
				place := placeView(*c.Place)
				heard.Place = &place
			}
			if c.Guess != nil {
				guess := placeView(*c.Guess)
				heard.Guess = &guess
			}
			return heard
		})}
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
	return api.GetLiveRound200JSONResponse{Round: roundEntryView(round.Round), Seconds: round.Seconds,
		Unquiet: said(systemIn(ctx), round.Unquiet)}, nil
}

func (h *liveHandlers) PreviewDatalog(ctx context.Context,
	r api.PreviewDatalogRequestObject) (api.PreviewDatalogResponseObject, error) {
	p, err := h.recordings.PreviewDatalog(ctx, r.EngineId, r.Body.Data)
	if err != nil {
		return nil, err
	}
	return api.PreviewDatalog200JSONResponse{Delimiter: p.Delimiter, Rows: p.Rows, Time: p.Time, Places: each(p.Places,
		offeredView),
		LeftOut: each(p.Dropped, func(d datalog.Dropped) api.LeftOut {
			return api.LeftOut{Why: d.Why, Count: d.Count,
				Line: d.Line}
		}),
		Columns: each(p.Columns, func(c datalog.Column) api.DatalogColumn {
			out := api.DatalogColumn{Heading: c.Heading, Unit: c.Unit, Written: c.Written, Numbers: c.Numbers,
				Sample: list(c.Sample), Time: c.Time, Clock: c.Clock}
			if c.Guess != nil {
				place := placeView(*c.Guess)
				out.Guess = &place
			}
			return out
		})}, nil
}

func (h *liveHandlers) ImportDatalog(ctx context.Context,
	r api.ImportDatalogRequestObject) (api.ImportDatalogResponseObject, error) {
	b := r.Body
	m := datalog.Mapping{Time: b.Time, TimeUnit: value(b.TimeUnit), Columns: each(b.Columns,
		func(c api.DatalogMapped) datalog.Mapped {
			return datalog.Mapped{Column: c.Column, Place: placeOf(c.Place), Unit: value(c.Unit)}
		})}
	p, err := h.jobs.ImportDatalog(ctx, r.JobId, stamp(b.EntryId, b.By, b.TappedAt), r.RecordingId, b.Name, b.Data, m)
	if err != nil {
		return nil, err
	}
	return jobPage{p, h.lines, systemIn(ctx)}, nil
}

// How often a stream speaks at most and at least, and how many points of a place are drawn.
const (
	streamLeast = 250 * time.Millisecond
	streamMost  = 2 * time.Second
	drawnPoints = 800
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
func (s liveStream) VisitGetLiveStreamResponse(w http.ResponseWriter) error {
	defer s.listener.Release()
	out := http.NewResponseController(w)
	_ = out.SetReadDeadline(time.Time{}) // the request is read; its time limit would end the stream
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(http.StatusOK)
	limits := each(s.listener.Limits, alarmLineView)
	event := api.LiveEvent{Kind: api.LiveEventKindBegin, Limits: &limits, Tracks: each(s.listener.History(), drawn)}
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
		event = api.LiveEvent{Kind: api.LiveEventKindNews, Tracks: each(s.listener.Next(), drawn)}
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
