package server

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"

	"hevrin/api"
)

// SetUp lets people in from other machines. State tells whether that is done, under which names this machine is, or may
// be, reached, and the command that starts it so; Make does it.
type SetUp struct {
	State func(ctx context.Context) (ready bool, hosts []string, command string, err error)
	Make  func(ctx context.Context, manager, passphrase string, hosts []string) error
}

func (h *peopleHandlers) setUpState(ctx context.Context) (api.SetUpState, error) {
	if h.setUp.State == nil {
		return api.SetUpState{}, echo.NewHTTPError(http.StatusConflict,
			"this is set up on the machine itself: see hevrin setup")
	}
	ready, hosts, command, err := h.setUp.State(ctx)
	return api.SetUpState{Ready: ready, Hosts: api.List(hosts), Command: command}, err
}

func (h *peopleHandlers) GetSetUp(ctx context.Context, _ api.GetSetUpRequestObject) (api.GetSetUpResponseObject,
	error) {
	out, err := h.setUpState(ctx)
	return api.GetSetUp200JSONResponse(out), err
}

func (h *peopleHandlers) SetUp(ctx context.Context, r api.SetUpRequestObject) (api.SetUpResponseObject, error) {
	if _, err := h.setUpState(ctx); err != nil {
		return nil, err
	}
	if err := h.setUp.Make(ctx, r.Body.Manager, r.Body.Passphrase, r.Body.Hosts); err != nil {
		return nil, err
	}
	out, err := h.setUpState(ctx)
	return api.SetUp200JSONResponse(out), err
}
