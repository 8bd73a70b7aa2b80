package practice

import (
	"fmt"
	"math"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/plant"
	"hevrin/core/proving"
)

// How far faults have gone is drawn so that the model runs as what shows says: of some draws the first that does, else
// the nearest.
const (
	mostShares = 40
	// A fault of which nobody can say how much there is: its least severity in the model. Common practice.
	leastSevere = 0.3
)

// How an engine is loaded here, as shares of its rated speed, with the sea and its space. Common practice.
const (
	cruiseShare  = 0.75
	idleShare    = 1.0 / 3
	salinityGKg  = 35.0
	spaceOverSea = 12.0
)

// What of an engine says that it runs hot, and cold.
var (
	hotSigns  = []string{"hot-under-load", "hot-at-idle", "hot-everywhere", "plateau-above-rating"}
	coldSigns = []string{"runs-cool", "plateau-below-rating"}
)

// heat is what shows of heat, water and speed, of what some faults cause.
type heat struct {
	hot, everywhere, atIdle, cold, noWater, weakWater, goodWater bool

	top float64 // share of the rated speed that it reaches
}

// heatOf are those of faults; a gauge that lies is left out: it changes what is read, not how hot it is.
func (e *Engine) heatOf(faults []string) heat {
	real := slices.DeleteFunc(slices.Clone(faults), func(f string) bool { return f == gaugeFault })
	any := func(ids ...string) bool {
		return slices.ContainsFunc(ids, func(id string) bool { return e.caused(id, real) })
	}
	out := heat{hot: any(hotSigns...), everywhere: any("hot-everywhere"), atIdle: any("hot-at-idle"),
		cold: any(coldSigns...), noWater: any("no-water-at-outlet"), goodWater: any("good-water-at-outlet"),
		weakWater: any("weak-water-at-outlet", "slow-to-prime"), top: 1}
	if any("cannot-reach-rated-speed", "black-smoke") {
		out.top = topShort
	}
	return out
}

// gaugeFault is the gauge that lies.
const gaugeFault = "gauge-wrong"

// caused says whether faults cause a finding here, of a question the one option that is so; what comes by chance is
// left out.
func (e *Engine) caused(id string, faults []string) bool {
	bare := func(id string) bool {
		f, ok := e.c.Finding(id)
		p := chance(f, faults, 0)
		return ok && p > 0 && (e.rolls[id] < p || slices.Contains(e.present, id))
	}
	if !bare(id) {
		return false
	}
	group, grouped := e.c.GroupOf(id)
	if !grouped {
		return true
	}
	g, _ := e.c.Group(group)
	return e.chosen(g, bare) == id
}

// plant is the model of the engine.
func (e *Engine) plant() (plant.Plant, error) {
	f := e.Kind.Facts
	return plant.New(plant.EngineFacts{Family: f.Family, Fuel: plant.Fuel(f.Fuel), RatedKW: f.RatedKW,
		RatedRPM: f.RatedRPM, ThermostatC: f.ThermostatC, Circuit: f.Circuit})
}

// operation is the engine at a share of its rated speed.
func (e *Engine) operation(share float64, outOfGear bool) plant.Operation {
	return plant.Operation{RPM: share * e.Kind.Facts.RatedRPM, Load: 1, SeaC: e.Kind.SeaC, Salinity: salinityGKg,
		SpaceC: e.Kind.SeaC + spaceOverSea, OutOfGear: outOfGear}
}

// far draws how far each fault has gone.
func (e *Engine) far() error {
	p, err := e.plant()
	if err != nil {
		return err
	}
	healthy, err := p.Steady(e.operation(cruiseShare, false), plant.Well())
	if err != nil {
		return err
	}
	least, want := math.Inf(1), e.heatOf(e.ids())
	var best []Hidden
	for n := range mostShares {
		list := slices.Clone(e.Hidden)
		for i := range list {
			list[i].draw(e.source(fmt.Sprint("share ", list[i].Fault, n)).Float64())
		}
		health, err := ailing(p, list)
		if err != nil {
			return err
		}
		if off := e.misses(p, health, want, healthy.RawLMin); off < least {
			least, best = off, list
		}
		if least == 0 {
			break
		}
	}
	e.Hidden = best
	return nil
}

// draw takes how far a fault has gone from a throw between 0 and 1, within what a sure look at it leaves open.
func (h *Hidden) draw(throw float64) {
	x, ok := plant.ExtentOf(h.Fault)
	if !ok {
		h.Severity = leastSevere + (1-leastSevere)*throw
		return
	}
	h.Share = x.Least + (x.Most-x.Least)*throw
	h.Severity = x.Severity(h.Share)
}

