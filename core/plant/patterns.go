package plant

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"runtime"
	"slices"
	"strings"

	"hevrin/core/ordering"

	"golang.org/x/sync/errgroup"
)

// severities at which a fault is tried; a fault that hardly shows is not told from health.
var severities = []float64{0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1}

// middling is the severity by which a fault's signature is measured; shows is from how many errors on it can be told.
const (
	middling = 0.5
	shows    = 2.0
)

// trial is a fault at one severity: what should be read with it, and how far that lies from what was.
type trial struct {
	health Health
	pred   []float64
	cost   float64
}

func (p Plant) try(rounds []Round, f Fault, cost func(pred []float64) float64) (t trial, err error) {
	if t.health, err = Ail(f); err != nil {
		return t, err
	}
	if t.pred, err = p.predict(fmt.Sprintf("%s %g", f.ID, f.Severity), rounds, t.health); err != nil {
		return t, err
	}
	t.cost = cost(t.pred)
	return t, nil
}

// compare finds how many times likelier the readings are with each fault than in health.
func (p Plant) compare(rounds []Round, healthy sight, y, noise []float64, rep *HealthReport) error {
	m, err := p.misfit(healthy, noise)
	if err != nil {
		return err
	}
	quadratic := func(off []float64) float64 { return robust(m.of(off), len(off)) }
	zero := quadratic(apart(y, healthy.values))
	ids := slices.DeleteFunc(slices.Clone(Physical()), func(id string) bool { return !p.Shows(id) })
	lots := make([]trial, len(ids)*len(severities))
	var side errgroup.Group // the trials share nothing
	side.SetLimit(runtime.GOMAXPROCS(0))
	for i := range lots {
		side.Go(func() (err error) {
			lots[i], err = p.try(rounds, Fault{ids[i/len(severities)], severities[i%len(severities)]},
				func(pred []float64) float64 { return quadratic(apart(y, pred)) })
			return err
		})
	}
	if err := side.Wait(); err != nil {
		return err
	}
	best, signature := map[string]float64{}, map[string]float64{}
	tried := make([]hypothesis, len(lots))
	for i, x := range lots {
		id := ids[i/len(severities)]
		l := math.Exp(min((zero-x.cost)/2, 300)) / float64(len(severities))
		best[id] += l
		tried[i] = hypothesis{id, x.health, l}
		if severities[i%len(severities)] == middling {
			signature[id] = math.Sqrt(quadratic(apart(x.pred, healthy.values)))
		}
	}
	rep.Faults = ranked(best)
	for _, id := range ids {
		if signature[id] < shows {
			rep.Hidden = append(rep.Hidden, id)
		}
	}
	rep.patterns(best, signature)
	if rep.Next, err = p.nextReadings(rounds, healthy, noise, tried); err != nil {
		return err
	}
	p.read(rounds, healthy, y, noise, rep)
	return nil
}

// patterns joins the faults that readings cannot tell apart. A pattern's ratio is against health, or against what the
// other patterns make of the readings on average if that is more: what explains little beside them says little.
func (r *HealthReport) patterns(best, signature map[string]float64) {
	alone, strongest := map[string]float64{}, map[string]float64{}
	total := 0.0
	for _, pattern := range slices.Sorted(maps.Keys(shownBy)) { // sums in a fixed order
		sum, n := 0.0, 0
		for _, f := range shownBy[pattern] {
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
		if strongest[pattern] < shows {
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
func (p Plant) read(rounds []Round, healthy sight, y, noise []float64, rep *HealthReport) {
	found := map[string]float64{}
	for _, l := range rep.Patterns {
		if id, ok := findingOf[l.ID]; ok {
			found[id] = l.Ratio
		}
	}
	about := p.spreads(healthy)
	k := 0
	for _, round := range rounds {
		for _, r := range round.Reads {
			sigma := math.Hypot(noise[k], about[k])
			for _, d := range directOf(r, y[k], healthy.values[k], round.Operation.SeaC) {
				found[d.finding] = max(found[d.finding], d.ratio(sigma))
			}
			k++
		}
	}
	rep.Findings = ranked(found)
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

// readOff are the findings that a reading bears on directly.
var readOff = []string{"exhaust-mix-hot", "plateau-above-rating", "plateau-below-rating", "raw-rise-high"}

// ReadOff tells whether a finding is read off directly: a reading past a threshold.
func ReadOff(finding string) bool { return slices.Contains(readOff, finding) }

// Told lists the computed findings of the catalogue that rounds of readings tell.
func Told() []string {
	return slices.Sorted(slices.Values(append(slices.Collect(maps.Values(findingOf)), readOff...)))
}

// directOf lists the findings that a reading bears on directly.
func directOf(r Read, value, healthy, sea float64) []direct {
	switch r.Station {
	case "thermostat", "block":
		if r.Side == "coolant" || r.Side == "" {
			return []direct{{"plateau-above-rating", value - healthy, plateauAboveK}, {"plateau-below-rating", healthy - value,
				plateauBelowK}}
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
		return cmp.Or(ordering.Compare(b.Ratio, a.Ratio), strings.Compare(a.ID, b.ID))
	})
	return list
}

// shownBy lists the patterns, with the faults that cannot be told apart within one by temperatures and flow.
var shownBy = map[string][]string{
	"raw-flow-low": {"intake-blocked", "seacock-restricted", "strainer-clogged", "suction-hose-collapsed",
		"impeller-vanes-missing", "impeller-tired", "impeller-drive-failed",
		"pump-worn-body", "pump-belt-slipping", "pump-not-primed", "strainer-air-leak", "suction-air-leak",
		"pump-cover-leak", "debris-at-cooler", "raw-filter-clogged",
		"elbow-choked", "riser-choked", "sand-in-circuit", "tubes-blocked"},
	"exchanger-weak": {"tubes-scaled", "exchanger-bypass", "tubes-blocked", "coolant-side-fouled"},
	"coolant-flow-low": {"coolant-low", "coolant-airbound", "circ-belt-slipping", "circ-pump-worn",
		"coolant-hose-collapsed"},
	"thermostat-late": {"thermostat-shut", "thermostat-lazy", "block-silted"},
	"thermostat-open": {"thermostat-open"},
	"heat-high":       {"overloaded"},
	"gauge-off":       {"gauge-wrong"},
	"raw-water-lost":  {"raw-hose-leak"},
}

// patternLabels are the patterns in the trade's words.
var patternLabels = map[string]string{"raw-flow-low": "too little raw water", "exchanger-weak": "a weak exchanger",
	"coolant-flow-low": "too little coolant flow",
	"thermostat-late":  "a thermostat that opens late or too little", "thermostat-open": "a thermostat that hangs open",
	"heat-high": "more heat than it should make",
	"gauge-off": "a gauge that reads wrong", "raw-water-lost": "raw water lost before the elbow"}

// PatternLabel is a pattern in the trade's words; its id where it has none.
func PatternLabel(id string) string {
	if l, ok := patternLabels[id]; ok {
		return l
	}
	return id
}

// findingOf gives the computed finding of the catalogue that a pattern is.
var findingOf = map[string]string{"raw-flow-low": "raw-flow-low", "exchanger-weak": "exchanger-weak",
	"coolant-flow-low": "coolant-drop-high",
	"heat-high":        "engine-heat-high", "gauge-off": "gauge-off"}

// Pattern gives the pattern by which a fault shows, or "".
func Pattern(fault string) string {
	for pattern, faults := range shownBy {
		if slices.Contains(faults, fault) && (pattern != "raw-flow-low" || fault != "tubes-blocked") {
			return pattern
		}
	}
	return ""
}
