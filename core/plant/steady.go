package plant

import (
	"math"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
	"hevrin/core/rootfind"
)

// Reading is what should be read at a station.
type Reading struct {
	Station string
	Side    string // "raw" or "coolant"
	TempC   float64
	KPa     *float64 // above the air's pressure; below 0 is a vacuum
}

// State is a plant at rest at an operation.
type State struct {
	RawLMin, CoolantLMin, ExchangerLMin float64
	VacuumKPa, PressureKPa              float64
	Opening                             float64 // of the thermostat, 0 to 1
	BlockC                              float64 // leaving the block, at the thermostat
	ExchangerOutC                       float64 // coolant; closed only
	RawInC, RawOutC                     float64 // at the exchanger, or the block when direct
	ToElbowC                            float64
	Elbow                               Mixed
	GaugeC                              float64
	Heat                                Heat
	BlockKW, ExchangerKW, ShedKW        float64 // into the coolant, through the exchanger, to the space
	EarlierKW, LaterKW                  float64 // into the raw water before and after the exchanger
	Boils                               bool
	Readings                            []Reading
	SuctionLimited                      bool
}

// flowing is everything at an operation that does not depend on the block's temperature.
type flowing struct {
	p         Plant
	op        Operation
	h         Health
	heat      Heat
	raw       hydraulics.Flows
	rawC      float64 // capacity rate through the pump, W/K
	atC       float64 // … at the exchanger
	inC       float64 // raw water at the exchanger or block
	coolantC  float64 // capacity rate of the whole coolant flow
	coolant   float64 // L/min
	intoBlock float64 // W
	oilW      float64 // W into the oil cooler on the raw side
	gearW     float64
	chargeW   float64
	beforeW   float64 // that the raw water takes up before the exchanger or block
	alongRKW  float64 // K/W of the exchanger's tubes and their fouling
	shellRKW  float64 // … of its coolant side at the rated flow
}

func pow(x, e float64) float64 { return math.Pow(x, e) }

// flow works out what does not depend on the block's temperature.
func (p Plant) flow(op Operation, h Health) (flowing, error) {
	h = p.own.with(h)
	f := flowing{p: p, op: op, h: h, heat: p.Engine.At(op.RPM)}
	if op.OutOfGear {
		f.heat = p.Engine.OutOfGear(op.RPM)
	}
	var err error
	if f.raw, err = p.raw(op, h); err != nil {
		return f, err
	}
	sea := fluid.SeaWater(op.Salinity).At(op.SeaC + 5)
	f.rawC = f.raw.FlowLMin / 60000 * sea.DensityKgM3 * sea.SpecificHeat
	load := op.Load * h.Heat
	f.intoBlock = 1000 * f.heat.CoolantKW * load
	switch {
	case p.has("oil-cooler"):
		f.oilW = 1000 * f.heat.OilKW * load
	default: // the block cools its oil
		f.intoBlock += 1000 * f.heat.OilKW * load
	}
	if p.has("gear-cooler") {
		f.gearW = 1000 * p.GearLoss * f.heat.PowerKW * load
	}
	if p.has("charge-cooler") {
		f.chargeW = 1000 * f.heat.ChargeKW * load
	}
	f.atC = f.rawC * (1 - h.LeakBefore)
	f.inC = op.SeaC
	f.beforeW = f.before()
	if f.rawC > 0 {
		f.inC += f.beforeW / f.rawC
	}
	c := p.Coolant.At(80)
	f.coolant = p.CoolantLMin * op.RPM / p.Engine.RatedRPM * h.CoolantFlow
	f.coolantC = f.coolant / 60000 * c.DensityKgM3 * c.SpecificHeat
	if p.Family == Closed {
		f.alongRKW = p.TubeShare/p.UA*pow(max(f.raw.FlowLMin*(1-h.LeakBefore)*(1-h.Bypass), 1e-6)/p.Rated.RawLMin,
			-tubeExponent) + (1/h.UA-1)/p.UA
		f.shellRKW = (1 - p.TubeShare) / p.UA / h.Shell
	}
	return f, nil
}

