package workbench

import (
	"math"
	"slices"
)

// Option is one way to repair. Money is in whatever currency the person uses.
type Option struct {
	Name         string  `json:"name"`
	PartsCost    float64 `json:"parts_cost"`
	Minutes      float64 `json:"minutes"`
	HourlyRate   float64 `json:"hourly_rate"`
	RunningHours float64 `json:"running_hours"`         // that it is expected to last
	EarlyPercent float64 `json:"early_failure_percent"` // chance that it fails early
	FailureCost  float64 `json:"failure_cost"`          // of one early failure beside doing it again: tow, lost day
}

// EarlyShare is the share of its hours after which a repair that fails early does so; common practice: it shows in the
// first tenth.
const EarlyShare = 0.1

// Cost is what doing it once costs.
func (o Option) Cost() float64 { return o.PartsCost + o.Minutes/60*o.HourlyRate }

// early is the chance of failing early, as a share.
func (o Option) early() float64 { return o.EarlyPercent / 100 }

// ExpectedHours is how long doing it once lasts on average.
func (o Option) ExpectedHours() float64 { return o.RunningHours * (1 - o.early()*(1-EarlyShare)) }

// PerHour is the cost of an hour's running in the long run.
func (o Option) PerHour() float64 { return (o.Cost() + o.early()*o.FailureCost) / o.ExpectedHours() }

// mostRenewals bounds the horizon: so many times the expected life of an option.
const mostRenewals = 200

// MostHorizon is the longest horizon in hours over which an option can be computed.
func (o Option) MostHorizon() float64 { return mostRenewals * o.RunningHours }

// OverHorizon is the expected cost of keeping the engine running for so many hours (above 0, at most MostHorizon),
// doing it again whenever it is worn out or has failed: each time it lasts its hours, or with the chance of an early
// failure a tenth of them.
func (o Option) OverHorizon(hours float64) float64 {
	life, tenths := o.RunningHours, int(math.Round(1/EarlyShare))
	steps := int(math.Ceil(hours/(life*EarlyShare) - 1e-9)) // what is left, in tenths of a life
	cost := make([]float64, steps+1)                        // cost[k]: expected cost with k tenths still to run
	p := o.early()
	for k := 1; k <= steps; k++ {
		cost[k] = o.Cost() + p*(o.FailureCost+cost[k-1]) + (1-p)*cost[max(0, k-tenths)]
	}
	return cost[steps]
}

// Ranked is an option's place.
type Ranked struct {
	Option
	OnceCost, HourCost, HorizonCost float64
}

// Rank puts the options in the order of their cost per running hour; ties stay in the order given.
func Rank(options []Option, horizon float64) []Ranked {
	list := make([]Ranked, len(options))
	for i, o := range options {
		list[i] = Ranked{o, o.Cost(), o.PerHour(), o.OverHorizon(horizon)}
	}
	slices.SortStableFunc(list, func(a, b Ranked) int { return compareCost(a.HourCost, b.HourCost) })
	return list
}

func compareCost(a, b float64) int {
	switch {
	case math.Abs(a-b) <= 1e-12*max(math.Abs(a), math.Abs(b)):
		return 0
	case a < b:
		return -1
	}
	return 1
}

// Turn is a change of one figure of the cheapest option that brings another level with it.
type Turn struct {
	Figure string // "running_hours", "parts_cost" or "early_failure_percent"
	From   float64
	To     float64
}

// Turns lists what would change who is cheapest: how far the best's hours would have to fall, its parts' price or its
// chance of failing early to rise, each alone, for the other's cost per hour to be level. What cannot do it is left
// out.
func Turns(best, other Option) []Turn {
	level, p := other.PerHour(), best.early()
	var list []Turn
	if level <= 0 {
		return nil
	}
	hours := (best.Cost() + p*best.FailureCost) / (level * (1 - p*(1-EarlyShare)))
	if hours > 0 && hours < best.RunningHours {
		list = append(list, Turn{"running_hours", best.RunningHours, hours})
	}
	list = append(list, Turn{"parts_cost", best.PartsCost, level*best.ExpectedHours() - p*best.FailureCost - best.Cost() +
		best.PartsCost})
	// cost + p F = level · life · (1 − 0.9 p), solved for p
	early := (level*best.RunningHours - best.Cost()) / (best.FailureCost + level*best.RunningHours*(1-EarlyShare))
	if early <= 1 {
		list = append(list, Turn{"early_failure_percent", best.EarlyPercent, 100 * early})
	}
	return list
}
