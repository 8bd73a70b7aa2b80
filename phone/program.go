// Package phone is the program that a phone takes along: the same use cases over a record in memory, which answer the
// same routes with the same JSON as the yard's program does.
package phone

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"path"
	"runtime/debug"
	"strings"
	"time"

	"hevrin/api"
	"hevrin/api/limits"
	"hevrin/app/along"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/work"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/units"
	"hevrin/handlers"
	"hevrin/phone/memory"
)

// Request asks for an operation of the contract.
type Request struct {
	Method string            `json:"method"`
	Path   string            `json:"path"` // after /api/v1
	Query  map[string]string `json:"query,omitempty"`
	Body   json.RawMessage   `json:"body,omitempty"`
	Units  units.System      `json:"units,omitempty"` // the reader's
	At     time.Time         `json:"at"`              // now, by the yard's clock as far as it is known
	Who    *Person           `json:"who,omitempty"`   // nil: nobody signs in
}

// Person is who asks, as the last sign-in told.
type Person struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Names []string    `json:"names,omitempty"` // of before
	Role  people.Role `json:"role"`
}

// Answer is what a request is answered with.
type Answer struct {
	Status int
	Type   string // of the body
	Body   []byte
}

// NotHere is the status of what only the yard's program can do.
const NotHere = 501

// Program answers from what was taken along. It is for one goroutine at a time.
type Program struct {
	store     *memory.Store
	routes    []route
	now       time.Time
	catalogue *catalogue.Catalogue
	limits    *limits.Contract // nil: whoever asks has held it against the contract
}

// New makes a program that has taken nothing along yet.
func New() (*Program, error) {
	c, err := catalogue.Load()
	if err != nil {
		return nil, err
	}
	return NewOf(c), nil
}

// NewOf is New over a catalogue that is there already; it is not changed.
func NewOf(c *catalogue.Catalogue) *Program {
	p := &Program{store: memory.New(), catalogue: c, limits: limits.Shipped()}
	w := work.New(c, p.store, func() time.Time { return p.now })
	p.routes = routesOf(handlers.New(handlers.Config{Work: w, Supplier: noSupplier{}}))
	return p
}

// ErrOtherForm refuses what another version of the yard's program gave along: this one cannot read it.
var ErrOtherForm = errors.New("this was taken along from another version of the program: take it along again")

// Take keeps what was taken along of a craft.
func (p *Program) Take(raw []byte) error {
	var a along.Along
	if err := json.Unmarshal(raw, &a); err != nil {
		return fmt.Errorf("what was taken along cannot be read: %w", err)
	}
	if a.Form != along.Form || a.Catalogue != p.catalogue.Version {
		return ErrOtherForm
	}
	p.store.Take(&a)
	return nil
}

// Route is an operation with its address, as another room adds it.
type Route = route

// On makes a route of a handler and of what writes its answers.
func On[Q, A any](method, path string, handle func(context.Context, Q) (A, error),
	write func(A, api.ResponseWriter) error) Route {
	return on(method, path, handle, write)
}

// Also answers more operations.
func (p *Program) Also(routes ...Route) { p.routes = append(p.routes, routes...) }

// Now is the moment of the last request.
func (p *Program) Now() time.Time { return p.now }

// Catalogue is what it knows of the trade.
func (p *Program) Catalogue() *catalogue.Catalogue { return p.catalogue }

// Added lists the entries of the record from a place on, in the order in which they were saved.
func (p *Program) Added(from int) []eventlog.Entry { return p.store.Added(from) }

// Answer does an operation. It never fails: what goes wrong is told in the answer, as problem details (RFC 9457).
func (p *Program) Answer(r Request) (a Answer) {
	defer func() {
		if x := recover(); x != nil {
			slog.Error("something went wrong", "path", r.Path, "panic", x, "stack", string(debug.Stack()))
			a = told(handlers.Problem(500, "Something went wrong inside the program on this device."))
		}
	}()
	return p.answer(context.Background(), r)
}

