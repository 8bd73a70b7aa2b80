package plant

import (
	"math"

	"hevrin/core/rootfind"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Extent is how a fault's extent is seen: the share, from 0 to 1, of what Of says, and the severity that it stands for.
// Least and Most are the shares that a sure look at it leaves open while nobody measured. Common practice.
type Extent struct {
	Of          string
	Least, Most float64
	severity    func(share float64) float64
}

// shut is a passage of which a share is closed: its drop goes with the square of the speed in what is left open.
func shut(of string, least, most float64) Extent {
	return Extent{of, least, most, func(x float64) float64 { return narrowed(math.Pow(1-x, -2)) }}
}

// narrowed is the severity of a narrowing that multiplies a drop.
func narrowed(factor float64) float64 { return min(1, math.Log(factor)/math.Log(narrows)) }

// bore is a round bore of whose width a share is gone: the drop goes with the fourth power.
func bore(of string, least, most float64) Extent {
	return Extent{of, least, most, func(x float64) float64 { return narrowed(math.Pow(1-x, -4)) }}
}

// straight is a fault whose worst is a share of what is seen.
func straight(of string, worst, least, most float64) Extent {
	return Extent{of, least, most, func(x float64) float64 { return min(1, x/worst) }}
}

// Crust in a tube: what a crust that fills a share x of a bore of tubeMM does to the conductance, U in W/(m² K) when
// clean, conductivity in W/(m K) of carbonate scale. Memory.
const (
	tubeMM, cleanU, scaleK = 6.0, 1500.0, 1.5
	worstUA                = 0.12
)

func crust(x float64) float64 {
	return min(1, math.Log(1+cleanU*(1-math.Sqrt(1-x))*tubeMM/2000/scaleK)/math.Log(1/worstUA))
}

// extents lists, by fault, how far it has gone. Those are left out whose passages the model knows too little of.
var extents = map[string]Extent{
	"intake-blocked":         shut("of the opening covered", 0.3, 0.95),
	"seacock-restricted":     shut("of the bore shut", 0.3, 0.95),
	"strainer-clogged":       shut("of the basket choked", 0.4, 0.95),
	"suction-hose-collapsed": bore("of the hose's width flat", 0.3, 0.8),
	"raw-filter-clogged":     shut("of the filter choked", 0.4, 0.95),
	"raw-hose-choked":        bore("of the hose's width choked", 0.3, 0.8),
	"elbow-choked":           bore("of the bore's width gone", 1.0/3, 0.8),
	"riser-choked":           bore("of the bore's width gone", 1.0/3, 0.8),
	"impeller-vanes-missing": straight("of the blades gone", 1, 0.1, 0.9),
	"impeller-tired":         straight("of its grip gone", 1, 0.3, 0.9),
	"pump-belt-slipping":     straight("of its turns lost", 0.85, 0.1, 0.8),
	"tubes-blocked":          straight("of the tubes covered", 0.85, 0.1, 0.8),
	"tubes-scaled":           {"of the bore filled by crust", 1.0 / 3, 0.8, crust},
	"exchanger-bypass":       straight("of the water past the tubes", 0.92, 0.2, 0.9),
	"coolant-low":            straight("of the coolant missing", 0.6, 0.1, 0.6),
	"circ-pump-worn":         straight("of the vanes gone", 1, 0.2, 0.9),
	"circ-belt-slipping":     straight("of its turns lost", 1, 0.1, 0.9),
	"thermostat-shut":        straight("of its lift missing", 1, 0.5, 1),
	"block-silted":           straight("of the passages silted", 0.9, 0.2, 0.9),
	"coolant-side-fouled":    straight("of the way fouled", 1, 0.2, 0.9),
}

// Severity is that of the fault, from 0 to 1, where it has gone to a share.
func (x Extent) Severity(share float64) float64 { return x.severity(share) }

// ExtentOf says how a fault's extent is seen; not ok where nobody can say how much of it there is.
func ExtentOf(fault string) (Extent, bool) {
	x, ok := extents[fault]
	return x, ok
}

// Sufficiency says whether a fault explains the heat that was complained of.
type Sufficiency string

// What a fault can be to a complaint.
const (
	EnoughAlone Sufficiency = "enough"
	PartOfIt    Sufficiency = "part"
	NotEnough   Sufficiency = "not-enough"
	HangsOnIt   Sufficiency = "depends" // on how far it has gone
	CannotSay   Sufficiency = "cannot-say"
)

// partFrom is the share of the missing heat from which a fault is part of what was seen; common practice.
const partFrom = 0.25

// Explained is what the model says of a fault: the block's temperature in °C with it at the least and the most of its
// extent, in health, and from where on the complaint is explained. From is the share from which it is enough by itself;
// NaN where no share within reach is.
type Explained struct {
	Verdict                      Sufficiency
	HealthyC, LeastC, MostC, ToC float64
	From                         float64
	Say                          units.Sentence
}

// Enough holds a fault, gone from a share to another of what its Extent says, against a block of at least toC at an
// operation.
func (p Plant) Enough(op Operation, fault string, least, most, toC float64) (Explained, error) {
	x := Explained{Verdict: CannotSay, ToC: toC, From: math.NaN()}
	extent, ok := ExtentOf(fault)
	if !ok || !p.Shows(fault) {
		return x, nil
	}
	if !(least >= 0 && least <= most && most <= 1) {
		var wrong validation.Errors
		wrong.Add("share", most, "0 to 1", "a share goes from 0, none, to 1, all of it")
		return x, wrong
	}
	at := func(share float64) (float64, error) {
		h, err := Ail(Fault{ID: fault, Severity: extent.severity(min(share, allButAll))})
		if err != nil {
			return 0, err
		}
		s, err := p.Steady(op, h)
		return s.BlockC, err
	}
	healthy, err := p.Steady(op, Well())
	if err != nil {
		return x, err
	}
	x.HealthyC = healthy.BlockC
	if x.LeastC, err = at(least); err != nil {
		return x, err
	}
	if x.MostC, err = at(most); err != nil {
		return x, err
	}
	x.judge()
	over := func(share float64) float64 { c, _ := at(share); return c - toC }
	if x.From, err = rootfind.Zero(over, 0, allButAll, 0.005); err != nil {
		x.From = math.NaN() // it is not reached within the range: no error of the question
	}
	x.Say = x.words(op, extent, least, most)
	return x, nil
}

// allButAll is the largest share that is computed with: nothing is shut altogether.
const allButAll = 0.985

func (x *Explained) judge() {
	need := x.ToC - x.HealthyC
	if need <= 0 { // hot in health: the operation says nothing
		return
	}
	least, most := (x.LeastC-x.HealthyC)/need, (x.MostC-x.HealthyC)/need
	switch {
	case least >= 1:
		x.Verdict = EnoughAlone
	case most < partFrom:
		x.Verdict = NotEnough
	case least >= partFrom && most < 1:
		x.Verdict = PartOfIt
	default:
		x.Verdict = HangsOnIt
	}
}

// words says what was found out, in numbers.
func (x *Explained) words(op Operation, extent Extent, least, most float64) units.Sentence {
	where := units.Say("at %.0f rev/min in a sea of %.0f", op.RPM, units.Of(op.SeaC, "degC"))
	missing := units.Of(x.ToC-x.HealthyC, "K")
	if least == most {
		costs := units.Say("%.0f %% %s costs this engine %.0f %s", 100*least, extent.Of,
			units.Of(x.LeastC-x.HealthyC, "K"), where)
		return map[Sufficiency]units.Sentence{
			EnoughAlone: units.Say("%s: enough by itself (%.0f are to be explained)", costs, missing),
			PartOfIt:    units.Say("%s: part of it (%.0f are to be explained)", costs, missing),
			HangsOnIt:   units.Say("%s: part of it (%.0f are to be explained)", costs, missing),
			NotEnough:   units.Say("%s: not what overheated it (%.0f are to be explained)", costs, missing),
			CannotSay:   units.Say("%s, and in health it is as hot there: the model cannot say", costs),
		}[x.Verdict]
	}
	costs := units.Say("%.0f to %.0f %% %s costs this engine %.0f %s", 100*least, 100*most, extent.Of,
		units.Between(x.LeastC-x.HealthyC, x.MostC-x.HealthyC, "K"), where)
	switch {
	case x.Verdict == HangsOnIt && !math.IsNaN(x.From):
		return units.Say("%s: enough by itself from about %.0f %% on. How much was it?", costs, 100*x.From)
	case x.Verdict == HangsOnIt || x.Verdict == PartOfIt:
		return units.Say("%s: at most part of it (%.0f are to be explained). How much was it?", costs, missing)
	case x.Verdict == EnoughAlone:
		return units.Say("%s: enough by itself", costs)
	case x.Verdict == NotEnough:
		return units.Say("%s: not what overheated it (%.0f are to be explained)", costs, missing)
	}
	return units.Say("%s, and in health it is as hot there: the model cannot say", costs)
}
