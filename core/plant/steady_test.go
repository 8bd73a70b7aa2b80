package plant

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
)

// turbo is a turbo diesel of 220 kW with every cooler, or without some of them; direct a raw-water-cooled engine.
func turbo(t *testing.T, without ...string) Plant {
	t.Helper()
	circuit := []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "charge-cooler", "exchanger",
		"oil-cooler", "raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat",
		"coolant-hoses", "gauge"}
	p, err := New(EngineFacts{Family: Closed, Fuel: Diesel, Aspiration: Turbo, RatedKW: 220, RatedRPM: 3400,
		Circuit: slices.DeleteFunc(circuit, func(s string) bool { return slices.Contains(without, s) })})
	require.NoError(t, err)
	return p
}

func direct60(t *testing.T) Plant {
	t.Helper()
	p, err := New(EngineFacts{Family: Direct, Fuel: Diesel, RatedKW: 20, RatedRPM: 3000, Circuit: []string{"intake", "seacock",
		"strainer", "suction-hose", "raw-pump", "gear-cooler", "thermostat", "block", "raw-hoses", "elbow", "outlet", "gauge"}})
	require.NoError(t, err)
	return p
}

// Every heat goes where the circuit sends it: into the block, or into the raw water before or after the exchanger.
func TestWhereTheHeatGoes(t *testing.T) {
	op := Operation{RPM: 3000, Load: 0.9, SeaC: 16, Salinity: 35, SpaceC: 35}
	for name, tc := range map[string]struct {
		without               []string
		block, earlier, later func(h Heat, p Plant) float64
	}{
		"every cooler": {nil, func(h Heat, _ Plant) float64 { return h.CoolantKW },
			func(h Heat, p Plant) float64 { return p.GearLoss*h.PowerKW + h.ChargeKW }, func(h Heat, _ Plant) float64 { return h.OilKW }},
		"the block cools its oil": {[]string{"oil-cooler"}, func(h Heat, _ Plant) float64 { return h.CoolantKW + h.OilKW },
			func(h Heat, p Plant) float64 { return p.GearLoss*h.PowerKW + h.ChargeKW }, func(Heat, Plant) float64 { return 0 }},
		"no gear cooler": {[]string{"gear-cooler"}, func(h Heat, _ Plant) float64 { return h.CoolantKW },
			func(h Heat, _ Plant) float64 { return h.ChargeKW }, func(h Heat, _ Plant) float64 { return h.OilKW }},
		"no charge cooler": {[]string{"charge-cooler"}, func(h Heat, _ Plant) float64 { return h.CoolantKW },
			func(h Heat, p Plant) float64 { return p.GearLoss * h.PowerKW }, func(h Heat, _ Plant) float64 { return h.OilKW }},
	} {
		p := turbo(t, tc.without...)
		sick := Well()
		sick.Heat, sick.LeakBefore, sick.LeakAfter = 1.1, 0.2, 0.25
		for _, h := range []Health{Well(), sick} {
			s, err := p.Steady(op, h)
			require.NoError(t, err)
			require.Positive(t, s.Heat.ChargeKW)
			load := 0.9 * h.Heat
			assert.InEpsilon(t, tc.block(s.Heat, p)*load, s.BlockKW, 1e-9, name)
			assert.InDelta(t, tc.earlier(s.Heat, p)*load, s.EarlierKW, 1e-9, name)
			assert.InDelta(t, tc.later(s.Heat, p)*load, s.LaterKW, 1e-9, name)
			assert.InDelta(t, p.ShedWK*(s.BlockC-35)/1000, s.ShedKW, 1e-9, name)

			// the whole flow warms before the exchanger, what a leak leaves of it in and after it
			sea := fluid.SeaWater(35).At(21)
			whole := s.RawLMin / 60000 * sea.DensityKgM3 * sea.SpecificHeat / 1000 // kW/K
			left := whole * (1 - h.LeakBefore)
			assert.InDelta(t, 16+s.EarlierKW/whole, s.RawInC, 1e-9, name)
			assert.InDelta(t, s.RawInC+s.ExchangerKW/left, s.RawOutC, 1e-9, name)
			assert.InDelta(t, s.RawOutC+s.LaterKW/left, s.ToElbowC, 1e-9, name)

			// more heat makes the gas the hotter; what no cooler takes of the charge's goes with it
			gas := p.Engine.AirC + (s.Heat.GasC-p.Engine.AirC)*load
			if name == "no charge cooler" {
				gas += 1000 * s.Heat.ChargeKW * load * 3600 / s.Heat.GasKgH / p.Engine.ExhaustJKgK
			}
			x := Exhaust{GasKgH: s.Heat.GasKgH, GasC: gas, WaterLMin: s.RawLMin * (1 - h.LeakBefore) * (1 - h.LeakAfter),
				WaterC: s.ToElbowC, Salinity: 35, PressureKPa: fluid.AtmosphereKPa, SpecificHeatG: p.Engine.ExhaustJKgK}
			assert.InDelta(t, x.Mix().MixedC, s.Elbow.MixedC, 1e-6, name)
		}
	}
}

