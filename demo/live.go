package demo

import (
	"hevrin/app/readings"
	"hevrin/simulator"
)

// Gateway is where the demo's own simulator speaks, and where the tender's feed is looked for.
const Gateway = "127.0.0.1:10110"

// Live is the tender's engine behind its gateway: a proving run, at a number of its seconds in a real one.
func Live(speed float64) simulator.Script {
	return simulator.Script{Engine: readings.PlantFacts(tender), SeaC: 14, SpaceC: 30, StartC: 14, Hours: 3610,
		Speed: speed, Seed: 7, Phases: simulator.ProvingRun(tender.RatedRPM)}
}
