package maintenance

import (
	"context"
	"runtime"
	"slices"
	"time"

	"golang.org/x/sync/errgroup"

	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
)

// ServicePage is an engine's record: its service history, its hours, its trends, and what is due.
type ServicePage struct {
	Craft   record.Craft
	Engine  record.Engine
	History []record.ServiceLine
	Hours   HoursPage
	Trends  []maintenance.TrendLine
	Due     []maintenance.Due
	Groups  []maintenance.Group
	Seasons []SeasonPage
	Clock   maintenance.RunningHours // its hours at any time
}

// HoursPage is what is known of an engine's hours.
type HoursPage struct {
	Confirmed, UseConfirmed bool
	Now, Error              float64
	PerYear                 float64
	ByMonth                 [12]float64 // a day
	Last                    *maintenance.MeterRead
	LastAt                  time.Time
	LastHours               float64
}

// SeasonPage is a season's list for an engine, with what is ticked in a year.
type SeasonPage struct {
	catalogue.SeasonList
	Year  int
	Steps []SeasonStep
}

// SeasonStep is a step of it; Done is nil while it is not ticked.
type SeasonStep struct {
	catalogue.SeasonStep
	Done *eventlog.Source
}

// today is the day on which the program is asked.
func (a *Schedule) today() time.Time { return a.Now().UTC().Truncate(24 * time.Hour) }

// ServiceRecord gives an engine's record.
func (a *Schedule) ServiceRecord(ctx context.Context, engine string) (*ServicePage, error) {
	r := a.Store.Read(ctx)
	e, ok, err := r.Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", engine)
	}
	p := &ServicePage{Engine: e}
	if p.Craft, _, err = r.Craft(e.CraftID); err != nil {
		return nil, err
	}
	if p.History, err = r.ServiceHistory(engine); err != nil {
		return nil, err
	}
	stand, err := a.states.Of(r, engine, nil)
	if err != nil {
		return nil, err
	}
	state, own, err := a.stateOf(r, e, p.History, stand.FollowUps())
	if err != nil {
		return nil, err
	}
	today := a.today()
	life := maintenance.RunningHoursOf(state.Meter)
	p.Clock, p.Hours = life, hoursPage(state, life, today)
	for _, t := range a.Catalogue.Trends {
		if u, ok := a.Catalogue.MaintenanceItem(t.Item); ok && u.On(e.Family, e.Circuit) {
			p.Trends = append(p.Trends, maintenance.TrendOf(t, state, life, today))
		}
	}
	p.Due = maintenance.ListBy(a.Catalogue, state, life, today)
	p.Groups = maintenance.Groups(p.Due, today)
	for _, s := range a.Catalogue.Seasons {
		p.Seasons = append(p.Seasons, seasonPage(s, e, own.Seasons, today.Year()))
	}
	return p, nil
}

// stateOf is what is known of an engine's maintenance, and what its own log says of it.
func (a *Schedule) stateOf(r record.Reader, e record.Engine, history []record.ServiceLine,
	left []maintenance.FollowUp) (maintenance.Engine, eventlog.EngineMaintenance, error) {
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: e.ID})
	own := eventlog.MaintenanceOf(a.Catalogue, entries)
	return MaintenanceStateOf(e, own, history, left), own, err
}

// Settled says of what jobs left behind on an engine what was done since.
func (a *Schedule) Settled(r record.Reader, e record.Engine, left []maintenance.FollowUp) ([]bool, error) {
	settled := make([]bool, len(left))
	if len(left) == 0 {
		return settled, nil
	}
	history, err := r.ServiceHistory(e.ID)
	if err != nil {
		return nil, err
	}
	state, _, err := a.stateOf(r, e, history, left)
	for i, f := range left {
		settled[i] = f.Settled(state)
	}
	return settled, err
}

// DoneOn lists the maintenance that was done on an engine, in its jobs and put down by hand.
func (a *Schedule) DoneOn(r record.Reader, e record.Engine) ([]maintenance.Done, error) {
	history, err := r.ServiceHistory(e.ID)
	if err != nil {
		return nil, err
	}
	state, _, err := a.stateOf(r, e, history, nil)
	return state.Done, err
}

// FollowUpWords are the label of what a job left behind, and what is to be done.
func (a *Schedule) FollowUpWords(f maintenance.FollowUp) (label, do string) {
	k, ok := a.Catalogue.FollowUp(f.Kind)
	if !ok {
		return f.What, f.What
	}
	return f.Words(k)
}

func hoursPage(s maintenance.Engine, life maintenance.RunningHours, today time.Time) HoursPage {
	var h HoursPage
	h.Confirmed, h.UseConfirmed = life.Confirmed()
	h.Now, h.Error, _ = life.At(today)
	h.PerYear, h.ByMonth = life.PerYear(), life.ByMonth()
	h.LastAt, h.LastHours, _ = life.Last()
	for i := range s.Meter {
		if m := &s.Meter[i]; h.Last == nil || !m.Day.Before(h.Last.Day) {
			h.Last = m
		}
	}
	return h
}

