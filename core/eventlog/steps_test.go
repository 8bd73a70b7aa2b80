package eventlog_test

import (
	"errors"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/validation"
	"hevrin/core/wetwork"
)

// refused asks whether an entry may follow the log.
func refused(t *testing.T, l log, kind eventlog.Kind, b eventlog.Body) error {
	t.Helper()
	c := loadCatalogue(t)
	m := l.and(kind, b)
	stand := enginestate.Fold(c, l).Stand(engine(c), "job")
	return eventlog.CheckJobEntry(c, engine(c), fold(t, l), stand, m[len(m)-1])
}

func clash(t *testing.T, err error) string {
	t.Helper()
	var c *eventlog.Conflict
	require.ErrorAs(t, err, &c)
	return c.Say
}

func slip(t *testing.T, err error) *validation.Error {
	t.Helper()
	var wrong validation.Errors
	require.ErrorAs(t, err, &wrong)
	return wrong[0]
}

func recording(do, id string) eventlog.Body {
	return eventlog.Body{Recording: &eventlog.Recording{ID: id, Do: do, Source: eventlog.FromFeed}}
}

func TestARecordingBeginsOnceAndEndsOnce(t *testing.T) {
	l := opened()
	require.NoError(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingBegun, "r")))
	l = l.and(eventlog.Recorded, recording(eventlog.RecordingBegun, "r"))
	open, ok := fold(t, l).Open()
	require.True(t, ok)
	assert.Equal(t, "r", open.ID)
	assert.Contains(t, clash(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingBegun, "r"))), "already")
	assert.Contains(t, clash(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingBegun, "s"))), "end it first")
	assert.Contains(t, clash(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingEnded, "s"))),
		"not on this job")
	require.NoError(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingWhole, "file")),
		"a logger's file may come in beside it")

	end := recording(eventlog.RecordingEnded, "r")
	end.Recording.Seconds, end.Recording.Rows, end.Recording.Hours = 90, 450, 812.4
	end.Recording.Places = []proving.Place{{Station: "rpm"}}
	l = l.and(eventlog.Recorded, end)
	kept, ok := fold(t, l).Recording("r")
	require.True(t, ok)
	require.NotNil(t, kept.Ended)
	assert.Equal(t, start.Add(2*time.Minute), *kept.Ended)
	assert.Equal(t, eventlog.FromFeed, kept.Source, "how it began stands")
	assert.InDelta(t, 812.4, kept.Hours, 0)
	assert.Equal(t, 450, kept.Rows)
	assert.Equal(t, end.Recording.Places, kept.Places)
	_, ok = fold(t, l).Open()
	assert.False(t, ok)
	assert.Contains(t, clash(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingEnded, "r"))),
		"ended already")

	again, ok := fold(t, l.undoing("e2")).Open()
	assert.True(t, ok, "with its end taken back it goes on")
	assert.Equal(t, "r", again.ID)
	_, ok = fold(t, l.undoing("e1")).Recording("r")
	assert.False(t, ok)
}

func TestALoggersFileIsWholeAndAClosedJobRecordsNoMore(t *testing.T) {
	whole := fold(t, opened().and(eventlog.Recorded, recording(eventlog.RecordingWhole, "file")))
	_, open := whole.Open()
	assert.False(t, open)
	yes := true
	l := opened().and(eventlog.Recorded, recording(eventlog.RecordingBegun, "r")).and(eventlog.Closed,
		eventlog.Body{Explains: &yes, Words: "home"})
	kept, ok := fold(t, l).Recording("r")
	require.True(t, ok)
	require.NotNil(t, kept.Ended, "the job's end ended it")
	assert.Equal(t, start.Add(2*time.Minute), *kept.Ended)
	assert.Contains(t, clash(t, refused(t, l, eventlog.Recorded, recording(eventlog.RecordingBegun, "s"))), "closed")
}

