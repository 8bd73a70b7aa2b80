package server

import (
	"context"

	"hevrin/api"
	"hevrin/app"
	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/record"
)

func (h *handlers) PlantSteady(_ context.Context, r api.PlantSteadyRequestObject) (api.PlantSteadyResponseObject, error) {
	s, err := app.Steady(knownOf(r.Body.Engine), operationOf(r.Body.Operation), faultsOf(r.Body.Faults))
	if err != nil {
		return nil, err
	}
	v := stateView(s)
	if len(value(r.Body.Faults)) == 0 {
		should, err := app.Shoulds(knownOf(r.Body.Engine), operationOf(r.Body.Operation))
		if err != nil {
			return nil, err
		}
		v.Readings = each(should, shouldView)
	}
	return api.PlantSteady200JSONResponse(v), nil
}

// usualEvery is how often a run is told when nobody says.
const usualEvery = 10.0

func (h *handlers) PlantTransient(_ context.Context, r api.PlantTransientRequestObject) (api.PlantTransientResponseObject, error) {
	phases := each(r.Body.Phases, func(p api.PlantPhase) app.Phase {
		return app.Phase{UntilS: p.UntilS, Operation: operationOf(p.Operation), Faults: faultsOf(p.Faults)}
	})
	run, err := app.Transient(knownOf(r.Body.Engine), r.Body.StartC, phases, or(r.Body.EveryS, usualEvery))
	if err != nil {
		return nil, err
	}
	return api.PlantTransient200JSONResponse{Moments: each(run, func(m plant.Moment) api.PlantMoment {
		return api.PlantMoment{Seconds: m.Seconds, BlockC: m.BlockC, GaugeC: m.GaugeC, ToElbowC: m.RawOutC, ElbowC: m.ElbowC, RawLMin: m.RawLMin, Opening: m.Opening}
	})}, nil
}

func (h *handlers) PlantHealth(_ context.Context, r api.PlantHealthRequestObject) (api.PlantHealthResponseObject, error) {
	report, err := app.Judge(knownOf(r.Body.Engine), each(r.Body.Rounds, roundOf), value(r.Body.Fitted))
	if err != nil {
		return nil, err
	}
	return api.PlantHealth200JSONResponse(healthView(report)), nil
}

// or is what a pointer points to, or the other.
func or[T any](p *T, other T) T {
	if p == nil {
		return other
	}
	return *p
}

func knownOf(e api.PlantEngine) plant.Known {
	k := plant.Known{Family: string(e.Family), Fuel: plant.Fuel(e.Fuel), RatedKW: e.RatedKw, RatedRPM: e.RatedRpm, ThermostatC: value(e.ThermostatC), Circuit: e.Circuit}
	if f := e.Facts; f != nil {
		k.Aspiration, k.Exponent = plant.Aspiration(value(f.Aspiration)), value(f.PropellerExponent)
		k.RawLMin, k.CoolantLMin, k.UA, k.BlockKJK, k.Glycol = value(f.RawLMin), value(f.CoolantLMin), value(f.UaWK), value(f.BlockKjK), value(f.GlycolPercentVolume)
	}
	return k
}

// spaceOverSea is how much warmer than the sea an engine space is taken to be, common practice.
const spaceOverSea = 15.0

func operationOf(o api.Operation) plant.Operation {
	return plant.Operation{RPM: o.Rpm, Load: or(o.Load, 1), SeaC: o.SeaC, Salinity: or(o.SalinityGKg, fluid.OceanSalinity), SpaceC: or(o.SpaceC, o.SeaC+spaceOverSea)}
}

func faultsOf(list *[]api.PhysicalFault) []plant.Fault {
	return each(value(list), func(f api.PhysicalFault) plant.Fault { return plant.Fault{ID: f.Id, Severity: f.Severity} })
}

