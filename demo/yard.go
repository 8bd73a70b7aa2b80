package demo

import (
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/fluid"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

type boat struct {
	name, owner, berth, note string
	engines                  []engine
}

type engine struct {
	facts eventlog.EngineFacts
	jobs  []job
}

type job struct {
	at    time.Time
	by    string
	words string
	steps []step
}

func day(year int, month time.Month, day, hour int) time.Time {
	return time.Date(year, month, day, hour, 10, 0, 0, time.UTC)
}

const (
	ide = "Ide Marrack"
	tam = "Tam Selwick"
)

type ids = []string

func figure(v float64) *float64 { return &v }

var boats = []boat{
	{"Brackling", "Sarrel Bar Pilots", "Pilot pontoon, Corrow", "Pilot launch. Out in all weathers, low hours at idle.",
		[]engine{{
			eventlog.EngineFacts{Name: "Main", Dates: eventlog.Dates{ImpellerFitted: "2025-03-20", Descaled: "2025-10-02",
				ElbowFitted: "2021-04-12", CoolantChanged: "2024-11-05", SeacockWorked: "2026-03-30"}, Family: catalogue.Closed,
				Fuel: "diesel", RatedKW: 220, RatedRPM: 3400, ThermostatC: 82, RawPump: "V95-63 S",
				Cooling: eventlog.Cooling{PumpDrive: "gear"},
				Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "charge-cooler", "gear-cooler",
					"exchanger", "raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block",
					"thermostat", "coolant-hoses", "gauge", "exhaust-sensor", "load"}},
			[]job{
				{day(2024, time.June, 11, 9), ide, "Alarm twice on the way in.", []step{
					seen("alarm-sounded", "weak-water-at-outlet", "came-gradually"), told("impeller-overdue"),
					looked("strainer-look", 5, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}),
					looked("impeller-look", 20, ids{"blades-cracked-or-set"}, ids{"blades-missing", "hub-or-key-slipping",
						"sand-found"}),
					closed("New impeller, 410 hours on the old one.", "impeller-tired")}},
				{day(2026, time.May, 18, 7), tam, "Gauge climbs past 95 above 2600 rev/min, comes down at slow speed.", []step{
					seen("hot-under-load", "weak-water-at-outlet", "came-gradually"), told("weed-about")}},
			}}}},
	{"Mudlark's Due", "Pell and Daughter, mussels", "Hard at Nessen Creek", "Mussel barge. Sits on the mud at low water.",
		[]engine{{
			eventlog.EngineFacts{Name: "Main", Dates: eventlog.Dates{ImpellerFitted: "2026-03-28", ElbowFitted: "2019-06-03",
				SeacockWorked: "2026-03-28"}, Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000,
				ThermostatC: 82, RawPump: "V65-51 K",
				Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses",
					"anti-siphon", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat",
					"coolant-hoses", "gauge", "load"}},
			[]job{
				{day(2025, time.April, 2, 10), ide, "First start of the year, no water.", []step{
					seen("no-water-at-outlet", "slow-to-prime"), told("laid-up"),
					looked("prime-test", 4, ids{"no-prime", "primes-once-filled"}, nil),
					looked("impeller-look", 22, nil, ids{"blades-missing", "blades-cracked-or-set", "hub-or-key-slipping",
						"sand-found"}),
					closed("Pump filled by hand, primed at once after that. Impeller sound.", "pump-not-primed")}},
				{day(2026, time.May, 16, 14), ide, "Touched bottom on Tuesday. Hot since.", []step{
					seen("hot-under-load", "came-suddenly", "weak-water-at-outlet"), told("grounded"), not("exhaust-hose-hot"),
					looked("seacock-look", 1, nil, ids{"seacock-not-full-open"}),
					looked("strainer-look", 5, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}),
					skipped("intake-look", "Afloat, no diver today."),
					note("Grey silt in the strainer bowl, not enough to block it."),
					sum("bucket-flow", "At 1200, out of gear",
						`{"volume_l": "10 L", "volume_error_l": "0.2 L", "seconds": ["29.4", "30.1", "28.8"],
							"expected_l_min": "28 L/min"}`)}},
			}}}},
	{"Lissamar", "Corrow Ferry Trust", "Ferry steps", "Passenger ferry, 12 crossings a day.", []engine{{
		eventlog.EngineFacts{Name: "Main", Dates: eventlog.Dates{ImpellerFitted: "2025-02-10", CoolantChanged: "2024-08-20",
			SeacockWorked: "2026-02-01"}, Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000,
			ThermostatC: 82, RawPump: "V65-51K",
			Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter", "oil-cooler", "exchanger",
				"gear-cooler", "raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block",
				"thermostat", "coolant-hoses", "gauge", "load"}},
		[]job{
			{day(2024, time.August, 20, 6), tam, "Coolant low every week.", []step{
				seen("coolant-disappears", "rust-spray-line"),
				looked("coolant-level", 1, ids{"level-low-cold"}, nil), looked("weep-look", 3, ids{"wet-at-weep-coolant"}, nil),
				wetWork("Lissamar coolant", wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.CoolantJob,
					Coolant: &wetwork.CoolantPlan{BlockL: 10, ExchangerL: 3, HeaderL: 1.5, HeaterL: 1, Glycol: fluid.Ethylene,
						TargetPercent: 40, Concentrate: 100, VesselL: 20, Type: "hybrid"}}),
				wetWork("Lissamar coolant", wetwork.Act{Do: wetwork.Drained, Litres: 14.2}), wetWork("Lissamar coolant",
					wetwork.Act{Do: wetwork.Filled, Litres: 15}), wetWork("Lissamar coolant", wetwork.Act{Do: wetwork.Topped,
					Litres: 0.4}),
				wetWork("Lissamar coolant", wetwork.Act{Do: wetwork.Strength, Percent: 40}), wetWork("Lissamar coolant",
					wetwork.Act{Do: wetwork.Waste, What: "coolant", Litres: 14.2, Words: "Marked drum, Corrow waste shed"}),
				wetWork("Lissamar coolant", wetwork.Act{Do: wetwork.End, Words: "Level steady the next day", Hours: 5210}),
				closed("New circulation pump seal, coolant 40 %.", "coolant-low", "circ-pump-seal-leak")}},
			{day(2026, time.May, 17, 19), tam, "Steam at the outlet on the last crossing, engine stopped at once.", []step{
				seen("no-water-at-outlet", "came-suddenly", "steam-at-outlet", "exhaust-hose-hot", "alarm-sounded"),
				looked("strainer-look", 4, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}),
				looked("impeller-look", 19, ids{"blades-missing"}, ids{"blades-cracked-or-set", "hub-or-key-slipping",
					"sand-found"}),
				by(teardown.Act{Do: teardown.Isolate, Item: "seacock"}), by(teardown.Act{Do: teardown.Begin,
					Item: "impeller-change"}), by(teardown.Act{Do: teardown.Heed, Item: "flooding"}),
				off("impeller-change/cover-screws", 6), off("impeller-change/cover", 1), by(teardown.Act{Do: teardown.Noted,
					Item: "impeller-change/cover", Words: "cam mark at 8 o'clock"}),
				by(teardown.Act{Do: teardown.Holds, Item: teardown.Dry}),
				off("impeller-change/cover-seal", 1), off("impeller-change/impeller", 1), off("impeller-change/key", 1),
				blades("sggshsss"), piece("raw-pump", 0.9), piece("raw-pump", 0.4),
				note("Three of eight blades gone or torn. Two pieces in the pump's outlet port.")}},
		}}}},
	{"Fathom Ewe", "Lowater Soundings", "Survey berth, Corrow Slip", "Survey catamaran, two engines alike.", []engine{
		{eventlog.EngineFacts{Name: "Port", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000,
			ThermostatC: 82, RawPump: "V65-51 K",
			Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses",
				"elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses",
				"gauge", "load"}},
			[]job{{day(2025, time.September, 9, 11), ide, "Settles 6 degrees higher than starboard.", []step{
				seen("hot-under-load", "came-gradually", "good-water-at-outlet"), told("warm-salt-undescaled"),
				looked("coolant-level", 1, nil, ids{"level-low-cold"}), looked("exchanger-look", 30, ids{"tubes-crusted"},
					ids{"fragments-at-exchanger", "divider-displaced", "tubes-dark"}),
				looked("scale-drop-test", 2, ids{"scale-fizzes"}, nil),
				sum("exchanger-rating", "At 2700, before",
					`{"hot": {"fluid": {"kind": "coolant", "glycol_percent_volume": "40"}, "flow_l_min": "95 L/min",
						"inlet_c": "91 ± 1", "outlet_c": "84.6 ± 1"}, "cold": {"fluid": {"kind": "sea"},
						"flow_l_min": "64 ± 3 L/min", "inlet_c": "16", "outlet_c": "25 ± 0.5"}}`),
				sum("descale", "Stack out, on the bench",
					`{"acid": "hydrochloric", "place": "bench", "stock_percent_mass": "30", "target_percent_mass": "6",
						"volume_l": "12 L", "scale_g": "350 g"}`),
				round("After descaling, idling in gear", 900, 16, 19.1, raw("exchanger", 18.4), raw("raw-hoses", 18.5),
					coolant("exchanger", 33.9), coolant("thermostat", 82.9), coolant("coolant-hoses", 81.1)),
				round("After descaling, off the bar", 2700, 16, 60.5, raw("exchanger", 24.8), raw("raw-hoses", 25.1),
					raw("outlet", 31.6), coolant("exchanger", 71.4), coolant("thermostat", 86.1), coolant("coolant-hoses", 79.4)),
				standard("Descaled, new zinc, sea trial good."),
				closed("Descaled on the bench, plateau back to 86 °C.", "tubes-scaled")}},
				{day(2026, time.May, 15, 8), tam, "For comparison with starboard.", []step{
					round("Beside starboard, off the slip", 1400, 14, 30.4, raw("exchanger", 17.8), raw("raw-hoses", 17.9),
						raw("outlet", 21.4), coolant("exchanger", 44.1), coolant("thermostat", 82.2), coolant("coolant-hoses", 79.8)),
					closed("Reads as it should.")}}}},
		{eventlog.EngineFacts{Name: "Starboard", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60, RatedRPM: 3000,
			ThermostatC: 82, RawPump: "V65-51 K",
			Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger", "raw-hoses",
				"elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses",
				"gauge", "load"}},
			[]job{{day(2026, time.May, 15, 9), tam, "Never warms up, port is fine. Heater in the wheelhouse lukewarm.", []step{
				seen("runs-cool", "heater-lukewarm", "sister-engine-normal"),
				looked("coolant-level", 1, nil, ids{"level-low-cold"}), shutAgain("header-cap-off"),
				looked("gauge-compare", 4, nil, ids{"gauge-off"}),
				round("Off the slip, in gear, steady for ten minutes", 1400, 14, 29.5, raw("exchanger", 18.4), raw("raw-hoses",
					17.8), raw("outlet", 21.6),
					coolant("exchanger", 36.1), coolant("thermostat", 46.6), coolant("coolant-hoses", 44.5)),
				sum("heat-carried", "At idle, raw side",
					`{"fluid": {"kind": "sea"}, "flow_l_min": "17 ± 1 L/min", "inlet_c": "14", "outlet_c": "17.5"}`)}}}},
	}},
	{"Old Grummet", "Corrow Harbour", "Tug wall", "Harbour tug. Raw-water-cooled since it was built.", []engine{{
		eventlog.EngineFacts{Name: "Main", Dates: eventlog.Dates{ImpellerFitted: "2025-10-21", ElbowFitted: "2017-05-15"},
			Family: catalogue.Direct, Fuel: "diesel", RatedKW: 12, RatedRPM: 2600, ThermostatC: 60,
			Circuit: ids{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "thermostat", "block", "raw-hoses",
				"elbow", "exhaust-hose", "silencer", "outlet", "gauge", "load"}},
		[]job{{day(2025, time.October, 21, 8), ide, "Hotter every month, whatever the speed.", []step{
			seen("hot-everywhere", "came-gradually"), told("warm-salt-undescaled", "elbow-old"),
			looked("strainer-look", 4, nil, ids{"debris-in-strainer", "strainer-lid-draws-air"}),
			looked("block-flush", 40, ids{"block-flush-dirty"}, nil), looked("low-point-look", 16, nil, ids{"sand-found"}),
			closed("Half a bucket of rust from the block drains. Riser bore measured, still good.", "block-silted")}},
			{day(2026, time.May, 18, 10), ide, "Warm again after the winter, flow down a little.", []step{
				seen("hot-everywhere", "came-gradually"), looked("strainer-look", 4, nil, ids{"debris-in-strainer",
					"strainer-lid-draws-air"}),
				round("At the wall, in gear", 1900, 13, 13.2, raw("block", 66.5), raw("raw-hoses", 33.8), raw("outlet", 38.4)),
				by(teardown.Act{Do: teardown.Isolate, Item: "seacock"}), by(teardown.Act{Do: teardown.Begin,
					Item: "descale-in-place"}), off("descale-in-place/inlet-hose-end", 1), off("descale-in-place/outlet-hose-end", 1),
				by(teardown.Act{Do: teardown.Holds, Item: teardown.Dry}),
				wetWork("Grummet descaling", wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Descale,
					Descale: &wetwork.DescalePlan{Place: wetwork.InPlace, Product: wetwork.Products[1], TargetPercent: 8,
						Loop:      ids{"thermostat", "block", "raw-hoses"},
						Materials: map[string][]string{"thermostat": {"copper-alloy"}, "block": {"steel"}, "raw-hoses": {"rubber"}},
						AnodesOut: true, LoopL: 6, HosesL: 3, TankL: 30, BathL: 22, ScaleLowG: 300, ScaleHighG: 900, PumpLMin: 28,
						PumpAmps: 4.5, Minutes: 90, Mechanical: ids{"sand"}}}),
				wetWork("Grummet descaling", wetwork.Act{Do: wetwork.Begin}),
				wait(wetWork("Grummet descaling", wetwork.Act{Do: wetwork.ReadBath, Bath: &wetwork.BathReading{PH: figure(2.1),
					Fizz: wetwork.Strong, TempC: figure(24), Colour: "brown"}}), 12),
				wait(wetWork("Grummet descaling", wetwork.Act{Do: wetwork.ReadBath, Bath: &wetwork.BathReading{PH: figure(3.4),
					Fizz: wetwork.Weak, TempC: figure(27), Colour: "brown"}}), 20),
				wait(wetWork("Grummet descaling", wetwork.Act{Do: wetwork.Stop}), 6)}}},
	}}},
}
