package enginestate_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

var (
	shut   = act(teardown.Act{Do: teardown.Isolate, Item: "seacock"})
	dry    = act(teardown.Act{Do: teardown.Holds, Item: teardown.Dry})
	passes = act(teardown.Act{Do: teardown.Holds, Item: teardown.LetsThrough})
	ran    = act(teardown.Act{Do: teardown.Ran})
)

func opened(access string) eventlog.Entry {
	yes := true
	return entry("job", eventlog.Access, eventlog.Body{Access: access, Open: &yes})
}

func lies(where string) eventlog.Entry { return act(teardown.Act{Do: teardown.Lies, Item: where}) }

func TestWhetherTheShutSeacockHoldsIsAskedOnceAJointBelowTheWaterIsOpen(t *testing.T) {
	e := closedEngine(t)
	for what, x := range map[string]struct {
		of   []eventlog.Entry
		asks bool
	}{
		"shut, nothing open":                  {[]eventlog.Entry{shut}, false},
		"a cover off behind it":               {[]eventlog.Entry{shut, opened("pump-cover-off")}, true},
		"the strainer's lid, off by its look": {[]eventlog.Entry{shut, made("strainer-look", "debris-in-strainer", eventlog.Absent)}, true},
		"a cap on the coolant side alone":     {[]eventlog.Entry{shut, made("coolant-level", "level-low-cold", eventlog.Absent)}, false},
		"nobody said that it is shut":         {[]eventlog.Entry{opened("pump-cover-off")}, false},
		"said to be dry":                      {[]eventlog.Entry{shut, opened("pump-cover-off"), dry}, false},
		"said to pass":                        {[]eventlog.Entry{shut, opened("pump-cover-off"), passes}, false},
		"ashore":                              {[]eventlog.Entry{lies("ashore"), shut, opened("pump-cover-off")}, false},
		"shut anew: asked anew": {[]eventlog.Entry{shut, opened("pump-cover-off"), dry, closes("pump-cover-off"),
			act(teardown.Act{Do: teardown.Lift, Item: "seacock"}), shut, opened("pump-cover-off")}, true},
	} {
		require.Equal(t, x.asks, fold(t, x.of...).AsksBehind(e), what)
	}
	hoses := []eventlog.Entry{shut, act(task(t, "raw-hose-renewal")),
		act(teardown.Act{Do: teardown.Off, Item: "raw-hose-renewal/hose-ends", Count: 1})}
	require.True(t, fold(t, hoses...).AsksBehind(e), "a hose end below the waterline that no access is named for")
	require.False(t, fold(t, append(hoses, act(teardown.Act{Do: teardown.On, Item: "raw-hose-renewal/hose-ends",
		Count: 1, State: teardown.Reused}))...).AsksBehind(e), "back on")
	require.False(t, fold(t, act(teardown.Act{Do: teardown.Isolate, Item: "leg-hose"}), opened("pump-cover-off")).
		AsksBehind(legEngine(t)), "a leg has no seacock to ask for")
}

func TestNothingMoreIsOpenedBehindASeacockThatPasses(t *testing.T) {
	e := closedEngine(t)
	look, ok := book(t).Check("impeller-look")
	require.True(t, ok)
	level, ok := book(t).Check("coolant-level")
	require.True(t, ok)
	before := []eventlog.Entry{shut, opened("suction-hose-off")}
	s := fold(t, append(before, passes)...)
	require.Contains(t, s.Before(e, look).Barred, "does not hold")
	require.Empty(t, s.Before(e, level).Barred, "the coolant side does not mind")
	require.Equal(t, "SEACOCK SHUT", s.Flags(e)[0].Label)
	require.Equal(t, "SEACOCK PASSES: CLOSE UP", s.Flags(e)[1].Label)
	require.Equal(t, "SEACOCK PASSES", fold(t, append(before, passes, closes("suction-hose-off"))...).Flags(e)[1].Label,
		"closed up, and still to be known")
	require.Empty(t, fold(t, append(before, dry)...).Before(e, look).Barred)
	require.Empty(t, fold(t, append(before, passes, lies("ashore"))...).Before(e, look).Barred, "no sea to come in")
	require.Error(t, teardown.Act{Do: teardown.Holds, Item: "a little"}.Check())
	require.NoError(t, passes.Body.Teardown.Check())
	require.Empty(t, fold(t, passes).Raw(e).Behind, "said of a seacock that nobody shut")
}

func TestRawCooledBlockHasTheSeacockShutWhereOthersHaveCoolantDrained(t *testing.T) {
	direct, closed := closedEngine(t), closedEngine(t)
	direct.Family = catalogue.Direct
	out, ok := book(t).Check("thermostat-pot-test")
	require.True(t, ok)
	steps := func(e eventlog.EngineFacts, s *enginestate.State) (ids []string) {
		for _, x := range s.Before(e, out).Steps {
			ids = append(ids, x.ID)
		}
		return ids
	}
	require.Contains(t, steps(direct, fold(t)), "seacock-shut")
	require.NotContains(t, steps(direct, fold(t)), "coolant-drained")
	require.Contains(t, steps(closed, fold(t)), "coolant-drained")
	require.NotContains(t, steps(closed, fold(t)), "seacock-shut")

	require.Equal(t, []string{"flooding", "scald"}, fold(t).Before(direct, out).Cautions, "no glycol in a raw-cooled block")
	require.Equal(t, []string{"scald", "glycol"}, fold(t).Before(closed, out).Cautions)

	looked := fold(t, ran, made("thermostat-pot-test", "thermostat-fails-pot", eventlog.Absent))
	require.Equal(t, enginestate.NotAsked, looked.Raw(direct).State, "it was to be shut: open again is for somebody to say")
	require.Equal(t, enginestate.Open, looked.Raw(closed).State)
	require.False(t, looked.RawWater(direct).OK)
	require.True(t, looked.RawWater(closed).OK)
	again := fold(t, ran, made("thermostat-pot-test", "thermostat-fails-pot", eventlog.Absent),
		act(teardown.Act{Do: teardown.Lift, Item: "seacock"}))
	require.True(t, again.RawWater(direct).OK)
}

func TestWhatStandsInTheWayIsToldOnceCrankingFirstWithoutTheLooksOfEveryStart(t *testing.T) {
	e := closedEngine(t)
	var labels []string
	for _, c := range fold(t, shut, act(teardown.Act{Do: teardown.OilIs, Item: "risen"})).InTheWay(e) {
		labels = append(labels, c.Label)
	}
	require.Equal(t, []string{"No water in a cylinder", "Seacock open"}, labels)
	vent := entry("job", eventlog.Found, eventlog.Body{Stated: []eventlog.Stated{
		{ID: "vent-valve-bad", State: eventlog.Present}}})
	require.Equal(t, "silencer-drained", fold(t, ran, vent).InTheWay(e)[0].ID, "a look that something stands against")
	require.Empty(t, fold(t, ran).InTheWay(e))
	require.Equal(t, "nobody said so yet", fold(t).InTheWay(e)[0].Why)
}
