package calculator

import (
	"errors"

	"hevrin/core/hydraulics"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

type bucketIn struct {
	VolumeL      float64   `json:"volume_l"`
	VolumeErrorL float64   `json:"volume_error_l"`
	Seconds      []float64 `json:"seconds"`
	ExpectedLMin *float64  `json:"expected_l_min"`
}

type bucketOut struct {
	FlowLMin        float64  `json:"flow_l_min"`
	UncertaintyLMin float64  `json:"uncertainty_l_min"`
	SharePercent    *float64 `json:"share_percent"`
}

var bucketFlow = define(Calculator{
	Name: "bucket-flow", Asks: "How much raw water does it pump?", Group: "Water and heat",
	About: "A bucket at the outlet and a stopwatch, tried a few times.",
	Fields: []Field{
		num("volume_l", "Bucket", "L", 0.05, 2000),
		num("volume_error_l", "Bucket, give or take", "L", 0, 500).standard(0.2).help("How well you can read its mark"),
		Field{Name: "seconds", Label: "Times to fill it", Kind: Numbers, Unit: "s", Min: 0.2, Max: 36000, MinRows: 1,
			MaxRows: 100}.help("Three tries or more"),
		num("expected_l_min", "Should be", "L/min", 0.1,
			20000).optional().help("From the maker, the baseline or the sister engine"),
	},
	Results: []Result{
		{Name: "flow_l_min", Label: "Raw water flow", Kind: Number, Unit: "L/min", Main: true},
		{Name: "uncertainty_l_min", Label: "Give or take", Kind: Number, Unit: "L/min"},
		{Name: "share_percent", Label: "Of what it should be", Kind: Number, Unit: "percent"},
	},
	Notes: []string{"The uncertainty is one standard deviation: the standard error of the mean time (0.3 s for a " +
		"single try) and the bucket's error, joined in quadrature.",
		"Hold the bucket so that all of it is caught, and note the speed: flow goes with it."},
	Sources:  []string{"JCGM 100:2008, Guide to the Expression of Uncertainty in Measurement, 4.2 and 5.1"},
	Cautions: []string{"hot-exhaust"},
	Example:  `{"volume_l": 10, "volume_error_l": 0.2, "seconds": [13.1, 12.8, 13.4], "expected_l_min": 60}`,
}, func(in bucketIn, t *Reporter) (bucketOut, error) {
	if in.VolumeErrorL >= in.VolumeL {
		var wrong validation.Errors
		wrong.Add("volume_error_l", in.VolumeErrorL, "less than the bucket holds",
			"the bucket's error is as large as the bucket: measure it")
		return bucketOut{}, wrong
	}
	b := hydraulics.BucketFlow(in.VolumeL, in.VolumeErrorL, in.Seconds)
	t.step("Mean time", "t̄", Term{"t̄", b.MeanSeconds, "s"}, Term{"tries", float64(len(in.Seconds)), "1"})
	t.step("Flow", "V / t̄", Term{"V̇", b.FlowLMin, "L/min"}, Term{"V", in.VolumeL, "L"})
	t.step("Error of the mean time", "spread / √n", Term{"σ_t", b.MeanErrorS, "s"}, Term{"spread", b.SpreadS, "s"})
	t.step("Give or take", "V̇ √((σ_t/t̄)² + (σ_V/V)²)", Term{"σ", b.ErrorLMin, "L/min"},
		Term{"σ_V", in.VolumeErrorL,
			"L"})
	t.warnIf(len(in.Seconds) < 3, "%d %s: three tell more, and show a slip of the thumb", len(in.Seconds),
		map[bool]string{true: "try", false: "tries"}[len(in.Seconds) == 1])
	t.warnIf(b.MeanSeconds < 5,
		"the bucket fills in %.1f s, which no thumb times well: take a larger one or a lower speed", b.MeanSeconds)
	t.warnIf(len(in.Seconds) > 2 && b.SpreadS > 0.15*b.MeanSeconds,
		"the tries lie far apart: the pump draws air, or not all of it was caught")
	out := bucketOut{FlowLMin: b.FlowLMin, UncertaintyLMin: b.ErrorLMin}
	t.errors = map[string]float64{"flow_l_min": b.ErrorLMin}
	if in.ExpectedLMin != nil {
		share := 100 * b.FlowLMin / *in.ExpectedLMin
		out.SharePercent = &share
		t.step("Against what it should be", "V̇ / should", Term{"share", share, "percent"}, Term{"should", *in.ExpectedLMin,
			"L/min"})
		t.warnIf(share < 80, "under 80 %% of what it should be: look for what holds the water back")
	}
	return out, nil
})

type surfaceIn struct {
	ReadingC          float64 `json:"reading_c"`
	SetEmissivity     float64 `json:"set_emissivity"`
	SurfaceEmissivity float64 `json:"surface_emissivity"`
	SurroundingsC     float64 `json:"surroundings_c"`
}

type surfaceOut struct {
	SurfaceC float64 `json:"surface_c"`
	OffByK   float64 `json:"reads_off_by_k"`
}

var surfaces = []Suggest{{"Matt paint, tape or rubber", 0.95}, {"Rusted iron", 0.8}, {"Oxidised brass", 0.6},
	{"Bright bronze or brass", 0.1}}

var surfaceThermometer = define(Calculator{
	Name: "surface-thermometer", Asks: "What is the surface really at?", Group: "Water and heat",
	About: "An infrared thermometer on bare metal reads its surroundings as much as the metal.",
	Fields: []Field{
		num("reading_c", "Reading", "degC", -50, 800),
		num("surface_emissivity", "Emissivity of the surface", "1", 0.02, 1).suggest(surfaces...),
		num("set_emissivity", "Emissivity set on the thermometer", "1", 0.1, 1).standard(0.95),
		num("surroundings_c", "Surroundings", "degC", -50,
			300).standard(25.0).help("What the metal mirrors: the engine space"),
	},
	Results: []Result{
		{Name: "surface_c", Label: "Surface", Kind: Number, Unit: "degC", Main: true},
		{Name: "reads_off_by_k", Label: "The thermometer reads off by", Kind: Number, Unit: "K"},
	},
	Notes: []string{"ε_set T_r⁴ + (1−ε_set) T_s⁴ = ε T⁴ + (1−ε) T_s⁴, in kelvin, for a grey and " +
		"opaque surface.",
		"Emissivities are from memory. Rubber and paint follow the water inside by some kelvin; bare metal by less."},
	Sources: []string{"Stefan-Boltzmann and Kirchhoff: Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, " +
		"chapter 12"},
	Cautions: []string{"turning-parts"},
	Example:  `{"reading_c": 42, "surface_emissivity": 0.6, "surroundings_c": 35}`,
}, func(in surfaceIn, t *Reporter) (surfaceOut, error) {
	c, err := workbench.SurfaceTemperature(in.ReadingC, in.SetEmissivity, in.SurfaceEmissivity, in.SurroundingsC)
	if errors.Is(err, workbench.ErrColderThanNothing) || err == nil && c < -100 {
		var wrong validation.Errors
		wrong.Add("reading_c", in.ReadingC, "nearer to the surroundings",
			"so dull a reading with surroundings at %.0f has no surface that fits: read the surroundings and the "+
				"emissivity again", units.Of(in.SurroundingsC, "degC"))
		return surfaceOut{}, wrong
	}
	t.step("What the thermometer saw", "ε_set T_r⁴ + (1 − ε_set) T_s⁴", Term{"T_r", in.ReadingC, "degC"},
		Term{"ε_set", in.SetEmissivity, "1"}, Term{"T_s", in.SurroundingsC, "degC"})
	t.step("What the surface sends", "ε T⁴ + (1 − ε) T_s⁴", Term{"T", c, "degC"}, Term{"ε", in.SurfaceEmissivity,
		"1"})
	t.warnIf(in.SurfaceEmissivity < workbench.PoorEmissivity,
		"bare metal this bright mirrors the engine space: put a strip of matt tape on it, let it warm, and read that at 0.95")
	t.warnIf(in.SurfaceEmissivity < 0.3,
		"a change of 0.02 in the emissivity moves this by several kelvin: do not build on it")
	return surfaceOut{c, in.ReadingC - c}, err
})
