package handlers

import (
	"context"
	"encoding/json"
	"fmt"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/core/calculator"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/units"
)

// calculatorHandlers answer the calculators; they keep nothing.
type calculatorHandlers struct{ catalogue *catalogue.Catalogue }

func (h *calculatorHandlers) ListCalculators(context.Context,
	api.ListCalculatorsRequestObject) (api.ListCalculatorsResponseObject, error) {
	list := api.CalculatorList{Units: api.Each(units.Units(), UnitView)}
	for _, s := range calculator.All() {
		v, err := sumView(s)
		if err != nil {
			return nil, err
		}
		list.Sums = append(list.Sums, v)
	}
	return api.ListCalculators200JSONResponse(list), nil
}

func (h *calculatorHandlers) Calculate(ctx context.Context,
	r api.CalculateRequestObject) (api.CalculateResponseObject, error) {
	_, a, err := job.Work(r.Name, *r.Body, SystemIn(ctx))
	if err != nil {
		return nil, err
	}
	v, err := SumAnswer(h.catalogue, a)
	if err != nil {
		return nil, err
	}
	return api.Calculate200JSONResponse(v), nil
}

// UnitView is a unit, as the contract tells it.
func UnitView(u units.Unit) api.Unit {
	as := func(s units.System) string { return u.ShownAs(s).ID }
	return api.Unit{Id: u.ID, Dimension: string(u.Dimension), Symbol: u.Symbol, Factor: u.Factor, Shift: u.Shift,
		Decimals: u.Decimals,
		ShownAs:  api.ShownAs{Metric: as(units.Metric), Us: as(units.US), Imperial: as(units.Imperial)}}
}

func sumView(s *calculator.Calculator) (api.Calculator, error) {
	var example api.CalculatorInput
	if err := json.Unmarshal([]byte(s.Example), &example); err != nil {
		return api.Calculator{}, fmt.Errorf("the example of %s: %w", s.Name, err)
	}
	return api.Calculator{
		Name:     s.Name,
		Asks:     s.Asks,
		About:    s.About,
		Group:    s.Group,
		Fields:   api.Each(s.Fields, fieldView),
		Results:  api.Each(s.Results, resultView),
		Notes:    api.List(s.Notes),
		Sources:  api.List(s.Sources),
		Cautions: api.List(s.Cautions),
		Example:  example,
	}, nil
}

func fieldView(f calculator.Field) api.CalculatorField {
	v := api.CalculatorField{Name: f.Name, Label: f.Label, Help: api.Some(f.Help), Kind: api.CalculatorFieldKind(f.Kind),
		Unit: api.Some(f.Unit), Default: f.Default,
		Optional: f.Optional, More: f.More, MinRows: api.Some(f.MinRows), MaxRows: api.Some(f.MaxRows)}
	if f.Min < f.Max {
		v.Min, v.Max = &f.Min, &f.Max
	}
	if f.OnlyIf != nil {
		v.OnlyIf = &api.OnlyIf{Field: f.OnlyIf.Field, Is: f.OnlyIf.Is}
	}
	v.Choices = someOf(f.Choices, namedView)
	v.Suggest = someOf(f.Suggest, func(s calculator.Suggest) api.Suggestion {
		return api.Suggestion{Label: s.Label,
			Value: s.Value}
	})
	v.Fields = someOf(f.Fields, fieldView)
	return v
}

func namedView(n calculator.Named) api.Labelled { return api.Labelled{Id: n.ID, Label: n.Label} }

func resultView(r calculator.Result) api.CalculatorResult {
	return api.CalculatorResult{
		Name:    r.Name,
		Label:   r.Label,
		Kind:    api.CalculatorFieldKind(r.Kind),
		Unit:    api.Some(r.Unit),
		Main:    r.Main,
		Choices: someOf(r.Choices, namedView),
		Fields:  someOf(r.Fields, resultView),
	}
}