// middle is the station at which the block's heat enters the raw water.
func (p Plant) middle() string {
	if p.Family == Direct {
		return "block"
	}
	return "exchanger"
}

// cooler is the heat that a station's cooler gives the raw water, in W; 0 where there is none.
func (f *flowing) cooler(station string) float64 {
	switch station {
	case "oil-cooler":
		return f.oilW
	case "gear-cooler":
		return f.gearW
	case "charge-cooler":
		return f.chargeW
	}
	return 0
}

func (f *flowing) before() float64 {
	sum := 0.0
	for _, s := range f.p.Circuit {
		if s == f.p.middle() {
			break
		}
		sum += f.cooler(s)
	}
	return sum
}

func (f *flowing) after() float64 {
	return f.oilW + f.gearW + f.chargeW - f.beforeW
}

// opening is how far the thermostat stands open at a temperature.
func (f *flowing) opening(t float64) float64 {
	return min(max((t-f.p.ThermostatC-f.h.ThermostatShift)/f.p.FullOpenK, 0), f.h.Lift)
}

// share is the part of the coolant that goes to the exchanger, or of the raw water that goes through the block.
func (f *flowing) share(t float64) float64 {
	low := min(f.p.ThermostatLow+f.h.ThermostatLeak, f.p.MostShare)
	return low + (f.p.MostShare-low)*f.opening(t)
}

// ua is the exchanger's conductance when so much coolant passes it.
func (f *flowing) ua(shell float64) float64 {
	outer := f.shellRKW * pow(max(shell, 1e-6)/f.p.Rated.ShellLMin, -shellExponent)
	return (1 - f.h.Blocked) / (f.alongRKW + outer)
}

// away is the heat that leaves the coolant through the exchanger (or with the raw water when direct) when the block is
// at a temperature, in W.
func (f *flowing) away(t float64) float64 {
	if f.atC <= 0 || t <= f.inC {
		return 0
	}
	share := f.share(t)
	if f.p.Family == Direct {
		return f.atC * share * f.h.Silt * (t - f.inC)
	}
	hot := exchanger.Stream{C: f.coolantC * share, InC: t}
	cold := exchanger.Stream{C: f.atC * (1 - f.h.Bypass), InC: f.inC}
	if hot.C <= 0 || cold.C <= 0 {
		return 0
	}
	return exchanger.HeatOf(f.p.Arrangement, hot, cold, f.ua(f.coolant*share))
}

func (f *flowing) shed(t float64) float64 { return f.p.ShedWK * (t - f.op.SpaceC) }

// Steady is the plant at rest: the block at the temperature at which as much heat leaves as comes in.
func (p Plant) Steady(op Operation, h Health) (State, error) {
	if err := p.Check(op); err != nil {
		return State{}, err
	}
	f, err := p.flow(op, h)
	if err != nil {
		return State{}, err
	}
	left := func(t float64) float64 { return f.away(t) + f.shed(t) - f.intoBlock }
	if left(p.BoilsC) < 0 {
		s := f.state(p.BoilsC)
		s.Boils = true
		return s, nil
	}
	t, err := rootfind.Zero(left, min(op.SeaC, op.SpaceC)-1, p.BoilsC, 1e-12)
	if err != nil {
		return State{}, err
	}
	return f.state(t), nil
}

