package plant

import (
	"math"
	"slices"

	"hevrin/core/ordering"

	"gonum.org/v1/gonum/mat"
)

// NextReading is a further reading and what it would tell: the information about the pattern in bits, and the two
// likeliest patterns (or Healthy) that it tells apart best.
type NextReading struct {
	RPM     float64
	Station string
	Side    string
	Bits    float64
	Between [2]string
}

// Healthy stands for no fault among the patterns that a reading tells apart.
const Healthy = "healthy"

// hypothesis is a fault at a severity with how many times likelier the readings are with it than in health.
type hypothesis struct {
	fault  string
	health Health
	l      float64
}

// What is worth telling, and how many.
const (
	leastBits        = 0.1
	mostNextReadings = 3
	leastWeight      = 1e-4
	idleShare        = 0.3
	sameSpeed        = 0.1 // of rated: nearer than this is the same speed
)

// weighed is a hypothesis as a share of all that the readings allow, under the pattern by which it shows.
type weighed struct {
	pattern string
	health  Health
	weight  float64
}

// shares turns likelihoods into shares: health and the patterns count alike beforehand, and the faults within a
// pattern.
func shares(tried []hypothesis) []weighed {
	faults := map[string]map[string]bool{}
	for _, t := range tried {
		pattern := Pattern(t.fault)
		if faults[pattern] == nil {
			faults[pattern] = map[string]bool{}
		}
		faults[pattern][t.fault] = true
	}
	list := []weighed{{Healthy, Well(), 1}}
	total := 1.0
	for _, t := range tried {
		pattern := Pattern(t.fault)
		w := t.l / float64(len(faults[pattern]))
		list = append(list, weighed{pattern, t.health, w})
		total += w
	}
	for i := range list {
		list[i].weight /= total
	}
	return slices.DeleteFunc(list, func(w weighed) bool { return w.weight < leastWeight })
}

// nextReadings finds the readings, not taken yet, that would tell the patterns apart best: each at the speed of the
// last round, idling and at rated speed. The information of a reading is that of a Gaussian with the patterns' spread
// over the reading's own: ½ log₂(1 + between/within).
func (p Plant) nextReadings(rounds []Round, healthy sight, noise []float64, tried []hypothesis) ([]NextReading, error) {
	list := shares(tried)
	left, err := p.leftOpen(healthy, noise)
	if err != nil {
		return nil, err
	}
	var all []NextReading
	last := rounds[len(rounds)-1].Operation
	for i, rpm := range []float64{last.RPM, idleShare * p.Engine.RatedRPM, p.Engine.RatedRPM} {
		if i > 0 && near(rpm, last.RPM, p.Engine.RatedRPM) {
			continue // that speed was the first
		}
		op := last
		op.RPM = rpm
		round := Round{Operation: op, Reads: p.unread(rounds, op)}
		if len(round.Reads) == 0 {
			continue
		}
		found, err := p.tell(round, list, left)
		if err != nil {
			return nil, err
		}
		all = append(all, found...)
	}
	slices.SortStableFunc(all, func(a, b NextReading) int { return ordering.Compare(b.Bits, a.Bits) })
	return all[:min(len(all), mostNextReadings)], nil
}

func near(a, b, rated float64) bool { return math.Abs(a-b) < sameSpeed*rated }

// leftOpen is the covariance of healthy figures once the rounds are read.
func (p Plant) leftOpen(healthy sight, noise []float64) (*mat.SymDense, error) {
	list := p.figures()
	var chol mat.Cholesky
	if !chol.Factorize(p.covariance()) {
		return p.covariance(), nil
	}
	information := mat.NewSymDense(len(list), nil)
	if err := chol.InverseTo(information); err != nil {
		return nil, err
	}
	for i, s := range noise {
		information.SymRankOne(information, 1/square(s), healthy.slopes.RowView(i))
	}
	out := mat.NewSymDense(len(list), nil)
	if !chol.Factorize(information) {
		return p.covariance(), nil
	}
	return out, chol.InverseTo(out)
}

// readable are the places that a probe or a bucket reaches, each telling something of its own.
var readable = map[string]bool{"exchanger": true, "raw-hoses": true, "outlet": true, "coolant-hoses": true,
	"thermostat": true, "gauge": true}

// unread lists what could still be read at an operation, with usual errors.
func (p Plant) unread(rounds []Round, op Operation) []Read {
	s, err := p.Steady(op, Well())
	if err != nil {
		return nil
	}
	candidates := []Read{{Station: "flow", Value: s.RawLMin, Error: UsualError("flow", Bucket, s.RawLMin)}}
	for _, r := range s.Readings {
		if readable[r.Station] || p.Family == Direct && r.Station == "block" {
			candidates = append(candidates, Read{r.Station, r.Side, r.TempC, UsualError(r.Station, Contact, r.TempC)})
		}
	}
	return slices.DeleteFunc(candidates, func(c Read) bool {
		return slices.ContainsFunc(rounds, func(r Round) bool {
			return near(r.Operation.RPM, op.RPM, p.Engine.RatedRPM) && slices.ContainsFunc(r.Reads, func(x Read) bool {
				return x.Station == c.Station && (x.Side == c.Side || x.Side == "" || x.Station == "gauge")
			})
		})
	})
}

func (p Plant) tell(round Round, list []weighed, left *mat.SymDense) ([]NextReading, error) {
	rounds := []Round{round}
	healthy, err := p.inHealth(rounds)
	if err != nil {
		return nil, err
	}
	values := make([][]float64, len(list))
	for i, w := range list {
		if values[i], err = p.predict("", rounds, w.health); err != nil {
			return nil, err
		}
	}
	var found []NextReading
	for k, read := range round.Reads {
		own := square(read.Error) + mat.Inner(healthy.slopes.RowView(k), left, healthy.slopes.RowView(k))
		bits, between := information(list, func(i int) float64 { return values[i][k] }, own)
		if bits >= leastBits {
			found = append(found, NextReading{round.Operation.RPM, read.Station, read.Side, bits, between})
		}
	}
	return found, nil
}

// information is that of a reading about the pattern, and the two patterns that it parts most.
func information(list []weighed, value func(i int) float64, own float64) (float64, [2]string) {
	type group struct{ weight, mean, square float64 }
	groups := map[string]*group{}
	var order []string
	for i, w := range list {
		g := groups[w.pattern]
		if g == nil {
			g = &group{}
			groups[w.pattern] = g
			order = append(order, w.pattern)
		}
		v := value(i)
		g.weight += w.weight
		g.mean += w.weight * v
		g.square += w.weight * v * v
	}
	mean, total := 0.0, 0.0
	for _, id := range order { // in a fixed order: the last bits of a sum must not differ from time to time
		g := groups[id]
		mean, total = mean+g.mean, total+g.weight
		g.mean /= g.weight
		g.square = max(0, g.square/g.weight-square(g.mean)) // now its variance
	}
	mean /= total
	between, within := 0.0, own
	for _, id := range order {
		g := groups[id]
		between += g.weight / total * square(g.mean-mean)
		within += g.weight / total * g.square
	}
	var parted [2]string
	most := 0.0
	for i, a := range order {
		for _, b := range order[i+1:] {
			if m := groups[a].weight * groups[b].weight * square(groups[a].mean-groups[b].mean); ordering.Above(m, most) {
				most, parted = m, [2]string{a, b}
			}
		}
	}
	return 0.5 * math.Log2(1+between/within), parted
}
