// Package units knows the units of the trade: what they measure, their exact factors, and how people write them.
// Values are kept in the base unit of their dimension and turned into a person's own unit only where they are shown
// or typed.
//
// Factors: A. Thompson and B. N. Taylor, Guide for the Use of the International System of Units, NIST Special
// Publication 811 (2008), appendix B; those of the inch, the pound, the US and the imperial gallon and the metric
// horsepower are exact by definition.
package units

import (
	"fmt"
	"slices"
)

// Dimension names what a unit measures, as in "temperature".
type Dimension string

// The dimensions of the trade. A difference of temperatures is its own: 10 K is 18 °F of difference, not 50 °F.
const (
	None              Dimension = "number"
	Share             Dimension = "share"
	Temperature       Dimension = "temperature"
	Difference        Dimension = "temperature-difference"
	VolumeFlow        Dimension = "volume-flow"
	Volume            Dimension = "volume"
	Pressure          Dimension = "pressure"
	Length            Dimension = "length"
	Power             Dimension = "power"
	Mass              Dimension = "mass"
	MassFlow          Dimension = "mass-flow"
	Time              Dimension = "time"
	Velocity          Dimension = "velocity"
	Rotation          Dimension = "rotation"
	Rate              Dimension = "temperature-rate"
	Salinity          Dimension = "salinity"
	Density           Dimension = "density"
	SpecificHeat      Dimension = "specific-heat"
	Viscosity         Dimension = "viscosity"
	Conductivity      Dimension = "conductivity"
	Conductance       Dimension = "conductance"
	FilmCoefficient   Dimension = "film-coefficient"
	FoulingResistance Dimension = "fouling-resistance"
	Torque            Dimension = "torque"
	Money             Dimension = "money"
	MoneyRate         Dimension = "money-per-hour"
)

// System is a person's habit: which unit of a dimension is shown, and which gallon an unnamed one is.
type System string

// The systems that can be chosen.
const (
	Metric   System = "metric"
	US       System = "us"
	Imperial System = "imperial"
)

// Systems lists the systems that can be chosen, the default first.
var Systems = []System{Metric, US, Imperial}

// Unit is one way to write a quantity: base value = (written value + Shift) × Factor.
type Unit struct {
	ID        string // as in "L/min"; what the fields of the sums name
	Dimension Dimension
	Symbol    string // as shown, as in "°C"
	Factor    float64
	Shift     float64
	Written   []string // other ways in which people write it, lower case, without spaces
	Shown     []System // the systems that show the dimension in this unit
	Decimals  int      // that are worth showing
}

const (
	usGallon       = 3.785411784   // L, exact: 231 cubic inches
	imperialGallon = 4.54609       // L, exact
	inch           = 25.4          // mm, exact
	pound          = 0.45359237    // kg, exact
	psi            = 6.894757293   // kPa, NIST SP 811
	inHg           = 3.386389      // kPa, conventional, NIST SP 811
	metricHorse    = 0.73549875    // kW, exact: 75 kgf m/s
	horse          = 0.74569987    // kW, 550 ft lbf/s, NIST SP 811
	btu            = 1.05505585262 // kJ, International Table, exact
	poundFoot      = 1.3558179483  // N m, NIST SP 811
)

var everywhere = Systems

