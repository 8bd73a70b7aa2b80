// Package plant is the engine as a source of heat and exhaust, and the mixing of that exhaust with raw water.
package plant

import "math"

// Fuel is what an engine burns.
type Fuel string

// The fuels.
const (
	Diesel Fuel = "diesel"
	Petrol Fuel = "petrol"
)

// Fuels lists the fuels.
var Fuels = []Fuel{Diesel, Petrol}

// Aspiration is how an engine breathes.
type Aspiration string

// The aspirations.
const (
	Natural Aspiration = "natural"
	Turbo   Aspiration = "turbo"
)

// Aspirations lists the aspirations.
var Aspirations = []Aspiration{Natural, Turbo}

// fuelData: net calorific values and densities from memory.
var fuelData = map[Fuel]struct{ MJPerKg, KgPerL float64 }{Diesel: {42.8, 0.84}, Petrol: {43.5, 0.745}}

// HeatDefaults are the settable figures of an engine's heat: a Willans line, and how what is not shaft power is shared
// out. Shares sum to 1. They are starting values found by trial, without a source, for until a healthy run calibrates
// them.
type HeatDefaults struct {
	IndicatedEfficiency float64 // shaft power and friction over fuel power
	Friction            float64 // at rated speed, as a share of rated power
	CoolantShare        float64 // of the heat that is not shaft power
	OilShare            float64
	ExhaustShare        float64
	RestShare           float64
	ChargeCoolerShare   float64 // taken out of the exhaust's share by raw water
	AirFuel             float64 // mass of air over mass of fuel at rated power
	AirExponent         float64 // air mass goes as (n/n_rated) to this; 0: the ratio is constant
	ExhaustExponent     float64 // the exhaust's share goes as (n/n_rated) to this, and the coolant takes what it leaves
	Idle                float64 // fuel power that turning over takes beyond friction, falling to none at rated speed
}

// defaults by kind of engine, the first that fits. Idle is such that a diesel of 2 L takes about 1 L/h turning over
// and a petrol V8 of 5.7 L about 2 L/h, and warms to its thermostat in tens of minutes, not hours (memory). A petrol
// engine breathes with its fuel, so that a constant share would send 990 °C out at idle: its exhaust's share falls
// with speed to about 600 °C there.
var defaults = []struct {
	fuel       Fuel
	aspiration Aspiration
	belowKW    float64
	HeatDefaults
}{
	{Diesel, Natural, 30, HeatDefaults{0.45, 0.22, 0.44, 0.05, 0.46, 0.05, 0, 24, 1, 0, 0.25}},
	{Diesel, Natural, math.Inf(1), HeatDefaults{0.45, 0.17, 0.43, 0.06, 0.46, 0.05, 0, 25, 1.2, 0, 0.25}},
	{Diesel, Turbo, math.Inf(1), HeatDefaults{0.45, 0.12, 0.36, 0.08, 0.51, 0.05, 0.14, 27, 1.6, 0, 0.1}},
	{Petrol, Natural, math.Inf(1), HeatDefaults{0.36, 0.16, 0.33, 0.05, 0.42, 0.20, 0, 13.2, 0, 0.35, 0.085}},
	{Petrol, Turbo, math.Inf(1), HeatDefaults{0.36, 0.14, 0.33, 0.06, 0.43, 0.18, 0.06, 12.5, 0, 0.35, 0.085}},
}

// DefaultsFor gives the starting figures for an engine.
func DefaultsFor(f Fuel, a Aspiration, ratedKW float64) HeatDefaults {
	for _, d := range defaults {
		if d.fuel == f && d.aspiration == a && ratedKW < d.belowKW {
			return d.HeatDefaults
		}
	}
	return defaults[1].HeatDefaults
}

// Engine is what must be known of an engine to compute its heat.
type Engine struct {
	Fuel              Fuel
	RatedKW, RatedRPM float64
	PropellerExponent float64 // power goes as (n/n_rated) to this: 3 displacement, 2.5 planing hulls (memory)
	HeatDefaults
	ExhaustJKgK float64 // specific heat of the gas
	AirC        float64 // that the engine breathes
}

// Heat is where the fuel's energy goes at a speed. Powers are in kW.
type Heat struct {
	PowerKW, FuelKW, FuelLH                      float64
	CoolantKW, OilKW, ExhaustKW, ChargeKW, OffKW float64
	GasKgH, GasC, AirFuel                        float64
}

// At is the engine's heat at a speed (rev/min, above 0) on its propeller curve: fuel power = (shaft power +
// friction)/indicated efficiency, friction as r (0.75 + 0.25 r), r = n/n_rated; what is not shaft power is shared out.
func (e Engine) At(rpm float64) Heat {
	r := rpm / e.RatedRPM
	return e.heat(r, e.RatedKW*math.Pow(r, e.PropellerExponent))
}

// OutOfGear is the engine's heat at a speed with nothing to drive but itself: what burns badly at no load, and what the
// alternator and the pumps take, is told by Idle.
func (e Engine) OutOfGear(rpm float64) Heat {
	r := rpm / e.RatedRPM
	return e.burning(r, 0, e.fuelKW(r, 0)+e.Idle*e.RatedKW*max(0, 1-r))
}

func (e Engine) heat(r, powerKW float64) Heat { return e.burning(r, powerKW, e.fuelKW(r, powerKW)) }

func (e Engine) burning(r, powerKW, fuelKW float64) Heat {
	h := Heat{PowerKW: powerKW, FuelKW: fuelKW}
	rejected := h.FuelKW - h.PowerKW
	exhaust := e.ExhaustShare * math.Pow(min(r, 1), e.ExhaustExponent)
	h.CoolantKW, h.OilKW, h.OffKW = rejected*(e.CoolantShare+e.ExhaustShare-exhaust), rejected*e.OilShare,
		rejected*e.RestShare
	h.ChargeKW = rejected * min(e.ChargeCoolerShare, exhaust)
	h.ExhaustKW = rejected*exhaust - h.ChargeKW

	f := fuelData[e.Fuel]
	fuelKgH := h.FuelKW / (f.MJPerKg * 1000) * 3600
	h.FuelLH = fuelKgH / f.KgPerL
	airKgH := fuelKgH * e.AirFuel
	if e.AirExponent > 0 {
		airKgH = e.fuelKW(1, e.RatedKW) / (f.MJPerKg * 1000) * 3600 * e.AirFuel * math.Pow(r, e.AirExponent)
	}
	h.AirFuel = airKgH / fuelKgH
	h.GasKgH = airKgH + fuelKgH
	h.GasC = e.AirC + h.ExhaustKW*1000/(h.GasKgH/3600*e.ExhaustJKgK)
	return h
}

func (e Engine) fuelKW(r, powerKW float64) float64 {
	friction := e.Friction * e.RatedKW * r * (0.75 + 0.25*r)
	return (powerKW + friction) / e.IndicatedEfficiency
}
