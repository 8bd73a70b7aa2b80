package plant

import (
	"fmt"
	"math"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"
	"gonum.org/v1/gonum/mat"

	"hevrin/core/validation"
)

// Read is one thing read in a round: a temperature at a station, the raw flow, or the gauge. Error is one standard
// deviation.
type Read struct {
	Station string  // "flow" for the raw flow, in L/min; "gauge" for the dash; else a station
	Side    string  // "raw" or "coolant"; matters only at the exchanger
	Value   float64 // °C, or L/min
	Error   float64
}

// Round is what was read at one steady operation.
type Round struct {
	Operation Operation
	Reads     []Read
}

// Figure is one figure of a plant's health: a ratio or shift from healthy, with its error. Known is false when the
// readings leave it as open as it was before.
type Figure struct {
	ID           string
	Label        string
	Value, Error float64
	Own          float64 // of the error, what the readings alone bring: for a before and after of the same engine
	Prior        float64 // error before anything was read
	Healthy      float64
	Ratio        bool
	Known        bool
}

// Leaning is what the readings say of a finding or a fault: how many times likelier they are with it than in health.
type Leaning struct {
	ID    string
	Ratio float64
}

// Found and leaning thresholds of a likelihood ratio: the handbook's, from trials.
const (
	SaysFound       = 20.0
	SaysFoundFitted = 10.0 // against a baseline
	SaysLeaning     = 5.0
)

// Normalised is r/(1+r), as evidence takes it.
func (l Leaning) Normalised() float64 { return l.Ratio / (1 + l.Ratio) }

// HealthReport is what rounds say of a plant.
type HealthReport struct {
	Figures  []Figure
	Patterns []Leaning // what the readings look like as a whole, the likeliest first
	Findings []Leaning // the catalogue's computed findings, the likeliest first
	Faults   []Leaning // the likeliest first
	Doubts   []Doubt
	Weak     []string // patterns whose signature is under two errors in these rounds: they cannot be judged
	Words    []string
	// SaysFound is the ratio from which a pattern or finding counts as found: lower where the plant is fitted.
	SaysFound float64
	Next      []NextReading // what further reading would tell most, the most telling first
}

// figure is how a figure of health is drawn from: its prior error, and how it enters.
type figure struct {
	id, label string
	ratio     bool
	spread    float64 // of engines about the model; a baseline makes it smaller
	set       func(h *Health, v float64)
	closed    bool // only there
	step      float64
}

// figures are what readings can be turned into. Ratios are handled as logarithms.
var figures = []figure{
	{"raw-flow", "raw flow", true, 0.10, func(h *Health, v float64) { h.Raw = v }, false, 0.02},
	{"ua", "exchanger", true, 0.10, func(h *Health, v float64) { h.UA = v }, true, 0.02},
	{"coolant-flow", "coolant flow", true, 0.10, func(h *Health, v float64) { h.CoolantFlow = v }, true, 0.02},
	{"thermostat", "thermostat", false, 1.5, func(h *Health, v float64) { h.ThermostatShift = v }, false, 0.3},
	{"heat", "engine heat", true, 0.06, func(h *Health, v float64) { h.Heat = v }, false, 0.01},
	{"gauge", "gauge", false, 1.5, func(h *Health, v float64) { h.Gauge = v }, false, 0.5},
}

// wide is how much wider than the spread of healthy engines a figure may lie when it is asked for.
const wide = 6.0

// healthBy sets figures in a healthy plant.
func (p Plant) healthBy(theta []float64, list []figure) Health {
	h := Well()
	for i, f := range list {
		if f.ratio {
			f.set(&h, math.Exp(theta[i]))
		} else {
			f.set(&h, theta[i])
		}
	}
	return h
}

func (p Plant) figures() []figure {
	var list []figure
	for _, f := range figures {
		if p.Family == Closed || !f.closed {
			list = append(list, f)
		}
	}
	return list
}

// predict is what should be read in all the rounds. what names the health where it is one that is asked for again; else
// "".
func (p Plant) predict(what string, rounds []Round, h Health) ([]float64, error) {
	var out []float64
	for _, r := range rounds {
		s, err := p.known(what, r.Operation, h)
		if err != nil {
			return nil, err
		}
		for _, read := range r.Reads {
			v, err := s.value(read)
			if err != nil {
				return nil, err
			}
			out = append(out, v)
		}
	}
	return out, nil
}

