package hydraulics

import (
	"errors"
	"fmt"
	"math"
)

// Pump is a pump with flexible vanes. What it moves is displacement × speed × state less a slip that grows with the
// square root of the pressure rise, so that a worn pump loses most at idle (handbook of the trade, common practice).
type Pump struct {
	LitresPerRev float64 // displacement
	State        float64 // share of the displacement that blades missing or set leave, 0 to 1
	Slip         float64 // L/min at 1 kPa of pressure rise; wear raises it
	MaxVacuumKPa float64 // the most it can pull on the suction side
}

// Flow is what the pump moves at a speed (rev/min) against a pressure rise (kPa); never less than 0.
func (p Pump) Flow(rpm, riseKPa float64) float64 {
	return max(0, p.LitresPerRev*rpm*p.State-p.Slip*math.Sqrt(max(0, riseKPa)))
}

// Station is a restriction on the run: it takes Drop kPa at the flow At and as the square of the flow else.
type Station struct {
	Name     string
	Drop, At float64
	Factor   float64 // more than 1 when something narrows it
}

func (s Station) drop(flow float64) float64 {
	return s.Drop * s.Factor * flow * flow / (s.At * s.At)
}

// Run is a pump with what stands before and after it. Static heads are in kPa: LiftKPa is what the pump must suck up
// to its height, HeadKPa what it must push up.
type Run struct {
	Pump              Pump
	Suction, Delivery []Station
	LiftKPa, HeadKPa  float64
}

// Flows is what a run does at a speed. Vacuum is in kPa below the air's pressure at the pump's inlet; Pressure above
// it at its outlet; Drops by station in the order of the water.
type Flows struct {
	FlowLMin, VacuumKPa, PressureKPa float64
	SuctionDrops, DeliveryDrops      []float64
	Limited                          bool // the suction side is at the most that the pump can pull
}

// ErrRun says why a run cannot be worked out.
var ErrRun = errors.New("the run cannot be worked out")

// Solve finds the flow of a run at a speed: the one at which what the pump moves against the pressure rise is what
// comes through. The suction side cannot go below what the pump can pull; then the flow is what that vacuum sucks in.
func (r Run) Solve(rpm float64) (Flows, error) {
	if r.LiftKPa >= r.Pump.MaxVacuumKPa {
		return Flows{}, fmt.Errorf("%w: the lift of %g kPa is more than the pump can pull", ErrRun, r.LiftKPa)
	}
	if rpm <= 0 || r.Pump.LitresPerRev <= 0 || r.Pump.State <= 0 {
		return r.at(0), nil
	}
	suction, delivery := resistance(r.Suction), resistance(r.Delivery)
	// q = A − S √(H + R q²), squared, is a quadratic in q; this form of its root loses nothing where the square's
	// factor is near 0
	most, slip, static := r.Pump.LitresPerRev*rpm*r.Pump.State, r.Pump.Slip, max(0, r.LiftKPa+r.HeadKPa)
	spare := most*most - slip*slip*static
	if spare <= 0 {
		return r.at(0), nil
	}
	out := r.at(spare / (most + slip*math.Sqrt(static+(suction+delivery)*spare)))
	if out.VacuumKPa > r.Pump.MaxVacuumKPa {
		out = r.at(math.Sqrt((r.Pump.MaxVacuumKPa - r.LiftKPa) / suction))
		out.Limited = true
	}
	return out, nil
}

func (r Run) at(flow float64) Flows {
	f := Flows{FlowLMin: flow, VacuumKPa: r.LiftKPa, PressureKPa: r.HeadKPa, SuctionDrops: make([]float64, 0,
		len(r.Suction)), DeliveryDrops: make([]float64, 0, len(r.Delivery))}
	for _, s := range r.Suction {
		f.SuctionDrops = append(f.SuctionDrops, s.drop(flow))
		f.VacuumKPa += s.drop(flow)
	}
	for _, s := range r.Delivery {
		f.DeliveryDrops = append(f.DeliveryDrops, s.drop(flow))
		f.PressureKPa += s.drop(flow)
	}
	return f
}

func resistance(list []Station) (sum float64) {
	for _, s := range list {
		sum += s.drop(1)
	}
	return sum
}
