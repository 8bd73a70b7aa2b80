package plant

import (
	"fmt"
	"math"
	"strings"

	"hevrin/core/units"
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
	RanMin    float64 // how long it had run so since it was cold, in minutes; 0: nobody said
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
	Hidden   []string // faults whose signature at middling severity is under two errors: they may be there all the same
	Weak     []string // patterns whose signature is under two errors in these rounds: they cannot be judged
	Words    []units.Sentence
	// SaysFound is the ratio from which a pattern or finding counts as found: lower where the plant is fitted.
	SaysFound float64
	Next      []NextReading // what further reading would tell most, the most telling first
	Unsettled []Unsettled   // rounds of an engine that warmed up still: they are not judged
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
// together. Rounds of an engine that cannot have been warm are told, and not judged.
func (p Plant) Judge(rounds []Round) (HealthReport, error) {
	if err := p.CheckRounds(rounds); err != nil {
		return HealthReport{}, err
	}
	rep := HealthReport{SaysFound: SaysFound}
	if p.Fitted() {
		rep.SaysFound = SaysFoundFitted
	}
	var err error
	if rep.Doubts, err = p.Doubts(rounds); err != nil {
		return rep, err
	}
	if rounds, rep.Unsettled, err = p.settled(rounds); err != nil {
		return rep, err
	}
	for _, u := range rep.Unsettled {
		rep.Words = append(rep.Words, u.Say)
	}
	if len(rounds) == 0 {
		return rep, nil
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
	rep.Words = append(rep.Words, rep.words()...)
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

// mostRanMin is the longest that an engine is said to have run, in minutes: beyond it a slip is likelier.
const mostRanMin = 1440

// CheckRounds refuses rounds that the model cannot take, by the field: none, an operation out of range, a station that
// this engine has not, a reading without an error or one that cannot be.
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
		if !(r.RanMin >= 0 && r.RanMin <= mostRanMin) {
			wrong.Add(at+".operation.ran_min", r.RanMin, units.Range(0, mostRanMin, "min"), "say how many minutes it had run")
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
				wrong.Add(place+".value", x.Value, units.Say("%g to %g", low, high), "%g cannot be read there: type it again",
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

// words says the figures as a person would.
func (r HealthReport) words() []units.Sentence {
	var list []units.Sentence
	var open []string
	for _, f := range r.Figures {
		name := strings.ToUpper(f.Label[:1]) + f.Label[1:]
		switch {
		case !f.Known:
			open = append(open, f.Label)
		case f.Ratio:
			list = append(list, units.Say("%s about %.0f %% of healthy, could be %.0f to %.0f.", name, 100*f.Value,
				100*max(0, f.Value-f.Error), 100*(f.Value+f.Error)))
		case math.Abs(f.Value) <= f.Error:
			list = append(list, units.Say("%s as it should be, give or take %.0f.", name, units.Of(f.Error, "K")))
		case f.ID == "gauge":
			list = append(list, units.Say("Gauge reads %.0f %s, give or take %.0f.", units.Of(math.Abs(f.Value), "K"),
				highLow(f.Value,
					"high", "low"), units.Of(f.Error, "K")))
		default:
			list = append(list, units.Say("Thermostat opens %.0f %s, give or take %.0f.", units.Of(math.Abs(f.Value), "K"),
				highLow(f.Value, "late", "early"), units.Of(f.Error, "K")))
		}
	}
	if len(open) > 0 {
		list = append(list, units.Say("Not to be judged from these readings: %s.", strings.Join(open, ", ")))
	}
	return list
}

func highLow(v float64, high, low string) string {
	if v < 0 {
		return low
	}
	return high
}
