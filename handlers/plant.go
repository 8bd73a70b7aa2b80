package handlers

import (
	"context"
	"fmt"
	"strings"

	"hevrin/api"
	"hevrin/app/readings"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/fluid"
	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// plantHandlers answer questions about the model of an engine; they keep nothing.
type plantHandlers struct{ catalogue *catalogue.Catalogue }

func (h *plantHandlers) PlantTypes(context.Context, api.PlantTypesRequestObject) (api.PlantTypesResponseObject, error) {
	return api.PlantTypes200JSONResponse{Faults: plant.Physical(), Types: api.Each(plant.Types(),
		func(t plant.Type) api.PlantType {
			return api.PlantType{Id: t.ID, Label: t.Label, Family: t.Family, Fuel: api.Fuel(t.Fuel),
				Aspiration: api.Aspiration(t.Aspiration),
				RatedKw:    t.RatedKW, RatedRpm: t.RatedRPM, ThermostatC: t.ThermostatC, Circuit: t.Circuit}
		})}, nil
}

func (h *plantHandlers) PlantFacts(ctx context.Context,
	r api.PlantFactsRequestObject) (api.PlantFactsResponseObject, error) {
	a, err := h.askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	facts, err := readings.Facts(a)
	if err != nil {
		return nil, err
	}
	return api.PlantFacts200JSONResponse{Facts: api.Each(facts,
		func(f plant.Fact) api.PlantFact { return factView(SystemIn(ctx), f) })}, nil
}

func (h *plantHandlers) PlantLimits(_ context.Context,
	r api.PlantLimitsRequestObject) (api.PlantLimitsResponseObject, error) {
	a, err := h.askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	l, err := readings.Limits(a, operationOf(r.Body.Operation), faultsOf(r.Body.Faults), api.Value(r.Body.AlarmC))
	if err != nil {
		return nil, err
	}
	return api.PlantLimits200JSONResponse{AlarmC: l.AlarmC, MarginK: l.MarginK, SeaC: l.SeaC, Rpm: l.RPM, Spare: l.Spare,
		HealthySpare: l.HealthySpare, Gone: l.Gone(),
		AlarmS: l.AlarmS, Is: stateView(l.Is), Healthy: stateView(l.Healthy), Picture: *pictureView(&l.Picture)}, nil
}

func (h *plantHandlers) PlantSteady(_ context.Context,
	r api.PlantSteadyRequestObject) (api.PlantSteadyResponseObject, error) {
	a, err := h.askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	s, err := readings.Steady(a, operationOf(r.Body.Operation), faultsOf(r.Body.Faults))
	if err != nil {
		return nil, err
	}
	v := stateView(s)
	if len(api.Value(r.Body.Faults)) == 0 {
		should, standard, err := readings.Shoulds(a, operationOf(r.Body.Operation))
		if err != nil {
			return nil, err
		}
		v.Readings = api.Each(should, shouldView)
		v.Standard = carriedView(standard)
	}
	return api.PlantSteady200JSONResponse(v), nil
}

// usualEvery is how often a run is told when nobody says.
const usualEvery = 10.0

func (h *plantHandlers) PlantTransient(_ context.Context,
	r api.PlantTransientRequestObject) (api.PlantTransientResponseObject, error) {
	phases := api.Each(r.Body.Phases, func(p api.PlantPhase) readings.Phase {
		return readings.Phase{UntilS: p.UntilS, Operation: operationOf(p.Operation), Faults: faultsOf(p.Faults)}
	})
	a, err := h.askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	run, err := readings.Transient(a, r.Body.StartC, phases, api.Or(r.Body.EveryS, usualEvery))
	if err != nil {
		return nil, err
	}
	return api.PlantTransient200JSONResponse{Moments: api.Each(run, func(m plant.Moment) api.PlantMoment {
		return api.PlantMoment{Seconds: m.Seconds, BlockC: m.BlockC, GaugeC: m.GaugeC, ToElbowC: m.RawOutC, ElbowC: m.ElbowC,
			RawLMin: m.RawLMin, Opening: m.Opening}
	})}, nil
}

func (h *plantHandlers) PlantHealth(ctx context.Context,
	r api.PlantHealthRequestObject) (api.PlantHealthResponseObject, error) {
	a, err := h.askedOf(r.Body.Engine)
	if err != nil {
		return nil, err
	}
	rounds, taken := make([]plant.Round, len(r.Body.Rounds)), make([]api.PlantRound, len(r.Body.Rounds))
	for i, x := range r.Body.Rounds {
		kept, err := roundEntryOf(x, fmt.Sprintf("rounds[%d]", i))
		if err != nil {
			return nil, err
		}
		rounds[i], taken[i] = readings.RoundOf(*kept), RoundEntryView(*kept)
	}
	report, err := readings.Judge(a, rounds)
	if err != nil {
		return nil, err
	}
	v := healthView(report, SystemIn(ctx))
	v.Rounds = &taken
	return api.PlantHealth200JSONResponse(v), nil
}

// askedOf is an engine as a question about it gives it.
func (h *plantHandlers) askedOf(e api.PlantEngine) (readings.PlantQuestion, error) {
	if _, ok := h.catalogue.Family(e.Family); !ok {
		var wrong validation.Errors
		wrong.Add("engine.family", e.Family, units.Sentence(strings.Join(h.catalogue.FamilyIDs(), ", ")),
			"say how the engine is cooled")
		return readings.PlantQuestion{}, wrong
	}
	facts := eventlog.EngineFacts{Family: e.Family, Fuel: string(e.Fuel), RatedKW: e.RatedKw,
		RatedRPM: e.RatedRpm, ThermostatC: api.Value(e.ThermostatC), Circuit: e.Circuit, Cooling: coolingOf(e.Cooling)}
	a := readings.PlantQuestion{Engine: readings.PlantFacts(facts), Fitted: api.Value(e.Fitted)}
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
	out := eventlog.Cooling{Aspiration: string(api.Value(c.Aspiration)), PumpDrive: string(api.Value(c.PumpDrive)),
		PropellerExponent: api.Value(c.PropellerExponent),
		RawLMin:           api.Value(c.RawLMin), CoolantLMin: api.Value(c.CoolantLMin),
		UA: api.Value(c.UaWK), BlockKJK: api.Value(c.BlockKjK), Glycol: api.Value(c.GlycolPercentVolume),
		AlarmC: api.Value(c.AlarmC)}
	if r := c.ExchangerRating; r != nil {
		out.Rating = &eventlog.MakersRating{HeatKW: r.HeatKw, CoolantLMin: r.CoolantLMin, CoolantInC: r.CoolantInC,
			RawLMin: r.RawLMin, RawInC: r.RawInC}
	}
	if t := c.ExchangerTubes; t != nil {
		out.Tubes = &eventlog.Tubes{Tubes: t.Tubes, Passes: t.Passes, InnerMM: t.InnerDiameterMm, OuterMM: t.OuterDiameterMm,
			LengthMM: t.LengthMm, ShellWM2K: api.Value(t.ShellCoefficientWM2K)}
	}
	return out
}

func coolingView(c eventlog.Cooling) api.Cooling {
	out := api.Cooling{
		Aspiration:          api.Some(api.Aspiration(c.Aspiration)),
		PumpDrive:           api.Some(api.PumpDrive(c.PumpDrive)),
		PropellerExponent:   api.Some(c.PropellerExponent),
		RawLMin:             api.Some(c.RawLMin),
		CoolantLMin:         api.Some(c.CoolantLMin),
		UaWK:                api.Some(c.UA),
		BlockKjK:            api.Some(c.BlockKJK),
		GlycolPercentVolume: api.Some(c.Glycol),
		AlarmC:              api.Some(c.AlarmC),
	}
	if r := c.Rating; r != nil {
		out.ExchangerRating = &api.MakersRating{HeatKw: r.HeatKW, CoolantLMin: r.CoolantLMin, CoolantInC: r.CoolantInC,
			RawLMin: r.RawLMin, RawInC: r.RawInC}
	}
	if t := c.Tubes; t != nil {
		out.ExchangerTubes = &api.Tubes{Tubes: t.Tubes, Passes: t.Passes, InnerDiameterMm: t.InnerMM,
			OuterDiameterMm: t.OuterMM, LengthMm: t.LengthMM, ShellCoefficientWM2K: api.Some(t.ShellWM2K)}
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
	return plant.Operation{RPM: o.Rpm, Load: api.Or(o.Load, 1), SeaC: o.SeaC, Salinity: api.Or(o.SalinityGKg,
		fluid.OceanSalinity), SpaceC: api.Or(o.SpaceC, o.SeaC+spaceOverSea), OutOfGear: api.Value(o.OutOfGear)}
}

func faultsOf(list *[]api.PhysicalFault) []plant.Fault {
	return api.Each(
		api.Value(list),
		func(f api.PhysicalFault) plant.Fault { return plant.Fault{ID: f.Id, Severity: f.Severity} },
	)
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
	return api.Or(x.Error, plant.UsualError(x.Station, plant.Instrument(api.Value(x.Instrument)), x.Value))
}

// roundEntryOf is a round as it is kept: with every error and every figure of the operation written out, and what a
// surface thermometer showed turned into what the surface was at. A reading that was turned already stays.
func roundEntryOf(r api.PlantRound, at string) (*eventlog.Round, error) {
	op := operationOf(r.Operation)
	out := &eventlog.Round{RPM: op.RPM, Load: op.Load, SeaC: op.SeaC, Salinity: op.Salinity, SpaceC: op.SpaceC,
		OutOfGear: op.OutOfGear, RanMin: api.Value(r.Operation.RanMin)}
	for i, x := range r.Readings {
		read := eventlog.Read{Station: x.Station, Side: string(api.Value(x.Side)), Value: x.Value, Error: errorOf(x),
			Instrument: string(api.Value(x.Instrument)), Surface: string(api.Value(x.Surface)), AsRead: api.Value(x.AsRead)}
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

// RoundEntryView is a round as it was entered, as the contract tells it.
func RoundEntryView(r eventlog.Round) api.PlantRound {
	return api.PlantRound{Operation: api.Operation{Rpm: r.RPM, Load: &r.Load, SeaC: r.SeaC, SalinityGKg: &r.Salinity,
		SpaceC: &r.SpaceC, OutOfGear: api.Some(r.OutOfGear), RanMin: api.Some(r.RanMin)},
		Readings: api.Each(r.Readings, func(x eventlog.Read) api.RoundReading {
			return api.RoundReading{Station: x.Station, Side: api.Some(api.WaterSide(x.Side)), Value: x.Value, Error: &x.Error,
				Instrument: api.Some(api.Instrument(x.Instrument)),
				Surface:    api.Some(api.SurfaceKind(x.Surface)), AsRead: api.Some(x.AsRead)}
		})}
}

func carriedView(list []plant.Read) *[]api.RoundReading {
	if len(list) == 0 {
		return nil
	}
	out := api.Each(list, func(x plant.Read) api.RoundReading {
		return api.RoundReading{Station: x.Station, Side: api.Some(api.WaterSide(x.Side)), Value: x.Value, Error: &x.Error}
	})
	return &out
}

func standardView(s readings.Comparison) api.PlantComparison {
	out := api.PlantComparison{Kind: api.ComparisonKind(s.Kind), Name: api.Some(s.Name), Rounds: api.Each(s.Rounds,
		RoundEntryView)}
	if !s.At.IsZero() {
		out.At = &s.At
	}
	return out
}

func roundMadeView(r readings.RoundRead) api.RoundMade {
	should := api.Each(r.Should, shouldView)
	return api.RoundMade{Round: RoundEntryView(r.Round), Should: &should, Baseline: carriedView(r.Baseline),
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
		Readings: api.Each(s.Readings, readingView)}
}

func healthView(r plant.HealthReport, system units.System) api.PlantHealth {
	leaning := func(l plant.Leaning) api.Leaning { return api.Leaning{Id: l.ID, Ratio: l.Ratio, Q: l.Normalised()} }
	return api.PlantHealth{
		Figures: api.Each(r.Figures, func(f plant.Figure) api.HealthFigure {
			return api.HealthFigure{Id: f.ID, Label: f.Label, Value: f.Value, Error: f.Error, Healthy: f.Healthy,
				Ratio: f.Ratio, Known: f.Known}
		}),
		Patterns: api.Each(r.Patterns, leaning), Findings: api.Each(r.Findings, leaning), Faults: api.Each(r.Faults, leaning),
		Weak: api.List(r.Weak), Hidden: api.List(r.Hidden),
		Unsettled: api.Each(r.Unsettled, func(u plant.Unsettled) api.Unsettled {
			return api.Unsettled{Round: u.Round, Say: u.Say.In(system)}
		}),
		Doubts: api.Each(r.Doubts, func(d plant.Doubt) api.Doubt {
			return api.Doubt{Round: d.Round, Reading: d.Read, Say: d.Say.In(system)}
		}), Words: Said(system, r.Words),
		SaysFound: r.SaysFound, Next: api.Each(r.Next, func(t plant.NextReading) api.NextReading {
			return api.NextReading{Rpm: t.RPM, Station: t.Station, Side: api.Some(api.WaterSide(t.Side)), Bits: t.Bits,
				Between: t.Between[:]}
		})}
}