// value is what a state shows for a reading.
func (s State) value(r Read) (float64, error) {
	switch r.Station {
	case "flow":
		return s.RawLMin, nil
	case "gauge":
		return s.GaugeC, nil
	}
	for _, x := range s.Readings {
		if x.Station == r.Station && (r.Side == "" || x.Side == r.Side) {
			return x.TempC, nil
		}
	}
	return 0, fmt.Errorf("the station %q is not on this engine", r.Station)
}

// Judge turns rounds into the plant's health. Figures are the most probable ones with their errors (Gauss-Newton on the
// log posterior: C. D. Rodgers, Inverse Methods for Atmospheric Sounding, 2000, chapters 2 and 5, memory); likelihood
// ratios compare each fault, at several severities, with health, errors of reading and spread between engines taken
// together.
func (p Plant) Judge(rounds []Round) (HealthReport, error) {
	if err := p.CheckRounds(rounds); err != nil {
		return HealthReport{}, err
	}
	rep := HealthReport{SaysFound: SaysFound}
	if p.Fitted() {
		rep.SaysFound = SaysFoundFitted
	}
	y, noise := observed(rounds)
	healthy, err := p.inHealth(rounds)
	if err != nil {
		return rep, err
	}
	if rep.Figures, err = p.mostProbable(rounds, healthy, y, noise); err != nil {
		return rep, err
	}
	if err := p.compare(rounds, healthy, y, noise, &rep); err != nil {
		return rep, err
	}
	if rep.Doubts, err = p.Doubts(rounds); err != nil {
		return rep, err
	}
	rep.Words = rep.words()
	return rep, nil
}

// HealthFigures are the figures of Judge alone, without the faults compared: for a before and after.
func (p Plant) HealthFigures(rounds []Round) ([]Figure, error) {
	if err := p.CheckRounds(rounds); err != nil {
		return nil, err
	}
	healthy, err := p.inHealth(rounds)
	if err != nil {
		return nil, err
	}
	y, noise := observed(rounds)
	return p.mostProbable(rounds, healthy, y, noise)
}

func observed(rounds []Round) (y, noise []float64) {
	for _, r := range rounds {
		for _, x := range r.Reads {
			y, noise = append(y, x.Value), append(noise, x.Error)
		}
	}
	return y, noise
}

func (p Plant) CheckRounds(rounds []Round) error {
	var wrong validation.Errors
	if len(rounds) == 0 {
		wrong.Add("rounds", "nothing", "1 round or more", "read at least one round first")
	}
	for i, r := range rounds {
		at := fmt.Sprintf("rounds[%d]", i)
		if err := p.Check(r.Operation); err != nil {
			for _, e := range err.(validation.Errors) { //nolint:errorlint // Check gives nothing else
				e.Field = at + ".operation." + e.Field
				wrong = append(wrong, e)
			}
			continue
		}
		s, err := p.Steady(r.Operation, Well())
		if err != nil {
			return err
		}
		if len(r.Reads) == 0 {
			wrong.Add(at+".readings", "nothing", "1 reading or more", "round %d holds no reading", i+1)
		}
		for k, x := range r.Reads {
			place := fmt.Sprintf("%s.readings[%d]", at, k)
			if _, err := s.value(x); err != nil {
				wrong.Add(place+".station", x.Station, "a station of this engine that has a temperature, flow, gauge", "%s", err)
			}
			if !(x.Error > 0) || math.IsInf(x.Error, 0) {
				wrong.Add(place+".error", x.Error, "above 0", "every reading has an error: say how well it was read")
			}
			if low, high := readRange(x.Station); !(x.Value >= low && x.Value <= high) {
				wrong.Add(place+".value", x.Value, fmt.Sprintf("%g to %g", low, high), "%g cannot be read there: type it again",
					x.Value)
			}
		}
	}
	return wrong.Err()
}

func readRange(station string) (low, high float64) {
	if station == "flow" {
		return 0, 20000
	}
	return -20, 400
}

