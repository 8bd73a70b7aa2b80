package server

import (
	"context"

	"hevrin/api"
	"hevrin/app/people"
)

// pushHandlers let people have reminders pushed to a device, and tell what happened to their account.
type pushHandlers struct{ team *peopleHandlers }

func (h *pushHandlers) pushing(ctx context.Context) (api.Pushing, error) {
	p, err := h.team.inYard()
	if err != nil {
		return api.Pushing{}, err
	}
	key, s, on, err := p.Pushing(ctx)
	return api.Pushing{Key: api.Some(key), On: on, Failed: api.Some(s.Failed)}, err
}

func (h *pushHandlers) GetPushing(ctx context.Context, _ api.GetPushingRequestObject) (api.GetPushingResponseObject,
	error) {
	out, err := h.pushing(ctx)
	return api.GetPushing200JSONResponse(out), err
}

func (h *pushHandlers) Subscribe(ctx context.Context, r api.SubscribeRequestObject) (api.SubscribeResponseObject,
	error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.Subscribe(ctx, r.Body.Endpoint, r.Body.P256dh, r.Body.Auth); err != nil {
		return nil, err
	}
	out, err := h.pushing(ctx)
	return api.Subscribe200JSONResponse(out), err
}

func (h *pushHandlers) Unsubscribe(ctx context.Context, _ api.UnsubscribeRequestObject) (api.UnsubscribeResponseObject,
	error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.Unsubscribe(ctx); err != nil {
		return nil, err
	}
	out, err := h.pushing(ctx)
	return api.Unsubscribe200JSONResponse(out), err
}

func (h *pushHandlers) GetAccountNews(ctx context.Context,
	_ api.GetAccountNewsRequestObject) (api.GetAccountNewsResponseObject, error) {
	p, err := h.team.inYard()
	if err != nil {
		return nil, err
	}
	list, err := p.AccountNews(ctx)
	return api.GetAccountNews200JSONResponse{News: api.Each(list, func(n people.News) api.AccountEvent {
		return api.AccountEvent{At: n.At, Say: n.Say, By: n.By, Where: api.Some(n.Where)}
	})}, err
}