func TestRecordingsThatCannotBe(t *testing.T) {
	for field, r := range map[string]eventlog.Recording{
		"recording.id": {Do: eventlog.RecordingBegun},
		"recording.do": {ID: "r", Do: "pause"},
		"recording.places[1]": {ID: "r", Do: eventlog.RecordingBegun, Places: []proving.Place{{Station: "rpm"},
			{Station: "elbow", Side: "coolant"}}},
	} {
		assert.Equal(t, field, slip(t, refused(t, opened(), eventlog.Recorded, eventlog.Body{Recording: &r})).Field)
	}
}

// A log gone through entry by entry comes to the same job as the whole of it, each entry seen with the job as it stood;
// the first one refused ends it.
func TestALogGoneThroughIsTheLogAsAWhole(t *testing.T) {
	c := loadCatalogue(t)
	l := opened().and(eventlog.Found, says(eventlog.Present, "hot-at-idle")).and(eventlog.Noted,
		eventlog.Body{Words: "x"}).undoing("e1").
		and(eventlog.Found, says(eventlog.Present, "milky-oil")).undoing("e3")
	var before []int
	j, ok, err := eventlog.Replay(c, l, func(j *eventlog.Job, done []eventlog.Entry, _ eventlog.Entry) error {
		if want, opened := eventlog.FoldJob(c, done); opened {
			require.Equal(t, want.Findings, j.Findings)
			require.Equal(t, want.Notes, j.Notes)
		}
		before = append(before, len(done))
		return nil
	})
	require.NoError(t, err)
	require.True(t, ok)
	assert.Equal(t, []int{0, 1, 2, 3, 4, 5}, before)
	assert.Equal(t, fold(t, l), j)

	no := errors.New("no further")
	_, ok, err = eventlog.Replay(c, l, func(_ *eventlog.Job, done []eventlog.Entry, _ eventlog.Entry) error {
		if len(done) == 2 {
			return no
		}
		return nil
	})
	assert.ErrorIs(t, err, no)
	assert.False(t, ok)
	_, ok, err = eventlog.Replay(c, l[1:3], func(*eventlog.Job, []eventlog.Entry, eventlog.Entry) error { return nil })
	require.NoError(t, err)
	assert.False(t, ok, "no job was opened")
}

func direct(c *catalogue.Catalogue) eventlog.EngineFacts {
	f, _ := c.Family(catalogue.Direct)
	return eventlog.EngineFacts{CraftID: "craft", Name: "main", Family: catalogue.Direct, Fuel: "petrol", RatedKW: 12,
		RatedRPM: 2600, ThermostatC: 60, Circuit: f.Circuit}
}

func TestWhereAnEngineCanBeRead(t *testing.T) {
	c := loadCatalogue(t)
	closed := engine(c)
	for place, on := range map[proving.Place]bool{
		{Station: "rpm"}: true, {Station: "sea"}: true, {Station: "flow"}: true, {Station: "gauge"}: true,
		{Station: "hours"}:                  true,
		{Station: "exchanger", Side: "raw"}: true, {Station: "exchanger", Side: "coolant"}: true, {Station: "thermostat",
			Side: "coolant"}: true,
		{Station: "thermostat", Side: "raw"}: false, {Station: "exchanger"}: false, {Station: "load"}: false,
		{Station: "gauge", Side: "coolant"}: false, {Station: "mast"}: false,
	} {
		assert.Equal(t, on, eventlog.PlaceOn(c, closed, place), place.String())
	}
	raw := direct(c)
	assert.True(t, eventlog.PlaceOn(c, raw, proving.Place{Station: "block", Side: "raw"}))
	assert.False(t, eventlog.PlaceOn(c, raw, proving.Place{Station: "exchanger", Side: "raw"}), "it has none")
	raw.Circuit = slices.DeleteFunc(slices.Clone(raw.Circuit), func(s string) bool { return s == "gauge" })
	assert.False(t, eventlog.PlaceOn(c, raw, proving.Place{Station: "gauge"}), "no gauge aboard")
	seen := map[proving.Place]bool{}
	for _, p := range eventlog.Places(c, closed) {
		assert.False(t, seen[p], "%s twice", p)
		seen[p] = true
	}
}

