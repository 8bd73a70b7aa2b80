package job

import (
	"fmt"
	"math"
	"time"

	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/wetwork"
)

// WetworkItem is a piece of wet work with its plan worked out and what stands of it.
type WetworkItem struct {
	wetwork.Work
	Elapsed, Left time.Duration // at the time of the answer, by the program's own clock
	ClocksNow     []ClockNow    // of a flush at several places: those of the others
	Steps         []wetwork.Step
	Descaling     *wetwork.Descaling
	Change        *wetwork.CoolantChange
	Advice        []units.Sentence
	Balance       units.Sentence
	Gains         []wetwork.Gain
	GainMissing   string // why there is no before and after
	Missing       []string
}

// ClockNow is a place's timer at the time of the answer.
type ClockNow struct {
	wetwork.Clock
	Elapsed, Left time.Duration
}

// WetworkPage is a job's wet work, and what the planner takes for this engine.
type WetworkPage struct {
	Works    []WetworkItem
	Products []wetwork.Product
	Raw      []string
	// ScaleLowG and ScaleHighG are the scale told by the readings; nil where they do not tell, or the tubes are not
	// known.
	ScaleLowG, ScaleHighG *float64
	ScaleWhy              string
}

func (a *Jobs) wetworkPage(book eventlog.YardMethods, job *eventlog.Job, e record.Engine,
	j readings.Judged) WetworkPage {
	facts := record.FactsOf(e)
	page := WetworkPage{Products: book.Products, Raw: facts.RawStations(a.Catalogue)}
	page.ScaleLowG, page.ScaleHighG, page.ScaleWhy = scaleOf(e, j)
	now := a.Now()
	for _, w := range job.Wetwork.Works {
		page.Works = append(page.Works, a.work(w, job, e, page.Raw, now))
	}
	return page
}

func (a *Jobs) work(w wetwork.Work, job *eventlog.Job, e record.Engine, raw []string, now time.Time) WetworkItem {
	out := WetworkItem{Work: w, Elapsed: w.Elapsed(now), Left: w.Left(now), Missing: w.Missing()}
	for _, c := range w.Clocks {
		out.ClocksNow = append(out.ClocksNow, ClockNow{c, c.Elapsed(now), c.Left(now)})
	}
	switch {
	case w.Flush != nil:
		if steps, err := w.Flush.Plan(raw); err == nil { // the circuit may have been changed since
			out.Steps = steps
		}
	case w.Descale != nil:
		if d, err := w.Descale.Plan(); err == nil {
			out.Descaling, out.Steps = &d, d.Steps
			for i := len(w.Log) - 1; i >= 0; i-- {
				if b := w.Log[i].Bath; b != nil {
					out.Advice = b.Advise(d.MostCelsius)
					break
				}
			}
		}
	case w.Coolant != nil:
		if c, err := w.Coolant.Plan(); err == nil {
			out.Change, out.Steps = &c, c.Steps
			if w.OutL > 0 && w.InL > 0 {
				out.Balance = wetwork.Balance(w.OutL, w.InL, c.VolumeL)
			}
		}
	}
	if w.Kind != wetwork.CoolantJob {
		out.Gains, out.GainMissing = a.gains(w, job, e)
	}
	return out
}

// gained are the figures of a before and after.
var gained = []string{"ua", "raw-flow"}

// gains compares the job's rounds before a work with those after it, by the same model: what is wrong with the model is
// wrong with both, so that only the readings' own errors count.
func (a *Jobs) gains(w wetwork.Work, job *eventlog.Job, e record.Engine) ([]wetwork.Gain, string) {
	if len(w.Log) == 0 || w.Ended == nil {
		return nil, "told once it is done, from a round of readings before and one after"
	}
	var before, after []eventlog.Round
	for _, r := range job.Rounds {
		switch {
		case r.Order < w.First():
			before = append(before, r.Round)
		case r.Order > w.Last():
			after = append(after, r.Round)
		}
	}
	if len(before) == 0 || len(after) == 0 {
		return nil, map[bool]string{true: "no round was taken before it",
			false: "take a round now, at the speed of the one before"}[len(before) == 0]
	}
	if _, err := a.readings.Fitted(e, nil); err != nil {
		return nil, "the model cannot take this engine"
	}
	was, err := a.readings.Judged(e, nil, before)
	if err != nil {
		return nil, "the rounds before do not fit this engine any more"
	}
	is, err := a.readings.Judged(e, nil, after)
	if err != nil {
		return nil, "the rounds after do not fit this engine"
	}
	var list []wetwork.Gain
	for _, id := range gained {
		for i, f := range was.Figures {
			if g := is.Figures[i]; f.ID == id && f.Known && g.Known {
				list = append(list, wetwork.Compare(f.Label, f.Value, f.Own, g.Value, g.Own))
			}
		}
	}
	if len(list) == 0 {
		return nil, "these rounds do not tell flow or exchanger: read the exchanger, both sides, and the flow"
	}
	return list, ""
}

