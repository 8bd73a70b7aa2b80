package app_test

import (
	"context"
	"fmt"
	"net"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/core/datalog"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/live"
	"hevrin/simulator"
)

var thermostat = proving.Place{Station: "thermostat", Side: "coolant"}

// onARig is a twin whose gateway is a simulator at 2400 rev/min, 60 times as fast as the clock.
func onARig(t *testing.T, s *shop, faults map[string]float64) (engine, job string) {
	t.Helper()
	t.Cleanup(s.Close)
	engine, _, job, _ = twins(t, s)
	known := plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, ThermostatC: 82,
		Circuit: twinCircuit}
	r, err := simulator.New(simulator.Script{Engine: known, SeaC: 15, SpaceC: 30, StartC: 80, Speed: 60, EveryS: 2,
		Seed: 4, Faults: faults, Phases: []simulator.Phase{{RPM: 2400}}})
	require.NoError(t, err)
	require.NoError(t, r.Advance(3600)) // at rest
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() { defer func() { done <- struct{}{} }(); assert.NoError(t, r.Serve(ctx, l)) }()
	t.Cleanup(func() { cancel(); <-done })
	feed := eventlog.Feed{Address: l.Addr().String()}
	for channel, at := range simulator.Places {
		feed.Channels = append(feed.Channels, eventlog.FeedChannel{Channel: channel, Place: proving.Place{Station: at[0],
			Side: at[1]}})
	}
	_, err = s.SaveFeed(s.ctx, engine, stamp(), feed)
	require.NoError(t, err)
	return engine, job
}

func recordingBody(do, id string) eventlog.Body {
	return eventlog.Body{Recording: &eventlog.Recording{ID: id, Do: do, Source: eventlog.FromFeed}}
}

// until waits for the recording to show what is wanted.
func (s *shop) until(job, id string, want func(*recording.RecordingPage) bool) *recording.RecordingPage {
	s.t.Helper()
	var p *recording.RecordingPage
	require.Eventually(s.t, func() bool {
		var err error
		p, err = s.Recording(s.ctx, job, id)
		return err == nil && want(p)
	}, time.Minute, 50*time.Millisecond)
	return p
}

func TestAFeedIsRecordedAndARoundTakenOfIt(t *testing.T) {
	s := newShop(t)
	engine, job := onARig(t, s, nil)
	heard, err := s.Live(s.ctx, engine, "")
	require.NoError(t, err)
	assert.Contains(t, heard.Places, thermostat)
	id := uuid.NewString()
	s.note(job, eventlog.Recorded, recordingBody(eventlog.RecordingBegun, id))
	p := s.until(job, id, func(p *recording.RecordingPage) bool { return p.Length > 420 && p.Analysis.PlateauC != nil })
	assert.Equal(t, proving.Steady, p.Analysis.Verdict, "%v", p.Analysis.Reasons)
	assert.InDelta(t, 2400, *p.Analysis.TopRPM, 30)
	assert.Len(t, p.Tracks, len(simulator.Places))
	assert.NotEmpty(t, p.Limits)

	r, err := s.RoundFromFeed(s.ctx, engine)
	require.NoError(t, err)
	assert.Empty(t, r.Unquiet)
	assert.InDelta(t, 15, r.Round.SeaC, 0.1)
	page := s.note(job, eventlog.RoundTaken, eventlog.Body{Round: &r.Round})
	require.NotNil(t, page.Health)
	for _, l := range page.Health.Patterns {
		assert.Less(t, l.Ratio, plant.SaysFound, l.ID)
	}

	// a second sending of the same end is one end, though more was read meanwhile
	end := stamp()
	for range 2 {
		_, err = s.NoteInJob(s.ctx, job, eventlog.Recorded, end, recordingBody(eventlog.RecordingEnded, id))
		require.NoError(t, err)
	}
	_, err = s.NoteInJob(s.ctx, job, eventlog.Recorded, end, recordingBody(eventlog.RecordingEnded, "another"))
	require.ErrorContains(t, err, "used before")
	page, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	require.Len(t, page.Proving.Recordings, 1)
	assert.Greater(t, page.Proving.Recordings[0].Seconds, 400.0)
	kept, err := s.Recording(s.ctx, job, id)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, kept.Length, p.Length, "what was shown is kept")

	// its end taken back, it goes on
	_, err = s.Undo(s.ctx, end.EntryID, stamp())
	require.NoError(t, err)
	s.until(job, id, func(p *recording.RecordingPage) bool { return p.Length > kept.Length+60 })
	s.note(job, eventlog.Closed, close("strainer-clogged"))
	page, err = s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.NotNil(t, page.Proving.Recordings[0].Ended, "a closed job records nothing more")
}

