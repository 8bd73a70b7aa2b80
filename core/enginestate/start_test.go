package enginestate_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

func TestAnImpellerChangeFromShutToReady(t *testing.T) {
	e, list := closedEngine(t), allDone(t)
	for n := range list {
		assert.False(t, fold(t, list[:n]...).MayStart(e), "after %d acts", n)
	}
	s := fold(t, list...)
	assert.True(t, s.MayStart(e))
	assert.Empty(t, teardown.Standing(s.Conditions(e)))
	assert.Empty(t, s.Flags(e))
	assert.True(t, s.MayCrank(e))
}

// Nothing is assumed to be as it should: an engine of which nobody said anything is not ready, its seacock not asked.
func TestNothingIsAssumed(t *testing.T) {
	e := closedEngine(t)
	s := fold(t)
	assert.Equal(t, "nobody said so yet", why(s.Conditions(e), "seacock"))
	assert.Empty(t, teardown.Standing(s.Conditions(e)), "what nobody asked does not keep a job open")
	ran := fold(t, append(acts(teardown.Act{Do: teardown.Ran}), ticked("strainer-lid", "silencer-drained", "people-clear",
		"outlet-watched")...)...)
	assert.True(t, ran.MayStart(e))
	assert.Equal(t, "hot", ran.Heat.Value)
	assert.Empty(t, why(fold(t).Conditions(legEngine(t)), "seacock"), "a leg has no seacock to ask for")
	valve := legEngine(t)
	valve.Circuit = append([]string{"intake", "seacock"}, valve.Circuit[1:]...)
	assert.Equal(t, "nobody said so yet", why(fold(t).Conditions(valve), "seacock"), "one with a valve has")
	assert.Equal(t, "leg hose off, by Kit Venn", why(fold(t, act(isolate("leg-hose"))).Conditions(legEngine(t)),
		"leg-hose"))
}

func TestEachStartIsLookedAtAfresh(t *testing.T) {
	e, list := closedEngine(t), allDone(t)
	again := fold(t, append(list, act(teardown.Act{Do: teardown.Start}))...)
	assert.Equal(t, "not looked at yet", why(again.Conditions(e), "people-clear"))
	assert.Empty(t, why(again.Conditions(e), "seacock"), "it ran: it is open")
	assert.Empty(t, why(again.Conditions(e), "pump-primed"), "it pumped")
	for _, a := range []teardown.Act{isolate("seacock"), off(change+"cover", 1)} {
		s := fold(t, append(list, act(a))...)
		assert.Equal(t, "not looked at yet", why(s.Conditions(e), "outlet-watched"), "%+v", a)
	}
	petrol := e
	petrol.Fuel = "petrol"
	assert.NotEmpty(t, why(fold(t, list...).Conditions(petrol), "blower"), "a petrol engine has its blower run")
	drained := append(acts(isolate("coolant"), lift("coolant")), list...)
	assert.Equal(t, "not looked at yet", why(fold(t, drained...).Conditions(e), "coolant-filled"))
	ashore := append(acts(teardown.Act{Do: teardown.Lies, Item: "ashore"}), list...)
	assert.Equal(t, "not looked at yet", why(fold(t, ashore...).Conditions(e), "shore-water"))
}

