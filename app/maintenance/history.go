package maintenance

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// Kinds of lines in an engine's service history.
const (
	ServiceOpened    = "opened"
	ServiceCause     = "cause"
	ServiceDone      = "done"
	ServiceMeasure   = "measure"
	ServiceHours     = "hours"
	ServiceRound     = "round"
	ServiceRun       = "run"
	ServiceWork      = "work"
	ServicePart      = "part"
	ServicePhoto     = "photo"
	ServiceRecording = "recording"
)

// ServiceLinesOf is what a job tells of its engine's service history.
func (a *Schedule) ServiceLinesOf(job *eventlog.Job, entries []eventlog.Entry, e record.Engine) []record.ServiceLine {
	w := &serviceWriter{app: a, job: job, engine: e}
	w.add(record.ServiceLine{At: job.OpenedAt, Kind: ServiceOpened, Label: job.Words})
	w.done(entries)
	w.measures()
	w.rest()
	sort.SliceStable(w.lines, func(i, k int) bool { return w.lines[i].At.Before(w.lines[k].At) })
	for i := range w.lines {
		w.lines[i].N = i
	}
	return w.lines
}

type serviceWriter struct {
	app    *Schedule
	job    *eventlog.Job
	engine record.Engine
	lines  []record.ServiceLine
}

func (w *serviceWriter) add(l record.ServiceLine) {
	l.EngineID, l.JobID, l.At = w.engine.ID, w.job.ID, l.At.UTC()
	w.lines = append(w.lines, l)
}

// done finds the maintenance that the job's entries did: checks that were made, items that went back new, wet work that
// ended.
func (w *serviceWriter) done(entries []eventlog.Entry) {
	c := w.app.Catalogue
	note := func(item string, at time.Time) { w.add(record.ServiceLine{At: at, Kind: ServiceDone, Item: item}) }
	for _, e := range eventlog.Standing(entries) {
		at, s := e.Happened(), e.Body.Teardown
		for _, u := range c.Maintenance {
			switch {
			case e.Kind == eventlog.Checked && e.Body.Outcome == eventlog.Done && slices.Contains(u.DoneBy.Checks, e.Body.Check):
				note(u.ID, at)
			case s != nil && s.Do == teardown.On && s.State == teardown.New && s.Count > 0 && slices.Contains(u.DoneBy.Items,
				s.Item):
				note(u.ID, at)
			}
		}
	}
	for _, x := range w.job.Wetwork.Works {
		if x.Ended == nil {
			continue
		}
		w.add(record.ServiceLine{At: *x.Ended, Kind: ServiceWork, Item: x.Kind, Label: x.Words})
		if x.Hours > 0 {
			w.add(record.ServiceLine{At: *x.Ended, Kind: ServiceHours, Value: x.Hours, Label: "at the end of wet work"})
		}
		for _, u := range c.Maintenance {
			if slices.Contains(u.DoneBy.Works, x.Kind) && !x.Caustic() {
				w.add(record.ServiceLine{At: *x.Ended, Kind: ServiceDone, Item: u.ID, Value: monthsOf(x, u.ID)})
			}
		}
	}
}

// monthsOf is how long what a work put in lasts, where that tells more than the usual interval: a coolant's inhibitor.
func monthsOf(w wetwork.Work, item string) float64 {
	if w.Coolant == nil || item != "coolant" {
		return 0
	}
	return float64(12 * wetwork.Inhibitors[w.Coolant.Type].Years)
}

// plateauError is how well a plateau is known, K: the gauge or probe.
const plateauError = 1.0

// measures are the figures of the engine's health, stretch by stretch: what was done between two rounds changes its.
func (w *serviceWriter) measures() {
	for _, rounds := range w.stretches() {
		at := rounds[len(rounds)-1].From.At
		list := make([]eventlog.Round, len(rounds))
		for i, r := range rounds {
			list[i] = r.Round
		}
		report, err := w.app.readings.Judged(w.engine, nil, list)
		if err != nil {
			continue
		}
		for _, f := range report.Figures {
			if f.Known && slices.Contains([]string{"ua", "raw-flow", "gauge"}, f.ID) {
				v := f.Value
				if f.ID == "gauge" {
					v = math.Abs(v) // either way
				}
				w.add(record.ServiceLine{At: at, Kind: ServiceMeasure, Item: f.ID, Value: v, Error: f.Own})
			}
		}
		w.approach(list, at)
	}
	for _, r := range w.job.Proving.Runs {
		if r.Warmed != nil && r.Warmed.Warmed != nil && r.Warmed.Warmed.PlateauC != nil &&
			r.Warmed.Warmed.Load == proving.Cruise {
			w.add(record.ServiceLine{At: r.Warmed.At, Kind: ServiceMeasure, Item: "plateau",
				Value: *r.Warmed.Warmed.PlateauC - w.engine.ThermostatC, Error: plateauError})
		}
	}
}

