package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"hevrin/api"
	"hevrin/app/people"
	"hevrin/core/units"
	"hevrin/handlers"
)

// retryAfter is in how many seconds what met a problem of the record may be sent again.
const retryAfter = "5"

// answerProblem turns every error into problem details (RFC 9457).
func answerProblem(c *echo.Context, err error) {
	if r, _ := echo.UnwrapResponse(c.Response()); r != nil && r.Committed {
		return
	}
	p := problemOf(handlers.SystemIn(c.Request().Context()), err)
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
	var wait *people.Wait
	switch {
	case errors.Is(err, people.ErrSignedOut):
		return problem(http.StatusUnauthorized, "sign in first")
	case errors.As(err, &wait):
		return problem(http.StatusTooManyRequests, wait.Error())
	case errors.Is(err, context.Canceled): // whoever asked went away: no fault of the program's
		return problem(http.StatusRequestTimeout, "The request was broken off before it was answered: send it again.")
	}
	if p, ok := handlers.ProblemOf(system, err); ok {
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

func problem(status int, detail string) api.Problem {
	p := handlers.Problem(status, detail)
	p.Title = http.StatusText(status)
	return p
}
