package record_test

import (
	"errors"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/input"
	"hevrin/core/proving"
	"hevrin/core/record"
	"hevrin/core/strip"
	"hevrin/core/trade"
	"hevrin/core/wet"
)

// refused asks whether an entry may follow the log.
func refused(t *testing.T, l log, kind record.Kind, b record.Body) error {
	t.Helper()
	c := catalogue(t)
	m := l.and(kind, b)
	return record.CheckJobEntry(c, engine(c), fold(t, l), m[len(m)-1])
}

func clash(t *testing.T, err error) string {
	t.Helper()
	var c *record.Conflict
	require.ErrorAs(t, err, &c)
	return c.Say
}

func slip(t *testing.T, err error) *input.Error {
	t.Helper()
	var wrong input.Errors
	require.ErrorAs(t, err, &wrong)
	return wrong[0]
}

func recording(do, id string) record.Body {
	return record.Body{Recording: &record.Recording{ID: id, Do: do, Source: record.FromFeed}}
}

func TestARecordingBeginsOnceAndEndsOnce(t *testing.T) {
	l := opened()
	require.NoError(t, refused(t, l, record.Recorded, recording(record.RecordingBegun, "r")))
	l = l.and(record.Recorded, recording(record.RecordingBegun, "r"))
	open, ok := fold(t, l).Open()
	require.True(t, ok)
	assert.Equal(t, "r", open.ID)
	assert.Contains(t, clash(t, refused(t, l, record.Recorded, recording(record.RecordingBegun, "r"))), "already")
	assert.Contains(t, clash(t, refused(t, l, record.Recorded, recording(record.RecordingBegun, "s"))), "end it first")
	assert.Contains(t, clash(t, refused(t, l, record.Recorded, recording(record.RecordingEnded, "s"))), "not on this job")
	require.NoError(t, refused(t, l, record.Recorded, recording(record.RecordingWhole, "file")), "a logger's file may come in beside it")

	end := recording(record.RecordingEnded, "r")
	end.Recording.Seconds, end.Recording.Rows, end.Recording.Hours = 90, 450, 812.4
	end.Recording.Places = []proving.Place{{Station: "rpm"}}
	l = l.and(record.Recorded, end)
	kept, ok := fold(t, l).Recording("r")
	require.True(t, ok)
	require.NotNil(t, kept.Ended)
	assert.Equal(t, start.Add(2*time.Minute), *kept.Ended)
	assert.Equal(t, record.FromFeed, kept.Source, "how it began stands")
	assert.InDelta(t, 812.4, kept.Hours, 0)
	assert.Equal(t, 450, kept.Rows)
	assert.Equal(t, end.Recording.Places, kept.Places)
	_, ok = fold(t, l).Open()
	assert.False(t, ok)
	assert.Contains(t, clash(t, refused(t, l, record.Recorded, recording(record.RecordingEnded, "r"))), "ended already")

	again, ok := fold(t, l.undoing("e2")).Open()
	assert.True(t, ok, "with its end taken back it goes on")
	assert.Equal(t, "r", again.ID)
	_, ok = fold(t, l.undoing("e1")).Recording("r")
	assert.False(t, ok)
}

func TestALoggersFileIsWholeAndAClosedJobRecordsNoMore(t *testing.T) {
	whole := fold(t, opened().and(record.Recorded, recording(record.RecordingWhole, "file")))
	_, open := whole.Open()
	assert.False(t, open)
	yes := true
	l := opened().and(record.Recorded, recording(record.RecordingBegun, "r")).and(record.Closed, record.Body{Explains: &yes, Words: "home"})
	kept, ok := fold(t, l).Recording("r")
	require.True(t, ok)
	require.NotNil(t, kept.Ended, "the job's end ended it")
	assert.Equal(t, start.Add(2*time.Minute), *kept.Ended)
	assert.Contains(t, clash(t, refused(t, l, record.Recorded, recording(record.RecordingBegun, "s"))), "closed")
}

func TestRecordingsThatCannotBe(t *testing.T) {
	for field, r := range map[string]record.Recording{
		"recording.id":        {Do: record.RecordingBegun},
		"recording.do":        {ID: "r", Do: "pause"},
		"recording.places[1]": {ID: "r", Do: record.RecordingBegun, Places: []proving.Place{{Station: "rpm"}, {Station: "elbow", Side: "coolant"}}},
	} {
		assert.Equal(t, field, slip(t, refused(t, opened(), record.Recorded, record.Body{Recording: &r})).Field)
	}
}

