package eventlog

import (
	"slices"
	"strings"
	"time"

	"hevrin/core/catalogue"
	"hevrin/core/maintenance"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Meter is what an engine's hour meter showed on a day. NewMeter: it was changed on that day, when the old one showed
// Old.
type Meter struct {
	Day      Day     `json:"day"`
	Hours    float64 `json:"hours"`
	NewMeter bool    `json:"new_meter,omitempty"`
	Old      float64 `json:"old_hours,omitempty"`
}

func (m Meter) read() maintenance.MeterRead {
	t, _ := m.Day.time()
	return maintenance.MeterRead{Day: t, Hours: m.Hours, NewMeter: m.NewMeter, Old: m.Old}
}

// What is done with a maintenance item.
const (
	MaintenanceDone      = "done"
	MaintenancePostponed = "put-off"
	MaintenanceInterval  = "interval"
	MaintenanceToppedUp  = "topped" // coolant added
	SeasonTick           = "tick"
	SeasonUntick         = "untick"
)

// MaintenanceAct is one thing said of an engine's maintenance. Which fields count depends on Do.
type MaintenanceAct struct {
	Do     string  `json:"do"`
	Item   string  `json:"item,omitempty"`
	Day    Day     `json:"day,omitempty"`    // on which it was done
	Until  Day     `json:"until,omitempty"`  // to which it is postponed
	Months int     `json:"months,omitempty"` // interval; 0 of both: the usual again
	Hours  float64 `json:"hours,omitempty"`
	Litres float64 `json:"litres,omitempty"`
	List   string  `json:"list,omitempty"` // of a season
	Year   int     `json:"year,omitempty"`
	Step   string  `json:"step,omitempty"`
	Words  string  `json:"words,omitempty"`
}

// Limits of what is said of maintenance.
const (
	mostMonths, mostInterval = 240, 50_000
	leastYear, mostYear      = 1950, 2200
	mostTopped               = 1000
)

// CheckMaintenance says what does not fit in an entry of an engine's maintenance; left is what its jobs left behind.
func CheckMaintenance(c *catalogue.Catalogue, e EngineFacts, a MaintenanceAct, left []maintenance.FollowUp,
	today time.Time) error {
	var wrong validation.Errors
	known := func() {
		if u, ok := c.MaintenanceItem(a.Item); !ok || !u.On(e.Family, e.Circuit) {
			wrong.Add("upkeep.item", a.Item, "a maintenance item of this engine", "this engine has no such maintenance")
		}
	}
	knownOrLeft := func() {
		if !slices.ContainsFunc(left, func(f maintenance.FollowUp) bool { return f.ID() == a.Item }) {
			known()
		}
	}
	onDay := func(field string, d Day, future bool) {
		t, ok := d.time()
		switch {
		case !ok:
			wrong.Add("upkeep."+field, string(d), "a date as 2026-05-04", "give the day")
		case future && !t.After(today):
			wrong.Add("upkeep."+field, string(d), "a day that is still to come", "put it off to a later day")
		case !future && t.After(today.AddDate(0, 0, 1)):
			wrong.Add("upkeep."+field, string(d), "today or before", "a day that is still to come cannot have been")
		}
	}
	switch a.Do {
	case MaintenanceDone:
		knownOrLeft()
		onDay("day", a.Day, false)
	case MaintenancePostponed:
		knownOrLeft()
		onDay("until", a.Until, true)
		if strings.TrimSpace(a.Words) == "" {
			wrong.Add("upkeep.words", "nothing", "a sentence", "say in a few words why it is postponed")
		}
	case MaintenanceInterval:
		known()
		if a.Months < 0 || a.Months > mostMonths || !(a.Hours >= 0 && a.Hours <= mostInterval) {
			wrong.Add("upkeep.months", units.Say("%d months, %g h", a.Months, a.Hours),
				units.Say("up to %d months, %d h; 0 of both: the usual", mostMonths, mostInterval), "look at the interval again")
		}
	case MaintenanceToppedUp:
		onDay("day", a.Day, false)
		if !(a.Litres > 0 && a.Litres <= mostTopped) {
			wrong.Add("upkeep.litres", a.Litres, units.Say("more than 0, up to %g", units.Of(1000, "L")),
				"say how much was added")
		}
	case SeasonTick, SeasonUntick:
		s, ok := c.Season(a.List)
		at := slices.IndexFunc(s.Steps, func(x catalogue.SeasonStep) bool { return x.ID == a.Step })
		if !ok || at < 0 || !s.Steps[at].On(e.Family, e.Circuit) {
			wrong.Add("upkeep.step", a.Step, "a step of the season's list for this engine", "there is no such step")
		}
		if a.Year < leastYear || a.Year > mostYear {
			wrong.Add("upkeep.year", a.Year, units.Say("%d to %d", leastYear, mostYear), "say which year's list it is")
		}
	default:
		wrong.Add("upkeep.do", a.Do, "done, put-off, interval, topped, tick, untick", "there is no such act")
	}
	return wrong.Err()
}

// CheckMeter says what keeps a meter's reading from being added to an engine's log.
func CheckMeter(entries []Entry, m Meter, today time.Time) error {
	t, ok := m.Day.time()
	var wrong validation.Errors
	switch {
	case !ok:
		wrong.Add("meter.day", string(m.Day), "a date as 2026-05-04", "give the day on which it was read")
	case t.After(today.AddDate(0, 0, 1)):
		wrong.Add("meter.day", string(m.Day), "today or before", "a day that is still to come cannot have been read")
	}
	if len(wrong) > 0 {
		return wrong
	}
	var kept []maintenance.MeterRead
	for _, e := range Standing(entries) {
		if e.Body.Meter != nil {
			kept = append(kept, e.Body.Meter.read())
		}
	}
	v := &checker{}
	v.under("meter", maintenance.CheckMeter(kept, m.read()))
	return v.wrong.Err()
}

// SeasonDone is a step of a season's list that was ticked.
type SeasonDone struct {
	List string
	Year int
	Step string
	From Source
}

// EngineMaintenance is what an engine's own log says of its maintenance.
type EngineMaintenance struct {
	Meter   []maintenance.MeterRead
	Done    []maintenance.Done
	PutOff  []maintenance.Postponement
	Own     map[string]maintenance.Interval
	Topped  []maintenance.Measure // litres
	Seasons []SeasonDone
}

// dated lists the maintenance that an engine's dates tell of.
var dated = map[string]func(Dates) Day{"impeller_fitted": func(d Dates) Day { return d.ImpellerFitted },
	"descaled":        func(d Dates) Day { return d.Descaled },
	"elbow_fitted":    func(d Dates) Day { return d.ElbowFitted },
	"coolant_changed": func(d Dates) Day { return d.CoolantChanged },
	"seacock_worked":  func(d Dates) Day { return d.SeacockWorked }}

// MaintenanceOf is what the standing entries of an engine's log make of its maintenance.
func MaintenanceOf(c *catalogue.Catalogue, entries []Entry) EngineMaintenance {
	u := EngineMaintenance{Own: map[string]maintenance.Interval{}}
	for _, e := range Standing(entries) {
		if m := e.Body.Meter; m != nil {
			r := m.read()
			r.Says = "read by " + e.By
			u.Meter = append(u.Meter, r)
		}
		if e.Body.Maintenance != nil {
			u.take(c, e, *e.Body.Maintenance)
		}
	}
	if facts, ok := Engine(entries); ok {
		for _, k := range c.Maintenance {
			if of, ok := dated[k.Date]; ok {
				if t, ok := of(facts.Dates).time(); ok {
					u.Done = append(u.Done, maintenance.Done{Item: k.ID, At: t, Says: "among its facts"})
				}
			}
		}
	}
	return u
}

func (u *EngineMaintenance) take(c *catalogue.Catalogue, e Entry, a MaintenanceAct) {
	at, _ := a.Day.time()
	switch a.Do {
	case MaintenanceDone:
		u.Done = append(u.Done, maintenance.Done{Item: a.Item, At: at, Says: strings.TrimSpace("put down by " + e.By + ". " +
			a.Words)})
	case MaintenancePostponed:
		until, _ := a.Until.time()
		u.PutOff = append(u.PutOff, maintenance.Postponement{Item: a.Item, Until: until, Why: a.Words, By: e.By,
			At: e.Happened()})
	case MaintenanceInterval:
		if u.Own[a.Item] = (maintenance.Interval{Months: a.Months, Hours: a.Hours, Says: a.Words}); a.Months == 0 &&
			a.Hours == 0 {
			delete(u.Own, a.Item)
		}
	case MaintenanceToppedUp:
		u.Topped = append(u.Topped, maintenance.Measure{Kind: "topped", At: at, Value: a.Litres})
	case SeasonTick:
		u.untick(a)
		u.Seasons = append(u.Seasons, SeasonDone{a.List, a.Year, a.Step, e.Source()})
		if s, ok := c.Season(a.List); ok {
			for _, x := range s.Steps {
				if x.ID == a.Step && x.Item != "" {
					u.Done = append(u.Done, maintenance.Done{Item: x.Item, At: e.Happened(), Says: s.Label})
				}
			}
		}
	case SeasonUntick:
		u.untick(a)
	}
}

func (u *EngineMaintenance) untick(a MaintenanceAct) {
	gone := func(s SeasonDone) bool { return s.List == a.List && s.Year == a.Year && s.Step == a.Step }
	for _, s := range u.Seasons {
		if gone(s) { // what it did is not done any more
			u.Done = slices.DeleteFunc(u.Done, func(d maintenance.Done) bool { return d.At.Equal(s.From.At) })
		}
	}
	u.Seasons = slices.DeleteFunc(u.Seasons, gone)
}
