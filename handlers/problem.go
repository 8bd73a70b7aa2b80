package handlers

import (
	"errors"
	"log/slog"
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
		p := Problem(422, fields[0].Say.In(system))
		list := make([]api.FieldError, len(fields))
		for i, f := range fields {
			list[i] = api.FieldError{Field: f.Field, Given: f.Given, Allowed: f.Allowed.In(system), Say: f.Say.In(system)}
		}
		p.Errors = &list
		return p, true
	case errors.As(err, &crossed):
		return typed(Problem(409, crossed.Error()), "/problems/crossed"), true
	case errors.As(err, &clash):
		return Problem(409, clash.Say), true
	case errors.As(err, &forbidden):
		return Problem(403, forbidden.Say), true
	case errors.Is(err, record.ErrNotFound):
		return Problem(404, err.Error()), true
	case errors.As(err, &trouble):
		slog.Error("the record cannot be used", "trouble", trouble.Kind, "error", err)
		p := Problem(503, capital(trouble.Say())+". Nothing was half kept.")
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

// titles are the words of HTTP for the kinds of problem (RFC 9110); net/http, which has them too, is none of the
// phone's program.
var titles = map[int]string{403: "Forbidden", 404: "Not Found", 409: "Conflict", 422: "Unprocessable Entity",
	503: "Service Unavailable"}

// Problem is a problem of no type of its own.
func Problem(status int, detail string) api.Problem {
	return typed(api.Problem{Title: titles[status], Status: status, Detail: detail}, "about:blank")
}

func typed(p api.Problem, kind string) api.Problem {
	p.Type = &kind
	return p
}
