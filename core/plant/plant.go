package plant

import (
	"slices"

	"gonum.org/v1/gonum/mat"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Families of cooling: the model knows these two ways, and takes any other family as its circuit cools.
const (
	Closed = "closed"
	Direct = "direct"
)

// Plant is an engine with its cooling, in health. What a person knows stands beside what its type gives.
type Plant struct {
	Family  string
	Engine  Engine
	Circuit []string // station ids in the order of the water, raw side first
	Pump    hydraulics.Pump
	Run     []Restriction // raw side, in the order of the water
	LiftKPa float64       // what the pump sucks up to its height
	HeadKPa float64       // what it pushes up

	ThermostatC   float64 // begins to open
	FullOpenK     float64 // fully open so much above
	ThermostatLow float64 // share that passes while it is shut
	MostShare     float64 // of the coolant to the exchanger when fully open; of the raw water to the block when direct

	CoolantLMin float64 // coolant pump at rated speed; closed only
	UA          float64 // W/K of the exchanger, clean, at rated flows; closed only
	TubeShare   float64 // of the clean resistance that is the raw side's
	Arrangement exchanger.Arrangement
	Coolant     fluid.Fluid

	BlockKJK float64 // heat capacity
	ShedWK   float64 // block to engine space
	BoilsC   float64 // under its cap
	AlarmC   float64 // of the block, at which its alarm sounds
	GearLoss float64 // share of power into the gear oil
	Rated    Rated

	memo memoOf // of its states; none: each is worked out

	own   Health        // this very engine against its facts, from a healthy round; Well without one
	about *mat.SymDense // of healthy engines' figures about the plant; nil: the spread between engines
}

// Rated are the flows at rated speed in health, against which conductance scales.
type Rated struct{ RawLMin, ShellLMin float64 }

// Restriction is a station of the raw side that takes so many kPa at the rated flow.
type Restriction struct {
	Station string
	DropKPa float64
	Before  bool // before the pump
}

// Operation is how the engine is run.
type Operation struct {
	RPM       float64
	Load      float64 // heat against the propeller curve's, or out of gear against that of turning over: 1 as it should be
	SeaC      float64
	Salinity  float64
	SpaceC    float64 // engine space
	OutOfGear bool
}

// Health is what faults make of a plant; Well is a healthy one.
type Health struct {
	Restrict        map[string]float64 // factor on a station's drop
	PumpState       float64            // share of the displacement left
	Slip            float64            // factor
	Vacuum          float64            // factor on what the pump can pull
	Air             float64            // share of the pump's volume that is air
	LeakBefore      float64            // share of the raw water lost before the exchanger
	LeakAfter       float64            // … after it
	Raw             float64            // factor on the raw flow, whatever the reason
	UA              float64            // factor on the conductance
	Blocked         float64            // share of the tubes
	Bypass          float64            // share of the raw water that passes the tubes by
	Shell           float64            // factor on the coolant side's film
	CoolantFlow     float64            // factor
	ThermostatShift float64            // K
	Lift            float64            // share of the full opening that it reaches
	ThermostatLeak  float64            // share added while shut
	Silt            float64            // factor on what passes the block; direct only
	Heat            float64            // factor
	Gauge           float64            // K that the gauge reads high
}

// Well is a plant in health.
func Well() Health {
	return Health{PumpState: 1, Slip: 1, Vacuum: 1, Raw: 1, UA: 1, Shell: 1, CoolantFlow: 1, Lift: 1, Silt: 1, Heat: 1}
}

// The narrowing of stacks: the drop of what tubes are left goes as the power −1.8 of their share.
const blockedExponent = -1.8

// Conductance scales with flow as turbulent films do: W. H. McAdams, Heat Transmission, 3rd ed. 1954 (memory).
const (
	tubeExponent  = 0.8
	shellExponent = 0.6
)

// mostOverRated is the fastest that the model answers for, over rated speed.
const mostOverRated = 1.1

// Check refuses an operation that the model does not hold for.
func (p Plant) Check(op Operation) error {
	var wrong validation.Errors
	if most := mostOverRated * p.Engine.RatedRPM; op.RPM <= 0 || op.RPM > most {
		wrong.Add("rpm", op.RPM, units.Say("above 0, to %.0f rev/min", most),
			"the model holds to 1.1 of the rated %.0f rev/min", p.Engine.RatedRPM)
	}
	if op.Load <= 0 || op.Load > 2 {
		wrong.Add("load", op.Load, "above 0, to 2", "load is 1 on the propeller curve: give it as a share of that")
	}
	fluid.SeaWater(op.Salinity).Check(&wrong, "sea_c", op.SeaC)
	if op.SeaC > 40 {
		wrong.Add("sea_c", op.SeaC, units.Say("up to %g", units.Of(40, "degC")), "no sea is as warm as %.0f: read it again",
			units.Of(op.SeaC, "degC"))
	}
	return wrong.Err()
}

// has says whether a station is on the circuit.
func (p Plant) has(station string) bool { return slices.Contains(p.Circuit, station) }

// rated works out the flows at rated speed in health, once, from the parts.
func (p Plant) rated() (Plant, error) {
	p.Rated = Rated{}
	raw, err := p.raw(Operation{RPM: p.Engine.RatedRPM}, Well())
	if err != nil {
		return p, err
	}
	p.Rated = Rated{RawLMin: raw.FlowLMin, ShellLMin: p.CoolantLMin * p.MostShare}
	return p, nil
}

// designFlow is the flow at which the restrictions' drops are told: what the pump moves at rated speed less its slip.
func (p Plant) designFlow() float64 {
	drop := p.LiftKPa + p.HeadKPa
	for _, r := range p.Run {
		drop += r.DropKPa
	}
	return p.Pump.Flow(p.Engine.RatedRPM, drop)
}

// raw is the raw side's flows at a speed.
func (p Plant) raw(op Operation, h Health) (hydraulics.Flows, error) {
	pump := p.Pump
	pump.State *= h.PumpState * (1 - h.Air)
	pump.Slip *= h.Slip
	pump.MaxVacuumKPa *= h.Vacuum
	run := hydraulics.Run{Pump: pump, LiftKPa: p.LiftKPa, HeadKPa: p.HeadKPa}
	at := p.designFlow()
	for _, r := range p.Run {
		s := hydraulics.Station{Name: r.Station, Drop: r.DropKPa, At: at, Factor: 1}
		if f, ok := h.Restrict[r.Station]; ok {
			s.Factor = f
		}
		if r.Station == "exchanger" && h.Blocked > 0 {
			s.Factor *= pow(1-h.Blocked, blockedExponent)
		}
		if r.Before {
			run.Suction = append(run.Suction, s)
		} else {
			run.Delivery = append(run.Delivery, s)
		}
	}
	flows, err := run.Solve(op.RPM)
	flows.FlowLMin *= h.Raw
	return flows, err
}
