package readings

import (
	"hevrin/core/calculator"
	"hevrin/core/plant"
	"hevrin/core/validation"
)

// WhatIf is what is left to an engine at an operation with faults, and the picture of it.
type WhatIf struct {
	plant.Limits
	Picture calculator.Picture
}

// curvePoints is how many speeds the picture shows.
const curvePoints = 24

// Limits finds what is left before the alarm; alarmC 0: where its own usually sounds.
func Limits(a PlantQuestion, op plant.Operation, faults []plant.Fault, alarmC float64) (*WhatIf, error) {
	p, err := a.plant()
	if err != nil {
		return nil, err
	}
	h, err := plant.Ail(faults...)
	if err != nil {
		return nil, err
	}
	if err := validation.Under("operation", p.Check(op)); err != nil {
		return nil, err
	}
	if alarmC == 0 {
		alarmC = p.AlarmC
	}
	l, err := p.Limits(op, h, alarmC)
	if err != nil {
		return nil, err
	}
	out := &WhatIf{Limits: l}
	out.Picture, err = overSpeed(p, op, h, l, len(faults) > 0)
	return out, err
}

// overSpeed draws the block over the speeds, as it is and in health.
func overSpeed(p plant.Plant, op plant.Operation, h plant.Health, l plant.Limits,
	ailing bool) (calculator.Picture, error) {
	pic := calculator.Picture{Title: "Block over speed", X: calculator.Axis{Label: "Speed", Unit: "rpm"},
		Y:      calculator.Axis{Label: "Leaving the block", Unit: "degC"},
		Limits: []calculator.Limit{{Across: "y", At: l.AlarmC, Label: "Alarm", Role: calculator.Stop}},
		Marks:  []calculator.Mark{{X: op.RPM, Y: l.Is.BlockC, Label: "Here"}}}
	curve := func(label string, role calculator.Role, h plant.Health) error {
		line := calculator.Line{Label: label, Role: role}
		low, high := 0.2*p.Engine.RatedRPM, 1.1*p.Engine.RatedRPM
		for i := range curvePoints {
			o := op
			o.RPM = low + (high-low)*float64(i)/(curvePoints-1)
			s, err := p.Steady(o, h)
			if err != nil {
				return err
			}
			line.X, line.Y = append(line.X, o.RPM), append(line.Y, s.BlockC)
		}
		pic.Lines = append(pic.Lines, line)
		return nil
	}
	if err := curve("In health", calculator.Should, plant.Well()); err != nil || !ailing {
		return pic, err
	}
	return pic, curve("With these faults", calculator.HotSide, h)
}