// scaleOf is the scale in the exchanger as a range, from the readings' conductance and the tubes.
func scaleOf(e record.Engine, j readings.Judged) (low, high *float64, why string) {
	t := e.Cooling.Tubes
	switch {
	case j.Health == nil:
		return nil, nil, "a round of readings tells how much: flow, and both sides of the exchanger"
	case t == nil:
		return nil, nil, "with the exchanger's tubes among its facts, the readings tell how much"
	}
	p, _, err := readings.FittedPlant(e, nil)
	if err != nil {
		return nil, nil, "the model cannot take this engine"
	}
	for _, f := range j.Health.Figures {
		if f.ID != "ua" || !f.Known {
			continue
		}
		area := float64(t.Tubes) * math.Pi * t.OuterMM * t.LengthMM * 1e-6 // m², over the outside
		grams := func(ua, conductivity float64) float64 {
			resistance := max(0, 1/max(ua, 0.05)-1) * area / p.CleanUA()
			_, g := wetwork.Layer{Resistance: resistance, Tubes: t.Tubes, InnerMM: t.InnerMM, OuterMM: t.OuterMM,
				LengthMM: t.LengthMM}.Scale(conductivity)
			return g
		}
		l, h := grams(f.Value+f.Error, wetwork.ScaleConductivityLow), grams(f.Value-f.Error, wetwork.ScaleConductivityHigh)
		return &l, &h, fmt.Sprintf("from the exchanger at %.0f ± %.0f %% of clean, and %d tubes", 100*f.Value, 100*f.Error,
			t.Tubes)
	}
	return nil, nil, "these readings do not tell the exchanger: read both its sides, under load"
}

// The next by policy, in months: common practice; a coolant's by its kind.
const descaleMonths = 24

// workLines are the finished works of a job as the engine's record keeps them.
func workLines(job *eventlog.Job) []record.WorkLine {
	list := []record.WorkLine{}
	for _, w := range job.Wetwork.Works {
		if w.Ended == nil {
			continue
		}
		line := record.WorkLine{Kind: w.Kind, Ended: w.Ended.UTC(), Hours: w.Hours,
			Minutes: math.Round(w.Elapsed(*w.Ended).Minutes()), Words: w.Words}
		due := func(months int, why string) {
			line.Due, line.Why = w.Ended.AddDate(0, months, 0).Format("2006-01-02"), why
		}
		switch {
		case w.Caustic():
			line.Product, line.Litres, line.Caustic = w.Descale.Product.Label, w.Descale.BathL, true
		case w.Descale != nil:
			line.Product, line.Litres = w.Descale.Product.Label, w.Descale.BathL
			due(descaleMonths, "two seasons, or when the exchanger is under 80 % of clean, whichever comes first")
		case w.Coolant != nil:
			kind := wetwork.Inhibitors[w.Coolant.Type]
			line.Product, line.Litres = kind.Label, w.InL
			due(12*kind.Years, fmt.Sprintf("%d years for %s coolant, the strength tested every year", kind.Years, kind.Label))
		}
		list = append(list, line)
	}
	return list
}

// withWetwork are an engine's dates with what its finished wet work says.
func withWetwork(d eventlog.Dates, jobs []record.Job) eventlog.Dates {
	later := func(was eventlog.Day, at time.Time) eventlog.Day {
		return max(was, eventlog.Day(at.Format("2006-01-02")))
	}
	for _, j := range jobs {
		for _, w := range j.Works {
			switch {
			case w.Kind == wetwork.Descale && !w.Caustic:
				d.Descaled = later(d.Descaled, w.Ended)
			case w.Kind == wetwork.CoolantJob:
				d.CoolantChanged = later(d.CoolantChanged, w.Ended)
			}
		}
	}
	return d
}