// jacobian is how each predicted reading moves with each figure, by differences. what names theta where it is one that
// is asked for again; else "".
func (p Plant) jacobian(what string, rounds []Round, theta []float64, list []figure) (*mat.Dense, []float64, error) {
	named := func(part string) string {
		if what == "" {
			return ""
		}
		return what + " " + part
	}
	base, err := p.predict(named("base"), rounds, p.healthBy(theta, list))
	if err != nil {
		return nil, nil, err
	}
	j := mat.NewDense(len(base), len(list), nil)
	var side errgroup.Group // each figure has a column of its own
	side.SetLimit(runtime.GOMAXPROCS(0))
	for k, f := range list {
		side.Go(func() error {
			up, down := slices.Clone(theta), slices.Clone(theta)
			up[k] += f.step
			down[k] -= f.step
			a, err := p.predict(named(f.id+" up"), rounds, p.healthBy(up, list))
			if err != nil {
				return err
			}
			b, err := p.predict(named(f.id+" down"), rounds, p.healthBy(down, list))
			if err != nil {
				return err
			}
			for i := range base {
				j.Set(i, k, (a[i]-b[i])/(2*f.step))
			}
			return nil
		})
	}
	if err := side.Wait(); err != nil {
		return nil, nil, err
	}
	return j, base, nil
}

// fit is the search for the most probable figures.
type fit struct {
	p        Plant
	rounds   []Round
	healthy  sight // where the search begins
	y, noise []float64
	list     []figure
	prior    []float64 // error of each figure before anything was read
}

// cost is twice the negative log posterior.
func (f fit) cost(theta []float64) (float64, error) {
	pred, err := f.p.predict("", f.rounds, f.p.healthBy(theta, f.list))
	if err != nil {
		return 0, err
	}
	sum := 0.0
	for i := range f.y {
		sum += square((f.y[i] - pred[i]) / f.noise[i])
	}
	for k := range theta {
		sum += square(theta[k] / f.prior[k])
	}
	return sum, nil
}

func square(x float64) float64 { return x * x }

// normal gives the information matrix and the gradient of the log posterior, with what is seen at theta.
func (f fit) normal(theta []float64, seen sight) (*mat.SymDense, *mat.VecDense) {
	j, base := seen.slopes, seen.values
	n := len(theta)
	h, g := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for a := range n {
		for b := a; b < n; b++ {
			sum := 0.0
			for i := range f.y {
				sum += j.At(i, a) * j.At(i, b) / square(f.noise[i])
			}
			if a == b {
				sum += 1 / square(f.prior[a])
			}
			h.SetSym(a, b, sum)
		}
		sum := -theta[a] / square(f.prior[a])
		for i := range f.y {
			sum += j.At(i, a) * (f.y[i] - base[i]) / square(f.noise[i])
		}
		g.SetVec(a, sum)
	}
	return h, g
}

// Bounds of a ratio's logarithm in the search, how often it goes on, and how carefully it begins.
const (
	firstDamping       = 0.01
	leastLog, mostLog  = -3.0, 1.5
	mostSteps, mostTry = 25, 12
)

// step tries ever shorter steps (K. Levenberg 1944, D. Marquardt 1963) until one is better; not better when none is.
func (f fit) step(theta []float64, now float64, damping *float64, h *mat.SymDense,
	g *mat.VecDense) (next []float64, cost float64, better bool, err error) {
	n := len(theta)
	held := f.held(theta, g)
	for range mostTry {
		damped := mat.NewSymDense(n, nil)
		damped.CopySym(h)
		for a := range n {
			damped.SetSym(a, a, h.At(a, a)*(1+*damping))
			for b := range n {
				if b != a && (held[a] || held[b]) {
					damped.SetSym(a, b, 0)
				}
			}
		}
		var d mat.VecDense
		if err := d.SolveVec(damped, g); err != nil {
			return nil, 0, false, err
		}
		next := make([]float64, n)
		for k := range next {
			if held[k] {
				next[k] = theta[k]
				continue
			}
			next[k] = theta[k] + min(max(d.AtVec(k), -2*f.prior[k]), 2*f.prior[k])
			if f.list[k].ratio {
				next[k] = min(max(next[k], leastLog), mostLog)
			}
		}
		c, err := f.cost(next)
		if err != nil {
			return nil, 0, false, err
		}
		if c < now {
			*damping /= 5
			return next, c, true, nil
		}
		*damping = *damping*4 + 1e-6
	}
	return theta, now, false, nil
}

