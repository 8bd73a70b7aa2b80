package plant

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"

	"hevrin/core/validation"
)

// What is left of the spread between engines when the model was fitted to this very engine, or to its twin: engines do
// not repeat themselves exactly, and twins differ. By trial.
const (
	LeftByBaseline = 0.35
	LeftByTwin     = 0.6
)

// with is a health on top of what is this engine's own.
func (own Health) with(h Health) Health {
	h.Raw *= own.Raw
	h.UA *= own.UA
	h.CoolantFlow *= own.CoolantFlow
	h.ThermostatShift += own.ThermostatShift
	h.Heat *= own.Heat
	h.Gauge += own.Gauge
	return h
}

// covariance is that of healthy engines' figures about the plant.
func (p Plant) covariance() *mat.SymDense {
	if p.about != nil {
		return p.about
	}
	return spreadOf(p.figures(), 1)
}

func spreadOf(list []figure, left float64) *mat.SymDense {
	c := mat.NewSymDense(len(list), nil)
	for k, f := range list {
		c.SetSym(k, k, square(left*f.spread))
	}
	return c
}

// AsFitted is the same plant when its facts were fitted to this very engine already: only LeftByBaseline of the spread
// between engines is left.
func (p Plant) AsFitted() Plant {
	p.about = spreadOf(p.figures(), LeftByBaseline)
	return p
}

// Fitted says whether the plant was fitted to the very engine or its twin.
func (p Plant) Fitted() bool { return p.about != nil }

// CleanUA is the conductance of this engine's exchanger in health, in W/K.
func (p Plant) CleanUA() float64 { return p.UA * p.own.UA }

// Calibrated is the plant fitted to rounds of it in health: the most probable figures become its own, and what the
// rounds leave open stays as open as between engines. left is LeftByBaseline or LeftByTwin.
func (p Plant) Calibrated(rounds []Round, left float64) (Plant, error) {
	if err := p.CheckRounds(rounds); err != nil {
		return p, err
	}
	list := p.figures()
	prior := make([]float64, len(list))
	for i, f := range list {
		prior[i] = f.spread
	}
	y, noise := observed(rounds)
	healthy, err := p.inHealth(rounds)
	if err != nil {
		return p, err
	}
	theta, covariance, err := p.search(fit{p, rounds, healthy, y, noise, list, prior})
	if err != nil {
		return p, err
	}
	p.own = p.own.with(p.healthBy(theta, list))
	about := mat.NewSymDense(len(list), nil)
	about.AddSym(covariance, spreadOf(list, left))
	for k, f := range list { // never wider than between engines
		if v := about.At(k, k); v > square(f.spread) {
			shrink := f.spread / math.Sqrt(v)
			for j := range list {
				if j == k {
					about.SetSym(k, k, square(f.spread))
				} else {
					about.SetSym(k, j, about.At(k, j)*shrink)
				}
			}
		}
	}
	p.about = about
	return p, nil
}

// CheckHealthy refuses rounds as a standard when they look like a fault rather than like health.
func (p Plant) CheckHealthy(rounds []Round) error {
	report, err := p.Judge(rounds)
	if err != nil {
		return err
	}
	if err := unsettled(report.Unsettled); err != nil {
		return err
	}
	var wrong validation.Errors
	if len(report.Patterns) > 0 && report.Patterns[0].Ratio >= report.SaysFound {
		wrong.Add("rounds", report.Patterns[0].ID, "rounds of an engine in health",
			"these readings look like a fault, %.0f times likelier than like health: cure it first, or say in words why it "+
				"is well all the same",
			math.Min(report.Patterns[0].Ratio, mostDirect))
		return wrong
	}
	return nil
}

// CheckWarm refuses rounds of an engine that cannot have been warm: no reason makes a baseline of them.
func (p Plant) CheckWarm(rounds []Round) error {
	if err := p.CheckRounds(rounds); err != nil {
		return err
	}
	_, early, err := p.settled(rounds)
	if err != nil {
		return err
	}
	return unsettled(early)
}

func unsettled(list []Unsettled) error {
	var wrong validation.Errors
	for _, u := range list {
		wrong.Add("rounds", "a round of an engine that was warming up", "rounds of a warm engine", "%s", u.Say)
	}
	return wrong.Err()
}

// Carried is what a round's readings would be at another operation: each moved by what the plant's model moves between
// the two. It shows a baseline or a twin beside a round at another speed or in another sea.
func (p Plant) Carried(r Round, to Operation) ([]Read, error) {
	was, err := p.Steady(r.Operation, Well())
	if err != nil {
		return nil, fmt.Errorf("the round's operation: %w", err)
	}
	is, err := p.Steady(to, Well())
	if err != nil {
		return nil, err
	}
	var list []Read
	for _, x := range r.Reads {
		a, err := was.value(x)
		if err != nil {
			return nil, err
		}
		b, err := is.value(x)
		if err != nil {
			return nil, err
		}
		if x.Station == "flow" { // a ratio, not a shift
			x.Value *= b / math.Max(a, 1e-6)
		} else {
			x.Value += b - a
		}
		list = append(list, x)
	}
	return list, nil
}