func roundOf(r api.PlantRound) plant.Round {
	return plant.Round{Operation: operationOf(r.Operation), Reads: each(r.Readings, func(x api.RoundReading) plant.Read {
		return plant.Read{Station: x.Station, Side: string(value(x.Side)), Value: x.Value, Error: errorOf(x)}
	})}
}

func errorOf(x api.RoundReading) float64 {
	return or(x.Error, plant.UsualError(x.Station, plant.Instrument(value(x.Instrument)), x.Value))
}

// roundEntryOf is a round as it is kept: with every error and every figure of the operation written out.
func roundEntryOf(r api.PlantRound) *record.Round {
	op := operationOf(r.Operation)
	return &record.Round{RPM: op.RPM, Load: op.Load, SeaC: op.SeaC, Salinity: op.Salinity, SpaceC: op.SpaceC, Readings: each(r.Readings, func(x api.RoundReading) record.Read {
		return record.Read{Station: x.Station, Side: string(value(x.Side)), Value: x.Value, Error: errorOf(x), Instrument: string(value(x.Instrument))}
	})}
}

func roundEntryView(r record.Round) api.PlantRound {
	return api.PlantRound{Operation: api.Operation{Rpm: r.RPM, Load: &r.Load, SeaC: r.SeaC, SalinityGKg: &r.Salinity, SpaceC: &r.SpaceC},
		Readings: each(r.Readings, func(x record.Read) api.RoundReading {
			return api.RoundReading{Station: x.Station, Side: some(api.WaterSide(x.Side)), Value: x.Value, Error: &x.Error, Instrument: some(api.Instrument(x.Instrument))}
		})}
}

func roundMadeView(r app.RoundRead) api.RoundMade {
	should := each(r.Should, shouldView)
	return api.RoundMade{Round: roundEntryView(r.Round), Should: &should, Words: r.Words, By: r.From.By, At: r.From.At, EntryId: r.From.Entry}
}

func shouldView(s plant.Should) api.PlantReading {
	v := readingView(s.Reading)
	v.SpreadK = &s.SpreadK
	return v
}

func readingView(r plant.Reading) api.PlantReading {
	return api.PlantReading{Station: r.Station, Side: api.WaterSide(r.Side), TempC: r.TempC, Kpa: r.KPa}
}

func stateView(s plant.State) api.PlantState {
	return api.PlantState{RawLMin: s.RawLMin, CoolantLMin: s.CoolantLMin, ExchangerLMin: s.ExchangerLMin, VacuumKpa: s.VacuumKPa, PressureKpa: s.PressureKPa,
		Opening: s.Opening, BlockC: s.BlockC, GaugeC: s.GaugeC, ExchangerOutC: s.ExchangerOutC, RawInC: s.RawInC, ToElbowC: s.ToElbowC, ElbowC: s.Elbow.MixedC,
		Dry: s.Elbow.Dry, Boils: s.Boils, PowerKw: s.Heat.PowerKW, FuelLH: s.Heat.FuelLH, BlockKw: s.BlockKW, ExchangerKw: s.ExchangerKW, ShedKw: s.ShedKW,
		Readings: each(s.Readings, readingView)}
}

func healthView(r plant.HealthReport) api.PlantHealth {
	leaning := func(l plant.Leaning) api.Leaning { return api.Leaning{Id: l.ID, Ratio: l.Ratio, Q: l.Normalised()} }
	return api.PlantHealth{
		Figures: each(r.Figures, func(f plant.Figure) api.HealthFigure {
			return api.HealthFigure{Id: f.ID, Label: f.Label, Value: f.Value, Error: f.Error, Healthy: f.Healthy, Ratio: f.Ratio, Known: f.Known}
		}),
		Patterns: each(r.Patterns, leaning), Findings: each(r.Findings, leaning), Faults: each(r.Faults, leaning), Weak: list(r.Weak),
		Doubts: each(r.Doubts, func(d plant.Doubt) api.Doubt { return api.Doubt{Round: d.Round, Reading: d.Read, Say: d.Say} }), Words: list(r.Words)}
}
