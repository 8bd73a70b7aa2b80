package wetwork

import "math"

// Carbonate scale in tubes: thermal conductivity in W/(m K) with the range that is met (memory), density in kg/m³ of
// calcite.
const (
	ScaleConductivity     = 2.2
	ScaleConductivityLow  = 1.5
	ScaleConductivityHigh = 3.0
	scaleDensity          = 2700.0
)

// Layer is scale in the tubes of an exchanger, told by its fouling resistance in m²K/W over the outside.
type Layer struct {
	Resistance                 float64
	Tubes                      int
	InnerMM, OuterMM, LengthMM float64
}

// Scale is the thickness in mm and the mass in g of an even layer of a conductivity: R = d_o ln(d_i/d_s)/(2k), d_s the
// bore that is left.
func (l Layer) Scale(conductivity float64) (mm, grams float64) {
	left := l.InnerMM * math.Exp(-2000*conductivity*l.Resistance/l.OuterMM)
	volume := float64(l.Tubes) * math.Pi / 4 * (l.InnerMM*l.InnerMM - left*left) * l.LengthMM * 1e-9 // m³
	return (l.InnerMM - left) / 2, 1000 * scaleDensity * volume
}
