package server

import (
	"context"
	"fmt"

	"hevrin/api"
	"hevrin/app/readings"
	"hevrin/core/eventlog"
	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// plantHandlers answer questions about the model of an engine; they keep nothing.
type plantHandlers struct{}

func (h *plantHandlers) PlantTypes(context.Context, api.PlantTypesRequestObject) (api.PlantTypesResponseObject, error) {
	return api.PlantTypes200JSONResponse{Faults: plant.Physical(), Types: each(plant.Types(),
		func(t plant.Type) api.PlantType {
			return api.PlantType{Id: t.ID, Label: t.Label, Family: api.FamilyID(t.Family), Fuel: api.Fuel(t.Fuel),
				Aspiration: api.Aspiration(t.Aspiration),
				RatedKw:    t.RatedKW, RatedRpm: t.RatedRPM, ThermostatC: t.ThermostatC, Circuit: t.Circuit}
		})}, nil
}

func (h *plantHandlers) PlantFacts(ctx context.Context,
	r api.PlantFactsRequestObject) (api.PlantFactsResponseObject, error) {
	a, err := askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	facts, err := readings.Facts(a)
	if err != nil {
		return nil, err
	}
	return api.PlantFacts200JSONResponse{Facts: each(facts,
		func(f plant.Fact) api.PlantFact { return factView(systemIn(ctx), f) })}, nil
}

func (h *plantHandlers) PlantLimits(_ context.Context,
	r api.PlantLimitsRequestObject) (api.PlantLimitsResponseObject, error) {
	a, err := askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	l, err := readings.Limits(a, operationOf(r.Body.Operation), faultsOf(r.Body.Faults), value(r.Body.AlarmC))
	if err != nil {
		return nil, err
	}
	return api.PlantLimits200JSONResponse{AlarmC: l.AlarmC, MarginK: l.MarginK, SeaC: l.SeaC, Rpm: l.RPM, Spare: l.Spare,
		HealthySpare: l.HealthySpare, Gone: l.Gone(),
		AlarmS: l.AlarmS, Is: stateView(l.Is), Healthy: stateView(l.Healthy), Picture: *pictureView(&l.Picture)}, nil
}

func (h *plantHandlers) PlantSteady(_ context.Context,
	r api.PlantSteadyRequestObject) (api.PlantSteadyResponseObject, error) {
	a, err := askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	s, err := readings.Steady(a, operationOf(r.Body.Operation), faultsOf(r.Body.Faults))
	if err != nil {
		return nil, err
	}
	v := stateView(s)
	if len(value(r.Body.Faults)) == 0 {
		should, standard, err := readings.Shoulds(a, operationOf(r.Body.Operation))
		if err != nil {
			return nil, err
		}
		v.Readings = each(should, shouldView)
		v.Standard = carriedView(standard)
	}
	return api.PlantSteady200JSONResponse(v), nil
}

// usualEvery is how often a run is told when nobody says.
const usualEvery = 10.0

func (h *plantHandlers) PlantTransient(_ context.Context,
	r api.PlantTransientRequestObject) (api.PlantTransientResponseObject, error) {
	phases := each(r.Body.Phases, func(p api.PlantPhase) readings.Phase {
		return readings.Phase{UntilS: p.UntilS, Operation: operationOf(p.Operation), Faults: faultsOf(p.Faults)}
	})
	a, err := askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	run, err := readings.Transient(a, r.Body.StartC, phases, or(r.Body.EveryS, usualEvery))
	if err != nil {
		return nil, err
	}
	return api.PlantTransient200JSONResponse{Moments: each(run, func(m plant.Moment) api.PlantMoment {
		return api.PlantMoment{Seconds: m.Seconds, BlockC: m.BlockC, GaugeC: m.GaugeC, ToElbowC: m.RawOutC, ElbowC: m.ElbowC,
			RawLMin: m.RawLMin, Opening: m.Opening}
	})}, nil
}

func (h *plantHandlers) PlantHealth(ctx context.Context,
	r api.PlantHealthRequestObject) (api.PlantHealthResponseObject, error) {
	a, err := askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	rounds, taken := make([]plant.Round, len(r.Body.Rounds)), make([]api.PlantRound, len(r.Body.Rounds))
	for i, x := range r.Body.Rounds {
		kept, err := roundEntryOf(x, fmt.Sprintf("rounds[%d]", i))
		if err != nil {
			return nil, err
		}
		rounds[i], taken[i] = readings.RoundOf(*kept), roundEntryView(*kept)
	}
	report, err := readings.Judge(a, rounds)
	if err != nil {
		return nil, err
	}
	v := healthView(report, systemIn(ctx))
	v.Rounds = &taken
	return api.PlantHealth200JSONResponse(v), nil
}

// or is what a pointer points to, or the other.
func or[T any](p *T, other T) T {
	if p == nil {
		return other
	}
	return *p
}

// askedOf is an engine as a question about it gives it.
func askedOf(e api.PlantEngine) (readings.PlantQuestion, error) {
	facts := eventlog.EngineFacts{Family: string(e.Family), Fuel: string(e.Fuel), RatedKW: e.RatedKw,
		RatedRPM: e.RatedRpm, ThermostatC: value(e.ThermostatC), Circuit: e.Circuit, Cooling: coolingOf(e.Cooling)}
	a := readings.PlantQuestion{Engine: readings.PlantFacts(facts), Fitted: value(e.Fitted)}
	if s := e.Standard; s != nil {
		a.By = string(s.Kind)
		for i, r := range s.Rounds {
			round, err := roundOf(r, fmt.Sprintf("engine.standard.rounds[%d]", i))
			if err != nil {
				return a, err
			}
			a.Rounds = append(a.Rounds, round)
		}
	}
	return a, nil
}

func coolingOf(c *api.Cooling) eventlog.Cooling {
	if c == nil {
		return eventlog.Cooling{}
	}
	out := eventlog.Cooling{Aspiration: string(value(c.Aspiration)), PropellerExponent: value(c.PropellerExponent),
		RawLMin: value(c.RawLMin), CoolantLMin: value(c.CoolantLMin),
		UA: value(c.UaWK), BlockKJK: value(c.BlockKjK), Glycol: value(c.GlycolPercentVolume)}
	if r := c.ExchangerRating; r != nil {
		out.Rating = &eventlog.MakersRating{HeatKW: r.HeatKw, CoolantLMin: r.CoolantLMin, CoolantInC: r.CoolantInC,
			RawLMin: r.RawLMin, RawInC: r.RawInC}
	}
	if t := c.ExchangerTubes; t != nil {
		out.Tubes = &eventlog.Tubes{Tubes: t.Tubes, Passes: t.Passes, InnerMM: t.InnerDiameterMm, OuterMM: t.OuterDiameterMm,
			LengthMM: t.LengthMm, ShellWM2K: value(t.ShellCoefficientWM2K)}
	}
	return out
}

func coolingView(c eventlog.Cooling) api.Cooling {
	out := api.Cooling{Aspiration: some(api.Aspiration(c.Aspiration)), PropellerExponent: some(c.PropellerExponent),
		RawLMin: some(c.RawLMin), CoolantLMin: some(c.CoolantLMin),
		UaWK: some(c.UA), BlockKjK: some(c.BlockKJK), GlycolPercentVolume: some(c.Glycol)}
	if r := c.Rating; r != nil {
		out.ExchangerRating = &api.MakersRating{HeatKw: r.HeatKW, CoolantLMin: r.CoolantLMin, CoolantInC: r.CoolantInC,
			RawLMin: r.RawLMin, RawInC: r.RawInC}
	}
	if t := c.Tubes; t != nil {
		out.ExchangerTubes = &api.Tubes{Tubes: t.Tubes, Passes: t.Passes, InnerDiameterMm: t.InnerMM,
			OuterDiameterMm: t.OuterMM, LengthMm: t.LengthMM, ShellCoefficientWM2K: some(t.ShellWM2K)}
	}
	return out
}

func factView(system units.System, f plant.Fact) api.PlantFact {
	return api.PlantFact{Id: f.ID, Label: f.Label, Value: f.Value, Unit: f.Unit, From: api.FactSource(f.From),
		Why: f.Why.In(system)}
}

// spaceOverSea is how much warmer than the sea an engine space is taken to be, common practice.
const spaceOverSea = 15.0

func operationOf(o api.Operation) plant.Operation {
	return plant.Operation{RPM: o.Rpm, Load: or(o.Load, 1), SeaC: o.SeaC, Salinity: or(o.SalinityGKg,
		fluid.OceanSalinity), SpaceC: or(o.SpaceC, o.SeaC+spaceOverSea), OutOfGear: value(o.OutOfGear)}
}

func faultsOf(list *[]api.PhysicalFault) []plant.Fault {
	return each(value(list), func(f api.PhysicalFault) plant.Fault { return plant.Fault{ID: f.Id, Severity: f.Severity} })
}

// roundOf is a round as the model takes it; at is the path of the round within the question.
func roundOf(r api.PlantRound, at string) (plant.Round, error) {
	kept, err := roundEntryOf(r, at)
	if err != nil {
		return plant.Round{}, err
	}
	return readings.RoundOf(*kept), nil
}

func errorOf(x api.RoundReading) float64 {
	return or(x.Error, plant.UsualError(x.Station, plant.Instrument(value(x.Instrument)), x.Value))
}

// roundEntryOf is a round as it is kept: with every error and every figure of the operation written out, and what a
// surface thermometer showed turned into what the surface was at. A reading that was turned already stays.
func roundEntryOf(r api.PlantRound, at string) (*eventlog.Round, error) {
	op := operationOf(r.Operation)
	out := &eventlog.Round{RPM: op.RPM, Load: op.Load, SeaC: op.SeaC, Salinity: op.Salinity, SpaceC: op.SpaceC,
		OutOfGear: op.OutOfGear, RanMin: value(r.Operation.RanMin)}
	for i, x := range r.Readings {
		read := eventlog.Read{Station: x.Station, Side: string(value(x.Side)), Value: x.Value, Error: errorOf(x),
			Instrument: string(value(x.Instrument)), Surface: string(value(x.Surface)), AsRead: value(x.AsRead)}
		if x.Surface != nil && x.AsRead == nil {
			var err error
			read.AsRead = x.Value
			if read.Value, read.Error, err = readings.Pointed(x.Value, read.Error, read.Surface, op.SpaceC); err != nil {
				return nil, validation.Under(fmt.Sprintf("%s.readings[%d]", at, i), err)
			}
		}
		out.Readings = append(out.Readings, read)
	}
	return out, nil
}

func roundEntryView(r eventlog.Round) api.PlantRound {
	return api.PlantRound{Operation: api.Operation{Rpm: r.RPM, Load: &r.Load, SeaC: r.SeaC, SalinityGKg: &r.Salinity,
		SpaceC: &r.SpaceC, OutOfGear: some(r.OutOfGear), RanMin: some(r.RanMin)},
		Readings: each(r.Readings, func(x eventlog.Read) api.RoundReading {
			return api.RoundReading{Station: x.Station, Side: some(api.WaterSide(x.Side)), Value: x.Value, Error: &x.Error,
				Instrument: some(api.Instrument(x.Instrument)),
				Surface:    some(api.SurfaceKind(x.Surface)), AsRead: some(x.AsRead)}
		})}
}

func carriedView(list []plant.Read) *[]api.RoundReading {
	if len(list) == 0 {
		return nil
	}
	out := each(list, func(x plant.Read) api.RoundReading {
		return api.RoundReading{Station: x.Station, Side: some(api.WaterSide(x.Side)), Value: x.Value, Error: &x.Error}
	})
	return &out
}

func standardView(s readings.Comparison) api.PlantComparison {
	out := api.PlantComparison{Kind: api.ComparisonKind(s.Kind), Name: some(s.Name), Rounds: each(s.Rounds,
		roundEntryView)}
	if !s.At.IsZero() {
		out.At = &s.At
	}
	return out
}

func roundMadeView(r readings.RoundRead) api.RoundMade {
	should := each(r.Should, shouldView)
	return api.RoundMade{Round: roundEntryView(r.Round), Should: &should, Baseline: carriedView(r.Baseline),
		Twin: carriedView(r.Twin), Words: r.Words, By: r.From.By, At: r.From.At, EntryId: r.From.Entry}
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
	return api.PlantState{RawLMin: s.RawLMin, CoolantLMin: s.CoolantLMin, ExchangerLMin: s.ExchangerLMin,
		VacuumKpa: s.VacuumKPa, PressureKpa: s.PressureKPa,
		Opening: s.Opening, BlockC: s.BlockC, GaugeC: s.GaugeC, ExchangerOutC: s.ExchangerOutC, RawInC: s.RawInC,
		ToElbowC: s.ToElbowC, ElbowC: s.Elbow.MixedC,
		Dry: s.Elbow.Dry, Boils: s.Boils, PowerKw: s.Heat.PowerKW, FuelLH: s.Heat.FuelLH, BlockKw: s.BlockKW,
		ExchangerKw: s.ExchangerKW, ShedKw: s.ShedKW,
		Readings: each(s.Readings, readingView)}
}

func healthView(r plant.HealthReport, system units.System) api.PlantHealth {
	leaning := func(l plant.Leaning) api.Leaning { return api.Leaning{Id: l.ID, Ratio: l.Ratio, Q: l.Normalised()} }
	return api.PlantHealth{
		Figures: each(r.Figures, func(f plant.Figure) api.HealthFigure {
			return api.HealthFigure{Id: f.ID, Label: f.Label, Value: f.Value, Error: f.Error, Healthy: f.Healthy,
				Ratio: f.Ratio, Known: f.Known}
		}),
		Patterns: each(r.Patterns, leaning), Findings: each(r.Findings, leaning), Faults: each(r.Faults, leaning),
		Weak: list(r.Weak), Unsettled: each(r.Unsettled, func(u plant.Unsettled) api.Unsettled {
			return api.Unsettled{Round: u.Round, Say: u.Say.In(system)}
		}),
		Doubts: each(r.Doubts, func(d plant.Doubt) api.Doubt {
			return api.Doubt{Round: d.Round, Reading: d.Read, Say: d.Say.In(system)}
		}), Words: said(system, r.Words),
		SaysFound: r.SaysFound, Next: each(r.Next, func(t plant.NextReading) api.NextReading {
			return api.NextReading{Rpm: t.RPM, Station: t.Station, Side: some(api.WaterSide(t.Side)), Bits: t.Bits,
				Between: t.Between[:]}
		})}
}