// Foresee works out what follows an entry of a job that may come, so that its answer is there sooner. It saves nothing,
// and says nothing where the entry would be refused.
func (p *Program) Foresee(r Request) {
	defer func() { _ = recover() }()                                                // told once it is asked
	if ofJob, err := path.Match("/jobs/*/entries/*", r.Path); ofJob && err == nil { // nothing else can be foreseen
		p.answer(job.Foreseen(context.Background()), r)
	}
}

func (p *Program) answer(ctx context.Context, r Request) Answer {
	p.now = r.At
	ctx = handlers.WithUnits(ctx, r.Units)
	if w := r.Who; w != nil {
		ctx = record.WithActor(ctx, record.Actor{ID: w.ID, Name: w.Name, Role: w.Role, Names: w.Names})
	}
	for _, x := range p.routes {
		if question, ok := x.matches(r); ok {
			if err := p.limits.Check(x.name(), r.Body); err != nil {
				return refused(handlers.SystemIn(ctx), err)
			}
			var out written
			if err := x.do(ctx, question, &out); err != nil {
				return refused(handlers.SystemIn(ctx), err)
			}
			return Answer(out)
		}
	}
	return told(handlers.Problem(NotHere, "This needs the yard's program: it is done once there is a link."))
}

func refused(system units.System, err error) Answer {
	if errors.Is(err, job.ErrForeseen) {
		return Answer{}
	}
	if p, ok := handlers.ProblemOf(system, err); ok {
		return told(p)
	}
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	if errors.As(err, &syntax) || errors.As(err, &kind) {
		return told(handlers.Problem(400, "the body is not what the contract says: "+err.Error()))
	}
	slog.Error("something went wrong", "error", err)
	return told(handlers.Problem(500, "Something went wrong inside the program on this device."))
}

func told(p api.Problem) Answer {
	raw, err := json.Marshal(p)
	if err != nil {
		panic(err) // it is made of words and numbers
	}
	return Answer{p.Status, "application/problem+json", raw}
}

// written takes an answer.
type written Answer

func (w *written) SetHeader(name, value string) {
	if name == "Content-Type" {
		w.Type = value
	}
}

func (w *written) WriteHeader(status int) { w.Status = status }

func (w *written) Write(part []byte) (int, error) {
	w.Body = append(w.Body, part...)
	return len(part), nil
}

// route is an operation with its address; names in braces are parts of the question.
type route struct {
	method string
	path   []string
	do     func(ctx context.Context, question []byte, w api.ResponseWriter) error
}

// on makes a route of a handler and of what writes its answers.
func on[Q, A any](method, path string, handle func(context.Context, Q) (A, error),
	write func(A, api.ResponseWriter) error) route {
	return route{method, strings.Split(path, "/"), func(ctx context.Context, question []byte, w api.ResponseWriter) error {
		var q Q
		if err := json.Unmarshal(question, &q); err != nil {
			return err
		}
		a, err := handle(ctx, q)
		if err != nil {
			return err
		}
		return write(a, w)
	}}
}

// name is its method and path, as the contract has them.
func (x route) name() string { return x.method + " " + strings.Join(x.path, "/") }

// matches tells whether a request is for this operation, and puts its parts together as the contract's types name them.
func (x route) matches(r Request) (question []byte, ok bool) {
	parts := strings.Split(r.Path, "/")
	if r.Method != x.method || len(parts) != len(x.path) {
		return nil, false
	}
	fields := map[string]any{"Params": params(r.Query)}
	for i, part := range x.path {
		switch name := strings.Trim(part, "{}"); {
		case name != part:
			fields[name] = parts[i]
		case part != parts[i]:
			return nil, false
		}
	}
	if len(r.Body) > 0 {
		fields["Body"] = r.Body
	}
	question, err := json.Marshal(fields)
	return question, err == nil
}

// params are the parts of a query; what is a number is one.
func params(query map[string]string) map[string]any {
	out := map[string]any{}
	for name, value := range query {
		out[name] = value
		if n := json.Number(value); name == "days" {
			out[name] = n
		}
	}
	return out
}
