package practice

import (
	"fmt"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
)

// How a round is taken in practice, common practice: at the highest speed that it holds without getting too hot, and
// where it holds none, out of gear at a third; twelve minutes with the walk round the engine.
const (
	readingMinutes = 12.0
	ranMinutes     = 25.0
)

// held are the shares of its rated speed at which an engine is tried to be held, the highest first.
var held = []float64{1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5, 0.45, 0.4}

// unread are the stations at which no thermometer is held: behind each other, or out of reach.
var unread = []string{"intake", "seacock", "suction-hose", "raw-pump", "silencer", "load", "exhaust-sensor"}

// Read holds the engine at one speed and reads it in the order of the water, by the model of the whole engine with the
// faults that are on and the error of each instrument. A heat that the model cannot show is added where coolant is.
func (w *World) Read() (eventlog.Round, error) {
	if w.over {
		return eventlog.Round{}, refuse("read", "", "this practice is over: begin another")
	}
	w.before(catalogue.Check{Engine: catalogue.Running})
	if w.over {
		return eventlog.Round{}, nil
	}
	op, state, extra, err := w.steady()
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
		with, truth := plant.Contact, r.TempC
		if r.Station == "gauge" {
			with = plant.Dash
		}
		if r.Side == "coolant" || slices.Contains(ofTheBlock, r.Station) {
			truth += extra
		}
		round.Readings = append(round.Readings, w.reading(r.Station, r.Side, truth, with))
	}
	round.Readings = append(round.Readings, w.reading("flow", "", state.RawLMin, plant.Bucket))
	w.step(Step{Do: Readings, Minutes: readingMinutes})
	w.hotAt = w.Minutes
	return round, nil
}

// ofTheBlock are stations as warm as the block whatever cools it.
var ofTheBlock = []string{"block", "thermostat", "gauge"}

// steady is the engine at the highest speed that it holds, with the heat that the model cannot show, K.
func (w *World) steady() (op plant.Operation, state plant.State, extra float64, err error) {
	p, err := w.plant()
	if err != nil {
		return op, state, 0, err
	}
	health, err := ailing(p, w.hidden())
	if err != nil {
		return op, state, 0, err
	}
	f, more := w.Facts(), w.besideOf(p, health)
	try := func(share float64, outOfGear bool) error {
		op = w.operation(share, outOfGear)
		extra = more.at(op, f.RatedRPM)
		state, err = p.Steady(op, health)
		return err
	}
	for _, share := range held {
		err = try(share, false)
		if err == nil && !state.Boils && state.BlockC+extra <= f.ThermostatC+tooHotOver {
			return op, state, extra, nil
		}
	}
	err = try(idleShare, true)
	return op, state, extra, err
}

// reading is what an instrument shows: the truth with the instrument's error, thrown afresh at each round.
func (w *World) reading(station, side string, truth float64, with plant.Instrument) eventlog.Read {
	deviation := plant.UsualError(station, with, truth)
	value := truth + deviation*w.source(fmt.Sprint("read ", station, side, w.reads)).NormFloat64()
	if station == "flow" {
		value = max(0, value)
	}
	return eventlog.Read{Station: station, Side: side, Value: value, Error: deviation, Instrument: string(with)}
}
