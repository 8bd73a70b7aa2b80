// Package wetwork is wet work: what acid and how much against scale, what concentrate and how much in coolant.
package wetwork

import (
	"fmt"

	"gonum.org/v1/gonum/interp"
)

// Acid is what dissolves scale.
type Acid string

// The acids.
const (
	Hydrochloric Acid = "hydrochloric"
	Phosphoric   Acid = "phosphoric"
	Citric       Acid = "citric"
	Sulfamic     Acid = "sulfamic"
	Formic       Acid = "formic"
	Acetic       Acid = "acetic"
)

// Acids lists the acids, the mild ones first.
var Acids = []Acid{Phosphoric, Citric, Sulfamic, Formic, Acetic, Hydrochloric}

// AcidFacts are what is known of an acid.
type AcidFacts struct {
	MolarMass   float64 // g/mol, of the acid without crystal water; IUPAC atomic weights
	PerCaCO3    float64 // mol of acid that dissolve one mol of calcium carbonate
	MostPercent float64 // by mass: the strongest stock that there is
	MostBath    float64 // by mass: the strongest bath that stays dissolved
	Powder      bool    // the pure acid is sold as crystals, to be weighed
	Equation    string
	percent     []float64
	density     []float64 // kg/L at 20 °C
	line        *interp.FritschButland
}

// Densities at 20 °C from memory: hydrochloric, phosphoric, formic and acetic acid of Perry's Chemical Engineers'
// Handbook, section 2; citric acid of the CRC Handbook of Chemistry and Physics, concentrative properties; sulfamic
// acid by its apparent volume.
var acids = map[Acid]*AcidFacts{
	Hydrochloric: {MolarMass: 36.458, PerCaCO3: 2, MostPercent: 38, MostBath: 38,
		Equation: "CaCO₃ + 2 HCl → CaCl₂ + H₂O + CO₂",
		percent:  []float64{0, 4, 8, 10, 12, 16, 20, 24, 28, 32, 36, 38},
		density:  []float64{0.9982, 1.018, 1.038, 1.047, 1.057, 1.078, 1.098, 1.119, 1.139, 1.159, 1.179, 1.189}},
	Phosphoric: {MolarMass: 97.994, PerCaCO3: 2, MostPercent: 85, MostBath: 85,
		Equation: "CaCO₃ + 2 H₃PO₄ → Ca(H₂PO₄)₂ + H₂O + CO₂",
		percent:  []float64{0, 10, 20, 30, 40, 50, 60, 75, 85},
		density:  []float64{0.9982, 1.0532, 1.1135, 1.1805, 1.2540, 1.3350, 1.4260, 1.5790, 1.6890}},
	Citric: {MolarMass: 192.123, PerCaCO3: 2.0 / 3, MostPercent: 100, MostBath: 55, Powder: true,
		Equation: "3 CaCO₃ + 2 C₆H₈O₇ → Ca₃(C₆H₅O₇)₂ + 3 H₂O + 3 CO₂",
		percent:  []float64{0, 10, 20, 30, 40, 50, 55},
		density:  []float64{0.9982, 1.0392, 1.0805, 1.1246, 1.1709, 1.2204, 1.2460}},
	Sulfamic: {MolarMass: 97.094, PerCaCO3: 2, MostPercent: 100, MostBath: 15, Powder: true,
		Equation: "CaCO₃ + 2 H₃NSO₃ → Ca(H₂NSO₃)₂ + H₂O + CO₂",
		percent:  []float64{0, 5, 10, 15},
		density:  []float64{0.9982, 1.024, 1.051, 1.079}},
	Formic: {MolarMass: 46.025, PerCaCO3: 2, MostPercent: 100, MostBath: 100,
		Equation: "CaCO₃ + 2 HCOOH → Ca(HCOO)₂ + H₂O + CO₂",
		percent:  []float64{0, 10, 20, 30, 40, 50, 60, 70, 85, 100},
		density:  []float64{0.9982, 1.0246, 1.0488, 1.0729, 1.0963, 1.1207, 1.1425, 1.1655, 1.1953, 1.2212}},
	Acetic: {MolarMass: 60.052, PerCaCO3: 2, MostPercent: 100, MostBath: 100,
		Equation: "CaCO₃ + 2 CH₃COOH → Ca(CH₃COO)₂ + H₂O + CO₂",
		percent:  []float64{0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100},
		density:  []float64{0.9982, 1.0126, 1.0263, 1.0384, 1.0488, 1.0575, 1.0642, 1.0685, 1.0700, 1.0661, 1.0498}},
}

