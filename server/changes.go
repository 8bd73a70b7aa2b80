package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"hevrin/api"
	"hevrin/api/routes"
	"hevrin/app/presence"
	"hevrin/app/record"
)

// changeHandlers push what was added to the record, and who came to a job or went.
type changeHandlers struct {
	changes  *record.Changes
	presence *presence.Presence
}

// heartbeat is how long a stream is silent at most: so that both ends notice a link that is dead, at a few bytes a
// minute.
const heartbeat = 15 * time.Second

// GetChanges listens until the reader goes away or the server stops.
func (h *changeHandlers) GetChanges(ctx context.Context,
	r api.GetChangesRequestObject) (api.GetChangesResponseObject, error) {
	_, last, _, _ := h.changes.Since(-1)
	number := last
	if id := r.Params.LastEventID; id != nil {
		number = *id
	}
	return changeStream{ctx, h.changes, number, h.presence, h.presence.Since(-1).Number}, nil
}

type changeStream struct {
	ctx      context.Context //nolint:containedctx // it is the request's, and lives as long
	changes  *record.Changes
	number   int64
	presence *presence.Presence
	moved    int64
}

// VisitGetChangesResponse writes an event for each change. A reader that comes back after a while in which more came
// than is remembered, or to a program that was started anew, is told that anything may have changed.
func (s changeStream) VisitGetChangesResponse(to api.ResponseWriter) error {
	w := to.(routes.Written) //nolint:forcetypeassert // the server gives no other
	out := http.NewResponseController(w.ResponseWriter)
	_ = out.SetReadDeadline(time.Time{}) // the request is read; its time limit would end the stream
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(http.StatusOK)
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	say := "retry: 500\n: here\n\n" // a link that broke is tried again at once
	for {
		list, last, news, known := s.changes.Since(s.number)
		if !known {
			say += fmt.Sprintf("id: %d\nevent: all\ndata: {}\n\n", last)
		}
		for _, c := range list {
			raw, err := json.Marshal(api.RecordChange{SubjectKind: api.SubjectKind(c.Subject.Kind), SubjectId: c.Subject.ID,
				EntryId: c.Entry})
			if err != nil {
				return err
			}
			say += fmt.Sprintf("id: %d\ndata: %s\n\n", c.Number, raw)
		}
		s.number = last
		moves := s.presence.Since(s.moved)
		for _, job := range moves.Jobs {
			raw, err := json.Marshal(api.PresenceChange{JobId: job})
			if err != nil {
				return err
			}
			say += fmt.Sprintf("event: present\ndata: %s\n\n", raw)
		}
		s.moved = moves.Number
		if say != "" {
			if _, err := fmt.Fprint(w, say); err != nil {
				return nil //nolint:nilerr // the reader went away
			}
			if err := out.Flush(); err != nil {
				return nil //nolint:nilerr // as above
			}
		}
		say = ""
		select {
		case <-s.ctx.Done():
			return nil
		case <-stopping(s.ctx):
			return nil
		case <-news:
		case <-moves.News:
		case <-beat.C:
			say = "event: beat\ndata: 1\n\n"
		}
	}
}
