package demo

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hevrin/app/readings"
	"hevrin/core/catalogue"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/nmea"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/simulator"
)

// tender is the engine whose proving run has just been signed, and that the demo's own simulator runs.
var tender = eventlog.EngineFacts{Name: "Main", Dates: eventlog.Dates{ImpellerFitted: "2026-02-11",
	ElbowFitted: "2022-03-09", CoolantChanged: "2025-03-14", SeacockWorked: "2026-02-11"}, Family: catalogue.Closed,
	Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, RawPump: "V65-51 K",
	Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses",
		"elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses",
		"gauge", "load"}}

const tenderName = "Sallow Ebb"

// tenderFeed is its gateway, mapped.
func tenderFeed() eventlog.Feed {
	f := eventlog.Feed{Address: Gateway}
	for _, channel := range []string{"II RPM E1", "II MTW", "II XDR C COOLANT", "II XDR C GAUGE", "II XDR C EXCHCOOL",
		"II XDR C EXCHRAW", "II XDR C RAWHOSE", "II XDR C ELBOW", "II XDR C SPACE", "II XDR R RAWFLOW"} {
		at := simulator.Places[channel]
		f.Channels = append(f.Channels, eventlog.FeedChannel{Channel: channel, Place: proving.Place{Station: at[0],
			Side: at[1]}})
	}
	return f
}

// trial is what a simulator of the tender's engine tells over a script of phases.
func trial(faults map[string]float64, startC float64, phases ...simulator.Phase) ([]proving.Track, error) {
	const every, seaC, spaceC = 5.0, 14.0, 30.0
	r, err := simulator.New(simulator.Script{Engine: readings.PlantFacts(tender), Phases: phases, Faults: faults,
		SeaC: seaC, SpaceC: spaceC, StartC: startC, Seed: 11})
	if err != nil {
		return nil, err
	}
	var tracks []proving.Track
	index := map[string]int{}
	for _, c := range tenderFeed().Channels {
		index[c.Channel] = len(tracks)
		tracks = append(tracks, proving.Track{Place: c.Place})
	}
	total := 0.0
	for _, p := range phases {
		total += p.Seconds
	}
	for at := 0.0; at < total; at += every {
		if err := r.Advance(every); err != nil {
			return nil, err
		}
		for _, line := range r.Sentences() {
			s, err := nmea.Parse(strings.TrimSpace(line))
			if err != nil {
				return nil, err
			}
			list, _ := s.Readings() // the clock tells nothing
			for _, x := range list {
				if i, ok := index[x.Channel]; ok {
					tracks[i].Seconds, tracks[i].Values = append(tracks[i].Seconds, at), append(tracks[i].Values, x.Value)
				}
			}
		}
	}
	return tracks, nil
}

// roundOf is the mean of the two minutes of a trial that end at a time, as a round taken by hand.
func roundOf(tracks []proving.Track, words string, until float64) step {
	const over = 120
	var rpm, sea, flow float64
	var list []eventlog.Read
	for _, t := range tracks {
		level, ok := t.LevelOver(until, over)
		if !ok {
			continue
		}
		v := math.Round(10*level.Mean) / 10
		switch t.Station {
		case "rpm":
			rpm = math.Round(v/10) * 10
		case "sea":
			sea = math.Round(v)
		case "flow":
			flow = v
		case "space":
		case "gauge":
			list = append(list, eventlog.Read{Station: "gauge", Value: math.Round(v), Instrument: "gauge"})
		default:
			list = append(list, eventlog.Read{Station: t.Station, Side: t.Side, Value: v})
		}
	}
	return round(words, rpm, sea, flow, list...)
}

// logged is a trial as the table of a logger.
func logged(name string, tracks []proving.Track) step {
	headings := map[string]string{"rpm/": "Engine speed (rpm)", "sea/": "Sea (°C)", "thermostat/coolant": "Coolant (°C)",
		"gauge/": "Gauge (°C)", "exchanger/coolant": "Exchanger coolant (°C)", "exchanger/raw": "Exchanger raw (°C)",
		"raw-hoses/raw": "Raw hose (°C)", "elbow/raw": "Elbow (°C)", "space/": "Engine space (°C)",
		"flow/": "Raw flow (L/min)"}
	m := datalog.Mapping{}
	text := "Time (s)"
	for i, t := range tracks {
		text += "," + headings[t.Station+"/"+t.Side]
		m.Columns = append(m.Columns, datalog.Mapped{Column: i + 1, Place: t.Place})
	}
	for k, at := range tracks[0].Seconds {
		text += fmt.Sprintf("\n%.0f", at)
		for _, t := range tracks {
			text += fmt.Sprintf(",%.1f", t.Values[k])
		}
	}
	return step{file: &file{name: name, id: id(name), raw: []byte(text + "\n"), mapping: m}}
}

// ran keeps an act of the tender's proving run.
func ran(a proving.Act) step {
	a.Run = id(tenderName + " run")
	return step{kind: eventlog.Proved, body: eventlog.Body{Proving: &a}}
}

