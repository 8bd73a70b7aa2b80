package server

import (
	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

func productOf(p api.Product) wetwork.Product {
	return wetwork.Product{ID: p.Id, Label: p.Label, Acid: wetwork.Acid(value(p.Acid)),
		StockPercent: value(p.StockPercentMass), PartsWater: value(p.PartsWater), Minutes: value(p.Minutes),
		MostPercent: value(p.MostPercent), Ready: value(p.ReadyMixed), Caustic: value(p.Caustic),
		NotOn: each(value(p.NotOn), func(m api.Material) string { return string(m) })}
}

func productView(p wetwork.Product) api.Product {
	out := api.Product{Id: p.ID, Label: p.Label, Acid: some(api.AcidID(p.Acid)), StockPercentMass: some(p.StockPercent),
		PartsWater: some(p.PartsWater), Minutes: some(p.Minutes), MostPercent: some(p.MostPercent),
		ReadyMixed: some(p.Ready), Caustic: some(p.Caustic)}
	if len(p.NotOn) > 0 {
		list := each(p.NotOn, func(m string) api.Material { return api.Material(m) })
		out.NotOn = &list
	}
	return out
}

func wetActOf(a api.WetworkAct) *wetwork.Act {
	out := &wetwork.Act{Do: string(a.Do), Work: a.Work, Kind: string(value(a.Kind)), What: value(a.What),
		Station: value(a.Station), Litres: value(a.Litres), Percent: value(a.Percent), Share: value(a.Share),
		Words: value(a.Words), Hours: value(a.Hours)}
	if f := a.Flush; f != nil {
		out.Flush = &wetwork.FlushPlan{Station: f.Station, Debris: string(f.Debris), Source: string(f.Source),
			ExhaustOff: value(f.ExhaustOff), BothOff: value(f.BothOff), ImpellerOut: value(f.ImpellerOut),
			SeacockShut: value(f.SeacockShut), ByThePump: value(f.ByThePump),
			ThermostatOpen: value(f.ThermostatOpen), SilencerDrained: value(f.SilencerDrained), Also: value(f.Also)}
	}
	if d := a.Descale; d != nil {
		materials := map[string][]string{}
		for station, list := range value(d.Materials) {
			materials[station] = each(list, func(m api.Material) string { return string(m) })
		}
		out.Descale = &wetwork.DescalePlan{Place: string(d.Place), Product: productOf(d.Product),
			TargetPercent: value(d.TargetPercentMass), Loop: d.Loop, Materials: materials, AnodesOut: value(d.AnodesOut),
			LoopL:  value(d.LoopL),
			HosesL: value(d.HosesL), TankL: value(d.TankL), BathL: d.BathL, ScaleLowG: value(d.ScaleLowG),
			ScaleHighG: value(d.ScaleHighG), PumpLMin: value(d.PumpLMin), PumpAmps: value(d.PumpAmps), Minutes: d.Minutes,
			Mechanical: each(value(d.Mechanical), func(m api.DebrisID) string { return string(m) })}
	}
	if c := a.Coolant; c != nil {
		out.Coolant = &wetwork.CoolantPlan{BlockL: c.BlockL, ExchangerL: c.ExchangerL, HeaderL: c.HeaderL,
			HeaterL: c.HeaterL, Glycol: fluid.Glycol(c.Glycol), TargetPercent: c.TargetPercentVolume,
			Concentrate: c.ConcentratePercentVolume, VesselL: c.VesselL, Type: string(c.Type)}
	}
	if b := a.Bath; b != nil {
		out.Bath = &wetwork.BathReading{PH: b.Ph, Fizz: string(value(b.Fizz)), TempC: b.TempC, Colour: value(b.Colour)}
	}
	return out
}

func wetActView(a wetwork.Act) api.WetworkAct {
	out := api.WetworkAct{Do: api.WetworkVerb(a.Do), Work: a.Work, Kind: some(api.WetworkKind(a.Kind)),
		What: some(a.What), Station: some(a.Station), Litres: some(a.Litres), Percent: some(a.Percent), Share: some(a.Share),
		Words: some(a.Words), Hours: some(a.Hours),
		Flush: flushView(a.Flush), Descale: descaleView(a.Descale), Coolant: coolantView(a.Coolant)}
	if b := a.Bath; b != nil {
		out.Bath = &api.BathReading{Ph: b.PH, Fizz: some(api.Fizz(b.Fizz)), TempC: b.TempC, Colour: some(b.Colour)}
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
		ThermostatOpen: &f.ThermostatOpen, SilencerDrained: &f.SilencerDrained, Also: someList(f.Also)}
}

func descaleView(d *wetwork.DescalePlan) *api.DescalePlan {
	if d == nil {
		return nil
	}
	materials := map[string][]api.Material{}
	for station, list := range d.Materials {
		materials[station] = each(list, func(m string) api.Material { return api.Material(m) })
	}
	mechanical := each(d.Mechanical, func(m string) api.DebrisID { return api.DebrisID(m) })
	return &api.DescalePlan{Place: api.WetworkPlace(d.Place), Product: productView(d.Product),
		TargetPercentMass: some(d.TargetPercent), Loop: d.Loop, Materials: &materials, AnodesOut: &d.AnodesOut,
		LoopL: &d.LoopL, HosesL: &d.HosesL,
		TankL: &d.TankL, BathL: d.BathL, ScaleLowG: some(d.ScaleLowG), ScaleHighG: some(d.ScaleHighG),
		PumpLMin: some(d.PumpLMin), PumpAmps: some(d.PumpAmps), Minutes: d.Minutes, Mechanical: &mechanical}
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
		Enough: d.Enough, Turnovers: d.Turnovers, FuseA: d.FuseAmps, Warnings: said(system, d.Warnings),
		Cautions: list(d.Cautions),
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
		Running: w.Begun != nil, ElapsedS: w.Elapsed.Seconds(), LeftS: w.Left.Seconds(), Stages: list(w.Stages),
		Missing: list(w.Missing), Advice: said(system, w.Advice), Balance: w.Balance.In(system), GainMissing: w.GainMissing,
		OutL: w.OutL, InL: w.InL, Ended: w.Ended != nil, Words: some(w.Words),
		Steps: each(w.Steps, func(s wetwork.Step) api.WetworkStep {
			return api.WetworkStep{Station: some(s.Station), Say: s.Say.In(system), Minutes: some(s.Minutes)}
		}),
		Log: each(w.Log, func(d wetwork.Done) api.WetworkLine {
			return api.WetworkLine{Act: wetActView(d.Act), By: d.By, At: d.At, EntryId: d.Entry}
		}),
		Gains: each(w.Gains, func(g wetwork.Gain) api.Gain {
			return api.Gain{Label: g.Label, Before: g.Before, BeforeError: g.BeforeError, After: g.After,
				AfterError: g.AfterError, Change: g.Change, ChangeError: g.ChangeError, Better: g.Better, Worse: g.Worse}
		})}
	if len(w.ClocksNow) > 0 {
		clocks := each(w.ClocksNow, func(c job.ClockNow) api.WetworkClock {
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
	return api.WetworkPage{Works: each(p.Works, func(w job.WetworkItem) api.WetworkItem { return wetWorkView(system, w) }),
		Products: each(p.Products, productView), Raw: list(p.Raw),
		ScaleLowG: p.ScaleLowG, ScaleHighG: p.ScaleHighG, ScaleWhy: p.ScaleWhy}
}

func workLineView(w record.WorkLine) api.WorkLine {
	return api.WorkLine{Kind: api.WetworkKind(w.Kind), Ended: w.Ended, Hours: some(w.Hours), Product: some(w.Product),
		Litres: some(w.Litres), Minutes: some(w.Minutes), Words: some(w.Words), Due: some(w.Due), Why: some(w.Why)}
}