func init() {
	for _, a := range acids {
		a.line = &interp.FritschButland{}
		if err := a.line.Fit(a.percent, a.density); err != nil {
			panic(fmt.Sprintf("the densities do not make a line: %v", err))
		}
	}
}

// Facts gives what is known of an acid.
func Facts(a Acid) AcidFacts { return *acids[a] }

// MoistSolid says whether a stock of so many percent by mass is crystals rather than a solution.
func (f AcidFacts) MoistSolid(percent float64) bool { return f.Powder && percent > f.MostBath }

// Density is that of a solution of so many percent by mass at 20 °C, in kg/L.
func (f AcidFacts) Density(percent float64) float64 { return f.line.Predict(percent) }

const (
	// CarbonateMolarMass is that of calcium carbonate, in g/mol; IUPAC atomic weights.
	CarbonateMolarMass = 100.087
	// GasMolarVolume is that of carbon dioxide at 20 °C and one atmosphere, in L/mol, as an ideal gas.
	GasMolarVolume = 24.06
)

// Bath is an acid bath to be mixed.
type Bath struct {
	Acid          Acid
	StockPercent  float64 // by mass
	TargetPercent float64 // by mass, at most the stock's
	VolumeL       float64
	ScaleG        float64 // of carbonate; 0 when not known
}

// BathResult is how to mix a bath and what it does.
type BathResult struct {
	BathKg, StockKg, WaterL float64
	StockL                  *float64 // nil when the stock is crystals
	PureAcidG               float64
	CapacityG               float64 // of carbonate that it dissolves before it is spent
	DissolvedG              float64 // of the scale told, or of its whole capacity when none was told
	SharePercent            float64 // of the scale told, at most 100
	Enough                  bool
	CarbonDioxideL          float64
}

// waterDensity is that of fresh water at 20 °C in kg/L.
const waterDensity = 0.9982

// Mix works a bath out: dilution by mass with the densities of both, then the stoichiometry of calcium carbonate.
func (b Bath) Mix() BathResult {
	f := acids[b.Acid]
	var r BathResult
	r.BathKg = b.VolumeL * f.Density(b.TargetPercent)
	r.StockKg = r.BathKg * b.TargetPercent / b.StockPercent
	r.WaterL = (r.BathKg - r.StockKg) / waterDensity
	if !f.MoistSolid(b.StockPercent) {
		litres := r.StockKg / f.Density(b.StockPercent)
		r.StockL = &litres
	}
	r.PureAcidG = 1000 * r.BathKg * b.TargetPercent / 100
	r.CapacityG = r.PureAcidG / f.MolarMass / f.PerCaCO3 * CarbonateMolarMass
	r.DissolvedG, r.SharePercent, r.Enough = r.CapacityG, 100, true
	if b.ScaleG > 0 {
		r.DissolvedG = min(b.ScaleG, r.CapacityG)
		r.SharePercent = 100 * r.DissolvedG / b.ScaleG
		r.Enough = r.CapacityG >= b.ScaleG
	}
	r.CarbonDioxideL = r.DissolvedG / CarbonateMolarMass * GasMolarVolume
	return r
}

// Turnovers is how many times a pump of so many L/min sends a volume in litres round in so many minutes.
func Turnovers(pumpLMin, minutes, volumeL float64) float64 { return pumpLMin * minutes / volumeL }
