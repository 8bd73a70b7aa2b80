package practice

import (
	"fmt"
	"math"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/plant"
	"hevrin/core/proving"
)

// Run is what a proving run shows, by hand and watch, and by the probes of a gateway.
type Run struct {
	WaterAfterS float64 // s; 0: none within the limit, and it was stopped at once: no temperatures
	GaugeC      float64 // where the needle stood at the end of the cruise, °C, or when it was taken back before
	ProbeC      float64 // … and a thermometer at the sender
	FullC       float64 // the most that the needle showed at full speed; 0: it was taken back before
	IdleC       float64 // where the needle stood at idle in the end; 0: it was taken back
	TopShare    float64 // of the rated speed
	TakenBackS  float64 // it was taken back, too hot, so many s after the start; 0: it was not
	Smell       bool    // nothing smelt or heard
	Dry         bool    // every joint, and the bilge
	Seen        []Seen  // what shows of it as findings, present ones alone
	// Tracks are what the gateway's probes told: speed, needle, coolant, raw water. None of a run that was stopped.
	Tracks []proving.Track

	fullCoolantC, idleCoolantC float64
}

// The tracks of a run.
var runPlaces = []proving.Place{{Station: "rpm"}, {Station: "gauge"}, {Station: "thermostat", Side: "coolant"},
	{Station: "flow"}}

// How a run reads, common practice: how far over its rating a hot engine is at cruising speed, and how far under one
// whose thermostat stands open, where the model cannot say; when the water comes; what is reached of full speed.
const (
	runsOver, runsUnder = 22.0, 18.0
	waterUsualS         = 8.0
	waterLateS          = 24.0
	topShort            = 0.85
	stoppedMinutes      = 3.0
	healthyOver         = 2.0  // K over the rating: an engine just stopped
	tooHotOver          = 18.0 // K over the rating: nobody holds it there
)

// stretch is a part of a run, up to a minute of it, at a share of the rated speed.
type stretch struct {
	until     float64
	share     float64
	outOfGear bool
}

// runPlan is how a proving run goes: idle, warm up, ten minutes and more of cruise, full speed, idle.
var runPlan = []stretch{{2, idleShare, true}, {5, 0.5, false}, {15, cruiseShare, false}, {20, 1, false},
	{proofMinutes, idleShare, true}}

// Of them, by their places.
const (
	cruising = 2
	atFull   = 3
)

// Of the run: a step of the model, between two points of a track, and over what the needle is read, all in s; the noise
// of the flow meter, a share of what it shows.
const (
	runStepS = 5.0
	runTellS = 10.0
	runHeldS = 120.0
	// A heat beside the model comes and goes with the block: its time constant.
	besideLagS = 90.0
	minuteS    = 60.0
	flowNoise  = 0.01
)

// Prove runs the engine and reads it with care: only what a fault causes shows, nothing by chance.
func (w *World) Prove() (Run, error) {
	if w.over {
		return Run{}, refuse("prove", "", "this practice is over: begin another")
	}
	w.before(catalogue.Check{Engine: catalogue.Running})
	if w.over {
		return Run{}, nil
	}
	r := Run{WaterAfterS: waterUsualS, TopShare: w.heatOf(w.left).top}
	for _, f := range w.c.Findings {
		if w.atProof(f) {
			r.Seen = append(r.Seen, Seen{f.ID, true, 0})
		}
	}
	r.Smell = !r.sees("gas-in-engine-space", "steam-at-outlet")
	r.Dry = !r.sees("bilge-water-salt", "bilge-water-coolant", "drip-at-weep-hole", "coolant-disappears",
		"rust-spray-line")
	if r.sees("no-water-at-outlet") {
		r.WaterAfterS, r.TopShare = 0, 0
		w.step(Step{Do: Proof, Minutes: stoppedMinutes, Seen: r.Seen})
		return r, nil
	}
	if r.sees("slow-to-prime", "weak-water-at-outlet") {
		r.WaterAfterS = waterLateS
	}
	if err := w.follow(&r); err != nil {
		return r, err
	}
	rating := w.Facts().ThermostatC
	hot := r.TakenBackS > 0 || r.ProbeC-rating > proving.UsualAbove[proving.Cruise] ||
		r.fullCoolantC-rating > proving.UsualAbove[proving.Full] ||
		r.idleCoolantC-rating > proving.UsualAbove[proving.Idle]
	if hot && !r.sees(hotSigns...) { // what the model shows is seen as well
		r.Seen = append(r.Seen, Seen{hotSigns[0], true, 0})
	}
	w.step(Step{Do: Proof, Minutes: proofMinutes, Seen: r.Seen})
	w.hotAt = w.Minutes
	return r, nil
}

