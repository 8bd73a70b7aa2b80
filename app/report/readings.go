package report

import (
	"context"
	"fmt"
	"math"
	"strings"

	"hevrin/app/readings"
	"hevrin/app/recording"
	"hevrin/core/calculator"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/units"
)

// figures are before and after of the run; without a run, of wet work; else what the rounds say now.
func (b *builder) figures() {
	switch {
	case b.run != nil && len(b.run.Gains) > 0:
		for _, g := range b.run.Gains {
			b.r.Figures = append(b.r.Figures, FigureLine{Capital(g.Label), b.formatted(g.Before, g.BeforeError, g.Ratio),
				b.formatted(g.After, g.AfterError, g.Ratio)})
		}
		b.r.Against = b.run.Against
		return
	case b.page.Health == nil:
		return
	}
	for _, w := range b.page.Wetwork.Works {
		for _, g := range w.Gains {
			b.r.Figures = append(b.r.Figures, FigureLine{Capital(g.Label), b.formatted(g.Before, g.BeforeError, true),
				b.formatted(g.After, g.AfterError, true)})
		}
	}
	b.r.Against = b.page.Comparison.Words()
	if len(b.r.Figures) > 0 {
		return
	}
	for _, f := range b.page.Health.Figures {
		if f.Known {
			b.r.Figures = append(b.r.Figures, FigureLine{Capital(f.Label), b.formatted(f.Value, f.Error, f.Ratio), ""})
		}
	}
}

// formatted is a figure with its error, in words.
func (b *builder) formatted(v, e float64, ratio bool) string {
	if ratio {
		return fmt.Sprintf("%.0f ± %.0f %%", 100*v, math.Max(1, 100*e))
	}
	if math.Abs(v) < 0.05 { // a tenth is shown: nothing is neither more nor less
		return b.say("%.1f", units.Within(0, math.Max(0.1, e), "K"))
	}
	return strings.Replace(b.say("%+.1f", units.Within(v, math.Max(0.1, e), "K")), "-", "−", 1)
}

// path puts the round after beside the round before that was read most like it.
func (b *builder) path() {
	rounds := b.page.Rounds
	if len(rounds) == 0 {
		return
	}
	after := rounds[len(rounds)-1]
	for _, x := range rounds { // the hardest of the newest: under load a weakness shows
		if since := b.run == nil || x.Order > b.run.Order; since && x.RPM >= after.RPM && !x.OutOfGear {
			after = x
		}
	}
	var before *readings.RoundRead
	for i, x := range rounds {
		earlier := b.run != nil && x.Order < b.run.Order
		if earlier && (before == nil || math.Abs(x.RPM-after.RPM) <= math.Abs(before.RPM-after.RPM)) {
			before = &rounds[i]
		}
	}
	path := &Path{After: b.operation(after)}
	if before != nil {
		path.Before = b.operation(*before)
	}
	for _, s := range after.Should {
		point := PathPoint{Label: b.place(s.Station, s.Side), Side: s.Side, Should: s.TempC}
		own := 1.0
		if x, ok := readAt(after, s.Station, s.Side); ok {
			point.After, own = &x.Value, x.Error
		}
		if before != nil {
			if x, ok := readAt(*before, s.Station, s.Side); ok {
				point.Before = &x.Value
			}
		}
		if point.After == nil && point.Before == nil {
			continue
		}
		point.Spread = 2 * math.Hypot(s.SpreadK, own)
		path.Points = append(path.Points, point)
	}
	if len(path.Points) > 0 {
		b.r.Path = path
	}
}

func readAt(r readings.RoundRead, station, side string) (eventlog.Read, bool) {
	for _, x := range r.Readings {
		if x.Station == station && (x.Side == "" || x.Side == side) {
			return x, true
		}
	}
	return eventlog.Read{}, false
}

func (b *builder) operation(r readings.RoundRead) string {
	gear := ""
	if r.OutOfGear {
		gear = ", out of gear"
	}
	return b.say("%s, %.0f rev/min%s, sea %.0f", Day(r.From.At), r.RPM, gear, units.Of(r.SeaC, "degC"))
}

func (b *builder) station(id string) string {
	if s, ok := b.c.Station(id); ok {
		return s.Label
	}
	return id
}

// place is a station, with its side where it has two.
func (b *builder) place(id, side string) string {
	s, ok := b.c.Station(id)
	if !ok || len(s.Sides[b.page.Engine.Family]) < 2 {
		return b.station(id)
	}
	return s.Label + map[string]string{"raw": ", raw", "coolant": ", coolant"}[side]
}

// warmUp draws the run's recording, or else the job's last.
func (b *builder) warmUp(ctx context.Context, a Source) error {
	id := ""
	if n := len(b.page.Proving.Recordings); n > 0 {
		id = b.page.Proving.Recordings[n-1].ID
	}
	if b.run != nil && b.run.Warmed != nil && b.run.Warmed.Warmed != nil {
		id = b.run.Warmed.Warmed.Recording
	}
	if id == "" {
		return nil
	}
	p, err := a.Recording(ctx, b.page.Job.ID, id)
	if err != nil {
		return err
	}
	if picture, ok := b.warmUpPicture(p, b.page.Engine.ThermostatC); ok {
		b.r.Pictures = append(b.r.Pictures, picture)
	}
	return nil
}

// drawnPoints is as many as paper shows.
const drawnPoints = 400

func (b *builder) warmUpPicture(p *recording.RecordingPage, rating float64) (calculator.Picture, bool) {
	coolant, ok := proving.CoolantOf(p.Tracks)
	if !ok || coolant.Len() < 2 {
		return calculator.Picture{}, false
	}
	out := calculator.Picture{Title: "Warm-up, " + Day(p.From.At),
		X: calculator.Axis{Label: "From the start of the recording", Unit: "s"}, Y: calculator.Axis{Label: "Temperature",
			Unit: "degC"}}
	add := func(t proving.Track, label string, role calculator.Role) {
		thin := t.Thin(drawnPoints)
		out.Lines = append(out.Lines, calculator.Line{Label: label, Role: role, X: thin.Seconds, Y: thin.Values})
	}
	add(coolant, "Coolant", calculator.HotSide)
	for _, t := range p.Tracks {
		if t.Station == "elbow" && t.Len() > 1 {
			add(t, "Elbow", calculator.ColdSide)
		}
	}
	for _, l := range p.Limits {
		if l.Place == coolant.Place {
			out.Limits = append(out.Limits, calculator.Limit{Label: l.Label,
				Role:   map[bool]calculator.Role{true: calculator.Stop, false: calculator.Should}[l.Stop || l.At > rating],
				Across: "y", At: l.At})
		}
	}
	if x := p.Analysis; x.OpenedAtS != nil {
		out.Marks = append(out.Marks, calculator.Mark{Label: b.say("opens at %.0f", units.Of(*x.OpenedC, "degC")),
			X: *x.OpenedAtS,
			Y: *x.OpenedC})
	}
	if x := p.Analysis; x.PlateauC != nil && x.PlateauToS != nil {
		out.Marks = append(out.Marks, calculator.Mark{Label: b.say("stands at %.0f", units.Of(*x.PlateauC, "degC")),
			X: (*x.PlateauFromS + *x.PlateauToS) / 2, Y: *x.PlateauC})
	}
	return out, true
}