func TestAFeedsChannels(t *testing.T) {
	c := loadCatalogue(t)
	feed := func(change func(f *eventlog.Feed)) error {
		f := eventlog.Feed{Address: "127.0.0.1:1", Channels: []eventlog.FeedChannel{{Channel: "a",
			Place: proving.Place{Station: "rpm"}}, {Channel: "b", Place: proving.Place{Station: "thermostat", Side: "coolant"},
			Offset: -1.5, Error: 1}}}
		change(&f)
		return eventlog.CheckFeed(c, engine(c), f)
	}
	require.NoError(t, feed(func(*eventlog.Feed) {}))
	for field, change := range map[string]func(f *eventlog.Feed){
		"channels[0].channel": func(f *eventlog.Feed) { f.Channels[0].Channel = " " },
		"channels[1].channel": func(f *eventlog.Feed) { f.Channels[1].Channel = "a" },
		"channels[0].station": func(f *eventlog.Feed) { f.Channels[0].Station = "mast" },
		"channels[1].station": func(f *eventlog.Feed) { f.Channels[1].Place = proving.Place{Station: "rpm"} },
		"channels[1].offset":  func(f *eventlog.Feed) { f.Channels[1].Offset = 501 },
		"channels[1].error":   func(f *eventlog.Feed) { f.Channels[1].Error = -1 },
	} {
		assert.Equal(t, field, slip(t, feed(change)).Field)
	}
}

func TestTheNewestStandingFeedAndBaselineCount(t *testing.T) {
	_, _, l := engineLog(t, eventlog.Dates{})
	assert.Nil(t, eventlog.EngineFeed(l))
	assert.Nil(t, eventlog.EngineBaseline(l))
	add := func(id string, b eventlog.Body) {
		l = append(l, eventlog.Entry{ID: id, By: "Ide", At: start, Body: b})
	}
	add("f1", eventlog.Body{Feed: &eventlog.Feed{Address: "one"}})
	add("f2", eventlog.Body{Feed: &eventlog.Feed{Address: "two"}})
	add("b1", eventlog.Body{Baseline: &eventlog.Baseline{JobID: "j"}, Words: "new exchanger"})
	assert.Equal(t, "two", eventlog.EngineFeed(l).Address)
	kept := eventlog.EngineBaseline(l)
	require.NotNil(t, kept)
	assert.Equal(t, "j", kept.JobID)
	assert.Equal(t, "new exchanger", kept.Words)
	assert.Equal(t, eventlog.Source{By: "Ide", At: start, Entry: "b1"}, kept.From)
	l = append(l, eventlog.Entry{ID: "u1", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "f2"}},
		eventlog.Entry{ID: "u2", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "b1"}})
	assert.Equal(t, "one", eventlog.EngineFeed(l).Address)
	assert.Nil(t, eventlog.EngineBaseline(l))
}

