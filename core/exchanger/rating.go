// Package exchanger rates heat exchangers: how much heat passes between two streams, how good the exchanger is, and how
// its tubes, scale and blockages make it so. Conductance UA is in W/K over the outside of the tubes; capacity rates
// C = ṁ c_p are in W/K; temperatures in °C.
package exchanger

import (
	"errors"
	"math"

	"hevrin/core/rootfind"
)

// Arrangement is how the two streams pass each other.
type Arrangement string

// The arrangements. ShellAndTube1 has one shell pass and an even number of tube passes; in CrossflowUnmixed neither
// stream mixes across itself.
const (
	Counterflow      Arrangement = "counterflow"
	Parallel         Arrangement = "parallel"
	ShellAndTube1    Arrangement = "shell-and-tube-1"
	CrossflowUnmixed Arrangement = "crossflow-unmixed"
)

// Arrangements lists the arrangements.
var Arrangements = []Arrangement{Counterflow, Parallel, ShellAndTube1, CrossflowUnmixed}

// MostNTU is the largest number of transfer units that an exchanger is credited with: beyond it temperatures no longer
// tell one from another.
const MostNTU = 50.0

// Effectiveness is the heat passed as a share of the most that could be, for ntu = UA/C_min (0 and more) and the
// capacity ratio cr = C_min/C_max (0 to 1). W. M. Kays and A. L. London, Compact Heat Exchangers, 3rd ed. 1984, chapter
// 2; F. P. Incropera and D. P. DeWitt, Fundamentals of Heat and Mass Transfer, chapter 11.
func Effectiveness(a Arrangement, ntu, cr float64) float64 {
	if ntu <= 0 {
		return 0
	}
	if cr < 1e-9 {
		return -math.Expm1(-ntu)
	}
	switch a {
	case Parallel:
		return -math.Expm1(-ntu*(1+cr)) / (1 + cr)
	case ShellAndTube1:
		root := math.Sqrt(1 + cr*cr)
		return 2 / (1 + cr + root/math.Tanh(ntu*root/2))
	case CrossflowUnmixed:
		return crossflow(ntu, cr)
	}
	if 1-cr < 1e-9 {
		return ntu / (1 + ntu)
	}
	e := math.Expm1(-ntu * (1 - cr)) // exp − 1, so that nothing is lost near cr = 1
	return -e / (1 - cr*(e+1))
}

// crossflow is the exact series of W. Nusselt in the form of J. Mason (1954): with a = ntu and b = cr·ntu,
// ε = 1/b Σ [1 − e^−a Σ_m a^m/m!][1 − e^−b Σ_m b^m/m!], both inner sums up to the n of the outer one.
func crossflow(ntu, cr float64) float64 {
	a, b := ntu, cr*ntu
	termA, termB := math.Exp(-a), math.Exp(-b)
	restA, restB := -math.Expm1(-a), -math.Expm1(-b)
	sum := 0.0
	for n := 1.0; ; n++ {
		sum += restA * restB
		if n > a && restA*restB < 1e-14 || n > 1000 {
			break
		}
		termA, termB = termA*a/n, termB*b/n
		restA, restB = restA-termA, restB-termB
	}
	return math.Min(sum/b, 1)
}

// MostEffectiveness is what the arrangement comes to with an endless surface.
func MostEffectiveness(a Arrangement, cr float64) float64 { return Effectiveness(a, MostNTU, cr) }

// ErrTooEffective says that no surface of this arrangement, however large, passes as much heat.
var ErrTooEffective = errors.New("no surface of this arrangement, however large, passes as much heat")

// NTU is the number of transfer units that gives an effectiveness: the inverse of Effectiveness. It fails with
// ErrTooEffective from the most that the arrangement reaches.
func NTU(a Arrangement, effectiveness, cr float64) (float64, error) {
	if effectiveness <= 0 {
		return 0, nil
	}
	if effectiveness >= MostEffectiveness(a, cr) {
		return 0, ErrTooEffective
	}
	return rootfind.Zero(func(n float64) float64 { return Effectiveness(a, n, cr) - effectiveness }, 0, MostNTU, 1e-13)
}

// Stream is one side of an exchanger: capacity rate C in W/K, temperatures in °C.
type Stream struct{ C, InC, OutC float64 }

// Heat is what the stream gives up, in W; negative when it takes up.
func (s Stream) Heat() float64 { return s.C * (s.InC - s.OutC) }

// Rating is how an exchanger does.
type Rating struct {
	Effectiveness float64
	NTU           float64
	CapacityRatio float64
	HeatW         float64
	UA            float64 // W/K
	HotOutC       float64
	ColdOutC      float64
	LMTD          float64 // of pure counterflow, or of parallel flow if that is the arrangement, in K
	Correction    float64 // that makes UA · LMTD · Correction the heat; 1 for counterflow and parallel flow
}

