package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"hevrin/app/readings"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/teardown"
)

// patience is an engine with three seasons on record: looked at every quarter, its scale growing, impellers wearing.
var patience = eventlog.EngineFacts{Name: "Main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
	RatedRPM: 3000, ThermostatC: 82, RawPump: "V65-51 K",
	Dates: eventlog.Dates{ElbowFitted: "2022-11-02", CoolantChanged: "2024-03-06", SeacockWorked: "2026-03-18",
		Descaled: "2024-03-05", ImpellerFitted: "2024-03-05"},
	Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses",
		"elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses",
		"gauge", "load"}}

const patienceName = "Corrow Patience"

// kept is what is put down of an engine's maintenance beside its jobs.
type kept struct {
	meter  []eventlog.Meter
	upkeep []eventlog.MaintenanceAct
}

func done(item string, day eventlog.Day) eventlog.MaintenanceAct {
	return eventlog.MaintenanceAct{Do: eventlog.MaintenanceDone, Item: item, Day: day}
}

// keptUp is the maintenance of the yard's other engines.
var keptUp = []struct {
	engine string
	kept   kept
}{
	{"Brackling Main", kept{[]eventlog.Meter{{Day: "2025-03-20", Hours: 6110}, {Day: "2025-10-02", Hours: 6402},
		{Day: "2026-05-18", Hours: 6655}},
		[]eventlog.MaintenanceAct{done("thermostat", "2023-02-14"), done("raw-hoses", "2025-10-02"),
			done("anode", "2025-10-02"), done("gauge-check", "2026-03-30"),
			{Do: eventlog.MaintenancePostponed, Item: "elbow-life", Until: "2027-03-15",
				Words: "new one on order, goes in at the haul-out"}}}},
	{"Mudlark's Due Main", kept{[]eventlog.Meter{{Day: "2025-04-02", Hours: 2240}, {Day: "2026-03-28", Hours: 2790}},
		[]eventlog.MaintenanceAct{done("anode", "2026-03-28"), done("intake", "2026-03-27"), done("coolant-test",
			"2025-11-10")}}},
	{"Lissamar Main", kept{[]eventlog.Meter{{Day: "2024-08-20", Hours: 9120}, {Day: "2025-08-20", Hours: 10610},
		{Day: "2026-05-17", Hours: 11700}}, []eventlog.MaintenanceAct{done("belts", "2026-05-02"), done("thermostat",
		"2024-08-20"), done("cap", "2024-08-20")}}},
	{"Sallow Ebb Main", kept{[]eventlog.Meter{{Day: "2025-03-14", Hours: 3020}, {Day: "2026-02-11", Hours: 3390},
		{Day: "2026-05-14", Hours: 3505}}, []eventlog.MaintenanceAct{done("gauge-check", "2026-05-14"), done("intake",
		"2026-02-10")}}},
}

// check is a quarter's look at an engine: what the meter showed, how the sea was, and what was done.
type check struct {
	at       time.Time
	hours    float64
	seaC     float64
	since    float64 // hours on the impeller
	impeller bool    // a new one goes in afterwards
	belts    bool
}

// patienceBoat is the harbour launch with three seasons: what a quarter's round shows comes from the engine's own
// model, with the scale and the wear that the hours bring.
func patienceBoat() (boat, kept, error) {
	p, err := plant.New(readings.PlantFacts(patience))
	if err != nil {
		return boat{}, kept{}, err
	}
	checks := []check{
		{day(2024, time.March, 6, 9), 4120, 8, 0, false, true}, {day(2024, time.June, 4, 9), 4331, 14, 211, false, false},
		{day(2024, time.September, 3, 9), 4652, 17, 532, true, true},
		{day(2024, time.December, 4, 9), 4840, 10, 188, false, false}, {day(2025, time.March, 5, 9), 4958, 8, 306, false,
			true}, {day(2025, time.June, 3, 9), 5177, 14, 525, true, false},
		{day(2025, time.September, 2, 9), 5491, 18, 314, false, true}, {day(2025, time.December, 3, 9), 5686, 10, 509, true,
			false}, {day(2026, time.March, 18, 9), 5813, 8, 127, false, true},
		{day(2026, time.May, 20, 9), 5969, 13, 283, false, false},
	}
	e, k := engine{facts: patience}, kept{}
	lots := rand.New(rand.NewPCG(5, 2024))
	for i, c := range checks {
		j, err := quarter(p, c, lots, i == len(checks)-1)
		if err != nil {
			return boat{}, kept{}, err
		}
		e.jobs = append(e.jobs, j)
		k.meter = append(k.meter, eventlog.Meter{Day: eventlog.Day(c.at.Format("2006-01-02")), Hours: c.hours})
		k.upkeep = append(k.upkeep, eventlog.MaintenanceAct{Do: eventlog.MaintenanceToppedUp,
			Day: eventlog.Day(c.at.Format("2006-01-02")), Litres: math.Round(10*(0.4+0.3*lots.Float64()))/10 + float64(i)*0.08})
	}
	k.upkeep = append(k.upkeep, eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "impeller", Months: 12,
		Hours: 500, Words: "the maker's"},
		eventlog.MaintenanceAct{Do: eventlog.MaintenanceInterval, Item: "descale", Months: 48,
			Words: "cool water, by the readings"})
	return boat{patienceName, "Corrow Harbour Office", "Harbour steps, Corrow",
		"Harbour launch. Out every day, the year round.", []engine{e}}, k, nil
}

