package calculator

import (
	"fmt"

	"hevrin/core/proving"
	"hevrin/core/units"
	"hevrin/core/validation"
)

type runIn struct {
	RatingC        float64          `json:"rating_c"`
	Load           proving.Load     `json:"load"`
	Samples        []proving.Sample `json:"samples"`
	PlateauMinutes float64          `json:"plateau_minutes"`
	SlopeCMin      float64          `json:"plateau_slope_c_min"`
	BelowC         float64          `json:"below_c"`
	AboveC         *float64         `json:"above_c"`
}

type runOut struct {
	Verdict      proving.Verdict  `json:"verdict"`
	OpenedAtS    *float64         `json:"opened_at_s"`
	OpenedC      *float64         `json:"opened_c"`
	PlateauC     *float64         `json:"plateau_c"`
	PlateauFromS *float64         `json:"plateau_from_s"`
	SlopeCMin    *float64         `json:"slope_c_min"`
	SlopeError   *float64         `json:"slope_error_c_min"`
	OvershootC   *float64         `json:"overshoot_c"`
	WarmUpCMin   *float64         `json:"warm_up_c_min"`
	LeftOut      int              `json:"samples_left_out"`
	Reasons      []units.Sentence `json:"reasons"`
}

// mostPoints is how many points of a run are drawn.
const mostPoints = 400

var runCheck = define(Calculator{
	Name: "run-check", Asks: "Did the run settle?", Group: "Proving",
	About: "Coolant against time, from the gauge or a logger: where the thermostat opened, where it settled, whether " +
		"that is right.",
	Fields: []Field{
		num("rating_c", "Thermostat's rating", "degC", 20, 110),
		choice("load", "The run ended at", proving.Loads).standard(string(proving.Cruise)),
		rows("samples", "The run", proving.LeastSamples, 50000,
			num("seconds", "Time", "s", 0, 1e7),
			num("coolant_c", "Coolant", "degC", -273.15, 2000),
			num("rpm", "Speed", "rpm", 0,
				10000).optional()).help("Paste or drop a logger's CSV, any column order, units in the headings"),
		num("plateau_minutes", "A plateau lasts", "min", 1, 60).standard(5.0).more(),
		num("plateau_slope_c_min", "Moves less than", "K/min", 0.01, 5).standard(0.3).more(),
		num("below_c", "May stand below its rating by", "K", 0, 50).standard(4.0).more(),
		num("above_c", "May stand above its rating by", "K", 0, 50).optional().more().help("8 at cruise, 13 at full power"),
	},
	Results: []Result{
		{Name: "verdict", Label: "Verdict", Kind: Choice, Main: true, Choices: named([]proving.Verdict{proving.Steady,
			proving.StillRising, proving.BelowRating, proving.AboveRating, proving.TooShort, proving.Unsteady})},
		{Name: "plateau_c", Label: "Settled at", Kind: Number, Unit: "degC", Main: true},
		{Name: "opened_c", Label: "Thermostat opened at", Kind: Number, Unit: "degC", Main: true},
		{Name: "opened_at_s", Label: "Opened after", Kind: Number, Unit: "s"},
		{Name: "plateau_from_s", Label: "Settled from", Kind: Number, Unit: "s"},
		{Name: "slope_c_min", Label: "Moves by", Kind: Number, Unit: "K/min"},
		{Name: "slope_error_c_min", Label: "Give or take", Kind: Number, Unit: "K/min"},
		{Name: "overshoot_c", Label: "Overshot by", Kind: Number, Unit: "K"},
		{Name: "warm_up_c_min", Label: "Warmed by", Kind: Number, Unit: "K/min"},
		{Name: "samples_left_out", Label: "Odd samples left out", Kind: Integer},
		{Name: "reasons", Label: "Because", Kind: Text},
	},
	Notes: []string{"At least 10 samples, 5 of them in the plateau, and no gap over 120 s there. Samples far off their " +
		"neighbours are left out. Slopes are of 60 s.",
		"Opened: where the rate of rise falls from two thirds to one third of the warm-up's own, within 6 K, not more " +
			"than 15 K below the rating.",
		"At idle an engine may never come up to its thermostat: that is never called too cold."},
	Sources: []string{"Odd samples: F. R. Hampel, Journal of the American Statistical Association 69 (1974) 383-393",
		"Limits: common practice"},
	Example: `{"rating_c": 82, "samples": "seconds,coolant_c\n0,20\n60,29\n120,38\n180,47\n240,56\n300,65\n360,74\n` +
		`420,81\n480,83.5\n540,84\n600,84.1\n660,83.9\n720,84\n780,84.1\n840,84\n900,84\n960,83.9\n"}`,
}, checkRun)

