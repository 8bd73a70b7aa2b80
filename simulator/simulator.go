// Package simulator is a simulated gateway: an engine of the model that is started, run and made to ail by a script or
// by hand, and that speaks NMEA 0183 on a local port as the gateway of a boat does, faults of the line included. It
// also has a surface thermometer and a bucket to try things with.
package simulator

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"sync"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/nmea"
	"hevrin/core/plant"
	"hevrin/core/workbench"
)

// Phase is a stretch of a script. RPM 0 is a stopped engine.
type Phase struct {
	Seconds   float64
	RPM       float64
	OutOfGear bool
}

// Script is what the simulator does. The zero value of a field is what its comment says.
type Script struct {
	Engine     plant.EngineFacts
	Phases     []Phase // nothing: it stands still until it is told otherwise
	Faults     map[string]float64
	SeaC       float64 // as it is: 0 is a sea of 0 °C
	SpaceC     float64
	StartC     float64
	Hours      float64 // on its meter at the begin
	Speed      float64 // of its own seconds in a real one; 0: 1
	EveryS     float64 // of its own time between two rounds of sentences; 0: 0.2
	Hold       bool    // the script waits until Go
	LineFaults Line
	Seed       uint64
	Started    time.Time // by its own clock; zero: 2026-05-18 08:00 UTC
}

// Line is how the line ails: shares of the rounds.
type Line struct {
	BadChecksum float64 // lines with a digit changed
	Garbage     float64 // rounds with noise between them
	Partial     float64 // lines that break off
	Flood       float64 // rounds that come a hundredfold
	Silence     float64 // rounds from which on nothing comes for 30 of its own seconds
	Cut         float64 // rounds after which every connection is closed
}

// Type is the facts of one of the model's kinds of engine, with a usual circuit.
func Type(id string) (plant.EngineFacts, error) {
	var ids []string
	for _, t := range plant.Types() {
		if t.ID == id {
			return plant.EngineFacts{Family: t.Family, Fuel: t.Fuel, Aspiration: t.Aspiration, RatedKW: t.RatedKW,
				RatedRPM: t.RatedRPM, ThermostatC: t.ThermostatC, Circuit: circuits[t.Family]}, nil
		}
		ids = append(ids, t.ID)
	}
	return plant.EngineFacts{}, fmt.Errorf("there is no kind of engine %q: choose of %v", id, ids)
}

var circuits = map[string][]string{
	catalogue.Closed: {"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "exchanger",
		"raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat",
		"coolant-hoses", "gauge", "load"},
	catalogue.Direct: {"intake", "seacock", "strainer", "suction-hose", "raw-pump", "thermostat", "block", "raw-hoses",
		"elbow", "exhaust-hose", "silencer", "outlet", "gauge", "load"},
}

// ProvingRun is the script of a run that proves an engine: idle, in gear, cruise, full, idle. Times are of its own.
func ProvingRun(ratedRPM float64) []Phase {
	return []Phase{{60, 0, false}, {240, 1000, true}, {600, 0.35 * ratedRPM, false}, {1800, 0.8 * ratedRPM, false},
		{420, ratedRPM, false}, {300, 0.3 * ratedRPM, false}}
}

// Simulator is a running simulated gateway. It may be used from many goroutines.
type Simulator struct {
	script Script
	p      plant.Plant

	mu      sync.Mutex
	health  plant.Health
	faults  map[string]float64
	now     float64 // own seconds since the begin
	held    bool
	byHand  *Phase
	running *plant.Running
	state   plant.State
	rpm     float64
	hours   float64 // on its meter
	probes  map[string]plant.Sensor
	sensors map[string]float64 // what each of them shows
	random  *rand.Rand
	quiet   float64 // nothing is sent until then
}

// Errors of the sensors beside temperature, one standard deviation: invented, of the size that they have on boats.
const (
	noiseRPM   = 4.0
	noiseFlow  = 0.01 // of it
	silenceS   = 30.0
	floodTimes = 100
	slewRPMS   = 250.0 // how fast the throttle moves, rev/min in a second
)

