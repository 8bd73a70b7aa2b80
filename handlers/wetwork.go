package handlers

import (
	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

func productOf(p api.Product) wetwork.Product {
	return wetwork.Product{ID: p.Id, Label: p.Label, Acid: wetwork.Acid(api.Value(p.Acid)),
		StockPercent: api.Value(p.StockPercentMass), PartsWater: api.Value(p.PartsWater), Minutes: api.Value(p.Minutes),
		MostPercent: api.Value(p.MostPercent), Ready: api.Value(p.ReadyMixed), Caustic: api.Value(p.Caustic),
		NotOn: api.Each(api.Value(p.NotOn), func(m api.Material) string { return string(m) })}
}

func productView(p wetwork.Product) api.Product {
	out := api.Product{
		Id:               p.ID,
		Label:            p.Label,
		Acid:             api.Some(api.AcidID(p.Acid)),
		StockPercentMass: api.Some(p.StockPercent),
		PartsWater:       api.Some(p.PartsWater),
		Minutes:          api.Some(p.Minutes),
		MostPercent:      api.Some(p.MostPercent),
		ReadyMixed:       api.Some(p.Ready),
		Caustic:          api.Some(p.Caustic),
	}
	if len(p.NotOn) > 0 {
		list := api.Each(p.NotOn, func(m string) api.Material { return api.Material(m) })
		out.NotOn = &list
	}
	return out
}

func wetActOf(a api.WetworkAct) *wetwork.Act {
	out := &wetwork.Act{Do: string(a.Do), Work: a.Work, Kind: string(api.Value(a.Kind)), What: api.Value(a.What),
		Station: api.Value(a.Station), Litres: api.Value(a.Litres), Percent: api.Value(a.Percent), Share: api.Value(a.Share),
		Words: api.Value(a.Words), Hours: api.Value(a.Hours)}
	if f := a.Flush; f != nil {
		out.Flush = &wetwork.FlushPlan{Station: f.Station, Debris: string(f.Debris), Source: string(f.Source),
			ExhaustOff: api.Value(f.ExhaustOff), BothOff: api.Value(f.BothOff), ImpellerOut: api.Value(f.ImpellerOut),
			SeacockShut: api.Value(f.SeacockShut), ByThePump: api.Value(f.ByThePump),
			ThermostatOpen: api.Value(f.ThermostatOpen), SilencerDrained: api.Value(f.SilencerDrained), Also: api.Value(f.Also)}
	}
	if d := a.Descale; d != nil {
		materials := map[string][]string{}
		for station, list := range api.Value(d.Materials) {
			materials[station] = api.Each(list, func(m api.Material) string { return string(m) })
		}
		out.Descale = &wetwork.DescalePlan{Place: string(d.Place), Product: productOf(d.Product),
			TargetPercent: api.Value(d.TargetPercentMass), Loop: d.Loop, Materials: materials, AnodesOut: api.Value(d.AnodesOut),
			LoopL:  api.Value(d.LoopL),
			HosesL: api.Value(d.HosesL), TankL: api.Value(d.TankL), BathL: d.BathL, ScaleLowG: api.Value(d.ScaleLowG),
			ScaleHighG: api.Value(
				d.ScaleHighG,
			), PumpLMin: api.Value(d.PumpLMin), PumpAmps: api.Value(d.PumpAmps), Minutes: d.Minutes,
			Mechanical: api.Each(api.Value(d.Mechanical), func(m api.DebrisID) string { return string(m) })}
	}
	if c := a.Coolant; c != nil {
		out.Coolant = &wetwork.CoolantPlan{BlockL: c.BlockL, ExchangerL: c.ExchangerL, HeaderL: c.HeaderL,
			HeaterL: c.HeaterL, Glycol: fluid.Glycol(c.Glycol), TargetPercent: c.TargetPercentVolume,
			Concentrate: c.ConcentratePercentVolume, VesselL: c.VesselL, Type: string(c.Type)}
	}
	if b := a.Bath; b != nil {
		out.Bath = &wetwork.BathReading{
			PH:     b.Ph,
			Fizz:   string(api.Value(b.Fizz)),
			TempC:  b.TempC,
			Colour: api.Value(b.Colour),
		}
	}
	return out
}

func wetActView(a wetwork.Act) api.WetworkAct {
	out := api.WetworkAct{Do: api.WetworkVerb(a.Do), Work: a.Work, Kind: api.Some(api.WetworkKind(a.Kind)),
		What: api.Some(
			a.What,
		), Station: api.Some(a.Station), Litres: api.Some(a.Litres), Percent: api.Some(a.Percent), Share: api.Some(a.Share),
		Words: api.Some(a.Words), Hours: api.Some(a.Hours),
		Flush: flushView(a.Flush), Descale: descaleView(a.Descale), Coolant: coolantView(a.Coolant)}
	if b := a.Bath; b != nil {
		out.Bath = &api.BathReading{Ph: b.PH, Fizz: api.Some(api.Fizz(b.Fizz)), TempC: b.TempC, Colour: api.Some(b.Colour)}
	}
	return out
}

func flushView(f *wetwork.FlushPlan) *api.FlushPlan {
	if f == nil {
		return nil
	}
	return &api.FlushPlan{Station: f.Station, Debris: api.DebrisID(f.Debris), Source: api.FlushSource(f.Source),
		ExhaustOff: &f.ExhaustOff, BothOff: &f.BothOff, ImpellerOut: &f.ImpellerOut, SeacockShut: &f.SeacockShut,
		ByThePump:      &f.ByThePump,
		ThermostatOpen: &f.ThermostatOpen, SilencerDrained: &f.SilencerDrained, Also: api.SomeList(f.Also)}
}

func descaleView(d *wetwork.DescalePlan) *api.DescalePlan {
	if d == nil {
		return nil
	}
	materials := map[string][]api.Material{}
	for station, list := range d.Materials {
		materials[station] = api.Each(list, func(m string) api.Material { return api.Material(m) })
	}
	mechanical := api.Each(d.Mechanical, func(m string) api.DebrisID { return api.DebrisID(m) })
	return &api.DescalePlan{Place: api.WetworkPlace(d.Place), Product: productView(d.Product),
		TargetPercentMass: api.Some(d.TargetPercent), Loop: d.Loop, Materials: &materials, AnodesOut: &d.AnodesOut,
		LoopL: &d.LoopL, HosesL: &d.HosesL,
		TankL: &d.TankL, BathL: d.BathL, ScaleLowG: api.Some(d.ScaleLowG), ScaleHighG: api.Some(d.ScaleHighG),
		PumpLMin: api.Some(d.PumpLMin), PumpAmps: api.Some(d.PumpAmps), Minutes: d.Minutes, Mechanical: &mechanical}
}

func coolantView(c *wetwork.CoolantPlan) *api.CoolantPlan {
	if c == nil {
		return nil
	}
	return &api.CoolantPlan{BlockL: c.BlockL, ExchangerL: c.ExchangerL, HeaderL: c.HeaderL, HeaterL: c.HeaterL,
		Glycol: api.GlycolID(c.Glycol), TargetPercentVolume: c.TargetPercent,
		ConcentratePercentVolume: c.Concentrate, VesselL: c.VesselL, Type: api.Inhibitor(c.Type)}
}

func bathView(system units.System, d *wetwork.Descaling) *api.BathPlanned {
	if d == nil {
		return nil
	}
	out := &api.BathPlanned{StockL: d.StockL, WaterL: d.WaterL, ShareLow: d.ShareLow, ShareHigh: d.ShareHigh,
		Enough: d.Enough, Turnovers: d.Turnovers, FuseA: d.FuseAmps, Warnings: Said(system, d.Warnings),
		Cautions: api.List(d.Cautions),
		MostC:    d.MostCelsius, RinseMinutes: d.RinseMinutes}
	if b := d.Bath; b != nil {
		out.StockKg, out.CapacityG, out.Co2L = &b.StockKg, &b.CapacityG, &b.CarbonDioxideL
	}
	return out
}

func wetWorkView(system units.System, w job.WetworkItem) api.WetworkItem {
	out := api.WetworkItem{Id: w.ID, Kind: api.WetworkKind(w.Kind), Flush: flushView(w.Flush),
		Descale: descaleView(w.Descale), Coolant: coolantView(w.Coolant), Bath: bathView(system, w.Descaling), By: w.By,
		Planned: w.Planned,
		Running: w.Begun != nil, ElapsedS: w.Elapsed.Seconds(), LeftS: w.Left.Seconds(), Stages: api.List(w.Stages),
		Missing: api.List(
			w.Missing,
		), Advice: Said(system, w.Advice), Balance: w.Balance.In(system), GainMissing: w.GainMissing,
		OutL: w.OutL, InL: w.InL, Ended: w.Ended != nil, Words: api.Some(w.Words),
		Steps: api.Each(w.Steps, func(s wetwork.Step) api.WetworkStep {
			return api.WetworkStep{Station: api.Some(s.Station), Say: s.Say.In(system), Minutes: api.Some(s.Minutes)}
		}),
		Log: api.Each(w.Log, func(d wetwork.Done) api.WetworkLine {
			return api.WetworkLine{Act: wetActView(d.Act), By: d.By, At: d.At, EntryId: d.Entry}
		}),
		Gains: api.Each(w.Gains, func(g wetwork.Gain) api.Gain {
			return api.Gain{Label: g.Label, Before: g.Before, BeforeError: g.BeforeError, After: g.After,
				AfterError: g.AfterError, Change: g.Change, ChangeError: g.ChangeError, Better: g.Better, Worse: g.Worse}
		})}
	if len(w.ClocksNow) > 0 {
		clocks := api.Each(w.ClocksNow, func(c job.ClockNow) api.WetworkClock {
			return api.WetworkClock{Station: c.Station, Running: c.Begun != nil, ElapsedS: c.Elapsed.Seconds(),
				LeftS: c.Left.Seconds()}
		})
		out.Clocks = &clocks
	}
	if c := w.Change; c != nil {
		out.ConcentrateL, out.WaterL, out.SystemL, out.FreezeC, out.Years = &c.Fill.ConcentrateL, &c.Fill.WaterL, &c.VolumeL,
			&c.Fill.FreezeC, &c.Years
	}
	return out
}

func wetPageView(system units.System, p job.WetworkPage) api.WetworkPage {
	return api.WetworkPage{
		Works:      api.Each(p.Works, func(w job.WetworkItem) api.WetworkItem { return wetWorkView(system, w) }),
		Products:   api.Each(p.Products, productView),
		Raw:        api.List(p.Raw),
		ScaleLowG:  p.ScaleLowG,
		ScaleHighG: p.ScaleHighG,
		ScaleWhy:   p.ScaleWhy,
	}
}

func workLineView(w record.WorkLine) api.WorkLine {
	return api.WorkLine{
		Kind:    api.WetworkKind(w.Kind),
		Ended:   w.Ended,
		Hours:   api.Some(w.Hours),
		Product: api.Some(w.Product),
		Litres: api.Some(
			w.Litres,
		),
		Minutes: api.Some(w.Minutes),
		Words:   api.Some(w.Words),
		Due:     api.Some(w.Due),
		Why:     api.Some(w.Why),
	}
}