// approach is how much warmer the coolant leaves the exchanger than a healthy one would let it, in the hardest round.
func (w *serviceWriter) approach(rounds []eventlog.Round, at time.Time) {
	hardest := slices.MaxFunc(rounds, func(a, b eventlog.Round) int { return int(a.RPM - b.RPM) })
	x, err := w.app.readings.Expected(w.engine, nil, hardest)
	if err != nil || hardest.OutOfGear {
		return
	}
	for _, r := range hardest.Readings {
		if r.Station != "exchanger" || r.Side != "coolant" {
			continue
		}
		for _, s := range x.Should {
			if s.Station == "exchanger" && s.Side == "coolant" {
				w.add(record.ServiceLine{At: at, Kind: ServiceMeasure, Item: "approach", Value: r.Value - s.TempC,
					Error: math.Max(r.Error, 0.5)})
			}
		}
	}
}

// stretches puts the job's rounds together between whose takings nothing was opened or cleaned.
func (w *serviceWriter) stretches() (out [][]eventlog.RoundMade) {
	var cuts []int
	for _, r := range w.job.Proving.Runs {
		cuts = append(cuts, r.Order)
	}
	for _, x := range w.job.Wetwork.Works {
		if x.Ended != nil {
			cuts = append(cuts, x.Last())
		}
	}
	between := func(a, b int) bool { return slices.ContainsFunc(cuts, func(c int) bool { return a < c && c < b }) }
	for _, r := range w.job.Rounds {
		n := len(out)
		if n == 0 || between(out[n-1][len(out[n-1])-1].Order, r.Order) {
			out = append(out, nil)
			n++
		}
		out[n-1] = append(out[n-1], r)
	}
	return out
}

func (w *serviceWriter) rest() {
	for _, r := range w.job.Rounds {
		w.add(record.ServiceLine{At: r.From.At, Kind: ServiceRound, Label: r.Words, Value: r.RPM})
	}
	for _, r := range w.job.Proving.Runs {
		if r.Signed != nil {
			w.add(record.ServiceLine{At: r.Signed.At, Kind: ServiceRun, Item: r.Verdict(), Label: r.Signed.Words})
		}
	}
	for i, u := range w.job.Teardown.Used {
		w.add(record.ServiceLine{At: w.atOf(w.job.Teardown.UsedFrom[i]), Kind: ServicePart, Item: u.PartNumber,
			Label: u.Label, Value: u.Quantity})
	}
	for _, u := range w.job.Teardown.FittedNew() {
		w.add(record.ServiceLine{At: w.fittedAt(u.For), Kind: ServicePart, Label: u.Label, Value: u.Quantity})
	}
	for _, p := range w.job.Photos {
		w.add(record.ServiceLine{At: p.From.At, Kind: ServicePhoto, Item: p.From.Entry, Label: p.Words})
	}
	for _, r := range w.job.Recordings {
		w.add(record.ServiceLine{At: r.From.At, Kind: ServiceRecording, Label: r.Name, Value: r.Seconds})
		if r.Hours > 0 && r.Ended != nil {
			w.add(record.ServiceLine{At: *r.Ended, Kind: ServiceHours, Value: r.Hours,
				Label: "read off the gateway or the logger"})
		}
	}
	if c := w.job.Closing; c != nil {
		said := c.Words
		if c.OneOf {
			said = strings.TrimSpace("One of these, which is not known. " + said)
		}
		w.add(record.ServiceLine{At: c.From.At, Kind: ServiceCause, Item: strings.Join(c.Faults, " "), Label: said})
	}
}

// atOf is when an entry of the job's parts was kept; the job's begin where it is not told.
func (w *serviceWriter) atOf(entry string) time.Time {
	if at, ok := w.job.Teardown.UsedAt[entry]; ok {
		return at
	}
	return w.job.OpenedAt
}

// fittedAt is when an item of the job last went back new; the job's begin where it is not told.
func (w *serviceWriter) fittedAt(key string) time.Time {
	if at, ok := w.job.Teardown.FittedAt[key]; ok {
		return at
	}
	return w.job.OpenedAt
}

// SaveServiceLines rewrites what a job tells of its engine's service history, and its maintenance with it.
func (a *Schedule) SaveServiceLines(tx record.Tx, job string, lines []record.ServiceLine, e record.Engine) error {
	was, err := tx.ServiceLinesOf(job)
	if err != nil || slices.EqualFunc(was, lines, sameLine) {
		return err
	}
	if err := tx.SaveServiceLines(job, lines); err != nil {
		return err
	}
	if slices.EqualFunc(counting(was), counting(lines), sameLine) {
		return nil
	}
	return a.SaveMaintenance(tx, e)
}

func sameLine(a, b record.ServiceLine) bool {
	at := a.At.Equal(b.At)
	a.At, a.N, b.At, b.N = time.Time{}, 0, time.Time{}, 0
	return at && a == b
}

// counting are the lines that maintenance is computed from.
func counting(lines []record.ServiceLine) (out []record.ServiceLine) {
	for _, l := range lines {
		if l.Kind == ServiceDone || l.Kind == ServiceMeasure || l.Kind == ServiceHours {
			out = append(out, l)
		}
	}
	return out
}

