package enginestate_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// timed gives entries the minute at which each was saved.
func timed(minute int, list ...eventlog.Entry) []eventlog.Entry {
	out := make([]eventlog.Entry, len(list))
	for i, e := range list {
		e.At = time.Date(2026, 5, 4, 9, minute, i, 0, time.UTC)
		out[i] = e
	}
	return out
}

func twin(t *testing.T, name string, shares bool, list ...eventlog.Entry) enginestate.Sister {
	e := closedEngine(t)
	e.Name, e.SharesSeacock = name, shares
	return enginestate.Sister{State: enginestate.Fold(book(t), list), Facts: e}
}

func TestEnginesBehindOneSeacockShareHowItStands(t *testing.T) {
	open := act(teardown.Act{Do: teardown.Lift, Item: "seacock"})
	port := twin(t, "Port", true, timed(10, shut)...)
	both := func(own enginestate.Sister, others ...enginestate.Sister) *enginestate.State {
		return own.WithSisters(own.Facts, others...)
	}
	stbd := twin(t, "Starboard", true)
	s := both(stbd, port)
	assert.Equal(t, enginestate.Shut, s.Raw(stbd.Facts).State, "shut on the other is shut here")
	assert.Contains(t, flags(s, stbd.Facts), "SEACOCK SHUT")
	assert.False(t, s.MayStart(stbd.Facts))
	assert.Equal(t, enginestate.NotAsked, stbd.Raw(stbd.Facts).State, "its own account stays as it is")

	opened := twin(t, "Starboard", true, timed(20, open)...)
	s = both(port, opened)
	assert.Equal(t, enginestate.Open, s.Raw(port.Facts).State, "whoever spoke last")
	assert.NotContains(t, flags(s, port.Facts), "SEACOCK SHUT")

	alone := twin(t, "Starboard", false)
	assert.Equal(t, enginestate.NotAsked, both(alone, port).Raw(alone.Facts).State, "it has one of its own")
	wing := twin(t, "Wing", false, timed(30, shut)...)
	assert.Equal(t, enginestate.Open, both(opened, wing).Raw(opened.Facts).State, "the wing has one of its own")
}

// What is open behind the shared seacock on one engine bars the start of each: opening it floods the other.
func TestWhatIsOpenBehindASharedSeacockBarsBoth(t *testing.T) {
	open := act(teardown.Act{Do: teardown.Lift, Item: "seacock"})
	port := twin(t, "Port", true, timed(10, shut, opened("pump-cover-off"))...)
	stbd := twin(t, "Starboard", true, timed(20, open)...)
	s := stbd.WithSisters(stbd.Facts, port)
	assert.Equal(t, "pump cover off, behind the same seacock, by Kit Venn",
		why(s.Conditions(stbd.Facts), "sister:Port:pump-cover-off"))
	assert.False(t, s.MayStart(stbd.Facts))
	assert.Contains(t, flags(s, stbd.Facts), "PORT: PUMP COVER OFF")

	hose := twin(t, "Port", true, timed(10, act(task(t, "raw-hose-renewal")),
		act(teardown.Act{Do: teardown.Off, Item: "raw-hose-renewal/hose-ends", Count: 1}))...)
	assert.NotEmpty(t, why(stbd.WithSisters(stbd.Facts, hose).Conditions(stbd.Facts),
		"sister:Port:job:raw-hose-renewal/hose-ends"), "a hose end below the waterline too")
	dryPart := twin(t, "Port", true, timed(10, made("coolant-level", "level-low-cold", eventlog.Absent))...)
	for _, c := range stbd.WithSisters(stbd.Facts, dryPart).Conditions(stbd.Facts) {
		assert.NotContains(t, c.ID, "sister:", "what is open above the water is its own affair")
	}
	apart := twin(t, "Starboard", false, timed(20, open)...)
	for _, c := range apart.WithSisters(apart.Facts, port).Conditions(apart.Facts) {
		assert.NotContains(t, c.ID, "sister:", "with a seacock of its own")
	}
}

func TestASharedSeacockThatPassesIsKnownOnEach(t *testing.T) {
	port := twin(t, "Port", true, timed(10, shut, opened("pump-cover-off"), passes)...)
	stbd := twin(t, "Starboard", true, timed(20, shut)...)
	s := stbd.WithSisters(stbd.Facts, port)
	require.Equal(t, teardown.LetsThrough, s.Raw(stbd.Facts).Behind)
	mended := twin(t, "Port", true, timed(30, act(teardown.Act{Do: teardown.Renewed, Item: "seacock"}))...)
	shutAgain := twin(t, "Starboard", true, timed(40, shut)...)
	assert.Empty(t, shutAgain.WithSisters(shutAgain.Facts, mended).Raw(shutAgain.Facts).Behind)
}

func TestWhereTheCraftLiesIsSaidOnceForAllItsEngines(t *testing.T) {
	port := twin(t, "Port", false, timed(10, lies("ashore"))...)
	stbd := twin(t, "Starboard", false, timed(5, lies("afloat"))...)
	assert.Equal(t, "ashore", stbd.WithSisters(stbd.Facts, port).Lies.Value)
	assert.Equal(t, "ashore", port.WithSisters(port.Facts, stbd).Lies.Value)
}

func TestAnEngineWithoutASeacockSharesNone(t *testing.T) {
	e := legEngine(t)
	require.NoError(t, eventlog.CheckEngine(book(t), e))
	e.SharesSeacock = true
	assert.ErrorContains(t, eventlog.CheckEngine(book(t), e), "no seacock to share")
}