// held are the figures that lie at a bound which they would pass: they stay there, and the others move without them.
func (f fit) held(theta []float64, g *mat.VecDense) []bool {
	out := make([]bool, len(theta))
	for k := range theta {
		out[k] = f.list[k].ratio && (theta[k] <= leastLog && g.AtVec(k) < 0 || theta[k] >= mostLog && g.AtVec(k) > 0)
	}
	return out
}

// search finds the most probable figures (as theta: logarithms of ratios) and their covariance.
func (p Plant) search(f fit) ([]float64, *mat.SymDense, error) {
	theta := make([]float64, len(f.list))
	now, err := f.cost(theta)
	if err != nil {
		return nil, nil, err
	}
	damping := firstDamping
	var information *mat.SymDense
	seen := f.healthy
	for range mostSteps {
		h, g := f.normal(theta, seen)
		information = h
		next, c, better, err := f.step(theta, now, &damping, h, g)
		if err != nil {
			return nil, nil, err
		}
		gain := now - c
		theta, now = next, c
		if !better || gain < 1e-6*(1+now) {
			break
		}
		if seen.slopes, seen.values, err = p.jacobian("", f.rounds, theta, f.list); err != nil {
			return nil, nil, err
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(information) {
		return nil, nil, fmt.Errorf("the readings do not hold together")
	}
	covariance := mat.NewSymDense(len(f.list), nil)
	return theta, covariance, chol.InverseTo(covariance)
}

// mostProbable finds the figures and their errors.
func (p Plant) mostProbable(rounds []Round, healthy sight, y, noise []float64) ([]Figure, error) {
	list, about := p.figures(), p.covariance()
	f := fit{p, rounds, healthy, y, noise, list, make([]float64, len(list))}
	for i := range f.prior {
		f.prior[i] = wide * list[i].spread
	}
	theta, covariance, err := p.search(f)
	if err != nil {
		return nil, err
	}
	out := make([]Figure, len(list))
	for k, g := range list {
		sigma := math.Sqrt(max(0, covariance.At(k, k)))
		out[k] = Figure{ID: g.id, Label: g.label, Ratio: g.ratio, Value: theta[k], Error: math.Sqrt(square(sigma) +
			about.At(k, k)), Own: sigma, Prior: f.prior[k], Known: sigma < knownFrom*f.prior[k]}
		if g.ratio {
			out[k].Value, out[k].Healthy = math.Exp(theta[k]), 1
			out[k].Error *= out[k].Value
			out[k].Own *= out[k].Value
		}
	}
	return out, nil
}

// knownFrom is the part of its error before anything was read under which a figure counts as known.
const knownFrom = 0.6

// words says the figures as a person would.
func (r HealthReport) words() []string {
	var list, open []string
	for _, f := range r.Figures {
		name := strings.ToUpper(f.Label[:1]) + f.Label[1:]
		switch {
		case !f.Known:
			open = append(open, f.Label)
		case f.Ratio:
			list = append(list, fmt.Sprintf("%s about %.0f %% of healthy, could be %.0f to %.0f.", name, 100*f.Value,
				100*max(0, f.Value-f.Error), 100*(f.Value+f.Error)))
		case math.Abs(f.Value) <= f.Error:
			list = append(list, fmt.Sprintf("%s as it should be, give or take %.0f K.", name, f.Error))
		case f.ID == "gauge":
			list = append(list, fmt.Sprintf("Gauge reads %.0f K %s, give or take %.0f.", math.Abs(f.Value), highLow(f.Value,
				"high", "low"), f.Error))
		default:
			list = append(list, fmt.Sprintf("Thermostat opens %.0f K %s, give or take %.0f.", math.Abs(f.Value),
				highLow(f.Value, "late", "early"), f.Error))
		}
	}
	if len(open) > 0 {
		list = append(list, fmt.Sprintf("Not to be judged from these readings: %s.", strings.Join(open, ", ")))
	}
	return list
}

func highLow(v float64, high, low string) string {
	if v < 0 {
		return low
	}
	return high
}