func seasonPage(s catalogue.SeasonList, e record.Engine, done []eventlog.SeasonDone, year int) SeasonPage {
	out := SeasonPage{SeasonList: s, Year: year}
	for _, step := range s.Steps {
		if !step.On(e.Family, e.Circuit) {
			continue
		}
		x := SeasonStep{SeasonStep: step}
		for i := range done {
			if d := &done[i]; d.List == s.ID && d.Step == step.ID && d.Year == year {
				x.Done = &d.From
			}
		}
		out.Steps = append(out.Steps, x)
	}
	return out
}

// NoteMaintenance adds a meter's reading, or something said of its maintenance, to an engine's log.
func (a *Schedule) NoteMaintenance(ctx context.Context, engine string, s record.Stamp, meter *eventlog.Meter,
	act *eventlog.MaintenanceAct) (*ServicePage, error) {
	kind := eventlog.MaintenanceNoted
	if meter != nil {
		kind = eventlog.Metered
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: engine}, kind, eventlog.Body{Meter: meter,
		Maintenance: act})
	err := a.Save(ctx, e, func(r record.Reader, entries []eventlog.Entry) error {
		facts, ok := eventlog.Engine(entries)
		switch {
		case !ok:
			return record.NotFound("engine", engine)
		case meter != nil:
			return eventlog.CheckMeter(entries, *meter, a.today())
		}
		stand, err := a.states.Of(r, engine, nil)
		if err != nil {
			return err
		}
		return eventlog.CheckMaintenance(a.Catalogue, facts, *act, stand.FollowUps(), a.today())
	})
	if err != nil {
		return nil, err
	}
	return a.ServiceRecord(ctx, engine)
}

// EngineDue is what is due on an engine of the yard.
type EngineDue struct {
	Craft  record.Craft
	Engine record.EngineLine
	Hours  float64
	Due    []maintenance.Due
	Groups []maintenance.Group
}

// DueInYard lists what is due in the yard up to a day ahead, engine by engine, the most pressing engine first. What
// nobody put down is told only of one engine by itself; nothing is due on a craft or an engine that is archived.
func (a *Schedule) DueInYard(ctx context.Context, within time.Duration) ([]EngineDue, error) {
	r := a.Store.Read(ctx)
	craft, err := r.AllCraft()
	if err != nil {
		return nil, err
	}
	byID := map[string]record.Craft{}
	for _, c := range craft {
		byID[c.ID] = c
	}
	engines, err := r.EngineLines()
	if err != nil {
		return nil, err
	}
	engines = slices.DeleteFunc(engines, func(e record.EngineLine) bool { return e.Archived })
	states, err := r.AllMaintenance()
	if err != nil {
		return nil, err
	}
	today := a.today()
	list := make([]EngineDue, len(engines))
	var side errgroup.Group // each engine by itself: nothing is shared
	side.SetLimit(runtime.GOMAXPROCS(0))
	for i, e := range engines {
		side.Go(func() error {
			known, err := a.dueOf(e, states[e.ID], today)
			list[i] = known.until(byID[e.CraftID], today.Add(within))
			return err
		})
	}
	if err := side.Wait(); err != nil {
		return nil, err
	}
	list = slices.DeleteFunc(list, func(d EngineDue) bool { return len(d.Due) == 0 || d.Craft.Archived })
	slices.SortStableFunc(list, func(a, b EngineDue) int { return a.Due[0].When.Compare(b.Due[0].When) })
	return list, nil
}

// cachedDue is an engine's due list of a day, and what it was computed from.
type cachedDue struct {
	line   record.EngineLine
	from   record.MaintenanceText
	state  maintenance.Engine // as read from it
	life   maintenance.RunningHours
	day    time.Time
	hours  float64
	due    []maintenance.Due
	groups []maintenance.Group
}

// dueOf computes an engine's due list, unless nothing has changed since it was last asked for; another day needs no
// more than the computation.
func (a *Schedule) dueOf(e record.EngineLine, from record.MaintenanceText, today time.Time) (*cachedDue, error) {
	k := &cachedDue{line: e, from: from, day: today}
	if from.State == "" { // of an older record that is being brought up to date
		return k, nil
	}
	if x, ok := a.lists.Load(e.ID); ok {
		if was, ok := x.(*cachedDue); ok && was.from == from && was.line == e {
			if was.day.Equal(today) {
				return was, nil
			}
			k.state, k.life = was.state, was.life
		}
	}
	if k.state.Family == "" {
		var err error
		if k.state, err = from.Read(e); err != nil {
			return k, err
		}
		k.life = maintenance.RunningHoursOf(k.state.Meter)
	}
	k.due = maintenance.ListBy(a.Catalogue, k.state, k.life, today)
	k.groups = maintenance.Groups(k.due, today)
	k.hours, _, _ = k.life.At(today)
	a.lists.Store(e.ID, k)
	return k, nil
}

// until is what of it is due up to a day.
func (k *cachedDue) until(craft record.Craft, until time.Time) EngineDue {
	out := EngineDue{Craft: craft, Engine: k.line, Hours: k.hours, Groups: k.groups}
	for _, d := range k.due {
		if d.State != maintenance.Unknown && !d.When.After(until) {
			out.Due = append(out.Due, d)
		}
	}
	return out
}
