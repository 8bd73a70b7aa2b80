package handlers

import (
	"context"
	"math"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/recording"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/units"
)

// drawnPoints is how many points of a place are drawn at most.
const drawnPoints = 800

// recordingHandlers answer for recordings.
type recordingHandlers struct{ recordings *recording.Recordings }

func provingActOf(a api.ProvingAct) *proving.Act {
	out := &proving.Act{Do: string(a.Do), Run: a.Run, Where: string(api.Value(a.Where)), How: string(api.Value(a.How)),
		Stage: string(api.Value(a.Stage)),
		Water: api.Value(a.Water), Seconds: api.Value(a.Seconds),
		Bubbles: string(
			api.Value(a.Bubbles),
		), Joint: api.Value(a.Joint), Station: api.Value(a.Station), State: string(api.Value(a.State)),
		OK: api.Value(a.Ok), GaugeC: a.GaugeC, ProbeC: a.ProbeC,
		Minutes: api.Value(a.Minutes), TopRPM: api.Value(a.TopRpm), Held: api.Value(a.Held), Words: api.Value(a.Words)}
	if a.Recording != nil {
		out.Warmed = &proving.Warmed{Recording: *a.Recording}
	}
	return out
}

func provingActView(a proving.Act) *api.ProvingAct {
	out := &api.ProvingAct{Do: api.ProvingVerb(a.Do), Run: a.Run, Where: api.Some(api.RunWhere(a.Where)),
		How: api.Some(
			api.RunHow(a.How),
		), Stage: api.Some(api.RunStageID(a.Stage)), Water: api.Some(a.Water), Seconds: api.Some(a.Seconds),
		Bubbles: api.Some(api.ProvingActBubbles(a.Bubbles)), Joint: api.Some(a.Joint), Station: api.Some(a.Station),
		State: api.Some(api.JointState(a.State)), Ok: api.Some(a.OK), GaugeC: a.GaugeC, ProbeC: a.ProbeC,
		Minutes: api.Some(
			a.Minutes,
		), TopRpm: api.Some(a.TopRPM), Held: api.Some(a.Held), Outcome: api.Some(api.RunOutcome(a.Outcome)),
		Words: api.Some(a.Words)}
	if a.Warmed != nil {
		out.Recording = &a.Warmed.Recording
	}
	return out
}

func provingPageView(system units.System, p job.ProvingPage) api.ProvingPage {
	return api.ProvingPage{Runs: api.Each(p.Runs, func(r job.RunPage) api.ProvingRun { return runView(system, r) }),
		Recordings: api.Each(p.Recordings, recordingKeptView),
		HasFeed:    p.HasFeed}
}

func runView(system units.System, r job.RunPage) api.ProvingRun {
	out := api.ProvingRun{Id: r.ID, Where: api.RunWhere(r.Where), How: api.Some(api.RunHow(r.How)),
		BegunBy: r.Begun.By, BegunAt: r.Begun.At,
		Cold: leaksView(r.Cold), Hot: leaksView(r.Hot),
		Stages: api.Each(r.Stages, func(s proving.Stage) api.RunStage { return stageView(system, s) }),
		Joints: api.Each(r.Joints, func(j proving.Joint) api.Joint {
			return api.Joint{Id: j.ID, Label: j.Label,
				Station: j.Station}
		}),
		Outcome: api.RunOutcome(r.Outcome), Against: r.Against, Open: r.Open(),
		Gains: api.Each(r.Gains, func(g job.Gained) api.Gained {
			return api.Gained{Label: g.Label, Before: g.Before, BeforeError: g.BeforeError, After: g.After,
				AfterError: g.AfterError, Ratio: g.Ratio}
		}),
		Rounds: api.Each(r.Rounds, func(x eventlog.RoundMade) string { return x.From.Entry })}
	if r.Warmed != nil {
		out.Warmed = warmedView(system, r.Warmed.Warmed)
	}
	if n := r.Needle; n != nil {
		out.Needle = &api.NeedleHeld{Minutes: n.Minutes, GaugeC: *n.GaugeC, ProbeC: n.ProbeC}
	}
	if l := r.Load; l != nil {
		out.Load = &api.LoadHeld{Minutes: l.Minutes, TopRpm: l.TopRPM, Held: l.Held}
	}
	if r.NextDay != nil {
		out.NextDayDry = &r.NextDay.OK
	}
	out.Signed, out.Dropped = runEndView(r.Signed), runEndView(r.Dropped)
	return out
}

func runEndView(d *proving.Done) *api.RunEnd {
	if d == nil {
		return nil
	}
	return &api.RunEnd{By: d.By, At: d.At, EntryId: d.Entry, Words: d.Words}
}

func leaksView(l proving.Leaks) api.RunLeaks {
	return api.RunLeaks{Smelt: l.Smelt, BilgeDry: l.Bilge, Joints: api.Each(l.Joints,
		func(j proving.JointLooked) api.JointLooked {
			return api.JointLooked{Joint: j.Joint, State: api.JointState(j.State), Words: j.Words, By: j.By, At: j.At}
		})}
}

