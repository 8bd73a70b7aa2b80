package calculator

import (
	"fmt"
	"strings"

	"hevrin/core/fluid"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

type potReading struct {
	TemperatureC float64 `json:"temperature_c"`
	LiftMM       float64 `json:"lift_mm"`
	Rising       *bool   `json:"rising"`
}

type potIn struct {
	RatingC        float64      `json:"rating_c"`
	Readings       []potReading `json:"readings"`
	OpenToleranceC float64      `json:"open_tolerance_c"`
	FullOpenAboveC float64      `json:"full_open_above_c"`
	MinLiftMM      float64      `json:"min_lift_mm"`
	AltitudeM      float64      `json:"altitude_m"`
}

type potOut struct {
	Verdict       workbench.Verdict `json:"verdict"`
	OpensC        *float64          `json:"opens_c"`
	FullOpenC     *float64          `json:"full_open_c"`
	ShutsC        *float64          `json:"shuts_c"`
	HysteresisC   *float64          `json:"hysteresis_c"`
	LargestLiftMM float64           `json:"largest_lift_mm"`
	Reasons       []units.Sentence  `json:"reasons"`
}

var thermostatPot = define(Calculator{
	Name: "thermostat-pot", Asks: "Is the thermostat good?", Group: "At the bench",
	About: "Hung in a pot with a thermometer: temperature and lift on the way up, and down again.",
	Fields: []Field{
		num("rating_c", "Rating stamped on it", "degC", 20, 110),
		rows("readings", "Readings, in the order taken", 2, 500,
			num("temperature_c", "Water", "degC", -5, 130),
			num("lift_mm", "Lift", "mm", 0, 60),
			Field{Name: "rising", Label: "Heating", Kind: YesNo, Optional: true,
				Help: "Left empty: up to the hottest reading, then down"}),
		num("open_tolerance_c", "May open off its rating by", "K", 0.1, 20).standard(2.0).more(),
		num("full_open_above_c", "Fully open above its rating by", "K", 1, 40).standard(11.0).more(),
		num("min_lift_mm", "Must lift", "mm", 0.6, 60).standard(8.0).more(),
		num("altitude_m", "Height above the sea", "m", -500,
			5000).standard(0.0).more().help("Water boils earlier on a mountain lake"),
	},
	Results: []Result{
		{Name: "verdict", Label: "Verdict", Kind: Choice, Main: true, Choices: named([]workbench.Verdict{workbench.Good,
			workbench.Late, workbench.Early, workbench.Short, workbench.StuckShut, workbench.StuckOpen, workbench.Unfinished})},
		{Name: "opens_c", Label: "Opens at", Kind: Number, Unit: "degC", Main: true},
		{Name: "full_open_c", Label: "Fully open at", Kind: Number, Unit: "degC"},
		{Name: "shuts_c", Label: "Shuts at", Kind: Number, Unit: "degC"},
		{Name: "hysteresis_c", Label: "Between opening and shutting", Kind: Number, Unit: "K"},
		{Name: "largest_lift_mm", Label: "Largest lift", Kind: Number, Unit: "mm"},
		{Name: "reasons", Label: "Because", Kind: Text},
	},
	Notes: []string{"Open from 0.5 mm, between two readings in a straight line; fully open at 95 % of the largest " +
		"lift. The tolerances are common practice: the maker's rule.",
		"Stir, hang it clear of the bottom, and heat slowly: a pot on the hob never reads evenly."},
	Sources:  []string{"Boiling point: IAPWS-IF97 and the standard atmosphere, ISO 2533:1975"},
	Cautions: []string{"hot-water"},
	Example: `{"rating_c": 82, "readings": [{"temperature_c": 60, "lift_mm": 0}, {"temperature_c": 80,
		"lift_mm": 0.2}, {"temperature_c": 84, "lift_mm": 1.8}, {"temperature_c": 90, "lift_mm": 6.5},
		{"temperature_c": 94, "lift_mm": 9}, {"temperature_c": 86, "lift_mm": 4}, {"temperature_c": 78, "lift_mm": 0.2}]}`,
}, judgePot)

func judgePot(in potIn, t *Reporter) (potOut, error) {
	readings := in.directions()
	rising := 0
	for _, r := range readings {
		if r.Rising {
			rising++
		}
	}
	if rising < 2 {
		var wrong validation.Errors
		wrong.Add("readings", units.Say("%d on the way up", rising), "2 or more on the way up",
			"two readings on the way up are needed at least")
		return potOut{}, wrong
	}
	p := workbench.Pot{RatingC: in.RatingC, Readings: readings, OpenToleranceC: in.OpenToleranceC,
		FullOpenAboveC: in.FullOpenAboveC, MinLiftMM: in.MinLiftMM}
	r := p.Judge()
	lift := units.Of(workbench.OpenLift, "mm")
	for _, x := range []struct {
		say units.Sentence
		at  *float64
	}{{units.Say("Opens, where the lift passes %g", lift), r.OpensC},
		{"Fully open, at 95 % of the largest lift", r.FullOpenC},
		{units.Say("Shuts, where it falls through %g", lift), r.ShutsC}} {
		if x.at == nil {
			t.report("%s: not seen", x.say)
			continue
		}
		t.step(x.say, "between the two readings", Term{"t", *x.at, "degC"})
	}
	t.step("Largest lift", "", Term{"lift", r.LargestLiftMM, "mm"})
	t.report("Verdict: %s, for %s", r.Verdict, units.Join(r.Reasons, "; "))
	boils := fluid.BoilingC(fluid.AirKPa(in.AltitudeM))
	full := in.RatingC + in.FullOpenAboveC
	t.warnIf(boils < full,
		"water boils at %.1f here, under the %.0f at which it should be fully open: judge the lift at the boil "+
			"with care, or use coolant outdoors", units.Of(boils, "degC"), units.Of(full, "degC"))
	t.draw = func() *Picture { return potPicture(in, readings) }
	return potOut{r.Verdict, r.OpensC, r.FullOpenC, r.ShutsC, r.HysteresisC, r.LargestLiftMM, r.Reasons}, nil
}

// directions fills in which readings were taken on the way up: where nobody said, those up to the hottest.
func (in potIn) directions() []workbench.PotReading {
	hottest := 0
	for i, r := range in.Readings {
		if r.TemperatureC > in.Readings[hottest].TemperatureC {
			hottest = i
		}
	}
	list := make([]workbench.PotReading, len(in.Readings))
	for i, r := range in.Readings {
		list[i] = workbench.PotReading{TemperatureC: r.TemperatureC, LiftMM: r.LiftMM, Rising: i <= hottest}
		if r.Rising != nil {
			list[i].Rising = *r.Rising
		}
	}
	return list
}

func potPicture(in potIn, readings []workbench.PotReading) *Picture {
	up, down := Line{Label: "Heating", Role: HotSide, Dots: true}, Line{Label: "Cooling", Role: ColdSide, Dots: true}
	for _, r := range readings {
		l := &down
		if r.Rising {
			l = &up
		}
		l.X, l.Y = append(l.X, r.TemperatureC), append(l.Y, r.LiftMM)
	}
	if n := len(up.X); n > 0 && len(down.X) > 0 { // the way down begins where the way up ended
		down.X, down.Y = append([]float64{up.X[n-1]}, down.X...), append([]float64{up.Y[n-1]}, down.Y...)
	}
	lines := []Line{up}
	if len(down.X) > 0 {
		lines = append(lines, down)
	}
	return &Picture{Title: "Lift against temperature", X: Axis{"Water", "degC"}, Y: Axis{"Lift", "mm"}, Lines: lines,
		Bands: []Band{{"Should open", Should, "x", in.RatingC - in.OpenToleranceC, in.RatingC + in.OpenToleranceC}},
		Limits: []Limit{{"Fully open by", Plain, "x", in.RatingC + in.FullOpenAboveC}, {"Least lift", Plain, "y",
			in.MinLiftMM}}}
}

type choiceIn struct {
	Options  []workbench.Option `json:"options"`
	Horizon  float64            `json:"horizon_hours"`
	Currency string             `json:"currency"`
}

type choiceRow struct {
	Name        string  `json:"name"`
	OnceCost    float64 `json:"once_cost"`
	CostPerHour float64 `json:"cost_per_hour"`
	HorizonCost float64 `json:"horizon_cost"`
}

type choiceOut struct {
	Best        string      `json:"best"`
	CostPerHour float64     `json:"cost_per_hour"`
	Ranking     []choiceRow `json:"ranking"`
	WouldChange []string    `json:"would_change"`
}

var repairChoice = define(Calculator{
	Name: "repair-choice", Asks: "Which repair is the cheapest to run?", Group: "At the bench",
	About: "Impeller, kit or whole pump, copy or original: what an hour's running costs.",
	Fields: []Field{
		rows("options", "Options", 1, 12,
			Field{Name: "name", Label: "What", Kind: Text},
			num("parts_cost", "Parts", "money", 0, 1e6),
			num("minutes", "Work", "min", 0, 1e5),
			num("hourly_rate", "Rate per hour", "money", 0, 1e4),
			num("running_hours", "Lasts, running", "h", 1, 1e5),
			num("early_failure_percent", "Fails early", "percent", 0, 95).standard(0.0),
			num("failure_cost", "An early failure costs besides", "money", 0, 1e6).standard(0.0)),
		num("horizon_hours", "Over a running time of", "h", 1, 1e6).standard(1000.0),
		Field{Name: "currency", Label: "Currency", Kind: Text, Optional: true, More: true, Help: "A label only"},
	},
	Results: []Result{
		{Name: "best", Label: "Cheapest to run", Kind: Text, Main: true},
		{Name: "cost_per_hour", Label: "Costs", Kind: Number, Unit: "money/h", Main: true},
		{Name: "ranking", Label: "All", Kind: Rows, Fields: []Result{{Name: "name", Label: "What", Kind: Text},
			{Name: "once_cost", Label: "Done once", Kind: Number, Unit: "money"},
			{Name: "cost_per_hour", Label: "Per running hour", Kind: Number, Unit: "money/h"}, {Name: "horizon_cost",
				Label: "Over the hours asked", Kind: Number, Unit: "money"}}},
		{Name: "would_change", Label: "What would change it", Kind: Text},
	},
	Notes: []string{"A repair that fails early is taken to do so after a tenth of its hours (common practice) and is " +
		"then done again. The ranking is by cost per running hour in the long run; over a short stretch the other column " +
		"counts.",
		"The cost over the hours asked is an expectation: each time it lasts its hours or fails early."},
	Sources: []string{"Renewal-reward: S. M. Ross, Introduction to Probability Models, chapter 7"},
	Example: `{"currency": "crowns", "horizon_hours": 1500, "options": [{"name": "Impeller alone",
		"parts_cost": 48, "minutes": 40, "hourly_rate": 60, "running_hours": 300, "early_failure_percent": 12,
		"failure_cost": 250}, {"name": "Full kit", "parts_cost": 190, "minutes": 150, "hourly_rate": 60, "running_hours": 900,
		 "early_failure_percent": 4, "failure_cost": 250}]}`,
}, func(in choiceIn, t *Reporter) (choiceOut, error) {
	var wrong validation.Errors
	for i, o := range in.Options {
		if in.Horizon > o.MostHorizon() {
			wrong.Add(fmt.Sprintf("options[%d].running_hours", i), o.RunningHours, units.Say("%.0f or more", in.Horizon/200),
				"%s would be done over 200 times in %.0f hours: shorten the stretch asked for", o.Name, in.Horizon)
		}
	}
	if err := wrong.Err(); err != nil {
		return choiceOut{}, err
	}
	list := workbench.Rank(in.Options, in.Horizon)
	out := choiceOut{Best: list[0].Name, CostPerHour: list[0].HourCost, WouldChange: []string{}}
	picture := &Picture{Title: "Cost of a running hour", Y: Axis{strings.TrimSpace(in.Currency + " per running hour"),
		"money/h"}}
	t.draw = func() *Picture { return picture }
	for i, r := range list {
		out.Ranking = append(out.Ranking, choiceRow{r.Name, r.OnceCost, r.HourCost, r.HorizonCost})
		picture.Bars = append(picture.Bars, Bar{r.Name, r.HourCost, i == 0})
		t.step(units.Sentence(r.Name), "(parts + work + chance of failing · what that costs) / hours it lasts on average",
			Term{"per hour",
				r.HourCost, "money/h"},
			Term{"once", r.OnceCost, "money"}, Term{"lasts", r.ExpectedHours(), "h"})
	}
	if len(list) > 1 {
		out.WouldChange = turns(list[0].Option, list[1].Option)
	}
	if cheapest := cheapestOver(list); cheapest != list[0].Name {
		t.warn("over just %.0f hours %s costs less in all, since what is left of the last repair is not counted", in.Horizon,
			cheapest)
	}
	return out, nil
})

func cheapestOver(list []workbench.Ranked) string {
	best := list[0]
	for _, r := range list {
		if r.HorizonCost < best.HorizonCost {
			best = r
		}
	}
	return best.Name
}

// turnWords say what a figure would have to do.
var turnWords = map[string]string{
	"running_hours":         "%s comes level with %s if it lasts only %.0f h instead of %.0f",
	"parts_cost":            "%s comes level with %s if its parts cost %.2f instead of %.2f",
	"early_failure_percent": "%s comes level with %s if it fails early in %.0f of 100 instead of %.0f",
}

func turns(best, other workbench.Option) []string {
	list := []string{}
	for _, x := range workbench.Turns(best, other) {
		list = append(list, fmt.Sprintf(turnWords[x.Figure], best.Name, other.Name, x.To, x.From))
	}
	return list
}

type fitIn struct {
	Old        workbench.Impeller   `json:"old"`
	Candidates []workbench.Impeller `json:"candidates"`
	Tolerances workbench.Tolerances `json:"tolerances"`
}

type fitOut struct {
	Fits       string              `json:"fits"`
	Candidates []workbench.Fitting `json:"candidates"`
}

func impellerFields(name bool) []Field {
	blank := func(id, label string, choices []string) Field { return choice(id, label, choices).optional() }
	list := []Field{
		num("outside_diameter_mm", "Outside diameter", "mm", workbench.LeastDiameter, workbench.MostDiameter).optional(),
		num("width_mm", "Width", "mm", workbench.LeastWidth, workbench.MostWidth).optional(),
		num("bore_mm", "Shaft bore", "mm", workbench.LeastBore, workbench.MostBore).optional(),
		blank("drive", "Drive", workbench.Drives),
		whole("blades", "Blades", workbench.LeastBlades, workbench.MostBlades).optional(),
		blank("insert", "Insert", workbench.Inserts),
		blank("cover_seal", "Cover seal", workbench.CoverSeals),
	}
	if name {
		list = append([]Field{{Name: "name", Label: "Which", Kind: Text}}, list...)
	}
	return list
}

var impellerFit = define(Calculator{
	Name: "impeller-fit", Asks: "Which impeller fits?", Group: "At the bench",
	About: "The old one measured, against the stock's and the supplier's.",
	Fields: []Field{
		group("old", "The old impeller", impellerFields(false)...).help("Leave empty what cannot be measured"),
		rows("candidates", "Against", 1, 200, impellerFields(true)...),
		group("tolerances", "Counts as the same within", num("outside_diameter_mm", "Outside diameter", "mm", 0.01,
			5).standard(workbench.UsualTolerances.OutsideDiameter),
			num("width_mm", "Width", "mm", 0.01, 5).standard(workbench.UsualTolerances.Width), num("bore_mm", "Shaft bore",
				"mm", 0.01, 5).standard(workbench.UsualTolerances.Bore)).more(),
	},
	Results: []Result{
		{Name: "fits", Label: "Fits", Kind: Text, Main: true},
		{Name: "candidates", Label: "One by one", Kind: Rows, Fields: []Result{{Name: "name", Label: "Which", Kind: Text},
			{Name: "fit", Label: "Fit", Kind: Choice, Choices: named([]workbench.Fit{workbench.Fits, workbench.MayFit,
				workbench.NoFit})}, {Name: "reasons", Label: "Because", Kind: Text}}},
	},
	Notes: []string{"The tolerances are common practice. Up to twice a tolerance it may fit: measure again with the " +
		"blades pressed flat; an old impeller whose blades have taken a set measures small.",
		"Lay the new gasket or O-ring on the old before you order."},
	Sources: []string{"Common practice"},
	Example: `{"old": {"outside_diameter_mm": 57, "width_mm": 31.8, "bore_mm": 12, "drive": "key", "blades": 8,
		"insert": "bronze", "cover_seal": "o-ring"}, "candidates": [{"name": "Shelf A",
		"outside_diameter_mm": 57.1, "width_mm": 31.7, "bore_mm": 12, "drive": "key", "blades": 8, "insert": "bronze",
		"cover_seal": "o-ring"}, {"name": "Shelf B", "outside_diameter_mm": 57, "width_mm": 50.8, "bore_mm": 12,
		"drive": "spline"}]}`,
}, func(in fitIn, t *Reporter) (fitOut, error) {
	out := fitOut{Candidates: []workbench.Fitting{}}
	var fits []string
	for _, c := range in.Candidates {
		f := in.Tolerances.Compare(in.Old, c)
		out.Candidates = append(out.Candidates, f)
		words := units.Sentence(label(string(f.Fit)))
		if len(f.Reasons) > 0 {
			words += ", for " + units.Join(f.Reasons, "; ")
		}
		t.report("%s: %s", c.Name, words)
		if f.Fit == workbench.Fits {
			fits = append(fits, c.Name)
		}
	}
	out.Fits = strings.Join(fits, ", ")
	if out.Fits == "" {
		out.Fits = "None for sure"
	}
	t.warnIf(in.Old.OutsideDiameter == 0 || in.Old.Width == 0 || in.Old.Bore == 0 || in.Old.Drive == "",
		"the old impeller is not measured in full: nothing can fit for sure")
	return out, nil
})