// ForgetServiceLines takes away what a job said of its engine's service history.
func (a *Schedule) ForgetServiceLines(tx record.Tx, job string, e record.Engine) error {
	if err := tx.SaveServiceLines(job, nil); err != nil {
		return err
	}
	return a.SaveMaintenance(tx, e)
}

// SaveMaintenance puts together what an engine's maintenance is computed from.
func (a *Schedule) SaveMaintenance(tx record.Tx, e record.Engine) error {
	entries, err := tx.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: e.ID})
	if err != nil {
		return err
	}
	life, err := tx.ServiceHistory(e.ID)
	if err != nil {
		return err
	}
	stand, err := a.states.Fresh(tx, e.ID)
	if err != nil {
		return err
	}
	return tx.SaveMaintenance(record.MaintenanceState{EngineID: e.ID, State: MaintenanceStateOf(e,
		eventlog.MaintenanceOf(a.Catalogue, entries), life, stand.FollowUps()).Slim(a.Catalogue)})
}

// MaintenanceStateOf puts together what an engine's maintenance is computed from: what its own log says, and what its
// jobs tell of its service history and left behind.
func MaintenanceStateOf(e record.Engine, own eventlog.EngineMaintenance, life []record.ServiceLine,
	left []maintenance.FollowUp) maintenance.Engine {
	s := maintenance.Engine{Family: e.Family, Circuit: e.Circuit, Meter: own.Meter, Done: own.Done, PutOff: own.PutOff,
		Own: own.Own, FollowUps: left}
	for _, l := range life {
		switch l.Kind {
		case ServiceDone:
			s.Done = append(s.Done, maintenance.Done{Item: l.Item, At: l.At, Job: l.JobID, Months: int(l.Value)})
		case ServiceMeasure:
			s.Measures = append(s.Measures, maintenance.Measure{Kind: l.Item, At: l.At, Value: l.Value, Error: l.Error,
				Job: l.JobID})
		case ServiceHours:
			read := maintenance.MeterRead{Day: l.At.Truncate(24 * time.Hour), Hours: l.Value, Says: l.Label}
			// what was typed beside the work must not upset the meter's own readings
			if maintenance.CheckMeter(s.Meter, read) == nil {
				s.Meter = append(s.Meter, read)
			}
		}
	}
	s.Measures = append(s.Measures, derived(s, own.Topped)...)
	return s
}

// A litre is poured to a tenth; over fewer hours than these it tells nothing. Common practice.
const (
	toppedError      = 0.1
	leastToppedHours = 5.0
)

// derived are measures that follow from what was done and topped up: how long each impeller lasted, how much coolant
// goes.
func derived(s maintenance.Engine, topped []maintenance.Measure) (out []maintenance.Measure) {
	life := maintenance.RunningHoursOf(s.Meter)
	var fitted []time.Time
	for _, d := range s.Done {
		if d.Item == "impeller" {
			fitted = append(fitted, d.At)
		}
	}
	slices.SortFunc(fitted, time.Time.Compare)
	for i := 1; i < len(fitted); i++ {
		from, _, ok := life.At(fitted[i-1])
		to, err, _ := life.At(fitted[i])
		if ok && to > from {
			out = append(out, maintenance.Measure{Kind: "impeller-life", At: fitted[i], Value: math.Round(to - from),
				Error: err})
		}
	}
	slices.SortFunc(topped, func(a, b maintenance.Measure) int { return a.At.Compare(b.At) })
	for i := 1; i < len(topped); i++ {
		from, _, ok := life.At(topped[i-1].At)
		to, _, _ := life.At(topped[i].At)
		if ok && to-from >= leastToppedHours {
			v := 100 * topped[i].Value / (to - from)
			out = append(out, maintenance.Measure{Kind: "coolant-added", At: topped[i].At, Value: v, Error: toppedError * v})
		}
	}
	return out
}

// Rebuild puts together the service history and maintenance of engines that have none yet: those of an older version's
// record.
func (a *Schedule) Rebuild(ctx context.Context) error {
	list, err := a.Store.Read(ctx).EnginesWithoutMaintenance()
	if err != nil {
		return err
	}
	for _, e := range list {
		if err := a.Store.Write(ctx, func(tx record.Tx) error { return a.rebuildEngine(tx, e) }); err != nil {
			return fmt.Errorf("engine %s: %w", e.ID, err)
		}
	}
	return nil
}

func (a *Schedule) rebuildEngine(tx record.Tx, e record.Engine) error {
	jobs, err := tx.Jobs(e.ID)
	if err != nil {
		return err
	}
	for _, j := range jobs {
		entries, err := tx.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: j.ID})
		if err != nil {
			return err
		}
		if job, ok := eventlog.FoldJob(a.Catalogue, entries); ok {
			if err := tx.SaveServiceLines(j.ID, a.ServiceLinesOf(job, entries, e)); err != nil {
				return err
			}
		}
	}
	return a.SaveMaintenance(tx, e)
}
