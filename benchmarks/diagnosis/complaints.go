package main

import (
	"fmt"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// complaints are typical ones, as they are told.
var complaints = []struct {
	label, family string
	history, seen []string
}{
	{"hot under load, good water", catalogue.Closed, nil, []string{"hot-under-load", "good-water-at-outlet"}},
	{"hot under load, came gradually", catalogue.Closed, nil, []string{"hot-under-load", "came-gradually"}},
	{"hot at idle, better with speed", catalogue.Closed, nil, []string{"hot-at-idle"}},
	{"hot at any speed, suddenly", catalogue.Closed, nil, []string{"hot-everywhere", "came-suddenly"}},
	{"no water at the outlet", catalogue.Closed, nil, []string{"no-water-at-outlet"}},
	{"weak water, steam", catalogue.Closed, nil, []string{"weak-water-at-outlet", "steam-at-outlet"}},
	{"no water just after an impeller change", catalogue.Closed, []string{"impeller-just-fitted"},
		[]string{"no-water-at-outlet"}},
	{"after a grounding, hot", catalogue.Closed, []string{"grounded"}, []string{"hot-everywhere", "weak-water-at-outlet"}},
	{"runs cool, heater lukewarm", catalogue.Closed, nil, []string{"runs-cool", "heater-lukewarm"}},
	{"coolant disappears", catalogue.Closed, nil, []string{"coolant-disappears"}},
	{"milky oil", catalogue.Closed, nil, []string{"milky-oil"}},
	{"alarm, gauge normal", catalogue.Closed, nil, []string{"alarm-sounded", "gauge-normal-at-alarm"}},
	{"black smoke, short of revs", catalogue.Closed, nil, []string{"black-smoke", "cannot-reach-rated-speed"}},
	{"salt water in the bilge", catalogue.Closed, nil, []string{"bilge-water-salt"}},
	{"raw-cooled, hot at all speeds, gradually", catalogue.Direct, nil, []string{"hot-everywhere", "came-gradually"}},
	{"raw-cooled, runs cool", catalogue.Direct, nil, []string{"runs-cool"}},
}

// firstChecks prints the first five checks of each, with their minutes, access included.
func firstChecks() error {
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	e := diagnosis.New(c)
	fmt.Print("| complaint | 1 | 2 | 3 | 4 | 5 |\n|---|---|---|---|---|---|\n")
	for _, x := range complaints {
		q := diagnosis.Question{Family: x.family, History: x.history, Brief: true}
		for _, f := range x.seen {
			q.Findings = append(q.Findings, diagnosis.Evidence{Finding: f, Q: 1})
		}
		q.Barred = map[string]string{"sister-look": "one engine"}
		if x.seen[0] == "milky-oil" { // nothing that runs it
			for _, k := range c.Checks {
				if k.Engine == catalogue.Running {
					q.Barred[k.ID] = "not while the oil is milky"
				}
			}
		}
		a, err := e.Diagnose(q)
		if err != nil {
			return err
		}
		row := []string{x.label}
		for _, n := range a.NextChecks[:5] {
			k, _ := c.Check(n.Check)
			row = append(row, fmt.Sprintf("%s, %.0f min", k.Label, n.Minutes+n.AccessMinutes))
		}
		fmt.Printf("| %s |\n", strings.Join(row, " | "))
	}
	return nil
}
