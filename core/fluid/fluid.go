package fluid

import (
	"fmt"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Kind says what flows.
type Kind string

// The kinds of fluid.
const (
	Sea     Kind = "sea"
	Fresh   Kind = "fresh"
	Coolant Kind = "coolant"
	Other   Kind = "other"
)

// Kinds lists the kinds of fluid.
var Kinds = []Kind{Sea, Fresh, Coolant, Other}

// Fluid is what flows. Which fields count depends on the kind: salinity for the sea, glycol and its percentage by
// volume for coolant, density and specific heat for another liquid such as oil.
type Fluid struct {
	Kind         Kind    `json:"kind"`
	SalinityGKg  float64 `json:"salinity_g_kg"`
	Glycol       Glycol  `json:"glycol"`
	GlycolVolume float64 `json:"glycol_percent_volume"`
	DensityKgM3  float64 `json:"density_kg_m3"`
	HeatJKgK     float64 `json:"specific_heat_j_kg_k"`
}

// SeaWater is the sea of so many g/kg of salt.
func SeaWater(salinity float64) Fluid { return Fluid{Kind: Sea, SalinityGKg: salinity} }

// Mix is a coolant of so many percent glycol by volume.
func Mix(g Glycol, percent float64) Fluid {
	return Fluid{Kind: Coolant, Glycol: g, GlycolVolume: percent}
}

// Properties are those of a fluid at one temperature.
type Properties struct {
	DensityKgM3    float64
	SpecificHeat   float64 // J/(kg K)
	ViscosityPaS   float64 // 0 for another liquid
	ConductivityWM float64 // W/(m K); 0 for another liquid
}

// At gives the properties at t °C.
func (f Fluid) At(t float64) Properties {
	switch f.Kind {
	case Coolant:
		return Properties{CoolantDensity(f.Glycol, f.GlycolVolume, t), CoolantSpecificHeat(f.Glycol, f.GlycolVolume, t),
			CoolantViscosity(f.Glycol, f.GlycolVolume, t), CoolantConductivity(f.Glycol, f.GlycolVolume, t)}
	case Other:
		return Properties{DensityKgM3: f.DensityKgM3, SpecificHeat: f.HeatJKgK}
	}
	s := f.salinity()
	return Properties{SeaDensity(t, s), SeaSpecificHeat(t, s), SeaViscosity(t, s), SeaConductivity(t, s)}
}

func (f Fluid) salinity() float64 {
	if f.Kind == Sea {
		return f.SalinityGKg
	}
	return 0
}

// Range is where the fluid is a liquid whose properties are known, in °C.
func (f Fluid) Range() (low, high float64) {
	switch f.Kind {
	case Coolant:
		return FreezingC(f.Glycol, f.GlycolVolume), 125
	case Other:
		return -40, 300
	case Fresh:
		return 0, MaxFreshC
	}
	return SeaFreezing(f.SalinityGKg), MaxSeaC
}

// Check notes in the errors a temperature at which the fluid is not the liquid that it should be.
func (f Fluid) Check(wrong *validation.Errors, field string, t float64) {
	low, high := f.Range()
	if t < low || t > high {
		wrong.Add(field, t, units.Say("%.1f", units.Between(low, high, "degC")),
			"%s at %g is ice, steam or beyond what is known of it: read the temperature again", f.Name(), units.Of(t, "degC"))
	}
}

// Name says what flows, as at the head of a sentence.
func (f Fluid) Name() string {
	switch f.Kind {
	case Coolant:
		return fmt.Sprintf("Coolant with %.0f %% %s glycol", f.GlycolVolume, f.Glycol)
	case Sea:
		return fmt.Sprintf("Sea water of %.0f g/kg", f.SalinityGKg)
	case Other:
		return "The liquid"
	}
	return "Fresh water"
}

// MassFlow is the mass flow in kg/s of so many L/min, measured at t °C.
func (f Fluid) MassFlow(litresPerMinute, t float64) float64 {
	return litresPerMinute / 60000 * f.At(t).DensityKgM3
}

// Exhaust gas: specific heat in J/(kg K), from memory, settable in every sum that uses it.
const ExhaustSpecificHeat = 1100.0
