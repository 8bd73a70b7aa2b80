package plant

import (
	"fmt"
	"math"
	"slices"

	"hevrin/core/validation"
)

// knob is a figure of Health that a fault turns.
type knob func(h *Health, v float64)

// effect is one thing that a fault does: a knob and where it stands at severity 1; between, it goes in a straight line
// from its healthy value, or for narrowing by even factors.
type effect struct {
	turn    knob
	healthy float64
	worst   float64
	factor  bool
}

func (e effect) at(severity float64) float64 {
	if e.factor {
		return e.healthy * math.Pow(e.worst/e.healthy, severity)
	}
	return e.healthy + (e.worst-e.healthy)*severity
}

// narrows is the factor on a station's drop when it is all but shut.
const narrows = 400.0

func narrowing(stations ...string) effect {
	return effect{turn: func(h *Health, v float64) {
		for _, s := range stations {
			h.Restrict[s] = v * max(1, h.Restrict[s])
		}
	}, healthy: 1, worst: narrows, factor: true}
}

func linear(healthy, worst float64, turn knob) effect {
	return effect{turn: turn, healthy: healthy, worst: worst}
}

// physical lists the catalogue's faults that the model can show, by id, and what each does. Common practice and trial;
// severity 0 is health, 1 the worst that still counts as this fault.
var physical = map[string][]effect{
	"intake-blocked":         {narrowing("intake")},
	"seacock-restricted":     {narrowing("seacock")},
	"strainer-clogged":       {narrowing("strainer")},
	"suction-hose-collapsed": {narrowing("suction-hose")},
	"impeller-vanes-missing": {linear(1, 0.1, func(h *Health, v float64) { h.PumpState = v }), linear(1, 0.3,
		func(h *Health, v float64) { h.Vacuum = v })},
	"impeller-tired": {linear(1, 0.4, func(h *Health, v float64) { h.PumpState = v }), linear(1, 0.4,
		func(h *Health, v float64) { h.Vacuum = v })},
	"impeller-drive-failed": {linear(1, 0, func(h *Health, v float64) { h.PumpState = v })},
	"pump-worn-body": {linear(1, 7, func(h *Health, v float64) { h.Slip = v }), linear(1, 0.5, func(h *Health,
		v float64) {
		h.Vacuum = v
	})},
	"pump-belt-slipping": {linear(1, 0.15, func(h *Health, v float64) { h.PumpState = v })},
	"pump-not-primed":    {linear(1, 0, func(h *Health, v float64) { h.PumpState = v })},
	"strainer-air-leak":  {linear(0, 0.8, func(h *Health, v float64) { h.Air = v })},
	"suction-air-leak":   {linear(0, 0.8, func(h *Health, v float64) { h.Air = v })},
	"pump-cover-leak":    {linear(0, 0.6, func(h *Health, v float64) { h.Air = v })},
	"debris-at-cooler":   {narrowing("gear-cooler", "oil-cooler", "charge-cooler")},
	"raw-filter-clogged": {narrowing("raw-filter")},
	"tubes-blocked":      {linear(0, 0.85, func(h *Health, v float64) { h.Blocked = v })},
	"tubes-scaled": {effect{turn: func(h *Health, v float64) { h.UA = v }, healthy: 1, worst: 0.12,
		factor: true}},
	"exchanger-bypass":       {linear(0, 0.92, func(h *Health, v float64) { h.Bypass = v })},
	"raw-hose-leak":          {linear(0, 0.8, func(h *Health, v float64) { h.LeakAfter = v })},
	"elbow-choked":           {narrowing("elbow")},
	"riser-choked":           {narrowing("elbow")},
	"sand-in-circuit":        {narrowing("exchanger", "block")},
	"coolant-low":            {linear(1, 0.12, func(h *Health, v float64) { h.CoolantFlow = v })},
	"coolant-airbound":       {linear(1, 0.12, func(h *Health, v float64) { h.CoolantFlow = v })},
	"circ-belt-slipping":     {linear(1, 0.12, func(h *Health, v float64) { h.CoolantFlow = v })},
	"circ-pump-worn":         {linear(1, 0.2, func(h *Health, v float64) { h.CoolantFlow = v })},
	"coolant-hose-collapsed": {linear(1, 0.12, func(h *Health, v float64) { h.CoolantFlow = v })},
	"coolant-side-fouled":    {linear(1, 0.2, func(h *Health, v float64) { h.Shell = v })},
	"thermostat-shut":        {linear(1, 0, func(h *Health, v float64) { h.Lift = v })},
	"thermostat-lazy":        {linear(0, 16, func(h *Health, v float64) { h.ThermostatShift = v })},
	"thermostat-open":        {linear(0, 0.9, func(h *Health, v float64) { h.ThermostatLeak = v })},
	"block-silted":           {linear(1, 0.1, func(h *Health, v float64) { h.Silt = v })},
	"overloaded":             {linear(1, 1.6, func(h *Health, v float64) { h.Heat = v })},
	"gauge-wrong":            {linear(0, 20, func(h *Health, v float64) { h.Gauge = v })},
}