// ailing is the model's health with faults, of those that it can show.
func ailing(p plant.Plant, list []Hidden) (plant.Health, error) {
	var on []plant.Fault
	for _, h := range list {
		if p.Shows(h.Fault) {
			on = append(on, plant.Fault{ID: h.Fault, Severity: h.Severity})
		}
	}
	return plant.Ail(on...)
}

// How the model is to run where an engine shows heat, cold and water: K over its rating at the two loads, and shares of
// the water that it has when healthy. Common practice.
const (
	sureOfIt    = 2.0
	sureAtSpeed = 8.0  // ten minutes are not all that it takes
	sureAtFull  = 14.0 // it is held there for five minutes only
	boilingOver = 40.0
	noFlow      = 0.1
	weakFlow    = 0.8
	waterWeighs = 40.0 // K for all of the water
)

// misses is by how much the model runs otherwise than what shows says, in K.
func (e *Engine) misses(p plant.Plant, health plant.Health, want heat, usualLMin float64) float64 {
	cruise, flow := e.overRating(p, health, cruiseShare, false)
	full, _ := e.overRating(p, health, want.top, false)
	off := 0.0
	switch {
	case want.everywhere:
		off = max(0, proving.UsualAbove[proving.Cruise]+sureAtSpeed-cruise)
	case want.atIdle:
		idle, _ := e.overRating(p, health, idleShare, true)
		off = max(0, proving.UsualAbove[proving.Idle]+sureOfIt-idle)
	case want.hot:
		off = max(0, proving.UsualAbove[proving.Full]+sureAtFull-full)
	case want.cold:
		off = max(0, cruise+proving.UsualBelow+sureOfIt)
	default:
		off = max(0, full-proving.UsualAbove[proving.Full]) + max(0, -proving.UsualBelow-cruise)
	}
	water := flow / usualLMin
	switch {
	case want.noWater:
		off += waterWeighs * max(0, water-noFlow)
	case want.weakWater:
		off += waterWeighs * (max(0, water-weakFlow) + max(0, noFlow-water))
	case want.goodWater:
		off += waterWeighs * max(0, weakFlow-water)
	}
	return off
}

// overRating is how far the block stands over the thermostat's rating, K, held at a share of the rated speed, and the
// raw water, L/min.
func (e *Engine) overRating(p plant.Plant, health plant.Health, share float64, outOfGear bool) (k, lMin float64) {
	s, err := p.Steady(e.operation(share, outOfGear), health)
	if err != nil || s.Boils {
		return boilingOver, s.RawLMin
	}
	return s.BlockC - e.Kind.Facts.ThermostatC, s.RawLMin
}

// beside is heat that shows and that the model cannot show: that of a fault it knows nothing of, or of one that goes
// further on an engine than in the model. K at the speed where it is said to show, below 0: cold.
type beside struct {
	k      float64
	atIdle bool // it shows at idle, and gets better with speed
}

// besideOf is the heat beside the model of what is still on.
func (w *World) besideOf(p plant.Plant, health plant.Health) beside {
	want := w.heatOf(w.left)
	idle, _ := w.overRating(p, health, idleShare, true)
	cruise, _ := w.overRating(p, health, cruiseShare, false)
	full, _ := w.overRating(p, health, want.top, false)
	switch {
	case want.everywhere && cruise <= proving.UsualAbove[proving.Cruise]+sureAtSpeed-sureOfIt:
		return beside{runsOver - cruise, false}
	case want.hot && full > proving.UsualAbove[proving.Full]+sureAtFull-sureOfIt:
		return beside{}
	case want.atIdle && !want.everywhere && idle > proving.UsualAbove[proving.Idle]:
		return beside{}
	case want.atIdle && !want.everywhere:
		return beside{runsOver - idle, true}
	case want.hot:
		return beside{runsOver - cruise, false}
	case want.cold && cruise > -proving.UsualBelow:
		return beside{-runsUnder - cruise, false}
	}
	return beside{}
}

// at is how many K of it show at a speed once it has settled: with its square where it comes with load.
func (b beside) at(op plant.Operation, ratedRPM float64) float64 {
	x := op.RPM / (cruiseShare * ratedRPM)
	switch {
	case b.atIdle:
		return b.k * max(0, 1-max(0, x-idleShare/cruiseShare))
	case op.OutOfGear:
		return b.k * x * x / 2
	}
	return b.k * min(x*x, mostShape)
}

const mostShape = 1.3

// hidden are the faults that are still on.
func (w *World) hidden() []Hidden {
	return slices.DeleteFunc(slices.Clone(w.Hidden), func(h Hidden) bool { return !slices.Contains(w.left, h.Fault) })
}

// complaint says whether a finding is one of heat or of water that an owner would see.
func complaint(f catalogue.Finding) bool {
	return f.Source == catalogue.Complaint && (f.Topic == "heat" || f.Topic == "water")
}
