package wetwork

import "hevrin/core/fluid"

// Fill is a cooling system to be brought to a strength, by volume at 20 °C. Present is nil for an empty system.
type Fill struct {
	VolumeL            float64 // block, exchanger, header and heater branch
	Glycol             fluid.Glycol
	PresentPercent     *float64
	TargetPercent      float64
	ConcentratePercent float64 // 100 when neat
}

// FillResult is what to drain and what to put in, in litres.
type FillResult struct {
	ConcentrateL, WaterL float64 // for an empty system
	DrainL               float64 // for a filled one
	AddConcentrateL      float64
	AddWaterL            float64
	FinalPercent         float64
	FreezeC              float64
	WasteContainerL      float64 // what is drained and a fifth
}

// spare is how much more than what is drained a waste container must hold.
const spare = 1.2

// Work says what to drain and what to add, volumes taken as additive (mixing shrinks glycol and water by under 1 %).
// The concentrate must be at least as strong as the target.
func (f Fill) Work() FillResult {
	r := FillResult{FinalPercent: f.TargetPercent, FreezeC: fluid.FreezingC(f.Glycol, f.TargetPercent)}
	switch {
	case f.PresentPercent == nil:
		r.ConcentrateL = f.VolumeL * f.TargetPercent / f.ConcentratePercent
		r.WaterL = f.VolumeL - r.ConcentrateL
	case *f.PresentPercent < f.TargetPercent:
		r.DrainL = f.VolumeL * (f.TargetPercent - *f.PresentPercent) / (f.ConcentratePercent - *f.PresentPercent)
		r.AddConcentrateL = r.DrainL
	case *f.PresentPercent > f.TargetPercent:
		r.DrainL = f.VolumeL * (*f.PresentPercent - f.TargetPercent) / *f.PresentPercent
		r.AddWaterL = r.DrainL
	}
	r.WasteContainerL = spare * r.DrainL
	return r
}
