package server

import (
	"errors"
	"log/slog"
	"net/http"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"hevrin/api"
	"hevrin/app/people"
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
	if p.Status == http.StatusServiceUnavailable {
		c.Response().Header().Set("Retry-After", retryAfter)
	}
	var wait *people.Wait
	if errors.As(err, &wait) {
		c.Response().Header().Set("Retry-After", strconv.Itoa(int(wait.For.Seconds())+1))
	}
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
	var crossed *eventlog.Crossed
	var forbidden *record.Forbidden
	var wait *people.Wait
	switch {
	case errors.As(err, &fields):
		p := problem(http.StatusUnprocessableEntity, fields[0].Say.In(system))
		list := make([]api.FieldError, len(fields))
		for i, f := range fields {
			list[i] = api.FieldError{Field: f.Field, Given: f.Given, Allowed: f.Allowed.In(system), Say: f.Say.In(system)}
		}
		p.Errors = &list
		return p
	case errors.As(err, &crossed):
		p := problem(http.StatusConflict, crossed.Error())
		kind := "/problems/crossed"
		p.Type = &kind
		return p
	case errors.As(err, &clash):
		return problem(http.StatusConflict, clash.Say)
	case errors.As(err, &forbidden):
		return problem(http.StatusForbidden, forbidden.Say)
	case errors.Is(err, people.ErrSignedOut):
		return problem(http.StatusUnauthorized, "sign in first")
	case errors.As(err, &wait):
		return problem(http.StatusTooManyRequests, wait.Error())
	case errors.Is(err, record.ErrNotFound):
		return problem(http.StatusNotFound, err.Error())
	}
	if t := troubleOf(err); t != nil {
		slog.Error("the record cannot be used", "trouble", t.Kind, "error", err)
		p := problem(http.StatusServiceUnavailable, capital(t.Say())+". Nothing was half kept.")
		kind := troublePath + string(t.Kind)
		p.Type = &kind
		return p
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

// troublePath begins the type of a problem of the place where the record lies; its kind follows.
const troublePath = "/problems/record/"

// retryAfter is in how many seconds what met such a problem may be sent again.
const retryAfter = "5"

func troubleOf(err error) *record.Trouble {
	var t *record.Trouble
	errors.As(err, &t)
	return t
}

func capital(words string) string {
	if words == "" {
		return words
	}
	return strings.ToUpper(words[:1]) + words[1:]
}

func problem(status int, detail string) api.Problem {
	kind := "about:blank"
	return api.Problem{Type: &kind, Title: http.StatusText(status), Status: status, Detail: detail}
}
