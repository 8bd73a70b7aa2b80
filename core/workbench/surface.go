package workbench

import (
	"errors"
	"math"
)

const kelvin = 273.15

// ErrColderThanNothing says that no surface can have sent so little.
var ErrColderThanNothing = errors.New("what the thermometer saw is less than the surroundings alone send back")

// SurfaceTemperature is that of a grey, opaque surface, in °C, from an infrared thermometer's reading: what it saw,
// ε_set T_r⁴ + (1−ε_set) T_s⁴, is what the surface sends, ε T⁴, and what it sends back of its surroundings,
// (1−ε) T_s⁴, in kelvin (Stefan-Boltzmann and Kirchhoff: Incropera and DeWitt, Fundamentals of Heat and Mass
// Transfer, chapter 12). Emissivities are above 0 and at most 1.
func SurfaceTemperature(readingC, setEmissivity, emissivity, surroundingsC float64) (float64, error) {
	r, s := math.Pow(readingC+kelvin, 4), math.Pow(surroundingsC+kelvin, 4)
	fourth := (setEmissivity*r + (1-setEmissivity)*s - (1-emissivity)*s) / emissivity
	if fourth <= 0 {
		return 0, ErrColderThanNothing
	}
	return math.Pow(fourth, 0.25) - kelvin, nil
}

// PoorEmissivity is that below which a strip of matt tape is the only way to a trustworthy reading; common practice.
const PoorEmissivity = 0.5