func checkRun(in runIn, t *Reporter) (runOut, error) {
	var wrong validation.Errors
	for i := 1; i < len(in.Samples) && len(wrong) == 0; i++ {
		if in.Samples[i].Seconds < in.Samples[i-1].Seconds {
			wrong.Add(fmt.Sprintf("samples[%d].seconds", i), in.Samples[i].Seconds, units.Say("%g s or more",
				in.Samples[i-1].Seconds), "time goes back at row %d: sort the rows by time", i+1)
		}
	}
	if err := wrong.Err(); err != nil {
		return runOut{}, err
	}
	above := orElse(in.AboveC, proving.UsualAbove[in.Load])
	run := proving.Run{RatingC: in.RatingC, Samples: in.Samples, Load: in.Load, PlateauMinutes: in.PlateauMinutes,
		SlopeCMin: in.SlopeCMin, BelowC: in.BelowC, AboveC: above}
	r := run.Judge()
	out := runOut{Verdict: r.Verdict, OpenedAtS: r.OpenedAtS, OpenedC: r.OpenedC, PlateauC: r.PlateauC,
		PlateauFromS: r.PlateauFromS, SlopeCMin: r.SlopeCMin,
		SlopeError: r.SlopeErrorC, OvershootC: r.OvershootC, WarmUpCMin: r.WarmUpCMin, LeftOut: len(r.Odd),
		Reasons: r.Reasons}
	explainRun(run, r, t)
	t.draw = func() *Picture { return runPicture(in, r, above) }
	return out, nil
}

func explainRun(run proving.Run, r proving.Result, t *Reporter) {
	t.report("%d samples, %d odd ones left out", len(run.Samples), len(r.Odd))
	if r.WarmUpCMin != nil {
		t.step("Warm-up", "median slope between a quarter and three quarters of the rise", Term{"rate", *r.WarmUpCMin,
			"K/min"})
	}
	if r.OpenedC != nil {
		t.step("Thermostat opens", "where the slope falls under a third of that", Term{"t", *r.OpenedC, "degC"},
			Term{"at", *r.OpenedAtS, "s"})
	} else {
		t.report("Thermostat opens: no knee is seen")
	}
	if r.SlopeCMin != nil {
		t.step(units.Say("The last %.0f minutes", run.PlateauMinutes), "straight line by least squares",
			Term{"slope", *r.SlopeCMin, "K/min"}, Term{"give or take", *r.SlopeErrorC, "K/min"})
	}
	if r.PlateauC != nil {
		t.step("Plateau", "mean", Term{"t", *r.PlateauC, "degC"}, Term{"from", *r.PlateauFromS, "s"})
	}
	t.report("Verdict: %s, for %s", r.Verdict, units.Join(r.Reasons, "; "))
	t.warnIf(r.OpenedC != nil && *r.OpenedC < run.RatingC-6,
		"the thermostat opens %.0f early: leaking or the wrong one", units.Of(run.RatingC-at(r.OpenedC), "K"))
	t.warnIf(r.OpenedC == nil && r.Verdict == proving.BelowRating,
		"a slow warm-up without a knee and a plateau under the rating: a thermostat that hangs open")
}

func at(v *float64) float64 { return orElse(v, 0) }

func runPicture(in runIn, r proving.Result, above float64) *Picture {
	odd := map[int]bool{}
	for _, i := range r.Odd {
		odd[i] = true
	}
	line := Line{Label: "Coolant", Role: HotSide}
	every := max(1, len(in.Samples)/mostPoints)
	for i, s := range in.Samples {
		if !odd[i] && (i%every == 0 || i == len(in.Samples)-1) {
			line.X, line.Y = append(line.X, s.Seconds), append(line.Y, s.CoolantC)
		}
	}
	p := &Picture{Title: "The run", X: Axis{"Time", "s"}, Y: Axis{"Coolant", "degC"}, Lines: []Line{line},
		Bands:  []Band{{"Should settle", Should, "y", in.RatingC - in.BelowC, in.RatingC + above}},
		Limits: []Limit{{"Rating", Plain, "y", in.RatingC}}}
	if r.OpenedC != nil {
		p.Marks = append(p.Marks, Mark{"Opened", *r.OpenedAtS, *r.OpenedC})
	}
	if r.PlateauC != nil {
		p.Marks = append(p.Marks, Mark{"Settled", *r.PlateauFromS, *r.PlateauC})
	}
	return p
}