// tenderBoat is the tender with its job: scaled tubes found and cleaned, proved, and signed.
func tenderBoat() (boat, error) {
	before, err := trial(map[string]float64{"tubes-scaled": 0.46}, 80, simulator.Phase{Seconds: 3000, RPM: 2400})
	if err != nil {
		return boat{}, err
	}
	const idleUntil, cruiseUntil = 2340.0, 4440.0
	after, err := trial(nil, 14, simulator.Phase{Seconds: 30, RPM: 0}, simulator.Phase{Seconds: 210, RPM: 1000,
		OutOfGear: true}, simulator.Phase{Seconds: 1200, RPM: 2000}, simulator.Phase{Seconds: 900, RPM: 1000},
		simulator.Phase{Seconds: 2100, RPM: 2400}, simulator.Phase{Seconds: 300, RPM: 3000}, simulator.Phase{Seconds: 180,
			RPM: 900})
	if err != nil {
		return boat{}, err
	}
	task := func(item string) string { return "exchanger-stack/" + item }
	scaled, err := photo("Sea end of the stack as it came out: scale in every tube", 0.8)
	if err != nil {
		return boat{}, err
	}
	steps := []step{
		seen("hot-under-load", "came-gradually", "good-water-at-outlet"), told("warm-salt-undescaled"),
		looked("strainer-look", 4, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}), looked("coolant-level", 1, nil,
			ids{"level-low-cold"}),
		roundOf(before, "Off the bar, as it came", 2950),
		by(teardown.Act{Do: teardown.Isolate, Item: "seacock"}), by(teardown.Act{Do: teardown.Isolate, Item: "coolant",
			Litres: 13}),
		scaled,
		looked("exchanger-look", 25, ids{"tubes-crusted"}, ids{"fragments-at-exchanger", "divider-displaced", "tubes-dark"}),
		looked("scale-drop-test", 2, ids{"scale-fizzes"}, nil),
		by(teardown.Act{Do: teardown.Begin, Item: "exchanger-stack"}),
	}
	parts := []struct {
		item string
		n    int
		seal bool
	}{{"inlet-hose-end", 1, false}, {"outlet-hose-end", 1, false}, {"front-cap-bolts", 4, false}, {"front-cap", 1, false},
		{"front-cap-seal", 1, true}, {"divider", 1, true}, {"rear-cap-bolts", 4, false}, {"rear-cap", 1, false},
		{"rear-cap-seal", 1, true}, {"anode", 1, false}, {"stack", 1, false}, {"stack-seals", 2, true}}
	for _, p := range parts {
		steps = append(steps, off(task(p.item), p.n))
	}
	cleaned, err := photo("The same end, cleaned: every tube shows light", 0.04)
	if err != nil {
		return boat{}, err
	}
	steps = append(steps,
		wait(note("Stack in citric acid on the bench for an hour, rinsed, rodded with wood. Tight at 20 kPa for ten "+
			"minutes."), 110), cleaned)
	for i := len(parts) - 1; i >= 0; i-- {
		p := parts[i]
		state := map[bool]string{true: teardown.New, false: teardown.Reused}[p.seal || p.item == "anode"]
		hose := strings.Contains(p.item, "hose")
		steps = append(steps, by(teardown.Act{Do: teardown.On, Item: task(p.item), Count: p.n, State: state,
			Clamps: map[bool]int{true: 2}[hose], Reach: hose}))
	}
	for _, bolts := range (ids{"front-cap-bolts", "rear-cap-bolts"}) {
		for pass := 1; pass <= 3; pass++ {
			steps = append(steps, by(teardown.Act{Do: teardown.Tighten, Item: task(bolts), Pass: pass}))
		}
	}
	used := []teardown.Used{{Label: "O-ring set", Quantity: 1, State: teardown.New, Price: 18.5}, {Label: "Anode",
		Quantity: 1, State: teardown.New, Price: 6.2}, {Label: "Coolant", Quantity: 13, State: teardown.New, Price: 4.1}}
	for _, u := range used {
		steps = append(steps, by(teardown.Act{Do: teardown.Use, Used: &u}))
	}
	steps = append(steps, by(teardown.Act{Do: teardown.Lift, Item: "seacock"}), by(teardown.Act{Do: teardown.Lift,
		Item: "coolant"}), ran(proving.Act{Do: proving.Begin, Where: proving.Afloat}))
	for _, look := range (ids{"strainer-lid", "pump-primed", "coolant-filled", "silencer-drained", "people-clear",
		"outlet-watched"}) {
		steps = append(steps, by(teardown.Act{Do: teardown.Tick, Item: look}))
	}
	steps = append(steps, by(teardown.Act{Do: teardown.Start}), ran(proving.Act{Do: proving.Prime, Water: true,
		Seconds: 11}))
	joints := func(stage string) {
		for _, p := range parts {
			if p.seal || strings.Contains(p.item, "hose") {
				steps = append(steps, ran(proving.Act{Do: proving.Look, Stage: stage, Joint: task(p.item), Station: "exchanger",
					State: proving.Dry}))
			}
		}
		steps = append(steps, ran(proving.Act{Do: proving.Smell, Stage: stage, OK: true}))
	}
	joints(proving.ColdLeaks)
	steps = append(steps, wait(roundOf(after, "At the pontoon, in gear", idleUntil-5), 42),
		wait(roundOf(after, "Off the bar, as before", cruiseUntil-5), 36), logged("sallow-ebb-trial.csv", after),
		ran(proving.Act{Do: proving.WarmUp, Warmed: &proving.Warmed{Recording: id("sallow-ebb-trial.csv")}}),
		ran(proving.Act{Do: proving.Loaded, Minutes: 35, TopRPM: 2990}))
	joints(proving.HotLeaks)
	steps = append(steps, ran(proving.Act{Do: proving.Bilge, OK: true}), ran(proving.Act{Do: proving.Codes}),
		ran(proving.Act{Do: proving.Sign,
			Words: "Runs as it should. Descale again before two seasons are out, or when the readings say so."}))
	return boat{tenderName, "Lowater Estuary Trust", "Trust pontoon, Corrow",
		"Buoy tender. Long days at cruising speed in warm shallow water.",
		[]engine{{tender, []job{{time.Date(2026, time.May, 14, 8, 10, 0, 0, time.UTC), ide,
			"Gauge goes to 100 off the bar, was 85 last year.", steps}}}}}, nil
}