// quarter is a job in which a round was taken, and an impeller changed where it was time.
func quarter(p plant.Plant, c check, lots *rand.Rand, last bool) (job, error) {
	const first, perHour, perPumpHour = 4120.0, 1.02e-4, 1.4e-4
	h := plant.Well()
	h.UA = 1 / (1 + 0.015 + perHour*(c.hours-first))
	h.Raw = 1 - perPumpHour*c.since
	h.Gauge = 0.4 * (c.hours - first) / 1000
	op := plant.Operation{RPM: 2600, Load: 1, SeaC: c.seaC, Salinity: 35, SpaceC: c.seaC + 15}
	s, err := p.Steady(op, h)
	if err != nil {
		return job{}, err
	}
	const inPocket = 0.4 // its probes stand in pockets, checked in ice each winter
	noise := func(v, by float64) float64 { return math.Round(10*(v+by*lots.NormFloat64())) / 10 }
	var list []eventlog.Read
	for _, r := range s.Readings {
		switch {
		case r.Station == "exchanger", r.Station == "elbow", r.Station == "raw-hoses", r.Station == "thermostat" &&
			r.Side == "coolant":
			list = append(list, eventlog.Read{Station: r.Station, Side: r.Side, Value: noise(r.TempC, 0.25), Error: inPocket})
		case r.Station == "gauge":
			list = append(list, eventlog.Read{Station: "gauge", Value: noise(r.TempC, 0.5)})
		}
	}
	steps := []step{round("Quarter's round, off the breakwater", 2600, c.seaC, noise(s.RawLMin, 0.02*s.RawLMin), list...)}
	if c.belts {
		steps = append(steps, looked("belt-look", 4, nil, ids{"pump-belt-slack", "circ-belt-slack"}), looked("strainer-look",
			4, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}))
	}
	if c.impeller {
		steps = append(steps, by(teardown.Act{Do: teardown.Isolate, Item: "seacock"}), by(teardown.Act{Do: teardown.Begin,
			Item: "impeller-change"}))
		parts := []string{"cover-screws", "cover", "cover-seal", "impeller", "key"}
		counts := map[string]int{"cover-screws": 6}
		for _, x := range parts {
			steps = append(steps, off("impeller-change/"+x, max(1, counts[x])))
		}
		for i := len(parts) - 1; i >= 0; i-- {
			x := parts[i]
			state := map[bool]string{true: teardown.New, false: teardown.Reused}[x == "impeller" || x == "cover-seal"]
			steps = append(steps, by(teardown.Act{Do: teardown.On, Item: "impeller-change/" + x, Count: max(1, counts[x]),
				State: state}))
		}
		for pass := 1; pass <= 3; pass++ {
			steps = append(steps, by(teardown.Act{Do: teardown.Tighten, Item: "impeller-change/cover-screws", Pass: pass}))
		}
		steps = append(steps, by(teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "Impeller", Quantity: 1,
			State: teardown.New, Price: 38}}), by(teardown.Act{Do: teardown.Lift, Item: "seacock"}))
	}
	if !last {
		steps = append(steps, closed(fmt.Sprintf("Quarter's look, %.0f h.", c.hours)))
	}
	return job{c.at, tam, "Quarter's look", steps}, nil
}
