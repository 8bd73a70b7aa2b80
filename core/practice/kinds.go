package practice

import (
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
)

// Kind is an engine to practise on, in an invented craft.
type Kind struct {
	ID, Label, Craft string
	SeaC             float64
	Facts            eventlog.EngineFacts // without its craft
}

// Kinds lists them. Their figures are usual ones of their kind, common practice; no maker's.
var Kinds = []Kind{
	{"sail", "Diesel of a sailing boat, closed-cooled", "Practice sloop", 18, eventlog.EngineFacts{Name: "Engine",
		Family: catalogue.Closed, Fuel: "diesel", RatedKW: 30, RatedRPM: 3000, ThermostatC: 82,
		Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger",
			"raw-hoses", "anti-siphon", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "elbow",
			"exhaust-hose", "silencer", "outlet", "gauge", "load"}}},
	{"motor", "Turbo diesel of a motor boat, closed-cooled", "Practice cruiser", 24, eventlog.EngineFacts{Name: "Engine",
		Family: catalogue.Closed, Fuel: "diesel", RatedKW: 180, RatedRPM: 2600, ThermostatC: 79,
		Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "oil-cooler",
			"charge-cooler", "exchanger", "raw-hoses", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "elbow",
			"exhaust-hose", "silencer", "outlet", "gauge", "exhaust-sensor", "load"}}},
	{"raw", "Small diesel, raw-cooled", "Practice launch", 14, eventlog.EngineFacts{Name: "Engine",
		Family: catalogue.Direct, Fuel: "diesel", RatedKW: 12, RatedRPM: 2500, ThermostatC: 55,
		Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-hoses", "circ-pump", "block",
			"thermostat", "elbow", "exhaust-hose", "silencer", "outlet", "gauge", "load"}}},
	{"petrol", "Petrol inboard, raw-cooled", "Practice runabout", 16, eventlog.EngineFacts{Name: "Engine",
		Family: catalogue.Direct, Fuel: "petrol", RatedKW: 120, RatedRPM: 4400, ThermostatC: 60,
		Circuit: []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "raw-hoses",
			"circ-pump", "block", "thermostat", "elbow", "exhaust-hose", "outlet", "gauge", "load"}}},
}

// KindOf finds a kind by its id.
func KindOf(id string) (Kind, bool) {
	for _, k := range Kinds {
		if k.ID == id {
			return k, true
		}
	}
	return Kind{}, false
}
