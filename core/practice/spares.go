package practice

import (
	"fmt"
	"slices"

	"hevrin/core/catalogue"
)

// Spare is a part that is renewed for some faults: what of it is measured before one is ordered, and its price.
type Spare struct {
	ID, Label string
	Faults    []string
	Price     float64 // in the yard's money
	measures  []dimension
}

// dimension is one thing that is measured at a part, with the sizes that are about.
type dimension struct {
	label, unit string
	sizes       []float64
}

// Measure is one thing of a part as it was measured, in the unit of core/units that it names; none: it is counted.
type Measure struct {
	Label, Unit string
	Value       float64
}

// Offer is a part as it can be ordered.
type Offer struct {
	Measures []Measure
	Price    float64
}

// Stock is how it stands with a part in a practice: what the old one measures, once it was measured, what is offered,
// whether the one that fits lies ready, and how often another was ordered.
type Stock struct {
	Spare
	Measured []Measure
	Offers   []Offer
	Ready    bool
	Wrong    int
}

// spares lists them. Sizes and prices are usual ones, common practice; no maker's.
var spares = []Spare{
	{"impeller", "Impeller", []string{"impeller-vanes-missing", "impeller-tired"}, 38, []dimension{
		{"Across", "mm", []float64{51, 57, 65}}, {"Bore", "mm", []float64{12, 16, 19}},
		{"Blades", "", []float64{6, 10, 12}}}},
	{"thermostat", "Thermostat", []string{"thermostat-shut", "thermostat-lazy", "thermostat-open"}, 29, []dimension{
		{"Flange", "mm", []float64{48, 54, 63}}, {"Stamped", "degC", []float64{60, 71, 82}}}},
	{"raw-belt", "Raw pump's belt", []string{"pump-belt-slipping"}, 21, []dimension{
		{"Length", "mm", []float64{825, 875, 925}}, {"Width", "mm", []float64{10, 13}}}},
	{"belt", "Circulation pump's belt", []string{"circ-belt-slipping"}, 21, []dimension{
		{"Length", "mm", []float64{900, 950, 1000}}, {"Width", "mm", []float64{10, 13}}}},
	{"seal-kit", "Raw pump's seals", []string{"pump-shaft-seal-leak"}, 34, []dimension{
		{"Shaft", "mm", []float64{10, 12, 16}}, {"Housing", "mm", []float64{22, 26, 30}}}},
	{"circ-pump", "Circulation pump", []string{"circ-pump-worn", "circ-pump-seal-leak"}, 145, []dimension{
		{"Flange bolts", "", []float64{3, 4, 6}}, {"Pulley", "mm", []float64{95, 110, 125}}}},
	{"elbow", "Exhaust elbow", []string{"elbow-holed"}, 210, []dimension{
		{"Hose end", "mm", []float64{40, 50, 60}}, {"Bolts", "", []float64{2, 3, 4}}}},
	{"suction-hose", "Suction hose", []string{"suction-hose-collapsed"}, 44, []dimension{
		{"Bore", "mm", []float64{19, 25, 32}}, {"Length", "mm", []float64{600, 900, 1200}}}},
	{"cap", "Pressure cap", []string{"cap-weak"}, 17, []dimension{
		{"Neck", "mm", []float64{42, 52}}, {"Stamped", "kPa", []float64{50, 70, 90}}}},
	{"sender", "Temperature sender", []string{gaugeFault}, 32, []dimension{
		{"Thread", "mm", []float64{10, 12, 14}}, {"Stamped", "degC", []float64{110, 120, 150}}}},
}

// What ordering takes, common practice: to measure a part, to order one, to try one that does not fit and send it
// back, and the share of its price that its way back costs.
const (
	measureMinutes = 4.0
	orderMinutes   = 5.0
	wrongMinutes   = 20.0
	wayBackShare   = 0.25
	offersEach     = 3
)

// SpareFor is the part that is renewed for a fault; not ok where none is, or where all lies ready, as in a lesson.
func (w *World) SpareFor(fault string) (Spare, bool) {
	if w.Case.Lesson > 0 {
		return Spare{}, false
	}
	for _, s := range spares {
		if slices.Contains(s.Faults, fault) {
			return s, true
		}
	}
	return Spare{}, false
}

// Stocks lists the parts that may be needed on this engine, whatever is wrong with it.
func (w *World) Stocks() []Stock {
	var list []Stock
	for _, s := range spares {
		here := slices.ContainsFunc(w.c.FaultsOn(w.Facts().Family, w.Facts().Circuit), s.renewedFor)
		if _, ok := w.SpareFor(s.Faults[0]); !ok || !here {
			continue
		}
		x := Stock{Spare: s, Offers: w.offers(s), Ready: w.ready[s.ID], Wrong: w.wrong[s.ID]}
		if w.measured[s.ID] {
			x.Measured = x.Offers[w.fits(s)].Measures
		}
		list = append(list, x)
	}
	return list
}

// offers are a part's sizes as they are offered: the one that fits, and others that differ from it in one measure.
func (w *World) offers(s Spare) []Offer {
	r := w.source("spare " + s.ID)
	right := make([]int, len(s.measures))
	for i, d := range s.measures {
		right[i] = r.IntN(len(d.sizes))
	}
	list := make([]Offer, offersEach)
	for n := range list {
		sizes := slices.Clone(right)
		if n > 0 { // one measure another
			i := (n - 1) % len(sizes)
			sizes[i] = (sizes[i] + 1) % len(s.measures[i].sizes)
		}
		list[n].Price = s.Price
		for i, d := range s.measures {
			list[n].Measures = append(list[n].Measures, Measure{d.label, d.unit, d.sizes[sizes[i]]})
		}
	}
	at := w.fits(s)
	list[0], list[at] = list[at], list[0]
	return list
}

// fits is the place of the part that fits among what is offered.
func (w *World) fits(s Spare) int { return w.source("offer " + s.ID).IntN(offersEach) }

func (w *World) spare(id string) (Spare, error) {
	if w.over {
		return Spare{}, refuse("part", id, "this practice is over: begin another")
	}
	for _, x := range w.Stocks() {
		if x.ID == id {
			return x.Spare, nil
		}
	}
	return Spare{}, refuse("part", id, "nothing of this kind is ordered here")
}

// Measure measures the old part on the bench, or reads what is stamped on it.
func (w *World) Measure(part string) (Step, error) {
	s, err := w.spare(part)
	if err != nil {
		return Step{}, err
	}
	w.measured[s.ID] = true
	return w.step(Step{Do: Measured, Words: s.Label, Minutes: measureMinutes}), nil
}

// Order orders one of what is offered, by its place from 0. One that does not fit costs a try and its way back.
func (w *World) Order(part string, offer int) (Step, error) {
	s, err := w.spare(part)
	switch {
	case err != nil:
		return Step{}, err
	case offer < 0 || offer >= offersEach:
		return Step{}, refuse("offer", fmt.Sprint(offer), "choose one of the %d that are offered", offersEach)
	case w.ready[part]:
		return Step{}, refuse("part", part, "the one that fits lies ready already")
	case offer == w.fits(s):
		w.ready[part] = true
		w.Parts += s.Price
		return w.step(Step{Do: Ordered, Words: s.Label, Needed: true, Minutes: orderMinutes}), nil
	}
	w.wrong[part]++
	w.Parts += s.Price * wayBackShare
	return w.step(Step{Do: Ordered, Words: s.Label, Minutes: orderMinutes + wrongMinutes}), nil
}

func (s Spare) renewedFor(f catalogue.Fault) bool { return slices.Contains(s.Faults, f.ID) }
