package record

import "hevrin/core/eventlog"

// FactsOf gives an engine's facts as they were saved, from its line.
func FactsOf(e Engine) eventlog.EngineFacts {
	return eventlog.EngineFacts{CraftID: e.CraftID, Name: e.Name, Family: e.Family, Fuel: e.Fuel,
		RatedKW: e.RatedKW, RatedRPM: e.RatedRPM, ThermostatC: e.ThermostatC, RawPump: e.RawPump,
		SharesSeacock: e.SharesSeacock, Archived: e.Archived, Circuit: e.Circuit,
		Dates: e.Dates, Cooling: e.Cooling}
}