// Physical lists the faults that the model can show, in order.
func Physical() []string {
	list := make([]string, 0, len(physical))
	for id := range physical {
		list = append(list, id)
	}
	slices.Sort(list)
	return list
}

// Fault is a fault at a severity from 0 (none) to 1.
type Fault struct {
	ID       string
	Severity float64
}

// Ail is the health of a plant with these faults.
func Ail(faults ...Fault) (Health, error) {
	h := Well()
	h.Restrict = map[string]float64{}
	var wrong validation.Errors
	for i, f := range faults {
		effects, ok := physical[f.ID]
		switch {
		case !ok:
			wrong.Add(fmt.Sprintf("faults[%d].id", i), f.ID, "a fault with a physical effect", "the model cannot show %q", f.ID)
		case !(f.Severity >= 0 && f.Severity <= 1):
			wrong.Add(fmt.Sprintf("faults[%d].severity", i), f.Severity, "0 to 1", "severity goes from 0, none, to 1, the worst")
		default:
			for _, e := range effects {
				e.turn(&h, e.at(f.Severity))
			}
		}
	}
	return h, wrong.Err()
}

// Shows says whether a fault can show on this plant at all: its station must be there.
func (p Plant) Shows(fault string) bool {
	at, ok := needs[fault]
	if !ok {
		return physical[fault] != nil && (p.Family == Closed || !closedOnly[fault])
	}
	return slices.ContainsFunc(at, p.has) && (p.Family == Closed || !closedOnly[fault]) && (p.Family == Direct ||
		!directOnly[fault])
}

// needs are the stations of which a fault needs one.
var needs = map[string][]string{
	"intake-blocked": {"intake"}, "seacock-restricted": {"seacock"}, "strainer-clogged": {"strainer"},
	"strainer-air-leak":      {"strainer"},
	"suction-hose-collapsed": {"suction-hose"}, "suction-air-leak": {"suction-hose"}, "debris-at-cooler": {"gear-cooler",
		"oil-cooler", "charge-cooler"},
	"raw-filter-clogged": {"raw-filter"}, "tubes-blocked": {"exchanger"}, "tubes-scaled": {"exchanger"},
	"exchanger-bypass": {"exchanger"},
	"raw-hose-leak":    {"raw-hoses"}, "elbow-choked": {"elbow"}, "riser-choked": {"elbow"}, "block-silted": {"block"},
	"sand-in-circuit": {"exchanger", "block"},
}

var closedOnly = map[string]bool{"tubes-blocked": true, "tubes-scaled": true, "exchanger-bypass": true,
	"elbow-choked": true, "coolant-low": true, "coolant-airbound": true,
	"circ-belt-slipping": true, "circ-pump-worn": true, "coolant-hose-collapsed": true, "coolant-side-fouled": true}

var directOnly = map[string]bool{"block-silted": true, "riser-choked": true}