// New makes a simulator of a script.
func New(s Script) (*Simulator, error) {
	if s.Speed == 0 {
		s.Speed = 1
	}
	if s.EveryS == 0 {
		s.EveryS = 0.2
	}
	if s.Started.IsZero() {
		s.Started = time.Date(2026, time.May, 18, 8, 0, 0, 0, time.UTC)
	}
	if !(s.Speed > 0 && s.Speed <= 1000) || !(s.EveryS >= 0.02 && s.EveryS <= 60) {
		return nil, errors.New("the simulator runs at 0 to 1000 times its own clock and speaks every 0.02 to 60 s of it")
	}
	p, err := plant.New(s.Engine)
	if err != nil {
		return nil, err
	}
	r := &Simulator{script: s, p: p, held: s.Hold, hours: s.Hours, running: p.Running(s.StartC),
		probes: map[string]plant.Sensor{}, sensors: map[string]float64{},
		random: rand.New(rand.NewPCG(s.Seed, 9))} //nolint:gosec // noise, no secret
	if err := r.Ail(s.Faults); err != nil {
		return nil, err
	}
	for _, phase := range s.Phases {
		if phase.RPM != 0 {
			if err := p.Check(r.operation(phase, phase.RPM)); err != nil {
				return nil, err
			}
		}
	}
	return r, nil
}

func (r *Simulator) operation(p Phase, rpm float64) plant.Operation {
	return plant.Operation{RPM: rpm, Load: 1, SeaC: r.script.SeaC, Salinity: 35, SpaceC: r.script.SpaceC,
		OutOfGear: p.OutOfGear}
}

// Go lets a held script begin.
func (r *Simulator) Go() {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.held {
		r.held, r.now = false, 0
	}
	r.byHand = nil
}

// Throttle takes the engine out of the script's hands: a speed, 0 to stop it.
func (r *Simulator) Throttle(rpm float64, outOfGear bool) error {
	r.mu.Lock()
	defer r.mu.Unlock()
	phase := Phase{RPM: rpm, OutOfGear: outOfGear}
	if rpm != 0 {
		if err := r.p.Check(r.operation(phase, rpm)); err != nil {
			return err
		}
	}
	r.byHand = &phase
	return nil
}