// Track is what the gateway told of a station; empty where it told nothing.
func (r *Run) Track(station string) proving.Track {
	for _, t := range r.Tracks {
		if t.Station == station {
			return t
		}
	}
	return proving.Track{}
}

// sees says whether one of some findings shows in the run.
func (r *Run) sees(ids ...string) bool {
	return slices.ContainsFunc(r.Seen, func(s Seen) bool { return slices.Contains(ids, s.Finding) })
}

// atProof says whether a finding shows in a proof: what readings tell, what an owner would see of heat and water, and
// what the owner told.
func (w *World) atProof(f catalogue.Finding) bool {
	if f.ID == "good-water-at-outlet" || f.ID == "sister-engine-normal" {
		return false
	}
	read := f.Source == catalogue.Reading || complaint(f) ||
		f.Source == catalogue.Complaint && slices.Contains(w.Told, f.ID)
	return read && w.caused(f.ID, w.left)
}

// follow follows the engine through a run, minute by minute, as the probes of a gateway tell it. It is taken back to
// idle where it gets too hot.
func (w *World) follow(r *Run) error {
	p, err := w.plant()
	if err != nil {
		return err
	}
	health, err := ailing(p, w.hidden())
	if err != nil {
		return err
	}
	f, more := w.Facts(), w.besideOf(p, health)
	space := w.Kind.SeaC + spaceOverSea
	running := p.Running(min(plant.HotC, f.ThermostatC+healthyOver))
	running.Stand(space, (w.Minutes-w.hotAt)*minuteS) // since it last ran
	probes := [...]*plant.Sensor{{}, {}, {}}
	r.Tracks = make([]proving.Track, len(runPlaces))
	for i, place := range runPlaces {
		r.Tracks[i].Place = place
	}
	w.proofs++
	noise := w.source(fmt.Sprint("run ", w.proofs))
	top, extra := r.TopShare, 0.0
	for at := 0.0; at < proofMinutes*minuteS; at += runStepS {
		now := runPlan[slices.IndexFunc(runPlan, func(s stretch) bool { return at < s.until*minuteS })]
		if r.TakenBackS > 0 && at >= r.TakenBackS {
			now.share, now.outOfGear = idleShare, true
		}
		op := w.operation(min(now.share, top), now.outOfGear)
		s, err := running.Step(op, health, runStepS)
		if err != nil {
			return err
		}
		warm := min(1, max(0, (s.BlockC-space)/(f.ThermostatC-space)))
		extra += (more.at(op, f.RatedRPM)*warm - extra) * (1 - math.Exp(-runStepS/besideLagS))
		block := s.BlockC + extra
		needle := probes[0].Follow(block+health.Gauge, runStepS) + plant.SensorNoiseK*noise.NormFloat64()
		coolant := probes[1].Follow(block, runStepS) + plant.SensorNoiseK*noise.NormFloat64()
		flow := probes[2].Follow(s.RawLMin, runStepS) * (1 + flowNoise*noise.NormFloat64())
		if int(at)%int(runTellS) == 0 {
			for i, v := range []float64{op.RPM, needle, coolant, max(0, flow)} {
				r.Tracks[i].Seconds = append(r.Tracks[i].Seconds, at)
				r.Tracks[i].Values = append(r.Tracks[i].Values, v)
			}
		}
		if r.TakenBackS == 0 && (s.Boils || block > f.ThermostatC+tooHotOver) && now.share > idleShare {
			r.TakenBackS = at + runStepS
			r.TopShare = min(cruiseShare, op.RPM/f.RatedRPM) // what it held
		}
	}
	r.held()
	return nil
}

// held takes from the tracks where needle and thermometer stood.
func (r *Run) held() {
	needle, coolant := r.Track("gauge"), r.Track("thermostat")
	cruiseS, fullS := runPlan[cruising].until*minuteS, runPlan[atFull].until*minuteS
	upTo, from := cruiseS, cruiseS-runHeldS
	if r.TakenBackS > 0 && r.TakenBackS < cruiseS {
		upTo, from = r.TakenBackS, r.TakenBackS-runTellS
	} else {
		r.FullC = slices.Max(needle.Window(cruiseS, fullS).Values)
		r.fullCoolantC = slices.Max(coolant.Window(cruiseS, fullS).Values)
	}
	if r.TakenBackS == 0 {
		endS := proofMinutes * minuteS
		r.IdleC, r.idleCoolantC = mean(needle.Window(endS-runTellS, endS)), mean(coolant.Window(endS-runTellS, endS))
	}
	r.GaugeC, r.ProbeC = mean(needle.Window(from, upTo)), mean(coolant.Window(from, upTo))
}

func mean(t proving.Track) float64 {
	sum := 0.0
	for _, v := range t.Values {
		sum += v
	}
	return math.Round(sum / float64(max(1, t.Len())))
}
