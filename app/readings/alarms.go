package readings

import (
	"hevrin/app/record"
	"hevrin/core/plant"
	"hevrin/core/proving"
)

// AlarmLine is a level of a place worth seeing in a picture.
type AlarmLine struct {
	Place proving.Place
	At    float64
	Label string
	Stop  bool
}

// Limits of the exhaust hose in °C: common practice; see the sum exhaust-mix.
const (
	hoseWarnC = 70.0
	hoseStopC = 93.0
)

// AlarmLines are an engine's limits by place.
func AlarmLines(e record.Engine, places []proving.Place) []AlarmLine {
	alarm := 0.0
	if p, err := plant.New(PlantFacts(record.FactsOf(e))); err == nil {
		alarm = p.AlarmC
	}
	var list []AlarmLine
	for _, p := range places {
		switch {
		case p.Station == "elbow" || p.Station == "exhaust-hose":
			list = append(list, AlarmLine{p, hoseWarnC, "Hose: too warm", false}, AlarmLine{p, hoseStopC, "Hose: stop", true})
		case p.Station == "thermostat":
			list = append(list, AlarmLine{p, e.ThermostatC, "Thermostat's rating", false})
			if alarm > 0 {
				list = append(list, AlarmLine{p, alarm, "Alarm", true})
			}
		}
	}
	return list
}
