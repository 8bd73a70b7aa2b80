package server

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

// recordingHandlers answer for recordings.
type recordingHandlers struct{ recordings *recording.Recordings }

func provingActOf(a api.ProvingAct) *proving.Act {
	out := &proving.Act{Do: string(a.Do), Run: a.Run, Where: string(value(a.Where)), How: string(value(a.How)),
		Stage: string(value(a.Stage)),
		Water: value(a.Water), Seconds: value(a.Seconds),
		Bubbles: string(value(a.Bubbles)), Joint: value(a.Joint), Station: value(a.Station), State: string(value(a.State)),
		OK: value(a.Ok), GaugeC: a.GaugeC, ProbeC: a.ProbeC,
		Minutes: value(a.Minutes), TopRPM: value(a.TopRpm), Held: value(a.Held), Words: value(a.Words)}
	if a.Recording != nil {
		out.Warmed = &proving.Warmed{Recording: *a.Recording}
	}
	return out
}

func provingActView(a proving.Act) *api.ProvingAct {
	out := &api.ProvingAct{Do: api.ProvingVerb(a.Do), Run: a.Run, Where: some(api.RunWhere(a.Where)),
		How: some(api.RunHow(a.How)), Stage: some(api.RunStageID(a.Stage)), Water: some(a.Water), Seconds: some(a.Seconds),
		Bubbles: some(api.ProvingActBubbles(a.Bubbles)), Joint: some(a.Joint), Station: some(a.Station),
		State: some(api.JointState(a.State)), Ok: some(a.OK), GaugeC: a.GaugeC, ProbeC: a.ProbeC,
		Minutes: some(a.Minutes), TopRpm: some(a.TopRPM), Held: some(a.Held), Outcome: some(api.RunOutcome(a.Outcome)),
		Words: some(a.Words)}
	if a.Warmed != nil {
		out.Recording = &a.Warmed.Recording
	}
	return out
}

func provingPageView(system units.System, p job.ProvingPage) api.ProvingPage {
	return api.ProvingPage{Runs: each(p.Runs, func(r job.RunPage) api.ProvingRun { return runView(system, r) }),
		Recordings: each(p.Recordings, recordingKeptView),
		HasFeed:    p.HasFeed}
}

func runView(system units.System, r job.RunPage) api.ProvingRun {
	out := api.ProvingRun{Id: r.ID, Where: api.RunWhere(r.Where), How: some(api.RunHow(r.How)),
		BegunBy: r.Begun.By, BegunAt: r.Begun.At,
		Cold: leaksView(r.Cold), Hot: leaksView(r.Hot),
		Stages: each(r.Stages, func(s proving.Stage) api.RunStage { return stageView(system, s) }),
		Joints: each(r.Joints, func(j proving.Joint) api.Joint {
			return api.Joint{Id: j.ID, Label: j.Label,
				Station: j.Station}
		}),
		Outcome: api.RunOutcome(r.Outcome), Against: r.Against, Open: r.Open(),
		Gains: each(r.Gains, func(g job.Gained) api.Gained {
			return api.Gained{Label: g.Label, Before: g.Before, BeforeError: g.BeforeError, After: g.After,
				AfterError: g.AfterError, Ratio: g.Ratio}
		}),
		Rounds: each(r.Rounds, func(x eventlog.RoundMade) string { return x.From.Entry })}
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
	return api.RunLeaks{Smelt: l.Smelt, BilgeDry: l.Bilge, Joints: each(l.Joints,
		func(j proving.JointLooked) api.JointLooked {
			return api.JointLooked{Joint: j.Joint, State: api.JointState(j.State), Words: j.Words, By: j.By, At: j.At}
		})}
}

func stageView(system units.System, s proving.Stage) api.RunStage {
	return api.RunStage{Id: api.RunStageID(s.ID), Label: s.Label, Standing: api.Standing(s.Standing), Do: list(s.Do),
		Cautions: list(s.Cautions), Why: s.Why,
		Criteria: each(s.Criteria, func(c proving.Criterion) api.RunCriterion {
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
		OvershootC: w.Overshoot, SteadyAfterS: w.SteadyS, GaugeOffC: w.GaugeOffC, Reasons: said(system, w.Reasons)}
}

func recordingKeptView(r eventlog.StoredRecording) api.StoredRecording {
	return api.StoredRecording{Id: r.ID, Source: api.StoredRecordingSource(r.Source), Name: r.Name, Open: r.Ended == nil,
		Rows: r.Rows, Seconds: r.Seconds,
		LeftOut: each(r.Left, func(l eventlog.LeftOut) api.LeftOut {
			return api.LeftOut{Why: l.Why, Count: l.Count,
				Line: l.Line}
		}), By: r.From.By, At: r.From.At, EntryId: r.From.Entry}
}

func placeView(p proving.Place) api.Place {
	return api.Place{Station: p.Station, Side: some(api.PlaceSide(p.Side))}
}

func placeOf(p api.Place) proving.Place {
	return proving.Place{Station: p.Station, Side: string(value(p.Side))}
}

func offeredView(p proving.Place) api.OfferedPlace {
	return api.OfferedPlace{Place: placeView(p), Unit: p.Unit()}
}

// milli leaves out what no sender tells.
func milli(v float64) float64 { return math.Round(1000*v) / 1000 }

// trackView is a track thinned to so many points at most; its breaks are those of the whole.
func trackView(t proving.Track, most int) api.Track {
	thin := t.Thin(most)
	out := api.Track{Place: placeView(t.Place), Seconds: each(thin.Seconds, milli), Values: each(thin.Values, milli),
		Breaks: each(t.Breaks(), milli)}
	if t.Len() > 2 {
		out.GapS = some(t.GapAfterS())
	}
	return out
}

func drawn(t proving.Track) api.Track { return trackView(t, drawnPoints) }

func alarmLineView(l readings.AlarmLine) api.AlarmLine {
	return api.AlarmLine{Place: placeView(l.Place), At: l.At, Label: l.Label, Stop: l.Stop}
}

func analysisView(system units.System, a proving.Analysis) api.RunAnalysis {
	out := api.RunAnalysis{Samples: a.Samples, Load: api.RunLoad(a.Load), Verdict: api.RunVerdict(a.Verdict),
		Reasons: said(system, a.Reasons), NowC: a.NowC, SlopeNowCMin: a.SlopeNow, ToRatingMin: a.ToRatingMin,
		OpenedC: a.OpenedC, OpenedAtS: a.OpenedAtS, PlateauC: a.PlateauC, PlateauFromS: a.PlateauFromS,
		PlateauToS: a.PlateauToS, SlopeCMin: a.SlopeCMin, SlopeErrorCMin: a.SlopeErrorC,
		WarmUpCMin: a.WarmUpCMin, OvershootC: a.OvershootC, SteadyAfterS: a.SteadyAfterS, GaugeOffC: a.GaugeOffC,
		GaugeOffErrorC: a.GaugeOffError,
		CruiseMinutes:  a.CruiseMinutes, TopRpm: a.TopRPM, OverAlarm: a.OverAlarm}
	if out.Load == "" {
		out.Load = api.RunLoad(proving.Idle)
	}
	if a.Place.Station != "" {
		place := placeView(a.Place)
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
	return api.GetRecording200JSONResponse{Kept: recordingKeptView(p.StoredRecording), Tracks: each(p.Tracks, drawn),
		Analysis: analysisView(systemIn(ctx), p.Analysis),
		Limits:   each(p.Limits, alarmLineView), Gaps: p.Gaps, Seconds: p.Length}, nil
}