// A program that is stopped and started again goes on with what it recorded, in order, with a gap.
func TestARecordingGoesOnAfterAStop(t *testing.T) {
	s := newShop(t)
	_, job := onARig(t, s, nil)
	id := uuid.NewString()
	s.note(job, eventlog.Recorded, recordingBody(eventlog.RecordingBegun, id))
	s.until(job, id, func(p *recording.RecordingPage) bool { return p.Length > 120 })
	s.Close()
	before, err := s.Recording(s.ctx, job, id)
	require.NoError(t, err)
	s.Restart()
	require.NoError(t, s.Resume(s.ctx))
	after := s.until(job, id, func(p *recording.RecordingPage) bool { return p.Length > before.Length+60 })
	for _, x := range after.Tracks {
		for i := 1; i < x.Len(); i++ {
			require.Greater(t, x.Seconds[i], x.Seconds[i-1], "%s", x.Place)
		}
	}
}

func TestFeedsAndRecordingsThatDoNotFit(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	engine, _, job, _ := twins(t, s)
	for name, f := range map[string]eventlog.Feed{
		"no address": {Address: "gateway"},
		"no such place": {Address: "127.0.0.1:1", Channels: []eventlog.FeedChannel{{Channel: "a",
			Place: proving.Place{Station: "galley"}}}},
		"one place twice": {Address: "127.0.0.1:1", Channels: []eventlog.FeedChannel{{Channel: "a", Place: thermostat},
			{Channel: "b", Place: thermostat}}},
		"far off": {Address: "127.0.0.1:1", Channels: []eventlog.FeedChannel{{Channel: "a", Place: thermostat,
			Offset: 9999}}},
	} {
		_, err := s.SaveFeed(s.ctx, engine, stamp(), f)
		require.Error(t, err, name)
	}
	_, err := s.NoteInJob(s.ctx, job, eventlog.Recorded, stamp(), recordingBody(eventlog.RecordingBegun, "r"))
	require.ErrorContains(t, err, "no feed yet")
	page, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Empty(t, page.Proving.Recordings, "nothing was kept")
	_, err = s.NoteInJob(s.ctx, job, eventlog.Recorded, stamp(), recordingBody(eventlog.RecordingEnded, "r"))
	require.ErrorContains(t, err, "not on this job")
	_, err = s.Recording(s.ctx, job, "r")
	require.ErrorIs(t, err, record.ErrNotFound)
	_, err = s.RoundFromFeed(s.ctx, engine)
	require.Error(t, err)
	assert.Error(t, live.CheckAddress(""))
}

// warmUp is a logger's file of a warm-up that settles at a temperature.
func warmUp(settles float64) []byte {
	var b strings.Builder
	b.WriteString("Time (s);Coolant (°C);rpm\n")
	for at := 0.0; at <= 2400; at += 10 {
		fmt.Fprintf(&b, "%.0f;%.1f;2400\n", at, min(20+at/12, settles))
	}
	b.WriteString("2410;broken\n")
	return []byte(b.String())
}

func TestALoggersFileIsTakenIn(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	engine, _, job, _ := twins(t, s)
	raw := warmUp(84)
	look, err := s.PreviewDatalog(s.ctx, engine, raw)
	require.NoError(t, err)
	assert.Equal(t, thermostat, *look.Columns[1].Guess)
	m := datalog.Mapping{Time: 0, Columns: []datalog.Mapped{{Column: 1, Place: thermostat},
		{Column: 2, Place: proving.Place{Station: "rpm"}}}}
	once := stamp()
	for range 2 {
		_, err = s.ImportDatalog(s.ctx, job, once, "rec", "run.csv", raw, m)
		require.NoError(t, err)
	}
	p, err := s.Recording(s.ctx, job, "rec")
	require.NoError(t, err)
	assert.Equal(t, proving.Steady, p.Analysis.Verdict)
	assert.InDelta(t, 84, *p.Analysis.PlateauC, 0.2)
	assert.Equal(t, []eventlog.LeftOut{{Why: "not as many columns as the rest", Count: 1, Line: 243}}, p.Left)
	m.Columns[0].Place = proving.Place{Station: "galley"}
	_, err = s.ImportDatalog(s.ctx, job, stamp(), "rec2", "run.csv", raw, m)
	require.ErrorContains(t, err, "no such place")
	page, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.Len(t, page.Proving.Recordings, 1)
}

