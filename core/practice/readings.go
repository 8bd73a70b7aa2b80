package practice

import (
	"fmt"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
)

// How a round is taken in practice, common practice: at three quarters of the rated speed, or, where it gets too hot
// for that, at a third out of gear; twelve minutes with the walk round the engine.
const (
	readingMinutes = 12.0
	cruiseShare    = 0.75
	idleShare      = 1.0 / 3
	tooHotOver     = 18.0 // K over the thermostat's rating: nobody holds it there to read
	salinityGKg    = 35.0
	spaceOverSea   = 12.0
	ranMinutes     = 25.0
	// A fault of which nobody can say how far it has gone stands half way.
	halfWay = 0.5
)

// unread are the stations at which no thermometer is held: behind each other, or out of reach.
var unread = []string{"intake", "seacock", "suction-hose", "raw-pump", "silencer", "load", "exhaust-sensor"}

// Read holds the engine at one speed and reads it in the order of the water, by the model of the whole engine with the
// faults that are on and the error of each instrument. A fault that the model cannot show does not show here.
func (w *World) Read() (eventlog.Round, error) {
	if w.over {
		return eventlog.Round{}, refuse("read", "", "this practice is over: begin another")
	}
	w.before(catalogue.Check{Engine: catalogue.Running})
	if w.over {
		return eventlog.Round{}, nil
	}
	p, health, err := w.modelled()
	if err != nil {
		return eventlog.Round{}, err
	}
	f := w.Facts()
	op := plant.Operation{RPM: cruiseShare * f.RatedRPM, Load: 1, SeaC: w.Kind.SeaC, Salinity: salinityGKg,
		SpaceC: w.Kind.SeaC + spaceOverSea}
	state, err := p.Steady(op, health)
	if err == nil && (state.Boils || state.BlockC > f.ThermostatC+tooHotOver) {
		op.RPM, op.OutOfGear = idleShare*f.RatedRPM, true
		state, err = p.Steady(op, health)
	}
	if err != nil {
		return eventlog.Round{}, err
	}
	w.reads++
	round := eventlog.Round{RPM: op.RPM, Load: op.Load, SeaC: op.SeaC, Salinity: op.Salinity, SpaceC: op.SpaceC,
		OutOfGear: op.OutOfGear, RanMin: ranMinutes}
	for _, r := range state.Readings {
		if slices.Contains(unread, r.Station) {
			continue
		}
		with := plant.Contact
		if r.Station == "gauge" {
			with = plant.Dash
		}
		round.Readings = append(round.Readings, w.reading(r.Station, r.Side, r.TempC, with))
	}
	round.Readings = append(round.Readings, w.reading("flow", "", state.RawLMin, plant.Bucket))
	w.step(Step{Do: Readings, Minutes: readingMinutes})
	w.hotAt = w.Minutes
	return round, nil
}

// reading is what an instrument shows: the truth with the instrument's error, thrown afresh at each round.
func (w *World) reading(station, side string, truth float64, with plant.Instrument) eventlog.Read {
	deviation := plant.UsualError(station, with, truth)
	value := truth + deviation*w.source(fmt.Sprint("read ", station, side, w.reads)).NormFloat64()
	if station == "gauge" && slices.Contains(w.left, "gauge-wrong") {
		value += gaugeAdds
	}
	if station == "flow" {
		value = max(0, value)
	}
	return eventlog.Read{Station: station, Side: side, Value: value, Error: deviation, Instrument: string(with)}
}

// modelled is the model of the engine, and its health with the faults that are on and that it can show.
func (w *World) modelled() (plant.Plant, plant.Health, error) {
	f := w.Facts()
	p, err := plant.New(plant.EngineFacts{Family: f.Family, Fuel: plant.Fuel(f.Fuel), RatedKW: f.RatedKW,
		RatedRPM: f.RatedRPM, ThermostatC: f.ThermostatC, Circuit: f.Circuit})
	if err != nil {
		return p, plant.Health{}, err
	}
	var on []plant.Fault
	for _, h := range w.Hidden {
		if !slices.Contains(w.left, h.Fault) || !p.Shows(h.Fault) {
			continue
		}
		severity := halfWay
		if x, ok := plant.ExtentOf(h.Fault); ok {
			severity = x.Severity(h.Share)
		}
		on = append(on, plant.Fault{ID: h.Fault, Severity: severity})
	}
	health, err := plant.Ail(on...)
	return p, health, err
}
