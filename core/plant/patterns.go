package plant

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"
)

// severities at which a fault is tried; a fault that hardly shows is not told from health.
var severities = []float64{0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1}

// compare finds how many times likelier the readings are with each fault than in health.
func (p Plant) compare(rounds []Round, y, noise []float64, rep *HealthReport) error {
	list := p.figures()
	j, healthy, err := p.jacobian(rounds, make([]float64, len(list)), list)
	if err != nil {
		return err
	}
	n := len(y)
	c := mat.NewSymDense(n, nil) // errors of reading, and of engines about the model
	about := p.covariance()
	for a := range n {
		for b := a; b < n; b++ {
			sum := mat.Inner(j.RowView(a), about, j.RowView(b))
			if a == b {
				sum += noise[a] * noise[a]
			}
			c.SetSym(a, b, sum)
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(c) {
		return fmt.Errorf("the errors of the readings do not hold together")
	}
	quadratic := func(d []float64) float64 {
		v := mat.NewVecDense(n, d)
		var x mat.VecDense
		if err := chol.SolveVecTo(&x, v); err != nil {
			return math.Inf(1)
		}
		return robust(mat.Dot(v, &x), n)
	}
	off := func(pred []float64) []float64 {
		d := make([]float64, n)
		for i := range d {
			d[i] = y[i] - pred[i]
		}
		return d
	}
	zero := quadratic(off(healthy))
	best := map[string]float64{}
	signature := map[string]float64{}
	var tried []hypothesis
	for _, id := range Physical() {
		if !p.Shows(id) {
			continue
		}
		sum := 0.0
		for _, s := range severities {
			h, err := Ail(Fault{id, s})
			if err != nil {
				return err
			}
			pred, err := p.predict(rounds, h)
			if err != nil {
				return err
			}
			l := math.Exp(min((zero-quadratic(off(pred)))/2, 300)) / float64(len(severities))
			sum += l
			tried = append(tried, hypothesis{id, h, l})
			if s == 0.5 {
				d := make([]float64, n)
				for i := range d {
					d[i] = pred[i] - healthy[i]
				}
				signature[id] = math.Sqrt(quadratic(d))
			}
		}
		best[id] = sum
	}
	rep.Faults = ranked(best)
	rep.patterns(best, signature)
	if rep.Next, err = p.telling(rounds, noise, tried, rep); err != nil {
		return err
	}
	return p.read(rounds, y, noise, healthy, rep)
}

// patterns joins the faults that readings cannot tell apart. A pattern's ratio is against health, or against what the
// other patterns make of the readings on average if that is more: what explains little beside them says little.
func (r *HealthReport) patterns(best, signature map[string]float64) {
	alone, strongest := map[string]float64{}, map[string]float64{}
	total := 0.0
	for pattern, faults := range shownBy {
		sum, n := 0.0, 0
		for _, f := range faults {
			if l, ok := best[f]; ok {
				sum, n = sum+l, n+1
				strongest[pattern] = max(strongest[pattern], signature[f])
			}
		}
		if n > 0 { // which of them it is is not known: each counts alike
			alone[pattern] = sum / float64(n)
			total += alone[pattern]
		}
	}
	ratios := map[string]float64{}
	for pattern, l := range alone {
		others := (total - l) / math.Max(1, float64(len(alone)-1))
		ratios[pattern] = l / math.Max(1, others)
		if strongest[pattern] < 2 {
			r.Weak = append(r.Weak, pattern)
		}
	}
	r.Patterns = ranked(ratios)
	slices.Sort(r.Weak)
}

// Thresholds of the findings that are read off directly, against what a healthy plant reads at the same operation: the
// handbook's.
const (
	plateauAboveK = 4.0
	plateauBelowK = 5.0
	mixAboveK     = 8.0
	riseOver      = 1.3
	mostDirect    = 1000.0
)

// read works out the computed findings of the catalogue: those that a pattern is, and those that are read off directly.
func (p Plant) read(rounds []Round, y, noise, healthy []float64, rep *HealthReport) error {
	found := map[string]float64{}
	for _, l := range rep.Patterns {
		if id, ok := findingOf[l.ID]; ok {
			found[id] = l.Ratio
		}
	}
	about, err := p.spreads(rounds)
	if err != nil {
		return err
	}
	k := 0
	for _, round := range rounds {
		for _, r := range round.Reads {
			sigma := math.Hypot(noise[k], about[k])
			for _, d := range directOf(r, y[k], healthy[k], round.Operation.SeaC) {
				found[d.finding] = max(found[d.finding], d.ratio(sigma))
			}
			k++
		}
	}
	rep.Findings = ranked(found)
	return nil
}

// direct is a reading off what a healthy plant reads, in the direction of a finding, and the threshold of that.
type direct struct {
	finding    string
	off, limit float64
}

// clearOf is how many errors off a reading must be at least to be past any threshold.
const clearOf = 1.5

// ratio is the odds that the true value is past the threshold.
func (d direct) ratio(sigma float64) float64 {
	past := 0.5 * math.Erfc(-(d.off-max(d.limit, clearOf*sigma))/(sigma*math.Sqrt2))
	return math.Min(past/math.Max(1-past, 1e-12), mostDirect)
}

// directOf lists the findings that a reading bears on directly.
func directOf(r Read, value, healthy, sea float64) []direct {
	switch r.Station {
	case "thermostat", "block":
		if r.Side == "coolant" || r.Side == "" {
			return []direct{{"plateau-above-rating", value - healthy, plateauAboveK}, {"plateau-below-rating", healthy - value, plateauBelowK}}
		}
	case "outlet", "elbow", "exhaust-hose", "silencer":
		return []direct{{"exhaust-mix-hot", value - healthy, mixAboveK}}
	case "raw-hoses", "anti-siphon":
		return []direct{{"raw-rise-high", value - healthy, (riseOver - 1) * (healthy - sea)}}
	}
	return nil
}

// robust keeps one wild reading from deciding alone: far out, the penalty grows slower than the square.
func robust(q float64, n int) float64 {
	limit := 4 * float64(n)
	if q <= limit {
		return q
	}
	return 2*math.Sqrt(q*limit) - limit
}

func ranked(m map[string]float64) []Leaning {
	list := make([]Leaning, 0, len(m))
	for id, r := range m {
		list = append(list, Leaning{id, r})
	}
	slices.SortFunc(list, func(a, b Leaning) int {
		if a.Ratio != b.Ratio {
			if a.Ratio > b.Ratio {
				return -1
			}
			return 1
		}
		return strings.Compare(a.ID, b.ID)
	})
	return list
}

// shownBy lists the patterns, with the faults that cannot be told apart within one by temperatures and flow.
var shownBy = map[string][]string{
	"raw-flow-low": {"intake-blocked", "seacock-restricted", "strainer-clogged", "suction-hose-collapsed", "impeller-vanes-missing", "impeller-tired", "impeller-drive-failed",
		"pump-worn-body", "pump-belt-slipping", "pump-not-primed", "strainer-air-leak", "suction-air-leak", "pump-cover-leak", "debris-at-cooler", "raw-filter-clogged",
		"elbow-choked", "riser-choked", "sand-in-circuit", "tubes-blocked"},
	"exchanger-weak":   {"tubes-scaled", "exchanger-bypass", "tubes-blocked", "coolant-side-fouled"},
	"coolant-flow-low": {"coolant-low", "coolant-airbound", "circ-belt-slipping", "circ-pump-worn", "coolant-hose-collapsed"},
	"thermostat-late":  {"thermostat-shut", "thermostat-lazy", "block-silted"},
	"thermostat-open":  {"thermostat-open"},
	"heat-high":        {"overloaded"},
	"gauge-off":        {"gauge-wrong"},
	"raw-water-lost":   {"raw-hose-leak"},
}

// patternLabels are the patterns in the trade's words.
var patternLabels = map[string]string{"raw-flow-low": "too little raw water", "exchanger-weak": "a weak exchanger", "coolant-flow-low": "too little coolant flow",
	"thermostat-late": "a thermostat that opens late or too little", "thermostat-open": "a thermostat that hangs open", "heat-high": "more heat than she should make",
	"gauge-off": "a gauge that reads wrong", "raw-water-lost": "raw water lost before the elbow"}

// PatternLabel is a pattern in the trade's words; its id where it has none.
func PatternLabel(id string) string {
	if l, ok := patternLabels[id]; ok {
		return l
	}
	return id
}

// findingOf gives the computed finding of the catalogue that a pattern is.
var findingOf = map[string]string{"raw-flow-low": "raw-flow-low", "exchanger-weak": "exchanger-weak", "coolant-flow-low": "coolant-drop-high",
	"heat-high": "engine-heat-high", "gauge-off": "gauge-off"}

// Pattern gives the pattern by which a fault shows, or "".
func Pattern(fault string) string {
	for pattern, faults := range shownBy {
		if slices.Contains(faults, fault) && (pattern != "raw-flow-low" || fault != "tubes-blocked") {
			return pattern
		}
	}
	return ""
}
