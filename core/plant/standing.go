package plant

import "math"

// A stopped engine sheds the heat of its block to the engine space: by the air that rises along it, by radiation, and
// through its mounts, hoses and shaft.
const (
	// standingUA is that conductance, W/K, of a block of standingBlock kJ/K: some 2.5 m² of engine at 12 W/(m²·K) for
	// air that rises by itself and for radiation at 60 °C (memory of textbooks: 5 to 7 each), and a little for what it
	// stands on and what hangs on it. It comes to 101 minutes from hot to touch; one to three hours are common practice.
	standingUA    = 34.0
	standingBlock = 175.0
	// surfacePower is how the surface grows with the mass of bodies of one shape.
	surfacePower = 2.0 / 3
)

// Temperatures of an engine that stands, °C: HotC when it was stopped hot, TouchC from which it may be opened (by the
// skin there, never by the clock), StandingSpaceC in its space.
const (
	HotC           = 95.0
	TouchC         = 50.0
	StandingSpaceC = 30.0
)

// StandingMinutes is how long an engine with a block of so many kJ/K takes from one temperature to another while it
// stands in a space of a third, all °C, in minutes: Newton's law of cooling. 0 where it is that cool already; infinite
// where it never gets there.
func StandingMinutes(blockKJK, fromC, toC, spaceC float64) float64 {
	if fromC <= toC {
		return 0
	}
	if toC <= spaceC {
		return math.Inf(1)
	}
	ua := standingUA * math.Pow(blockKJK/standingBlock, surfacePower)
	return 1000 * blockKJK / ua * math.Log((fromC-spaceC)/(toC-spaceC)) / 60
}
