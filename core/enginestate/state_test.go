package enginestate_test

import (
	"sync"
	"time"

	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

var load = sync.OnceValues(catalogue.Load)

func book(t require.TestingT) *catalogue.Catalogue {
	c, err := load()
	require.NoError(t, err)
	return c
}

// closedEngine is a closed-cooled diesel with a seacock.
func closedEngine(t require.TestingT) eventlog.EngineFacts {
	f, ok := book(t).Family(catalogue.Closed)
	require.True(t, ok)
	return eventlog.EngineFacts{CraftID: "craft", Name: "main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit}
}

// legEngine is a raw-cooled petrol engine on a drive leg, without a valve.
func legEngine(t require.TestingT) eventlog.EngineFacts {
	return eventlog.EngineFacts{CraftID: "craft", Name: "leg", Family: catalogue.Direct, Fuel: "petrol", RatedKW: 150,
		RatedRPM: 4400, ThermostatC: 62, Circuit: []string{"intake", "suction-hose", "raw-pump", "circ-pump", "block",
			"thermostat", "elbow", "exhaust-hose", "outlet", "gauge", "load"}}
}

// entry makes entries of a job; times are given as they are folded.
func entry(job string, kind eventlog.Kind, b eventlog.Body) eventlog.Entry {
	return eventlog.Entry{Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: job}, Kind: kind, By: "Kit Venn", Body: b}
}

func act(a teardown.Act) eventlog.Entry {
	return entry("job", eventlog.TeardownNoted, eventlog.Body{Teardown: &a})
}

func acts(list ...teardown.Act) (out []eventlog.Entry) {
	for _, a := range list {
		out = append(out, act(a))
	}
	return out
}

// made is a check that was made, with what it saw.
func made(check, finding, state string) eventlog.Entry {
	return entry("job", eventlog.Checked, eventlog.Body{Check: check, Outcome: eventlog.Done,
		Stated: []eventlog.Stated{{ID: finding, State: state}}})
}

func closes(access string) eventlog.Entry {
	no := false
	return entry("job", eventlog.Access, eventlog.Body{Access: access, Open: &no})
}

func wet(a wetwork.Act) eventlog.Entry {
	a.Work = "w"
	return entry("job", eventlog.WetworkNoted, eventlog.Body{Wetwork: &a})
}

// numbered gives entries their ids and times, a minute apart.
func numbered(list []eventlog.Entry) []eventlog.Entry {
	out := append([]eventlog.Entry{}, list...)
	for i := range out {
		if out[i].ID == "" {
			out[i].ID = "e" + string(rune('A'+i/26)) + string(rune('A'+i%26))
		}
		out[i].At = time.Date(2026, 5, 4, 9, i, 0, 0, time.UTC)
	}
	return out
}

func fold(t require.TestingT, list ...eventlog.Entry) *enginestate.State {
	for _, e := range list {
		if e.Body.Teardown != nil {
			require.NoError(t, e.Body.Teardown.Check(), "%+v", e.Body.Teardown)
		}
	}
	return enginestate.Fold(book(t), numbered(list))
}

func task(t require.TestingT, id string) teardown.Act {
	x, ok := book(t).Task(id)
	require.True(t, ok, id)
	return teardown.Act{Do: teardown.Begin, Task: &x}
}

func off(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.Off, Item: item, Count: n}
}

func on(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.On, Item: item, Count: n, State: teardown.New}
}

func back(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.On, Item: item, Count: n, State: teardown.Reused}
}

func isolate(id string) teardown.Act { return teardown.Act{Do: teardown.Isolate, Item: id} }
func lift(id string) teardown.Act    { return teardown.Act{Do: teardown.Lift, Item: id} }

// why is what stands in the way under a condition's id; empty where nothing does.
func why(list []teardown.Condition, id string) string {
	for _, c := range list {
		if c.ID == id && !c.Passed() {
			return c.Why
		}
	}
	return ""
}

// settle is the entry that a condition's touch sends; not ok where there is more to it.
func settle(c teardown.Condition) (eventlog.Entry, bool) {
	switch c.Settle {
	case "":
		return eventlog.Entry{}, false
	case enginestate.Closing:
		return closes(c.Item), true
	}
	a := teardown.Act{Do: c.Settle, Item: c.Item, State: c.State, Count: c.Count}
	if c.Words {
		a.Words = "head gasket; cylinders cleared by the agent"
	}
	return act(a), true
}

// ready makes an engine ready by touching whatever can be settled by one touch, and nothing else.
func ready(t require.TestingT, e eventlog.EngineFacts, list []eventlog.Entry) []eventlog.Entry {
	for range 40 {
		open := fold(t, list...).Conditions(e)
		next, found := eventlog.Entry{}, false
		for _, c := range open {
			if !c.Passed() && !found {
				next, found = settle(c)
			}
		}
		if !found {
			return list
		}
		list = append(list, next)
	}
	require.Fail(t, "it never comes to rest")
	return nil
}

const change = "impeller-change/"

// changed is an impeller change from the seacock shut to the last screw tightened.
func changed(t require.TestingT) []eventlog.Entry {
	list := []teardown.Act{isolate("seacock"), task(t, "impeller-change"), off(change+"cover-screws", 6),
		off(change+"cover", 1), off(change+"cover-seal", 1), off(change+"impeller", 1), off(change+"key", 1),
		on(change+"key", 1), on(change+"impeller", 1), on(change+"cover-seal", 1), back(change+"cover", 1),
		back(change+"cover-screws", 6)}
	for pass := range 3 {
		list = append(list, teardown.Act{Do: teardown.Tighten, Item: change + "cover-screws", Pass: pass + 1})
	}
	return acts(list...)
}

var looks = []string{"strainer-lid", "pump-primed", "silencer-drained", "people-clear", "outlet-watched"}

func ticked(ids ...string) (out []eventlog.Entry) {
	for _, id := range ids {
		out = append(out, act(teardown.Act{Do: teardown.Tick, Item: id}))
	}
	return out
}

// allDone is the change from the seacock shut to ready.
func allDone(t require.TestingT) []eventlog.Entry {
	return append(append(changed(t), act(lift("seacock"))), ticked(looks...)...)
}
