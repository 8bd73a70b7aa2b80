package fluid

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/interp"

	"hevrin/core/rootfind"
)

// Glycol is what keeps a coolant from freezing.
type Glycol string

// The glycols.
const (
	Ethylene  Glycol = "ethylene"
	Propylene Glycol = "propylene"
)

// Glycols lists the glycols, the commoner first.
var Glycols = []Glycol{Ethylene, Propylene}

// MaxGlycolPercent is the strongest coolant by volume: stronger, it freezes earlier and carries less heat.
const MaxGlycolPercent = 60.0

// glycolData holds what is known of a glycol. Freezing points: ASHRAE Handbook of Fundamentals, chapter on secondary
// coolants, at 0, 10 … 60 % by volume (memory). Coefficients: M. Conde, Thermophysical Properties of Brines, 2011
// (memory); a property is a1 + a2 ξ + a3 τ + a4 ξ τ + a5 τ² with ξ the mass fraction and τ = 273.15 K / T; the
// viscosity is the exponential of it.
type glycolData struct {
	density20    float64 // of the pure glycol at 20 °C, kg/m³
	freezing     []float64
	rho, cp, k   [5]float64
	lnViscosity  [5]float64
	freezingLine interp.FritschButland
}

var glycolStrengths = []float64{0, 10, 20, 30, 40, 50, 60}

var glycols = map[Glycol]*glycolData{
	Ethylene: {density20: 1113.2, freezing: []float64{0, -3.4, -7.9, -13.7, -23.5, -36.8, -52.8},
		rho:         [5]float64{658.49825, -54.81501, 664.71643, 232.72605, -322.61661},
		cp:          [5]float64{5.36449, 0.78863, -2.59001, -2.73187, 1.43759},
		k:           [5]float64{0.83818, -1.37620, -0.07629, 1.07720, -0.20174},
		lnViscosity: [5]float64{-4.63024, -2.14817, -12.70106, 5.40536, 10.98990}},
	Propylene: {density20: 1036.1, freezing: []float64{0, -3.3, -7.1, -12.7, -21.1, -33.5, -51.1},
		rho:         [5]float64{508.41109, -182.40820, 965.76507, 280.29104, -472.22510},
		cp:          [5]float64{4.47642, 0.60863, -0.71497, -1.93855, 0.47873},
		k:           [5]float64{1.18886, -1.49110, -0.69682, 1.13633, 0.06735},
		lnViscosity: [5]float64{-1.02798, -10.03298, -19.93497, 14.65802, 14.62050}},
}

func init() {
	for _, g := range glycols {
		if err := g.freezingLine.Fit(glycolStrengths, g.freezing); err != nil {
			panic(fmt.Sprintf("the freezing points do not make a line: %v", err))
		}
	}
}

// massFraction turns percent by volume, measured at 20 °C, into the share by mass.
func (g *glycolData) massFraction(percent float64) float64 {
	glycol, water := percent*g.density20, (100-percent)*SeaDensity(20, 0)
	return glycol / (glycol + water)
}

func conde(a [5]float64, share, t float64) float64 {
	tau := kelvin / (t + kelvin)
	return a[0] + a[1]*share + a[2]*tau + a[3]*share*tau + a[4]*tau*tau
}

// against is the mixture's property over that of water by the same equation, so that 0 % gives water itself.
func (g *glycolData) against(a [5]float64, percent, t float64) float64 {
	return conde(a, g.massFraction(percent), t) / conde(a, 0, t)
}

// waterAt keeps the water's own properties within their range where a coolant is colder than water can be.
func waterAt(t float64) float64 { return max(t, 0) }

// FreezingC is the temperature in °C at which a coolant of so many percent glycol by volume (0 to 60) begins to
// freeze.
func FreezingC(g Glycol, percent float64) float64 { return glycols[g].freezingLine.Predict(percent) }

// PercentForFreezing is the least percentage of glycol by volume that does not freeze at t °C; an error tells the
// range when no coolant stands it.
func PercentForFreezing(g Glycol, t float64) (float64, error) {
	if t >= 0 {
		return 0, nil
	}
	p, err := rootfind.Zero(func(p float64) float64 { return FreezingC(g, p) - t }, 0, MaxGlycolPercent, 1e-7)
	if err != nil {
		return 0, fmt.Errorf("no %s glycol coolant stands %g °C: the strongest, %g %%, freezes at %g °C", g, t,
			MaxGlycolPercent,
			FreezingC(g, MaxGlycolPercent))
	}
	return p, nil
}

// CoolantDensity is the density in kg/m³ of a coolant at t °C; about 1 % (memory).
func CoolantDensity(g Glycol, percent, t float64) float64 {
	d := glycols[g]
	return SeaDensity(waterAt(t), 0) * d.against(d.rho, percent, t)
}

// CoolantSpecificHeat is the specific heat in J/(kg K) of a coolant at t °C; about 2 % (memory).
func CoolantSpecificHeat(g Glycol, percent, t float64) float64 {
	d := glycols[g]
	return SeaSpecificHeat(waterAt(t), 0) * d.against(d.cp, percent, t)
}

// CoolantConductivity is the thermal conductivity in W/(m K) of a coolant at t °C; about 3 % (memory).
func CoolantConductivity(g Glycol, percent, t float64) float64 {
	d := glycols[g]
	return SeaConductivity(waterAt(t), 0) * d.against(d.k, percent, t)
}

// CoolantViscosity is the dynamic viscosity in Pa s of a coolant at t °C; about 10 % (memory).
func CoolantViscosity(g Glycol, percent, t float64) float64 {
	d := glycols[g]
	more := conde(d.lnViscosity, d.massFraction(percent), t) - conde(d.lnViscosity, 0, t)
	return SeaViscosity(waterAt(t), 0) * math.Exp(more)
}

// FreezingTable lists the strengths and freezing points that the freezing line goes through.
func FreezingTable(g Glycol) (percent, freezingC []float64) {
	return slices.Clone(glycolStrengths), slices.Clone(glycols[g].freezing)
}
