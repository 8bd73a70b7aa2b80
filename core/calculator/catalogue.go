package calculator

// catalogue lists the calculators in the order in which they are offered: what is asked for most comes first in its
// group.
var catalogue = []*Calculator{
	bucketFlow, heatCarried, exchangerRating, exhaustMix, surfaceThermometer, tubeStack, engineHeat, seaWater,
	thermostatPot, impellerFit, repairChoice,
	scaleMass, descale, coolantMix,
	runCheck,
}
