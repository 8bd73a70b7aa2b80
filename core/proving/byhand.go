package proving

import (
	"math"

	"hevrin/core/units"
)

// LeakRunMinutes is how long a leak run runs at least: common practice.
const LeakRunMinutes = 10.0

// rulesOf lists the stages of a run before its verdict, by how it proves.
var rulesOf = map[string][]stageRule{
	ByReadings: {readyRule, primeRule, coldRule, warmRule, idleRule, loadRule, hotRule},
	ByHand:     {readyRule, primeRule, coldRule, needleRule, cruiseRule, hotRule},
	LeakRun:    {readyRule, primeRule, coldRule, berthRule, hotRule},
}

var (
	needleRule = stageRule{WarmUpStage, "Warm-up, by the needle", []string{"hot-exhaust"},
		[]string{"Note the minute of the start. In gear or under way: an engine that idles may never open its thermostat.",
			"Where the needle stands at cruising speed, and after how many minutes it stood.",
			"A thermometer at the sender beside it, where there is one: it goes before the needle."},
		warmRule.next,
		func(r *ProvingRun, f Facts) []Criterion {
			const label = "Coolant settles at the thermostat's rating"
			if r.Needle == nil {
				return []Criterion{ask("steady", label, Waiting, "where did the needle stand, and after how long?")}
			}
			a, held := r.Needle.Act, r.Needle.held()
			off, compared := r.gaugeOff()
			if compared && a.ProbeC == nil { // compared at another moment: the needle less what it reads too much
				held -= off
			}
			by := map[bool]string{true: "by the thermometer", false: "by the needle"}[compared]
			list := []Criterion{ask("steady", label, so(heldVerdict(held, f.ThermostatC) == Steady),
				"it stood at %.0f %s after %.0f minutes, rated %.0f", units.Of(held, "degC"), by, a.Minutes,
				units.Of(f.ThermostatC, "degC"))}
			if !compared {
				return append(list, ask("gauge", gaugeTrue, Waiting, "read it beside a thermometer at the sender"))
			}
			return append(list, ask("gauge", gaugeTrue, so(math.Abs(off) <= GaugeOffC), "%+.0f against the thermometer",
				units.Of(shift(off), "K")))
		}}
	cruiseRule = stageRule{LoadStage, "Load", loadRule.cautions,
		[]string{"Under way with somebody else steering, or in gear on doubled lines.",
			"Ten to twenty minutes at cruising speed, then full speed if it is allowed. Watch the needle all the way."},
		loadRule.next,
		func(r *ProvingRun, f Facts) []Criterion { return cruised(r, f) }}
	berthRule = stageRule{LoadStage, "Ten minutes at the berth", []string{"hot-exhaust", "turning-parts"},
		[]string{"Let it run ten minutes and more, out of gear, a little above idle. Watch the outlet and the needle.",
			"Type the minutes and the highest speed."},
		[]string{"Run on until ten minutes are full: a joint that is dry for a minute may weep when it is warm."},
		func(r *ProvingRun, _ Facts) []Criterion {
			const label = "Ten minutes and more running"
			if r.Load == nil {
				return []Criterion{ask("minutes", label, Waiting, "")}
			}
			return []Criterion{ask("minutes", label, so(r.Load.Minutes >= LeakRunMinutes), "%.0f minutes", r.Load.Minutes)}
		}}
)

// gaugeOff is how much the gauge read over a thermometer beside it, in K; not ok where nobody compared them.
func (r *ProvingRun) gaugeOff() (off float64, ok bool) {
	switch {
	case r.Gauge != nil:
		return *r.Gauge.GaugeC - *r.Gauge.ProbeC, true
	case r.Needle != nil && r.Needle.ProbeC != nil:
		return *r.Needle.GaugeC - *r.Needle.ProbeC, true
	}
	return 0, false
}

const gaugeTrue = "The gauge tells the truth"

// gaugeAtFault is what to do where the coolant is as it should be and the gauge says otherwise.
var gaugeAtFault = []string{"The engine is not too hot: the gauge is wrong. Look at sender, earth and wiring.",
	"Go back to the trace at the gauge; then compare it again."}

// onlyGauge says whether nothing failed in a stage but the gauge.
func onlyGauge(s Stage) bool {
	only := false
	for _, c := range s.Criteria {
		if c.Standing == Failed {
			if c.ID != "gauge" {
				return false
			}
			only = true
		}
	}
	return only
}