// What a check opened is open, and off in the strip-down; what came off opens the access of the checks behind it.
func TestChecksAndTheStripDownOpenTheSame(t *testing.T) {
	e := closedEngine(t)
	look := made("impeller-look", "blades-missing", eventlog.Absent)
	s := fold(t, look)
	assert.Equal(t, []string{"pump-cover-off"}, s.OpenAccess())
	assert.Contains(t, why(s.Conditions(e), "open:pump-cover-off"), "since 4 May, 09:00, by Kit Venn")
	skipped := look
	skipped.Body.Outcome = eventlog.Skipped
	assert.Empty(t, fold(t, skipped).OpenAccess(), "a skipped check opens nothing")
	assert.Empty(t, fold(t, look, closes("pump-cover-off")).OpenAccess())

	s = fold(t, look, act(task(t, "impeller-change")))
	for item, n := range map[string]int{"cover-screws": 6, "cover": 1, "cover-seal": 1, "impeller": 0, "key": 0} {
		i, ok := s.Item("job", change+item)
		require.True(t, ok)
		assert.Equal(t, n, i.Off, item)
	}
	closed := fold(t, append([]eventlog.Entry{look}, acts(task(t, "impeller-change"), on(change+"cover-seal", 1),
		back(change+"cover", 1), back(change+"cover-screws", 6))...)...)
	assert.Empty(t, closed.OpenAccess(), "the last screw back closes it")

	s = fold(t, acts(task(t, "impeller-change"), off(change+"cover", 1))...)
	assert.Equal(t, []string{"pump-cover-off"}, s.OpenAccess(), "the cover off opens the checks behind it")
	strainer := fold(t, made("strainer-look", "debris-in-strainer", eventlog.Absent))
	assert.Empty(t, strainer.OpenAccess(), "a joint is no access")
	assert.Contains(t, why(strainer.Conditions(e), "open:strainer-open"), "since 4 May, 09:00")
	rig := fold(t, made("suction-vacuum", "high-suction-vacuum", eventlog.Absent))
	assert.Equal(t, []string{"gauge-teed-in"}, rig.OpenAccess())
	assert.Empty(t, why(rig.Conditions(e), "open:gauge-teed-in"), "it is there to run with")
}

// A check that wanted the seacock shut makes an open one doubtful again.
func TestASeacockIsAskedAgainOnceItWasToBeShut(t *testing.T) {
	e := closedEngine(t)
	s := fold(t, act(teardown.Act{Do: teardown.Ran}), made("impeller-look", "blades-missing", eventlog.Absent),
		closes("pump-cover-off"))
	assert.Equal(t, "it was to be shut for: Look at the impeller", why(s.Conditions(e), "seacock"))
	assert.Len(t, teardown.Standing(s.Conditions(e)), 1, "and keeps the job open")
	assert.Equal(t, "SEACOCK: OPEN OR SHUT?", s.Flags(e)[0].Label)
	assert.Empty(t, why(fold(t, act(teardown.Act{Do: teardown.Ran}), made("belt-look", "pump-belt-slack",
		eventlog.Absent)).Conditions(e), "seacock"))
}

// A second strip-down counts afresh; a cap taken off twice stays a cap of four bolts.
func TestASecondStripDownCountsAfresh(t *testing.T) {
	caps := "exchanger-stack/front-cap-bolts"
	round := []teardown.Act{off(caps, 4), back(caps, 4), {Do: teardown.Tighten, Item: caps, Pass: 3}}
	s := fold(t, acts(append([]teardown.Act{task(t, "exchanger-stack")}, append(round, off(caps, 4))...)...)...)
	i, _ := s.Item("job", caps)
	assert.Equal(t, []int{4, 4, 0, 0, 1}, []int{i.Count, i.Off, i.On(), i.Pass, i.Round})
	four, _ := fold(t, acts(task(t, "impeller-change"), off(change+"cover-screws", 4))...).Item("job",
		change+"cover-screws")
	assert.Equal(t, 6, four.Count, "four of six are off a ring of six")
	eight, _ := fold(t, acts(task(t, "impeller-change"), teardown.Act{Do: teardown.Counted, Item: change + "cover-screws",
		Count: 8, State: teardown.Rectangle})...).Item("job", change+"cover-screws")
	assert.Equal(t, 8, eight.Count)
	assert.Equal(t, teardown.Rectangle, eight.Shape)
	own := teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "h", Kind: teardown.Hose, Label: "Heater hose",
		Count: 1}}
	listed := fold(t, act(own))
	assert.Contains(t, why(listed.Conditions(closedEngine(t)), "off:job:own/h"), "still off",
		"off the moment it is listed")
	twice, _ := fold(t, act(own), act(off("own/h", 1))).Item("job", "own/h")
	assert.Equal(t, 1, twice.Off)
}