// Ail puts faults on, by id and severity from 0 to 1; the ones before are gone.
func (r *Simulator) Ail(faults map[string]float64) error {
	var list []plant.Fault
	for id, severity := range faults {
		if !r.p.Shows(id) {
			return fmt.Errorf("this engine cannot have %q", id)
		}
		list = append(list, plant.Fault{ID: id, Severity: severity})
	}
	h, err := plant.Ail(list...)
	if err != nil {
		return err
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	r.health, r.faults = h, maps.Clone(faults)
	return nil
}

// phase is what the engine should do now; the script's last phase stays.
func (r *Simulator) phase() Phase {
	if r.byHand != nil {
		return *r.byHand
	}
	if r.held || len(r.script.Phases) == 0 {
		return Phase{}
	}
	left := r.now
	for _, p := range r.script.Phases {
		if left -= p.Seconds; left < 0 {
			return p
		}
	}
	return r.script.Phases[len(r.script.Phases)-1]
}

// Advance goes on by so many of its own seconds.
func (r *Simulator) Advance(seconds float64) error {
	r.mu.Lock()
	defer r.mu.Unlock()
	for left := seconds; left > 1e-9; {
		dt := min(left, 1)
		left -= dt
		r.now += dt
		if r.rpm > 0 {
			r.hours += dt / 3600
		}
		p := r.phase()
		if p.RPM == 0 {
			r.rpm = 0
			r.state = plant.State{BlockC: r.running.Stand(r.script.SpaceC, dt)}
		} else {
			least := 0.2 * r.script.Engine.RatedRPM // it does not turn slower than it fires
			r.rpm = max(r.rpm, min(least, p.RPM))
			r.rpm += min(max(p.RPM-r.rpm, -slewRPMS*dt), slewRPMS*dt)
			s, err := r.running.Step(r.operation(p, r.rpm), r.health, dt)
			if err != nil {
				return err
			}
			r.state = s
		}
		r.sense(dt)
	}
	return nil
}

// sense lets every sensor follow what it sits on.
func (r *Simulator) sense(dt float64) {
	for _, c := range channels {
		probe := r.probes[c.name]
		r.sensors[c.name] = probe.Follow(c.at(r), dt)
		r.probes[c.name] = probe
	}
}

// channel is one transducer of the gateway.
type channel struct {
	name, kind, unit string
	at               func(*Simulator) float64
	noise            float64
}

// station is what a station reads; with the engine stopped everything takes on the block's warmth or the sea's.
func station(id, side string) func(*Simulator) float64 {
	return func(r *Simulator) float64 {
		for _, x := range r.state.Readings {
			if x.Station == id && x.Side == side {
				return x.TempC
			}
		}
		if side == "coolant" {
			return r.state.BlockC
		}
		return r.script.SeaC
	}
}

// channels are what the gateway speaks of beside speed and sea.
var channels = []channel{
	{"COOLANT", "C", "C", func(r *Simulator) float64 { return r.state.BlockC }, plant.SensorNoiseK},
	{"GAUGE", "C", "C", func(r *Simulator) float64 { return r.state.BlockC + r.health.Gauge }, plant.SensorNoiseK},
	{"EXCHCOOL", "C", "C", station("exchanger", "coolant"), plant.SensorNoiseK},
	{"EXCHRAW", "C", "C", station("exchanger", "raw"), plant.SensorNoiseK},
	{"RAWHOSE", "C", "C", station("raw-hoses", "raw"), plant.SensorNoiseK},
	{"ELBOW", "C", "C", station("elbow", "raw"), plant.SensorNoiseK},
	{"SPACE", "C", "C", func(r *Simulator) float64 { return r.script.SpaceC }, plant.SensorNoiseK},
	{"RAWFLOW", "R", "l", func(r *Simulator) float64 { return r.state.RawLMin / 60 }, 0},
	{"RAWPRESS", "P", "B", func(r *Simulator) float64 { return r.state.PressureKPa / 100 }, 0.005},
	{"SUCTION", "P", "B", func(r *Simulator) float64 { return -r.state.VacuumKPa / 100 }, 0.005},
	{"HOURS", "G", "H", func(r *Simulator) float64 { return r.hours }, 0},
}

// Places says what each of the gateway's channels is mounted on, as channel to station and side.
var Places = map[string][2]string{
	"II RPM E1": {"rpm", ""}, "II MTW": {"sea", ""}, "II XDR C COOLANT": {"thermostat", "coolant"},
	"II XDR C GAUGE":    {"gauge", ""},
	"II XDR C EXCHCOOL": {"exchanger", "coolant"}, "II XDR C EXCHRAW": {"exchanger", "raw"},
	"II XDR C RAWHOSE": {"raw-hoses", "raw"},
	"II XDR C ELBOW":   {"elbow", "raw"}, "II XDR C SPACE": {"space", ""}, "II XDR R RAWFLOW": {"flow", ""},
	"II XDR G HOURS": {"hours", ""},
}

// Sentences are one round of what the gateway says now.
func (r *Simulator) Sentences() []string {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.sentences()
}

func (r *Simulator) sentences() []string {
	at := r.script.Started.Add(time.Duration(r.now * float64(time.Second)))
	say := func(kind string, fields ...string) string {
		return nmea.Sentence{Talker: "II", Kind: kind, Fields: fields}.String()
	}
	rpm := r.rpm
	if rpm > 0 {
		rpm += noiseRPM * r.random.NormFloat64()
	}
	list := []string{
		say("ZDA", at.Format("150405.00"), at.Format("02"), at.Format("01"), at.Format("2006"), "00", "00"),
		say("RPM", "E", "1", fmt.Sprintf("%.1f", max(0, rpm)), "", "A"),
		say("MTW", fmt.Sprintf("%.2f", r.script.SeaC+0.05*r.random.NormFloat64()), "C"),
	}
	for _, c := range channels {
		v := r.sensors[c.name] + c.noise*r.random.NormFloat64()
		if c.kind == "R" {
			v = max(0, v*(1+noiseFlow*r.random.NormFloat64()))
		}
		list = append(list, say("XDR", c.kind, fmt.Sprintf("%.4f", v), c.unit, c.name))
	}
	return list
}

// Surface is what a surface thermometer shows that is pointed at a station: set for matt surfaces, its emissivity that
// of what it points at.
func (r *Simulator) Surface(id, side string, emissivity float64) float64 {
	r.mu.Lock()
	defer r.mu.Unlock()
	const setFor = 0.95
	at := station(id, side)(r) + 0.5*r.random.NormFloat64()
	low, high := -50.0, 500.0
	for range 60 { // what it shows for a temperature rises with it
		middle := (low + high) / 2
		if v, err := workbench.SurfaceTemperature(middle, setFor, emissivity, r.script.SpaceC); err != nil || v < at {
			low = middle
		} else {
			high = middle
		}
	}
	return math.Round(10*high) / 10
}

// Bucket is how many seconds a bucket of so many litres takes to fill at the outlet; not ok when nothing comes.
func (r *Simulator) Bucket(litres float64) (seconds float64, ok bool) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.state.RawLMin < 0.1 {
		return 0, false
	}
	return math.Round(10*(litres/r.state.RawLMin*60*(1+0.02*r.random.NormFloat64())+0.2*r.random.NormFloat64())) / 10, true
}

// Now is what the simulator is at.
type Now struct {
	Seconds, RPM float64
	OutOfGear    bool
	Held, ByHand bool
	Faults       map[string]float64
	State        plant.State
}

// Now tells what the simulator is at.
func (r *Simulator) Now() Now {
	r.mu.Lock()
	defer r.mu.Unlock()
	return Now{r.now, r.rpm, r.phase().OutOfGear, r.held, r.byHand != nil, maps.Clone(r.faults), r.state}
}
