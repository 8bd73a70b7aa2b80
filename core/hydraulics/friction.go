// Package hydraulics moves water: friction in tubes, the vane pump, a run of restrictions on both sides of it, and the
// bucket that measures what comes out. Flow is in L/min, pressure in kPa, speed in rev/min.
package hydraulics

import "math"

// Between these Reynolds numbers flow is neither surely laminar nor surely turbulent; a straight line joins the two.
const (
	LaminarBelow   = 2300.0
	TurbulentAbove = 4000.0
)

// Friction is Darcy's friction factor at a Reynolds number above 0 for a relative roughness ε/D (0 to 0.05): 64/Re
// below 2300; C. F. Colebrook, Journal of the Institution of Civil Engineers 11 (1939) 133-156, above 4000; a straight
// line in Re between.
func Friction(reynolds, roughness float64) float64 {
	switch {
	case reynolds < LaminarBelow:
		return 64 / reynolds
	case reynolds > TurbulentAbove:
		return colebrook(reynolds, roughness)
	}
	return Blend(reynolds, 64/LaminarBelow, colebrook(TurbulentAbove, roughness))
}

// Blend joins a laminar and a turbulent value by a straight line in Re from 2300 to 4000.
func Blend(reynolds, laminar, turbulent float64) float64 {
	x := min(max((reynolds-LaminarBelow)/(TurbulentAbove-LaminarBelow), 0), 1)
	return laminar + x*(turbulent-laminar)
}

// colebrook solves 1/√f = −2 log10(ε/3.7D + 2.51/(Re √f)) by Newton's rule in 1/√f.
func colebrook(reynolds, roughness float64) float64 {
	a, b := roughness/3.7, 2.51/reynolds
	x := 8.0
	for range 50 {
		inside := a + b*x
		step := (x + 2*math.Log10(inside)) / (1 + 2*b/(inside*math.Ln10))
		x -= step
		if math.Abs(step) < 1e-13*x {
			break
		}
	}
	return 1 / (x * x)
}