// A run from the start list to the signature, for an engine that is cured and for one that still has scale in it.
func TestAProvingRunIsSignedAsItCameOut(t *testing.T) {
	for name, c := range map[string]struct {
		ua      float64
		settles float64
		want    string
	}{"cured": {1, 84, proving.Cured}, "still scaled": {0.4, 95, proving.NotCured}} {
		t.Run(name, func(t *testing.T) {
			s := newShop(t)
			t.Cleanup(s.Close)
			_, _, job, _ := twins(t, s)
			ill := plant.Well()
			ill.UA = 0.35
			s.note(job, eventlog.RoundTaken, readAt(t, 2800, ill, nil))
			do := func(a proving.Act) *jobPage {
				a.Run = "run"
				return s.note(job, eventlog.Proved, eventlog.Body{Proving: &a})
			}
			page := do(proving.Act{Do: proving.Begin, Where: proving.Afloat})
			_, err := s.NoteInJob(s.ctx, job, eventlog.Proved, stamp(), eventlog.Body{Proving: &proving.Act{Do: proving.Sign,
				Run: "run"}})
			require.ErrorContains(t, err, "not finished")
			for _, x := range page.Conditions {
				if !x.OK {
					s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: x.Settle, Item: x.Item}})
				}
			}
			s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.Start}})
			page = do(proving.Act{Do: proving.Prime, Water: true, Seconds: 8})
			require.NotEmpty(t, page.Proving.Runs[0].Joints)
			_, err = s.ImportDatalog(s.ctx, job, stamp(), "rec", "run.csv", warmUp(c.settles), datalog.Mapping{Time: 0,
				Columns: []datalog.Mapped{{Column: 1, Place: thermostat}, {Column: 2, Place: proving.Place{Station: "rpm"}}}})
			require.NoError(t, err)
			// what it shows is the program's to say
			do(proving.Act{Do: proving.WarmUp, Warmed: &proving.Warmed{Recording: "rec", Verdict: proving.Steady}})
			gauge := c.settles
			do(proving.Act{Do: proving.Gauge, GaugeC: &gauge, ProbeC: &gauge})
			healed := plant.Well()
			healed.UA = c.ua
			s.note(job, eventlog.RoundTaken, readAt(t, 1000, healed, nil))
			s.note(job, eventlog.RoundTaken, readAt(t, 2800, healed, nil))
			do(proving.Act{Do: proving.Loaded, Minutes: 15, TopRPM: 3000})
			do(proving.Act{Do: proving.Excuse, Stage: proving.ColdLeaks, Words: "Nothing was opened"})
			for _, j := range page.Proving.Runs[0].Joints {
				do(proving.Act{Do: proving.Look, Stage: proving.HotLeaks, Joint: j.ID, Station: j.Station, State: proving.Dry})
			}
			do(proving.Act{Do: proving.Smell, Stage: proving.HotLeaks, OK: true})
			do(proving.Act{Do: proving.Bilge, OK: true})
			page = do(proving.Act{Do: proving.Codes})
			run := page.Proving.Runs[0]
			for _, stage := range run.Stages {
				t.Log(stage.ID, stage.Standing, stage.Criteria)
			}
			require.NotEmpty(t, run.Gains, "before and after")
			page = do(proving.Act{Do: proving.Sign})
			assert.Equal(t, c.want, page.Proving.Runs[0].Outcome)
			assert.Equal(t, "T", page.Proving.Runs[0].Signed.By)
			above := 0.0
			for _, f := range page.Job.Findings {
				if f.ID == "plateau-above-rating" {
					above = f.Q
				}
			}
			assert.Equal(t, c.want == proving.NotCured, above > 0.5, "a run that fails leads back into the trace")
		})
	}
}