// state is everything when the block is at a temperature.
func (f *flowing) state(t float64) State {
	share, away := f.share(t), f.away(t)
	s := State{RawLMin: f.raw.FlowLMin, CoolantLMin: f.coolant, ExchangerLMin: f.coolant * share,
		VacuumKPa: f.raw.VacuumKPa, PressureKPa: f.raw.PressureKPa,
		Opening: f.opening(t), BlockC: t, RawInC: f.inC, GaugeC: t + f.h.Gauge, Heat: f.heat, BlockKW: f.intoBlock / 1000,
		ExchangerKW: away / 1000,
		ShedKW:      f.shed(t) / 1000, EarlierKW: f.beforeW / 1000, LaterKW: f.after() / 1000, SuctionLimited: f.raw.Limited,
		RawOutC: f.inC, ExchangerOutC: t}
	if f.atC > 0 {
		s.RawOutC = f.inC + away/f.atC
	}
	if hot := f.coolantC * share; f.p.Family == Closed && hot > 0 {
		s.ExchangerOutC = t - away/hot
	}
	s.ToElbowC = s.RawOutC
	lastC := f.atC * (1 - f.h.LeakAfter)
	if lastC > 0 {
		s.ToElbowC += f.after() / f.atC
	}
	load := f.op.Load * f.h.Heat
	hotter := f.p.Engine.AirC + (f.heat.GasC-f.p.Engine.AirC)*load // more fuel into the same air
	if !f.p.has("charge-cooler") && f.heat.ChargeKW > 0 {
		hotter += 1000 * f.heat.ChargeKW * load / (f.heat.GasKgH / 3600 * f.p.Engine.ExhaustJKgK)
	}
	water := f.raw.FlowLMin * (1 - f.h.LeakBefore) * (1 - f.h.LeakAfter)
	x := Exhaust{GasKgH: f.heat.GasKgH, GasC: hotter, WaterLMin: max(water, 1e-3), WaterC: min(s.ToElbowC, 99),
		Salinity: f.op.Salinity, PressureKPa: fluid.AtmosphereKPa, SpecificHeatG: f.p.Engine.ExhaustJKgK}
	s.Elbow = x.Mix()
	s.Readings = f.readings(s)
	return s
}

// readings walks the circuit in the order of the water.
func (f *flowing) readings(s State) []Reading {
	list := make([]Reading, 0, len(f.p.Circuit)+1)
	pressures := make([]float64, 0, len(f.p.Circuit))
	at, kPa := f.op.SeaC, -f.p.LiftKPa
	before, after := 0, 0
	for _, station := range f.p.Circuit {
		r := Reading{Station: station, Side: "raw"}
		switch station {
		case "circ-pump", "coolant-hoses", "header":
			if f.p.Family == Closed {
				list = append(list, Reading{Station: station, Side: "coolant", TempC: f.returns(s)})
			}
			continue
		case "block", "thermostat":
			if f.p.Family == Closed {
				list = append(list, Reading{Station: station, Side: "coolant", TempC: s.BlockC})
				continue
			}
			if station == "block" {
				at = s.RawOutC
			}
			r.TempC = s.BlockC
		case "gauge":
			list = append(list, Reading{Station: station, Side: "coolant", TempC: s.GaugeC})
			continue
		case "exhaust-sensor", "load":
			continue
		case "exchanger":
			list = append(list, Reading{Station: station, Side: "coolant", TempC: s.ExchangerOutC})
			at = s.RawOutC
			r.TempC = at
		case "elbow", "exhaust-hose", "silencer", "outlet":
			at = s.Elbow.MixedC
			r.TempC = at
		case "raw-pump":
			kPa = f.raw.PressureKPa
			r.TempC = at
		default:
			if c := f.atC; c > 0 {
				at += f.cooler(station) / c
			}
			r.TempC = at
		}
		for _, x := range f.p.Run {
			if x.Station == station && x.Before && before < len(f.raw.SuctionDrops) {
				kPa -= f.raw.SuctionDrops[before]
				before++
			} else if x.Station == station && !x.Before && after < len(f.raw.DeliveryDrops) {
				kPa -= f.raw.DeliveryDrops[after]
				after++
			}
		}
		pressures = append(pressures, kPa)
		r.KPa = &pressures[len(pressures)-1]
		list = append(list, r)
	}
	return list
}

// returns is the coolant going back into the block: what comes from the exchanger mixed with what went round it.
func (f *flowing) returns(s State) float64 {
	if f.coolantC <= 0 {
		return s.BlockC
	}
	return s.BlockC - 1000*s.ExchangerKW/f.coolantC
}
