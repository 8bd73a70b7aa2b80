package enginestate_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// nine is when the first of numbered entries was saved.
var nine = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func TestWhatWasSaidToBeAsItShouldHoldsForTwelveHours(t *testing.T) {
	e := closedEngine(t)
	looks := acts(teardown.Act{Do: teardown.Tick, Item: "people-clear"}, teardown.Act{Do: teardown.Heat, Item: "cold"})
	s := fold(t, append([]eventlog.Entry{ran}, looks...)...)
	looked := func(s *enginestate.State) bool {
		for _, c := range s.Conditions(e) {
			if c.ID == "people-clear" {
				return c.OK
			}
		}
		return false
	}
	fresh := s.At(nine.Add(12 * time.Hour))
	require.True(t, fresh.RawWater(e).OK)
	require.True(t, looked(fresh))
	require.Equal(t, "cold", fresh.Heat.Value)
	require.True(t, looked(s.At(nine.Add(12*time.Hour+time.Minute))), "said a minute after the seacock")

	stale := s.At(nine.Add(12*time.Hour + 3*time.Minute))
	require.False(t, looked(stale))
	require.Empty(t, stale.Heat.Value, "a cold engine may have been run since")
	require.False(t, stale.MayStart(e))
	raw := stale.RawWater(e)
	require.False(t, raw.OK)
	require.False(t, raw.Stands, "nothing is known against it: one touch settles it")
	require.Equal(t, "was open on 4 May, 09:00, by Kit Venn: look again", raw.Why)
	require.True(t, looked(s), "the state itself stays as it is")
	require.True(t, s.RawWater(e).OK)
}

func TestWhatStandsInTheWayStaysUntilItIsSettled(t *testing.T) {
	e := closedEngine(t)
	s := fold(t, shut, opened("pump-cover-off"), act(teardown.Act{Do: teardown.OilIs, Item: "risen"}))
	year := s.At(nine.AddDate(1, 0, 0))
	require.Equal(t, s.Flags(e), year.Flags(e))
	require.Equal(t, enginestate.Shut, year.Raw(e).State)
	require.False(t, year.MayCrank(e))
}

// tapped is an entry that waited on a device: tapped so long after nine, saved when the link was back.
func tapped(e eventlog.Entry, after, saved time.Duration) eventlog.Entry {
	at := nine.Add(after)
	e.TappedAt, e.At = &at, nine.Add(saved)
	return e
}

// A tap that waited for a link is as old as it is, not as fresh as its sending; a clock that goes ahead makes none younger.
func TestWhatWaitedIsAsOldAsItsTap(t *testing.T) {
	e := closedEngine(t)
	look := act(teardown.Act{Do: teardown.Tick, Item: "people-clear"})
	cold := act(teardown.Act{Do: teardown.Heat, Item: "cold"})
	of := func(after, saved, now time.Duration) *enginestate.State {
		return enginestate.Fold(book(t), []eventlog.Entry{tapped(ran, after, saved), tapped(look, after, saved),
			tapped(cold, after, saved), tapped(lies("ashore"), after, saved)}).At(nine.Add(now))
	}
	fresh := func(s *enginestate.State) bool {
		require.Equal(t, s.RawWater(e).OK, s.Hands.Ticked["people-clear"] != time.Time{})
		require.Equal(t, s.RawWater(e).OK, s.Heat.Value == "cold")
		require.Equal(t, s.RawWater(e).OK, !s.Lies.Old)
		return s.RawWater(e).OK
	}
	require.True(t, fresh(of(0, 11*time.Hour, 12*time.Hour)))
	require.False(t, fresh(of(0, 13*time.Hour, 13*time.Hour)), "sent a moment ago, said thirteen hours ago")
	require.False(t, fresh(of(48*time.Hour, 0, 13*time.Hour)), "its device's clock goes two days ahead")
}

