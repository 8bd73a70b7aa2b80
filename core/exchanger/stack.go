package exchanger

import (
	"math"

	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
)

// Stack is a bundle of tubes with the raw water inside. Lengths are in mm, conductivities in W/(m K), coefficients in
// W/(m² K). Tubes counts over all passes, so Tubes/Passes run side by side; Length is that of one tube. Blocked tubes
// are spread evenly over the passes, and what is left shares the flow.
type Stack struct {
	Tubes, Passes, Blocked int
	InnerDiameter          float64
	OuterDiameter          float64
	Length                 float64
	WallConductivity       float64
	Roughness              float64
	ScaleThickness         float64
	ScaleConductivity      float64
	ShellCoefficient       float64 // over the outside
	Fluid                  fluid.Fluid
	FlowLMin, MeanC        float64
}

// StackRating is how a stack does. Resistances are in m²K/W over the outside area.
type StackRating struct {
	Velocity          float64 // m/s in the tubes
	Reynolds, Prandtl float64
	Friction          float64 // Darcy
	DropKPa           float64 // friction in the tubes alone
	Nusselt           float64
	InsideCoefficient float64 // W/(m² K) over the inside
	OutsideArea       float64 // m² of the tubes still open
	ResistanceInside  float64
	ResistanceScale   float64
	ResistanceWall    float64
	ResistanceShell   float64
	U                 float64 // W/(m² K) over the outside of the open tubes
	UA                float64 // W/K
}

// LaminarNusselt is that of fully developed laminar flow in a round tube of even wall temperature: Incropera and
// DeWitt, Fundamentals of Heat and Mass Transfer, chapter 8.
const LaminarNusselt = 3.66

// Nusselt is the Nusselt number in a round tube, fully developed: 3.66 below Re 2300; V. Gnielinski, International
// Chemical Engineering 16 (1976) 359-368, above 4000 (Pr 0.5 to 2000, Re to 5e6), with the tube's own friction factor;
// a straight line in Re between, as Gnielinski proposed in International Journal of Heat and Mass Transfer 63 (2013)
// 134-140.
func Nusselt(reynolds, prandtl, roughness float64) float64 {
	if reynolds <= hydraulics.LaminarBelow {
		return LaminarNusselt
	}
	re := max(reynolds, hydraulics.TurbulentAbove)
	f := hydraulics.Friction(re, roughness) / 8
	turbulent := f * (re - 1000) * prandtl / (1 + 12.7*math.Sqrt(f)*(math.Cbrt(prandtl*prandtl)-1))
	return hydraulics.Blend(reynolds, LaminarNusselt, turbulent)
}

// Rate works the stack out.
func (s Stack) Rate() StackRating {
	const mm = 1e-3
	open := float64(s.Tubes - s.Blocked)
	bore := (s.InnerDiameter - 2*s.ScaleThickness) * mm
	inner, outer, length := s.InnerDiameter*mm, s.OuterDiameter*mm, s.Length*mm
	p := s.Fluid.At(s.MeanC)
	sideBySide := open / float64(s.Passes)

	var r StackRating
	r.Velocity = s.FlowLMin / 60000 / (sideBySide * math.Pi / 4 * bore * bore)
	r.Reynolds = p.DensityKgM3 * r.Velocity * bore / p.ViscosityPaS
	r.Prandtl = p.SpecificHeat * p.ViscosityPaS / p.ConductivityWM
	rough := s.Roughness * mm / bore
	r.Friction = hydraulics.Friction(r.Reynolds, rough)
	r.DropKPa = r.Friction * float64(s.Passes) * length / bore * p.DensityKgM3 * r.Velocity * r.Velocity / 2 / 1000
	r.Nusselt = Nusselt(r.Reynolds, r.Prandtl, rough)
	r.InsideCoefficient = r.Nusselt * p.ConductivityWM / bore

	r.ResistanceInside = outer / bore / r.InsideCoefficient
	r.ResistanceScale = outer * math.Log(inner/bore) / (2 * s.ScaleConductivity)
	r.ResistanceWall = outer * math.Log(outer/inner) / (2 * s.WallConductivity)
	r.ResistanceShell = 1 / s.ShellCoefficient
	r.U = 1 / (r.ResistanceInside + r.ResistanceScale + r.ResistanceWall + r.ResistanceShell)
	r.OutsideArea = open * math.Pi * outer * length
	r.UA = r.U * r.OutsideArea
	return r
}

// Clean is the same stack without scale and with every tube open.
func (s Stack) Clean() Stack {
	s.Blocked, s.ScaleThickness = 0, 0
	return s
}

// FoulingResistance is 1/U − 1/U_clean, in m²K/W over the outside.
func FoulingResistance(u, clean float64) float64 { return 1/u - 1/clean }