// What is read along the circuit: the raw water warms at each cooler in turn and loses each station's pressure; the
// coolant is hot at the block, and goes back mixed.
func TestWhatIsReadAlongTheCircuit(t *testing.T) {
	p := turbo(t)
	op := Operation{RPM: 3400, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}
	h := Well()
	h.Gauge = 3
	s, err := p.Steady(op, h)
	require.NoError(t, err)
	whole := s.EarlierKW / (s.RawInC - 16) // kW/K
	gear := 16 + p.GearLoss*s.Heat.PowerKW/whole
	want := map[string]float64{"intake raw": 16, "strainer raw": 16, "raw-pump raw": 16, "gear-cooler raw": gear,
		"charge-cooler raw": s.RawInC, "exchanger raw": s.RawOutC, "exchanger coolant": s.ExchangerOutC, "oil-cooler raw": s.ToElbowC,
		"raw-hoses raw": s.ToElbowC, "elbow raw": s.Elbow.MixedC, "outlet raw": s.Elbow.MixedC, "block coolant": s.BlockC,
		"thermostat coolant": s.BlockC, "gauge coolant": s.BlockC + 3, "header coolant": returned(p, s),
		"circ-pump coolant": returned(p, s)}
	kPa, seen := -p.LiftKPa, 0
	for _, r := range s.Readings {
		if c, ok := want[r.Station+" "+r.Side]; ok {
			seen++
			assert.InDelta(t, c, r.TempC, 1e-6, r.Station)
		}
		if r.Side == "coolant" {
			assert.Nil(t, r.KPa, r.Station)
			continue
		}
		if r.Station == "raw-pump" {
			kPa = s.PressureKPa
		}
		for _, x := range p.Run {
			if x.Station == r.Station { // drops go with the square of the flow
				kPa -= x.DropKPa * math.Pow(s.RawLMin/p.designFlow(), 2)
			}
		}
		require.NotNil(t, r.KPa, r.Station)
		assert.InDelta(t, kPa, *r.KPa, 0.02, r.Station)
	}
	assert.Len(t, want, seen)
}

// returned is the coolant that goes back: what the exchanger cooled, and what went round it.
func returned(p Plant, s State) float64 {
	share := s.ExchangerLMin / s.CoolantLMin
	return share*s.ExchangerOutC + (1-share)*s.BlockC
}

