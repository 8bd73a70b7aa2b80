package server

import (
	"context"

	"hevrin/api"
	"hevrin/app/presence"
	"hevrin/app/record"
)

// presenceHandlers tell who else has a job open.
type presenceHandlers struct{ presence *presence.Presence }

func (h *presenceHandlers) PutPresent(ctx context.Context,
	r api.PutPresentRequestObject) (api.PutPresentResponseObject, error) {
	s := presence.Seen{Device: r.Body.Device, Name: r.Body.By, Check: api.Value(r.Body.Check)}
	if actor, ok := record.ActorOf(ctx); ok {
		s.Device = actor.Device + "/" + s.Device // nobody speaks for another's device
	}
	return api.PutPresent200JSONResponse{Others: api.Each(h.presence.Here(r.JobId, s, api.Value(r.Body.Leaving)),
		func(o presence.Seen) api.Other {
			return api.Other{Name: o.Name, Check: api.Some(o.Check), Since: o.Since}
		})}, nil
}
