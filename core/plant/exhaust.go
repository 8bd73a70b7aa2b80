package plant

import (
	"math"

	"hevrin/core/fluid"
	"hevrin/core/rootfind"
)

// Exhaust is hot gas meeting raw water in the elbow.
type Exhaust struct {
	GasKgH, GasC  float64
	WaterLMin     float64 // measured at WaterC
	WaterC        float64
	Salinity      float64 // g/kg
	PressureKPa   float64 // in the elbow, absolute
	SpecificHeatG float64 // of the gas, J/(kg K)
}

// Mixed is what leaves the elbow.
type Mixed struct {
	MixedC      float64
	VapourKgS   float64
	Dry         bool    // all the water has evaporated
	SensibleC   float64 // as if nothing evaporated
	WaterKgS    float64
	GasKgS      float64
	WaterHeat   float64 // J/(kg K)
	SaturatedAt float64 // kg of vapour per kg of gas at MixedC
}

// coolest is below every temperature at which the mix could leave.
const coolest = -5.0

// Mix is the temperature at which the heat that the gas gives up is what the water takes, part of it to evaporate
// until the gas is saturated or no water is left: ṁ_g c_g (T_g − T_m) = ṁ_w c_w (T_m − T_w) + ṁ_v h_fg(T_m)
// with ṁ_v = min(ṁ_w, ṁ_g · 0.622 p_s/(p − p_s)). Gas comes in dry; pressures are absolute.
func (x Exhaust) Mix() Mixed {
	water := fluid.SeaWater(x.Salinity)
	m := Mixed{GasKgS: x.GasKgH / 3600, WaterKgS: water.MassFlow(x.WaterLMin, x.WaterC),
		WaterHeat: water.At(x.WaterC).SpecificHeat}
	gas := m.GasKgS * x.SpecificHeatG
	m.SensibleC = (gas*x.GasC + m.WaterKgS*m.WaterHeat*x.WaterC) / (gas + m.WaterKgS*m.WaterHeat)
	left := func(t float64) float64 { // falls as the mix warms
		return gas*(x.GasC-t) - m.WaterKgS*m.WaterHeat*(t-x.WaterC) - x.vapour(m, t)*fluid.LatentHeat(t)
	}
	mixed, err := rootfind.Zero(left, min(x.WaterC, coolest), max(x.GasC, x.WaterC), 1e-12)
	if err != nil {
		mixed = math.NaN() // cannot be: with gas and water the ends always have different signs
	}
	m.MixedC = mixed
	m.VapourKgS = x.vapour(m, m.MixedC)
	m.SaturatedAt = fluid.HumidityAtSaturation(m.MixedC, x.Salinity, x.PressureKPa)
	m.Dry = m.VapourKgS >= m.WaterKgS*(1-1e-9)
	return m
}

func (x Exhaust) vapour(m Mixed, t float64) float64 {
	return min(m.WaterKgS, m.GasKgS*fluid.HumidityAtSaturation(t, x.Salinity, x.PressureKPa))
}

// WaterForSensible is WaterFor as if nothing evaporated: what a spray that hardly touches the gas needs.
func (x Exhaust) WaterForSensible(limit float64) (litresPerMinute float64, ok bool) {
	if limit <= x.WaterC {
		return 0, false
	}
	p := fluid.SeaWater(x.Salinity).At(x.WaterC)
	kgS := x.GasKgH / 3600 * x.SpecificHeatG * max(0, x.GasC-limit) / (p.SpecificHeat * (limit - x.WaterC))
	return kgS / p.DensityKgM3 * 60000, true
}

// WaterFor is the least raw water, in L/min, that keeps the mix at a limit in °C; not ok when no water is cold enough.
func (x Exhaust) WaterFor(limit float64) (litresPerMinute float64, ok bool) {
	if limit <= x.WaterC {
		return 0, false
	}
	if x.GasC <= limit {
		return 0, true
	}
	water := fluid.SeaWater(x.Salinity)
	heat := water.At(x.WaterC).SpecificHeat * (limit - x.WaterC)
	gas := x.GasKgH / 3600
	offered := gas * x.SpecificHeatG * (x.GasC - limit)
	vapour := gas * fluid.HumidityAtSaturation(limit, x.Salinity, x.PressureKPa)
	allEvaporated := offered / (heat + fluid.LatentHeat(limit))
	kgS := allEvaporated
	if vapour < allEvaporated { // the gas is full before the water is gone
		kgS = (offered - vapour*fluid.LatentHeat(limit)) / heat
	}
	return kgS / water.At(x.WaterC).DensityKgM3 * 60000, true
}
