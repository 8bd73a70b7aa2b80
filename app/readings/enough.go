package readings

import (
	"hevrin/core/eventlog"
	"hevrin/core/plant"
)

// Explained says of a fault that was found whether it is enough to explain the heat that was complained of.
type Explained struct {
	Fault string
	Of    string // how far it has gone is seen by this share
	Share *float64
	plant.Explained
}

// complaints lists, by what was said of the heat, at what share of rated speed it showed; the first that was said
// counts. Common practice.
var complaints = []struct {
	finding string
	speed   float64
}{{"hot-under-load", 0.85}, {"hot-everywhere", 0.6}, {"hot-at-idle", 0.3}, {"alarm-sounded", 0.85},
	{"coolant-boiled-over", 0.85}}

// How hot is too hot: this far over the thermostat's rating, or so near to the alarm where that sounded. Common
// practice.
const (
	tooHotK   = 8.0
	nearAlarm = 3.0
)

// Usual conditions where no round tells them.
const (
	usualSeaC, usualSalinity, usualSpaceC = 18.0, 35.0, 40.0
)

// Enough holds each fault found against the complaint, by the engine's own model: at the speed that was complained of,
// in the sea of the last round or a usual one. Nothing where the heat was not complained of, or the model cannot take
// the engine.
func (a *Models) Enough(job *eventlog.Job, e eventlog.EngineFacts, found []string) []Explained {
	present := map[string]bool{}
	for _, s := range job.Findings {
		present[s.ID] = s.Q == 1
	}
	op := plant.Operation{Load: 1, SeaC: usualSeaC, Salinity: usualSalinity, SpaceC: usualSpaceC}
	for _, c := range complaints {
		if present[c.finding] {
			op.RPM = c.speed * e.RatedRPM
			break
		}
	}
	p, err := plant.New(PlantFacts(e))
	if op.RPM == 0 || err != nil {
		return nil
	}
	if n := len(job.Rounds); n > 0 {
		op.SeaC, op.Salinity, op.SpaceC = job.Rounds[n-1].SeaC, job.Rounds[n-1].Salinity, job.Rounds[n-1].SpaceC
	}
	toC := p.ThermostatC + tooHotK
	if present["alarm-sounded"] || present["coolant-boiled-over"] {
		toC = p.AlarmC - nearAlarm
	}
	var list []Explained
	for _, f := range found {
		x := Explained{Fault: f}
		extent, ok := plant.ExtentOf(f)
		if !ok {
			continue
		}
		x.Of = extent.Of
		least, most := extent.Least, extent.Most
		if share, told := job.Teardown.Extent(f); told {
			least, most, x.Share = share, share, &share
		}
		q := struct {
			Facts           plant.EngineFacts
			Op              plant.Operation
			Fault           string
			Least, Most, To float64
		}{PlantFacts(e), op, f, least, most, toC}
		y, err := Cached(a.Cache, "enough", q, func() (*plant.Explained, error) {
			y, err := p.Enough(op, f, least, most, toC)
			return &y, err
		})
		if err == nil && y.Say != "" {
			x.Explained = *y
			list = append(list, x)
		}
	}
	return list
}
