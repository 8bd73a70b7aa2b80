package plant

import (
	"fmt"
	"math"
	"runtime"
	"slices"

	"golang.org/x/sync/errgroup"
	"gonum.org/v1/gonum/mat"

	"hevrin/core/ordering"
)

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
		// what is found by trial ends elsewhere on every machine, far within its error
		out[k].Value = ordering.Digits(out[k].Value, 6)
		out[k].Error, out[k].Own = ordering.Digits(out[k].Error, 3), ordering.Digits(out[k].Own, 3)
	}
	return out, nil
}

// knownFrom is the part of its error before anything was read under which a figure counts as known.
const knownFrom = 0.6