// someOf maps a list, or is nil for an empty one.
func someOf[A, B any](list []A, to func(A) B) *[]B {
	if len(list) == 0 {
		return nil
	}
	out := api.Each(list, to)
	return &out
}

// SumAnswer is an answer as the contract has it, with the trade's cautions.
func SumAnswer(c *catalogue.Catalogue, a calculator.Answer) (api.CalculatorAnswer, error) {
	v := api.CalculatorAnswer{Uncertainty: map[string]float64{}, Working: api.Each(a.Working, stepView),
		Warnings: Said(units.Metric, a.Warnings),
		Cautions: []api.Caution{}, Understood: map[string]api.Understood{}, Picture: pictureView(a.Picture)}
	for name, u := range a.Uncertainty {
		v.Uncertainty[name] = u
	}
	for path, u := range a.Understood {
		v.Understood[path] = api.Understood{Value: u.Value, Error: api.Some(u.Error), Unit: u.Unit}
	}
	for _, id := range a.Cautions {
		if k, ok := c.Caution(id); ok {
			v.Cautions = append(v.Cautions, api.Caution{Id: k.ID, Label: k.Label, Text: k.Text})
		}
	}
	text, err := json.Marshal(a.Result)
	if err != nil {
		return v, err
	}
	return v, json.Unmarshal(text, &v.Result)
}

func stepView(s calculator.Step) api.WorkingStep {
	v := api.WorkingStep{Text: s.Text(), Say: s.Say.String(), Formula: api.Some(s.Formula), Of: api.Each(s.Of, termView)}
	if s.Gives != nil {
		gives := termView(*s.Gives)
		v.Gives = &gives
	}
	return v
}

func termView(t calculator.Term) api.Term {
	return api.Term{Symbol: t.Symbol, Value: t.Value, Unit: t.Unit}
}

func pictureView(p *calculator.Picture) *api.Picture {
	if p == nil {
		return nil
	}
	axis := func(a calculator.Axis) api.Axis { return api.Axis{Label: a.Label, Unit: a.Unit} }
	return &api.Picture{Title: p.Title, X: axis(p.X), Y: axis(p.Y),
		Lines: api.Each(p.Lines, func(l calculator.Line) api.PictureLine {
			return api.PictureLine{Label: l.Label, Role: api.PictureRole(l.Role), X: l.X, Y: l.Y, Dots: l.Dots}
		}),
		Bands: api.Each(p.Bands, func(b calculator.Band) api.PictureBand {
			return api.PictureBand{Label: b.Label, Role: api.PictureRole(b.Role), Across: api.AxisName(b.Across), From: b.From,
				To: b.To}
		}),
		Limits: api.Each(p.Limits, func(l calculator.Limit) api.PictureLimit {
			return api.PictureLimit{Label: l.Label, Role: api.PictureRole(l.Role), Across: api.AxisName(l.Across), At: l.At}
		}),
		Marks: api.Each(p.Marks, func(m calculator.Mark) api.PictureMark {
			return api.PictureMark{Label: m.Label, X: m.X,
				Y: m.Y}
		}),
		Bars: api.Each(p.Bars, func(b calculator.Bar) api.PictureBar {
			return api.PictureBar{Label: b.Label, Value: b.Value, Best: b.Best}
		})}
}

func sumKeptView(s eventlog.StoredCalculation) api.StoredCalculation {
	return api.StoredCalculation{Name: s.Name, Asks: s.Asks, Given: s.Given, Units: api.UnitSystem(s.Units),
		Figures: api.Each(s.Figures, figureView),
		Words:   s.Words, By: s.From.By, At: s.From.At, EntryId: s.From.Entry}
}

func figureView(f eventlog.Figure) api.Figure {
	return api.Figure{
		Label: f.Label,
		Value: f.Value,
		Error: api.Some(f.Error),
		Unit:  api.Some(f.Unit),
		Words: api.Some(f.Words),
	}
}