// units lists every unit; the first of a dimension is its base.
var units = []Unit{
	{ID: "1", Dimension: None, Symbol: "", Factor: 1, Shown: everywhere, Decimals: 2},
	{ID: "percent", Dimension: Share, Symbol: "%", Factor: 1, Written: []string{"%", "percent", "per cent", "pct"},
		Shown: everywhere, Decimals: 1},
	{ID: "degC", Dimension: Temperature, Symbol: "°C", Factor: 1, Written: []string{"c", "°c", "degc", "celsius", "˚c",
		"ºc"}, Shown: []System{Metric, Imperial}, Decimals: 1},
	{ID: "degF", Dimension: Temperature, Symbol: "°F", Factor: 5.0 / 9, Shift: -32, Written: []string{"f", "°f", "degf",
		"fahrenheit", "˚f", "ºf"}, Shown: []System{US}, Decimals: 1},
	{ID: "degK", Dimension: Temperature, Symbol: "K", Factor: 1, Shift: -273.15, Written: []string{"k", "kelvin"},
		Decimals: 1},
	{ID: "K", Dimension: Difference, Symbol: "°C", Factor: 1, Written: []string{"k", "c", "°c", "degc", "kelvin"},
		Shown: []System{Metric, Imperial}, Decimals: 1},
	{ID: "F-diff", Dimension: Difference, Symbol: "°F", Factor: 5.0 / 9, Written: []string{"f", "°f", "degf"},
		Shown: []System{US}, Decimals: 1},
	{ID: "L/min", Dimension: VolumeFlow, Symbol: "L/min", Factor: 1, Written: []string{"l/min", "lpm", "l/m", "lmin",
		"litres/min", "liters/min", "lit/min"}, Shown: []System{Metric}, Decimals: 1},
	{ID: "L/h", Dimension: VolumeFlow, Symbol: "L/h", Factor: 1.0 / 60, Written: []string{"l/h", "lph", "l/hr",
		"litres/h", "liters/h"}, Decimals: 0},
	{ID: "m3/h", Dimension: VolumeFlow, Symbol: "m³/h", Factor: 1000.0 / 60, Written: []string{"m3/h", "m³/h", "cbm/h"},
		Decimals: 2},
	{ID: "gal-us/min", Dimension: VolumeFlow, Symbol: "US gpm", Factor: usGallon, Written: []string{"usgpm", "gpmus",
		"usgal/min", "galus/min"}, Shown: []System{US}, Decimals: 2},
	{ID: "gal-imp/min", Dimension: VolumeFlow, Symbol: "imp gpm", Factor: imperialGallon, Written: []string{"impgpm",
		"ukgpm", "impgal/min", "ukgal/min", "gpmuk", "gpmimp"}, Shown: []System{Imperial}, Decimals: 2},
	{ID: "gal-us/h", Dimension: VolumeFlow, Symbol: "US gal/h", Factor: usGallon / 60, Written: []string{"usgph",
		"usgal/h", "usgal/hr"}, Decimals: 2},
	{ID: "gal-imp/h", Dimension: VolumeFlow, Symbol: "imp gal/h", Factor: imperialGallon / 60, Written: []string{"impgph",
		"impgal/h", "impgal/hr"}, Decimals: 2},
	{ID: "L", Dimension: Volume, Symbol: "L", Factor: 1, Written: []string{"l", "litre", "litres", "liter", "liters",
		"ltr"}, Shown: []System{Metric}, Decimals: 2},
	{ID: "mL", Dimension: Volume, Symbol: "mL", Factor: 0.001, Written: []string{"ml", "cc", "cm3", "cm³"}, Decimals: 0},
	{ID: "gal-us", Dimension: Volume, Symbol: "US gal", Factor: usGallon, Written: []string{"usgal", "usgallon",
		"usgallons", "galus"}, Shown: []System{US}, Decimals: 2},
	{ID: "gal-imp", Dimension: Volume, Symbol: "imp gal", Factor: imperialGallon, Written: []string{"impgal", "ukgal",
		"impgallon", "impgallons"}, Shown: []System{Imperial}, Decimals: 2},
	{ID: "qt-us", Dimension: Volume, Symbol: "US qt", Factor: usGallon / 4, Written: []string{"qt", "usqt", "quart",
		"quarts"}, Decimals: 2},
	{ID: "pt-imp", Dimension: Volume, Symbol: "imp pt", Factor: imperialGallon / 8, Written: []string{"imppt", "imppint",
		"imppints"}, Decimals: 2},
	{ID: "pt-us", Dimension: Volume, Symbol: "US pt", Factor: usGallon / 8, Written: []string{"uspt", "uspint",
		"uspints"}, Decimals: 2},
	{ID: "kPa", Dimension: Pressure, Symbol: "kPa", Factor: 1, Written: []string{"kpa"}, Shown: []System{Metric},
		Decimals: 1},
	{ID: "bar", Dimension: Pressure, Symbol: "bar", Factor: 100, Written: []string{"bar"}, Decimals: 3},
	{ID: "mbar", Dimension: Pressure, Symbol: "mbar", Factor: 0.1, Written: []string{"mbar", "hpa"}, Decimals: 0},
	{ID: "psi", Dimension: Pressure, Symbol: "psi", Factor: psi, Written: []string{"psi", "lb/in2"}, Shown: []System{US,
		Imperial}, Decimals: 2},
	{ID: "inHg", Dimension: Pressure, Symbol: "inHg", Factor: inHg, Written: []string{"inhg", "\"hg", "inchhg"},
		Decimals: 2},
	{ID: "mm", Dimension: Length, Symbol: "mm", Factor: 1, Written: []string{"mm"}, Shown: []System{Metric}, Decimals: 2},
	{ID: "cm", Dimension: Length, Symbol: "cm", Factor: 10, Written: []string{"cm"}, Decimals: 2},
	{ID: "m", Dimension: Length, Symbol: "m", Factor: 1000, Written: []string{"m", "metre", "metres"}, Decimals: 3},
	{ID: "in", Dimension: Length, Symbol: "in", Factor: inch, Written: []string{"in", "inch", "inches", "\"", "''", "″"},
		Shown: []System{US, Imperial}, Decimals: 3},
	{ID: "ft", Dimension: Length, Symbol: "ft", Factor: 12 * inch, Written: []string{"ft", "foot", "feet", "'"},
		Decimals: 3},
	{ID: "kW", Dimension: Power, Symbol: "kW", Factor: 1, Written: []string{"kw"}, Shown: []System{Metric, Imperial},
		Decimals: 2},
	{ID: "W", Dimension: Power, Symbol: "W", Factor: 0.001, Written: []string{"w"}, Decimals: 0},
	{ID: "hp", Dimension: Power, Symbol: "hp", Factor: horse, Written: []string{"hp", "bhp", "shp"}, Shown: []System{US},
		Decimals: 2},
	{ID: "hp-metric", Dimension: Power, Symbol: "metric hp", Factor: metricHorse, Written: []string{"metrichp", "ps",
		"cv", "pk", "hpmetric"}, Decimals: 2},
	{ID: "kg", Dimension: Mass, Symbol: "kg", Factor: 1, Written: []string{"kg"}, Shown: []System{Metric}, Decimals: 3},
	{ID: "g", Dimension: Mass, Symbol: "g", Factor: 0.001, Written: []string{"g", "gram", "grams"}, Decimals: 0},
	{ID: "lb", Dimension: Mass, Symbol: "lb", Factor: pound, Written: []string{"lb", "lbs", "pound", "pounds"},
		Shown: []System{US, Imperial}, Decimals: 3},
	{ID: "oz", Dimension: Mass, Symbol: "oz", Factor: pound / 16, Written: []string{"oz"}, Decimals: 1},
	{ID: "kg/h", Dimension: MassFlow, Symbol: "kg/h", Factor: 1, Written: []string{"kg/h", "kg/hr"},
		Shown: []System{Metric}, Decimals: 1},
	{ID: "kg/s", Dimension: MassFlow, Symbol: "kg/s", Factor: 3600, Written: []string{"kg/s"}, Decimals: 4},
	{ID: "lb/h", Dimension: MassFlow, Symbol: "lb/h", Factor: pound, Written: []string{"lb/h", "lb/hr", "pph"},
		Shown: []System{US, Imperial}, Decimals: 1},
	{ID: "s", Dimension: Time, Symbol: "s", Factor: 1, Written: []string{"s", "sec", "secs", "second", "seconds"},
		Shown: everywhere, Decimals: 1},
	{ID: "min", Dimension: Time, Symbol: "min", Factor: 60, Written: []string{"min", "mins", "minute", "minutes"},
		Decimals: 1},
	{ID: "h", Dimension: Time, Symbol: "h", Factor: 3600, Written: []string{"h", "hr", "hrs", "hour", "hours"},
		Decimals: 2},
	{ID: "m/s", Dimension: Velocity, Symbol: "m/s", Factor: 1, Written: []string{"m/s"}, Shown: []System{Metric},
		Decimals: 2},
	{ID: "ft/s", Dimension: Velocity, Symbol: "ft/s", Factor: 0.3048, Written: []string{"ft/s", "fps"},
		Shown: []System{US, Imperial}, Decimals: 2},
	{ID: "rpm", Dimension: Rotation, Symbol: "rev/min", Factor: 1, Written: []string{"rpm", "rev/min", "r/min"},
		Shown: everywhere, Decimals: 0},
	{ID: "K/min", Dimension: Rate, Symbol: "°C/min", Factor: 1, Written: []string{"k/min", "c/min", "°c/min"},
		Shown: []System{Metric, Imperial}, Decimals: 2},
	{ID: "F/min", Dimension: Rate, Symbol: "°F/min", Factor: 5.0 / 9, Written: []string{"f/min", "°f/min"},
		Shown: []System{US}, Decimals: 2},
	{ID: "g/kg", Dimension: Salinity, Symbol: "g/kg", Factor: 1, Written: []string{"g/kg", "ppt", "psu", "‰"},
		Shown: everywhere, Decimals: 1},
	{ID: "kg/m3", Dimension: Density, Symbol: "kg/m³", Factor: 1, Written: []string{"kg/m3", "kg/m³"},
		Shown: []System{Metric}, Decimals: 1},
	{ID: "kg/L", Dimension: Density, Symbol: "kg/L", Factor: 1000, Written: []string{"kg/l", "g/cc", "g/ml", "sg"},
		Decimals: 3},
	{ID: "lb/gal-us", Dimension: Density, Symbol: "lb/US gal", Factor: pound / usGallon * 1000,
		Written: []string{"lb/usgal"}, Shown: []System{US}, Decimals: 3},
	{ID: "lb/gal-imp", Dimension: Density, Symbol: "lb/imp gal", Factor: pound / imperialGallon * 1000,
		Written: []string{"lb/impgal"}, Shown: []System{Imperial}, Decimals: 3},
	{ID: "J/(kg K)", Dimension: SpecificHeat, Symbol: "J/(kg K)", Factor: 1, Written: []string{"j/(kgk)", "j/kgk",
		"j/kg/k"}, Shown: []System{Metric}, Decimals: 0},
	{ID: "Btu/(lb F)", Dimension: SpecificHeat, Symbol: "Btu/(lb °F)", Factor: btu * 1000 / pound * 9 / 5,
		Written: []string{"btu/(lbf)", "btu/lbf"}, Shown: []System{US, Imperial}, Decimals: 4},
	{ID: "mPa s", Dimension: Viscosity, Symbol: "mPa s", Factor: 1, Written: []string{"mpas", "cp", "mpa·s"},
		Shown: everywhere, Decimals: 3},
	{ID: "W/(m K)", Dimension: Conductivity, Symbol: "W/(m K)", Factor: 1, Written: []string{"w/(mk)", "w/mk"},
		Shown: everywhere, Decimals: 3},
	{ID: "W/K", Dimension: Conductance, Symbol: "W/K", Factor: 1, Written: []string{"w/k"}, Shown: everywhere,
		Decimals: 0},
	{ID: "W/(m2 K)", Dimension: FilmCoefficient, Symbol: "W/(m² K)", Factor: 1, Written: []string{"w/(m2k)", "w/m2k",
		"w/(m²k)"}, Shown: everywhere, Decimals: 0},
	{ID: "m2 K/W", Dimension: FoulingResistance, Symbol: "m² K/W", Factor: 1, Written: []string{"m2k/w", "m²k/w"},
		Shown: everywhere, Decimals: 6},
	{ID: "N m", Dimension: Torque, Symbol: "N m", Factor: 1, Written: []string{"nm", "n·m"}, Shown: []System{Metric},
		Decimals: 0},
	{ID: "lbf ft", Dimension: Torque, Symbol: "lbf ft", Factor: poundFoot, Written: []string{"lbfft", "ftlb", "ftlbf",
		"lbft", "lb-ft", "ft-lb"}, Shown: []System{US, Imperial}, Decimals: 0},
	{ID: "money", Dimension: Money, Symbol: "", Factor: 1, Shown: everywhere, Decimals: 2},
	{ID: "money/h", Dimension: MoneyRate, Symbol: "per h", Factor: 1, Shown: everywhere, Decimals: 2},
}

