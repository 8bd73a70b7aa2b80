package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/labstack/echo/v5"

	"hevrin/api/limits"
	"hevrin/api/routes"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// contractRouter finds the operation of a request in the contract, which is read once: nobody changes it.
var contractRouter = sync.OnceValues(func() (routers.Router, error) {
	spec, err := routes.GetSpec()
	if err != nil {
		return nil, err
	}
	return gorillamux.NewRouter(spec)
})

// contractRoutes are the contract's, by the method and the address of the route that the server found already, as in
// "GET /api/v1/jobs/:job_id": looking for it anew among all of them takes a tenth of a tap.
var contractRoutes = sync.OnceValues(func() (map[string]*routers.Route, error) {
	spec, err := routes.GetSpec()
	if err != nil {
		return nil, err
	}
	found := map[string]*routers.Route{}
	for path, item := range spec.Paths.Map() {
		at := BasePath + parameter.ReplaceAllString(path, ":$1")
		for method, operation := range item.Operations() {
			found[method+" "+at] = &routers.Route{Spec: spec, Path: path, PathItem: item, Method: method, Operation: operation}
		}
	}
	return found, nil
})

var parameter = regexp.MustCompile(`\{(\w+)\}`)

// operationOf finds the operation of a request, and what its address says.
func operationOf(c *echo.Context, router routers.Router) (*routers.Route, map[string]string, error) {
	known, err := contractRoutes()
	if err != nil {
		return nil, nil, err
	}
	r := c.Request()
	route, ok := known[r.Method+" "+c.Path()]
	if !ok {
		return router.FindRoute(r)
	}
	params := map[string]string{}
	for _, p := range c.PathValues() {
		params[p.Name] = p.Value
	}
	return route, params, nil
}

// followContract refuses what does not fit the contract before any handler sees it: malformed JSON with 400, what
// does not fit a schema with 422 and the field. With a guard, who may not do an operation is refused before anything of
// the request is looked at.
func followContract(g *guard) (echo.MiddlewareFunc, error) {
	router, err := contractRouter()
	if err != nil {
		return nil, err
	}
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if !strings.HasPrefix(r.URL.Path, BasePath+"/") {
				return next(c)
			}
			route, params, err := operationOf(c, router)
			if err != nil {
				return noRoute(err)
			}
			operation := operationName(route.Operation)
			if g != nil {
				if err := g.admit(c, operation); err != nil {
					return err
				}
				if strings.Contains(r.Header.Get("Accept"), "text/event-stream") {
					defer g.whileSignedIn(c)()
					r = c.Request()
				}
			}
			if route.Operation.RequestBody != nil {
				if err := readBody(r); err != nil {
					return err
				}
				if err := namedBy(r, route.Operation.RequestBody); err != nil {
					return err
				}
			}
			err = openapi3filter.ValidateRequest(r.Context(), &openapi3filter.RequestValidationInput{
				Request: r, PathParams: params, Route: route, Options: &openapi3filter.Options{MultiError: true},
			})
			if err != nil {
				return refusal(err)
			}
			err = next(c)
			if err == nil && g != nil {
				g.tell(c, operation)
			}
			return err
		}
	}, nil
}

// operationName is an operation's id as the contract writes it: the one that is embedded has a capital first.
func operationName(o *openapi3.Operation) string {
	return strings.ToLower(o.OperationID[:1]) + o.OperationID[1:]
}

func noRoute(err error) error {
	if errors.Is(err, routers.ErrMethodNotAllowed) {
		return echo.NewHTTPError(http.StatusMethodNotAllowed, "this address does not take that method")
	}
	return echo.NewHTTPError(http.StatusNotFound, "there is nothing at this address")
}

// readBody takes the body in whole and refuses what is not one JSON value.
func readBody(r *http.Request) error {
	raw, err := io.ReadAll(r.Body)
	if err != nil {
		if echo.StatusCode(err) != 0 {
			return err
		}
		return echo.NewHTTPError(http.StatusBadRequest, "the request broke off: send it again")
	}
	if !json.Valid(raw) {
		return echo.NewHTTPError(http.StatusBadRequest, "the body is not JSON: "+whereBroken(raw))
	}
	r.Body = io.NopCloser(bytes.NewReader(raw))
	return nil
}

func whereBroken(raw []byte) string {
	if len(bytes.TrimSpace(raw)) == 0 {
		return "it is empty"
	}
	var syntax *json.SyntaxError
	var value any
	if err := json.Unmarshal(raw, &value); errors.As(err, &syntax) {
		return fmt.Sprintf("%s at byte %d", syntax, syntax.Offset)
	}
	return "it breaks off"
}

func refusal(err error) error {
	var fields validation.Errors
	var outer *openapi3filter.RequestError
	collect(err, "", &fields)
	if len(fields) > 0 {
		return fields
	}
	if errors.As(err, &outer) && strings.Contains(outer.Reason, "Content-Type") {
		return echo.NewHTTPError(http.StatusUnsupportedMediaType, "send JSON: Content-Type application/json")
	}
	return echo.NewHTTPError(http.StatusBadRequest,
		"the request cannot be read: a number out of range, or a body that is none")
}

// collect walks the validator's nested errors down to the schema errors.
func collect(err error, parameter string, into *validation.Errors) {
	switch e := err.(type) { //nolint:errorlint // walking the tree, each node as it is
	case openapi3.MultiError:
		for _, x := range e {
			collect(x, parameter, into)
		}
	case *openapi3filter.RequestError:
		if e.Parameter != nil {
			parameter = e.Parameter.Name
		}
		collect(e.Err, parameter, into)
	case *openapi3.SchemaError:
		if e.Origin != nil {
			if n := len(*into); n == 0 {
				collect(e.Origin, parameter, into)
			}
			if len(*into) > 0 {
				return
			}
		}
		pointer := e.JSONPointer()
		if name := unsupported.FindStringSubmatch(e.Reason); name != nil {
			pointer = append(pointer, name[1])
		}
		field := fieldPath(parameter, pointer)
		into.Add(field, given(e), units.Sentence(allowed(e)), "%s does not fit: %s", field, e.Reason)
	}
}

// unsupported finds the name of a field that the contract does not have; the validator tells it only in words.
var unsupported = regexp.MustCompile(`^property "(.*)" is unsupported$`)

func fieldPath(parameter string, pointer []string) string {
	path := parameter
	for _, step := range pointer {
		switch _, err := strconv.Atoi(step); {
		case err == nil:
			path += "[" + step + "]"
		case path == "":
			path = step
		default:
			path += "." + step
		}
	}
	if path == "" {
		return "body"
	}
	return path
}

func given(e *openapi3.SchemaError) string {
	if e.SchemaField == "required" {
		return "nothing"
	}
	return limits.Given(e.Value)
}

// allowed says in words what the schema takes.
func allowed(e *openapi3.SchemaError) string {
	switch e.SchemaField {
	case "required":
		return limits.AllOf(e.Schema.Required)
	case "properties", "additionalProperties":
		return "only the fields that the contract names"
	}
	var s limits.Schema // the same in the contract's own names
	raw, err := json.Marshal(e.Schema)
	if err == nil {
		err = json.Unmarshal(raw, &s)
	}
	if err != nil {
		return "what the contract says"
	}
	return s.Allowed()
}