func stageView(system units.System, s proving.Stage) api.RunStage {
	return api.RunStage{Id: api.RunStageID(s.ID), Label: s.Label, Standing: api.Standing(s.Standing), Do: api.List(s.Do),
		Cautions: api.List(s.Cautions), Why: s.Why,
		Criteria: api.Each(s.Criteria, func(c proving.Criterion) api.RunCriterion {
			return api.RunCriterion{Id: c.ID, Label: c.Label, Standing: api.Standing(c.Standing),
				Say: c.Say.In(system)}
		})}
}

func warmedView(system units.System, w *proving.Warmed) *api.RunWarmed {
	if w == nil {
		return nil
	}
	return &api.RunWarmed{Recording: w.Recording, Load: api.RunLoad(w.Load), Verdict: api.RunVerdict(w.Verdict),
		OpenedC: w.OpenedC, PlateauC: w.PlateauC, SlopeCMin: w.Slope,
		OvershootC: w.Overshoot, SteadyAfterS: w.SteadyS, GaugeOffC: w.GaugeOffC, Reasons: Said(system, w.Reasons)}
}

func recordingKeptView(r eventlog.StoredRecording) api.StoredRecording {
	return api.StoredRecording{Id: r.ID, Source: api.StoredRecordingSource(r.Source), Name: r.Name, Open: r.Ended == nil,
		Rows: r.Rows, Seconds: r.Seconds,
		LeftOut: api.Each(r.Left, func(l eventlog.LeftOut) api.LeftOut {
			return api.LeftOut{Why: l.Why, Count: l.Count,
				Line: l.Line}
		}), By: r.From.By, At: r.From.At, EntryId: r.From.Entry}
}

// PlaceView is a place, as the contract tells it.
func PlaceView(p proving.Place) api.Place {
	return api.Place{Station: p.Station, Side: api.Some(api.PlaceSide(p.Side))}
}

// PlaceOf is a place as the contract tells it.
func PlaceOf(p api.Place) proving.Place {
	return proving.Place{Station: p.Station, Side: string(api.Value(p.Side))}
}

// OfferedView is a place that readings may be of, as the contract tells it.
func OfferedView(p proving.Place) api.OfferedPlace {
	return api.OfferedPlace{Place: PlaceView(p), Unit: p.Unit()}
}

// milli leaves out what no sender tells.
func milli(v float64) float64 { return math.Round(1000*v) / 1000 }

// trackView is a track thinned to so many points at most; its breaks are those of the whole.
func trackView(t proving.Track, most int) api.Track {
	thin := t.Thin(most)
	out := api.Track{
		Place:   PlaceView(t.Place),
		Seconds: api.Each(thin.Seconds, milli),
		Values:  api.Each(thin.Values, milli),
		Breaks:  api.Each(t.Breaks(), milli),
	}
	if t.Len() > 2 {
		out.GapS = api.Some(t.GapAfterS())
	}
	return out
}

// Drawn is a track as it is drawn: thinned to at most drawnPoints.
func Drawn(t proving.Track) api.Track { return trackView(t, drawnPoints) }

// AlarmLineView is a limit of an alarm, as the contract tells it.
func AlarmLineView(l readings.AlarmLine) api.AlarmLine {
	return api.AlarmLine{Place: PlaceView(l.Place), At: l.At, Label: l.Label, Stop: l.Stop}
}

func analysisView(system units.System, a proving.Analysis) api.RunAnalysis {
	out := api.RunAnalysis{Samples: a.Samples, Load: api.RunLoad(a.Load), Verdict: api.RunVerdict(a.Verdict),
		Reasons: Said(system, a.Reasons), NowC: a.NowC, SlopeNowCMin: a.SlopeNow, ToRatingMin: a.ToRatingMin,
		OpenedC: a.OpenedC, OpenedAtS: a.OpenedAtS, PlateauC: a.PlateauC, PlateauFromS: a.PlateauFromS,
		PlateauToS: a.PlateauToS, SlopeCMin: a.SlopeCMin, SlopeErrorCMin: a.SlopeErrorC,
		WarmUpCMin: a.WarmUpCMin, OvershootC: a.OvershootC, SteadyAfterS: a.SteadyAfterS, GaugeOffC: a.GaugeOffC,
		GaugeOffErrorC: a.GaugeOffError,
		CruiseMinutes:  a.CruiseMinutes, TopRpm: a.TopRPM, OverAlarm: a.OverAlarm}
	if out.Load == "" {
		out.Load = api.RunLoad(proving.Idle)
	}
	if a.Place.Station != "" {
		place := PlaceView(a.Place)
		out.Place = &place
	}
	return out
}

func (h *recordingHandlers) GetRecording(ctx context.Context,
	r api.GetRecordingRequestObject) (api.GetRecordingResponseObject, error) {
	p, err := h.recordings.Recording(ctx, r.JobId, r.RecordingId)
	if err != nil {
		return nil, err
	}
	return api.GetRecording200JSONResponse{Kept: recordingKeptView(p.StoredRecording), Tracks: api.Each(p.Tracks, Drawn),
		Analysis: analysisView(SystemIn(ctx), p.Analysis),
		Limits:   api.Each(p.Limits, AlarmLineView), Gaps: p.Gaps, Seconds: p.Length}, nil
}