// jobPage has a name that no variable hides.
type jobPage = job.Page

// Once what was found is put right and its run begun, the job's suspects go by what was read since; what was found stays
// on its line. A run that nothing was put right before is one more look.
func TestTheSuspectsGoByWhatWasReadSinceTheRepair(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	s.note(job, eventlog.Found, says(eventlog.Present, "hot-under-load", "weak-water-at-outlet"))
	found := s.note(job, eventlog.Checked, eventlog.Body{Check: "strainer-look", Outcome: eventlog.Done,
		Stated: []eventlog.Stated{{ID: "debris-in-strainer", State: eventlog.Present}}})
	require.Equal(t, []string{"strainer-clogged"}, found.Answer.Found)
	asks := func(n diagnosis.NextCheck) bool { return n.Check == "ask-panel" }
	assert.True(t, slices.ContainsFunc(found.Answer.NextChecks, asks), "is anything else wrong?")
	begin := func(run string) eventlog.Body {
		return eventlog.Body{Proving: &proving.Act{Do: proving.Begin, Run: run, Where: proving.Afloat}}
	}
	page := s.note(job, eventlog.Proved, begin("a"))
	assert.Nil(t, page.Since, "nobody put it right")
	assert.Equal(t, found.Answer.Found, page.Answer.Found)
	s.note(job, eventlog.Proved, eventlog.Body{Proving: &proving.Act{Do: proving.Drop, Run: "a", Words: "too early"}})

	s.hands(job, teardown.Act{Do: teardown.PutRight, Item: "strainer-clogged"})
	page = s.note(job, eventlog.Proved, begin("b"))
	require.NotNil(t, page.Since)
	assert.Equal(t, []string{"strainer-clogged"}, page.Repaired)
	assert.Empty(t, page.Answer.Found)
	assert.Equal(t, []string{"strainer-clogged"}, page.Card.Faults, "what was wrong stays on its line")
	assert.Less(t, page.Answer.Suspects[0].Probability, 0.2, "and nothing points anywhere yet")
	page = s.note(job, eventlog.Found, says(eventlog.Present, "no-water-at-outlet"))
	assert.NotEqual(t, "strainer-clogged", page.Answer.Suspects[0].Fault)
	page = s.note(job, eventlog.Checked, eventlog.Body{Check: "impeller-look", Outcome: eventlog.Done,
		Stated: []eventlog.Stated{{ID: "blades-missing", State: eventlog.Present}}})
	assert.Equal(t, []string{"impeller-vanes-missing"}, page.Answer.Found)
	assert.Equal(t, []string{"strainer-clogged", "impeller-vanes-missing"}, page.Card.Faults)
	assert.False(t, slices.ContainsFunc(page.Answer.NextChecks, asks), "what was told of is a run before the repair")
}

// Of what was found the engine's own model says whether it explains the heat; how far it had gone is said in one touch,
// or measured on the workbench.
func TestWhatWasFoundIsHeldAgainstTheHeatThatWasComplainedOf(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	elbow := eventlog.Body{Check: "elbow-look", Outcome: eventlog.Done,
		Stated: []eventlog.Stated{{ID: "elbow-narrowed", State: eventlog.Present}}}
	page := s.note(job, eventlog.Checked, elbow)
	assert.Empty(t, page.Enough, "nobody complained of heat")
	page = s.note(job, eventlog.Found, says(eventlog.Present, "hot-under-load"))
	require.Len(t, page.Enough, 1)
	assert.Nil(t, page.Enough[0].Share)
	page = s.note(job, eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.SetElbow,
		Elbow: &teardown.Elbow{BoreMM: 50, NewBoreMM: 80}}})
	require.NotNil(t, page.Enough[0].Share)
	assert.InDelta(t, 0.375, *page.Enough[0].Share, 1e-9, "as it was measured")
	assert.Equal(t, plant.PartOfIt, page.Enough[0].Verdict)
	s.hands(job, teardown.Act{Do: teardown.HowFar, Item: "elbow-choked", Share: 0.7})
	page, err := s.Job(s.ctx, job)
	require.NoError(t, err)
	assert.InDelta(t, 0.7, *page.Enough[0].Share, 1e-9, "as somebody said")
}