// The thermostat, by hand: shut to its rating, whole so much above, no further than its lift; late by its shift; shut it
// lets a little through.
func TestHowFarTheThermostatStandsOpen(t *testing.T) {
	p := turbo(t)
	h := Well()
	f, err := p.flow(Operation{RPM: 3000, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, h)
	require.NoError(t, err)
	half := p.ThermostatC + p.FullOpenK/2
	assert.InDelta(t, 0, f.opening(p.ThermostatC-1), 0)
	assert.InDelta(t, 0.5, f.opening(half), 1e-12)
	assert.InDelta(t, 1, f.opening(p.ThermostatC+p.FullOpenK+1), 0)
	assert.InDelta(t, p.ThermostatLow, f.share(p.ThermostatC), 1e-12)
	assert.InDelta(t, p.ThermostatLow+(p.MostShare-p.ThermostatLow)/2, f.share(half), 1e-12)
	assert.InDelta(t, p.MostShare, f.share(p.ThermostatC+p.FullOpenK), 1e-12)
	f.h.ThermostatShift, f.h.Lift, f.h.ThermostatLeak = 4, 0.6, 0.3
	assert.InDelta(t, 0.6, f.opening(p.ThermostatC+p.FullOpenK+10), 0)
	assert.InDelta(t, 0, f.opening(p.ThermostatC+4), 1e-12)
	assert.InDelta(t, p.ThermostatLow+0.3, f.share(p.ThermostatC), 1e-12)
	f.h.ThermostatLeak = 5
	assert.InDelta(t, p.MostShare, f.share(p.ThermostatC), 1e-12)
}

// The exchanger's conductance, by hand: what its facts say at the rated flows in health; its tubes' part falls with the
// power 0.8 of the raw flow, its shell's with 0.6 of the coolant; blocked tubes take their share, fouling adds.
func TestTheExchangersConductance(t *testing.T) {
	p := turbo(t)
	at := func(h Health) flowing {
		f, err := p.flow(Operation{RPM: p.Engine.RatedRPM, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, h)
		require.NoError(t, err)
		return f
	}
	f := at(Well())
	require.InEpsilon(t, p.Rated.RawLMin, f.raw.FlowLMin, 1e-9)
	assert.InEpsilon(t, p.UA, f.ua(p.Rated.ShellLMin), 1e-9)
	tube, shell := p.TubeShare/p.UA, (1-p.TubeShare)/p.UA
	assert.InEpsilon(t, 1/(tube+shell*math.Pow(0.5, -0.6)), f.ua(p.Rated.ShellLMin/2), 1e-9)
	h := Well()
	h.LeakBefore, h.Bypass, h.UA, h.Shell = 0.2, 0.3, 0.5, 0.8
	f = at(h)
	want := 1 / (tube*math.Pow(0.8*0.7, -0.8) + 1/p.UA + shell/0.8)
	assert.InEpsilon(t, want, f.ua(p.Rated.ShellLMin), 1e-6)
	h = Well()
	h.Blocked = 0.25
	f = at(h)
	assert.InEpsilon(t, 0.75/(tube*math.Pow(f.raw.FlowLMin/p.Rated.RawLMin, -0.8)+shell), f.ua(p.Rated.ShellLMin), 1e-9)
	assert.Less(t, f.raw.FlowLMin, p.Rated.RawLMin)
}

// Raw-water-cooled the block's heat goes with what of the flow passes it; nothing goes where the water is as warm.
func TestTheHeatThatGoesWithTheWater(t *testing.T) {
	p := direct60(t)
	h := Well()
	h.Silt = 0.7
	f, err := p.flow(Operation{RPM: 2000, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, h)
	require.NoError(t, err)
	hot := p.ThermostatC + p.FullOpenK
	assert.InEpsilon(t, f.rawC*p.MostShare*0.7*(hot-f.inC), f.away(hot), 1e-9)
	assert.Zero(t, f.away(f.inC))
	assert.Zero(t, f.away(f.inC-1))
	assert.Positive(t, f.away(f.inC+1))
	f.atC = 0
	assert.Zero(t, f.away(hot))
	c := turbo(t)
	g, err := c.flow(Operation{RPM: 2000, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, Well())
	require.NoError(t, err)
	assert.Positive(t, g.away(90))
	g.coolantC = 0
	assert.Zero(t, g.away(90))
	assert.InDelta(t, 88, g.returns(State{BlockC: 88, ExchangerKW: 5}), 0, "nothing flows")
}

// What passes the tubes by takes no part in the exchange.
func TestABypassLeavesLessWaterInTheTubes(t *testing.T) {
	p := turbo(t)
	h := Well()
	h.Bypass = 0.4
	f, err := p.flow(Operation{RPM: 2800, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, h)
	require.NoError(t, err)
	share := f.share(88)
	hot := exchanger.Stream{C: f.coolantC * share, InC: 88}
	cold := exchanger.Stream{C: f.atC * 0.6, InC: f.inC}
	assert.InEpsilon(t, exchanger.HeatOf(p.Arrangement, hot, cold, f.ua(f.coolant*share)), f.away(88), 1e-12)
}

// Raw-water-cooled the water is cold up to the block, and warm behind it; the block and its thermostat are as hot as it is.
func TestWhatIsReadAlongARawCooledCircuit(t *testing.T) {
	p := direct60(t)
	s, err := p.Steady(Operation{RPM: 2400, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, Well())
	require.NoError(t, err)
	want := map[string]float64{"intake": 16, "raw-pump": 16, "gear-cooler": s.RawInC, "thermostat": s.BlockC, "block": s.BlockC,
		"raw-hoses": s.RawOutC, "elbow": s.Elbow.MixedC, "gauge": s.GaugeC}
	require.Greater(t, s.RawOutC, s.RawInC+1)
	seen := 0
	for _, r := range s.Readings {
		if c, ok := want[r.Station]; ok {
			seen++
			assert.InDelta(t, c, r.TempC, 1e-9, r.Station)
		}
	}
	assert.Len(t, want, seen)
	h := Well()
	h.LeakAfter = 1
	gone, err := turbo(t).Steady(Operation{RPM: 2400, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}, h)
	require.NoError(t, err)
	assert.InDelta(t, gone.RawOutC, gone.ToElbowC, 0, "nothing gets to the elbow")
}

// What is slowed or leaks does so in proportion.
func TestFlowsInProportion(t *testing.T) {
	p := turbo(t)
	op := Operation{RPM: 1700, Load: 1, SeaC: 16, Salinity: 35, SpaceC: 35}
	f, err := p.flow(op, Well())
	require.NoError(t, err)
	assert.InEpsilon(t, p.CoolantLMin/2, f.coolant, 1e-9, "half the speed")
	c := p.Coolant.At(80)
	assert.InEpsilon(t, f.coolant/60000*c.DensityKgM3*c.SpecificHeat, f.coolantC, 1e-9)
	h := Well()
	h.CoolantFlow, h.Raw, h.LeakBefore = 0.6, 0.5, 0.1
	g, err := p.flow(op, h)
	require.NoError(t, err)
	assert.InEpsilon(t, 0.6*f.coolant, g.coolant, 1e-9)
	assert.InEpsilon(t, 0.5*f.raw.FlowLMin, g.raw.FlowLMin, 1e-9)
	assert.InEpsilon(t, 0.9*g.rawC, g.atC, 1e-9)
}
