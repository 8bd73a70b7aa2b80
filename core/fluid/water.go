// Package fluid gives the properties of what flows through a marine engine: sea and fresh water, coolant, exhaust gas.
// Temperatures are in °C, near atmospheric pressure; functions do not check their ranges, Fluid.Check does.
package fluid

import "math"

// kelvin is 0 °C in K.
const kelvin = 273.15

// Ranges in which the properties of water are given; fresh water stands under a cap.
const (
	MaxSeaC         = 100.0
	MaxFreshC       = 120.0
	MaxSalinityGKg  = 42.0
	OceanSalinity   = 35.0
	AtmosphereKPa   = 101.325
	vapourOverGas   = 0.622 // molar mass of water over that of exhaust gas, near enough that of air
	rankineLapse    = 0.0065
	standardGravity = 9.80665
)

// SeaDensity is the density of sea water in kg/m³ at temperature t in °C (0 to 180) and salinity s in g/kg (0 to
// 160). Equation 8 of M. H. Sharqawy, J. H. Lienhard V and S. M. Zubair, Desalination and Water Treatment 16 (2010)
// 354-380; within 0.1 % of TEOS-10 from 0 to 40 °C.
func SeaDensity(t, s float64) float64 {
	s /= 1000
	pure := 9.999e2 + t*(2.034e-2+t*(-6.162e-3+t*(2.261e-5-t*4.657e-8)))
	return pure + s*(8.020e2+t*(-2.001+t*(1.677e-2-t*3.060e-5))-s*t*t*1.613e-5)
}

// SeaSpecificHeat is the specific heat of sea water in J/(kg K) at t °C (0 to 180) and s g/kg (0 to 180). Equation 9
// of Sharqawy, Lienhard and Zubair 2010, after D. T. Jamieson and others 1969; within 0.5 % of TEOS-10 from 0 to 40
// °C.
func SeaSpecificHeat(t, s float64) float64 {
	k := 1.00024 * (t + kelvin) // the scale of 1968, in which the equation was fitted
	a := 5.328 + s*(-9.76e-2+s*4.04e-4)
	b := -6.913e-3 + s*(7.351e-4-s*3.15e-6)
	c := 9.6e-6 + s*(-1.927e-6+s*8.23e-9)
	d := 2.5e-9 + s*(1.666e-9-s*7.125e-12)
	return 1000 * (a + k*(b+k*(c+k*d)))
}

// SeaViscosity is the dynamic viscosity of sea water in Pa s at t °C (0 to 180) and s g/kg (0 to 150). Equations 22
// and 23 of Sharqawy, Lienhard and Zubair 2010.
func SeaViscosity(t, s float64) float64 {
	s /= 1000
	pure := 4.2844e-5 + 1/(0.157*(t+64.993)*(t+64.993)-91.296)
	a := 1.541 + t*(1.998e-2-t*9.52e-5)
	b := 7.974 + t*(-7.561e-2+t*4.724e-4)
	return pure * (1 + s*(a+s*b))
}

// SeaConductivity is the thermal conductivity of sea water in W/(m K) at t °C (0 to 180) and s g/kg (0 to 160).
// Equation 13 of Sharqawy, Lienhard and Zubair 2010, after D. T. Jamieson and J. S. Tudhope 1970.
func SeaConductivity(t, s float64) float64 {
	k := 1.00024 * (t + kelvin)
	exponent := math.Log10(240+0.0002*s) + 0.434*(2.3-(343.5+0.037*s)/k)*math.Pow(1-k/(647+0.03*s), 0.333)
	return math.Pow(10, exponent) / 1000
}

// SeaFreezing is the temperature in °C at which sea water of s g/kg begins to freeze. F. J. Millero and W. H. Leung,
// in UNESCO Technical Papers in Marine Science 28 (1978), annex 6.
func SeaFreezing(s float64) float64 {
	return -0.0575*s + 1.710523e-3*math.Pow(s, 1.5) - 2.154996e-4*s*s
}

// saturation holds the coefficients n1 to n10 of the saturation line.
var saturation = [...]float64{0.11670521452767e4, -0.72421316703206e6, -0.17073846940092e2, 0.12020824702470e5,
	-0.32325550322333e7, 0.14915108613530e2, -0.48232657361591e4, 0.40511340542057e6, -0.23855557567849,
	0.65017534844798e3}

// SaturationKPa is the pressure in kPa at which pure water boils at t °C (0 to 373). Region 4 of the IAPWS Industrial
// Formulation 1997 (revised release IAPWS R7-97, 2012), equation 30.
func SaturationKPa(t float64) float64 {
	n := saturation
	k := t + kelvin
	theta := k + n[8]/(k-n[9])
	a := theta*theta + n[0]*theta + n[1]
	b := n[2]*theta*theta + n[3]*theta + n[4]
	c := n[5]*theta*theta + n[6]*theta + n[7]
	return 1000 * math.Pow(2*c/(-b+math.Sqrt(b*b-4*a*c)), 4)
}

// BoilingC is the temperature in °C at which pure water boils at p kPa (0.7 to 20,000): the backward equation 31 of
// region 4 of IAPWS-IF97.
func BoilingC(p float64) float64 {
	n := saturation
	beta := math.Pow(p/1000, 0.25)
	e := beta*beta + n[2]*beta + n[5]
	f := n[0]*beta*beta + n[3]*beta + n[6]
	g := n[1]*beta*beta + n[4]*beta + n[7]
	d := 2 * g / (-f - math.Sqrt(f*f-4*e*g))
	return (n[9]+d-math.Sqrt((n[9]+d)*(n[9]+d)-4*(n[8]+n[9]*d)))/2 - kelvin
}

// SeaSaturationKPa is the vapour pressure over sea water of s g/kg (0 to 160) at t °C. Equation 31 of Sharqawy,
// Lienhard and Zubair 2010, from Raoult's law.
func SeaSaturationKPa(t, s float64) float64 {
	return SaturationKPa(t) / (1 + 0.57357*s/(1000-s))
}

// LatentHeat is the heat of vaporisation of water in J/kg at t °C (0 to 100), from memory; within 0.4 % of IAPWS-IF97.
// Above 100 °C the line falls as the heat of liquid water less that of steam, which makes it the heat taken up by
// water that boils and is then superheated.
func LatentHeat(t float64) float64 { return (2501 - 2.361*t) * 1000 }

// AirKPa is the pressure of the standard atmosphere in kPa at an altitude in m (-500 to 11,000). ISO 2533:1975.
func AirKPa(altitude float64) float64 {
	const seaLevelK, molarMass, gas = 288.15, 0.0289644, 8.31446
	return AtmosphereKPa * math.Pow(1-rankineLapse*altitude/seaLevelK, standardGravity*molarMass/(gas*rankineLapse))
}

// HumidityAtSaturation is the mass of vapour per mass of dry exhaust gas at t °C over sea water of s g/kg under p kPa;
// infinite where the water boils.
func HumidityAtSaturation(t, s, p float64) float64 {
	const hottest = 300 // beyond any pressure in an exhaust
	vapour := SeaSaturationKPa(min(t, hottest), s)
	if vapour >= p {
		return math.Inf(1)
	}
	return vapourOverGas * vapour / (p - vapour)
}
