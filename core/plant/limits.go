package plant

import (
	"hevrin/core/rootfind"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Limits is what is left to an engine as it is, before its alarm.
type Limits struct {
	AlarmC  float64
	Is      State // as it is
	Healthy State // in health, at the same operation
	MarginK float64
	// SeaC is the sea temperature, and RPM the speed, from which the alarm is reached, the rest unchanged; nil: not within
	// what the model answers for.
	SeaC, RPM *float64
	// Spare is how much more heat, as a share of what it makes at this operation, it could lose before the alarm; below 0
	// it is past it. HealthySpare is the same in health. At most mostSpare.
	Spare, HealthySpare float64
	// AlarmS is the time in s from losing the raw water to the alarm; nil: not within an hour. 0: past it already.
	AlarmS *float64
}

// What the search for limits spans.
const (
	coldestSea, warmestSea = 0.0, 40.0
	leastSpeed             = 0.15 // of rated
	leastLoad, mostLoad    = 0.02, 2.0
	mostSpare              = mostLoad - 1
)

// overRating is how far above its thermostat's rating an engine's alarm is usually set, common practice: 95 to 98 °C
// for one of 82. One that is set less than leastOverRating above would sound in every warm-up, and one that is set less
// than underBoiling below boiling would come with the steam.
const (
	overRating      = 15.0
	leastOverRating = 3.0
	underBoiling    = 5.0
)

// UsualAlarmC is the block temperature at which the alarm of an engine is taken to sound whose own is unknown: what is
// usual for its type where that is known, else by the rating of its thermostat, and always short of boiling.
func (t Type) UsualAlarmC(thermostatC float64) float64 {
	if t.AlarmC > thermostatC+leastOverRating {
		return t.AlarmC
	}
	return min(thermostatC+overRating, boils(t.Family)-underBoiling)
}

// CheckAlarm refuses an alarm temperature that cannot be.
func (p Plant) CheckAlarm(alarmC float64) error {
	var wrong validation.Errors
	if !(alarmC > p.ThermostatC && alarmC < p.BoilsC) {
		wrong.Add("alarm_c", alarmC, "above the thermostat's rating, below boiling",
			"an alarm at %.0f is none: give the temperature at which its own sounds", units.Of(alarmC, "degC"))
	}
	return wrong.Err()
}

// Limits finds what is left before the alarm, at an operation and in a state of health.
func (p Plant) Limits(op Operation, h Health, alarmC float64) (Limits, error) {
	if err := p.CheckAlarm(alarmC); err != nil {
		return Limits{}, err
	}
	l := Limits{AlarmC: alarmC}
	var err error
	if l.Is, err = p.Steady(op, h); err != nil {
		return l, err
	}
	if l.Healthy, err = p.Steady(op, Well()); err != nil {
		return l, err
	}
	l.MarginK = alarmC - l.Is.BlockC
	if l.SeaC, err = p.reaches(alarmC, h, coldestSea, warmestSea,
		func(v float64) Operation { o := op; o.SpaceC += v - op.SeaC; o.SeaC = v; return o }); err != nil {
		return l, err
	}
	rated := p.Engine.RatedRPM
	if l.RPM, err = p.reaches(alarmC, h, leastSpeed*rated, mostOverRated*rated,
		func(v float64) Operation { o := op; o.RPM = v; return o }); err != nil {
		return l, err
	}
	if l.Spare, err = p.spare(alarmC, op, h); err != nil {
		return l, err
	}
	if l.HealthySpare, err = p.spare(alarmC, op, Well()); err != nil {
		return l, err
	}
	dry := h
	dry.PumpState = 0
	if seconds, ok, err := p.SecondsTo(alarmC, op, h, dry); err != nil {
		return l, err
	} else if ok {
		l.AlarmS = &seconds
	}
	return l, nil
}

// reaches finds where the block comes to a temperature as something goes from low to high; nil when it does not. Where
// it is there at the low end already, that is the answer.
func (p Plant) reaches(alarmC float64, h Health, low, high float64, op func(float64) Operation) (*float64, error) {
	var failed error
	over := func(v float64) float64 {
		s, err := p.Steady(op(v), h)
		if err != nil {
			failed = err
		}
		return s.BlockC - alarmC
	}
	if a, b := over(low), over(high); failed != nil || b < 0 {
		return nil, failed
	} else if a >= 0 {
		return &low, nil
	}
	v, err := rootfind.Zero(over, low, high, 1e-3)
	if failed != nil {
		err = failed
	}
	return &v, err
}

func (p Plant) spare(alarmC float64, op Operation, h Health) (float64, error) {
	load, err := p.reaches(alarmC, h, leastLoad, mostLoad, func(v float64) Operation { o := op; o.Load = v; return o })
	switch {
	case err != nil:
		return 0, err
	case load == nil:
		return mostLoad/op.Load - 1, nil
	}
	return *load/op.Load - 1, nil
}

// Gone is the part of a healthy engine's margin that is gone, 0 to 1.
func (l Limits) Gone() float64 {
	if l.HealthySpare <= 0 {
		return 0
	}
	return min(max(1-l.Spare/l.HealthySpare, 0), 1)
}
