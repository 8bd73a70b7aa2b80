package handlers

import (
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"hevrin/api"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// ProblemOf is an error of the core or of a use case as problem details (RFC 9457); not ok where it is none of theirs.
func ProblemOf(system units.System, err error) (p api.Problem, ok bool) {
	var fields validation.Errors
	var clash *eventlog.Conflict
	var crossed *eventlog.Crossed
	var forbidden *record.Forbidden
	var trouble *record.Trouble
	switch {
	case errors.As(err, &fields):
		p := Problem(http.StatusUnprocessableEntity, fields[0].Say.In(system))
		list := make([]api.FieldError, len(fields))
		for i, f := range fields {
			list[i] = api.FieldError{Field: f.Field, Given: f.Given, Allowed: f.Allowed.In(system), Say: f.Say.In(system)}
		}
		p.Errors = &list
		return p, true
	case errors.As(err, &crossed):
		return typed(Problem(http.StatusConflict, crossed.Error()), "/problems/crossed"), true
	case errors.As(err, &clash):
		return Problem(http.StatusConflict, clash.Say), true
	case errors.As(err, &forbidden):
		return Problem(http.StatusForbidden, forbidden.Say), true
	case errors.Is(err, record.ErrNotFound):
		return Problem(http.StatusNotFound, err.Error()), true
	case errors.As(err, &trouble):
		slog.Error("the record cannot be used", "trouble", trouble.Kind, "error", err)
		p := Problem(http.StatusServiceUnavailable, capital(trouble.Say())+". Nothing was half kept.")
		return typed(p, TroublePath+string(trouble.Kind)), true
	}
	return api.Problem{}, false
}

// TroublePath begins the type of a problem of the place where the record lies; its kind follows.
const TroublePath = "/problems/record/"

func capital(words string) string {
	if words == "" {
		return words
	}
	return strings.ToUpper(words[:1]) + words[1:]
}

// Problem is a problem of no type of its own.
func Problem(status int, detail string) api.Problem {
	return typed(api.Problem{Title: http.StatusText(status), Status: status, Detail: detail}, "about:blank")
}

func typed(p api.Problem, kind string) api.Problem {
	p.Type = &kind
	return p
}