// FromUA finds the outlets of an exchanger of conductance ua (W/K) from the two inlets.
func FromUA(a Arrangement, hot, cold Stream, ua float64) Rating {
	low, high := math.Min(hot.C, cold.C), math.Max(hot.C, cold.C)
	ntu, cr := ua/low, low/high
	e := Effectiveness(a, ntu, cr)
	heat := HeatOf(a, hot, cold, ua)
	r := Rating{Effectiveness: e, NTU: ntu, CapacityRatio: cr, HeatW: heat, UA: ua,
		HotOutC: hot.InC - heat/hot.C, ColdOutC: cold.InC + heat/cold.C}
	return r.withMeans(a, hot, cold)
}

// HeatOf is the heat alone of FromUA, in W: for a search that asks for it over and over.
func HeatOf(a Arrangement, hot, cold Stream, ua float64) float64 {
	low, high := math.Min(hot.C, cold.C), math.Max(hot.C, cold.C)
	return Effectiveness(a, ua/low, low/high) * low * (hot.InC - cold.InC)
}

// FromHeat finds the conductance of an exchanger that passes so much heat (W) between the two inlets.
func FromHeat(a Arrangement, hot, cold Stream, heat float64) (Rating, error) {
	low, high := math.Min(hot.C, cold.C), math.Max(hot.C, cold.C)
	cr := low / high
	e := heat / (low * (hot.InC - cold.InC))
	ntu, err := NTU(a, e, cr)
	if err != nil {
		return Rating{}, err
	}
	r := Rating{Effectiveness: e, NTU: ntu, CapacityRatio: cr, HeatW: heat, UA: ntu * low,
		HotOutC: hot.InC - heat/hot.C, ColdOutC: cold.InC + heat/cold.C}
	return r.withMeans(a, hot, cold), nil
}

func (r Rating) withMeans(a Arrangement, hot, cold Stream) Rating {
	r.LMTD = LMTD(hot.InC-r.ColdOutC, r.HotOutC-cold.InC)
	if a == Parallel {
		r.LMTD = LMTD(hot.InC-cold.InC, r.HotOutC-r.ColdOutC)
	}
	r.Correction = 1
	if r.UA > 0 && r.LMTD > 0 && (a == ShellAndTube1 || a == CrossflowUnmixed) {
		r.Correction = r.HeatW / (r.UA * r.LMTD)
	}
	return r
}

// LMTD is the logarithmic mean of the temperature differences at the two ends, in K; 0 when either is not above 0.
func LMTD(one, other float64) float64 {
	switch {
	case one <= 0 || other <= 0:
		return 0
	case math.Abs(one-other) < 1e-6*one:
		return (one + other) / 2
	}
	return (one - other) / math.Log(one/other)
}

// Approach is what a measured side says of the heat, with the error of saying so.
type Approach struct{ HeatW, ErrorW float64 }

// Weighed joins what the two sides say of the heat, each weighed by the inverse square of its error, and how far they
// disagree in percent of it.
func Weighed(hot, cold Approach) (heat, errorW, imbalancePercent float64) {
	wh, wc := 1/(hot.ErrorW*hot.ErrorW), 1/(cold.ErrorW*cold.ErrorW)
	heat = (wh*hot.HeatW + wc*cold.HeatW) / (wh + wc)
	return heat, math.Sqrt(1 / (wh + wc)), 100 * (hot.HeatW - cold.HeatW) / heat
}

// Errors that a side is taken to have when none is told: a contact thermometer's and a bucket's, common practice.
const (
	UsualTemperatureError = 0.5  // K, each reading
	UsualFlowError        = 0.05 // of the flow
)

// Measured is what a side with both temperatures says of the heat that it gave up (W, positive for either side): the
// error joins those of the two temperatures and of the flow.
func Measured(s Stream) Approach {
	heat := math.Abs(s.Heat())
	return Approach{heat, math.Hypot(s.C*math.Sqrt2*UsualTemperatureError, heat*UsualFlowError)}
}

// Profile is the temperature of both streams along an exchanger of counterflow or parallel flow, at n+1 places from the
// end where the hot stream enters, for drawing.
func Profile(a Arrangement, hot, cold Stream, ua float64, n int) (hotC, coldC []float64) {
	r := FromUA(a, hot, cold, ua)
	hotC, coldC = make([]float64, n+1), make([]float64, n+1)
	coldSign, coldStart := -1.0, r.ColdOutC
	if a == Parallel {
		coldSign, coldStart = 1, cold.InC
	}
	k := ua * (1/hot.C + coldSign/cold.C) // the difference falls as exp(−k x)
	start, end := hot.InC-coldStart, r.HotOutC-cold.InC
	passed := func(x float64) float64 {
		switch {
		case math.Abs(k) < 1e-9:
			return ua * start * x
		case k > 0:
			return ua * start * -math.Expm1(-k*x) / k
		}
		return r.HeatW + ua*end*-math.Expm1(k*(1-x))/k // it grows: computed from the end where it is largest
	}
	for i := range n + 1 {
		x := float64(i) / float64(n)
		q := passed(x)
		hotC[i], coldC[i] = hot.InC-q/hot.C, coldStart+coldSign*q/cold.C
	}
	return hotC, coldC
}