func TestAMetersReadingFitsWhatWasReadBefore(t *testing.T) {
	_, _, l := engineLog(t, eventlog.Dates{})
	today := time.Date(2026, time.May, 4, 12, 0, 0, 0, time.UTC)
	metered := func(id string, m eventlog.Meter) {
		l = append(l, eventlog.Entry{ID: id, Kind: eventlog.Metered, Body: eventlog.Body{Meter: &m}})
	}
	metered("m1", eventlog.Meter{Day: "2026-04-01", Hours: 100})
	metered("m2", eventlog.Meter{Day: "2026-04-20", Hours: 9000})
	l = append(l, eventlog.Entry{ID: "u", Kind: eventlog.Undo, Body: eventlog.Body{Undoes: "m2"}}) // a slip, taken back
	for name, x := range map[string]struct {
		m     eventlog.Meter
		field string
	}{
		"as it should be":            {eventlog.Meter{Day: "2026-05-04", Hours: 160}, ""},
		"tomorrow, west of the line": {eventlog.Meter{Day: "2026-05-05", Hours: 160}, ""},
		"still to come":              {eventlog.Meter{Day: "2026-05-06", Hours: 160}, "meter.day"},
		"no day":                     {eventlog.Meter{Day: "the 4th", Hours: 160}, "meter.day"},
		"backwards":                  {eventlog.Meter{Day: "2026-05-04", Hours: 99}, "meter.hours"},
		"faster than the clock":      {eventlog.Meter{Day: "2026-04-02", Hours: 200}, "meter.hours"},
		"before, above what came":    {eventlog.Meter{Day: "2026-03-01", Hours: 101}, "meter.hours"},
		"a new meter":                {eventlog.Meter{Day: "2026-05-04", Hours: 0, NewMeter: true, Old: 160}, ""},
		"a new one, the old backward": {eventlog.Meter{Day: "2026-05-04", Hours: 0, NewMeter: true, Old: 90},
			"meter.old_hours"},
		"below nothing": {eventlog.Meter{Day: "2026-05-04", Hours: -1}, "meter.hours"},
	} {
		err := eventlog.CheckMeter(l, x.m, today)
		if x.field == "" {
			assert.NoError(t, err, name)
			continue
		}
		assert.Equal(t, x.field, slip(t, err).Field, name)
	}
}

func strips(a teardown.Act) eventlog.Body { return eventlog.Body{Teardown: &a} }

func TestActsOfTheHandsThatDoNotFitTheJob(t *testing.T) {
	l := opened()
	assert.Contains(t, clash(t, refused(t, l, eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Off,
		Item: "impeller-change/cover", Count: 1}))), "not on this job's list any more")
	for field, a := range map[string]teardown.Act{
		"strip.item":  {Do: teardown.Heed, Item: "dragons"},
		"strip.state": {Do: teardown.Choose, Item: "old-impeller", State: "frame it"},
	} {
		assert.Equal(t, field, slip(t, refused(t, l, eventlog.TeardownNoted, strips(a))).Field)
	}
	assert.Contains(t, slip(t, refused(t, l, eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Tick,
		Item: "moon"}))).Say, "no such condition")
	assert.Contains(t, slip(t, refused(t, l, eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Looked,
		Item: "mast"}))).Say, "no such place")
	require.NoError(t, refused(t, l, eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Isolate, Item: "seacock"})))
	l = l.and(eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Isolate, Item: "seacock"}))
	assert.Contains(t, clash(t, refused(t, l, eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Start}))),
		"not ready to start")
}

// What stands in the way keeps a job open, unless somebody says in words why it ends all the same.
func TestAJobDoesNotEndOverAShutSeacock(t *testing.T) {
	yes := true
	l := opened().and(eventlog.TeardownNoted, strips(teardown.Act{Do: teardown.Isolate, Item: "seacock"}))
	end := eventlog.Body{Explains: &yes, Words: "home"}
	c := loadCatalogue(t)
	require.NotEmpty(t, fold(t, l).Standing(enginestate.Fold(c, l).Conditions(engine(c))))
	assert.Contains(t, clash(t, refused(t, l, eventlog.Closed, end)), "still stands in the way")
	end.Despite = "laid up ashore, tagged"
	require.NoError(t, refused(t, l, eventlog.Closed, end))
	assert.Contains(t, clash(t, refused(t, opened(), eventlog.Reopened, eventlog.Body{})), "open already")
}

// Rubber that a flush brings out is a piece of the ledger, as one found by hand.
func TestRubberOutOfAFlushIsAPieceFound(t *testing.T) {
	out := wetwork.Act{Do: wetwork.CameOut, Work: "w", What: wetwork.Rubber, Station: "exchanger", Share: 0.6}
	j := fold(t, opened().and(eventlog.WetworkNoted, eventlog.Body{Wetwork: &wetwork.Act{Do: wetwork.PlanIt, Work: "w",
		Kind: wetwork.Flushing, Flush: &wetwork.FlushPlan{}}}).and(eventlog.WetworkNoted, eventlog.Body{Wetwork: &out}))
	ledger := j.Teardown.Ledger
	require.Len(t, ledger.Pieces, 1)
	assert.Equal(t, "exchanger", ledger.Pieces[0].Station)
	assert.InDelta(t, 0.6, ledger.Pieces[0].Share, 0)
}