// The state belongs to the engine: a hose left off in one job bars the start in the next, and is settled there.
func TestTheStateOutlivesTheJob(t *testing.T) {
	e := closedEngine(t)
	first := acts(task(t, "raw-pump-off"), off("raw-pump-off/delivery-hose-end", 1))
	in := func(job string, e eventlog.Entry) eventlog.Entry {
		e.Subject.ID = job
		return e
	}
	list := append(first, in("next", act(teardown.Act{Do: teardown.Ran})))
	s := fold(t, list...)
	const key = "job:raw-pump-off/delivery-hose-end"
	assert.Equal(t, "still off", why(s.Conditions(e), "off:"+key))
	assert.True(t, s.Holds("next", key))
	onAgain := back(key, 1)
	onAgain.Clamps, onAgain.Reach = 2, true
	s = fold(t, append(list, in("next", act(onAgain)))...)
	assert.Empty(t, why(s.Conditions(e), "off:"+key))
	assert.Empty(t, why(s.Conditions(e), "clamps:"+key))
	bare := fold(t, append(list, in("next", act(back(key, 1))))...)
	assert.Equal(t, "0 of 2 clamps", why(bare.Conditions(e), "clamps:"+key), "nobody counted them")
	count := teardown.Act{Do: teardown.On, Item: key, State: teardown.Reused, Clamps: 2, Reach: true}
	require.NoError(t, count.Check())
	bare = fold(t, append(list, in("next", act(back(key, 1))), in("next", act(count)))...)
	assert.Empty(t, why(bare.Conditions(e), "clamps:"+key), "counted afterwards, by the touch that settles it")
	assert.Equal(t, 1, bare.Hands.Items[slices.IndexFunc(bare.Hands.Items,
		func(i teardown.Item) bool { return i.Key == key })].On(), "counting puts nothing on")
	both := fold(t, append(list, in("next", act(task(t, "raw-pump-off"))), in("next",
		act(off("raw-pump-off/pump", 1))))...)
	assert.Equal(t, "still off", why(both.Conditions(e), "off:next:raw-pump-off/pump"),
		"the same task in two jobs is two lists")
	assert.Equal(t, "still off", why(both.Conditions(e), "off:"+key))
	assert.Len(t, both.AccountOf("next", teardown.NewAccount()).Items, 7)
	assert.Equal(t, "raw-pump-off/pump", both.AccountOf("next", teardown.NewAccount()).Rebuild()[0].Key)
}

// Whichever room saw it first, the state is the same: a check that opened the cover and a strip-down that took it off.
func TestTheStateDoesNotHangOnWhichRoomSawItFirst(t *testing.T) {
	e := closedEngine(t)
	look := made("impeller-look", "blades-missing", eventlog.Absent)
	hands := acts(task(t, "impeller-change"), off(change+"cover-screws", 6), off(change+"cover", 1),
		off(change+"cover-seal", 1))
	first := fold(t, append([]eventlog.Entry{look}, hands...)...)
	last := fold(t, append(hands, look)...)
	between := fold(t, hands[0], hands[1], look, hands[2], hands[3])
	ids := func(s *enginestate.State) (list []string) {
		for _, c := range s.Conditions(e) {
			if !c.Passed() {
				list = append(list, c.ID)
			}
		}
		return list
	}
	assert.Equal(t, ids(first), ids(last))
	assert.Equal(t, ids(first), ids(between))
	assert.Equal(t, first.OpenAccess(), last.OpenAccess())
	// a look after the rebuild takes the cover off again, and counts it afresh
	again := fold(t, append(changed(t), look)...)
	screws, _ := again.Item("job", change+"cover-screws")
	assert.Equal(t, []int{6, 0, 1}, []int{screws.Off, screws.On(), screws.Round})
}