var byID = func() map[string]Unit {
	m := make(map[string]Unit, len(units))
	for _, u := range units {
		m[u.ID] = u
	}
	return m
}()

// Units lists every unit; within a dimension the base comes first.
func Units() []Unit { return slices.Clone(units) }

// Find gives the unit with this id, or an error that names it.
func Find(id string) (Unit, error) {
	if u, ok := byID[id]; ok {
		return u, nil
	}
	return Unit{}, fmt.Errorf("there is no unit %q", id)
}

// Must gives the unit with this id and panics when there is none: for ids written in the program.
func Must(id string) Unit {
	u, err := Find(id)
	if err != nil {
		panic(err)
	}
	return u
}

// ToBase turns a value written in this unit into the base unit of its dimension.
func (u Unit) ToBase(v float64) float64 { return (v + u.Shift) * u.Factor }

// FromBase turns a value in the base unit of its dimension into this unit.
func (u Unit) FromBase(v float64) float64 { return v/u.Factor - u.Shift }

// Convert turns a value from one unit into another of the same dimension.
func Convert(v float64, from, to Unit) (float64, error) {
	if from.Dimension != to.Dimension {
		return 0, fmt.Errorf("%s measures %s and %s measures %s: they do not convert", from.ID, from.Dimension, to.ID,
			to.Dimension)
	}
	return to.FromBase(from.ToBase(v)), nil
}

// Preferred is the unit in which a system shows a dimension: its first if the system has no habit of its own.
func Preferred(d Dimension, s System) Unit {
	of := func(u Unit) bool { return u.Dimension == d }
	if i := slices.IndexFunc(units, func(u Unit) bool { return of(u) && slices.Contains(u.Shown, s) }); i >= 0 {
		return units[i]
	}
	return units[max(0, slices.IndexFunc(units, of))]
}

// instead are units that a system shows for one that is not its dimension's usual one.
var instead = map[string]map[System]string{
	"L/h": {US: "gal-us/h", Imperial: "gal-imp/h"},
	"g":   {US: "oz", Imperial: "oz"},
	"m":   {US: "ft", Imperial: "ft"},
	"W":   {US: "W", Imperial: "W"},
}

// ShownAs is the unit in which a system shows a value kept in a unit: the unit itself in the metric system and where
// the system has none of its own.
func (u Unit) ShownAs(s System) Unit {
	if id, ok := instead[u.ID][s]; ok {
		return Must(id)
	}
	usual := Preferred(u.Dimension, s)
	if s == Metric || slices.Contains(usual.Shown, Metric) {
		return u
	}
	return usual
}
