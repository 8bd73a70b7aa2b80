package server

import (
	"errors"
	"log/slog"
	"net/http"

	"github.com/labstack/echo/v5"

	"hevrin/api"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// answerProblem turns every error into problem details (RFC 9457).
func answerProblem(c *echo.Context, err error) {
	if r, _ := echo.UnwrapResponse(c.Response()); r != nil && r.Committed {
		return
	}
	p := problemOf(systemIn(c.Request().Context()), err)
	c.Response().Header().Set("Content-Type", "application/problem+json")
	if c.Request().Method == http.MethodHead {
		err = c.NoContent(p.Status)
	} else {
		err = c.JSON(p.Status, p)
	}
	if err != nil {
		slog.Error("could not answer", "error", err)
	}
}

func problemOf(system units.System, err error) api.Problem {
	var fields validation.Errors
	var clash *eventlog.Conflict
	switch {
	case errors.As(err, &fields):
		p := problem(http.StatusUnprocessableEntity, fields[0].Say.In(system))
		list := make([]api.FieldError, len(fields))
		for i, f := range fields {
			list[i] = api.FieldError{Field: f.Field, Given: f.Given, Allowed: f.Allowed.In(system), Say: f.Say.In(system)}
		}
		p.Errors = &list
		return p
	case errors.As(err, &clash):
		return problem(http.StatusConflict, clash.Say)
	case errors.Is(err, record.ErrNotFound):
		return problem(http.StatusNotFound, err.Error())
	}
	status := echo.StatusCode(err)
	var told *echo.HTTPError
	switch {
	case status == 0 || status >= http.StatusInternalServerError:
		slog.Error("something went wrong", "error", err)
		return problem(http.StatusInternalServerError,
			"Something went wrong inside the program; nothing was half kept. Try again; the log tells more.")
	case errors.As(err, &told) && told.Message != "":
		return problem(status, told.Message)
	}
	return problem(status, http.StatusText(status))
}

func problem(status int, detail string) api.Problem {
	kind := "about:blank"
	return api.Problem{Type: &kind, Title: http.StatusText(status), Status: status, Detail: detail}
}