func TestWhatTheOtherRoomsAreToldOfAnEngine(t *testing.T) {
	c := loadCatalogue(t)
	closed, raw := engine(c), direct(c)
	list := closed.RawStations(c)
	assert.Less(t, slices.Index(list, "strainer"), slices.Index(list, "raw-pump"), "in the order of the water")
	assert.NotContains(t, list, "circ-pump")
	assert.NotContains(t, closed.RawStations(c), "block")
	assert.Contains(t, raw.RawStations(c), "block")
}

// The log of an engine names every fact that was changed, in figures that can be read.
func TestFactsAreNamedForTheLog(t *testing.T) {
	cooling := eventlog.Cooling{Aspiration: "turbo", RawLMin: 64, Rating: &eventlog.MakersRating{HeatKW: 60,
		CoolantLMin: 100, CoolantInC: 85, RawLMin: 70, RawInC: 20}, Tubes: &eventlog.Tubes{Tubes: 60, Passes: 2, InnerMM: 6,
		OuterMM: 8, LengthMM: 400}}
	said := map[string]string{}
	for _, f := range append(cooling.Fields(), eventlog.Dates{Descaled: "2026-05-04"}.Fields()...) {
		said[f[0]] = f[1]
	}
	assert.Equal(t, "turbo", said["aspiration"])
	assert.Equal(t, "64", said["raw_l_min"])
	assert.Empty(t, said["ua_w_k"], "what is not known is nothing")
	assert.Equal(t, "60 kW from 100 L/min of coolant at 85 °C to 70 L/min of raw water at 20 °C",
		said["exchanger_rating"])
	assert.Equal(t, "60 tubes, 2 passes, 6/8 mm, 400 mm long", said["exchanger_tubes"])
	assert.Equal(t, "2026-05-04", said["descaled"])
	assert.Contains(t, said, "impeller_fitted")
	empty := eventlog.Cooling{}.Fields()
	for i, f := range cooling.Fields() {
		assert.Equal(t, f[0], empty[i][0], "the same fields in the same order, so that two can be laid side by side")
	}
}

// A clock that was begun and paused where no link was counts what it ran there: its taps come together, hours later.
func TestAClockThatWaitedForALinkCountsAsItRan(t *testing.T) {
	noted := func(a wetwork.Act) eventlog.Body { a.Work = "w"; return eventlog.Body{Wetwork: &a} }
	l := opened().and(eventlog.WetworkNoted, noted(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Flushing,
		Flush: &wetwork.FlushPlan{}})).and(eventlog.WetworkNoted, noted(wetwork.Act{Do: wetwork.Begin}))
	tapped := func(n int, at time.Duration) {
		when := start.Add(at)
		l[n].TappedAt, l[n].At = &when, start.Add(4*time.Hour)
	}
	tapped(1, 5*time.Minute)
	tapped(2, 10*time.Minute)
	runs := fold(t, l).Wetwork.Works[0]
	assert.Equal(t, 4*time.Hour-10*time.Minute, runs.Elapsed(start.Add(4*time.Hour)), "it runs since it was begun")
	l = l.and(eventlog.WetworkNoted, noted(wetwork.Act{Do: wetwork.Stop}))
	tapped(3, 40*time.Minute)
	stands := fold(t, l).Wetwork.Works[0]
	assert.Equal(t, 30*time.Minute, stands.Elapsed(start.Add(5*time.Hour)))
	ahead := start.AddDate(0, 0, 2)
	l[3].TappedAt = &ahead // by a clock that goes two days ahead
	assert.Equal(t, 4*time.Hour-10*time.Minute, fold(t, l).Wetwork.Works[0].Elapsed(start.Add(5*time.Hour)))
}