// A log gone through entry by entry comes to the same job as the whole of it, each entry seen with the job as it stood; the first
// one refused ends it.
func TestALogGoneThroughIsTheLogAsAWhole(t *testing.T) {
	c := catalogue(t)
	l := opened().and(record.Found, says(record.Present, "hot-at-idle")).and(record.Noted, record.Body{Words: "x"}).undoing("e1").
		and(record.Found, says(record.Present, "milky-oil")).undoing("e3")
	var before []int
	j, ok, err := record.Replay(c, l, func(j *record.Job, done []record.Entry, _ record.Entry) error {
		if want, opened := record.FoldJob(c, done); opened {
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
	_, ok, err = record.Replay(c, l, func(_ *record.Job, done []record.Entry, _ record.Entry) error {
		if len(done) == 2 {
			return no
		}
		return nil
	})
	assert.ErrorIs(t, err, no)
	assert.False(t, ok)
	_, ok, err = record.Replay(c, l[1:3], func(*record.Job, []record.Entry, record.Entry) error { return nil })
	require.NoError(t, err)
	assert.False(t, ok, "no job was opened")
}

func direct(c *trade.Catalogue) record.EngineFacts {
	f, _ := c.Family(trade.Direct)
	return record.EngineFacts{CraftID: "craft", Name: "main", Family: trade.Direct, Fuel: "petrol", RatedKW: 12, RatedRPM: 2600, ThermostatC: 60, Circuit: f.Circuit}
}

func TestWhereAnEngineCanBeRead(t *testing.T) {
	c := catalogue(t)
	closed := engine(c)
	for place, on := range map[proving.Place]bool{
		{Station: "rpm"}: true, {Station: "sea"}: true, {Station: "flow"}: true, {Station: "gauge"}: true, {Station: "hours"}: true,
		{Station: "exchanger", Side: "raw"}: true, {Station: "exchanger", Side: "coolant"}: true, {Station: "thermostat", Side: "coolant"}: true,
		{Station: "thermostat", Side: "raw"}: false, {Station: "exchanger"}: false, {Station: "load"}: false, {Station: "gauge", Side: "coolant"}: false, {Station: "mast"}: false,
	} {
		assert.Equal(t, on, record.PlaceOn(c, closed, place), place.String())
	}
	raw := direct(c)
	assert.True(t, record.PlaceOn(c, raw, proving.Place{Station: "block", Side: "raw"}))
	assert.False(t, record.PlaceOn(c, raw, proving.Place{Station: "exchanger", Side: "raw"}), "she has none")
	raw.Circuit = slices.DeleteFunc(slices.Clone(raw.Circuit), func(s string) bool { return s == "gauge" })
	assert.False(t, record.PlaceOn(c, raw, proving.Place{Station: "gauge"}), "no gauge aboard")
	seen := map[proving.Place]bool{}
	for _, p := range record.Places(c, closed) {
		assert.False(t, seen[p], "%s twice", p)
		seen[p] = true
	}
}

func TestAFeedsChannels(t *testing.T) {
	c := catalogue(t)
	feed := func(change func(f *record.Feed)) error {
		f := record.Feed{Address: "127.0.0.1:1", Channels: []record.FeedChannel{{Channel: "a", Place: proving.Place{Station: "rpm"}}, {Channel: "b", Place: proving.Place{Station: "thermostat", Side: "coolant"}, Offset: -1.5, Error: 1}}}
		change(&f)
		return record.CheckFeed(c, engine(c), f)
	}
	require.NoError(t, feed(func(*record.Feed) {}))
	for field, change := range map[string]func(f *record.Feed){
		"channels[0].channel": func(f *record.Feed) { f.Channels[0].Channel = " " },
		"channels[1].channel": func(f *record.Feed) { f.Channels[1].Channel = "a" },
		"channels[0].station": func(f *record.Feed) { f.Channels[0].Station = "mast" },
		"channels[1].station": func(f *record.Feed) { f.Channels[1].Place = proving.Place{Station: "rpm"} },
		"channels[1].offset":  func(f *record.Feed) { f.Channels[1].Offset = 501 },
		"channels[1].error":   func(f *record.Feed) { f.Channels[1].Error = -1 },
	} {
		assert.Equal(t, field, slip(t, feed(change)).Field)
	}
}

func TestTheNewestStandingFeedAndBaselineCount(t *testing.T) {
	_, _, l := engineLog(t, record.Dates{})
	assert.Nil(t, record.EngineFeed(l))
	assert.Nil(t, record.EngineBaseline(l))
	add := func(id string, b record.Body) {
		l = append(l, record.Entry{ID: id, By: "Ide", At: start, Body: b})
	}
	add("f1", record.Body{Feed: &record.Feed{Address: "one"}})
	add("f2", record.Body{Feed: &record.Feed{Address: "two"}})
	add("b1", record.Body{Baseline: &record.Baseline{JobID: "j"}, Words: "new exchanger"})
	assert.Equal(t, "two", record.EngineFeed(l).Address)
	kept := record.EngineBaseline(l)
	require.NotNil(t, kept)
	assert.Equal(t, "j", kept.JobID)
	assert.Equal(t, "new exchanger", kept.Words)
	assert.Equal(t, record.Source{By: "Ide", At: start, Entry: "b1"}, kept.From)
	l = append(l, record.Entry{ID: "u1", Kind: record.Undo, Body: record.Body{Undoes: "f2"}}, record.Entry{ID: "u2", Kind: record.Undo, Body: record.Body{Undoes: "b1"}})
	assert.Equal(t, "one", record.EngineFeed(l).Address)
	assert.Nil(t, record.EngineBaseline(l))
}

func TestAMetersReadingFitsWhatWasReadBefore(t *testing.T) {
	_, _, l := engineLog(t, record.Dates{})
	today := time.Date(2026, time.May, 4, 12, 0, 0, 0, time.UTC)
	metered := func(id string, m record.Meter) {
		l = append(l, record.Entry{ID: id, Kind: record.Metered, Body: record.Body{Meter: &m}})
	}
	metered("m1", record.Meter{Day: "2026-04-01", Hours: 100})
	metered("m2", record.Meter{Day: "2026-04-20", Hours: 9000})
	l = append(l, record.Entry{ID: "u", Kind: record.Undo, Body: record.Body{Undoes: "m2"}}) // a slip, taken back
	for name, x := range map[string]struct {
		m     record.Meter
		field string
	}{
		"as it should be":             {record.Meter{Day: "2026-05-04", Hours: 160}, ""},
		"tomorrow, west of the line":  {record.Meter{Day: "2026-05-05", Hours: 160}, ""},
		"still to come":               {record.Meter{Day: "2026-05-06", Hours: 160}, "meter.day"},
		"no day":                      {record.Meter{Day: "the 4th", Hours: 160}, "meter.day"},
		"backwards":                   {record.Meter{Day: "2026-05-04", Hours: 99}, "meter.hours"},
		"faster than the clock":       {record.Meter{Day: "2026-04-02", Hours: 200}, "meter.hours"},
		"before, above what came":     {record.Meter{Day: "2026-03-01", Hours: 101}, "meter.hours"},
		"a new meter":                 {record.Meter{Day: "2026-05-04", Hours: 0, NewMeter: true, Old: 160}, ""},
		"a new one, the old backward": {record.Meter{Day: "2026-05-04", Hours: 0, NewMeter: true, Old: 90}, "meter.old_hours"},
		"below nothing":               {record.Meter{Day: "2026-05-04", Hours: -1}, "meter.hours"},
	} {
		err := record.CheckMeter(l, x.m, today)
		if x.field == "" {
			assert.NoError(t, err, name)
			continue
		}
		assert.Equal(t, x.field, slip(t, err).Field, name)
	}
}

func strips(a strip.Act) record.Body { return record.Body{Strip: &a} }

func TestActsOfTheHandsThatDoNotFitTheJob(t *testing.T) {
	l := opened()
	assert.Contains(t, clash(t, refused(t, l, record.Stripped, strips(strip.Act{Do: strip.Off, Item: "impeller-change/cover", Count: 1}))), "not on this job's list any more")
	for field, a := range map[string]strip.Act{
		"strip.item":  {Do: strip.Heed, Item: "dragons"},
		"strip.state": {Do: strip.Choose, Item: "old-impeller", State: "frame it"},
	} {
		assert.Equal(t, field, slip(t, refused(t, l, record.Stripped, strips(a))).Field)
	}
	assert.Contains(t, slip(t, refused(t, l, record.Stripped, strips(strip.Act{Do: strip.Tick, Item: "moon"}))).Say, "no such condition")
	assert.Contains(t, slip(t, refused(t, l, record.Stripped, strips(strip.Act{Do: strip.Looked, Item: "mast"}))).Say, "no such place")
	require.NoError(t, refused(t, l, record.Stripped, strips(strip.Act{Do: strip.Isolate, Item: "seacock"})))
	l = l.and(record.Stripped, strips(strip.Act{Do: strip.Isolate, Item: "seacock"}))
	assert.Contains(t, clash(t, refused(t, l, record.Stripped, strips(strip.Act{Do: strip.Start}))), "not ready to start")
}

// What stands in the way keeps a job open, unless somebody says in words why it ends all the same.
func TestAJobDoesNotEndOverAShutSeacock(t *testing.T) {
	yes := true
	l := opened().and(record.Stripped, strips(strip.Act{Do: strip.Isolate, Item: "seacock"}))
	end := record.Body{Explains: &yes, Words: "home"}
	require.NotEmpty(t, fold(t, l).Standing(engine(catalogue(t))))
	assert.Contains(t, clash(t, refused(t, l, record.Closed, end)), "still stands in the way")
	end.Despite = "laid up ashore, tagged"
	require.NoError(t, refused(t, l, record.Closed, end))
	assert.Contains(t, clash(t, refused(t, opened(), record.Reopened, record.Body{})), "open already")
}

// Rubber that a flush brings out is a piece of the ledger, as one found by hand.
func TestRubberOutOfAFlushIsAPieceFound(t *testing.T) {
	out := wet.Act{Do: wet.CameOut, Work: "w", What: wet.Rubber, Station: "exchanger", Share: 0.6}
	j := fold(t, opened().and(record.Wetted, record.Body{Wet: &wet.Act{Do: wet.PlanIt, Work: "w", Kind: wet.Flushing, Flush: &wet.FlushPlan{}}}).and(record.Wetted, record.Body{Wet: &out}))
	ledger := j.Strip.Ledger
	require.Len(t, ledger.Pieces, 1)
	assert.Equal(t, "exchanger", ledger.Pieces[0].Station)
	assert.InDelta(t, 0.6, ledger.Pieces[0].Share, 0)
}

func TestWhatTheOtherRoomsAreToldOfAnEngine(t *testing.T) {
	c := catalogue(t)
	closed, raw := engine(c), direct(c)
	assert.True(t, closed.StripEngine().Closed)
	assert.False(t, closed.StripEngine().Petrol)
	assert.True(t, raw.StripEngine().Petrol)
	list := closed.RawStations(c)
	assert.Less(t, slices.Index(list, "strainer"), slices.Index(list, "raw-pump"), "in the order of the water")
	assert.NotContains(t, list, "circ-pump")
	assert.NotContains(t, closed.RawStations(c), "block")
	assert.Contains(t, raw.RawStations(c), "block")
}

// The log of an engine names every fact that was changed, in figures that can be read.
func TestFactsAreNamedForTheLog(t *testing.T) {
	cooling := record.Cooling{Aspiration: "turbo", RawLMin: 64, Rating: &record.MakersRating{HeatKW: 60, CoolantLMin: 100, CoolantInC: 85, RawLMin: 70, RawInC: 20}, Tubes: &record.Tubes{Tubes: 60, Passes: 2, InnerMM: 6, OuterMM: 8, LengthMM: 400}}
	said := map[string]string{}
	for _, f := range append(cooling.Fields(), record.Dates{Descaled: "2026-05-04"}.Fields()...) {
		said[f[0]] = f[1]
	}
	assert.Equal(t, "turbo", said["aspiration"])
	assert.Equal(t, "64", said["raw_l_min"])
	assert.Empty(t, said["ua_w_k"], "what is not known is nothing")
	assert.Equal(t, "60 kW from 100 L/min of coolant at 85 °C to 70 L/min of raw water at 20 °C", said["exchanger_rating"])
	assert.Equal(t, "60 tubes, 2 passes, 6/8 mm, 400 mm long", said["exchanger_tubes"])
	assert.Equal(t, "2026-05-04", said["descaled"])
	assert.Contains(t, said, "impeller_fitted")
	empty := record.Cooling{}.Fields()
	for i, f := range cooling.Fields() {
		assert.Equal(t, f[0], empty[i][0], "the same fields in the same order, so that two can be laid side by side")
	}
}