// What waited on one device does not undo what another did after it, though it is saved later; its own taps stay in order.
func TestTheStateGoesByWhatHappenedLast(t *testing.T) {
	e := closedEngine(t)
	at := func(list ...eventlog.Entry) *enginestate.State {
		return enginestate.Fold(book(t), list).At(nine.Add(3 * time.Hour))
	}
	shutOnline := tapped(shut, time.Hour, time.Hour)
	require.Equal(t, enginestate.Shut, at(shutOnline, tapped(ran, 0, 2*time.Hour)).Raw(e).State)
	require.Equal(t, enginestate.Open, at(shutOnline, tapped(ran, 90*time.Minute, 2*time.Hour)).Raw(e).State)
	require.Equal(t, enginestate.Open, at(tapped(shut, 0, 2*time.Hour), tapped(ran, time.Minute, 2*time.Hour)).Raw(e).State)

	closed := tapped(closes("pump-cover-off"), 0, 2*time.Hour)
	require.True(t, at(tapped(opened("pump-cover-off"), time.Hour, time.Hour), closed).IsOpen("pump-cover-off"))
	look := tapped(act(teardown.Act{Do: teardown.Tick, Item: "people-clear"}), 0, 2*time.Hour)
	started := tapped(act(teardown.Act{Do: teardown.Start}), time.Hour, time.Hour)
	require.NotContains(t, at(started, look).Hands.Ticked, "people-clear", "looked at before the start, not for the next")

	// a device whose clock is slow opens, or shuts: what came in after it was said to be closed, or open, is not hidden
	slow := func(e eventlog.Entry) eventlog.Entry { return tapped(e, 0, 2*time.Hour) }
	online := func(e eventlog.Entry, at time.Duration) eventlog.Entry { return tapped(e, at, at) }
	cover := slow(opened("pump-cover-off"))
	require.True(t, at(online(closes("pump-cover-off"), time.Hour), cover).IsOpen("pump-cover-off"))
	require.False(t, at(cover, online(closes("pump-cover-off"), 150*time.Minute)).IsOpen("pump-cover-off"))
	s := at(online(ran, time.Hour), slow(shut))
	require.Equal(t, enginestate.NotAsked, s.Raw(e).State)
	require.False(t, s.MayStart(e))
	require.Equal(t, enginestate.Open, at(online(ran, time.Hour), slow(shut), online(ran, 150*time.Minute)).Raw(e).State)
	for _, item := range []string{"seacock", "leg-hose", "battery", "coolant", "sensor"} {
		off, back := act(isolate(item)), act(teardown.Act{Do: teardown.Lift, Item: item})
		require.True(t, at(online(back, time.Hour), slow(off)).Hands.Shut(item), item)
		require.False(t, at(slow(off), online(back, 150*time.Minute)).Hands.Shut(item), item)
	}

	// a look made after an opening that nobody could know of does not stand once that is closed; one made since does
	looked := act(teardown.Act{Do: teardown.Tick, Item: "people-clear"})
	for what, came := range map[string]eventlog.Entry{"opened": slow(opened("pump-cover-off")), "shut": slow(act(isolate("battery"))),
		"started": slow(act(teardown.Act{Do: teardown.Start}))} {
		shutAgain := online(closes("pump-cover-off"), 130*time.Minute)
		require.NotContains(t, at(came, online(looked, time.Hour), shutAgain).Hands.Ticked, "people-clear", what)
		require.Contains(t, at(came, shutAgain, online(looked, 150*time.Minute)).Hands.Ticked, "people-clear", what)
	}
	require.Contains(t, at(online(opened("pump-cover-off"), 0), online(closes("pump-cover-off"), time.Minute),
		online(looked, time.Hour)).Hands.Ticked, "people-clear")

	list := []eventlog.Entry{shutOnline, tapped(ran, 0, 2*time.Hour)}
	at(list...)
	require.Equal(t, shutOnline, list[0], "the record itself stays as it is")
}

func TestARoundIsTakenRunning(t *testing.T) {
	s := fold(t, act(teardown.Act{Do: teardown.Heat, Item: "cold"}),
		entry("job", eventlog.RoundTaken, eventlog.Body{Round: &eventlog.Round{RPM: 1400}}))
	require.Equal(t, "hot", s.Heat.Value)
}

func TestAshoreOfLastWinterKeepsNoSeaOut(t *testing.T) {
	leg := legEngine(t)
	look, ok := book(t).Check("impeller-look")
	require.True(t, ok)
	s := fold(t, lies("ashore"), act(teardown.Act{Do: teardown.Isolate, Item: "leg-hose"}),
		act(teardown.Act{Do: teardown.Lift, Item: "leg-hose"}))
	require.Empty(t, s.At(nine.Add(12*time.Hour)).Before(leg, look).Steps)
	spring := s.At(nine.AddDate(0, 6, 0))
	require.Equal(t, "seacock-shut", spring.Before(leg, look).Steps[0].ID, "it may have been launched since")
	asked := func(s *enginestate.State) bool {
		for _, c := range s.Conditions(leg) {
			if c.ID == "shore-water" {
				return true
			}
		}
		return false
	}
	require.True(t, asked(spring), "nor does age take a look off the start list")

	passing := fold(t, lies("ashore"), shut, opened("suction-hose-off"), passes)
	require.NotContains(t, labels(passing.At(nine), closedEngine(t)), "SEACOCK PASSES: CLOSE UP")
	require.Contains(t, labels(passing.At(nine.AddDate(0, 6, 0)), closedEngine(t)), "SEACOCK PASSES: CLOSE UP")
}

func labels(s *enginestate.State, e eventlog.EngineFacts) (list []string) {
	for _, f := range s.Flags(e) {
		list = append(list, f.Label)
	}
	return list
}

// An engine that just ran is planned as so far from being cool as its own block says (60 kW: 101 minutes), less the
// minutes that have passed; never less than the feel of a hand, and by the clock alone it is never cold.
func TestTheTimeThatHasPassedIsCountedToTheCooling(t *testing.T) {
	e := closedEngine(t)
	level, ok := book(t).Check("coolant-level")
	require.True(t, ok)
	hot := act(teardown.Act{Do: teardown.Heat, Item: "hot"})
	hot.At = nine
	s := enginestate.Fold(book(t), []eventlog.Entry{hot})
	for passed, want := range map[time.Duration]float64{0: 110, 30 * time.Minute: 80, 31 * time.Minute: 80,
		32 * time.Minute: 70, 101 * time.Minute: 10, 102 * time.Minute: 1, 5 * time.Hour: 1} {
		at := s.At(nine.Add(passed))
		require.Equal(t, "hot", at.Heat.Value)
		for _, step := range at.Before(e, level).Steps {
			if step.ID == "engine-cold" {
				require.Equal(t, want, step.Minutes, passed)
				require.True(t, step.Known, passed)
			}
		}
	}
	minutes := func(e eventlog.EngineFacts) (m float64) {
		for _, step := range s.At(nine).Before(e, level).Steps {
			if step.ID == "engine-cold" {
				m = step.Minutes
			}
		}
		return m
	}
	small, known := e, e
	small.RatedKW = 15
	known.Cooling.BlockKJK = 420
	require.Equal(t, 80.0, minutes(small), "less iron cools sooner")
	require.Equal(t, 140.0, minutes(known), "and what is known of the engine goes before its kind")
}
